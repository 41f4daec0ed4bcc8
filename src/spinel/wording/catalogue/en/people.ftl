## core/people.py, actions/standing.py, actions/qualifying.py

employer-own = own people
employer-contractor = contractor
employer-visitor = visitor
course-release = contact release
course-first-aid = first aid
course-cpr = resuscitation
course-lockout = { -lockout }
course-site = site rules
line-task = this task
line-exchange = hazards exchanged
line-release = contact release
line-first-aid = first aid
line-cpr = resuscitation
line-lockout = { -lockout }
line-site = site rules
how-shown-trained = taught
how-shown-supervised = done under supervision
how-shown-observed = observed doing it
how-shown-tested = tested
standing-who-is-here = who is put to work is here
standing-has-left = { $name } has left.
standing-choose-somebody-else = Choose somebody else.
standing-hazards-are-exchanged = hazards are exchanged with who comes from elsewhere
standing-no-hazards-exchanged = Hazards are not exchanged with { $name } for { DAY($on) }, or not signed by both.
standing-exchange-them = Tell them what lies here, and have them sign what they bring along.
standing-courses-in-date = everybody exposed is taught, in date
standing-course-not-attended = { $name } has not attended { $course } in date on { DAY($on) }.
standing-have-it-taught = Have it taught, and recorded, or choose somebody else.
qualifying-somebody-else = somebody else than themselves
qualifying-one-that-they-hold = one that they hold
qualifying-is-no-longer-qualified = { $name } is no longer { -qualification(form: "done") } for this
qualifying-a-day-until-today = a day until today, of the last { $years } years
qualifying-nothing-this-grants-nothing = nothing: this grants nothing by itself
qualifying-not-before-it-was-shown = not before the day on which it was shown
qualifying-no-longer-than-the-practice-says = no longer than the practice says
qualifying-it-counts-until = Shown then, it counts until { DAY($day) }.
qualifying-show-it-again-then = Set it earlier, or have it shown again.
qualifying-taught-first-then-shown = taught first, then shown
qualifying-was-never-taught = { $name } was not taught “{ LOWERFIRST($task) }” at each of these classes of equipment, and does not hold it there.
qualifying-record-what-they-were-taught = Record what they were taught first.
qualifying-what-was-withdrawn-is-shown-anew = what was withdrawn is shown anew
qualifying-was-withdrawn = It was withdrawn from { $name } on { DAY($day) }: “{ $because }”
qualifying-have-it-shown-since = Have it seen on that day or later, and record that.
register-whose-people-they-are = whose people they are

## actions/may_do.py

may-not-role = holds no role to work or operate
would-do-role = a coordinator gives one
may-not-exchange = no hazards exchanged
may-not-exchange-ran-out = exchange over since { SHORTDAY($day) }
would-do-exchange = tell them, and have them sign
may-not-course = never attended { $course }
may-not-course-ran-out = { $course } ran out { SHORTDAY($day) }
would-do-course = { $course } taught again
may-not-ran-out = { $days ->
    [one] ran out yesterday
   *[other] ran out { $days } days ago
}
would-do-look = one look by somebody { -qualification(form: "done") } renews it
may-not-yet = begins { SHORTDAY($day) }
would-do-wait = wait until then
may-not-learning = { $seen ->
    [0] taught, not supervised yet
    [one] learning, once under supervision
   *[other] learning, { $seen } times under supervision
}
would-do-observed = observed doing it, they may
may-not-other-classes = holds it for { LIST($classes) }{ $more ->
    [0] { "" }
   *[other] {" "}and { $more } more
}
would-do-taught = teach it, then see it done
may-not-never = never held it

## actions/people_csv.py

csv-people = people
csv-qualifications = { -qualification(form: "many") }
csv-training = training
csv-added = Added; nobody knows the password: invite them.
csv-as-it-is = As it is already.
csv-described = What they are is put down; roles stay.
csv-qualified = { -qualification(form: "Done") } until { DAY($until) }.
csv-counts-until = Recorded; it counts until { DAY($until) }.
csv-recorded = Recorded.
csv-a-table-with-heads = a table with the heads { LIST($heads) }
csv-the-name-that-it-has = the name that this account has: { $name }
csv-rows-at-most = at most { $most } rows
csv-wrong = { $field }: { $allowed } is wanted.
csv-a-day = a day as 2026-11-24
csv-a-text-in-utf-8 = a table as text in UTF-8
csv-report = [b]{ $count }[/] { $count ->
    [one] row
   *[other] rows
} looked at, [b]{ $wrong }[/] not taken
csv-head-row = Row
csv-head-what = What it says
csv-head-done = What became of it
csv-not-taken = Not taken.
csv-out = As tables (CSV):
csv-in = Take in a table
csv-kind = Kind of table
csv-file = File (CSV, UTF-8)
csv-cap = The heads are those of the table that goes out. Each row stands for itself: what is refused says why and keeps none of the others. Roles of known people stay as they are.
csv-take-in = Take it in

## actions/acting.py, actions/codes.py, actions/tablets.py

acting-a-short-code = what a short code signs
acting-it-signs-ones-own = It signs one's own statements and lock, and stops work; nothing else.
acting-sign-in-in-full = Sign in with your password.
codes-short-code = short code
codes-this-is-not-the-code = This is not the short code of this account, or it has none.
codes-or-the-password = Try again, or sign in with the password.
codes-one-that-nobody-guesses = one that nobody guesses: three different digits at least, not one after the other
codes-one-time-code = one-time code
codes-there-is-one = Your account has one-time codes already.
codes-a-coordinator-takes-it-away = A coordinator takes them away where the device is lost.
codes-the-code-shown-just-now = the code that the device shows just now
codes-you-have-none = This site asks for a one-time code here, and your account has none.
codes-set-it-up-first = Set them up on your account page first.
codes-it-does-not-fit = The one-time code does not fit, or was used before. Nothing was recorded.
codes-wait-for-the-next = Wait for the next code, and look at the clock of the device.
codes-somebody-elses = somebody else's: the own is a second coordinator's to take away
tablets-register-one = register shared tablets
tablets-no-reason-was-given = stopped at the tablet; no reason was given
text-short-code = { $least } digits
text-hazards = { $least } to { $most } characters: what can hurt them here, where, and what keeps it away
text-hazards-brought = { $least } to { $most } characters: what they bring along that can hurt others, or that it is nothing

## actions/exchanges.py, actions/invitations.py

exchanges-tell-hazards = tell others the hazards here
exchanges-not-before-today = not before today
exchanges-months-at-most = from that day on, for { $months } months at most
exchanges-somebody-from-elsewhere = somebody registered as a contractor or a visitor
exchanges-a-job-there-is = the number of a job, or none
exchanges-each-signs-their-own = each side signs its own half
exchanges-is-for = It is for { $name }.
exchanges-they-sign-it = They sign it themselves.
exchanges-signed-once = an exchange is signed once
exchanges-is-state = It is { $state }.
exchanges-tell-anew = Tell them anew.
exchanges-no-longer-exchanged = hazards are no longer exchanged with { $name }
exchange-is-offered = told, not signed by them
exchange-is-signed = signed by both
exchange-is-ended = ended
exchange-is-over = over
invitations-a-link-is-used-once = a link is used once
invitations-this-one-is-no-more = This link was used, has run out, or was replaced by another.
invitations-ask = Ask a coordinator for another.

## web/accounts.py, web/people.py, web/verdicts.py

due-tasks = { $count ->
    [one] one { -qualification }
   *[other] { $count } { -qualification(form: "many") }
}
calendar-of = What falls due: { $name }
calendar-ends = { $name }: { $what } ends
welcome-the-same-twice = the same password twice
forms-a-day = a day
verdict-who-may = { $count ->
    [0] [late]Nobody may[/]
    [one] [b]One person may[/]
   *[other] [b]{ $count } people may[/]
} { LOWERFIRST($task) } at [b]{ $tag }[/]{ $count ->
    [0] .
   *[other] ;
}
verdict-who-is-free = { $free ->
    [0] none of them is free now.
    [one] one of them is [b]free now[/].
   *[other] { $free } of them are [b]free now[/].
}
verdict-who-ran-out = { $name } [late]ran out { $days } { $days ->
    [one] day
   *[other] days
} ago[/].
verdict-person = { $count ->
    [0] [b]{ $name }[/] holds no { -qualification } in date.
    [one] [b]{ $name }[/] is { -qualification(form: "done") } for [b]one[/] task on one class of equipment.
   *[other] [b]{ $name }[/] is { -qualification(form: "done") } for [b]{ $count }[/] pairs of task and equipment.
}
verdict-person-left = [b]{ $name }[/] has left{ $holds ->
    [0] { "" }
    [one] {" "}with [late]a lock[/]
   *[other] {" "}with [late]{ $holds } locks[/]
}{ $rosters ->
    [0] { "" }
    [one] {" "}and is still on [late]one roster[/]
   *[other] {" "}and is still on [late]{ $rosters } rosters[/]
}.
verdict-person-holds = { $count ->
    [one] A lock hangs in their name.
   *[other] { $count } locks hang in their name.
}
verdict-person-twice = On [late]{ $a } and { $b }[/] at once.
verdict-due = { $gone ->
    [0] Nothing has run out lately
   *[other] [late]{ $gone } have run out[/]
}; [b]{ $near }[/] { $near ->
    [one] falls
   *[other] fall
} due within 30 days.

## people/people.html

who-may-question = Who may do this, until when, and who is free?
who-may-task = Task
who-may-on = At
who-may-class = Opened there
who-may-any-class = whichever end it is
who-may-day = On
who-may-look = Look
who-may-no-such = There is no { $tag } on the { -one_line }; this is asked of another.
who-may-no-such-day = From today on for a year; { $day } is none of these days, and this is asked of today.
who-may-today = Today
who-may-days = { $days } days
who-may-may = [b]{ $count } may[/]: every line that must hold does; the first that ends is named
who-may-not = [b]{ $count } may not[/]: the first reason, and what would change it
who-may-nobody = Nobody who is here may do it on this day.
who-may-others = { $count ->
    [0] Everybody else holds something.
    [one] One more holds no electrical { -qualification }.
   *[other] { $count } more hold no electrical { -qualification }.
}
who-may-due = { $first } fall due in 30 days, { $second } in 60, { $third } in 90; { $gone } have run out.
legend-task = this task, this class of equipment
legend-courses = courses, hazards exchanged
lane-free = free now
lane-busy = on { $number } now
lane-twice = on two rosters at once
lane-done = last done { $day }
lane-rusty = not done for { $months } months: trained anew first
lane-ends = { $line } until { $day }
lane-named = lacks { $line }
lane-line-until = { $line } until { $day };
lane-line-never = { $line } never;
people-who-may = Who may do what today
people-register = Everybody
people-all-due = All that falls due
people-head-whose = Whose people
people-employer = Whose people
people-company = Company, of a contractor or visitor
people-trade = Trade
people-languages = Languages
people-first-password-cap = Without a password nobody knows one: invite them with a link, with which they set their own.
people-described = What they are is put down.
people-training-recorded = Recorded.
people-withdrawn = Withdrawn. What they were at with it stands still.
people-otp-taken = Their one-time codes are taken away; they set up others.
people-sessions-ended = They are signed out everywhere.

## people/person.html

person-question = Who is this, and what may they do?
person-story = All that was recorded of them
person-link = The link for { $name }, good for three days and once. It is shown this once:
person-whose = Whose people
person-signed-in = Signed in
person-places = { $count ->
    [0] nowhere
    [one] at one place
   *[other] at { $count } places
}
person-on = What they are on
person-until = until { $at }
person-until-done = until it is done
person-late = ran out: account for them
person-lock = Lock under
person-held = { -qualification(form: "Many") }
person-head-task = Task
person-head-class = Equipment
person-head-until = Until
person-ran-out = ran out { $day }
person-begins = begins { $day }
person-withdraw = Withdraw one
person-withdraw-which = Which
person-pair = { $task }, { $kind }
person-withdraw-now = Withdraw it: what they are at with it stands still
person-holds-nothing = No { -qualification } yet.
person-shown = What was taught and shown
person-course-until = until { $day }
person-course-never = never recorded
person-seen-by = { $day }, { $by }.
person-counts-until = Counts until { $day }.
person-shown-nothing = Nothing is recorded yet.
person-record = Record what was taught or shown
person-record-cap = A { -qualification } is made of what was done and who saw it. Its last day follows from the practice; it can be set earlier, never later. A task that they were observed doing grants the { -qualification }, once it was taught at that class of equipment; a test alone does not.
person-what = What
person-a-course = Course
person-a-task = Task
person-classes = Classes of equipment, of a task
person-how = How it was shown
person-day = Day
person-by = Taught or seen by
person-earlier = Counts until, if earlier than the practice says
person-note = Remark: hours, result, how often
person-record-now = Record it
person-account = Account
person-about = Whose people, trade, telephone
person-about-save = Put it down
person-invite = Invite with a link
person-invite-now = Make a link
person-invite-cap = With it they set a password of their own; nobody else ever knows it. Give it to them in person or by a way that only they read. The link before is worth nothing then.
person-otp-take = Device for one-time codes lost
person-otp-take-now = Take the codes away
person-end-sessions = Sign out everywhere
person-end-sessions-now = Sign them out everywhere
person-leaves = Has left

## people/due.html

due-question = What falls due, for whom?
due-calendar = Into my calendar
due-gone = Run out in the last 90 days
due-within = Within { $days } days
due-head-when = Last day
due-head-who = Who
due-head-what = What
due-nothing = Nothing.

## people/account.html, people/one_time.html, people/welcome.html

account-code = Short code
account-code-cap = Six digits for shared tablets. It signs your statements and hangs or takes off your own lock, and nothing else.
account-code-is = You have one; a new one takes its place.
account-code-none = You have none yet.
account-code-new = New short code
account-code-save = Set the short code
account-code-set = Your short code is set.
account-otp = One-time codes
account-otp-cap = From an authenticator on your own device. The site may ask for one where a { -permit } is approved or issued.
account-otp-is = They are set up. A coordinator takes them away where the device is lost.
account-otp-set = Set them up
account-one-time-set = One-time codes are set up.
account-calendar = What falls due, in my calendar
account-calendar-cap = A secret address for a calendar that asks by itself. Whoever knows it reads it without signing in.
account-calendar-is = There is one; a new one ends it.
account-calendar-shown = Shown this once:
account-calendar-new = Make an address
one-time-answer = Read this with an authenticator, then type the code that it shows.
one-time-typed = Or type:
one-time-code = One-time code
one-time-keep = Set up
welcome = Welcome
welcome-answer = { $name }, set your password.
welcome-login = You sign in as
welcome-again = The same again
welcome-in = Set it and sign in

## people/exchanges.html, people/exchange.html

exchanges = Hazards exchanged
exchanges-question = Who comes from elsewhere, and knows what lies here?
exchanges-answer = [b]{ $good }[/] { $good ->
    [one] exchange is
   *[other] exchanges are
} signed by both; { $waiting ->
    [0] none waits.
   *[other] [late]{ $waiting } not signed[/].
}
exchanges-cap = Nobody of a contractor, and no visitor, is put to work before the hazards are exchanged and both have signed. Where two rules differ, the stricter holds.
exchanges-head-number = Number
exchanges-head-guest = With
exchanges-head-work = For
exchanges-head-until = Days
exchanges-head-state = State
exchanges-none = No hazards were exchanged yet.
exchanges-new = Tell somebody the hazards here
exchanges-nobody = Nobody is registered as a contractor or a visitor.
exchange-guest = { $name }, { $company }
exchange-days = { $first } to { $last }
exchange-with = With
exchange-work = What they come for
exchange-job = Job, where there is one
exchange-told = What can hurt them here, where, and what keeps it away
exchange-bring = What else they are to bring, one a line
exchange-from = From
exchange-until = Until
exchange-tell = Sign it, and send it to them
exchange-answer-offered = Told by { $host }; [late]{ $guest } has not signed[/].
exchange-answer-signed = { $host } and { $guest } of { $company } have [b]exchanged hazards[/], until { $last }.
exchange-answer-ended = [b]Ended[/]: it holds no longer.
exchange-answer-over = [b]Over[/] since { $last }.
exchange-host-says = { $name } says of this site
exchange-guest-says = { $name } says of what they bring along
exchange-study-says = What the study says of the place, now
exchange-heard = What you bring along that can hurt others, or that it is nothing
exchange-sign-cap = By signing you say that you have understood what was told.
exchange-sign = Sign your half
exchange-signed-at = Signed by { $name }, { $at }.
exchange-theirs = { $name } signs it, with their own account or at a shared tablet.
exchange-signed = Signed. Hazards are exchanged.
exchange-packing = What to bring
packing-lock = An own lock and tag, with a name on it and one key
packing-proof = Proof of { -qualification } for the task
packing-course = Proof of { $course }, in date
packing-cap = Clothing and gloves are those of the study as it is now; the { -permit } says what holds on the day. Local codes and the rules of both employers govern, the stricter where they differ; a qualified person must verify.
exchange-end = It holds no longer
exchange-end-now = End it: what they work under stands still
exchange-ended = Ended.

## tablet/tablet.html, tablet/tablets.html

tablet-who = Who has the tablet now?
tablet-nobody = Nobody
tablet-signed-in-here = is signed in here
tablet-two-taps = Two taps and a short code.
tablet-code-of = { $name }: your short code
tablet-code = Short code
tablet-code-signs = It signs your statements, and hangs or takes off your own lock.
tablet-code-never = It never approves, issues or confirms a step: those ask for the password.
tablet-password-instead = Password instead
tablet-pad = Digits
tablet-rub-out = Rub out
tablet-not-me = Not me
tablet-sign-in = { $name } takes the tablet
tablet-somebody-else = Somebody else
tablet-somebody-else-now = Somebody else now
tablet-choose = Choose
tablet-left = { $name } has left this tablet. Nothing that was typed is on it.
tablet-stop-title = Stop a job
tablet-stop = STOP
tablet-stop-cap = Anybody may, no code is asked. It is kept as said at this tablet, and everybody is told.
tablet-stop-reason = What is wrong, if there is time to say
tablet-nothing-to-stop = Nothing is under way.
tablet-stopped = { $number } is stopped. Everybody out; it goes on only when somebody signs for it.
tablet-stands-already = { $number } is not under way: it stands already.
tablet-is-one-now = This browser is a shared tablet from now on; you are signed out of it.
tablet-taken-out = Taken out of use. Nobody signs or stops at it any more.
tablets = Shared tablets
tablets-question = At which devices do people sign with a short code?
tablets-answer = { $count ->
    [0] [b]None[/] is in use.
    [one] [b]One[/] is in use.
   *[other] [b]{ $count }[/] are in use.
}
tablets-cap = At them people change in two taps, and anybody stops work without a code.
tablets-head-name = Name
tablets-head-since = Since
tablets-head-state = State
tablets-this = this device
tablets-out-since = out of use since { $at }
tablets-in-use = in use
tablets-take-out = Take it out of use
tablets-take-out-now = Take it out
tablets-none = No device is registered.
tablets-new = Make this device a shared tablet
tablets-name = Its name and place
tablets-new-cap = Whoever uses this browser afterwards is asked who they are. You are signed out of it.
tablets-register-now = Make it one
tile-account-for = account for who was here
tile-ran-out = it ran out: come out
tile-statements = statements wait
tile-exchange = hazards to sign
tile-on = { $part } { $number }
tile-lock-on = lock under { $number }
tile-part-permit = on
tile-part-worker = works on
tile-part-attendant = watches
tile-part-person-in-charge = leads
tile-part-director = directs
tile-part-operator = operates

## actions/site_settings.py

setting-training-rule = Courses of everybody exposed
why-training-rule = Whether somebody who lacks one (contact release, { -lockout }) is refused, or only named, before they are put to work.
setting-risk-rule = Risk not agreed on
why-risk-rule = Whether a { -permit } is refused at submission and issue where several people have not agreed on the risk of its job, or that is only shown.
setting-is-named = named
setting-is-refused = refused
setting-session-idle-h = Signed out after, idle
why-session-idle-h = Without any sign of life. A console that is open is one.
setting-session-whole-h = Signed out after, in any case
why-session-whole-h = However busy somebody is. Who directs a { -program } under way is given as long again.
setting-one-time-code = One-time code for approving, issuing and signing for a position
why-one-time-code = Whether a code from the signer's own device is asked for beside the password.
setting-is-no = not asked
setting-is-yes = asked

## jobs/crew.html

crew = Crew
crew-question = Can who is here do it, each duty by whom it may be?
crew-permit = the { -permit }
crew-program = the { -switching_program }
verdict-crew = { CAPITAL1($kind) } takes [b]{ $count } people[/] at least.
verdict-crew-lacks = { CAPITAL1($kind) } [late]cannot be staffed[/]: { $count ->
    [one] one duty is nobody's.
   *[other] { $count } duties are nobody's.
}
crew-head-duty = Duty
crew-head-who = One way to do it with the fewest
crew-duty-writes = writes it
crew-duty-approves = approves it
crew-duty-issues = issues it
crew-duty-works = works on it
crew-duty-vouches = signs for the workers
crew-duty-leads = leads the work
crew-duty-watches = watches
crew-duty-checks = checks it
crew-duty-releases = releases it
crew-duty-directs = directs it
crew-duty-operates = operates
crew-duty-looks = looks as third person
crew-never = never the same as who
crew-nobody = Nobody is left for it.
crew-lacks-role = lacks only the role
crew-lacks-skill = lacks only the { -qualification }
crew-cap = As roles and { -qualification(form: "many") } are today, at the class of equipment that is worked at; the { -program } asks besides for every class of device that it opens. It names one way, not the people: whoever may, may.
job-crew = Crew: can it be staffed?
permit-twice = On two rosters at once:
kind-of-record-calendar = calendar
kind-of-record-exchange = exchange of hazards
kind-of-record-tablet = shared tablet

## actions/evidence.py, actions/sealed_backup.py

evidence-at-most = a file of at most { $most } MB
evidence-smaller = a picture of at most 40 million points
evidence-a-picture-or-a-pdf = a picture (JPEG, PNG, WebP) or a PDF
person-evidence = Evidence: a picture or a PDF
person-evidence-cap = A picture is drawn anew, without where and with what it was taken. A PDF is kept as it is.
person-evidence-is = evidence
verify-evidence = The file { $name } that something refers to is not there, or is not what it was.
backup-a-file-that-can-be-read = a file that can be read ({ $why })
backup-a-key-of-bytes-at-least = a file that holds { $least } bytes at least
backup-with-its-key = an encrypted backup is opened with its key
backup-is-encrypted = { $path } is encrypted.
backup-another-key-or-damaged = { $path } was made with another key, or is damaged.
backup-give-its-key = Name the file that it was made with (--key, or SPINEL_BACKUP_KEY).
backup-a-file-lacks = The record was copied, but { $count } of the files that it refers to are not whole, first { $name }.
kind-of-record-evidence = evidence

## papers/story.html

story-head-no = Entry
story-head-when = When
story-head-what = Who did what
story-paper-cap = The record itself decides: spinel verify holds it against this count and head.
demo-code = , the short code at a shared tablet

## web/stories.py: what was done about people

story-person-added = entered { $name }.
story-person-described = put down whose they are, trade and telephone.
story-roles-changed = changed the roles: { LIST($roles) }.
story-qualification-recorded = recorded a { -qualification } from elsewhere: { LOWERFIRST($task) }, { $equipment_class }, until { DAY($until) }.
story-qualification-withdrawn = withdrew the { -qualification }: { LOWERFIRST($task) }, { $equipment_class }. “{ $because }”
story-training-recorded = recorded { $course }: { $how } on { DAY($day) }, seen by { $seen_by }.{ $task ->
    [none] { "" }
   *[other] {" "}{ CAPITAL1($task) }, { LIST($equipment_classes) }.
}{ $until ->
    [none] { "" }
   *[other] {" "}Counts until { DAY($until) }.
}
story-signed-in = signed in.
story-password-changed = changed the own password.
story-password-reset = made a new password for them.
story-invited = invited them with a link.
story-invitation-accepted = set a password by the link.
story-short-code-set = set the own short code.
story-one-time-codes-set-up = set up one-time codes.
story-one-time-codes-taken-away = took their one-time codes away: “{ $because }”
story-left = entered that they have left: “{ $because }”
story-came-back = entered that they are back: “{ $because }”
story-hazards-told = told { $guest } the hazards for “{ $work }”, { DAY($from) } to { DAY($until) }: “{ $told }”
story-exchange-signed = signed the other half: “{ $heard }”
story-exchange-ended = ended it: “{ $because }”
story-tablet-registered = made it a shared tablet.
story-tablet-taken-out-of-use = took it out of use: “{ $because }”

## actions/permit_moves.py: approvals

setting-approvals = Authorizers who approve
why-approvals = How many put their names to a { -permit } before it is issued, each another person. None of them wrote it, works on it or issues it.
setting-is-one = one
setting-is-two = two
setting-is-three = three
permit-moves-as-many-approve-as-the-site-wants = as many approve as the site wants
permit-moves-approvals-lack = { $count ->
    [one] One more approval is wanted since it was approved.
   *[other] { $count } more approvals are wanted since it was approved.
}
permit-moves-edit-and-submit-it-again = Edit it, and submit it again.
verdict-permit-approvals = Not yet: it waits for { $count } { -authorizer(form: "many") }.
verdict-permit-one-more = Not yet: it waits for one more { -authorizer }.
crew-duty-approves-2 = approves it as well
crew-duty-approves-3 = approves it as third
tablet-press-again = The page was too old. Nothing was stopped: press STOP once more.

## core/permit/positions.py, actions/positions.py, actions/permit_approval.py

setting-positions = Positions that sign a { -permit }
why-positions = Who puts their name to it before an { -authorizer } approves, one after the other, each another person, none of whom wrote it or works on it. What was approved and not issued yet waits for a position that is new.
positions-none = none
positions-nth = Position { $nth }
positions-order = Signs as number
positions-title = What it is called; empty: there is none
positions-held-by = Who may sign for it: any one of these
positions-at-most = at most { N($most) } positions
positions-each-title-once = a title that no other position has
positions-somebody-who-is-here = for { $title }, at least one person who is registered here
permit-life-sign-a-permit = sign a { -permit } for a position
permit-approval-each-position-signs-once = each position signs once
permit-approval-every-position-has-signed = Every position of the site has signed this content.
permit-approval-each-position-by-who-holds-it = each position signs by who holds it, in the order of the site
permit-approval-it-is-the-turn-of = It is the turn of { $title }: { LIST($holders) }.
permit-approval-they-sign = They sign. Who holds a position is in the settings of the site.
permit-approval-the-positions-of-the-site-sign = the positions that the site names sign before it is approved
permit-approval-has-not-signed = { $title } has not signed it.
permit-approval-they-sign-first = They sign first.
permits-signed-for-the-position = Signed for the position.
permit-sign-as = Sign as { $title }
sign-as = { $title }, signs
verdict-permit-position = Not yet: it waits for { $title } to sign.
waits-sign = sign for your position
wall-waits-position = for { $title }
record-signed = signed for a position
story-permit-signed = signed as { $position } content { $content_hash }, with the password again.
act-permit-signed = permit signed
part-signatory = one who signed for a position
crew-signs-as = signs as { $title }
setting-site-name = Name of the site, as printed
why-site-name = On papers and at the foot of each page. Without one of its own it is the name in the network document.
setting-site-address = Address of the site
why-site-address = Printed beside the name, for whoever has to find it.
settings-none-of-its-own = none of its own
settings-new-text = New text; empty: none of its own
