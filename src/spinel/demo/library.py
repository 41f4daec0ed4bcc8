"""What the demo's coordinators made of the shipped task library."""

from __future__ import annotations

from spinel.actions import task_library
from spinel.actions.task_library import LISTS, Wording
from spinel.core.permit.library import TASKS
from spinel.demo.history import Demo


def own_words(demo: Demo) -> None:
    """One task put on the list of live tasks, one of their own, and one in other words while jobs of it are open."""
    task_library.set_live(
        demo.act("maren", -24 * 27),
        "battery-torque",
        "Once a year, by two of us, with the string's own tools",
        live=True,
    )
    task_library.add(
        demo.act("maren", -24 * 26), "replace-module", "Swap the heater controller of a ramp lane",
        "It comes up every winter",
    )  # fmt: skip
    shipped = TASKS["retorque"]
    lists = {name: tuple(getattr(shipped, name)) for name in LISTS}
    lists["steps"] = (*lists["steps"][:2], "Salt on the lug: wipe it with the dry cloth first", *lists["steps"][2:])
    told = Wording(name=shipped.name, people=shipped.people, lists=lists)
    task_library.change(demo.act("maren", -1.5), "retorque", 0, told, "Found at MC1: the torque reads high on salt")
