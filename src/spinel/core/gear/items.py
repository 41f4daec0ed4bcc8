"""An item of gear as it is recorded, and whether anybody may use it on a day."""

from __future__ import annotations

import calendar
from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import date

from spinel.core.gear.kinds import GearKind, kind
from spinel.core.isolation.instruments import Instrument
from spinel.core.said import Sayable, say
from spinel.core.tables.forms import Interval

GOOD, SOON, OVERDUE, UNTESTED, OUT, RETIRED = "good", "soon", "overdue", "untested", "out", "retired"
#: Days ahead of which what falls due is told: our choice.
SOON_DAYS = 30


@dataclass(frozen=True, kw_only=True)
class Rating:
    """What stands on the item: V, category of overvoltage (2 to 4), class of rubber goods, cal/cm², kA for s."""

    low_v: float | None = None
    high_v: float | None = None
    category: int | None = None
    ac: bool = False
    dc: bool = False
    glove_class: str = ""
    arc_rating_cal_cm2: float | None = None
    withstand_ka: float | None = None
    withstand_s: float | None = None


@dataclass(frozen=True, kw_only=True)
class Item:
    """``in_service``: the day on which it was first issued. ``tested``: of the last test that it passed. ``owner``:
    whose it is, empty for the pool. ``holder``: who has it, ``held_for`` what. ``barred``: why nobody uses it.
    ``interval``: here; None where its kind has no test."""

    number: str
    kind_id: str
    rating: Rating
    size: str = ""
    place: str = ""
    owner: str = ""
    bought: date | None = None
    in_service: date | None = None
    tested: date | None = None
    certificate: str = ""
    holder: str = ""
    #: accounts: two people may bear one name
    owner_id: int | None = None
    holder_id: int | None = None
    held_since: str = ""
    held_for: str = ""
    element_id: str = ""
    barred: Sayable = ""
    retired: bool = False
    interval: Interval | None = None

    @property
    def kind(self) -> GearKind:
        return kind(self.kind_id)


def interval(kind_id: str, practice: Mapping[str, Interval], shortened: Mapping[str, int]) -> Interval | None:
    """How often a kind is tested at a site: its own interval where that is shorter than the practice's.

    >>> from spinel.core.tables.north_american import INTERVALS
    >>> [interval("gloves", INTERVALS, {"gloves": m}).months for m in (3, 9)], interval("lock", INTERVALS, {})
    ([3, 6], None)
    """
    found = practice.get(kind_id)
    return found and replace(found, months=min(found.months, shortened.get(kind_id, found.months)))


def months_after(day: date, months: int) -> date:
    """The same day so many months later, or the last of its month.

    >>> months_after(date(2026, 8, 31), 6)
    datetime.date(2027, 2, 28)
    """
    year, month = divmod(day.year * 12 + day.month - 1 + months, 12)
    return date(year, month + 1, min(day.day, calendar.monthrange(year, month + 1)[1]))


def due(item: Item) -> date | None:
    """The last day on which it may be used without another test; None without an interval, and without a test.

    What was tested and waits on the shelf may be put into service until ``shelf_months`` after its test, no later; from
    its first issue on its interval runs. That is so for the first issue alone: once in service, the test counts.

    >>> half = Interval(6, "", 12)
    >>> new = Item(number="G-1", kind_id="gloves", rating=Rating(), tested=date(2026, 1, 10), interval=half)
    >>> due(new)
    datetime.date(2027, 1, 10)
    >>> due(replace(new, in_service=date(2026, 9, 1))), due(replace(new, in_service=date(2025, 3, 1)))
    (datetime.date(2027, 3, 1), datetime.date(2026, 7, 10))
    """
    if item.interval is None or item.tested is None:
        return None
    months = item.interval.months
    if item.interval.shelf_months is None:
        return months_after(item.tested, months)
    shelf = months_after(item.tested, item.interval.shelf_months)
    if item.in_service is None:
        return shelf
    if item.in_service <= item.tested:
        return months_after(item.tested, months)
    # put into service too late after its test: that issue was none
    return months_after(item.in_service, months) if item.in_service <= shelf else shelf


def state(item: Item, today: date) -> str:
    """What holds first: retired, out of use, untested, overdue, due soon, good. The day on which it is due counts."""
    if item.retired:
        return RETIRED
    if item.barred:
        return OUT
    if item.interval is None:
        return GOOD
    if item.tested is None or item.tested > today:
        return UNTESTED
    end = due(item)
    assert end is not None
    if end < today:
        return OVERDUE
    return SOON if (end - today).days <= SOON_DAYS else GOOD


def why_not(item: Item, today: date) -> Sayable:
    """Why nobody uses it on a day; empty where somebody may, once they have looked at it."""
    found = state(item, today)
    if found == RETIRED:
        return say("gear-is-retired", number=item.number)
    if found == OUT:
        return say("instruments-barred", number=item.number, why=item.barred)
    if found == UNTESTED:
        return say("gear-no-test-recorded", number=item.number)
    if found == OVERDUE:
        end = due(item)
        assert end is not None
        return say("gear-overdue", number=item.number, due=end.isoformat())
    return ""


def as_instrument(item: Item, today: date) -> Instrument:
    """The same as what proves absence of voltage. What is out of date is as barred as what is broken."""
    r = item.rating
    barred = item.barred if item.barred and not item.retired else why_not(item, today)
    return Instrument(
        number=item.number, kind=item.kind_id, low_v=r.low_v or 0.0, high_v=r.high_v or 0.0,
        # a detector hangs on a stick: its voltage says it all
        category=r.category or 4, ac=r.ac, dc=r.dc, barred=barred,
    )  # fmt: skip
