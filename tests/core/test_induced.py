"""What a parallel line induces: a steady voltage below the practice's share permits grounding and nothing else; absence is
tested again once it is grounded, and nothing is handed over before. The share is our own choice (decision 023)."""

from copy import deepcopy
from dataclasses import replace

import pytest
from test_switching import walked

from saying import en
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.network.circuit import at_present
from spinel.core.network.field import INDUCED, INSTRUMENT_AFTER, INSTRUMENT_BEFORE, PROOF, apply
from spinel.core.network.liveness import liveness
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.switching.draft import draft_isolation
from spinel.core.switching.edit import restated
from spinel.core.switching.rules import first_broken, judge, judge_step
from spinel.core.switching.steps import events, take
from spinel.demo.site import document

pytestmark = pytest.mark.long


def site(*tags):
    data = deepcopy(document())
    for e in data["elements"]:
        if e["tag"] in tags:
            e["induced_voltage"] = True
    return accept(data)


@pytest.fixture(scope="module", params=["W-A1", "W-T1"])
def drafted(request):
    """A cable beside another line, at 480 V and at 12.47 kV."""
    network = site(request.param)
    study, now = Study(network, NORTH_AMERICAN, None, 40.0), walked(network)
    return draft_isolation(study, now, network.by_tag[request.param], "H"), now


def at(steps, value):
    return [i for i, s in enumerate(steps) if s.value == value]


def until(made, start, last, *, induced):
    """The field after the steps up to one, the first tests having read an induced voltage."""
    now = start
    for step in made.steps[:last]:
        for event in events(step, "H"):
            read = induced and step.value == PROOF
            now = apply(made.order.network, now, replace(event, value=INDUCED) if read else event)
    return now


def test_it_is_tested_grounded_and_tested_again(drafted):
    made, _ = drafted
    grounds = [i for i, s in enumerate(made.steps) if s.kind == "ground"]
    proofs, checks = at(made.steps, PROOF), at(made.steps, INSTRUMENT_AFTER)
    assert [i < grounds[0] for i in proofs].count(True) == [i > grounds[-1] for i in proofs].count(True) > 0
    assert checks[0] < grounds[0] and checks[-1] > grounds[-1] and made.judged.safe


def test_what_was_read_permits_the_ground_and_proves_nothing(drafted):
    made, start = drafted
    first = next(i for i, s in enumerate(made.steps) if s.kind == "ground")
    now, order = until(made, start, first, induced=True), made.order
    node = made.steps[first].node_id
    assert now.proved(node, "H") is None and now.may_be_grounded(node, "H") and not now.may_be_grounded(node, "other")
    shown = liveness(order.network, at_present(order.network, now.devices), now.devices, now).nodes[node]
    assert shown == "dead"  # not proved
    assert judge_step(order, now, made.steps[:first], made.steps[first]) is None
    rest = judge(order, now, made.steps[first:], made.steps[:first])
    assert rest.safe
    handover = made.steps[-1]
    assert "not proved dead" in en(judge_step(order, now, made.steps[:first], handover).why)


@pytest.mark.parametrize("value", [INSTRUMENT_BEFORE, PROOF, INSTRUMENT_AFTER])
def test_nothing_is_handed_over_without_the_second_test(drafted, value):
    made, start = drafted
    last_ground = max(i for i, s in enumerate(made.steps) if s.kind == "ground")
    left = [s for i, s in enumerate(made.steps) if not (i > last_ground and s.value == value)]
    for induced in (False, True):
        now = until(made, start, 0, induced=induced)
        assert first_broken(made.order, now, [], restated(made.order, now, left)) is not None
    only_first = [s for i, s in enumerate(made.steps) if i <= last_ground or s.kind == "handover"]
    broken = first_broken(made.order, start, [], restated(made.order, start, only_first))
    assert "tested again once it is grounded" in en(broken.rule)


def test_a_program_drafted_before_that_was_asked_for_goes_on_without(drafted):
    made, start = drafted
    last_ground = max(i for i, s in enumerate(made.steps) if s.kind == "ground")
    short = [s for i, s in enumerate(made.steps) if i <= last_ground or s.kind == "handover"]
    before = replace(made.order, drafted_in=5)
    assert first_broken(before, start, [], restated(before, start, short)) is None


def test_a_ground_taken_off_ends_what_was_read_too(drafted):
    made, start = drafted
    now = until(made, start, len(made.steps) - 1, induced=False)
    ground = next(s for s in made.steps if s.kind == "ground")
    off = take(made.order, now, replace(ground, acts=("ungrounded",)))
    assert now.proved(ground.node_id, "H").grounded and not off.may_be_grounded(ground.node_id, "H")
