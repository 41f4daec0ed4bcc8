"""Random networks that nobody drew by hand: trees with at most one tie and one transfer switch, 10 to 40 elements."""

from __future__ import annotations

import random
from typing import Any

LEAVES = ("motor", "load", "inverter", "shore_connection", "capacitor", "battery_branch")


class Maker:
    def __init__(self, seed: int):
        self.random = random.Random(seed)
        self.nodes: list[dict[str, Any]] = []
        self.elements: list[dict[str, Any]] = []
        self.buses: list[tuple[str, float]] = []

    def node(self, volts: float, current: str = "ac") -> str:
        name = f"n{len(self.nodes)}"
        self.nodes.append({"id": name, "nominal_voltage_v": volts, "current": current})
        return name

    def add(self, kind: str, *ends: str, **more: Any) -> None:
        i = len(self.elements)
        tag = f"{kind[:2].upper()}-{'X' * self.random.randint(0, 8)}{i}"
        name = " ".join(
            self.random.choice(["Pump", "long", "ventilation", "gate", "P-9"]) for _ in range(self.random.randint(0, 6))
        )
        self.elements.append(
            {"id": f"e{i}", "tag": tag, "kind": kind, "ends": list(ends), "name": name, "location": "Room", **more}
        )  # fmt: skip

    def device(self, a: str, b: str) -> None:
        kind = self.random.choice(["breaker", "breaker", "switch", "fuse", "disconnector", "contactor"])
        self.add(kind, a, b, normal_position="closed", rated_voltage_v=15_000, interrupting_ka=65)

    def cable(self, a: str, b: str) -> None:
        self.add("cable", a, b, resistance_ohm=0.01, reactance_ohm=0.01)

    def chain(self, start: str, volts: float) -> str:
        """A device and perhaps a cable and a transformer; returns the lower node and keeps its voltage."""
        lower = self.node(volts)
        self.device(start, lower)
        if self.random.random() < 0.6:
            further = self.node(volts)
            self.cable(lower, further)
            lower = further
        return lower

    def leaf(self, start: str, volts: float) -> None:
        end = self.chain(start, volts)
        kind = self.random.choice(LEAVES)
        if kind == "motor":
            self.add("motor", end, rated_kva=50, xd_subtransient_pu=0.2, x_r=8)
        elif kind in ("inverter", "shore_connection"):
            self.add(kind, end, rated_kva=50, fault_multiple=1.2, normal_state="running")
        elif kind == "battery_branch":
            dc = self.node(400, "dc")
            self.add("rectifier", end, dc)
            self.add("battery", dc)
        else:
            self.add(kind, end)

    def bus(self, start: str, volts: float) -> str:
        lower = self.chain(start, volts)
        if volts > 1000:
            low = self.node(480)
            self.add("transformer", lower, low, rated_kva=1000, impedance_pct=5, x_r=5)
            lower, volts = low, 480.0
        if self.random.random() < 0.9:
            self.add("bus", lower)
        self.buses.append((lower, volts))
        return lower

    def document(self) -> dict[str, Any]:
        r = self.random
        source = self.node(12_470)
        self.add("source", source, fault_mva_max=300, x_r_max=8, fault_mva_min=200, x_r_min=6)
        top = self.node(12_470)
        self.device(source, top)
        self.add("bus", top)
        self.buses.append((top, 12_470.0))
        for _ in range(r.randint(1, 2)):
            self.bus(top, 12_470.0)
        size = r.randint(10, 40)
        if size > 18 and r.random() < 0.6:
            self.transfer_switch()
        while len(self.elements) < max(size - 4, 10):
            where, volts = r.choice(self.buses)
            if r.random() < 0.25:
                self.bus(where, volts)
            else:
                self.leaf(where, volts)
        low = [n for n, v in self.buses if v == 480]
        if len(low) > 1 and r.random() < 0.7:
            a, b = r.sample(low, 2)
            self.add("breaker", a, b, normal_position="open", rated_voltage_v=600, interrupting_ka=65)
        # nothing hangs loose: a bus that got no branch gets one
        for where, volts in self.buses:
            if sum(where in e["ends"] for e in self.elements) < 2:
                self.leaf(where, volts)
        site = {"name": "Made up", "time_zone": "UTC", "profile": "north-american"}
        return {"format": "spinel-network", "version": 1, "site": site, "nodes": self.nodes, "enclosures": [],
                "elements": self.elements, "cases": [{"id": "c", "name": "normal"}]}  # fmt: skip

    def transfer_switch(self) -> None:
        r = self.random
        where = r.choice([n for n, v in self.buses if v == 480])
        normal, load, emergency, start = self.chain(where, 480), self.node(480), self.node(480), self.node(480)
        self.add("transfer_switch", normal, emergency, load, normal_position="normal", rated_voltage_v=600)
        self.device(start, emergency)
        self.add("generator", start, rated_kva=300, xd_subtransient_pu=0.15, x_r=15, normal_state="stopped")
        self.add("bus", load)
        self.buses.append((load, 480.0))


def make(seed: int) -> dict[str, Any]:
    return Maker(seed).document()
