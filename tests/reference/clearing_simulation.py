"""An arc followed to its end by opening one device after the other: written from the standards' text, apart from core.

It reads the JSON document. Currents: nodal equations on a dense matrix, closed devices as a tiny reactance. Times:
IEC 60255-151 and IEEE C37.112 as printed, I²t bands of trips as the document defines them, fuses on log-log lines (the
melting energy of a fuse at a steady current is I²t; a share of its time is a share of that energy). Every element of a
device integrates dt / T(I); below its pickup it starts again (disk and thermal memory are not credited).

What dies away is followed twice over. ``follow`` by the rules that core states (docs/methods/clearing.md): a motor's share
in full until it is gone, devices counting on the least of before and after. ``in_time`` as it happens: motors falling
exponentially, generators by the textbook's three terms, in small steps of time, each current at its middle.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from itertools import pairwise
from typing import Any

import numpy as np

TINY = 1e-7j
#: Constants as printed: IEC 60255-151 table 1 (k, a), IEEE C37.112 table 1 (A, B, p). From memory.
IEC = {"SI": (0.14, 0.02), "VI": (13.5, 1.0), "EI": (80.0, 2.0), "LTI": (120.0, 1.0)}
IEEE = {"MI": (0.0515, 0.1140, 0.02), "VI": (19.61, 0.491, 2.0), "EI": (28.2, 0.1217, 2.0)}


def elements_of(curve: dict[str, Any], amps: float) -> list[float]:
    """Total clearing time of each element of a device at a current, slowest edge of its band; inf below pickup.

    The first element that has picked up sets the least time of those after it.
    """
    kind = curve["type"]
    usual = {"trip": 10.0, "relay": 5.0}.get(kind, 0.0)
    slow = 1 + curve.get("tolerance_pct", usual) / 100
    found = {"trip": _trip, "relay": _relay, "fuse": _fuse}[kind](curve, amps, slow)
    least = 0.0
    for i, time in enumerate(found):
        if time < math.inf:
            found[i] = least = max(time, least)
    return found


def _trip(curve: dict[str, Any], amps: float, slow: float) -> list[float]:
    floor, short, long = curve.get("instantaneous_clearing_s", 0.05), math.inf, math.inf
    if amps >= curve.get("short_pickup_a", math.inf) * slow:
        short = curve["short_delay_s"] * slow
        if curve.get("short_i2t"):
            short = max(short, short * (10 * curve["long_pickup_a"] / amps) ** 2)
    if amps >= curve["long_pickup_a"] * slow:
        long = max(floor, curve["long_delay_s"] * (6 * curve["long_pickup_a"] / amps) ** 2 * slow)
    return [floor if amps >= curve.get("instantaneous_a", math.inf) * slow else math.inf, short, long]


def _relay(curve: dict[str, Any], amps: float, slow: float) -> list[float]:
    instantaneous = inverse = math.inf
    if amps >= curve.get("instantaneous_a", math.inf) * slow:
        instantaneous = curve.get("instantaneous_s", 0.02) + curve["breaker_s"]
    multiple = min(amps / (curve["pickup_a"] * slow), curve.get("flat_above", 20.0))
    if multiple > 1 and curve.get("standard", "ieee") == "iec":
        k, a = IEC[curve["curve"]]
        inverse = curve["dial"] * k / (multiple**a - 1) * slow + curve["breaker_s"]
    elif multiple > 1:
        a, b, p = IEEE[curve["curve"]]
        inverse = curve["dial"] * (a / (multiple**p - 1) + b) * slow + curve["breaker_s"]
    return [instantaneous, inverse]


def _fuse(curve: dict[str, Any], amps: float, slow: float) -> list[float]:
    points = curve["points"]
    time = math.inf if amps < points[0][0] else points[-1][1]
    for (i1, t1), (i2, t2) in pairwise(points):
        if i1 <= amps < i2:
            part = (math.log(amps) - math.log(i1)) / (math.log(i2) - math.log(i1))
            time = math.exp(math.log(t1) + part * (math.log(t2) - math.log(t1)))
    return [time]


#: Small motors: up to 200 kVA at low voltage. When their share is gone, and the time constant of its fall, s (from
#: memory, the longer of what is published).
SMALL_KVA, GONE_S, FALLS_S = 200, (0.1, 0.2), (0.02, 0.06)
EDGES_S = (0.0, 0.002, 0.005, 0.009, 0.014, 0.02, 0.027, 0.035, 0.045, 0.06, 0.08, 0.1, 0.13, 0.17, 0.22, 0.3)


@dataclass
class Stage:
    from_s: float
    until_s: float
    bolted_ka: float
    by: str = ""


@dataclass
class Site:
    """A document with its positions and running sources in one state; strengths at maximum, impedances nominal."""

    document: dict[str, Any]
    positions: dict[str, str] = field(default_factory=dict)
    strength: dict[str, float] = field(default_factory=dict)
    running: dict[str, str] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.volts = {n["id"]: n["nominal_voltage_v"] for n in self.document["nodes"]}
        self.index = {n: i for i, n in enumerate(self.volts)}
        self.gone: dict[str, float] = {}
        self.falls: dict[str, float] = {}
        self.generators: dict[str, dict[str, Any]] = {}
        self.branches: list[tuple[str, int, int, complex]] = []
        self.feeds: dict[str, tuple[int, complex, bool, float]] = {}
        for e in self.document["elements"]:
            self._add(e)
        self.curve = {e["tag"]: e["curve"] for e in self.document["elements"] if "curve" in e}

    def _add(self, e: dict[str, Any]) -> None:
        kind, ends = e["kind"], [self.index[n] for n in e["ends"]]
        own = 100_000 / e["rated_kva"] if "rated_kva" in e else 0.0
        if kind == "transformer":
            z = own * e["impedance_pct"] / 100
            r = z / math.hypot(1, e["x_r"])
            self.branches.append((e["tag"], *ends, complex(r, r * e["x_r"])))
        elif kind == "cable":
            base = (self.volts[e["ends"][0]] / 1000) ** 2 / 100
            self.branches.append((e["tag"], *ends, complex(e["resistance_ohm"], e["reactance_ohm"]) / base))
        elif (
            kind in ("breaker", "switch", "disconnector", "fuse", "contactor")
            and self.positions.get(e["tag"], e["normal_position"]) == "closed"
        ):
            self.branches.append((e["tag"], *ends, TINY))
        elif kind == "transfer_switch":
            at = ends[1] if self.positions.get(e["tag"], e["normal_position"]) == "emergency" else ends[0]
            self.branches.append((e["tag"], at, ends[2], TINY))
        elif kind == "source":
            z = 100 / self.strength.get(e["tag"], e["fault_mva_max"])
            r = z / math.hypot(1, e["x_r_max"])
            self.feeds[e["tag"]] = (ends[0], complex(r, r * e["x_r_max"]), True, math.inf)
        elif kind == "motor":
            x = e["xd_subtransient_pu"] * own
            self.feeds[e["tag"]] = (ends[0], complex(x / e["x_r"], x), False, math.inf)
            large = self.volts[e["ends"][0]] > 1000 or e["rated_kva"] > SMALL_KVA
            self.gone[e["tag"]], self.falls[e["tag"]] = GONE_S[large], FALLS_S[large]
        elif kind == "generator":
            x = e["xd_subtransient_pu"] * own
            self.feeds[e["tag"]] = (ends[0], complex(x / e["x_r"], x), True, math.inf)
            self.generators[e["tag"]] = e
        elif kind in ("inverter", "shore_connection"):
            if self.running.get(e["tag"], e.get("normal_state", "running")) != "running":
                return
            z = complex(0, own / e["fault_multiple"])
            self.feeds[e["tag"]] = (ends[0], z, True, e.get("fault_cease_s", math.inf))

    def fault(
        self, node: str, opened: set[str], weaker: dict[str, float] | None = None
    ) -> tuple[float, dict[str, float], set[str]]:
        """``weaker``: by what the impedance of what feeds is multiplied. Bolted current at a node (kA), amperes through every device, and tags that feed it; what is off is left out."""
        size = len(self.index)
        live = [(t, a, b, z) for t, a, b, z in self.branches if t not in opened]
        part = list(range(size))

        def root(i: int) -> int:
            while part[i] != i:
                part[i] = part[part[i]]
                i = part[i]
            return i

        for _, a, b, _ in live:
            part[root(a)] = root(b)
        at = self.index[node]
        mine = [i for i in range(size) if root(i) == root(at)]
        place = {n: i for i, n in enumerate(mine)}
        y = np.zeros((len(mine), len(mine)), dtype=complex)
        for _, a, b, z in live:
            if a in place:
                i, j = place[a], place[b]
                y[i, i] += 1 / z
                y[j, j] += 1 / z
                y[i, j] -= 1 / z
                y[j, i] -= 1 / z
        feeding = {t for t, (n, _, _, _) in self.feeds.items() if t not in opened and n in place}
        if not any(self.feeds[t][2] for t in feeding):
            return 0.0, {}, set()
        for t in feeding:
            n, z, _, _ = self.feeds[t]
            y[place[n], place[n]] += 1 / (z * (weaker or {}).get(t, 1.0))
        unit = np.zeros(len(mine), dtype=complex)
        unit[place[at]] = 1
        drop = np.linalg.solve(y, unit)
        drop = drop / drop[place[at]]
        total = abs(
            sum(drop[place[self.feeds[t][0]]] / (self.feeds[t][1] * (weaker or {}).get(t, 1.0)) for t in feeding)
        )
        base = {v: 100 / (math.sqrt(3) * v / 1000) for v in set(self.volts.values())}
        names = list(self.volts)
        amps = {
            t: abs((drop[place[a]] - drop[place[b]]) / z) * base[self.volts[names[a]]] * 1000
            for t, a, b, z in live if a in place and t in self.curve
        }  # fmt: skip
        return total * base[self.volts[node]], amps, {t for t in feeding if self.feeds[t][2]}

    def follow(self, node: str, doubted: set[str], part: Any, until_s: float = 2.0) -> list[Stage]:
        """The stages of an arc by the rules. ``part(bolted_ka)``: arcing over bolted current."""
        opened: set[str] = set()
        counted: dict[str, list[float]] = {}
        now, stages = 0.0, []
        while True:
            dead = {t for t, s in self.gone.items() if s <= now + 1e-12}
            bolted, amps, feeding = self.fault(node, opened | dead)
            if not feeding or now > until_s:
                return stages
            least = {t: a * part(bolted) for t, a in amps.items()}
            if set(self.gone) - dead:
                low, off, _ = self.fault(node, opened | set(self.gone))
                least = {t: min(a, off[t] * part(low)) for t, a in least.items()}
            phase = min((s - now for t, s in self.gone.items() if t not in dead), default=math.inf)
            over, now = self._stage(stages, least, feeding, bolted, phase, doubted, counted, opened, now)
            if over:
                return stages

    def in_time(
        self, node: str, doubted: set[str], part: Any, until_s: float = 2.0, motors: bool = True
    ) -> list[Stage]:
        """The stages of an arc as it happens; without ``motors`` none was running."""
        opened: set[str] = set()
        counted: dict[str, list[float]] = {}
        now, stages = 0.0, []
        edges = [*EDGES_S, *(np.linspace(0.32, until_s, 60) if self.generators else [])]
        while True:
            step = next((i for i, t in enumerate(edges) if t > now + 1e-12), len(edges))
            end = edges[step] if step < len(edges) else math.inf
            middle = (edges[step - 1] + end) / 2 if step < len(edges) else math.inf
            dead = {t for t, s in self.falls.items() if not motors or middle > 8 * s}
            weaker = {t: math.exp(middle / s) for t, s in self.falls.items() if t not in dead}
            weaker |= {t: fallen(e, min(middle, until_s)) for t, e in self.generators.items()}
            bolted, amps, feeding = self.fault(node, opened | dead, weaker)
            if not feeding or now > until_s:
                return stages
            counting = {t: a * part(bolted) for t, a in amps.items()}
            over, now = self._stage(stages, counting, feeding, bolted, end - now, doubted, counted, opened, now)
            if over:
                return stages

    def _stage(
        self, stages: list[Stage], amps: dict[str, float], feeding: set[str], bolted: float, phase: float,
        doubted: set[str], counted: dict[str, list[float]], opened: set[str], now: float,
    ) -> tuple[bool, float]:  # fmt: skip
        """One stage: until a device opens, a source ceases, or the phase ends. Is the arc over, and when is it now."""
        soonest: list[tuple[float, str]] = [(self.feeds[t][3] - now, t) for t in feeding]
        rates: dict[str, list[float]] = {}
        for tag, a in amps.items():
            if tag in doubted:
                continue
            times = elements_of(self.curve[tag], a)
            done = counted.get(tag, [0.0] * len(times))
            done = [d if t < math.inf else 0.0 for d, t in zip(done, times, strict=True)]
            counted[tag], rates[tag] = done, times
            soonest += [(max((1 - d) * t, 0.0), tag) for d, t in zip(done, times, strict=True) if t < math.inf]
        wait = min(min(w for w, _ in soonest), phase)
        stages.append(Stage(now, now + wait, bolted))
        if math.isinf(wait):
            return True, now
        for tag, times in rates.items():
            counted[tag] = [d + wait / t if t < math.inf else d for d, t in zip(counted[tag], times, strict=True)]
        opens = {tag for w, tag in soonest if w <= wait * (1 + 1e-9)}
        stages[-1].by = ", ".join(sorted(opens))
        opened |= opens
        return False, now + wait


def fallen(e: dict[str, Any], seconds: float) -> float:
    """By what a generator's impedance has grown: subtransient current over the present one, at its terminals."""
    first, second = 1 / e["xd_subtransient_pu"], 1 / e["xd_transient_pu"]
    multiple = e.get("excitation_support_multiple")
    third = min(multiple, second) if multiple and seconds < e["excitation_support_s"] else 1 / e["xd_sync_pu"]
    now = (
        (first - second) * math.exp(-seconds / e["td_subtransient_s"])
        + (second - third) * math.exp(-seconds / e["td_transient_s"])
        + third
    )
    return first / now
