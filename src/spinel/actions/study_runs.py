"""Studies of the whole site: asked for, done, cancelled, signed. A study belongs to a document and a ceiling; its
result is kept by the hash of its content and never changes, whatever becomes of the network."""

from __future__ import annotations

from dataclasses import dataclass, fields
from functools import lru_cache

from spinel.actions import drafting
from spinel.actions.acting import Act, Unit, work
from spinel.actions.figures import document_text
from spinel.actions.site import Site, SiteNow, on_site
from spinel.core import texts
from spinel.core.canonical import digest
from spinel.core.errors import InputError, NotFound, Refusal, Stale
from spinel.core.said import say
from spinel.core.study import METHOD
from spinel.core.study_result import StudyResult, read_result
from spinel.store import studies as store
from spinel.store.models import StudyRun

ASKED, DONE, CANCELLED, FAILED = "asked", "done", "cancelled", "failed"
#: Does a study count as handed over only once a licensed engineer has signed it?
ENGINEER_RULE = "study_signed_by"
#: So many wait at once: what more is asked for is refused, so that nobody fills the queue by pressing again.
MOST_ASKED = 10
#: After so many years it is reviewed, changed or not (reference: review every five years).
REVIEW_YEARS = 5


@dataclass(frozen=True, kw_only=True)
class StudyAsked:
    """``revision``: number of the published network, 0 for a draft, whose number is ``draft``. ``current``: is it of
    the network as it is published, under the ceiling as it is set, by the method as it ships? ``outdated``: why not."""

    number: str
    revision: int
    draft: str
    document_hash: str
    ceiling_cal_cm2: float
    state: str
    result_hash: str
    because: str
    asked_at: str
    asked_by: str
    done_at: str
    signed_at: str
    signed_by: str
    licence: str
    version: int
    outdated: tuple[str, ...]

    @property
    def current(self) -> bool:
        return self.state == DONE and not self.outdated


@on_site
def may(act: Act) -> None:
    act.actor.needs("coordinator", what=say("act-study-run"))


@on_site
def may_sign(act: Act) -> None:
    act.actor.needs("coordinator", "authoriser", what=say("act-study-sign"))


@on_site
def ask(act: Act, draft: str = "") -> str:
    """A study of the published network, or of a draft as it stands now. NotFound for a draft that there is not. The
    number of one that waits already for the same, or its own."""
    may(act)
    with work(act) as unit:
        if unit.done:
            return unit.done.partition(":")[2]
        here = act.site.as_it_is()
        text, hash_ = ("", here.hash) if not draft else _drafted(act.site, draft)
        for run in (waiting := store.asked()):
            if (run.document_hash, run.ceiling_cal_cm2) == (hash_, here.ceiling_cal_cm2):
                return str(run.number)
        if len(waiting) >= MOST_ASKED:
            raise Refusal(say("study-queue"), say("study-queue-full", most=MOST_ASKED), say("study-queue-wait"))
        number = store.ask(
            revision=0 if draft else here.number, draft=draft, document_hash=hash_, document=text,
            ceiling_cal_cm2=here.ceiling_cal_cm2, method=METHOD, asked_at=act.at, asked_by=act.actor.name,
        )  # fmt: skip
        unit.record("study asked", f"study:{number}", {"document": hash_, "draft": draft,
                                                       "ceiling_cal_cm2": here.ceiling_cal_cm2})  # fmt: skip
    return number


def _drafted(site: Site, number: str) -> tuple[str, str]:
    """The document of a draft and its hash; InputError where it is no network yet."""
    found = drafting.draft(site, number)
    if found.state != "open":
        raise NotFound("draft of the network", number)
    if drafting.problems(site, number):
        raise InputError("draft", number, say("study-draft-has-problems"))
    return found.text, digest(found.text)


@on_site
def document_of(site: Site, number: str) -> str:
    """The document that a study is of."""
    run = _row(number)
    return run.document or document_text(run.document_hash)


@on_site
def keep(act: Act, number: str, content: str) -> None:
    """What was computed for a study, by the system. A study that was cancelled meanwhile stays so; ValueError for
    what is of another document or ceiling."""
    result = read_result(content)
    with work(act) as unit:
        run = _row(number)
        if run.state != ASKED:
            return
        if (result.document_hash, result.ceiling_cal_cm2) != (run.document_hash, run.ceiling_cal_cm2):
            raise ValueError("a result of another study")
        store.keep_result(result.hash, content)
        store.change(run, state=DONE, result_hash=result.hash, done_at=act.at)
        unit.record_by_system("study done", f"study:{number}", {"result": result.hash, "places": len(result.rows)})


@on_site
def fail(act: Act, number: str, because: str) -> None:
    """It could not be computed, by the system."""
    with work(act) as unit:
        run = _row(number)
        if run.state == ASKED:
            store.change(run, state=FAILED, because=because[:400])
            unit.record_by_system("study failed", f"study:{number}", {"because": because[:400]})


@on_site
def cancel(act: Act, number: str, version: int) -> None:
    may(act)
    with work(act) as unit:
        if unit.done:
            return
        run = _of_version(number, version)
        if run.state != ASKED:
            raise Refusal(say("study-life"), say(f"study-is-{run.state}"), say("study-run-again"))
        store.change(run, state=CANCELLED)
        unit.record("study cancelled", f"study:{number}", {})


@on_site
def sign(act: Act, number: str, version: int, result_hash: str, licence: str) -> None:
    """Whoever answers for a study signs what it found, with the number of their licence, by the hash of its content."""
    may_sign(act)
    licence = texts.LICENCE.check(licence)
    with work(act) as unit:
        if unit.done:
            return
        run = _of_version(number, version)
        if run.state != DONE or run.draft:
            raise Refusal(say("study-signing"), say("study-nothing-to-sign"), say("study-publish-first"))
        if run.result_hash != result_hash:
            raise Stale("study", number, run.asked_by, run.done_at)
        if run.signed_at:
            raise Refusal(say("study-signing"), say("study-signed-already", by=run.signed_by), say("study-run-again"))
        store.change(run, signed_at=act.at, signed_by=act.actor.name, licence=licence)
        _signed(unit, number, result_hash, licence)


def _signed(unit: Unit, number: str, result_hash: str, licence: str) -> None:
    unit.record("study signed", f"study:{number}", {"result": result_hash, "licence": licence})


def _row(number: str) -> StudyRun:
    found = store.one(number)
    if found is None:
        raise NotFound("study", number)
    return found


def _of_version(number: str, version: int) -> StudyRun:
    run = _row(number)
    if run.version != version:
        raise Stale("study", number, run.asked_by, run.done_at or run.asked_at)
    return run


@on_site
def runs(site: Site) -> list[StudyAsked]:
    """All of them, the latest first."""
    here = site.as_it_is()
    return [_view(run, here) for run in store.everything()]


@on_site
def run(site: Site, number: str) -> StudyAsked:
    return _view(_row(number), site.as_it_is())


@on_site
def waiting(site: Site) -> list[StudyAsked]:
    here = site.as_it_is()
    return [_view(run, here) for run in store.asked()]


@on_site
def latest(site: Site) -> StudyAsked | None:
    """The last study of a published network."""
    here = site.as_it_is()
    return next((_view(run, here) for run in store.last_published()), None)


@on_site
def before(site: Site, number: str) -> StudyAsked | None:
    """The last study of a published network before one, with another result than its."""
    here, own = site.as_it_is(), _row(number)
    older = (r for r in store.last_published() if r.id < own.id and r.result_hash != own.result_hash)
    return next((_view(r, here) for r in older), None)


@on_site
def result(site: Site, result_hash: str) -> StudyResult:
    """What a study found; NotFound where no such result is kept, or where it is not what its hash says."""
    return _result(site.path, result_hash)


@lru_cache(maxsize=6)
def _result(path: object, result_hash: str) -> StudyResult:
    text = store.result(result_hash)
    if text is None:
        raise NotFound("study", result_hash)
    found = read_result(text)
    if found.hash != result_hash:
        raise NotFound("study", result_hash)
    return found


def _view(run: StudyRun, here: SiteNow) -> StudyAsked:
    names = [f.name for f in fields(StudyAsked) if f.name != "outdated"]
    outdated = []
    if run.document_hash != here.hash:
        outdated.append("network")
    if run.ceiling_cal_cm2 != here.ceiling_cal_cm2:
        outdated.append("ceiling")
    if run.method != METHOD:
        outdated.append("method")
    return StudyAsked(**{n: getattr(run, n) for n in names}, outdated=tuple(outdated))
