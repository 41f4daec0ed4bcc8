"""What hangs for a hold (locks, grounds, blocks, personal locks) and its box: whose, which number, since when."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from spinel.store.database import rows
from spinel.store.models import Box, Hung

LOCK, GROUND, BLOCK, PERSONAL = "lock", "ground", "block", "personal"


@dataclass(frozen=True)
class Place:
    """Where something hangs for a hold. On its box, where no element is named: a personal lock."""

    hold: str
    kind: str
    element_id: str = ""
    node_id: str = ""
    part: str = ""


#: Holds that are over: their restoration was executed to its end.
_OVER = "SELECT hold FROM program WHERE purpose = 'restoration' AND state = 'done' AND practice = 0"


def _hanging(where: str, *values: object) -> list[Hung]:
    return list(Hung.raw(f"SELECT * FROM hung WHERE gone_at IS NULL AND {where} ORDER BY id", *values))


def of_hold(hold: str, kind: str) -> list[Hung]:
    """What hangs of one kind for a hold, oldest first."""
    return _hanging("hold = ? AND kind = ?", hold, kind)


def everything() -> list[Hung]:
    """All that hangs on the site, oldest first; nothing of practice runs."""
    return _hanging("practice = 0")


def locks() -> int:
    """How many locks hang on the site, on devices and on boxes."""
    query = "SELECT count(*) FROM hung WHERE gone_at IS NULL AND practice = 0 AND kind IN ('lock', 'personal')"
    return int(rows(query)[0][0])


def numbers(practice_of: str = "") -> set[str]:
    """The numbers of our isolation locks that hang on the site, or in one practice run. One paper of others may be for
    several devices."""
    where, values = ("hold = ?", (practice_of,)) if practice_of else ("practice = 0", ())
    query = f"SELECT number FROM hung WHERE gone_at IS NULL AND kind = 'lock' AND others = '' AND {where}"
    return {number for (number,) in rows(query, *values)}


def hang(
    place: Place, number: str, person_id: int, owner: str, at: str, *, practice: bool, unsure: bool = False,
    others: str = "",
) -> None:  # fmt: skip
    """``others``: who locked it for us, where it is no device of the site: the owner has their paper."""
    Hung.insert(
        hold=place.hold, kind=place.kind, element_id=place.element_id, node_id=place.node_id, part=place.part,
        number=number, person=person_id, owner=owner, since=at, practice=int(practice), unsure=int(unsure),
        others=others,
    ).execute()  # fmt: skip


def take_off(place: Place, at: str, by: str, person_id: int | None = None) -> int:
    """Taken off: how many did. ``person_id``: whose personal lock."""
    here = (
        (Hung.hold == place.hold) & (Hung.kind == place.kind) & (Hung.element_id == place.element_id)
        & (Hung.node_id == place.node_id) & (Hung.part == place.part) & Hung.gone_at.is_null()
    )  # fmt: skip
    if person_id is not None:
        here &= Hung.person == person_id
    return int(Hung.update(gone_at=at, gone_by=by).where(here).execute())


def no_longer_sure(place: Place) -> int:
    """Nobody knows whether it still hangs: how many. What is blocked is so for every hold on it."""
    here = (Hung.kind == place.kind) & (Hung.element_id == place.element_id) & Hung.gone_at.is_null()
    if place.kind != BLOCK:
        here &= (Hung.hold == place.hold) & (Hung.node_id == place.node_id)
    return int(Hung.update(unsure=1).where(here & (Hung.practice == 0)).execute())


def owner_absent(hold: str, kind: str, person_id: int, said: str) -> None:
    """The half that was signed about an owner's locks."""
    Hung.update(absent=said).where(_owned(hold, kind, person_id)).execute()


def free(hold: str, person_id: int) -> None:
    """Both halves are signed: another operator may take this one's isolation locks off."""
    Hung.update(freed=1).where(_owned(hold, LOCK, person_id)).execute()


def _owned(hold: str, kind: str, person_id: int) -> Any:
    return (Hung.hold == hold) & (Hung.kind == kind) & (Hung.person == person_id) & Hung.gone_at.is_null()


def box(hold: str) -> Box | None:
    return next(iter(Box.raw("SELECT * FROM box WHERE hold = ?", hold)), None)


def boxes() -> list[tuple[Box, list[Hung]]]:
    """The boxes of the holds that were taken over and are not restored, with the personal locks on them."""
    query = f"""SELECT h.*, b.hold AS of_hold, b.element_id AS isolates, b.in_charge_id, b.taken_by, b.taken_at,
        b.complete, b.completed_by FROM box b
        LEFT JOIN hung h ON h.hold = b.hold AND h.kind = 'personal' AND h.gone_at IS NULL
        WHERE b.hold NOT IN ({_OVER}) ORDER BY b.taken_at, b.hold, h.id"""
    found: dict[str, tuple[Box, list[Hung]]] = {}
    for row in Hung.raw(query):
        box = Box(
            hold=row.of_hold, element_id=row.isolates, in_charge=row.in_charge_id, taken_by=row.taken_by,
            taken_at=row.taken_at, complete=row.complete, completed_by=row.completed_by,
        )  # fmt: skip
        _, locks = found.setdefault(box.hold, (box, []))
        if row.id is not None:
            locks.append(row)
    return list(found.values())


def take_box(hold: str, element_id: str, person_id: int, name: str, at: str) -> None:
    """Taken over, for the first time or from somebody else; the work behind it is not complete then."""
    taken = {Box.in_charge: person_id, Box.taken_by: name, Box.taken_at: at, Box.complete: 0, Box.completed_by: ""}
    new = Box.insert(hold=hold, element_id=element_id, in_charge=person_id, taken_by=name, taken_at=at)
    new.on_conflict(conflict_target=[Box.hold], update=taken).execute()


def complete_box(hold: str, name: str) -> None:
    Box.update(complete=1, completed_by=name).where(Box.hold == hold).execute()
