"""What can hurt somebody in a list of switching steps: a small machine of its own, no code of core/ in it.

It plays steps on a plain graph and says what is dangerous. It is told positions, kinds and acts as they are read out.
"""

from __future__ import annotations

from typing import Any

import networkx as nx
from plain_graph import Site

NEVER_SURE = {"fuse", "contactor", "transfer_switch"}
PARTS = {"transformer", "rectifier", "inverter", "ups"}
MACHINES = {"motor", "generator"}


class Played:
    def __init__(
        self, site: Site, positions: dict[str, str | None], target: list[str], words: dict[str, tuple],
        too_hot: set[str] | None = None,
    ):  # fmt: skip
        self.site, self.positions, self.target, self.words = site, dict(positions), target, words
        #: where nobody may stand before it is proved dead
        self.too_hot = too_hot or set()
        self.began = dict(positions)
        self.checked = {i for i, p in positions.items() if p is not None}
        self.locked: set[str] = set()
        self.tagged: set[str] = set()
        self.grounds: set[str] = set()
        self.still: set[str] = set()
        self.let_go: set[tuple[str, str]] = set()
        self.tried: set[str] = set()
        self.stopped: set[str] = set()
        self.read: set[str] = set()
        self.under_test: dict[str, list[str]] = {}
        self.proved: list[str] = []
        self.told = self.up = self.opened = self.shut = self.looked = self.told_live = self.down = False
        self.handed = False
        self.found: list[str] = []

    def element(self, step: Any) -> dict[str, Any]:
        return self.site.elements[step.element_id]

    def danger(self, what: str, when: object) -> None:
        if when:
            self.found.append(what)

    def cut(self) -> set[str]:
        """What cuts: able, open as it must be, seen, locked."""

        def holds(i: str) -> bool:
            e = self.site.elements[i]
            wanted = ("withdrawn",) if e["kind"] == "fuse" else ("open", "withdrawn")
            return self.site.able(e) and i in self.checked and self.positions.get(i) in wanted

        return {i for i in self.locked if holds(i)}

    def isolated(self) -> bool:
        return not self.site.fed(self.target, self.cut())

    def charged_or_turning(self) -> set[str]:
        return self.site.could_turn_or_hold(self.target, self.cut()) - self.still

    def one_place(self, node: str) -> set[str]:
        """Nodes surely joined to one, at its voltage."""
        g = nx.Graph()
        g.add_nodes_from(self.site.nodes)
        g.add_node(node)
        for e in self.site.elements.values():
            i, kind = e["id"], e["kind"]
            sure = i in self.checked and self.positions.get(i) == "closed" and kind not in NEVER_SURE
            switches = kind in {"breaker", "switch", "disconnector", *NEVER_SURE}
            if kind not in PARTS and (sure or not switches):
                g.add_edges_from(zip(e["ends"], e["ends"][1:], strict=False))
        return nx.node_connected_component(g, node)

    def places_proved(self) -> set[str]:
        return {n for point in self.proved for n in self.one_place(point)}

    def volts(self, node: str) -> tuple[float, str]:
        if node.startswith("aux:"):
            box, _, i = node[4:].rpartition(":")
            supply = self.site.boxes[box]["auxiliary_supplies"][int(i)]
            return supply["voltage_v"], supply["current"]
        return self.site.nodes[node]["nominal_voltage_v"], self.site.nodes[node]["current"]

    def ends_proofs(self, element_id: str) -> None:
        g = self.site.graph(self.cut())
        ends = set(self.site.elements[element_id]["ends"])
        feeds = {f"aux:{b}:{i}" for b, box in self.site.boxes.items()
                 for i, s in enumerate(box.get("auxiliary_supplies", []))
                 if s.get("isolated_by") == self.site.elements[element_id]["tag"]}  # fmt: skip
        self.proved = [p for p in self.proved if p not in feeds and not ends & self.site.reached_from(g, [p])]

    def play(self, step: Any) -> None:
        said = (step.location, step.equipment_type, step.identity)
        self.danger("says one thing and means another", self.words.get(step.element_id) != said)
        self.danger("nobody was told", step.kind not in ("notify", "check") and not self.told)
        getattr(self, f"_{step.kind}")(step)

    def _notify(self, step: Any) -> None:
        if step.value == "live":
            self.told_live = True
        else:
            self.told = True

    def _operate(self, step: Any) -> None:
        e, act = self.element(step), step.acts[0]
        i, was = e["id"], self.positions.get(e["id"])
        if act in ("started", "stopped"):
            if act == "stopped":
                self.stopped.add(i)
            return
        self.danger("moved under a lock or tag", i in self.locked | self.tagged)
        self.danger("remote where it is not", step.remote and not e.get("remote"))
        if act in ("withdrawn", "inserted"):
            wanted = "open" if act == "withdrawn" else "withdrawn"
            self.danger("racked while closed or unseen", was != wanted or i not in self.checked)
        known = {k: (p if k in self.checked else None) for k, p in self.positions.items()}
        if act == "opened":
            self.danger("opened under load", not e.get("load_break") and self.site.carries_load(known, i))
        if act == "closed":
            self.danger("closed under load", not e.get("load_break") and self.site.carries_load(known, i))
            self.danger("weak onto people", not e.get("fault_make") and self.site.energizes(known, i, self.target))
            g = self.site.standing(known, without=i)
            near = {n for end in e["ends"] for n in nx.node_connected_component(g, end)}
            self.danger("closed onto a ground", near & self.grounds)
            self.danger("closed what was not opened here", self.began.get(i) == "closed" == was)
        self.ends_proofs(i)
        self.checked.discard(i)
        self.positions[i] = {"opened": step.value or "open", "closed": step.value or "closed",
                             "withdrawn": "withdrawn", "inserted": "open"}[act]  # fmt: skip

    def _check(self, step: Any) -> None:
        self.checked.add(step.element_id)

    def _lock(self, step: Any) -> None:
        i, e = step.element_id, self.element(step)
        if e["kind"] == "ground_switch":
            self._lock_on_ground(step, i, e)
            return
        if {"locked", "tagged"} & set(step.acts):
            wanted = ("withdrawn",) if e["kind"] == "fuse" else ("open", "withdrawn")
            bad = not self.site.able(e) or i not in self.checked or self.positions.get(i) not in wanted
            self.danger("a lock on what does not hold", bad)
            self.locked |= {i} if "locked" in step.acts else set()
            self.tagged |= {i} if "tagged" in step.acts else set()
            return
        self.danger("a lock off over a ground", self.grounds)
        self.danger("a lock off over a block", {k for k in self.still if self.site.elements[k]["kind"] == "motor"})
        self.danger("a lock off before it is closed", not self.shut)
        self.danger("a lock that is not there", i not in self.locked)
        self.locked -= {i} if "unlocked" in step.acts else set()
        self.tagged -= {i} if "untagged" in step.acts else set()

    def _lock_on_ground(self, step: Any, i: str, e: dict[str, Any]) -> None:
        """Locked closed and seen so; unlocked before it is opened."""
        on = {"locked", "tagged"} & set(step.acts)
        self.danger(
            "a lock on what does not ground", on and (i not in self.checked or not set(e["ends"]) & self.grounds)
        )
        self.danger("a lock that is not there", not on and i not in self.locked)
        self.locked = self.locked | {i} if "locked" in step.acts else self.locked - {i}
        self.tagged = self.tagged | {i} if "tagged" in step.acts else self.tagged - {i}

    def _block(self, step: Any) -> None:
        e, what = self.element(step), step.value or "shaft"
        if "unblocked" in step.acts:
            self.still.discard(e["id"])
            return
        self.danger("held before it is cut off", not self.isolated())
        hot = e["id"] in self.too_hot and not set(e["ends"]) <= self.places_proved()
        self.danger("at what is too hot before it is proved", hot and what == "spring")
        if what == "shaft":
            self.danger("blocked while it turns", e["id"] not in self.stopped)
            self.still.add(e["id"])
        else:
            closed = e["kind"] in {"breaker", "switch", "disconnector"} and (
                e["id"] not in self.checked or self.positions.get(e["id"]) == "closed"
            )
            self.danger("a spring let go while closed", what == "spring" and closed)
            self.let_go.add((e["id"], what))

    def _try(self, step: Any) -> None:
        self.tried.add(step.element_id)

    def _discharge(self, step: Any) -> None:
        self.danger("bled before it was read", step.element_id not in self.read)
        self.danger("inside before it is opened", not self.opened)
        self.danger("bled while fed", not self.isolated())
        self.still.add(step.element_id)

    def _test(self, step: Any) -> None:
        if step.value == "instrument_before":
            self.under_test[step.instrument] = []
            return
        if step.value == "instrument_after":
            self.danger("proved again without before", step.instrument not in self.under_test)
            self.proved += self.under_test.pop(step.instrument, [])
            return
        self.danger("inside before it is opened", not self.opened and not step.stick)
        self.danger("read by what was not proved", step.instrument not in self.under_test)
        self.danger("tested while fed", not self.isolated())
        if step.value == "residual":
            self.read.add(step.element_id)
            return
        volts, _ = self.volts(step.node_id)
        self.danger("the wrong instrument", (step.instrument == "detector") != (volts > 1000))
        self.danger("a pair left out", len(step.pairs) < self.pairs_of(step.node_id))
        self.danger("tested before charge and shafts are safe", self.charged_or_turning())
        later = {(i, what) for i, what in self.stored() if what == "spring" and i in self.too_hot}
        self.danger("what can fall, spring or burst is not held", self.stored() - later - self.let_go)
        self.danger("a tag is missing", not self.cut() <= self.tagged)
        machines = {i for i in self.site.could_turn_or_hold(self.target, self.cut())
                    if self.site.elements[i]["kind"] in MACHINES}  # fmt: skip
        self.danger("nobody tried to start it", machines - self.tried)
        self.under_test.setdefault(step.instrument, []).append(step.node_id)

    def stored(self) -> set[tuple[str, str]]:
        """Mechanical energy in what is cut off; in a switching device only where it is opened itself."""
        near = self.site.reached_from(self.site.graph(self.cut()), self.target)
        switches = {"breaker", "switch", "disconnector", *NEVER_SURE}
        return {
            (e["id"], what) for e in self.site.elements.values() for what in e.get("stored_energy", [])
            if what != "electrical" and set(e["ends"]) <= near
            and (e["kind"] not in switches or set(e["ends"]) & set(self.target))
        }  # fmt: skip

    def pairs_of(self, node: str) -> int:
        """Common practice: phases to each other and to ground; each neutral; both kinds of current at a converter."""
        if node.startswith("aux:"):
            return 3
        place = [self.site.nodes[n] for n in self.one_place(node)]
        at = {e["kind"] for e in self.site.elements.values() if set(e["ends"]) & {n["id"] for n in place}}
        most = max(place, key=lambda n: (n.get("phases", 3), bool(n.get("neutral"))))
        high, dc = most["nominal_voltage_v"] > 1000, most["current"] == "dc"
        three = most.get("phases", 3) == 3
        base = 3 if dc or not three else 10 if any(n.get("neutral") for n in place) else 6
        base = (2 if dc else 3 if three else 1) if high else base
        return base * (2 if at & {"rectifier", "inverter", "ups"} else 1)

    def _ground(self, step: Any) -> None:
        if self.element(step)["kind"] == "ground_switch":
            self.checked.discard(step.element_id)
        if "ungrounded" in step.acts:
            self.danger("a ground opened under a lock", step.element_id in self.locked | self.tagged)
            self.grounds.discard(step.node_id)
            self.proved = [p for p in self.proved if step.node_id not in self.one_place(p)]
            return
        self.danger("inside before it is opened", not self.opened)
        self.danger("grounded unproved", step.node_id not in self.places_proved())
        self.grounds.add(step.node_id)

    def _inspect(self, step: Any) -> None:
        self.looked = True

    def _barricade(self, step: Any) -> None:
        self.up, self.down = step.value == "up", self.down or step.value == "down"

    def _access(self, step: Any) -> None:
        if step.value == "opened":
            self.danger("opened before all is locked", not self.isolated())
            self.danger("opened with others near", not self.up)
            self.opened = True
        else:
            self.shut = not self.grounds

    def _handover(self, step: Any) -> None:
        self.handed = True
        proved = self.places_proved()
        self.danger("handed over fed", not self.isolated())
        switches = [e for e in self.site.elements.values() if e["kind"] == "ground_switch"]
        loose = [e for e in switches if set(e["ends"]) & self.grounds and e["id"] not in self.locked & self.checked]
        self.danger("handed over on a ground switch that nobody locked", loose)
        self.danger("handed over with a spring", self.stored() - self.let_go)
        self.danger("handed over unproved", [n for n in self.target if n not in proved])
        g = self.site.graph(self.cut())
        near = self.site.reached_from(g, self.target)
        keeps = any(set(e["ends"]) & near and (e["kind"] == "capacitor" or e.get("induced_voltage")
                    or "electrical" in e.get("stored_energy", [])) for e in self.site.elements.values())  # fmt: skip
        for n in self.target:
            wants = not n.startswith("aux:") and (self.volts(n)[0] > 1000 or keeps)
            self.danger("handed over ungrounded", wants and not self.one_place(n) & self.grounds)


def isolating(played: Played, steps: list[Any]) -> list[str]:
    """Dangers of an isolation, from its first step to its handover."""
    for step in steps:
        played.play(step)
    moved = {s.element_id for s in steps if s.kind == "operate" and s.acts[0] not in ("started", "stopped")}
    played.danger("moved and never looked at", moved - played.checked)
    played.danger("nobody takes it over", not played.handed)
    return played.found


def restoring(played: Played, steps: list[Any]) -> list[str]:
    """Dangers of a restoration. ``played``: the isolation before it, its dangers cleared."""
    opened = {i for i, p in played.positions.items() if p != played.began.get(i)}
    played.told = False
    for step in steps:
        if step.kind == "operate" and step.acts[0] == "closed" and not played.looked:
            played.danger("closed before anybody looked", True)
        played.play(step)
    left = {i for i in opened if played.positions.get(i) != played.began.get(i)}
    played.danger("left open", left)
    played.danger("left locked", played.locked | played.tagged)
    played.danger("left grounded", played.grounds)
    played.danger("left blocked", {k for k in played.still if played.site.elements[k]["kind"] == "motor"})
    played.danger("moved and never looked at", {s.element_id for s in steps if s.kind == "operate"} - played.checked)
    played.danger("nobody is told that it is live", not played.told_live)
    played.danger("the barricade is left", not played.down)
    return played.found
