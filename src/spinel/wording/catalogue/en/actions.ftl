## actions/box.py

box-an-absent-owners-lock-needs-two = an absent owner's lock needs two
box-is-in-charge-of-this-box = { $taken_by } is in charge of this box.
box-they-and-a-coordinator = They and a coordinator.
box-the-box-follows-the-handover = the box follows the handover
box-is-not-handed-over = { $number } is not handed over.
box-execute-it-to-its-end = Execute it to its end.
box-take-over-an-isolation = take over an { -isolation }
box-remove-the-lock-of-somebody-absent = remove the lock of somebody absent
box-declare-work-complete = declare work complete
box-personal-locks-come-off-first = personal locks come off first
box-still-on-the-box = Still on the box: { $names }.
box-each-takes-off-their-own = Each takes off their own.
box-restoration-follows-its-isolation = { -restoration } follows its { -isolation }
box-the-isolation-has-not-ended = The { -isolation } has not ended.
box-execute-or-abandon-it-first = Execute or abandon it first.
box-restoration-follows-the-work = { -restoration } follows the work
box-work-is-not-declared-complete = Work is not declared complete.
box-the-person-in-charge-declares-it = The { -in_charge } declares it.
box-isolation-lock-on = { -isolation } lock on { $tag }
box-one-person-in-charge = one { -in_charge }
box-has-the-box = { $taken_by } has the box.
box-it-is-already-taken-over = It is already taken over.
box-it-was-handed-over-to = It was handed over to { $name }.
box-they-take-it-over = They take it over.
box-separation-of-duties = separation of duties
box-you-released-this-program = You released this { -program }.
box-hand-it-over-to-somebody-else = Hand it over to somebody else.
box-work-is-declared-complete = Work is declared complete.
box-nobody-has-taken-over-the-box-yet = Nobody has taken over the box yet.
box-locks-hang-on-a-box-somebody-has = locks hang on a box somebody has
box-the-person-in-charge-takes-it-over = The { -in_charge } takes it over first.
box-one-lock-a-person = one lock a person
box-your-lock-hangs-there-already = Your lock hangs there already.
box-leave-it-until-you-are-out = Leave it until you are out.
box-a-lock-that-does-not-hang-there = a lock that does not hang there already
box-a-lock-is-removed-by-whoever-hung = a lock is removed by whoever hung it
box-no-lock-of-yours-hangs-there = No lock of yours hangs there.
box-leave-the-others = Leave the others.
box-it-is-your-own = It is your own.
box-take-it-off-yourself = Take it off yourself.
box-gave-the-s-half = { $by } gave the { LOWERFIRST($half) }'s half.
box-the-other-half-is-the-person-in = The other half is the { -in_charge }'s or a coordinator's, somebody else.
box-has-the-box-2 = { $who } has the box.
box-they-declare-it-complete = They declare it complete.
box-declared-once = declared once
box-it-is-declared-complete = It is declared complete.
box-go-on-with-the-restoration = Go on with the { -restoration }.

## actions/jobs.py

act-jobs-start-a-job = start a job
act-jobs-answer-for-a-job = answer for a job
act-jobs-prepare-a-permit = prepare a { -permit }
act-jobs-write-a-program = write a { -program }
act-jobs-close-a-job = close a job
act-jobs-cancel-a-job = cancel a job
yes-or-no = yes or no
act-jobs-a-job-closes-after-its-programs = a job closes after its { -program(form: "many") }
act-jobs-is = { $number } is { LOWERFIRST($state) }.
act-jobs-execute-or-abandon-it-first = Execute or abandon it first.
act-jobs-a-job-closes-when-nothing-hangs = a job closes when nothing hangs
act-jobs-locks-tags-grounds-or-people-of-are = Locks, tags, { -ground(form: "many") } or people of { $left } are still there.
act-jobs-execute-the-restoration = Execute the { -restoration }.
act-jobs-life-of-a-job = life of a job
act-jobs-start-a-new-job = Start a new job.
act-jobs-a-job-closes-after-its-permits = a job closes after its { -permit(form: "many") }
act-jobs-has-not-ended = { $stills } has not ended.
act-jobs-close-or-cancel-it-first = Close or cancel it first.
act-jobs-permits-freeze-what-they-were-signed-on = { -permit(form: "many") } freeze what they were signed on
act-jobs-a-permit-of-this-job-is-signed = A { -permit } of this job is signed or in force.
act-jobs-cancel-that-permit-first-then-the-facts = Cancel that { -permit } first; then the facts can be answered anew.

## actions/permit_review.py

permit-review-as-it-was-reached-is-no-longer = { $tag }, as it was reached, is no longer in the network

## actions/board.py

act-board-no-longer-stands-locks-on-its-box = no longer stands: { $why } { $count } locks on its box.
act-board-to-be-checked-by-a-second-person = to be checked by a second person
act-board-to-be-released = to be released
act-board-to-be-executed = to be executed

## actions/equipment.py

act-equipment-nothing-a-has-no-state = nothing: a { LOWER($kind_name) } has no state
one-of = one of { $options }

## actions/console.py

console-step-was-confirmed-for-a-state-that = Step { $step } was confirmed for a state that has moved: { $why }.
console-is = { $number } is { LOWERFIRST($state) }
console-step-is-the-next-one = step { $step } is the next one
console-something-was-recorded-on-the-program = something was recorded on the { -program } meanwhile
console-said-to-be-done-as-step-of = said to be done as step { $step } of { $number }: { $action }
console-a-confirmation-is-for-the-state-it = a confirmation is for the state it was made for
console-what-was-done-is-kept-as-found = What was done is kept as found. Look at it, then resume, or record what is not as written.
console-one-program-at-a-time-under-a = one { -program } at a time under a hold
console-is-2 = { $number } is { LOWERFIRST($state) }.
console-execute-or-abandon-it-first = Execute or abandon it first.
console-a-switching-operator = a { -operator }
console-separation-of-duties = separation of duties
console-the-director-reads-and-verifies-somebody-else = The director reads and verifies; somebody else turns the handle.
console-name-another-operator = Name another operator.
console-released-this-program = { $name } released this { -program }.
console-a-step-from-1-to = a step from 1 to { $count }
console-the-directors-device-records = the director's device records
console-directs-this-program = { $director } directs this { -program }.
console-its-director-confirms-its-steps = Its director confirms its steps.
console-a-lock-is-removed-by-whoever-hung = a lock is removed by whoever hung it
console-hung-the-lock-on = { $name } hung the lock on { $identity }.
console-name-as-operator-from-here-on-for = Name { $name } as operator from here on; for somebody absent, the { -in_charge } and a coordinator record it on the box.
console-a-person-in-charge-who-takes-the = a { -in_charge }, who takes the { -isolation } over
console-somebody-who-did-not-release-this-program = somebody who did not release this { -program }
console-the-tag-of-equipment-in-the-network = the tag of equipment in the network
console-a-third-person-checks = a third person checks
console-here-somebody-else-than-director-and-operator = Here somebody else than director and operator checks.
console-a-third-person-signs-in-on-another = A third person signs in on another device and confirms the check.
console-as-nobody-recorded-it = as nobody recorded it
console-it-cant-go-on-as-written = It can't go on as written. { $why }
console-record-what-is-not-as-written-a = Record what is not as written: a successor is drafted from the state as it is.
console-a-practice-run-has-no-successor = A practice run has no successor.

## actions/reviews.py

reviews-was-found-reported-by = { $tag } was found { $value }, reported by { $name }

## actions/practice.py

practice-false-reading = the instrument showed { N($shown) } V on { $pair } at { $identity }, { N($typed) } V was typed
practice-a-fault-was-missed = a fault was missed: { $faults }
practice-failed-at-step = Failed at step { $step }: { $why }
practice-start-a-practice-run = start a practice run
practice-put-a-fault-into-a-practice-run = put a fault into a practice run
practice-the-tag-of-equipment-in-the-network = the tag of equipment in the network
practice-a-device-that-isolates = a device that isolates
practice-practice-of-a-program = practice of a { -program }
practice-is-itself-a-practice-run = { $number } is itself a practice run.
practice-practise-the-program = Practise the { -program }.
practice-faults-are-for-practice-only = faults are for practice only
practice-is-not-a-practice-run = { $number } is not a practice run.
practice-start-a-practice-run-2 = Start a practice run.

## actions/setup.py

setup-change-settings = change settings
setup-is-no-database-of-an-earlier-version = { $path } is no database of an earlier version of Spinel. Nothing was changed.

## actions/programs.py

act-programs-nothing-recorded = nothing recorded
act-programs-isolated-by = { $name }, { $voltage_v }, isolated by { $isolated_by }
act-programs-one-isolation-at-a-time = one { -isolation } at a time
act-programs-of-this-job-has-not-ended = { $running } of this job has not ended.
act-programs-continue-with-it = Continue with it.
act-programs-locks-grounds-or-people-of-are-still = Locks, { -ground(form: "many") } or people of { $kept } are still there.
act-programs-draft-its-successor-or-its-restoration = Draft its successor or its { -restoration }.
act-programs-at-is-this-cuts-it-off-tell = { $number } at { $tag } is { LOWERFIRST($state) }: this cuts it off. Tell them.
act-programs-operates-devices-of-this-program-too-settle = { $number } operates devices of this { -program } too. Settle with them who is first.
act-programs-a-successor-follows-what-was-abandoned = a successor follows what was abandoned
act-programs-is = { $number } is { LOWERFIRST($state) }.
act-programs-go-on-with-it = Go on with it.

## actions/expiry.py

expiry-ran-out-before-anybody-accepted-it = ran out before anybody accepted it

## actions/program_moves.py

program-moves-step-moved-to = step { $step } moved to { $to }
program-moves-step-removed = step { $step } removed
program-moves-step-remarked = remark on step { $step }
program-moves-added-as-step = { $what } { $tag } added as step { $at }
program-moves-a-signature-covers-what-was-seen = a signature covers what was seen
program-moves-the-program-changed-after-you-opened-it = The { -program } changed after you opened it.
program-moves-read-it-again-then-sign = Read it again, then sign.
program-moves-figures-on-the-program-cover-the-present = figures on the { -program } cover the present
program-moves-draft-it-anew = Draft it anew.
program-moves-practice-is-fixed-when-it-is-drafted = practice is fixed when it is drafted
program-moves-a-practice-run-is-not-edited = A practice run is not edited.
program-moves-edit-its-program = Edit its { -program }.
program-moves-the-tag-of-equipment-in-the-network = the tag of equipment in the network
program-moves-a-place-from-1-to = a place from 1 to { $count }
program-moves-step = Step { $i }, { $identity }: { $why }

## actions/permit_moves.py

permit-moves-cancel-and-copy-it-the-copy-takes = Cancel and copy it: the copy takes the figures of now.
permit-moves-edit-and-save-the-permit-it-takes = Edit and save the { -permit }: it takes the present figures.
permit-moves-name-the-workers = name the workers
permit-moves-name-the-person-in-charge = name the { -in_charge }
permit-moves-say-how-unqualified-people-are-kept-out = say how unqualified people are kept out
permit-moves-name-the-safe-work-practices = name the safe work practices
permit-moves-at-least-two-people-for-live-work = at least two people for live work: add an { -attendant } or another worker
permit-moves-after-the-start = after the start
permit-moves-issuing-may-only-narrow-the-window = issuing may only narrow the window
permit-moves-the-window-is-wider-than-the-one = The window is wider than the one that was approved.
permit-moves-stay-inside-it-or-edit-the-permit = Stay inside it, or edit the { -permit }, which voids the approval.
permit-moves-this-window-is-already-over = This window is already over.
permit-moves-choose-one-that-is-not = Choose one that is not.
permit-moves-every-point-is-covered-in-the-briefing = every point is covered in the briefing
permit-moves-all-three-or-do-not-start = all three, or do not start
permit-moves-the-briefing-is-not-recorded = The briefing is not recorded.
permit-moves-the-three-statements-are-missing-from = The three statements are missing from { $unsigneds }.
permit-moves-an-authorizer-has-not-signed-that-the = An { -authorizer } has not signed that the workers are { -qualification(form: "done") } and briefed.
permit-moves-a-signature-covers-what-was-seen = a signature covers what was seen
permit-moves-the-content-changed-after-you-opened-it = The content changed after you opened it.
permit-moves-read-it-again-then-sign = Read it again, then sign.
permit-moves-never-extended = never extended
permit-moves-the-permit-has-run-out = The { -permit } has run out.
permit-moves-hand-it-back-or-cancel-it-and = Hand it back or cancel it, and copy it for a new window.
permit-moves-figures-on-the-permit-cover-the-present = figures on the { -permit } cover the present
permit-moves-the-equipment-is-no-longer-in-the = The equipment is no longer in the network.
permit-moves-the-decision-still-stands = the decision still stands
permit-moves-answer-the-job-anew = Answer the job anew.
permit-moves-the-permit-says-what-the-job-says = the { -permit } says what the job says
permit-moves-the-job-was-answered-anew-after-this = The job was answered anew after this { -permit } was saved.
permit-moves-edit-and-save-the-permit-it-takes-2 = Edit and save the { -permit }: it takes the present answers.
permit-moves-the-requested-window-is-over = The requested window is over.
permit-moves-ask-for-a-later-window = Ask for a later window.
permit-moves-what-a-permit-holds = what a { -permit } holds
permit-moves-it-is-not-complete = It is not complete: { $what }.
permit-moves-edit-the-permit = Edit the { -permit }.
permit-moves-the-registered-people-who-were-there = the registered people who were there
permit-moves-everyone-on-the-job-is-briefed-planned = everyone on the job is briefed, planned workers first
permit-moves-have-not-signed-the-briefing = The signature for the briefing is missing from { LIST($people, between: ", ") }.
permit-moves-nothing-of-yours-to-sign = Nothing here is yours to sign.
permit-moves-own-statements = own statements
permit-moves-you-are-not-on-this-permits-roster = You are not on this { -permit }'s roster.
permit-moves-be-briefed-first = Be briefed first.
permit-moves-briefing-before-work = briefing before work
permit-moves-you-have-not-been-briefed-on-it = You have not been briefed on it.
permit-moves-your-three-statements-are-already-recorded = Your three statements are already recorded.
permit-moves-nothing-more-to-sign = Nothing more to sign.
permit-moves-not-briefed = Not briefed: { $absents }.
permit-moves-hold-the-briefing-first = Hold the briefing first.
permit-moves-person-in-charge = { -in_charge }
permit-moves-is-in-charge-of-this-job = { $name } is in charge of this job.
permit-moves-they-accept-it = They accept it.
permit-moves-its-window-has-not-begun = Its window has not begun.
permit-moves-wait-for-it = Wait for it.
permit-moves-before-acceptance = before acceptance
permit-moves-then-accept = Then accept.
permit-moves-they-hand-it-back = They hand it back.
permit-moves-they-say-it-or-a-coordinator = They say that the place is empty, or a coordinator with somebody who saw it.
permit-moves-a-second-person-who-saw-it-empty = a second person, who saw the place empty
in-the-way-nothing-is-switched-where-people-are-on-a-permit = nothing is switched where people are on a { -permit }
in-the-way-step-meets-the-permit = Step { $i }, { $identity }: { $number } at { $tag } is { LOWERFIRST($state) }.
in-the-way-step-raises-the-permit = Step { $i }, { $identity }: it would raise what { $number } was issued for: { $raised }.
in-the-way-hand-it-back-or-suspend-it-and-see-it-empty = Have it handed back, or suspend it and have its place seen empty.
permit-moves-accepted-work-is-handed-back = accepted work is handed back
permit-moves-people-worked-under-this-permit = People worked under this { -permit }.
permit-moves-the-person-in-charge-accounts-for-them = The { -in_charge } accounts for them and hands it back.
permit-moves-planned-people-attendants-and-workers-who-join = planned people, { -attendant(form: "many") }, and workers who join
permit-moves-separation-of-duties = separation of duties
permit-moves-approved-or-issued-this-permit-and-cannot = { $i } approved or issued this { -permit }, or signed it for a position, and cannot work on it.
permit-moves-brief-somebody-else = Brief somebody else.

## actions/people.py

act-people-this-is-not-your-password-nothing-was = This is not your password. Nothing was signed.
act-people-limited-sign-in-attempts = limited sign-in attempts
act-people-too-many-wrong-passwords-for-this-account = Too many wrong passwords for this account within { $minutes } minutes.
act-people-wait-minutes-then-try-again = Wait { $minutes } minutes, then try again.
act-people-check-caps-lock-and-try-again = Check caps lock and try again.
act-people-not-so-long = not of that length
act-people-record-qualifications = record { -qualification(form: "many") }
act-people-qualified-per-task-and-equipment-class = { -qualification(form: "done") } per task and equipment class
act-people-has-no-qualification-in-date-on-for = { $name } has no { -qualification } in date on { $on } for “{ LOWERFIRST($task) }” on a { $equipment_class }.
act-people-choose-somebody-qualified-or-have-the = Choose somebody { -qualification(form: "done") }, or have the coordinator record the { -qualification }.
act-people-register-people = register people
act-people-a-name-that-nobody-has = a name that nobody here has, or ever had: papers and the ledger name people by it
act-people-a-sign-in-name-that-nobody-has = a sign-in name that nobody has yet

## actions/job_stages.py

job-stages-stopped-at-step = stopped at step { $step }
job-stages-at-step = at step { $step }
job-stages-after-the-handover = After the handover
job-stages-not-drafted-yet = Not drafted yet
job-stages-the-equipment-is-no-longer-in-the = The equipment is no longer in the network
job-stages-on-the-box = { $count } on the box
job-stages-nobodys-lock-on-the-box = Nobody's lock on the box
job-stages-with-its-practices-and-all-ppe = With its practices and all PPE
job-stages-as-decided = As decided
job-stages-draft-the-switching-program = Draft the { -switching_program }
job-stages-behind-the-isolation-each-with-a-lock = Behind the { -isolation }, each with a lock on its box
job-stages-when-the-work-is-complete-and-all = When the work is complete and all locks are off
job-stages-was-refused = { $number } was refused
job-stages-needs-a-permit = Needs a { -permit }
job-stages-after-briefing-and-acceptance = After briefing and acceptance
job-stages-in-force = In force
job-stages-questions-not-answered = { $count } questions not answered
job-stages-was-the-circuit-changed-what-was-learnt = Was the circuit changed? What was learnt?
job-stages-when-every-permit-and-program-has-ended = When every { -permit } and { -program } has ended
job-stages-prepare-it = Prepare it
job-stages-after-the-permit-is-in-force = After the { -permit } is in force
job-stages-not-needed = Not needed
job-stages-after-the-decision = After the decision
job-stages-it-cannot-be-switched-off-and-has = It cannot be switched off, and has no figures or justification yet

## actions/readings.py

readings-residual-voltage-of-went-from-v-to = Residual voltage of { $identity } went from { N($first) } V to { N($second) } V: a source is still connected.
readings-voltage-is-present-at = Voltage is present at { $identity }: { $shown }.
readings-stop-find-what-feeds-it-do-not = { $why } Stop, find what feeds it, do not bleed, do not { -ground }.
readings-reads-v-on-a-source-of-v = { $name } reads { N($reading) } V on a source of { N($source) } V: out of service, every test since is void. Repeat the whole test with another.
readings-with-voltage-present = with voltage present
readings-the-instrument-of-the-tests = the instrument of the tests: { $instrument }
readings-v = { $pair } { N($volts) } V
readings-the-instrument-is-proved-before-and-after = the instrument is proved before and after

## actions/acting.py

acting-who-may = who may
acting-only-may = Only { $any_of } may { $what }.
acting-ask-somebody-with-that-role = Ask somebody with that role.

## actions/network.py

act-network-a-lock-of-hangs-on-it = a lock of { $locks } hangs on it
act-network-a-ground-of-hangs-there = a { -ground } of { $hold } hangs there
act-network-publish-a-network = publish a network
act-network-network-revision = network revision { $number }
act-network-is-and-works-on-it = { $number } is { LOWERFIRST($state) } and works on it
act-network-nothing-is-taken-out-of-the-network = nothing is taken out of the network while it is held
act-network-this-document-has-no-but = This document has no { $i }, but { $because }.
act-network-restore-or-abandon-first-then-publish = Restore or abandon first, then publish.
act-network-record-the-inspection-after-a-trip = record the inspection after a trip
act-network-the-qualified-person-who-inspected-it = the qualified person who inspected it
act-network-an-inspection-follows-a-trip = an inspection follows a trip
act-network-was-not-found-tripped = Nobody found { $tag } tripped or blown.
act-network-record-a-walk-down = record a walk-down
act-network-every-switching-device-is-found-in-some = every switching device is found in some position
act-network-the-walk-down = the walk-down
act-network-found = { $tag } found { $value }
act-network-correct-an-entry = correct an entry
act-network-what-is-published-was-compared = what is published was compared with the latest revision
act-network-another-revision-meanwhile = { $by } published another revision after you opened it: this one would undo it unseen.
act-network-look-at-what-differs-now = Look at what differs now, then publish.
act-network-revisions-differ = revisions differ
act-network-this-is-revision-as-published = This is revision { $number } as published.
act-network-nothing-to-publish = Nothing to publish.
act-network-an-earlier-revision-is-word-for-word = An earlier revision is word for word the same.
act-network-publish-it-with-a-change-that-says = Publish it with a change that says why it returns, for instance in the site's name.
act-network-only-an-entry-is-corrected = only an entry is corrected
act-network-nothing-is-recorded-on = Nothing is recorded on { $tag }.
act-network-report-what-you-found = Report what you found.
act-network-a-second-person-corrects = a second person corrects
act-network-you-recorded-this-entry = You recorded this entry.
act-network-somebody-else-corrects-it = Somebody else corrects it.
act-network-corrected-to = { $tag } corrected to { $value }

## actions/version.py

version-was-written-by-a-later-version-of = { $path } was written by a later version of Spinel. Install that version.
version-is-of-an-earlier-version-of-spinel = { $path } is of an earlier version of Spinel. Run `spinel upgrade`: it makes a copy first.

## actions/program_review.py

program-review-step-is-no-longer-in-the-network = step { $i }: { $identity } is no longer in the network
program-review-step-has-worse-figures-than-the-program = step { $i }: { $identity } has worse figures than the { -program } says

## actions/permits.py

act-permits-at-least-one-step-one-a-line = at least one step, one a line
act-permits-after-the-start-of-the-window = after the start of the window
act-permits-at-most-hours-after-the-start-site = at most { N($longest) } hours after the start (site setting)
act-permits-each-person-once = each person once
act-permits-an-attendant-has-no-other-duty-not = an { -attendant } has no other duty: not a worker on this { -permit }
act-permits-no-permit-is-needed = No { -permit } is needed.
act-permits-decision = decision: { LOWER($title) }
act-permits-why-the-working-distance-is-not-the = why the working distance is not the standard { N($standard) } mm, in a few words
act-permits-a-registered-person-with-the-role-for = a registered person with the role for it
act-permits-one-permit-at-a-time = one { -permit } at a time
act-permits-of-this-job-has-not-ended = { $running } of this job has not ended.
act-permits-continue-with-it = Continue with it.
act-permits-barricade-with-red-danger-tape-and-signs = { -barricade(form: "One") } with red danger tape and signs on all sides
act-permits-cancel-and-copy = cancel and copy
act-permits-has-not-ended = { $number } has not ended.
act-permits-cancel-it-first = Cancel it first.
act-equipment-also-inside = { N($voltage_v) } V { UPPER($current) } { LOWERFIRST($name) } from { $source } in { $box }
permit-review-cause-and-found = { $cause }: { $found }
act-people-sign-in-name-or-password-is-wrong = Sign-in name or password is wrong.
readings-a-known-source-of = a known source of { N($least_v) } V or more
job-stages-number-and = { $number } { LOWERFIRST($what) }
job-stages-complete = Complete
stage-scope = Scope
stage-decision = Decision
stage-permit = { -permit(form: "One") }
stage-switching = { -switching(form: "One") }
stage-isolation = { -isolation(form: "One") }
stage-work = Work
stage-restoration = { -restoration(form: "One") }
stage-close = Close
job-state-open = Open
job-state-closed = Closed
job-state-cancelled = Cancelled
console-broken = { $why } ({ $rule })
console-step-of = { $number } step { $step }
act-permits-edited-by = edited by { $name }
act-programs-why-not = { $why } { $remedy }

## core/isolation and actions: instruments

instruments-highest-not-below-the-lowest = the highest voltage, not below the lowest
instruments-ac-dc-or-both = AC, DC or both
instruments-a-number-that-no-other-has = a number that no other instrument has
instruments-only-what-is-out-of-use = only what is out of use is brought back
instruments-is-in-use = { $number } is in use.
instruments-nothing-to-do = There is nothing to do.
instruments-not-the-kind = { $number } is no { $kind }
absence-indicates-or-does-not = whether it indicates or does not
detector-indicates = indicates
detector-does_not = does not indicate
readings-indicates = { $pair } indicates
readings-barred-by = { $number }, step { $step }: { $why }
readings-did-not-indicate = { $name } did not indicate on its proving unit
readings-reads-v-on-its-source = { $name } read { N($reading) } V on a source of { N($source) } V
readings-failed-afterwards = { $why }: it is out of use, and every test since is void. Repeat the whole test with another.
readings-an-instrument-of-the-list = an instrument of the site's list, by its number
readings-an-instrument-that-fits = an instrument that fits all that is tested with it. { $why }
readings-a-source-of-its-own-range = a source in the range of { $number }, { N($low_v) } to { N($high_v) } V
readings-is-barred-now = { $name } failed on its known source. It is out of use from now on.
readings-take-another = Take another and prove that one.
practice-false-indication = on { $pair } at { $identity } the detector { $shown }, the opposite was recorded
console-a-lock-that-hangs-nowhere-else = the number of a lock that hangs nowhere else
act-board-stands-for = for { $minutes } min at step { $step }: { $says }.
act-network-a-device-that-opens = a device that opens
act-network-a-moment-that-has-been = a moment that has been
act-network-opened-in-an-emergency = opened in an emergency by { $by }
act-network-was-opened-in-an-emergency = { $tag } was opened in an emergency
network-pages-the-emergency-is-recorded = The opening is recorded. Check its position when it is safe to. Without supply by it: { $lost }.

## actions/operation.py

in-the-way-operation-raises-the-permit = { $identity } would raise what { $number } was issued for: { $raised }.
in-the-way-operation-meets-the-permit = { $identity } meets { $number } at { $tag }: { $state }, people may be there.
operation-order-one = order an operation
operation-look-at-a-device = look at a device for the record
operation-another-person-who-operates = an operator, another person than you
operation-note = by { $operator }, outside a { -program }
operation-looked = looked at
operation-of = { $tag } to { $to }
operation-done = It is recorded. Its position counts as unknown until somebody has looked at it.
operation-looked-at = What you saw is recorded.
operation-looked-otherwise = looked at, and not as recorded
operation-one-program-at-a-time-moves-a-device = a device that a program is about to move is moved by that program
operation-program-is-about-to-move-it = { $number } is under way and moves { $tag }.
operation-leave-it-to-the-program = Leave it to the program, or end the program first.
practice-has-begun-or-is-none = { $number } has begun, or is no practice run.
practice-scene-wrong_cubicle = the { -operator } repeats "{ $tag }", and stands there
practice-scene-others_lock = a red lock with another crew's tag hangs on { $identity }
practice-scene-no_answer = { $tag } does not answer
practice-scene-stuck_blade = one blade of { $identity } stands closed
practice-not-heeded = it was confirmed though { $scene }

## actions/switchings.py

act-switchings-one-at-a-time = one switching at a time
act-switchings-the-way-back-follows-what-is-over = the way back follows what is over
act-switchings-there-is-something-to-bring-back = there is something to bring back
act-switchings-nothing-stands-as-it-left-it = Nothing stands as { $number } left it.
act-switchings-ask-for-the-state-wanted = Ask for the state wanted instead.

readings-as-before-or-not = one of the three
readings-phases-are-not-as-they-were = Phases or rotation of { $identity } are not as they were: { $how }.

## actions/relief.py

relief-each-hands-over-their-own = each hands over what is their own, and both sign
relief-you-are-not-it = You are not the { $part } now.
relief-whoever-is-it-hands-it-over = Whoever is hands it over.
relief-it-is-between = It is between { $by } and { $to }.
relief-leave-it-to-them = Leave it to them.
relief-somebody-who-may-director = another { -director }
relief-somebody-who-may-operator = another { -operator }
relief-somebody-who-may-in-charge = another { -in_charge }
relief-has-another-part = { $name } has another part in this program.
relief-name-somebody-else = Name somebody else.
relief-part-director = { -director }
relief-part-operator = { -operator }
relief-part-locks = my isolation locks
relief-part-in_charge = { -in_charge }

readings-a-voltage-is-read-once-more-or-stands = a voltage that a contact instrument shows is read once more, or it stands
readings-it-is-recorded-and-may-be-coupled = What it shows may be coupled from a conductor beside, or it may be fed.
readings-read-again-with-low-impedance-or-let-it-stand = Read the same pairs with an instrument of low impedance, proved before and after; or let it stand, which stops the program.
readings-one-of-low-impedance = an instrument of low impedance

in-the-way-what-a-program-moves-is-moved-by-no-other = what a program under way moves is moved by no other
in-the-way-moves-it-too = { $number } is under way and moves { $tags } too.
in-the-way-execute-or-abandon-that-one-first = Execute or abandon that one first.

## register, sessions

register-change-the-register = change the register
register-other-roles-than-now = other roles than now
register-somebody-who-has-not-left = somebody who has not left
register-somebody-who-has-left = somebody who has left
register-somebody-else-the-own-is-changed-on-ones-page = somebody else; the own is changed on the page of one’s account
register-that-one = that one
register-one-that-nobody-guesses = another one than now, that nobody guesses: not a name, not a common word with digits behind it
register-a-site-keeps-a-coordinator = a site keeps a coordinator
register-is-the-only-one = { $name } is the only one.
register-make-somebody-else-one-first = Make somebody else a coordinator first.
sessions-each-ends-their-own = This session is somebody else’s.
sessions-ask-them-or-a-coordinator = They end it themselves, or a coordinator does.

## backup

backup-a-file-that-is-not-there-yet = a file that is not there yet: a backup takes the place of nothing
backup-sqlite-says = SQLite says: { $problem }
backup-no-site-of-this-or-an-earlier-version = it is no site of this version or an earlier one
backup-the-ledger-is-broken-at = its ledger is broken at entry { $entry }: { $why }
backup-a-copy-is-whole-or-none = a copy is whole, or none
backup-of-is-not = { $path } was not copied: { $why }.
backup-take-another = Take another copy, and have somebody look at this one.

verify-chain = the ledger is broken at entry { $entry }: { $why }
verify-file-is-open = { $file } may be read or changed by others than its owner (mode { $mode })
verify-keys-unreadable = { $file } holds no keys
verify-row-found-otherwise = { $row }: entry { $entry } found it otherwise than the last one before had left it
verify-row-put-in = { $row }: was put in, no entry says so
verify-row-changed = { $row }: is not as its last entry left it
verify-row-gone = { $row }: was taken out, no entry says so
verify-row-noted = { $row }: was written outside of an act
verify-schema = { $name }: this table, trigger or index is not that of this version
verify-index = { $what }: the search index is not what the tables say
verify-anchors-unreadable = no anchor: { $line }
verify-anchor-cut = the anchor of { $at } holds { $anchored } entries, only { $count } are here: an old copy was put in place, or the end was cut off
verify-anchor-other = the anchor of { $at } holds another entry { $anchored }: this is not the record that was anchored
verify-rows-of-an-earlier-version = it is of an earlier version, whose entries say nothing of the rows that they wrote
verify-not-keyed = entries { $first } to { $last } are of before 0.10: they have no keyed code, and say nothing of rows
verify-keyed-elsewhere = entries { $first } to { $last } were made with keys that are not here ({ $name }): whether they were made anew cannot be told
verify-no-anchor = there is no anchor, and no printed head and count was given: an old copy put in place, or a cut end, would not be found
ledger-row-was-made-without-the-key = it was made without the key of this site
anchor-not-taken = the command of SPINEL_ANCHOR_COMMAND did not take the anchor ({ $why }); it stands beside the database only
anchor-not-written = the anchor could not be written to { $file }: { $why }
upkeep-not-as-recorded = { $count ->
    [1] One thing in the database is not as it was recorded
   *[other] { $count } things in the database are not as they were recorded
  }: { $first }. Trust no paper of it until somebody has looked: spinel verify lists them all.
upkeep-not-verified = The record was last verified { $hours } hours ago. The server verifies it daily: have somebody look at its log.
upkeep-never-backed-up = There is no backup of this record yet. The server makes one daily, where a folder for it is named.
upkeep-no-backup-since = The last good backup is { $hours } hours old. The server makes one daily: have somebody look at its log.
upkeep-no-backup = There is no new backup in { $folder }: { $why }.
clock-rule = the clock
clock-is-behind = The last entry of the record is { $minutes } min later than the server's clock: the clock was set back.
clock-was-moved = The server's clock was moved by more than it runs; it may be wrong now, or may have been before.
clock-a-coordinator-looks = A coordinator compares it with another clock, sets it right, and says so on the board.
clock-acknowledge = say that the clock is right
clock-nothing-to-acknowledge = a reason, once the clock is in doubt: it is not
setup-another-value-than-now = another value than now
