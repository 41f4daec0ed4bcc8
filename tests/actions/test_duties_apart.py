"""Nobody passes on the own work: whoever wrote any part of it, ever, neither approves nor checks it; whoever looks as a
third person is qualified for what they look at; a repeat answers for its own act alone."""

import sqlite3
import uuid

import pytest
from test_permits import make_draft, view

from demo_acts import PASSWORD, act, actor, element_id, the_site
from spinel.actions import people, permit_approval, permits, program_moves, program_view, programs, site_settings
from spinel.core.errors import NotAllowed, Refusal
from switching_acts import confirm, ready, run, start_job

pytestmark = pytest.mark.usefixtures("open_db")


def again(login, number):
    """Somebody saves the permit as it is."""
    seen = view(number)
    permits.edit(act(login), number, seen.version, permits.plan_of(seen))


@pytest.fixture
def both():
    """Somebody who writes and approves."""
    people.add_person(act("maren"), "both", "Bo Thorsen", PASSWORD, ["coordinator", "authoriser"])
    return "both"


def test_whoever_edited_a_permit_does_not_approve_it_whoever_submits_it(both):
    number = make_draft()
    again(both, number)
    again("maren", number)  # what they wrote may be gone again: they wrote it all the same
    permit_approval.submit(act("maren"), number, view(number).version)
    for move in (permit_approval.approve, permit_approval.refuse):
        more = (view(number).content_hash, PASSWORD) if move is permit_approval.approve else ("It is not needed",)
        with pytest.raises((Refusal, NotAllowed), match=r"[Ss]eparation|duties"):
            move(act(both), number, view(number).version, *more)
    permit_approval.approve(act("ruth"), number, view(number).version, view(number).content_hash, PASSWORD)


def test_an_edit_before_this_version_counts_by_the_ledger(both, database, tmp_path):
    """A database of the release before knew of it in the ledger alone."""
    from importlib import import_module

    number = make_draft()
    again(both, number)
    copy = sqlite3.connect(":memory:")
    with sqlite3.connect(database) as own:
        own.backup(copy)
    wrote = "SELECT person_id FROM permit_record WHERE kind = 'edited' ORDER BY id"
    recorded = copy.execute(wrote).fetchall()
    copy.executescript("DROP TRIGGER permit_record_no_delete; DELETE FROM permit_record WHERE kind = 'edited'")
    migration = import_module("spinel.store.migrations.0008_who_wrote")
    migration.up(None, type("Db", (), {"execute_sql": copy.execute})())
    assert copy.execute(wrote).fetchall() == recorded and recorded[-1] == (actor(both).id,)


def test_whoever_edited_a_program_does_not_check_it_after_somebody_edited_again():
    number = programs.draft(act("maren"), start_job("MC2-1D"))
    for login in ("tavi", "maren"):
        seen = program_view.view(the_site(), number)
        program_moves.remark_step(act(login), number, seen.version, 2, f"Seen by {login}")
    seen = program_view.view(the_site(), number)
    with pytest.raises((Refusal, NotAllowed), match=r"[Ss]eparation|duties"):
        program_moves.check(act("tavi"), number, seen.version, seen.content_hash)


def test_a_third_person_who_looks_is_qualified_for_the_equipment():
    site_settings.change(act("maren"), "checks_by", "third_person", "Two pairs of eyes")
    people.add_person(act("maren"), "guest", "Gus Lind", PASSWORD, [])
    number = programs.draft(act("maren"), start_job("MC2"))
    ready(number)
    run(number, until="check")
    with pytest.raises(Refusal, match="no qualification"):
        confirm(number, "guest")
    assert confirm(number, "tavi") == "confirmed"


class TestARequestAnswersForItself:
    def test_not_for_another_act_or_another_person(self, sign_in):
        """The same id on another subject is an act of its own, and by somebody else neither a success nor a fault."""
        one, maren, edda = str(uuid.uuid4()), sign_in("maren"), sign_in("edda")
        first, second = (view(n) for n in ("EWP-0003", "EWP-0004"))
        stop = {"reason": "Somebody stands too near", "request_id": one}
        path = "/permits/{}/suspend".format
        assert maren.post(path(first.number), data={**stop, "version": first.version}).status_code == 302
        assert view(first.number).state == "suspended"
        assert maren.post(path(second.number), data={**stop, "version": second.version}).status_code == 302
        assert view(second.number).state == "suspended"
        refused = edda.post(path(second.number), data={**stop, "version": view(second.number).version})
        assert refused.status_code in (409, 422) and view(second.number).state == "suspended"

    def test_a_repeat_of_it_is_answered_and_done_once(self, sign_in):
        maren, data = sign_in("maren"), {"element": element_id("MC1"), "task": "test", "title": "Look twice", "touches": "bus",
                                         "request_id": str(uuid.uuid4())}  # fmt: skip
        places = {maren.post("/jobs/new", data=data).headers["Location"] for _ in range(3)}
        assert len(places) == 1
