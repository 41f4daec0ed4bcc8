"""What a drawing tells of every piece beside its state: who holds it, and how old what is known of it is; and the site
as it would be in another state than the present one."""

from __future__ import annotations

from datetime import datetime

from spinel.actions import program_view
from spinel.actions.acting import utc_moment
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import stored as shapes
from spinel.core.errors import InputError
from spinel.core.network.field import Field, fold_field
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.now import FieldEvent
from spinel.core.permit.life import WITH_WINDOW
from spinel.core.said import say
from spinel.store import network as store
from spinel.store import permits, programs


def holds(here: SiteNow) -> dict[str, tuple[str, ...]]:
    """Numbers of isolations whose locks hang on a piece, and of permits in force or issued at it."""
    with here.site.connection():
        found: dict[str, list[str]] = {i: list(d.locks) for i, d in here.now.items() if d.locks}
        for p in permits.permits_in(WITH_WINDOW):
            element_id = shapes.content("permit", p.content)["equipment"]["id"]
            found.setdefault(element_id, []).append(p.number)
    return {i: tuple(dict.fromkeys(names)) for i, names in found.items()}


def ages_days(here: SiteNow, now: datetime) -> dict[str, int | None]:
    """For every device, how many days ago something was last recorded on it; None for one never seen."""
    with here.site.connection():
        last = {e.element_id: e.at for e in store.events(0, here.event_id)}
    return {
        e.id: (now - utc_moment(last[e.id])).days if e.id in last else None
        for e in here.network.elements
        if e.kind in SWITCHING or e.row.may_turn
    }


@on_site
def in_normal(site: Site) -> SiteNow:
    """The site with every device as in normal service, as if seen so."""
    here = site.as_it_is()
    events = [
        FieldEvent(sequence=i, at="", actor="", kind="found", element_id=e.id, value=value, walked=True)
        for i, e in enumerate(here.network.elements)
        if (value := e.normal_position if e.kind in SWITCHING else _running(e.normal_state, e.row.may_turn))
    ]
    return here.seen_with(fold_field(here.network, events, Field()))


def _running(state: str | None, may_turn: bool) -> str:
    return state if may_turn and state in ("running", "stopped") else ""


@on_site
def after_step(site: Site, number: str, step: int) -> SiteNow:
    """The site as it would stand after a step of a program, 0 before the first; InputError for one beyond its last."""
    seen = program_view.view(site, number)
    if not 0 <= step < len(seen.fields):
        raise InputError("step", step, say("drawing-facts-a-step-of-it", last=len(seen.fields) - 1))
    return site.as_it_is().seen_with(seen.fields[step])


@on_site
def programs_with_steps(site: Site) -> list[tuple[str, int]]:
    """Programs that are not over, each with how many steps it has."""
    return [
        (p.number, len(shapes.content("program", p.content)["steps"]))
        for p in programs.programs_in(("draft", "checked", "released", "executing", "stopped"))
    ]
