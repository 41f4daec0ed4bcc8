"""The windings that a vector group names: star, delta or zigzag, neutral brought out or not.

Source: IEC 60076-1 letter symbols. The clock number is read and kept but moves no current: Spinel needs magnitudes.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from spinel.core.errors import InputError
from spinel.core.said import say

_GROUP = re.compile(r"^(YN|Y|D|ZN|Z)(yn|y|d|zn|z)(\d{1,2})?(?:(yn|y|d|zn|z)(\d{1,2})?)?$")


@dataclass(frozen=True)
class Winding:
    """``connection`` is star, delta or zigzag; ``grounded``: its neutral is brought out and taken as grounded."""

    connection: str
    grounded: bool


_BY_LETTER = {
    "y": Winding("star", False),
    "yn": Winding("star", True),
    "d": Winding("delta", False),
    "z": Winding("zigzag", False),
    "zn": Winding("zigzag", True),
}


def windings(vector_group: str) -> tuple[Winding, ...]:
    """Windings in the order of the transformer's ends; InputError for text that is no vector group.

    >>> [w.connection for w in windings("Dyn11")]
    ['delta', 'star']
    """
    found = _GROUP.match(vector_group)
    clocks = [int(n) for n in (found[3], found[5]) if n] if found else []
    if found is None or any(n > 11 for n in clocks):
        raise InputError("vector_group", vector_group, say("windings-such-as-dyn11-ynyn0-dd0-or-ynyn0d11"))
    return tuple(_BY_LETTER[letters.lower()] for letters in (found[1], found[2], found[4]) if letters)
