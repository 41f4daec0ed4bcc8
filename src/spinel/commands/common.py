"""What commands share: errors as messages, the database they work on, who acts."""

from __future__ import annotations

import os
from collections.abc import Callable
from functools import wraps
from typing import Any

import click

from spinel.core.errors import SpinelError
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.said import Sayable

DATABASE, DEMO = "var/spinel.sqlite3", "var/demo.sqlite3"


def database(default: str = DATABASE) -> str:
    """The database file: SPINEL_DB, or the one in the working folder. A demo has one of its own."""
    return os.environ.get("SPINEL_DB", default)


def told(said: Sayable) -> str:
    """What is said, in words."""
    # the catalogue is read only by a command that has something to say
    from spinel.wording.words import words_of

    return words_of(NORTH_AMERICAN).say(said)


def says_errors(command: Callable[..., Any]) -> Callable[..., Any]:
    """SpinelErrors become their message on standard error and exit status 1."""

    @wraps(command)
    def wrapped(*args: Any, **kwargs: Any) -> Any:
        try:
            return command(*args, **kwargs)
        except SpinelError as error:
            click.echo(told(error.said), err=True)
            raise SystemExit(1) from None

    return wrapped
