## Words of every page

phases = { $count }-phase
and-more = and { $count } more
treat-as-live = treat as live
refused = Refused
not-saved = Not saved
rule-is = Rule: { $rule }.
network-revision = network revision
close = Close
name = Name
roles = Roles
password = Password
to-the-board = To the board
answer-yes = yes
answer-no = no
answer-unknown = unknown
working-head-step = Step
working-head-value = Value
working-head-how = How
working-head-source = Source
shock-largest = the largest over every voltage and kind of current
shock-exposed = Exposed when opened
shock-movable = { -limited(form: "One") }, movable conductor
shock-fixed = { -limited(form: "One") }, fixed circuit part
shock-lowest-class = lowest class whose highest use voltage covers each of them
glove-class = Glove class
pages-of-list = Pages of this list
pages-from-to = { $first } to { $last } of { $total }
pages-newer = Newer
pages-older = Older
shell-go-to-page = Go to the page
shell-home = Home
shell-live-now = Live at this moment
shell-adrift = No answer from Spinel since { $since }. What this page shows may be old and a { -permit } may have been stopped: ask before you act.
shell-jump = Jump to anything by tag, number or name
shell-jump-to = Jump to …
shell-order = Order of the work
shell-your-lock = Your lock hangs on the box of
shell-come-out = Come out now.
shell-nobody-goes-back = Nobody goes back until it is proved dead again.
rail-board = Board
rail-network = Network
rail-jobs = Jobs
rail-switching = Switching
rail-people = People
rail-records = Records
keys-of-screen = Keys of this screen
keys-jump = jump to anything by tag, number or name
keys-rail = the parts of the rail, in this order
keys-list = this list
keys-zoom = zoom in, out, fit the drawing
tap-stopped = [late]stopped[/] at [b]{ $step }[/] of { $steps }
tap-step = step [b]{ $step }[/] of { $steps }
tap-ran-out = [late]ran out { DURATION($minutes) } ago[/]
tap-left = [live]{ DURATION($minutes) }[/] left
tap-unreadable = What is in force cannot be read
tap-nothing = No { -permit } in force
tap-locks = [b]{ $count }[/] { $count ->
    [one] lock
   *[other] locks
} on
news-since = Since this page was drawn:
news-draw = Draw it anew
title-block = Where these figures come from
title-you = You
title-sign-out = Sign out
title-site = Site
title-network = Network
title-revision = Revision { $number }
title-published = published { $at }
title-positions = Positions
title-walked = walked down { $at }, { $by }
title-never-walked = never walked down
title-method = Method
title-practice = Practice
title-time = Site time, { $zone }
no-network-title = No network yet
no-network-question = What is connected to what?
no-network-answer = No network has been published here yet.
no-network-how = Every figure in Spinel comes from a network document: what feeds what, through which devices, in which enclosures. The first command prints its JSON Schema; write a document, check it, and publish it:
no-network-then = Then reload this page.
sign-in = Sign in
sign-in-who = Who are you?
sign-in-name = Sign-in name
demo-people = Demo people
demo-password = All invented. The password of each is

## Board

board-question = What is dangerous or late now?
board-ruler = most urgent first; site time, { $zone }
board-all-done = all { $steps } done
board-of = of { $steps }
board-over = { $unit } over
board-left = { $unit } left
board-from-to = from { $start } to { $end }
board-empty = { -permit(form: "Many") } with a running window stand here, the most urgent first.
to-the-jobs = Go to the jobs
purpose-of = { $purpose ->
    [switching] { -switching(form: "One") }
    [restoration] { -restoration(form: "One") }
   *[isolation] { -isolation(form: "One") }
} of
stands-late = [b]{ $what ->
    [stopped] Stopped
   *[other] It
}[/]: { $says }
stands-at-step = At step { $step }: { $says }{ $executing ->
    [yes] .
   *[no] { "" }
}
stands-reads = Reads { $name }.
due-late = ran out with [b]{ $count } on the roster[/]: { $names }. It is never extended: stop, make safe, account for everyone, hand it back.
due-suspended = [b]suspended[/]: { $because }
due-issued = issued, not yet accepted by { $name }. { $title }.
due-in-force = { $title }. In charge: { $name }, { $count } on the roster.
wall-label = Waiting and off normal
wall-waits = [b]{ $count }[/] { $count ->
    [one] waits
   *[other] wait
} for somebody
wall-waits-submitted = for an { -authorizer }
wall-waits-approved = to be issued
wall-waits-handed_back = to be closed
wall-locks = [b]{ $count }[/] { $count ->
    [one] lock hangs
   *[other] locks hang
}
wall-grounds = [b]{ $count }[/] { $count ->
    [one] { -ground }
   *[other] { -ground(form: "many") }
}
wall-blocked = { $part ->
    [shaft] shaft blocked
    [spring] spring blocked
    [gravity] weight blocked
    [pressure] pressure blocked
   *[other] blocked
  }
wall-by = by { $owner },
wall-others = by { $others }, paper with { $owner },
wall-unsure = may or may not hang
wall-for = for
wall-on-box = on the box of
wall-off-normal = [b]{ $count }[/] { $count ->
    [one] device is
   *[other] devices are
} off normal
wall-unknown = [b]{ $count }[/] of unknown position
wall-walk-down = Positions from the walk-down of { $at }, { $by }.
wall-no-walk-down = No walk-down is recorded: every position is unknown.
since-by = since { $at }, { $by }
absent = absent

## Network and hazard card

network-question = What is alive?
network-drawing = { -one_line_diagram(form: "One") }; a table of the same equipment follows
zoom = Zoom
zoom-out = Zoom out
zoom-in = Zoom in
zoom-fit = Fit
as-table = The same as a table
off-normal = off normal
network-head-tag = Tag
network-head-kind = Kind
network-head-name = Name
network-head-location = Location
network-head-voltage = Voltage
network-head-state = State
network-head-position = Position
card = Hazard card
card-empty = Select anything on the drawing: its hazard card opens here, with every figure's working.
card-question = May I work here live?
card-why = Why: { $why }.
card-inside = [b]At { N($distance_mm) } mm you stand inside the { -restricted } boundary[/] of { APPROACH($restricted_mm) } m.
card-plan = Approach plan to scale
card-wear = What to wear, and why
card-how-shock = How the shock figures were found
card-how-energy = How the energy was computed
card-how-boundary = How the boundary was computed (its worst case is another)
card-revision = Network revision { $number }, { $at }.
card-cases = Worst of { $count } cases that feed it, each at all strengths of supply: { LIST($cases, between: "; ") }.
card-not-in = Not fed in: { LIST($cases, between: "; ") }.
card-warning = Warning: { $what }.
card-shock = Shock: { $source }.
card-reach = Hands and tools reach
card-worst-of-all = not chosen: the worst of all sides
card-distance = Working distance, mm (305 to 5000)
card-start = Start a job here
sides-caption = What hands and tools reach, the worst first
sides-caption-one = What hands and tools reach, the worst first. This card shows one side only
sides-reached = Reached
sides-cleared = Cleared by
sides-alike = every side alike
or = or
sides-inside = inside the restricted boundary
sides-below = below the threshold
cap-rule = { N($seconds) } s rule
case-current = { $case }, { $current ->
    [reduced] reduced
   *[full] full
} current
avoid-contact = avoid contact
fact-highest-fault = Highest fault
fact-of-all-cases = bolted, at { VOLTS($voltage_v) }, of all cases
fact-bolted = Bolted fault
fact-worst-case = in the worst case; { $feeders }
fact-arcing = Arcing current
fact-reduced = reduced { $ka } kA
fact-clears = Clears in
fact-escape = { N($seconds) } s rule: escape is clear
fact-energy = Energy
fact-ppe = Arc-rated PPE
fact-gloves = Gloves
fact-class = Class { $glove }
fact-state = State
fact-fed-by = fed by
fact-may-feed = May feed it too
fact-inside = Also inside
fact-stored = Stored energy
fact-moved-by = Moved by
fact-asked-by-program = They are asked step by step, by a switching program.
fact-position = Position
fact-checked = checked, { $at }
fact-not-checked = not checked: unknown, { $at }
fact-locks = Locks
fact-nobody-operates = nobody operates it
fact-duty = Duty check
duty-passes = passes
duty-fails = FAILS
found-report = Report what you found here
found-it-is = It is
found-what = What did you see?
found-what-it-does = This suspends every { -permit } in force around it, stops every { -program } there and ends proofs. Wrong device operated? Report it, do not put it back.
found-record = Record what I found
correct-entry = Correct a wrong entry
correct-should-say = It should say
correct-why = Why the entry is wrong
correct-what-it-does = By a second person. It makes nothing checked, locked, proved or { -ground(form: "done") }: an open device stays unknown until checked.
correct-record = Record the correction

## Jobs

jobs-question = Which jobs are there?
jobs-answer = { $count } { $state ->
    [open] open { "" }
    [closed] closed { "" }
    [cancelled] cancelled { "" }
   *[all] { "" }
}{ $count ->
    [one] job
   *[other] jobs
}.
jobs-empty = Work on equipment starts as a job: what is to be done, where, with which task. Spinel then says whether it may be done live, and why.
jobs-first = Start the first one
job-start = Start a job
job-start-it = Start the job
job-new-question = What is to be done, and where?
job-equipment = Equipment
job-choose-tag = Choose by tag
job-what = What is to be done
job-task = Task
job-task-is = { $doors }. Arc more likely: { $likelihood }.
job-task-exempt = Exempt from a { -permit } as { $exemption }.
job-side-later = Which side and compartment your hands and tools reach is asked in the job. Until then the worst of all sides counts.
back-to-jobs = Back to the jobs
job-question = { $title }. May it be done live?
job-gone = The equipment is no longer in the network.
job-equipment-gone = equipment no longer in the network
job-stages = Stages
job-equipment-task = Equipment and task
job-task-reached = { $task }. { $doors }. Reached: { $reach }.
job-figures = Figures
job-voltages = { $volts } in what is opened.
job-highest = [b]{ VOLTS($voltage_v) } { UPPER($current) }[/], the highest voltage exposed
job-no-figure = No arc-flash figure: { $why }
job-energy = [live]{ ENERGY($energy_cal_cm2) } cal/cm²[/] at { N($distance_mm) } mm, { -arc_flash_boundary } [b]{ METRES($boundary_mm) } m[/] ({ FEET($boundary_mm) }), { $case }{ $device ->
    [none] { "" }
   *[other] , cleared by { $device }
}
job-worst-side = Worst of all sides: [live]{ $energy }[/]{ $boundary }. The better figure holds only while { LIST($needs, between: "; ") }.
job-worst-boundary = , { METRES($boundary_mm) } m
energy-amount = { ENERGY($energy_cal_cm2) } cal/cm²
job-inside-restricted = [b]At the working distance you stand inside the { -restricted } boundary.[/]
job-shock = { -limited(form: "One") } [b]{ APPROACH($limited_mm) } m[/], { -restricted } [b]{ $restricted }[/], gloves [b]{ $glove }[/]
shock-metres = { APPROACH($mm) } m
class-of = class { $glove }
none-made = none made
job-duty = Duty check: { $verdict }, { $reason }
job-card = Hazard card with the working
job-how = How
job-gear = [b]PPE:[/] { $level }, arc rating { $rating }; rubber insulating gloves { $glove }, { $over }. { CAPITAL1($items) }.
at-least = at least { ENERGY($energy_cal_cm2) } cal/cm²
none-required = none required
side-no-figure = No figure: { $why }{ $needs }
side-energy = { ENERGY($energy_cal_cm2) } cal/cm², boundary { METRES($boundary_mm) } m{ $device ->
    [none] { "" }
   *[other] , cleared by { $device }
}{ $needs }
side-volts = { VOLTS($voltage_v) } { UPPER($current) }{ $needs }
side-only-while = . Only while { LIST($needs, between: ". Only while ") }
job-side-unsettled = Not settled yet: the worst of all sides counts
job-why-live = Why would it have to be live?
job-statement = Anything to add, in your own words
job-decide = Decide
choose = Choose
what-comes-next = What comes next
job-program = { $purpose ->
    [practice] Practice
    [switching] { -switching(form: "One") }
    [restoration] { -restoration(form: "One") }
   *[isolation] { -isolation(form: "One") }
}
job-draft-isolation = Draft the { -isolation }
job-draft-switching = Draft the { -switching }
job-to-another-state = Switch to another state
job-prepare = Prepare the { -live_paper }
job-close-or-cancel = Close or cancel
job-close = Close this job
job-close-it = Close the job
job-cancel = Cancel this job
job-cancel-it = Cancel the job
circuit-changed = Was the circuit changed?
circuit-was-changed = The circuit was { $changed ->
    [yes] changed: drawings, study and labels are to be brought up to date
   *[no] not changed
}.
what-was-learnt = What was learnt
why = Why
job-asked-by = Asked for by { $by }. Last changed by { $changed_by }, { $at }.
its-ledger = Its ledger entries

## Permits

permit-question = { $title }. May the work go on?
window = { $start } to { $end }, { $zone }
not-in-force = Not in force
permit-frozen = Figures frozen from network revision { $number }
permit-working = Every figure's working
what-happened = What happened
drafted = Drafted
password-again = Your password again
from = From
until = Until
by = by
permit-edit = Edit the { -permit }
permit-edit-it = Edit it
permit-voids = (voids signatures)
permit-submit = Submit for approval
permit-approve = Approve and sign
permit-you-sign = Read all nine cells. You sign content
permit-refuse-it = Refuse it
permit-refuse = Refuse
permit-issue = Issue the { -permit }
permit-narrower = Site time, { $zone }. It may only be narrower than { $start } to { $end }.
hand-back = Hand back
how-left = How it was left: covers, tools, people
how-left-all = How it was left: covers, tools, people accounted for
permit-close = Close the { -permit }
ended-by = { $kind ->
    [refused] Refused
    [cancelled] Cancelled
   *[closed] Closed
} by { $name }, { $at }.
permit-copy = Copy into a new draft
permit-cancel-it = Cancel it
permit-cancel = Cancel the { -permit }
paper-and-pdf = Paper and PDF
permit-state = I sign these three
permit-statements = { $name }, your three statements
permit-accept = Accept: the work may start
permit-attend = I sign: I was briefed
permit-attend-means = You know the hazards, how help is called, and keep everybody behind { METRES($barricade_mm) } m. You have no other duty.
counted-in = Tools and loose parts that go in, counted
counted-out = Tools and loose parts that came out, counted ({ $count } went in)
counted-out-unknown = Tools and loose parts that came out, counted
counted-why = Where the difference is: what was built in, or taken out, or brought later
counted-amount = { $count } tools and loose parts counted in
counted-both = { $count } tools and loose parts counted out, { $went_in } went in: { $why }
counted-came = { $count } tools and loose parts counted out
permit-accept-waits = Waits for what is missing above.
permit-accept-means = For { $name }: the place was walked with the issuer, the { -barricade } stands at { METRES($barricade_mm) } m, gear was inspected today.
permit-resume = Record the cause; acceptance anew
permit-clear-for-switching = Its place is empty: switching may go on
trip-inspected = Inspected after the trip
trip-cause = What was inspected, what tripped it, what was done
trip-by = Inspected by, qualified for it
trip-record = Record inspection and cause
trip-what-it-does = Nothing closes it before this is recorded. Its position stays unknown until somebody checks it.
fact-tripped = Tripped
fact-tripped-until = nothing closes it before inspection and cause are recorded
permit-clear = The place is empty
permit-clear-left = How it was left: people and tools out, covers
permit-clear-seen-by = Seen empty by, where the { -in_charge } cannot be reached
permit-clear-nobody = Choose somebody
permit-cause = What was found, and why it may go on
permit-brief = Hold the briefing
permit-brief-later = Brief somebody who comes later
permit-brief-record = Record the briefing
briefing-covered = Covered
briefing-who = Who was there
briefing-special-now = What is special this time
briefing-planned = { $name } (planned)
permit-vouch = Sign: workers are { -qualification(form: "done") } and briefed
permit-suspend-it = Stop: suspend the work
permit-suspend = Suspend
cell-circuit = Circuit, equipment, place
cell-reached = Reached: { $reach }.
cell-fed-by = Fed by
cell-may-feed = May be fed back by
cell-inside = Also inside: { LIST($what, between: "; ") }.
cell-stored = Stored energy: { $what }.
cell-work = Work, step by step
cell-why = Why live
cell-answered-yes = Answered yes:
cell-practices = Safe practices
cell-special = Special:
cell-shock = Shock
cell-voltage = Voltage
cell-arc = Arc flash
cell-at = At { N($distance_mm) } mm
cell-distance = Distance
cell-boundary = Boundary
cell-worst-in = Worst in
cell-rating = Arc rating
cell-duty = [b]It fails its duty check:[/] { $reason }. It is not counted on to clear, and nobody operates it by hand.
cell-varied = Distance varied from the standard
cell-others = Keeping others out
cell-barricade = { -barricade(form: "One") } at
cell-barricade-rule = the larger of { -limited } and { -arc_flash_boundary }.
cell-attendants = { -attendant(form: "One") }, no other duty: { $names }.
cell-no-attendant = No { -attendant } named.
cell-briefing = Briefing
cell-briefed = { $name }, { $at }: { $people } people, { $points } points. { $special }.
cell-not-briefed = Not held yet. It follows the issue.
signs = Signatures
signs-on = on draft { $draft }, content
signs-void = Any change voids them.
not-yet = not yet
not-named = not named
sign-asks = Asks
sign-approves = { -authorizer(form: "One") }, approves
sign-issues = Coordinator, issues
sign-vouches = { -authorizer(form: "One") }: workers are { -qualification(form: "done") } and briefed
sign-accepts = { -in_charge(form: "One") }, accepts
sign-hands-back = { -in_charge(form: "One") }, hands back
sign-closes = Coordinator, closes
sign-an-authorizer = an { -authorizer }
sign-a-coordinator = a coordinator
sign-statements-missing = { $count } statements missing
distance-energy = [live]{ ENERGY($energy_cal_cm2) } cal/cm²[/] at { N($distance_mm) } mm. Arc rating { $rating }. The boundary stays { METRES($boundary_mm) } m.
distance-beyond = [live]{ ABOVE($energy_cal_cm2, $ceiling_cal_cm2) } cal/cm²[/] at { N($distance_mm) } mm: above the site's ceiling of { N($ceiling_cal_cm2) } cal/cm². The boundary stays { METRES($boundary_mm) } m.
worst-side-of-permit = Worst of all sides: [b]{ $energy }[/]{ $boundary }. The figure above holds only while { LIST($needs, between: "; ") }.
permit-editing = Edit { $number }
permit-edit-draft = Complete what Spinel could not know.
permit-edit-voids = [b]Saving will void its signatures.[/]
edit-steps = Work, step by step, one step a line
edit-practices = Safe work practices, one a line
edit-special = Special this time
edit-keep-out = How unqualified people are kept out ({ -barricade } at { METRES($barricade_mm) } m, the larger boundary)
edit-from = From (site time, { $zone })
edit-workers = Workers
edit-attendants = { -attendant(form: "Many") }, with no other duty
edit-distance = Working distance, mm (standard { N($standard_mm) })
edit-distance-why = Why another than the standard distance
save = Save
back-unsaved = Back without saving
working-of = Working of { $number }
working-question = Where does every figure come from?
working-frozen = Frozen from network revision { $number }
working-cases = worst of { $count } cases at all strengths of supply.
working-energy = Incident energy, { ENERGY($energy_cal_cm2) } cal/cm²: { $case }, { $current ->
    [reduced] reduced
   *[full] full
} current
working-varied = At { N($distance_mm) } mm, not at the enclosure's standard { N($standard_mm) } mm (network revision): { $reason }
working-boundary = { -arc_flash_boundary(form: "One") }, { METRES($boundary_mm) } m: { $case }, { $current ->
    [reduced] reduced
   *[full] full
} current
working-shock = Shock boundaries and gloves
working-barricade = { -barricade(form: "One") }, { METRES($barricade_mm) } m ({ $feet })
working-barricade-rule = The larger of { -limited } ({ METRES($limited_mm) } m) and { -arc_flash_boundary } ({ METRES($boundary_mm) } m); in feet and inches likewise, from the table's own inch column.
working-ppe = PPE
step-gear = cal/cm² at { N($distance_mm) } mm, boundary { METRES($boundary_mm) } m, { $rating }, gloves { $gloves }
step-rating = arc rating { ENERGY($energy_cal_cm2) } cal/cm²
step-no-rating = no arc rating
fact-feeder = { $tag } { FIX($ka, digits: 1) }
shock-mm = { N($mm) } mm
shock-restricted = restricted { $what }
shock-gloves = gloves class { $glove }
shock-both = { N($mm) } mm ({ $feet })
voltage-and-kind = { VOLTS($voltage_v) } { UPPER($current) }

## Records of permits and programs, and acts of the ledger

record = { CAPITAL1($kind) }{ $void ->
    [yes] { " " }(void)
   *[no] { "" }
}{ $step }
record-step = , step { $step }
record-because = : { $because }
record-action = : { $tag }, { $action }; operator { $operator }
record-readings = ; { $readings }
record-reading = { $pair } { N($volts) } V
record-instrument = ; { $instrument } read { N($reading_v) } V of { N($source_v) } V
record-people = : { $people }
record-lock = : lock { $lock }
record-submitted = submitted
record-approved = approved
record-refused = refused
record-issued = issued
record-briefed = briefed
record-stated = statements signed
record-attended = briefing signed
record-vouched = workers vouched for
record-accepted = accepted
record-place-cleared = place seen empty
record-suspended = suspended
record-resumed = resumed
record-handed-back = handed back
record-closed = closed
record-cancelled = cancelled
record-voided = signatures void
record-drafted = drafted
record-drafted-anew = drafted anew
record-edited = edited
record-expired = ran out
record-checked = checked
record-check-void = check void
record-released = released
record-started = started
record-stopped = stopped
record-confirmed = confirmed
record-step-confirmed = step confirmed
record-confirmation-refused = confirmation refused
record-deviation = deviation
record-abandoned = abandoned
record-done = done
record-failed = failed
record-fault = simulated fault
record-decided = decided
record-warned = people warned
record-operator-changed = { -operator } changed
record-operator-absent = { -operator } absent
record-box-taken = box taken
record-lock-hung = lock hung
record-lock-removed = lock removed
record-absent-lock-removed = absent lock removed
record-isolation-locks-freed = { -isolation } locks freed
record-owner-absent = owner absent
record-work-complete = work complete
act-of-permit = { -permit } { $what }
act-of-program = { -program } { $what }
act-of-practice = practice { $what }
act-of-job = job { $what }
act-corrected = entry corrected
act-found = found
act-inspected-after-a-trip = inspected after a trip
act-database-upgraded = database upgraded
act-network-published = network published
act-no-successor = no successor
act-owner-absent = owner absent
act-operator-absent = { -operator } absent
act-box-taken = box taken
act-personal-lock-hung = personal lock hung
act-personal-lock-removed = personal lock removed
act-absent-lock-removed = absent lock removed
act-isolation-locks-freed = { -isolation } locks freed
act-person-added = person added
act-qualification-recorded = { -qualification } recorded
act-restoration-not-drafted = { -restoration } not drafted
act-setting-changed = setting changed
act-signed-in = signed in
act-walk-down-recorded = walk-down recorded
act-work-complete = work complete
act-people-warned = people warned
act-signatures-voided = signatures void

## Switching

switching-question = Which { -switching_program(form: "many") } are there?
switching-answer = { $count } { $state ->
    [open] open { "" }
    [ended] ended { "" }
   *[all] { "" }
}{ $count ->
    [one] { -program }
   *[other] { -program(form: "many") }
}{ $stopped ->
    [0] { "" }
   *[other] , [late]{ $stopped } stopped[/]
}.
switching-open = Open
switching-ended = Ended
switching-all = All
switching-from = A { -program } is drafted from its
switching-job = job
switching-head-program = { -program(form: "One") }
switching-head-what = What
switching-head-equipment = Equipment
switching-head-job = Job
switching-head-state = State
switching-head-changed = Last changed
switching-practice-of = Practice of
switching-at-step = { $stopped ->
    [yes] [late]{ $what }[/]
   *[no] [b]{ $what }[/]
} at step { $step } of { $steps }
switching-none = No { -program } is { $state ->
    [open] open
   *[ended] ended
}.
switching-empty = Work that is done dead starts in its job: there Spinel drafts the { -isolation }, step by step, with everything that feeds the equipment.
of = of
for = for
under = under
since = since { $at }
step = Step
steps = Steps
content = Content
practice = PRACTICE
practice-means = Nothing here is real, nothing of it enters the record of the plant.
practice-mark = PRACTICE, nothing is real
program-question = { $title }. Is it safe as written?
program-drafted = Drafted from network revision { $number }. By { $by }; last changed by { $changed_by }, { $at }.
lacking = Lacking.
steps-caption = Steps of { $number }; choose one to see the { -one_line } after it
steps-head-step = Step
steps-head-location = Location, equipment type
steps-head-identity = Identity, voltage
steps-head-action = Action
steps-head-checks = Checks
steps-show = Step { $step }: show the state after it
steps-location = Location
steps-type = Equipment type
steps-identity = Identity
steps-action = Action
first-energizing = First { -energize }: a task of its own
first-energizing-stand = First { -energize } after work: standing clear, with the PPE of this task.
first-energizing-paper = First { -energize } after work, a task of its own.
live-figures = { $remote ->
    [yes] At the equipment, live:
   *[no] Live:
}
not-done = not done
in-order = in order
cut-off = Cut off:
cut-by = each by the first device on its way that is fit to isolate:
auxiliary-inside = Auxiliary supplies in the opened enclosure:
after-as-it-was = As it was, not the state now
after-preview = Preview, not the state now
after-now = The state now
after-step = after step { $step }:
before-first = before the first step
after-drawing = { -one_line_diagram(form: "One") } after step { $step }; the states are in the table of the network page
program-check = Check it
program-checked = Checked: every step is right
program-release-it = Release it
program-release = Release it to be executed once
program-start-it = Start it
program-start = Start: open the console
program-stop-it = Stop it
program-succeed = Draft its successor from the state as it is
program-practise = Practise it: nothing real
program-abandon-it = Abandon it
program-abandon = Abandon the { -program }
open-console = Open the console
stop = STOP
choose-small = choose
faults = Faults of the simulated plant
fault = Fault
fault-put-in = Put it in
fault-none = take all of them out
fault-at = At, by its tag
belongs-to-it = Belongs to it
box-of = The box of
box-absent = Absent: { $reason }, { $by }
box-work-complete = Work declared complete by { $by }.
box-empty = No personal lock hangs on it.
box-take = I take it over
box-remove = Take my lock off
box-hang = Hang my lock
box-lock-number = Number on your lock
box-complete-it = Declare the work complete
box-absent-title = A lock whose owner is absent
box-sign-half = Sign my half
box-whose = Whose
box-absent-why = What was done to reach them, and how you know they are not there
box-absent-two = The { -in_charge } and a coordinator, both, each signed in.
edit-step = Step { $step }: change it
edit-choose-step = Choose a step to change it
edit-voids-check = Any change voids the check.
edit-remark-it = A remark on it
edit-remark = Save the remark
edit-remark-label = Remark: read with the step, beside its words
step-remark = Remark: { $remark }
edit-move-it = To another place
edit-move = Move
edit-becomes = Becomes step
edit-take-out = Take step { $step } out
edit-add-it = Put a step in
edit-add = Put it in
edit-as-step = As step
edit-equipment = Equipment, by its tag
edit-do = Do
edit-redraft = Draft it anew from the state as it is

## Console

console-title = { $number } console
not-recorded = Not recorded
recorded-step-not-done = Recorded, the step is not done
stopped-big = STOPPED
console-at-step = At step { $step } of { $steps }:
console-nobody = Nobody operates anything.
console-not-this-step = Do not do this step.
console-stop-or-end = Stop the { -program } and clear it, or end it here: not as written.
console-back = Back to the { -program }
console-ended-done = All { $steps } steps are recorded.
console-ended-handed = All { $steps } steps are recorded. Handed over to { $name }, who takes the box over.
console-ended-abandoned = It ended after step { $step } of { $steps }.
console-another-operator = Another { -operator }
console-operates-now = From here on operates
console-record-change = Record the change
console-key-enter = the large button
console-key-s = stop
console-key-r = read again
console-key-n = not as written
console-people = reads [b]{ $director }[/] operates [b]{ $operator }[/]
nobody-yet = nobody yet
console-saved = Saved { $at }
console-nothing-yet = Nothing recorded yet
console-steps-by-place = Steps by place
console-done-at = done { $at }
console-no-step = No step is done yet
console-read-out = Read out word for word
phase-read-out = Read out
phase-repeated = Repeated back
phase-operate = Operated
phase-check = Looked at
phase-test = Tested
phase-locked = Locked
phase-off = Off
phase-done = Done
console-location-changed = changed, was { $was }
console-stand = Stand: { $where }.
console-after = After this step
console-after-of = { $tag } after this step
console-location-changes = Location changes
console-next = next
console-last-step = last step
console-then-done = Then the { -program } is done
console-stop-label = STOP, with a reason
console-why-stop = Why it stops
console-record-stop = Record the stop
console-not-as-written = Not as written
console-ends-here = ends here, says why
console-successor = This { -program } ends. Its successor is drafted from the state as it is.
console-what-is-not = What is not as written
console-device-otherwise = If a device stands otherwise than recorded: which
console-none-operated = none was operated
console-and-how = and how
console-end = End this { -program }
console-read-again = Read again
console-from-location = from the location
console-cause = What was found, and why it goes on at step { $step }
console-resume = Resume at step { $step }
console-records = records step { $step }{ $next ->
    [none] { "" }
    [check] { " " }and calls up the check
   *[step] { " " }and calls up step { $number }
}
console-third-checks = A third person checks.
console-third-who = Somebody else than { $director } and { $operator } signs in on another device and confirms this check.
console-confirm = Confirm.
console-director-confirms = { $director } directs this { -program } and confirms its steps on the own device.
instrument = Instrument
known-source-v = Known source, V
it-reads-v = It reads, V
handed-over-to = Handed over to
choose-in-charge = choose the { -in_charge }
simulated-detector = Simulated detector

## Records and papers

records-question = What was done, by whom, and is the record whole?
records-answer = { $count } entries.
records-answer-found = { $found } of { $count } entries.
records-answer-intact = { $count } entries, [b]every row is as it was recorded[/].
records-answer-astray = { $count } entries, [late]{ $found } { $found ->
    [1] thing is
   *[other] things are
  } not as recorded[/].
records-astray = Not as recorded
records-cannot-tell = What this cannot tell
records-more = { $count } more: spinel verify lists them all
act-rows-changed-outside = rows changed outside of Spinel
records-head = Head
records-subject = Subject begins with
records-who = Who
records-what = What
records-anybody = anybody
records-anything = anything
show = Show
records-verify = Verify the record
records-story = Its story
records-entries = Ledger entries
records-head-no = No.
records-head-when = When
records-head-who = Who
records-head-what = What
records-head-on = On
records-head-detail = Detail
records-hash = hash
records-previous = previous
records-older = Older entries
ledger-row-missing = row { $row } is missing
ledger-row-does-not-follow = it does not follow the row before it
ledger-row-was-changed = its content was changed
ledger-tail-was-cut = the printed count and head are not in this chain: a tail was cut
ledger-head-not-here = the printed head is not in this chain
records-none = No entry fits these filters.
records-all = Show all
find = Find
find-question = Where is “{ $text }”?
find-answer = { $count } found.
find-answer-first = The first { $count } of more.
find-more = More than { $count }: type more of it.
find-none = Nothing has “{ $text }” in its tag, number or name.
back = Back
paper = Paper
paper-needs = A PDF needs Debian packages that are not installed here. Install as root:
paper-print-works = Printing this page works without them.
paper-job = Job { $number }.
paper-job-title = Job { $number }: { $title }.
paper-window = { $start } to { $end }
paper-when-printed = when printed, { $at }. The live record decides: scan the code.
paper-the-permit = The { -permit }
paper-revision = Network revision { $number }
paper-ledger = Ledger when printed: { $count } entries, head
paper-practice = PRACTICE. Not for use in the plant.
paper-cut-off = Cut off: { $what }, by { $by }.
paper-inside = In the opened enclosure: { LIST($what, between: "; ") }.
paper-steps-done = , { $done } of { $steps } steps recorded,
paper-figures = Figures: IEEE 1584-2018; shock boundaries of { $source }; of the equipment live.
paper-written-by = Written by
paper-checked-by = Checked by
paper-released-by = Released by
paper-director = { -director(form: "One") }, reads
paper-head-step = Step
paper-head-location = Location
paper-head-type = Equipment type
paper-head-identity = Identity
paper-head-voltage = Voltage
paper-head-action = Action
paper-head-operated = Operated
paper-head-verified = Verified
paper-head-time = Time
paper-volts = { N($volts) } V
paper-pair = { $pair } { $volts }
paper-handover = To { $name }, { -in_charge }
paper-instrument = instrument { $instrument }
paper-source = source { $volts }
paper-reads = reads { $volts }
over-gloves = { -over_gloves } over

## What the script of the console says. A pair of braces stands for the number of the step.

script-read-out = I have read it out
script-read-out-small = word for word, from the location
script-repeated = It was repeated back, word for word
script-repeated-small = now it is done
script-unsaved = Not saved yet
script-unsaved-small = it is sent again until it is
script-not-saved = Not saved
script-sign-in = Step { $step } is not saved: the server wants you to sign in again, in another tab. It is kept here and sent again.
script-not-yours = Step { $step } was confirmed on this device by somebody who is not signed in here now, and is not saved. They sign in here and it is sent; until then nothing is confirmed on this device.
script-no-answer = Step { $step } is not saved: no answer from Spinel. It is kept on this device and sent again every 3 seconds. Do not go on to the next step.
records-nothing-more = nothing more

## Instruments, telling by name, what goes dark

instruments = Instruments
instruments-what-was-done = What was found, and what was done about it
instrument-choose = choose one
instrument-none = No instrument of this kind is listed. The coordinator adds it:
on-its-proving-unit = On its proving unit
lock-number = Number on the lock
told-who = { $name }: who answered
watch-for = { $tag } loses its supply: watch or substitute in place
goes-dark = Loses its supply:
goes-dark-nothing = Nothing that is recorded as fed loses its supply.
dark-tell = tell { $notify }
dark-critical = needs a watch or a substitute first
dark-at-most = at most { N($minutes) } min
record-indication = { $pair } { $said }
record-detector = ; { $instrument } { $said } on its proving unit
record-induced = ; steady and small, as a parallel line induces it: it may be grounded, no more
record-said-by = ; { $who } said so
paper-said-by = said by { $who }
said-by = Who of theirs says so
their-paper = Number of their paper
record-answered = ; { $name }: { $who } answered
record-watched = ; { $tag }: { $watch }
paper-indicates-or-not = indicates / does not
paper-on-its-unit = on its proving unit: { $said }
paper-lock = lock { $lock }
paper-answered = { $name }, answered by { $who }
paper-watched = { $tag }, watch or substitute: { $watch }
recorded-barricade = has its { -barricade } as written
recorded-access = is opened or closed as written
record-instrument-failed = instrument failed its check
console-stands-for = It has stood at this step for { $minutes } min. Go on, or stop it and make it safe.
recorded-instrument = The instrument shows its source
emergency-opened = It was opened in an emergency
emergency-by = Who opened it
emergency-when = When ({ $zone })
emergency-why = Why, and what was seen
emergency-what-it-does = It is never asked whether that was allowed. Its position counts as unknown until it is checked; { -permit(form: "many") } and { -program(form: "many") } around it stop, and people there are warned.
emergency-record = Record the opening
operation-once = Operate it once, outside a { -program }
operation-to = Bring it to
operation-operator = Who operates it
operation-informed = Who of those affected was told, and answered
operation-dark = Opening it takes the supply from { $tags }.
operation-what = You direct, another person operates, both qualified. What is offered here keeps every rule as things stand: read it out, have it repeated back and done, then record it. What takes more than one operation is a { -program }. Stand: { $where }. Live:
operation-record = It was operated: record it
look-at = Look at it
look-seen = It is seen to be
look-what = Somebody qualified looked, blade or indicator. Where the record says the same its position is known from now on; anything else is a find that stops what is around it.
look-record = Record what I saw
scenario-draw = Draw a scenario by chance
scenario-shelf = On the shelf for this { -program }: { $kinds }. Which one it is, is told at the end.
scenario-draw-it = Draw it
scenario-seed = Seed: the same one gives the same scenario
scenario-is-drawn = A scenario is drawn, seed { $seed }. It is told at the end.
practice-seen = You see:
debrief = What was there, and what was recorded
debrief-seed = drawn by seed { $seed }
debrief-no-fault = The simulated plant had no fault.
debrief-head-step = Step
debrief-head-action = Action
debrief-head-shown = The plant showed
debrief-head-recorded = Recorded
debrief-head-outcome = Outcome
debrief-confirmed = as written
debrief-failed = failed here
debrief-stopped = stopped here, rightly

## switching/ask.html

ask-title = Switch to another state
ask-question = { $title }. What shall stand where?
ask-which-state = Which state shall it go to?
ask-means = Say what shall stand otherwise. The order of the operations is found so that every rule is kept and least is without supply; what tripped is inspected first, on its card.
ask-as-in = As in “{ $name }”: { $count ->
    [one] one device moves
   *[other] { $count } devices move
}
ask-head-equipment = Device
ask-head-stands = Stands
ask-head-wanted = Shall be
ask-not-checked = , not checked
ask-wanted = { $tag } shall be
ask-stays = as it is
goal-of = { $tag } { $to }

## switching/transfers.html

transfers-title = Keep more of it on
transfers-question = What can stay on while { $tag } is isolated?
transfers-answer = { $dark ->
    [0] Nothing loses its supply.
   *[other] { $count ->
        [0] No transfer keeps more on than none.
        [one] One transfer keeps more on than none.
       *[other] { $count } transfers keep more on than none.
    }
}
transfers-none = No transfer
transfers-as-drafted = The isolation as it is drafted.
transfers-steps = { $steps } steps, before the isolation, and a way back after it.
transfers-stays-on = Stays on by it
transfers-off-meanwhile = Off while it is made
transfers-off-all-along = Off all along
transfers-nothing = Nothing.
transfers-draft-it = Draft this { -switching }
transfers-means = Each is a program of its own: checked, released and executed first; then the isolation is drafted anew from the state that it leaves. Load is not computed: whether the remaining source carries it is for you to say.
transfers-see = See what can stay on
off-from-step = off from step { $step } on
off-between = off from step { $step } to { $until }, about { FIX($minutes, digits: 0) } min
switchings-the-way-back-is-drafted = The way back is drafted.
program-way-back = Draft the way back
goes-to = Goes to:

phased-is = Phases and rotation are
phased-as_before = as they were
phased-not_taken_apart = not taken apart
phased-otherwise = not as they were
phased-how = How it was checked
record-phased = ; phases { $said }: { $how }

## switching/_relief.html

relief-take-over = I take over, and sign
relief-to-you = { $by } hands over to you { $part ->
    [director] as { -director }
    [operator] as { -operator }
    [locks] the own isolation locks
   *[in_charge] as { -in_charge }
}. Read where it stands, and look at what is locked, before you sign.
relief-waits = { $by } hands over { $part ->
    [director] as { -director }
    [operator] as { -operator }
    [locks] the own isolation locks
   *[in_charge] as { -in_charge }
} to { $to }, who has not signed yet.
relief-lock-beside = Number of your lock on { $tag }, hung beside the old one
relief-withdraw = Take the relief back
relief-hand-over = Hand over to somebody else
relief-sign = I hand over, and sign
relief-what = What is handed over
relief-to = To
record-relief-offered = relief offered
record-relieved = relieved
record-relief-withdrawn = relief taken back

low-instrument = Instrument of low impedance
low-before = It read before, V
low-after = It read after, V
low-reads = { $pair } again, V
low-stands = The voltage stands: stop
record-low = ; again with { $instrument }: { $readings }
record-read-high = voltage read, to be read again

## people/people.html

people = People
people-question = Who may do what, until when?
people-answer = [b]{ $here }[/] { $here ->
    [one] person may sign in
   *[other] people may sign in
  }. { $soon ->
    [0] Nobody’s qualification ends within a month
    [one] [b]One[/] has a qualification that ends within a month
   *[other] [b]{ $soon }[/] have a qualification that ends within a month
  }.
people-cap = Roles say what somebody may do here; nobody is put to work without a qualification for the task and the equipment.
people-head-name = Name
people-head-roles = Roles
people-head-qualified = Qualifications
people-head-holds = Locks and { -program(form: "many") } in their name
people-head-change = Change
people-has-left = has left
people-no-role = no role: reads only
people-qualified = { $count ->
    [0] none
   *[other] { $count } in date
}
people-ends = the first ends on { $day }
people-left-holding = left with this in their name: the absent-owner procedure takes it off
people-roles = Roles
people-roles-save = Save the roles
people-roles-changed = The roles are changed.
people-password-make = Make a new password
people-password-cap = For somebody who has lost theirs. It is shown once, ends every session of theirs, and must be changed at the next sign-in. Tell it to them in person.
people-password-is = The new password of { $login } is { $password }. It is shown this once.
people-leave-why = Why they leave
people-leave-now = Has left: sign out everywhere
people-leave-cap = Signed out everywhere at once. Locks in their name stay until the absent-owner procedure takes them off.
people-left = Signed out everywhere; nobody signs in with this account any more.
people-return-why = Why they come back
people-return-now = May sign in again
people-returned = They may sign in again, with the roles that they had.
people-add = Add somebody
people-added = Added. The password is theirs to change at the first sign-in.
people-phone = Telephone
people-first-password = First password, changed at the first sign-in

## people/account.html

account = Your account
account-question = Where are you signed in, { $name }?
account-answer = You are signed in at [b]{ $count }[/] { $count ->
    [one] place
   *[other] places
  }.
account-must = Somebody else has set your password. Change it first.
account-places = Where you are signed in
account-head-device = Device, as it calls itself
account-head-since = Since
account-head-seen = Last sign of life
account-head-end = End
account-unknown = says nothing of itself
account-this = this one
account-sign-out = Sign out here
account-end = Sign out there
account-session-ended = Signed out there.
account-password = Your password
account-old = The present one
account-new = The new one
account-new-cap = At least { $least } signs, not your name, not one that everybody takes. Every other session of yours ends.
account-change = Change it
account-password-changed = Your password is changed; you are signed out everywhere else.
title-account = Your account
act-clock-went-back = clock went back
act-clock-jumped = clock jumped
act-clock-acknowledged = clock acknowledged
board-clock-stops = Until a coordinator says that it is right, no permit is approved, issued, accepted or resumed. Stopping, reporting and switching go on.
board-clock-compared = What it was compared with
board-clock-right = The clock is right now
papers-coming = The paper is being drawn.
papers-coming-why = Others have asked for papers before; this page shows it as soon as it is there.
story-of = Story of { $name }
story-question = What happened, and can this record be believed?
story-apart = Different people where they must be
story-different = different people
story-both = { $names }: did both
story-none-apart = No two acts on it that different people must do.
story-raw = Its entries alone
story-part-asked = Asked
story-part-allowed = Allowed
story-part-told = Told
story-part-worked = Worked
story-part-over = Over
story-whole = [b]Everything was as it was recorded[/] when it was last compared, { $hours ->
    [0] less than an hour ago
    [1] an hour ago
   *[other] { $hours } hours ago
  }.
story-astray = [late]{ $astray } { $astray ->
    [1] thing in this database is
   *[other] things in this database are
  } not as recorded[/]: verify before you believe it.
story-not-compared = [unk]Nobody has compared this database with its ledger yet[/]: verify before you believe it.
story-witnessed = Entries up to { $anchored } of { $count } are anchored outside the database. Of the rest only this database and its keys can tell.
story-witnessed-all = All { $count } entries are anchored outside the database.
story-not-witnessed = No entry is anchored outside the database: an old copy put in its place would not be found.
story-yes = yes
story-no = no
story-other = : { $act }; { $says }
story-job-started = started the job: { $title }.
story-job-decided = answered what the decision asks: { LOWERFIRST($outcome) }. “{ $statement }”
story-job-closed = closed the job. Circuit changed: { $circuit_changed }. Learnt: “{ $learnt }”
story-permit-drafted = drafted it.
story-permit-edited = wrote it: content { $content_hash }.
story-permit-submitted = asked for approval of content { $content_hash }.
story-permit-approved = approved content { $content_hash }, with the password again.
story-permit-refused = refused it: “{ $because }”
story-permit-issued = issued it for { $start } to { $end }, with the password again.
story-permit-briefed = briefed { LIST($attended) } on { $covered } points. “{ $special }”
story-permit-stated = signed the own statements.
story-permit-attended = signed that they were briefed.
story-permit-vouched = signed that the workers are { -qualification(form: "done") } and briefed.
story-permit-accepted = accepted content { $content_hash }. Work could start.
story-permit-suspended = stopped the work: “{ $because }”
story-permit-resumed = let it go on: “{ $because }”
story-permit-handed-back = handed it back: “{ $left }”
story-permit-closed = closed it. Circuit changed: { $circuit_changed }. Learnt: “{ $learnt }”
story-permit-cancelled = cancelled it: “{ $because }”
story-permit-expired = noted that its window ended at { $window_end }.
story-signatures-voided = made its signatures void: “{ $because }”
story-program-drafted = drafted it, { $purpose ->
    [switching] { -switching }
    [restoration] { -restoration }
   *[isolation] { -isolation }
  }.
story-program-edited = changed it: { $what }. Content { $content_hash }.
story-program-checked = checked content { $content_hash }.
story-program-released = released content { $content_hash }.
story-program-started = began it, with { $operator } operating.
story-program-step-confirmed = confirmed step { $step }: { $identity }, { $action }. Operated by { $operator }.
story-program-stopped = stopped it: “{ $because }”
story-program-resumed = went on: “{ $because }”
story-program-done = brought it to its end.
story-box-taken = took over the box.
story-personal-lock-hung = hung the own lock { $lock } on the box.
story-personal-lock-removed = took the own lock { $lock } off.
story-owner-absent = said that { $owner } cannot be reached: “{ $reason }”
story-work-complete = declared the work complete.
settings = Settings
settings-question = What does this site decide for itself?
settings-answer = Each with its reason; what was signed before stays as it was signed.
settings-by = { $by }, { $at }:
settings-as-shipped = As Spinel ships.
settings-new = New value, { $unit }
settings-new-choice = New choice
settings-why = Why
settings-change = Decide so
settings-changed = The setting is changed.
setting-ceiling-cal-cm2 = Ceiling of incident energy
why-ceiling-cal-cm2 = Above it nobody works or tests live here. The lower of it and the practice's own holds.
setting-longest-window-h = Longest window
why-longest-window-h = No { -permit } is asked for over a longer time.
setting-longest-stand-min = Longest stand at a step
why-longest-stand-min = A { -program } that stands at a step for longer is late on board and console.
setting-step-min = Time of a step
why-step-min = Where it is said for how long something is off, so much is counted for each step.
setting-checks-by = Who confirms check steps
why-checks-by = Whoever looks at a device after it was operated: its director, or a third person who is { -qualification(form: "done") } for it.
setting-is-director = the director
setting-is-third-person = a third person
people-settings = What the site decides for itself
settings-to-change = Change it
waits-for-you = Waits for you:
waits-approve = approve or refuse
waits-issue = issue
waits-brief = brief everybody
waits-state = your statements
waits-attend = sign for the briefing
waits-vouch = sign for the workers
waits-accept = accept
waits-hand-back = hand back, it has run out
waits-resume = find out why it stopped
waits-close = close
waits-check = check
waits-release = release
waits-start = begin

## web/studies.py, network/study.html

study-table = Study as a table
study-table-is = Figures of every location and side, in the cases of the document (CSV):
study-rows-worst = the worst case of each
study-rows-every = every case
study-of-revision = Every location of revision { $number } in the cases of its document
study-stage-waits = It waits: other work is before it.
study-stage-figures = Currents and energies of all places are being computed.
study-stage-rows = Its rows are being written.
study-stage-there = The table is there, and comes by itself.
study-take = Take the table (CSV)
study-coming-why = It is computed beside the server, and nobody waits for it. This page gives it to you as soon as it is there.

## web/revisions.py, actions/revisions.py, network/revisions.html, compare.html, _moved.html

kind-of-record-draft-of-the-network = draft of the network
revisions = Revisions of the network
revisions-question = Which networks were published, and what would the next one do?
revisions-answer = { $count ->
    [0] None is published yet.
    [one] [b]One revision[/] is published.
   *[other] [b]{ $count } revisions[/] are published.
}{ $drafts ->
    [0] { "" }
    [one] { " " }One document is being looked at.
   *[other] { " " }{ $drafts } documents are being looked at.
}
revisions-not-accepted = { $count ->
    [one] Not accepted: one thing is wrong. Nothing was kept.
   *[other] Not accepted: { $count } things are wrong. Nothing was kept.
}
revisions-problem-element = Element
revisions-problem-field = Field
revisions-problem-value = Value
revisions-problem-allowed = What is allowed
revisions-head-number = Revision
revisions-head-published = Published
revisions-head-by = By
revisions-head-note = What was said of it
revisions-head-document = Document
revisions-differs = What differs from { $number }
revisions-none = None yet. Hand in a document below.
revisions-old = From revision
revisions-new = To revision
revisions-compare = Compare
revisions-looked-at = Documents that are being looked at
revisions-another = Look at a document before it is published
revisions-file = Network document (JSON)
revisions-file-cap = Nothing is published by this: you are shown what differs, which figures move, and whom it would stop.
revisions-look = Look at it
revisions-a-text-in-utf-8 = a text in UTF-8
revisions-published = Published as revision { $number }.
revisions-published-and-stopped = Published as revision { $number }. Stopped or suspended: { LIST($touched) }.
compare = What differs
compare-question = From revision { $old } to revision { $new }: what differs?
compare-question-draft = This document against { $old ->
    [0] nothing yet
   *[other] revision { $old }
}. What would publishing it do?
verdict-compared = { $count ->
    [0] Nothing differs.
    [one] [b]One record[/] differs.
   *[other] [b]{ $count } records[/] differ.
}
verdict-compared-rises = { $count ->
    [0] No figure of the study rises.
    [one] A figure [late]rises[/] at one place.
   *[other] Figures [late]rise[/] at { $count } places.
}
verdict-compared-stops = { $held ->
    [0] { "" }
    [one] Publishing it [late]stops one[/] under way.
   *[other] Publishing it [late]stops { $held }[/] under way.
}{ $void ->
    [0] { "" }
    [one] { " " }Signatures of one more are void.
   *[other] { " " }Signatures of { $void } more are void.
}
compare-changes = What changes
compare-group-site = The site
compare-group-elements = Equipment
compare-group-enclosures = Enclosures
compare-group-nodes = Nodes
compare-group-cases = Cases
compare-how-added = Added:
compare-how-removed = Removed:
compare-how-changed = Changed:
compare-was-called = , called { $name } before
compare-not-given = not given
compare-a-node = a node of it
compare-nothing-differs = Nothing: they hold the same.
compare-stopped = Who is stopped
compare-permit-suspended = is suspended:
compare-permit-void = goes back to draft, its signatures void:
compare-program-stopped = is stopped:
compare-program-void = is checked and released anew:
compare-refused = It is not taken as it is:
compare-nobody-stopped = Nobody: what is signed and under way holds.
compare-figures = Figures
compare-computing = They are being computed beside the server.
compare-figures-cap = Worst over the cases of each document, with every position as those have it, at every piece of equipment but conductors; cal/cm² at the usual working distance.
compare-head-location = Place
compare-head-was = Before
compare-head-now = Then
compare-head-drawn = From, to
compare-none = no figure
compare-new = not there
compare-gone = gone
compare-boundary = boundary { MM($was) } to { MM($now) }
compare-and-more = { $count ->
    [one] and one more way of reaching it
   *[other] and { $count } more ways of reaching it
}
compare-no-figure-moves = No figure of the study moves.
compare-note = Why, for the record
compare-publish = Publish it
compare-discard = Throw it away
compare-only-coordinators = Only a coordinator publishes a network.
