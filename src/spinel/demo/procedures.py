"""A checklist of the demo, and what is done at every motor control center of it. Pictures are for who stands there."""

from __future__ import annotations

from spinel.actions import procedures
from spinel.demo.history import Demo
from spinel.demo.site import element_id


def written(demo: Demo) -> None:
    lines = (
        "Tell the bridge before the pumps stop: the sump fills in forty minutes",
        "F-A1 racks out to the stop; the shutter must be seen down",
        "The space heater comes from EDP-9: it stays live unless that is opened too",
        "Test at the bus, back of column 2, through the upper slot",
    )
    procedures.write(demo.act("maren", -29.9), element_id("MC1"), "", lines, "As Ivo and Sorcha found it in spring")
    common = (
        "Doors stay interlocked: no screwdriver opens one that is not off",
        "Control power may come from elsewhere: look for yellow wires",
    )
    procedures.write(
        demo.act("maren", -29.8), element_id("MC1"), "motor control center", common, "Said at every briefing"
    )
