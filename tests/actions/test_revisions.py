"""What publishing a document would do is what publishing it does; a draft is looked at, published, or thrown away."""

import io
import json
import os
import re
import sqlite3
import time
from copy import deepcopy

import pytest

from demo_acts import MOMENT, PASSWORD, act, element_id, permits_of, the_site
from saying import en
from spinel.actions import network, people, program_view, revisions, setup
from spinel.actions.acting import SYSTEM, Act
from spinel.core.errors import DocumentError, NotAllowed, NotFound, Refusal
from spinel.demo.site import document
from spinel.store import drafts
from spinel.web.app import create_app
from switching_acts import under_way

pytestmark = pytest.mark.usefixtures("open_db")


def changed(which, **fields):
    data = deepcopy(document())
    next(e for e in data["elements"] if e["tag"] == which).update(fields)
    return data


def slower():
    data = document()
    element = next(e for e in data["elements"] if e["tag"] == "F-A1")
    element["curve"] = {**element["curve"], "short_delay_s": 0.5}
    return data


def without(*tags):
    """What hangs below is taken out with its nodes, and out of the cases."""
    data = document()
    data["elements"] = [e for e in data["elements"] if e["tag"] not in tags]
    joined = {n for e in data["elements"] for n in e["ends"]}
    data["nodes"] = [n for n in data["nodes"] if n["id"] in joined]
    return data


def looked_at(data, by="maren"):
    return revisions.keep_draft(act(by), json.dumps(data))


def publish(made, by="maren", password=PASSWORD, note="As it was found", against=None):
    seen = the_site().as_it_is().hash if against is None else against
    return revisions.publish(act(by), made.hash, password, note, seen)


def states():
    programs = {n: program_view.view(the_site(), n).state for n in ("SP-0003", "SP-0005", "SP-0006", "SP-0007")}
    return programs | {f"EWP-{i:04}": permits_of(f"EWP-{i:04}").state for i in range(1, 7)}


#: The soak publishes every one of them.
DOCUMENTS = {
    "more current": changed("T1", impedance_pct=4.0), "slower": slower(), "a tag": changed("MC2-1D", tag="MC2-9Z"),
    "less equipment": without("P-32", "W-P32", "MC2-2B"), "less current": changed("T1", impedance_pct=7.0),
    "a name": changed("SWB-A", name="Board A"), "a stronger supply": changed("U-1", fault_mva_max=900.0, fault_mva_min=500.0),
}  # fmt: skip


@pytest.mark.parametrize("what", DOCUMENTS if os.environ.get("SOAK") else list(DOCUMENTS)[:4])
def test_what_is_foreseen_is_what_happens(what):
    """The review itself, run by the act, is the oracle: the same numbers, the same ends."""
    made = looked_at(DOCUMENTS[what])
    foreseen = revisions.effects(the_site(), made.document)
    before = states()
    number, touched = publish(made)
    assert number == 2
    assert sorted(touched) == sorted(s.number for s in (*foreseen.permits, *foreseen.programs))
    after = states()
    for s in foreseen.permits:
        assert after[s.number] == ("suspended" if s.held else "draft") != before[s.number]
    for s in foreseen.programs:
        assert after[s.number] == ("stopped" if s.held else "draft"), s
    untouched = set(before) - {s.number for s in (*foreseen.permits, *foreseen.programs)}
    assert {n: before[n] for n in untouched} == {n: after[n] for n in untouched}


@pytest.mark.parametrize("what", ["more current", "a tag"])
def test_and_with_a_second_crew_a_position_that_nobody_knows_and_a_tie_that_was_found_closed(what):
    number = under_way("MC2-1D", until="proof")
    for tag, value in (("52-TIE", "closed"), ("F-A4", "tripped")):
        network.report_found(act("nils"), element_id(tag), value, "Seen on the round")
    made = looked_at(DOCUMENTS[what])
    foreseen = revisions.effects(the_site(), made.document)
    _, touched = publish(made)
    assert sorted(touched) == sorted(s.number for s in (*foreseen.permits, *foreseen.programs))
    assert program_view.view(the_site(), number).state == "stopped"


def test_something_is_foreseen_at_all():
    found = revisions.effects(the_site(), looked_at(changed("T1", impedance_pct=4.0)).document)
    assert any(s.held for s in found.permits)


def test_looking_records_nothing_and_publishing_says_why():
    from spinel.actions import records

    before = records.head(the_site())
    made = looked_at(slower())
    revisions.effects(the_site(), made.document)
    assert records.head(the_site()) == before and the_site().as_it_is().number == 1
    with pytest.raises(Refusal, match="not your password"):
        publish(made, password="not my password")
    assert the_site().as_it_is().number == 1
    publish(made, note="F-A1 as it is really set")
    latest, first = revisions.published(the_site())
    assert (latest.number, latest.note, first.note) == (2, "F-A1 as it is really set", "")
    with pytest.raises(NotFound):
        revisions.draft(the_site(), made.hash)
    assert revisions.compared(
        the_site(), revisions.document_of(the_site(), first.hash), revisions.document_of(the_site(), latest.hash)
    )


def test_what_somebody_published_meanwhile_is_not_undone_unseen():
    mine, other = looked_at(changed("SWB-A", name="Board A")), looked_at(slower(), by="tavi")
    seen = the_site().as_it_is().hash
    publish(other, by="tavi", against=seen)
    with pytest.raises(Refusal, match="would undo it unseen"):
        publish(mine, against=seen)
    with pytest.raises(Refusal, match="would undo it unseen"):
        publish(mine, against="")
    assert the_site().as_it_is().number == 2
    publish(mine)
    assert the_site().as_it_is().number == 3


def test_pressed_twice_or_sent_again_it_is_published_once():
    made, seen = looked_at(slower()), the_site().as_it_is().hash
    once = act("maren", "publish-request-000001")
    assert revisions.publish(once, made.hash, PASSWORD, "As it was found", seen)[0] == 2
    assert revisions.publish(once, made.hash, PASSWORD, "As it was found", seen) == (2, [])
    assert the_site().as_it_is().number == 2


def test_a_revision_of_an_earlier_version_differs_in_what_it_says_and_not_in_how():
    data = document()
    box = data["enclosures"][0]
    first = {
        **data,
        "version": 1,
        "enclosures": [{k: v for k, v in b.items() if k != "compartments"} for b in data["enclosures"]],
    }
    second = {**first, "version": 2}
    first["enclosures"] = [{**b, "line_terminals_separated": False} for b in first["enclosures"]]
    assert box["id"] and revisions.compared(the_site(), first, second) == ()
    assert revisions.compared(the_site(), second, first) == ()


def test_what_would_be_refused_is_said_before():
    made = looked_at(without("P-21", "W-P21", "MC1-2B"))
    assert "SP-0004 is draft" in en(revisions.effects(the_site(), made.document).refused)
    with pytest.raises(Refusal, match="SP-0004 is draft"):
        publish(made)
    assert the_site().as_it_is().number == 1


def test_a_draft_that_was_changed_where_it_lies_is_none(open_db):
    made = looked_at(slower())
    with sqlite3.connect(f"{open_db}.beside") as own:
        own.execute("UPDATE draft SET document = replace(document, '0.5', '0.1')")
    with pytest.raises(NotFound):
        publish(made)


def test_only_the_latest_documents_are_kept():
    for i in range(drafts.KEPT + 2):
        looked_at(changed("SWB-A", name=f"Board {i}"))
    kept = revisions.drafts_kept(the_site())
    assert len(kept) == drafts.KEPT and "Board 21" in kept[0].document


def test_the_first_network_of_a_site_is_published_from_its_page(tmp_path):
    site = setup.open_site(tmp_path / "own.sqlite3")
    people.add_person(Act(site, SYSTEM, MOMENT), "anna", "Anna Boss", PASSWORD, ["coordinator"], first=True)
    app = create_app(str(tmp_path / "own.sqlite3"), clock=lambda: MOMENT)
    app.config["WTF_CSRF_ENABLED"] = False
    client = app.test_client()
    client.post("/sign-in", data={"login": "anna", "password": PASSWORD})
    assert "None is published yet" in client.get("/network/revisions").text
    file = {"document": (io.BytesIO(json.dumps(document()).encode()), "site.json")}
    there = client.post("/network/drafts", data=file, content_type="multipart/form-data").headers["Location"]
    page = client.get(there).text
    assert "Added:" in page and "against nothing yet" in page
    data = {"password": PASSWORD, "note": "The first of this site", "against": ""}
    assert client.post(f"{there}/publish", data=data).status_code == 302
    assert site.as_it_is().number == 1 and "The first of this site" in client.get("/network/revisions").text


def test_only_a_coordinator_looks_at_one_publishes_it_or_throws_it_away():
    with pytest.raises(NotAllowed):
        looked_at(slower(), by="ruth")
    made = looked_at(slower())
    with pytest.raises(NotAllowed):
        publish(made, by="ruth")
    with pytest.raises(NotAllowed):
        revisions.throw_away(act("ruth"), made.hash)
    revisions.throw_away(act("maren"), made.hash)
    assert revisions.drafts_kept(the_site()) == []


def test_what_is_not_acceptable_is_not_kept():
    with pytest.raises(DocumentError):
        looked_at(changed("T1", impedance_pct=-4))
    assert revisions.drafts_kept(the_site()) == []


@pytest.mark.usefixtures("made_here")
def test_the_pages_from_the_file_to_the_revision(sign_in, app):
    def hand_in(data, name="site.json"):
        raw = data if isinstance(data, bytes) else json.dumps(data).encode()
        return maren.post("/network/drafts", {"document": (io.BytesIO(raw), name)}, content_type="multipart/form-data")

    maren, ruth = sign_in("maren"), sign_in("ruth")
    wrong = hand_in(changed("T1", impedance_pct=-4))
    assert wrong.status_code == 422 and "impedance_pct" in wrong.text and "T1" in wrong.text
    assert hand_in(b"\xff\xfe\x00").status_code == 422 and hand_in(b"").status_code == 422
    there = hand_in(changed("T1", impedance_pct=4.0)).headers["Location"]
    page = maren.get(there).text
    assert "impedance_pct" in page and "<del>5.75</del>" in page and "<ins>4.0</ins>" in page
    assert "is suspended" in page and "Local codes" in page
    until = time.monotonic() + 180
    while "being computed" in page and time.monotonic() < until:
        time.sleep(0.3)
        page = maren.get(there).text
    assert "rise</b> at" in page and "SWB-A" in page
    assert "Only a coordinator" in ruth.get(there).text
    assert ruth.post(f"{there}/publish", {"password": PASSWORD, "note": "As found"}).status_code == 403
    against = re.search('name="against" value="([0-9a-f]{64})"', page)[1]
    signed = {"password": PASSWORD, "note": "As found on the plate", "against": against}
    for wrong in ({"password": "wrong wrong wrong"}, {"note": ""}, {"against": "0" * 64}):
        assert maren.post(f"{there}/publish", signed | wrong).status_code == 422
    assert maren.post(f"{there}/publish", signed).status_code == 302
    listed = ruth.get("/network/revisions").text
    assert "As found on the plate" in listed and "Two" not in listed and "2 revisions" in listed
    both = ruth.get("/network/compare?old=1&new=2").text
    assert "impedance_pct" in both and "From revision 1 to revision 2" in both
    assert ruth.get("/network/compare?old=1&new=7").status_code == 404
    assert ruth.get("/network/compare?old=x&new=2").status_code == 404
    assert "Nothing differs" in ruth.get("/network/compare?old=2&new=2").text
