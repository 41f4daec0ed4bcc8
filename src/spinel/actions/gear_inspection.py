"""An item looked at before it is used: challenged and answered. One answer that is not good takes it out of use for
everybody; a wrong press is taken back within half a minute, and both are kept."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta

from spinel.actions import gear, people
from spinel.actions.acting import Act, Actor, utc_moment, work
from spinel.actions.gear_reach import Touched
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.errors import InputError, Refusal
from spinel.core.gear.inspection import Challenge, challenges, looked_at
from spinel.core.said import say
from spinel.store import gear as store
from spinel.store import programs

#: For so long a wrong press is taken back by whoever pressed it.
WRONG_PRESS = timedelta(seconds=30)


@dataclass(frozen=True)
class Inspected:
    """``good``: may it be used? ``failed``: what was not as it should be, and what was said."""

    good: bool
    failed: tuple[Challenge, str] | None = None
    touched: Touched = field(default_factory=Touched)


@on_site
def inspect(act: Act, number: str, answers: Mapping[str, str], read_by: str = "") -> Inspected:
    """Everything that is asked of an item, answered. ``read_by``: sign-in name of whoever read it out, another."""
    reader = people.registered(read_by) if read_by else None
    if reader is not None and reader.id == act.actor.id:
        raise InputError("read_by", read_by, say("inspect-read-out-by-another"))
    kept = {k: texts.ANSWER.check(v, k) for k, v in answers.items()}
    with work(act) as unit:
        item = gear.one(act.site, number)
        if unit.done:
            # sent twice: the answer is what came of it, never that all was well
            return Inspected(good=bool((last(act.site, number) or {}).get("good")))
        looked = looked_at(item, kept, gear.today(act.site, act.at))
        answered = [list(a) for a in looked.answers]
        detail = {"answers": answered, "read_by": reader.name if reader else "", "by_id": act.actor.id}
        known = {**detail, "records": programs.last_record()}
        row = gear.row_of(item.number)
        good = looked.failed is None
        store.add_event(row.id, "inspected", act.at, act.actor.name, good=good, detail=known)
        unit.record("gear inspected", f"gear:{item.number}", {**detail, "good": good})
        if looked.failed is None:
            return Inspected(good=True)
        challenge, said = looked.failed
        why = say("inspect-failed", short=challenge.short, said=said)
        return Inspected(good=False, failed=looked.failed, touched=gear.bar_in(unit, item.number, why))


@on_site
def mispressed(act: Act, number: str) -> None:
    """The last answer was pressed wrong: the item is in use as before, to be inspected again from the start. Only by
    whoever pressed, within WRONG_PRESS. A proof that is over stays over."""
    with work(act) as unit:
        if unit.done:
            return
        row = gear.row_of(number)
        if not may_take_back(act.site, number, act.actor, act.now):
            raise Refusal(
                say("inspect-a-wrong-press-is-taken-back-at-once"), say("inspect-too-late", number=row.number),
                say("gear-record-its-test"),
            )  # fmt: skip
        store.change(row, act.at, act.actor.name, barred="")
        store.add_event(row.id, "mispressed", act.at, act.actor.name, note=row.barred)
        unit.record("gear mispressed", f"gear:{row.number}", {"was": row.barred})


@on_site
def may_take_back(site: Site, number: str, who: Actor | None, now: datetime) -> bool:
    """Did this person's own inspection take it out of use a moment ago, and nothing happen since?"""
    last = gear.history(site, number)[:2]
    if [e.kind for e in last] != ["barred", "inspected"] or last[0].at != last[1].at:
        return False
    age = now - utc_moment(last[0].at)
    return who is not None and json.loads(last[1].detail).get("by_id") == who.id and timedelta(0) <= age <= WRONG_PRESS


@on_site
def asked(site: Site, number: str) -> tuple[Challenge, ...]:
    return challenges(gear.one(site, number))


@on_site
def last(site: Site, number: str) -> dict[str, object] | None:
    """The last inspection: when, by whom, good or not, with its answers; None where there was none."""
    event = next((e for e in gear.history(site, number) if e.kind == "inspected"), None)
    if event is None:
        return None
    return {"at": event.at, "by": event.by, "good": bool(event.good), **json.loads(event.detail)}
