"""The inner loops of a study, compiled when first used: an arc is followed in microseconds.

Numbers and arrays only, no rules of its own words: what the numbers stand for is told where they are gathered
(fault/stacks, protection/opening, arcflash/places). Compiled code is kept beside the sources, so that it is made once.
Nothing imports this package before a study is asked for: signing in, records and most commands do without.
"""

from __future__ import annotations

import hashlib
import pkgutil
from collections.abc import Callable
from importlib.util import find_spec
from typing import Any, TypeVar, cast

import numba

F = TypeVar("F", bound=Callable[..., Any])


def _sources() -> str:
    """A hash of every file of this package. What is kept of one function holds those of other files that it calls, and
    numba looks at its own file alone: a changed equation would go on being the old one in whoever calls it."""
    found = hashlib.sha256()
    for module in sorted(m.name for m in pkgutil.iter_modules(__path__, f"{__name__}.")):
        loader = getattr(find_spec(module), "loader", None)
        found.update(f"{module}\n{loader.get_source(module) if loader is not None else ''}\n".encode())
    return found.hexdigest()[:16]


SOURCES = _sources()


def compiled(function: F) -> F:
    """Compiled for the types that it is first called with. Division by nothing gives infinity, as with arrays."""
    # kept under this name
    function.__qualname__ = f"{function.__qualname__}_{SOURCES}"
    try:
        return cast(F, numba.njit(cache=True, nogil=True, error_model="numpy")(function))
    except RuntimeError:
        # nowhere to keep it: compiled anew by every process
        return cast(F, numba.njit(nogil=True, error_model="numpy")(function))


def inlined(function: F) -> F:
    """Compiled into each of its callers: a call would count the references of every array that it takes."""
    return cast(F, numba.njit(inline="always", error_model="numpy")(function))
