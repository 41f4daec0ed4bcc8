"""Revisions of the network: which there were, what differs between two, and what publishing a document would do."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Any

from flask import Blueprint, current_app, redirect, render_template, request, url_for

from spinel.actions import revisions
from spinel.actions.figures import document_text
from spinel.actions.revisions import Published
from spinel.core.errors import DocumentError, InputError, NotFound
from spinel.core.hazard import Study
from spinel.core.network.differences import Difference
from spinel.core.network.document import read_network
from spinel.core.profile import profile
from spinel.core.said import say
from spinel.core.study import SiteStudy
from spinel.core.study_compare import moved
from spinel.web import forms, verdicts
from spinel.web.heavy import Heavy, Tell
from spinel.web.here import here, published, site
from spinel.web.session import act
from spinel.wording.words import words_of

pages = Blueprint("revisions", __name__)
KIND, PATIENCE_S = "json", 1.0
#: Wide and high, of the line between what a figure was and what it is.
WIDE = 200


@pages.get("/network/revisions")
def page():
    return _page()


def _page(failed: forms.Failed | None = None, problems: DocumentError | None = None):
    return render_template(
        "network/revisions.html", revisions=revisions.published(site()), drafts=revisions.drafts_kept(site()),
        names=site().names(), failed=failed, problems=problems.problems if problems else (),
    )  # fmt: skip


@pages.post("/network/drafts")
def look_at():
    """A document is handed in: not to be published yet, but to see what that would do."""
    file = request.files.get("document")
    try:
        text = (file.read() if file else b"").decode("utf-8-sig")
    except UnicodeDecodeError:
        wrong = InputError("document", file.filename or "" if file else "", say("revisions-a-text-in-utf-8"))
        return _page(forms.Failed("draft", wrong, request.form)), 422
    try:
        made = revisions.keep_draft(act(), text)
    except DocumentError as error:
        return _page(problems=error), 422
    return redirect(url_for("revisions.draft", name=made.hash))


@pages.get("/network/compare")
def compare():
    """Two published revisions, by their numbers."""
    old, new = _numbered("old"), _numbered("new")
    return _compared(_Two(old, new.hash, str(new.number), document_text_of(new.hash)))


def _numbered(name: str) -> Published:
    typed = request.args.get(name, "")
    if not (typed.isascii() and typed.isdigit() and len(typed) < 9):
        raise NotFound("network revision", typed)
    return revisions.of_number(site(), int(typed))


def document_text_of(revision_hash: str) -> str:
    with site().connection():
        return document_text(revision_hash)


@dataclass(frozen=True)
class _Two:
    """``old``: None where nothing is published yet. ``number``: of the new one; empty for a draft."""

    old: Published | None
    name: str
    number: str
    document: str


@pages.get("/network/drafts/<name>")
def draft(name: str):
    return _draft(name)


def _draft(name: str, failed: forms.Failed | None = None):
    found = revisions.draft(site(), name)
    two = _Two(_latest(), found.hash, "", found.document)
    return _compared(two, draft=True, effects=revisions.effects(site(), found.document), failed=failed)


def _latest() -> Published | None:
    return next(iter(revisions.published(site())), None)


def _compared(
    two: _Two,
    draft: bool = False,
    effects: revisions.Effects | None = None,
    failed: forms.Failed | None = None,
):
    before = revisions.document_of(site(), two.old.hash) if two.old else None
    found = revisions.compared(site(), before, json.loads(two.document))
    figures = _figures(two)
    return render_template(
        "network/compare.html", two=two, changes=found, draft=draft, effects=effects, failed=failed,
        answer=verdicts.compared(found, figures, effects), names=site().names(),
        groups=_by_group(found), figures=figures, again=_again(two),
    )  # fmt: skip


def _by_group(found: tuple[Difference, ...]) -> dict[str, list[Difference]]:
    """In the order in which they are told."""
    return {group: [d for d in found if d.group == group] for group in dict.fromkeys(d.group for d in found)}


def _again(two: _Two) -> str:
    """Where the figures of these two are asked for again."""
    return url_for("revisions.figures", old=two.old.hash if two.old else "", new=two.name)


@pages.get("/network/compare/figures")
def figures():
    """The figures alone, for a page that waits for them."""
    old, new = request.args.get("old", ""), request.args.get("new", "")
    known = {p.hash: p for p in revisions.published(site())}
    if (old and old not in known) or not new:
        raise NotFound("network revision", old[:12])
    document = document_text_of(new) if new in known else revisions.draft(site(), new).document
    two = _Two(known.get(old), new, "", document)
    return render_template("network/_moved.html", figures=_figures(two), again=_again(two))


def _figures(two: _Two) -> list[dict[str, Any]] | None:
    """Where figures move; None while they are computed beside the server."""
    heavy: Heavy = current_app.extensions["heavy"]
    ceiling = here().ceiling_cal_cm2 if published() else float("inf")
    old = two.old.hash if two.old else ""
    key = heavy.key("compared", old, two.name, repr(ceiling))
    made = heavy.make(
        KIND, key, as_moved, document_text_of(old) if old else "", two.document, ceiling, patience_s=PATIENCE_S
    )
    if made is None:
        return None
    found = _by_element(json.loads(made))
    most = max((f[k] for f in found for k in ("was_cal_cm2", "now_cal_cm2") if f[k] is not None), default=1.0)
    return [{**f, "was_x": _along(f["was_cal_cm2"], most), "now_x": _along(f["now_cal_cm2"], most)} for f in found]


def _by_element(found: list[dict[str, Any]]) -> list[dict[str, Any]]:
    """Each once, as it moves most; those that get worse and those that do not apart."""
    first: dict[tuple[str, bool], dict[str, Any]] = {}
    for f in found:
        kept = first.setdefault((f["element_id"], f["worse"]), {**f, "others": -1})
        kept["others"] += 1
    return list(first.values())


def _along(energy: float | None, most: float) -> float | None:
    return None if energy is None else round(6 + (WIDE - 12) * energy / most, 1)


def as_moved(tell: Tell, old: str, new: str, ceiling_cal_cm2: float) -> bytes:
    """Where the figures of two documents differ, in the process beside the server."""
    before, after = (_study(text, ceiling_cal_cm2) if text else None for text in (old, new))
    assert after is not None
    words = words_of(after.study.profile)
    return json.dumps(
        [
            {
                "element_id": m.element_id, "tag": m.tag, "touches": m.touches, "side": words.say(m.side),
                "worse": m.worse, "gone": m.gone, "new": m.new, "was_cal_cm2": m.was_cal_cm2,
                "now_cal_cm2": m.now_cal_cm2, "was_mm": m.was_mm, "now_mm": m.now_mm,
            }
            for m in moved(before, after)
        ]
    ).encode()  # fmt: skip


def _study(text: str, ceiling_cal_cm2: float) -> SiteStudy:
    network = read_network(json.loads(text))
    practice = profile(network.site.profile)
    return SiteStudy(Study(network, practice, None, min(ceiling_cal_cm2, practice.ceiling_cal_cm2)))


@pages.post("/network/drafts/<name>/publish")
def publish(name: str):
    def then(done: tuple[int, list[str]]) -> str:
        number, touched = done
        forms.said(
            say("revisions-published-and-stopped", number=number, touched=tuple(touched))
            if touched else say("revisions-published", number=number)
        )  # fmt: skip
        return url_for("revisions.page")

    do = partial(_publish, name)
    return forms.attempt("publish", do, then, partial(_draft, name))


def _publish(name: str) -> tuple[int, list[str]]:
    password, against = request.form.get("password", ""), forms.text("against")
    return revisions.publish(act(), name, password, forms.text("note"), against)


@pages.post("/network/drafts/<name>/discard")
def discard(name: str):
    do: Callable[[], None] = partial(revisions.throw_away, act(), name)
    return forms.attempt("discard", do, lambda _: url_for("revisions.page"), partial(_draft, name))
