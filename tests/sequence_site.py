"""Small sites with what only some have: three windings, taps, busway, a reactor, zero-sequence data."""

from __future__ import annotations

from typing import Any


def site(nodes: list[tuple[Any, ...]], elements: list[dict[str, Any]], **more: Any) -> dict[str, Any]:
    """A document from (id, volts) pairs and elements without id; tags serve as ids."""
    return {
        "format": "spinel-network", "version": 1,
        "site": {"name": "x", "time_zone": "UTC", "profile": "north-american", **more},
        "nodes": [{"id": n, "nominal_voltage_v": v, "current": "ac"} for n, v in nodes], "enclosures": [],
        "elements": [{"id": e["tag"].lower(), **e} for e in elements], "cases": [{"id": "c", "name": "c"}],
    }  # fmt: skip


def source(node: str, mva: float = 500, x_r: float = 10, **more: Any) -> dict[str, Any]:
    return {"tag": "U", "kind": "source", "ends": [node], "fault_mva_max": mva, "x_r_max": x_r, "fault_mva_min": mva,
            "x_r_min": x_r, **more}  # fmt: skip


def transformer(
    tag: str, *ends: str, kva: float = 1500, z: float = 5.75, x_r: float = 6.0, **more: Any
) -> dict[str, Any]:
    return {
        "tag": tag,
        "kind": "transformer",
        "ends": list(ends),
        "rated_kva": kva,
        "impedance_pct": z,
        "x_r": x_r,
        **more,
    }


def cable(tag: str, a: str, b: str, r: float = 0.005, x: float = 0.004, **more: Any) -> dict[str, Any]:
    return {"tag": tag, "kind": "cable", "ends": [a, b], "resistance_ohm": r, "reactance_ohm": x, **more}


def end(node: str) -> dict[str, Any]:
    return {"tag": f"B-{node}", "kind": "bus", "ends": [node]}


def radial(**more: Any) -> dict[str, Any]:
    """Utility, delta-star transformer, cable: with zero-sequence data all along."""
    return site(
        [("a", 12_470), ("b", 480), ("c", 480)],
        [source("a", z0_z1=1.2), transformer("T", "a", "b", vector_group="Dyn1", z0_pct=5.2, **more),
         cable("W", "b", "c", r0_ohm=0.02, x0_ohm=0.011), end("c")],
    )  # fmt: skip
