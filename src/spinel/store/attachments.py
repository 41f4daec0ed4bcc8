"""What belongs to a piece of equipment beside its data: kept files and links, and its upkeep."""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core.upkeep import Upkept
from spinel.store import training
from spinel.store.database import has_column, rows
from spinel.store.models import Attachment, Maintenance


@dataclass(frozen=True)
class Attached:
    id: int
    title: str
    file: str
    link: str
    at: str
    by: str


def insert(element_id: str, title: str, file: str, link: str, at: str, by: str) -> int:
    return int(Attachment.insert(element_id=element_id, title=title, file=file, link=link, at=at, by=by).execute())


def of(element_id: str) -> list[Attached]:
    """Those that were not taken off, the latest first."""
    query = "SELECT id, title, file, link, at, by FROM attachment WHERE element_id = ? AND gone = 0 ORDER BY id DESC"
    return [Attached(*row) for row in rows(query, element_id)]


def take_off(attachment_id: int, element_id: str) -> bool:
    changed = Attachment.update(gone=1).where(
        (Attachment.id == attachment_id) & (Attachment.element_id == element_id) & (Attachment.gone == 0)
    )
    return bool(changed.execute() == 1)


def has(file: str) -> bool:
    return bool(rows("SELECT 1 FROM attachment WHERE file = ? LIMIT 1", file))


def upkeep(element_id: str = "") -> dict[str, list[Upkept]]:
    """The latest first, by element; of one, or of all that were ever looked after."""
    names = ("day", "what", "done_by", "result", "due", "note", "by")
    query = (
        f"SELECT element_id, {', '.join(names)} FROM maintenance WHERE ? IN ('', element_id) ORDER BY day DESC, id DESC"
    )
    found: dict[str, list[Upkept]] = {}
    for owner, *row in rows(query, element_id):
        found.setdefault(owner, []).append(Upkept(**dict(zip(names, row, strict=True))))
    return found


def keep_upkeep(element_id: str, done: Upkept, at: str) -> None:
    Maintenance.insert(
        element_id=element_id, day=done.day, what=done.what, done_by=done.done_by, result=done.result, due=done.due,
        note=done.note, at=at, by=done.by,
    ).execute()  # fmt: skip


def referred() -> set[str]:
    """Every kept file that something of the record refers to, in a database of whichever version."""
    found = set(training.evidence()) if has_column("training", "evidence") else set()
    if has_column("attachment", "file"):
        found |= {row[0] for row in rows("SELECT DISTINCT file FROM attachment WHERE file <> ''")}
    return found
