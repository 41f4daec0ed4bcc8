"""A backup is whole and verified, or there is none; what is restored overwrites nothing and says what it lacks."""

import gzip
import sqlite3
import threading
from functools import partial
from pathlib import Path
from stat import S_IMODE

import pytest
from click.testing import CliRunner

from demo_acts import MOMENT, act, the_site
from spinel.actions import network, records, setup
from spinel.actions.backup import backup, restore
from spinel.cli import main
from spinel.core.errors import InputError, NotFound, Refusal


def wrote(database, n):
    for i in range(n):
        network.report_found(act("edda"), network_id(), "closed", f"Seen closed, look {i}")


def network_id():
    return the_site().as_it_is().network.by_tag["F-B2"].id


def test_a_copy_taken_while_others_write_is_whole_and_its_owners_alone(database, tmp_path):
    done = []
    writer = threading.Thread(target=lambda: done.append(wrote(database, 12)))
    writer.start()
    copies = [backup(database, tmp_path / f"copies/{i}.sqlite3", MOMENT) for i in range(6)]
    writer.join()
    assert done == [None]
    for copy in copies:
        assert S_IMODE(copy.path.stat().st_mode) == 0o600
        verdict = records.verify(setup.open_site(copy.path))
        assert (verdict.broken_at, verdict.count, verdict.head) == (None, copy.count, copy.head)
    assert not list((tmp_path / "copies").glob("*.half*"))
    # every copy is a beginning of what is recorded by now
    for copy in copies:
        assert records.verify(the_site(), copy.head, copy.count).broken_at is None


def test_it_takes_the_place_of_nothing_and_is_made_of_something(database, tmp_path):
    taken = tmp_path / "taken.sqlite3"
    for end in ("", "-wal", ".half"):
        other = Path(f"{taken}{end}")
        other.write_text("somebody's")
        for make in (partial(backup, now=MOMENT), restore):
            with pytest.raises(InputError, match="not there yet"):
                make(database, taken)
        assert other.read_text() == "somebody's"
        other.unlink()
    with pytest.raises(NotFound):
        backup(tmp_path / "nothing.sqlite3", taken, MOMENT)
    assert not taken.exists()


@pytest.mark.parametrize(
    "how", ["cut off", "a page overwritten", "the ledger changed", "no site", "of a later version"]
)
def test_what_is_not_whole_is_not_copied_and_leaves_nothing(database, tmp_path, how):
    source, to = tmp_path / "source.sqlite3", tmp_path / "to.sqlite3"
    backup(database, source, MOMENT)
    if how == "cut off":
        source.write_bytes(source.read_bytes()[: source.stat().st_size // 2])
    elif how == "a page overwritten":
        with source.open("r+b") as file:
            file.seek(40 * 4096)
            file.write(b"\0" * 4096)
    else:
        with sqlite3.connect(source) as own:
            own.executescript({
                "the ledger changed": "DROP TRIGGER ledger_no_update; UPDATE ledger SET payload = '{\"shape\":2}' WHERE seq = 5",
                "no site": "DELETE FROM schema_migration",
                "of a later version": "UPDATE schema_migration SET name = '9999_later' WHERE id = (SELECT max(id) FROM schema_migration)",
            }[how])  # fmt: skip
    with pytest.raises(Refusal, match="was not copied"):
        restore(source, to)
    assert [p.name for p in tmp_path.glob("to*")] == []


def test_what_was_recorded_after_it_is_said_to_be_lost(database, tmp_path):
    copy = backup(database, tmp_path / "copy.sqlite3", MOMENT)
    wrote(database, 3)
    now = records.verify(the_site())
    back = restore(copy.path, tmp_path / "back.sqlite3", now.head, now.count)
    assert back.lost == now.count - copy.count > 0 and not back.older
    whole = restore(copy.path, tmp_path / "whole.sqlite3", copy.head, copy.count)
    assert whole.lost == 0
    for head, count in (("0" * 64, copy.count), ("0" * 64, None), (now.head, copy.count - 1)):
        with pytest.raises(Refusal, match="was not copied"):
            restore(copy.path, tmp_path / "wrong.sqlite3", head, count)
    assert not (tmp_path / "wrong.sqlite3").exists()


def test_a_drill_by_the_commands_alone(database, tmp_path, monkeypatch):
    run = CliRunner().invoke
    monkeypatch.setenv("SPINEL_DB", str(database))
    copy, back = tmp_path / "b.sqlite3", tmp_path / "r.sqlite3"
    said = run(main, ["backup", str(copy)])
    assert said.exit_code == 0 and "ledger intact" in said.output
    assert run(main, ["backup", str(copy)]).exit_code == 1
    said = run(main, ["restore", str(copy), "--to", str(back), "--head", "f" * 64, "--count", "99999"])
    assert said.exit_code == 0 and "LOST: " in said.output and f"SPINEL_DB={back} spinel serve" in said.output
    monkeypatch.setenv("SPINEL_DB", str(back))
    said = run(main, ["verify"]).output
    # with its keys: nothing that verify cannot tell but for want of an anchor
    assert "intact: " in said and "keys that are not here" not in said
    old = tmp_path / "old.sqlite3"
    old.write_bytes(gzip.decompress((Path(__file__).parent / "fixtures/site-0.8.0.sqlite3.gz").read_bytes()))
    said = run(main, ["restore", str(old), "--to", str(tmp_path / "older.sqlite3")])
    assert said.exit_code == 0 and "spinel upgrade" in said.output and "cannot be known" in said.output
    setup.upgrade(tmp_path / "older.sqlite3", MOMENT)


def test_verifying_what_is_not_there_makes_nothing_and_a_new_database_is_its_owners_alone(tmp_path, monkeypatch):
    path = tmp_path / "typo.sqlite3"
    monkeypatch.setenv("SPINEL_DB", str(path))
    said = CliRunner().invoke(main, ["verify"])
    assert said.exit_code == 1 and "no database" in said.output and not path.exists()
    setup.open_site(path)
    assert S_IMODE(path.stat().st_mode) == 0o600
