"""The ladder and the core against a plain inverse of the whole admittance matrix (numpy), on networks drawn at random."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from spinel.core.fault.solution import Passive, Solution, peel


def network(seed: int, size: int, extra: int):
    """A random tree with some branches more, ratios off nominal, closed devices among them, a few shunts."""
    r = np.random.default_rng(seed)
    a = [int(r.integers(0, i)) for i in range(1, size)] + r.integers(0, size, extra).tolist()
    b = [*range(1, size), *r.integers(0, size, extra).tolist()]
    pairs = [(i, j) for i, j in zip(a, b, strict=True) if i != j]
    a, b = (np.array(x, dtype=np.intp) for x in zip(*pairs, strict=True))
    z = r.uniform(0.01, 1, len(a)) + 1j * r.uniform(0.01, 1, len(a))
    z[r.random(len(a)) < 0.3] = 1e-7j
    ratio = np.where(r.random(len(a)) < 0.3, r.uniform(0.9, 1.1, len(a)), 1.0)
    shunt = np.where(r.random(size) < 0.2, 1 / (r.uniform(0.1, 2, size) + 1j * r.uniform(0.1, 2, size)), 0)
    shunt[0] += 1 / (0.05 + 0.3j)
    return Passive(size, a, b, z, ratio, shunt, np.ones(size, dtype=bool)), r.random(size) < 0.1


def whole_inverse(p: Passive):
    y = np.diag(p.shunt).astype(complex)
    for a, b, z, t in zip(p.a, p.b, p.z, p.ratio, strict=True):
        y[a, a] += 1 / z / t**2
        y[b, b] += 1 / z
        y[a, b] -= 1 / z / t
        y[b, a] -= 1 / z / t
    return np.linalg.inv(y)


@pytest.mark.long
@given(st.integers(0, 10_000), st.integers(2, 40), st.sampled_from([0, 0, 1, 5]))
def test_drops_and_driving_points_are_those_of_the_inverse(seed, size, extra):
    passive, keep = network(seed, size, extra)
    found, z = Solution(passive, keep), whole_inverse(passive)
    assert 1 / found.drive == pytest.approx(np.diagonal(z), rel=1e-6)
    at = np.arange(size)
    assert found.drops(at) == pytest.approx(z / np.diagonal(z)[None, :], rel=1e-5, abs=1e-7)


@given(st.integers(0, 10_000), st.integers(3, 40))
def test_a_tree_peels_down_to_what_must_stay(seed, size):
    passive, keep = network(seed, size, 0)
    found = peel(size, passive.a, passive.b, keep, passive.present)
    assert set(np.flatnonzero(keep)) <= set(found.core.tolist())
    for round_ in found.rounds:
        assert (found.parent[round_] >= 0).all()
    if not keep.any():
        assert len(found.core) == 1


def test_what_nothing_feeds_takes_no_room():
    """Three nodes of which the last is dead: it is in neither laterals nor core, and the others are as without it."""
    a, b = np.array([0]), np.array([1])
    z, ratio = np.array([0.1j]), np.ones(1)
    shunt = np.array([1 / 0.2j, 0, 0])
    found = Solution(Passive(3, a, b, z, ratio, shunt, np.array([True, True, False])), np.zeros(3, dtype=bool))
    assert 2 not in found.laterals.core
    assert 1 / found.drive[:2] == pytest.approx([0.2j, 0.3j])
