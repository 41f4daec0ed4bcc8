"""The working of a figure, line by line, printed from the intermediate values that the computation returned."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True)
class Step:
    """``link``: tag of the equipment whose data went in."""

    what: str
    value: str
    how: str
    source: str
    link: str = ""


IEEE = "IEEE 1584-2018, coefficients from memory"
REVISION = "network revision"
NODAL = "Thevenin nodal solution, prefault 1.0 per unit"


def working(figure: Mapping[str, Any]) -> list[tuple[str, list[Step]]]:
    """All steps behind one frozen figure, in groups, in the order of the computation."""
    return [
        ("Bolted fault current", _fault(figure["fault"])),
        ("Arcing current", _arcing(figure)),
        ("Clearing time", _clearing(figure)),
        ("Enclosure", _enclosure(figure)),
        ("Incident energy and boundary", _energy(figure)),
    ]


def _fault(f: Mapping[str, Any]) -> list[Step]:
    z = f"{f['resistance_pu']:.5f} + j{f['reactance_pu']:.5f} per unit on 100 MVA"
    x_r = f["x_r"] if f["x_r"] is not None else float("inf")
    steps = [
        Step("Nominal voltage", f"{f['voltage_v']:g} V", "network document", REVISION),
        Step("Impedance seen from the fault", z, f"X/R {x_r:.2f}", NODAL),
        Step("Bolted fault current", f"{f['bolted_fault_current_ka']:.3f} kA", "100 MVA / (√3 V |Z|)", NODAL),
    ]
    largest_first = sorted(f["contributions_ka"].items(), key=lambda c: -c[1])
    steps += [
        Step("of which contributed by", f"{ka:.3f} kA", _data(f["source_data"][tag]), REVISION, tag)
        for tag, ka in largest_first
    ]
    steps += [
        Step("flowing through", f"{p['share_ka']:.3f} kA at {p['at_voltage_v']:,g} V", _data(p["data"]) or "closed",
             REVISION, p["tag"])
        for p in f["path"]
    ]  # fmt: skip
    return steps


#: Field of the network document: how its number is written.
_WRITTEN = {
    "fault_mva_max": "{:g} MVA", "fault_mva_min": "{:g} MVA", "x_r_max": "X/R {:g}", "x_r_min": "X/R {:g}",
    "rated_kva": "{:g} kVA", "impedance_pct": "{:g} %", "x_r": "X/R {:g}", "xd_subtransient_pu": "X'' {:g} per unit",
    "xd_transient_pu": "X' {:g} per unit", "xd_pu": "X {:.4g} per unit", "times_weaker": "impedance × {:.5g}",
    "resistance_ohm": "R {:.5g} ohm", "reactance_ohm": "X {:.5g} ohm",
    "fault_multiple": "{:g} × rated current", "impedance_13_pct": "to third winding {:g} %",
    "impedance_23_pct": "second to third {:g} %", "tap_pct": "tap {:+g} %", "tolerance_pct": "tolerance {:+g} %",
    "at_c": "at {:g} °C", "motors": "{:g} of them",
}  # fmt: skip


def _data(values: Mapping[str, float]) -> str:
    """The document's numbers behind an impedance, in the order of the table above."""
    return ", ".join(text.format(values[name]) for name, text in _WRITTEN.items() if name in values)


def _arcing(figure: Mapping[str, Any]) -> list[Step]:
    s, c = figure["situation"], figure["currents"]
    steps = [
        Step("Electrodes and gap", f"{s['electrode_configuration']}, {s['gap_mm']:g} mm", "enclosure", REVISION),
        *(
            Step(f"Intermediate arcing current at {v} V", f"{ka:.3f} kA", "equation 1, table 1", IEEE)
            for v, ka in c["intermediate_ka"].items()
        ),
        Step("Arcing current", f"{c['arcing_current_ka']:.3f} kA", "equations 16 to 25", IEEE),
        Step("Variation factor", f"{c['variation_factor']:.5f}", "equation 2, table 2", IEEE),
        Step("Reduced arcing current", f"{c['reduced_arcing_current_ka']:.3f} kA",
             f"× (1 − 0.5 × {c['variation_factor']:.5f})", IEEE),
    ]  # fmt: skip
    used = figure["energy"]["arcing_current_ka"]
    steps.append(Step("Used here", f"{used:.3f} kA", f"the {figure['current']} one is worse", IEEE))
    return steps


def _clearing(figure: Mapping[str, Any]) -> list[Step]:
    c = figure["clearing"]
    steps = []
    for d in c["devices"]:
        time = "does not trip" if d["time_s"] is None else f"{d['time_s']:.4f} s"
        steps.append(Step(f"Sees {d['share_a']:,.0f} A", time, d["how"], "its curve, slow edge", d["tag"]))
    steps += [Step("Passed over", "not credited", why, "project rule", tag) for tag, why in c["passed_over"]]
    if figure["capped"]:
        why = "slower or never; a way of escape is recorded as clear"
        if c["uncleared"]:
            why = f"nothing clears {', '.join(c['uncleared'])}; a way of escape is recorded as clear"
        steps.append(Step("Duration used", f"{figure['duration_s']:.3f} s", why, "two-second rule, common practice"))
    else:
        last = c["device"]["tag"] if c["device"] else ""
        steps.append(
            Step("Duration used", f"{figure['duration_s']:.4f} s", "until nothing that lasts feeds it",
                 "project rule", last)
        )  # fmt: skip
    return steps + _stages(figure.get("stages") or ())


def _stages(stages: Sequence[Mapping[str, Any]]) -> list[Step]:
    """What is left to feed the arc as sources drop off; nothing to say of a single stage or of an older record."""
    steps = []
    for s in stages if len(stages) > 1 else ():
        left = f"{s['bolted_fault_current_ka']:.3f} kA bolted, {s['arcing_current_ka']:.3f} kA arcing"
        how = f"then {', '.join(s['then_off'])} off" if s["then_off"] else "to the end"
        if s["carried"]:
            how = f"less than the method covers: taken at its least current; {how}"
        steps.append(
            Step(f"Fed from {s['from_s']:.4f} to {s['until_s']:.4f} s by", left,
                 f"{s['incident_energy_j_cm2']:.3f} J/cm²; {how}", "one device after the other, project rule")
        )  # fmt: skip
    return steps


def _enclosure(figure: Mapping[str, Any]) -> list[Step]:
    s, k = figure["situation"], figure["correction"]
    if k["equivalent_size_in"] is None:
        return [Step("Correction factor", "1", "open air", IEEE)]
    box = s["enclosure"]
    depth = f" × {box['depth_mm']:g}" if box["depth_mm"] is not None else ""
    return [
        Step("Inside height × width × depth", f"{box['height_mm']:g} × {box['width_mm']:g}{depth} mm", "enclosure",
             REVISION),
        Step("Equivalent size", f"{k['equivalent_size_in']:.3f} in", f"{k['box']} box, equations 11 to 13", IEEE),
        Step("Correction factor", f"{k['factor']:.4f}", "equation 14 or 15, table 7", IEEE),
    ]  # fmt: skip


def _energy(figure: Mapping[str, Any]) -> list[Step]:
    e, s = figure["energy"], figure["situation"]
    return [
        Step("Working distance", f"{s['working_distance_mm']:g} mm", "the enclosure's, or as varied", "permit"),
        *(
            Step(f"Intermediate energy at {v} V", f"{j:.3f} J/cm²", "equations 3 to 6", IEEE)
            for v, j in e["intermediate_j_cm2"].items()
        ),
        Step("Incident energy", f"{e['incident_energy_j_cm2']:.3f} J/cm² = {e['incident_energy_cal_cm2']:.3f} cal/cm²",
             "1 cal = 4.184 J", IEEE),
        Step("Arc-flash boundary", f"{e['arc_flash_boundary_mm']:.0f} mm", "1.2 cal/cm² left, equations 7 to 10", IEEE),
    ]  # fmt: skip
