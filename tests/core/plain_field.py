"""The field again, replayed from its events on the plain graph: what could feed a place, whose test says what of it.

No code of core/ is used here but the events' own fields. Everything is computed anew after every event, from the JSON
document, by a general-purpose graph library.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from itertools import pairwise
from typing import Any

import networkx as nx
from plain_graph import SUPPLIES, SWITCHES, Site

MOVES = {"opened": "open", "closed": "closed", "withdrawn": "withdrawn", "inserted": "open"}
#: What changes the voltage, and what a test is not trusted through even when it is closed.
VOLTAGE, DOUBTFUL = {"transformer", "inverter", "rectifier", "ups"}, {"fuse", "contactor", "transfer_switch"}


@dataclass
class Proved:
    hold: str
    nodes: set[str]


@dataclass
class PlainField:
    """Positions with whether they were checked, holds on locks, blocks and grounds, and the proofs that still stand."""

    site: Site
    position: dict[str, str | None] = field(default_factory=dict)
    checked: set[str] = field(default_factory=set)
    locks: set[tuple[str, str]] = field(default_factory=set)
    tags: set[tuple[str, str]] = field(default_factory=set)
    blocks: set[tuple[str, str, str]] = field(default_factory=set)
    grounds: set[tuple[str, str]] = field(default_factory=set)
    discharged: set[str] = field(default_factory=set)
    proofs: list[Proved] = field(default_factory=list)
    under_test: dict[str, list[str]] = field(default_factory=dict)

    def joints(self, e: dict[str, Any], position: str | None) -> list[tuple[str, str]]:
        ends = e["ends"]
        if len(ends) == 3 and e["kind"] == "transfer_switch":
            ways = {"normal": [(ends[0], ends[2])], "emergency": [(ends[1], ends[2])], "off": []}
            return ways.get(position or "", [(ends[0], ends[2]), (ends[1], ends[2])])
        if e["kind"] in SWITCHES and position not in (None, "closed"):
            return []
        return [(ends[0], ends[2]), (ends[1], ends[2]), (ends[0], ends[1])] if len(ends) == 3 else list(pairwise(ends))

    def known(self, e: dict[str, Any]) -> str | None:
        """The position that somebody has checked; None where nobody has."""
        return self.position.get(e["id"]) if e["id"] in self.checked else None

    def graph(self, leave_out: set[str] = frozenset(), *, sure: bool = False, every: bool = False) -> nx.Graph:
        """``sure``: what is joined for certain at one voltage. ``every``: all devices closed. Else unknown is closed."""
        g = nx.Graph()
        g.add_nodes_from(self.site.nodes)
        for e in self.site.elements.values():
            if e["id"] in leave_out or (sure and (e["kind"] in VOLTAGE | DOUBTFUL)):
                continue
            known = self.known(e)
            if sure and e["kind"] in SWITCHES and known is None:
                continue
            g.add_edges_from(self.joints(e, None if every else known))
        for box in self.site.boxes.values():
            for i, supply in enumerate(box.get("auxiliary_supplies", [])):
                node = f"aux:{box['id']}:{i}"
                g.add_node(node)
                isolator = self.site.tags.get(supply.get("isolated_by", ""))
                if isolator is None:
                    g.add_edge(node, "outside")
                elif not sure:
                    g.add_edge(node, isolator["ends"][-1])
        return g

    def feeds(self, e: dict[str, Any]) -> bool:
        if e["kind"] in SUPPLIES:
            return True
        if e["kind"] == "motor":
            return not any(i == e["id"] and what == "shaft" for i, what, _ in self.blocks)
        charged = e["kind"] in ("capacitor", "rectifier") or "electrical" in e.get("stored_energy", [])
        return charged and e["id"] not in self.discharged

    def fed(self, g: nx.Graph, node: str, leave_out: set[str] = frozenset()) -> set[str]:
        near = nx.node_connected_component(g, node)
        found = {e["tag"] for e in self.site.elements.values()
                 if e["id"] not in leave_out and set(e["ends"]) & near and self.feeds(e)}  # fmt: skip
        return found | ({"outside"} if "outside" in near else set())

    def cut(self, hold: str) -> set[str]:
        """What cuts for a hold: able, open or withdrawn, checked since, with its lock."""
        return {i for i, e in self.site.elements.items()
                if self.site.able(e) and (i, hold) in self.locks and i in self.checked
                and self.position.get(i) in (("withdrawn",) if e["kind"] == "fuse" else ("open", "withdrawn"))}  # fmt: skip

    def isolated(self, hold: str, node: str) -> bool:
        cut = self.cut(hold)
        return not self.fed(self.graph(cut, every=True), node, cut)

    def happened(self, event: Any) -> None:
        i, moved = event.element_id, event.kind in MOVES
        if moved:
            self.position[i] = event.value or MOVES[event.kind]
            self.checked.discard(i)
        elif event.kind == "checked":
            self.checked.add(i)
        elif event.kind == "found":
            self.position[i] = event.value
            (self.checked.add if event.walked else self.checked.discard)(i)
        elif event.kind == "discharged":
            self.discharged.add(i)
        elif event.kind == "tested":
            self.tested(event)
        else:
            self.hung(event)
        if event.kind in ("closed", "inserted", "found"):
            g = self.graph()
            near = set().union(*(nx.node_connected_component(g, n) for n in self.site.elements[i]["ends"]))
            self.discharged -= {e["id"] for e in self.site.elements.values() if set(e["ends"]) & near}
        if event.kind == "found":
            self.under_test.clear()
        if moved or event.kind == "found":
            self.moved_in(i)
        self.proofs = [p for p in self.proofs if all(self.isolated(p.hold, n) for n in p.nodes)]

    def hung(self, event: Any) -> None:
        """A lock, a tag, a block, a ground comes or goes."""
        i, hold = event.element_id, event.hold
        what = {
            "locked": (self.locks, (i, hold)), "tagged": (self.tags, (i, hold)),
            "blocked": (self.blocks, (i, event.value or "shaft", hold)), "grounded": (self.grounds, (event.node_id, hold)),
        }  # fmt: skip
        place, thing = what.get(event.kind.removeprefix("un"), (set(), None))
        (place.discard if event.kind.startswith("un") else place.add)(thing)

    def moved_in(self, i: str) -> None:
        """Whatever moves, or is found, ends every proof whose region has one of its ends."""
        ends = set(self.site.elements[i]["ends"])

        def touched(hold: str, node: str) -> bool:
            return bool(ends & nx.node_connected_component(self.graph(self.cut(hold), every=True), node))

        self.proofs = [p for p in self.proofs if not any(touched(p.hold, n) for n in p.nodes)]
        for (hold, kind), nodes in [*self.under_test.items()]:
            if any(touched(hold, n) for n in nodes):
                del self.under_test[hold, kind]

    def tested(self, event: Any) -> None:
        if event.value == "instrument_before":
            self.under_test[event.hold, event.instrument] = []
        elif event.value == "proof" and (event.hold, event.instrument) in self.under_test:
            self.under_test[event.hold, event.instrument].append(event.node_id)
        elif event.value == "instrument_after":
            g = self.graph(sure=True)
            for node in self.under_test.pop((event.hold, event.instrument), []):
                self.proofs.append(Proved(event.hold, set(nx.node_connected_component(g, node))))

    def may_be_shown_dead(self, node: str) -> bool:
        """Is there a proof that still stands, and does nothing reach the place that feeds or may feed?"""
        return any(node in p.nodes for p in self.proofs) and not self.fed(self.graph(), node)
