"""Tools and loose parts, counted into the place and out again: what stays inside makes the next fault. Common practice,
own wording."""

from __future__ import annotations

from spinel.core.errors import InputError
from spinel.core.said import say

MOST = 999
#: So many words say where a difference is.
_WORDS = 3


def count(typed: str, field: str) -> int:
    """A count as typed; InputError for anything else, and for none.

    >>> count(" 12 ", "tools_in")
    12
    """
    plain = typed.strip()
    if not (plain.isascii() and plain.isdigit() and len(plain) <= 3):
        raise InputError(field, typed, say("counted-a-number", most=MOST))
    return int(plain)


def check_out(went_in: int | None, typed: str, why: str) -> dict[str, object]:
    """What to keep of counting out. InputError where as many did not come out and nothing says where the difference is.
    ``went_in``: None where nobody counted, as on a permit accepted by an earlier version, or never accepted.

    >>> check_out(4, "4", "")
    {'tools_out': 4}
    """
    if went_in is None and not typed.strip():
        return {}
    came_out = count(typed, "tools_out")
    if went_in is None or came_out == went_in:
        return {"tools_out": came_out}
    if len(why.split()) < _WORDS:
        raise InputError("tools_why", why, say("counted-otherwise", went_in=went_in, came_out=came_out))
    return {"tools_out": came_out, "tools_in": went_in, "tools_why": why.strip()}
