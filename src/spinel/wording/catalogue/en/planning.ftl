# When jobs are done and by whom
act-jobs-plan-a-job = plan a job
act-jobs-a-job-closes-after-its-parts = a job closes after its parts
plan-of = Plan of { $number }
plan-answer = { $start } to { $end } ({ $zone }), { $people ->
    [0] nobody named yet
    [one] 1 person
   *[other] { $people } people
  }.
plan-none-yet = Nothing is planned yet.
plan-saved = Planned.
plan-save = Plan it
plan-remarks = Special remarks, said at the briefing
plan-cap = A plan allows nothing. The { -permit } takes people, window and remarks from it; decision and { -permit } ask anew.
plan-twice = { $name } is on something else then:
plan-led-by = Planned together with
plan-is-over-already = later than now
plan-at-most-days = at most { $days } days after the start
plan-parts-share-one = parts of a job share one plan
plan-it-is-led-by = It is a part of { $number }.
plan-plan-that-one = Plan that one.
plan-an-open-job = an open job
plan-a-job-of-this-site = the number of a job
plan-the-same-task-at-such-equipment = an earlier job with the same task at equipment of the same class
plan-another-part = Another part of this job
plan-as-in = As in an earlier job
plan-as-in-none = As no earlier job
plan-as-in-cap = What was named then is taken over; what is answered yes or no, and the claim itself, are asked anew.
plan-as-in-option = { $number }, { $tag }: { $title } ({ DAY($on) })
plan-is-part-of = A part of
plan-the-plan = When and by whom
together = Done together
together-leads = leads
since-head = Begun as { $number } was. Otherwise by now:
since-claimed = In { $number } it was claimed: { $claim }.
since-learnt = Learnt then: “{ $text }”
since-circuit-changed = { $number } changed the circuit.
since-other-equipment = Other equipment: { $was } then, { $now } now.
since-task-changed = The task stands otherwise in the library.
since-no-figure-then = No { -permit } froze a figure then: nothing to compare.
since-energy = Incident energy { ENERGY($was) } then, { ENERGY($now) } cal/cm² now.
since-voltage = Voltage { N($was) } then, { N($now) } V now.
since-figure-gone = There was a figure then; now there is none.
since-figure-new = There was no figure then; now there is one.
week = The week
week-question = Who does what this week, and does what we own suffice?
week-before = The week before
week-this = This week
week-after = The week after
week-planned = planned
week-nobody = nobody named
week-free = Nothing.
week-twice = also on { $number }
week-short = { $dressed } of { $people } people can be dressed at once ({ $zone ->
    [head] head
    [trunk] trunk and arms
    [hands] hands
   *[legs] legs
  }).
verdict-week = { $count ->
    [0] Nothing is planned in this week.
    [one] 1 job this week.
   *[other] { $count } jobs this week.
  } { $twice ->
    [0] {""}
    [one] [late]1 person is on two things at once.[/]
   *[other] [late]{ $twice } people are on two things at once.[/]
  } { $short ->
    [0] {""}
    [one] [late]On 1 day not everybody can be dressed at once.[/]
   *[other] [late]On { $short } days not everybody can be dressed at once.[/]
  }
story-job-planned = planned it from { $from } to { $until }, with { LIST($people) }.
tile-planned = planned
run-out-gear = { $number }, given for it, is not in date any more
run-out-person = somebody on it may not do it any more: { $why }
job-paper = Plan of { $number }
job-paper-title = Plan and assessment of a job
job-paper-allows-nothing = This paper allows nothing: a { -permit } or a { -program } does.
place-drawing = { -one_line(form: "One") } round the place
place-drawing-cap = { -one_line(form: "One") } round the place as it stood at { $at }: live parts beside it are drawn live.
permit-needs = Beyond what energy and voltage ask
permit-given = Given for it
place-task = As the task asks: { LIST($needs, between: "; ") }?
calendar-job = { $number }, { $tag }: { $title }
