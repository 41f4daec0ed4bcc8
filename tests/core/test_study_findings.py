"""What a study finds: each kind made by hand in the demo's document, and held against the study's own rows."""

import pytest

from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.study import NOT_FED, SiteStudy
from spinel.core.study_findings import KINDS, findings
from spinel.demo.site import document


def studied(change=lambda by_tag: None, ceiling=40.0):
    doc = document()
    change({e["tag"]: e for e in doc["elements"]})
    return SiteStudy(Study(accept(doc), NORTH_AMERICAN, None, ceiling))


@pytest.fixture(scope="module")
def demo():
    return studied()


def of(found, kind):
    return [f for f in found if f.kind == kind]


def test_every_row_that_is_a_gap_a_ceiling_or_a_slow_clearing_is_a_finding_and_no_other(demo):
    """The table is the oracle: read here row by row, without the code that makes findings."""
    found = findings(demo)
    rows = list(demo.worst_rows())
    gaps = {(r["location"], str(r["side"])) for r in rows if not r["method"] and r["warning"] != NOT_FED}
    above = {(r["location"], str(r["side"])) for r in rows if r["method"] and r["incident_energy_cal_cm2"] > 40}
    slow = {(r["location"], str(r["side"])) for r in rows if r["method"] and not r["device"]}
    for kind, expected in (("no_figure", gaps), ("ceiling", above), ("slow", slow)):
        assert {(f.tag, str(f.side)) for f in of(found, kind)} == expected, kind
    assert gaps and above, "the demo has both"
    failing = {demo.study.network.get(i).tag for i, d in demo.study.duty.items() if not d.adequate}
    assert {f.tag for f in of(found, "duty")} == failing


def test_the_gravest_comes_first_and_what_nobody_knows_before_all_that_is_known(demo):
    found = findings(demo)
    kinds = [KINDS.index(f.kind) for f in found]
    assert kinds == sorted(kinds)
    for kind in KINDS:
        energies = [f.energy_cal_cm2 for f in of(found, kind)]
        known = [e for e in energies if e is not None]
        assert energies == [None] * (len(energies) - len(known)) + sorted(known, reverse=True)


def test_a_breaker_that_is_rated_too_low_and_a_value_that_is_assumed_are_found(demo):
    assert "F-A1" not in {f.tag for f in of(findings(demo), "duty")}
    weak = findings(studied(lambda by: by["F-A1"].update(interrupting_ka=1)))
    assert "F-A1" in {f.tag for f in of(weak, "duty")}

    def guess(by):
        by["F-A1"]["basis"] = {**by["F-A1"].get("basis", {}), "rated_a": {"from": "assumed"}}

    assert "F-A1" in {f.tag for f in of(findings(studied(guess)), "assumed")}


def test_a_lower_ceiling_finds_more_and_loses_nothing(demo):
    at_40 = {(f.tag, str(f.side)) for f in of(findings(demo), "ceiling")}
    at_8 = {(f.tag, str(f.side)) for f in of(findings(studied(ceiling=8.0)), "ceiling")}
    assert at_40 < at_8


def test_slower_than_two_seconds_is_found(demo):
    """A main and a feeder that wait: nothing carries the arc away in time."""

    def wait(by):
        for tag in ("F-A1", "52-A"):
            by[tag]["curve"] = {"type": "trip", "long_pickup_a": 2000, "long_delay_s": 30}
        by["52-T1"]["curve"] = {**by["52-T1"]["curve"], "dial": 10, "instantaneous_a": 9000}

    before, after = ({f.tag for f in of(findings(s), "slow")} for s in (demo, studied(wait)))
    assert "F-A1" in after - before
