"""Files that the record refers to: what they are is told by what they hold, they go with every backup, and are compared."""

import io
import json
import logging
from datetime import date, timedelta

import pytest
from PIL import Image
from pythonjsonlogger.json import JsonFormatter

from demo_acts import MOMENT, PASSWORD, act, the_site
from spinel.actions import evidence, qualifying, sealed_backup, upkeep
from spinel.actions.backup import backup, restore
from spinel.actions.qualifying import Learnt
from spinel.actions.verifying import verify
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal
from spinel.store import files, training

pytestmark = pytest.mark.long

PDF = b"%PDF-1.4\n%%EOF\n"


def photo(form="JPEG", size=(40, 30)):
    picture, out = Image.new("RGB", size, (200, 30, 60)), io.BytesIO()
    exif = Image.Exif()
    # 0x8825: where it was taken; 0x0110: by which device; 0x010e: whatever somebody wrote into it
    exif[0x0110], exif[0x010E] = "Camera of the hidden owner", "remark that nobody sees"
    exif.get_ifd(0x8825)[2] = (47.0, 36.0, 22.0)
    picture.save(out, form, exif=exif.tobytes())
    return out.getvalue()


def handed_in(content):
    name = evidence.keep(act("maren"), content)
    learnt = Learnt(course="cpr", how="trained", day=date(2026, 11, 20), seen_by="Orla Fenn", evidence=name)
    qualifying.record(act("maren"), "temi", learnt)
    return name


@pytest.fixture(autouse=True)
def _in(open_db):
    pass


@pytest.mark.parametrize("form", ["JPEG", "PNG", "WEBP"])
def test_a_picture_says_no_longer_where_and_with_what_it_was_taken(form):
    sent = photo(form)
    assert b"hidden owner" in sent and Image.open(io.BytesIO(sent)).getexif().get_ifd(0x8825)
    kept = evidence.file(the_site(), handed_in(sent)).read_bytes()
    assert b"hidden owner" not in kept and b"nobody sees" not in kept
    drawn = Image.open(io.BytesIO(kept))
    assert drawn.size == (40, 30) and not dict(drawn.getexif()) and drawn.format == "JPEG"


@pytest.mark.parametrize("content", [
    b"<html><script>alert(1)</script>", b"<svg xmlns='http://www.w3.org/2000/svg'/>", b"GIF89a" + b"\0" * 60, b"MZ\0\0", b"\x89PNG\r\n\x1a\n broken",
    b"\xff\xd8\xff\xe0 broken", b" %PDF-1.4", b"BM" + b"\0" * 80,
])  # fmt: skip
def test_what_is_no_picture_and_no_pdf_is_refused_whatever_it_is_called(content):
    with pytest.raises(InputError, match="picture"):
        evidence.keep(act("maren"), content)


def test_what_is_too_large_is_refused(monkeypatch):
    with pytest.raises(InputError, match="6 MB"):
        evidence.keep(act("maren"), PDF + b"\0" * evidence.MOST_BYTES)
    monkeypatch.setattr(evidence, "MOST_POINTS", 100)
    with pytest.raises(InputError, match="points"):
        evidence.keep(act("maren"), photo())


def test_it_lies_under_its_hash_for_its_owner_alone_and_once(database):
    name = handed_in(PDF)
    assert evidence.keep(act("maren"), PDF) == name and files.is_whole(database, name)
    path = files.path_of(database, name)
    assert path.stat().st_mode & 0o077 == 0 and files.folder(database).stat().st_mode & 0o077 == 0


def test_nothing_is_served_that_the_record_does_not_refer_to(database):
    stray = evidence.keep(act("maren"), PDF)
    for name in (stray, "../site.sqlite3", f"{'0' * 64}.pdf", "", "..", f"{database.name}.keys"):
        with pytest.raises(NotFound):
            evidence.file(the_site(), name)
    with pytest.raises(NotAllowed):
        evidence.keep(act("nils"), PDF)


@pytest.mark.tampers
def test_a_file_that_was_changed_or_taken_away_is_named(database):
    name = handed_in(PDF)
    assert verify(database).found == ()
    path = files.path_of(database, name)
    path.write_bytes(PDF + b" ")
    assert [f.code for f in verify(database).found] == ["verify-evidence"]
    path.unlink()
    assert [f.values["name"] for f in verify(database).found] == [name[:12]]


@pytest.mark.parametrize("sealed", [False, True])
def test_it_goes_with_a_backup_and_comes_back_with_it(database, tmp_path, sealed):
    name = handed_in(photo())
    key = tmp_path / "key"
    key.write_text("a key that lies in another house")
    done = backup(database, tmp_path / "b" / "copy", MOMENT, key if sealed else None)
    raw = done.path.read_bytes()
    assert (b"SQLite format 3" in raw) == (not sealed) and (b"Orla Fenn" in raw) == (not sealed)
    assert {p.name for p in done.path.parent.iterdir()} == ({"copy"} if sealed else {"copy", "copy.keys", "copy.files"})
    back = restore(done.path, tmp_path / "back" / "site.sqlite3", key=key if sealed else None)
    assert files.is_whole(back.path, name) and back.count == done.count
    assert verify(back.path).found == ()
    assert {p.name for p in back.path.parent.iterdir()} >= {"site.sqlite3", "site.sqlite3.keys", "site.sqlite3.files"}
    with pytest.raises(InputError):
        restore(done.path, back.path, key=key)


def test_an_encrypted_backup_opens_with_its_key_alone_and_only_whole(database, tmp_path):
    key, other, short = tmp_path / "key", tmp_path / "other", tmp_path / "short"
    key.write_text("a key that lies in another house")
    other.write_text("a key of somebody else's house")
    short.write_text("short")
    done = backup(database, tmp_path / "copy", MOMENT, key)
    assert sealed_backup.is_sealed(done.path) and done.path.stat().st_mode & 0o077 == 0
    for wrong in (None, other):
        with pytest.raises(Refusal, match="key"):
            restore(done.path, tmp_path / "back.sqlite3", key=wrong)
    for unusable in (short, tmp_path / "missing"):
        with pytest.raises(InputError):
            backup(database, tmp_path / "second", MOMENT, unusable)
    raw = bytearray(done.path.read_bytes())
    raw[len(raw) // 2] ^= 1
    done.path.write_bytes(raw)
    with pytest.raises(Refusal, match="damaged"):
        restore(done.path, tmp_path / "back.sqlite3", key=key)
    assert not (tmp_path / "back.sqlite3").exists() and not (tmp_path / "second").exists()
    assert [p for p in tmp_path.iterdir() if p.name.startswith(".")] == []


@pytest.mark.tampers
def test_a_file_that_is_lost_is_said_and_keeps_nobody_from_having_a_backup(database, tmp_path):
    files.path_of(database, handed_in(PDF)).unlink()
    done = backup(database, tmp_path / "copy", MOMENT)
    assert done.trouble.code == "backup-a-file-lacks" and done.trouble.values["count"] == 1
    assert [f.code for f in verify(done.path).found] == ["verify-evidence"]


def test_daily_backups_are_encrypted_where_the_site_has_a_key_and_the_oldest_go_whole(database, tmp_path, monkeypatch):
    monkeypatch.setattr(upkeep, "is_marked_demo", lambda _: False)
    handed_in(PDF)
    key, folder = tmp_path / "key", tmp_path / "backups"
    key.write_text("a key that lies in another house")
    for day in range(4):
        # one in the clear first: it goes with its keys and files when its turn comes
        done = upkeep.keep(database, MOMENT + timedelta(days=day), folder, 2, key=key if day else None)
        assert done.trouble == () and done.found == ()
    assert len(list(folder.iterdir())) == 2 and all(sealed_backup.is_sealed(p) for p in folder.iterdir())
    (tmp_path / "no-key").write_text("x")
    failed = upkeep.keep(database, MOMENT + timedelta(days=9), folder, 2, key=tmp_path / "no-key")
    assert [t.code for t in failed.trouble] and len(list(folder.iterdir())) == 2


def test_the_log_says_who_was_refused_and_nothing_that_was_typed(app, sign_in, caplog):
    with caplog.at_level(logging.INFO):
        app.test_client().post("/sign-in", data={"login": "my secret pass phrase", "password": "another secret"})
        sign_in("nils").post("/settings/step_min", data={"step_min": "3", "reason": "because"})
        app.test_client().get("/welcome/a-secret-token-of-somebody")
    lines = [
        json.loads(JsonFormatter("{message}", style="{").format(r)) for r in caplog.records if r.name == "spinel.events"
    ]
    said = json.dumps(lines)
    assert {line["message"] for line in lines} == {"sign-in refused", "refused by role"}
    assert next(line for line in lines if line["message"] == "refused by role")["path"] == "/settings/step_min"
    assert not any(secret in said for secret in ("secret", PASSWORD, "token", "because"))
    assert training.evidence() == set()
