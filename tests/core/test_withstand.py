"""Withstand curves against the published equations, written here once more by hand, and against handbook points."""

import math

import pytest

from spinel.core.errors import InputError
from spinel.core.network.document import Element
from spinel.core.protection.withstand import cable_s, conductor_mm2, size_mm2, transformer_s, withstand


@pytest.mark.parametrize(
    ("kcmil", "amps", "metal"), [(500, 30_000, "copper"), (250, 10_000, "copper"), (350, 20_000, "aluminum")]
)
def test_a_cable_by_icea_p_32_382(kcmil, amps, metal):
    """(I / A)² t = 0.0297 log10((T2 + 234) / (T1 + 234)) for copper, 0.0125 and 228 for aluminum; A in circular mils.
    ICEA P-32-382, from memory."""
    constant, zero = {"copper": (0.0297, 234), "aluminum": (0.0125, 228)}[metal]
    for before, bears in ((75, 150), (90, 250)):
        expected = constant * math.log10((bears + zero) / (before + zero)) * (kcmil * 1000 / amps) ** 2
        assert cable_s(kcmil * 1000 / 1973.525, amps, metal, before, bears) == pytest.approx(expected, rel=1e-9)


def test_sizes_are_those_of_the_wire_tables():
    """Cross-sections in mm² as wire tables print them (NEC chapter 9 table 8, from memory)."""
    for size, mm2 in (
        ("14", 2.08),
        ("4", 21.15),
        ("1/0", 53.49),
        ("4/0", 107.2),
        ("250", 127),
        ("500", 253),
        ("1000", 507),
    ):
        assert size_mm2(size) == pytest.approx(mm2, rel=0.005), size
    assert size_mm2("120 mm²") == 120 and size_mm2("MCM") is None and size_mm2("100") is None


def test_a_transformer_by_ieee_c57_109():
    """Thermal: I²t = 1250, that is 25 times rated current for 2 s (IEEE C57.109, from memory). Category II from 70 % of
    its highest through-fault current, III from 50 %: I²t as at that current for 2 s; I has none."""
    assert transformer_s(300, 4.0, 25) == pytest.approx(2.0)
    assert transformer_s(300, 4.0, 10) == pytest.approx(12.5)
    most = 100 / 5.75
    assert transformer_s(2000, 5.75, most) == pytest.approx(2.0)
    assert transformer_s(2000, 5.75, most * 0.7001) == pytest.approx(2 / 0.7001**2)
    assert transformer_s(2000, 5.75, most * 0.6999) == pytest.approx(1250 / (most * 0.6999) ** 2)
    most = 100 / 8
    assert transformer_s(10_000, 8.0, most * 0.5001) == pytest.approx(2 / 0.5001**2)
    assert transformer_s(10_000, 8.0, most * 0.4999) == pytest.approx(1250 / (most * 0.4999) ** 2)
    assert transformer_s(2000, 5.75, 1.9) == math.inf and transformer_s(2000, 5.75, 18) == 0


@pytest.mark.parametrize(("kva", "z"), [(300, 4.0), (1500, 5.75), (2500, 6.0), (10_000, 8.0), (300, 2.0)])
def test_the_drawn_points_lie_on_the_curve_and_never_above_it(kva, z):
    t = Element(id="t", tag="T", kind="transformer", ends=("p", "s"), rated_kva=kva, impedance_pct=z)
    found = withstand(t, {"p": 12_470.0, "s": 480.0})
    base = kva * 1000 / (math.sqrt(3) * 480)
    for amps, seconds in found.points:
        multiple = amps / base
        near = [transformer_s(kva, z, multiple * f) for f in (1 - 1e-6, 1 + 1e-6)]
        assert min(near) * 0.999 <= seconds <= max(near) * 1.001 or seconds <= max(near), (multiple, seconds, near)
    assert found.points[-1][0] == pytest.approx(base * 100 / z)


def test_a_conductor_without_size_is_known_by_its_resistance_and_rather_too_thin():
    cable = {"id": "w", "tag": "W", "kind": "cable", "ends": ("a", "b")}
    sized = Element(**cable, size="2 x 500", length_m=100, resistance_ohm=0.00443)
    assert conductor_mm2(sized) == pytest.approx(2 * size_mm2("500"))
    # 500 kcmil at 75 °C in steel conduit: 0.029 ohm per 1000 ft (NEC chapter 9 table 9, from memory)
    by_ohm = conductor_mm2(Element(**cable, length_m=304.8, resistance_ohm=0.029))
    assert by_ohm < size_mm2("500")
    assert conductor_mm2(Element(**cable)) is None
    assert withstand(Element(**cable), {"a": 480.0, "b": 480.0}).points == ()
    assert withstand(Element(id="b", tag="B", kind="bus", ends=("a",)), {"a": 480.0}) is None
    large = Element(id="t", tag="T", kind="transformer", ends=("p", "s"), rated_kva=50_000, impedance_pct=10.0)
    assert withstand(large, {"p": 69_000.0, "s": 12_470.0}).why_none


@pytest.mark.parametrize(("area", "amps"), [(0, 100), (-5, 100), (float("nan"), 100), (100, 0), (100, float("inf"))])
def test_what_is_no_cable_or_no_current_is_refused(area, amps):
    with pytest.raises(InputError):
        cable_s(area, amps)
