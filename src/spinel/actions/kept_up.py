"""Whether equipment is properly maintained, as its record tells today; asked by cards and decisions."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from datetime import date

from spinel.actions.acting import utc_moment
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core.upkeep import KeptUp, kept_up
from spinel.store import attachments, ledger

#: The condition of normal operation that upkeep answers.
MAINTAINED = "maintained"


def of_each(here: SiteNow, element_ids: Iterable[str]) -> dict[str, KeptUp]:
    """By element; those of which nothing was ever recorded are among them."""
    ids = list(element_ids)
    done, today = attachments.upkeep(ids[0] if len(ids) == 1 else ""), day_of_record(here)
    return {i: kept_up(done.get(i, ()), today) for i in ids}


@on_site
def of_one(site: Site, element_id: str) -> KeptUp:
    """As cards and decisions have it."""
    return of_each(site.as_it_is(), [element_id])[element_id]


def day_of_record(here: SiteNow) -> date:
    """The site's day of the last entry of the record: whoever looks has signed in since, and that is an entry."""
    return here.day(utc_moment(ledger.last_at()))


def with_upkeep(here: SiteNow, element_id: str, facts: Mapping[str, str]) -> dict[str, str]:
    """The answers with what the record knows: what is overdue or failed is not properly maintained, whatever somebody
    answered; what is in date answers the question where nobody did."""
    properly = of_each(here, [element_id])[element_id].properly
    if properly is False:
        return {**facts, MAINTAINED: "no"}
    return {MAINTAINED: "yes", **facts} if properly else dict(facts)
