"""Duty check: is a device rated for the fault current, the voltage and the circuit where it stands?

A device that fails is a hazard to whoever operates it, and its clearing time is not believed. A breaker, fuse or
contactor whose rating nobody recorded counts as failing; a switch or panel without one has no check.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from spinel.core.fault.asymmetry import PARTING, PEAK, RMS, multiplier
from spinel.core.fault.nodal import NodalModel
from spinel.core.network.document import Element, Network
from spinel.core.network.kinds import PROTECTIVE
from spinel.core.protection.ampere import too_large
from spinel.core.said import Sayable, say


@dataclass(frozen=True)
class Duty:
    """Result for one device: the worst at its ends over all circuits.

    ``available_ka`` symmetrical; ``required_ka`` what its rating must be, raised where X/R is above that of its test.
    """

    adequate: bool
    available_ka: float | None
    interrupting_ka: float | None
    reason: Sayable
    required_ka: float | None = None
    x_r: float | None = None
    test_x_r: float | None = None


@dataclass(frozen=True)
class _Worst:
    available_ka: float
    required_ka: float
    x_r: float
    case: Sayable


def test_of(e: Element, voltage_v: float) -> tuple[float, str]:
    """X/R at which a device of its kind is tested, and what is compared there. ``test_x_r`` in the document wins."""
    rating = e.interrupting_ka or e.short_circuit_ka or 0.0
    if e.kind == "fuse":
        x_r, basis = (4.9, RMS) if voltage_v <= 1000 else (15.0, RMS)
    elif e.kind not in PROTECTIVE:
        x_r, basis = (4.9, PEAK) if voltage_v <= 1000 else (17.0, PEAK)
    elif e.construction == "medium-voltage" or voltage_v > 1000:
        x_r, basis = 17.0, PARTING
    elif e.construction == "power":
        x_r, basis = 6.6, PEAK
    else:
        # molded and insulated case: power factor 0.5 to 10 kA, 0.3 to 20 kA, 0.2 above
        x_r, basis = (1.73 if rating <= 10 else 3.18 if rating <= 20 else 4.9), PEAK
    return (e.test_x_r or x_r), basis


def duty_checks(network: Network, models: Sequence[NodalModel]) -> Mapping[str, Duty]:
    """The duty of every breaker, fuse and contactor, and of switches and panels whose rating is recorded, by id."""
    checked = [e for e in network.elements if e.kind in PROTECTIVE or (e.row.withstands and e.short_circuit_ka)]
    worst = _worst(network, checked, models)
    return {e.id: _judge(network, e, worst.get(e.id)) for e in checked}


def _worst(network: Network, checked: Sequence[Element], models: Sequence[NodalModel]) -> dict[str, _Worst]:
    """The most that any circuit asks of each device, at whichever of its ends."""
    if not models or not checked:
        return {}
    index = models[0].grid.index
    owner = np.array([i for i, e in enumerate(checked) for n in e.ends if n in index], dtype=np.intp)
    at = np.array([index[n] for e in checked for n in e.ends if n in index], dtype=np.intp)
    tests = [test_of(e, network.voltage_of(e)) for e in checked]
    test, basis = np.array([t for t, _ in tests])[owner], np.array([b for _, b in tests])[owner]
    found: dict[str, _Worst] = {}
    for model in models:
        available, x_r = model.bolted[at], model.x_r[at]
        required = available * np.select(
            [basis == b for b in (PEAK, RMS, PARTING)], [multiplier(x_r, test, b) for b in (PEAK, RMS, PARTING)]
        )
        for k in np.flatnonzero(available > 0):
            e = checked[owner[k]]
            if e.id not in found or required[k] > found[e.id].required_ka:
                found[e.id] = _Worst(float(available[k]), float(required[k]), float(x_r[k]), model.circuit.name)
    return found


def _judge(network: Network, e: Element, worst: _Worst | None) -> Duty:
    rating = e.interrupting_ka if e.kind in PROTECTIVE else e.short_circuit_ka
    adequate, reason = _verdict(network, e, rating, worst)
    if worst is None:
        return Duty(adequate, None, rating, reason)
    x_r = worst.x_r if math.isfinite(worst.x_r) else None
    test = test_of(e, network.voltage_of(e))[0]
    return Duty(adequate, worst.available_ka, rating, reason, worst.required_ka, x_r, test)


def _verdict(network: Network, e: Element, rating: float | None, worst: _Worst | None) -> tuple[bool, Sayable]:
    voltage = network.voltage_of(e)
    # a panel's voltage may be left to its equipment class; a device's may not
    if (e.rated_voltage_v is None and e.kind in PROTECTIVE) or (e.rated_voltage_v or math.inf) < voltage:
        return False, say(
            "protection-duty-rated-v-on-a-v-circuit", rated_voltage_v=e.rated_voltage_v or 0, voltage=voltage
        )
    if rating is None:
        return False, say("protection-duty-its-interrupting-rating-is-not-recorded")
    if e.kind == "fuse" and (oversized := too_large(network, e)):
        return False, oversized
    if worst is None:
        return True, say("protection-duty-no-fault-current-reaches-it-in-any")
    does = say("protection-duty-to-interrupt") if e.kind in PROTECTIVE else say("protection-duty-to-withstand")
    if rating < worst.available_ka:
        return False, say(
            "protection-duty-rated-ka-where-ka-is-available",
            does=does,
            rating=rating,
            available_ka=worst.available_ka,
            case=worst.case,
        )
    if rating < worst.required_ka:
        test = test_of(e, voltage)[0]
        return False, (
            say(
                "protection-duty-rated-ka-at-x-r-where-ka",
                does=does,
                rating=rating,
                test=test,
                available_ka=worst.available_ka,
                x_r=worst.x_r,
                required_ka=worst.required_ka,
                case=worst.case,
            )
        )
    raised = (
        say("protection-duty-ka-for-its-x-r", required_ka=worst.required_ka)
        if worst.required_ka > worst.available_ka * 1.005
        else ""
    )
    return True, say(
        "protection-duty-rated-ka-for-ka",
        rating=rating,
        available_ka=worst.available_ka,
        raised=raised,
        case=worst.case,
    )
