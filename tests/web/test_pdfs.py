"""Papers are drawn beside the server, one at a time, and once."""

import os
import threading
import time

import pytest

from spinel.web import heavy
from spinel.web.papers import missing_packages


def test_whoever_asks_while_others_wait_is_told_to_look_again_and_gets_it(sign_in, app, monkeypatch):
    if missing_packages():
        pytest.skip("no library for PDFs here")
    ivo = sign_in("ivo")
    monkeypatch.setattr(app.extensions["heavy"], "_slots", threading.BoundedSemaphore(1))
    app.extensions["heavy"]._slots.acquire()
    began = time.monotonic()
    answer = ivo.get("/permits/EWP-0003.pdf?size=a4")
    assert answer.status_code == 202 and "being drawn" in answer.text
    again = answer.headers["Refresh"].partition("url=")[2]
    until = began + 120
    while (answer := ivo.get(again)).status_code == 202 and time.monotonic() < until:
        time.sleep(0.1)
    assert answer.status_code == 200 and answer.data[:5] == b"%PDF-"
    app.extensions["heavy"]._slots.release()
    # drawn once: the same paper is read from where it is kept
    monkeypatch.setattr(app.extensions["heavy"], "_ask", None)
    assert ivo.get(again).data == answer.data
    (kept,) = app.extensions["heavy"]._folder.glob("*.pdf")
    os.utime(kept, (0, 0))
    monkeypatch.setattr(app.extensions["heavy"], "make", lambda *a: b"%PDF-anew")
    assert ivo.get(again).data == b"%PDF-anew"
    assert kept.stat().st_mode & 0o077 == 0 and kept.parent.stat().st_mode & 0o077 == 0


@pytest.mark.parametrize("drawn", ["..", "../../etc/passwd", "0" * 63, "G" * 64, "0" * 64])
def test_a_forged_key_shows_no_other_file(sign_in, app, monkeypatch, drawn):
    monkeypatch.setattr(app.extensions["heavy"], "make", lambda *a: b"%PDF-own")
    assert sign_in("ivo").get("/permits/EWP-0003.pdf", query_string={"drawn": drawn}).data == b"%PDF-own"


def test_only_the_last_ones_of_a_kind_are_kept(tmp_path, monkeypatch):
    monkeypatch.setattr(heavy, "RETAINED", 3)
    for i in range(5):
        heavy._made(str(tmp_path / f"{i:064x}.pdf"), lambda tell, text: text.encode(), (f"paper {i}",))
        time.sleep(0.02)
    heavy._made(str(tmp_path / f"{9:064x}.csv"), lambda tell: b"a study", ())
    assert sorted(f.read_text() for f in tmp_path.glob("*.pdf")) == ["paper 2", "paper 3", "paper 4"]
    assert [f.read_text() for f in tmp_path.glob("*.csv")] == ["a study"]


def test_what_a_work_raises_leaves_nothing_half_made(tmp_path):
    def fails(tell):
        tell("begun")
        raise ValueError("no figure")

    with pytest.raises(ValueError, match="no figure"):
        heavy._made(str(tmp_path / f"{1:064x}.csv"), fails, ())
    assert [f.name for f in tmp_path.iterdir()] == ["making"]
