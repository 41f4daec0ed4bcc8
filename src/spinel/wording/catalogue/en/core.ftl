## core/life.py

core-life-who-may = who may
core-life-only-may = Only { $any_of } may { $says }.
core-life-ask-somebody-with-that-role = Ask somebody with that role.
core-life-separation-of-duties = separation of duties
core-life-you-are-the-of-this-and-so = You are the { $clash } of this { $thing } and so may not { $says }.
core-life-somebody-else-with-the-role-must-do = Somebody else with the role must do it.
core-life-life-of-a = life of a { $thing }
core-life-it-is-to-it-must-be = It is { LOWER($state) }; to { $says }, it must be { $allowed }.
core-life-open-the-again-somebody-may-have-acted = Open the { $thing } again: somebody may have acted meanwhile.

## core/study.py

study-no-source-feeds-it-in-this-case = no source feeds it in this case
study-no-working-distance-is-recorded-for-its = no working distance is recorded for its enclosure
study-the-reduced-arcing-current-is-the-worse = the reduced arcing current is the worse
study-cleared-within-one-cycle-check-that-the = cleared within one cycle: check that the device can
study-slower-than-2-s-or-never-the = slower than 2 s or never: the two-second rule, escape is clear
study-above-the-sites-ceiling-of-cal-nobody = above the site's ceiling of { N($ceiling_cal_cm2) } cal/cm²: nobody works live

## core/rows.py

true-or-false = true or false
rows-more-values-than-columns = more values than columns
rows-one-value-a-column = one value a column

## core/hazard.py

hazard-no-source-feeds-it-in-any-recorded = no source feeds it in any recorded case
hazard-the-barrier-between-and-of-is-in = the barrier between { $end_words } and { $end_words_2 } of { $tag } is in place and whole
hazard-no-working-distance-is-recorded-for-its = no working distance is recorded for its enclosure
voltage = { VOLTS($voltage_v) }{ $current ->
    [dc] { " " }DC
   *[ac] { "" }
}
sentence = { CAPITAL1($what) }.
any-of = { ANY($roles) }
role-coordinator = Coordinator
role-authoriser = { -authorizer(form: "One") }
role-person_in_charge = { -in_charge(form: "One") }
role-director = { -director(form: "One") }
role-operator = { -operator(form: "One") }
role-worker = Worker
role-attendant = { -attendant(form: "One") }
role-reader = Reader
a-number-above = a number above { N($low) } up to { N($high) } { $unit }
a-number-from = a number from { N($low) } up to { N($high) } { $unit }
not-usable = { $field } is { $value }: { $allowed }
problem = { $element }: { $field } is { $value }: { $allowed }
not-found = There is no { $kind } { $name }.
stale = { $kind } { $name } was changed by { $changed_by } at { $changed_at } after you opened it.
newer-record = This { $kind } was written by a later version of Spinel (shape { $shape }). Install that one.
not-as-published = The published network { $hash } is not as it was published. Nothing that rests on it is shown. Stop, treat everything as live, and put back a copy of the database.
refusal = { $why } ({ $rule }) { $remedy }
empty = empty
kind-of-record-element = element
kind-of-record-file-of-anchors = file of anchors
kind-of-record-story = entry on
kind-of-record-node = node
kind-of-record-job = job
kind-of-record-instrument = instrument
kind-of-record-gear = item of gear
kind-of-record-assessment = assessment of risk
kind-of-record-kind-of-gear = kind of gear
kind-of-record-permit = { -permit }
kind-of-record-program = { -program }
no-figure = no figure
none = none
never = never
kind-of-record-equipment = equipment
kind-of-record-case = case
kind-of-record-field-event-by-now = field event by now
kind-of-record-network = network
kind-of-record-isolation = { -isolation }
kind-of-record-restoration = { -restoration }
kind-of-record-relief-on = relief that waits on
kind-of-record-lock-of-person = lock of person
kind-of-record-database = database
kind-of-record-hold = hold
kind-of-record-network-revision = network revision
kind-of-record-person = person
kind-of-record-switching-program = { -switching_program }
kind-of-record-justification = justification
kind-of-record-task = task
kind-of-record-practice-profile = practice profile
part-requester = requester
part-approver = approver
part-issuer = issuer
part-worker = worker
part-writer = writer
part-checker = checker
part-releaser = releaser
part-director = director
part-operator = operator

## Texts that a person types

text-at-most = at most { $most } characters
text-between = { $least } to { $most } characters
text-seen = only what is seen: no control characters, none that turn the order of writing
text-say-it = say it in { $least } to { $most } characters
text-title = what is to be done, in { $least } to { $most } characters
text-special = what is special this time, in { $least } to { $most } characters; if nothing is, say so
text-found = what you saw, in { $least } to { $most } characters
text-cause = { $least } to { $most } characters: what was inspected, what tripped it, what was done
text-correction = why the entry is wrong, in { $least } to { $most } characters
text-absent = what was done to reach the owner, and that they are not there: { $least } to { $most } characters
text-lock = the number on your lock, { $least } to { $most } characters
text-answered = who answered, { $least } to { $most } characters
text-phased = how it was checked, { $least } to { $most } characters
text-watch = the watch or substitute that is in place, { $least } to { $most } characters
text-instrument = which instrument: its number or name, { $least } to { $most } characters
text-login = { $least } to { $most } letters, digits, dots, dashes
not-kept = Nothing was recorded: the database takes no entries just now.
not-kept-until-then = Say it by voice and write it on paper until it does; whatever you stop is stopped. Then record it here. The person who looks after the server finds the cause in its log.
not-kept-because = Nothing was recorded: the database takes no entries just now ({ $why }). Say it by voice and write it on paper until it does.
