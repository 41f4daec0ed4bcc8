## core/network/check.py

network-check-must-be = must be { $validator_value }
network-check-must-be-of-type = must be of type { $validator_value }
network-check-violates = violates { $validator } { $validator_value }
network-check-state-one-of = state: one of { $options }
network-check-reactance-only-of-a-generator = reactance: only of a generator
network-check-reactance-its-xd-transient-pu-is-not = reactance: its xd_transient_pu is not recorded
network-check-strength-only-of-a-utility-source = strength: only of a utility source
network-check-must-be-given = must be given
network-check-no-value = no value that the field can hold
network-check-an-unknown-field = an unknown field
network-check-the-fields-that-spinel-network-schema-lists = the fields that `spinel network schema` lists
network-check-each-case-by-a-name-of-its = each case by a name of its own
network-check-rated-kva-and-fault-multiple-not-recorded = { $tag }: rated_kva and fault_multiple not recorded: nothing behind it has a figure
network-check-an-iana-time-zone-name = an IANA time zone name
network-check-given-once = given once
network-check-a-field-that-is-given = a field of this record that is given
network-check-a-day = a day, such as 2026-11-24
network-check-the-tag-of-a-switching-device-with = the tag of a switching device with an end in this enclosure
network-check-no-source = no source
network-check-at-least-one-source-or-generator = at least one source or generator
network-check-finite-numbers-only = finite numbers only
network-check-a-json-object = a JSON object
network-check-must-be-2 = must be { $format }
network-check-this-spinel-reads-versions = this Spinel reads versions { $versions }
network-check-clears-in-ms-within-one-cycle-check = { $tag }: { $name } clears in { SIG($quickest, digits: 3) } ms, within one cycle: check that it can
network-check-not-recorded-what-it-feeds-alone-has = { $tag }: { $lackings } not recorded: what it feeds alone has a figure only where a device is known to clear before its current falls, or escape is clear
network-check-the-id-of-an-enclosure = the id of an enclosure
network-check-nodes = { $count } nodes
network-check-a-has = a { LOWER($kind_name) } has { $text }
network-check-a-transformer-fed-from-itself = a transformer fed from itself
network-check-joined-to-itself = joined to itself
network-check-isolated = isolated { LOWER($kind_name) }
network-check-at-least-one-element-must-join-it = at least one element must join it
network-check-a-transformer-joins-ac-nodes = a transformer joins AC nodes
network-check-compartments-to-be-between = compartments to be between
network-check-given-twice = given twice
network-check-each-key-once-in-an-object = each key once in an object
network-check-valid-json = valid JSON
network-check-too-deep = too deep
network-check-a-network-document = a network document
network-check-used-times = used { $count } times
network-check-unique-among = unique among { $group }
network-check-dangling-must-be-the-id-of-a = dangling: must be the id of a node
network-check-twice = { $ends } twice
network-check-its-ends-must-be-different-nodes = { $what }: its ends must be different nodes
network-check-no-other-element-joins-this-node = { $what }: no other element joins this node
network-check-both-ends-at-one-nominal-voltage-and = both ends at one nominal voltage and kind of current
network-check-and = { $a } and { $b }
network-check-a-transformer-fed-from-itself-its-sides = a transformer fed from itself: its sides are joined
network-check-a-node-of-this-enclosure = a node of this enclosure
network-check-in-one-compartment-and-in-one-only = in one compartment, and in one only
network-check-its-body-in-one-compartment-only = its body in one compartment only
network-check-ids-of-compartments-of-this-enclosure-each = ids of compartments of this enclosure, each once
network-check-the-tag-of-an-element = the tag of an element
network-check-it-has-no-maintenance-curve = it has no maintenance curve

## core/network/sides.py

network-sides-the-end = the { $tag } end
network-sides-the-to = the { LOWER($kind) } to { $far }
network-sides-the-end-at = the end at { $node }
network-sides-not-chosen-the-worst-of-all-sides = not chosen: the worst of all sides
network-sides-all-of-it-racking-inserting-withdrawing = all of it: racking, inserting, withdrawing
network-sides-all-of-it-at-the-bus-or = all of it: at the bus, or altering or removing it
network-sides-itself = { $tag } itself
network-sides-terminals-at = terminals at { LIST($end_words, between: " and ") }

## core/network/windings.py

windings-such-as-dyn11-ynyn0-dd0-or-ynyn0d11 = such as Dyn11, YNyn0, Dd0 or YNyn0d11, first winding in capitals

## core/network/upgrade.py

## core/network/ratings.py

ratings-above-td-subtransient-s-s = above td_subtransient_s, { N($td_subtransient_s) } s
ratings-support-and-its-duration-come-together = support and its duration come together
ratings-from-10-kva-on-a-v-three = from 10 kVA on a { N($max) } V three-phase transformer: kVA is meant, not MVA
ratings-at-v-it-would-carry-more-than = at { N($min) } V it would carry more than 200 kA: kVA is meant, not VA
ratings-normal-emergency-or-off = normal, emergency or off
ratings-open-or-closed = open or closed
ratings-only-what-opens-is-moved-by-others = only a device that opens and closes is moved by others
ratings-a-never-isolates = a { LOWER($kind_name) } never isolates
ratings-from-25-c-the-temperature-of-a = from 25 °C, the temperature of a cold conductor
ratings-one-voltage-for-each-end = one voltage for each end
ratings-from-0-3-percent-is-meant-not = from 0.3 %: percent is meant, not per unit
ratings-zone-and-zone-curve-come-together = zone and zone_curve come together
ratings-at-or-above-per-unit-the-reactance = at or above { N($less) } per unit, the reactance before it
ratings-ohms-or-conductor-size-and-length-m = ohms, or conductor_size and length_m to compute them from
ratings-must-be-given-together-with-the-other = must be given together with the other
ratings-within-of-its-nodes-nominal-voltage-v = within { PERCENT($base_slack) } of its node's nominal voltage, { N($volts) } V: wrong base
ratings-from-ms-a-quarter-of-a-cycle = from { SIG($least, digits: 3) } ms, a quarter of a cycle: nothing clears sooner
ratings-sees-only-its-own-zone-give-it = sees only its own zone: give it as zone_curve, with a zone
ratings-the-id-of-an-enclosure = the id of an enclosure
ratings-the-tag-of-an-element = the tag of an element
ratings-the-tag-of-another-element = the tag of another element
ratings-zero-impedance-at-least-one-above-0 = zero impedance: at least one above 0 ohm
ratings-a-third-windings-impedances-must-be-given = a third winding's impedances must be given, on the same rated_kva
ratings-windings-one-for-each-end = { $count } windings, one for each end

## core/network/ways.py

network-sides-ends-of-voltages = { LIST($ends, between: " and ") }, { LIST($volts, between: " and ") }
as-found-now = as found now
network-check-dangling = dangling
kind-breaker = Circuit breaker
kind-switch = Load-break switch
kind-disconnector = Disconnect
kind-fuse = Fuse
kind-contactor = Contactor
kind-transfer_switch = Transfer switch
kind-inverter = Inverter
kind-rectifier = Rectifier
kind-ups = UPS
kind-source = Utility source
kind-generator = Generator
kind-bus = Bus
kind-motor = Motor
kind-capacitor = Capacitor
kind-battery = Battery
kind-load = Load
kind-shore_connection = Shore connection
kind-ground_switch = Ground switch
kind-transformer = Transformer
kind-cable = Cable
kind-busway = Busway
kind-reactor = Reactor
position-unsure = unsure
position-voltage-present = voltage present
position-lock-unsure = lock unsure
position-ground-unsure = { -ground } unsure
position-block-unsure = block unsure
