## core/switching/life.py

switching-life-edit-a-program = edit a { -program }
switching-life-check-a-program = check a { -program }
switching-life-release-a-program = release a { -program }
switching-life-start-a-program = start a { -program }
switching-life-confirm-a-step = confirm a step
switching-life-name-another-operator = name another operator
switching-life-stop-a-program = stop a { -program }
switching-life-resume-a-program = resume a { -program }
switching-life-record-a-deviation = record a deviation
switching-life-abandon-a-program = abandon a { -program }

## core/switching/rules.py

switching-rules-the-end-is-the-state-at-drafting = the end is the state at drafting
switching-rules-people-are-told = people are told
switching-rules-devices-are-operated-checked-locked-and-tagged = devices are operated, checked, locked and tagged
switching-rules-mechanical-energy-is-blocked-or-released = mechanical energy is blocked or released
switching-rules-the-start-is-tried = the start is tried
switching-rules-residual-voltage-is-read-and-bled = residual voltage is read and bled
switching-rules-the-instrument-is-proved = the instrument is proved
switching-rules-absence-of-voltage-is-tested = { -absence } is tested
switching-rules-the-instrument-is-proved-again = the instrument is proved again
switching-rules-grounds-are-applied = { -ground(form: "many") } are applied
switching-rules-it-is-handed-over = it is handed over
switching-rules-the-place-is-inspected = the place is inspected
switching-rules-blocks-and-grounds-come-off = blocks and { -ground(form: "many") } come off
switching-rules-locks-come-off = locks come off
switching-rules-devices-are-closed-and-checked = devices are closed and checked
switching-rules-automatic-modes-are-set = automatic modes are set
switching-rules-its-equipment = its equipment
switching-rules-the-state-before-a-step-is-the = the state before a step is the state expected
switching-rules-is-the-step-expects = { $identity } is { $is_now }; the step expects { $before }.
switching-rules-draft-the-step-anew-from-the-state = Draft the step anew from the state as it is.
switching-rules-every-step-is-stated-in-full = every step is stated in full
switching-rules-missing = Missing: { $what }.
switching-rules-fill-it-in-nothing-is-left-to = Fill it in; nothing is left to be known.
switching-rules-people-are-told-first = people are told first
switching-rules-nobody-affected-was-told = Nobody affected was told.
switching-rules-put-the-step-that-tells-them-first = Put the step that tells them first.
switching-rules-the-settled-order = the settled order
switching-rules-here-after = Here { $mine } after { $latest }.
switching-rules-first-then = First { $mine }, then { $latest }.
switching-rules-inspected-before-anything-is-undone = inspected before anything is undone
switching-rules-nobody-looked-that-tools-are-out-and = Nobody looked that tools are out and covers on.
switching-rules-inspect-before-blocks-grounds-and-locks-come = Inspect before blocks, { -ground(form: "many") } and locks come off.
switching-rules-a-step-records-nothing-of-the-kind = A { $kind } step records nothing of the kind.
switching-rules-draft-it-anew = Draft it anew.
switching-rules-no-operation-without-its-check = no operation without its check
switching-rules-is-operated-and-never-checked = { $identity } is operated and never checked.
switching-rules-check-it = Check it.
switching-rules-an-isolation-ends-with-its-handover = an { -isolation } ends with its handover
switching-rules-nobody-is-handed-it = Nobody is handed it.
switching-rules-end-with-the-handover = End with the handover.
switching-rules-a-lock-or-tag-of-is-left = A lock or tag of { $hold } is left on { $tag }.
switching-rules-take-it-off = Take it off.
switching-rules-ends-it-was = { $tag } ends { $position }, it was { $was }.
switching-rules-bring-it-back = Bring it back.
switching-rules-blocked = blocked
switching-rules-unblocked = unblocked
switching-rules-ends = { $tag } ends { $what }.
switching-rules-does-not-end-running-or-stopped-as = { $tag } does not end running or stopped as it was.
switching-rules-a-ground-is-left-at = A { -ground } is left at { $node_id }.

## core/switching/plant.py

switching-plant-one-blade-of-a-device-stays-closed = One blade of a device stays closed when it is opened
switching-plant-something-that-nobody-recorded-feeds-the = Something that nobody recorded feeds the equipment
switching-plant-the-meter-stops-working-between-its-two = The meter stops working between its two checks
switching-plant-the-residual-voltage-rises-instead-of-falling = The residual voltage rises instead of falling

## core/switching/edit.py

switching-edit-open-it = open it
switching-edit-withdraw-it = withdraw it
switching-edit-insert-it = insert it
switching-edit-close-it = close it
switching-edit-check-its-position = check its position
switching-edit-lock-and-tag-it = lock and tag it
switching-edit-take-off-lock-and-tag = take off lock and tag
switching-edit-block-its-shaft = block its shaft
switching-edit-take-the-block-off-its-shaft = take the block off its shaft
switching-edit-try-to-start-it = try to start it
switching-edit-tell-those-affected-by-it = tell those affected by it
switching-edit-a-place-from-1-to = a place from 1 to { $count }
switching-edit-at-least-one-step = at least one step
switching-edit-a-step-from-1-to = a step from 1 to { $count }
switching-edit-step = Step { $i }, { $identity }: { $why }

## core/switching/restore.py

switching-restore-stays-holds-it = { $tag } stays { $position }: { $others } holds it.
switching-restore-stays-nobody-had-recorded-its-position-when = { $tag } stays { $position }: nobody had recorded its position when this was drafted.

## core/switching/steps.py

switching-steps-as-it-stands = as it stands
switching-steps-not-checked = { $position }, not checked
switching-steps-not-blocked = not blocked
switching-steps-may-be-charged = may be charged
switching-steps-not-grounded = not { -ground(form: "done") }
switching-steps-not-released = not released

## core/switching/wording.py

wording-to-the-side-of-it-face-away = To the side of it, face away, doors closed, nobody in front
wording-at-the-remote-control-nobody-inside-the = At the remote control, nobody inside the boundary
wording-at-its-front-doors-closed-nothing-opened = At its front, doors closed, nothing opened
wording-at-its-opened-side-gloves-and-arc = At its opened side, gloves and arc-rated clothing on, others behind the { -barricade }
wording-where-those-affected-are-reached-outside-every = Where those affected are reached, outside every boundary
wording-the-shaft-so-that-it-cannot-turn = the shaft so that it cannot turn
wording-what-can-fall-or-sink = what can fall or sink
wording-the-spring = the spring
wording-the-pressure = the pressure
wording-inspect-tools-and-people-out-covers-on = INSPECT: tools and people out, covers on, settings back
wording-hand-over-the-isolation-to-the-person = HAND OVER the { -isolation } to the { -in_charge }
wording-location-not-recorded = location not recorded
wording-will-be-isolated = will be isolated
wording-will-be-made-live-again = will be made live again
wording-tell-everybody-affected-that-it = TELL everybody affected that it { $what }
wording-open-every-blade = open, every blade
wording-withdrawn-shutters-closed = withdrawn, shutters closed
wording-check-that-it-is = CHECK that it is { $seen }
wording-lock-and-tag-it = LOCK AND TAG it { $position }
wording-take-off-lock-and-tag-leave-it = TAKE OFF LOCK AND TAG, leave it { $position }
wording-block = BLOCK { $what }
wording-release = RELEASE { $what }
wording-take-off-the-block-from = TAKE OFF THE BLOCK from { $what }
wording-bleed-it-through-a-rated-resistor-below = BLEED it through a rated resistor, below the limit
wording-try-to-start-it-doors-closed-then = TRY TO START it, doors closed, then control back to off
wording-each-conductor-with-the-high-voltage-detector = each conductor with the high-voltage detector
wording-every-pair = every pair
wording-test-the-terminals-of-for-absence-of = TEST the terminals of { LOWER($name) } for { -absence }
wording-close-the-ground-switch = CLOSE THE { -ground(form: "ONE") } SWITCH
wording-ground-and-short-circuit-it-ground-end = { -ground(form: "ONE") } AND SHORT-CIRCUIT it: { -ground } end first, phases after
wording-open-the-ground-switch = OPEN THE { -ground(form: "ONE") } SWITCH
wording-take-the-ground-off-phases-first-ground = TAKE THE { -ground(form: "ONE") } OFF: phases first, { -ground } end last
wording-prove-the-instrument-on-a-known-source = PROVE THE INSTRUMENT on a known source
wording-test-for-absence-of-voltage = TEST { $how } for { -absence }
wording-prove-the-instrument-again-on-a-known = PROVE THE INSTRUMENT AGAIN on a known source
wording-wait-its-discharge-time-read-the-residual = WAIT its discharge time, READ the residual voltage twice

## core/switching/draft.py

switching-draft-passed-over = Passed over: { $why }.
switching-draft-is-also-held-by-it-stays-open = { $tag } is also held by { $others }: it stays open until that lock is off too.
switching-draft-has-no-arc-flash-figure = { $tag } has no arc-flash figure: { $none_because }.
switching-draft-it-cannot-break-load-and-make-onto = { $tag }: it cannot break load and make onto a fault, and nothing near it can for it

## core/switching/step_rules.py

step-rules-has-no-figure = { $tag } has no figure: { $none_because }.
step-rules-has-above-the-ceiling-of-cal = { $tag } has { ABOVE($energy_cal_cm2, $ceiling_cal_cm2) } cal/cm², above the ceiling of { N($ceiling_cal_cm2) } cal/cm².
step-rules-personal-locks-come-off-first = personal locks come off first
step-rules-still-on-the-box = Still on the box: { $personal_locks }.
step-rules-each-takes-off-their-own-lock-for = Each takes off their own lock; for somebody absent the recorded procedure.
step-rules-no-step-above-the-ceiling-or-without = no step above the ceiling or without a figure
step-rules-isolate-further-upstream-operate-by-remote-or = Isolate further upstream, operate by remote, or have it studied.
step-rules-one-operation-a-step = one operation a step
step-rules-a-step-operates-once = A step operates once.
step-rules-make-a-step-of-each-operation = Make a step of each operation.
step-rules-nothing-moves-under-a-lock-or-tag = nothing moves under a lock or tag
step-rules-is-held-by = { $tag } is held by { $whose }.
step-rules-its-owner-takes-it-off-first = Its owner takes it off first.
step-rules-remote-only-where-it-is = remote only where it is
step-rules-has-no-remote-operation = { $tag } has no remote operation.
step-rules-operate-it-by-hand-standing-aside = Operate it by hand, standing aside.
step-rules-no-hand-on-a-device-that-fails = no hand on a device that fails its duty check
step-rules-operate-it-by-remote-or-isolate-upstream = Operate it by remote, or isolate upstream of it.
step-rules-only-a-switching-device-is-operated = only a switching device is operated
step-rules-does-not-open-or-close = { $tag } does not open or close.
step-rules-choose-the-device = Choose the device.
step-rules-only-what-withdraws-is-withdrawn = only what withdraws is withdrawn
step-rules-cannot-be-withdrawn = { $tag } cannot be withdrawn.
step-rules-open-it-instead = Open it instead.
step-rules-nothing-moves-in-or-out-of-its = nothing moves in or out of its place while closed
step-rules-is-not-known-to-be = { $tag } is not known to be { $expected }.
step-rules-have-it-and-checked-first = Have it { $expected } and checked first.
step-rules-only-what-is-known-to-be-open = only what is known to be open is closed
step-rules-is = { $tag } is { $condition }.
step-rules-check-that-it-is-open-first = Check that it is open first.
step-rules-never-close-onto-a-ground = never close onto a { -ground }
step-rules-a-ground-hangs-at-which-would-join = A { -ground } hangs at { $node }, which { $tag } would join.
step-rules-take-it-off-first = Take it off first.
step-rules-two-sources-are-joined-only-where-declared = two sources are joined only where declared
step-rules-would-join-and = { $tag } would join { $joined } and { $joined_2 }.
step-rules-open-one-of-them-first-or-declare = Open one of them first, or declare in the network that they run in parallel.
step-rules-nothing-breaks-or-makes-load-that-is = nothing breaks or makes load that is not built for it
step-rules-would-be-closed-under-load = { $tag } would be closed under load.
step-rules-close-it-while-one-side-is-dead = Close it while one side is dead; { -energize(form: "verb") } by a device that makes load.
step-rules-first-energized-by-a-device-that-makes = first { -energize(form: "done") } by a device that makes onto a fault
step-rules-would-bring-voltage-to-where-people-worked = { $tag } would bring voltage to where people worked.
step-rules-close-it-dead-energize-by-a-device = Close it dead; { -energize(form: "verb") } by a device that can make onto a fault.
step-rules-a-lock-is-removed-by-whoever-hung = a lock is removed by whoever hung it
step-rules-no-lock-of-hangs-on = No lock of { $hold } hangs on { $tag }.
step-rules-leave-it = Leave it.
step-rules-no-isolation-lock-comes-off-before-the = no { -isolation } lock comes off before the { -ground(form: "many") }
step-rules-the-ground-at-still-hangs = The { -ground } at { $node_id } still hangs.
step-rules-take-the-grounds-off-first-while-the = Take the { -ground(form: "many") } off first, while the { -isolation } locks hold.
step-rules-nothing-between = nothing between
step-rules-two-residual-readings-before-bleeding = two residual readings before bleeding
step-rules-nobody-read-whether-the-voltage-of-falls = Nobody read whether the voltage of { $tag } falls.
step-rules-wait-read-twice-falling-is-residual-charge = Wait, read twice: falling is residual charge; steady or rising is a source.
step-rules-the-instrument-is-proved-before-and-after = the instrument is proved before and after
step-rules-the-instrument-was-not-proved-on-a = The instrument was not proved on a known source.
step-rules-prove-it-on-a-known-source-before = Prove it on a known source before the test.
step-rules-every-pair-is-tested = every pair is tested
step-rules-not-tested = Not tested: { $lackings }.
step-rules-test-every-pair-of-conductors = Test every pair of conductors.
step-rules-never-ground-what-is-not-proved-dead = never { -ground } what is not proved dead
step-rules-there-is-no-proof-in-force-at = There is no proof in force at { $node_id }.
step-rules-prove-absence-of-voltage-there-first = Prove { -absence } there first, instrument check included.
step-rules-only-what-isolates-is-locked = only what isolates is locked
step-rules-cannot-isolate-or-cannot-take-a-lock = { $tag } cannot isolate, or cannot take a lock.
step-rules-isolate-upstream-a-tag-alone-never-isolates = Isolate upstream: a tag alone never isolates.
step-rules-a-lock-goes-on-a-checked-device = a lock goes on a checked device only
step-rules-is-not-checked = { $tag } is not checked { LIST($positions, between: " or ") }.
step-rules-operate-it-look-that-it-moved-and = Operate it, look that it moved and stayed, then lock it.
step-rules-blocks-come-off-while-the-isolation-locks = blocks come off while the { -isolation } locks hold
step-rules-is-still-blocked = { $tag } is still blocked.
step-rules-unblock-it-first = Unblock it first.
step-rules-isolated-before = isolated before
step-rules-nothing-isolates-from = Nothing isolates { $name } from { $source }.
step-rules-find-what-does = Find what does.
step-rules-isolated-every-way-from-every-source-is = isolated: every way from every source is open, checked and locked
step-rules-still-reaches-the-target-by-way-of = { $tag } still reaches the target by way of { $through }.
step-rules-open-check-lock-and-tag-a-device = Open, check, lock and tag a device that isolates on that way.
step-rules-mechanical-energy-is-blocked-before-proof = mechanical energy is blocked before proof
step-rules-the-shaft-of-can-turn-and-generate = The shaft of { $tag } can turn and generate.
step-rules-block-it = Block it.
step-rules-the-start-is-tried-before-proof = the start is tried before proof
step-rules-nobody-tried-to-start = Nobody tried to start { $tag }.
step-rules-try-to-start-it-with-the-doors = Try to start it with the doors closed, then set its control back to off.
step-rules-stored-energy-is-released-before-proof = stored energy is released before proof
step-rules-may-still-be-charged = { $tag } may still be charged.
step-rules-wait-its-discharge-time-read-twice-bleed = Wait its discharge time, read twice, bleed it below the limit.
step-rules-every-lock-has-its-tag = every lock has its tag
step-rules-carries-no-tag-of = { $tag } carries no tag of { $hold }.
step-rules-tag-it = Tag it.
step-rules-no-handover-without-proof = no handover without proof
step-rules-at-is-not-proved-dead = { $tag } at { $point } is not proved dead.
step-rules-test-it-instrument-check-included = Test it, instrument check included.
step-rules-would-be-opened-under-load = { $tag } would be opened under load.
step-rules-open-a-device-that-breaks-load-first = Open a device that breaks load first, and check it.
step-rules-holds-energy = { $tag } holds energy: { $what }.
step-rules-block-or-release-it = Block or release it.
step-rules-no-handover-without-the-required-ground = no handover without the required { -ground }
step-rules-at-is-not-grounded = { $tag } at { $point } is not { -ground(form: "done") }.
step-rules-ground-it-above-the-limit-of-the = { -ground(form: "One") } it: above the limit of the profile, or stored or induced energy in the island.
state-locked = { $position }, locked
state-not-locked = { $position }, not locked
state-released = released
state-blocked = blocked
state-discharged = discharged
state-grounded = { -ground(form: "done") }
position-unknown = unknown
position-open = open
position-closed = closed
position-withdrawn = withdrawn
position-running = running
position-stopped = stopped
position-normal = normal
position-emergency = emergency
position-off = off
position-automatic = automatic
position-manual = manual
position-inverter = inverter
position-battery = battery
position-bypass = bypass
step-opened = OPEN
step-closed = CLOSE
step-withdrawn = WITHDRAW
step-inserted = INSERT
step-started = START
step-stopped = STOP
step-set-to = SET TO { UPPER($value) }
step-by-remote = { $what } by remote
program-state-draft = Draft
program-state-checked = Checked
program-state-released = Released
program-state-executing = Executing
program-state-stopped = Stopped
program-state-done = Done
program-state-abandoned = Abandoned

## What the large button of the console says was done, after the identity.

step-rules-duty = { $tag }: { $reason }.
energy-electrical = electrical
energy-spring = spring
energy-pressure = pressure
energy-gravity = gravity

## What the large button of the console says was done, after the identity.

recorded-set-to = was set to { $value }
recorded-opened = was opened
recorded-closed = was closed
recorded-withdrawn = was withdrawn
recorded-inserted = was inserted
recorded-started = was started
recorded-stopped = was stopped
recorded-checked = was looked at: as written
recorded-locked = is locked and tagged
recorded-unlocked = has lock and tag off
recorded-blocked = is blocked
recorded-unblocked = has its block off
recorded-released = has its energy released
recorded-discharged = is bled
recorded-tried = did not start, control is off
recorded-tested = was tested: these readings
recorded-grounded = is { -ground(form: "done") }
recorded-ungrounded = has its { -ground } off
recorded-notified = affected: all were told
recorded-inspect = is inspected: nothing left, covers on
recorded-handover = is handed over
