"""What hangs, told twice: as the records of all programs say it, read by the code of the migration, which shares none
with the acts that keep the tables; and as the field events say it."""

from __future__ import annotations

import sqlite3
from functools import cache
from importlib import import_module
from pathlib import Path
from typing import Any

from spinel.actions.site import Site

MIGRATION = import_module("spinel.store.migrations.0007_holds")
NOW = "SELECT hold, kind, element_id, node_id, part, number, person_id, owner, since, freed, practice FROM hung WHERE gone_at IS NULL AND unsure = 0"
BOXES = "SELECT * FROM box"


class _Db:
    """A connection as a migration knows it."""

    def __init__(self, own: sqlite3.Connection):
        self.execute_sql = own.execute


def _as_recorded(path: Path) -> sqlite3.Connection:
    copy = sqlite3.connect(":memory:")
    with sqlite3.connect(path) as own:
        own.backup(copy)
    for table in ("box", "hung"):
        copy.execute(f"DROP TABLE {table}")
    MIGRATION.up(None, _Db(copy))
    return copy


LAST = "SELECT (SELECT max(id) FROM program_record), (SELECT max(id) FROM field_event), (SELECT count(*) FROM hung)"


def _last(path: Path) -> tuple[Any, ...]:
    with sqlite3.connect(path) as own:
        return tuple(own.execute(LAST).fetchone())


def recorded(path: Path, built: Path) -> bool:
    """Was anything entered into the ledger since the demo was built?"""
    return _entries(path) != _of_the_demo(built)[1]


def _entries(path: Path) -> int:
    with sqlite3.connect(path) as own:
        return int(own.execute("SELECT count(*) FROM ledger").fetchone()[0])


@cache
def _of_the_demo(built: Path) -> tuple[tuple[Any, ...], int]:
    """The same for every test: nobody works on it."""
    return _last(built), _entries(built)


def agree(site: Site, path: Path, built: Path) -> None:
    """The tables are what records and field events say, wherever something was recorded since the demo was built."""
    if _last(path) == _of_the_demo(built)[0]:
        return
    told = _as_recorded(path)
    with sqlite3.connect(path) as own:
        for query in (NOW, BOXES):
            assert sorted(own.execute(query)) == sorted(told.execute(query))
        hung = own.execute(f"{NOW} AND practice = 0").fetchall()
    here = site.as_it_is()
    if here.network is None:
        return
    field: set[tuple[Any, ...]] = {(h, "lock", i, "", "") for i, d in here.now.items() for h in d.locks}
    field |= {(h, "block", i, "", part) for i, d in here.now.items() for part, h in d.blocks}
    field |= {(g.hold, "ground", g.element_id, g.node_id, "") for g in here.field.grounds if g.sure}
    assert {row[:5] for row in hung if row[1] != "personal"} == field
