"""The task library of a site: versions, the list of live tasks, and what is no electrical work."""

import pytest

from demo_acts import HAZARD, act, element_id, the_site
from saying import en
from spinel.actions import jobs, permits, task_library
from spinel.actions.task_library import LISTS, Wording
from spinel.actions.verifying import verify
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal
from spinel.core.permit.library import TASKS


def worded(task_id, **more):
    task = task_library.kept(the_site(), task_id).task
    lists = {name: tuple(getattr(task, name)) for name in LISTS}
    return Wording(name=more.pop("name", task.name), people=more.pop("people", task.people), lists=lists | more)


def change(task_id="retorque", login="maren", seen=None, **more):
    now = task_library.kept(the_site(), task_id).version
    told = worded(task_id, **more)
    return task_library.change(act(login), task_id, now if seen is None else seen, told, "Learnt on the last job")


def started(task_id, tag="MC1"):
    return jobs.start(act("maren"), element_id(tag), task_id, "Something to do", "")


def decided(number, **facts):
    job = jobs.view(the_site(), number)
    return jobs.answer(act("maren"), number, job.version, facts, "added_hazard", "", "")


@pytest.mark.parametrize("login", ["ivo", "sorcha", "nils", "edda", "ruth"])
def test_only_coordinators_keep_it(open_db, login):
    for do in (
        lambda: change(login=login), lambda: task_library.add(act(login), "inspect", "Look again", "because"),
        lambda: task_library.set_live(act(login), "battery-cell", "because", live=True),
    ):  # fmt: skip
        with pytest.raises(NotAllowed):
            do()


def test_a_job_keeps_the_version_that_it_was_started_with_and_is_told_of_a_newer(open_db):
    number = started("inspect")
    assert (jobs.view(the_site(), number).newer, change("inspect", steps=("Look", "Write it down"))) == (0, 1)
    seen = jobs.view(the_site(), number)
    assert seen.newer == 1 and seen.task.steps == TASKS["inspect"].steps
    jobs.renew_task(act("maren"), number, seen.version)
    seen = jobs.view(the_site(), number)
    assert (seen.newer, seen.task.steps) == (0, ("Look", "Write it down"))
    assert seen.task.fact_keys == TASKS["inspect"].fact_keys
    assert verify(the_site().path).found == ()


def test_two_who_change_at_once_do_not_overwrite_each_other(open_db):
    change("inspect", steps=("Look",))
    with pytest.raises(InputError):
        change("inspect", seen=0, steps=("Look twice",))
    with pytest.raises(InputError):
        change("inspect", steps=())
    with pytest.raises(InputError):
        change("inspect", people=0)


def test_what_is_not_on_the_list_is_refused_with_the_names_of_those_who_may_add_it(open_db):
    number = started("replace-module", "MC1-2B")
    decision = decided(number, **HAZARD)
    assert (decision.outcome, decision.live, decision.permit) == ("not_justified", False, False)
    assert "Maren Oduya or Tavi Lindgren" in en(decision.remedy)
    with pytest.raises(Refusal):
        permits.draft(act("maren"), number)
    task_library.set_live(act("maren"), "replace-module", "Two of us were trained for it", live=True)
    assert jobs.view(the_site(), number).decision.outcome == "live_with_permit"


def test_what_measures_may_be_taken_off_the_list_too(open_db):
    number = started("measure-current", "MC1-2B")
    assert decided(number, circuit_unaltered="yes").outcome == "exempt"
    task_library.set_live(act("maren"), "measure-current", "Our clamps are in repair", live=False)
    assert jobs.view(the_site(), number).decision.outcome == "not_justified"


def test_taken_off_the_list_it_stops_what_is_under_way(open_db):
    at_work = {p.content["task"]["id"]: p for p in permits.in_states(the_site(), ("in_force",), act("maren").now)}
    task_id, permit = next(iter(at_work.items()))
    touched = task_library.set_live(act("maren"), task_id, "Somebody was hurt elsewhere", live=False)
    assert permit.number in touched
    seen = permits.view(the_site(), permit.number, act("maren").now)
    assert seen.state == "suspended" and "no longer done live" in en(seen.suspended_because)
    for other in permits.in_states(the_site(), ("submitted", "approved", "issued", "in_force"), act("maren").now):
        assert other.content["task"]["id"] != task_id
    assert verify(the_site().path).found == ()


def test_a_task_of_their_own_asks_what_its_model_asks_and_is_not_live_at_first(open_db):
    task_id = task_library.add(act("maren"), "battery-cell", "Swap a cell of the gate battery", "It is another make")
    kept = task_library.kept(the_site(), task_id)
    assert (kept.own, kept.live, kept.task.acts, kept.task.kinds) == (True, False, "alters", ("battery",))
    with pytest.raises(InputError):
        started(task_id, "MC1")
    number = started(task_id, "BB-1")
    assert not jobs.view(the_site(), number).decision.live
    again = task_library.add(act("maren"), task_id, "Swap a cell of the crane", "It is another make")
    assert again != task_id and task_library.kept(the_site(), again).like == "battery-cell"
    with pytest.raises(NotFound):
        task_library.kept(the_site(), "own-99")


def test_work_that_is_no_electrical_work_is_never_live_whatever_is_claimed(open_db):
    number = started("mechanical", "P-31")
    decision = decided(number, **HAZARD)
    assert (decision.outcome, decision.live) == ("work_dead", False)
    with pytest.raises(Refusal):
        permits.draft(act("maren"), number)
    assert jobs.view(the_site(), number).isolable


def test_nobody_is_told_to_work_dead_on_what_cannot_be_switched_off(open_db):
    number = started("mechanical", "BB-1")
    decision = decided(number)
    assert decision.outcome == "not_assessed" and not decision.live and not decision.permit


def test_a_worker_is_qualified_by_what_the_task_rests_on(open_db):
    task_library.set_live(act("maren"), "replace-overload", "Trained", live=True)
    number = started("replace-overload", "MC1-2B")
    decided(number, **HAZARD)
    permit = permits.view(the_site(), permits.draft(act("maren"), number), act("maren").now)
    assert permit.content["task"]["skill"] == "replace" and permit.content["task"]["id"] == "replace-overload"
