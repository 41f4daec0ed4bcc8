"""What would bring a place under an energy, lever by lever, in the order of the hierarchy of controls: what takes the
energy away first, what somebody must do each time last."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass

from spinel.core.arcflash import inverse
from spinel.core.errors import InputError
from spinel.core.quantities import Quantity
from spinel.core.risk.options import options
from spinel.core.risk.scales import RUNGS
from spinel.core.said import Sayable, say
from spinel.core.what_if.answers import Trials, along
from spinel.core.what_if.changes import SLIDERS, TrialChange

TARGET_CAL_CM2 = Quantity("target_cal_cm2", "cal/cm²", 0.5, 100)
#: So many devices of the worst arc are looked at, the one that opens last first.
DEVICES = 4


@dataclass(frozen=True, kw_only=True)
class Lever:
    """``energy_cal_cm2``: what would be left, None where no number of it is known. ``change``: as a trial, where it is
    one setting. ``lost``: pairs that would open out of order; None: nobody looked."""

    rung: str
    what: Sayable
    energy_cal_cm2: float | None
    change: TrialChange | None = None
    lost: tuple[tuple[str, str], ...] | None = None
    holds: tuple[Sayable, ...] = ()

    def under(self, target_cal_cm2: float) -> bool:
        return self.energy_cal_cm2 is not None and self.energy_cal_cm2 <= target_cal_cm2


def levers(trials: Trials, element_id: str, touches: str, target_cal_cm2: float) -> list[Lever]:
    """Every lever, of each rung what reaches the target first. Empty where the place has no figure: nothing is known to
    be won there. InputError for a target outside its range."""
    target = TARGET_CAL_CM2.check(target_cal_cm2)
    now = trials.at(element_id, touches, ())
    if now.energy_cal_cm2 is None:
        return []
    found = [*_settings(trials, element_id, touches, target), *_computed(trials, element_id, touches, target)]
    known = options(trials.document, trials.profile, trials.ceiling_cal_cm2, element_id, touches)
    found += [
        Lever(rung=o.rung, what=o.what, energy_cal_cm2=o.energy_cal_cm2, holds=o.holds)
        for o in known.each
        if o.helps(now.energy_cal_cm2)
    ]
    best = 1e12
    return sorted(found, key=lambda x: (
        RUNGS.index(x.rung), bool(x.lost), best if x.energy_cal_cm2 is None else x.energy_cal_cm2
    ))  # fmt: skip


def _settings(trials: Trials, element_id: str, touches: str, target: float) -> Iterator[Lever]:
    """Of each device of the worst arc the slowest setting that reaches the target, else the one that leaves least; and
    its maintenance setting."""
    hazard = trials.base.hazard(element_id, touches)
    if hazard.energy is None:
        return
    by_id = {e["id"]: e for e in trials.document["elements"]}
    carried = [d for d in hazard.energy.clearing.devices if by_id.get(d.element_id, {}).get("curve")]
    last = hazard.energy.clearing.device
    carried.sort(key=lambda d: (last is None or d.element_id != last.element_id, d.time_s or 1e9))
    for device in carried[:DEVICES]:
        curve = by_id[device.element_id]["curve"]
        field = next((f for f in SLIDERS.get(curve["type"], ()) if curve.get(f)), None)
        if field is not None:
            yield from _setting(trials, element_id, touches, target, (device.element_id, field, float(curve[field])))
        if by_id[device.element_id].get("maintenance_curve"):
            change = TrialChange("maintenance", device.element_id)
            left = trials.energy(element_id, touches, (change,))
            yield Lever(
                rung="rule", what=say("lever-maintenance", tag=device.tag), energy_cal_cm2=left,
                change=change, lost=_lost(trials, change),
            )  # fmt: skip


def _setting(
    trials: Trials, element_id: str, touches: str, target: float, setting: tuple[str, str, float]
) -> Iterator[Lever]:  # fmt: skip
    device_id, field, now = setting
    before = trials.energy(element_id, touches, ())
    values = [v for v in along(now) if v < now]

    def energy(value: float) -> float:
        """Of no figure, or of a curve that cannot be: no help."""
        try:
            found = trials.energy(element_id, touches, (TrialChange("setting", device_id, field, value),))
        except InputError:
            return float("inf")
        return float("inf") if found is None else found

    if not values or before is None or not (least := energy(values[0])) < before * (1 - 1e-6):
        return
    # what is faster leaves no more: the slowest that reaches the target, else the slowest that leaves as little
    wanted = target if least <= target else least * (1 + 1e-6)
    low, high = 0, len(values)
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (middle, high) if energy(values[middle]) <= wanted else (low, middle)
    change = TrialChange("setting", device_id, field, values[low])
    yield Lever(
        rung="engineer", energy_cal_cm2=energy(values[low]), change=change, lost=_lost(trials, change),
        what=say("lever-setting", tag=trials.base.network.get(device_id).tag, now=now, value=values[low],
                 field=say(f"what-if-field-{field.replace('_', '-')}")),
    )  # fmt: skip


def _lost(trials: Trials, change: TrialChange) -> tuple[tuple[str, str], ...]:
    pairs = trials.newly_lost((change,), frozenset({change.id}))
    return tuple((p.downstream.tag, p.upstream.tag) for p in pairs)


def _computed(trials: Trials, element_id: str, touches: str, target: float) -> Iterator[Lever]:
    """What the method itself says of the worst arc: how fast it would have to be cleared, how much less may feed it."""
    figure = trials.base.hazard(element_id, touches).energy
    if figure is None:
        return
    bolted = float(figure.fault["bolted_fault_current_ka"])
    seconds = inverse.longest_ms(figure.situation, bolted, target) / 1000
    if seconds < figure.duration_s:
        # the other situations may need a shorter time still: asked of all of them
        for _ in range(8):
            # what may last at most, or flow at most, is never written longer than it is
            seconds = _down(seconds)
            energy = trials.at(element_id, touches, (), time_s=seconds).energy_cal_cm2 or 0.0
            if energy <= target:
                break
            seconds *= target / energy
        yield Lever(
            rung="engineer", what=say("lever-time", seconds=seconds), energy_cal_cm2=energy,
            holds=(say("lever-time-how"),),
        )  # fmt: skip
    try:
        most = inverse.highest_ka(figure.situation, figure.duration_s * 1000, target)
    except InputError:
        return
    if most < bolted:
        yield Lever(
            rung="substitute", what=say("lever-fault-level", now=bolted, ka=_down(most)), energy_cal_cm2=None,
            holds=(say("lever-fault-level-how"),),
        )  # fmt: skip


def _down(value: float) -> float:
    """To three digits, never above it.

    >>> _down(0.31299), _down(21.39), _down(4.0)
    (0.312, 21.3, 4.0)
    """
    step = 10.0 ** (math.floor(math.log10(value)) - 2)
    return float(f"{math.floor(value / step + 1e-9) * step:.6g}")
