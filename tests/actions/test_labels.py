"""The life of a label: printed, hung, seen, wrong, replaced, removed; and those of others."""

import io
import json
from datetime import timedelta

import pytest
from PIL import Image

from demo_acts import MOMENT, act, element_id, the_site
from spinel.actions import attachments, labels, network, site_settings
from spinel.actions.acting import utc_text
from spinel.actions.verifying import verify
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal, Stale
from spinel.demo.site import document
from spinel.store.database import database

pytestmark = pytest.mark.usefixtures("open_db")
AT = utc_text(MOMENT)
ATS = element_id("ATS-1")


def printed(tag="P-31", touches=""):
    (number,) = labels.print_(act("maren"), [(element_id(tag), touches)])
    return number


def hung(tag="P-31"):
    number = printed(tag)
    labels.hang(act("nils"), number, 1, "Its terminal box", b"", True)
    return number


def one(number, at=AT):
    return labels.one(the_site(), number, at)


def published(change):
    data = document()
    change({e["tag"]: e for e in data["elements"]})
    network.publish(act("maren"), json.dumps(data))


def test_it_is_printed_with_the_figures_of_the_card_hung_and_seen():
    number = printed()
    hazard = the_site().as_it_is().study.hazard(element_id("P-31"))
    says = one(number).says
    assert 0 <= says.energy_cal_cm2 - hazard.energy_cal_cm2 < 0.1 and says.revision == 1 and says.day == "2026-11-24"
    assert one(number).state == "printed" and one(number).kind == "true"
    labels.hang(act("nils"), number, 1, "Its terminal box", b"", False)
    labels.look(act("ivo"), number, 2, True, "", b"")
    assert [e.kind for e in one(number).events] == ["printed", "hung", "seen"]
    labels.look(act("ivo"), number, 3, False, "Only glue", b"")
    assert one(number).kind == "missing" and one(number).wrong
    labels.take_off(act("nils"), number, 4, "The box was renewed")
    assert one(number).state == "removed"
    for again in (
        lambda: labels.look(act("ivo"), number, 5, True, "", b""),
        lambda: labels.take_off(act("nils"), number, 5, "once more"),
    ):
        with pytest.raises(Refusal):
            again()
    assert verify(the_site().path).found == ()


def test_a_revision_makes_it_wrong_by_so_much_and_the_worst_stands_first():
    number = hung("T2")
    before = one(number).says.energy_cal_cm2
    published(lambda t: t["52-T2"]["curve"].update(dial=1.75))
    seen = one(number)
    # a later main clears: above the ceiling it was already, so it says too little now
    assert seen.wrong and seen.kind in ("too_little", "forbids") and seen.verdict.factor > 1.05
    assert seen.says.energy_cal_cm2 == before, "what hangs says what it said"
    listed = [x for x in labels.listed(the_site(), AT) if x.state == "hung"]
    assert listed[0].kind in ("forbids", "too_little")
    order = [labels.KINDS.index(x.kind) for x in listed]
    assert order == sorted(order)
    published(lambda t: t["52-T2"]["curve"].update(dial=0.8))
    assert one(number).kind in ("too_much", "other")


def test_no_paper_is_made_of_a_label_that_is_wrong_of_others_or_taken_off():
    number, told = printed("T2"), {"energy_cal_cm2": 1.0, "working_distance_mm": 455.0, "voltage_v": 480.0}
    off = printed("P-31")
    labels.take_off(act("nils"), off, 1, "Spoilt")
    foreign = labels.found(act("nils"), element_id("MC1"), "", told, "Its door", b"")
    assert [x.number for x in labels.for_paper(the_site(), [number, number], AT)] == [number]
    for bad in ([off], [foreign], [number, off]):
        with pytest.raises(Refusal):
            labels.for_paper(the_site(), bad, AT)
    with pytest.raises(NotFound):
        labels.for_paper(the_site(), ["L-9999"], AT)
    with pytest.raises(InputError):
        labels.for_paper(the_site(), [f"L-{i:04}" for i in range(labels.MOST_AT_ONCE + 1)], AT)
    published(lambda t: t["52-T2"]["curve"].update(dial=1.75))
    with pytest.raises(Refusal):
        labels.for_paper(the_site(), [number], AT)
    published(lambda t: t["52-T2"]["curve"].update(dial=0.8))
    with pytest.raises(Refusal):
        labels.for_paper(the_site(), [number], AT), "of a revision that is no more, though it says too much"
    published(lambda t: t["MC1"].update(name="As it was but for this"))
    assert labels.for_paper(the_site(), [number], AT)[0].holds, "as the network was when it was printed"


def test_no_label_is_put_up_that_is_wrong_already_nor_beside_another():
    number = printed()
    published(
        lambda t: (
            t["MC2-1D"]["curve"].update({k: v for k, v in t["MC2-1D"]["curve"].items()})
            or t["P-31"].update(name="Another pump")
        )
    )
    other = printed()
    labels.hang(act("nils"), other, 1, "Its terminal box", b"", False)
    third = printed()
    with pytest.raises(Refusal) as refusal:
        labels.hang(act("nils"), third, 1, "Its terminal box", b"", False)
    assert other in refusal.value.why.values["numbers"]
    labels.hang(act("nils"), third, 1, "Its terminal box", b"", True)
    assert one(other).state == "removed" and one(other).replaced_by == third
    late = printed("T2")
    published(lambda t: t["52-T2"]["curve"].update(dial=0.5))
    with pytest.raises(Refusal):
        labels.hang(act("nils"), late, 1, "Front", b"", True)
    assert one(number).state == "printed"


def test_one_of_others_is_kept_as_it_was_found_and_held_against_what_is_so():
    told = {
        "energy_cal_cm2": 2.0,
        "working_distance_mm": 455.0,
        "boundary_mm": 900.0,
        "voltage_v": 480.0,
        "method": "2002",
        "day": "2019-02-28",
    }
    number = labels.found(act("ivo"), element_id("MC1"), "bus", told, "Door", b"")
    assert one(number).origin == "found" and one(number).kind == "too_little"
    nothing = labels.found(act("ivo"), element_id("MC1"), "", {}, "Side", b"")
    assert one(nothing).verdict.state in ("unknown", "too_little")
    with pytest.raises(InputError):
        labels.found(act("ivo"), element_id("MC1"), "nowhere", {}, "Side", b"")
    with pytest.raises(NotFound):
        labels.found(act("ivo"), "no-such-piece", "", {}, "Side", b"")


def test_equipment_that_is_gone_leaves_a_label_that_warns_of_nothing():
    number = hung("P-31")
    data = document()
    gone = {e["id"] for e in data["elements"] if e["tag"] in ("P-31", "W-P31", "MC2-1D")}
    data["elements"] = [e for e in data["elements"] if e["id"] not in gone]
    used = {n for e in data["elements"] for n in e["ends"]}
    data["nodes"] = [n for n in data["nodes"] if n["id"] in used]
    boxes = {n.get("enclosure") for n in data["nodes"]}
    data["enclosures"] = [b for b in data["enclosures"] if b["id"] in boxes]
    network.publish(act("maren"), json.dumps(data))
    assert one(number).kind == "gone" and one(number).wrong


def test_five_years_on_it_is_due_for_review():
    number = hung()
    later = utc_text(MOMENT + timedelta(days=5 * 365 + 3))
    assert one(number).kind == "true" and one(number, later).kind == "review"
    leap = utc_text(MOMENT + timedelta(days=5 * 365))
    assert one(number, leap).kind == "true"


def test_the_signal_word_follows_the_site():
    number = hung()
    site_settings.change(act("maren"), "label_signal", "always", "Our insurer asks for it")
    assert one(number).kind == "other"
    assert labels.would_say(the_site(), element_id("P-31"), "", AT).signal == "danger"


def test_what_has_none_is_listed_and_what_needs_none_is_not():
    found = {s.tag for s in labels.without(the_site(), AT)}
    assert "P-31" in found and "CTL-1" not in found and "MC1" not in found
    printed()
    assert "P-31" not in {s.tag for s in labels.without(the_site(), AT)}
    with pytest.raises(Refusal):
        labels.print_(act("maren"), [(element_id("CTL-1"), "")])


def test_all_are_printed_or_none():
    before = len(labels.listed(the_site(), AT))
    with pytest.raises(Refusal):
        labels.print_(act("maren"), [(element_id("P-31"), ""), (element_id("CTL-1"), "")])
    assert len(labels.listed(the_site(), AT)) == before
    for places in ([], [(element_id("P-31"), "")] * 201):
        with pytest.raises(InputError):
            labels.print_(act("maren"), places)
    assert labels.print_(act("maren", "the-same"), [(ATS, "")]) == labels.print_(act("maren", "the-same"), [(ATS, "")])


def test_who_prints_and_who_hangs():
    for login in ("nils", "ivo", "sorcha"):
        with pytest.raises(NotAllowed):
            labels.print_(act(login), [(ATS, "")])
    number = printed()
    with pytest.raises(NotAllowed):
        labels.hang(act("edda"), number, 1, "Its box", b"", False)
    with pytest.raises(Stale):
        labels.hang(act("nils"), number, 7, "Its box", b"", False)
    with pytest.raises(InputError):
        labels.hang(act("nils"), number, 1, "", b"", False)
    with pytest.raises(InputError):
        labels.hang(act("nils"), number, 1, "Its box", b"no picture", False)
    with pytest.raises(NotFound):
        labels.look(act("nils"), "L-9999", 1, True, "", b"")


def test_what_a_label_says_and_what_happened_to_it_is_fixed_in_the_record():
    number = hung()
    with the_site().connection():
        for statement in ("UPDATE label SET content = '{}' WHERE number = ?", "UPDATE label SET touches = 'x' WHERE number = ?",
                          "UPDATE label_event SET by = 'x' WHERE label_id = (SELECT id FROM label WHERE number = ?)",
                          "DELETE FROM label_event WHERE label_id = (SELECT id FROM label WHERE number = ?)"):  # fmt: skip
            with pytest.raises(Exception, match="fixed"):
                database.execute_sql(statement, (number,))


def picture():
    out = io.BytesIO()
    Image.new("RGB", (40, 30), "orange").save(out, "JPEG")
    return out.getvalue()


def test_a_worker_hangs_a_label_with_its_picture_which_belongs_to_the_piece():
    """Found by asking who else may attach pictures: a worker may not, but may hang labels."""
    number = printed()
    labels.hang(act("nils"), number, 1, "Its box", picture(), False)
    (event,) = [e for e in one(number).events if e.kind == "hung"]
    kept = attachments.of(the_site(), element_id("P-31"))
    assert event.picture and event.picture in {a.file for a in kept}
    with pytest.raises(NotAllowed):
        attachments.attach_picture(act("nils"), element_id("P-31"), "Box", picture())
    labels.look(act("nils"), number, 2, True, "", picture())
    found = labels.found(act("nils"), element_id("MC1"), "", {}, "Door", picture())
    assert one(found).events[0].picture
    # what was refused leaves no picture in the record of the piece
    before = len(attachments.of(the_site(), element_id("P-31")))
    with pytest.raises(Refusal):
        labels.hang(act("nils"), number, 3, "Its box", picture(), False)
    assert len(attachments.of(the_site(), element_id("P-31"))) == before
    assert verify(the_site().path).found == ()
