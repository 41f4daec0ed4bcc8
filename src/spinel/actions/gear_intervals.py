"""How long an item is in date at this site: as it ships, or shorter."""

from __future__ import annotations

from spinel.actions import gear
from spinel.actions.acting import Act, work
from spinel.actions.gear import MONTHS
from spinel.actions.run_out import review
from spinel.actions.site import on_site
from spinel.core import texts
from spinel.core.errors import InputError
from spinel.core.gear.kinds import kind
from spinel.core.said import say
from spinel.store import settings


@on_site
def shorten(act: Act, kind_id: str, months: int | None, reason: str) -> None:
    """The site's own interval of a kind, months; None: as it ships. Never longer than that.
    What is overdue by it suspends the permits that it was given for."""
    gear.may(act)
    of, why = gear.by_practice(act.site).get(kind(kind_id).id), texts.REASON.check(reason)
    if of is None or (months is not None and not 1 <= months <= of.months):
        raise InputError("months", months, say("gear-months-from-one-to", most=of.months if of else 0))
    with work(act) as unit:
        if unit.done:
            return
        kept = {k: m for k, m in settings.get(MONTHS).items() if k != kind_id}
        if months is not None and months != of.months:
            kept[kind_id] = months
        settings.put(MONTHS, kept)
        unit.record("setting changed", f"setting:{MONTHS}", {"value": kept, "because": why})
        review(unit)
