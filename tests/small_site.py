"""Small sites made by hand: one bus here, a source and a device there, everything else left out."""

from __future__ import annotations

from typing import Any

V480 = 480


class Small:
    """Grows a document; every node has an enclosure of its own unless one is given."""

    def __init__(self, escape_clear: bool = False):
        self.nodes: list[dict[str, Any]] = []
        self.boxes: list[dict[str, Any]] = []
        self.elements: list[dict[str, Any]] = []
        self.cases: list[dict[str, Any]] = [{"id": "c", "name": "normal"}]
        self.escape_clear = escape_clear

    def node(self, name: str, volts: float = V480, box: str | None = None, **more: Any) -> str:
        if box is None:
            box = f"e-{name}"
            high = volts > 1000
            self.boxes.append({
                "id": box, "name": box, "equipment_class": "switchboard", "height_mm": 508, "width_mm": 508,
                "depth_mm": 508, "electrode_configuration": "VCB", "gap_mm": 104 if high else 32,
                "working_distance_mm": 914 if high else 610, "escape_clear": self.escape_clear,
            })  # fmt: skip
        self.nodes.append({"id": name, "nominal_voltage_v": volts, "current": "ac", "enclosure": box, **more})
        return name

    def add(self, kind: str, tag: str, *ends: str, **more: Any) -> None:
        self.elements.append({"id": f"id-{tag}", "tag": tag, "kind": kind, "ends": list(ends), **more})

    def breaker(self, tag: str, a: str, b: str, position: str = "closed", **curve: Any) -> None:
        self.add("breaker", tag, a, b, normal_position=position, rated_voltage_v=15_000, interrupting_ka=200,
                 **({"curve": curve} if curve else {}))  # fmt: skip

    def short(self, a: str, b: str) -> None:
        """A cable of next to no length."""
        self.add("cable", f"W{len(self.elements)}", a, b, resistance_ohm=0.00001, reactance_ohm=0.00001)

    def document(self) -> dict[str, Any]:
        site = {"name": "Made up", "time_zone": "UTC", "profile": "north-american"}
        return {"format": "spinel-network", "version": 2, "site": site, "nodes": self.nodes, "enclosures": self.boxes,
                "elements": self.elements, "cases": self.cases}  # fmt: skip


def trip(long_a: float, **more: Any) -> dict[str, Any]:
    return {"type": "trip", "long_pickup_a": long_a, "long_delay_s": 8, **more}


def radial(**curve: Any) -> Small:
    """A source at 480 V, a main M, and a bus B behind it in an enclosure of its own."""
    site = Small()
    for name in ("s", "m0", "b"):
        site.node(name)
    site.add("source", "U", "s", fault_mva_max=30, x_r_max=8, fault_mva_min=15, x_r_min=8)
    site.breaker("M", "s", "m0", **(curve or trip(800, short_pickup_a=4000, short_delay_s=0.2)))
    site.short("m0", "b")
    site.add("bus", "B", "b")
    return site
