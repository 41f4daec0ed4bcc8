"""Revisions of the network: those published, drafts that are looked at before, and what publishing one would do."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from spinel.actions import network, permit_review, program_review
from spinel.actions.acting import Act, repeated, utc_text
from spinel.actions.figures import document_text
from spinel.actions.people import confirm_identity
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.canonical import canonical, digest
from spinel.core.errors import NotFound, Refusal
from spinel.core.network.check import accept, parse
from spinel.core.network.circuit import at_present
from spinel.core.network.differences import Difference, differences
from spinel.core.network.document import read_network
from spinel.core.network.field import fold_field
from spinel.core.network.liveness import liveness
from spinel.core.network.upgrade import upgraded
from spinel.core.permit.life import SIGNED
from spinel.core.profile import profile
from spinel.core.said import Sayable, joined, say
from spinel.store import drafts, ledger, programs
from spinel.store import network as store
from spinel.store.drafts import LookedAt


@dataclass(frozen=True, kw_only=True)
class Published:
    """``note``: what its publisher said of it, empty where nothing was said."""

    number: int
    hash: str
    at: str
    by: str
    note: str


@dataclass(frozen=True)
class Stopped:
    """A permit or a program that would not go on. ``held``: work or switching is under way; else its signatures would
    be void. ``because``: what the new figures exceed, or what it says that is no longer so."""

    number: str
    state: str
    held: bool
    because: Sayable


@dataclass(frozen=True, kw_only=True)
class Effects:
    """What publishing a document would do to what is signed and under way."""

    permits: tuple[Stopped, ...]
    programs: tuple[Stopped, ...]
    #: Why it cannot be published as it is.
    refused: Sayable = ""


@on_site
def published(site: Site) -> list[Published]:
    """The latest first."""
    said = {e.subject: shapes.read("act", e.payload) for e in ledger.search(act="network published", limit=10_000)}
    return [
        Published(
            number=r.number, hash=r.hash, at=r.published_at, by=r.published_by,
            note=str(said.get(f"network:{r.number}", {}).get("note", "")),
        )
        for r in store.revisions()
    ]  # fmt: skip


@on_site
def of_number(site: Site, number: int) -> Published:
    found = next((p for p in published(site) if p.number == number), None)
    if found is None:
        raise NotFound("network revision", number)
    return found


@on_site
def document_of(site: Site, revision_hash: str) -> dict[str, Any]:
    """A published document, as it was stored."""
    found: dict[str, Any] = json.loads(document_text(revision_hash))
    return found


@on_site
def text_of(site: Site, revision_hash: str) -> str:
    """A published document, to the letter."""
    return document_text(revision_hash)


@on_site
def keep_draft(act: Act, text: str) -> LookedAt:
    """Look at a document before it is published. DocumentError with all its problems: then nothing is kept."""
    act.actor.needs("coordinator", what=say("act-network-publish-a-network"))
    data = parse(text)
    accept(data)
    stored = canonical(upgraded(data))
    made = LookedAt(digest(stored), int(act.actor.id or 0), utc_text(act.now), stored)
    drafts.put(act.site.path, made)
    return made


@on_site
def drafts_kept(site: Site) -> list[LookedAt]:
    return drafts.every(site.path)


@on_site
def draft(site: Site, name: str) -> LookedAt:
    """By its hash, which names this very text: what lies beside the database proves nothing."""
    found = drafts.one(site.path, name)
    if found is None or digest(found.document) != name:
        raise NotFound("draft of the network", name[:12])
    return found


@on_site
def throw_away(act: Act, name: str) -> None:
    """Nothing of it was ever recorded."""
    act.actor.needs("coordinator", what=say("act-network-publish-a-network"))
    drafts.remove(act.site.path, draft(act.site, name).hash)


@on_site
def publish(act: Act, name: str, password: str, note: str, against: str) -> tuple[int, list[str]]:
    """Publish a draft, after giving the password again, with what is said of it; ``against``: hash of the revision that
    the signer saw it compared with. The number, and what it stopped."""
    act.actor.needs("coordinator", what=say("act-network-publish-a-network"))
    if repeated(act):
        # answered before: the draft has gone with it
        return act.site.as_it_is().number, []
    found, said = draft(act.site, name), texts.REASON.check(note, "note")
    confirm_identity(act, password)
    done = network.publish(act, found.document, said, against)
    drafts.remove(act.site.path, found.hash)
    return done


@on_site
def compared(site: Site, old: Mapping[str, Any] | None, new: Mapping[str, Any]) -> tuple[Difference, ...]:
    """What differs, both as the present version has them; everything is new where there is no network yet."""
    return differences(upgraded(old) if old is not None else {}, upgraded(new))


@on_site
def effects(site: Site, document: str) -> Effects:
    """As the reviews would find it: computed on the site as it is, with this document in place of its own. What the
    figures follow from is remembered, so that publishing has nothing left to compute while others wait."""
    if not site.published():
        return Effects(permits=(), programs=())
    then = _with(site.as_it_is(), document)
    try:
        network.nothing_hangs_on_what_goes(site.as_it_is(), then.network)
        refused: Sayable = ""
    except Refusal as refusal:
        refused = refusal.said
    return Effects(
        refused=refused,
        permits=tuple(
            Stopped(p.number, p.state, p.state not in SIGNED, joined(*why)) for p, why in permit_review.exceeded(then)
        ),
        programs=tuple(
            Stopped(p.number, p.state, p.state == "executing", why[0]) for p, why in program_review.exceeded(then)
        ),
    )


def _with(here: SiteNow, document: str) -> SiteNow:
    """The site as it is, on another document."""
    new = read_network(json.loads(document))
    asked = {p.base_event for p in programs.programs_in(("checked", "released", "executing"))}
    asked |= {p.origin_event for p in programs.programs_in(("checked", "released", "executing"))}
    past = {event: fold_field(new, store.events(0, event)) for event in asked | {here.event_id}}
    field = past[here.event_id]
    circuit = at_present(new, field.devices)
    return replace(
        here, network=new, hash=digest(document), field=field, past=past, profile=profile(new.site.profile),
        liveness=liveness(new, circuit, field.devices, field),
    )  # fmt: skip
