"""Labels on the wall: which are wrong and by how much; printing, putting up, looking, taking off; those of others."""

from __future__ import annotations

from typing import Any

from flask import Blueprint, Response, current_app, g, render_template, request, url_for

from spinel.actions import labels
from spinel.actions.acting import utc_text
from spinel.core.errors import InputError, NotFound, Refusal
from spinel.core.labels import (
    FOUND_BOUNDARY,
    FOUND_CATEGORY,
    FOUND_DISTANCE,
    FOUND_ENERGY,
    FOUND_VOLTAGE,
    LabelSays,
)
from spinel.core.said import say
from spinel.core.study import located
from spinel.web import forms
from spinel.web.addresses import outside
from spinel.web.heavy import Heavy
from spinel.web.here import here, site
from spinel.web.label_drawing import (
    READ_AT,
    STOCKS,
    LabelLook,
    SignDrawing,
    Stock,
    as_svg,
    crowded,
    label_drawing,
    letter_mm,
    ruler_mm,
    too_small,
)
from spinel.web.label_sheet import KIND, as_sheet
from spinel.web.paging import paging
from spinel.web.paper_fonts import letters_missing
from spinel.web.session import act
from spinel.web.study import ceiling, scale_of

pages = Blueprint("labels", __name__)
SCALE_PX = 210
SHOWN = ("wrong", "hung", "printed", "none")
SHEETS = ("each", "letter", "a4")
#: As long as a label's number is, before it has one.
NUMBER = "L-0000"


def _at() -> str:
    return utc_text(g.now)


@pages.get("/study/labels")
def page():
    return _page()


def _page(failed: forms.Failed | None = None):
    shown = request.args.get("show", SHOWN[0])
    if shown not in SHOWN:
        raise InputError("show", shown, say("one-of", options=SHOWN))
    every = labels.listed(site(), _at())
    wrong = [x for x in every if x.state == labels.HUNG and x.wrong]
    hung = [x for x in every if x.state == labels.HUNG]
    found: Any = {
        "wrong": wrong, "hung": hung, "printed": [x for x in every if x.state == labels.PRINTED],
        "none": labels.without(site(), _at()) if shown == "none" else [],
    }[shown]  # fmt: skip
    part = paging(len(found))
    return render_template(
        "study/labels.html", found=found[part.first : part.last], part=part, shown=shown, options=SHOWN, wrong=wrong,
        hung=hung, failed=failed,
        for_paper=[x.number for x in every if x.state == labels.PRINTED and x.holds][: labels.MOST_AT_ONCE],
        scale=scale_of(SCALE_PX), ceiling=ceiling(), stocks=STOCKS, stock=_stock(), papers=SHEETS,
        by_tag=here().network.by_tag,
    )  # fmt: skip


@pages.get("/study/labels/of/<element_id>")
def new(element_id: str):
    """What a label here would say, true to size, before it is printed."""
    return _new(element_id)


def _new(element_id: str, failed: forms.Failed | None = None):
    element, touches = here().network.get(element_id), request.values.get("touches", "")
    stock, language = _stock(), _language()
    refused, says = None, None
    try:
        says = labels.would_say(site(), element_id, touches, _at())
    except Refusal as error:
        refused = error
    look = _look(stock, language)
    drawn = _drawn(says, look) if says is not None else None
    letter = letter_mm(drawn) if drawn is not None else 0.0
    return render_template(
        "study/label_new.html", element=element, touches=touches, says=says, refused=refused, stock=stock,
        stocks=_stocks(says) if says is not None else [], language=language, failed=failed,
        sides=labels.sides(here(), element_id),
        drawn=as_svg(drawn) if drawn is not None else None, look=look,
        letter_mm=letter, hanging=[x for x in labels.listed(site(), _at()) if x.element_id == element_id],
        missing=letters_missing(drawn.told if drawn is not None else ""), ruler=ruler_mm(100),
        small=drawn is not None and too_small(drawn), tight=drawn is not None and crowded(drawn),
        reach_mm=letter * READ_AT,
    )  # fmt: skip


def _live(tag: str) -> str:
    """The address of the live card, which the code on the label opens."""
    return outside(url_for("network.by_tag", tag=tag))


def _stock() -> str:
    stock = request.values.get("stock", "") or next(iter(STOCKS))
    if stock not in STOCKS:
        raise InputError("stock", stock, say("one-of", options=tuple(STOCKS)))
    return stock


def _language() -> str:
    return str(here().settings["label_language"])


def _look(stock: str, language: str) -> LabelLook:
    return LabelLook(STOCKS[stock], "" if language == "none" else language, here().profile.written.paper == "letter")


@pages.post("/study/labels/print")
def print_():
    """New labels for the places ticked, each by its element and, behind a blank, its side."""
    element_id = forms.text("element")

    def do() -> str:
        labels.may_print(act())
        picked = [tuple(p.partition(" ")[::2]) for p in request.form.getlist("place")]
        look = _look(_stock(), _language())
        for at, touches in picked:
            # before it has a number: a label that no paper can be made of is none
            _fits(_drawn(labels.would_say(site(), at, touches, _at()), look, NUMBER))
        numbers = labels.print_(act(), [(a, b) for a, b in picked])
        forms.said(say("labels-printed", numbers=tuple(numbers)))
        return ",".join(numbers)

    def again(failed: forms.Failed) -> Any:
        return _new(element_id, failed) if element_id else _page(failed)

    return forms.attempt(
        "print", do, lambda n: url_for("labels.sheet", numbers=n, stock=_stock(), page="each") if "," not in n
        else url_for("labels.page", show="printed", stock=_stock()), again,
    )  # fmt: skip


@pages.get("/study/labels/sheet.pdf")
def sheet():
    """Labels as they were printed, one a sheet of the stock's own size, or as many as fit a sheet of paper."""
    numbers, paper = request.args.get("numbers", ""), request.args.get("page", SHEETS[0])
    if paper not in SHEETS:
        raise InputError("page", paper, say("one-of", options=SHEETS))
    each = labels.for_paper(site(), [n for n in numbers.split(",") if n], _at())
    if not each:
        raise NotFound("label", numbers)
    look, heavy = _look(_stock(), _language()), _heavy()
    drawn = [_drawn(x.says, look, x.number) for x in each]
    for label in drawn:
        _fits(label)
    found = heavy.make(KIND, heavy.key(paper, *map(repr, drawn)), as_sheet, drawn, paper)
    if found is None:
        return render_template("papers/coming.html", number=numbers), 202, {"Refresh": f"2; url={request.full_path}"}
    answer = Response(found, mimetype="application/pdf")
    answer.headers["Content-Disposition"] = 'inline; filename="labels.pdf"'
    return answer


def _drawn(says: LabelSays, look: LabelLook, number: str = "") -> SignDrawing:
    return label_drawing(says, look, _live(says.tag), number)


def _fits(label: SignDrawing) -> None:
    """Refused where nobody could read it, or where nothing would stand in the place of a letter."""
    stock = f"{STOCKS[_stock()].name}, {label.title}"
    if too_small(label):
        raise InputError("stock", stock, say("label-too-small", letter=letter_mm(label)))
    if crowded(label):
        raise InputError("stock", stock, say("label-crowded"))
    missing = letters_missing(label.told)
    if missing:
        raise InputError("name", label.title, say("label-letters-missing", letters=missing))


def _stocks(says: LabelSays) -> list[tuple[str, Stock, bool]]:
    """Each stock, and whether this label can be read on it."""
    drawn = {id_: _drawn(says, _look(id_, _language()), NUMBER) for id_ in STOCKS}
    return [(id_, STOCKS[id_], not (too_small(d) or crowded(d))) for id_, d in drawn.items()]


def _heavy() -> Heavy:
    found: Heavy = current_app.extensions["heavy"]
    return found


@pages.get("/study/labels/<number>")
def one(number: str):
    return _one(number)


def _one(number: str, failed: forms.Failed | None = None):
    seen = labels.one(site(), number, _at())
    look = _look(_stock(), _language())
    printed = seen.origin == "printed"
    drawn = as_svg(_drawn(seen.says, look, number)) if printed else None
    others = [x for x in labels.listed(site(), _at()) if x.state == labels.HUNG and x.number != number
              and (x.element_id, x.touches) == (seen.element_id, seen.touches)]  # fmt: skip
    return render_template(
        "study/label.html", seen=seen, drawn=drawn, look=look, failed=failed, stock=_stock(),
        stocks=_stocks(seen.says) if printed else [], others=others, papers=SHEETS,
        may_hang=labels.HANG, element=here().network.element.get(seen.element_id),
    )  # fmt: skip


@pages.post("/study/labels/<number>/hang")
def hang(number: str):
    def do() -> None:
        labels.may_hang(act())
        place, off = forms.text("place"), forms.text("old_off") == "yes"
        labels.hang(act(), number, forms.whole("version"), place, _picture(), off)
        forms.said(say("label-hung-now", number=number))

    return _attempt("hang", number, do)


@pages.post("/study/labels/<number>/look")
def look(number: str):
    def do() -> None:
        labels.may_hang(act())
        there = forms.text("there")
        if there not in ("yes", "no"):
            raise InputError("there", there, say("one-of", options=("yes", "no")))
        labels.look(act(), number, forms.whole("version"), there == "yes", forms.text("note"), _picture())

    return _attempt("look", number, do)


@pages.post("/study/labels/<number>/off")
def take_off(number: str):
    def do() -> None:
        labels.may_hang(act())
        labels.take_off(act(), number, forms.whole("version"), forms.text("reason"))

    return _attempt("off", number, do)


def _attempt(form: str, number: str, do: Any) -> Any:
    return forms.attempt(form, do, lambda _: url_for("labels.one", number=number), lambda f: _one(number, f))


def _picture() -> bytes:
    """What came with the form; empty where nothing did."""
    file = request.files.get("picture")
    return file.read() if file else b""


@pages.get("/study/labels/found")
def found():
    return _found()


def _found(failed: forms.Failed | None = None):
    each = sorted(located(here().network), key=lambda e: e.tag)
    return render_template(
        "study/label_found.html", failed=failed, elements=[(e.id, f"{e.tag} {e.name}") for e in each],
        element=request.values.get("element", ""),
    )  # fmt: skip


@pages.post("/study/labels/found")
def keep_found():
    """A label that hangs already, as it was found."""

    def do() -> str:
        labels.may_hang(act())
        told = {
            "energy_cal_cm2": _typed(FOUND_ENERGY), "working_distance_mm": _typed(FOUND_DISTANCE),
            "boundary_mm": _typed(FOUND_BOUNDARY), "voltage_v": _typed(FOUND_VOLTAGE),
            "category": _category(), "method": forms.text("method"),
            "day": forms.day("day").isoformat() if forms.text("day") else "",
        }  # fmt: skip
        return labels.found(act(), forms.text("element"), "", told, forms.text("place"), _picture())

    return forms.attempt("found", do, lambda n: url_for("labels.one", number=n), _found)


def _typed(quantity: Any) -> float | None:
    raw = forms.text(quantity.name)
    return quantity.parse(raw, quantity.name) if raw else None


def _category() -> int | None:
    found = _typed(FOUND_CATEGORY)
    if found is not None and found != int(found):
        raise InputError("category", found, FOUND_CATEGORY.allowed)
    return None if found is None else int(found)
