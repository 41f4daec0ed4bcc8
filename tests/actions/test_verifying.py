"""Whatever of the record is changed by anything but an act is found, by its name, and for ever."""

import sqlite3

import pytest

from demo_acts import MOMENT, act, person, the_site
from shared_files import copied, put_in_place
from spinel.actions import anchoring, network, people, register, setup, site_settings, version
from spinel.actions.acting import Act, work
from spinel.actions.verifying import rows_astray, verify
from spinel.core.errors import NotFound
from spinel.store import database as db
from spinel.store import ledger, seals

pytestmark = pytest.mark.long

#: A value of each type that no row of the demo has, where the column takes it; else another that it has.
OTHER = {"INTEGER": 9999, "REAL": 61.5, "TEXT": "2027-01-02T03:04:05Z"}


def found(path, **asked):
    return [f.values.get("row", f.code) for f in verify(path, **asked).found]


def every_column():
    return [(table, column) for table in seals.KEYS for column in seals.columns(table)]


def tampered(path, *statements, without=()):
    """As somebody with the file and time would: what forbids it is taken out first, and put back."""
    with sqlite3.connect(path) as own:
        stands = own.execute("SELECT name, sql FROM sqlite_master WHERE type = 'trigger'").fetchall()
        for name, _ in stands:
            own.execute(f"DROP TRIGGER {name}")
        own.execute("PRAGMA ignore_check_constraints = 1")
        for statement in statements:
            own.execute(*((statement,) if isinstance(statement, str) else statement))
        for name, sql in stands:
            if name not in without:
                own.execute(sql)


@pytest.fixture(scope="module")
def full(built, tmp_path_factory):
    """The demo, with something in every table."""
    path = copied(built, tmp_path_factory.mktemp("full") / "site.sqlite3")
    site = setup.open_site(path)
    with site.connection():
        empty = [table for table in seals.KEYS if not db.rows(f"SELECT 1 FROM {table} LIMIT 1")]
    assert empty == []
    return path


def test_every_table_and_column_is_sealed_and_the_demo_is_what_its_ledger_says(full):
    with sqlite3.connect(full) as own:
        tables = {t for (t,) in own.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
        columns = {(t, c) for t in seals.KEYS for _, c, *_ in own.execute(f"PRAGMA table_info({t})")}
    no_record = {"ledger", "touched", "schema_migration", "findable"}
    assert {t for t in tables if not t.startswith(("findable_", "sqlite_"))} == set(seals.KEYS) | no_record
    assert columns == set(every_column())
    assert verify(full).found == ()


@pytest.mark.parametrize(("table", "column"), every_column())
def test_a_changed_value_is_found_in_every_column_of_every_table(full, table, column, tmp_path):
    """The rows alone, in one place after another: each is put back before the next."""
    key = " || ' ' || ".join(seals.KEYS[table])
    with setup.open_site(full).connection():
        database = db.database
        kind = dict(db.rows("SELECT name, type FROM pragma_table_info(?)", table))[column]
        (name,) = db.rows(f"SELECT {key} FROM {table} ORDER BY 1 DESC LIMIT 1")[0]
        with database.atomic() as held:
            for (trigger,) in db.rows("SELECT name FROM sqlite_master WHERE type = 'trigger' AND tbl_name = ?", table):
                database.execute_sql(f"DROP TRIGGER {trigger}")
            database.execute_sql("PRAGMA ignore_check_constraints = 1")
            database.execute_sql("PRAGMA defer_foreign_keys = 1")
            new = f"{OTHER[kind]} {name}" if kind == "TEXT" else OTHER[kind]
            database.execute_sql(f"UPDATE {table} SET {column} = ? WHERE {key} = ?", (new, name))
            what = {f.values["row"] for f in rows_astray()}
            held.rollback()
        database.execute_sql("PRAGMA ignore_check_constraints = 0")
    assert f"{table} {name}" in what


def test_after_all_of_that_it_is_as_it_was(full):
    """What the cases above changed was put back: none of them saw what another had left."""
    assert verify(full).found == ()


@pytest.mark.parametrize("table", list(seals.KEYS))
def test_a_row_taken_out_or_put_in_is_found_in_every_table(full, table, tmp_path):
    path = copied(full, tmp_path / "site.sqlite3")
    key = " || ' ' || ".join(seals.KEYS[table])
    with sqlite3.connect(path) as own:
        (name,) = own.execute(f"SELECT {key} FROM {table} ORDER BY 1 DESC LIMIT 1").fetchone()
    tampered(path, (f"DELETE FROM {table} WHERE {key} = ?", (name,)))
    assert f"{table} {name}" in found(path)
    # and the other way round: what the ledger says was taken out is there
    last = {row for _, _, wrote in _writings(full) for row in wrote}
    assert f"{table} {name}" in last


def _writings(path):
    with setup.open_site(path).connection():
        return list(ledger.writings())


@pytest.mark.parametrize("column", ["at", "actor", "act", "subject", "payload", "request_id", "previous_hash", "hash",
                                    "wrote", "mac"])  # fmt: skip
def test_a_changed_entry_is_found_in_every_column(full, tmp_path, column):
    path = copied(full, tmp_path / "site.sqlite3")
    value = {"payload": "{}", "wrote": "{}", "at": "2026-01-01T00:00:00Z"}.get(column, "other")
    tampered(
        path,
        (f"UPDATE ledger SET {column} = ? WHERE seq = (SELECT max(seq) FROM ledger WHERE wrote <> '{{}}')", (value,)),
    )
    assert "verify-chain" in found(path)


def test_a_chain_made_anew_without_the_key_is_found(full, tmp_path):
    path = copied(full, tmp_path / "site.sqlite3")
    with sqlite3.connect(path) as own:
        entries = own.execute(
            "SELECT seq, at, actor, act, subject, payload, request_id, wrote, mac FROM ledger ORDER BY seq"
        ).fetchall()
    changes, previous = [], ledger.GENESIS
    for seq, at, actor, what, subject, payload, request_id, wrote, _ in entries:
        actor = "Somebody Else" if seq == 40 else actor
        own_hash = ledger.row_hash((seq, at, actor, what, subject, payload, request_id, previous, wrote))
        changes.append(
            ("UPDATE ledger SET actor = ?, previous_hash = ?, hash = ? WHERE seq = ?", (actor, previous, own_hash, seq))
        )
        previous = own_hash
    tampered(path, *changes)
    report = verify(path)
    assert [f.code for f in report.found] == ["verify-chain"] and report.count == 39
    # neither helps to leave the codes out, nor to say that they are of another key while its own is there
    tampered(path, "UPDATE ledger SET mac = NULL")
    assert any(u.code == "verify-not-keyed" for u in verify(path).unknown)
    # without the keys nobody can tell, and that is said
    version.files_of(path)[3].unlink()
    tampered(path, *[("UPDATE ledger SET mac = ? WHERE seq = ?", (mac, seq)) for seq, *_, mac in entries])
    said = verify(path)
    assert said.found == () and [u.code for u in said.unknown] == ["verify-keyed-elsewhere", "verify-no-anchor"]


@pytest.mark.tampers
def test_what_a_later_act_writes_over_stays_found(database):
    """A permit's window is made longer in the file; the act that suspends it writes the same row."""
    with sqlite3.connect(database) as own:
        (number,) = own.execute("SELECT id FROM permit WHERE state = 'in_force' ORDER BY id").fetchone()
    tampered(database, f"UPDATE permit SET window_end = '2027-01-01T00:00:00Z' WHERE id = {number}")
    assert found(database) == [f"permit {number}"]
    network.report_found(act("edda"), the_site().as_it_is().network.by_tag["Q-U1"].id, "open", "Seen open")
    register.change_roles(act("maren"), "nils", ["worker", "attendant"])
    with sqlite3.connect(database) as own:
        assert own.execute("SELECT state FROM permit WHERE id = ?", (number,)).fetchone() == ("suspended",)
    assert [f.code for f in verify(database).found] == ["verify-row-found-otherwise"]


@pytest.mark.tampers
def test_what_was_written_beside_the_acts_is_named_at_the_next_one_and_never_counts_as_its_own(database):
    with sqlite3.connect(database) as own:
        own.execute("UPDATE person SET phone = '555 0199' WHERE login = 'edda'")
        own.execute("INSERT INTO person_role VALUES (?, 'coordinator')", (person("edda"),))
    rows = [f"person {person('edda')}", f"person_role {person('edda')} coordinator"]
    assert sorted(set(found(database))) == rows
    register.change_roles(act("maren"), "nils", ["worker", "attendant"])
    with the_site().connection():
        named = [e for e in ledger.search(act="rows changed outside")]
    assert len(named) == 1 and all(row in named[0].payload for row in rows)
    assert set(rows) <= set(found(database))


def test_an_act_that_writes_and_records_nothing_writes_nothing(open_db):
    before = ledger.head()
    with pytest.raises(RuntimeError, match="written without an entry: setting step_min"), work(act("maren")):
        db.database.execute_sql("INSERT INTO setting VALUES ('step_min', '9')")
    assert ledger.head() == before and the_site().setting("step_min") == 2.0


@pytest.mark.parametrize("table", ["ledger", "field_event", "revision", "permit_record", "program_record", "practice_event", "permit", "program"])  # fmt: skip
def test_nothing_takes_the_place_of_what_is_only_added_to(full, tmp_path, table):
    path = copied(full, tmp_path / "site.sqlite3")
    with sqlite3.connect(path) as own, pytest.raises(sqlite3.IntegrityError, match="append-only"):
        own.execute(f"INSERT OR REPLACE INTO {table} SELECT * FROM {table} ORDER BY 1 DESC LIMIT 1")


def test_triggers_schema_index_and_open_files_are_looked_at(full, tmp_path):
    path = copied(full, tmp_path / "site.sqlite3")
    tampered(path, "ALTER TABLE person ADD COLUMN note TEXT", without=("ledger_no_update",))
    assert [f.values["name"] for f in verify(path).found] == ["ledger_no_update", "person"]
    path = copied(full, tmp_path / "other.sqlite3")
    with sqlite3.connect(path) as own:
        own.execute("UPDATE findable SET title = 'EWP-9999' WHERE key = 'EWP-0003'")
    version.files_of(path)[3].chmod(0o640)
    assert [f.code for f in verify(path).found] == ["verify-file-is-open", "verify-index"]


def test_it_makes_and_writes_nothing(full, tmp_path):
    with pytest.raises(NotFound):
        verify(tmp_path / "mistyped.sqlite3")
    assert list(tmp_path.iterdir()) == []
    path = copied(full, tmp_path / "site.sqlite3")

    def files():
        return {f.name: f.read_bytes() for f in tmp_path.iterdir() if not f.name.endswith(("-wal", "-shm"))}

    before = files()
    path.chmod(0o400)
    assert verify(path).found == ()
    assert files() == before


def test_what_acts_put_in_place_of_another_row_is_their_own(database):
    """Settings and roles are replaced, a box changes hands by an upsert: each fires the triggers in its own way."""
    for value in ("3", "4"):
        site_settings.change(act("maren"), "step_min", value, "As it was timed")
    for roles in (["worker", "attendant"], ["worker"]):
        register.change_roles(act("maren"), "nils", roles)
    assert found(database) == []


def test_an_act_of_another_site_is_sealed_with_its_own_keys(full, tmp_path):
    """Two sites in one process: each entry has the code of the site that it is in."""
    one, two = (setup.open_site(copied(full, tmp_path / f"{n}.sqlite3")) for n in "ab")
    version.files_of(two.path)[3].unlink()
    two = setup.open_site(two.path)
    for site in (one, two, one):
        report(site, "Seen closed")
    assert found(one.path) == found(two.path) == []
    assert [u.code for u in verify(two.path).unknown] == ["verify-keyed-elsewhere", "verify-no-anchor"]


class TestAnchors:
    def test_an_old_copy_put_in_place_and_another_record_are_found(self, full, tmp_path):
        path = copied(full, tmp_path / "site.sqlite3")
        line = anchoring.drop(path, MOMENT).line
        assert verify(path).found == verify(path).unknown == () and line.split()[1] == str(verify(path).count)
        site = setup.open_site(path)
        for look in range(3):
            report(site, f"Seen closed, look {look}")
        anchoring.drop(path, MOMENT)
        # the old copy, with the files beside it as they are
        put_in_place(full, path)
        assert [f.code for f in verify(path).found] == ["verify-anchor-cut"]
        # another record that goes on from it is none either
        site = setup.open_site(path)
        for look in range(3):
            report(site, f"Seen open, look {look}", "open")
        assert [f.code for f in verify(path).found] == ["verify-anchor-other"]

    def test_a_file_of_anchors_kept_elsewhere_counts_and_a_damaged_one_is_named(self, full, tmp_path):
        path, elsewhere = copied(full, tmp_path / "site.sqlite3"), tmp_path / "kept.txt"
        elsewhere.write_text(f"2026-11-24T22:00:00Z 12 {'0' * 64}\n")
        assert [f.code for f in verify(path, anchored=elsewhere).found] == ["verify-anchor-other"]
        elsewhere.write_text("2026-11-24T22:00:00Z twelve\n")
        assert [f.code for f in verify(path, anchored=elsewhere).found] == ["verify-anchors-unreadable"]
        with pytest.raises(NotFound):
            verify(path, anchored=tmp_path / "mistyped")

    def test_the_command_of_the_site_gets_the_line_and_its_failure_is_told(self, full, tmp_path, monkeypatch):
        path, taken = copied(full, tmp_path / "site.sqlite3"), tmp_path / "taken"
        monkeypatch.setenv("SPINEL_ANCHOR_COMMAND", f"tee {taken}")
        dropped = anchoring.drop(path, MOMENT)
        assert dropped.trouble == "" and taken.read_text() == f"{dropped.line}\n"
        for wrong in ("false", "/no/such/command", "'"):
            monkeypatch.setenv("SPINEL_ANCHOR_COMMAND", wrong)
            assert anchoring.drop(path, MOMENT).trouble.code == "anchor-not-taken"


def report(site, note, value="closed"):
    who = next(people.actor(site, p.id) for p in people.everybody(site) if p.login == "edda")
    device = site.as_it_is().network.by_tag["F-B2"].id
    network.report_found(Act(site, who, MOMENT), device, value, note)
