"""What `spinel fault` prints: the fault currents at a piece of equipment in one case, with units and sources.

Core computes and never formats; the sentences of the report stand here.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

from spinel.core.errors import InputError, NotFound
from spinel.core.fault.asymmetry import asymmetrical_ka, peak_ka
from spinel.core.fault.nodal import SOURCE, NodalModel
from spinel.core.fault.point_to_point import compare
from spinel.core.fault.unbalanced import fault_currents
from spinel.core.network.circuit import in_case
from spinel.core.network.document import Network
from spinel.wording.words import Words


def fault_report(network: Network, tag: str, words: Words, case: str | None = None) -> Iterator[str]:
    """Lines for the far end of the element with this tag; NotFound for a tag or case that is not there."""
    if tag not in network.by_tag:
        raise NotFound("equipment", tag)
    chosen = next((c for c in network.cases if case is None or case in (c.id, c.name)), None)
    if chosen is None:
        raise NotFound("case", case)
    model = NodalModel(network, in_case(network, chosen))
    node = network.by_tag[tag].ends[-1]
    found = model.fault(node)
    ka, x_r = found.bolted_fault_current_ka, found.x_r
    where = f"{tag}, node {node}, {found.node.nominal_voltage_v:g} V"
    yield f"{where}, case {chosen.name} ({_taken(network, model)})"
    yield f"three-phase bolted fault current  {ka:.3f} kA symmetrical rms, X/R {x_r:.2f}  ({SOURCE})"
    yield f"  first half cycle                {_asymmetrical(ka, x_r)}"
    other = fault_currents(model, node)
    yield f"line-to-line                      {other.line_to_line_ka:.3f} kA"
    ground = f"{other.line_to_ground_ka:.3f} kA" if other.line_to_ground_ka is not None else "no figure"
    yield f"line-to-ground                    {ground}" + (f"  ({words.say(other.lacking)})" if other.lacking else "")
    yield "fed by"
    for e, share in sorted(found.contributions, key=lambda c: -c[1]):
        if share > ka * 1e-4:
            yield f"  {e.tag:<16}  {share:.3f} kA"
    yield from _by_hand(model, node, words)


def _taken(network: Network, model: NodalModel) -> str:
    """Which strength of supply and which impedances were taken: two things, and a case may mix them."""
    sources = [e for e in network.elements if e.kind == "source"]
    weak = [e.tag for e in sources if e.id in model.circuit.weak]
    strength = "supply at maximum" if not weak else "supply at minimum" if len(weak) == len(sources) else (
        f"{', '.join(weak)} at minimum, the rest at maximum")  # fmt: skip
    level = {"maximum": "cold conductors, tolerance taken off", "minimum": "hot conductors, tolerance added"}
    return f"{strength if sources else 'no utility'}; {level.get(model.circuit.level, 'nominal impedances')}"


def _asymmetrical(ka: float, x_r: float) -> str:
    if not math.isfinite(x_r) or x_r > 1000:
        return "no figure: no resistance on the way"
    return f"{asymmetrical_ka(ka, x_r):.3f} kA asymmetrical rms, crest {peak_ka(ka, x_r):.3f} kA"


def _by_hand(model: NodalModel, node: str, words: Words) -> Iterator[str]:
    try:
        hand = compare(model, node)
    except InputError as error:
        yield f"point to point: none ({words.error(error)})"
        return
    yield f"point to point from {hand.source}"
    for tag, leg in hand.legs:
        for line in leg.lines:
            what = f"{words.say(line.what)}: {words.say(line.formula)} = {line.result:.5g} {line.unit}"
            yield f"  {tag:<16}  {what}".rstrip()
    more = hand.nodal_ka - hand.by_hand_ka
    yield f"  result            {hand.by_hand_ka:.3f} kA; the nodal solution has {more:+.3f} kA:"
    for why, part in hand.explained:
        yield f"    {part:+.3f} kA  {words.say(why)}"
