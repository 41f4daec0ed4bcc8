"""What a program is for, and how a broken rule is said."""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core.errors import Refusal
from spinel.core.hazard import Study
from spinel.core.isolation.points import Target
from spinel.core.network.document import Network
from spinel.core.network.field import Field
from spinel.core.said import Sayable

ISOLATION, RESTORATION = "isolation", "restoration"


@dataclass(frozen=True)
class Order:
    """What a program is for. ``origin``: the field when the isolation was drafted, which restoration brings back.

    ``hold``: the number under which its locks hang. ``personal_locks``: people whose lock hangs on its box.
    """

    purpose: str
    hold: str
    target: Target
    study: Study
    origin: Field
    personal_locks: tuple[str, ...] = ()

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
