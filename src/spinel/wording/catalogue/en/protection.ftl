## core/protection/duty.py

protection-duty-to-interrupt = to interrupt
protection-duty-to-withstand = to withstand
protection-duty-ka-for-its-x-r = , { FIX($required_ka, digits: 1) } kA for its X/R
protection-duty-rated-ka-for-ka = rated { N($rating) } kA for { FIX($available_ka, digits: 1) } kA{ $raised } ({ $case })
protection-duty-rated-v-on-a-v-circuit = rated { N($rated_voltage_v) } V on a { N($voltage) } V circuit
protection-duty-its-interrupting-rating-is-not-recorded = its interrupting rating is not recorded
protection-duty-no-fault-current-reaches-it-in-any = no fault current reaches it in any case
protection-duty-rated-ka-where-ka-is-available = rated { $does } { N($rating) } kA where { ABOVE($available_ka, $rating) } kA is available ({ $case })
protection-duty-rated-ka-at-x-r-where-ka = rated { $does } { N($rating) } kA at X/R { N($test) } where { FIX($available_ka, digits: 1) } kA at X/R { FIX($x_r, digits: 1) } asks for { ABOVE($required_ka, $rating) } kA ({ $case })

## core/protection/ampere.py

ampere-its-a-is-too-large-for-conductors = its { N($rated_a) } A is too large for conductors of { N($ampacity) } A (at most { N($allowed) } A)

## core/protection/shown.py

protection-shown-its-relay-does-not-cover-this-enclosure = its relay does not cover this enclosure
protection-shown-ceases-to-feed-makers-certificate = ceases to feed, maker's certificate
protection-shown-worked-on-or-in-a-compartment-that = worked on, or in a compartment that is opened

## core/protection/believed.py

believed-no-curve-recorded = no curve recorded
