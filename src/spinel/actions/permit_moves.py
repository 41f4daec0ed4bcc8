"""Moving an issued permit through its life. Each function: who may, load, rule, save, record, in one transaction.
How it comes to be issued is in permit_approval.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from typing import Any

from spinel.actions import people, permits
from spinel.actions.acting import Act, Unit
from spinel.actions.keeping import keep
from spinel.actions.permit_act import (
    move_on,
    need_covered,
    need_people,
    need_qualified,
    need_running,
    need_same_content,
)
from spinel.actions.permits import PUT_BACK, SET, PermitView
from spinel.actions.site import on_site
from spinel.core import texts
from spinel.core.errors import InputError, Refusal
from spinel.core.permit.counted import check_out, count
from spinel.core.permit.place import check_place
from spinel.core.said import Said, Sayable, say
from spinel.store import network
from spinel.store.models import Permit

#: The record that the place of a suspended permit is empty.
CLEARED = "place cleared"


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
        need_running(seen)
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
            if {"approver", "issuer", "signatory"} & seen.parts_of(i):
                raise Refusal(
                    say("permit-moves-separation-of-duties"),
                    say("permit-moves-approved-or-issued-this-permit-and-cannot", i=names[i]),
                    say("permit-moves-brief-somebody-else"),
                    field="attended",
                )
            need_qualified(unit, seen, i, names[i])
        detail["joined"] = [{"id": i, "name": names[i]} for i in joined]
        return {}

    detail: dict[str, Any] = {
        "covered": sorted(covered),
        "attended": sorted(attended),
        "special": special.strip()[:1000],
    }
    move_on(act, number, version, "brief", "briefed", detail, rule)


@on_site
def state(act: Act, number: str, version: int, statements: Collection[str]) -> None:
    """A worker's three statements, made by the worker and nobody else."""
    if set(statements) != set(act.site.as_it_is().profile.statements):
        raise InputError("statements", ", ".join(statements), say("permit-moves-all-three-or-do-not-start"))

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        need_running(seen)
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
        need_qualified(unit, seen, int(own or 0), act.actor.name)
        return {}

    move_on(act, number, version, "state", "stated", {"statements": sorted(statements)}, rule)


@on_site
def attend(act: Act, number: str, version: int) -> None:
    """Whoever watches signs, on their own, that they were at the briefing and what they will do."""

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        need_running(seen)
        if act.actor.id not in seen.owes_attendance() or act.actor.id not in seen.briefed():
            raise Refusal(
                say("permit-moves-own-statements"),
                say("permit-moves-nothing-of-yours-to-sign"),
                say("permit-moves-be-briefed-first"),
            )
        return {}

    move_on(act, number, version, "attend", "attended", rule=rule)


@on_site
def vouch(act: Act, number: str, version: int) -> None:
    """An authoriser who is no worker on it signs that the workers are qualified and briefed."""

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        need_running(seen)
        absent = [name for i, name in seen.roster.items() if i not in seen.briefed()]
        if absent:
            raise Refusal(
                say("permit-moves-briefing-before-work"),
                say("permit-moves-not-briefed", absents=tuple(absent)),
                say("permit-moves-hold-the-briefing-first"),
            )
        need_people(unit, seen)
        return {}

    move_on(act, number, version, "vouch", "vouched", rule=rule)


@on_site
def accept(act: Act, number: str, version: int, signed_hash: str, place: Mapping[str, str], tools_in: str) -> None:
    """The person in charge accepts, standing at the place, having answered that it is ready and counted what goes in:
    from now the permit is in force until its window ends."""
    detail: dict[str, Any] = {}

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        need_same_content(permit, signed_hash)
        need_running(seen)
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
        need_people(unit, seen)
        need_covered(unit.site.as_it_is(), seen)
        detail["place"] = check_place(place, bool(seen.content["task"].get("place")))
        detail["tools_in"] = count(tools_in, "tools_in")
        return {"suspended_because": ""}

    move_on(act, number, version, "accept", "accepted", detail, rule)


@on_site
def set_device(act: Act, number: str, version: int, tag: str, seen_by: int | None, how: str) -> None:
    """A device that a condition of the permit names was set for the work, and somebody else saw that it is so."""
    detail: dict[str, Any] = {}

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        need_running(seen)
        if tag not in seen.to_set or tag in seen.set_now:
            raise InputError("tag", tag, say("permit-moves-a-device-still-to-be-set"))
        detail.update(_seen(act, tag, seen_by, how))
        _at_device(unit, seen, tag, seen.number)
        return {}

    move_on(act, number, version, "set", SET, detail, rule)


@on_site
def put_back(act: Act, number: str, version: int, tag: str, seen_by: int | None, how: str) -> None:
    """It is as it was published, and somebody else saw that it is so: when nobody works, also after it ran out."""
    detail: dict[str, Any] = {}

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        if tag not in seen.set_now:
            raise InputError("tag", tag, say("permit-moves-a-device-that-is-set"))
        _need_nobody_there(seen)
        others = _others_with(unit, seen, tag)
        # also one that ran out: nobody has said that its people are back
        if running := [o.number for o in others if o.state == "in_force"]:
            raise Refusal(
                say("permit-moves-what-others-work-by-stays-set"),
                say("permit-moves-is-set-for-others", tag=tag, numbers=tuple(running)),
                say("permit-moves-wait-until-they-are-back"),
            )
        detail.update(_seen(act, tag, seen_by, how))
        _at_device(unit, seen, tag, "")
        for other in others:
            # it is as published for them too: whoever needs it otherwise sets it anew before anybody begins
            keep(unit, permits.stored(other.number), PUT_BACK, {**detail, "with": seen.number})
            unit.record(f"permit {PUT_BACK}", f"permit:{other.number}", {**detail, "with": seen.number})
        return {}

    move_on(act, number, version, "put_back", PUT_BACK, detail, rule)


def _need_nobody_there(seen: PermitView) -> None:
    """Of a suspended permit somebody may still stand at the place, until it is handed back or seen empty."""
    if seen.state != "suspended" or not any(r.kind == "accepted" for r in seen.records):
        return
    told = [r.kind for r in seen.records if r.kind in (CLEARED, "resumed")]
    if not told or told[-1] != CLEARED:
        raise Refusal(
            say("permit-moves-what-others-work-by-stays-set"),
            say("permit-moves-place-not-seen-empty"),
            say("permit-moves-hand-back-or-clear-first"),
        )


def _others_with(unit: Unit, seen: PermitView, tag: str) -> list[PermitView]:
    """Other permits that the device is set for."""
    states = ("issued", "in_force", "suspended", "handed_back", "cancelled")
    return [
        other for other in permits.in_states(unit.site, states, unit.act.now)
        if other.number != seen.number and tag in other.set_now
    ]  # fmt: skip


def _seen(act: Act, tag: str, seen_by: int | None, how: str) -> dict[str, Any]:
    if seen_by is None or seen_by == act.actor.id or seen_by not in {p.id for p in act.site.register() if p.active}:
        raise InputError("seen_by", "", say("permit-moves-a-second-person-who-saw-it-set"))
    return {"tag": tag, "seen_by": act.site.names()[seen_by], "how": texts.REASON.check(how, "how")}


def _at_device(unit: Unit, seen: PermitView, tag: str, value: str) -> None:
    """The field event; none for a device that a revision took away since. ``value``: the permit it is set for."""
    element = unit.site.as_it_is().network.by_tag.get(tag)
    if element is not None:
        network.add_event(unit.act.at, unit.act.actor.name, "set", element.id, value, seen.number)


def _need_put_back(seen: PermitView) -> None:
    if seen.set_now:
        raise Refusal(
            say("permit-moves-what-was-set-is-put-back"),
            say("permit-moves-is-still-set", tags=tuple(sorted(seen.set_now))),
            say("permit-moves-put-it-back-first"),
        )


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
    if seen.valid("briefed") and seen.owes_attendance():
        watching = tuple(seen.owes_attendance().values())
        lacking.append(say("permit-moves-have-not-signed-the-briefing", people=watching))
    unset = [tag for tag in seen.to_set if tag not in seen.set_now]
    if unset:
        lacking.append(say("permit-moves-is-not-set", tags=tuple(unset)))
    if not vouched_for(seen):
        lacking.append(say("permit-moves-an-authorizer-has-not-signed-that-the"))
    return lacking


@on_site
def suspend(act: Act, number: str, version: int, reason: Sayable) -> None:
    """Anyone signed in may stop the work, with a reason."""
    text = texts.REASON.check(reason) if isinstance(reason, str) else reason
    move_on(act, number, version, "suspend", "suspended", {"because": text}, suspended_because=text)


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
    move_on(act, number, version, "clear", CLEARED, {"left": text, **second}, rule)


@on_site
def resume(act: Act, number: str, version: int, cause: str) -> None:
    """The coordinator records why it may go on; the person in charge must accept anew."""

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        need_running(seen)
        need_covered(unit.site.as_it_is(), seen)
        return {}

    text = texts.REASON.check(cause, "cause")
    move_on(act, number, version, "resume", "resumed", {"because": text}, rule, suspended_because="")


@on_site
def hand_back(act: Act, number: str, version: int, left: str, tools_out: str = "", tools_why: str = "") -> None:
    """The person in charge: work stopped, people out, tools and loose parts counted out, covers as stated. Also after
    it ran out."""
    text = texts.REASON.check(left, "left")
    detail: dict[str, Any] = {"left": text}

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        in_charge = seen.content["people"]["in_charge"]
        if in_charge and in_charge["id"] != act.actor.id:
            raise Refusal(
                say("permit-moves-person-in-charge"),
                say("permit-moves-is-in-charge-of-this-job", name=in_charge["name"]),
                say("permit-moves-they-hand-it-back"),
            )
        detail.update(check_out(seen.tools_in, tools_out, texts.PLAN.check(tools_why, "tools_why")))
        return {"suspended_because": ""}

    move_on(act, number, version, "hand_back", "handed back", detail, rule)


@on_site
def close(act: Act, number: str, version: int, circuit_changed: str, learnt: str) -> None:
    """The coordinator closes it with what was learnt and whether the circuit was changed."""
    if circuit_changed not in ("yes", "no"):
        raise InputError("circuit_changed", circuit_changed, say("yes-or-no"))
    detail = {"circuit_changed": circuit_changed, "learnt": texts.REASON.check(learnt, "learnt")}

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        _need_put_back(seen)
        return {}

    move_on(act, number, version, "close", "closed", detail, rule)


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
        _need_put_back(seen)
        return {"suspended_because": ""}

    move_on(act, number, version, "cancel", "cancelled", {"because": texts.REASON.check(reason)}, rule)
