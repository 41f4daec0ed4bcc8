"""The network again as a plain graph, built from the JSON document alone: no code of core/ is used here.

``Site.fed`` and ``Site.cut_possible`` answer by breadth-first search and by trying sets of devices; auxiliary supplies
are one-way edges into the enclosure.
"""

from __future__ import annotations

from itertools import combinations, pairwise
from typing import Any

import networkx as nx

SUPPLIES = {"source", "generator", "battery", "ups", "inverter", "shore_connection"}
SWITCHES = {"breaker", "switch", "disconnector", "fuse", "contactor", "transfer_switch"}


class Site:
    def __init__(self, document: dict[str, Any]):
        self.elements = {e["id"]: e for e in document["elements"]}
        self.nodes = {n["id"]: n for n in document["nodes"]}
        self.boxes = {b["id"]: b for b in document["enclosures"]}
        self.tags = {e["tag"]: e for e in document["elements"]}

    def able(self, e: dict[str, Any]) -> bool:
        kinds = ("breaker", "switch", "disconnector", "fuse")
        can = e["kind"] in kinds and e.get("isolating") and e.get("lockable")
        return bool(can and (e["kind"] != "fuse" or e.get("withdrawable")))

    def target(self, element_id: str) -> list[str]:
        e = self.elements[element_id]
        boxes = {self.nodes[n].get("enclosure") for n in e["ends"]} - {None}
        nodes = [n for n in self.nodes if n in e["ends"] or self.nodes[n].get("enclosure") in boxes]
        for box in boxes:
            nodes += [f"aux:{box}:{i}" for i, _ in enumerate(self.boxes[box].get("auxiliary_supplies", []))]
        return nodes

    def graph(self, cut: set[str]) -> nx.DiGraph:
        """Current may flow along an edge; every element conducts both ways except what is cut."""
        g = nx.DiGraph()
        g.add_nodes_from(self.nodes)
        for e in self.elements.values():
            if e["id"] in cut:
                continue
            ends = e["ends"]
            pairs = [(ends[0], ends[2]), (ends[1], ends[2])] if len(ends) == 3 else list(pairwise(ends))
            g.add_edges_from(pairs + [(b, a) for a, b in pairs])
        for box in self.boxes.values():
            for i, supply in enumerate(box.get("auxiliary_supplies", [])):
                node = f"aux:{box['id']}:{i}"
                g.add_node(node)
                if supply.get("isolated_by"):
                    g.add_edge(self.tags[supply["isolated_by"]]["ends"][-1], node)  # one way: into the enclosure
                else:
                    g.add_edge("outside", node)
        return g

    def reached_from(self, g: nx.DiGraph, nodes: list[str]) -> set[str]:
        """Every node from which a current could come to these nodes."""
        found = set(nodes)
        for n in nodes:
            found |= nx.ancestors(g, n)
        return found

    def fed(self, nodes: list[str], cut: set[str]) -> set[str]:
        """Tags of supplies from which a way leads to the nodes; "outside" for a supply that nothing isolates."""
        near = self.reached_from(self.graph(cut), nodes)
        found = {e["tag"] for e in self.elements.values() if e["kind"] in SUPPLIES and set(e["ends"]) & near}
        return found | ({"outside"} if "outside" in near else set())

    def could_turn_or_hold(self, nodes: list[str], cut: set[str]) -> set[str]:
        """Ids of motors, capacitors and rectifiers that are joined to the nodes."""
        near = self.reached_from(self.graph(cut), nodes)
        return {e["id"] for e in self.elements.values() if set(e["ends"]) & near and e["id"] not in cut
                and (e["kind"] in ("motor", "capacitor", "rectifier") or "electrical" in e.get("stored_energy", []))}  # fmt: skip

    def cut_possible(self, nodes: list[str], source: str, devices: set[str], every_set: bool) -> bool:
        """Does some set of the devices, opened, part the source from the nodes?

        Opening more never joins more, so all of them at once decide; ``every_set`` tries each set all the same.
        """
        joined = self.reached_from(self.graph(set()), nodes)
        near = [d for d in devices if set(self.elements[d]["ends"]) & joined]
        if source not in self.fed(nodes, set(near)):
            return True
        sizes = range(len(near) + 1) if every_set and len(near) < 9 else ()
        return any(source not in self.fed(nodes, set(c)) for k in sizes for c in combinations(near, k))

    def standing(self, positions: dict[str, str | None], without: str | None = None) -> nx.Graph:
        """As it stands: positions by id, None counts as closed."""
        g = nx.Graph()
        g.add_nodes_from(self.nodes)
        for e in self.elements.values():
            if e["id"] == without:
                continue
            ends, position = e["ends"], positions.get(e["id"])
            if len(ends) == 3:
                pairs = {"normal": [(ends[0], ends[2])], "emergency": [(ends[1], ends[2])], "off": []}.get(
                    position or "", [(ends[0], ends[2]), (ends[1], ends[2])]
                )
            elif e["kind"] in SWITCHES and position not in (None, "closed"):
                pairs = []
            else:
                pairs = list(pairwise(ends))
            g.add_edges_from(pairs)
        return g

    def sides(self, positions: dict[str, str | None], element_id: str) -> list[tuple[bool, bool]]:
        """For both ends of a two-ended device: is a supply there, is anything there that takes current?"""
        g = self.standing(positions, without=element_id)
        takes = SUPPLIES | {"load", "motor", "transformer", "capacitor", "rectifier"}
        found = []
        for end in (self.elements[element_id]["ends"][0], self.elements[element_id]["ends"][-1]):
            near = nx.node_connected_component(g, end)
            kinds = {e["kind"] for e in self.elements.values() if e["id"] != element_id and set(e["ends"]) & near}
            found.append((bool(kinds & SUPPLIES), bool(kinds & takes)))
        return found

    def carries_load(self, positions: dict[str, str | None], element_id: str) -> bool:
        (a_fed, a_takes), (b_fed, b_takes) = self.sides(positions, element_id)
        return (a_fed and b_takes) or (b_fed and a_takes)

    def energizes(self, positions: dict[str, str | None], element_id: str, nodes: list[str]) -> bool:
        g = self.standing(positions, without=element_id)
        ends = self.elements[element_id]["ends"]
        (a_fed, _), (b_fed, _) = self.sides(positions, element_id)
        dead = ends[-1] if a_fed and not b_fed else ends[0] if b_fed and not a_fed else None
        return dead is not None and bool(nx.node_connected_component(g, dead) & set(nodes))
