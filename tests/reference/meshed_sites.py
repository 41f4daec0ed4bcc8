"""Random sites with parallel ways, loops and several sources, small enough to be followed by hand-written code."""

from __future__ import annotations

import random
from itertools import pairwise
from typing import Any

V12, V480 = 12_470, 480


def relay(r: random.Random, amps: float) -> dict[str, Any]:
    found: dict[str, Any] = {"type": "relay", "pickup_a": round(amps * r.uniform(0.6, 1.5), 1),
                             "dial": round(r.uniform(0.3, 3), 2), "breaker_s": 0.083}  # fmt: skip
    found |= r.choice([{"curve": "VI"}, {"curve": "EI"}, {"curve": "MI"}, {"curve": "SI", "standard": "iec"},
                       {"curve": "VI", "standard": "iec"}])  # fmt: skip
    if r.random() < 0.3:
        found["instantaneous_a"] = round(amps * r.uniform(6, 25), 1)
    return found


def trip(r: random.Random, amps: float) -> dict[str, Any]:
    found: dict[str, Any] = {"type": "trip", "long_pickup_a": round(amps, 1), "long_delay_s": r.choice([4, 8, 12])}
    if r.random() < 0.7:
        found |= {"short_pickup_a": round(amps * r.uniform(2, 8), 1), "short_delay_s": r.choice([0.1, 0.2, 0.3, 0.4]),
                  "short_i2t": r.random() < 0.4}  # fmt: skip
    if r.random() < 0.5:
        found["instantaneous_a"] = round(amps * r.uniform(9, 14), 1)
    return found


def fuse(r: random.Random, amps: float) -> dict[str, Any]:
    scale = r.uniform(0.7, 1.3)
    points = ((2, 300), (4, 12), (8, 0.9), (15, 0.1), (30, 0.012))
    return {"type": "fuse", "points": [[round(amps * i, 1), round(t * scale, 4)] for i, t in points]}


class Mesh:
    def __init__(self, seed: int):
        self.random = random.Random(seed)
        self.nodes: list[dict[str, Any]] = []
        self.boxes: list[dict[str, Any]] = []
        self.elements: list[dict[str, Any]] = []

    def box(self, volts: float) -> str:
        name, high = f"e{len(self.boxes)}", volts > 1000
        side = 914 if high else 508
        self.boxes.append({"id": name, "name": name, "equipment_class": "switchboard", "height_mm": side,
                           "width_mm": side, "depth_mm": side, "electrode_configuration": "VCB",
                           "gap_mm": 152 if high else 32, "working_distance_mm": 914 if high else 610,
                           "escape_clear": True})  # fmt: skip
        return name

    def node(self, volts: float, box: str | None = None) -> str:
        name = f"n{len(self.nodes)}"
        self.nodes.append(
            {"id": name, "nominal_voltage_v": volts, "current": "ac", "enclosure": box or self.box(volts)}
        )
        return name

    def add(self, kind: str, *ends: str, **more: Any) -> str:
        tag = f"{kind[:2].upper()}{len(self.elements)}"
        self.elements.append({"id": f"x{len(self.elements)}", "tag": tag, "kind": kind, "ends": list(ends), **more})
        return tag

    def device(self, a: str, b: str, amps: float) -> str:
        r, volts = self.random, next(n["nominal_voltage_v"] for n in self.nodes if n["id"] == a)
        curve = relay(r, amps) if volts > 1000 else (fuse if r.random() < 0.2 else trip)(r, amps)
        return self.add("breaker", a, b, normal_position="closed", rated_voltage_v=15_000, interrupting_ka=200,
                        curve=curve)  # fmt: skip

    def cable(self, a: str, b: str, volts: float) -> None:
        ohm = self.random.uniform(0.01, 0.15) if volts > 1000 else self.random.uniform(0.0005, 0.004)
        self.add("cable", a, b, resistance_ohm=round(ohm * 0.6, 6), reactance_ohm=round(ohm, 6))

    def feeder(self, a: str, b: str, volts: float, amps: float) -> None:
        """A device at either end of a cable."""
        near, far = self.node(volts), self.node(volts)
        self.device(a, near, amps)
        self.cable(near, far, volts)
        self.device(far, b, amps)

    def document(self) -> dict[str, Any]:
        r = self.random
        mains = [self.bus(V12) for _ in range(r.randint(1, 3))]
        for i, main in enumerate(mains):
            if i == 0 or r.random() < 0.6:
                supply, common = self.node(V12), main
                self.add("source", supply, fault_mva_max=r.choice([150, 300, 600]), x_r_max=r.choice([6, 12]),
                         fault_mva_min=r.choice([60, 100, 140]), x_r_min=6)  # fmt: skip
                self.device(supply, common, 600)
        for a, b in pairwise(mains):
            self.feeder(a, b, V12, 400)
        if len(mains) > 2 and r.random() < 0.7:
            self.feeder(mains[0], mains[-1], V12, 400)
        boards = []
        for _ in range(r.randint(2, 3)):
            board, low, high = self.bus(V480), self.node(V480), self.node(V12)
            self.device(r.choice(mains), high, 80)
            kva = r.choice([750, 1000, 1500])
            self.add("transformer", high, low, rated_kva=kva, impedance_pct=5.75, x_r=6)
            self.device(low, board, kva * 1.3)
            boards.append(board)
        for a, b in pairwise(boards):
            if r.random() < 0.7:
                self.device(a, b, 1200)
        for board in boards:
            for _ in range(r.randint(1, 3)):
                out, end = self.node(V480), self.node(V480)
                self.device(board, out, 400)
                self.cable(out, end, V480)
                what = r.random()
                if what < 0.25:
                    self.add("inverter", end, rated_kva=200, fault_multiple=1.2, normal_state="running",
                             **({"fault_cease_s": r.choice([0.16, 0.5])} if r.random() < 0.7 else {}))  # fmt: skip
                else:
                    self.add("motor", end, rated_kva=90, xd_subtransient_pu=0.2, x_r=8)
        site = {"name": "Made up", "time_zone": "UTC", "profile": "north-american"}
        tags = [e["tag"] for e in self.elements if e["kind"] == "source"]
        pinned = {t: {"strength": "maximum"} for t in tags}
        return {"format": "spinel-network", "version": 2, "site": site, "nodes": self.nodes, "enclosures": self.boxes,
                "elements": self.elements,
                "cases": [{"id": "c", "name": "one", "sources": pinned, "impedances": "nominal"}]}  # fmt: skip

    def bus(self, volts: float) -> str:
        node = self.node(volts)
        self.add("bus", node)
        return node


def mesh(seed: int) -> dict[str, Any]:
    return Mesh(seed).document()
