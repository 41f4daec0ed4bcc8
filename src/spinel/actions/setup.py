"""Opening and preparing a database: for the web application, the command line and the demo alike."""

from __future__ import annotations

import secrets
from pathlib import Path
from typing import Any

from spinel.actions.acting import Act, work
from spinel.actions.site import Site, on_site
from spinel.core.errors import InputError
from spinel.core.quantities import CEILING_CAL_CM2, Quantity
from spinel.store import database, settings

LONGEST_WINDOW_H = Quantity("longest_window_h", "Longest permit window", "h", 0.25, 24)

#: Who confirms the check steps of a program.
CHECKS_BY = ("director", "third_person")


def open_site(path: str | Path) -> Site:
    """The site in a database file, brought up to date, with a key that signs sessions."""
    site = Site(path)
    with site.connection():
        database.migrate()
        if not settings.get("session_key"):
            with site.transaction():
                settings.put("session_key", secrets.token_hex(32))
    return site


def session_key(site: Site) -> str:
    return str(site.setting("session_key"))


def is_demo(site: Site) -> bool:
    return bool(site.setting("demo"))


@on_site
def mark_demo(act: Act) -> None:
    """From now on the sign-in page lists the demo people."""
    with work(act) as unit:
        settings.put("demo", True)
        unit.record("setting changed", "setting:demo", {"value": True})


@on_site
def change_setting(act: Act, key: str, value: Any) -> None:
    """Change a site setting: the energy ceiling (cal/cm²), the longest permit window (h), who checks a step."""
    act.actor.needs("coordinator", what="change settings")
    quantity = {"ceiling_cal_cm2": CEILING_CAL_CM2, "longest_window_h": LONGEST_WINDOW_H}.get(key)
    if quantity is not None:
        value = quantity.parse(value)
    elif key != "checks_by":
        raise InputError("setting", key, "ceiling_cal_cm2, longest_window_h or checks_by")
    elif value not in CHECKS_BY:
        raise InputError("value", value, "one of " + ", ".join(CHECKS_BY))
    with work(act) as unit:
        settings.put(key, value)
        unit.record("setting changed", f"setting:{key}", {"value": value})
