"""Permits and programs as pages and papers show them: what was signed in the words in which it was signed."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from spinel.actions.permits import PermitView
from spinel.actions.program_view import ProgramView
from spinel.actions.signed import Record
from spinel.core.switching.steps import SPOKEN, Step
from spinel.web.filters import words
from spinel.wording.words import Words, words_when_signed

_OF_A_STEP = (*SPOKEN, "stand", "before", "after")


def permit(seen: PermitView) -> PermitView:
    """A permit with every sentence in words."""
    return replace(
        seen,
        content=words_when_signed(seen.content).spoken(seen.content),
        records=_records(seen),
        suspended_because=words().say(seen.suspended_because),
    )


def program(seen: ProgramView) -> ProgramView:
    """A program with every sentence in words."""
    spoken_in = words_when_signed(seen.content)
    return replace(
        seen,
        content=spoken_in.spoken(seen.content),
        steps=tuple(step(s, spoken_in) for s in seen.steps),
        records=_records(seen),
        stopped_because=words().say(seen.stopped_because),
    )


def step(s: Step, spoken_in: Words) -> Step:
    """A step in words."""
    changes: dict[str, Any] = {name: spoken_in.say(getattr(s, name)) for name in _OF_A_STEP}
    figures = s.figures and replace(
        s.figures, none_because=spoken_in.say(s.figures.none_because), ppe_level=spoken_in.say(s.figures.ppe_level)
    )
    return replace(s, **changes, figures=figures)


def _records(seen: PermitView | ProgramView) -> tuple[Record, ...]:
    return tuple(replace(r, detail=words().spoken(r.detail)) for r in seen.records)
