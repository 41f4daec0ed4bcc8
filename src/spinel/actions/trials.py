"""Trials on the published network: what would be otherwise, kept while it is asked about, and made a draft of."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache
from threading import RLock

from spinel.actions import drafting
from spinel.actions.acting import Act
from spinel.actions.figures import document_text
from spinel.actions.site import Site, on_site
from spinel.core.editing.records import Sheet
from spinel.core.errors import InputError, Refusal
from spinel.core.network.upgrade import upgraded
from spinel.core.profile import profile
from spinel.core.said import Sayable, joined, say
from spinel.core.what_if.answers import Trials
from spinel.core.what_if.changes import MOST_CHANGES, TrialChange, changed_document, words
from spinel.core.what_if.trial_figure import TrialFigure

#: So many answers of a document stay.
_KEPT = 400


class TrialsKept:
    """Of one document under one ceiling: one thread at a time, and nothing is computed twice."""

    def __init__(self, document: str, ceiling_cal_cm2: float):
        data = upgraded(json.loads(document))
        practice = profile(data["site"]["profile"])
        self.trials = Trials(data, practice, min(ceiling_cal_cm2, practice.ceiling_cal_cm2))
        self._turn = RLock()
        self._known: dict[object, TrialFigure] = {}

    def at(
        self, element_id: str, touches: str, changes: Sequence[TrialChange], distance_mm: float | None = None,
        time_s: float | None = None,
    ) -> TrialFigure:  # fmt: skip
        key = (element_id, touches, tuple(changes), distance_mm, time_s)
        with self._turn:
            if key not in self._known:
                if len(self._known) > _KEPT:
                    self._known.clear()
                self._known[key] = self.trials.at(element_id, touches, changes, distance_mm, time_s)
            return self._known[key]


@lru_cache(maxsize=3)
def _kept(document_hash: str, document: str, ceiling_cal_cm2: float) -> TrialsKept:
    return TrialsKept(document, ceiling_cal_cm2)


@on_site
def of_site(site: Site) -> TrialsKept:
    """Trials on what is published."""
    here = site.as_it_is()
    return _kept(here.hash, document_text(here.hash), here.ceiling_cal_cm2)


@on_site
def may(act: Act) -> None:
    drafting.may(act)


@on_site
def make_draft(act: Act, changes: Sequence[TrialChange]) -> str:
    """A draft of the network in which a trial is so; nothing is so until it is published. Refusal for what is no change
    of the plant, as a case or a maintenance setting. The draft's number."""
    may(act)
    if not 0 < len(changes) <= MOST_CHANGES:
        raise InputError("changes", len(changes), say("what-if-so-many-changes", most=MOST_CHANGES))
    if any(c.kind in ("case", "maintenance") for c in changes):
        raise Refusal(say("what-if-draft"), say("what-if-no-change-of-plant"), say("what-if-leave-it-out"))
    # what cannot be is refused before a draft is begun
    here = act.site.as_it_is()
    changed_document(upgraded(json.loads(document_text(here.hash))), changes)
    number = drafting.begin(act)

    def put_in(sheet: Sheet) -> Sayable:
        said = joined(*(words(sheet.document, c) for c in changes))
        changed = changed_document(sheet.document, changes)
        for c in changes:
            group = "enclosures" if c.kind == "enclosure" else "elements"
            record = next(r for r in changed[group] if r["id"] == c.id)
            # where the value came from says nothing of the new one
            record.get("basis", {}).pop("curve" if c.kind == "setting" else c.field, None)
        sheet.document.clear()
        sheet.document.update(changed)
        return said

    drafting.edit(replace(act, request_id=None), number, drafting.draft(act.site, number).step, put_in)
    return number
