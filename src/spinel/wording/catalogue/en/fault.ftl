## core/fault/asymmetry.py

asymmetry-from-0-to-100-cycles = from 0 to 100 cycles
asymmetry-one-of = one of { $peak }, { $rms }, { $parting }

## core/fault/impedance.py

impedance-network-document = network document

## core/fault/unbalanced.py

unbalanced-zero-sequence-passes-only-by-the-magnetizing = zero sequence passes only by the magnetizing impedance of { $tags }, not recorded: small, but not zero
unbalanced-the-id-of-a-node = the id of a node
unbalanced-no-path-to-ground-an-ungrounded-system = no path to { -ground }: an ungrounded system
unbalanced-vector-group-is-not-recorded = { $tag }: vector_group is not recorded
unbalanced-z0-z1-is-not-recorded = { $tag }: z0_z1 is not recorded
unbalanced-r0-ohm-and-x0-ohm-are-not = { $tag }: r0_ohm and x0_ohm are not recorded
unbalanced-x0-pu-is-not-recorded = { $tag }: x0_pu is not recorded

## core/fault/nodal.py

nodal-an-ac-node-that-a-source-or = an AC node that a source or motor feeds in this case

## core/fault/point_to_point.py

point-to-point-motors-add = Motors add
point-to-point-a = { N($multiple) } × { FIX($full_load_a, digits: 0) } A
point-to-point-a-node-that-a-utility-or-running = a node that a utility or running generator feeds
point-to-point-from-0-5-to-1-0-9 = from 0.5 to 1: 0.9 takes a tolerance of 10 % off, 1 none
point-to-point-full-load-current = Full-load current
point-to-point-kva-1000-1-732-v = { N($kva) } kVA × 1000 / (1.732 × { N($volts) } V)
point-to-point-bolted-fault-current = Bolted fault current
point-to-point-a-100 = { FIX($amps, digits: 1) } A × 100 / ({ N($z) } % × { N($factor) })
point-to-point-1-732-a-v-100-000-kva = 1.732 × { FIX($current, digits: 0) } A × { N($high) } V × { N($z) } % / (100 000 × { N($kva) } kVA)
point-to-point-a-v-v = { FIX($current, digits: 0) } A × { N($high) } V / { N($low) } V × { FIX($m, digits: 5) }
point-to-point-from-1-to-1-000-000 = from 1 to 1 000 000
point-to-point-a-whole-number-from-1-to-100 = a whole number from 1 to 100
point-to-point-1-732-ft-a-v = 1.732 × { FIX($feet, digits: 1) } ft × { FIX($current, digits: 0) } A / ({ FIX($c_value, digits: 0) } × { $per_phase } × { N($volts) } V)
point-to-point-a-2 = { FIX($current, digits: 0) } A × { FIX($m, digits: 5) }
point-to-point-a-number-above-0-a = a number above 0 A
point-to-point-from-1-to-10 = from 1 to 10
point-to-point-a-size-with-a-published-c-value = a { $metal } size with a published C value
point-to-point-conductors-as-c-values-not-by-their = conductors as C values, not by their own ohms and temperature
point-to-point-impedances-added-as-magnitudes-not-with-their = impedances added as magnitudes, not with their angles
point-to-point-motors-other-sources-and-other-ways = motors, other sources and other ways
point-to-point-on-a-way-without-a-three-winding = on a way without a three-winding transformer: not point to point

## core/fault/scenes.py

scenes-just-past-a-step-of-a-device = just past a step of a device
scenes-conductors = conductors
scenes-cold = cold
scenes-hot = hot
scenes-between-and = { $whom } between { $strongest } and { $weakest }, { $step }
scenes-cold-conductors = cold conductors
scenes-hot-conductors = hot conductors
scenes-nominal-impedances = nominal impedances
scenes-what-delivers-to-a-fault-on-its = what { $tag } delivers to a fault on its inverter is not recorded
scenes-every-source = every source
scenes-the-others = { $tag } weakest, the others strongest
scenes-between-and-the-others = { $tag } between strongest and weakest, the others strongest, { $step }
scenes-impedances-as-the-case-sets-them = impedances { $pinned } as the case sets them
scenes-generators-at-their-transient-reactance = generators at their transient reactance
scenes-generators-at-what-they-sustain = generators at what they sustain
scenes-though-no-case-feeds-it = { $name }, though no case feeds it: { $words }
scenes-generators-when-excitation-support-has-ended = generators when excitation support has ended
scenes-what-is-open-on-the-way-closed = what is open on the way closed
scenes-unknown-positions-open = { $name }, unknown positions open
scenes-generators-after-s = generators after { N($moment) } s
scenes-on = { $name }, { $tags } on { $words }
scenes-supply-as-the-case-sets-it = { $name }, supply as the case sets it
scenes-closed = { $tag } closed
scenes-running = { $tag } running
scenes-at-its-strongest = { $whom } strongest
scenes-at-its-weakest = { $whom } weakest
scenes-strongest = strongest
scenes-weakest = weakest
