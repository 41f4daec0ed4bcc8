"""A small second sample: Fell Row Bakery, an invented place of another trade, built as anybody would build it here.

Nothing is typed as a document: every piece is hung by the acts of the browser, draft by draft, so that a newcomer who
undoes them sees a site grow. Every rating and name is made up.
"""

from __future__ import annotations

import uuid
from collections.abc import Callable, Mapping
from datetime import datetime, timedelta
from itertools import count
from typing import Any

from spinel.actions import draft_publishing, drafting, people, setup
from spinel.actions.acting import SYSTEM, Act
from spinel.actions.site import Site
from spinel.core.curves.library import generic
from spinel.core.editing import acts, groups
from spinel.core.editing.records import Sheet
from spinel.core.said import Sayable, say
from spinel.demo.people import PASSWORD

_SPACE = uuid.UUID("5b1f7f5e-3a51-4c8e-9a7f-0d2c5e51a025")
#: login, name, roles
PEOPLE = (
    ("ana", "Ana Pell", ("coordinator",)), ("lio", "Lio Brandt", ("director", "operator")),
    ("gwen", "Gwen Tarrow", ("authoriser",)),
)  # fmt: skip
Given = dict[str, Any]
_LETTER, _PLATE, _DRAWING = {"from": "letter", "note": "Fell Row Grid, 3 March"}, {"from": "plate"}, {"from": "drawing"}
#: Group, the piece that it hangs below, what is given, and where that comes from; in the order in which they are hung.
BRANCHES: tuple[tuple[str, str, Given, Mapping[str, str]], ...] = (
    ("transformer", "SWG-1", {
        "tag": "T-1", "board": "MSB-1", "name": "Yard transformer", "location": "Yard", "voltage_v": 480,
        "transformer.rated_kva": 500, "transformer.impedance_pct": 4.6, "breaker.rated_a": 30,
        "cable.length_m": 22, "cable.conductor_size": "1/0", "secondary_cable.conductor_size": "500",
        "secondary_cable.per_phase": 2, "secondary_cable.length_m": 9, "main.rated_a": 800,
    }, _PLATE),
    ("feeder", "MSB-1", {
        "tag": "OVN-1", "name": "Oven hall panel", "location": "Oven hall", "equipment_class": "panelboard",
        "breaker.rated_a": 400, "cable.conductor_size": "500", "cable.length_m": 34,
    }, _DRAWING),
    ("starter", "MSB-1", {
        "tag": "FAN-1", "name": "Flour extraction fan", "location": "Silo loft", "breaker.rated_a": 60,
        "motor.rated_kva": 28, "cable.conductor_size": "4", "cable.length_m": 51,
    }, _PLATE),
    ("drive", "MSB-1", {
        "tag": "MIX-1", "name": "Dough mixer", "location": "Mixing room", "breaker.rated_a": 100,
        "motor.rated_kva": 45, "cable.conductor_size": "2", "cable.length_m": 18,
    }, _PLATE),
    ("solar", "MSB-1", {
        "tag": "PV-1", "name": "Roof solar", "location": "Roof", "breaker.rated_a": 100, "inverter.rated_kva": 60,
        "cable.conductor_size": "1", "cable.length_m": 40,
    }, _PLATE),
)  # fmt: skip
#: Generic curves, by the tag of the device, and what each is like; assumed until the sheets are at hand.
CURVES = {
    "Q-SWG-1": "relay-very-inverse", "Q-T-1": "relay-extremely-inverse", "QM-T-1": "trip-all",
    "Q-OVN-1": "thermal-magnetic", "Q-FAN-1": "thermal-magnetic", "Q-MIX-1": "thermal-magnetic",
    "Q-PV-1": "thermal-magnetic",
}  # fmt: skip


def build(site: Site, moment: datetime) -> None:
    """Fill an empty database. ``moment`` (UTC): its now."""
    with site.connection():
        begin = Act(site, SYSTEM, moment - timedelta(days=3))
        setup.mark_demo(begin)
        ids = {
            login: people.add_person(begin, login, name, PASSWORD, roles, first=True) for login, name, roles in PEOPLE
        }
        ana = people.actor(site, ids["ana"])
        minutes = count()

        def act() -> Act:
            return Act(site, ana, moment - timedelta(days=2) + timedelta(minutes=next(minutes)))

        number = drafting.begin_empty(
            act(), {"name": "Fell Row Bakery", "time_zone": "America/Halifax", "practice": "north-american",
                    "frequency_hz": 60},
            {"voltage_v": 4160, "tag": "U-1", "board": "SWG-1", "source.fault_mva_max": 90, "source.x_r_max": 9,
             "source.fault_mva_min": 60, "source.x_r_min": 7, "main.rated_a": 200}, _LETTER,
        )  # fmt: skip
        for group, above, given, origin in BRANCHES:
            _edit(act(), number, group, above, given, origin)
        _curves(act(), number)
        draft = drafting.draft(site, number)
        note = "As built, from the letter, the plates and drawing 11; curves are generic until their sheets come"
        draft_publishing.publish(act(), number, draft.hash, PASSWORD, note, "")
        # what comes next is planned: nobody needs to answer for it yet
        plan = drafting.begin(act())
        _edit(act(), plan, "battery", "MSB-1", {
            "tag": "BAT-1", "name": "Fork lift battery", "location": "Yard", "voltage_v": 48, "breaker.rated_a": 60,
        }, _DRAWING)  # fmt: skip


def _edit(act: Act, number: str, group: str, above: str, given: Given, origin: Mapping[str, str]) -> None:
    def hung(sheet: Sheet) -> Sayable:
        own = Sheet(sheet.document, _ids(f"{number} {given['tag']}"))
        node = next(e["ends"][0] for e in own.document["elements"] if e["tag"] == above)
        groups.hang(own, group, node, given, origin)
        sheet.document = own.document
        return say("draft-hung", tag=given["tag"], group=say(f"group-{group}"))

    drafting.edit(act, number, drafting.draft(act.site, number).step, hung)


def _ids(start: str) -> Callable[[], str]:
    """Ids that are the same in every build."""
    numbers = count(1)
    return lambda: str(uuid.uuid5(_SPACE, f"{start} {next(numbers)}"))


def _curves(act: Act, number: str) -> None:
    def told(sheet: Sheet) -> Sayable:
        for e in sheet.document["elements"]:
            if e["tag"] in CURVES:
                curve = generic(CURVES[e["tag"]], e.get("rated_a") or 200)
                acts.change(sheet, "elements", e["id"], {"interrupting_ka": 42}, {"from": "plate"})
                acts.change(sheet, "elements", e["id"], {"curve": curve}, {})
        for box in sheet.document["enclosures"]:
            acts.change(sheet, "enclosures", box["id"], {"escape_clear": True}, {"from": "seen"})
        return say("draft-curve", tag="MSB-1")

    drafting.edit(act, number, drafting.draft(act.site, number).step, told)
