## core/curves/times.py

curves-times-s-breaker-s = { N($operating_s) } s + breaker { N($breaker_s) } s
curves-times-below-its-a = below its { $what }, { N($pickup) } A { $what_2 } { N($tolerance) } %
curves-times-ground-a-s = { -ground }, { N($ground_pickup_a) } A, { N($ground_delay_s) } s
curves-times-total-clearing = total clearing
curves-times-and-a = , { N($what) } and { N($above) } A
curves-times-short-time = short time
curves-times-short-time-zone-interlock-not-restrained = short time, zone interlock not restrained
curves-times-breaker-s = + breaker { N($breaker_s) } s
curves-times-relay-alone = relay alone
curves-times-x-pickup-dial = { $name }, { SIG($multiple, digits: 3) } x pickup, { $flat }dial { N($dial) }, { $margin }, { $added }
curves-times-differential-relay = differential relay
curves-times-light-detecting-relay = light-detecting relay
curves-times-definite-time = definite time
curves-times-total-clearing-2 = total-clearing
curves-times-melting = melting
curves-times-below-a-where-its-curve-begins = below { N($first) } A, where its { $what } curve begins
curves-times-long-time-pickup = long-time pickup
curves-times-a-number-from-0-a = a number from 0 A
curves-times-no-ground-element = no { -ground } element
curves-times-below-its-ground-pickup-a = below its { -ground } pickup, { N($ground_pickup_a) } A + { N($tolerance_pct) } %
curves-times-or = { $slow } or { $fast }
curves-times-minimum-melting = minimum melting
curves-times-at-and-beyond-the-last-point-a = { $name } at and beyond the last point, { N($last) } A
curves-times-between-points-log-log = { $name } between points, log-log{ $neighbours }
curves-times-short-time-i-t = short time, I²t
curves-times-a-s = { $kind }, { N($pickup) } A { $margin }, { N($flat) } s { $margin }
curves-times-flat-above = flat above { N($flat_above) }, 
curves-times-long-time-a-i-t = long time, { N($long_pickup_a) } A { $margin }, I²t
curves-times-magnetic-a = magnetic, { N($magnetic_a) } A { $margin }
curves-times-thermal-a = thermal, { N($rated_a) } A { $margin }
curves-times-a = { $principle }, { N($pickup_a) } A { $margin }, { $fixed }
curves-times-fixed-time-from-its-certificate = fixed time from its certificate
curves-times-instantaneous-a = instantaneous, { N($instantaneous_a) } A { $margin }
curves-times-instantaneous-a-2 = instantaneous, { N($instantaneous_a) } A { $margin }, { $added }
curves-times-no-minimum-melting-points-at-once = no minimum-melting points: at once

## core/curves/files.py

curves-files-an-object-with-a-type = an object with a type
curves-files-current-a-clearing-s-and-where-known = current_a, clearing_s and, where known, melting_s
curves-files-a-list-of-pairs-of-current-and = a list of pairs of current and time
curves-files-a-field-of-this-type = a field of this type: { $known }

## core/curves/cases.py

curves-cases-times-pickup = times pickup

## core/curves/relays.py

relays-standard-inverse = standard inverse
relays-very-inverse = very inverse
relays-extremely-inverse = extremely inverse
relays-long-time-inverse = long-time inverse
relays-short-time-inverse = short-time inverse
relays-moderately-inverse = moderately inverse
relays-a-number-above-1 = a number above 1
relays-above-1-at-or-below-its-pickup = above 1: at or below its pickup a relay does not operate
relays-from-0-up-to-below-1-above = from 0 up to below 1: above its pickup a relay does not reset
relays-for-one-of = for { $standard } one of { $options }

## core/curves/checks.py

curves-checks-at-least-two-points-of-current-and = at least two points of current and time
curves-checks-begins-at-or-below-a-as-total = begins at or below { N($first) } A, as total clearing
curves-checks-at-or-above-the-long-pickup-a = at or above the long pickup, { N($long_pickup_a) } A
curves-checks-above-0-s-at-most-the-short = above 0 s, at most the short-time delay
curves-checks-at-or-above-the-other-pickups = at or above the other pickups
curves-checks-pickup-and-delay-come-together = { $name } pickup and { $name } delay come together
curves-checks-at-or-above-twice-the-rating-a = at or above twice the rating, { N($what) } A
curves-checks-at-or-above-the-pickup-a = at or above the pickup, { N($pickup_a) } A
curves-checks-from-2-to-100-times-pickup = from 2 to 100 times pickup
curves-checks-from-0-to-50 = from 0 to 50 %
curves-checks-currents-must-rise-above-a = currents must rise: above { N($i1) } A
curves-checks-times-must-not-rise-with-current-at = times must not rise with current: at most { N($t1) } s
curves-checks-at-a-at-most-its-total-clearing = at { N($current) } A at most its total clearing, { N($clears) } s
