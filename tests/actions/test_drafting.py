"""Drafts of the network: kept with every state, undone without end, merged, split honestly, published once."""

import json
from datetime import timedelta

import pytest

from demo_acts import act, element_id, the_site
from spinel.actions import (
    asking,
    attachments,
    draft_publishing,
    drafting,
    equipment,
    jobs,
    kept_up,
    records,
    revisions,
    source_ways,
    walking,
)
from spinel.actions.acting import Act
from spinel.actions.verifying import verify
from spinel.actions.walking import SeenThere
from spinel.core.canonical import content_hash, digest
from spinel.core.editing import acts, groups
from spinel.core.errors import DocumentError, InputError, NotAllowed, NotFound, NotKept, Refusal, Stale
from spinel.core.network.sheets import Fault
from spinel.core.said import say
from spinel.core.upkeep import Upkept
from spinel.demo.people import PASSWORD
from spinel.store import database as db
from spinel.store import ledger

WHAT = say("draft-curve", tag="T1")


def begun(login="maren"):
    return drafting.begin(act(login))


def setting(tag, **values):
    def change(sheet):
        element = next(e for e in sheet.document["elements"] if e["tag"] == tag)
        acts.change(sheet, "elements", element["id"], values, {"from": "seen"})
        return WHAT

    return change


def one(number, tag):
    return next(e for e in drafting.draft(the_site(), number).document["elements"] if e["tag"] == tag)


def edit(number, change, login="maren", seen=None, **more):
    step = drafting.draft(the_site(), number).step if seen is None else seen
    return drafting.edit(act(login), number, step, change, **more)


def all_so(number):
    draft_publishing.answer_pieces(
        act("maren"), number, {p.key: "so" for p in draft_publishing.pieces(the_site(), number)}
    )


def to_publish(number):
    """The hash of what the signer is shown; where there is nothing yet to show, none."""
    try:
        return digest(draft_publishing.text_to_publish(the_site(), number))
    except Refusal:
        return ""


def published():
    with the_site().connection():
        return revisions.published(the_site())[0]


def test_every_state_comes_back_and_the_redone_is_what_it_was(open_db):
    number = begun()
    hashes = [drafting.draft(the_site(), number).hash]
    for i in range(6):
        edit(number, setting("T1", x_r=5 + i))
        hashes.append(drafting.draft(the_site(), number).hash)
    for back in range(5, -1, -1):
        drafting.undo(act("maren"), number, back + 1)
        assert drafting.draft(the_site(), number).hash == hashes[back]
    drafting.undo(act("maren"), number, 0)
    assert drafting.draft(the_site(), number).step == 0, "there is nothing before the beginning"
    for on in range(1, 4):
        drafting.undo(act("maren"), number, on - 1, 1)
        assert drafting.draft(the_site(), number).hash == hashes[on]
    # what is done now is in place of what was undone
    edit(number, setting("T1", x_r=40))
    assert drafting.draft(the_site(), number).steps == 5 and one(number, "T1")["x_r"] == 40
    assert verify(the_site().path).found == ()


def test_a_draft_changes_nothing_that_is_published(open_db):
    before, figures = published(), the_site().as_it_is().hash
    number = begun()
    edit(number, setting("T1", rated_kva=9000))
    assert (published(), the_site().as_it_is().hash) == (before, figures)
    assert drafting.draft(the_site(), number).state == "open"


@pytest.mark.parametrize("login", ["ivo", "ruth", "nils", "edda"])
def test_only_coordinators_build(open_db, login):
    number = begun()
    for do in (
        lambda a: drafting.begin(a), lambda a: drafting.edit(a, number, 0, setting("T1", x_r=9)),
        lambda a: drafting.undo(a, number, 0), lambda a: draft_publishing.answer(a, number, {}),
        lambda a: drafting.throw_away(a, number), lambda a: drafting.bring_up(a, number, 0, {}),
        lambda a: draft_publishing.publish(a, number, "0", PASSWORD, "a fine reason", ""),
        lambda a: drafting.mended(a, number, {}), lambda a: drafting.begin_with(a, {}, WHAT),
    ):  # fmt: skip
        with pytest.raises(NotAllowed):
            do(act(login))
    assert drafting.draft(the_site(), number).step == 0


class TestTwoPeople:
    def test_both_are_kept_where_they_did_not_meet(self, open_db):
        number = begun()
        edit(number, setting("T1", x_r=9), "tavi", seen=0)
        edit(number, setting("T2", x_r=8), "maren", seen=0)
        assert (one(number, "T1")["x_r"], one(number, "T2")["x_r"]) == (9, 8)

    def test_the_later_one_is_told_and_chooses(self, open_db):
        number = begun()
        edit(number, setting("T1", x_r=9, name="Of Tavi"), "tavi", seen=0)
        with pytest.raises(drafting.Conflicted) as told:
            edit(number, setting("T1", x_r=8), "maren", seen=0)
        assert [(c.field, c.mine, c.theirs) for c in told.value.conflicts] == [("x_r", 8, 9)]
        assert one(number, "T1")["x_r"] == 9
        edit(number, setting("T1", x_r=8), "maren", seen=0, chosen={told.value.conflicts[0].key: "mine"})
        assert (one(number, "T1")["x_r"], one(number, "T1")["name"]) == (8, "Of Tavi")

    def test_what_was_seen_and_is_undone_is_stale(self, open_db):
        number = begun()
        edit(number, setting("T1", x_r=9))
        drafting.undo(act("tavi"), number, 1)
        with pytest.raises(Stale):
            edit(number, setting("T1", x_r=8), seen=1)
        with pytest.raises(Stale):
            drafting.undo(act("maren"), number, 1)

    def test_the_same_request_twice_is_done_once(self, open_db):
        number = begun()
        once = Act(the_site(), act("maren").actor, act("maren").now, "r-1")
        assert (
            drafting.edit(once, number, 0, setting("T1", x_r=9))
            == drafting.edit(once, number, 0, setting("T1", x_r=10))
            == 1
        )
        assert one(number, "T1")["x_r"] == 9


class TestPublishing:
    def ready(self, tag="T1", **values):
        number = begun()
        edit(number, setting(tag, **values))
        return number

    def publish(self, number, login="maren", **more):
        draft = drafting.draft(the_site(), number)
        given = {
            "seen": to_publish(number),
            "password": PASSWORD,
            "note": "read off the plate",
            "against": draft.base,
        } | more
        return draft_publishing.publish(act(login), number, **given)

    def test_nothing_is_published_before_somebody_says_that_it_is_so(self, open_db):
        number = self.ready(x_r=9)
        with pytest.raises(Refusal) as why:
            self.publish(number)
        assert why.value.rule.code == "drafting-a-split-is-honest"
        all_so(number)
        revision, _ = self.publish(number)
        assert revision == published().number and drafting.draft(the_site(), number).state == "published"
        assert the_site().as_it_is().network.by_tag["T1"].x_r == 9
        with pytest.raises(Refusal):
            edit(number, setting("T1", x_r=3))

    def test_what_is_not_built_waits_and_what_is_so_cannot(self, open_db):
        number = self.ready(x_r=9)
        edit(number, setting("T2", x_r=8))
        pieces = {p.name: p.key for p in draft_publishing.pieces(the_site(), number)}
        draft_publishing.answer_pieces(act("maren"), number, {pieces["T1"]: "so", pieces["T2"]: "not-yet"})
        self.publish(number)
        now = the_site().as_it_is().network.by_tag
        assert (now["T1"].x_r, now["T2"].x_r) == (9, 6.5)
        left = drafting.draft(the_site(), number)
        assert left.state == "open" and left.base == published().hash and not left.behind
        assert [p.name for p in draft_publishing.pieces(the_site(), number)] == ["T2"]
        assert left.answers == {}, "what was not built then may be by now"

    def test_what_is_changed_again_is_asked_again(self, open_db):
        """An answer is for what was there to see, and a signature for what would be published then."""
        number = self.ready(x_r=9)
        before = {p.name: p.key for p in draft_publishing.pieces(the_site(), number)}
        draft_publishing.answer_pieces(act("maren"), number, {before["T1"]: "not-yet"})
        edit(number, setting("T1", x_r=7))
        assert [p.answer for p in draft_publishing.pieces(the_site(), number)] == [""]
        with pytest.raises(Refusal):
            self.publish(number)
        with pytest.raises(Stale):
            draft_publishing.answer_pieces(act("maren"), number, {before["T1"]: "so"})
        all_so(number)
        seen = to_publish(number)
        # undone by another, and something else done: a state of the same number
        drafting.undo(act("tavi"), number, drafting.draft(the_site(), number).step)
        edit(number, setting("T1", x_r=5), "tavi")
        all_so(number)
        with pytest.raises(Stale):
            self.publish(number, seen=seen)
        # as it was answered, it is answered
        drafting.undo(act("tavi"), number, drafting.draft(the_site(), number).step)
        assert [p.answer for p in draft_publishing.pieces(the_site(), number)] == ["not-yet"]

    def test_a_signature_is_for_the_part_that_was_shown(self, open_db):
        number = self.ready(x_r=9)
        edit(number, setting("T2", x_r=8))
        all_so(number)
        seen, keys = to_publish(number), {p.name: p.key for p in draft_publishing.pieces(the_site(), number)}
        draft_publishing.answer_pieces(act("tavi"), number, {keys["T2"]: "not-yet"})
        with pytest.raises(Stale):
            self.publish(number, seen=seen)

    def test_a_part_that_cannot_stand_alone_is_refused(self, open_db):
        number = begun()

        def hung(sheet):
            node = next(e["ends"][0] for e in sheet.document["elements"] if e["tag"] == "MC2")
            groups.hang(sheet, "motor", node, {"tag": "P-40"}, {"from": "drawing"})
            return WHAT

        edit(number, hung)
        keys = {p.name: p.key for p in draft_publishing.pieces(the_site(), number)}
        draft_publishing.answer_pieces(
            act("maren"), number, {keys["P-40"]: "so", keys["W-P-40"]: "not-yet", keys["Q-P-40"]: "not-yet"}
        )
        with pytest.raises(Refusal) as why:
            self.publish(number)
        assert why.value.why.code == "drafting-the-part-does-not-stand-alone"

    def test_what_was_published_meanwhile_is_put_in_first(self, open_db):
        number = self.ready(x_r=9)
        other = self.ready("T2", x_r=8)
        for n in (number, other):
            all_so(n)
        self.publish(other, "tavi")
        assert drafting.draft(the_site(), number).behind
        with pytest.raises(Refusal):
            self.publish(number)
        assert drafting.bring_up(act("maren"), number, 1, {}) == ()
        self.publish(number)
        now = the_site().as_it_is().network.by_tag
        assert (now["T1"].x_r, now["T2"].x_r) == (9, 8)

    def test_where_both_changed_one_field_a_side_is_chosen(self, open_db):
        number, other = self.ready(x_r=9), self.ready(x_r=8)
        all_so(other)
        self.publish(other, "tavi")
        conflicts = drafting.bring_up(act("maren"), number, 1, {})
        assert [(c.name, c.field) for c in conflicts] == [("T1", "x_r")]
        assert drafting.draft(the_site(), number).behind
        assert drafting.bring_up(act("maren"), number, 1, {conflicts[0].key: "mine"}) == ()
        assert one(number, "T1")["x_r"] == 9 and not drafting.draft(the_site(), number).behind

    @pytest.mark.parametrize(("given", "error"), [
        ({"password": "wrong"}, (Refusal, InputError)), ({"note": ""}, InputError), ({"seen": "0"}, Stale), ({"against": "x"}, Refusal),
    ])  # fmt: skip
    def test_nothing_half_done_is_left(self, open_db, given, error):
        number = self.ready(x_r=9)
        all_so(number)
        before = published()
        with pytest.raises(error):
            self.publish(number, **given)
        assert published() == before and drafting.draft(the_site(), number).state == "open"

    def test_a_document_with_a_problem_is_not_published(self, open_db):
        number = self.ready(x_r=9)

        def broken(sheet):
            acts.remove(sheet, [next(e["id"] for e in sheet.document["elements"] if e["tag"] == "W-A")])
            return WHAT

        edit(number, broken)
        all_so(number)
        with pytest.raises(DocumentError):
            self.publish(number)
        assert drafting.draft(the_site(), number).state == "open"

    def test_a_commit_that_fails_leaves_draft_and_network_as_they_were(self, open_db, monkeypatch):
        number = self.ready(x_r=9)
        all_so(number)
        before = published()
        monkeypatch.setattr(ledger, "append", lambda *_: (_ for _ in ()).throw(NotKept("the disk is full")))
        with pytest.raises(NotKept):
            self.publish(number)
        monkeypatch.undo()
        assert published() == before and drafting.draft(the_site(), number).state == "open"


def test_an_earlier_revision_comes_back_as_a_draft(open_db):
    number = begun()
    edit(number, setting("T1", x_r=9))
    all_so(number)
    draft = drafting.draft(the_site(), number)
    draft_publishing.publish(act("maren"), number, to_publish(number), PASSWORD, "a fine reason", draft.base)
    old = drafting.begin(act("maren"), 1)
    assert one(old, "T1")["x_r"] == 6.5
    assert [d.name for d in draft_publishing.differs(the_site(), old)] == ["T1"]
    with pytest.raises(NotFound):
        drafting.begin(act("maren"), 99)


def test_a_published_network_is_begun_on_never_beside(open_db):
    with pytest.raises(Refusal):
        drafting.begin_empty(act("maren"), {"name": "Another", "time_zone": "UTC", "practice": "north-american", "frequency_hz": 60},
                             {"voltage_v": 480, "tag": "U-9"}, {"from": "letter"})  # fmt: skip


def test_a_fault_of_a_workbook_stays_until_somebody_saw_to_it(open_db):
    faults = [Fault("cable", 7, "length_m", "forty", "a number")]
    document = json.loads(drafting.draft(the_site(), begun()).text)
    number = drafting.begin_with(act("maren"), document, WHAT, faults)
    assert drafting.draft(the_site(), number).faults[0]["value"] == "forty"
    drafting.mended(act("maren"), number, {"sheet": "cable", "row": "7", "column": "length_m"})
    assert drafting.draft(the_site(), number).faults == ()


def test_a_workbook_is_not_published_before_each_cell_of_it_was_seen_to(open_db):
    """What could not be read is in no difference: nobody would be asked about it."""
    document = json.loads(drafting.draft(the_site(), begun()).text)
    number = drafting.begin_with(act("maren"), document, WHAT, [Fault("cable", 7, "length_m", "forty", "a number")])
    edit(number, setting("T1", x_r=9))
    all_so(number)
    with pytest.raises(Refusal) as why:
        draft_publishing.text_to_publish(the_site(), number)
    assert why.value.rule.code == "drafting-what-was-brought-is-read-whole"
    with pytest.raises(Refusal):
        TestPublishing().publish(number, seen=drafting.draft(the_site(), number).hash)
    drafting.mended(act("maren"), number, {"sheet": "cable", "row": "7", "column": "length_m"})
    TestPublishing().publish(number)
    assert drafting.draft(the_site(), number).state == "published"


def test_what_a_walk_down_noted_is_not_lost_with_what_is_published(open_db):
    number = begun()
    edit(number, setting("T1", x_r=9))
    drafting.add_faults(act("ivo"), number, [Fault("walk-down", 1, "T1", "Hums", "seen on site")])
    all_so(number)
    TestPublishing().publish(number)
    left = drafting.draft(the_site(), number)
    assert (
        left.state == "open" and left.faults[0]["value"] == "Hums" and not draft_publishing.pieces(the_site(), number)
    )


def test_a_state_that_was_undone_lends_its_number_to_no_other(open_db):
    """An edit on what another undid is told so; it is not put together with what came in its place."""
    number = begun()
    seen = edit(number, setting("T1", x_r=9))
    drafting.undo(act("tavi"), number, seen)
    other = edit(number, setting("T1", rated_kva=900), "tavi")
    assert other != seen
    with pytest.raises(Stale):
        edit(number, setting("T1", x_r=8), seen=seen)
    assert one(number, "T1")["rated_kva"] == 900 and one(number, "T1")["x_r"] not in (8, 9)
    drafting.undo(act("maren"), number, other)
    assert drafting.draft(the_site(), number).first and drafting.draft(the_site(), number).next == WHAT
    assert verify(the_site().path).found == ()


class TestWalkDown:
    def keep(self, tag, login="ivo", request="r", **seen):
        a = act(login)
        return walking.keep(Act(a.site, a.actor, a.now, request), element_id(tag), SeenThere(**{"plate": {}} | seen))

    def test_a_position_that_agrees_counts_as_looked_at(self, open_db):
        before = the_site().as_it_is().device(the_site().as_it_is().network.by_tag["MC1-4A"])
        assert self.keep("MC1-4A", position=before.position) == []
        after = the_site().as_it_is().device(the_site().as_it_is().network.by_tag["MC1-4A"])
        assert after.known and after.position == before.position

    def test_one_that_disagrees_stops_what_it_stops_and_once_only(self, open_db):
        assert walking.would_stop(the_site(), element_id("MC1-4A"), "open")
        touched = self.keep("MC1-4A", position="open")
        assert touched
        entries = records.head(the_site())
        assert self.keep("MC1-4A", position="open") == [] and records.head(the_site()) == entries
        assert the_site().as_it_is().device(the_site().as_it_is().network.by_tag["MC1-4A"]).position == "open"

    def test_what_was_seen_before_something_was_recorded_counts_for_nothing(self, open_db):
        """Seen open, closed meanwhile by somebody, sent then: it must not read as open, nor as looked at."""
        number = element_id("F-B1")
        walking.keep(act("ivo"), number, SeenThere(position="closed", plate={}))
        late = act("ivo")
        late = Act(late.site, late.actor, late.now + timedelta(minutes=10), "late")
        before = the_site().as_it_is().device(the_site().as_it_is().network.get(number))
        with pytest.raises(InputError) as why:
            walking.keep(late, number, SeenThere(position="open", plate={}, age_s=900))
        assert why.value.allowed.code == "walking-recorded-since"
        assert the_site().as_it_is().device(the_site().as_it_is().network.get(number)) == before
        # nothing since, but nobody knows how old it is: found, and not looked at
        walking.keep(late, number, SeenThere(position="open", plate={}, age_s=60, sure=False))
        assert not the_site().as_it_is().device(the_site().as_it_is().network.get(number)).known

    def test_what_the_plate_says_becomes_a_draft_and_nothing_else(self, open_db):
        before = published()
        for i in range(2):
            self.keep("F-B1", request=f"r{i}", plate={"interrupting_ka": 42})
        self.keep("LP-1", request="r3", absent=True)
        found = [d for d in drafting.drafts(the_site()) if d.last.code.startswith("walking")]
        assert len(found) == 1 and published() == before
        changed = {d.name: d.how for d in draft_publishing.differs(the_site(), found[0].number)}
        assert changed["F-B1"] == "changed" and changed["LP-1"] == "removed"

    def test_a_lock_that_the_record_lacks_is_named(self, open_db):
        self.keep("F-B1", lock="L-77")
        draft = next(d for d in drafting.drafts(the_site()) if d.faults)
        assert draft.faults[0]["column"] == "F-B1"
        self.keep("F-B2", request="r2", lock="")
        assert len(drafting.draft(the_site(), draft.number).faults) == 1, "none seen, and none recorded"

    def test_who_may_and_what_cannot_be(self, open_db):
        for login in ("nils", "edda", "bram"):
            with pytest.raises(NotAllowed):
                self.keep("F-B1", login, position="open")
        for wrong in ({"position": "ajar"}, {"condition": "rusty"}):
            with pytest.raises(InputError):
                self.keep("F-B1", **wrong)

    def test_everything_that_stands_is_at_one_place(self, open_db):
        seen = [s.element.id for place, _ in walking.places(the_site()) for s in walking.at_place(the_site(), place)]
        network_now = the_site().as_it_is().network
        assert sorted(seen) == sorted(e.id for e in network_now.elements if not e.row.conductor)


class TestUpkeep:
    def record(self, tag, result="good", due="2027-01-01", day="2026-11-02", what="Trip test"):
        done = Upkept(day=day, what=what, done_by="Somebody", result=result, due=due)
        attachments.record_upkeep(act("ivo"), element_id(tag), done)

    def test_what_is_overdue_or_failed_is_no_normal_operation(self, open_db):
        job = next(j for j in jobs.lines(the_site()) if j.title == "Switch the charger feeder off for the night")
        assert jobs.view(the_site(), job.number).decision.outcome == "normal_operation"
        tag = jobs.view(the_site(), job.number).element.tag
        for result, due in (("failed", ""), ("good", "2026-11-10")):
            self.record(tag, result, due)
            seen = jobs.view(the_site(), job.number)
            assert seen.decision.outcome != "normal_operation" and seen.facts["maintained"] == "yes"
        self.record(tag, day="2026-11-20")
        assert jobs.view(the_site(), job.number).decision.outcome == "normal_operation"

    def test_a_card_warns_of_what_clears_there(self, open_db):
        tag = "MC1"
        clears = equipment.card(the_site(), element_id(tag)).hazard.energy.clearing.device.tag
        assert equipment.card(the_site(), element_id(tag)).not_kept == ()
        self.record(clears, "failed", "")
        assert [t for t, _ in equipment.card(the_site(), element_id(tag)).not_kept] == [clears]

    def test_neither_a_look_nor_other_work_hides_what_failed_or_is_overdue(self, open_db):
        """Whatever was done since: only the same work done well settles it. A look that found all well maintains nothing."""
        one = element_id("F-A1")

        def state():
            return kept_up.of_one(the_site(), one).state

        walking.keep(act("ivo"), one, SeenThere(condition="good", plate={}))
        assert kept_up.of_one(the_site(), one).properly is None, "somebody passed by"
        for result, due, expected in (("failed", "", "failed"), ("good", "2026-11-10", "overdue")):
            self.record("F-A1", result, due)
            self.record("F-A1", due="", day="2026-11-20", what="Cleaned and tightened")
            walking.keep(act("ivo"), one, SeenThere(condition="good", note="Label crooked", plate={}))
            walking.keep(act("ivo"), one, SeenThere(note="Label crooked", plate={}))
            assert state() == expected
        self.record("F-A1", day="2026-11-20", what=" trip  TEST")
        assert state() == "kept"
        walking.keep(act("ivo"), one, SeenThere(condition="failed", plate={}))
        assert state() == "failed"

    def test_a_note_alone_is_something_to_see_to(self, open_db):
        before = attachments.upkeep(the_site(), element_id("F-A1"))
        walking.keep(act("ivo"), element_id("F-A1"), SeenThere(note="Hums", plate={}))
        assert attachments.upkeep(the_site(), element_id("F-A1")) == before
        assert [f["value"] for d in drafting.drafts(the_site()) for f in d.faults] == ["Hums"]

    @pytest.mark.parametrize("wrong", [{"day": "2026-12-24"}, {"due": "2026-11-01"}, {"result": "fine"}])
    def test_what_cannot_be_is_refused(self, open_db, wrong):
        with pytest.raises(InputError):
            self.record("F-A1", **wrong)

    @pytest.mark.parametrize("link", ["javascript:alert(1)", "file:///etc/passwd", "http:", "data:text/html,x", "x"])
    def test_a_link_that_would_run_is_none(self, open_db, link):
        with pytest.raises(InputError):
            attachments.attach_link(act("ivo"), element_id("MC1"), "A drawing", link)


class TestTrials:
    def test_trying_records_nothing_and_agrees_with_doing(self, open_db):
        before = records.head(the_site())
        chain = asking.tried(the_site(), [(element_id("F-B1"), "open")], element_id("MC2"))
        assert records.head(the_site()) == before
        assert {e.tag for e in chain.acts[0].lost} == {"P-31", "P-32"}
        walking.keep(act("ivo"), element_id("F-B1"), SeenThere(position="open", plate={}))
        done = the_site().as_it_is()
        assert dict(chain.after.liveness.elements) == dict(done.liveness.elements)
        assert chain.acts[0].chosen == done.state_of(done.network.by_tag["MC2"])

    def test_a_rule_that_it_would_break_is_named(self, open_db):
        chain = asking.tried(the_site(), [(element_id("F-A1"), "open"), (element_id("Q-U1"), "open")])
        assert chain.acts[0].refused is not None and chain.acts[1].refused.rule.code == "asking-others-move-it"
        assert chain.acts[0].breaks_load
        # set over, a transfer switch parts what it fed, too; set where it is, nothing
        over, again = asking.tried(
            the_site(), [(element_id("ATS-1"), "emergency"), (element_id("ATS-1"), "emergency")]
        ).acts
        assert over.breaks_load and not again.breaks_load

    def test_a_tie_closed_beside_both_mains_is_a_loop(self, open_db):
        chain = asking.tried(the_site(), [(element_id("52-TIE"), "closed")])
        assert chain.acts[0].loop
        fed = asking.tried(the_site(), [(element_id(t), to) for t, to in (("52-T1", "open"), ("52-TIE", "closed"))])
        assert [e.tag for e in fed.acts[1].backwards] == ["T1"]

    @pytest.mark.parametrize(("tag", "to"), [("MC1", "open"), ("F-A1", "normal"), ("ATS-1", "open"), ("T1", "open")])
    def test_what_cannot_be_asked_is_refused(self, open_db, tag, to):
        with pytest.raises(InputError):
            asking.tried(the_site(), [(element_id(tag), to)])

    def test_the_fewest_cut_what_the_usual_do(self, open_db):
        for tag in ("MC1", "MC2", "EDP-1", "SWB-A", "P-31"):
            found = source_ways.sources(the_site(), element_id(tag))
            if found.usual and found.found.smallest:
                assert len(found.found.smallest.devices) <= len(found.usual.devices), tag


@pytest.mark.tampers
def test_every_kept_state_is_the_text_that_its_hash_names(open_db):
    number = begun()
    edit(number, setting("T1", x_r=9))
    draft = drafting.draft(the_site(), number)
    assert content_hash(draft.document) == draft.hash
    with the_site().connection():
        db.database.execute_sql("UPDATE draft_step SET hash = ? WHERE number = 1", ("0" * 64,))
        db.database.execute_sql("DELETE FROM touched")
    with pytest.raises(NotFound):
        drafting.draft(the_site(), number)
