"""Networks and studies by their content: whoever asks for the same document as it stands gets the same figures.

Nothing here belongs to a site. A document is known by its hash, which is checked when it is read; the figures follow
from it, from the ceiling, and from what is closed and running, and from nothing else.
"""

from __future__ import annotations

import json
from functools import lru_cache

from spinel.core.canonical import digest
from spinel.core.errors import NotAsPublished, NotFound
from spinel.core.hazard import Study
from spinel.core.network.circuit import Circuit
from spinel.core.network.document import Network, read_network
from spinel.core.profile import profile
from spinel.store import network as store

#: So many states of a site are remembered with their figures: what is toggled and toggled back costs nothing.
KEPT = 48


@lru_cache(maxsize=8)
def network_of(revision_hash: str) -> Network:
    """The network of a revision; NotFound when there is none, NotAsPublished when its hash names another text."""
    text = document_text(revision_hash)
    if digest(text) != revision_hash:
        raise NotAsPublished(revision_hash)
    return read_network(json.loads(text))


def document_text(revision_hash: str) -> str:
    """The stored canonical JSON of a revision, or NotFound."""
    text = store.document_of(revision_hash)
    if text is None:
        raise NotFound("network revision", revision_hash)
    return text


class _Stands:
    """A network with a circuit as the key of a cache: equal where the same is closed, for certain or not, and the same
    sources run. What is closed only because nobody knows is asked about as open too."""

    def __init__(self, revision_hash: str, network: Network, circuit: Circuit | None, ceiling_cal_cm2: float):
        self.network, self.circuit, self.ceiling_cal_cm2 = network, circuit, ceiling_cal_cm2
        stands = circuit and (tuple(sorted(circuit.closed.items())), circuit.uncertain, circuit.running, circuit.bypass)
        self._key = (revision_hash, stands, ceiling_cal_cm2)
        self.revision_hash = revision_hash

    def __hash__(self) -> int:
        return hash(self._key)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Stands) and self._key == other._key


def study_of(revision_hash: str, network: Network, circuit: Circuit, ceiling_cal_cm2: float) -> Study:
    """The figures of a network with what is closed and running; ``ceiling_cal_cm2``: the site's own.

    Events that move nothing share them.
    """
    return _study(_Stands(revision_hash, network, circuit, ceiling_cal_cm2))


@lru_cache(maxsize=KEPT)
def _study(stands: _Stands) -> Study:
    if stands.circuit is None:
        practice = profile(stands.network.site.profile)
        return Study(stands.network, practice, None, min(stands.ceiling_cal_cm2, practice.ceiling_cal_cm2))
    # the cases of the document, which no event changes
    shared = _study(_Stands(stands.revision_hash, stands.network, None, stands.ceiling_cal_cm2))
    return Study(shared.network, shared.profile, stands.circuit, shared.ceiling_cal_cm2, shared)
