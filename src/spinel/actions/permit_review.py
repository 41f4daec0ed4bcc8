"""What a change of the network or the field does to permits.

A permit whose energy, boundary or voltage is now exceeded is suspended when it was issued, and falls back to
draft, its signatures void, when it was only signed on. Something found in its island suspends it in any case.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from spinel.actions import stopping
from spinel.actions.acting import Unit
from spinel.actions.site import SiteNow
from spinel.core import stored as shapes
from spinel.core.errors import InputError, NotFound
from spinel.core.network.document import Element
from spinel.core.permit.life import SIGNED, WITH_WINDOW, exceeds
from spinel.core.said import Said, Sayable, joined, say
from spinel.store import permits
from spinel.store.models import Permit

FIGURES = ("energy_cal_cm2", "boundary_mm", "voltage_v")


def figures_now(here: SiteNow, content: Mapping[str, Any]) -> dict[str, float | None]:
    """Energy, boundary and voltage at a permit's place and distance as they are now; empty when it is gone."""
    equipment, hazard = content["equipment"], content["hazard"]
    try:
        now = here.study.hazard(equipment["id"], content["touches"], hazard["working_distance_mm"])
    except (NotFound, InputError):
        # the equipment or the side that it was issued for is no longer there
        return {}
    data = now.data
    return {key: data[key] for key in FIGURES}


def worse(here: SiteNow, content: Mapping[str, Any]) -> list[Said]:
    """What is now exceeded, in words; empty when the frozen figures still cover the present."""
    now = figures_now(here, content)
    if not now:
        return [say("permit-review-as-it-was-reached-is-no-longer", tag=content["equipment"]["tag"])]
    return exceeds({key: content["hazard"][key] for key in FIGURES}, now)


def raised_by(before: SiteNow, after: SiteNow, content: Mapping[str, Any]) -> list[Said]:
    """What a change would raise above what the permit was issued for, and above what holds there already."""
    found, stood = figures_now(after, content), figures_now(before, content)
    if not found or not stood:
        return []
    allowed: dict[str, float | None] = {}
    for key in FIGURES:
        frozen, now = content["hazard"][key], stood[key]
        if now is None and frozen is not None:
            # gone before this change: the review has said so
            del found[key]
            continue
        allowed[key] = now if frozen is None or (now is not None and now > frozen) else frozen
    return exceeds(allowed, found)


def exceeded(here: SiteNow) -> list[tuple[Permit, list[Said]]]:
    """Every signed or issued permit that the figures of a state exceed, with what they exceed."""
    signed = permits.permits_in((*SIGNED, *WITH_WINDOW))
    found = [(permit, worse(here, shapes.content("permit", permit.content))) for permit in signed]
    return [(permit, what) for permit, what in found if what]


def after_change(unit: Unit, here: SiteNow, cause: Sayable) -> list[str]:
    """Check every signed or issued permit against the figures as they are now. Numbers of those touched."""
    touched = []
    for permit, found in exceeded(here):
        reason = say("permit-review-cause-and-found", cause=cause, found=joined(*found))
        if permit.state in SIGNED:
            stopping.back_to_draft(unit, permit, shapes.content("permit", permit.content), reason)
        else:
            stopping.suspend(unit, permit, reason)
        touched.append(permit.number)
    return touched


def after_found(unit: Unit, element: Element, island: frozenset[str], reason: Sayable) -> list[str]:
    """Suspend every issued permit in the island."""
    touched = []
    for permit in permits.permits_in(("issued", "in_force")):
        if shapes.content("permit", permit.content)["equipment"]["id"] in island:
            stopping.suspend(unit, permit, reason)
            touched.append(permit.number)
    return touched
