"""A ground switch is a device of its own: closed, looked at, locked; unlocked and opened before any isolation lock."""

from dataclasses import replace

import pytest
from test_switching import walked

from saying import en
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.network.field import apply
from spinel.core.network.now import FieldEvent
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.switching.draft import draft_isolation
from spinel.core.switching.edit import restated
from spinel.core.switching.order import Crews
from spinel.core.switching.restore import draft_restoration
from spinel.core.switching.rules import first_broken
from spinel.core.switching.steps import take
from spinel.demo.site import document

pytestmark = pytest.mark.long

SWITCH = {"id": "gs-1", "tag": "GS-1", "kind": "ground_switch", "ends": ["n-t1c"], "name": "Ground switch of T1's feeder",
          "location": "MV room"}  # fmt: skip


@pytest.fixture(scope="module")
def both():
    """Isolation and restoration of a cable at 12.47 kV that has one, with how each begins."""
    network = accept({**document(), "elements": [*document()["elements"], SWITCH]})
    study, now = Study(network, NORTH_AMERICAN, None, 40.0), walked(network)
    cable = network.by_tag["W-T1"]
    made = draft_isolation(study, now, cable, "H")
    end = made.judged.fields[-1]
    order, steps, _ = draft_restoration(study, end, cable, "H", now)
    return (made.order, now, [*made.steps]), (order, end, [*steps])


def at_it(steps):
    return [(s.kind, s.acts) for s in steps if s.identity == "GS-1"]


def broken_without(case, which):
    order, start, steps = case
    rest = [s for s in steps if not (s.identity == "GS-1" and which(s))]
    assert len(rest) < len(steps)
    return first_broken(order, start, [], restated(order, start, rest))


def test_it_is_closed_looked_at_and_locked_and_all_of_that_undone(both):
    isolation, restoration = both
    assert at_it(isolation[2]) == [("ground", ("grounded",)), ("check", ("checked",)), ("lock", ("locked", "tagged"))]
    assert at_it(restoration[2]) == [
        ("lock", ("unlocked", "untagged")), ("ground", ("ungrounded",)), ("check", ("checked",)),
    ]  # fmt: skip
    ends = restoration[1]
    for step in restoration[2]:
        ends = take(restoration[0], ends, step)
    device = ends.device("gs-1")
    assert (device.position, device.looked_at, device.locks, ends.grounds) == ("open", True, (), ())


@pytest.mark.parametrize("kind", ["ground", "check", "lock"])
def test_nobody_is_handed_what_it_grounds_with_one_of_the_three_left_out(both, kind):
    assert broken_without(both[0], lambda s: s.kind == kind) is not None


def test_a_locked_one_is_not_opened_and_none_stays_behind(both):
    assert "lock or tag" in en(broken_without(both[1], lambda s: s.kind == "lock").rule)
    assert broken_without(both[1], lambda s: s.kind == "ground") is not None


def test_an_isolation_lock_does_not_come_off_before_it(both):
    order, start, steps = both[1]
    mine = [s for s in steps if s.identity == "GS-1"]
    later = [s for s in steps if s.identity != "GS-1"]
    at = next(i for i, s in enumerate(later) if "unlocked" in s.acts) + 1
    moved = [*later[:at], *mine, *later[at:]]
    assert first_broken(order, start, [], restated(order, start, moved)) is not None


def test_a_program_drafted_before_it_was_asked_for_goes_on_without(both):
    order, start, steps = both[0]
    before = replace(order, drafted_in=4)
    rest = [s for s in steps if s.identity != "GS-1" or s.kind == "ground"]
    assert first_broken(before, start, [], restated(before, start, rest)) is None


def test_a_second_crew_looks_at_it_and_locks_it_beside_and_it_stays_closed_until_the_last_is_off(both):
    (first, _, _), (_, grounded, _) = both
    study, cable = first.study, first.network.by_tag["W-T1"]
    second = draft_isolation(study, grounded, first.network.by_tag["T1"], "B", crews=Crews(given_back=frozenset("H")))
    assert at_it(second.steps) == [("ground", ("grounded",)), ("check", ("checked",)), ("lock", ("locked", "tagged"))]
    both_hold = second.judged.fields[-1]
    order, steps, _ = draft_restoration(study, both_hold, cable, "H", first.origin)
    left = both_hold
    for step in steps:
        left = take(order, left, step)
    device = left.device("gs-1")
    assert (device.position, device.locks) == ("closed", ("B",)) and [g.hold for g in left.grounds] == ["B"]
    order, steps, _ = draft_restoration(study, left, first.network.by_tag["T1"], "B", grounded)
    for step in steps:
        left = take(order, left, step)
    assert left.device("gs-1").position == "open" and left.grounds == ()


def test_one_of_which_nobody_knows_whether_it_is_closed_grounds_nothing_and_may_be_closed(both):
    (order, _, _), (_, grounded, _) = both
    event = FieldEvent(
        sequence=0, at="t", actor="a", kind="found", element_id="gs-1", value="ground unsure", hold="H", node_id="n-t1c"
    )
    now = apply(order.network, grounded, event)
    assert now.device("gs-1").position is None and not now.device("gs-1").looked_at
    assert now.grounded(["n-t1c"]) is None and now.grounded(["n-t1c"], maybe=True) is not None
