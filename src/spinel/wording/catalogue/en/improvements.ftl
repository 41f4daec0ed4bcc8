# What would lower a risk at its source; and a device that is set for the work
improvements = Inherent improvements
improvements-question = What would lower our risks at their source, and who sees to it?
improvements-empty = Nothing is proposed yet. The page of a job's risk computes what would lower it, and proposes it here.
improvement-propose = Propose an improvement
improvement-what = What
improvement-cost = What it costs, in words
improvement-owner = Who sees to it
improvement-due = By when
improvement-not-before-today = today or later
improvement-saves = { ENERGY($before) } becomes { ENERGY($after) } cal/cm² there.
improvement-no-figure = Without a figure before or after: what it wins is not known.
improvement-as-of = Computed of revision { $revision }.
improvement-late = overdue
improvement-decide = Say what became of it
improvement-recorded = Recorded.
improvement-state-proposed = proposed
improvement-state-accepted = accepted
improvement-state-declined = declined
improvement-state-done = done
improvement-who-decides = who may
improvement-owner-or-coordinator = Only a coordinator or whose it is to see to says what becomes of an improvement.
improvement-life = life of an improvement
improvement-is = It is { $state }.
improvement-propose-anew = Propose it anew.
act-improvements-propose = propose an improvement
kind-of-record-improvement = improvement
verdict-improvements = { $count ->
    [0] Nothing is open.
    [one] 1 improvement is open.
   *[other] { $count } improvements are open.
  } { $late ->
    [0] {""}
    [one] [late]1 is overdue.[/]
   *[other] [late]{ $late } are overdue.[/]
  }
waits-improve = see to an improvement
permit-conditions = Conditions agreed on
permit-conditions-cap = The figures of this { -permit } stay the worst that can be: clothing follows those.
permit-step-set = Set { $tag } as agreed; a second person sees it. Nothing begins before
permit-step-put-back = Put { $tag } back as published; a second person sees it
device-set = { $tag } is set as agreed
device-put-back = { $tag } is put back
device-put-back-when-done = Put { $tag } back, once nobody works
device-how = How { $tag } was seen to be so
device-seen-by = Who else saw it
device-is-set = { $tag } is set for this { -permit }.
device-is-not-set = { $tag } is not set.
device-set-for = Set otherwise than published, for { $number }: its figures are those of the published setting.
permit-life-set-a-device = set a device for a { -permit }
permit-life-put-a-device-back = put a device back
permit-moves-a-device-still-to-be-set = a device of its conditions that is not set
permit-moves-a-device-that-is-set = a device that is set for it
permit-moves-a-second-person-who-saw-it-set = somebody else who saw it
permit-moves-is-not-set = { LIST($tags, between: ", ") } is not set as agreed.
permit-moves-what-was-set-is-put-back = what was set for the work is put back
permit-moves-is-still-set = { LIST($tags, between: ", ") } is still set for it.
permit-moves-put-it-back-first = Put it back first.
permit-moves-what-others-work-by-stays-set = what others work by stays set
permit-moves-is-set-for-others = { $tag } is set for { LIST($numbers, between: ", ") } too, in force.
permit-moves-wait-until-they-are-back = Wait until they are handed back.
permits-it-is-set = Recorded: it is set.
permits-it-is-put-back = Recorded: it is put back.
record-device-set = device set
record-device-put-back = device put back
story-permit-device-set = set { $tag }, { $seen_by } saw it: “{ $how }”
story-permit-device-put-back = put { $tag } back, { $seen_by } saw it: “{ $how }”
act-set = set for a permit
fact-setting = Setting
wall-set = { $count ->
    [one] [b]1[/] device set otherwise than published
   *[other] [b]{ $count }[/] devices set otherwise than published
  }
wall-set-for = for
permit-moves-place-not-seen-empty = It is suspended, and nobody has said that its place is empty.
permit-moves-hand-back-or-clear-first = Hand it back, or say that the place is empty, first.
permit-moves-what-was-agreed-is-on-it = what was agreed on stands on the permit
permit-moves-was-agreed-after-it = It was agreed to set { LIST($tags, between: ", ") } for this work, after it was written.
