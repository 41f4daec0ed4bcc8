"""The emergency plan of a place, as pages and papers take it."""

from __future__ import annotations

from typing import Any

from flask import g

from spinel.actions import emergency
from spinel.actions.program_view import ProgramView
from spinel.web.here import here, site

#: Above it nobody goes near before it is known to be isolated, V.
HIGH_V = 1000.0


def emergency_of(location: str, voltage_v: float) -> dict[str, Any]:
    return {
        "plan": emergency.of_place(site(), location), "high": not voltage_v <= HIGH_V,
        "trained": emergency.trained(site(), here().day(g.now)),
    }  # fmt: skip


def highest_v(seen: ProgramView) -> float:
    """Of all that a program touches, V; what is not known counts as high."""
    network = seen.order.network
    known = [network.voltage_of(e) for s in seen.steps if (e := network.element.get(s.element_id)) is not None]
    return max(known, default=float("inf"))
