"""Do the ratings, impedances and curves of elements make sense? Shape and ranges are checked before, by the schema."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import pairwise

from spinel.core.curves.checks import check_curve
from spinel.core.curves.shapes import UnitCurve
from spinel.core.curves.times import quickest_s
from spinel.core.errors import InputError, Problem, show
from spinel.core.network.document import CURVES, Element, Network
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.windings import windings
from spinel.core.said import Sayable, say
from spinel.core.tables.conductors import conductor

#: A rated winding voltage further from its node's nominal voltage than this is taken for a mistake.
BASE_SLACK = 0.15


def rating_problems(network: Network) -> list[Problem]:
    """Every problem of every element and auxiliary supply."""
    problems = [p for e in network.elements for p in _element(network, e)]
    for enclosure in network.enclosures:
        for supply in enclosure.auxiliary_supplies:
            if supply.isolated_by is not None and supply.isolated_by not in network.by_tag:
                problems.append(
                    Problem(
                        enclosure.id,
                        "auxiliary_supplies.isolated_by",
                        supply.isolated_by,
                        say("ratings-the-tag-of-an-element"),
                    )
                )
    return problems


def _element(network: Network, e: Element) -> Iterator[Problem]:
    if e.isolating and e.row.never_isolates:
        yield Problem(e.tag, "isolating", "true", say("ratings-a-never-isolates", kind_name=e.kind_name))
    if e.kind in SWITCHING and not position_fits(e, e.normal_position):
        yield Problem(e.tag, "normal_position", show(e.normal_position), positions_of(e))
    if e.operated_by and e.kind not in SWITCHING:
        yield Problem(e.tag, "operated_by", e.operated_by, say("ratings-only-what-opens-is-moved-by-others"))
    for name in ("runs_parallel_with", "restrained_by"):
        for other in getattr(e, name):
            if other not in network.by_tag or other == e.tag:
                yield Problem(e.tag, name, other, say("ratings-the-tag-of-another-element"))
    if e.kind in ("cable", "busway", "reactor"):
        yield from _series(network, e)
    if e.kind == "transformer":
        yield from _transformer(network, e)
    if e.normal_state is not None:
        allowed = ("inverter", "battery", "bypass") if e.kind == "ups" else ("running", "stopped")
        if e.normal_state not in allowed:
            yield Problem(e.tag, "normal_state", show(e.normal_state), say("one-of", options=tuple(allowed)))
    if e.kind == "generator":
        yield from _generator(e)
    yield from _curves(network, e)


def _generator(e: Element) -> Iterator[Problem]:
    """Reactances rise from subtransient to synchronous, time constants likewise; support comes with its duration."""
    rising = ("xd_subtransient_pu", "xd_transient_pu", "xd_sync_pu")
    known = [(n, v) for n in rising if (v := getattr(e, n)) is not None]
    for (_, less), (name, more) in pairwise(known):
        if not more >= less:
            yield Problem(e.tag, name, show(more), say("ratings-at-or-above-per-unit-the-reactance", less=less))
    if e.td_subtransient_s is not None and e.td_transient_s is not None and not e.td_transient_s > e.td_subtransient_s:
        allowed = say("ratings-above-td-subtransient-s-s", td_subtransient_s=e.td_subtransient_s)
        yield Problem(e.tag, "td_transient_s", show(e.td_transient_s), allowed)
    if (e.excitation_support_multiple is None) != (e.excitation_support_s is None):
        allowed = say("ratings-support-and-its-duration-come-together")
        yield Problem(e.tag, "excitation_support_s", show(e.excitation_support_s), allowed)


def _series(network: Network, e: Element) -> Iterator[Problem]:
    """Ohms are given, or a cable's follow from size and length; never both zero."""
    if e.resistance_ohm is None and e.reactance_ohm is None:
        try:
            if not e.conductor_size or e.length_m is None:
                raise InputError("resistance_ohm", None, say("ratings-ohms-or-conductor-size-and-length-m"))
            conductor(e.conductor_size, e.conductor, e.conduit, network.site.frequency_hz)
        except InputError as error:
            yield Problem(e.tag, error.field, show(error.value), error.allowed)
    elif e.kind != "reactor" and (e.resistance_ohm is None or e.reactance_ohm is None):
        missing = "resistance_ohm" if e.resistance_ohm is None else "reactance_ohm"
        yield Problem(e.tag, missing, "missing", say("ratings-must-be-given-together-with-the-other"))
    elif not (e.resistance_ohm or e.reactance_ohm):
        yield Problem(
            e.tag,
            "resistance_ohm, reactance_ohm",
            "0, 0",
            say("ratings-zero-impedance-at-least-one-above-0"),
        )
    if e.ohms_at_c is not None and not e.hot_c >= 25:
        yield Problem(e.tag, "hot_c", show(e.hot_c), say("ratings-from-25-c-the-temperature-of-a"))


def _transformer(network: Network, e: Element) -> Iterator[Problem]:
    if len(e.ends) == 3:
        for name in ("impedance_13_pct", "impedance_23_pct"):
            if getattr(e, name) is None:
                yield Problem(e.tag, name, "missing", say("ratings-a-third-windings-impedances-must-be-given"))
    if e.vector_group:
        try:
            found = windings(e.vector_group)
            if len(found) != len(e.ends):
                yield Problem(
                    e.tag, "vector_group", e.vector_group, say("ratings-windings-one-for-each-end", count=len(e.ends))
                )
        except InputError as error:
            yield Problem(e.tag, "vector_group", show(error.value), error.allowed)
    if any(end not in network.node for end in e.ends):
        return
    yield from _bases(e, [network.node[end].nominal_voltage_v for end in e.ends])


def _bases(e: Element, nominal: list[float]) -> Iterator[Problem]:
    """The wrong base is the commonest mistake in transformer data: MVA for kVA, per unit for percent, other volts."""
    if e.rated_voltages_v and len(e.rated_voltages_v) != len(nominal):
        yield Problem(
            e.tag, "rated_voltages_v", show(list(e.rated_voltages_v)), say("ratings-one-voltage-for-each-end")
        )
    elif e.rated_voltages_v:
        for rated, volts in zip(e.rated_voltages_v, nominal, strict=True):
            if abs(rated / volts - 1) > BASE_SLACK:
                allowed = say("ratings-within-of-its-nodes-nominal-voltage-v", base_slack=BASE_SLACK, volts=volts)
                yield Problem(e.tag, "rated_voltages_v", f"{rated:g}", allowed)
    kva = e.rated_kva or math.inf
    if max(nominal) > 1000 and kva < 10:
        allowed = say("ratings-from-10-kva-on-a-v-three", max=max(nominal))
        yield Problem(e.tag, "rated_kva", f"{kva:g}", allowed)
    if kva / (math.sqrt(3) * min(nominal) / 1000) > 200_000:
        allowed = say("ratings-at-v-it-would-carry-more-than", min=min(nominal))
        yield Problem(e.tag, "rated_kva", f"{kva:g}", allowed)
    if (e.impedance_pct or 1) < 0.3:
        yield Problem(e.tag, "impedance_pct", f"{e.impedance_pct:g}", say("ratings-from-0-3-percent-is-meant-not"))


def _curves(network: Network, e: Element) -> Iterator[Problem]:
    for name in CURVES:
        curve = getattr(e, name)
        if curve is None:
            continue
        try:
            check_curve(curve)
            least = 0.25 / network.site.frequency_hz
            if quickest_s(curve) < least:
                raise InputError(
                    "clearing time",
                    quickest_s(curve),
                    say("ratings-from-ms-a-quarter-of-a-cycle", least=least * 1000),
                )
            if name != "zone_curve" and isinstance(curve, UnitCurve) and curve.principle != "definite":
                raise InputError("principle", curve.principle, say("ratings-sees-only-its-own-zone-give-it"))
        except InputError as error:
            yield Problem(e.tag, f"{name}.{error.field}", show(error.value), error.allowed)
    if (e.zone_curve is None) != (not e.zone):
        yield Problem(e.tag, "zone", show(list(e.zone)), say("ratings-zone-and-zone-curve-come-together"))
    for enclosure in e.zone:
        if enclosure not in network.enclosure:
            yield Problem(e.tag, "zone", enclosure, say("ratings-the-id-of-an-enclosure"))


def positions_of(e: Element) -> Sayable:
    """What may be said of its position, in words."""
    return say("ratings-normal-emergency-or-off") if e.kind == "transfer_switch" else say("ratings-open-or-closed")


def position_fits(e: Element, position: str | None) -> bool:
    """Can this kind of switch have that position?"""
    return position in (("normal", "emergency", "off") if e.kind == "transfer_switch" else ("open", "closed"))
