"""The inner loops of a study, compiled when first used: an arc is followed in microseconds.

Numbers and arrays only, no rules of its own words: what the numbers stand for is told where they are gathered
(fault/stacks, protection/opening, arcflash/places). Compiled code is kept beside the sources, so that it is made once.
Nothing imports this package before a study is asked for: signing in, records and most commands do without.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar, cast

import numba

F = TypeVar("F", bound=Callable[..., Any])


def compiled(function: F) -> F:
    """Compiled for the types that it is first called with. Division by nothing gives infinity, as with arrays."""
    return cast(F, numba.njit(cache=True, nogil=True, error_model="numpy")(function))


def inlined(function: F) -> F:
    """Compiled into each of its callers: a call would count the references of every array of the tables."""
    return cast(F, numba.njit(inline="always", error_model="numpy")(function))
