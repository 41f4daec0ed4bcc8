"""Which rows of a study somebody wants to see, and which of them are one line: pure reading of a result."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from spinel.core.errors import InputError
from spinel.core.said import say
from spinel.core.study_compare import SAME, differs
from spinel.core.study_result import StudyResult, by_place, differ, energy_of, place_of, unfed

#: What the list can be narrowed to: everything, above the ceiling, from a level on, below it, without figure, moved.
SHOWN = ("all", "ceiling", "12", "8", "1.2", "below", "none", "up", "down", "unfed")
#: Columns of the table that can be chosen; the place and its energy are always there.
COLUMNS = (
    "arc_flash_boundary_mm", "device", "clearing_time_s", "case", "bolted_fault_current_ka", "arcing_current_ka",
    "working_distance_mm", "voltage_v", "ppe", "limited_fixed_mm", "restricted_mm", "glove_class",
    "electrode_configuration", "warning",
)  # fmt: skip
USUAL = ("arc_flash_boundary_mm", "device", "clearing_time_s", "bolted_fault_current_ka", "ppe")


@dataclass(frozen=True)
class StudyLine:
    """``rows``: places with the same figure, for the same reason, in the same location. ``was``: the same place's row
    of the study before; ``moved``: cal/cm² by which it rose (or fell), None where it did not, or has no figure."""

    rows: tuple[Mapping[str, Any], ...]
    was: Mapping[str, Any] | None
    moved: float | None

    @property
    def row(self) -> Mapping[str, Any]:
        return self.rows[0]

    @property
    def energy(self) -> float | None:
        return energy_of(self.row)

    @property
    def unfed(self) -> bool:
        return unfed(self.row)

    @property
    def was_energy(self) -> float | None:
        return energy_of(self.was) if self.was is not None else None


def wanted_rows(
    result: StudyResult, before: StudyResult | None, shown: str, text: str, ceiling_cal_cm2: float
) -> list[Mapping[str, Any]]:
    """In the order of the result. ``text``: in tag, name, location, side's code or device, whatever the case of its
    letters. InputError for a choice that there is not."""
    if shown not in SHOWN:
        raise InputError("show", shown, say("one-of", options=SHOWN))
    old, words = by_place(before), text.casefold().split()
    if shown == "all" and not words:
        return list(result.rows)
    return [r for r in result.rows if _has(r, words) and _is(r, old.get(place_of(r)), shown, ceiling_cal_cm2, before)]


def _has(row: Mapping[str, Any], words: Sequence[str]) -> bool:
    if not words:
        return True
    held = f"{row['tag']} {row['name']} {row['place']} {row['device']}".casefold()
    return all(w in held for w in words)


def _is(
    row: Mapping[str, Any], was: Mapping[str, Any] | None, shown: str, ceiling: float, before: StudyResult | None
) -> bool:
    energy = energy_of(row)
    if shown == "all":
        return True
    if shown in ("none", "unfed"):
        return energy is None and unfed(row) == (shown == "unfed")
    if shown in ("up", "down"):
        by = _moved(row, was) if before is not None else None
        lost = energy is None and was is not None and energy_of(was) is not None
        return (by is not None and by > 0) or lost if shown == "up" else by is not None and by < 0
    if energy is None:
        return False
    if shown == "below":
        return energy <= 1.2
    return energy > (ceiling if shown == "ceiling" else float(shown))


def _moved(row: Mapping[str, Any], was: Mapping[str, Any] | None) -> float | None:
    now, then = energy_of(row), energy_of(was) if was is not None else None
    if now is None or then is None or not differs(then, now):
        return None
    return now - then


def lines(rows: Iterable[Mapping[str, Any]], before: StudyResult | None) -> list[StudyLine]:
    """Rows that lie side by side and are alike become one line."""
    old, found = by_place(before), list[StudyLine]()
    for row in rows:
        was = old.get(place_of(row))
        line = StudyLine((row,), was, _moved(row, was))
        if found and _alike(found[-1], line):
            last = found[-1]
            found[-1] = StudyLine((*last.rows, row), last.was, last.moved)
        else:
            found.append(line)
    return found


def _alike(a: StudyLine, b: StudyLine) -> bool:
    if (a.energy is None) != (b.energy is None) or a.row["place"] != b.row["place"]:
        return False
    if a.energy is None or b.energy is None:
        return bool(a.row["warning"] == b.row["warning"])
    if (a.moved is None) != (b.moved is None) or a.row["device"] != b.row["device"]:
        return False
    near = abs(a.energy - b.energy) <= SAME * a.energy
    return near and (a.moved is None or abs(a.moved - (b.moved or 0.0)) <= SAME * a.energy)


@dataclass(frozen=True)
class StudyCounts:
    """How many places lie above each level, in this study and in the one before (None: there is none)."""

    level: float
    now: int
    before: int | None


def counts(result: StudyResult, before: StudyResult | None, levels: Iterable[float]) -> list[StudyCounts]:
    """Places above each level; what has no figure is counted apart."""

    def above(of: StudyResult, level: float) -> int:
        return len(of.energies) - bisect_right(of.energies, level)

    return [StudyCounts(v, above(result, v), above(before, v) if before is not None else None) for v in levels]


def moves(result: StudyResult, before: StudyResult) -> tuple[int, int]:
    """How many places rose (or lost their figure), how many fell (or got one)."""
    old = by_place(before)
    up = down = 0
    for row in result.rows:
        was = old.get(place_of(row))
        if was is None or not differ(was, row, SAME):
            continue
        now, then = energy_of(row), energy_of(was)
        worse = now is None or (then is not None and now > then)
        up, down = up + worse, down + (not worse)
    return up, down


def levels_of(ceiling_cal_cm2: float, uppers: Iterable[float | None]) -> list[float]:
    """Levels that a scale marks: the boundary's, those of a practice's kits, 8 (commonly rated), and the ceiling."""
    return sorted({1.2, 8.0, ceiling_cal_cm2, *(u for u in uppers if u is not None)})
