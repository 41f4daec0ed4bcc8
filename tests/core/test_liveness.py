"""What is alive, against a graph library that core's liveness does not use (networkx), and in named cases."""

import random

import networkx as nx
import pytest

from networks import make, meshed
from spinel.core.network.check import accept
from spinel.core.network.circuit import at_present
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.liveness import DEAD, LIVE, UNKNOWN, around, liveness
from spinel.core.network.now import FieldEvent, fold

FEED = {"source", "battery", "ups"}
MAY = {"generator", "inverter", "shore_connection", "motor", "capacitor", "rectifier"}


def expected(network, positions, still=frozenset()):
    """Node states by connected components of a graph; positions by element id (None: unknown).

    ``still``: motors that are blocked and parts that are discharged.
    """
    index = {n.id: i for i, n in enumerate(network.nodes)}

    def components(with_unknown):
        graph = nx.Graph()
        graph.add_nodes_from(index)
        for e in network.elements:
            position = positions.get(e.id)
            pairs = [(e.ends[0], e.ends[-1])] if len(e.ends) == 2 else []
            if e.kind == "transfer_switch":
                normal, emergency, load = e.ends
                pairs = {"normal": [(normal, load)], "emergency": [(emergency, load)], "off": []}.get(
                    position, [(normal, load), (emergency, load)] if with_unknown else []
                )
            elif e.kind in SWITCHING and not (position == "closed" or (position is None and with_unknown)):
                pairs = []
            graph.add_edges_from(pairs)
        return {index[n]: k for k, part in enumerate(nx.connected_components(graph)) for n in part}

    certain, possible = components(False), components(True)
    live = {certain[index[n]] for e in network.elements if e.kind in FEED for n in e.ends}
    maybe = {possible[index[n]] for e in network.elements if e.kind in FEED | MAY and e.id not in still
             for n in e.ends}  # fmt: skip
    return {
        n: LIVE if certain[i] in live else UNKNOWN if possible[i] in maybe else DEAD for n, i in index.items()
    }  # fmt: skip


@pytest.mark.long
@pytest.mark.parametrize("seed", range(120))
def test_liveness_agrees_with_a_graph_library(seed):
    network = accept(make(seed))
    dice = random.Random(seed)
    events, positions = [], {}
    for i, e in enumerate(network.elements):
        if e.kind in SWITCHING and dice.random() < 0.85:
            choices = ("normal", "emergency", "off") if e.kind == "transfer_switch" else ("open", "closed")
            positions[e.id] = dice.choice(choices)
            events.append(
                FieldEvent(
                    sequence=i, at="t", actor="a", kind="found", element_id=e.id, value=positions[e.id], walked=True
                )
            )
    now = fold(events)
    assert liveness(network, at_present(network, now), now).nodes == expected(network, positions)


@pytest.mark.long
@pytest.mark.parametrize("seed", range(60))
def test_liveness_of_meshed_sites_after_operations(seed):
    """Operated without a check is unknown; blocked motors and discharged parts no longer count; running generators feed."""
    network = accept(meshed(seed))
    dice = random.Random(seed)
    events, positions, still = [], {}, set()
    for i, e in enumerate(network.elements):
        if e.kind in SWITCHING:
            throws = ("normal", "emergency", "off", "automatic")
            found = dice.choice(throws if e.kind == "transfer_switch" else ("open", "closed", "withdrawn"))
            positions[e.id] = None if found == "automatic" else found
            events.append(
                FieldEvent(sequence=i, at="t", actor="a", kind="found", element_id=e.id, value=found, walked=True)
            )
            if e.kind != "transfer_switch" and dice.random() < 0.4:
                act = dice.choice(("opened", "closed", "opened and checked", "closed and checked"))
                events.append(FieldEvent(sequence=i, at="t", actor="a", kind=act.split()[0], element_id=e.id))
                positions[e.id] = {"opened and checked": "open", "closed and checked": "closed"}.get(act)
                if "checked" in act:
                    events.append(FieldEvent(sequence=i, at="t", actor="a", kind="checked", element_id=e.id))
        elif e.kind in ("motor", "capacitor", "rectifier") and dice.random() < 0.6:
            still.add(e.id)
            events.append(
                FieldEvent(
                    sequence=i,
                    at="t",
                    actor="a",
                    kind="blocked" if e.kind == "motor" else "discharged",
                    element_id=e.id,
                )
            )
        elif e.kind == "generator":
            events.append(FieldEvent(sequence=i, at="t", actor="a", kind="stopped", element_id=e.id))
    now = fold(events)
    assert liveness(network, at_present(network, now), now).nodes == expected(network, positions, still)


def walked(network, **changed):
    found = {e.tag: e.normal_position for e in network.elements if e.kind in SWITCHING} | {"G-1": "stopped"}
    found |= {k.replace("_", "-"): v for k, v in changed.items()}
    return [
        FieldEvent(sequence=i, at="t", actor="a", kind="found", element_id=network.by_tag[t].id, value=v, walked=True)
        for i, (t, v) in enumerate(found.items())
    ]


def states(network, events):
    now = fold(events)
    found = liveness(network, at_present(network, now), now)
    return {e.tag: found.elements[e.id] for e in network.elements}


def test_named_cases(demo_network):
    n = demo_network
    normal = states(n, walked(n))
    assert (normal["MC1"], normal["G-1"], normal["52-G"], normal["LP-1"]) == (LIVE, UNKNOWN, UNKNOWN, LIVE)
    assert states(n, walked(n, F_A4="open"))["LP-1"] == DEAD
    # back-feed through a transformer: T1's low side is fed by the tie, so its high side is live with 52-T1 open
    assert states(n, walked(n, **{"52-T1": "open", "52-TIE": "closed"}))["T1"] == LIVE
    # an inverter behind an open feeder may feed
    assert states(n, walked(n, F_A3="open"))["PV-1"] == UNKNOWN
    # a ship may feed its connection
    assert states(n, walked(n, F_B3="open"))["SC-1"] == UNKNOWN
    # a motor that can turn may feed
    assert states(n, walked(n, **{"MC1-2B": "open"}))["P-21"] == UNKNOWN
    # the battery feeds the charger's AC side through the charger
    assert states(n, walked(n, F_B2="open"))["CH-1"] == LIVE
    # a transfer switch in automatic joins both sides: the stand-by side is live from the network
    assert states(n, walked(n, ATS_1="automatic"))["52-G"] == UNKNOWN


def test_an_opened_device_that_nobody_checked_is_of_unknown_position(demo_network):
    opened = [
        *walked(demo_network),
        FieldEvent(sequence=99, at="t", actor="a", kind="opened", element_id=demo_network.by_tag["F-A4"].id),
    ]
    assert states(demo_network, opened)["LP-1"] == UNKNOWN
    checked = [
        *opened,
        FieldEvent(sequence=100, at="t", actor="a", kind="checked", element_id=demo_network.by_tag["F-A4"].id),
    ]
    assert states(demo_network, checked)["LP-1"] == DEAD


def test_what_feeds_and_what_may_feed_are_told_apart(demo_network):
    n = demo_network
    now = fold(walked(n))
    feeding, may = liveness(n, at_present(n, now), now).sources_of(n.by_tag["SWB-B"])
    assert feeding == ("U-1", "BB-1")
    assert {"SC-1", "PV-1", "P-31", "P-21"} <= set(may) and "G-1" not in may


def test_without_any_walk_down_nothing_is_dead(demo_network):
    assert DEAD not in states(demo_network, []).values()


def test_the_island_around_a_device_reaches_through_it_and_through_transformers(demo_network):
    n = demo_network
    now = fold(walked(n, F_A4="open"))
    island = {n.element[i].tag for i in around(n, at_present(n, now), n.by_tag["F-A4"])}
    assert {"LP-1", "SWB-A", "T1", "SWG-1", "MC2", "BB-1"} <= island
