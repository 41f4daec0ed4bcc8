"""Which things hang together: the connected parts of a graph given as two parallel arrays of ends."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np


def parts(size: int, a: np.ndarray, b: np.ndarray) -> np.ndarray:
    """The number of each thing's part; things are numbered from 0, ``a[i]`` and ``b[i]`` are joined.

    >>> parts(4, np.array([0, 2]), np.array([1, 2])).tolist()
    [0, 0, 1, 2]
    """
    if not size:
        return np.zeros(0, dtype=np.intp)
    # loaded where it is needed: signing in, records and most commands do without
    from scipy.sparse import coo_matrix
    from scipy.sparse.csgraph import connected_components

    joins = coo_matrix((np.ones(len(a), dtype=np.int8), (a, b)), shape=(size, size))
    labels: np.ndarray = connected_components(joins, directed=False)[1]
    return labels


def parts_of_names(names: Iterable[str], pairs: Iterable[tuple[str, str]]) -> dict[str, int]:
    """The same for things with names.

    >>> parts_of_names("abc", [("c", "a")])
    {'a': 0, 'b': 1, 'c': 0}
    """
    place = {name: i for i, name in enumerate(names)}
    ends = np.array([(place[a], place[b]) for a, b in pairs], dtype=np.intp).reshape(-1, 2)
    return dict(zip(place, parts(len(place), ends[:, 0], ends[:, 1]).tolist(), strict=True))
