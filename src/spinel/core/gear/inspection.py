"""The look at an item before it is used: what is read off it, what is asked, and what each answer means.

Numbers, class and dates are read off the item and compared with the register. Everything else has one good answer;
"not sure" is not it. Common practice; gloves after 29 CFR 1910.137(c)(2)(ii) and (iii), from memory.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date

from spinel.core.errors import InputError
from spinel.core.gear.items import Item, why_not
from spinel.core.gear.kinds import CATEGORY, CLASS, CLOTHING, GROUNDING, RUBBER, TOOLS
from spinel.core.isolation.instruments import CONTACT, DETECTOR, LOW_IMPEDANCE, ROMAN
from spinel.core.said import Sayable, say

#: The good answer, the other one, and what stands for neither.
YES, NO = "yes", "no"
NUMBER, TESTED = "number", "tested"


@dataclass(frozen=True)
class Challenge:
    """``id``: what is asked about. ``reads``: the value is read off the item; else it is answered good or not."""

    id: str
    reads: bool = False

    @property
    def asked(self) -> Sayable:
        return say(f"inspect-{self.id.replace('_', '-')}")

    @property
    def short(self) -> Sayable:
        return say(f"inspect-{self.id.replace('_', '-')}-short")


_ASKED: Mapping[str, tuple[str, ...]] = {
    CONTACT: ("function", "sockets", "leads", "fuse", "damage", "battery"),
    LOW_IMPEDANCE: ("function", "sockets", "leads", "fuse", "damage", "battery"),
    DETECTOR: ("self_test", "stick_clean", "damage", "battery"),
    "leads": ("insulation", "tips", "fuse"),
    "proving_unit": ("self_test", "damage", "battery"),
    "fixed_tester": ("self_test", "damage"),
    "gloves": ("inside_out", "air_left", "air_right", "cuff", "leathers"),
    "sleeves": ("inside_out", "stretched"),
    "protectors": ("leather_whole", "clean"),
    "blanket": ("both_faces", "clean"),
    "mat": ("both_faces", "clean"),
    "arc_shield": ("window", "closes", "clean"),
    "arc_hood": ("window", "closes", "clean"),
    "grounds": ("strands", "clamps", "clean"),
    "insulated_tools": ("insulation_whole",),
    "hot_stick": ("stick_clean", "surface"),
    "rescue_hook": ("stick_clean", "surface"),
    "lock": ("damage",), "barricade": ("damage",), "light": ("damage", "battery"),
}  # fmt: skip
_GARMENT = ("closes", "whole", "clean", "nothing_melts")


def challenges(item: Item) -> tuple[Challenge, ...]:
    """Everything that is gone through, in order: the number first, so that nobody inspects another item."""
    reads = [NUMBER, *(r for r in (CLASS, CATEGORY, "high_v", "arc_rating_cal_cm2", "withstand_ka") if _on(item, r))]
    if item.kind.group == RUBBER and item.interval is not None:
        reads.append(TESTED)
    asked = _GARMENT if item.kind.group == CLOTHING and item.kind_id not in _ASKED else _ASKED[item.kind_id]
    return (*(Challenge(r, reads=True) for r in reads), *(Challenge(a) for a in asked))


def _on(item: Item, rating: str) -> bool:
    wanted = rating in item.kind.ratings
    return wanted and (item.kind.group in (RUBBER, CLOTHING, GROUNDING, TOOLS) or rating in (CATEGORY, "high_v"))


def agrees(item: Item, challenge: Challenge, typed: str) -> bool:
    """Is what was read off the item, or answered, what the register has?"""
    text = " ".join(typed.split()).casefold()
    if not challenge.reads:
        return text == YES
    if challenge.id == NUMBER:
        return text == item.number.casefold()
    if challenge.id == CLASS:
        return text == item.rating.glove_class.casefold()
    if challenge.id == CATEGORY:
        return text in (ROMAN.get(item.rating.category or 0, "").casefold(), str(item.rating.category))
    if challenge.id == TESTED:
        return _same_month(text, item.tested)
    return _same_number(text, getattr(item.rating, challenge.id))


def _same_month(text: str, tested: date | None) -> bool:
    """A cuff is stamped with month and year."""
    return tested is not None and text[:7] == tested.isoformat()[:7]


def _same_number(text: str, value: float | None) -> bool:
    try:
        return value is not None and text.isascii() and "_" not in text and float(text) == value
    except ValueError:
        return False


@dataclass(frozen=True)
class Looked:
    """``failed``: the challenge that was not met, with what was said; None: it is as it should be."""

    answers: tuple[tuple[str, str], ...]
    failed: tuple[Challenge, str] | None


def looked_at(item: Item, answers: Mapping[str, str], today: date) -> Looked:
    """What an inspection says. InputError beside the first challenge without an answer, where none before it failed;
    an item that nobody may use is not inspected into use."""
    why = why_not(item, today)
    if why:
        raise InputError(NUMBER, item.number, why)
    given: list[tuple[str, str]] = []
    for challenge in challenges(item):
        said = answers.get(challenge.id, "").strip()
        if not said:
            raise InputError(challenge.id, "", say("inspect-answer-each"))
        given.append((challenge.id, said))
        if not agrees(item, challenge, said):
            if challenge.id == NUMBER:
                # what is in the hand is another item: nothing is wrong with this one
                raise InputError(NUMBER, said, say("inspect-another-item", number=item.number))
            return Looked(tuple(given), (challenge, said))
    return Looked(tuple(given), None)
