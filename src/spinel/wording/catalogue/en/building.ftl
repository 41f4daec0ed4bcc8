## web/drafting.py, actions/drafting.py, core/editing

build = Build the network
build-question = Where do you begin?
build-answer-empty = [b]Nothing is published yet.[/] Say what feeds the site; everything else hangs below it.
build-answer-published = A draft begins [b]on what is published[/], and changes nothing until it is published itself.
build-begin = Begin a draft
build-begin-site = Begin with this supply
build-behind = Something was published since
build-board-tag = Tag of the first board (left empty: after its voltage)
build-frequency = Frequency
build-from-revision = From the document of
build-head-number = Draft
build-head-last = Last done
build-head-by = By
build-head-at = When
build-letter-cap = From the utility's letter. What is left empty is assumed, marked so, and how far it could move a figure is computed.
build-open-drafts = Drafts that are open
build-practice = Practice that the site follows
build-revision = revision { $number }, brought back
build-revision-latest = revision { $number }, as published
build-site-name = Name of the site
build-source-tag = Tag of the utility's supply
build-strongest = Strongest fault level
build-supply = What feeds it
build-voltage = Supply voltage, between phases
build-weakest = Weakest fault level
build-x-r = X/R at the strongest
build-zone = Time zone, such as America/Halifax
practice-name-north-american = North American (NFPA 70E, IEEE 1584)
drafting-begun = Begun on revision { $number }
drafting-begun-with-its-supply = Begun with its supply
drafting-brought-up = Brought up to revision { $number }
drafting-one-network-a-site = A site has one network.
drafting-a-network-is-published = A network is published already.
drafting-begin-on-it = Begin a draft on it.
drafting-only-an-open-draft-is-changed = Only an open draft is changed.
drafting-it-ended = { $number } is { $state }.
drafting-begin-another = Begin another one.
drafting-a-split-is-honest = What is so on site is published; what is not built waits.
drafting-what-was-brought-is-read-whole = A workbook that could not be read whole is published once each of its cells was seen to.
drafting-not-seen-to = { $count ->
    [one] One cell was not read
   *[other] { $count } cells were not read
 }; the first is { $first }.
drafting-see-to-each = See to each on the page of the draft.
drafting-not-answered = Nobody has said whether these are so already: { LIST($names) }.
drafting-answer-each = Answer each.
drafting-the-part-does-not-stand-alone = What is so does not stand without what waits: { $problem }
drafting-what-belongs-together-is-answered-alike = Answer alike what belongs together.
draft-state-open = open
draft-state-published = published
draft-state-discarded = thrown away
draft-question = What does this draft do?
draft-differences-question = What would publishing it do?
draft-undo = Undo
draft-redo = Redo
draft-as-table = As a table
draft-assumed = Assumed and missing
draft-differences = { $count ->
    [0] No difference
    [one] One difference
   *[other] { $count } differences
}
draft-hang-below = Hang below
draft-drawing = One-line of the draft
draft-cannot-be-drawn = As it is it cannot be drawn: something leads nowhere. What is wrong stands at the side.
draft-side = What is chosen
draft-choose = Choose a piece of equipment in the drawing, or what to hang below it.
draft-ended = This draft is { $state }: it is not changed any more.
draft-problems = { $count ->
    [one] One thing is to be mended before it can be published
   *[other] { $count } things are to be mended before it can be published
}
draft-symbol = { $tag }, { LOWERFIRST($kind) }, { $how ->
    [added] new
    [changed] changed
   *[other] as published
}
draft-node = { LIST($tags) }, { $voltage }
draft-effect = What it does, here and below
draft-effect-cap = Ring: as published. Disc: this draft. Dashes: how far one assumed value alone could carry it. cal/cm² at the usual working distance, worst over the cases.
draft-no-figures-yet = No figures while something is to be mended.
draft-reach-computing = How far the assumed values reach is being computed.
draft-head-place = Place
draft-head-fault = Bolted fault
draft-head-energy = Incident energy
draft-head-drawn = From, to
draft-head-clears = Cleared by
draft-is-new = new
draft-was = was { $energy }
draft-up-to = up to { $energy } if an assumption is wrong
draft-tag = Tag
draft-board-below = Tag of the board below it
draft-feeds-a = It feeds a
draft-power-factor = Power factor
draft-efficiency = Efficiency
draft-from-shaft = For a power at the shaft, in hp or kW; 0.86 and 0.92 where the plate tells neither.
draft-left-empty-is-assumed = What is left empty is assumed, and marked so; a curve that is not told clears nothing.
draft-keep = Keep it
draft-branch = The branch that it stands in
draft-save = Save { $name }
draft-enter-curve = Enter its curve
draft-how-it-hangs = How it hangs
draft-copy = Copy it, with all below
draft-insert = Put a device in
draft-split = Split it
draft-connect = Connect it elsewhere
draft-tie = Tie it to another node
draft-renumber = Number anew
draft-take-out = Take it out of its line
draft-take-out-cap = What hangs below it hangs above it then.
draft-remove = Remove
draft-with-below = { $count ->
    [one] with the one piece below it
   *[other] with all { $count } below it
}
draft-which-end = At which end
draft-to-node = To
draft-device = Device
draft-part-of-tag = Part of the tags
draft-its-replacement = What stands there instead
draft-its-replacement-n = Instead; {"{n}"} counts
draft-or-each-tag = Or each tag by itself
draft-first-number = First number
draft-split-at = From its first end
draft-tag-of-the-rest = Tag of the rest
draft-whole-record = the whole of it
draft-side-theirs = Keep theirs:
draft-side-mine = Take mine:
draft-hung = { $tag } hung: { LOWERFIRST($group) }
draft-changed = { $name } changed: { LIST($fields) }
draft-removed = { $tag } removed{ $count ->
    [0] { "" }
   *[other] , with { $count } below it
}
draft-taken-out = { $tag } taken out
draft-connected = { $tag } connected elsewhere
draft-tied = { $tag } ties two nodes
draft-inserted = { $tag } put in at { $at }
draft-split-done = { $tag } split
draft-copied = { $tag } copied: { $count } pieces
draft-renumbered = { $count ->
    [one] One tag anew
   *[other] { $count } tags anew
}
draft-confirmed = { $count ->
    [one] One value confirmed
   *[other] { $count } values confirmed
}
draft-curve = Curve of { $tag } entered
draft-table-question = Many of one kind at once
draft-table-answer = { $count ->
    [one] [b]One piece[/]: { LOWERFIRST($kind) }
   *[other] [b]{ $count } pieces[/]: { LOWERFIRST($kind) }
}
draft-table-nothing = Nothing stands in it yet.
draft-table-kinds = Kinds of equipment
draft-table-save = Save what was changed
draft-table-changed = { $count } cells changed: { LOWERFIRST($kind) }
draft-paste = Paste from a spreadsheet
draft-paste-label = A line of heads first: tag, and fields by their names; then a line for each piece. An empty cell takes a value out.
draft-paste-heads = heads of these: { LIST($options) }
draft-paste-tag = the tag of a piece of this kind
draft-behind-why = Another revision was published since this draft was begun. What it changed is put in first, so that publishing undoes nothing unseen.
draft-bring-up = Bring it up to what is published
draft-is-case-so = The case “{ $name }”: does this change of it hold for the plant as it is built now?
draft-is-it-so = is so on site?
draft-is-it-so-cap = What is so already cannot wait: it would keep a { -permit } alive on a figure that is false. What is not built may.
draft-all-so = All of it is so
draft-none-so = None of it is so
draft-answer-so = So already
draft-answer-not-yet = Not built yet
draft-save-answers = Save these answers
draft-publish-whole = Publish it
draft-publish-part = Publish what is so; the rest waits in the draft
keys-undo-redo = undo, redo
verdict-draft = { $count ->
    [0] No equipment differs from what is published.
    [one] [b]One piece of equipment[/] differs.
   *[other] [b]{ $count } pieces of equipment[/] differ.
}
verdict-draft-problems = { $count ->
    [one] [late]One thing[/] is to be mended.
   *[other] [late]{ $count } things[/] are to be mended.
}
verdict-draft-assumed = { $count ->
    [0] Nothing in it is assumed.
    [one] One value is assumed.
   *[other] { $count } values are assumed.
}
act-network-draft-begun = draft of the network begun
act-network-draft-changed = draft of the network changed
act-network-draft-undone = draft of the network: undone
act-network-draft-redone = draft of the network: redone
act-network-draft-answered = draft of the network: said what is so
act-network-draft-discarded = draft of the network thrown away
act-network-draft-published = draft of the network published

group-feeder = Feeder, board
group-motor = Feeder, motor
group-starter = Starter, motor
group-drive = Drive, motor
group-load = Feeder, load
group-transformer = Transformer bay
group-transfer = Transfer switch, generator
group-solar = Solar
group-ups = UPS
group-shore = Shore plug
group-battery = Charger, battery
group-capacitor = Capacitor bank
group-cap-feeder = A breaker, a cable, a board in an enclosure of its own.
group-cap-motor = A breaker, a cable, a motor.
group-cap-starter = A breaker and a contactor in this enclosure, a cable, a motor.
group-cap-drive = A breaker, a cable, a converter that keeps a charge, a motor behind it.
group-cap-load = A breaker, a cable, a load.
group-cap-transformer = A breaker, a cable, the transformer, a cable to a main breaker, a board below it.
group-cap-transfer = A feeder to one input, a generator with breaker and cable to the other, a panel behind.
group-cap-solar = A breaker, a cable, a disconnect, an inverter that may feed back.
group-cap-ups = A breaker, a cable, the UPS, a panel behind it that stays live.
group-cap-shore = A breaker, a cable, a disconnect, a plug: what is plugged in may feed back.
group-cap-battery = A breaker, a cable, a charger, a disconnect, a battery that is never dead.
group-cap-capacitor = A breaker, a cable, capacitors that keep a charge.
part-group = Its voltage
part-breaker = Breaker
part-cable = Cable
part-motor = Motor
part-transformer = Transformer
part-secondary-cable = Cable below it
part-main = Main breaker below it
part-generator = Generator
part-inverter = Inverter
part-ups = UPS
part-shore-connection = Shore connection
part-capacitor = Capacitors
record-enclosures = enclosure
record-nodes = node

origin-plate = plate
origin-drawing = drawing
origin-letter = letter of the utility
origin-maker = maker's sheet
origin-measured = measured
origin-seen = seen on site
origin-assumed = assumed
plate-comes-from = Read off
plate-choose = choose
plate-which = which one
plate-it-is-so = it is so
plate-needed = needed
plate-no-curve = none: it clears nothing
plate-not-told = not told
plate-told-by-nobody = told by nobody
plate-unit-of = Unit of { $label }

label-name = Name
label-location = Place
label-tag = Tag
label-id = Id
label-ends = Ends
label-kind = Kind
label-serves = Serves
label-notify = Who is told
label-critical = A watch or a substitute is needed first
label-tolerates-min = May be off
label-normal-position = Position in normal service
label-normal-state = State in normal service
label-stored-energy = Energy it keeps when off
label-isolating = Isolates
label-load-break = Breaks load
label-fault-make = Closes onto a fault
label-lockable = Can be locked
label-withdrawable = Can be withdrawn
label-visible-break = Its break can be seen
label-remote = Operated from afar
label-built-in-tester = Has test points
label-rated-voltage-v = Rated voltage
label-rated-a = Rated current
label-interrupting-ka = Interrupting rating
label-construction = Construction
label-test-x-r = X/R of its test
label-curve = Curve
label-maintenance-curve = Curve in maintenance setting
label-operated-by = Operated by others
label-short-circuit-ka = Withstand rating
label-fault-mva-max = Strongest fault level
label-x-r-max = X/R at the strongest
label-fault-mva-min = Weakest fault level
label-x-r-min = X/R at the weakest
label-z0-z1 = Z0 over Z1
label-rated-kva = Rating
label-vector-group = Vector group
label-impedance-pct = Impedance
label-x-r = X/R
label-tolerance-pct = Tolerance of impedance
label-tap-pct = Tap
label-z0-pct = Zero-sequence impedance
label-neutral-ohm = Neutral impedance
label-xd-subtransient-pu = Subtransient reactance
label-xd-transient-pu = Transient reactance
label-xd-sync-pu = Synchronous reactance
label-td-subtransient-s = Subtransient time constant
label-td-transient-s = Transient time constant
label-excitation-support-multiple = Current kept up by excitation, times rated
label-excitation-support-s = For so long
label-motors = So many alike
label-conductor-size = Conductor size
label-conductor = Conductor
label-per-phase = Conductors per phase
label-length-m = Length
label-conduit = Conduit
label-resistance-ohm = Resistance
label-reactance-ohm = Reactance
label-fault-multiple = Fault current, times rated
label-fault-cease-s = Ceases to feed after
label-fault-for-s = Feeds a fault for
label-discharge-min = Discharges within
label-nominal-voltage-v = Nominal voltage
label-voltage-v = Voltage below it
label-current = Kind of current
label-neutral = Has a neutral
label-grounding = Grounding
label-enclosure = Enclosure
label-equipment-class = Class of equipment
label-electrode-configuration = How conductors end
label-gap-mm = Gap between conductors
label-height-mm = Inner height
label-width-mm = Inner width
label-depth-mm = Inner depth
label-working-distance-mm = Working distance
label-escape-clear = A person can get away at once
label-time-zone = Time zone
label-profile = Practice
label-frequency-hz = Frequency
label-basis = Where values come from
label-compartments = Compartments
label-barriers = Barriers
label-auxiliary-supplies = Auxiliary supplies
label-sources = Sources of the case
label-positions = Positions of the case
label-settings = Settings of the case
label-impedances = Impedances of the case
label-restrained-by = Held back by
label-runs-parallel-with = May run parallel with
label-zone = Zone of its relay
label-zone-curve = Curve of the zone's relay
label-size = Size as shown
label-phases = Phases
label-nodes = Nodes
label-rated-voltages-v = Rated voltages
label-impedance-13-pct = Impedance to the third winding
label-impedance-23-pct = Impedance second to third winding
label-x2-pu = X2
label-x0-pu = X0
label-r0-ohm = Zero-sequence resistance
label-x0-ohm = Zero-sequence reactance
label-neutral-grounded = Neutral grounded
label-ohms-at-c = Ohms given at
label-hot-c = Hot conductor
label-induced-voltage = Induced voltage

choice-normal-position-open = open
choice-normal-position-closed = closed
choice-normal-position-normal = normal
choice-normal-position-emergency = emergency
choice-normal-position-off = off
choice-normal-state-running = running
choice-normal-state-stopped = stopped
choice-normal-state-inverter = on its inverter
choice-normal-state-battery = on battery
choice-normal-state-bypass = on bypass
choice-stored-energy-electrical = electrical
choice-stored-energy-spring = spring
choice-stored-energy-pressure = pressure
choice-stored-energy-gravity = gravity
choice-construction-molded-case = molded case
choice-construction-insulated-case = insulated case
choice-construction-power = power
choice-construction-medium-voltage = medium voltage
choice-conductor-copper = copper
choice-conductor-aluminum = aluminum
choice-conduit-pvc = PVC
choice-conduit-aluminum = aluminum
choice-conduit-steel = steel
choice-current-ac = AC
choice-current-dc = DC
choice-grounding-solid = solid
choice-grounding-resistance = resistance
choice-grounding-ungrounded = ungrounded
choice-grounding-unknown = unknown
choice-equipment-class-medium-voltage-switchgear = medium-voltage switchgear
choice-equipment-class-low-voltage-switchgear = low-voltage switchgear
choice-equipment-class-switchboard = switchboard
choice-equipment-class-panelboard = panelboard
choice-equipment-class-motor-control-center = motor control center
choice-equipment-class-transformer = transformer
choice-equipment-class-cable-junction-box = cable junction box
choice-equipment-class-generator-terminal-box = generator terminal box
choice-equipment-class-converter = converter
choice-equipment-class-battery = battery
choice-equipment-class-control-panel = control panel
choice-equipment-class-outdoor-terminal = outdoor terminal

editing-a-cable-of-known-length = a cable or busway whose length is told
editing-a-count = a whole number from 1 to 1000
editing-a-device-that-opens = a device that opens
editing-a-new-tag-for-each-part = a new tag for each of these
editing-a-node-that-it-does-not-join-yet = a node that it does not join yet
editing-a-part-of-a-tag = a part of one of the tags
editing-a-tag-that-nothing-has = a tag that nothing else has
editing-an-end-of-this-element = an end of this piece
editing-from-to-one = a number from 0.1 to 1
editing-not-changed-so = a field that is changed in this way
editing-only-what-joins-two-nodes-of-one-voltage = a piece that joins two nodes of one voltage
editing-shorter-than-the-cable = less than the { N($length_m) } m of the cable
editing-these-groups-hang-at-alternating-current = a node of alternating current
editing-units-needs-the-voltage = a unit that does without a voltage: none is known here
editing-where-it-comes-from = where it was read off

doubts = Assumed and missing
doubts-question = What is assumed, and how far could it carry a figure?
doubts-cap = Each alone at either end of its usual range, the whole site computed anew; together they may reach further. A range is common practice, not a limit.
doubts-confirm = These are so
doubts-up = up to { PERCENT($part) } more
doubts-down = or { PERCENT($part) } less
doubts-part = { PERCENT($part) }
doubts-figure-or-none = a figure or none
doubts-generic = a generic curve
doubts-missing = missing
doubts-moves-nothing = nothing
doubts-none = Nothing is assumed, and nothing that a figure needs is missing.
doubts-not-tried = no range is known
doubts-stage = Every value is tried at both ends of its range: { $stage }.
doubts-head-sure = So
doubts-head-what = Value
doubts-head-value = Taken as
doubts-head-moves = Moves a figure by
doubts-head-where = Where most, cal/cm²
doubts-head-site = Worst of the site by
verdict-doubts = { $count ->
    [0] Nothing is assumed.
    [one] One value is assumed or missing
   *[other] { $count } values are assumed or missing
}{ $far ->
    [0] { $count ->
        [0] { "" }
       *[other] ; none could move a figure by over 5 %.
    }
    [one] ; [late]one[/] could move a figure by over 5 %.
   *[other] ; [late]{ $far }[/] could move a figure by over 5 %.
}
verdict-doubts-computing = It is being computed what each assumed value could do.

## web/curves.py, core/curves/library.py, core/curves/traced.py

curves = Generic curves
curves-question = Which curve is it like, until its sheet is at hand?
curves-answer = { $count ->
    [one] [b]One generic curve[/]
   *[other] [b]{ $count } generic curves[/]
} of our own, none of any maker; a figure that rests on one is assumed.
curves-find = Find
curves-at-rating = At a rating of, A
curves-show = Show
curves-none = None is called so.
curves-drawn = Time-current curve: { $name }
curves-sheet-of = Sheet of the curve of { $tag }
curves-two-numbers-a-line = two numbers a line: amperes and seconds
curves-a-place-on-the-picture = a place on the picture, from 0 to 1 along its side
curves-library-needs-the-rating = a generic curve with the rating of its device, in A, beside it
curves-traced-a-value-above-zero = a value above 0, in A or s
curves-traced-two-marks-apart = two marks well apart, of two values
curves-traced-the-other-way-round = currents that rise to the right, and times that rise upward
generic-thermal-magnetic = Thermal-magnetic, magnetic part at 10 times
generic-thermal-magnetic-low = Thermal-magnetic, magnetic part at 5 times
generic-trip-long-instantaneous = Electronic trip, long time and instantaneous
generic-trip-long-short = Electronic trip, long and short time, 0.3 s
generic-trip-long-short-slow = Electronic trip, long and short time, 0.4 s
generic-trip-all = Electronic trip, long, short, instantaneous
generic-fuse-delay = Fuse, time-delay
generic-fuse-fast = Fuse, fast
generic-fuse-medium-voltage = Fuse, medium voltage
generic-relay-moderately-inverse = Relay, moderately inverse
generic-relay-very-inverse = Relay, very inverse with instantaneous
generic-relay-very-inverse-slow = Relay, very inverse, slow
generic-relay-extremely-inverse = Relay, extremely inverse with instantaneous
generic-relay-iec-standard-inverse = IEC relay, standard inverse
generic-relay-iec-very-inverse = IEC relay, very inverse with instantaneous
generic-relay-iec-extremely-inverse = IEC relay, extremely inverse with instantaneous
curve-of = Curve of { $tag }
curve-question = When does { $tag } clear?
curve-band-cap = Between the fastest and the slowest that it may be; figures are computed with the slowest.
curve-none-cap = No curve is told, so it is never counted on to clear.
curve-by-kind = A generic one
curve-generic-at = Like, at { $amperes } A
curve-generic-cap = It stays assumed until settings, points or the sheet are entered.
curve-take = Take it for now
curve-by-settings = By its settings
curve-type = Kind of device
curve-kind-trip = Electronic trip
curve-kind-thermal-magnetic = Thermal-magnetic
curve-kind-relay = Inverse-time relay
curve-kind-unit = Relay of one fixed time
curve-kind-fixed = A fixed clearing time
curve-type-trip = electronic trip, { N($amperes) } A
curve-type-thermal-magnetic = thermal-magnetic, { N($amperes) } A
curve-type-relay = relay, pickup { N($amperes) } A
curve-type-unit = relay of one time, pickup { N($amperes) } A
curve-type-fuse = points from { N($amperes) } A on
curve-type-fixed = a fixed clearing time
setting-long-pickup-a = Long-time pickup, A
setting-long-delay-s = Long-time delay at 6 times pickup, s
setting-short-pickup-a = Short-time pickup, A
setting-short-delay-s = Short-time delay, s
setting-short-i2t = I²t in short time
setting-instantaneous-a = Instantaneous pickup, A
setting-instantaneous-clearing-s = Instantaneous clearing time, s
setting-interlock-delay-s = Delay where nothing below restrains it, s
setting-tolerance-pct = Tolerance, %
setting-rated-a = Rating of the trip, A
setting-seconds-at-3x = Time at 3 times its rating, s
setting-magnetic-a = Magnetic pickup, A
setting-magnetic-clearing-s = Magnetic clearing time, s
setting-pickup-a = Pickup, primary A
setting-dial = Time dial
setting-breaker-s = Breaker's own time, s
setting-instantaneous-s = Instantaneous time of the relay, s
setting-flat-above = Flat above, times pickup
setting-operating-s = Operating time, s
setting-clearing-s = Clearing time, s
setting-relay-curve = Standard and curve
curve-keep-settings = Keep these settings
curve-by-points = By points
curve-clearing-points = Total clearing, a point a line: A s
curve-melting-points = Melting, where the sheet tells it
curve-points-cap = Currents rise from line to line, times must not. A CSV with current_a, melting_s, clearing_s is read too.
curve-keep-points = Keep these points
curve-by-tracing = Traced on a picture of the sheet
curve-tracing-cap = Both axes of the sheet are logarithmic: mark two known values on each, then points along the total-clearing edge. The picture is kept. By eye is good to some percent.
curve-picture = Picture of the sheet
curve-picture-alt = Picture of the maker's sheet, to be marked
curve-upload = Put it up
curve-next-click = The next click marks
curve-click-x1 = first current
curve-click-x2 = second current
curve-click-y1 = first time
curve-click-y2 = second time
curve-click-clearing = a clearing point
curve-click-melting = a melting point
curve-value-x = Current { $number }
curve-value-y = Time { $number }
curve-at-x = Place of current { $number }, from the left, 0 to 1
curve-at-y = Place of time { $number }, from the top, 0 to 1
curve-rub = Take the last point back
curve-keep-traced = Keep the traced curve
curve-traced-from = The picture that it was traced on

## web/network_files.py, actions/workbooks.py, core/network/sheets.py

import = Bring a network in
export-xlsx = XLSX
export-zip = CSV
no-network-build = Build it here
no-network-import = Bring one in
import-question = Can it become the network?
import-answer = JSON, [b]one workbook[/] (XLSX), or a folder of CSV (zip). It becomes a draft; nothing is published by it.
import-faults = { $count ->
    [one] [late]One thing[/] in { $name } cannot be as it is. Nothing was kept.
   *[other] [late]{ $count } things[/] in { $name } cannot be as they are. Nothing was kept.
}
import-could-be-read = What could be read:
import-count-elements = pieces of equipment
import-count-nodes = nodes
import-count-enclosures = enclosures
import-count-cases = cases
import-head-sheet = Sheet
import-head-row = Row
import-head-record = Record
import-head-column = Column
import-head-value = What stands there
import-head-allowed = What would be right
import-file = JSON, XLSX, or CSV packed into a zip
import-keep = Even with faults: keep what can be read as a draft, and mend it here
import-cap = An export of a revision, from the list of revisions, is the pattern: a sheet a kind, heads with units, a row of explanations and one of example.
import-bring = Bring it in
import-brought = { $name } brought in{ $count ->
    [0] { "" }
    [one] , one fault in it
   *[other] , { $count } faults in it
}
import-a-file = a file that holds something
import-json-that-can-be-read = a network document in JSON
sheets-a-sheet-of-these = one of these sheets: { LIST($options) }
sheets-a-column-of-these = one of these columns: { LIST($options) }
sheets-a-number = a number
sheets-a-number-in = a number, in { $unit }
sheets-a-number-or-nothing = a number, or nothing
sheets-a-point-for-decimals = a number with a point for decimals, nothing between thousands
sheets-json = JSON, as the example has it
sheets-this-unit = the unit { $unit }
sheets-order = Place in the document; may be left empty
workbooks-an-ending = a file that ends in .json, .xlsx or .zip
workbooks-a-workbook = a workbook that can be opened
workbooks-a-value = a value
workbooks-values-not-formulas = values, no formulas: what a formula gives depends on who opens it
workbooks-a-folder-of-csv = a zip with at least one CSV file
workbooks-so-many-rows = at most { $most } rows a sheet
workbooks-so-many-bytes = at most { $most } MB unpacked

## actions/attachments.py

attachments-keep-what-belongs-to-equipment = keep what belongs to equipment
attachments-a-day-after-it = a day after the one on which it was done
attachments-a-day-that-has-been = a day that has been
attachments-a-link = an address that begins with http:// or https://
act-attached = attached
act-attachment-taken-off = attachment taken off
act-maintenance-recorded = maintenance recorded

## web/equipment.py, network/equipment.html

equipment-kept-kept = [b]Properly maintained[/], last on { $since }.
equipment-kept-kept-due = [b]Properly maintained[/], last on { $since }, due again on { $due }.
equipment-kept-overdue-due = [late]Not properly maintained:[/] { $what } was due on { $due }, last done on { $since }.
equipment-kept-failed = [late]Not properly maintained:[/] { $what } failed on { $since }.
equipment-kept-failed-due = [late]Not properly maintained:[/] { $what } failed on { $since }. Due again on { $due }.
equipment-no-upkeep-yet = Nobody has recorded that anything was done to it.
equipment-upkeep = Upkeep
equipment-no-upkeep = Nothing is recorded: whether it is properly maintained is asked with every job.
equipment-record-upkeep = Something was done
equipment-same-words = Each kind of work has its own due day, told apart by these words. What failed or is overdue is settled by the same work done again, by nothing else.
equipment-record = Record it
equipment-head-day = Day
equipment-head-what = What was done
equipment-head-by = By whom
equipment-head-result = Result
equipment-head-due = Due again
equipment-result-good = as it should be
equipment-result-minor = a defect that does not matter to its working
equipment-result-failed = failed: not to be relied on
equipment-note = Notes
equipment-documents = Documents and pictures
equipment-no-documents = None yet.
equipment-attach = Add a document
equipment-title = What it is
equipment-file = Picture or PDF
equipment-link = Or an address of it
equipment-take-off = Take it off
equipment-who-may = Coordinators, directors and operators keep documents.
equipment-story = Everything that touched it
equipment-a-file-or-a-link = a file or an address
card-documents = Documents and upkeep
card-assumed = { $own ->
    [0] It rests on { $count } assumed values of the network, none of this piece.
   *[other] It rests on { $count } assumed values of the network, { $own } of them of this piece and its enclosures.
}
card-not-kept-overdue = [late]{ $tag } is not properly maintained:[/] it was due on { $day }. Its clearing time is that of a device that works.
card-not-kept-failed = [late]{ $tag } is not properly maintained:[/] it failed on { $day }. Its clearing time is that of a device that works.
job-upkeep-kept = By its record it is in date, last on { $since }: left open, this counts as answered yes.
job-upkeep-overdue = By its record { $what } is overdue, last on { $since }: this counts as answered no.
job-upkeep-failed = By its record { $what } failed on { $since }: this counts as answered no.

## web/asking.py, actions/asking.py

sources-of = Sources of { $tag }
sources-question = From where could it be live?
sources-lanes = Every way by which it could be live, a lane each
sources-lanes-cap = Source at the left, the place at the right, a shared device in one column; a dashed upright line is a device that alone cuts all that can be cut. Choose a lane to see it alone.
sources-more = There are more ways than are drawn; the cuts count all of them.
sources-cuts = What would cut them
sources-head-how = Choice
sources-head-count = Devices
sources-head-devices = Which
sources-head-dark = What goes dark
sources-usual = As an isolation is drafted: nearest on each way
sources-smallest = Fewest devices, most else kept on
sources-nothing-dark = nothing more
sources-no-isolation = No isolation can be drafted:
sources-inside = No device that isolates stands between it and these; they are blocked, discharged or cut at themselves:
sources-unrecorded = { $name } in { $box }, from { $source }: nothing is recorded that cuts it.
sources-way-live = Way { $number }, from { $source }: live now
sources-way-may = Way { $number }, from { $source }: may feed
sources-way-open = Way { $number }, from { $source }: open at { $at }
sources-way-blocked = Way { $number }, from { $source }: blocked at the source
sources-state-live = live now
sources-state-may = may feed
sources-state-open = open at { $at }
sources-state-blocked = blocked at the source
sources-col-no = No.
sources-col-source = Source
sources-col-state = Now
sources-col-through = Through
verdict-sources = { $tag } is live by { $live ->
    [0] no way
    [one] [live]one way[/]
   *[other] [live]{ $live } ways[/]
}{ $may ->
    [0] .
    [one] , and [unk]may be by one more[/].
   *[other] , and [unk]may be by { $may } more[/].
}
verdict-sources-inside = { $count ->
    [one] Between it and [late]one of them[/] no device isolates.
   *[other] Between it and [late]{ $count } of them[/] no device isolates.
}
verdict-sources-single = { LIST($tags) } alone would cut all of them.
verdict-sources-set = It takes { $count } devices to cut all of them.
trial = If it were operated
trial-try = If it were operated
trial-question = If it were operated, what would that do?
trial-as-if = As if: nothing is operated
trial-drawing = One-line as it would stand
trial-chain = Acts that are tried
trial-chosen = Watched:
trial-then = Then { $tag } is
trial-lost = Without supply:
trial-tell = Tell: { LIST($names) }
trial-breaks-load = It interrupts load.
trial-joins = It joins { $one } and { $other }, which are not declared to run in parallel.
trial-loop = It closes a loop: its sides are joined already.
trial-backwards = Fed from the other side:
trial-dead = Comes to be dead, not proved:
trial-alive = Comes to be live, or may be:
trial-still = By which ways it is live, or may be, then
trial-none-left = None by the record. It is not proved: only a test proves it dead.
trial-empty = None yet: choose a device and a position.
trial-next = Next, at
trial-to = To
trial-add = Try it
trial-back = Take the last one back
trial-hand = Hand the goal to Switching, for a job
trial-no-job = No job is open: start one first.
trial-place = Watch a place
trial-watch = Watch it
asking-at-most = at most { $most } acts
asking-others-move-it = What others operate is asked of them.
asking-it-is-moved-by = { $tag } is moved by { $by }
asking-ask-them = ask them
verdict-trial-nothing = Try acts one after the other, [b]as if each were done and looked at.[/]
verdict-trial = { $count ->
    [one] [b]One act[/]
   *[other] [b]{ $count } acts[/]
}: { $lost ->
    [0] nothing loses its supply.
    [one] one piece loses its supply.
   *[other] { $lost } pieces lose their supply.
}
verdict-trial-refused = { $count ->
    [one] [late]One is against a rule.[/]
   *[other] [late]{ $count } are against a rule.[/]
}
verdict-trial-live = { $tag } would still be [live]live[/].
verdict-trial-unknown = { $tag } [unk]may still be live[/].
verdict-trial-dead = { $tag } would be dead by the record, [b]not proved[/].
verdict-trial-proved = { $tag } would stay proved dead.
verdict-trial-grounded = { $tag } would stay grounded.
by-place = By place
by-place-question = What stands where?
by-place-answer = { $count ->
    [one] [b]One place[/]
   *[other] [b]{ $count } places[/]
}
by-place-untold = No place is told
card-sources = From where could it be live?
card-trial = If it were operated

## web/layers.py, web/network_pages.py

view-options = Show
view-state = In which state
view-state-now = as it stands now
view-state-normal = in normal service
view-after-step = { $number }, after step { $step }
view-not-now = [late]Not as it stands now:[/] { $state }. Nothing here is found or proved.
view-layer = With
view-fold = Boards folded into one plate
view-fold-all = Fold all
view-show = Show it
view-find = Find a tag
view-paper = On paper
layer-name-state = nothing besides
layer-name-energy = incident energy
layer-name-fault = fault level
layer-name-duty = duty of devices
layer-name-holds = locks and { -permit(form: "many") }
layer-name-age = age of what is known
layer-name-voltage = voltage
layer-cap-energy = The wider the halo, the higher the worst incident energy: from 1.2, 8, 25 and 40 cal/cm² on. Without a figure it is the widest.
layer-cap-fault = The wider the halo, the higher the bolted fault current: from 5, 15, 30 and 50 kA on.
layer-cap-duty = A halo: its duty check fails, or cannot be made.
layer-cap-holds = A halo: a lock hangs there, or a { -permit } is in force or issued.
layer-cap-age = The wider the halo, the longer ago it was seen: 30 days, 90 days, one year, three years; the widest was never seen.
layer-cap-voltage = The wider the halo, the higher the voltage.
layer-no-figure = no figure
layer-energy = { ENERGY($energy) } cal/cm²
layer-fault = { FIX($ka, digits: 1) } kA
layer-duty-holds = passes
layer-holds = { LIST($names) }
layer-never-seen = never seen
layer-seen = { $days ->
    [0] today
    [one] one day ago
   *[other] { $days } days ago
}
drawing-facts-a-step-of-it = a step from 0 to { $last }
drawing-paper = One-line
drawing-fit = Fit it on one sheet
drawing-tiled = In parts of readable size
drawing-sheet = Sheet { $number } of { $of }

## web/walking.py, actions/walking.py

walk = Walk-down
walk-question = What stands here?
walk-answer = { $count ->
    [one] [b]One place[/] to walk down. Choose it.
   *[other] [b]{ $count } places[/] to walk down. Choose one.
}
walk-answer-place = { $place }: { $count ->
    [one] [b]one piece[/]
   *[other] [b]{ $count } pieces[/]
}, as they stand. See first, then compare.
walk-places = Places
walk-who-may = Coordinators and directors walk down.
walk-keep = Keep it
walk-sent = Everything is sent.
walk-kept-here = {"{}"} kept on this device, to be sent
walk-stopped = Stopped or suspended: {"{}"}
walk-sign-in-again = Kept on this device. Load this page anew and sign in: then they are sent.
walk-refused = Not recorded
walk-no-such-piece = Not recorded: the network has no such piece any more. Say it again where it belongs.
walk-read = I have read it
walk-send-now = Send now
walk-codes = Codes to stick on
walk-stands = It stands
walk-not-seen = not seen
walk-lock = A lock hangs on it
walk-lock-no = no
walk-lock-yes = yes
walk-lock-number = Number
walk-plate = The plate, compared with the record
walk-condition = Condition
walk-picture = Picture
walk-picture-of = Seen on the walk-down: { $tag }
walk-not-here = It is not here
walk-other = Not on the drawing
walk-other-tag = Tag that it bears
walk-other-what = What it is, and where it is fed from
walk-other-keep = Note it
walking-begun = Begun by a walk-down
walking-seen = { $tag } seen
walking-not-here = { $tag } is not there
walking-plate = Plate of { $tag }
walking-a-lock-seen = a lock { $lock }
walking-no-lock-seen = no lock
walking-lock-otherwise = the record of locks says otherwise: settle it on the spot
walking-noted = noted on the walk-down: see to it
walking-hang-it = stands at { $place }: hang it where it belongs
codes-of = Codes of { $place }
draft-to-see-to = To see to
draft-seen-to = Seen to

## actions/source_ways.py

source-ways-no-set = no set of devices cuts everything from { $tag }
source-ways-draft-the-usual = draft it as usual: what is in the way is named there
source-ways-another-choice = { $tag }: left alone, fewer devices were chosen
source-ways-fewest = By the fewest devices
source-ways-compare = Compare the choices

draft-left = Further left
draft-right = Further right
draft-aside = { $tag } moved aside in the drawing
editing-a-piece-with-another-on-that-side = a piece with another one on that side
view-unfold-all = Unfold all
walking-recorded-since = what is seen there now: something was recorded on { $tag } since it was seen
