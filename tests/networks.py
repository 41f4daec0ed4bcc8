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


CURVE = {"type": "trip", "long_pickup_a": 400, "long_delay_s": 6, "instantaneous_a": 2000}


class Mesher(Maker):
    """Meshed sites: several sources, ties, transformers that can be fed backward, converters, auxiliary supplies,
    devices of every ability. Each node stands in an enclosure of its own, or in that of its bus."""

    def __init__(self, seed: int):
        super().__init__(seed)
        self.boxes: list[dict[str, Any]] = []

    def box(self, volts: float) -> str:
        name = f"b{len(self.boxes)}"
        gap, distance = (152, 914) if volts > 1000 else (32, 610)
        self.boxes.append({"id": name, "name": f"Box {name}", "equipment_class": "switchboard", "height_mm": 508,
                           "width_mm": 508, "depth_mm": 508, "electrode_configuration": "VCB", "gap_mm": gap,
                           "working_distance_mm": distance, "escape_clear": True})  # fmt: skip
        return name

    def place(self, volts: float, box: str | None = None, current: str = "ac") -> str:
        name = self.node(volts, current)
        self.nodes[-1]["enclosure"] = box or self.box(volts)
        self.nodes[-1]["neutral"] = volts == 480 and self.random.random() < 0.5
        return name

    def breaking(self, a: str, b: str, position: str = "closed") -> None:
        r = self.random
        kind = r.choice(["breaker"] * 5 + ["switch", "switch", "disconnector", "fuse", "contactor"])
        never = kind == "contactor"
        can = kind in ("breaker", "switch") and r.random() < 0.9
        self.add(
            kind, a, b, normal_position=position, rated_voltage_v=15_000, rated_a=600,
            interrupting_ka=5 if r.random() < 0.04 else 65, curve=CURVE,
            isolating=not never and r.random() < 0.93, lockable=not never and r.random() < 0.97, load_break=can,
            fault_make=can and r.random() < 0.9, withdrawable=kind in ("breaker", "fuse") and r.random() < 0.5,
            remote=kind == "breaker" and r.random() < 0.4,
            stored_energy=["spring"] if kind == "breaker" and r.random() < 0.3 else [],
        )  # fmt: skip

    def branch(self, bus: str, volts: float, box: str) -> str:
        """A device out of a bus, its load terminal in the bus's box or in its own; perhaps a cable after it."""
        inside = self.random.random() < 0.3
        out = self.place(volts, box if inside else None)
        self.breaking(bus, out)
        if inside or self.random.random() < 0.4:
            further = self.place(volts)
            self.cable(out, further)
            return further
        return out

    def end(self, bus: str, volts: float, box: str) -> None:
        r, out = self.random, self.branch(bus, volts, box)
        kind = r.choice(["motor", "motor", "load", "load", "inverter", "shore_connection", "capacitor", "charger"])
        if kind in ("inverter", "shore_connection", "motor") and r.random() < 0.85:
            after = self.place(volts)
            self.breaking(out, after)
            out = after
        if kind == "motor":
            self.add("motor", out, rated_kva=50, xd_subtransient_pu=0.2, x_r=8,
                     stored_energy=r.choice([[], [], ["gravity"], ["pressure", "gravity"]]))  # fmt: skip
        elif kind in ("inverter", "shore_connection"):
            self.add(kind, out, rated_kva=50, fault_multiple=1.2, fault_cease_s=0.2,
                     normal_state="running" if kind == "inverter" else "stopped")  # fmt: skip
        elif kind == "charger":
            dc = self.place(r.choice([24, 48, 400]), current="dc")
            self.add("rectifier", out, dc)
            self.add("battery" if r.random() < 0.15 else "load", dc)
        else:
            self.add(kind, out, induced_voltage=kind == "load" and r.random() < 0.1)

    def document(self) -> dict[str, Any]:
        r = self.random
        low = self.below(self.top())
        for i, (a, _) in enumerate(low):
            for b, _ in low[i + 1 :]:
                if r.random() < 0.6:
                    self.breaking(a, b, r.choice(["closed", "open"]))
        if r.random() < 0.5:
            self.transfer(*r.choice(low), low)
        for bus, box in low:
            for _ in range(r.randint(1, 3)):
                self.end(bus, 480, box)
        self.supplies()
        alone = ("source", "generator", "shore_connection", "battery")
        sources = [e["tag"] for e in self.elements if e["kind"] in alone]
        for e in self.elements:
            if e["tag"] in sources:
                e["runs_parallel_with"] = [t for t in sources if t != e["tag"]]
        site = {"name": "Made up", "time_zone": "UTC", "profile": "north-american"}
        return {"format": "spinel-network", "version": 1, "site": site, "nodes": self.nodes, "enclosures": self.boxes,
                "elements": self.elements, "cases": [{"id": "c", "name": "normal"}]}  # fmt: skip

    def top(self) -> list[tuple[str, str]]:
        """Buses at 12.47 kV with their sources, joined with each other."""
        r = self.random
        high = [(self.place(12_470, box := self.box(12_470)), box) for _ in range(r.randint(1, 3))]
        for bus, _ in high:
            self.add("bus", bus)
        for i, (bus, _) in enumerate(high):
            if i == 0 or r.random() < 0.6:
                at = self.place(12_470)
                self.add("source", at, fault_mva_max=200, x_r_max=8, fault_mva_min=120, x_r_min=6)
                self.breaking(at, bus)
            for other, _ in high[i + 1 :]:
                self.breaking(bus, other, r.choice(["closed", "open"]))
        return high

    def below(self, high: list[tuple[str, str]]) -> list[tuple[str, str]]:
        """Buses at 480 V, each behind a transformer."""
        r, low = self.random, []
        for _ in range(r.randint(1, 3)):
            bus, box = r.choice(high)
            top = self.branch(bus, 12_470, box)
            under, own = self.place(480), self.box(480)
            self.add("transformer", top, under, rated_kva=1000, impedance_pct=5, x_r=5)
            lower = self.place(480, own)
            self.breaking(under, lower)
            self.add("bus", lower)
            low.append((lower, own))
        return low

    def transfer(self, bus: str, box: str, low: list[tuple[str, str]]) -> None:
        r = self.random
        normal, emergency, load_box = self.branch(bus, 480, box), self.place(480), self.box(480)
        load, start = self.place(480, load_box), self.place(480)
        self.add("transfer_switch", normal, emergency, load, normal_position=r.choice(["normal", "emergency", "off"]),
                 rated_voltage_v=600, load_break=r.random() < 0.7)  # fmt: skip
        self.breaking(start, emergency)
        self.add("generator", start, rated_kva=300, xd_subtransient_pu=0.15, x_r=15,
                 normal_state=r.choice(["stopped", "running"]))  # fmt: skip
        self.add("bus", load)
        low.append((load, load_box))

    def supplies(self) -> None:
        """Auxiliary supplies in some boxes, cut by some device, or by nothing that anybody recorded."""
        r = self.random
        devices = [e["tag"] for e in self.elements if e["kind"] in ("breaker", "switch", "fuse")]
        for box in self.boxes:
            if r.random() < 0.12:
                supply = {
                    "name": "Control supply",
                    "voltage_v": r.choice([24, 120]),
                    "current": "dc",
                    "source": "a panel",
                }
                if r.random() < 0.85:
                    supply["isolated_by"] = r.choice(devices)
                box["auxiliary_supplies"] = [supply]


def meshed(seed: int) -> dict[str, Any]:
    return Mesher(seed).document()
