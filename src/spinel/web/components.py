"""Every component in every state on one page, for whoever works on the look. Served in development only."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from flask import Blueprint, render_template
from markupsafe import Markup
from werkzeug.datastructures import MultiDict

from spinel.actions import equipment
from spinel.core import texts
from spinel.core.editing.merge import Conflict
from spinel.core.editing.plates import plate
from spinel.core.errors import InputError, NotFound, Refusal
from spinel.core.isolation.able import figures
from spinel.core.network.document import Network
from spinel.core.network.kinds import KIND, KINDS
from spinel.core.network.layout import Box, Symbol
from spinel.core.said import say
from spinel.web import plate_forms
from spinel.web.drawing import one_line
from spinel.web.forms import Failed
from spinel.web.here import here
from spinel.web.paging import ROWS, Paging
from spinel.web.shapes import WIRE, drawn
from spinel.web.symbols import symbol
from spinel.wording.working import working

pages = Blueprint("components", __name__)
ASSUMED_NOW = {"from": "assumed"}
POSITIONS = ("closed", "open", "withdrawn", "unknown")
THROWS = ("normal", "emergency", "off", "automatic", "unknown")


@dataclass(frozen=True)
class Pictured:
    """A symbol as it stands on the one-line, with what it is and where it stands."""

    kind: str
    position: str
    shapes: Markup


@pages.get("/components")
def page():
    """The page; NotFound before a network was published, for plates and figures are those of a real site."""
    site = here()
    worst = _worst(site.network)
    found = equipment.card(site.site, worst, "", None)
    element = site.network.element[worst]
    rule, why = say("step-rules-every-pair-is-tested"), say("box-nobody-has-taken-over-the-box-yet")
    refused = Refusal(rule, why, say("step-rules-tag-it"))
    return render_template(
        "components/components.html", states=tuple(WIRE), symbols=tuple(_symbols()), element=element,
        hazard=found.hazard, data=found.hazard.data, groups=working(found.hazard.data["energy"]),
        figures=figures(site.study, element), drawing=one_line(site), tags_of=[e.tag for e in site.network.elements],
        none_failed=None, wrong=_failed(InputError("reason", "a", texts.REASON.allowed)), refused=_failed(refused),
        part=Paging(ROWS, 3 * ROWS), conflicts=(Conflict("elements", "x", element.tag, "rated_a", 400, 600, 800),),
        plate_rows=plate_forms.shown("breaker", plate("breaker"), {"rated_a": 400, "basis": {"rated_a": ASSUMED_NOW}}),
    )  # fmt: skip


def _worst(network: Network) -> str:
    """Whatever has a figure and several sides: a device of the network that can be opened."""
    study = here().study
    for element in network.elements:
        if element.row.switches and study.hazard(element.id).energy is not None:
            return element.id
    raise NotFound("equipment", "with a figure")


def _failed(error: InputError | Refusal) -> Failed:
    return Failed("shown", error, MultiDict({"reason": "a", "title": "Tighten", "choice": "b", "several": "b"}))


def _symbols() -> Iterator[Pictured]:
    for kind in KINDS:
        of_kind = THROWS if kind == "transfer_switch" else POSITIONS if KIND[kind].switches else ("",)
        for position in of_kind:
            plain = symbol(_placed(kind), position, locked=False, grounded=False, off_normal=False)
            yield Pictured(kind, position, drawn(plain))
    marked = symbol(_placed("breaker"), "open", locked=True, grounded=True, off_normal=True)
    yield Pictured("breaker", "open", drawn(marked))


def _placed(kind: str) -> Symbol:
    """In its own size, with room around it for everything that can hang on it: 78 by 66."""
    width, height = KIND[kind].size
    return Symbol("shown", kind, Box(39 - width / 2, 33 - height / 2, width, height))
