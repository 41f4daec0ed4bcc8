"""How a permit comes to be issued: asked for, signed by the positions that the site names, approved, issued with a
window; or refused.

A signature cites the hash of the content that its signer saw: the form carries it, and a hash that has moved
meanwhile is refused.
"""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime

from spinel.actions import codes, jobs, people, positions
from spinel.actions.acting import Act, Unit, repeated, utc_moment, utc_text
from spinel.actions.assessing import need_agreed
from spinel.actions.permit_act import move_on, need_covered, need_people, need_same_content
from spinel.actions.permits import PermitView, as_view, stored
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.errors import InputError, Refusal
from spinel.core.permit.life import APPROVALS, check_move
from spinel.core.permit.positions import Position
from spinel.core.said import Said, say
from spinel.store.models import Permit


@on_site
def submit(act: Act, number: str, version: int) -> None:
    """Ask for approval: the content is complete, the figures are fresh, the people qualified."""

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        _complete(seen)
        need_people(unit, seen)
        _decided_so(unit.site.as_it_is(), seen)
        need_covered(unit.site.as_it_is(), seen, say("permit-moves-edit-and-save-the-permit-it-takes"))
        need_agreed(unit.site, seen.job)
        if utc_moment(permit.window_end) <= act.now:
            raise Refusal(
                "window",
                say("permit-moves-the-requested-window-is-over"),
                say("permit-moves-ask-for-a-later-window"),
                field="window_end",
            )
        return {}

    move_on(act, number, version, "submit", "submitted", rule=rule)


def _complete(seen: PermitView) -> None:
    c = seen.content
    crowd = {w["id"] for w in c["people"]["workers"]} | {a["id"] for a in c["access"]["attendants"]}
    if c["people"]["in_charge"]:
        crowd.add(c["people"]["in_charge"]["id"])
    missing = {
        "workers": (not c["people"]["workers"], say("permit-moves-name-the-workers")),
        "in_charge": (not c["people"]["in_charge"], say("permit-moves-name-the-person-in-charge")),
        "keep_out": (not c["access"]["keep_out"], say("permit-moves-say-how-unqualified-people-are-kept-out")),
        "practices": (not c["practices"], say("permit-moves-name-the-safe-work-practices")),
        "attendants": (len(crowd) < 2, say("permit-moves-at-least-two-people-for-live-work")),
    }
    for field, (lacking, what) in missing.items():
        if lacking:
            raise Refusal(
                say("permit-moves-what-a-permit-holds"),
                say("permit-moves-it-is-not-complete", what=what),
                say("permit-moves-edit-the-permit"),
                field=field,
            )


def _decided_so(here: SiteNow, seen: PermitView) -> None:
    """The permit says what the job says: facts and justification may have been answered anew since it was drafted."""
    job = jobs.view_of(here, jobs.stored(seen.job))
    c = seen.content
    same = c["facts"] == dict(job.facts) and c["justification"]["id"] == job.claim.id
    if not (
        same
        and c["justification"]["statement"] == job.statement
        and job.reach is not None
        and c["touches"] == job.reach.code
    ):
        raise Refusal(
            say("permit-moves-the-permit-says-what-the-job-says"),
            say("permit-moves-the-job-was-answered-anew-after-this"),
            say("permit-moves-edit-and-save-the-permit-it-takes-2"),
        )


@on_site
def sign(act: Act, number: str, version: int, signed_hash: str, password: str, code: str = "") -> None:
    """For the position whose turn it is, by one of those who hold it, after giving the password again; ``code``: as
    for an approval."""
    if repeated(act):
        return
    _allowed_first(act, number, "sign")
    _need_turn(act, as_view(act.site, stored(number), act.now))
    _confirmed(act, password, code)
    detail: dict[str, object] = {}

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        need_same_content(permit, signed_hash)
        detail["position"] = _need_turn(act, seen).title
        return {}

    move_on(act, number, version, "sign", "signed", detail, rule)


def _need_turn(act: Act, seen: PermitView) -> Position:
    """The position that signs next, held by who acts; Refusal otherwise."""
    lacking = positions.lacking(act.site, seen)
    if not lacking:
        raise Refusal(
            say("permit-approval-each-position-signs-once"),
            say("permit-approval-every-position-has-signed"),
            say("permit-moves-nothing-more-to-sign"),
        )
    if act.actor.id not in lacking[0].people:
        raise positions.not_theirs(act.site, lacking[0])
    return lacking[0]


def _need_positions(unit: Unit, seen: PermitView, remedy: Said) -> None:
    lacking = positions.lacking(unit.site, seen)
    if lacking:
        raise Refusal(
            say("permit-approval-the-positions-of-the-site-sign"),
            say("permit-approval-has-not-signed", title=lacking[0].title),
            remedy,
        )


@on_site
def approve(act: Act, number: str, version: int, signed_hash: str, password: str, code: str = "") -> None:
    """The authoriser puts a name to it, after giving the password again; ``code``: a one-time code, where the site asks
    for one."""
    if repeated(act):
        return
    _allowed_first(act, number, "approve")
    _confirmed(act, password, code)

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        need_same_content(permit, signed_hash)
        need_people(unit, seen)
        _need_positions(unit, seen, say("permit-approval-they-sign-first"))
        # it waits on until as many as the site wants have put their names to it
        return {} if approvals_lacking(unit.site, seen) <= 1 else {"state": permit.state}

    move_on(act, number, version, "approve", "approved", rule=rule)


@on_site
def approvals_lacking(site: Site, seen: PermitView) -> int:
    """How many more authorisers the site wants on this content, each another person."""
    wanted = APPROVALS[site.settings_now()["approvals"]]
    return max(0, wanted - len({r.person_id for r in seen.valid("approved")}))


@on_site
def refuse(act: Act, number: str, version: int, reason: str) -> None:
    """The authoriser says no, with the reason."""
    move_on(act, number, version, "refuse", "refused", {"because": texts.REASON.check(reason)})


@on_site
def issue(
    act: Act, number: str, version: int, signed_hash: str, password: str, start: datetime, end: datetime, code: str = ""
) -> None:  # fmt: skip
    """Issue with a window, which may only be narrower than the one requested."""
    if repeated(act):
        return
    _allowed_first(act, number, "issue")
    if end <= start:
        raise InputError("window_end", "", say("permit-moves-after-the-start"))
    seen_now = stored(number)
    wanted = shapes.content("permit", seen_now.content)["window"]
    if start < utc_moment(wanted["start"]) or end > utc_moment(wanted["end"]):
        raise Refusal(
            say("permit-moves-issuing-may-only-narrow-the-window"),
            say("permit-moves-the-window-is-wider-than-the-one"),
            say("permit-moves-stay-inside-it-or-edit-the-permit"),
            field="window_start",
        )
    if end <= act.now:
        raise Refusal(
            "window",
            say("permit-moves-this-window-is-already-over"),
            say("permit-moves-choose-one-that-is-not"),
            field="window_end",
        )
    _confirmed(act, password, code)

    def rule(unit: Unit, permit: Permit, seen: PermitView) -> Mapping[str, object]:
        need_same_content(permit, signed_hash)
        need_people(unit, seen)
        need_covered(unit.site.as_it_is(), seen)
        need_agreed(unit.site, seen.job)
        _need_positions(unit, seen, say("permit-moves-edit-and-submit-it-again"))
        if lacking := approvals_lacking(unit.site, seen):
            raise Refusal(
                say("permit-moves-as-many-approve-as-the-site-wants"),
                say("permit-moves-approvals-lack", count=lacking),
                say("permit-moves-edit-and-submit-it-again"),
            )
        return {"window_start": utc_text(start), "window_end": utc_text(end)}

    detail = {"start": utc_text(start), "end": utc_text(end)}
    move_on(act, number, version, "issue", "issued", detail, rule)


def _confirmed(act: Act, password: str, code: str) -> None:
    people.confirm_identity(act, password)
    codes.need(act, code)


def _allowed_first(act: Act, number: str, what: str) -> None:
    """A person who may not do it at all learns that before a password is asked for or counted."""
    permit = stored(number)
    check_move(what, permit.state, act.actor.roles, as_view(act.site, permit, act.now).parts_of(act.actor.id))
