"""Looking after the record once a day: verified, anchored, backed up; what came of it is kept for the board.

`spinel serve` has it done by a process of its own, so that nobody waits; `spinel keep` does it at once.
"""

from __future__ import annotations

import fcntl
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import chain
from pathlib import Path

from spinel.actions import anchoring, verifying
from spinel.actions.acting import utc_moment, utc_text
from spinel.actions.backup import backup, last_taken
from spinel.actions.site import Site, on_site
from spinel.actions.verifying import LOST_FILE
from spinel.actions.version import is_marked_demo, remove
from spinel.core import stored
from spinel.core.canonical import canonical
from spinel.core.errors import SpinelError
from spinel.core.said import Said, Sayable, say
from spinel.store import beside, keys

#: How often, and after how long without it the board says so: ours.
DAILY, LATE = timedelta(days=1), timedelta(days=2)
#: So many backups are kept unless the site says otherwise.
RETAINED = 14
#: So many things that are not as recorded are kept in words; the rest is counted.
TOLD = 20
_NAME = "looked after"


@dataclass(frozen=True)
class Upkeep:
    """``at``: when the record was last looked after. ``count``: how many things were not as recorded, ``found``: the
    first of them; ``trouble``: what kept a backup or an anchor from being made."""

    at: datetime
    count: int
    found: tuple[Sayable, ...]
    trouble: tuple[Sayable, ...]


def due(path: str | Path, now: datetime) -> bool:
    """Was it not done for a day, or at a moment that is still to come?"""
    last = last_kept(Path(path))
    return last is None or not last.at <= now < last.at + DAILY


def last_kept(path: Path) -> Upkeep | None:
    text = beside.kept(path, _NAME)
    if text is None:
        return None
    data = stored.parsed(text)
    return Upkeep(utc_moment(data["at"]), data["count"], tuple(data["found"]), tuple(data["trouble"]))


def keep(
    path: str | Path,
    now: datetime,
    backups: Path | None,
    retained: int = RETAINED,
    *,
    if_due: bool = False,
    key: Path | None = None,
) -> Upkeep | None:
    """Look after a site's database. ``backups``: the folder where they go, None for none. ``if_due``: None where
    another process has just done it."""
    path = Path(path)
    with _alone(path):
        if if_due and not due(path, now):
            return None
        report = verifying.verify(path)
        trouble: list[Sayable] = []
        if backups is None or is_marked_demo(path):
            trouble += filter(None, [anchoring.drop(path, now).trouble])
        else:
            # what is not as recorded pushes out none of the backups from when it was; a lost file of evidence stays so
            # for ever, and must not fill the disk
            astray = [w for w in report.found if not (isinstance(w, Said) and w.code == LOST_FILE)]
            trouble += _backed_up(path, now, backups, None if astray else retained, key)
        done = Upkeep(now, len(report.found), report.found[:TOLD], tuple(trouble))
        data = {"at": utc_text(now), "count": done.count, "found": done.found, "trouble": done.trouble}
        beside.keep(path, _NAME, canonical(data))
    return done


def _backed_up(
    path: Path, now: datetime, backups: Path, retained: int | None, key: Path | None
) -> Iterator[Sayable]:  # fmt: skip
    """One more backup, encrypted where a key is given, and the oldest ones beyond what is retained are gone: only once
    the new one is whole. ``retained`` None: all of them stay."""
    # two sites whose files have one name may share a folder: each removes its own
    known = keys.of(path)
    stem = f"{path.stem}-{known.name if known else 'no-keys'}-"
    try:
        end = "sealed" if key else "sqlite3"
        done = backup(path, backups / f"{stem}{now:%Y%m%dT%H%M%SZ}.{end}", now, key)
    except SpinelError as error:
        yield error.said
        return
    except OSError as error:
        yield say("upkeep-no-backup", folder=str(backups), why=str(error.strerror))
        return
    if done.trouble:
        yield done.trouble
    if retained is None:
        return
    found = (backups.glob(f"{stem}????????T??????Z.{end}") for end in ("sqlite3", "sealed"))
    mine = sorted(chain.from_iterable(found))
    for old in mine[: max(0, len(mine) - max(1, retained))]:
        remove(old)


@contextmanager
def _alone(path: Path) -> Iterator[None]:
    """Two processes never look after one database at once: the second waits."""
    with Path(f"{path}.keeping").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield


@on_site
def notices(site: Site, now: datetime) -> list[Sayable]:
    """What a coordinator has to know of the record itself."""
    last = last_kept(site.path)
    found: list[Sayable] = []
    if (against := anchoring.astray(site)) is not None:
        found.append(say("upkeep-not-as-recorded", count=1, first=against))
    elif last is not None and last.count:
        found.append(say("upkeep-not-as-recorded", count=last.count, first=last.found[0]))
    if last is not None and now - last.at > LATE:
        found.append(say("upkeep-not-verified", hours=_hours(now - last.at)))
    if last is not None:
        found += last.trouble
    if not site.setting("demo"):
        taken = last_taken(site)
        if taken is None:
            found.append(say("upkeep-never-backed-up"))
        elif now - taken > LATE:
            found.append(say("upkeep-no-backup-since", hours=_hours(now - taken)))
    return found


def _hours(span: timedelta) -> int:
    return int(span.total_seconds() // 3600)
