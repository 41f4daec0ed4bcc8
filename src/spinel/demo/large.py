"""A synthetic site of any size for benchmarks: invented, but shaped like a real one.

Three utilities at 12.47 kV feed main sections; between neighbouring sections run rings of unit substations, closed
(meshed) or open. Each substation feeds a switchboard at 480 V (some a 4.16 kV board first) with motor control
centers, panels, 208 V panels behind small transformers, motors, solar inverters and transfer switches to stand-by
generators. The same size and seed give the same document. Written by ``spinel network new-large``.
"""

from __future__ import annotations

import random
from typing import Any

from spinel.core.errors import InputError
from spinel.core.tables.conductors import nec_ohm_per_1000_ft
from spinel.demo.site import FEET_PER_M

KV12, KV4, V480, V208 = 12_470, 4_160, 480, 208
_BOX = {
    KV12: ("medium-voltage switchgear", (1143, 762, 762), 152, 914),
    KV4: ("medium-voltage switchgear", (914.4, 914.4, 914.4), 104, 914),
    V480: ("switchboard", (508, 508, 508), 32, 610),
    V208: ("panelboard", (355.6, 304.8, 203.2), 25, 455),
}
LEAST, MOST = 10, 20_000


class LargeSite:
    """Grows a document bus by bus until it has as many as asked."""

    def __init__(self, buses: int, seed: int):
        self.random = random.Random(seed)
        self.wanted = buses
        self.nodes: list[dict[str, Any]] = []
        self.enclosures: list[dict[str, Any]] = []
        self.elements: list[dict[str, Any]] = []
        self.count = {"bus": 0, "other": 0}
        #: enclosures in which the main's line terminals are behind a barrier; main and line node of each
        self.separated: set[str] = set()
        self.mains: dict[str, tuple[str, str]] = {}

    # Parts ------------------------------------------------------------------------------------------------

    def node(self, volts: float, enclosure: str) -> str:
        name = f"n{len(self.nodes)}"
        self.nodes.append({"id": name, "nominal_voltage_v": volts, "current": "ac", "enclosure": enclosure,
                           "grounding": "solid"})  # fmt: skip
        return name

    def box(self, volts: float, separated: bool = False) -> str:
        kind, (height, width, depth), gap, distance = _BOX[int(volts)]
        name = f"e{len(self.enclosures)}"
        self.enclosures.append({
            "id": name, "name": name, "equipment_class": kind, "height_mm": height, "width_mm": width,
            "depth_mm": depth, "electrode_configuration": self.random.choice(("VCB", "VCB", "VCBB", "HCB")),
            "gap_mm": gap, "working_distance_mm": distance, "escape_clear": True,
        })  # fmt: skip
        if separated:
            self.separated.add(name)
        return name

    def add(self, kind: str, prefix: str, *ends: str, **values: Any) -> str:
        i = len(self.elements)
        tag = f"{prefix}{i}"
        self.elements.append({"id": f"x{i}", "tag": tag, "kind": kind, "ends": list(ends), **values})
        return tag

    def bus(self, volts: float, separated: bool = False) -> tuple[str, str]:
        """A bus in its own enclosure; its node and the enclosure."""
        enclosure = self.box(volts, separated)
        node = self.node(volts, enclosure)
        self.add("bus", "B", node, rated_voltage_v=volts * 1.25, short_circuit_ka=65 if volts > 1000 else 100)
        self.count["bus"] += 1
        return node, enclosure

    def breaker(
        self, a: str, b: str, curve: dict[str, Any], volts: float, position: str = "closed", **more: Any
    ) -> str:
        return self.add("breaker", "K", a, b, normal_position=position, rated_voltage_v=15_000 if volts > 1000 else 600,
                        interrupting_ka=63 if volts > 1000 else 100, curve=curve, **more)  # fmt: skip

    def cable(self, a: str, b: str, size: str, per_phase: int, shortest_m: float, longest_m: float) -> None:
        length = round(self.random.uniform(shortest_m, longest_m), 1)
        r, x = nec_ohm_per_1000_ft(size, "copper", "steel")
        ohms = length * FEET_PER_M / 1000 / per_phase
        self.add("cable", "W", a, b, resistance_ohm=round(r * ohms, 8), reactance_ohm=round(x * ohms, 8),
                 ohms_at_c=75, length_m=length)  # fmt: skip

    # Sections ---------------------------------------------------------------------------------------------

    def main(self, strength: float) -> str:
        enclosure = self.box(KV12)
        intake = self.node(KV12, enclosure)
        self.add("source", "U", intake, fault_mva_max=strength, x_r_max=12, fault_mva_min=round(0.6 * strength),
                 x_r_min=9)  # fmt: skip
        node, _ = self.bus(KV12)
        self.breaker(intake, node, _relay(1200, 3), KV12)
        return node

    def ring(self, start: str, end: str, closed: bool, stations: int) -> None:
        """Unit substations on a cable ring between two main sections."""
        here = start
        for _ in range(stations):
            node, enclosure = self.bus(KV12)
            self.loop_cable(here, node, enclosure)
            self.substation(node, enclosure)
            here = node
            if self.full:
                break
        last = self.box(KV12)
        self.loop_cable(here, end, last, "closed" if closed else "open")

    def loop_cable(self, a: str, b: str, enclosure: str, position: str = "closed") -> None:
        far, near = self.node(KV12, enclosure), self.node(KV12, enclosure)
        self.breaker(a, far, _relay(600, 2), KV12)
        self.cable(far, near, "500", 1, 80, 600)
        self.breaker(near, b, _relay(600, 1.5), KV12, position)

    def substation(self, node: str, enclosure: str) -> None:
        if self.random.random() < 0.15:
            node, enclosure = self.stepped(node, enclosure, KV12, KV4, self.random.choice((3750, 5000)), 5.75)
            for _ in range(2):
                self.motor(node, enclosure, KV4, self.random.uniform(400, 900))
        kva = self.random.choice((750, 1000, 1500, 2000))
        volts = KV12 if self.nodes[int(node[1:])]["nominal_voltage_v"] == KV12 else KV4
        board, where = self.stepped(node, enclosure, volts, V480, kva, 5.75)
        for _ in range(self.random.randint(3, 6)):
            if not self.full:
                self.feeder(board, where)

    def stepped(self, node: str, enclosure: str, above: float, below: float, kva: float, z: float) -> tuple[str, str]:
        """Feeder breaker, cable, transformer, cable and main to a new board at a lower voltage."""
        lower = self.box(below, separated=self.random.random() < 0.3)
        out, chamber = self.node(above, enclosure), self.box(above)
        primary, secondary = self.node(above, chamber), self.node(below, self.box(below))
        full_load = kva / (1.732 * above / 1000)
        if above > 1000:
            self.breaker(node, out, _relay(2 * full_load, 0.8, 16 * full_load), above)
            self.cable(out, primary, "4/0", 1, 15, 120)
        else:
            self.breaker(node, out, _trip(1.25 * full_load, 6, instant=12.5 * full_load), above)
            self.cable(out, primary, "2/0", 1, 5, 40)
        self.add("transformer", "T", primary, secondary, rated_kva=kva, impedance_pct=z, x_r=6 if below < 1000 else 12,
                 tolerance_pct=7.5)  # fmt: skip
        board, _ = self.bus_in(below, lower)
        line = self.node(below, lower)
        rating = kva / (1.732 * below / 1000)
        self.cable(secondary, line, "500", max(1, round(rating / 380)), 5, 20)
        tag = self.main_breaker(line, board, below, rating)
        if lower in self.separated:
            self.mains[lower] = tag, line
        return board, lower

    def bus_in(self, volts: float, enclosure: str) -> tuple[str, str]:
        node = self.node(volts, enclosure)
        self.add("bus", "B", node, rated_voltage_v=volts * 1.25, short_circuit_ka=65 if volts > 1000 else 100)
        self.count["bus"] += 1
        return node, enclosure

    def main_breaker(self, line: str, board: str, volts: float, rating: float) -> str:
        if volts > 1000:
            return self.breaker(line, board, _relay(1.5 * rating, 1), volts)
        if volts == V480:
            return self.breaker(line, board, _trip(1.2 * rating, 10, 5 * rating, 0.3), volts,
                                maintenance_curve=_trip(1.2 * rating, 10, instant=5 * rating))  # fmt: skip
        return self.breaker(line, board, _trip(1.2 * rating, 5, instant=8 * rating), volts)

    def rooms(self) -> None:
        """Compartments of the enclosures whose main has its line terminals behind a barrier."""
        inside: dict[str, list[str]] = {}
        for n in self.nodes:
            inside.setdefault(n["enclosure"], []).append(n["id"])
        at: dict[str, set[str]] = {}
        for e in self.elements:
            for n in e["ends"] if e["kind"] in ("breaker", "switch", "transfer_switch") else ():
                at.setdefault(n, set()).add(e["tag"])
        for box in self.enclosures:
            if box["id"] in self.mains:
                tag, line = self.mains[box["id"]]
                others = [n for n in inside[box["id"]] if n != line]
                devices = sorted({t for n in others for t in at.get(n, ())} - {tag})
                box["compartments"] = [
                    {"id": "bus", "name": "Bus and feeders", "nodes": others, "devices": devices},
                    {"id": "line", "name": "Line terminals of the main", "nodes": [line], "devices": [tag]},
                ]  # fmt: skip
                box["barriers"] = [["bus", "line"]]

    def feeder(self, board: str, enclosure: str) -> None:
        """A motor control center, a panel, or an emergency panel behind a transfer switch; with what hangs there."""
        kind = self.random.random()
        out, lower = self.node(V480, enclosure), self.box(V480)
        self.breaker(board, out, _trip(400, 8, 2400, 0.1), V480)
        end = self.node(V480, lower)
        self.cable(out, end, "350", 2, 20, 150)
        if kind < 0.04:
            end = self.transfer(end, lower)
        node, _ = self.bus_in(V480, lower)
        self.add("switch", "S", end, node, normal_position="closed", rated_voltage_v=600, short_circuit_ka=100,
                 isolating=True, lockable=True, load_break=True)  # fmt: skip
        for _ in range(self.random.randint(1, 3)):
            self.motor(node, lower, V480, self.random.uniform(10, 110))
        if kind > 0.96 and not self.full:
            self.solar(node, lower)
        while self.random.random() < 0.55 and not self.full:
            self.stepped(node, lower, V480, V208, self.random.choice((75, 112.5, 150)), 2.5)

    def transfer(self, normal: str, enclosure: str) -> str:
        emergency, load, own = self.node(V480, enclosure), self.node(V480, enclosure), self.box(V480)
        generator = self.node(V480, own)
        self.add("generator", "G", generator, rated_kva=750, xd_subtransient_pu=0.14, xd_transient_pu=0.22, x_r=15,
                 xd_sync_pu=2.0, td_subtransient_s=0.03, td_transient_s=0.8, excitation_support_multiple=3,
                 excitation_support_s=10, normal_state="stopped")  # fmt: skip
        self.breaker(generator, emergency, _trip(900, 6, 2200, 0.15), V480)
        self.add("transfer_switch", "A", normal, emergency, load, normal_position="normal", rated_voltage_v=600,
                 short_circuit_ka=65)  # fmt: skip
        return load

    def solar(self, node: str, enclosure: str) -> None:
        out, own = self.node(V480, enclosure), self.box(V480)
        self.breaker(node, out, _trip(200, 6, instant=1600), V480)
        end = self.node(V480, own)
        self.cable(out, end, "4/0", 1, 20, 90)
        self.add("inverter", "P", end, rated_kva=100, fault_multiple=1.2, fault_cease_s=0.16, normal_state="running")

    def motor(self, node: str, enclosure: str, volts: float, kva: float) -> None:
        full_load = kva / (1.732 * volts / 1000)
        out, end = self.node(volts, enclosure), self.node(volts, self.box(volts))
        self.breaker(node, out, _relay(1.3 * full_load, 1, 11 * full_load) if volts > 1000
                     else _trip(1.25 * full_load, 6, instant=11 * full_load), volts)  # fmt: skip
        self.cable(out, end, "2" if full_load < 110 else "4/0", 1, 10, 80)
        self.add("motor", "M", end, rated_kva=round(kva, 1), xd_subtransient_pu=0.2, x_r=8)

    @property
    def full(self) -> bool:
        return self.count["bus"] >= self.wanted

    def document(self) -> dict[str, Any]:
        mains = [self.main(mva) for mva in (300, 250, 350)]
        ring = 0
        while not self.full:
            first, second = mains[ring % 3], mains[(ring + 1) % 3]
            self.ring(first, second, closed=ring % 3 != 2, stations=self.random.randint(3, 8))
            ring += 1
        tags = [e["tag"] for e in self.elements if e["kind"] == "source"]
        switches = [e["tag"] for e in self.elements if e["kind"] == "transfer_switch"]
        generators = [e["tag"] for e in self.elements if e["kind"] == "generator"]
        mains_with_setting = [e["tag"] for e in self.elements if "maintenance_curve" in e]
        self.rooms()
        cases = [
            {"id": "normal", "name": "normal"},
            {"id": "last-out", "name": "last utility out", "positions": {self._intake(tags[-1]): "open"}},
            {"id": "first-out", "name": "first utility out", "positions": {self._intake(tags[0]): "open"}},
            {"id": "gen", "name": "on generators", "positions": dict.fromkeys(switches, "emergency"),
             "sources": {t: {"state": "running"} for t in generators}},
            {"id": "service", "name": "maintenance settings",
             "settings": dict.fromkeys(mains_with_setting, "maintenance")},
        ]  # fmt: skip
        site = {"name": f"Synthetic site of {self.count['bus']} buses", "time_zone": "UTC", "profile": "north-american"}
        return {"format": "spinel-network", "version": 2, "site": site, "nodes": self.nodes,
                "enclosures": self.enclosures, "elements": self.elements, "cases": cases}  # fmt: skip

    def _intake(self, source_tag: str) -> str:
        node = next(e["ends"][0] for e in self.elements if e["tag"] == source_tag)
        return next(e["tag"] for e in self.elements if e["kind"] == "breaker" and e["ends"][0] == node)


def _relay(pickup: float, dial: float, instant: float | None = None) -> dict[str, Any]:
    curve: dict[str, Any] = {"type": "relay", "curve": "VI", "pickup_a": round(pickup, 1), "dial": dial,
                             "breaker_s": 0.083}  # fmt: skip
    return curve if instant is None else curve | {"instantaneous_a": round(instant, 1)}


def _trip(pickup: float, delay: float, short: float | None = None, short_s: float | None = None,
          instant: float | None = None) -> dict[str, Any]:  # fmt: skip
    curve: dict[str, Any] = {"type": "trip", "long_pickup_a": round(pickup, 1), "long_delay_s": delay}
    if short is not None:
        curve |= {"short_pickup_a": round(short, 1), "short_delay_s": short_s}
    return curve if instant is None else curve | {"instantaneous_a": round(instant, 1)}


def large_document(buses: int, seed: int) -> dict[str, Any]:
    """A document with about ``buses`` buses (10 to 20,000; exact to a few), the same for the same seed."""
    if isinstance(buses, bool) or not isinstance(buses, int) or not LEAST <= buses <= MOST:
        raise InputError("buses", buses, f"a whole number from {LEAST} to {MOST:,}")
    return LargeSite(buses, seed).document()
