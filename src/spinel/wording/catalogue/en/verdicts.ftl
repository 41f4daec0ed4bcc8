## The answer at the top of each screen. [b], [live], [unk], [late] to [/]: what stands out.

verdict-ran-out = { $count ->
    [one] One { -permit }
   *[other] { $count } { -permit(form: "many") }
} [late]ran out { DURATION($minutes) } ago[/]{ $people ->
    [0] { "" }
    [one] { " " }with one person on it
   *[other] { " " }with { $people } people on it
}.
verdict-in-force = [b]{ $count ->
    [one] One { -permit } is
   *[other] { $count } { -permit(form: "many") } are
} in force[/], the next ends in [live]{ DURATION($minutes) }[/].
verdict-suspended = { $count ->
    [one] One is
   *[other] { $count } are
} suspended.
verdict-stopped = [late]{ $number } is stopped[/].
verdict-no-longer-stands = [late]{ $number } no longer stands[/].
verdict-executing = { $count ->
    [one] One { -program } is
   *[other] { $count } { -program(form: "many") } are
} being executed.
verdict-nothing = Nothing: no { -permit } is in force, none has run out.
verdict-live = { $live } of { $count } are [live]live[/]{ $more }.
verdict-unknown = , [unk]{ $count } may be fed: treat as live[/]
verdict-dead = , { $count ->
    [one] one is
   *[other] { $count } are
} dead, not proved
verdict-proved = , { $count } proved dead
verdict-grounded = , { $count } { -ground(form: "done") }
verdict-alarm = [late]Live and { -ground(form: "done") }: { $tags }. Stop.[/]
verdict-below = [b]{ VOLTS($voltage_v) } { UPPER($current) }[/]: { $limit }. Answer the facts in a job.
verdict-no-figure = [b]No arc-flash figure.[/] Work dead, or have it studied.
verdict-no-figure-battery = [b]No arc-flash figure.[/] A battery cannot be switched off: have it studied first.
verdict-beyond = [live]{ ABOVE($energy_cal_cm2, $ceiling_cal_cm2) } cal/cm²[/] at { N($distance_mm) } mm: above the site's ceiling of { N($ceiling_cal_cm2) } cal/cm². Nobody works or tests here live.
verdict-energy = [live]{ ENERGY($energy_cal_cm2) } cal/cm²[/] at { N($distance_mm) } mm. Work dead, or { -permit }.
verdict-permit-expired = [late]It ran out { DURATION($minutes) } ago[/]. Stop, make safe, hand it back.
verdict-permit-in-force = Yes: [b]in force[/], [live]{ DURATION($minutes) } left[/], until { $until }.
verdict-permit-suspended = [b]No: suspended.[/] { $because }
verdict-permit-lacking = Not yet: issued, { $count ->
    [one] one thing is
   *[other] { $count } things are
} missing.
verdict-permit-ready = Not yet: issued, ready for { $name } to accept.
verdict-permit-approved = Not yet: approved, a coordinator must issue it.
verdict-permit-submitted = Not yet: it waits for an { -authorizer }.
verdict-permit-draft = Not yet: it is a draft.
verdict-permit-handed_back = No: the work is handed back. A coordinator closes it.
verdict-permit-closed = No: it is closed.
verdict-permit-was = No: it was { LOWERFIRST($state) }.
verdict-program-stopped = [late]Stopped[/] at step { $step } of { $steps }. { $because }
verdict-program-executing = [b]At step { $step } of { $steps }[/]: { $tag }, { $action }.
verdict-program-done = Done, all { $steps } steps.
verdict-program-abandoned = Abandoned after step { $step } of { $steps }.
verdict-program-broken = [late]Not as written.[/] { $why } { $remedy }
verdict-program-draft = [b]Every rule holds[/] over { $steps } steps; a second person checks it.{ $name }
verdict-program-checked = [b]Every rule holds[/] over { $steps } steps; checked by { $name }, to be released.
verdict-program-released = [b]Every rule holds[/] over { $steps } steps; released by { $name }, to be executed once.
verdict-box-unsound = [late]It no longer stands: { $why }[/]
verdict-box-complete = Work is complete.
verdict-box-taken = { $name } has the box, [b]{ $count ->
    [one] one lock hangs
   *[other] { $count } locks hang
}[/] on it.
verdict-box-waits = Handed over to { $name }, who takes the box over.
verdict-console-step = { $number }: step { $step } of { $steps }
verdict-console-stopped = { $number }: step { $step } of { $steps }, stopped
verdict-console-state = { $number }: { LOWERFIRST($state) }
