"""Arc-flash cases as rows of text, as ``spinel calc arcflash`` reads and writes them. Full precision, no rounding."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any

from spinel.core import rows
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
from spinel.core.rows import Row, number, optional, text, yes
from spinel.core.said import Sayable, joined, say
from spinel.core.tables.equipment import Typical, typical

OUTPUT = (
    "arcing_current_ka",
    "reduced_arcing_current_ka",
    "enclosure_correction_factor",
    "incident_energy_j_cm2",
    "incident_energy_cal_cm2",
    "arc_flash_boundary_mm",
    "reduced_incident_energy_j_cm2",
    "reduced_arc_flash_boundary_mm",
    "warning",
    "error",
)
GROUNDINGS = ("", "solid", "grounded", "resistance", "ungrounded", "unknown")
#: Any distance is read here; the method says what it covers.
_DISTANCE = Quantity("working_distance_mm", "mm", 0, 100_000, low_exclusive=True)


def run_rows(cases: Iterable[Row]) -> Iterator[dict[str, Any]]:
    """Each row with its results, or with empty results and the reason in ``error``."""
    return rows.run(cases, OUTPUT, _run)


def _run(row: Row) -> dict[str, Any]:
    method = text(row, "method")
    if text(row, "grounding").lower() not in GROUNDINGS:
        raise InputError(
            "grounding",
            row.get("grounding"),
            say("arcflash-cases-empty-or-one-of", options=tuple(g for g in GROUNDINGS if g)),
        )
    if method == "ieee1584-2018":
        return _ieee(row)
    if method == "lee":
        return _lee(row)
    raise InputError("method", method, say("arcflash-cases-one-of-ieee1584-2018-lee"))


def _ieee(row: Row) -> dict[str, Any]:
    current = number(row, BOLTED_FAULT_CURRENT_KA, "bolted_fault_current_ka")
    duration = number(row, DURATION_MS, "duration_ms")
    reduced_duration = optional(row, DURATION_MS, "reduced_duration_ms") or duration
    situation, assumed = _situation(row)
    warnings = [*assumed, *ieee.check(situation, current)]
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
        "warning": joined(*warnings),
    }


def _situation(row: Row) -> tuple[ieee.Situation, list[Sayable]]:
    """The situation of a row, typical values of its equipment class where it gives none; what was assumed."""
    voltage = number(row, NOMINAL_VOLTAGE_V, "voltage_v")
    usual = _Usual(row, voltage)
    configuration = text(row, "electrode_configuration") or usual.configuration()
    if configuration not in ieee.CONFIGURATIONS:
        allowed = say("arcflash-cases-or-empty-with-an-equipment-class", options=tuple(ieee.CONFIGURATIONS))
        raise InputError("electrode_configuration", configuration, allowed)
    box = _box(row, usual) if configuration in ieee.IN_A_BOX else None
    gap = usual.or_given(GAP_MM, "gap_mm")
    distance = usual.or_given(_DISTANCE, "working_distance_mm")
    return ieee.Situation(voltage, configuration, gap, distance, box), usual.assumed


class _Usual:
    """Typical values of the row's equipment class, taken only for what the row leaves empty."""

    def __init__(self, row: Row, voltage_v: float):
        self.row, self.voltage_v, self.assumed = row, voltage_v, list[Sayable]()

    def _typical(self) -> Typical | None:
        name = text(self.row, "equipment_class")
        return typical(name, self.voltage_v) if name else None

    def configuration(self) -> str:
        known = self._typical()
        if known is None:
            return ""
        self.assumed.append(
            say(
                "arcflash-cases-typical-assumed-other-configurations-may-give",
                electrode_configuration=known.electrode_configuration,
            )
        )
        return known.electrode_configuration

    def or_given(self, quantity: Quantity, column: str) -> float:
        given = optional(self.row, quantity, column)
        if given is not None:
            return given
        known = self._typical()
        if known is None:
            raise InputError(
                column, None, say("arcflash-cases-or-an-equipment-class-with-typical-values", allowed=quantity.allowed)
            )
        value: float = getattr(known, column)
        self.assumed.append(say("arcflash-cases-typical-of-mm-assumed", column=column, value=value))
        return value


def _box(row: Row, usual: _Usual) -> ieee.Enclosure:
    columns = ("enclosure_height_mm", "enclosure_width_mm", "enclosure_depth_mm")
    known = usual._typical()
    if known is not None and not any(text(row, c) for c in columns):
        usual.assumed.append(
            say(
                "arcflash-cases-typical-box-of-x-x-mm-assumed",
                height_mm=known.height_mm,
                width_mm=known.width_mm,
                depth_mm=known.depth_mm,
            )
        )
        return ieee.Enclosure(known.height_mm, known.width_mm, known.depth_mm)
    height, width = (number(row, ENCLOSURE_SIDE_MM, c) for c in columns[:2])
    return ieee.Enclosure(height, width, optional(row, ENCLOSURE_SIDE_MM, columns[2]))


def _lee(row: Row) -> dict[str, Any]:
    if yes(row, "enclosed") or text(row, "electrode_configuration") in ieee.IN_A_BOX:
        raise InputError("enclosed", row.get("enclosed"), say("arcflash-cases-lees-method-is-for-open-air-only"))
    current = number(row, BOLTED_FAULT_CURRENT_KA, "bolted_fault_current_ka")
    found = lee.energy(
        number(row, NOMINAL_VOLTAGE_V, "voltage_v"),
        current,
        number(row, DURATION_MS, "duration_ms"),
        number(row, _DISTANCE, "working_distance_mm"),
    )
    return {
        # above 15 kV the arcing current is taken as the bolted one
        "arcing_current_ka": current,
        "enclosure_correction_factor": 1.0,
        "incident_energy_j_cm2": found.incident_energy_j_cm2,
        "incident_energy_cal_cm2": found.incident_energy_cal_cm2,
        "arc_flash_boundary_mm": found.arc_flash_boundary_mm,
    }
