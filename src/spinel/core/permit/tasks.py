"""The shipped task library: what a task does to the equipment decides what the rules ask.

Common practice, own wording. A coordinator can read each entry aloud. ``acts`` is what the task does:
operates, measures, inspects, interacts (nothing exposed, but an arc is more likely) or alters the circuit.
"""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core.errors import NotFound
from spinel.core.network.document import Element
from spinel.core.network.sides import BUS, NOT_CHOSEN, RACKING, Reach, is_device, reaches, read_reach


@dataclass(frozen=True, kw_only=True)
class Task:
    """``fact_keys`` are the questions that must be answered before Spinel decides. ``reaches``: the question of this
    task for where hands and tools are."""

    id: str
    name: str
    acts: str
    reaches: str
    doors: str
    likelihood: str
    crosses_restricted: bool
    fact_keys: tuple[str, ...]
    steps: tuple[str, ...]
    practices: tuple[str, ...]
    exemption: str = ""

    @property
    def alters(self) -> bool:
        return self.acts == "alters"


NORMAL_CONDITIONS = (
    "installed", "maintained", "used_as_listed", "doors_closed", "covers_in_place", "no_impending_failure",
    "not_first_operation",
)  # fmt: skip

#: The questions. Each is put so that yes is the safe answer.
FACTS = {
    "installed": "Is the equipment properly installed?",
    "maintained": "Is it properly maintained, and is there a record of it?",
    "used_as_listed": "Is it used as listed and as its maker instructs?",
    "doors_closed": "Are all doors closed and secured?",
    "covers_in_place": "Are all covers in place and secured?",
    "no_impending_failure": "Is it free of any sign of impending failure (heat, noise, smell, moisture, damage)?",
    "not_first_operation": "Has it been operated since it was installed or last maintained?",
    "no_increased_exposure": "Is there no increased exposure to burns or arcs from this source?",
    "outside_restricted": "Does everybody, and everything held, stay outside the restricted approach boundary?",
    "circuit_unaltered": "Does the circuit stay as it is: nothing tightened, swapped, removed or connected?",
}

_COMMON = (
    "No jewelry, nothing conductive on the body, nothing that melts under the clothing",
    "Rubber insulating gloves inflated and looked at, leather protectors over them",
    "One person watches and keeps others out",
    "Stop at any sound, smell, heat or surprise; a change of scope goes back to the job",
)

TASKS = {
    t.id: t
    for t in (
        Task(
            id="operate",
            name="Operate a breaker or switch with its doors closed",
            acts="operates",
            reaches="Which device is operated? Its arc may be at any of its sides.",
            doors="All doors and covers closed and secured",
            likelihood="raised on the first operation after work",
            crosses_restricted=False,
            fact_keys=NORMAL_CONDITIONS,
            steps=(
                "Read the tag aloud and compare it with the plate",
                "Stand aside, face away, nobody in front of the door",
                "Operate once, fully",
                "Look that the indicator shows the new position",
            ),
            practices=("Remote operation where the device has it", "Never operate a device that fails its duty check"),
        ),
        Task(
            id="test",
            name="Test for voltage or troubleshoot with a meter",
            acts="measures",
            reaches="Which terminals do your probes and hands reach?",
            doors="Door open or cover off, live parts exposed",
            likelihood="yes, in any condition",
            crosses_restricted=True,
            fact_keys=("circuit_unaltered",),
            steps=(
                "Set function and sockets of the meter before contact",
                "Prove the meter on a known source",
                "Open the door from the side, slowly, and look",
                "Measure, one hand where it can be",
                "Prove the meter again",
                "Close and secure the door",
            ),
            practices=(*_COMMON, "Meter category and voltage at or above the circuit's, fused leads"),
            exemption="testing, troubleshooting and voltage measuring",
        ),
        Task(
            id="inspect",
            name="Thermal or visual inspection with the cover open",
            acts="inspects",
            reaches="Which compartment is opened to look in?",
            doors="Cover open, live parts exposed, nobody reaches in",
            likelihood="yes, while a cover is opened or removed",
            crosses_restricted=False,
            fact_keys=("outside_restricted", "circuit_unaltered"),
            steps=(
                "Mark the restricted approach boundary on the floor",
                "Open the cover from the side, slowly",
                "Look and record from outside the mark",
                "Close and secure the cover",
            ),
            practices=(*_COMMON, "Nothing in the hand crosses the mark"),
            exemption="inspection that stays outside the restricted approach boundary",
        ),
        Task(
            id="retorque",
            name="Tighten or remake a bolted terminal",
            acts="alters",
            reaches="Which terminals do your hands and tools reach?",
            doors="Cover off, live parts exposed",
            likelihood="yes, in any condition",
            crosses_restricted=True,
            fact_keys=(),
            steps=(
                "Cover adjacent live parts with rated blankets",
                "Loosen and tighten one terminal at a time",
                "Check the torque and mark the bolt",
                "Remove the blankets, refit the cover",
            ),
            practices=(
                *_COMMON,
                "Insulated tools rated for the voltage, whole, never home-made",
                "Insulating mat under both feet",
            ),
        ),
        Task(
            id="replace",
            name="Replace a breaker or module beside a live bus",
            acts="alters",
            reaches="Which device comes out? All its terminals are reached.",
            doors="Dead front off, live bus exposed",
            likelihood="yes, in any condition",
            crosses_restricted=True,
            fact_keys=(),
            steps=(
                "Open the branch and prove its load side dead",
                "Cover the bus and neighbors with rated blankets",
                "Disconnect the load conductors and cap them",
                "Take the old device off, put the new one on, torque it",
                "Reconnect, remove the blankets, refit the front",
            ),
            practices=(
                *_COMMON,
                "Insulated tools rated for the voltage, whole, never home-made",
                "One conductor at a time, ends capped",
            ),
        ),
        Task(
            id="insert",
            name="Insert or remove a starter bucket or rack a breaker",
            acts="interacts",
            reaches="Which device is moved? All its terminals are reached.",
            doors="Door closed while it moves, where the design allows",
            likelihood="yes, doors open or closed",
            crosses_restricted=False,
            fact_keys=(),
            steps=(
                "Switch off, lock and look that it is off",
                "Look at stabs, guides and shutters with a light",
                "Move it in one motion, standing aside",
                "Look at the seating, close and secure the door",
            ),
            practices=(*_COMMON, "Remote racking where there is a tool for it"),
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


def task(task_id: str) -> Task:
    """The task with this id, or NotFound."""
    try:
        return TASKS[task_id]
    except KeyError:
        raise NotFound("task", task_id) from None
