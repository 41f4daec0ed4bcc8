"""Site settings as JSON values by key, with their defaults."""

from __future__ import annotations

import json
from typing import Any

from spinel.store.database import rows
from spinel.store.models import Setting

DEFAULTS: dict[str, Any] = {
    #: Energy above which nobody works or tests live here; never above the profile's own ceiling.
    "ceiling_cal_cm2": 40.0,
    #: Longest window of a permit, hours.
    "longest_window_h": 12.0,
    #: Who confirms the check steps of a switching program: its director, or a third person.
    "checks_by": "director",
    #: Whether a course that everybody exposed attends is asked before somebody is put to work, or only named.
    "training_rule": "named",
    #: Whether a permit is submitted and issued only where the risk of its job was agreed on, or that is only shown.
    "risk_rule": "named",
    "label_signal": "ceiling",
    "label_language": "none",
    "study_signed_by": "nobody",
    #: After how long without a sign of life a session ends, and after how long in any case, hours.
    "session_idle_h": 8.0,
    "session_whole_h": 24.0,
    #: How many authorisers approve a permit, each another person.
    "approvals": "one",
    #: Positions that sign before that, in their order: title, and ids of who holds it.
    "positions": [],
    #: The site's name as it is printed, where it is not the network document's; and its address.
    "site_name": "",
    "site_address": "",
    #: Whether approving and issuing ask for a one-time code beside the password.
    "one_time_code": "no",
    #: How long a program may stand at a step, minutes, before console and board say so.
    "longest_stand_min": 15.0,
    #: How long a step of a program takes, minutes, where it is said for how long something is off.
    "step_min": 2.0,
    #: The steps of the scales of risk in the site's own words, least first; empty: as they ship.
    "risk_words": {},
    #: Months between the tests of gear by kind, where the site wants them sooner than they ship.
    "gear_months": {},
    #: Set by `spinel demo`; the sign-in page then lists the demo people.
    "demo": False,
}


def get(key: str) -> Any:
    row = Setting.get_or_none(Setting.key == key)
    return json.loads(row.value) if row else DEFAULTS[key]


def read(stored: str) -> dict[str, Any]:
    """All settings from what is stored as one JSON object, with the defaults of those never set."""
    known: dict[str, Any] = json.loads(stored)
    return DEFAULTS | known


def everything() -> dict[str, Any]:
    """All settings, with the defaults of those never set."""
    return DEFAULTS | {key: json.loads(value) for key, value in rows("SELECT key, value FROM setting")}


def put(key: str, value: Any) -> None:
    if key not in DEFAULTS:
        raise KeyError(key)
    Setting.replace(key=key, value=json.dumps(value)).execute()
