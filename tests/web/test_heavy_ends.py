"""What is made beside the server: given up when somebody wants it no more, and when the server ends."""

import time

import pytest

from spinel.web import heavy
from spinel.web.heavy import Cancelled, Heavy
from spinel.web.pdfs import as_pdf


def sleeps(tell, seconds):
    tell("begun")
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        time.sleep(0.05)
        tell("still")
    return b"done"


def test_what_nobody_wants_any_more_is_given_up_at_its_next_stage(tmp_path):
    beside = Heavy(tmp_path / "made")
    key = beside.key("sleep")
    assert beside.make("txt", key, sleeps, 60, patience_s=0.1) is None
    end = time.monotonic() + 60
    while beside.stage("txt", key) != "still":
        assert time.monotonic() < end
        time.sleep(0.05)
    asked = beside._asked[f"{key}.txt"]
    beside.stop("txt", key)
    with pytest.raises(Cancelled):
        asked.result(timeout=30)
    assert beside.made("txt", key) is None and beside.stage("txt", key) == ""
    # asked for again it is made
    assert beside.make("txt", key, sleeps, 0, patience_s=30) == b"done"
    beside.give_up()


def test_the_end_of_the_server_waits_for_nothing_that_is_being_made(tmp_path):
    beside = Heavy(tmp_path / "made")
    key = beside.key("sleep long")
    beside.make("txt", key, sleeps, 120, patience_s=0.1)
    end = time.monotonic() + 60
    while not beside.stage("txt", key):
        assert time.monotonic() < end
        time.sleep(0.05)
    (process,) = beside._pool._processes.values()
    start = time.monotonic()
    beside.give_up()
    # the pool's own thread may have taken its end in, which a single look at it then misses
    while process.is_alive() and time.monotonic() - start < 10:
        time.sleep(0.05)
    assert not process.is_alive() and time.monotonic() - start < 10
    beside.give_up()
    # what was half made is no result
    assert beside.made("txt", key) is None


def test_a_picture_that_a_paper_brings_is_in_its_pdf_and_a_foreign_address_is_not_fetched(tmp_path):
    pixel = ("data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5E"
             "rkJggg==")  # fmt: skip
    page = '<html><body><img src="{}" width="40" height="40"></body></html>'
    with_picture = as_pdf(lambda stage: None, page.format(pixel), str(tmp_path))
    without = as_pdf(lambda stage: None, page.format("http://127.0.0.1:1/x.png"), str(tmp_path))
    assert b"/Image" in with_picture and b"/Image" not in without
    assert heavy.RETAINED > 0
