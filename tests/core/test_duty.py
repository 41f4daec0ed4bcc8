"""Duty: rated for the current with its X/R, for the voltage, and a fuse for its circuit; a failure is not believed."""

import math

import pytest

from saying import en
from sequence_site import cable, end, site, source, transformer
from spinel.core.fault.asymmetry import multiplier
from spinel.core.fault.nodal import NodalModel
from spinel.core.network.check import accept
from spinel.core.network.circuit import in_case
from spinel.core.protection.duty import duty_checks

MOTOR = {"tag": "M", "kind": "motor", "ends": ["d"], "rated_kva": 66.5, "xd_subtransient_pu": 0.2, "x_r": 8}


def duty_of(device, *more, x_r=12.0, kva=1500, volts=480):
    doc = site(
        [("a", 12_470), ("b", volts), ("c", volts), ("d", volts)],
        [source("a", mva=999_999, x_r=x_r), transformer("T", "a", "b", kva=kva, x_r=x_r), end("b"),
         {"tag": "D", "ends": ["b", "c"], "normal_position": "closed", "rated_voltage_v": 600, **device}, end("d"),
         {**cable("W", "c", "d"), "rated_a": 100}, *more],
    )  # fmt: skip
    network = accept(doc)
    return duty_checks(network, [NodalModel(network, in_case(network, network.cases[0]))]).get("d")


@pytest.mark.parametrize(
    ("device", "test_x_r", "basis"),
    [
        ({"kind": "breaker"}, 4.9, "peak"), ({"kind": "breaker", "construction": "power"}, 6.6, "peak"),
        ({"kind": "fuse", "rated_a": 100}, 4.9, "rms"), ({"kind": "breaker", "test_x_r": 8.0}, 8.0, "peak"),
        ({"kind": "switch"}, 4.9, "peak"),
    ],
)  # fmt: skip
def test_x_r_above_that_of_the_test_asks_for_more(device, test_x_r, basis):
    """1500 kVA at 5.75 %: 31.38 kA at X/R 12. A rating between that and the raised current passes by amount, fails by X/R."""
    required = 31.38 * float(multiplier(12.0, test_x_r, basis))
    name = "interrupting_ka" if device["kind"] != "switch" else "short_circuit_ka"
    between, above = (31.4 + required) / 2, required * 1.01
    failed, passed = duty_of({**device, name: between}), duty_of({**device, name: above})
    assert not failed.adequate and f"at X/R {test_x_r:g}" in en(failed.reason) and "asks for" in en(failed.reason)
    assert passed.adequate and passed.required_ka == pytest.approx(required, rel=2e-3)
    assert passed.x_r == pytest.approx(12, rel=1e-2)
    kind = duty_of({**device, name: 31.5}, x_r=test_x_r * 0.9)
    assert kind.adequate, "below the X/R of its test the symmetrical current decides"


def test_small_breakers_are_tested_at_a_lower_x_r():
    """UL 489 (from memory): power factor 0.5 to 10 kA and 0.3 to 20 kA, so the same X/R weighs more on them."""
    found = [duty_of({"kind": "breaker", "interrupting_ka": ka}, kva=150, x_r=3) for ka in (10, 18, 25)]
    assert [d.test_x_r for d in found] == [1.73, 3.18, 4.9]
    assert found[0].required_ka > found[1].required_ka == found[2].required_ka


@pytest.mark.parametrize(
    ("device", "reason"),
    [
        ({"kind": "breaker", "interrupting_ka": 65, "rated_voltage_v": 240}, "rated 240 V on a 480 V circuit"),
        ({"kind": "contactor"}, "not recorded"), ({"kind": "switch", "short_circuit_ka": 10}, "rated to withstand 10 kA"),
        ({"kind": "fuse", "interrupting_ka": 200, "rated_a": 400}, "400 A is too large for conductors of 100 A"),
    ],
)  # fmt: skip
def test_what_fails_says_why(device, reason):
    found = duty_of(device)
    assert not found.adequate and reason in en(found.reason)


def test_a_switch_without_a_rating_has_no_check_and_a_panel_with_one_has():
    assert duty_of({"kind": "switch"}) is None
    network = accept(site([("a", 12_470), ("b", 480)], [source("a"), transformer("T", "a", "b"),
                           {**end("b"), "short_circuit_ka": 14, "rated_voltage_v": 600}]))  # fmt: skip
    checks = duty_checks(network, [NodalModel(network, in_case(network, network.cases[0]))])
    assert not checks["b-b"].adequate


@pytest.mark.parametrize(
    ("rated_a", "more", "adequate"),
    [
        (100, (), True), (110, (), False), (100, (MOTOR,), True),
        # 66.5 kVA at 480 V is 80 A; motors alone allow three times that (NEC 430.52, from memory)
        (225, (MOTOR,), True), (250, (MOTOR,), False),
        (225, (MOTOR, {"tag": "L", "kind": "load", "ends": ["d"]}), False), (None, (), True),
    ],
)  # fmt: skip
def test_a_fuse_is_no_larger_than_its_circuit_allows(rated_a, more, adequate):
    """NEC 240.4(B): the next standard size above 100 A conductors is 100 A itself (from memory)."""
    device = {"kind": "fuse", "interrupting_ka": 200, **({"rated_a": rated_a} if rated_a else {})}
    found = duty_of(device, *more)
    assert found.adequate is adequate, found.reason
    assert math.isfinite(found.available_ka)
