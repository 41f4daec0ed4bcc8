"""Moving a permit through its life. Each function: who may, load, rule, save, record, in one transaction.

A signature cites the hash of the content that its signer saw: the form carries it, and a hash that has moved
meanwhile is refused.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping
from datetime import datetime
from typing import Any

from spinel.actions import clock, codes, jobs, people, permit_review, standing
from spinel.actions.acting import Act, Unit, repeated, utc_moment, utc_text, work
from spinel.actions.keeping import keep, save
from spinel.actions.permits import PermitView, as_view, stored
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.errors import InputError, Refusal
from spinel.core.permit.life import APPROVALS, check_move
from spinel.core.said import Said, Sayable, joined, say
from spinel.store.models import Permit


def _move(
    act: Act,
    number: str,
    version: int,
    what: str,
    word: str,
    detail: Mapping[str, Any] | None = None,
    rule: Callable[[Unit, Permit, PermitView], Mapping[str, object]] | None = None,
    **changes: object,
) -> None:
    """The common shape: repeat? may they? the rule of this move; then state, record and ledger together."""
    with work(act) as unit:
        if unit.done:
            return
        permit = stored(number)
        seen = as_view(act.site, permit, act.now)
        move = check_move(what, permit.state, act.actor.roles, seen.parts_of(act.actor.id))
        clock.need_sure(act, what)
        more = dict(rule(unit, permit, seen)) if rule else {}
        target = {"state": move.target} if move.target else {}
        save(act, permit, version, **{**target, **changes, **more})
        keep(unit, permit, word, detail or {})
        unit.record(f"permit {word}", f"permit:{number}", {"content_hash": permit.content_hash, **(detail or {})})


#: The record that the place of a suspended permit is empty.
CLEARED = "place cleared"
COPY_IT = say("permit-moves-cancel-and-copy-it-the-copy-takes")


@on_site
def submit(act: Act, number: str, version: int) -> None:
    """Ask for approval: the content is complete, the figures are fresh, the people qualified."""

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        _complete(seen)
        _check_people(unit, seen)
        _decided_so(unit.site.as_it_is(), seen)
        _still_covered(unit.site.as_it_is(), seen, say("permit-moves-edit-and-save-the-permit-it-takes"))
        if utc_moment(permit.window_end) <= act.now:
            raise Refusal(
                "window",
                say("permit-moves-the-requested-window-is-over"),
                say("permit-moves-ask-for-a-later-window"),
                field="window_end",
            )
        return {}

    _move(act, number, version, "submit", "submitted", rule=rule)


def _complete(seen: PermitView) -> None:
    c = seen.content
    crowd = {w["id"] for w in c["people"]["workers"]} | {a["id"] for a in c["access"]["attendants"]}
    if c["people"]["in_charge"]:
        crowd.add(c["people"]["in_charge"]["id"])
    missing = {
        "workers": (not c["people"]["workers"], say("permit-moves-name-the-workers")),
        "in_charge": (not c["people"]["in_charge"], say("permit-moves-name-the-person-in-charge")),
        "keep_out": (not c["access"]["keep_out"], say("permit-moves-say-how-unqualified-people-are-kept-out")),
        "practices": (not c["practices"], say("permit-moves-name-the-safe-work-practices")),
        "attendants": (len(crowd) < 2, say("permit-moves-at-least-two-people-for-live-work")),
    }
    for field, (lacking, what) in missing.items():
        if lacking:
            raise Refusal(
                say("permit-moves-what-a-permit-holds"),
                say("permit-moves-it-is-not-complete", what=what),
                say("permit-moves-edit-the-permit"),
                field=field,
            )


def _check_people(unit: Unit, seen: PermitView) -> None:
    for person_id, name in seen.roster.items():
        _qualified(unit, seen, person_id, name)


def _qualified(unit: Unit, seen: PermitView, person_id: int, name: str) -> None:
    """On each day from now, or from its beginning, to its end that begins or ends it: a window is seldom longer."""
    here = unit.site.as_it_is()
    task_id, kind = seen.content["task"]["id"], seen.content["equipment"]["equipment_class"]
    for day in sorted({here.day(max(seen.window_start, unit.act.now)), here.day(seen.window_end)}):
        standing.need(here, person_id, name, task_id, kind, day)


@on_site
def approve(act: Act, number: str, version: int, signed_hash: str, password: str, code: str = "") -> None:
    """The authoriser puts a name to it, after giving the password again; ``code``: a one-time code, where the site asks
    for one."""
    if repeated(act):
        return
    _allowed_first(act, number, "approve")
    _confirmed(act, password, code)

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        _same_content(permit, signed_hash)
        _check_people(unit, seen)
        # it waits on until as many as the site wants have put their names to it
        return {} if approvals_lacking(unit.site, seen) <= 1 else {"state": permit.state}

    _move(act, number, version, "approve", "approved", rule=rule)


@on_site
def approvals_lacking(site: Site, seen: PermitView) -> int:
    """How many more authorisers the site wants on this content, each another person."""
    wanted = APPROVALS[site.settings_now()["approvals"]]
    return max(0, wanted - len({r.person_id for r in seen.valid("approved")}))


@on_site
def refuse(act: Act, number: str, version: int, reason: str) -> None:
    """The authoriser says no, with the reason."""
    _move(act, number, version, "refuse", "refused", {"because": texts.REASON.check(reason)})


@on_site
def issue(
    act: Act, number: str, version: int, signed_hash: str, password: str, start: datetime, end: datetime, code: str = ""
) -> None:  # fmt: skip
    """Issue with a window, which may only be narrower than the one requested."""
    if repeated(act):
        return
    _allowed_first(act, number, "issue")
    if end <= start:
        raise InputError("window_end", "", say("permit-moves-after-the-start"))
    seen_now = stored(number)
    wanted = shapes.content("permit", seen_now.content)["window"]
    if start < utc_moment(wanted["start"]) or end > utc_moment(wanted["end"]):
        raise Refusal(
            say("permit-moves-issuing-may-only-narrow-the-window"),
            say("permit-moves-the-window-is-wider-than-the-one"),
            say("permit-moves-stay-inside-it-or-edit-the-permit"),
            field="window_start",
        )
    if end <= act.now:
        raise Refusal(
            "window",
            say("permit-moves-this-window-is-already-over"),
            say("permit-moves-choose-one-that-is-not"),
            field="window_end",
        )
    _confirmed(act, password, code)

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        _same_content(permit, signed_hash)
        _check_people(unit, seen)
        _still_covered(unit.site.as_it_is(), seen)
        if lacking := approvals_lacking(unit.site, seen):
            raise Refusal(
                say("permit-moves-as-many-approve-as-the-site-wants"),
                say("permit-moves-approvals-lack", count=lacking),
                say("permit-moves-edit-and-submit-it-again"),
            )
        return {"window_start": utc_text(start), "window_end": utc_text(end)}

    detail = {"start": utc_text(start), "end": utc_text(end)}
    _move(act, number, version, "issue", "issued", detail, rule)


def _confirmed(act: Act, password: str, code: str) -> None:
    people.confirm_identity(act, password)
    codes.need(act, code)


def _allowed_first(act: Act, number: str, what: str) -> None:
    """A person who may not do it at all learns that before a password is asked for or counted."""
    permit = stored(number)
    check_move(what, permit.state, act.actor.roles, as_view(act.site, permit, act.now).parts_of(act.actor.id))


@on_site
def brief(
    act: Act, number: str, version: int, covered: Collection[str], attended: Collection[int], special: str
) -> None:
    """Everyone on the job, before it starts. Somebody not planned joins the roster by being briefed."""
    missing = [text for key, text in act.site.as_it_is().profile.briefing.items() if key not in covered]
    if missing:
        raise InputError("covered", missing[0], say("permit-moves-every-point-is-covered-in-the-briefing"))
    special = texts.SPECIAL.check(special)

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        _not_expired(seen)
        register = people.everybody(unit.site)
        names = {p.id: p.name for p in register}
        workers = {p.id for p in register if "worker" in p.roles}
        helpers = {a["id"] for a in seen.content["access"]["attendants"]}
        strangers = [i for i in attended if i not in names]
        if strangers or not attended:
            raise InputError("attended", "", say("permit-moves-the-registered-people-who-were-there"))
        joined = [i for i in attended if i not in seen.roster and i not in helpers and i != act.actor.id]
        absent = [name for i, name in seen.roster.items() if i not in attended and i not in seen.briefed()]
        if absent and not seen.valid("briefed"):
            raise InputError("attended", ", ".join(absent), say("permit-moves-everyone-on-the-job-is-briefed-planned"))
        in_charge = (seen.content["people"]["in_charge"] or {}).get("id")
        joined = [i for i in joined if i != in_charge]
        for i in joined:
            if i not in workers:
                raise InputError(
                    "attended", names[i], say("permit-moves-planned-people-attendants-and-workers-who-join")
                )
            if {"approver", "issuer"} & seen.parts_of(i):
                raise Refusal(
                    say("permit-moves-separation-of-duties"),
                    say("permit-moves-approved-or-issued-this-permit-and-cannot", i=names[i]),
                    say("permit-moves-brief-somebody-else"),
                    field="attended",
                )
            _qualified(unit, seen, i, names[i])
        detail["joined"] = [{"id": i, "name": names[i]} for i in joined]
        return {}

    detail: dict[str, Any] = {
        "covered": sorted(covered),
        "attended": sorted(attended),
        "special": special.strip()[:1000],
    }
    _move(act, number, version, "brief", "briefed", detail, rule)


@on_site
def state(act: Act, number: str, version: int, statements: Collection[str]) -> None:
    """A worker's three statements, made by the worker and nobody else."""
    if set(statements) != set(act.site.as_it_is().profile.statements):
        raise InputError("statements", ", ".join(statements), say("permit-moves-all-three-or-do-not-start"))

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        _not_expired(seen)
        own = act.actor.id
        if own not in seen.roster:
            raise Refusal(
                say("permit-moves-own-statements"),
                say("permit-moves-you-are-not-on-this-permits-roster"),
                say("permit-moves-be-briefed-first"),
            )
        if own not in seen.briefed():
            raise Refusal(
                say("permit-moves-briefing-before-work"),
                say("permit-moves-you-have-not-been-briefed-on-it"),
                say("permit-moves-be-briefed-first"),
            )
        if seen.stated(int(own or 0)):
            raise Refusal(
                say("permit-moves-own-statements"),
                say("permit-moves-your-three-statements-are-already-recorded"),
                say("permit-moves-nothing-more-to-sign"),
            )
        _qualified(unit, seen, int(own or 0), act.actor.name)
        return {}

    _move(act, number, version, "state", "stated", {"statements": sorted(statements)}, rule)


@on_site
def vouch(act: Act, number: str, version: int) -> None:
    """An authoriser who is no worker on it signs that the workers are qualified and briefed."""

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        _not_expired(seen)
        absent = [name for i, name in seen.roster.items() if i not in seen.briefed()]
        if absent:
            raise Refusal(
                say("permit-moves-briefing-before-work"),
                say("permit-moves-not-briefed", absents=tuple(absent)),
                say("permit-moves-hold-the-briefing-first"),
            )
        _check_people(unit, seen)
        return {}

    _move(act, number, version, "vouch", "vouched", rule=rule)


@on_site
def accept(act: Act, number: str, version: int, signed_hash: str) -> None:
    """The person in charge accepts: from now the permit is in force until its window ends."""

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        _same_content(permit, signed_hash)
        _not_expired(seen)
        in_charge = seen.content["people"]["in_charge"]
        if in_charge and in_charge["id"] != act.actor.id:
            raise Refusal(
                say("permit-moves-person-in-charge"),
                say("permit-moves-is-in-charge-of-this-job", name=in_charge["name"]),
                say("permit-moves-they-accept-it"),
            )
        if act.now < seen.window_start:
            raise Refusal("window", say("permit-moves-its-window-has-not-begun"), say("permit-moves-wait-for-it"))
        for reason in waiting_for(seen):
            raise Refusal(say("permit-moves-before-acceptance"), reason, say("permit-moves-then-accept"))
        _check_people(unit, seen)
        _still_covered(unit.site.as_it_is(), seen)
        return {"suspended_because": ""}

    _move(act, number, version, "accept", "accepted", rule=rule)


def vouched_for(seen: PermitView) -> bool:
    """Has an authoriser signed for everybody on it? Not for somebody who joined after that signature."""
    told = [r.kind for r in seen.records if r.valid and (r.kind == "vouched" or r.detail.get("joined"))]
    return bool(told) and told[-1] == "vouched"


def waiting_for(seen: PermitView) -> list[Said]:
    """What is still lacking before an issued permit can be accepted."""
    lacking = []
    if not seen.valid("briefed"):
        lacking.append(say("permit-moves-the-briefing-is-not-recorded"))
    unsigned = [name for i, name in seen.roster.items() if not seen.stated(i)]
    if unsigned:
        lacking.append(say("permit-moves-the-three-statements-are-missing-from", unsigneds=tuple(unsigned)))
    if not vouched_for(seen):
        lacking.append(say("permit-moves-an-authorizer-has-not-signed-that-the"))
    return lacking


@on_site
def suspend(act: Act, number: str, version: int, reason: Sayable) -> None:
    """Anyone signed in may stop the work, with a reason."""
    text = texts.REASON.check(reason) if isinstance(reason, str) else reason
    _move(act, number, version, "suspend", "suspended", {"because": text}, suspended_because=text)


@on_site
def clear(act: Act, number: str, version: int, left: str, seen_by: int | None = None) -> None:
    """The place of a suspended permit is empty, so that switching may go on: said by its person in charge, or, where
    they cannot be reached, by a coordinator and a second person who saw it."""
    text = texts.REASON.check(left, "left")

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        in_charge = seen.content["people"]["in_charge"]
        if in_charge and in_charge["id"] == act.actor.id:
            return {}
        if "coordinator" not in act.actor.roles:
            raise Refusal(
                say("permit-moves-person-in-charge"),
                say("permit-moves-is-in-charge-of-this-job", name=in_charge["name"] if in_charge else say("none")),
                say("permit-moves-they-say-it-or-a-coordinator"),
            )
        if seen_by is None or seen_by == act.actor.id or seen_by not in {p.id for p in people.everybody(act.site)}:
            raise InputError("seen_by", "", say("permit-moves-a-second-person-who-saw-it-empty"))
        return {}

    second = {"seen_empty_by": act.site.names().get(seen_by or 0, "")} if seen_by else {}
    _move(act, number, version, "clear", CLEARED, {"left": text, **second}, rule)


@on_site
def resume(act: Act, number: str, version: int, cause: str) -> None:
    """The coordinator records why it may go on; the person in charge must accept anew."""

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        _not_expired(seen)
        _still_covered(unit.site.as_it_is(), seen)
        return {}

    text = texts.REASON.check(cause, "cause")
    _move(act, number, version, "resume", "resumed", {"because": text}, rule, suspended_because="")


@on_site
def hand_back(act: Act, number: str, version: int, left: str) -> None:
    """The person in charge: work stopped, people and tools out, covers as stated. Also after it ran out."""
    text = texts.REASON.check(left, "left")

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        in_charge = seen.content["people"]["in_charge"]
        if in_charge and in_charge["id"] != act.actor.id:
            raise Refusal(
                say("permit-moves-person-in-charge"),
                say("permit-moves-is-in-charge-of-this-job", name=in_charge["name"]),
                say("permit-moves-they-hand-it-back"),
            )
        return {"suspended_because": ""}

    _move(act, number, version, "hand_back", "handed back", {"left": text}, rule)


@on_site
def close(act: Act, number: str, version: int, circuit_changed: str, learnt: str) -> None:
    """The coordinator closes it with what was learnt and whether the circuit was changed."""
    if circuit_changed not in ("yes", "no"):
        raise InputError("circuit_changed", circuit_changed, say("yes-or-no"))
    detail = {"circuit_changed": circuit_changed, "learnt": texts.REASON.check(learnt, "learnt")}
    _move(act, number, version, "close", "closed", detail)


@on_site
def cancel(act: Act, number: str, version: int, reason: str) -> None:
    """The coordinator ends a permit that will not be used. One that was accepted is handed back instead."""

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        if seen.valid("accepted"):
            raise Refusal(
                say("permit-moves-accepted-work-is-handed-back"),
                say("permit-moves-people-worked-under-this-permit"),
                say("permit-moves-the-person-in-charge-accounts-for-them"),
            )
        return {"suspended_because": ""}

    _move(act, number, version, "cancel", "cancelled", {"because": texts.REASON.check(reason)}, rule)


def _same_content(permit: Permit, signed_hash: str) -> None:
    if permit.content_hash != signed_hash:
        raise Refusal(
            say("permit-moves-a-signature-covers-what-was-seen"),
            say("permit-moves-the-content-changed-after-you-opened-it"),
            say("permit-moves-read-it-again-then-sign"),
        )


def _not_expired(seen: PermitView) -> None:
    if seen.shown_state == "expired":
        raise Refusal(
            say("permit-moves-never-extended"),
            say("permit-moves-the-permit-has-run-out"),
            say("permit-moves-hand-it-back-or-cancel-it-and"),
        )


def _still_covered(here: SiteNow, seen: PermitView, remedy: Sayable = COPY_IT) -> None:
    """The frozen figures are not exceeded now, and the decision that allowed the permit still stands."""
    found = permit_review.worse(here, seen.content)
    if found:
        raise Refusal(
            say("permit-moves-figures-on-the-permit-cover-the-present"), say("sentence", what=joined(*found)), remedy
        )
    decision = jobs.view_of(here, jobs.stored(seen.job)).decision
    if decision is None or not decision.permit:
        why = decision.sentence if decision else say("permit-moves-the-equipment-is-no-longer-in-the")
        raise Refusal(say("permit-moves-the-decision-still-stands"), why, say("permit-moves-answer-the-job-anew"))


def _decided_so(here: SiteNow, seen: PermitView) -> None:
    """The permit says what the job says: facts and justification may have been answered anew since it was drafted."""
    job = jobs.view_of(here, jobs.stored(seen.job))
    c = seen.content
    same = c["facts"] == dict(job.facts) and c["justification"]["id"] == job.claim.id
    if not (
        same
        and c["justification"]["statement"] == job.statement
        and job.reach is not None
        and c["touches"] == job.reach.code
    ):
        raise Refusal(
            say("permit-moves-the-permit-says-what-the-job-says"),
            say("permit-moves-the-job-was-answered-anew-after-this"),
            say("permit-moves-edit-and-save-the-permit-it-takes-2"),
        )
