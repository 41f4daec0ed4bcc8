"""The demo's plans, a bilge pump in a draft, and the upkeep of its switchgear."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from datetime import timedelta
from itertools import count

from spinel.actions import attachments, drafting
from spinel.core.curves.library import generic
from spinel.core.editing import acts, groups
from spinel.core.editing.records import Sheet
from spinel.core.said import Sayable, say
from spinel.core.upkeep import Upkept
from spinel.demo.history import Demo
from spinel.demo.site import element_id

_SPACE = uuid.UUID("5b1f7f5e-3a51-4c8e-9a7f-0d2c5e51a013")

#: The planned motor, the eighth record that is made.
PLANNED = str(uuid.uuid5(_SPACE, "8"))
#: Tag, what was done, by whom, how many days ago, what came of it, in how many days it is due again.
DONE = (
    ("52-A", "Withdrawn, cleaned, primary injection", "Skerrow Switchgear Service", 210, "good", 520),
    ("52-B", "Withdrawn, cleaned, primary injection", "Skerrow Switchgear Service", 209, "good", 521),
    ("52-TIE", "Withdrawn, cleaned, primary injection", "Skerrow Switchgear Service", 1_120, "good", -25),
    ("MC1-4A", "Trip test by its button", "Ivo Tanaka", 96, "minor", 269),
    ("MC2-2B", "Trip test by its button", "Skerrow Switchgear Service", 60, "failed", 10),
    ("T1", "Oil sampled, bushings cleaned", "Skerrow Switchgear Service", 300, "good", 65),
)


def planned(demo: Demo) -> None:
    """A draft: the bilge pump P-22 below MC1, its terminal box assumed, its motor off the plate."""
    number = drafting.begin(demo.act("maren", -30))
    numbers = count(1)

    def fresh() -> str:
        """The demo's pieces keep their ids in every build."""
        return str(uuid.uuid5(_SPACE, str(next(numbers))))

    def hung(sheet: Sheet) -> Sayable:
        own = Sheet(sheet.document, fresh)
        node = next(e["ends"][0] for e in own.document["elements"] if e["tag"] == "MC1")
        given = {
            "tag": "P-22", "name": "Bilge pump", "location": "Pump gallery", "breaker.rated_a": 150,
            "breaker.interrupting_ka": 42, "breaker.curve": generic("thermal-magnetic", 150),
            "cable.conductor_size": "1", "cable.length_m": 43.3, "motor.rated_kva": 69.5,
        }  # fmt: skip
        made = groups.hang(own, "starter", node, given, {"from": "drawing", "note": "E-104"})
        motor = own.element(made[-1])
        motor["basis"]["rated_kva"] = {"from": "plate"}
        acts.retag(own, {made[0]: "MC1-3C", made[1]: "K-3C", made[2]: "W-P22"})
        sheet.document = own.document
        return say("draft-hung", tag="P-22", group=say("group-starter"))

    drafting.edit(demo.act("maren", -29.9), number, 0, hung)


def kept_up(demo: Demo) -> None:
    """Upkeep of some devices, and a drawing that is kept elsewhere."""
    for i, (tag, what, by, before, result, due) in enumerate(DONE):
        day = (demo.moment - timedelta(days=before)).date()
        again = (demo.moment + timedelta(days=due)).date()
        done = Upkept(day=day.isoformat(), what=what, done_by=by, result=result, due=again.isoformat())
        attachments.record_upkeep(demo.act("ivo", -28 + i / 10), element_id(tag), done)
    attachments.attach_link(
        demo.act("ivo", -27), element_id("MC1"), "Front of MC1, drawing E-77", "https://drawings.skerrow.example/E-77"
    )


STORIES: tuple[Callable[[Demo], None], ...] = (planned, kept_up)
