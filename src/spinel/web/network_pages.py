"""Network: the one-line with the hazard card beside it."""

from __future__ import annotations

import base64
import re
from collections import Counter
from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path
from typing import Any

from flask import Blueprint, Response, current_app, g, redirect, render_template, request, url_for

from spinel.actions import drawing_facts, equipment, jobs, network, operation, people, revisions
from spinel.actions.acting import Actor
from spinel.actions.figures import document_text
from spinel.actions.site import SiteNow
from spinel.core.errors import InputError, NotFound
from spinel.core.hazard import Hazard
from spinel.core.isolation.able import figures
from spinel.core.network.document import Element, Network
from spinel.core.network.folding import foldable, folded
from spinel.core.network.now import position_words
from spinel.core.quantities import WORKING_DISTANCE_MM
from spinel.core.said import Said, Sayable, say
from spinel.web import filters, forms, layers, verdicts
from spinel.web.drawing import OneLine, one_line
from spinel.web.here import here, site
from spinel.web.plan import plan
from spinel.web.session import act, actor
from spinel.wording.working import working

pages = Blueprint("network", __name__)
RECORDED = say("network-pages-recorded-what-you-found")


@pages.get("/network")
def page():
    return _page(request.args.get("e", ""))


#: States in which the drawing is shown, beside those after a step of a program.
NOW, NORMAL = "now", "normal"


def _page(element_id: str, failed: forms.Failed | None = None):
    now = here()
    card = _card(element_id) if element_id else None
    counts = Counter(now.liveness.elements.values())
    return render_template(
        "network/network.html", answer=verdicts.network(now, counts), failed=failed, **_view(), **(card or {}),
    )  # fmt: skip


def _view() -> dict[str, Any]:
    """How the one-line is asked for, in the address: in which state, with which layer, which boards folded."""
    now, asked = here(), request.args
    layer = asked.get("layer", "")
    layer = layer if layer in layers.LAYERS else layers.LAYERS[0]
    state = asked.get("state", NOW)
    shown = _in_state(state)
    boards = foldable(now.network)
    wanted = _folded(now.network, frozenset(b.id for b in boards), asked.getlist("fold"), asked.get("e", ""))
    marks = layers.marks(shown, layer, revisions.text_of(site(), now.hash), g.now) if layer != "state" else {}
    return {
        "drawing": one_line(shown, wanted, marks), "layer": layer, "layer_names": layers.LAYERS, "state": state,
        "boards": boards, "fold": wanted, "marks": marks, "shown_site": shown,
        "programs": drawing_facts.programs_with_steps(site()),
        "kept": [(k, v) for k in ("layer", "state", "fold") for v in asked.getlist(k) if v],
    }  # fmt: skip


#: A network of more pieces is shown folded at first: whole, nothing of it could be read.
FOLDED_FROM = 250


def _folded(network: Network, boards: frozenset[str], asked: list[str], chosen: str) -> frozenset[str]:
    """Boards to fold: those asked for, ``all`` or ``none``; what is chosen never hides in a fold."""
    large = not asked and len(network.elements) > FOLDED_FROM
    wanted = boards if large or "all" in asked else boards & set(asked)
    while wanted and chosen in (hidden := folded(network, wanted).hidden):
        wanted -= {hidden[chosen]}
    return wanted


def _in_state(state: str) -> SiteNow:
    if state == NORMAL:
        return drawing_facts.in_normal(site())
    number, _, step = state.partition("@")
    if step.isascii() and step.isdigit() and len(step) < 4:
        return drawing_facts.after_step(site(), number, int(step))
    return here()


@pages.get("/network/drawing.svg")
def drawing_svg():
    """The drawing as a file, with its styles and fonts in it; text stays text."""
    page = render_template("network/drawing.svg", **_view(), styles=drawing_styles())
    head = {"Content-Disposition": 'attachment; filename="one-line.svg"', "Content-Security-Policy": _ALONE}
    return Response(page, mimetype="image/svg+xml", headers=head)


#: Of a file that is looked at by itself: its own styles and fonts, and nothing else.
_ALONE = "default-src 'none'; style-src 'unsafe-inline'; font-src data:"
_STATIC = Path(__file__).with_name("static")


@pages.get("/network/find")
def find():
    """The piece with a tag, however it is written, with the card beside the drawing."""
    wanted = " ".join(request.args.get("tag", "").split()).casefold()
    found = next((e for e in here().network.elements if e.tag.casefold() == wanted), None)
    if found is None:
        raise NotFound("equipment", request.args.get("tag", ""))
    return redirect(url_for("network.page", e=found.id))


#: Sheets of style that a drawing needs.
DRAWN = ("oneline", "network", "building")


def _css(*names: str) -> str:
    return "\n".join((_STATIC / "css" / f"{name}.css").read_text() for name in names)


def drawing_asked() -> OneLine:
    """The drawing as the address asks for it."""
    found: OneLine = _view()["drawing"]
    return found


@lru_cache(maxsize=4)
def printed_styles(*names: str) -> str:
    """Styles of a drawing (``names``: of these sheets, none: of the one-line) for a printed sheet, whose renderer knows
    no variables and gives a drawing only the styles that it brings."""
    text = _css(*(names or DRAWN))
    root = re.search(r":root\s*{(.*?)}", (_STATIC / "css" / "tokens.css").read_text(), re.S)
    values = dict(re.findall(r"--([\w-]+):\s*([^;]+);", root[1])) if root else {}
    text = re.sub(r"@media[^{]*{(?:[^{}]*{[^{}]*})*[^{}]*}", "", text)
    return re.sub(r"var\(--([\w-]+)\)", lambda m: values.get(m[1], "#171935"), text)


@lru_cache(maxsize=1)
def drawing_styles() -> str:
    """The styles of a drawing, with the fonts themselves in place of their addresses."""
    text = "\n".join(
        (_STATIC / "css" / f"{name}.css").read_text() for name in ("tokens", "oneline", "network", "building")
    )
    for font in (_STATIC / "fonts").glob("*.woff2"):
        inside = "data:font/woff2;base64," + base64.b64encode(font.read_bytes()).decode()
        text = text.replace(f"url(../fonts/{font.name})", f"url({inside})")
    return text


@pages.get("/network/card/<element_id>")
def card(element_id: str):
    """The card alone, for htmx."""
    return render_template("network/_card.html", **_card(element_id))


def _card(element_id: str) -> dict[str, object]:
    touches = request.args.get("touches", "")
    typed = request.args.get("distance_mm", "").strip()
    problem: Sayable = ""
    distance = None
    if typed:
        try:
            distance = WORKING_DISTANCE_MM.parse(typed)
        except InputError as error:
            problem = say("forms-not-accepted", allowed=error.allowed)
    found = equipment.card(site(), element_id, touches, distance)
    data = found.hazard.data
    who = actor()
    return {
        "why_not_start": jobs.why_not(who).get("start", "") if who else "",
        "says": verdicts.card(found.element, data, here().profile.threshold),
        "sides": [(s.touches, s.reach) for s in found.sides],
        "rows": _sides(found), "card": found, "hazard": data, "touches": found.hazard.touches, "typed_distance": typed,
        "distance_problem": problem, "plan": plan(data, filters.words().spoken(plan_words(data))),
        "findable": [(v, position_words(v)) for v in equipment.findable(found.element)],
        **(_operation(found.element, who) if who and found.element.row.switches else {}),
        "everybody": [(p.id, p.name) for p in people.everybody(site())] if found.device.tripped else [],
        "working": working(data["energy"]) if data["energy"] else [],
        "fault_by_voltage": _highest_by_voltage(found),
        "boundary_working": working(data["boundary"]) if _differs(data) else [],
    }  # fmt: skip


def _operation(element: Element, who: Actor) -> dict[str, object]:
    """What the form for one operation needs; only for those who may order one."""
    if "director" not in who.roles:
        return {}
    asked = operation.asked(site(), element.id)
    return {
        "orders": [(to, position_words(to)) for to, why in asked if why is None],
        "forbidden": [(position_words(to), why) for to, why in asked if why is not None],
        "dark": [e.tag for e in operation.goes_dark(here(), element)],
        "operators": [(p.id, p.name) for p in people.everybody(site()) if "operator" in p.roles and p.id != who.id],
        "figures": figures(here().study, element),
    }


def _sides(found: equipment.Card) -> list[tuple[list[Hazard], Hazard]]:
    """Sides of the card, the worst first; those that are alike share a row."""
    rows: dict[tuple[object, ...], list[Hazard]] = {}
    for side in found.sides:
        device = side.energy.clearing.device if side.energy else None
        like = (side.energy_cal_cm2, side.boundary_mm, side.no_figure, device, side.inside_restricted)
        rows.setdefault(like, []).append(side)
    return [(alike, alike[0]) for alike in rows.values()]


def _highest_by_voltage(found: equipment.Card) -> list[tuple[float, float]]:
    """Highest bolted fault current at each voltage of the element's ends."""
    nodes = here().network.node
    highest: dict[float, float] = {}
    for node, ka in found.hazard.fault_currents_ka.items():
        volts = nodes[node].nominal_voltage_v
        highest[volts] = max(ka, highest.get(volts, 0.0))
    shown = found.hazard.energy.fault["bolted_fault_current_ka"] if found.hazard.energy else None
    # the worst case of the arc stands on a line of its own
    return sorted(((v, ka) for v, ka in highest.items() if shown is None or abs(ka - shown) >= 0.05), reverse=True)


def _differs(data: Mapping[str, Any]) -> bool:
    """Is the boundary's worst figure another one than the energy's?"""
    if not data["boundary"]:
        return False
    return any(data["boundary"][k] != data["energy"][k] for k in ("case", "current", "node"))


def plan_words(data: Mapping[str, Any]) -> dict[str, Sayable]:
    """The dimension texts of the plan, of the distances that there are."""
    a = data["approach"]
    known = {
        "restricted": ("network-pages-m-restricted-shock", "restricted_mm", a["restricted_mm"]),
        "working": ("network-pages-mm-working-distance", "working_distance_mm", data["working_distance_mm"]),
        "limited": ("network-pages-m-limited-shock", "limited_fixed_mm", a["limited_fixed_mm"]),
        "boundary": ("network-pages-m-arc-flash-boundary", "boundary_mm", data["boundary_mm"]),
    }
    return {key: say(code, **{name: mm}) for key, (code, name, mm) in known.items() if mm}


@pages.post("/network/found/<element_id>")
def found(element_id: str):
    value, note = forms.text("value"), forms.text("note")
    return forms.attempt(
        "found",
        lambda: network.report_found(act(), element_id, value, note),
        lambda touched: _told(element_id, touched),
        lambda failed: _page(element_id, failed),
    )


@pages.post("/network/operate/<element_id>")
def operate(element_id: str):
    operator = next(iter(forms.people_ids("operator")), 0)
    return forms.attempt(
        "operate",
        lambda: operation.operate(act(), element_id, forms.text("to"), operator, forms.text("informed")),
        lambda touched: _told(element_id, touched, say("operation-done")),
        lambda failed: _page(element_id, failed),
    )


@pages.post("/network/look/<element_id>")
def look(element_id: str):
    return forms.attempt(
        "look",
        lambda: operation.look(act(), element_id, forms.text("seen")),
        lambda touched: _told(element_id, touched, say("operation-looked-at")),
        lambda failed: _page(element_id, failed),
    )


@pages.post("/network/emergency/<element_id>")
def emergency(element_id: str):
    zone = here().network.site.time_zone
    return forms.attempt(
        "emergency",
        lambda: network.opened_in_emergency(
            act(), element_id, forms.text("by"), forms.moment("when", zone), forms.text("note")
        ),
        lambda found: _told(element_id, found[1], say("network-pages-the-emergency-is-recorded", lost=tuple(found[0]))),
        lambda failed: _page(element_id, failed),
    )


@pages.post("/network/inspected/<element_id>")
def inspected(element_id: str):
    cause = forms.text("cause")
    return forms.attempt(
        "inspected",
        lambda: network.inspected(act(), element_id, cause, next(iter(forms.people_ids("inspected_by")), 0)),
        lambda _: _told(element_id, [], say("network-pages-the-inspection-is-recorded")),
        lambda failed: _page(element_id, failed),
    )


@pages.post("/network/correct/<element_id>")
def correct(element_id: str):
    value, reason = forms.text("value"), forms.text("reason")
    return forms.attempt(
        "correct",
        lambda: network.correct(act(), element_id, value, reason),
        lambda touched: _told(element_id, touched, say("network-pages-the-correction-is-recorded")),
        lambda failed: _page(element_id, failed),
    )


def _told(element_id: str, touched: list[str], what: Said = RECORDED) -> str:
    forms.said(say("network-pages-stopped-or-suspended", what=what, touched=touched) if touched else what)
    return url_for("network.page", e=element_id)


@pages.get("/network/revision/<revision_hash>.json")
def document(revision_hash: str):
    """The published document, word for word."""
    answer = current_app.response_class(document_text(revision_hash), mimetype="application/json")
    answer.headers["Content-Disposition"] = f'attachment; filename="network-{revision_hash[:12]}.json"'
    return answer


@pages.get("/network/tag/<tag>")
def by_tag(tag: str):
    """The card of the equipment with this tag; every number on a permit links here."""
    element = here().network.by_tag.get(tag)
    if element is None:
        raise NotFound("equipment", tag)
    return redirect(url_for("network.page", e=element.id))
