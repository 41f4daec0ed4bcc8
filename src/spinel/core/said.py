"""What is to be said to people, as a code with its values. ``wording`` turns it into a sentence where it is shown.

So nothing decides by reading a sentence, what is signed holds codes and numbers, and the words of a practice or a
language stand in one place.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any, Final, Union

import numpy as np

#: What may stand in a sentence: text as it is (a tag, a name, somebody's own words), a number, another thing to say, or
#: several of these.
Value = Union[str, int, float, bool, None, "Said", tuple["Value", ...]]

#: The two fields by which kept data are known to be something said.
_CODE, _VALUES = "say", "with"
VERBATIM: Final = "verbatim"
#: Edition of the catalogue, kept with what is signed. It grows when a message of such a record is worded anew: wording.
EDITION: Final = 1


class Said:
    """A code of the catalogue with its values. Immutable; equal when both are equal."""

    __slots__ = ("code", "values")

    code: str
    values: Mapping[str, Value]

    def __init__(self, code: str, values: Mapping[str, Value]):
        object.__setattr__(self, "code", code)
        object.__setattr__(self, "values", values)

    def __setattr__(self, name: str, value: object) -> None:
        raise AttributeError("what was said never changes")

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Said) and self.code == other.code and self.values == other.values

    def __hash__(self) -> int:
        return hash((self.code, *sorted((k, str(v)) for k, v in self.values.items())))

    def __bool__(self) -> bool:
        """Is there anything to say? An empty text of somebody's own is nothing, and so is a line of nothing."""
        if self.code == "joined":
            return bool(self.values["parts"])
        return self.code != VERBATIM or bool(self.values["text"])

    def __copy__(self) -> Said:
        return self

    def __deepcopy__(self, memo: object) -> Said:
        return self

    def __reduce__(self) -> tuple[type[Said], tuple[str, Mapping[str, Value]]]:
        return Said, (self.code, dict(self.values))

    def __str__(self) -> str:
        """For those who write programs: never what people read. The brackets let tests find one that got out."""
        return f"⟦{self.code}{''.join(' ' + k + '=' + str(v) for k, v in self.values.items())}⟧"

    __repr__ = __str__

    def __format__(self, spec: str) -> str:
        raise TypeError(f"{self.code} is put into a sentence by wording, not by an f-string")


#: Something to say, or a text that is said as it stands.
Sayable = Said | str


def say(code: str, /, **values: Any) -> Said:
    """The thing to say with this code. Errors stand for what they say, lists become tuples, numpy's numbers plain ones.

    >>> say("one-of", options=["a", "b"]) == say("one-of", options=("a", "b"))
    True
    """
    return Said(code, {name: _value(v) for name, v in values.items()})


def verbatim(text: Sayable) -> Said:
    """Somebody's own words, said as they are."""
    return text if isinstance(text, Said) else Said(VERBATIM, {"text": text})


def joined(*parts: Sayable, between: str = "; ") -> Said:
    """Several things said in one line, with what stands between them."""
    return Said("joined", {"parts": tuple(p for p in parts if p), "between": between})


def _value(value: Any) -> Value:
    if value is None or isinstance(value, str | bool | int | float | Said):
        return value.item() if isinstance(value, np.generic) else value
    if isinstance(value, np.generic):
        return _value(value.item())
    if isinstance(value, list | tuple):
        return tuple(_value(v) for v in value)
    said = getattr(value, "said", None)
    if isinstance(said, Said):
        return said
    raise TypeError(f"{type(value).__name__} cannot stand in a sentence")


def as_data(said: Said) -> dict[str, Any]:
    """As plain JSON data."""
    return {_CODE: said.code, _VALUES: dict(said.values)}


def from_data(data: dict[str, Any]) -> Any:
    """The thing said that these JSON data hold; other data as they are. For ``object_hook``."""
    if len(data) != 2 or _CODE not in data or _VALUES not in data:
        return data
    return Said(data[_CODE], {name: tuple(v) if isinstance(v, list) else v for name, v in data[_VALUES].items()})


def inside(said: Said) -> Iterator[Said]:
    """It, and everything said within its values."""
    yield said
    for value in said.values.values():
        for v in value if isinstance(value, tuple) else (value,):
            if isinstance(v, Said):
                yield from inside(v)
