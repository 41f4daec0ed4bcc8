"""Arc-flash cases as rows of text, as ``spinel calc arcflash`` reads and writes them. Full precision, no rounding."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from typing import Any

from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.arcflash import lee
from spinel.core.errors import InputError
from spinel.core.quantities import (
    BOLTED_FAULT_CURRENT_KA,
    DURATION_MS,
    ENCLOSURE_SIDE_MM,
    GAP_MM,
    NOMINAL_VOLTAGE_V,
    Quantity,
)

OUTPUT = (
    "arcing_current_ka", "reduced_arcing_current_ka", "enclosure_correction_factor", "incident_energy_j_cm2",
    "incident_energy_cal_cm2", "arc_flash_boundary_mm", "reduced_incident_energy_j_cm2",
    "reduced_arc_flash_boundary_mm", "warning", "error",
)  # fmt: skip
#: Any distance is read here; the method says what it covers.
_DISTANCE = Quantity("working_distance_mm", "Working distance", "mm", 0, 100_000, low_exclusive=True)


def run_rows(rows: Iterable[Mapping[str, Any]]) -> Iterator[dict[str, Any]]:
    """Each row with its results, or with empty results and the reason in ``error``."""
    for row in rows:
        known = {k: v for k, v in row.items() if isinstance(k, str)}
        empty = dict.fromkeys(OUTPUT, "")
        try:
            if None in row:
                raise InputError("row", "more values than columns", "one value a column")
            yield {**known, **empty, **_run(known)}
        except InputError as error:
            yield {**known, **empty, "error": str(error)}


def _run(row: Mapping[str, Any]) -> dict[str, Any]:
    method = (row.get("method") or "").strip()
    if method == "ieee1584-2018":
        return _ieee(row)
    if method == "lee":
        return _lee(row)
    raise InputError("method", method, "one of ieee1584-2018, lee")


def _number(row: Mapping[str, Any], quantity: Quantity, name: str) -> float:
    return quantity.parse(row.get(name), name)


def _optional(row: Mapping[str, Any], quantity: Quantity, name: str) -> float | None:
    return _number(row, quantity, name) if (row.get(name) or "").strip() else None


def _ieee(row: Mapping[str, Any]) -> dict[str, Any]:
    voltage = _number(row, NOMINAL_VOLTAGE_V, "voltage_v")
    current = _number(row, BOLTED_FAULT_CURRENT_KA, "bolted_fault_current_ka")
    duration = _number(row, DURATION_MS, "duration_ms")
    reduced_duration = _optional(row, DURATION_MS, "reduced_duration_ms") or duration
    configuration = (row.get("electrode_configuration") or "").strip()
    box = None
    if configuration in ieee.IN_A_BOX:
        box = ieee.Enclosure(
            _number(row, ENCLOSURE_SIDE_MM, "enclosure_height_mm"),
            _number(row, ENCLOSURE_SIDE_MM, "enclosure_width_mm"),
            _optional(row, ENCLOSURE_SIDE_MM, "enclosure_depth_mm"),
        )
    distance = _number(row, _DISTANCE, "working_distance_mm")
    situation = ieee.Situation(voltage, configuration, _number(row, GAP_MM, "gap_mm"), distance, box)
    warnings = ieee.check(situation, current)
    currents = ieee.arc_currents(situation, current)
    full = ieee.energy(situation, current, duration)
    reduced = ieee.energy(situation, current, reduced_duration, reduced=True)
    return {
        "arcing_current_ka": currents.arcing_current_ka,
        "reduced_arcing_current_ka": currents.reduced_arcing_current_ka,
        "enclosure_correction_factor": ieee.correction(situation).factor,
        "incident_energy_j_cm2": full.incident_energy_j_cm2,
        "incident_energy_cal_cm2": full.incident_energy_cal_cm2,
        "arc_flash_boundary_mm": full.arc_flash_boundary_mm,
        "reduced_incident_energy_j_cm2": reduced.incident_energy_j_cm2,
        "reduced_arc_flash_boundary_mm": reduced.arc_flash_boundary_mm,
        "warning": "; ".join(warnings),
    }


def _lee(row: Mapping[str, Any]) -> dict[str, Any]:
    if (row.get("enclosed") or "").strip().lower() in ("true", "yes", "1"):
        raise InputError("enclosed", row.get("enclosed"), "Lee's method is for open air only")
    current = _number(row, BOLTED_FAULT_CURRENT_KA, "bolted_fault_current_ka")
    found = lee.energy(
        _number(row, NOMINAL_VOLTAGE_V, "voltage_v"), current, _number(row, DURATION_MS, "duration_ms"),
        _number(row, _DISTANCE, "working_distance_mm"),
    )  # fmt: skip
    return {
        "enclosure_correction_factor": 1.0,
        "incident_energy_j_cm2": found.incident_energy_j_cm2,
        "incident_energy_cal_cm2": found.incident_energy_cal_cm2,
        "arc_flash_boundary_mm": found.arc_flash_boundary_mm,
    }
