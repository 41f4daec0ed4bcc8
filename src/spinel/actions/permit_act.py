"""What the moves of a permit share: one shape, and what several of them ask before."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from spinel.actions import assessing, clock, jobs, permit_review, standing
from spinel.actions.acting import Act, Unit, work
from spinel.actions.keeping import keep, save
from spinel.actions.permits import PermitView, as_view, stored
from spinel.actions.site import SiteNow, on_site
from spinel.core.errors import Refusal
from spinel.core.permit.life import check_move
from spinel.core.said import Sayable, joined, say
from spinel.store.models import Permit

COPY_IT = say("permit-moves-cancel-and-copy-it-the-copy-takes")


@on_site
def move_on(
    act: Act,
    number: str,
    version: int,
    what: str,
    word: str,
    detail: Mapping[str, Any] | None = None,
    rule: Callable[[Unit, Permit, PermitView], Mapping[str, object]] | None = None,
    **changes: object,
) -> None:
    """The common shape: repeat? may they? the rule of this move; then state, record and ledger together."""
    with work(act) as unit:
        if unit.done:
            return
        permit = stored(number)
        seen = as_view(act.site, permit, act.now)
        move = check_move(what, permit.state, act.actor.roles, seen.parts_of(act.actor.id))
        clock.need_sure(act, what)
        more = dict(rule(unit, permit, seen)) if rule else {}
        target = {"state": move.target} if move.target else {}
        save(act, permit, version, **{**target, **changes, **more})
        keep(unit, permit, word, detail or {})
        unit.record(f"permit {word}", f"permit:{number}", {"content_hash": permit.content_hash, **(detail or {})})


def need_people(unit: Unit, seen: PermitView) -> None:
    for person_id, name in seen.roster.items():
        need_qualified(unit, seen, person_id, name)


def need_qualified(unit: Unit, seen: PermitView, person_id: int, name: str) -> None:
    """On each day from now, or from its beginning, to its end that begins or ends it: a window is seldom longer."""
    here = unit.site.as_it_is()
    task_id, kind = seen.content["task"]["skill"], seen.content["equipment"]["equipment_class"]
    for day in sorted({here.day(max(seen.window_start, unit.act.now)), here.day(seen.window_end)}):
        standing.need(here, person_id, name, task_id, kind, day)


def need_same_content(permit: Permit, signed_hash: str) -> None:
    if permit.content_hash != signed_hash:
        raise Refusal(
            say("permit-moves-a-signature-covers-what-was-seen"),
            say("permit-moves-the-content-changed-after-you-opened-it"),
            say("permit-moves-read-it-again-then-sign"),
        )


def need_running(seen: PermitView) -> None:
    if seen.shown_state == "expired":
        raise Refusal(
            say("permit-moves-never-extended"),
            say("permit-moves-the-permit-has-run-out"),
            say("permit-moves-hand-it-back-or-cancel-it-and"),
        )


def need_covered(here: SiteNow, seen: PermitView, remedy: Sayable = COPY_IT) -> None:
    """The frozen figures are not exceeded now, and the decision that allowed the permit still stands."""
    found = permit_review.worse(here, seen.content)
    if found:
        raise Refusal(
            say("permit-moves-figures-on-the-permit-cover-the-present"), say("sentence", what=joined(*found)), remedy
        )
    agreed = {tag for c in assessing.conditions(here.site, jobs.stored(seen.job)) for tag in c["sets"]}
    if later := agreed - set(seen.to_set):
        raise Refusal(
            say("permit-moves-what-was-agreed-is-on-it"),
            say("permit-moves-was-agreed-after-it", tags=tuple(sorted(later))), remedy,
        )  # fmt: skip
    decision = jobs.view_of(here, jobs.stored(seen.job)).decision
    if decision is None or not decision.permit:
        why = decision.sentence if decision else say("permit-moves-the-equipment-is-no-longer-in-the")
        raise Refusal(say("permit-moves-the-decision-still-stands"), why, say("permit-moves-answer-the-job-anew"))
