"""Gear: what may be used today, each item with its history, and the look before use on a tablet."""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from datetime import date
from functools import partial
from typing import Any

from flask import Blueprint, Response, g, redirect, render_template, request, url_for

from spinel.actions import gear, gear_csv, gear_inspection, gear_intervals, kit, people
from spinel.core.errors import InputError, NotFound
from spinel.core.gear.inspection import NUMBER, YES, Challenge, agrees, challenges
from spinel.core.gear.items import OUT, OVERDUE, RETIRED, SOON, UNTESTED, Item, due, state, why_not
from spinel.core.gear.kinds import CATEGORY, CLASS, GROUPS, KINDS, NUMBERS, kind
from spinel.core.isolation.instruments import CATEGORIES, ROMAN
from spinel.core.said import Said, Sayable, joined, say
from spinel.web import forms, verdicts
from spinel.web.addresses import outside
from spinel.web.here import site
from spinel.web.papers import code
from spinel.web.session import act, actor

pages = Blueprint("gear", __name__)
#: What the list is narrowed to, beside the groups of kinds.
SHOWN = ("all", "look-at", "held", "free", *GROUPS, "retired")


def _today() -> date:
    return gear.today(site(), act().at)


@pages.get("/gear")
def page():
    return _page()


def _page(failed: forms.Failed | None = None, report: list[Any] | None = None):
    today, found = _today(), gear.everything(site())
    show = request.args.get("show", "all")
    show = show if show in SHOWN else "all"
    lines = [(i, state(i, today), due(i), rated(i)) for i in found if _shown(i, state(i, today), show)]
    order = {OUT: 0, OVERDUE: 1, UNTESTED: 2, SOON: 3}
    lines.sort(key=lambda line: (order.get(line[1], 4), line[0].number.casefold()))
    return render_template(
        "gear/gear.html", lines=lines, show=show, shown=SHOWN, failed=failed, report=report, kinds=_kinds(),
        answer=verdicts.gear([state(i, today) for i in found]), has_any=bool(found), today=today,
        untold=[i for i in found if not i.retired and state(i, today) == UNTESTED],
    )  # fmt: skip


def _shown(item: Item, now: str, show: str) -> bool:
    if show == "retired" or now == RETIRED:
        return show == "retired" and now == RETIRED
    if show == "look-at":
        return now in (OUT, OVERDUE, UNTESTED, SOON)
    if show in ("held", "free"):
        return bool(item.holder) == (show == "held")
    return show == "all" or item.kind.group == show


def rated(item: Item) -> Sayable:
    """What stands on it, in the order in which it is read."""
    r, parts = item.rating, list[Said]()
    if r.glove_class:
        parts.append(say("gear-rated-class", name=r.glove_class))
    if r.category:
        parts.append(say("gear-rated-category", category=ROMAN[r.category]))
    if r.low_v is not None and r.high_v is not None:
        parts.append(say("gear-rated-range", low_v=r.low_v, high_v=r.high_v))
    elif r.high_v is not None:
        parts.append(say("gear-rated-to", high_v=r.high_v))
    if r.ac or r.dc:
        parts.append(say(f"gear-rated-{'both' if r.ac and r.dc else 'ac' if r.ac else 'dc'}"))
    if r.arc_rating_cal_cm2 is not None:
        parts.append(say("gear-rated-arc", arc_rating_cal_cm2=r.arc_rating_cal_cm2))
    if r.withstand_ka is not None and r.withstand_s is not None:
        parts.append(say("gear-rated-withstand", withstand_ka=r.withstand_ka, withstand_s=r.withstand_s))
    if item.size:
        parts.append(say("gear-size", size=item.size))
    return joined(*parts, between=", ") if parts else ""


def _kinds() -> list[tuple[str, Said]]:
    return [(k.id, say(f"gear-kind-{k.id.replace('_', '-')}")) for k in KINDS.values()]


@pages.get("/gear/find")
def find():
    """What was scanned or typed: the item of that number."""
    return redirect(url_for("gear.item", number=gear.one(site(), request.args.get("number", "")).number))


@pages.get("/gear/new")
def new():
    return _new()


def _new(failed: forms.Failed | None = None):
    chosen = request.values.get("kind", "")
    return render_template(
        "gear/new.html", kinds=_kinds(), chosen=kind(chosen) if chosen in KINDS else None, failed=failed,
        often=gear.how_often(site()).get(chosen), numbers=NUMBERS,
        classes=[(c, c) for c in gear.classes(site())], roman=[(c, ROMAN[c]) for c in CATEGORIES],
        everybody=[(p.login, p.name) for p in people.everybody(site())],
    )  # fmt: skip


@pages.post("/gear/new")
def add():
    def do() -> str:
        gear.may(act())
        chosen = forms.text("kind")
        told = gear.NewItem(
            number=forms.text("number"), kind_id=chosen,
            ratings={f: forms.text(f) for f in (*NUMBERS, CATEGORY, CLASS)},
            currents=tuple(request.form.getlist("currents")), size=forms.text("size"), place=forms.text("place"),
            owner=forms.text("owner"), tag=forms.text("tag"), bought=_maybe_day("bought"),
            in_service=_maybe_day("in_service"), tested=_maybe_day("tested"), certificate=forms.text("certificate"),
        )  # fmt: skip
        return gear.add(act(), told)

    return _post("add", "gear-added", do, _new, lambda number: url_for("gear.item", number=number))


def _maybe_day(name: str) -> date | None:
    return forms.day(name) if forms.text(name) else None


@pages.get("/gear/item/<number>")
def item(number: str):
    return _item(number)


def _item(number: str, failed: forms.Failed | None = None):
    found, today = gear.one(site(), number), _today()
    events = [(e, json.loads(e.detail)) for e in gear.history(site(), found.number)]
    barred: dict[str, Any] = next((d for e, d in events if e.kind == "barred"), {}) if found.barred else {}
    who = actor()
    wrong_press = bool(found.barred) and gear_inspection.may_take_back(site(), found.number, who, g.now)
    return render_template(
        "gear/item.html", item=found, now_=state(found, today), due=due(found), rated=rated(found), events=events,
        failed=failed, answer=verdicts.item(found, today), barred=barred, today=today,
        others=gear.others(site(), found, today) if why_not(found, today) and not found.retired else [],
        everybody=[(p.login, p.name) for p in people.everybody(site())], wrong_press=wrong_press,
        last=gear_inspection.last(site(), found.number), rated_of=rated,
        element=gear.built_into(site(), found),
    )  # fmt: skip


@pages.post("/gear/item/<number>/test")
def test(number: str):
    def do() -> None:
        gear.may(act())
        good = forms.text("result")
        if good not in ("good", "failed"):
            raise InputError("result", good, say("one-of", options=("good", "failed")))
        gear.test(act(), number, forms.day("day"), forms.text("certificate"), forms.text("done_by"),
                  good=good == "good", note=forms.text("note"))  # fmt: skip

    return _of_item(number, "test", "gear-tested", do)


@pages.post("/gear/item/<number>/bar")
def bar(number: str):
    return _of_item(number, "bar", "gear-barred", lambda: gear.bar(act(), number, forms.text("reason")))


@pages.post("/gear/item/<number>/clear")
def clear(number: str):
    return _of_item(number, "clear", "gear-cleared", lambda: gear.clear(act(), number, forms.text("cause")))


@pages.post("/gear/item/<number>/issue")
def issue(number: str):
    def do() -> None:
        kit.issue(act(), number, forms.text("person"), forms.text("job"))

    return _of_item(number, "issue", "gear-issued", do)


@pages.post("/gear/item/<number>/return")
def give_back(number: str):
    return _of_item(number, "return", "gear-returned", lambda: gear.give_back(act(), number, forms.text("place")))


@pages.post("/gear/item/<number>/retire")
def retire(number: str):
    return _of_item(number, "retire", "gear-retired", lambda: gear.retire(act(), number, forms.text("reason")))


def _of_item(number: str, form: str, done: str, do: Callable[[], Any]):
    return _post(form, done, do, partial(_item, number), lambda _: url_for("gear.item", number=number))


def _post(
    form: str, done: str, do: Callable[[], Any], again: Callable[[forms.Failed], Any], to: Callable[[Any], str]
):  # fmt: skip
    """Back on the page, with what was done or what was wrong."""

    def then(result: Any) -> str:
        forms.said(say(done))
        return to(result)

    return forms.attempt(form, do, then, again)


@pages.get("/gear/item/<number>/inspect")
def inspect(number: str):
    return _challenge(gear.one(site(), number), {})


def _challenge(found: Item, answers: Mapping[str, str], failed: forms.Failed | None = None, again: str = ""):
    asked = challenges(found)
    at = next((c for c in asked if c.id not in answers), asked[-1])
    who = actor()
    return render_template(
        "gear/inspect.html", item=found, rated=rated(found), asked=asked, at=at, answers=answers, failed=failed,
        again=again, number=asked.index(at) + 1, why_not=why_not(found, _today()), reader=forms.text("read_by"),
        readers=[(p.login, p.name) for p in people.everybody(site()) if who is None or p.id != who.id], yes=YES,
    )  # fmt: skip


@pages.post("/gear/item/<number>/inspect")
def answer(number: str):
    """One answer more. What is read off and does not agree is read once more before it counts; the last answer, or one
    that is not good, ends the inspection."""
    found = gear.one(site(), number)
    asked = challenges(found)
    answers = {c.id: typed for c in asked if (typed := forms.text(f"a_{c.id}"))}
    last = next((c for c in reversed(asked) if c.id in answers), None)
    if last is None:
        return _challenge(found, {}, forms.Failed("inspect", InputError("a_number", "", say("inspect-answer-each")),
                                                  request.form)), 422  # fmt: skip
    good = agrees(found, last, answers[last.id])
    if not good and last.reads and _to_be_read_again(last):
        kept = {k: v for k, v in answers.items() if k != last.id}
        return _challenge(found, kept, again=answers[last.id]), 422
    if good and len(answers) < len(asked):
        return _challenge(found, answers)

    def then(done: gear_inspection.Inspected) -> str:
        if done.good:
            forms.said(say("gear-inspected"))
        return url_for("gear.item", number=number)

    return forms.attempt(
        "inspect", lambda: gear_inspection.inspect(act(), number, answers, forms.text("read_by")), then,
        lambda failed: _challenge(found, {k: v for k, v in answers.items() if k != last.id}, failed),
    )  # fmt: skip


def _to_be_read_again(challenge: Challenge) -> bool:
    """A slip of the finger bars nothing: the same is asked once more, and then it counts."""
    return challenge.id != NUMBER and not forms.text("read_before")


@pages.post("/gear/item/<number>/mispressed")
def mispressed(number: str):
    return _post(
        "mispressed", "gear-mispressed", lambda: gear_inspection.mispressed(act(), number), partial(_item, number),
        lambda _: url_for("gear.inspect", number=number),
    )  # fmt: skip


@pages.get("/gear/codes")
def codes():
    """Codes to stick on gear: each opens its item."""
    found = [i for i in gear.everything(site()) if not i.retired]
    if not found:
        raise NotFound("gear", "")
    shown = [(i, code(outside(url_for("gear.item", number=i.number)))) for i in found]
    return render_template("papers/gear_codes.html", shown=shown, back=url_for("gear.page"), missing="", sizes=[],
                           pdf="", rated=rated)  # fmt: skip


@pages.get("/gear/export.csv")
def export():
    return Response(
        gear_csv.exported(site()), mimetype="text/csv",
        headers={"Content-Disposition": "attachment; filename=gear.csv"},
    )  # fmt: skip


@pages.post("/gear/import")
def import_():
    file = request.files.get("table")
    try:
        raw = file.read() if file else b""
        text = raw.decode("utf-8")
        report = gear_csv.import_(act(), text)
    except UnicodeDecodeError:
        return _page(forms.Failed("import", InputError("table", "", say("csv-a-text-in-utf-8")), request.form)), 422
    except InputError as error:
        return _page(forms.Failed("import", error, request.form)), 422
    return _page(report=report)


@pages.get("/gear/intervals")
def intervals():
    return _intervals()


def _intervals(failed: forms.Failed | None = None):
    here = gear.how_often(site())
    tested = [(k, often, here[k]) for k in KINDS if (often := gear.by_practice(site()).get(k))]
    return render_template("gear/intervals.html", tested=tested, failed=failed)


@pages.post("/gear/intervals/<kind_id>")
def shorten(kind_id: str):
    def do() -> None:
        gear.may(act())
        months = forms.whole("months") if forms.text("months") else None
        gear_intervals.shorten(act(), kind_id, months, forms.text("reason"))

    return _post(kind_id, "gear-interval-changed", do, _intervals, lambda _: url_for("gear.intervals"))
