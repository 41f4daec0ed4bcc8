"""What belongs to a piece of equipment: pictures, documents, links; and its upkeep, with what follows from it.

Upkeep that is overdue, or that failed, means that the equipment is not properly maintained: the question of normal
operation is answered by it, and a clearing time of it is warned with.
"""

from __future__ import annotations

from datetime import date
from pathlib import Path
from urllib.parse import urlsplit

from spinel.actions.acting import Act, Unit, work
from spinel.actions.evidence import MOST_BYTES, drawn_anew
from spinel.actions.site import Site, on_site
from spinel.core import texts
from spinel.core.errors import InputError, NotFound
from spinel.core.said import say
from spinel.core.upkeep import RESULTS, Upkept
from spinel.store import attachments as store
from spinel.store import files
from spinel.store.attachments import Attached

#: Schemes of a link that a page may show: what runs in a browser is none.
SCHEMES = ("http", "https")


@on_site
def may(act: Act) -> None:
    """NotAllowed for whoever keeps no documents; asked before anything that was typed is looked at."""
    act.actor.needs("coordinator", "director", "operator", what=say("attachments-keep-what-belongs-to-equipment"))


@on_site
def of(site: Site, element_id: str) -> list[Attached]:
    """The latest first."""
    return store.of(element_id)


@on_site
def attach_picture(act: Act, element_id: str, title: str, content: bytes) -> str:
    """A picture, drawn anew, or a PDF as it is; the name that it is kept by. InputError for anything else."""
    may(act)
    title = texts.PLATE.check(title, "title")
    name = kept_file(act.site, content)
    _attach(act, element_id, title, file=name)
    return name


@on_site
def kept_file(site: Site, content: bytes) -> str:
    """The name that a picture, drawn anew, or a PDF is kept by, before anything belongs to it; for actions that ask for
    their own roles. InputError for anything else."""
    if not content or len(content) > MOST_BYTES:
        raise InputError("picture", len(content), say("evidence-at-most", most=MOST_BYTES // 1024 // 1024))
    if content.startswith(b"%PDF-"):
        return files.keep(site.path, content, "pdf")
    try:
        return files.keep(site.path, drawn_anew(content), "jpg")
    except InputError as error:
        raise InputError("picture", error.value, error.allowed) from None


@on_site
def attach_link(act: Act, element_id: str, title: str, link: str) -> None:
    """An address of a document that is kept elsewhere."""
    may(act)
    link = texts.PLACE_OF_DOCUMENT.check(link, "link")
    if urlsplit(link).scheme not in SCHEMES or not urlsplit(link).netloc:
        raise InputError("link", link, say("attachments-a-link"))
    _attach(act, element_id, texts.PLATE.check(title, "title") or link[:80], link=link)


def _attach(act: Act, element_id: str, title: str, file: str = "", link: str = "") -> None:
    with work(act) as unit:
        if unit.done:
            return
        enter(unit, element_id, title, file, link)


def enter(unit: Unit, element_id: str, title: str, file: str = "", link: str = "") -> None:
    """Into the record of a piece, within an act."""
    act = unit.act
    store.insert(element_id, title or "-", file, link, act.at, act.actor.name)
    what = {"title": title, **({"file": file} if file else {"link": link})}
    unit.record("attached", f"equipment:{_tag(act.site, element_id)}", what)


def _tag(site: Site, element_id: str) -> str:
    """Of what is published; what is only in a draft is named by its id."""
    if not site.published():
        return element_id
    found = site.as_it_is().network.element.get(element_id)
    return found.tag if found else element_id


@on_site
def take_off(act: Act, element_id: str, attachment_id: int) -> None:
    """It stays in the record, and is shown no more. NotFound for one that is not there."""
    may(act)
    with work(act) as unit:
        if unit.done:
            return
        if not store.take_off(attachment_id, element_id):
            raise NotFound("evidence", attachment_id)
        unit.record("attachment taken off", f"equipment:{_tag(act.site, element_id)}", {"id": attachment_id})


@on_site
def is_attached(site: Site, name: str) -> bool:
    return store.has(name)


@on_site
def file(site: Site, name: str) -> Path:
    """Where an attached file lies; NotFound for any other, and for one that is damaged or lost."""
    path = files.path_of(site.path, name) if store.has(name) else None
    if path is None or not files.is_whole(site.path, name):
        raise NotFound("evidence", name[:12])
    return path


@on_site
def upkeep(site: Site, element_id: str) -> list[Upkept]:
    """What was done, the latest first."""
    return store.upkeep(element_id).get(element_id, [])


@on_site
def record_upkeep(act: Act, element_id: str, done: Upkept) -> None:
    """Something was done to keep it as it should be. InputError for a day to come, a result that there is not, or a
    next time before this one; NotFound for equipment that is not in the network."""
    may(act)
    here = act.site.as_it_is()
    element = here.network.get(element_id)
    what, by = texts.TITLE.check(done.what, "what"), texts.NAME.check(done.done_by, "done_by")
    if date.fromisoformat(done.day) > here.day(act.now):
        raise InputError("day", done.day, say("attachments-a-day-that-has-been"))
    if done.due and done.due <= done.day:
        raise InputError("due", done.due, say("attachments-a-day-after-it"))
    if done.result not in RESULTS:
        raise InputError("result", done.result, say("one-of", options=RESULTS))
    kept = Upkept(day=done.day, what=what, done_by=by, result=done.result, due=done.due,
                  note=texts.STATEMENT.check(done.note, "note"), by=act.actor.name)  # fmt: skip
    with work(act) as unit:
        if unit.done:
            return
        store.keep_upkeep(element_id, kept, act.at)
        said = {"day": kept.day, "what": what, "done_by": by, "result": done.result, "due": done.due}
        unit.record("maintenance recorded", f"equipment:{element.tag}", said)
