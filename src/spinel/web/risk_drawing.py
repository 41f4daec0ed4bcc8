"""Where opinions lie on their scales, and the line of energy through the rungs of the hierarchy, as numbers to draw."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from spinel.core.risk.opinions import SideBySide
from spinel.core.risk.scales import INHERENT, RUNGS, STEPS

#: Of one scale, px.
WIDTH, FIRST, STEP_PX, MIDDLE = 330.0, 25.0, 70.0, 30.0


@dataclass(frozen=True)
class Dot:
    x: float
    letters: str
    names: str


@dataclass(frozen=True)
class ScaleDrawn:
    """``bar``: from the lowest to the highest answer; ``after``: what was agreed, None while nothing is."""

    dots: tuple[Dot, ...]
    bar: tuple[float, float]
    after: float | None
    pinned: float | None = None


def letters(names: Sequence[str]) -> dict[str, str]:
    """A letter or two for each person, that no other has."""
    found: dict[str, str] = {}
    for name in names:
        parts = name.split()
        tries = [
            parts[0][:1],
            parts[0][:1] + parts[-1][:1].lower(),
            parts[0][:2],
            *(f"{parts[0][:1]}{n}" for n in range(2, 30)),
        ]
        found[name] = next(t for t in tries if t not in found.values())
    return found


def x_of(step: int) -> float:
    return FIRST + STEP_PX * (step - 1)


def scale(
    answers: Mapping[str, int], letter: Mapping[str, str], after: int | None, pinned: int | None = None
) -> ScaleDrawn:
    dots = []
    for step in STEPS:
        here = [name for name, given in answers.items() if given == step]
        if here:
            dots.append(Dot(x_of(step), " ".join(letter[n] for n in here), ", ".join(here)))
    low, high = min(answers.values()), max(answers.values())
    return ScaleDrawn(
        tuple(dots), (x_of(low), x_of(high)), x_of(after) if after else None, x_of(pinned) if pinned else None
    )


def scales(
    row: SideBySide, letter: Mapping[str, str], agreed: Mapping[str, int] | None
) -> tuple[ScaleDrawn, ScaleDrawn]:
    """Severity and likelihood of a hazard. Of an arc flash nobody's severity is drawn beside the figure's."""
    after = agreed or {}
    return (
        scale(row.severity, letter, after.get("severity"), row.pinned),
        scale(row.likelihood, letter, after.get("likelihood")),
    )


#: Of the line of energy, px: left of the rungs, their widths, top and bottom.
LEFT, TOP, BOTTOM, RIGHT = 64.0, 18.0, 178.0, 1080.0
_WALL = 700.0


@dataclass(frozen=True)
class OptionAt:
    x: float
    y: float
    rung: str
    says: str
    value: float
    helps: bool
    chosen: bool


@dataclass(frozen=True)
class EnergyLine:
    path: str
    options: tuple[OptionAt, ...]
    rungs: tuple[tuple[str, float], ...]
    marks: tuple[tuple[float, float], ...]
    wall: float
    bottom: float


def energy_line(energy: float, options: Sequence[Mapping[str, object]], after: float | None) -> EnergyLine:
    """The line runs flat and drops where an inherent control was chosen; behind the wall nothing bends it. ``options``:
    rung, says, energy_cal_cm2."""
    known = [float(str(o["energy_cal_cm2"])) for o in options if o["energy_cal_cm2"] is not None]
    low, high = min([energy, *known, 1.2]), max([energy, *known, 12.0])
    lo, hi = math.log10(max(low, 0.05) / 1.5), math.log10(high * 1.4)

    def y(value: float) -> float:
        return BOTTOM - (BOTTOM - TOP) * (math.log10(max(value, 0.05)) - lo) / (hi - lo)

    wide = (_WALL - LEFT) / len(INHERENT)
    start = {r: LEFT + wide * i for i, r in enumerate(INHERENT)}
    behind = (RIGHT - _WALL) / (len(RUNGS) - len(INHERENT))
    start |= {r: _WALL + behind * i for i, r in enumerate(RUNGS[len(INHERENT) :])}
    placed, used = [], dict.fromkeys(RUNGS, 0)
    for o in options:
        rung, value = str(o["rung"]), o["energy_cal_cm2"]
        if value is None:
            continue
        number = float(str(value))
        x = start[rung] + 26 + 44 * used[rung]
        used[rung] += 1
        placed.append(OptionAt(x, y(number), rung, str(o["says"]), number, number < energy, after == number))
    end = after if after is not None else energy
    chosen = next((p for p in placed if p.chosen), None)
    turn = chosen.x if chosen else _WALL - 6
    path = f"M{LEFT} {y(energy):.1f} H{turn:.1f} V{y(end):.1f} H{RIGHT}"
    marks = tuple((v, y(v)) for v in (1.2, 4.0, 8.0, 12.0, 40.0) if lo <= math.log10(v) <= hi)
    return EnergyLine(path, tuple(placed), tuple(start.items()), marks, _WALL, BOTTOM)
