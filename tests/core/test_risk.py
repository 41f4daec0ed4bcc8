"""Risk of a task: the figure's severity, opinions side by side, and what no agreement may lower."""

import random
from dataclasses import replace

import pytest

from spinel.core.curves.library import generic
from spinel.core.errors import InputError
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.risk.opinions import Agreed, HazardMark, Opinion, check_agreed, checked, side_by_side
from spinel.core.risk.options import options
from spinel.core.risk.scales import ARC, HAZARDS, INHERENT, RUNGS, SHIPPED, SHOCK, arc_severity, step, words
from spinel.core.said import Said
from spinel.demo.site import document, element_id


def mark(hazard, severity=3, likelihood=3, **more):
    return HazardMark(hazard=hazard, severity=severity, likelihood=likelihood, note=more.pop("note", "there"), **more)


BOTH = (mark(SHOCK), mark(ARC))


def test_the_hierarchy_is_in_its_order():
    """NFPA 70E-2021 110.5(H)(3) and ISO 45001 8.1.2, from memory: six rungs, the first three at the source."""
    assert RUNGS == ("eliminate", "substitute", "engineer", "warn", "rule", "wear") and RUNGS[:3] == INHERENT


def test_severity_of_an_arc_rises_with_its_figure_and_the_unknown_is_the_worst():
    steps = [arc_severity(e) for e in (0, 0.5, 1.2, 1.21, 8, 8.1, 40, 40.1, 1e9)]
    assert steps == sorted(steps) and steps[0] >= 2
    assert {arc_severity(e) for e in (None, float("nan"), float("inf"), -1)} == {5}


@pytest.mark.parametrize("given", ["", "0", "6", "3.0", "three", " ", "nan", None])
def test_there_is_no_preset_step(given):
    with pytest.raises(InputError):
        step(given, "severity_shock")


def test_a_site_words_whole_scales_or_none():
    assert words({"severity": ["a", "b"]})["severity"] == SHIPPED["severity"]
    assert words({"severity": list("abcde")})["severity"] == tuple("abcde")


@pytest.mark.parametrize(
    "marks",
    [(), (mark(SHOCK),), (mark(ARC),), (*BOTH, mark(SHOCK)), (*BOTH, mark("ghosts")), (*BOTH, mark("damp", note=" ")),
     (*BOTH, mark("damp", rungs=("pray",)))],
)  # fmt: skip
def test_an_opinion_answers_shock_and_arc_and_names_what_it_sees(marks):
    with pytest.raises(InputError):
        checked(marks)


def test_side_by_side_shows_the_spread_and_what_one_alone_saw():
    a = Opinion(1, "A", (mark(SHOCK, 4, 2), mark(ARC, 1, 2), mark("damp", 3, 2), mark("damp", 4, 4)))
    b = Opinion(2, "B", (mark(SHOCK, 4, 5), mark(ARC, 1, 1)))
    rows = {r.hazard: r for r in side_by_side((a, b), 17.1)}
    assert (rows[SHOCK].spread, rows[SHOCK].worst_likelihood) == (3, 5)
    assert (rows[ARC].pinned, rows[ARC].worst_severity, rows[ARC].spread) == (4, 4, 1), "nobody argues the figure down"
    assert (rows["damp"].alone, rows["damp"].worst_severity) == ("A", 4), "of several marks the worst counts"
    assert list(rows) == [h for h in HAZARDS if h in rows]
    assert side_by_side((a,), None)[1].pinned == 5


def agreed(rows, **more):
    found = {
        r.hazard: Agreed(hazard=r.hazard, severity=r.worst_severity, likelihood=r.worst_likelihood, controls={}, agreed=True)
        for r in rows
    }  # fmt: skip
    return [replace(a, **more.get(h, {})) for h, a in found.items()]


ROWS = side_by_side((Opinion(1, "A", (*BOTH, mark("damp", 4, 4))), Opinion(2, "B", BOTH)), 17.1)


@pytest.mark.parametrize(
    ("more", "energy", "wrong"),
    [
        ({}, 17.1, None),
        ({"damp": {"severity": 2}}, 17.1, "severity_damp"),
        ({"damp": {"severity": 2, "controls": {"wear": "boots"}}}, 17.1, "severity_damp"),
        ({"damp": {"severity": 2, "controls": {"rule": "only at ebb"}}}, 17.1, "severity_damp"),
        ({"damp": {"severity": 2, "controls": {"eliminate": "  "}}}, 17.1, "severity_damp"),
        ({"damp": {"severity": 2, "controls": {"eliminate": "duct sealed"}}}, 17.1, None),
        ({"damp": {"likelihood": 1}}, 17.1, "likelihood_damp"),
        ({"damp": {"likelihood": 1, "controls": {"wear": "boots"}}}, 17.1, None),
        ({ARC: {"severity": 3}}, 17.1, "severity_arc"), ({ARC: {"severity": 3}}, 3.9, None),
        ({ARC: {"severity": 3, "controls": {"engineer": "words"}}}, 17.1, "severity_arc"),
        ({ARC: {"severity": 4}}, None, "severity_arc"),
        ({"damp": {"agreed": False}}, 17.1, "note_damp"),
        ({"damp": {"agreed": False, "note": "hand signal or horn off?"}}, 17.1, None),
    ],
)  # fmt: skip
def test_what_no_agreement_may_lower(more, energy, wrong):
    if wrong is None:
        check_agreed(ROWS, agreed(ROWS, **more), energy)
    else:
        with pytest.raises(InputError) as error:
            check_agreed(ROWS, agreed(ROWS, **more), energy)
        assert error.value.field == wrong
    with pytest.raises(InputError):
        check_agreed(ROWS, agreed(ROWS, **more)[:-1], energy)


def test_one_more_opinion_never_makes_anything_look_better():
    rng = random.Random(7)
    for _ in range(200):
        opinions = [
            Opinion(i, f"P{i}", tuple(mark(h, rng.randint(1, 5), rng.randint(1, 5)) for h in (SHOCK, ARC, "damp", "dust")
                                      if h in (SHOCK, ARC) or rng.random() < 0.6)) for i in range(4)
        ]  # fmt: skip
        few = {r.hazard: r for r in side_by_side(opinions[:2], 6.4)}
        more = {r.hazard: r for r in side_by_side(opinions, 6.4)}
        for hazard, row in few.items():
            assert more[hazard].worst_severity >= row.worst_severity
            assert more[hazard].worst_likelihood >= row.worst_likelihood and more[hazard].spread >= row.spread


def with_maintenance():
    """The demo's site with a quick setting on two feeders, to be switched on by hand while somebody works."""
    site = document()
    for e in site["elements"]:
        if e["tag"] in ("F-A1", "F-B2"):
            e["maintenance_curve"] = {**generic("trip-long-instantaneous", e["rated_a"]), "instantaneous_a": 1000}
    return site


def test_an_option_is_what_a_study_of_that_network_says():
    """A device on its maintenance setting, one case alone, farther away: each against a study written out here."""
    site = with_maintenance()
    place = element_id("MC1")
    base = Study(accept(site), NORTH_AMERICAN, None, 40.0).hazard(place, "")
    told = options(site, NORTH_AMERICAN, 40.0, place, "")
    found = told.each
    assert told.energy_cal_cm2 == pytest.approx(base.energy_cal_cm2)
    assert [o.rung for o in found] == sorted((o.rung for o in found), key=RUNGS.index) and set(
        o.rung for o in found
    ) <= set(INHERENT)
    near = next(o for o in found if o.what.code == "risk-option-distance" and o.what.values["distance_mm"] == 914)
    assert near.energy_cal_cm2 == pytest.approx(
        Study(accept(site), NORTH_AMERICAN, None, 40.0).hazard(place, "", 914).energy_cal_cm2
    )
    case = site["cases"][0]
    alone = Study(accept({**site, "cases": [case]}), NORTH_AMERICAN, None, 40.0).hazard(place, "")
    same = next(o for o in found if o.what.code == "risk-option-case" and o.what.values["name"] == case["name"])
    assert same.energy_cal_cm2 == pytest.approx(alone.energy_cal_cm2)
    for o in (o for o in found if o.what.code == "risk-option-maintenance"):
        other = with_maintenance()
        device = next(e for e in other["elements"] if e["tag"] == o.what.values["tag"])
        device["curve"] = device["maintenance_curve"]
        assert o.energy_cal_cm2 == pytest.approx(
            Study(accept(other), NORTH_AMERICAN, None, 40.0).hazard(place, "").energy_cal_cm2
        )
        assert o.energy_cal_cm2 < base.energy_cal_cm2
    assert {"F-A1"} == {o.what.values.get("tag") for o in found} - {None}
    together = [o for o in found if o.what.code == "risk-option-together"]
    best = min(o.energy_cal_cm2 for o in found if o.what.code != "risk-option-together" and not o.lasting)
    assert together and min(o.energy_cal_cm2 for o in together) < best
    assert site == with_maintenance(), "nothing of the published document is touched"


def by_code(found, code):
    return [o for o in found if isinstance(o.what, Said) and o.what.code == code]


def at(site, place, distance=None):
    return Study(accept(site), NORTH_AMERICAN, None, 40.0).hazard(place, "", distance).energy_cal_cm2


def test_a_faster_setting_is_what_a_study_with_that_setting_says():
    """F-A1 clears an arc at MC1 with 0.3 s of delay; the study written out here has 0.1 s."""
    site, place = document(), element_id("MC1")
    found = options(site, NORTH_AMERICAN, 40.0, place, "").each
    faster = by_code(found, "risk-option-short-delay")[0]
    other = document()
    next(e for e in other["elements"] if e["tag"] == "F-A1")["curve"]["short_delay_s"] = 0.1
    assert faster.energy_cal_cm2 == pytest.approx(at(other, place)) and faster.sets == ("F-A1",) and not faster.lasting
    dial = by_code(options(site, NORTH_AMERICAN, 40.0, element_id("T1"), "").each, "risk-option-dial")[0]
    other = document()
    next(e for e in other["elements"] if e["tag"] == "52-T1")["curve"]["dial"] *= 0.5
    assert dial.energy_cal_cm2 == pytest.approx(at(other, element_id("T1")))


def test_a_limiting_fuse_is_a_fuse_in_series_and_a_proposal_alone():
    """Drawn by hand: a fast fuse of the breaker's rating between F-A1 and its board. It is nothing for tomorrow."""
    site, place = document(), element_id("MC1")
    found = options(site, NORTH_AMERICAN, 40.0, place, "").each
    fused = by_code(found, "risk-option-fuse")[0]
    other = document()
    breaker = next(e for e in other["elements"] if e["tag"] == "F-A1")
    node = next(n for n in other["nodes"] if n["id"] == breaker["ends"][0])
    other["nodes"].append({**node, "id": "between"})
    other["elements"].append({
        "id": "9d1d5a0e-0000-4000-8000-000000000001", "tag": "FX", "kind": "fuse", "ends": [node["id"], "between"],
        "rated_a": 600, "interrupting_ka": 200, "curve": dict(generic("fuse-fast", 600)), "normal_position": "closed",
        "rated_voltage_v": 600,
    })  # fmt: skip
    breaker["ends"][0] = "between"
    assert fused.lasting and not fused.sets and fused.energy_cal_cm2 == pytest.approx(at(other, place))
    assert not any(o.lasting for o in by_code(found, "risk-option-together"))


def test_from_afar_only_where_something_is_operated_and_never_below_what_it_is_by_definition():
    site, place = document(), element_id("MC1")
    assert not by_code(options(site, NORTH_AMERICAN, 40.0, place, "").each, "risk-option-remote")
    afar = by_code(options(site, NORTH_AMERICAN, 40.0, place, "", operates=True).each, "risk-option-remote")[0]
    assert afar.energy_cal_cm2 == 1.2
    assert at(site, place, afar.boundary_mm) == pytest.approx(1.2, rel=1e-6)


def test_several_at_once_are_never_better_than_a_study_of_all_of_them():
    site, place = document(), element_id("T1")
    found = options(site, NORTH_AMERICAN, 40.0, place, "").each
    for option in by_code(found, "risk-option-together"):
        other, distance = document(), None
        for what in option.what.values["whats"]:
            if what.code == "risk-option-case":
                other["cases"] = [c for c in other["cases"] if c["name"] == what.values["name"]]
            elif what.code == "risk-option-dial":
                device = next(e for e in other["elements"] if e["tag"] == what.values["tag"])
                device["curve"]["dial"] = what.values["dial"]
            else:
                distance = what.values["distance_mm"]
        assert option.energy_cal_cm2 == pytest.approx(at(other, place, distance))
