"""The one-line places itself: every element once, and nothing overlaps, on networks that it has never seen."""

import pytest

from networks import make
from spinel.core.network.check import accept
from spinel.core.network.layout import Box, Drawing, layout


def crowded(drawing: Drawing) -> list[str]:
    """Pairs of symbols, chips, plates and captions that overlap, and labels that a conductor runs through."""
    boxes = [(f"symbol {s.element_id}", s.box) for s in drawing.symbols]
    boxes += [(f"{label.kind} {label.element_id}", label.box) for label in drawing.labels]
    found = [f"{a} over {b}" for i, (a, x) in enumerate(boxes) for b, y in boxes[i + 1 :] if x.overlaps(y)]
    for line in drawing.lines:
        for (x1, y1), (x2, y2) in zip(line.points, line.points[1:], strict=False):
            assert x1 == pytest.approx(x2) or y1 == pytest.approx(y2), "conductors are horizontal or vertical"
            run = Box(min(x1, x2), min(y1, y2), max(abs(x2 - x1), 0.1), max(abs(y2 - y1), 0.1))
            found += [f"conductor {line.node} through {name}" for name, box in boxes
                      if not name.startswith("symbol") and run.overlaps(box)]  # fmt: skip
    return found


@pytest.mark.long
@pytest.mark.parametrize("seed", range(200))
def test_a_network_never_seen_is_drawn_whole_and_uncrowded(seed):
    network = accept(make(seed))
    assert 10 <= len(network.elements) <= 50
    drawing = layout(network)
    assert sorted(s.element_id for s in drawing.symbols) == sorted(e.id for e in network.elements)
    assert crowded(drawing) == []
    for box in [*(s.box for s in drawing.symbols), *(label.box for label in drawing.labels)]:
        assert box.x >= 0 and box.y >= 0
        assert box.x + box.w <= drawing.width and box.y + box.h <= drawing.height


@pytest.mark.parametrize("seed", range(0, 60, 3))
def test_a_second_utility_stands_on_top_of_its_own_part(seed):
    doc = make(seed)
    low = [n["id"] for n in doc["nodes"] if n["nominal_voltage_v"] == 480]
    busy = next(n for n in low if sum(n in e["ends"] for e in doc["elements"]) >= 2)
    doc["nodes"].append({"id": "second", "nominal_voltage_v": 480, "current": "ac"})
    doc["elements"] += [
        {"id": "u2", "tag": "U-2", "kind": "source", "ends": ["second"], "fault_mva_max": 20, "x_r_max": 5,
         "fault_mva_min": 10, "x_r_min": 5},
        {"id": "q2", "tag": "Q-2", "kind": "breaker", "ends": ["second", busy], "normal_position": "open",
         "rated_voltage_v": 600},
    ]  # fmt: skip
    drawing = layout(accept(doc))
    assert crowded(drawing) == []
    assert drawing.symbol_of("u2").box.y < drawing.symbol_of("q2").box.y


def test_every_conductor_ends_on_something_of_its_node(demo_network):
    """Each node's lines touch the symbols of the elements that join it: the picture shows the real connections."""
    drawing = layout(demo_network)
    for node_id, elements in demo_network.at_node.items():
        points = [p for line in drawing.lines if line.node == node_id for p in line.points]
        for e in elements:
            box = next(s.box for s in drawing.symbols if s.element_id == e.id)
            grown = Box(box.x - 12, box.y - 12, box.w + 24, box.h + 24)
            near = any(grown.overlaps(Box(x, y, 0.1, 0.1)) for x, y in points)
            assert near, f"{e.tag} is not joined to {node_id} in the drawing"


def test_the_demo_is_uncrowded_and_its_tie_is_straight(demo_network):
    drawing = layout(demo_network)
    bus_and_tie = {"52-TIE", "SWB-A", "SWB-B"}
    assert [c for c in crowded(drawing) if not any(t in c for t in bus_and_tie)] == []
    tie = drawing.symbol_of(demo_network.by_tag["52-TIE"].id)
    assert tie is not None and tie.sideways
    y = {drawing.symbol_of(demo_network.by_tag[t].id).box.y for t in ("SWB-A", "SWB-B")}
    assert len(y) == 1
