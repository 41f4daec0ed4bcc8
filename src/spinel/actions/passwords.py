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


#: Guesses that somebody who knows the owner needs at least, as a power of ten: our choice.
GUESSES_LOG10 = 9.0
#: Letters that are left at least of a password, without the names of its owner.
_OWN_LETTERS = 4
#: What comes to mind first in this trade; common words, names, years and keyboards the package knows itself.
_OF_THE_TRADE = ("spinel", "switchgear", "breaker", "arcflash", "arc flash", "lockout", "electrician", "coordinator")


def easily_guessed(password: str, login: str, name: str) -> bool:
    """Would somebody who knows the owner, or what everybody takes, come upon it soon?

    >>> tried = ("Password2026!", "maren.oduya", "electrical safety", "abcdefghijkl", "tide over the quay")
    >>> [easily_guessed(p, "maren", "Maren Oduya") for p in tried]
    [True, True, True, True, False]
    """
    # lists of some 30,000 words: read only where a password is set
    from zxcvbn import zxcvbn

    own = (login.casefold(), *name.casefold().split())
    rest = "".join(sign for sign in password.casefold() if sign.isalpha())
    for word in sorted(own, key=len, reverse=True):
        rest = rest.replace(word, "")
    found = zxcvbn(password[:72], user_inputs=[*own, *_OF_THE_TRADE])
    return len(rest) < _OWN_LETTERS or bool(float(found["guesses_log10"]) < GUESSES_LOG10)


def is_a_run(text: str) -> bool:
    """One sign after the other, as they are counted: 12345, edcba.

    >>> is_a_run("123456"), is_a_run("654321"), is_a_run("124578")
    (True, True, False)
    """
    steps = {ord(b) - ord(a) for a, b in pairwise(text)}
    return len(steps) == 1 and steps <= {-1, 0, 1}


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
