"""Passwords as they are kept: hashed, and slowly on purpose."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from functools import cache
from itertools import pairwise

from werkzeug.security import check_password_hash, generate_password_hash

#: Answers that are known already, where they are remembered at all.
_known: ContextVar[dict[tuple[str, ...], str | bool] | None] = ContextVar("passwords tried", default=None)


def hashed(password: str) -> str:
    """The hash to keep, with a salt of its own."""
    return str(_once((password,), lambda: generate_password_hash(password)))


def fits(kept: str, password: str) -> bool:
    return bool(_once((kept, password), lambda: check_password_hash(kept, password)))


#: What is tried first everywhere (common practice, without source), without the digits and signs people put behind.
_COMMON = frozenset(
    """password passwort passord welcome welcometo qwerty qwertyuiop qwertz asdfghjkl letmein iloveyou sunshine princess
    football baseball dragon monkey master superman batman trustno starwars whatever changeme secret default admin
    administrator coordinator electric electrician electrical switchgear safety safetyfirst summer winter autumn
    spring spinel company""".split()  # noqa: SIM905
)


def easily_guessed(password: str, login: str, name: str) -> bool:
    """Would somebody who knows the owner, or what everybody takes, come upon it soon?

    >>> tried = ("Password2026!", "maren.oduya", "12345678", "tide over the quay")
    >>> [easily_guessed(p, "maren", "Maren Oduya") for p in tried]
    [True, True, True, False]
    """
    plain = password.casefold()
    letters = "".join(sign for sign in plain if sign.isalpha())
    own = {login.casefold(), *name.casefold().split()}
    rest = letters
    for word in sorted(own, key=len, reverse=True):
        rest = rest.replace(word, "")
    steps = {ord(b) - ord(a) for a, b in pairwise(plain)}
    return letters in _COMMON or len(rest) < 4 or len(set(plain)) < 4 or (len(steps) == 1 and steps <= {-1, 0, 1})


def _once(question: tuple[str, ...], ask: Callable[[], str | bool]) -> str | bool:
    known = _known.get()
    if known is None:
        return ask()
    if question not in known:
        known[question] = ask()
    return known[question]


@cache
def nobody() -> str:
    """A hash that no password fits: an account that is not there takes as long to refuse."""
    return generate_password_hash("no such account, but the same time")


@contextmanager
def each_once() -> Iterator[None]:
    """Only while a demo is built, whose one password stands on its sign-in page: it is hashed once, and tried once."""
    before = _known.set({})
    try:
        yield
    finally:
        _known.reset(before)
