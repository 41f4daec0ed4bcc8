"""The record is verified, anchored and backed up daily, and the board says where that failed."""

import shutil
import sqlite3
from datetime import timedelta

import pytest
from click.testing import CliRunner

from demo_acts import MOMENT, act, element_id, the_site
from shared_files import copied, put_in_place
from spinel.actions import network, setup, upkeep
from spinel.actions.verifying import verify
from spinel.actions.version import files_of
from spinel.cli import main
from spinel.core.errors import NotKept
from spinel.store import keys

pytestmark = pytest.mark.long


@pytest.fixture
def own(database):
    """The same site, no longer marked as a demo."""
    with sqlite3.connect(database) as raw:
        raw.execute("UPDATE setting SET value = 'false' WHERE key = 'demo'")
        raw.execute("DELETE FROM touched")
    return database


def kept(path, folder, **later):
    return upkeep.keep(path, MOMENT + timedelta(**later), folder, 3)


def test_it_verifies_anchors_and_backs_up_and_keeps_so_many(database, tmp_path, monkeypatch):
    own, folder = database, tmp_path / "backups"
    monkeypatch.setattr(upkeep, "is_marked_demo", lambda _: False)
    (folder).mkdir()
    (folder / "site-mine.sqlite3").write_text("somebody's own")
    (folder / "site-00000000-20200101T000000Z.sqlite3").write_text("another site's of the same name")
    for day in range(5):
        assert upkeep.due(own, MOMENT + timedelta(days=day))
        kept(own, folder, days=day)
        assert not upkeep.due(own, MOMENT + timedelta(days=day, hours=23))
    copies = sorted(f.name for f in folder.glob(f"site-{keys.of(own).name}-*.sqlite3"))
    name = keys.of(own).name
    assert copies == [f"site-{name}-202611{day}T223208Z.sqlite3" for day in (26, 27, 28)]
    assert sorted(f.name for f in folder.glob("*.keys")) == [f"{c}.keys" for c in copies]
    assert (folder / "site-mine.sqlite3").exists() and (folder / "site-00000000-20200101T000000Z.sqlite3").exists()
    assert len(own.with_name(f"{own.name}.anchors").read_text().splitlines()) == 5
    assert verify(folder / copies[-1]).count == verify(own).count


def test_what_is_not_as_recorded_pushes_out_no_backup_from_when_it_was(database, tmp_path, monkeypatch):
    monkeypatch.setattr(upkeep, "is_marked_demo", lambda _: False)
    folder = tmp_path / "backups"
    for day in range(3):
        kept(database, folder, days=day)
    good = {f.name for f in folder.iterdir()}
    files_of(database)[3].chmod(0o644)
    for day in range(3, 8):
        assert kept(database, folder, days=day).count == 1
    assert good < {f.name for f in folder.iterdir()}
    files_of(database)[3].chmod(0o600)
    kept(database, folder, days=9)
    assert len(list(folder.glob("*.sqlite3"))) == 3


@pytest.mark.tampers
def test_the_board_of_a_coordinator_says_what_is_wrong_and_nobody_elses(own, tmp_path, sign_in):
    maren, edda = sign_in("maren"), sign_in("edda")
    assert "no backup of this record yet" in maren.get("/").text
    # the changed setting is no act
    assert kept(own, tmp_path / "b").count == 1
    page = maren.get("/").text
    assert "not as it was recorded: setting demo" in page and "no backup" not in page
    assert "not as it was recorded" not in edda.get("/").text
    later = MOMENT + timedelta(days=3)
    assert [n.code for n in upkeep.notices(the_site(), later)] == [
        "upkeep-not-as-recorded", "upkeep-not-verified", "upkeep-no-backup-since"]  # fmt: skip


@pytest.mark.tampers
def test_a_backup_that_fails_is_told_and_the_old_ones_stay(own, tmp_path, monkeypatch):
    folder = tmp_path / "backups"
    kept(own, folder)
    before = sorted(folder.iterdir())
    monkeypatch.setattr("spinel.actions.backup.database.copied_whole", lambda *_: "disk I/O error")
    done = kept(own, folder, days=1)
    assert done.trouble and sorted(folder.iterdir()) == before
    assert any("disk I/O error" in str(n) for n in upkeep.notices(the_site(), MOMENT + timedelta(days=1)))
    monkeypatch.undo()
    shutil.rmtree(folder)
    folder.write_text("no folder")
    assert [t.code for t in kept(own, folder, days=2).trouble] == ["upkeep-no-backup"]


def test_the_demo_is_verified_and_not_backed_up(database, tmp_path):
    done = kept(database, tmp_path / "backups")
    assert (done.count, done.trouble) == (0, ()) and not (tmp_path / "backups").exists()
    assert upkeep.notices(the_site(), MOMENT) == []


@pytest.mark.tampers
def test_an_old_copy_put_in_place_is_on_the_board_at_once(database, tmp_path, sign_in):
    old = copied(database, tmp_path / "old.sqlite3")
    maren = sign_in("maren")
    kept(database, None)
    assert "not as it was recorded" not in maren.get("/").text
    put_in_place(old, database)
    page = maren.get("/").text
    assert "not as it was recorded" in page and "an old copy was put in place" in page


@pytest.mark.tampers
def test_without_its_keys_nothing_is_recorded_until_it_is_opened_anew(database):
    """An entry without its code would read as forged for ever."""
    files_of(database)[3].unlink()
    with pytest.raises(NotKept, match="keys"):
        network.report_found(act("edda"), element_id("F-B2"), "closed", "Seen closed")
    setup.open_site(database)
    network.report_found(act("edda"), element_id("F-B2"), "closed", "Seen closed")
    assert [u.code for u in verify(database).unknown] == ["verify-keyed-elsewhere", "verify-no-anchor"]
    assert verify(database).found == ()


def test_of_two_workers_that_find_it_due_one_does_it(database):
    assert kept(database, None) is not None
    assert upkeep.keep(database, MOMENT, None, if_due=True) is None


def test_a_clock_set_back_has_it_done_again(database, tmp_path):
    kept(database, None, days=300)
    assert upkeep.due(database, MOMENT)


def test_by_the_command(database, tmp_path, monkeypatch):
    run = CliRunner().invoke
    monkeypatch.setenv("SPINEL_DB", str(database))
    assert run(main, ["keep"]).output == "verified, anchored and backed up\n"
    assert run(main, ["keep", "--if-due"]).output == ""
    monkeypatch.setenv("SPINEL_BACKUPS_KEPT", "0")
    assert run(main, ["keep"]).exit_code == 1
    monkeypatch.setenv("SPINEL_DB", str(tmp_path / "mistyped"))
    assert run(main, ["keep"]).exit_code == 1 and run(main, ["anchor"]).exit_code == 1
    assert not (tmp_path / "mistyped").exists()
