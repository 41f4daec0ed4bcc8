"""How every kind of value is written: one filter a kind, for pages and papers alike.

Energies, boundaries and clearing times are rounded up, so that no printed figure is below the computed one.
"""

from __future__ import annotations

import json
import math
from datetime import datetime
from zoneinfo import ZoneInfo

from flask import Flask, g
from markupsafe import Markup, escape

from spinel.core.people import ROLES
from spinel.core.permit.life import NAMES, STATEMENTS
from spinel.core.quantities import shown_above
from spinel.core.switching.life import NAMES as PROGRAM_NAMES
from spinel.core.switching.steps import Step
from spinel.web import here

_MM_PER_INCH = 25.4


def up(value: float, digits: int) -> float:
    """Round up to so many decimals, forgiving rounding noise of the computation itself."""
    scale = 10**digits
    return math.ceil(value * scale - 1e-6) / scale


def energy(value: float | None) -> str:
    """cal/cm², rounded up to a tenth; below 0.1 to a hundredth."""
    if value is None:
        return "no figure"
    return f"{up(value, 2):.2f}" if value < 0.1 else f"{up(value, 1):.1f}"


def above(value: float, limit: float) -> str:
    """An energy above a limit, so written that it reads as above it."""
    return shown_above(value, limit)


def metres(mm: float | None) -> str:
    """A boundary in metres, rounded up to the centimetre."""
    return "none" if mm is None else f"{up(mm / 1000, 2):.2f}"


def feet(mm: float | None) -> str:
    """The same in feet and inches, rounded up to the inch."""
    if mm is None:
        return ""
    inches = math.ceil(mm / _MM_PER_INCH - 1e-6)
    return feet_inches(inches)


def feet_inches(inches: float) -> str:
    whole = round(inches)
    return f"{whole // 12}\N{NO-BREAK SPACE}ft\N{NO-BREAK SPACE}{whole % 12}\N{NO-BREAK SPACE}in"


def inches(mm: float) -> str:
    return f"{mm / _MM_PER_INCH:.0f} in"


def kiloamps(value: float | None) -> str:
    return "none" if value is None else f"{value:.1f}"


def seconds(value: float | None) -> str:
    return "never" if value is None else f"{up(value, 3):.3f}"


def volts(value: float) -> str:
    """A voltage, its number and unit never on two lines."""
    return f"{value / 1000:g}\N{NO-BREAK SPACE}kV" if value >= 1000 else f"{value:g}\N{NO-BREAK SPACE}V"


def zone() -> ZoneInfo:
    """The site's zone, looked up once a request: a page writes a hundred times."""
    if "zone" not in g:
        g.zone = ZoneInfo(here.here().network.site.time_zone) if here.published() else ZoneInfo("UTC")
    return g.zone


def as_moment(value: str | datetime) -> datetime:
    if isinstance(value, datetime):
        return value
    return datetime.fromisoformat(value)


def offset(value: str | datetime) -> str:
    """The zone as an offset: UTC−08:00."""
    raw = as_moment(value).astimezone(zone()).strftime("%z")
    return f"UTC{'−' if raw[0] == '-' else '+'}{raw[1:3]}:{raw[3:]}"


def clock(value: str | datetime) -> str:
    return as_moment(value).astimezone(zone()).strftime("%H:%M")


def day_time(value: str | datetime) -> str:
    return as_moment(value).astimezone(zone()).strftime("%a %-d %b %H:%M")


def full_time(value: str | datetime) -> str:
    local = as_moment(value).astimezone(zone())
    return local.strftime("%a %-d %b %Y %H:%M ") + offset(local)


def input_time(value: str | datetime) -> str:
    return as_moment(value).astimezone(zone()).strftime("%Y-%m-%dT%H:%M")


def duration(minutes: int) -> str:
    return f"{minutes} min" if minutes < 100 else f"{minutes // 60} h {minutes % 60:02d}"


def tag(value: str) -> Markup:
    return Markup('<span class="tag">{}</span>').format(escape(value))


def state_name(value: str) -> str:
    return NAMES.get(value, value)


def clock_s(value: str | datetime) -> str:
    return as_moment(value).astimezone(zone()).strftime("%H:%M:%S")


def program_state(value: str) -> str:
    return PROGRAM_NAMES.get(value, value)


#: What the large button of the console says was done, after the identity.
_RECORDED = {
    "opened": "was opened", "closed": "was closed", "withdrawn": "was withdrawn", "inserted": "was inserted",
    "started": "was started", "stopped": "was stopped", "checked": "was looked at: as written",
    "locked": "is locked and tagged", "unlocked": "has lock and tag off", "blocked": "is blocked",
    "unblocked": "has its block off", "released": "has its energy released", "discharged": "is bled",
    "tried": "did not start, control is off", "tested": "was tested: these readings", "grounded": "is grounded",
    "ungrounded": "has its ground off", "notified": "affected: all were told",
}  # fmt: skip


def recorded(step: Step) -> str:
    """The words of the confirmation: was opened is not verified open."""
    if step.kind == "operate" and step.value:
        return f"was set to {step.value}"
    if not step.acts:
        return "is inspected: nothing left, covers on" if step.kind == "inspect" else "is handed over"
    return _RECORDED[step.acts[0]]


def register(app: Flask) -> None:
    for function in (
        energy, above, metres, feet, feet_inches, inches, kiloamps, seconds, volts, clock, day_time, full_time,
        input_time, duration, tag, state_name, offset, clock_s, program_state, recorded,
    ):  # fmt: skip
        app.jinja_env.filters[function.__name__] = function
    app.jinja_env.filters["fromjson"] = json.loads
    app.jinja_env.globals.update(ROLES=ROLES, STATEMENTS=STATEMENTS)
