"""Layers of the one-line: each asks its own question of every piece, and answers by the width of a halo, which survives
greyscale, with a word beside it in the table."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

from spinel.actions import drawing_facts
from spinel.actions.site import SiteNow
from spinel.core.network.layout import Drawing
from spinel.core.said import Sayable, say
from spinel.web import draft_figures
from spinel.web.shapes import Shape, rect

#: In the order in which they are offered; the first shows nothing but the state.
LAYERS = ("state", "energy", "fault", "duty", "holds", "age", "voltage")
#: Energies, cal/cm², from which a halo is one step wider: the boundary's, and the usual ratings of kits.
STEPS_CAL_CM2 = (1.2, 8.0, 25.0, 40.0)
STEPS_KA = (5.0, 15.0, 30.0, 50.0)
STEPS_DAYS = (30, 90, 365, 1100)


@dataclass(frozen=True)
class LayerMark:
    """``step``: from 0 (no halo) to 4."""

    step: int
    says: Sayable


def marks(site: SiteNow, name: str, text: str, now: datetime) -> Mapping[str, LayerMark] | None:
    """Of every piece that the layer has something to say of, by id; None while its figures are computed. ``text``: the
    published document."""
    if name == "energy" or name == "fault":
        return _figures(site, name, text)
    made = {"duty": _duty, "holds": _holds, "voltage": _voltage}.get(name)
    if made is not None:
        return made(site)
    return _age(site, now) if name == "age" else {}


def _step(value: float, steps: tuple[float, ...]) -> int:
    return sum(value >= s for s in steps)


def _figures(site: SiteNow, name: str, text: str) -> Mapping[str, LayerMark] | None:
    rows = draft_figures.studied(text, site.ceiling_cal_cm2)
    if rows is None:
        return None
    found = {}
    for element_id, row in draft_figures.worst_by_element(rows).items():
        if row["cal_cm2"] is None:
            # nobody knows how bad it is: shown as the worst
            found[element_id] = LayerMark(4, say("layer-no-figure"))
        elif name == "energy":
            found[element_id] = LayerMark(
                max(1, _step(row["cal_cm2"], STEPS_CAL_CM2)), say("layer-energy", energy=row["cal_cm2"])
            )
        else:
            found[element_id] = LayerMark(max(1, _step(row["ka"], STEPS_KA)), say("layer-fault", ka=row["ka"]))
    return found


def _duty(site: SiteNow) -> Mapping[str, LayerMark]:
    return {
        i: LayerMark(0 if d.adequate else 4, say("layer-duty-holds") if d.adequate else d.reason)
        for i, d in site.study.duty.items()
    }


def _holds(site: SiteNow) -> Mapping[str, LayerMark]:
    return {i: LayerMark(3, say("layer-holds", names=names)) for i, names in drawing_facts.holds(site).items()}


def _voltage(site: SiteNow) -> Mapping[str, LayerMark]:
    network = site.network
    levels = sorted({n.nominal_voltage_v for n in network.nodes})
    place = {v: min(4, i) for i, v in enumerate(levels)}
    found = {}
    for e in network.elements:
        volts = network.voltage_of(e)
        found[e.id] = LayerMark(place[volts], say("voltage", voltage_v=volts, current=network.node[e.ends[0]].current))
    return found


def _age(site: SiteNow, now: datetime) -> Mapping[str, LayerMark]:
    found = {}
    for element_id, days in drawing_facts.ages_days(site, now).items():
        if days is None:
            found[element_id] = LayerMark(4, say("layer-never-seen"))
        else:
            found[element_id] = LayerMark(_step(days, STEPS_DAYS), say("layer-seen", days=days))
    return found


def halos(drawing: Drawing, found: Mapping[str, LayerMark]) -> tuple[Shape, ...]:
    """Around every symbol that has a step; wider is more."""
    shapes = []
    for s in drawing.symbols:
        mark = found.get(s.element_id)
        if mark is not None and mark.step:
            b, out = s.box, 2 + 2.5 * mark.step
            shapes.append(rect(f"halo h{mark.step}", b.x - out, b.y - out, b.w + 2 * out, b.h + 2 * out))
    return tuple(shapes)
