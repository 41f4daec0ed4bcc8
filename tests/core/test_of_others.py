"""A device that others move for the site is asked for step by step, locked by their paper, and isolates for whoever has
that paper, and for nobody else. Common practice, without source: the utility's own switch, its guarantee by number."""

from copy import deepcopy
from dataclasses import replace

import pytest
from test_switching import walked

from saying import en
from spinel.core.hazard import Study
from spinel.core.isolation.instruments import place_at
from spinel.core.network.check import accept
from spinel.core.network.circuit import at_present
from spinel.core.network.cut import still_fed
from spinel.core.network.field import apply
from spinel.core.network.liveness import liveness
from spinel.core.network.now import FieldEvent
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.switching import load
from spinel.core.switching.draft import draft_isolation
from spinel.core.switching.edit import restated
from spinel.core.switching.order import NOBODY_ELSE
from spinel.core.switching.restore import draft_restoration
from spinel.core.switching.rules import first_broken, judge_step
from spinel.core.switching.steps import ASKED_OF_OTHERS
from spinel.core.switching.transfers import transfers
from spinel.demo.site import document

pytestmark = pytest.mark.long


@pytest.fixture(scope="module")
def isolated(demo_network, demo_study):
    """The intake breaker, which only the utility can cut off, with the field before it."""
    now = walked(demo_network)
    return draft_isolation(demo_study, now, demo_network.by_tag["52-U"], "H"), now


def theirs(steps):
    return [s for s in steps if s.identity == "Q-U1"]


def test_they_are_asked_to_open_to_look_and_to_lock_and_nobody_of_ours_is_there(isolated):
    made, _ = isolated
    found = theirs(made.steps)
    assert [s.acts for s in found] == [("opened",), ("checked",), ("locked", "tagged")]
    assert all(s.others.startswith("Skerrow Grid") and not s.at_equipment and s.figures is None for s in found)
    assert all("ASK Skerrow Grid" in en(s.action) and "telephone" in en(s.stand) for s in found)
    # whatever else is at that place is ours to stand at, with its figures
    assert all(
        s.at_equipment == (s.figures is not None) for s in made.steps if s.kind in ASKED_OF_OTHERS and not s.others
    )


def test_none_of_the_three_can_be_left_out_and_all_of_it_is_undone(isolated, demo_study):
    made, now = isolated
    for kind in ASKED_OF_OTHERS:
        rest = [s for s in made.steps if not (s.identity == "Q-U1" and s.kind == kind)]
        assert first_broken(made.order, now, [], restated(made.order, now, rest)) is not None
    end = made.judged.fields[-1]
    assert not [e for e, _ in still_fed(made.order.network, end.devices, made.order.target.all_nodes, "H")]
    order, steps, judged = draft_restoration(demo_study, end, made.order.target.element, "H", now)
    assert [s.acts for s in theirs(steps)] == [("unlocked", "untagged"), ("closed",), ("checked",)]
    after = judged.fields[-1].device(order.network.by_tag["Q-U1"].id)
    assert (after.position, after.looked_at, after.locks) == ("closed", True, ())


def test_their_paper_counts_for_the_hold_that_has_it_and_the_place_is_live_until_they_looked(isolated, demo_network):
    _, now = isolated
    device = demo_network.by_tag["Q-U1"]
    events = [("opened", "A"), ("checked", "A"), ("locked", "A")]
    states = []
    for kind, hold in events:
        now = apply(
            demo_network, now, FieldEvent(sequence=0, at="", actor="", kind=kind, element_id=device.id, hold=hold)
        )
        fed = {h: [e.tag for e, _ in still_fed(demo_network, now.devices, ["n-u"], h)] for h in ("A", "B")}
        states.append(
            (liveness(demo_network, at_present(demo_network, now.devices), now.devices, now).nodes["n-u"], fed)
        )
    assert [state for state, _ in states] == ["live", "live", "live"]  # the other end: T1 and T2 are still joined
    assert "U-1" in states[0][1]["A"] and "U-1" in states[1][1]["A"]
    assert "U-1" not in states[2][1]["A"] and "U-1" in states[2][1]["B"]


def test_a_step_names_them_where_they_move_it_and_nowhere_else(isolated):
    made, _ = isolated
    for i, step in enumerate(made.steps):
        if step.kind not in ASKED_OF_OTHERS:
            continue
        done = made.steps[:i]
        field = made.judged.fields[i]
        assert judge_step(made.order, field, done, step) is None
        for other in ("", "Somebody else"):
            if other != step.others:
                broken = judge_step(made.order, field, done, replace(step, others=other))
                assert broken is not None and "says what the network says" in en(broken.rule)


def test_nobody_offers_to_have_it_moved_for_something_else(isolated, demo_study, demo_network):
    _, now = isolated
    q = demo_network.by_tag["Q-U1"]
    for e in demo_network.elements:
        if e.row.switches and not load.strong(e):
            assert q not in (load.companions(demo_study, now, e, frozenset()) or [])
    opened = apply(demo_network, now, FieldEvent(sequence=0, at="", actor="", kind="opened", element_id=q.id))
    seen = apply(demo_network, opened, FieldEvent(sequence=0, at="", actor="", kind="checked", element_id=q.id))
    target = demo_network.by_tag["T1"]
    plan = draft_isolation(demo_study, now, target, "H").isolation
    offered = transfers(demo_study, seen, target, plan.points, plan.region, NOBODY_ELSE)
    assert all(q.id not in t.goal for t in offered)


def test_a_fault_at_either_side_of_it_is_the_utilitys_category(demo_network):
    assert [place_at(demo_network, [n], 12_470, "ac").category for n in ("n-pole", "n-u", "n-swg")] == [4, 4, 3]


def test_its_duty_and_its_figures_are_theirs_to_judge():
    weak = deepcopy(document())
    next(e for e in weak["elements"] if e["tag"] == "Q-U1").update(short_circuit_ka=1)
    network = accept(weak)
    study = Study(network, NORTH_AMERICAN, None, 40.0)
    assert not study.duty[network.by_tag["Q-U1"].id].adequate
    made = draft_isolation(study, walked(network), network.by_tag["52-U"], "H")
    assert made.judged.safe and theirs(made.steps)


def test_only_what_opens_is_moved_by_others():
    wrong = deepcopy(document())
    next(e for e in wrong["elements"] if e["tag"] == "SWG-1").update(operated_by="Somebody")
    with pytest.raises(Exception, match="only a device that opens and closes"):
        accept(wrong)
