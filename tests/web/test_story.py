"""An auditor reads sentences: who did what on a permit, on which content, and whether the right people were different."""

import re
import sqlite3

import pytest

from demo_acts import MOMENT, act, permits_of, the_site
from shared_files import copied, put_in_place
from spinel.actions import permit_moves, story, upkeep
from spinel.actions.records import entries
from spinel.core.errors import NotFound
from spinel.core.permit.life import DUTIES_APART
from spinel.store import ledger


def text(page):
    return re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", page.text))


def test_who_issued_a_permit_until_when_and_on_what_content(sign_in):
    page = text(sign_in("edda").get("/records/story/permit/EWP-0003"))
    hash = permits_of("EWP-0003").content_hash
    assert f"Ruth Calloway approved content {hash[:4]} {hash[4:8]}" in page
    assert re.search(r"Tavi Lindgren issued it for \d\d:\d\d to \d\d:\d\d", page)
    assert "Sorcha Maddern accepted content" in page and "started the job: Replace breaker 7" in page


def test_every_act_of_the_demo_reads_in_words(sign_in):
    """No names of the data stand before their values where somebody reads a story."""
    edda = sign_in("edda")
    subjects = {
        e.subject
        for e in entries(the_site(), at_most=5000)
        if e.subject.partition(":")[0] in ("permit", "program", "job")
    }
    assert len(subjects) > 20
    for subject in subjects:
        kind, _, name = subject.partition(":")
        answer = edda.get(f"/records/story/{kind}/{name}")
        assert answer.status_code == 200
        for line in re.findall(r"<summary>(.*?)</summary>", answer.text, re.S):
            if not name.startswith("PR-"):
                assert not re.search(r"\b(content_hash|because|operator_id|justification|circuit_changed) ", line), line


@pytest.mark.parametrize("kind,name", [("permit", "EWP-9999"), ("nonsense", "x"), ("permit", "EWP")])
def test_what_has_no_entry_has_no_story(sign_in, kind, name):
    assert sign_in("edda").get(f"/records/story/{kind}/{name}").status_code == 404
    with pytest.raises(NotFound):
        story.of(the_site(), f"{kind}:{name}")


def test_it_says_how_far_it_can_be_believed(sign_in, database):
    edda = sign_in("edda")

    def said():
        return text(edda.get("/records/story/permit/EWP-0001"))

    assert "Nobody has compared" in said() and "No entry is anchored" in said()
    upkeep.keep(database, MOMENT, None)
    assert "Everything was as it was recorded" in said() and "are anchored outside the database" in said()
    permit_moves.suspend(act("edda"), "EWP-0003", permits_of("EWP-0003").version, "Smoke at the door")
    assert re.search(r"Entries up to \d+ of \d+ are anchored", said())


@pytest.mark.tampers
def test_a_record_that_is_not_as_recorded_is_said_on_every_story(sign_in, database):
    with sqlite3.connect(database) as own:
        own.execute("UPDATE person SET phone = '555 0100' WHERE login = 'nils'")
    upkeep.keep(database, MOMENT, None)
    page = text(sign_in("edda").get("/records/story/permit/EWP-0001"))
    assert "not as recorded" in page and "verify before you believe it" in page


@pytest.mark.tampers
def test_an_old_copy_is_not_said_to_be_whole_or_anchored(sign_in, database, tmp_path):
    """Compared and anchored while it was whole; then an earlier copy is put in its place."""
    old, edda = copied(database, tmp_path / "old.sqlite3"), sign_in("edda")
    upkeep.keep(database, MOMENT, None)
    put_in_place(old, database)
    page = text(edda.get("/records/story/permit/EWP-0001"))
    assert "not as recorded" in page and "No entry is anchored" in page and "Everything was" not in page


def test_one_person_who_did_both_is_named(monkeypatch, open_db):
    """As a ledger would read in which the rules had been passed by."""
    real = ledger.of_subjects

    def of_subjects(subjects):
        from dataclasses import replace

        return [replace(e, actor="Ruth Calloway") if e.act == "permit issued" else e for e in real(subjects)]

    assert all(pair.both == () for pair in story.of(the_site(), "permit:EWP-0001").apart)
    monkeypatch.setattr("spinel.store.ledger.of_subjects", of_subjects)
    both = [pair for pair in story.of(the_site(), "permit:EWP-0001").apart if pair.both]
    assert [(p.acts, p.both) for p in both] == [(("permit approved", "permit issued"), ("Ruth Calloway",))]


def test_the_pairs_are_those_of_the_rules():
    """Each duty that the life of a permit keeps apart is looked for in the ledger."""
    acts = {"requester": ("permit drafted", "permit edited"), "worker": ("permit stated",), "approver": ("permit approved",), "signatory": ("permit signed",),
            "issuer": ("permit issued",)}  # fmt: skip
    done = {"approve": "permit approved", "sign": "permit signed", "issue": "permit issued", "accept": "permit accepted", "hand_back": "permit handed back",
            "vouch": "permit vouched"}  # fmt: skip
    expected = {
        frozenset((a, done[move]))
        for move, parts in DUTIES_APART.items()
        if move in done
        for part in parts
        for a in acts[part]
        # that one person approves twice is told by the permit itself, not by two acts
        if a != done[move]
    }
    assert expected <= {frozenset(pair) for pair in story.APART}
