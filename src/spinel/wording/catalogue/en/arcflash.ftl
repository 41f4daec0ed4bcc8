## core/arcflash/ieee1584_2018/situation.py

arcflash-situation-ieee-1584-2018-covers-305-mm-and = IEEE 1584-2018 covers 305 mm and more
arcflash-situation-is-in-a-box-give-its-dimensions = { $electrode_configuration } is in a box: give its dimensions
arcflash-situation-ieee-1584-2018-covers-to = IEEE 1584-2018 covers { N($low) } to { N($high) } { $unit }
arcflash-situation-an-enclosure-side-is-over-1244-6 = an enclosure side is over 1244.6 mm: the model caps it there
arcflash-situation-the-enclosure-opening-is-over-1-549 = the enclosure opening is over 1.549 m²
arcflash-situation-the-enclosure-is-not-wider-than-four = the enclosure is not wider than four gaps

## core/arcflash/inverse.py

arcflash-inverse-not-reached-within-mm = not reached within { N($furthest_mm) } mm
arcflash-inverse-exceeded-even-at-ka = exceeded even at { N($low) } kA
arcflash-inverse-above-0-up-to-0-5 = above 0 up to 0.5

## core/arcflash/figures.py

arcflash-figures-and-no-clear-way-of-escape-is = and no clear way of escape is recorded that would allow { N($cap_s) } s
arcflash-figures-case = { $what } (case { $case }{ $between }), { $allowed }
arcflash-figures-it = it
arcflash-figures-nothing-clears = nothing clears { $tags }
arcflash-figures-a-device = a device
arcflash-figures-nothing-clears-it-before-opens-after-s = nothing clears it before { $tag } opens after { FIX($arc, digits: 1) } s
arcflash-figures-between-strongest-and-weakest =  between strongest and weakest
arcflash-figures-how-the-current-of-falls-is-not = how the current of { $tags } falls is not recorded, and no device is known to have cleared an arc before it has ({ $name })
arcflash-figures-no-method-covers-it-case = no method covers it: { $error } (case { $name })

## core/arcflash/places.py

arcflash-places-gap-and-electrode-configuration-of-its = gap and electrode configuration of its enclosure are not recorded
arcflash-places-no-method-here-covers-direct-current-v = no method here covers direct current ({ N($nominal_voltage_v) } V DC)
arcflash-places-no-method-covers-single-phase-circuits-ieee = no method covers single-phase circuits (IEEE 1584-2018 is three-phase)
arcflash-places-no-method-covers-it = no method covers it: { $error }

## core/arcflash/cases.py

arcflash-cases-one-of-ieee1584-2018-lee = one of ieee1584-2018, lee
arcflash-cases-or-empty-with-an-equipment-class = one of { $options }, or empty with an equipment class of typical values
arcflash-cases-typical-assumed-other-configurations-may-give = typical { $electrode_configuration } assumed; other configurations may give more
arcflash-cases-typical-of-mm-assumed = typical { $column } of { N($value) } mm assumed
arcflash-cases-typical-box-of-x-x-mm-assumed = typical box of { N($height_mm) } x { N($width_mm) } x { N($depth_mm) } mm assumed
arcflash-cases-lees-method-is-for-open-air-only = Lee's method is for open air only, not for a box
arcflash-cases-empty-or-one-of = empty or one of { $options }
arcflash-cases-or-an-equipment-class-with-typical-values = { $allowed }, or an equipment_class with typical values

## core/arcflash/lee.py

lee-lees-method-is-for-open-air-above = Lee's method is for open air above 15 kV only

## core/arcflash/explained.py

arcflash-explained-cleared-in-ms-within-one-cycle-check = cleared in { SIG($duration_s, digits: 3) } ms, within one cycle: check that the device can
arcflash-explained-how-the-current-of-falls-is-not = how the current of { $lost } falls is not recorded: taken as not falling
arcflash-figures-in-case = { $why } ({ $name })
