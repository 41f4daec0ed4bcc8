"""Every way by which a place could be live, and what cuts them, against a graph library that knows nothing of Spinel."""

import itertools

import networkx as nx
import pytest

from spinel.core.isolation.points import target_of
from spinel.core.network.check import accept
from spinel.core.network.circuit import at_present
from spinel.core.network.cut import can_isolate
from spinel.core.network.field import Field, fold_field
from spinel.core.network.folding import foldable, folded
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.now import FieldEvent
from spinel.core.network.sources_of import sources_of
from spinel.demo.large import large_document
from spinel.demo.site import document


def seen(network, **positions):
    """Everything found as in normal service, but what is named."""
    events = []
    for i, e in enumerate(network.elements):
        value = positions.get(e.tag.replace("-", "_").lower(), e.normal_position if e.kind in SWITCHING else "")
        if value:
            events.append(
                FieldEvent(sequence=i, at="", actor="", kind="found", element_id=e.id, value=value, walked=True)
            )
    return fold_field(network, events, Field())


def asked(network, tag, field=None):
    element = network.by_tag[tag]
    field = field or Field()
    target = target_of(network, element)
    return sources_of(
        network, at_present(network, field.devices), field, element, target.nodes, target.supplies, {}
    ), target


def plain(network, without=()):
    """Nodes and elements; whatever its position, everything joins."""
    graph = nx.Graph()
    for e in network.elements:
        if e.id in without:
            continue
        for a, b in e.pairs:
            graph.add_edge(a, ("e", e.id, a, b))
            graph.add_edge(("e", e.id, a, b), b)
        for n in e.ends:
            graph.add_node(n)
    return graph


def reached(network, target, without=()):
    graph = plain(network, without)
    starts = [n for n in (*target.nodes, *(s.isolator.ends[-1] for s in target.supplies if s.isolator)) if n in graph]
    return set().union(*(nx.node_connected_component(graph, n) for n in starts))


SITES = {"demo": document(), **{f"large {s}": large_document(12, s) for s in range(4)}}


@pytest.mark.parametrize("name", SITES)
def test_no_supply_is_left_out_and_every_way_is_one(name):
    network = accept(SITES[name])
    for e in network.elements:
        if e.kind not in ("bus", "motor") or e.tag.startswith("DC"):
            continue
        found, target = asked(network, e.tag)
        there = reached(network, target)
        could = {s.tag for s in network.may_supply if any(n in there for n in s.ends) and s.id != e.id}
        drawn = {w.source.tag for w in found.ways}
        assert drawn <= could | {e.tag}
        if not found.more:
            assert could <= drawn, (e.tag, could - drawn)
        for way in found.ways:
            # each next piece shares a node with the one before; the last one comes to the target
            chain = [way.source, *way.through]
            assert all(set(a.ends) & set(b.ends) for a, b in itertools.pairwise(chain)), (e.tag, way)
            ends = {*target.nodes, *(s.isolator.ends[-1] for s in target.supplies if s.isolator)}
            assert set(chain[-1].ends) & ends


@pytest.mark.parametrize("name", SITES)
def test_what_is_said_to_cut_cuts(name):
    network = accept(SITES[name])
    for e in [e for e in network.elements if e.kind == "bus"]:
        found, target = asked(network, e.tag)
        inside = {s.id for s in found.inside}
        feeding = {n for s in network.may_supply if s.id not in inside and s.id != e.id
                   for n in (s.ends[-1:] if s.row.converts and s.row.supplies else s.ends)}  # fmt: skip
        for single in found.singles:
            assert not reached(network, target, {single.id}) & feeding, (e.tag, single.tag)
        if found.smallest:
            ids = {d.id for d in found.smallest.devices}
            assert all(can_isolate(d) for d in found.smallest.devices)
            assert not reached(network, target, ids) & feeding, e.tag
            # none of them is there for nothing
            for one in ids:
                assert reached(network, target, ids - {one}) & feeding, (e.tag, one)
            if found.singles:
                assert len(ids) == 1


def test_a_state_of_a_way_follows_the_record():
    network = accept(document())
    closed, _ = asked(network, "MC1", seen(network))
    assert {w.source.tag for w in closed.ways if w.state == "live"} >= {"U-1"}
    opened, _ = asked(network, "MC1", seen(network, f_a1="open"))
    assert all(w.at for w in opened.ways if w.state == "open")
    by_main_a = next(w for w in opened.ways if w.source.tag == "U-1" and "52-A" in [e.tag for e in w.through])
    assert (by_main_a.state, by_main_a.at) == ("open", "F-A1")
    assert not any(w.state == "live" for w in opened.ways)
    # nobody has looked: whatever it was, it counts as closed
    unknown, _ = asked(network, "MC1")
    assert not any(w.state == "open" for w in unknown.ways)
    assert next(w for w in unknown.ways if w.source.tag == "U-1").state == "may"


def test_what_is_live_never_hides_behind_shorter_ways_that_are_open():
    data = document()
    feeder = next(e for e in data["elements"] if e["tag"] == "F-A1")
    board, control_center = feeder["ends"][0], next(e for e in data["elements"] if e["tag"] == "W-A1")["ends"][1]
    for i in range(6):
        data["elements"].append(
            {
                **feeder,
                "id": f"{feeder['id']}-{i}",
                "tag": f"TIE-{i}",
                "ends": [board, control_center],
                "normal_position": "open",
            }
        )
    network = accept(data)
    found, _ = asked(network, "MC1", seen(network))
    utility = [w for w in found.ways if w.source.tag == "U-1"]
    assert utility[0].state == "live"
    assert "F-A1" in [e.tag for e in utility[0].through]
    assert found.more
    # of each supply there is a way, however many the others have
    assert {w.source.tag for w in found.ways} == {w.source.tag for w in asked(network, "MC1")[0].ways}


def test_a_control_supply_from_elsewhere_is_a_way_like_any_other():
    network = accept(document())
    found, _ = asked(network, "SWG-1", seen(network))
    assert any("EDP-9" in [e.tag for e in w.through] for w in found.ways)
    assert "EDP-9" in [e.tag for e in found.smallest.devices]


class TestFolds:
    @pytest.mark.parametrize("name", SITES)
    def test_what_is_folded_hangs_only_there(self, name):
        network = accept(SITES[name])
        for board in foldable(network):
            found = folded(network, {board.id})
            graph = plain(network, {board.id})
            graph.remove_node(board.ends[0])
            fed = set()
            for s in network.elements:
                if s.kind == "source" and s.ends[0] in graph:
                    fed |= nx.node_connected_component(graph, s.ends[0])
            for hidden in found.hidden:
                assert not set(network.element[hidden].ends) & fed, (board.tag, network.element[hidden].tag)
            assert {e.id for e in found.network.elements} | set(found.hidden) == set(network.element)

    def test_one_inside_another_goes_with_it(self):
        network = accept(document())
        ids = {network.by_tag[t].id for t in ("SWB-A", "MC1", "MC2")}
        found = folded(network, ids)
        assert {network.element[i].tag for i in found.teeth} == {"SWB-A", "MC2"}
