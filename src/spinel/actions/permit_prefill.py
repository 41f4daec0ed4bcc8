"""What a new permit takes over from the plan of its job, and from what was agreed on its risk: proposals all."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any

from spinel.actions import people
from spinel.actions.job_plan import Planned
from spinel.actions.site import Site, on_site
from spinel.core.said import Sayable, say


def set_steps(conditions: Iterable[Mapping[str, Any]], code: str) -> list[Sayable]:
    """A step for each device that is set for the work, or put back after it."""
    return [say(code, tag=tag) for c in conditions for tag in c["sets"]]


@on_site
def here_still(site: Site, planned: Planned) -> Planned:
    """Who of the plan may still be put on a permit; whoever left or lost the role since is named by nobody."""
    roles = {p.id: p.roles for p in people.everybody(site)}

    def may(person_id: int, role: str) -> bool:
        return person_id in roles and (not role or role in roles[person_id])

    leads = planned.in_charge is not None and may(planned.in_charge, "person_in_charge")
    return replace(
        planned, in_charge=planned.in_charge if leads else None,
        workers=tuple(i for i in planned.workers if may(i, "worker")),
        attendants=tuple(i for i in planned.attendants if may(i, "")),
    )  # fmt: skip


def window(now: datetime, planned: Planned, longest_h: float) -> tuple[datetime, datetime]:
    """As planned, as far as it is not over and no longer than a window may be; else from now."""
    first = now.replace(second=0, microsecond=0)
    if planned.start is None or planned.end is None or planned.end <= first:
        return first, first + timedelta(hours=min(2.0, longest_h))
    start = max(planned.start, first)
    return start, min(planned.end, start + timedelta(hours=longest_h))
