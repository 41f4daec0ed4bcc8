"""What a program is for, and how a broken rule is said."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from spinel.core.errors import Refusal
from spinel.core.hazard import Study
from spinel.core.isolation.points import Target
from spinel.core.network.document import Network
from spinel.core.network.field import Field
from spinel.core.said import Sayable

ISOLATION, RESTORATION = "isolation", "restoration"
#: From the state as it is to another one: nothing is locked, proved or handed over.
SWITCHED = "switching"
#: One operation outside a program.
OPERATION = "operation"


@dataclass(frozen=True)
class Crew:
    """People behind another hold: whose locks hang on its box, and the nodes that its own points do not cut off."""

    hold: str
    nodes: frozenset[str]
    names: tuple[str, ...]


@dataclass(frozen=True)
class Crews:
    """Who else works: those with a lock on their box, and the holds whose work was declared complete. ``over``: holds
    that are restored; what they had to leave open is left to whoever locked it."""

    working: tuple[Crew, ...] = ()
    given_back: frozenset[str] = frozenset()
    over: frozenset[str] = frozenset()


NOBODY_ELSE = Crews()


@dataclass(frozen=True, kw_only=True)
class Order:
    """What a program is for. ``origin``: the field when the isolation was drafted.

    ``hold``: the number under which its locks hang. ``personal_locks``: people whose lock hangs on its box.
    ``drafted_in``: the shape of the content that its steps were drafted in: later rules ask nothing of earlier ones.
    ``goal``: of a switching from one state to another, the position that each device ends in, by id.
    """

    purpose: str
    hold: str
    target: Target
    study: Study
    origin: Field
    personal_locks: tuple[str, ...] = ()
    crews: Crews = NOBODY_ELSE
    drafted_in: int = 6
    goal: Mapping[str, str] = field(default_factory=dict)

    @property
    def says_access(self) -> bool:
        """Do its steps say when the barricade stands and a door is opened? Before 0.7 none did."""
        return self.drafted_in >= 4

    @property
    def says_phasing(self) -> bool:
        """Do they look at phasing, and lock a ground switch that is closed? Before 0.8 none did."""
        return self.drafted_in >= 5

    @property
    def tells_by_name(self) -> bool:
        """Do they name everybody who loses supply? Before 0.8 nothing but the draft saw to it."""
        return self.drafted_in >= 5

    @property
    def tests_grounded(self) -> bool:
        """Do they test what a parallel line induces once more when it is grounded? Before 0.9 none did."""
        return self.drafted_in >= 6

    @property
    def network(self) -> Network:
        return self.study.network


@dataclass(frozen=True)
class Broken:
    """A rule that a step, or the whole program, breaks."""

    rule: Sayable
    why: Sayable
    remedy: Sayable

    def refusal(self, field: str | None = None) -> Refusal:
        return Refusal(self.rule, self.why, self.remedy, field)
