## core/isolation/able.py

isolation-able-cal-is-above-the-ceiling-of-cal = { ABOVE($energy_cal_cm2, $ceiling_cal_cm2) } cal/cm² is above the ceiling of { N($ceiling_cal_cm2) } cal/cm²
isolation-able-fails-its-duty-check = { $tag }: fails its duty check, { $reason }
isolation-able-no-figure = no figure, { $none_because }

## core/isolation/absence.py

absence-a-known-source-above-0-v = a known source above 0 V

## core/isolation/points.py

isolation-points-on-the-way = on the way { $tags }
isolation-points-directly-at-it = directly at it
isolation-points-passed-over-there = Passed over there: { LIST($overs, between: "; ") }.
isolation-points-every-source-is-cut-by-a-device = every source is cut by a device that isolates
isolation-points-cannot-be-cut-from-no-device-fit = { $source }, { LOWERFIRST($kind) }, cannot be cut from { $tag }: no device fit to isolate { $through }.{ $because ->
    [none] { "" }
   *[other] { " " }{ $because }
}
isolation-points-have-a-lockable-isolating-device-fitted-there = Have a lockable isolating device fitted there or made fit, or have the work studied otherwise.
isolation-points-v-in = { LOWER($name) } ({ N($voltage_v) } V { UPPER($current) }) in { $name_2 }
isolation-able-not-workable = { $tag }: { $why }
