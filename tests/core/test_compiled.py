"""The compiled loops: equations of the standard again, portions, and what is kept of them between runs."""

import ast
import random
import subprocess
import sys
from importlib.machinery import SourceFileLoader
from pathlib import Path

import numpy as np
import pytest

from spinel.core import compiled
from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.arcflash.figures import Figures
from spinel.core.arcflash.places import Place
from spinel.core.compiled import following, steps, times
from spinel.core.network.check import accept
from spinel.core.protection import bands, opening
from spinel.core.protection.trusted import Trusted
from spinel.demo.large import large_document

#: Voltages on both sides of every limit of the model, gaps and distances inside its range.
VOLTS = (208, 480, 600, 601, 2400, 2700, 2701, 4160, 13_800, 15_000)


def places(seed, many):
    chosen = random.Random(seed)
    found = []
    for _ in range(many):
        volts = chosen.choice(VOLTS)
        gap = chosen.uniform(6.35, 76.2) if volts <= 600 else chosen.uniform(19.05, 254)
        box = ieee.Enclosure(*(chosen.uniform(250, 1200) for _ in range(3)))
        found.append(ieee.Situation(volts, chosen.choice(ieee.CONFIGURATIONS), gap, chosen.uniform(305, 1500), box))
    return found


def prepared(situations):
    """The table of some places, as arcs are followed by it."""
    columns = [
        (
            s.voltage_v,
            s.electrode_configuration,
            s.gap_mm,
            s.working_distance_mm,
            s.enclosure.height_mm,
            s.enclosure.width_mm,
            s.enclosure.depth_mm,
        )
        for s in situations
    ]
    low = np.array([s.voltage_v <= 600 for s in situations])
    least, most = (np.where(low, v[True], v[False]) for v in (ieee.LEAST_KA, ieee.MOST_KA))
    return ieee.Prepared([np.array(c) for c in zip(*columns, strict=True)], np.ones(len(low)), least, most)


@pytest.mark.parametrize("seed", range(4))
def test_compiled_equations_give_what_the_standard_s_do(seed):
    """Against the single equations of IEEE 1584-2018, which its published worked examples confirm (tests/reference)."""
    situations = places(seed, 60)
    many, chosen = prepared(situations), random.Random(seed)
    for i, s in enumerate(situations):
        ka = chosen.uniform(ieee.LEAST_KA[s.voltage_v <= 600], ieee.MOST_KA[s.voltage_v <= 600])
        ms = chosen.uniform(1, 2000)
        currents = ieee.arc_currents(s, ka)
        for row, amps in enumerate((currents.arcing_current_ka, currents.reduced_arcing_current_ka)):
            k, rows, bolted = np.array([i]), np.array([row]), np.array([ka])
            assert many.part(k, rows, bolted)[0] * ka == pytest.approx(amps, rel=1e-12)
            joule, between, arcing = many.energy(k, rows, bolted, np.array([ms]))
            one = ieee.energy(s, ka, ms, reduced=bool(row))
            assert joule[0] == pytest.approx(one.incident_energy_j_cm2, rel=1e-10)
            assert arcing[0] == pytest.approx(one.arcing_current_ka, rel=1e-12)
            assert many.boundary_mm(k, between)[0] == pytest.approx(one.arc_flash_boundary_mm, rel=1e-10)


def figures(network):
    found = [Place(n.id, frozenset(), 610) for n in network.nodes]
    return Figures(network, Trusted(network, 2.0), 2.0, found)


def test_arcs_in_portions_on_all_cores_come_out_to_the_bit(monkeypatch):
    network = accept(large_document(14, 3))
    whole = figures(network)
    monkeypatch.setattr(opening, "MANY", 1)
    monkeypatch.setattr(opening, "PORTION", 7)
    parts = figures(network)
    for name in ("energy_j_cm2", "boundary_mm", "duration_s", "by", "bolted_ka"):
        assert np.array_equal(getattr(whole, name), getattr(parts, name), equal_nan=True), name
    assert whole.steps == parts.steps and np.isfinite(whole.energy_j_cm2).sum() > 100


def test_what_is_kept_of_a_loop_is_forgotten_when_any_file_of_the_package_changes(monkeypatch):
    """A caller holds what it calls: an equation that was put right must not live on in what was kept of the loop."""
    for module in (following, steps):
        assert (
            module.__name__
            and compiled.SOURCES in [f for f in vars(module).values() if hasattr(f, "py_func")][-1].py_func.__qualname__
        )
    assert compiled._sources() == compiled.SOURCES
    plain = SourceFileLoader.get_source

    def changed(loader, name):
        return plain(loader, name) + ("# another equation" if name.endswith(".arcing") else "")

    monkeypatch.setattr(SourceFileLoader, "get_source", changed)
    assert compiled._sources() != compiled.SOURCES


def test_a_compiled_loop_takes_nothing_from_outside_its_package():
    """A constant is compiled in: one from elsewhere could change without the hash, and the old one would count on. So
    those of the curves stand here again, and have to be the same."""
    for path in Path(compiled.__file__).parent.glob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.ImportFrom) and path.stem != "__init__":
                assert node.module in ("__future__", "typing") or node.module.startswith("spinel.core.compiled"), (
                    path.stem
                )
            elif isinstance(node, ast.Import) and path.stem != "__init__":
                assert {a.name for a in node.names} <= {"math", "numpy"}, path.stem
    assert (times.ZONE, times.ALWAYS, times.HELD) == (bands.ZONE, bands.ALWAYS, bands.HELD)
    assert following.ELEMENTS == bands.ELEMENTS == times.ZONE + 1


def test_signing_in_and_commands_do_without_the_compiler():
    """It takes a fifth of a second to load: nothing that starts without a study loads it."""
    code = "import sys, spinel.cli, spinel.web; sys.exit('numba' in sys.modules)"
    assert subprocess.run([sys.executable, "-c", code], check=False).returncode == 0


def test_where_nothing_can_be_kept_it_is_compiled_all_the_same(monkeypatch):
    """A server whose disk may not be written."""
    plain = compiled.numba.njit

    def nowhere(**options):
        if options.get("cache"):
            raise RuntimeError("cannot cache function: no locator available")
        return plain(**options)

    monkeypatch.setattr(compiled.numba, "njit", nowhere)

    @compiled.compiled
    def twice(x):
        return 2 * x

    assert twice(21) == 42
