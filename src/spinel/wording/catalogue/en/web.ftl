## web/drawing.py

drawing-ka = { FIX($current, digits: 1) } kA

## web/forms.py

forms-what-you-typed-is-kept-below-compare = { $error } What you typed is kept below: compare, then send it again.
forms-not-accepted = Not accepted: { $allowed }.
forms-a-whole-number-open-the-page-again = a whole number: open the page again
forms-a-date-and-a-time-of-this = a date and a time of this century
forms-a-time-that-exists-the-clocks-go = a time that exists: the clocks go forward then
forms-a-date-and-a-time = a date and a time
forms-a-registered-person = a registered person

## web/network_pages.py

network-pages-recorded-what-you-found = Recorded what you found.
network-pages-m-restricted-shock = { APPROACH($restricted_mm) } m  restricted, shock
network-pages-mm-working-distance = { N($working_distance_mm) } mm  working distance
network-pages-m-limited-shock = { APPROACH($limited_fixed_mm) } m  limited, shock
network-pages-m-arc-flash-boundary = { METRES($boundary_mm) } m  { -arc_flash_boundary }
network-pages-stopped-or-suspended = { $what } Stopped or suspended: { $touched }.
network-pages-the-inspection-is-recorded = Inspection and cause are recorded. Check its position before it is closed.
network-pages-the-correction-is-recorded = The correction is recorded.

## web/papers.py

papers-letter-or-a4 = letter or a4

## web/permits.py

permits-submitted-for-approval = Submitted for approval.
permits-approved-and-signed = Approved and signed.
permits-refused-with-the-reason = Refused, with the reason.
permits-issued-it-is-in-force-once-the = Issued. It is in force once the { -in_charge } has accepted it.
permits-briefing-recorded = Briefing recorded.
permits-you-signed-the-briefing = You signed that you were briefed.
permits-your-three-statements-are-recorded = Your three statements are recorded.
permits-signed-the-workers-are-qualified-and-briefed = Signed: the workers are { -qualification(form: "done") } and briefed.
permits-accepted-the-permit-is-in-force = Accepted. The { -permit } is in force.
permits-suspended-stop-the-work-and-make-it = Suspended. Stop the work and make it safe.
permits-cause-recorded-the-person-in-charge-must = Cause recorded. The { -in_charge } must accept it anew.
permits-handed-back = Handed back.
permits-the-place-is-empty = Recorded: the place is empty. Nobody goes back before it is resumed and accepted anew.
permits-copied-into-a-new-draft = Copied into a new draft.
permits-saved-the-content-changed-so-its-signatures = Saved. The content changed, so its signatures are void.

## web/session.py

session-you-are-signed-out = You are signed out.
session-signed-out-here-only = You are signed out in this browser. It could not be written down: a copy of its cookie would still hold until your session ends.

## web/switching.py

switching-checked-and-signed = Checked and signed.
switching-released-it-may-be-executed-once = Released. It may be executed once.
switching-drafted-anew-from-the-state-as-it = Drafted anew from the state as it is.
switching-moved-every-step-was-judged-again = Moved. Every step was judged again.
switching-taken-out-every-step-was-judged-again = Taken out. Every step was judged again.
switching-added-every-step-was-judged-again = Added. Every step was judged again.
switching-operator-changed = Operator changed.
switching-stopped-nobody-operates-anything-until-it-is = Stopped. Nobody operates anything until it is resumed.
switching-resumed-at-the-same-step = Resumed at the same step.
switching-recorded-the-program-has-ended = Recorded. The { -program } has ended.
switching-a-practice-run-nothing-of-it-is = A practice run: nothing of it is real.
switching-the-simulated-plant-was-changed = The simulated plant was changed.
switching-you-have-taken-over-the-isolation-and = You have taken over the { -isolation } and its box.
switching-your-lock-hangs-on-the-box = Your lock hangs on the box.
switching-your-lock-is-off-the-box = Your lock is off the box.
switching-work-is-declared-complete = Work is declared complete.
switching-a-step-from-0-to = a step from 0 to { $count }
switching-choose-somebody = choose somebody
switching-the-lock-is-off-by-both-of = The lock is off, by both of you.
switching-your-half-is-recorded-the-other-half = Your half is recorded; the other half is still needed.
forms-refused = { $why } { $remedy }
session-form-no-longer-valid = This form is no longer valid: you signed in or out since, or it did not come from this site.
switching-its-successor-is = Its successor is { $successor }.
switching-drafted = Drafted.
permits-saved = Saved.
permits-closed = Closed.
permits-cancelled = Cancelled.
error-form-not-accepted = Form not accepted
error-404 = There is no such page.
error-405 = This page does not take what was sent.
error-413 = What was sent is too large (8 MB at most).
error-500 = Something went wrong in Spinel. Nothing was saved. Try again; if it stays, tell your coordinator.
error-not-understood = The request was not understood.
error-unexpected = Unexpected error
error-not-yours = Not yours to do
error-not-found = Not found
error-not-kept = Not recorded
error-refused = Refused
error-not-accepted = Not accepted
jobs-open = Open
jobs-closed = Closed
jobs-cancelled = Cancelled
jobs-all = All
stage-is-done = done
stage-is-open = open
stage-is-blocked = blocked
stage-is-waiting = not its turn yet
stage-is-skipped = not needed
job-is = This job is { $state ->
    [closed] closed
    [cancelled] cancelled
   *[open] open
}.
drawing-symbol = { $tag }, { $kind }, { $state ->
    [live] { -state_live }
    [dead] { -state_dead }
    [proved] { -state_proved }
    [grounded] { -state_grounded }
   *[unknown] { -state_unknown }
}{ $at ->
    [none] { "" }
   *[other] , { $at }
}{ $locked ->
    [yes] , locked
   *[no] { "" }
}
track-ended = ended { $at }
track-till = till { $at }
forms-at-most-lines = at most { $most } lines
switching-abandoned = Abandoned.
switching-remarked = The remark is on the step.
switching-started = Started.

switching-your-half-of-the-relief-is-signed = Your half of the relief is signed; the other half is theirs.
switching-you-have-taken-over = You have taken over.
switching-the-relief-is-taken-back = The relief is taken back.
