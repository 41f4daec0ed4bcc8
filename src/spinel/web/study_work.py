"""What takes long of a trial, in the process beside the server: the track of a slider, every other place, levers, the
search over settings, and what caused the difference of two studies. Each gives JSON in the practice's words."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable
from functools import lru_cache
from typing import Any

from spinel.actions.trials import TrialsKept
from spinel.core.protection.selectivity import SeriesPair
from spinel.core.said import Sayable
from spinel.core.study_compare import MovedFigure
from spinel.core.study_moves import causes_of
from spinel.core.what_if import search
from spinel.core.what_if.answered import SiteTold, answered, levels, told
from spinel.core.what_if.answers import Trials
from spinel.core.what_if.changes import TrialChange, read_change, words
from spinel.core.what_if.levers import levers
from spinel.core.what_if.rows import WhatIfCase
from spinel.web.heavy import Tell
from spinel.wording.words import Words, words_of

KIND = "trial"


@lru_cache(maxsize=2)
def _trials(document: str, ceiling_cal_cm2: float) -> Trials:
    return TrialsKept(document, ceiling_cal_cm2).trials


def _changes(changes: str) -> tuple[TrialChange, ...]:
    return tuple(read_change(c) for c in json.loads(changes))


def _words(trials: Trials) -> Words:
    return words_of(trials.profile)


def as_track(
    tell: Tell, document: str, ceiling: float, changes: str, element_id: str, touches: str, device_id: str, field: str
) -> bytes:
    """Of each setting along a slider: the worst over all cases, who decides, what falls out of order."""
    trials = _trials(document, ceiling)
    tell("track")
    say = _words(trials).say
    found = trials.track(element_id, touches, device_id, field, _changes(changes))
    return json.dumps([
        {"value": p.value, "energy": p.figure.energy_cal_cm2, "boundary_mm": p.figure.boundary_mm,
         "device": p.figure.clears, "case": say(p.figure.case), "ppe": say(p.figure.ppe), "why": say(p.figure.why),
         "lost": [list(pair) for pair in p.lost]}
        for p in found
    ]).encode()  # fmt: skip


def as_elsewhere(tell: Tell, document: str, ceiling: float, changes: str) -> bytes:
    """Every place that a trial moves, what rises first, and what falls out of order."""
    trials, asked = _trials(document, ceiling), _changes(changes)
    tell("figures")
    say = _words(trials).say
    moved = _moved(trials.elsewhere(asked), say)
    tell("order")
    lost = _lost(trials.newly_lost(asked))
    return json.dumps({"moved": moved, "lost": lost}).encode()


def as_levers(
    tell: Tell, document: str, ceiling: float, element_id: str, touches: str, target: float
) -> bytes:  # fmt: skip
    """What would bring a place under a target."""
    trials = _trials(document, ceiling)
    tell("levers")
    say = _words(trials).say
    return json.dumps([
        {"rung": x.rung, "what": say(x.what), "energy": x.energy_cal_cm2, "under": x.under(target),
         "change": x.change.data if x.change is not None else None,
         "lost": [list(p) for p in x.lost] if x.lost is not None else None, "holds": [say(h) for h in x.holds]}
        for x in levers(trials, element_id, touches, target)
    ]).encode()  # fmt: skip


def as_proposal(
    tell: Tell, document: str, ceiling: float, places: str, settings: str, aim: str
) -> bytes:  # fmt: skip
    """The best of settings within bounds."""
    trials = _trials(document, ceiling)
    each = [search.Bounded(**s) for s in json.loads(settings)]
    found = search.proposed(trials, [(a, b) for a, b in json.loads(places)], each, aim, tell)
    say = _words(trials).say
    return json.dumps({
        "changes": [c.data for c in found.changes], "words": [say(words(trials.document, c)) for c in found.changes],
        "before": found.before, "after": found.after, "better": found.better, "studies": found.studies,
    }).encode()  # fmt: skip


def as_causes(tell: Tell, old: str, new: str, ceiling: float) -> bytes:
    """What caused the difference of two documents' figures."""
    return json.dumps(causes_of(json.loads(old), json.loads(new), ceiling, tell)).encode()


def as_cases(tell: Tell, document: str, ceiling: float, asked: str) -> bytes:
    """What each of several cases would change on the whole site."""
    trials = _trials(document, ceiling)
    say = _words(trials).say
    cases = [WhatIfCase(c["name"], tuple(read_change(x) for x in c["changes"])) for c in json.loads(asked)]
    base = told(trials.whole, levels(trials.ceiling_cal_cm2))
    found = []
    for i, case in enumerate(cases):
        tell(f"{i}/{len(cases)}")
        answer = answered(trials, case)
        found.append({
            "name": case.name, "changes": [c.data for c in case.changes],
            "words": [say(words(trials.document, c)) for c in case.changes], "rises": answer.rises,
            **_site_told(answer.now, say), "moved": _moved(answer.moved, say), "lost": _lost(answer.lost),
        })  # fmt: skip
    return json.dumps({
        "levels": levels(trials.ceiling_cal_cm2), "base": _site_told(base, say), "cases": found,
    }).encode()  # fmt: skip


def _site_told(now: SiteTold, say: Callable[[Sayable], str]) -> dict[str, Any]:
    worst = (now.worst[0], say(now.worst[1]), now.worst[2]) if now.worst is not None else None
    return {"above": now.above, "worst": worst, "without": now.without, "places": now.places}


def _moved(found: Iterable[MovedFigure], say: Callable[[Sayable], str]) -> list[dict[str, Any]]:
    return [
        {"tag": m.tag, "element_id": m.element_id, "touches": m.touches, "side": say(m.side), "was": m.was_cal_cm2,
         "now": m.now_cal_cm2, "was_mm": m.was_mm, "now_mm": m.now_mm, "worse": m.worse}
        for m in found
    ]  # fmt: skip


def _lost(pairs: Iterable[SeriesPair]) -> list[dict[str, Any]]:
    return [
        {"below": p.downstream.tag, "above": p.upstream.tag, "from_ka": p.lost[0][0] / 1000,
         "to_ka": p.lost[-1][1] / 1000}
        for p in pairs
    ]  # fmt: skip
