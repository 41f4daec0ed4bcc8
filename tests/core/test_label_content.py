"""What a label says against the required list, and when it is wrong."""

from dataclasses import replace

import pytest

from spinel.core.errors import Refusal
from spinel.core.hazard import Study
from spinel.core.labels import (
    GRAVITY,
    LANGUAGES,
    LabelSays,
    joule_of,
    label_of,
    lacks,
    read_label,
    verdict,
)
from spinel.core.network.check import accept
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.shock.approach import approach
from spinel.core.study import METHOD
from spinel.core.tables.nfpa70e_shock import RULES
from spinel.demo.site import document, element_id
from spinel.wording.label_words import LABEL_WORDS

CLOTHING = NORTH_AMERICAN.clothing
NOW = LabelSays(
    tag="MC1", name="Motor control", location="Gallery", side="", voltage_v=480.0, current="ac", signal="warning",
    energy_cal_cm2=6.4, working_distance_mm=455.0, boundary_mm=1300.0, limited_mm=1067.0, restricted_mm=305.0, glove="00",
    no_figure="", method=METHOD, revision=3, day="2026-11-24",
)  # fmt: skip


@pytest.fixture(scope="module")
def study():
    return Study(accept(document()), NORTH_AMERICAN, None, 40.0)


def made(study, tag, rule="ceiling"):
    return label_of(
        study.hazard(element_id(tag)), tag=tag, name="n", location="l", revision=1, day="2026-11-24", rule=rule
    )


def held(says, now=NOW):
    return verdict(says, now, CLOTHING, 40.0)


def test_every_label_of_the_demo_holds_the_required_content(study):
    """NFPA 70E 130.5(H), from memory: (1) nominal voltage, (2) arc-flash boundary, (3) at least one of incident energy
    with its working distance, or PPE category, not both; (b), (c) are not printed here."""
    printed = 0
    for e in study.network.elements:
        try:
            label = made(study, e.tag)
        except (Refusal, KeyError):
            continue
        printed += 1
        assert lacks(label) == () and label.voltage_v
        if label.no_figure:
            assert label.signal == "danger" and label.energy_cal_cm2 is None and label.boundary_mm is None
            continue
        assert label.boundary_mm and label.energy_cal_cm2 and label.working_distance_mm and label.category is None
        assert label.tag and label.day and label.revision and label.restricted_mm and label.glove
        hazard = study.hazard(e.id)
        # never below what was computed, and by less than a step above it
        assert 0 <= label.energy_cal_cm2 - hazard.energy_cal_cm2 < 0.1 + 1e-6
        assert 0 <= label.boundary_mm - hazard.boundary_mm < 10 + 1e-6
        assert (label.signal == "danger") == (hazard.energy_cal_cm2 > 40)
        assert joule_of(label) >= label.energy_cal_cm2 * 4.184 - 1e-6
    assert printed > 40


def test_what_is_missing_or_twice_is_named():
    assert lacks(NOW) == ()
    assert lacks(replace(NOW, category=2)) == ("both",)
    assert lacks(replace(NOW, energy_cal_cm2=None)) == ("energy_cal_cm2",)
    assert lacks(replace(NOW, working_distance_mm=None)) == ("energy_cal_cm2",)
    assert lacks(replace(NOW, energy_cal_cm2=None, working_distance_mm=None, category=2)) == ()
    assert lacks(replace(NOW, voltage_v=None, boundary_mm=None)) == ("voltage_v", "boundary_mm")
    assert lacks(replace(NOW, no_figure="no method", boundary_mm=None, energy_cal_cm2=None)) == ()


def test_the_signal_word_is_by_the_sites_rule(study):
    assert [made(study, "52-B", r).signal for r in ("ceiling", "always", "never")] == ["danger", "danger", "warning"]
    assert [made(study, "MC1", r).signal for r in ("ceiling", "always", "never")] == ["warning", "danger", "warning"]


def test_above_the_ceiling_it_forbids_whatever_the_signal_word_is(study):
    """NFPA 70E forbids nothing at 40 cal/cm²; the ceiling is the site's own (common practice, without source)."""
    for rule in ("ceiling", "always", "never"):
        assert made(study, "52-B", rule).forbidden and not made(study, "MC1", rule).forbidden
    # one printed before that was told apart forbade by its signal word: it asked for equipment where nobody may work
    old, now = replace(NOW, energy_cal_cm2=60.0), replace(NOW, energy_cal_cm2=60.0, forbids=True)
    assert held(old, now).state == "forbids" and held(now, now).state == "true"
    assert held(replace(old, signal="danger"), replace(now, signal="danger")).state == "true"
    assert held(replace(NOW, forbids=True), replace(NOW, forbids=False)).state == "other"
    assert held(replace(old, revision=0), now).state == "true", "what a foreign label says in words nobody read"


def test_it_gives_feet_and_metres_as_the_table_has_them_and_neither_converted(study):
    """NFPA 70E 130.4(E)(a), from memory: 1.0 m and 3 ft 6 in, which is more, stand in one row; 50 to 150 V says avoid
    contact."""
    label = made(study, "MC1")
    assert (label.limited_mm, label.limited_in) == (1000, 42) and (label.restricted_mm, label.restricted_in) == (
        300,
        12,
    )
    low = replace(study.hazard(element_id("MC1")), voltage_v=120.0, approach=approach(120, "ac", RULES))
    said = label_of(low, tag="LP1", name="n", location="l", revision=1, day="2026-11-24", rule="ceiling")
    assert said.avoid_contact and said.restricted_mm is None and said.limited_in == 42
    # one printed with its metres converted says 3 ft 4 in
    converted = replace(label, limited_in=None, restricted_in=None)
    assert held(converted, label).state == "too_little" and held(label, label).state == "true"
    assert held(converted, converted).state == "true" and held(replace(converted, revision=0), label).state == "true"


def test_what_is_below_the_threshold_needs_none(study):
    with pytest.raises(Refusal):
        made(study, "CTL-1")


@pytest.mark.parametrize(("change", "state"), [
    ({}, "true"), ({"energy_cal_cm2": 6.4 / 1.0099}, "true"), ({"energy_cal_cm2": 6.4 / 1.02}, "too_little"),
    ({"energy_cal_cm2": 7.0}, "true"), ({"energy_cal_cm2": 7.3}, "too_much"), ({"energy_cal_cm2": None, "category": 2}, "unknown"),
    ({"boundary_mm": 1200.0}, "too_little"), ({"boundary_mm": 2000.0}, "too_much"), ({"voltage_v": 240.0}, "too_little"),
    ({"voltage_v": 600.0}, "other"), ({"glove": "0"}, "other"), ({"signal": "danger"}, "other"), ({"method": "lee"}, "other"),
    ({"tag": "MC-1"}, "other"), ({"restricted_mm": 200.0}, "too_little"), ({"limited_mm": None}, "other"),
    ({"working_distance_mm": 610.0}, "too_little"), ({"no_figure": "none", "energy_cal_cm2": None}, "other"),
])  # fmt: skip
def test_a_label_is_wrong_in_each_thing_that_differs(change, state):
    found = held(replace(NOW, **change))
    assert found.state == state and found.wrong == (state != "true") and bool(found.why) == found.wrong


def test_one_per_cent_is_too_much_where_another_kit_is_worn_or_the_ceiling_is_passed():
    """12 cal/cm² is where the clothing of the practice steps."""
    assert held(replace(NOW, energy_cal_cm2=12.0), replace(NOW, energy_cal_cm2=12.05)).state == "too_little"
    assert held(replace(NOW, energy_cal_cm2=11.0), replace(NOW, energy_cal_cm2=11.05)).state == "true"
    assert held(replace(NOW, energy_cal_cm2=39.9), replace(NOW, energy_cal_cm2=40.1)).state == "forbids"
    assert held(NOW, replace(NOW, energy_cal_cm2=None, boundary_mm=None, no_figure="dc")).state == "forbids"
    assert (
        held(replace(NOW, category=2, energy_cal_cm2=None), replace(NOW, energy_cal_cm2=None, no_figure="dc")).state
        == "forbids"
    )


def test_the_gravest_of_several_names_it():
    found = held(replace(NOW, energy_cal_cm2=9.0, boundary_mm=900.0, glove="1"))
    assert found.state == "too_little" and len(found.why) == 3
    assert set(GRAVITY) >= {found.state}


def test_a_foreign_label_need_not_tell_what_the_standard_does_not_ask_for():
    foreign = replace(
        NOW, revision=0, limited_mm=None, restricted_mm=None, glove="", signal="", method="2012", tag="old"
    )
    assert held(foreign).state == "true"
    assert held(replace(foreign, energy_cal_cm2=3.0)).state == "too_little"
    # but an energy is one at a distance, and a boundary is asked for
    assert held(replace(foreign, working_distance_mm=None)).state == "unknown"
    assert held(replace(foreign, boundary_mm=None)).state == "other"


def test_it_comes_back_as_it_was_kept_and_every_language_has_every_word():
    assert read_label(NOW.data) == NOW
    assert set(LABEL_WORDS) == {"en", *LANGUAGES} - {"none"}
    assert len({tuple(sorted(v)) for v in LABEL_WORDS.values()}) == 1 and all(
        all(v.values()) for v in LABEL_WORDS.values()
    )
