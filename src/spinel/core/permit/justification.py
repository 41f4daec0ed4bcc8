"""What may and what may never justify live work. Own wording.

Source: NFPA 70E-2021 110.4 and 29 CFR 1910.333(a)(1), from memory. Production, convenience, cost and ignorance
of what a circuit feeds are never justifications.
"""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core.errors import NotFound


@dataclass(frozen=True)
class Justification:
    """``accepted``: may it justify at all? ``reason``: read aloud with the decision."""

    id: str
    claim: str
    accepted: bool
    reason: str
    needs_text: bool = True


JUSTIFICATIONS = {
    j.id: j
    for j in (
        Justification("none", "No reason to work live", False, "nobody claims that it must be live", needs_text=False),
        Justification(
            "added_hazard", "De-energizing adds a hazard or raises a risk", True,
            "de-energizing would add a hazard or raise a risk",
        ),
        Justification(
            "infeasible", "The equipment's design makes it infeasible dead", True,
            "the equipment's design makes the work infeasible while it is de-energized",
        ),
        Justification(
            "needs_voltage", "The task itself needs voltage", True, "the task cannot be done without voltage",
        ),
        Justification(
            "production", "Production or service would stop", False,
            "a stop of production or service is an inconvenience, not a hazard to anybody",
        ),
        Justification("convenience", "It would take longer or another shift", False, "convenience never justifies"),
        Justification("cost", "A shutdown would cost too much", False, "cost never justifies"),
        Justification(
            "unknown_load", "We do not know what it feeds", False,
            "not knowing what a circuit feeds is a reason to find out, not to work live",
        ),
    )
}  # fmt: skip


def justification(justification_id: str) -> Justification:
    """The justification with this id, or NotFound."""
    try:
        return JUSTIFICATIONS[justification_id]
    except KeyError:
        raise NotFound("justification", justification_id) from None
