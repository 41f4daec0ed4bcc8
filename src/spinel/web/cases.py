"""The cases of the site: in which states of the plant every figure is the worst, what each means, and what none covers.

Of what is published they are read; in a draft they are defined.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from functools import partial
from typing import Any

from flask import Blueprint, render_template, request, url_for

from spinel.actions import draft_publishing, drafting, study_runs
from spinel.core.editing import cases
from spinel.core.editing.cases import CaseSetting
from spinel.core.editing.records import Sheet
from spinel.core.errors import DocumentError, InputError
from spinel.core.network.case_words import CaseGap, FedSo, case_gaps, fed_so, means
from spinel.core.network.check import accept
from spinel.core.network.document import Network
from spinel.core.said import Said, Sayable, say
from spinel.core.study_result import case_of
from spinel.web import draft_figures, forms
from spinel.web.drafting import ceiling, sides
from spinel.web.filters import words
from spinel.web.here import here, published, site
from spinel.web.session import act

pages = Blueprint("cases", __name__)


@pages.before_request
def who_may() -> None:
    """Before anything that was typed is looked at; the actions ask it again."""
    if request.method == "POST":
        drafting.may(act())


@dataclass(frozen=True, kw_only=True)
class CaseShown:
    """``worst``: at how many places it gives the worst figure; None while that is not computed. ``sets``: with the
    words of each; of a draft, to be taken out one by one."""

    id: str
    name: str
    impedances: str
    means: list[Said]
    fed: list[FedSo]
    sets: list[CaseSetting]
    worst: int | None


@pages.get("/study/cases")
def published_ones():
    """As published, with what the last study says of each."""
    network = here().network if published() else None
    last = study_runs.latest(site()) if network else None
    rows: Iterable[Mapping[str, Any]] | None = None
    if last is not None and last.document_hash == here().hash:
        rows = [r for r in study_runs.result(site(), last.result_hash).rows if r["method"]]
    return render_template(
        "network/cases.html", draft=None, failed=None, conflicts=(), problems=[], gaps=_gaps(network),
        shown=_shown(network, [], _counted(r["case"] for r in rows) if rows is not None else None),
        drafts=drafting.drafts(site()), open_case="", study=last, **_choices([]),
    )  # fmt: skip


@pages.get("/network/build/<number>/cases")
def page(number: str):
    return _page(number)


def _page(number: str, failed: forms.Failed | None = None, conflicts: tuple[Any, ...] = ()):
    draft = drafting.draft(site(), number)
    document = draft.document
    network, problems = _network(document)
    rows = draft_figures.studied(draft.text, ceiling()) if network is not None else None
    if failed is not None and isinstance(failed.error, drafting.Conflicted):
        conflicts = failed.error.conflicts
    return render_template(
        "network/cases.html", draft=draft, failed=failed, conflicts=conflicts, problems=problems, gaps=_gaps(network),
        shown=_shown(network, document["cases"],
                     _counted(r["case"] for r in rows if r["cal_cm2"] is not None) if rows is not None else None),
        differences=draft_publishing.differs(site(), number), open_case=request.values.get("c", ""), drafts=[],
        study=None, **_choices(cases.settable(document)),
    )  # fmt: skip


def _network(document: Mapping[str, Any]) -> tuple[Network | None, list[Any]]:
    """None for one that is not acceptable yet, with why."""
    try:
        return accept(dict(document)), []
    except DocumentError as error:
        return None, error.problems


def _gaps(network: Network | None) -> list[CaseGap]:
    return case_gaps(network) if network is not None else []


def _counted(named: Iterable[Sayable]) -> Counter[str]:
    """At how many places each case gives the worst figure. The words of a row begin with the name of its case."""
    return Counter(case_of(n) for n in named)


def _shown(network: Network | None, records: list[dict[str, Any]], worst: Counter[str] | None) -> list[CaseShown]:
    if network is not None:
        # a draft's own record where there is one, in the same order
        sets = [cases.set_in(r) for r in records] or [[] for _ in network.cases]
        return [
            CaseShown(
                id=c.id, name=c.name, impedances=c.impedances, means=means(network, c), fed=fed_so(network, c), sets=s,
                worst=worst[c.name] if worst is not None else None,
            )
            for c, s in zip(network.cases, sets, strict=True)
        ]  # fmt: skip
    return [
        CaseShown(
            id=r["id"], name=r["name"], impedances=r.get("impedances", ""), means=[s.says for s in cases.set_in(r)],
            fed=[], sets=cases.set_in(r), worst=None,
        )
        for r in records
    ]  # fmt: skip


def _choices(settable: list[CaseSetting]) -> dict[str, Any]:
    groups = ("positions", "sources", "settings")
    return {
        "settable": [(group, [s for s in settable if s.group == group]) for group in groups],
        "levels": [(level, say(f"case-level-{level}")) for level in cases.LEVELS],
    }  # fmt: skip


@pages.post("/study/cases")
def begin():
    """A draft of what is published, to define them in."""
    return forms.attempt(
        "begin", lambda: drafting.begin(act()), lambda number: url_for("cases.page", number=number),
        lambda failed: published_ones(),
    )  # fmt: skip


@pages.post("/network/build/<number>/cases")
def change(number: str):
    """One act on the cases of a draft."""
    what, case_id = forms.text("what"), forms.text("case")
    then = {"case": case_id}

    def do(sheet: Sheet) -> Sayable:
        done = _ACTS.get(what)
        if done is None:
            raise InputError("what", what, say("one-of", options=tuple(_ACTS)))
        said, then["case"] = done(sheet, case_id)
        return said

    return forms.attempt(
        f"{what}-{case_id}" if case_id else what,
        lambda: drafting.edit(act(), number, forms.whole("seen"), do, sides()),
        lambda _: url_for("cases.page", number=number, c=then["case"] or None, _anchor=_anchor(then["case"])),
        partial(_page, number),
    )  # fmt: skip


def _anchor(case_id: str) -> str | None:
    return f"case-{case_id}" if case_id else None


def _add(sheet: Sheet, case_id: str) -> tuple[Sayable, str]:
    made = cases.add(sheet, forms.text("name"), forms.text("like"))
    return say("case-added", name=sheet.of("cases", made)["name"]), made


def _cover(sheet: Sheet, case_id: str) -> tuple[Sayable, str]:
    """A case for what none covers; what is covered by now, or is no state of its own, is said so."""
    gap = next((g for g in _gaps(_network(sheet.document)[0]) if g.key == forms.text("gap")), None)
    if gap is None:
        raise InputError("gap", forms.text("gap"), say("case-a-gap-that-is-open"))
    wanted = words().say(say(f"case-name-{gap.kind}", tag=gap.element.tag if gap.element else "",
                             position=gap.positions[0][1] if gap.positions else ""))  # fmt: skip
    made = cases.add_for(sheet, gap, wanted)
    return say("case-added", name=sheet.of("cases", made)["name"]), made


def _name(sheet: Sheet, case_id: str) -> tuple[Sayable, str]:
    cases.change(sheet, case_id, forms.text("name"), forms.text("impedances"))
    return say("case-changed", name=sheet.of("cases", case_id)["name"]), case_id


def _set(sheet: Sheet, case_id: str) -> tuple[Sayable, str]:
    cases.put(sheet, case_id, cases.setting_of(sheet.document, forms.text("setting")))
    return say("case-changed", name=sheet.of("cases", case_id)["name"]), case_id


def _normal(sheet: Sheet, case_id: str) -> tuple[Sayable, str]:
    case = sheet.of("cases", case_id)
    setting = next((s for s in cases.set_in(case) if s.code == forms.text("setting")), None)
    if setting is None:
        raise InputError("setting", forms.text("setting"), say("case-one-that-it-sets"))
    cases.as_normal(sheet, case_id, setting)
    return say("case-changed", name=case["name"]), case_id


def _remove(sheet: Sheet, case_id: str) -> tuple[Sayable, str]:
    return say("case-removed", name=cases.remove(sheet, case_id)), ""


_ACTS: Mapping[str, Callable[[Sheet, str], tuple[Sayable, str]]] = {
    "add": _add, "cover": _cover, "name": _name, "set": _set, "normal": _normal, "remove": _remove,
}  # fmt: skip
