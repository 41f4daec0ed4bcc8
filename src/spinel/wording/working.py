"""The working of a figure, line by line, printed from the intermediate values that the computation returned."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from spinel.core.said import Said, Sayable, joined, say


@dataclass(frozen=True)
class Step:
    """``link``: tag of the equipment whose data went in."""

    what: Sayable
    value: Sayable
    how: Sayable
    source: Sayable
    link: str = ""


IEEE = "IEEE 1584-2018, coefficients from memory"
REVISION = "network revision"
NODAL = say("working-thevenin-nodal-solution-prefault-1-0-per")


def working(figure: Mapping[str, Any]) -> list[tuple[Sayable, list[Step]]]:
    """All steps behind one frozen figure, in groups, in the order of the computation."""
    return [
        (say("working-bolted-fault-current"), _fault(figure["fault"])),
        (say("working-arcing-current"), _arcing(figure)),
        (say("working-clearing-time"), _clearing(figure)),
        ("Enclosure", _enclosure(figure)),
        (say("working-incident-energy-and-boundary"), _energy(figure)),
    ]


def _fault(f: Mapping[str, Any]) -> list[Step]:
    z = say("working-j-per-unit-on-100-mva", resistance_pu=f["resistance_pu"], reactance_pu=f["reactance_pu"])
    x_r = f["x_r"] if f["x_r"] is not None else float("inf")
    steps = [
        Step(
            say("working-nominal-voltage"),
            say("working-v", voltage_v=f["voltage_v"]),
            say("working-network-document"),
            REVISION,
        ),
        Step(say("working-impedance-seen-from-the-fault"), z, say("working-x-r-2", x_r=x_r), NODAL),
        Step(
            say("working-bolted-fault-current"),
            say("working-ka", bolted_fault_current_ka=f["bolted_fault_current_ka"]),
            say("working-100-mva-3-v-z"),
            NODAL,
        ),
    ]
    largest_first = sorted(f["contributions_ka"].items(), key=lambda c: -c[1])
    steps += [
        Step(
            say("working-of-which-contributed-by"),
            say("working-ka-2", ka=ka),
            _data(f["source_data"][tag]),
            REVISION,
            tag,
        )
        for tag, ka in largest_first
    ]
    steps += [
        Step(
            say("working-flowing-through"),
            say("working-ka-at-v", share_ka=p["share_ka"], at_voltage_v=p["at_voltage_v"]),
            _data(p["data"]) or say("position-closed"),
            REVISION,
            p["tag"],
        )
        for p in f["path"]
    ]
    return steps


#: Fields of the network document behind an impedance; the catalogue says how each is written.
_WRITTEN = (
    "fault_mva_max",
    "fault_mva_min",
    "x_r_max",
    "x_r_min",
    "rated_kva",
    "impedance_pct",
    "x_r",
    "xd_subtransient_pu",
    "xd_transient_pu",
    "xd_pu",
    "times_weaker",
    "resistance_ohm",
    "reactance_ohm",
    "fault_multiple",
    "impedance_13_pct",
    "impedance_23_pct",
    "tap_pct",
    "tolerance_pct",
    "at_c",
    "motors",
)


def _data(values: Mapping[str, float]) -> Said:
    """The document's numbers behind an impedance, in the order of the table above."""
    return joined(*(say(f"written-{name}", value=values[name]) for name in _WRITTEN if name in values), between=", ")


def _arcing(figure: Mapping[str, Any]) -> list[Step]:
    s, c = figure["situation"], figure["currents"]
    steps = [
        Step(
            say("working-electrodes-and-gap"),
            say("working-mm", electrode_configuration=s["electrode_configuration"], gap_mm=s["gap_mm"]),
            say("working-enclosure"),
            REVISION,
        ),
        *(
            Step(
                say("working-intermediate-arcing-current-at-v", v=v),
                say("working-ka-2", ka=ka),
                say("working-equation-1-table-1"),
                IEEE,
            )
            for v, ka in c["intermediate_ka"].items()
        ),
        Step(
            say("working-arcing-current"),
            say("working-ka-3", arcing_current_ka=c["arcing_current_ka"]),
            say("working-equations-16-to-25"),
            IEEE,
        ),
        Step(say("working-variation-factor"), f"{c['variation_factor']:.5f}", say("working-equation-2-table-2"), IEEE),
        Step(
            say("working-reduced-arcing-current"),
            say("working-ka-4", reduced_arcing_current_ka=c["reduced_arcing_current_ka"]),
            f"× (1 − 0.5 × {c['variation_factor']:.5f})",
            IEEE,
        ),
    ]
    used = figure["energy"]["arcing_current_ka"]
    steps.append(
        Step(
            say("working-used-here"),
            say("working-ka-5", used=used),
            say("working-the-one-is-worse", current=figure["current"]),
            IEEE,
        )
    )
    return steps


def _clearing(figure: Mapping[str, Any]) -> list[Step]:
    c = figure["clearing"]
    steps = []
    for d in c["devices"]:
        time = say("working-does-not-trip") if d["time_s"] is None else say("working-s", time_s=d["time_s"])
        steps.append(
            Step(
                say("working-sees-a", share_a=d["share_a"]),
                time,
                d["how"],
                say("working-its-curve-slow-edge"),
                d["tag"],
            )
        )
    steps += [
        Step(say("working-passed-over"), say("working-not-credited"), why, say("working-project-rule"), tag)
        for tag, why in c["passed_over"]
    ]
    if figure["capped"]:
        why = say("working-slower-or-never-a-way-of-escape")
        if c["uncleared"]:
            why = say("working-nothing-clears-a-way-of-escape-is", uncleareds=tuple(c["uncleared"]))
        steps.append(
            Step(
                say("working-duration-used"),
                say("working-s-2", duration_s=figure["duration_s"]),
                why,
                say("working-two-second-rule-common-practice"),
            )
        )
    else:
        last = c["device"]["tag"] if c["device"] else ""
        steps.append(
            Step(
                say("working-duration-used"),
                say("working-s-3", duration_s=figure["duration_s"]),
                say("working-until-nothing-that-lasts-feeds-it"),
                say("working-project-rule"),
                last,
            )
        )
    return steps + _stages(figure.get("stages") or ())


def _stages(stages: Sequence[Mapping[str, Any]]) -> list[Step]:
    """What is left to feed the arc as sources drop off; nothing to say of a single stage or of an older record."""
    steps = []
    for s in stages if len(stages) > 1 else ():
        left = say(
            "working-ka-bolted-ka-arcing",
            bolted_fault_current_ka=s["bolted_fault_current_ka"],
            arcing_current_ka=s["arcing_current_ka"],
        )
        how = say("working-then-off", then_offs=tuple(s["then_off"])) if s["then_off"] else say("working-to-the-end")
        if s["carried"]:
            how = say("working-less-than-the-method-covers-taken-at", how=how)
        steps.append(
            Step(
                say("working-fed-from-to-s-by", from_s=s["from_s"], until_s=s["until_s"]),
                left,
                say("working-j-cm", incident_energy_j_cm2=s["incident_energy_j_cm2"], how=how),
                say("working-one-device-after-the-other-project-rule"),
            )
        )
    return steps


def _enclosure(figure: Mapping[str, Any]) -> list[Step]:
    s, k = figure["situation"], figure["correction"]
    if k["equivalent_size_in"] is None:
        return [Step(say("working-correction-factor"), "1", say("working-open-air"), IEEE)]
    box = s["enclosure"]
    depth = f" × {box['depth_mm']:g}" if box["depth_mm"] is not None else ""
    return [
        Step(
            say("working-inside-height-width-depth"),
            say("working-mm-2", height_mm=box["height_mm"], width_mm=box["width_mm"], depth=depth),
            say("working-enclosure"),
            REVISION,
        ),
        Step(
            say("working-equivalent-size"),
            say("working-in", equivalent_size_in=k["equivalent_size_in"]),
            say("working-box-equations-11-to-13", box=k["box"]),
            IEEE,
        ),
        Step(say("working-correction-factor"), f"{k['factor']:.4f}", say("working-equation-14-or-15-table-7"), IEEE),
    ]


def _energy(figure: Mapping[str, Any]) -> list[Step]:
    e, s = figure["energy"], figure["situation"]
    return [
        Step(
            say("working-working-distance"),
            say("working-mm-3", working_distance_mm=s["working_distance_mm"]),
            say("working-the-enclosures-or-as-varied"),
            say("working-permit"),
        ),
        *(
            Step(
                say("working-intermediate-energy-at-v", v=v),
                say("working-j-cm-2", j=j),
                say("working-equations-3-to-6"),
                IEEE,
            )
            for v, j in e["intermediate_j_cm2"].items()
        ),
        Step(
            say("working-incident-energy"),
            say(
                "working-j-cm-cal",
                incident_energy_j_cm2=e["incident_energy_j_cm2"],
                incident_energy_cal_cm2=e["incident_energy_cal_cm2"],
            ),
            say("working-1-cal-4-184-j"),
            IEEE,
        ),
        Step(
            say("working-arc-flash-boundary"),
            say("working-mm-4", arc_flash_boundary_mm=e["arc_flash_boundary_mm"]),
            say("working-1-2-cal-left-equations-7-to"),
            IEEE,
        ),
    ]
