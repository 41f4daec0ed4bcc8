"""Do devices in series open in their order? For a fault beyond a device every device between it and a lasting source is
asked, at each current up to the bolted one: is its fastest time above the slowest of the device nearer the fault?

Which devices are in series follows from the circuit alone (biconnected parts of its graph): those that lie on a simple
path from a lasting source to the device. A device that itself lies in a loop is asked about only as one upstream, since
what it clears alone is nothing. docs/methods/coordination.md tells limits and checks.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

import networkx as nx
import numpy as np

from spinel.core.curves.shapes import (
    Curve,
    FuseCurve,
    RelayCurve,
    ThermalMagneticCurve,
    TripCurve,
    UnitCurve,
)
from spinel.core.curves.times import FAST, SLOW, times_s
from spinel.core.fault.nodal import NodalModel
from spinel.core.network.document import Element
from spinel.core.protection.believed import Device
from spinel.core.protection.trusted import Trusted
from spinel.core.said import Sayable

#: Currents at which a pair is looked at, evenly on a logarithmic scale, beside every step of both curves.
LOOKED = 240
#: An edge is closed in on by so many points, so often: beyond what a number holds.
PIECES, ROUNDS = 32, 8
#: What carries less than this part of what the device does is not asked: it hardly sees the fault.
LEAST_PART = 0.02
#: Two cases whose ratios differ by less are one.
SAME_RATIO = 1e-4
_BESIDE = 1e-9
#: Pairs that keep their order by less are told in a report, s. Common practice, without source.
CLOSE_S = 0.3


@dataclass(frozen=True, kw_only=True)
class SeriesPair:
    """``ratio``: amperes of the upstream device for one of the downstream device, each at its own voltage. Looked at
    from ``from_a`` to ``to_a``, amperes of the downstream device. ``margin_s``: by how much the upstream device is
    slower at the least, negative where it may be first; None where it never trips in the range. ``lost``: stretches of
    current in which it may open first or together."""

    case: Sayable
    downstream: Element
    upstream: Element
    ratio: float
    from_a: float
    to_a: float
    margin_s: float | None
    at_a: float | None
    lost: tuple[tuple[float, float], ...]

    @property
    def kept(self) -> bool:
        return not self.lost

    @property
    def close(self) -> bool:
        """Is it out of order, or so nearly that a report tells it?"""
        return bool(self.lost) or (self.margin_s is not None and self.margin_s < CLOSE_S)


def series_pairs(trusted: Trusted, *, lost_only: bool = False) -> list[SeriesPair]:
    """Every pair of believed devices in series, the worst of the cases in which they are: at the strongest sources,
    whose currents reach over all weaker ones'. The least margin first. ``lost_only``: those that keep their order for
    certain are passed over unworked."""
    if lost_only:
        return lost_pairs(in_series(trusted), Bounds())
    return worst_pairs(pair for s in in_series(trusted) if (pair := compared(s)) is not None)


def lost_pairs(each: Iterable[InSeries], bounds: Bounds) -> list[SeriesPair]:
    """Those that lose their order, the worst first."""
    asked = (s for s in each if not bounds.keep_order(s))
    return worst_pairs(p for s in asked if (p := compared(s)) is not None and not p.kept)


def worst_pairs(pairs: Iterable[SeriesPair]) -> list[SeriesPair]:
    """Of each two devices the worst, the least margin first."""
    worst: dict[tuple[str, str], SeriesPair] = {}
    for pair in pairs:
        key = (pair.downstream.id, pair.upstream.id)
        if key not in worst or _rank(pair) < _rank(worst[key]):
            worst[key] = pair
    return sorted(worst.values(), key=lambda p: (_rank(p), p.downstream.tag, p.upstream.tag))


def in_series(trusted: Trusted) -> Iterator[InSeries]:
    """Every two believed devices in series in any case of the document; of cases alike the one of most current."""
    asked: dict[tuple[str, str, float, bool, bool], float] = {}
    for model in trusted.strongest:
        for chain in _chains(trusted, model):
            yield from _of_chain(chain, asked, model)


def _rank(pair: SeriesPair) -> tuple[bool, float]:
    return pair.kept, pair.margin_s if pair.margin_s is not None else float("inf")


@dataclass(frozen=True, kw_only=True)
class InSeries:
    """Two devices in one case. ``ratio``: as of a SeriesPair. ``to_a``: bolted current just beyond the downstream one,
    A. ``held``: devices that hold back the upstream one's short time when they see the fault, each with its amperes for
    one of the downstream's."""

    case: Sayable
    downstream: Device
    upstream: Device
    ratio: float
    to_a: float
    held: tuple[tuple[Device, float], ...] = ()

    def with_curves(self, curves: Mapping[str, Curve]) -> InSeries:
        """The same with some devices set otherwise, by element."""
        return replace(
            self, downstream=_set(self.downstream, curves), upstream=_set(self.upstream, curves),
            held=tuple((_set(d, curves), r) for d, r in self.held),
        )  # fmt: skip


def _set(device: Device, curves: Mapping[str, Curve]) -> Device:
    """A device at its maintenance setting stays there."""
    curve = curves.get(device.element.id)
    return device if curve is None or device.curve is not device.element.curve else replace(device, curve=curve)


@dataclass(frozen=True)
class _Chain:
    """A device and those upstream of it, nearest first, with the amperes of each for a bolted fault just beyond it."""

    case: Sayable
    device: Device
    amps: float
    upstream: tuple[tuple[Device, float], ...]


def _chains(trusted: Trusted, model: NodalModel) -> Iterator[_Chain]:
    """Of one circuit."""
    found = trusted.believed(model).devices
    devices = {p: d for p, d in found.items() if d.curve is not None}
    below, above = _upstream(model, devices)
    ends = [(p, node) for p, node in below.items() if above[p]]
    if not ends:
        return
    places = sorted(devices)
    row = {p: i for i, p in enumerate(places)}
    names = [model.grid.names[node] for _, node in ends]
    amps = model.faults(names, np.array(places, dtype=np.intp)).branch_ka * 1000
    for column, (p, _) in enumerate(ends):
        own = float(amps[row[p], column])
        if own > 0:
            up = tuple((devices[u], float(amps[row[u], column])) for u in above[p])
            yield _Chain(model.circuit.name, devices[p], own, up)


def _upstream(model: NodalModel, devices: Iterable[int]) -> tuple[dict[int, int], dict[int, list[int]]]:
    """Of each device that is the only way to what lies beyond it: the node there, and the devices on all simple paths
    from lasting sources to it, nearest first. Branches by position in the model."""
    grid, root = model.grid, -1
    between: dict[tuple[int, int], list[int]] = {}
    graph: nx.Graph[int] = nx.Graph()
    for p, branch in enumerate(model.branches.tolist()):
        a, b = int(grid.a[branch]), int(grid.b[branch])
        between.setdefault((min(a, b), max(a, b)), []).append(p)
        graph.add_edge(a, b)
    graph.add_edges_from((root, int(n)) for n in model.injected[model.lasting])
    blocks = [list(edges) for edges in nx.biconnected_component_edges(graph)]
    at: dict[int, list[int]] = {}
    for i, edges in enumerate(blocks):
        for node in {n for edge in edges for n in edge}:
            at.setdefault(node, []).append(i)
    parent: dict[int, int] = {}
    entry: dict[int, int] = {}
    queue = [root] if root in at else []
    while queue:
        node = queue.pop()
        for i in at[node]:
            if i in entry:
                continue
            entry[i] = node
            for other in {n for edge in blocks[i] for n in edge} - {node}:
                parent[other] = i
                queue.append(other)
    wanted = set(devices)
    inside = [[p for a, b in edges for p in between.get((min(a, b), max(a, b)), ()) if p in wanted] for edges in blocks]
    below: dict[int, int] = {}
    above: dict[int, list[int]] = {}
    for i, edges in enumerate(blocks):
        if i not in entry or len(edges) > 1 or len(inside[i]) != 1:
            continue
        (a, b), p = edges[0], inside[i][0]
        if len(between[min(a, b), max(a, b)]) > 1:
            continue
        below[p] = b if entry[i] == a else a
        above[p] = []
        at_node = entry[i]
        while at_node != root:
            block = parent[at_node]
            above[p] += inside[block]
            at_node = entry[block]
    return below, above


def _of_chain(
    chain: _Chain, asked: dict[tuple[str, str, float, bool, bool], float], model: NodalModel
) -> Iterator[InSeries]:
    passed: list[tuple[Device, float]] = [(chain.device, 1.0)]
    for upstream, amps in chain.upstream:
        ratio = amps / chain.amps
        if ratio <= 0 or amps * _volts(model, upstream) < LEAST_PART * chain.amps * _volts(model, chain.device):
            continue
        maintained = model.circuit.maintenance
        key = (chain.device.element.id, upstream.element.id, round(ratio / SAME_RATIO) * SAME_RATIO,
               chain.device.element.id in maintained, upstream.element.id in maintained)  # fmt: skip
        if asked.get(key, 0.0) < chain.amps:
            asked[key] = chain.amps
            held = tuple((d, r) for d, r in passed if d.element.tag in upstream.element.restrained_by)
            yield InSeries(
                case=chain.case, downstream=chain.device, upstream=upstream, ratio=ratio, to_a=chain.amps, held=held
            )  # fmt: skip
        passed.append((upstream, ratio))


class Bounds:
    """A quick look that never says "kept" wrongly: of each device its slowest and fastest times on one scale of
    currents; between two of its marks the downstream device is at most as slow as at the lower, the upstream one at
    least as slow as at the higher, restrained by nobody."""

    STEP, LOW, COUNT = 1.012, 0.5, 1200

    def __init__(self) -> None:
        self.amps = self.LOW * self.STEP ** np.arange(self.COUNT)
        self._slow: dict[Curve, np.ndarray] = {}
        self._fast: dict[Curve, np.ndarray] = {}

    def keep_order(self, pair: InSeries) -> bool:
        below, above, ratio, to_a = pair.downstream.curve, pair.upstream.curve, pair.ratio, pair.to_a
        assert below is not None and above is not None
        from_a = pickup_a(below)
        if from_a is None or not self.amps[1] < from_a <= to_a:
            return from_a is None or from_a > to_a
        first, last = int(np.searchsorted(self.amps, from_a)), int(np.searchsorted(self.amps, to_a))
        shift = int(np.ceil(np.log(ratio) / np.log(self.STEP))) + 1
        if first - 1 + shift < 0 or last + shift >= self.COUNT:
            return False
        if below not in self._slow:
            self._slow[below] = np.maximum.accumulate(times_s(below, self.amps, edge=SLOW)[::-1])[::-1]
        if above not in self._fast:
            self._fast[above] = np.minimum.accumulate(times_s(above, self.amps, restrained=False, edge=FAST))
        slow = self._slow[below][first - 1 : last].copy()
        slow[0] = float(times_s(below, np.array(from_a), edge=SLOW))
        fast = self._fast[above][first - 1 + shift : last + shift]
        return bool((np.isinf(fast) | (fast > slow)).all())


def _volts(model: NodalModel, device: Device) -> float:
    return float(model.network.node[device.element.ends[0]].nominal_voltage_v)


def compared(pair: InSeries) -> SeriesPair | None:
    """Two devices over their whole range. None where the downstream one sees nothing up to its bolted current: then
    there is no order to keep."""
    below, above, ratio, to_a, held = pair.downstream.curve, pair.upstream.curve, pair.ratio, pair.to_a, pair.held
    assert below is not None and above is not None
    from_a = pickup_a(below)
    if from_a is None or from_a > to_a:
        return None
    amps = _currents(below, above, ratio, from_a, to_a, held)
    gap = _gap(pair, amps)
    bad = gap <= 0
    lost = tuple(
        (_edge(pair, amps, first - 1, first), _edge(pair, amps, last, last + 1)) for first, last in _stretches(bad)
    )
    finite = np.isfinite(gap)
    least = int(np.argmin(np.where(finite, gap, np.inf))) if finite.any() else -1
    return SeriesPair(
        case=pair.case, downstream=pair.downstream.element, upstream=pair.upstream.element, ratio=ratio,
        from_a=float(amps[0]),
        to_a=to_a, margin_s=float(gap[least]) if least >= 0 else None, at_a=float(amps[least]) if least >= 0 else None,
        lost=lost,
    )  # fmt: skip


def _gap(pair: InSeries, amps: np.ndarray) -> np.ndarray:
    """Fastest time of the upstream device less the slowest of the downstream one, s; infinite where it never trips,
    minus two hours where the downstream one never does and it does."""
    below, above, ratio, held = pair.downstream.curve, pair.upstream.curve, pair.ratio, pair.held
    assert below is not None and above is not None
    restrained = np.zeros(amps.shape, dtype=bool)
    for device, share in held:
        restrained |= amps * share >= device.restrains_from_a()
    slow = times_s(below, amps, edge=SLOW)
    fast = times_s(above, amps * ratio, restrained=restrained, edge=FAST)
    with np.errstate(invalid="ignore"):
        found = np.where(np.isinf(fast), np.inf, np.where(np.isinf(slow), -7200.0, fast - slow))
    given: np.ndarray = found
    return given


def pickup_a(curve: Curve) -> float | None:
    """From which current a curve trips for certain, A; None for one of fixed time, which no current decides."""
    if isinstance(curve, FuseCurve):
        return curve.points[0][0]
    if isinstance(curve, TripCurve):
        return curve.long_pickup_a * (1 + curve.tolerance_pct / 100)
    if isinstance(curve, ThermalMagneticCurve):
        # just above its rating it takes for ever
        return curve.rated_a * (1 + curve.tolerance_pct / 100) * 1.01
    if isinstance(curve, RelayCurve | UnitCurve):
        return curve.pickup_a * (1 + curve.tolerance_pct / 100) * (1.01 if isinstance(curve, RelayCurve) else 1.0)
    return None


def steps_a(curve: Curve) -> list[float]:
    """Currents at which a curve steps or bends, on either edge."""
    if isinstance(curve, FuseCurve):
        return [a for a, _ in (*curve.points, *curve.melting)]
    tolerance = getattr(curve, "tolerance_pct", 0.0) / 100
    names = ("long_pickup_a", "short_pickup_a", "instantaneous_a", "rated_a", "magnetic_a", "pickup_a")
    set_at = [v for n in names if (v := getattr(curve, n, None)) is not None]
    found = [v * (1 + sign * tolerance) for v in set_at for sign in (-1, 1)]
    if isinstance(curve, RelayCurve):
        found += [curve.pickup_a * (1 + sign * tolerance) * curve.flat_above for sign in (-1, 1)]
    if isinstance(curve, TripCurve) and curve.short_i2t:
        found.append(10 * curve.long_pickup_a)
    return found


def _currents(
    below: Curve, above: Curve, ratio: float, from_a: float, to_a: float, held: Sequence[tuple[Device, float]]
) -> np.ndarray:
    steps = [*steps_a(below), *(a / ratio for a in steps_a(above)), *(d.restrains_from_a() / s for d, s in held)]
    beside = [a * f for a in steps for f in (1 - _BESIDE, 1 + _BESIDE)]
    even = np.geomspace(from_a, to_a, LOOKED).tolist()
    even[0], even[-1] = from_a, to_a
    given: np.ndarray = np.unique([a for a in (*even, *beside) if from_a <= a <= to_a])
    return given


def _stretches(bad: np.ndarray) -> list[tuple[int, int]]:
    """First and last place of each run of yes."""
    edges = np.flatnonzero(np.diff(np.concatenate([[False], bad, [False]]).astype(int)))
    return [(int(a), int(b) - 1) for a, b in zip(edges[::2], edges[1::2], strict=True)]


def _edge(pair: InSeries, amps: np.ndarray, low: int, high: int) -> float:
    """Where between two neighbours it begins or ends, closer and closer; the outermost current where there is no
    neighbour."""
    if low < 0:
        return float(amps[0])
    if high >= len(amps):
        return float(amps[-1])
    a, b = float(amps[low]), float(amps[high])
    ends_bad = bool(_gap(pair, np.array([b]))[0] <= 0)
    for _ in range(ROUNDS):
        # the first of many points that is as the far end is: in few looks, each at all of them
        points = np.concatenate([np.geomspace(a, b, PIECES + 1)[:-1], [b]])
        alike = (_gap(pair, points) <= 0) == ends_bad
        first = int(np.argmax(alike[1:])) + 1
        a, b = float(points[first - 1]), float(points[first])
    return b if ends_bad else a
