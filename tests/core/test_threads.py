"""A server asks one study from several threads at once: the figures are those of one thread, every time."""

import os
import random
import sys
import threading

import pytest

from spinel.core.hazard import Study
from spinel.core.network.circuit import at_present
from spinel.core.network.document import Network
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.now import DeviceNow
from spinel.core.profile import NORTH_AMERICAN


def present(network: Network, opened: str):
    now = {e.id: DeviceNow(position=e.normal_position, checked=True) for e in network.elements if e.kind in SWITCHING}
    now[network.by_tag[opened].id] = DeviceNow(position="open", checked=True)
    return at_present(network, now)


@pytest.mark.long
@pytest.mark.parametrize("seed", range(1, 9 if os.environ.get("SOAK") else 2))
def test_threads_that_ask_one_study_get_what_one_thread_gets(demo_network, seed):
    """Two states of the field share the document's figures; six threads ask both, in orders of their own."""
    document = Study(demo_network, NORTH_AMERICAN, None, 40.0)
    circuits = [present(demo_network, tag) for tag in ("F-A4", "F-B1")]
    alone = Study(demo_network, NORTH_AMERICAN, None, 40.0)
    single = [Study(demo_network, NORTH_AMERICAN, c, 40.0, alone) for c in circuits]
    elements = [e.id for e in demo_network.elements][:: 1 if os.environ.get("SOAK") else 20]
    expected = [{i: s.hazard(i).energy_cal_cm2 for i in elements} for s in single]
    wrong: list[object] = []

    def ask(n: int) -> None:
        dice = random.Random(100 * seed + n)
        try:
            for k in dice.sample((0, 1), 2):
                study = Study(demo_network, NORTH_AMERICAN, circuits[k], 40.0, document)
                for i in dice.sample(elements, len(elements)):
                    # to what the search between strengths leaves open, which depends on what was asked before
                    found, known = study.hazard(i).energy_cal_cm2, expected[k][i]
                    if (found is None) != (known is None) or (known and found != pytest.approx(known, rel=1e-6)):
                        wrong.append((k, i, found, known))
                    study.bolted_ka(demo_network.element[i].ends[-1])
        except Exception as error:
            wrong.append(repr(error))

    before = sys.getswitchinterval()
    sys.setswitchinterval(1e-5)
    try:
        threads = [threading.Thread(target=ask, args=(n,)) for n in range(6)]
        for t in threads:
            t.start()
        for t in threads:
            t.join()
    finally:
        sys.setswitchinterval(before)
    assert wrong == []
