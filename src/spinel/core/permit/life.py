"""The life of an energized work permit: states, who may move it, and what it must hold.

draft > submitted > approved > issued > in force <> suspended, then handed back > closed; ends: refused,
cancelled. Expired is computed from the window and never stored.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from datetime import datetime

from spinel.core.life import Move, check
from spinel.core.said import Said, Sayable, say

STATES = (
    "draft",
    "submitted",
    "approved",
    "issued",
    "in_force",
    "suspended",
    "handed_back",
    "closed",
    "refused",
    "cancelled",
)
ENDED = ("closed", "refused", "cancelled")
WITH_WINDOW = ("issued", "in_force", "suspended")
#: States in which the content is signed on and may not change silently.
SIGNED = ("submitted", "approved")

_EVERYBODY = (
    "coordinator",
    "authoriser",
    "person_in_charge",
    "director",
    "operator",
    "worker",
    "attendant",
    "reader",
)

_AT_DEVICES = ("coordinator", "person_in_charge", "operator")

MOVES: Mapping[str, Move] = {
    "edit": Move(
        ("draft", "submitted", "approved"),
        "draft",
        ("coordinator", "person_in_charge"),
        say("permit-life-edit-a-permit"),
    ),
    "submit": Move(("draft",), "submitted", ("coordinator", "person_in_charge"), say("permit-life-submit-a-permit")),
    "approve": Move(("submitted",), "approved", ("authoriser",), say("permit-life-approve-a-permit"), password=True),
    "sign": Move(("submitted",), "", _EVERYBODY, say("permit-life-sign-a-permit"), password=True),
    "refuse": Move(("submitted",), "refused", ("authoriser",), say("permit-life-refuse-a-permit")),
    "issue": Move(("approved",), "issued", ("coordinator",), say("permit-life-issue-a-permit"), password=True),
    "brief": Move(
        ("issued", "in_force", "suspended"),
        "",
        ("coordinator", "person_in_charge"),
        say("permit-life-record-the-briefing"),
    ),
    "state": Move(("issued", "in_force", "suspended"), "", ("worker",), say("permit-life-sign-the-statements")),
    "attend": Move(("issued", "in_force", "suspended"), "", _EVERYBODY, say("permit-life-sign-the-briefing")),
    "vouch": Move(
        ("issued", "in_force", "suspended"),
        "",
        ("authoriser",),
        say("permit-life-sign-that-workers-are-qualified-and-briefed"),
    ),
    "set": Move(("issued", "suspended"), "", _AT_DEVICES, say("permit-life-set-a-device")),
    # also of one that ended while it was set: what is so in the field is so
    "put_back": Move(
        ("issued", "suspended", "handed_back", "cancelled"), "", _AT_DEVICES, say("permit-life-put-a-device-back")
    ),
    "accept": Move(("issued",), "in_force", ("person_in_charge",), say("permit-life-accept-a-permit")),
    "suspend": Move(("issued", "in_force"), "suspended", _EVERYBODY, say("permit-life-suspend-a-permit")),
    "clear": Move(
        ("suspended",),
        "",
        ("person_in_charge", "coordinator"),
        say("permit-life-say-that-the-place-of-a-permit-is-empty"),
    ),
    "resume": Move(("suspended",), "issued", ("coordinator",), say("permit-life-resume-a-permit")),
    "hand_back": Move(
        ("in_force", "suspended"), "handed_back", ("person_in_charge",), say("permit-life-hand-back-a-permit")
    ),
    "close": Move(("handed_back",), "closed", ("coordinator",), say("permit-life-close-a-permit")),
    "cancel": Move(
        ("draft", "submitted", "approved", "issued", "suspended"),
        "cancelled",
        ("coordinator",),
        say("permit-life-cancel-a-permit"),
    ),
}

NAMES: Mapping[str, Sayable] = {state: say(f"permit-state-{state}") for state in (*STATES, "expired")}

#: How many authorisers a site may want to approve, each another person.
APPROVALS = {"one": 1, "two": 2, "three": 3}

#: Who did what before decides who may not do this: act -> past parts that forbid it.
DUTIES_APART: Mapping[str, tuple[str, ...]] = {
    # nobody twice, where a site wants more than one
    "approve": ("requester", "worker", "approver", "signatory"),
    "sign": ("requester", "worker", "approver", "signatory"),
    "refuse": ("requester", "worker"),
    "issue": ("approver", "worker"),
    "accept": ("issuer",),
    "hand_back": ("issuer",),
    "vouch": ("worker",),
}


def check_move(act: str, state: str, roles: Collection[str], parts: Collection[str]) -> Move:
    """The move, or a Refusal. ``parts``: what the person already is on this permit (requester, signatory, approver,
    issuer, worker)."""
    return check(MOVES[act], "permit", state, roles, parts, DUTIES_APART.get(act, ()), NAMES)


def expired(state: str, window_end: datetime | None, now: datetime, *, over: bool = False) -> bool:
    """Issued, in force or suspended with the window over. Never extended. ``over``: it was seen to be so before,
    whatever a clock says now."""
    return state in WITH_WINDOW and (over or (window_end is not None and now >= window_end))


def exceeds(frozen: Mapping[str, float | None], present: Mapping[str, float | None]) -> list[Said]:
    """Which of energy, boundary and voltage the present figures exceed; a figure that has gone counts.

    Both mappings: ``energy_cal_cm2``, ``boundary_mm``, ``voltage_v``.

    >>> exceeds({"energy_cal_cm2": 5.0}, {"energy_cal_cm2": 5.0001})
    []
    """
    names = {
        "energy_cal_cm2": (say("permit-life-incident-energy"), "cal/cm²"),
        "boundary_mm": (say("permit-life-arc-flash-boundary"), "mm"),
        "voltage_v": ("voltage", "V"),
    }
    found = []
    for key, (label, unit) in names.items():
        was, now = frozen.get(key), present.get(key)
        if now is None and was is not None:
            found.append(say("permit-life-was-now-has-no-figure", label=label, was=was, unit=unit))
        elif now is not None and (was is None or now > was * (1 + 1e-4)):
            shown = say("none") if was is None else say("permit-life-amount", was=was, unit=unit)
            found.append(say("permit-life-was-now", label=label, shown=shown, now=now, unit=unit))
    return found
