"""Tasks: what a task does to the equipment decides what the rules ask. The six that people are qualified for stand
here; the library of all others, each resting on one of them, in core/permit/library.

Common practice, own wording. A coordinator can read each entry aloud. ``acts`` is what the task does:
operates, measures, inspects, interacts (nothing exposed, but an arc is more likely), alters the circuit, or none: work
that is no electrical work, and is done behind an isolation.
"""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from spinel.core.errors import NotFound
from spinel.core.network.document import Element
from spinel.core.network.sides import BUS, NOT_CHOSEN, RACKING, Reach, is_device, reaches, read_reach
from spinel.core.said import Sayable, say


@dataclass(frozen=True, kw_only=True)
class Task:
    """``fact_keys`` are the questions that must be answered before Spinel decides. ``reaches``: the question of this
    task for where hands and tools are. ``skill``: the task that somebody must be qualified for, empty where nobody has
    to be. ``group``: with which it stands in the library. ``kinds``, ``classes``: of equipment that it is for, empty:
    any. ``people``: at least so many. ``wear``: beyond what energy and voltage ask. ``live``: may it be done live, as
    it ships? A site has the last word."""

    id: str
    name: Sayable
    acts: str
    reaches: Sayable
    doors: Sayable
    likelihood: Sayable
    crosses_restricted: bool
    fact_keys: tuple[str, ...]
    steps: tuple[Sayable, ...]
    practices: tuple[Sayable, ...]
    exemption: Sayable = ""
    skill: str = ""
    group: str = "common"
    kinds: tuple[str, ...] = ()
    classes: tuple[str, ...] = ()
    people: int = 2
    instruments: tuple[Sayable, ...] = ()
    tools: tuple[Sayable, ...] = ()
    wear: tuple[Sayable, ...] = ()
    place: tuple[Sayable, ...] = ()
    hazards: tuple[Sayable, ...] = ()
    live: bool = True

    @property
    def electrical(self) -> bool:
        """Is it electrical work at all? Anything else needs no decision about live work: it is never done so."""
        return self.acts != "none"

    @property
    def alters(self) -> bool:
        return self.acts == "alters"


NORMAL_CONDITIONS = (
    "installed",
    "maintained",
    "used_as_listed",
    "doors_closed",
    "covers_in_place",
    "no_impending_failure",
    "not_first_operation",
)

#: The questions. Each is put so that yes is the safe answer.
FACTS = {
    "installed": say("tasks-is-the-equipment-properly-installed"),
    "maintained": say("tasks-is-it-properly-maintained-and-is-there"),
    "used_as_listed": say("tasks-is-it-used-as-listed-and-as"),
    "doors_closed": say("tasks-are-all-doors-closed-and-secured"),
    "covers_in_place": say("tasks-are-all-covers-in-place-and-secured"),
    "no_impending_failure": say("tasks-is-it-free-of-any-sign-of"),
    "not_first_operation": say("tasks-has-it-been-operated-since-it-was"),
    "no_increased_exposure": say("tasks-is-there-no-increased-exposure-to-burns"),
    "outside_restricted": say("tasks-does-everybody-and-everything-held-stay"),
    "circuit_unaltered": say("tasks-does-the-circuit-stay-as-it-is"),
}

COMMON = (
    say("tasks-no-jewelry-nothing-conductive-on-the-body"),
    say("tasks-rubber-insulating-gloves-inflated-and-looked"),
    say("tasks-one-person-watches-and-keeps-others-out"),
    say("tasks-stop-at-any-sound-smell-heat-or"),
)

SKILLS = {
    t.id: t
    for t in (
        Task(
            id="operate",
            skill="operate",
            name=say("tasks-operate-a-breaker-or-switch-with-its"),
            acts="operates",
            reaches=say("tasks-which-device-is-operated-its-arc-may"),
            doors=say("tasks-all-doors-and-covers-closed-and-secured"),
            likelihood=say("tasks-raised-on-the-first-operation-after-work"),
            crosses_restricted=False,
            fact_keys=NORMAL_CONDITIONS,
            steps=(
                say("tasks-read-the-tag-aloud-and-compare-it"),
                say("tasks-stand-aside-face-away-nobody-in-front"),
                say("tasks-operate-once-fully"),
                say("tasks-look-that-the-indicator-shows-the-new"),
            ),
            practices=(
                say("tasks-remote-operation-where-the-device-has-it"),
                say("tasks-never-operate-a-device-that-fails-its"),
            ),
        ),
        Task(
            id="test",
            skill="test",
            name=say("tasks-test-for-voltage-or-troubleshoot-with-a"),
            acts="measures",
            reaches=say("tasks-which-terminals-do-your-probes-and-hands"),
            doors=say("tasks-door-open-or-cover-off-live-parts"),
            likelihood=say("tasks-yes-in-any-condition"),
            crosses_restricted=True,
            fact_keys=("circuit_unaltered",),
            steps=(
                say("tasks-set-function-and-sockets-of-the-meter"),
                say("tasks-prove-the-meter-on-a-known-source"),
                say("tasks-open-the-door-from-the-side-slowly"),
                say("tasks-measure-one-hand-where-it-can-be"),
                say("tasks-prove-the-meter-again"),
                say("tasks-close-and-secure-the-door"),
            ),
            practices=(*COMMON, say("tasks-meter-category-and-voltage-at-or-above")),
            exemption=say("tasks-testing-troubleshooting-and-voltage-measuring"),
        ),
        Task(
            id="inspect",
            skill="inspect",
            name=say("tasks-thermal-or-visual-inspection-with-the-cover"),
            acts="inspects",
            reaches=say("tasks-which-compartment-is-opened-to-look-in"),
            doors=say("tasks-cover-open-live-parts-exposed-nobody-reaches"),
            likelihood=say("tasks-yes-while-a-cover-is-opened-or"),
            crosses_restricted=False,
            fact_keys=("outside_restricted", "circuit_unaltered"),
            steps=(
                say("tasks-mark-the-restricted-approach-boundary-on-the"),
                say("tasks-open-the-cover-from-the-side-slowly"),
                say("tasks-look-and-record-from-outside-the-mark"),
                say("tasks-close-and-secure-the-cover"),
            ),
            practices=(*COMMON, say("tasks-nothing-in-the-hand-crosses-the-mark")),
            exemption=say("tasks-inspection-that-stays-outside-the-restricted"),
        ),
        Task(
            id="retorque",
            skill="retorque",
            name=say("tasks-tighten-or-remake-a-bolted-terminal"),
            acts="alters",
            reaches=say("tasks-which-terminals-do-your-hands-and-tools"),
            doors=say("tasks-cover-off-live-parts-exposed"),
            likelihood=say("tasks-yes-in-any-condition"),
            crosses_restricted=True,
            fact_keys=(),
            steps=(
                say("tasks-cover-adjacent-live-parts-with-rated-blankets"),
                say("tasks-loosen-and-tighten-one-terminal-at-a"),
                say("tasks-check-the-torque-and-mark-the-bolt"),
                say("tasks-remove-the-blankets-refit-the-cover"),
            ),
            practices=(
                *COMMON,
                say("tasks-insulated-tools-rated-for-the-voltage-whole"),
                say("tasks-insulating-mat-under-both-feet"),
            ),
        ),
        Task(
            id="replace",
            skill="replace",
            name=say("tasks-replace-a-breaker-or-module-beside-a"),
            acts="alters",
            reaches=say("tasks-which-device-comes-out-all-its-terminals"),
            doors=say("tasks-dead-front-off-live-bus-exposed"),
            likelihood=say("tasks-yes-in-any-condition"),
            crosses_restricted=True,
            fact_keys=(),
            steps=(
                say("tasks-open-the-branch-and-prove-its-load"),
                say("tasks-cover-the-bus-and-neighbors-with-rated"),
                say("tasks-disconnect-the-load-conductors-and-cap-them"),
                say("tasks-take-the-old-device-off-put-the"),
                say("tasks-reconnect-remove-the-blankets-refit-the-front"),
            ),
            practices=(
                *COMMON,
                say("tasks-insulated-tools-rated-for-the-voltage-whole"),
                say("tasks-one-conductor-at-a-time-ends-capped"),
            ),
        ),
        Task(
            id="insert",
            skill="insert",
            name=say("tasks-insert-or-remove-a-starter-bucket-or"),
            acts="interacts",
            reaches=say("tasks-which-device-is-moved-all-its-terminals"),
            doors=say("tasks-door-closed-while-it-moves-where-the"),
            likelihood=say("tasks-yes-doors-open-or-closed"),
            crosses_restricted=False,
            fact_keys=(),
            steps=(
                say("tasks-switch-off-lock-and-look-that-it"),
                say("tasks-look-at-stabs-guides-and-shutters-with"),
                say("tasks-move-it-in-one-motion-standing-aside"),
                say("tasks-look-at-the-seating-close-and-secure"),
            ),
            practices=(*COMMON, say("tasks-remote-racking-where-there-is-a-tool")),
        ),
    )
}


def reaches_for(chosen: Task, e: Element) -> tuple[Reach, ...]:
    """The ways of reaching an element that a task may choose from. Whatever operates, racks, alters or removes a device
    reaches all its ends, whatever barriers are recorded."""
    if not is_device(e) or chosen.acts in ("measures", "inspects"):
        return reaches(e)
    racked = chosen.acts == "interacts" and e.withdrawable
    return (Reach((), RACKING if racked else BUS),)


def effective_reach(chosen: Task, e: Element, code: str) -> Reach:
    """What a task reaches at an element, given what was chosen; nothing chosen: the worst of all sides."""
    given, allowed = read_reach(e, code), reaches_for(chosen, e)
    if len(allowed) == 1:
        return allowed[0]
    return given if given in allowed or given == NOT_CHOSEN else NOT_CHOSEN


def skill(task_id: str) -> Task:
    """The task that people are qualified for with this id, or NotFound."""
    try:
        return SKILLS[task_id]
    except KeyError:
        raise NotFound("task", task_id) from None


def fits(chosen: Task, e: Element, equipment_classes: Collection[str]) -> bool:
    """Is it a task for this equipment? ``equipment_classes``: of everything that it stands in."""
    of_kind = not chosen.kinds or e.kind in chosen.kinds
    return of_kind and (not chosen.classes or bool(set(chosen.classes) & set(equipment_classes)))
