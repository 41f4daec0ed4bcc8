"""The shipped task library: what a task does decides what is asked of it, whatever anybody writes beside it."""

import pytest

from saying import en
from spinel.core.network.kinds import KINDS
from spinel.core.network.schema import EQUIPMENT_CLASSES
from spinel.core.permit.library import EDITABLE, GROUPS, TASKS, with_words
from spinel.core.permit.tasks import NORMAL_CONDITIONS, SKILLS, fits
from spinel.core.said import Said


def test_it_ships_full():
    assert len(TASKS) >= 60 and {t.group for t in TASKS.values()} == set(GROUPS)
    assert sum(not t.electrical for t in TASKS.values()) >= 5


@pytest.mark.parametrize("task", TASKS.values(), ids=lambda t: t.id)
def test_every_task_asks_what_comes_with_what_it_does(task):
    assert task.fact_keys == {
        "operates": NORMAL_CONDITIONS, "measures": ("circuit_unaltered",),
        "inspects": ("outside_restricted", "circuit_unaltered"),
    }.get(task.acts, ()), "an exemption never stands without its questions"  # fmt: skip
    assert bool(task.exemption) == (task.acts in ("measures", "inspects"))
    # whoever alters, moves or measures among bare parts is inside, or counted as inside by what is reached
    assert task.crosses_restricted == (task.acts in ("measures", "alters"))
    assert task.skill in SKILLS if task.electrical else task.skill in ("", *SKILLS)
    assert set(task.kinds) <= set(KINDS) and set(task.classes) <= set(EQUIPMENT_CLASSES)
    assert task.steps and 1 <= task.people <= 4
    if task.id not in SKILLS and task.acts in ("alters", "interacts") and task.id != "rack-remote":
        assert not task.live, "live only where a site says so"
    if task.acts in ("alters", "interacts"):
        assert task.people >= 2, "live work is nobody's alone (common practice)"
    said = (task.name, task.reaches, task.doors, task.likelihood, *task.steps, *task.practices, *task.instruments,
            *task.tools, *task.wear, *task.place, *task.hazards)  # fmt: skip
    assert all(isinstance(s, Said) and en(s) for s in said), "each sentence is in the catalogue"


def test_a_battery_asks_for_what_electrolyte_needs():
    """29 CFR 1926.441 and common practice, from memory: eyewash, ventilation, no sparks, goggles, shield, apron, gloves."""
    for task in (t for t in TASKS.values() if t.group == "battery"):
        assert {s.code for s in task.place} >= {"place-eyewash", "place-vented", "place-no-sparks"}
        assert {s.code for s in task.wear} >= {"wear-goggles", "wear-face-shield", "wear-apron", "wear-acid-gloves"}


def test_the_secondary_of_a_current_transformer_is_shorted_first():
    for task_id in ("replace-meter", "work-on-ct", "test-relay"):
        assert TASKS[task_id].steps[0].code == "do-short-the-currents"
        assert "keep-never-open-secondary" in {s.code for s in TASKS[task_id].practices}


def test_words_change_no_rule():
    for task in TASKS.values():
        changed = with_words(task, {"acts": "operates", "fact_keys": (), "exemption": "x", "skill": "", "name": "N"})
        assert changed.name == "N"
        for field in ("acts", "fact_keys", "exemption", "skill", "crosses_restricted", "kinds", "classes", "reaches"):
            assert field not in EDITABLE and getattr(changed, field) == getattr(task, field)


def test_a_task_is_for_its_equipment(demo_network):
    battery, breaker = demo_network.by_tag["BB-1"], demo_network.by_tag["52-A"]
    assert fits(TASKS["battery-cell"], battery, ("battery",)) and not fits(
        TASKS["battery-cell"], breaker, ("switchboard",)
    )
    assert fits(TASKS["insert-bucket"], breaker, ("motor control center",))
    assert not fits(TASKS["insert-bucket"], breaker, ("switchboard",))
    assert all(fits(t, breaker, ()) and fits(t, battery, ()) for t in SKILLS.values())
