"""Passwords as they are kept: hashed, and slowly on purpose."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from functools import cache

from werkzeug.security import check_password_hash, generate_password_hash

#: Answers that are known already, where they are remembered at all.
_known: ContextVar[dict[tuple[str, ...], str | bool] | None] = ContextVar("passwords tried", default=None)


def hashed(password: str) -> str:
    """The hash to keep, with a salt of its own."""
    return str(_once((password,), lambda: generate_password_hash(password)))


def fits(kept: str, password: str) -> bool:
    return bool(_once((kept, password), lambda: check_password_hash(kept, password)))


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
