"""The life of an energized work permit: states, who may move it, and what it must hold.

draft > submitted > approved > issued > in force <> suspended, then handed back > closed; ends: refused,
cancelled. Expired is computed from the window and never stored.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from datetime import datetime

from spinel.core.life import Move, check

STATES = (
    "draft", "submitted", "approved", "issued", "in_force", "suspended", "handed_back", "closed", "refused",
    "cancelled",
)  # fmt: skip
ENDED = ("closed", "refused", "cancelled")
WITH_WINDOW = ("issued", "in_force", "suspended")
#: States in which the content is signed on and may not change silently.
SIGNED = ("submitted", "approved")

STATEMENTS = {
    "safe": "It can be done safely.",
    "qualified": "I am qualified for this task on this equipment.",
    "briefed": "I have been briefed.",
}

BRIEFING = (
    ("hazards", "Hazards, voltage and incident energy of this task"),
    ("special", "What is special this time"),
    ("sources", "Foreign, stand-by and back-feeding sources"),
    ("conditions", "Wet, dusty or cramped conditions; lighting"),
    ("covers", "Covers and doors: bolted or hinged, what falls or swings"),
    ("escape", "Way of escape, rescue, who calls whom, nearest emergency switch"),
    ("place", "Issuer and receiver walked the place together"),
)


_EVERYBODY = (
    "coordinator", "authoriser", "person_in_charge", "director", "operator", "worker", "attendant", "reader",
)  # fmt: skip

MOVES: Mapping[str, Move] = {
    "edit": Move(("draft", "submitted", "approved"), "draft", ("coordinator", "person_in_charge"), "edit a permit"),
    "submit": Move(("draft",), "submitted", ("coordinator", "person_in_charge"), "submit a permit"),
    "approve": Move(("submitted",), "approved", ("authoriser",), "approve a permit", password=True),
    "refuse": Move(("submitted",), "refused", ("authoriser",), "refuse a permit"),
    "issue": Move(("approved",), "issued", ("coordinator",), "issue a permit", password=True),
    "brief": Move(("issued", "in_force", "suspended"), "", ("coordinator", "person_in_charge"), "record the briefing"),
    "state": Move(("issued", "in_force", "suspended"), "", ("worker",), "sign the statements"),
    "vouch": Move(
        ("issued", "in_force", "suspended"), "", ("authoriser",), "sign that workers are qualified and briefed"
    ),
    "accept": Move(("issued",), "in_force", ("person_in_charge",), "accept a permit"),
    "suspend": Move(("issued", "in_force"), "suspended", _EVERYBODY, "suspend a permit"),
    "resume": Move(("suspended",), "issued", ("coordinator",), "resume a permit"),
    "hand_back": Move(("in_force", "suspended"), "handed_back", ("person_in_charge",), "hand back a permit"),
    "close": Move(("handed_back",), "closed", ("coordinator",), "close a permit"),
    "cancel": Move(
        ("draft", "submitted", "approved", "issued", "suspended"), "cancelled", ("coordinator",), "cancel a permit"
    ),
}

NAMES = {
    "draft": "Draft", "submitted": "Submitted", "approved": "Approved", "issued": "Issued", "in_force": "In force",
    "suspended": "Suspended", "handed_back": "Handed back", "closed": "Closed", "refused": "Refused",
    "cancelled": "Cancelled", "expired": "Expired",
}  # fmt: skip

#: Who did what before decides who may not do this: act -> past parts that forbid it.
DUTIES_APART: Mapping[str, tuple[str, ...]] = {
    "approve": ("requester", "worker"),
    "refuse": ("requester", "worker"),
    "issue": ("approver", "worker"),
    "accept": ("issuer",),
    "hand_back": ("issuer",),
    "vouch": ("worker",),
}


def check_move(act: str, state: str, roles: Collection[str], parts: Collection[str]) -> Move:
    """The move, or a Refusal. ``parts``: what the person already is on this permit (requester, approver, issuer,
    worker)."""
    return check(MOVES[act], "permit", state, roles, parts, DUTIES_APART.get(act, ()), NAMES)


def expired(state: str, window_end: datetime | None, now: datetime) -> bool:
    """Issued, in force or suspended with the window over. Never stored, never extended."""
    return state in WITH_WINDOW and window_end is not None and now >= window_end


def exceeds(frozen: Mapping[str, float | None], present: Mapping[str, float | None]) -> list[str]:
    """Which of energy, boundary and voltage the present figures exceed; a figure that has gone counts.

    Both mappings: ``energy_cal_cm2``, ``boundary_mm``, ``voltage_v``.

    >>> exceeds({"energy_cal_cm2": 5.0}, {"energy_cal_cm2": 5.0001})
    []
    """
    names = {
        "energy_cal_cm2": ("incident energy", "cal/cm²"),
        "boundary_mm": ("arc-flash boundary", "mm"),
        "voltage_v": ("voltage", "V"),
    }
    found = []
    for key, (label, unit) in names.items():
        was, now = frozen.get(key), present.get(key)
        if now is None and was is not None:
            found.append(f"{label}: was {was:.4g} {unit}, now has no figure")
        elif now is not None and (was is None or now > was * (1 + 1e-4)):
            shown = "none" if was is None else f"{was:.4g} {unit}"
            found.append(f"{label}: was {shown}, now {now:.4g} {unit}")
    return found
