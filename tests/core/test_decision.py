"""The decision about live work: the first rule that applies, and refusals that say why."""

import dataclasses

import pytest

from saying import en
from spinel.core.errors import InputError
from spinel.core.isolation.around import around
from spinel.core.permit.decision import decide, never_dead
from spinel.core.permit.justification import HAZARDS, LOSSES, QUESTIONS
from spinel.core.permit.library import TASKS
from spinel.core.permit.tasks import NORMAL_CONDITIONS, effective_reach
from spinel.core.ppe.by_energy import kit
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.protection.duty import Duty
from spinel.core.tables.nfpa70e_clothing import CLOTHING

GOOD, BAD = Duty(True, 10, 65, "rated"), Duty(False, 30, 10, "not rated")
NORMAL = dict.fromkeys(NORMAL_CONDITIONS, "yes")
TEST = {"circuit_unaltered": "yes"}
LOOK = {"circuit_unaltered": "yes", "outside_restricted": "yes"}
LOW = {**TEST, "no_increased_exposure": "yes"}
SAID = "The gate would fall on people below"
HAZARD = {"hazard_kind": "fall", "hazard_named": "The gate falls", "who_hurt": "People below", "no_other_supply": "yes",
          "no_other_time": "yes", "no_temporary_supply": "yes", "confirmed_by": "The works manager"}  # fmt: skip
DESIGN = {"design_named": "Its shutters", "design_confirmed": "yes", "confirmed_by": "The works manager"}


def outcome(study, tag, task, facts, claim="none", statement="", duty=GOOD):
    element = study.network.by_tag[tag]
    hazard = study.hazard(element.id, effective_reach(TASKS[task], element, "").code)
    near = around(study.network, element) if never_dead(element) else None
    return decide(TASKS[task], hazard, facts, NORTH_AMERICAN.claims[claim], statement, NORTH_AMERICAN, duty, near)


@pytest.mark.parametrize(
    ("tag", "task", "facts", "claim", "duty", "expected"),
    [
        # an unanswered fact never leads to an exemption, nor anywhere else
        ("MC1", "test", {}, "needs_voltage", GOOD, "facts_missing"),
        ("F-A1", "operate", {k: "yes" for k in NORMAL_CONDITIONS[:-1]}, "none", GOOD, "facts_missing"),
        ("CTL-1", "test", TEST, "none", None, "facts_missing"),
        # strictly below 50 V and no increased exposure; otherwise on as for 50 V
        ("CTL-1", "test", LOW, "none", None, "below_50"),
        ("CTL-1", "test", {**LOW, "no_increased_exposure": "no"}, "none", None, "not_assessed"),
        ("CTL-1", "test", {**LOW, "no_increased_exposure": "unknown"}, "none", None, "not_assessed"),
        # normal operation: every condition, and the duty check that nobody can answer
        ("MC1-2B", "operate", NORMAL, "none", GOOD, "normal_operation"),
        ("MC1-2B", "operate", NORMAL, "none", BAD, "work_dead"),
        ("MC1-2B", "operate", NORMAL, "none", None, "work_dead"),
        *[("MC1-2B", "operate", {**NORMAL, k: v}, "none", GOOD, "work_dead")
          for k in NORMAL_CONDITIONS for v in ("no", "unknown")],
        # no figure, no permit, whatever is claimed
        ("BB-1", "retorque", DESIGN, "infeasible", None, "not_assessed"),
        # a source that cannot be switched off is never told to be worked on dead
        ("U-1", "inspect", {**LOOK, "outside_restricted": "no"}, "none", None, "not_assessed"),
        ("BB-1", "test", TEST, "needs_voltage", None, "not_assessed"),
        # above the ceiling nobody works, tests or looks
        ("T2", "retorque", {}, "added_hazard", None, "beyond_ppe"),
        ("T2", "test", TEST, "needs_voltage", None, "beyond_ppe"),
        ("T2", "inspect", LOOK, "none", None, "beyond_ppe"),
        # exempt only while the circuit stays as it is and the boundary is not crossed
        ("MC1", "test", TEST, "none", None, "exempt"),
        ("MC1", "test", {"circuit_unaltered": "no"}, "none", None, "work_dead"),
        ("MC1", "inspect", LOOK, "none", None, "exempt"),
        ("MC1", "inspect", {**LOOK, "outside_restricted": "unknown"}, "none", None, "work_dead"),
        # by the justification claimed
        ("MC1", "retorque", {}, "none", None, "work_dead"),
        ("MC1", "insert", HAZARD, "added_hazard", None, "live_with_permit"),
        ("MC1", "replace", DESIGN, "infeasible", None, "live_with_permit"),
        # a claim is open only to what it fits, and its questions are answered as facts
        ("MC1", "retorque", {}, "needs_voltage", None, "not_justified"),
        ("MC1", "test", {"circuit_unaltered": "no"}, "needs_voltage", None, "not_justified"),
        *[("MC1", "retorque", {k: v for k, v in HAZARD.items() if k != left}, "added_hazard", None, "facts_missing")
          for left in HAZARD],
        *[("MC1", "retorque", {**HAZARD, "hazard_kind": loss}, "added_hazard", None, "not_justified")
          for loss, _ in LOSSES],
        *[("MC1", "retorque", {**HAZARD, "hazard_kind": hazard}, "added_hazard", None, "live_with_permit")
          for hazard, _ in HAZARDS],
        *[("MC1", "retorque", {**HAZARD, k: v}, "added_hazard", None, "not_justified")
          for k in HAZARD if QUESTIONS[k].kind == "yes_no" for v in ("no", "unknown")],
        ("MC1", "replace", {**DESIGN, "design_confirmed": "unknown"}, "infeasible", None, "not_justified"),
        *[("MC1", "retorque", {}, c, None, "not_justified")
          for c in ("production", "convenience", "cost", "unknown_load")],
    ],
)  # fmt: skip
def test_first_rule_that_applies(demo_study, tag, task, facts, claim, duty, expected):
    found = outcome(demo_study, tag, task, facts, claim, SAID, duty)
    assert found.outcome == expected
    assert found.sentence and found.rule and found.because
    assert found.permit == (expected == "live_with_permit")
    assert found.live == (expected in ("below_50", "normal_operation", "exempt", "live_with_permit"))
    if not found.live:
        assert found.remedy


def test_a_claim_is_not_judged_by_how_much_is_written(demo_study):
    """One word, or a page: the answers decide."""
    for statement in ("", "so", "word " * 300):
        assert outcome(demo_study, "MC1", "retorque", HAZARD, "added_hazard", statement).permit
        assert not outcome(demo_study, "MC1", "retorque", {}, "added_hazard", statement).live


def test_a_battery_is_told_what_can_be_made_dead_around_it(demo_study):
    found = outcome(demo_study, "BB-1", "retorque", {})
    assert "Q-DC" in en(found.remedy) and "Work dead" not in en(found.sentence) + en(found.remedy)


def test_an_energy_a_hair_above_the_ceiling_reads_as_above_it(demo_study):
    hazard = demo_study.hazard(demo_study.network.by_tag["MC1"].id)
    close = dataclasses.replace(hazard, ceiling_cal_cm2=hazard.energy_cal_cm2 - 1e-4, beyond_ceiling=True)
    found = decide(TASKS["retorque"], close, {}, NORTH_AMERICAN.claims["none"], "", NORTH_AMERICAN, None)
    assert float(en(found.because[0]).split()[0]) > close.ceiling_cal_cm2


def test_at_exactly_50_v_the_exemption_does_not_hold(demo_study):
    hazard = dataclasses.replace(
        demo_study.hazard(demo_study.network.by_tag["CTL-1"].id), voltage_v=50, below_threshold=False
    )
    found = decide(TASKS["test"], hazard, LOW, NORTH_AMERICAN.claims["none"], "", NORTH_AMERICAN, None)
    assert found.outcome == "not_assessed"


@pytest.mark.parametrize("facts", [{"mood": "yes"}, {"installed": "maybe"}, {"installed": "YES"}])
def test_unknown_questions_and_answers_are_refused(demo_study, facts):
    with pytest.raises(InputError):
        outcome(demo_study, "MC1", "test", facts)


@pytest.mark.parametrize(
    ("energy", "level", "rating", "hood_only"),
    [(1.19, "below 1.2", None, False), (1.2, "over 1.2 to 12", 1.2, False), (12, "over 1.2 to 12", 12, False),
     (12.1, "above 12", 12.1, True), (40, "above 12", 40, True)],
)  # fmt: skip
def test_ppe_by_energy(energy, level, rating, hood_only):
    """NFPA 70E-2021 table 130.5(G), from memory: 1.2 to 12 inclusive, above 12 a hood."""
    found = kit(energy, CLOTHING)
    assert en(found.level).startswith(level) and found.arc_rating_cal_cm2 == rating
    assert any("not enough" in en(item) for item in found.items) == hood_only


@pytest.mark.parametrize("energy", [float("nan"), -1, float("inf")])
def test_no_ppe_for_a_number_that_is_none(energy):
    with pytest.raises(InputError):
        kit(energy, CLOTHING)
