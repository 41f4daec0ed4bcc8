"""Whether several people can be dressed at once in what there is: one item is on one of them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

import networkx as nx


def most_dressed(fits: Mapping[int, Iterable[str]]) -> int:
    """Of the people, each with the items that fit them, so many can wear one at the same time: a largest matching.

    >>> most_dressed({1: ["G-1"], 2: ["G-1"], 3: ["G-1", "G-2"]})
    2
    """
    graph: nx.Graph[tuple[str, int | str]] = nx.Graph()
    people = [("person", i) for i in fits]
    graph.add_nodes_from(people)
    graph.add_edges_from((("person", i), ("item", number)) for i, items in fits.items() for number in items)
    return len(nx.bipartite.hopcroft_karp_matching(graph, people)) // 2
