"""Positions that sign a permit beside those who ask, approve and issue: which, in which order, is the site's to say."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Position:
    """``title``: what it is called at the site. ``people``: ids of whoever may sign for it, any one of them."""

    title: str
    people: tuple[int, ...]


def unsigned(positions: Sequence[Position], signed: Collection[str]) -> tuple[Position, ...]:
    """Those whose signature is lacking, in their order. A signature is a title's: one that is named anew signs anew.

    >>> unsigned([Position("Area owner", (1,)), Position("Safety", (2,))], {"Area owner"})
    (Position(title='Safety', people=(2,)),)
    """
    return tuple(p for p in positions if p.title not in signed)
