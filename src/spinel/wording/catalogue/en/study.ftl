# The study: locations, trials, order of opening, findings, labels, comparison, report
rail-study = Study
study-question = Where is it worst, and what changed?
study-never = Nothing has been studied yet.
study-never-why = A study computes every location in every recorded case, beside the server: it takes seconds, or minutes for a large site. Its result stays, whatever becomes of the network.
study-run = Run a study
study-run-of = Study of
study-run-published = revision { $number }
study-run-draft = draft { $number }
study-pages = Pages of the study
study-sides = Ways of reaching it
study-tab-places = Locations
study-tab-hung = One-line by energy
study-tab-findings = Findings
study-tab-compare = Compare
study-tab-what-if = What if
study-tab-labels = Labels
study-tab-report = Report
study-tab-cases = Cases
study-tab-runs = Runs
study-stage-order = devices in series are held against one another
study-asked-by = asked by { $by }, { $at }
study-done-at = done { $at }
study-state-asked = is computed
study-state-done = done
study-state-cancelled = cancelled
study-state-failed = failed
study-is-done = It is done.
study-is-cancelled = It was cancelled.
study-is-failed = It failed.
study-is-asked = It is computed.
study-run-again = Run another.
study-life = a study is done, cancelled or signed once
study-queue = studies wait in a queue
study-queue-full = { $most } wait already.
study-queue-wait = Wait for them, or cancel one.
study-draft-has-problems = a draft that is a network: it has problems still
study-signing = who signs a study answers for what it found
study-nothing-to-sign = It is no finished study of a published network.
study-publish-first = Publish the network and run the study of it.
study-signed-already = { $by } has signed it already.
study-signed = { $number } is signed.
study-sign = Sign
study-sign-what = Signing covers the content { $hash } …, which never changes: a licensed engineer answers for it.
study-licence = Number of the licence
study-signed-by = Signed by { $by }, licence { $licence }.
study-not-signed = Nobody has signed it.
study-engineer-signs = By this site’s rule a study counts as handed over once a licensed engineer has signed it.
study-look-at = Look at it
study-cancel = Cancel
study-runs-question = Which studies were run, and of what?
study-runs-answer = { $count ->
    [0] Nothing has been studied yet.
    [one] 1 study
   *[other] { $count } studies
  }{ $waiting ->
    [0] {""}
   *[other] , { $waiting } computed now
  }
study-out-of-date = Out of date.
study-outdated-network = the network was published anew since
study-outdated-ceiling = the ceiling is another one since
study-outdated-method = the method is another one since
study-show = Show
study-show-all = everything
study-show-ceiling = above the ceiling of { N($ceiling) }
study-show-12 = above 12 cal/cm²
study-show-8 = above 8 cal/cm²
study-show-1-2 = above 1.2 cal/cm²
study-show-below = up to 1.2 cal/cm²
study-show-none = without figure
study-show-up = risen
study-show-down = fallen
study-show-unfed = fed by nothing
study-holding = that hold
study-as = as
study-as-picture = picture
study-as-table = table
study-columns = Columns
study-look = Show
study-head-place = worst of all cases at each location
study-head-why = cleared by, why it moved
study-places = Locations, the worst first
study-so-many = { $count } places alike
study-unfed = no source feeds it in any case
study-cleared = { $device ->
    [none] nothing clears it: { N($seconds) } s taken
   *[other] { $device } in { UP($seconds, digits: 3) } s
  }
study-moved = { BY($by) }
study-new-place = new here
study-nothing-so = No location is so.
study-all-places = All { $count } places
study-ranked = Ranked: how many lie above each level. Dashed: the study before. The brackets are what the list shows.
study-ranked-alt = Curve of all locations ranked by incident energy; the table below says the same.
study-level = Level
study-above = above { N($level) }
study-no-figure = no figure
study-cases = { $count ->
    [one] 1 case:
   *[other] { $count } cases:
  }
study-of = { $number }, { $revision ->
    [0] of a draft
   *[other] revision { $revision }
  }, asked by { $by }, done
study-moves = { $up } rose, { $down } fell since { $number }
study-findings-open = { $count ->
    [0] No open finding
    [one] 1 open finding
   *[other] { $count } open findings
  }
study-column-tag = Location
study-column-side = Side
study-column-energy = cal/cm²
study-column-arc-flash-boundary-mm = Arc-flash boundary
study-column-device = Cleared by
study-column-clearing-time-s = Clearing time
study-column-case = Case
study-column-bolted-fault-current-ka = Bolted fault current
study-column-arcing-current-ka = Arcing current
study-column-working-distance-mm = Working distance
study-column-voltage-v = Voltage
study-column-ppe = Protective clothing
study-column-limited-fixed-mm = Limited approach
study-column-restricted-mm = Restricted approach
study-column-glove-class = Gloves
study-column-electrode-configuration = Electrodes
study-column-warning = Remarks
verdict-study-current = { $above ->
    [0] None of { $places } places is
    [one] [b]1 of { $places } places[/] is
   *[other] [b]{ $above } of { $places } places[/] are
  } above the ceiling of { N($ceiling) } cal/cm²; { ENERGY($worst) } at worst.{ $none ->
    [0] {""}
    [one] { " " }1 has no figure.
   *[other] { " " }{ $none } have no figure.
  }
verdict-study-outdated = [late]{ $number } is out of date.[/] It found { ENERGY($worst) } cal/cm² at worst, { $above } of { $places } places above { N($ceiling) }.{ $none ->
    [0] {""}
   *[other] { " " }{ $none } without figure.
  }
act-study-run = run a study
act-study-sign = sign a study

# One location and trials
study-place-question = What clears the arc at { $tag }, and what would change it?
study-place-no-figure = No incident energy is known here.
study-place-trial = { $known ->
    [yes] [live]{ ENERGY($now) }[/] instead of { ENERGY($was) } cal/cm², if it were so.
   *[no] [live]{ ENERGY($now) }[/] cal/cm² if it were so; as it is, there is no figure.
  }
study-place-is = [live]{ ENERGY($energy) }[/] cal/cm², { $device ->
    [none] and nothing clears it: { N($seconds) } s are taken.
   *[other] cleared by [b]{ $device }[/] after { UP($seconds, digits: 3) } s.
  }
study-trial = A trial, not how it is:
study-trial-end = Back to how it is
study-trial-distance = working distance { N($distance_mm) } mm
study-trial-time = everything cleared after { N($seconds) } s
study-tcc = Time-current curves in amperes of the arc, worst case:
study-tcc-alt = Time-current curves of the devices that carry the arc, withstand curves, arcing currents, and the stages beside them; the tables below say the same.
study-who-opens = Who opens when
study-device = Device
study-share = Its share of the arc
study-opens-after = Opens after
study-by = By
study-never-opens = never
study-stages = Stage by stage
study-from-until = From, until
study-bolted = Bolted
study-arcing = Arcing
study-adds = Adds
study-then-off = Then off
study-feeds = Who feeds the fault
study-over-distance = Energy over distance
study-distance = Distance
study-boundaries = Boundaries to scale
study-working = The working
study-what-if = What if
study-energy-at = Energy at { N($distance_mm) } mm
study-was = { ENERGY($energy) } as it is
study-grips = Settings of { $tag } to drag
study-grips-failed = No answer came from the server. What is drawn is as it was before.
study-grips-how = Drag the curve of { $tag } by its grips, or step one with the arrow keys; let go, or press Enter, to try it.
study-track-coming = The setting’s whole range is computed …
study-track-none = No setting of a device moves this place.
study-track-alt = Worst incident energy over the setting; hatched where devices open out of order; the table below says the same.
study-track-table = As a table
study-out-of-order = opens out of order
study-elsewhere = Elsewhere
study-elsewhere-coming = Every other location is computed …
study-lost-pair = { $above } may open before { $below }, from { FIX($from_ka, digits: 1) } to { FIX($to_ka, digits: 1) } kA at { $below }.
study-order-kept = Devices in series keep their order.
study-moves-elsewhere = { $count ->
    [0] No location moves.
    [one] 1 location moves.
   *[other] { $count } locations move.
  }
study-make-draft = Make a draft of it
study-propose = Onto the list of improvements
study-value = Value
study-try = Try
study-levers = What would bring it under 8?
study-search = Search for better settings
study-its-label = Its label
what-if-a-number = a number above zero
what-if-no-such-setting = a field that { $tag } has
what-if-no-maintenance-setting = { $tag } has a maintenance setting recorded
what-if-so-many-changes = from 1 to { $most } changes at once
what-if-so-many-settings = from 1 to { $most } settings
what-if-bounds = above zero, and below the upper end
what-if-draft = a draft holds changes of the plant
what-if-no-change-of-plant = A case or a maintenance setting is none.
what-if-leave-it-out = Leave it out of the trial.
what-if-case = only in the case “{ $name }”
what-if-maintenance = { $tag } at its maintenance setting
what-if-supply = supply { $tag } { N($factor) } times as strong
what-if-field = { $tag }, { $field }: { $was } → { $value }
what-if-setting = Another setting
what-if-maintenance-of = Maintenance setting of
what-if-gap = Another gap, mm
what-if-configuration = Other electrodes
what-if-exchange = Exchanged for
what-if-supply-factor = Supply so many times as strong
what-if-only-case = Only in one case
what-if-distance = Working distance, mm
what-if-time = All cleared after, s
what-if-field-short-delay-s = short-time delay, s
what-if-field-short-pickup-a = short-time pickup, A
what-if-field-instantaneous-a = instantaneous pickup, A
what-if-field-long-delay-s = long-time delay, s
what-if-field-long-pickup-a = long-time pickup, A
what-if-field-dial = dial
what-if-field-pickup-a = pickup, A
what-if-field-magnetic-a = magnetic pickup, A
what-if-field-rated-a = rating of the trip, A
what-if-field-operating-s = operating time, s
what-if-field-clearing-s = clearing time, s
what-if-field-gap-mm = gap, mm
what-if-field-electrode-configuration = electrodes
what-if-field-working-distance-mm = working distance, mm
what-if-field-rated-kva = rating, kVA
what-if-field-impedance-pct = impedance, %
what-if-field-x-r = X/R
what-if-field-interrupting-ka = interrupting rating, kA
what-if-field-length-m = length, m
levers-question = What would bring it under { N($target) } cal/cm²:
levers-coming = Every lever is computed …
levers-answer = It is [live]{ ENERGY($now) }[/] cal/cm². { $count ->
    [0] No lever brings it under { N($target) } with the order of opening kept.
    [one] [b]1 lever[/] brings it under { N($target) }.
   *[other] [b]{ $count } levers[/] bring it under { N($target) }.
  }
levers-targets = Target
levers-rung = Rung
levers-what = Lever
levers-left = Left, cal/cm²
levers-order = Order of opening
levers-under = under it
levers-order-not-looked = not looked at
levers-wear = Clothing of a higher rating
levers-wear-changes-nothing = changes no energy
levers-further-back = Standing further back than the task needs is no answer: work is done at arm’s length.
levers-none = Nothing here lowers it.
lever-maintenance = Maintenance setting of { $tag }, each time
lever-setting = { $tag }, { $field }: { N($now) } → { N($value) }
lever-time = Cleared within { N($seconds) } s, by whatever does
lever-time-how = For example a differential or light-detecting relay.
lever-fault-level = Bolted fault current down from { FIX($now, digits: 1) } to { N($ka) } kA, at the same clearing time
lever-fault-level-how = A smaller current may also be cleared later: try it as a trial.
search-question = Which settings together are better for
search-choose = Choose up to 4 settings.
search-coming = Settings are tried …
search-better = [live]{ ENERGY($after) }[/] instead of { ENERGY($before) } cal/cm², in the order of opening as it is.
search-none = Nothing better than { ENERGY($before) } was found in { $studies } studies that keeps the order of opening.
search-a-proposal = A proposal from { $studies } studies, within a quarter and twice of each setting. Ratings, starting currents and ground faults were not looked at.
search-look = Look at it as a trial
search-settings = Settings that may move
search-go = Search
withstand-no-size = its conductor size is not recorded
withstand-category-iv = above 30 MVA the curve depends on the system: not drawn here
finding-out-of-order = { $above } may open before { $below } from { FIX($from_ka, digits: 1) } to { FIX($to_ka, digits: 1) } kA ({ $case })

# The one-line hung at its energy
hung-question = Where does the energy come from, and who takes it off?
hung-answer = { $known ->
    [yes] It is highest at [b]{ $tag }[/]: [live]{ ENERGY($energy) }[/] cal/cm².
   *[no] Nobody knows how high it is at [b]{ $tag }[/].
  }
hung-alt = The one-line with every piece at the height of its worst incident energy; the table below says the same.
hung-how = Each piece hangs at its worst energy, logarithmic. Dashed: open in normal operation.
hung-left-out = { $count } smaller pieces are left out.
hung-table = As a table

# Findings
act-finding-give = give findings
findings-question = What does the study ask us to do?
findings-answer = { $open ->
    [0] No finding is open.
    [one] [b]1 finding[/] is open
   *[other] [b]{ $open } findings[/] are open
  }{ $late ->
    [0] {""}
   *[other] , [late]{ $late } late[/]
  }{ $nobody ->
    [0] {""}
   *[other] , { $nobody } nobody’s
  }.
findings-show-open = open
findings-show-mine = mine
findings-show-late = late
findings-show-nobody = nobody’s
findings-show-closed = closed
findings-kind = Kind
findings-every-kind = every kind
findings-none = No finding is so.
finding-order = opens out of order
finding-outdated = study out of date
finding-old = study due for review
finding-letter = old letter
finding-walk = found otherwise at a walk-down
finding-uncased = in no case
finding-unmaintained = not properly maintained
finding-never-studied = The published network was never studied.
finding-study-old = { $number } was done on { $day }: more than five years ago
finding-outdated-says = { $number }: { LIST($what, between: "; ") }
finding-letter-old = the supply’s strength is of { $day }
finding-walk-says = what was seen otherwise waits as draft { $number }
finding-not-kept-up = overdue or failed: { $what }
finding-do-order = Set one of the two so that the nearer opens first, or accept it with the reason.
finding-do-uncased = Define a case of it, so that its figures are known.
finding-do-outdated = Run a study.
finding-do-old = Review it: run it anew on what is so, with letters and settings looked up again.
finding-do-letter = Ask for a new letter, with the settings of the utility’s relay.
finding-do-walk = Set it as recorded, or publish it as found.
finding-do-unmaintained = Do the work, or replace it. Until then it is not trusted to clear.
finding-owner = Whose it is to see to
finding-due = By when
finding-give = Give it to
finding-give-anew = Give it to somebody else
finding-nobodys = nobody’s yet
finding-close = Close
finding-note = What was done, or why it may stay
finding-how-mended = mended; open again if the next study finds it
finding-how-accepted = accepted as it is; open again if it gets worse
finding-state-mended = mended
finding-state-accepted = accepted
finding-again = Closed by { $by } (“{ $note }”), and found again.
finding-given = { $number } is given.
finding-closed = { $number } is closed.
finding-life = a finding is closed once
finding-is-closed = It is closed.
finding-give-again = Give it anew.
finding-not-accepted = What fails its duty, has no figure or is above the ceiling is not accepted.
finding-mend = Mend it, then close it as mended.
finding-who-closes = a finding is closed by whose it is, or a coordinator

# Compare
differ-question = What rose, what fell, and why?
differ-needs-two = It takes two different studies.
differ-answer = From { $of } to { $to }: [b]{ $up }[/] got worse, { $down } better.
differ-of = From
differ-to = To
differ-follows = Other clothing at { $ppe }, another boundary at { $boundary }.
differ-causes = Why
differ-causes-coming = Each change alone is put back and studied …
differ-too-many = { $count } records differ: too many to put each back alone.
differ-what-changed = What changed
differ-how-added = is new
differ-how-removed = is gone
differ-how-changed = is otherwise
differ-up = Raises
differ-down = Lowers
differ-most = At most, cal/cm²
differ-not-alone = cannot be put back alone
differ-no-cause = No record differs: ceiling or method do.
differ-causes-how = Each line: the later network with that one record as it was. Changes that work together move places of both.
differ-permits = What publishing it would stop
differ-no-permit = Nothing.
differ-labels = { $count ->
    [one] 1 label on the wall is wrong there
   *[other] { $count } labels on the wall are wrong there
  }
differ-by = By
differ-picture = Was, is
differ-because = Because of
differ-gone = gone
differ-nothing = No figure differs.

# Labels
act-label-print = print labels
act-label-hang = put up labels
labels-question = Which labels on the wall are wrong?
labels-wrong = [late]{ $wrong } of { $hung }[/] hang wrong. The worst: { $number } on [b]{ $tag }[/].
labels-right = { $hung ->
    [one] The one that hangs tells the truth.
   *[other] All { $hung } that hang tell the truth.
  }
labels-none-hang = No label is recorded as hanging.
labels-show-wrong = Wrong
labels-show-hung = All that hang
labels-show-printed = Printed, not hung
labels-show-none = Without one
labels-record-found = Record one that was found
labels-none-so = None is so.
labels-everything-has-one = Every piece with a figure has one.
labels-pick = Print a new one
labels-print-picked = Print new ones for those ticked
labels-printed = Printed: { LIST($numbers, between: ", ") }.
labels-sheet-each = { $count ->
    [one] PDF, its own size
   *[other] All { $count } as PDF, one a sheet
  }
labels-sheet-letter = PDF on Letter sheets
labels-sheet-a4 = PDF on A4 sheets
labels-how = Ring: what the label says. Dot: what is so. Wrong: 1 % too little or a tenth too much, another kit, or other words.
label-of = Label of { $tag }
label-new-question = What would a label say here now?
label-new-forbids = It forbids: nobody knows how much energy there is.
label-new-answer = { $signal ->
    [danger] [live]DANGER[/]
   *[warning] WARNING
  }, { ENERGY($energy) } cal/cm² at [b]{ $tag }[/].
label-stock = Label stock
label-stock-too-small = too small
label-ruler = Ruler of 100 mm
label-true-size = { N($width) } × { N($height) } mm. Hold a real ruler to the one drawn: where they differ, this screen is not true to size; the PDF is. Smallest letters { FIX($letter, digits: 1) } mm, read from { METRES($reach) } m.
label-too-small = Too small: letters would be { FIX($letter, digits: 1) } mm high, and nobody reads less than 1.6 mm.
label-crowded = Too small: its lines would run into one another. Take larger stock, or shorten the name or the location.
label-letters-missing = No font of this application has the letters { $letters }, and a label would show nothing in their place: write the name or the location without them.
label-print = Print it
label-print-anew = Print a new one.
label-here-already = What is here already
label-to-place = Its curves and what would change them
label-picture = Picture
label-foot = { $day }, revision { $revision }, label { $number }
label-local-codes = Local codes govern. A qualified person verifies before work.
label-so-many = from 1 to { $most } labels at once
label-rule = a label warns of a hazard that is there, with all that it must hold
label-below-threshold = Voltage is below the threshold: no label is needed.
label-needs-none = Leave it without.
label-lacks = The label of { $tag } would lack { LIST($fields, between: ", ") }.
label-complete = Complete the network there.
label-life = a label is printed, hung, and taken off
label-is-printed = It does not hang.
label-is-hung = It hangs.
label-is-removed = It was taken off.
label-wrong-already = Its figures are wrong by now.
label-not-on-paper = { $number } is none of ours, was taken off, or has figures that are wrong by now: no paper of it is made.
label-another-hangs = { LIST($numbers, between: ", ") } hangs there.
label-take-off-first = Take it off, and say so.
label-one-question = { $number } on
label-state-printed = printed, not hung
label-state-hung = hangs
label-state-removed = taken off
label-kind-true = tells the truth
label-kind-forbids = nobody may work live there by now
label-kind-too-little = says too little
label-kind-unknown = tells no figure
label-kind-gone = warns of what is not there
label-kind-other = is worded otherwise
label-kind-too-much = says too much
label-kind-missing = was not there
label-kind-review = due for review
label-gone-why = The equipment is in the network no more, or needs no label.
label-event-printed = printed
label-event-found = found
label-event-hung = hung
label-event-seen = seen
label-event-not-seen = not seen
label-event-removed = off
label-life-line = Its life
label-put-up = Put it up
label-where = Where it hangs
label-old-off = { $numbers } came off
label-look = Looked at it
label-there-yes = it hangs
label-there-no = it is not there
label-note = Note
label-take-off = Take it off
label-new-one = What a new one would say
label-hung-now = { $number } hangs.
label-cat = cat { $category }
label-found-question = Which label was found, and what does it say?
label-found-answer = As it hangs, word for word; nothing is converted.
label-on = On
label-keep-found = Record it
label-field-voltage-v = Nominal voltage, V
label-field-energy-cal-cm2 = Incident energy, cal/cm²
label-field-working-distance-mm = At a working distance of, mm
label-field-category = Category
label-field-boundary-mm = Arc-flash boundary, mm
label-field-method = Method or edition that it names
label-field-day = Its date
label-no-figure-any-more = Nobody knows the energy any more: it must forbid.
label-tells-no-energy = It tells no energy; { ENERGY($energy) } cal/cm² are so.
label-above-ceiling = It says { ENERGY($said) }; { ENERGY($now) } cal/cm² are above the ceiling.
label-says-too-little = It says { ENERGY($said) }; { ENERGY($now) } cal/cm² are so.
label-says-too-much = It says { ENERGY($said) }; { ENERGY($now) } cal/cm² are so: people learn not to believe labels.
label-stands-further-back = It counts with { N($said) } mm; { N($now) } mm is where people work.
label-distance-too-little = It says { METRES($said) } m for the { $which ->
    [boundary] arc-flash boundary
    [limited] limited approach
   *[restricted] restricted approach
  }; { METRES($now) } m are so.
label-feet-too-little = It says { FEET($said) } for the { $which ->
    [limited] limited approach
   *[restricted] restricted approach
  }, its metres converted; the table says { FEET($now) }.
label-distance-too-much = It says { METRES($said) } m for the { $which ->
    [boundary] arc-flash boundary
    [limited] limited approach
   *[restricted] restricted approach
  }; { METRES($now) } m would do.
label-lacks-distance = It lacks the { $which ->
    [boundary] arc-flash boundary
    [limited] limited approach
   *[restricted] restricted approach
  }, { METRES($now) } m.
label-needless-distance = It tells a { $which ->
    [boundary] arc-flash boundary
    [limited] limited approach
   *[restricted] restricted approach
  } that is none any more.
label-other-voltage = It says { N($said) } V; { N($now) } V are so.
label-other-gloves = The gloves are others.
label-does-not-forbid = It asks for protective equipment where no energized work is allowed.
label-forbids-needlessly = It forbids energized work that may be permitted.
label-other-signal = It says { $said ->
    [danger] danger
   *[warning] warning
  }; by the site’s rule it is { $now ->
    [danger] danger
   *[warning] warning
  }.
label-other-method = It was computed by { $said }; { $now } is used now.
label-other-name = It names { $said }; it is called { $now } or stands elsewhere.
setting-label-signal = When a label says danger
why-label-signal = Above the ceiling and where nobody knows, or on every label, or on none.
setting-is-ceiling = above the ceiling
setting-is-always = always
setting-is-never = never
setting-label-language = Second language on labels
why-label-language = Beside English. Have somebody who speaks it read the first one.
setting-is-none = none
setting-is-es = Spanish
setting-is-fr = French
setting-is-de = German
setting-study-signed-by = Who signs a study
why-study-signed-by = Whether a study counts as handed over only with the signature of a licensed engineer.
setting-is-nobody = nobody has to
setting-is-engineer = a licensed engineer

# Report
report-of = Study { $number }
report-title = Arc-flash and shock study
report-scope = Scope
report-scope-is = { $places } places in { $cases } cases. Incident energy and arc-flash boundary by { $edition }, shock by the practice of the site; ceiling { N($ceiling) } cal/cm². Every figure is the worst over all cases, strengths of supply, and full and reduced arcing current.
report-not-signed = Not signed: by the site’s rule a licensed engineer signs it before it counts.
report-cases = Cases, sources and assumptions
report-letters = Strength of the supplies
report-no-letter = nobody has told where it comes from
report-assumed = Assumed, nobody has confirmed it
report-not-of-now = Sources, assumptions and one-line are those of the network as published now, which is another one: left out.
report-results = Results, the worst first
report-order = Devices in series
report-nearer = Nearer the fault
report-further = Further from it
report-margin = Least margin, s
report-order-how = Pairs that lose their order, or keep it by less than 0.3 s. Phase faults; ground-fault elements are not compared.
report-hash = Content
report-document = Document

# Acts and where they are told
waits-see-to = is yours to see to
kind-of-record-study = study
kind-of-record-finding = finding
kind-of-record-label = label
study-seconds = { UP($seconds, digits: 3) } s
study-all-sides = the worst of all sides
label-glove = class { $glove }
study-worse-as-found = As the field stands now it is worse than any recorded case:
study-to-the-card = To the card
label-tells-no-distance = It tells an energy without the distance that it is at.
study-process-ended = The process that computed it ended without a result, as for want of memory.
