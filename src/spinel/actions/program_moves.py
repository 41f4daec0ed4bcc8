"""Moving a program through its life on paper: edits, the check by a second person, release, abandoning.

Executing it is in console. A signature cites the hash of the content that its signer saw.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from spinel.actions import box, standing
from spinel.actions.acting import Act, Actor, Unit, work
from spinel.actions.equipment import equipment_class
from spinel.actions.in_the_way import need_nobody
from spinel.actions.keeping import keep, save
from spinel.actions.locks import anything_left
from spinel.actions.program_review import worse
from spinel.actions.program_view import ProgramView, as_view, stored
from spinel.actions.programs import content_of, energizing, redraft_restoration
from spinel.actions.site import on_site
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.errors import InputError, NotAllowed, Refusal
from spinel.core.network.document import Network
from spinel.core.said import Sayable, say
from spinel.core.switching import edit as edits
from spinel.core.switching.between import draft_switching
from spinel.core.switching.draft import Draft, draft_isolation
from spinel.core.switching.life import MOVES, SIGNED, check_move
from spinel.core.switching.order import ISOLATION, RESTORATION, SWITCHED
from spinel.core.switching.restore import draft_restoration
from spinel.core.switching.steps import Step, as_data
from spinel.store.models import Program


def why_not(actor: Actor, seen: ProgramView) -> dict[str, Sayable]:
    """For every move: why this person may not, whatever the state. Pages show it in place of the button."""
    reasons = {}
    for name, move in MOVES.items():
        try:
            check_move(name, move.source[0], actor.roles, seen.parts_of(actor.id))
        except NotAllowed as refusal:
            reasons[name] = refusal.why
    return reasons


def _edit(
    act: Act,
    number: str,
    version: int,
    what: Sayable,
    change: Callable[[ProgramView], Sequence[Step]],
    renew: Callable[[ProgramView, Sequence[Step]], dict[str, Any]] | None = None,
) -> bool:
    """The common shape of an edit: new steps, judged at once; refused when one breaks a rule. True: a check is void.

    ``renew``: the whole content anew, where more than the steps changes.
    """
    with work(act) as unit:
        if unit.done:
            return False
        program, here = stored(number), unit.site.as_it_is()
        check_move("edit", program.state, act.actor.roles, ())
        if program.practice:
            raise Refusal(
                say("program-moves-practice-is-fixed-when-it-is-drafted"),
                say("program-moves-a-practice-run-is-not-edited"),
                say("program-moves-edit-its-program"),
            )
        seen = as_view(program, here)
        steps, _ = edits.accepted(seen.order, seen.fields[0], change(seen), was=seen.steps)
        content = renew(seen, steps) if renew else {**seen.content, "steps": [as_data(s) for s in steps]}
        if program.purpose == SWITCHED:
            content = content_of(here, seen.order, program.job, seen.fields[0], steps)
        content["energizing"] = energizing(seen.order, seen.fields[0], steps)
        voids = program.state in SIGNED
        kept = shapes.write("program", content)
        save(act, program, version, state="draft", content=kept.text, content_hash=kept.hash)
        fresh = stored(number)
        keep(unit, fresh, "edited", {"what": what, "voided": voids})
        unit.record("program edited", f"program:{number}", {"what": what, "content_hash": kept.hash, "voided": voids})
        if program.purpose == ISOLATION:
            redraft_restoration(unit, program.hold)
    return voids


@on_site
def move_step(act: Act, number: str, version: int, step: int, to: int) -> bool:
    """Bring a step (counted from 1) to another place."""
    return _edit(
        act,
        number,
        version,
        say("program-moves-step-moved-to", step=step, to=to),
        lambda v: edits.moved(v.steps, step - 1, to - 1),
    )


@on_site
def remove_step(act: Act, number: str, version: int, step: int) -> bool:
    """Take a step out."""
    return _edit(
        act, number, version, say("program-moves-step-removed", step=step), lambda v: edits.removed(v.steps, step - 1)
    )


@on_site
def remark_step(act: Act, number: str, version: int, step: int, remark: str) -> bool:
    """Put a remark on a step, or take it off with an empty one."""
    return _edit(
        act,
        number,
        version,
        say("program-moves-step-remarked", step=step),
        lambda v: edits.remarked(v.steps, step - 1, remark),
    )


@on_site
def add_step(act: Act, number: str, version: int, at: int, what: str, tag: str) -> bool:
    """Put a step in at a place (counted from 1)."""

    def change(v: ProgramView) -> Sequence[Step]:
        element = v.order.network.by_tag.get(tag)
        if element is None:
            raise InputError("tag", tag, say("program-moves-the-tag-of-equipment-in-the-network"))
        if not 1 <= at <= len(v.steps) + 1:
            raise InputError("at", at, say("program-moves-a-place-from-1-to", count=len(v.steps) + 1))
        return edits.added(v.order, v.fields[at - 1], v.steps, at - 1, what, element)

    return _edit(act, number, version, say("program-moves-added-as-step", what=what, tag=tag, at=at), change)


@on_site
def redraft(act: Act, number: str, version: int) -> bool:
    """Draft it anew from the network and the state as it is; edits by hand are gone, and a check is void."""
    made: list[Draft] = []

    def change(v: ProgramView) -> Sequence[Step]:
        element = v.order.target.element
        if v.purpose == SWITCHED:
            return draft_switching(v.order.study, v.fields[0], element, v.hold, v.order.goal, v.order.origin,
                                   v.order.crews).steps  # fmt: skip
        if v.purpose == RESTORATION:
            return draft_restoration(v.order.study, v.fields[0], element, v.hold, v.order.origin, v.order.crews)[1]
        made.append(draft_isolation(v.order.study, v.fields[0], element, v.hold, v.order.origin, v.order.crews))
        return made[0].steps

    def renew(v: ProgramView, steps: Sequence[Step]) -> dict[str, Any]:
        job = stored(number).job
        return content_of(act.site.as_it_is(), v.order, job, v.fields[0], steps, made[0] if made else None)

    return _edit(act, number, version, "drafted anew", change, renew)


def _move(
    act: Act,
    number: str,
    version: int,
    what: str,
    word: str,
    detail: Mapping[str, Any],
    rule: Callable[[Program, ProgramView], Mapping[str, object]] | None = None,
    **changes: object,
) -> None:
    """The common shape: repeat? may they? the rule of this move; then state, record and ledger together."""
    with work(act) as unit:
        if unit.done:
            return
        program = stored(number)
        seen = as_view(program, unit.site.as_it_is())
        move = check_move(what, program.state, act.actor.roles, seen.parts_of(act.actor.id))
        more = dict(rule(program, seen)) if rule else {}
        save(act, program, version, state=move.target, **changes, **more)
        keep(unit, program, word, detail)
        said = "practice " if program.practice else "program "
        unit.record(said + word, f"program:{number}", {"content_hash": program.content_hash, **detail})
        after_move(unit, what, program)


def after_move(unit: Unit, what: str, program: Program) -> None:
    """An isolation that is abandoned leaves a restoration drafted from the state as it is, when anything is held."""
    if what != "abandon" or program.purpose != ISOLATION or program.practice:
        return
    if anything_left(program.hold, unit.site.as_it_is().field):
        redraft_restoration(unit, program.hold)


def need_safe(seen: ProgramView) -> None:
    """Refusal with the first rule that the program breaks as things stand."""
    for i, broken in enumerate(seen.verdicts):
        if broken is not None:
            raise Refusal(
                broken.rule,
                say("program-moves-step", i=i + 1, identity=seen.steps[i].identity, why=broken.why),
                broken.remedy,
            )
    if seen.lacks:
        raise seen.lacks[0].refusal()


def same_content(seen: ProgramView, signed_hash: str) -> None:
    if seen.content_hash != signed_hash:
        raise Refusal(
            say("program-moves-a-signature-covers-what-was-seen"),
            say("program-moves-the-program-changed-after-you-opened-it"),
            say("program-moves-read-it-again-then-sign"),
        )


def classes_of(network: Network, seen: ProgramView, kinds: Sequence[str]) -> list[str]:
    """Equipment classes at which steps of these kinds are done by hand."""
    found: dict[str, None] = {}
    for step in seen.steps:
        if step.kind in kinds and not step.others:
            element = network.element[step.element_id]
            for side in ("line_side", "feeder"):
                found[equipment_class(network, element, side)] = None
    return list(found)


def need_qualified_for(
    act: Act, seen: ProgramView, person_id: int, name: str, task_id: str, kinds: Sequence[str]
) -> None:
    here = act.site.as_it_is()
    for kind in classes_of(here.network, seen, kinds):
        standing.need(here, person_id, name, task_id, kind, here.day(act.now))


@on_site
def check(act: Act, number: str, version: int, signed_hash: str) -> None:
    """A second person, qualified for the equipment, has checked every step against the one-line and the place."""

    def rule(program: Program, seen: ProgramView) -> Mapping[str, object]:
        same_content(seen, signed_hash)
        need_safe(seen)
        if act.actor.id is not None:
            need_qualified_for(act, seen, act.actor.id, act.actor.name, "operate", ("operate", "lock"))
        still_covered(seen)
        return {}

    _move(act, number, version, "check", "checked", {}, rule)


@on_site
def release(act: Act, number: str, version: int, signed_hash: str) -> None:
    """A coordinator releases it to be executed once; a restoration only when the work behind it is over."""

    def rule(program: Program, seen: ProgramView) -> Mapping[str, object]:
        same_content(seen, signed_hash)
        if program.purpose == RESTORATION and not program.practice:
            box.may_restore(program.hold)
        need_safe(seen)
        still_covered(seen)
        need_nobody(act.site.as_it_is(), seen)
        return {}

    _move(act, number, version, "release", "released", {}, rule)


@on_site
def abandon(act: Act, number: str, version: int, reason: str) -> None:
    """End a program that will not be executed to its end."""
    text = texts.REASON.check(reason)
    _move(act, number, version, "abandon", "abandoned", {"because": text}, stopped_because="")


def still_covered(seen: ProgramView) -> None:
    found = worse(seen)
    if found:
        raise Refusal(
            say("program-moves-figures-on-the-program-cover-the-present"),
            say("sentence", what=found[0]),
            say("program-moves-draft-it-anew"),
        )
