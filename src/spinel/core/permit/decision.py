"""May it be done live? The first rule that applies decides, and says which fact made it so.

Order and outcomes: design of the project, after NFPA 70E-2021 110.4 and 130.2 (own wording, from memory).
Fails safe: an unanswered fact never leads to an exemption, "unknown" counts as "no", and a low likelihood never
lowers the PPE.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from spinel.core.errors import InputError
from spinel.core.hazard import Hazard
from spinel.core.permit.justification import Justification
from spinel.core.permit.tasks import FACTS, NORMAL_CONDITIONS, Task
from spinel.core.profile import Profile
from spinel.core.protection.duty import Duty

ANSWERS = ("yes", "no", "unknown")

OUTCOMES = {
    "facts_missing": "Facts are missing",
    "below_50": "Below the shock threshold",
    "normal_operation": "Normal operation",
    "not_assessed": "Not assessed",
    "beyond_ppe": "Beyond any PPE",
    "exempt": "Exempt from a permit",
    "live_with_permit": "Live, with a permit",
    "not_justified": "Not justified",
    "work_dead": "Work dead",
}


@dataclass(frozen=True)
class Decision:
    """``rule`` names the rule, ``because`` the facts behind it, ``remedy`` what would change it."""

    outcome: str
    sentence: str
    rule: str
    because: tuple[str, ...]
    remedy: str = ""
    missing: tuple[str, ...] = ()
    live: bool = False
    permit: bool = False

    @property
    def title(self) -> str:
        return OUTCOMES[self.outcome]


def required_facts(task: Task, hazard: Hazard) -> tuple[str, ...]:
    """The questions that this task at this place raises, in order."""
    below = ("no_increased_exposure",) if hazard.below_threshold else ()
    return (*below, *task.fact_keys)


def check_answers(facts: Mapping[str, str]) -> None:
    """InputError for an unknown question or answer."""
    for key, answer in facts.items():
        if key not in FACTS:
            raise InputError(key, answer, "not a question of this task")
        if answer not in (*ANSWERS, ""):
            raise InputError(key, answer, "yes, no or unknown")


def decide(
    task: Task, hazard: Hazard, facts: Mapping[str, str], claim: Justification, statement: str, profile: Profile,
    duty: Duty | None,
) -> Decision:  # fmt: skip
    """The decision for one task at one place.

    ``duty`` is the duty check of the device that is operated; None when it is no device that can have one.
    """
    check_answers(facts)
    missing = tuple(k for k in required_facts(task, hazard) if not facts.get(k))
    if missing:
        count = "One question is" if len(missing) == 1 else f"{len(missing)} questions are"
        return Decision(
            "facts_missing", f"No decision yet: {count} not answered.", "every fact is answered, none assumed",
            tuple(FACTS[k] for k in missing), "Answer yes, no or unknown to each.", missing,
        )  # fmt: skip
    exempted = _below(hazard, facts, profile) or _normal(task, hazard, facts, duty, profile)
    if exempted:
        return exempted
    decision = (
        _no_figure(hazard)
        or _beyond(hazard)
        or _exempt(task, facts, profile)
        or _claimed(task, claim, statement, profile)
    )
    if task.acts == "operates":
        why = normal_operation_failures(facts, duty)
        decision = replace(decision, because=(*decision.because, *(f"no normal operation: {w}" for w in why)))
    return decision


def _below(hazard: Hazard, facts: Mapping[str, str], profile: Profile) -> Decision | None:
    if not hazard.below_threshold or facts.get("no_increased_exposure") != "yes":
        return None
    return Decision(
        "below_50", f"Live is acceptable: every voltage here is below {profile.threshold_v:g} V and nothing adds to "
        "the exposure.", f"below {profile.threshold_v:g} V without increased exposure",
        (f"highest voltage exposed: {hazard.voltage_v:g} V {hazard.current.upper()}",
         "answered yes: " + FACTS["no_increased_exposure"]),
        live=True,
    )  # fmt: skip


def _normal(
    task: Task, hazard: Hazard, facts: Mapping[str, str], duty: Duty | None, profile: Profile
) -> Decision | None:
    if task.acts != "operates":
        return None
    if any(facts.get(k) != "yes" for k in NORMAL_CONDITIONS) or duty is None or not duty.adequate:
        return None
    return Decision(
        "normal_operation", "Operate it: every condition of normal operation holds. No permit, no arc-flash PPE.",
        "normal operation, every condition answered", ("all seven questions answered yes",
        f"rated for the available fault current: {duty.reason}"), live=True,
    )  # fmt: skip


def normal_operation_failures(facts: Mapping[str, str], duty: Duty | None) -> tuple[str, ...]:
    """Why an operation is not a normal one: conditions not answered yes, and the duty check."""
    failed = [f"not answered yes: {FACTS[k]}" for k in NORMAL_CONDITIONS if facts.get(k) != "yes"]
    if duty is None:
        failed.append("no duty check: it is no device whose rating is recorded")
    elif not duty.adequate:
        failed.append(f"duty check failed: {duty.reason}")
    return tuple(failed)


def _no_figure(hazard: Hazard) -> Decision | None:
    if not hazard.no_figure:
        return None
    return Decision(
        "not_assessed", "No permit: this place has no arc-flash figure.", "no live work without an assessment",
        (hazard.no_figure,), "Work dead, or have it studied by a qualified engineer.",
    )  # fmt: skip


def _beyond(hazard: Hazard) -> Decision | None:
    if not hazard.beyond_ceiling:
        return None
    return Decision(
        "beyond_ppe", "Nobody works on this live, and nobody tests it either: the energy is above the site's ceiling.",
        "beyond any PPE, testing too",
        (f"{hazard.energy_cal_cm2:.1f} cal/cm² at {hazard.working_distance_mm:g} mm",
         f"site ceiling {hazard.ceiling_cal_cm2:g} cal/cm²"),
        "Work dead, isolated upstream; or lower the energy (clearing time, remote operation) and have it studied.",
    )  # fmt: skip


def _exempt(task: Task, facts: Mapping[str, str], profile: Profile) -> Decision | None:
    if not task.exemption or any(facts.get(k) != "yes" for k in task.fact_keys):
        return None
    return Decision(
        "exempt", f"Live without a permit: {task.exemption}. Qualified people, practices and all PPE apply.",
        f"exemption: {task.exemption} ({profile.sources['permit']})",
        tuple("answered yes: " + FACTS[k] for k in task.fact_keys), live=True,
    )  # fmt: skip


def _claimed(task: Task, claim: Justification, statement: str, profile: Profile) -> Decision:
    because = [f"the task {task.acts} the circuit" if task.alters else f"the task {task.acts}"]
    if claim.id == "none":
        return Decision(
            "work_dead", "Work dead. No reason is claimed that would make live work acceptable.",
            "de-energize unless justified", tuple(because),
            "Isolate, lock, and prove absence of voltage; or claim a justification that stands.",
        )  # fmt: skip
    if not claim.accepted:
        return Decision(
            "not_justified", f"Refused: {claim.reason}.", f"never a justification: {claim.claim.lower()}",
            (*because, f"claimed: {claim.claim}"),
            "Work dead. Only an added hazard, infeasibility by design or a task that needs voltage can justify.",
        )  # fmt: skip
    if len(statement.split()) < 4:
        return Decision(
            "not_justified", "Refused for now: the claim is not written down.", "a justification is documented",
            (f"claimed: {claim.claim}",), "Say in a sentence what would happen, to whom, and how you know.",
        )  # fmt: skip
    return Decision(
        "live_with_permit", f"Live, by permit: {claim.reason}.",
        f"energized work is justified and permitted ({profile.sources['justification']})",
        (*because, f"claimed: {claim.claim}", f"stated: {statement}"), live=True, permit=True,
    )  # fmt: skip
