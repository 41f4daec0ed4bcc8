"""The figures that a step carries are never below those of the state that it is done in.

What is expected comes from a study made anew for each state alone, asked without any shortcut.
"""

import os
import random

import pytest
from test_switching import walked

from saying import en
from spinel.core.errors import InputError, Refusal
from spinel.core.hazard import Study
from spinel.core.isolation.able import figures
from spinel.core.network.circuit import at_present
from spinel.core.network.field import apply
from spinel.core.network.now import FieldEvent
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.switching.between import draft_switching
from spinel.core.switching.draft import draft_isolation
from spinel.core.switching.restore import draft_restoration
from spinel.core.switching.rules import FIGURES_COVER, judge
from spinel.core.switching.steps import take

#: How a site may stand when a program is drafted: as its cases say, and otherwise.
STANDS = {
    "normal": {},
    "side by side": {"52_TIE": "closed"},
    "on one": {"52_TIE": "closed", "52_A": "open"},
    "one feeder out": {"F_B1": "open", "ATS_1": "emergency"},
}
ELEMENTS = ["F-A1", "MC1-2B", "T1", "ATS-1", "52-TIE", "SC-1", "PV-1", "MC2"]


class Plain:
    """Figures of a state by itself: every state has a study of its own."""

    def __init__(self, network):
        self.network, self._known = network, {}

    def elsewhere(self, field, element_id):
        """The most of any place alone, where the element as a whole has no figure."""
        return max((cal for why, cal, _ in self.study(field).places_now(element_id) if not why), default=0.0)

    def figures(self, field, element_id):
        return figures(self.study(field), self.network.element[element_id])

    def study(self, field):
        circuit = at_present(self.network, field.devices)
        key = (tuple(sorted(circuit.closed.items())), circuit.uncertain, circuit.running)
        if key not in self._known:
            self._known[key] = Study(self.network, NORTH_AMERICAN, circuit, 40.0)
        return self._known[key]


@pytest.fixture(scope="module")
def plain(demo_network):
    return Plain(demo_network)


def stand(network, **found):
    now = walked(network, **found)
    return Study(network, NORTH_AMERICAN, at_present(network, now.devices), 40.0), now


def too_low(plain, order, now, steps):
    """Steps whose figures a state around them exceeds, with both energies; and the field at the end."""
    found = []
    for step in steps:
        after = take(order, now, step)
        if step.at_equipment and not step.stick:
            for state in (now, after):
                there, said = plain.figures(state, step.element_id), step.figures
                if there.none_because and not said.none_because:
                    # one end has too little for any method: the others still count
                    if (most := plain.elsewhere(state, step.element_id)) > said.energy_cal_cm2 * 1.0001:
                        found.append((step.identity, en(step.action), most, said.energy_cal_cm2))
                    continue
                more = (there.energy_cal_cm2 or 0) > (said.energy_cal_cm2 or 0) * 1.0001
                wider = (there.boundary_mm or 0) > (said.boundary_mm or 0) * 1.0001
                if more or wider:
                    found.append((step.identity, en(step.action), there.energy_cal_cm2, said.energy_cal_cm2))
        now = after
    return found, now


def programs(network, stands, tag):
    """An isolation and its restoration, as far as the rules allow them."""
    study, now = stand(network, **STANDS[stands])
    try:
        made = draft_isolation(study, now, network.by_tag[tag], "H")
    except Refusal:
        return
    yield made.order, now, made.steps
    end = now
    for step in made.steps:
        end = take(made.order, end, step)
    order, steps, _ = draft_restoration(study, end, network.by_tag[tag], "H", now)
    yield order, end, steps


ALL = [(s, t) for s in STANDS for t in ELEMENTS]
SOME = ALL if os.environ.get("SOAK") else [("one feeder out", "PV-1")]


@pytest.mark.parametrize(("stands", "tag"), SOME)
def test_no_step_says_less_than_the_state_that_it_is_done_in(demo_network, plain, stands, tag):
    for order, now, steps in programs(demo_network, stands, tag):
        assert too_low(plain, order, now, steps)[0] == []


def goals(network, seed):
    chance = random.Random(seed)
    devices = [
        e for e in network.elements if e.kind == "breaker" and e.tag in ("52-A", "52-B", "52-TIE", "F-A1", "F-B1")
    ]
    return {e.id: chance.choice(("open", "closed")) for e in chance.sample(devices, 3)}


@pytest.mark.skipif(not os.environ.get("SOAK"), reason="the soak's")
@pytest.mark.parametrize("seed", range(40))
def test_nor_on_the_way_from_one_state_to_another(demo_network, plain, seed):
    stands = random.Random(f"s{seed}").choice(list(STANDS))
    print("seed", seed, stands)
    study, now = stand(demo_network, **STANDS[stands])
    try:
        made = draft_switching(study, now, demo_network.by_tag["SWB-A"], "H", goals(demo_network, seed))
    except (Refusal, InputError):
        return  # no order keeps the rules, or it all stands so already
    found, end = too_low(plain, made.order, now, made.steps)
    assert found == []
    assert all(end.device(i).position == wanted for i, wanted in made.order.goal.items())


@pytest.mark.long
def test_what_another_switches_makes_the_figures_of_a_drafted_program_too_low(demo_network, plain):
    """Two transformers side by side feed more than either: a program drafted before says so of its own steps."""
    study, now = stand(demo_network)
    made = draft_isolation(study, now, demo_network.by_tag["MC1-2B"], "H")
    tie = demo_network.by_tag["52-TIE"].id
    for kind in ("closed", "checked"):
        now = apply(demo_network, now, FieldEvent(sequence=0, at="", actor="", kind=kind, element_id=tie))
    at = next(i for i, s in enumerate(made.steps) if s.acts == ("opened",))
    assert too_low(plain, made.order, now, made.steps[at : at + 1])[0]
    broken = [b for b in judge(made.order, now, made.steps).steps if b is not None]
    assert broken and broken[0].rule == FIGURES_COVER and "fed otherwise" in en(broken[0].why)
    again = draft_isolation(study, now, demo_network.by_tag["MC1-2B"], "H")
    assert too_low(plain, again.order, now, again.steps if os.environ.get("SOAK") else again.steps[: at + 1])[0] == []
