"""What is kept as JSON carries the number of its shape; readers take every shape that was ever released.

A number grows when a field is added, renamed or means something else; the step from the shape before it stands in
``UPGRADES`` for ever. What was written before shapes had numbers is shape 0. The text itself, and the hash that a
signature covers, stay as they were: only what is read is brought up to date.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from dataclasses import dataclass, fields
from functools import lru_cache
from types import MappingProxyType
from typing import Any, TypeVar

from spinel.core.canonical import canonical, digest
from spinel.core.errors import NewerRecord
from spinel.core.said import Said, Sayable, as_data, from_data, say, verbatim

T = TypeVar("T")

#: Present shape of everything kept as JSON: contents, what is recorded on them, answers, events, acts of the ledger.
SHAPES: Mapping[str, int] = {
    "permit": 3,
    "task": 1,
    "permit record": 2,
    "program": 6,
    "program record": 3,
    "facts": 1,
    "faults": 1,
    "field event": 3,
    "act": 2,
}


@dataclass(frozen=True)
class Written:
    """The text to keep, and the hash that a signature on it covers."""

    text: str
    hash: str


_decoder = json.JSONDecoder(object_hook=from_data)


def parsed(text: str) -> Any:
    """The data of a JSON text, with everything said in it. ValueError when it is none."""
    return _decoder.decode(text)


def write(kind: str, data: Mapping[str, Any]) -> Written:
    """The data as canonical JSON in the present shape of its kind."""
    text = canonical({**data, "shape": SHAPES[kind]})
    return Written(text, digest(text))


def read(kind: str, text: str) -> dict[str, Any]:
    """The data of a kept text, as the present shape has it. NewerRecord when a later version wrote it.

    >>> read("facts", '{"doors_closed":"yes"}'), read("facts", '{"doors_closed":"yes","shape":1}')
    ({'doors_closed': 'yes'}, {'doors_closed': 'yes'})
    """
    data = parsed(text)
    if isinstance(data, list):
        # a bare list was kept before shapes had numbers
        data = {kind: data}
    shape = data.pop("shape", 0)
    if not isinstance(shape, int) or shape > SHAPES[kind]:
        raise NewerRecord(kind, shape)
    for number in range(shape, SHAPES[kind]):
        data = UPGRADES.get((kind, number), dict)(data)
    return dict(data)


@lru_cache(maxsize=128)
def content(kind: str, text: str) -> Mapping[str, Any]:
    """The same for the content of a permit or a program, which a page reads several times: read once, and immutable.

    >>> content("permit", '{"shape":2,"steps":[{"kind":"test"}]}')["steps"][0]["kind"] = "none"
    Traceback (most recent call last):
    TypeError: 'mappingproxy' object does not support item assignment
    """
    found: Mapping[str, Any] = immutable(read(kind, text))
    return found


def immutable(value: Any) -> Any:
    """JSON data that nobody can change any more; lists become tuples."""
    if isinstance(value, dict):
        return MappingProxyType({name: immutable(v) for name, v in value.items()})
    return tuple(map(immutable, value)) if isinstance(value, list | tuple) else value


def said_text(said: Sayable) -> str:
    """What was said, for a column of text: the text itself, or code and values. Read by ``said_of``.

    >>> said_of(said_text("arc seen")), said_of(said_text('{"say":"x","with":{}}')).code
    ('arc seen', 'verbatim')
    """
    # somebody may type what looks like something said: it stays their own words
    said = verbatim(said) if isinstance(said, str) and said.startswith("{") else said
    return canonical(as_data(said)) if isinstance(said, Said) else said


def said_of(text: str) -> Sayable:
    """The inverse; a text of an earlier version as it is, whatever it looks like.

    >>> said_of('{"say": it again')
    '{"say": it again'
    """
    if not text.startswith('{"say":'):
        return text
    try:
        found = parsed(text)
    except ValueError:
        return text
    return found if isinstance(found, Said) else text


def only_known(cls: type[T], data: Mapping[str, Any]) -> T:
    """A dataclass from kept data: what a later version added, or an earlier one kept, is passed over."""
    known = {f.name for f in fields(cls)}  # type: ignore[arg-type]
    return cls(**{k: v for k, v in data.items() if k in known})


def _permit_from_0(c: dict[str, Any]) -> dict[str, Any]:
    """Sides, the duty of the device and the answers behind a claim came with shape 1; the earliest had none."""
    hazard = {"needs": [], "not_in": [], "seen_in": [], "unfed": [], "voltages": [], "reach": "", **c["hazard"]}
    if "inside_restricted" not in hazard:
        nearest, distance = hazard["approach"]["restricted_mm"], hazard["working_distance_mm"]
        hazard["inside_restricted"] = None not in (nearest, distance) and distance < nearest
    justification = {"answers": [], **c["justification"]}
    return {"duty": None, "worst_side": None, "reach": "", **c, "hazard": hazard, "justification": justification}


def _program_from_1(c: dict[str, Any]) -> dict[str, Any]:
    """States before and after a step are compared with what is: they became codes with shape 2. Other sentences of an
    earlier shape stay texts, and are shown as they were signed."""
    steps = [{**s, "before": _state_from_1(s["before"]), "after": _state_from_1(s["after"])} for s in c["steps"]]
    return {**c, "steps": steps}


_STATES_OF_1 = {
    "released": "state-released", "blocked": "state-blocked", "discharged": "state-discharged",
    "grounded": "state-grounded", "not released": "switching-steps-not-released",
    "not blocked": "switching-steps-not-blocked", "may be charged": "switching-steps-may-be-charged",
    "not grounded": "switching-steps-not-grounded", "as it stands": "switching-steps-as-it-stands",
}  # fmt: skip
_ENDINGS_OF_1 = {
    ", not checked": "switching-steps-not-checked", ", not locked": "state-not-locked", ", locked": "state-locked",
}  # fmt: skip


def _state_from_1(text: str) -> Said:
    for ending, code in _ENDINGS_OF_1.items():
        if text.endswith(ending):
            return say(code, position=say(f"position-{text.removesuffix(ending)}"))
    return say(_STATES_OF_1[text]) if text in _STATES_OF_1 else say(f"position-{text}")


def _program_from_3(c: dict[str, Any]) -> dict[str, Any]:
    """Since shape 4 a test says the kind of its instrument, and steps say barricade and doors. Before, one instrument
    did for all: the one that fits them all, where there is one."""
    proofs = {_instrument_from_3(s) for s in c["steps"] if s["value"] == "proof"}
    common = proofs.pop() if len(proofs) == 1 else "contact"
    steps = [
        s if s["kind"] != "test" else {**s, "instrument": _instrument_from_3(s) if s["value"] == "proof" else common}
        for s in c["steps"]
    ]
    return {**c, "steps": steps, "before_access": True}


def _program_from_4(c: dict[str, Any]) -> dict[str, Any]:
    """Since shape 5 a program may go to another state, and says in which shape its steps were drafted."""
    return {**c, "goal": [], "drafted_in": 3 if c.get("before_access") else 4}


def _program_from_5(c: dict[str, Any]) -> dict[str, Any]:
    """Since shape 6 what is induced is tested again once it is grounded, and a step may be asked of others."""
    return {"drafted_in": 5, **c}


def _instrument_from_3(step: dict[str, Any]) -> str:
    """Above 1000 V a detector: what was tested per conductor, not between two."""
    return "contact" if any("-" in pair for pair in step["pairs"]) else "detector"


def _permit_from_2(c: dict[str, Any]) -> dict[str, Any]:
    """Since shape 3 a task rests on one that people are qualified for; before, each was one of those. And what was
    agreed on as an inherent control is a condition."""
    task = c.get("task")
    c = {"conditions": [], "reenergizing": [], **c}
    if not task:
        return c
    needs: dict[str, Any] = {name: [] for name in ("instruments", "tools", "wear", "place", "hazards")}
    return {**c, "task": {"skill": task["id"], "version": 0, **needs, **task}}


UPGRADES: Mapping[tuple[str, int], Callable[[dict[str, Any]], dict[str, Any]]] = {
    ("permit", 0): _permit_from_0,
    ("permit", 2): _permit_from_2,
    ("program", 1): _program_from_1,
    ("program", 3): _program_from_3,
    ("program", 4): _program_from_4,
    ("program", 5): _program_from_5,
}
