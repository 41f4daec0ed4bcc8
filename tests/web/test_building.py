"""Pages of building: what is typed is kept and answered beside its field, and what is chosen never hides."""

import html
import io
import json
import os
import re

import pytest

from demo_acts import act, element_id, the_site
from spinel.actions import draft_publishing, drafting, revisions
from spinel.core.canonical import digest
from spinel.core.network.basis import ORIGINS
from spinel.demo.large import large_document
from spinel.demo.people import PASSWORD
from spinel.web import network_pages
from spinel.wording.words import words_of


def page(answer):
    return re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", answer.get_data(as_text=True)))


@pytest.fixture
def maren(sign_in):
    return sign_in("maren")


@pytest.fixture
def number(open_db):
    return drafting.begin(act("maren"))


def change(maren, number, of, **fields):
    data = {"seen": "0", "group": "elements", "id": element_id(of), "e": element_id(of), "origin": "plate"} | fields
    return maren.post(f"/network/build/{number}/change", data)


#: Piece, field, what was typed, its unit: refused beside the field, and what was typed stands there again.
REFUSED = [
    ("T1", "rated_kva", "-5", "kVA"), ("T1", "rated_kva", "nan", "MVA"), ("T1", "impedance_pct", "5,75", "%"),
    ("T1", "rated_kva", "1500", "furlongs"), ("P-21", "motors", "2.5", ""), ("P-21", "motors", "0", ""),
    ("W-A1", "length_m", "1e9", "ft"), ("F-A1", "interrupting_ka", "0", "kA"), ("F-A1", "normal_position", "ajar", ""),
    ("F-A1", "curve", "of-some-maker", ""), ("W-A1", "conductor_size", "9", ""), ("F-A1", "tag", "F-A2", ""),
    ("F-A1", "tag", "", ""), ("T1", "origin", "", ""), ("T1", "origin", "hearsay", ""),
]  # fmt: skip


def test_what_cannot_be_is_answered_beside_its_field(maren, number):
    for case in REFUSED:
        tag, field, text, unit = case
        more = {"rated_kva": "1234"} if field == "origin" else {}
        answer = change(maren, number, tag, **{field: text}, **{f"unit.{field}": unit}, **more)
        if field == "tag" and not text:
            assert answer.status_code == 302, "an empty tag changes none"
            continue
        assert answer.status_code == 422 and drafting.draft(the_site(), number).step == 0, case
        shown = answer.get_data(as_text=True)
        assert f'id="wrong-change-{element_id(tag)}-{field}"' in shown or f"wrong-change-{element_id(tag)}" in shown, (
            case
        )
        # a choice that there is not cannot stand in a list
        assert text in shown or field in ("normal_position", "curve", "conductor_size", "origin"), case


def test_saving_what_was_shown_changes_nothing(maren, number):
    """Every form of every piece, sent back as it came: no difference, and no basis that nobody told."""
    elements = drafting.draft(the_site(), number).document["elements"]
    one_of_each = {(e["kind"], e.get("curve", {}).get("kind")): e for e in elements}.values()
    for e in elements if os.environ.get("SOAK") else one_of_each:
        shown = maren.get(f"/network/build/{number}?e={e['id']}").get_data(as_text=True)
        for form in re.findall(r'<form method="post"[^>]*?/change".*?</form>', shown, re.S):
            data = {}
            for field in re.findall(r"<input[^>]*>", form):
                said = dict(re.findall(r'(\w[\w-]*)="([^"]*)"', field))
                ticked = said.get("type") != "checkbox" or re.search(r"\schecked", field)
                if "name" in said and ticked and not said["name"].startswith("sure."):
                    data.setdefault(said["name"], []).append(html.unescape(said.get("value", "")))
            for name, options in re.findall(r'<select[^>]*?name="([^"]+)".*?>(.*?)</select>', form, re.S):
                chosen = re.search(r'<option(?: value="([^"]*)")? selected>([^<]*)', options)
                first = re.search(r'<option(?: value="([^"]*)")?[^>]*>([^<]*)', options)
                value = chosen or first
                data[name] = [value[1] if value[1] is not None else value[2].strip()]
            answer = maren.post(form_action(form), data)
            assert answer.status_code == 302, (e["tag"], re.findall(r"Not saved.{0,160}", page(answer)), sorted(data))
    assert draft_publishing.differs(the_site(), number) == () and drafting.draft(the_site(), number).step == 0


def form_action(form):
    return re.search(r'action="([^"]+)"', form)[1]


def test_a_draft_that_is_not_there_or_ended_is_told(maren, number):
    assert maren.get("/network/build/ND-9999").status_code == 404
    drafting.throw_away(act("maren"), number)
    answer = change(maren, number, "T1", x_r="9")
    assert answer.status_code == 422 and "thrown away" in page(answer)
    assert maren.get(f"/network/build/{number}").status_code == 200


def test_a_document_that_leads_nowhere_is_still_a_page(maren, number):
    """Half done: a bus cut off, an end without a node, two of one tag. Every page of the draft answers."""
    document = drafting.draft(the_site(), number).document
    document["elements"][5]["ends"] = ["nowhere", "n-t1c"]
    document["elements"][7]["tag"] = document["elements"][8]["tag"]
    document["nodes"] = document["nodes"][3:]
    broken = drafting.begin_with(act("maren"), document, "brought in")
    for path in ("", "/assumed", "/differences", "/table?kind=cable", "/effect", "/document.json", "/document.xlsx"):
        assert maren.get(f"/network/build/{broken}{path}").status_code == 200, path
    for e in document["elements"][::3]:
        assert maren.get(f"/network/build/{broken}?e={e['id']}").status_code == 200, e["tag"]


def test_json_goes_out_and_comes_in_to_the_byte(maren, number):
    text = maren.get("/network/revisions/1.json").get_data()
    assert text.decode() == revisions.text_of(the_site(), revisions.published(the_site())[-1].hash)
    answer = maren.post(
        "/network/import", {"document": (io.BytesIO(text), "site.json")}, content_type="multipart/form-data"
    )
    assert drafting.draft(the_site(), answer.headers["Location"].rpartition("/")[2]).text == text.decode()


@pytest.mark.parametrize(("name", "data"), [
    ("a.json", b"{"), ("a.json", b"[]"), ("a.json", b'{"format": "spinel-network"}'), ("a.json", b"\xff\xfe"),
    ("a.xlsx", b"PK"), ("a.exe", b"x"), ("a.json", b""), ("a.json", json.dumps({"site": {}, "nodes": [1]}).encode()),
])  # fmt: skip
def test_what_is_no_network_is_refused_and_nothing_is_kept(maren, open_db, name, data):
    before = len(drafting.drafts(the_site()))
    for keep in ({}, {"keep": "1"}):
        answer = maren.post(
            "/network/import", {"document": (io.BytesIO(data), name), **keep}, content_type="multipart/form-data"
        )
        assert answer.status_code == 422
    assert len(drafting.drafts(the_site())) == before


def test_what_is_chosen_never_hides_in_a_fold(maren):
    shown = maren.get(f"/network?fold=all&e={element_id('MC1-2B')}").get_data(as_text=True)
    assert f'data-id="{element_id("MC1-2B")}"' in shown
    folded = maren.get("/network?fold=all").get_data(as_text=True)
    assert f'data-id="{element_id("MC1-2B")}"' not in folded and "offmark" in folded
    from spinel.core.network.check import accept

    large = accept(large_document(60, 1))
    assert len(large.elements) > network_pages.FOLDED_FROM
    boards = frozenset(e.id for e in large.elements if e.kind == "bus")
    for e in large.elements[::40]:
        left = network_pages._folded(large, boards, [], e.id)
        assert e.id not in network_pages.folded(large, left).hidden if left else True


@pytest.mark.parametrize("asked", ["state=normal", "state=SP-0007@3", "layer=energy", "layer=fault", "layer=duty", "layer=holds",
                                   "layer=age", "layer=voltage", "state=SP-0007@999", "state=XX@1", "layer=none", "fold=zz"])  # fmt: skip
def test_every_view_of_the_drawing_answers(maren, made_here, asked):
    assert maren.get(f"/network?{asked}").status_code in (200, 404, 422)


def test_a_value_tells_where_it_comes_from_in_words(maren, number):
    assert change(maren, number, "T1", x_r="7.5", origin="measured", origin_note="sheet 4").status_code == 302
    t1 = next(e for e in drafting.draft(the_site(), number).document["elements"] if e["tag"] == "T1")
    assert t1["basis"] == {"x_r": {"from": "measured", "note": "sheet 4"}}
    spoken = words_of(the_site().as_it_is().profile)
    assert all(spoken.plain(f"origin-{o}") for o in ORIGINS)


def test_the_paper_and_the_file_of_the_drawing_hold_every_tag(maren):
    for path in ("/network/drawing.svg", "/network/paper", "/network/paper?tiled=1"):
        text = maren.get(path).get_data(as_text=True)
        for e in the_site().as_it_is().network.elements:
            assert f">{e.tag}<" in text, (path, e.tag)


@pytest.mark.parametrize("q", ["", "fuse", "nothing is called so"])
def test_the_library_of_curves_is_searched(maren, q):
    assert maren.get(f"/network/curves?q={q}").status_code == 200
    assert maren.get("/network/curves?rated_a=nan").status_code == 200


#: Form of a curve, its fields, and whether it is kept.
CURVES = [
    ({"how": "kind", "generic": "trip-all"}, True), ({"how": "kind", "generic": "of-a-maker"}, False), ({"how": "magic"}, False),
    ({"how": "settings", "type": "trip", "trip.long_pickup_a": "400", "trip.long_delay_s": "8", "origin": "seen"}, True),
    ({"how": "settings", "type": "trip", "trip.long_pickup_a": "400", "origin": "seen"}, False),
    ({"how": "settings", "type": "trip", "trip.long_pickup_a": "-1", "trip.long_delay_s": "8", "origin": "seen"}, False),
    ({"how": "settings", "type": "relay", "relay.curve": "ieee VI", "relay.pickup_a": "100", "relay.dial": "2",
      "relay.breaker_s": "0.083", "origin": "seen"}, True),
    ({"how": "points", "points": "100 10\n200 1\n400 0.1", "origin": "maker"}, True),
    ({"how": "points", "points": "100 10\n200 20", "origin": "maker"}, False),
    ({"how": "points", "points": "100\n200", "origin": "maker"}, False),
    ({"how": "tracing", "x1.at": "0.1", "x1.value": "10", "x2.at": "0.9", "x2.value": "1000", "y1.at": "0.9", "y1.value": "0.01",
      "y2.at": "0.1", "y2.value": "100", "traced": "[[0.3,0.3],[0.5,0.5]]"}, True),
    ({"how": "tracing", "x1.at": "0.1", "x1.value": "10", "x2.at": "0.1", "x2.value": "1000", "y1.at": "0.9", "y1.value": "0.01",
      "y2.at": "0.1", "y2.value": "100", "traced": "[[0.3,0.3],[0.5,0.5]]"}, False),
    ({"how": "tracing", "x1.at": "2", "x1.value": "10", "x2.at": "0.9", "x2.value": "1000", "y1.at": "0.9", "y1.value": "0.01",
      "y2.at": "0.1", "y2.value": "100", "traced": "nothing"}, False),
]  # fmt: skip


@pytest.mark.parametrize(("fields", "kept"), CURVES)
def test_a_curve_is_kept_where_it_can_be_right(maren, number, fields, kept):
    answer = maren.post(f"/network/build/{number}/curve/{element_id('F-A1')}", {"seen": "0"} | fields)
    assert (answer.status_code == 302) == kept, page(answer)[:400]
    assert drafting.draft(the_site(), number).step == int(kept)
    assert maren.get(f"/network/build/{number}/curve/{element_id('F-A1')}").status_code == 200
    assert maren.get(f"/network/build/{number}/curve/{element_id('MC1')}").status_code == 404


# Cases -------------------------------------------------------------------------------------------------------


def case_act(maren, number, what, case="", **fields):
    seen = drafting.draft(the_site(), number).step
    return maren.post(f"/network/build/{number}/cases", {"seen": seen, "what": what, "case": case} | fields)


def case_of(number, case_id):
    return next((c for c in drafting.draft(the_site(), number).document["cases"] if c["id"] == case_id), None)


def test_cases_are_defined_on_their_page(maren, number):
    assert "52-TIE is closed, in normal service open" in page(maren.get("/study/cases"))
    assert case_act(maren, number, "set", "gen", setting="positions||open|52-A").status_code == 302
    assert case_of(number, "gen")["positions"] == {"ATS-1": "emergency", "52-A": "open"}
    shown = page(maren.get(f"/network/build/{number}/cases?c=gen"))
    assert "52-A is open, in normal service closed" in shown and "PV-1 feeds 2 buses: SWB-A, MC1" in shown
    case_act(maren, number, "normal", "gen", setting="positions||open|52-A")
    case_act(maren, number, "name", "gen", name="On G-1", impedances="minimum")
    assert case_of(number, "gen") | {"positions": 0, "sources": 0} == {
        "id": "gen", "name": "On G-1", "impedances": "minimum", "positions": 0, "sources": 0,
    }  # fmt: skip
    assert "the lowest currents" in page(maren.get(f"/network/build/{number}/cases"))
    case_act(maren, number, "remove", "ship")
    shown = page(maren.get(f"/network/build/{number}/cases"))
    assert case_of(number, "ship") is None and "No case covers" in shown and "SC-1 running Add this case" in shown
    case_act(maren, number, "cover", gap=f"runs {element_id('SC-1')}")
    made = drafting.draft(the_site(), number).document["cases"][-1]
    assert made["sources"] == {"SC-1": {"state": "running"}} and made["name"] == "SC-1 running"
    case_act(maren, number, "add", name="As the tie", like="tie-t1")
    assert drafting.draft(the_site(), number).document["cases"][-1]["positions"] == {"52-B": "open", "52-TIE": "closed"}
    # an act as any other of a draft: undone, and in the record
    maren.post(f"/network/build/{number}/undo", {"seen": drafting.draft(the_site(), number).step})
    assert drafting.draft(the_site(), number).document["cases"][-1] == made


def test_what_is_no_case_is_refused_beside_its_field_and_nothing_is_changed(maren, number):
    wrong = [
        ("name", "gen", {"name": "NORMAL"}, "name"), ("name", "gen", {"name": ""}, "name"),
        ("name", "gen", {"name": "fine", "impedances": "cold"}, "impedances"), ("add", "", {"name": "normal"}, "name"),
        ("set", "gen", {"setting": "positions||ajar|52-A"}, "setting"), ("set", "gen", {"setting": ""}, "setting"),
        ("set", "gen", {"setting": "sources|state|stopped|U-1"}, "setting"),
        ("normal", "gen", {"setting": "positions||open|52-A"}, "setting"),
        ("cover", "", {"gap": "tie U-1"}, ""), ("cover", "", {"gap": "runs nothing"}, ""), ("melt", "gen", {}, ""),
    ]  # fmt: skip
    for what, case, fields, beside in wrong:
        answer = case_act(maren, number, what, case, **fields)
        assert answer.status_code == 422, (what, fields)
        form = f"{what}-{case}" if case else what
        shown = answer.get_data(as_text=True)
        assert not beside or beside == "impedances" or f'id="wrong-{form}-{beside}"' in shown or what == "normal", (
            fields
        )
    assert case_act(maren, number, "set", "nowhere", setting="positions||open|52-A").status_code == 404
    assert case_act(maren, number, "add", name="copy of none", like="nowhere").status_code == 404
    assert drafting.draft(the_site(), number).step == 0


def test_whoever_changed_the_same_case_meanwhile_is_not_overwritten(maren, number):
    case_act(maren, number, "name", "gen", name="Mine")
    answer = maren.post(
        f"/network/build/{number}/cases", {"seen": 0, "what": "name", "case": "gen", "name": "Theirs", "impedances": ""}
    )
    assert answer.status_code == 409 and case_of(number, "gen")["name"] == "Mine"
    assert 'name="chosen.cases/gen/name"' in answer.get_data(as_text=True)


def test_a_draft_that_does_not_hold_together_still_shows_its_cases(maren, number):
    document = drafting.draft(the_site(), number).document
    document["elements"][5]["ends"] = ["nowhere", "n-t1c"]
    broken = drafting.begin_with(act("maren"), document, "brought in")
    shown = page(maren.get(f"/network/build/{broken}/cases"))
    assert "What each means is told once the draft holds together" in shown and "52-TIE closed" in shown
    assert case_act(maren, broken, "set", "gen", setting="positions||open|52-A").status_code == 302
    assert case_act(maren, broken, "cover", gap="normal").status_code == 422


def test_only_a_coordinator_defines_cases_and_begins_a_draft_for_it(sign_in, open_db):
    ivo = sign_in("ivo")
    assert "Define them in a draft" not in page(ivo.get("/study/cases"))
    assert ivo.post("/study/cases").status_code == 403
    answer = sign_in("maren").post("/study/cases")
    assert answer.status_code == 302 and answer.headers["Location"].endswith("/cases")


def test_a_state_that_no_case_covers_is_a_finding(maren, number):
    case_act(maren, number, "remove", "tie-t1")
    case_act(maren, number, "remove", "tie-t2")
    pieces = draft_publishing.pieces(the_site(), number)
    draft_publishing.answer_pieces(act("maren"), number, {p.key: "so" for p in pieces})
    seen, base = digest(draft_publishing.text_to_publish(the_site(), number)), drafting.draft(the_site(), number).base
    draft_publishing.publish(act("maren"), number, seen, PASSWORD, "the ties are never closed", base)
    shown = page(maren.get("/study/findings"))
    assert "52-TIE closed, with both its sides fed" in shown and "Define a case of it" in shown
    assert "No case covers" in page(maren.get("/study/cases"))
