"""Permits and programs as pages and papers show them: what was signed in the words in which it was signed."""

from __future__ import annotations

from collections.abc import Mapping
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
        content=_content(seen),
        records=_records(seen),
        suspended_because=words().say(seen.suspended_because),
    )


def program(seen: ProgramView) -> ProgramView:
    """A program with every sentence in words."""
    spoken_in = words_when_signed(seen.content)
    return replace(
        seen,
        content=_content(seen),
        steps=spoken_in.once(seen.steps, lambda steps: tuple(step(s, spoken_in) for s in steps)),
        records=_records(seen),
        stopped_because=words().say(seen.stopped_because),
    )


def _content(seen: PermitView | ProgramView) -> Mapping[str, Any]:
    """The content in the words it was signed in. Steps of a program have a place of their own."""
    spoken_in = words_when_signed(seen.content)
    of_program = isinstance(seen, ProgramView)
    told = {name: value for name, value in seen.content.items() if not (of_program and name == "steps")}
    found: Mapping[str, Any] = spoken_in.once(seen.content, lambda _: spoken_in.spoken(told))
    return found


def step(s: Step, spoken_in: Words) -> Step:
    """A step in words."""
    changes: dict[str, Any] = {name: spoken_in.say(getattr(s, name)) for name in _OF_A_STEP}
    figures = s.figures and replace(
        s.figures, none_because=spoken_in.say(s.figures.none_because), ppe_level=spoken_in.say(s.figures.ppe_level)
    )
    return replace(s, **changes, figures=figures)


def _records(seen: PermitView | ProgramView) -> tuple[Record, ...]:
    return tuple(replace(r, detail=words().spoken(r.detail)) for r in seen.records)
