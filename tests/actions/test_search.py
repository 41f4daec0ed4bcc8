"""Finding things by what is typed: the index against a plain look at every line."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from demo_acts import MOMENT, act, the_site
from saying import en
from spinel.actions import gear, jobs, labels, people, permits, programs, records, study_runs
from spinel.actions.acting import utc_text
from spinel.demo.site import element_id
from spinel.store.database import database as db

pytestmark = pytest.mark.usefixtures("open_db")


def every_line():
    """What can be found, asked without the index: kind, title, and all that stands beside it."""
    site = the_site()
    for e in site.as_it_is().network.elements:
        yield "equipment", e.tag, f"{e.name}, {e.location}"
    for j in jobs.lines(site):
        yield "job", j.number, j.title
        for number, _ in j.permits:
            yield "permit", number, j.title
    for p in programs.lines(site):
        yield "program", p.number, p.title
    for item in gear.everything(site):
        yield "gear", item.number, f"{item.kind_id}, {item.place}"
    for run in study_runs.runs(site):
        yield "study", run.number, run.draft or f"revision {run.revision}"
    for label in labels.listed(site, utc_text(MOMENT)):
        yield "label", label.number, label.says.tag
    for who in people.everybody(site):
        yield "person", who.name, who.login


def looked_up(text):
    wanted = text.strip().casefold()
    return {(k, t) for k, t, d in every_line() if wanted and (wanted in t.casefold() or wanted in d.casefold())}


def hits(text):
    return records.find(the_site(), text, MOMENT)[0]


def found(text, monkeypatch):
    monkeypatch.setattr(records, "SHOWN", 10_000)
    return {(h.kind, h.title) for h in hits(text)}


@pytest.mark.parametrize(
    "text",
    ["MC", "mc1-2b", "1", "2B", "T1", "pump", "PUMP HOUSE", "p", "EWP-0003", "ewp", "SP-", "J-001", "sorcha", "Madd",
     "%", "_", "\\", '"', "'", "AND", "NOT x", "*", "linkspan pump", "tighten", "nothing of the kind", " T1 ", "a b",
     "\x00", "MC\x001", "\x00MC1", "T1\x00\x00", '"OR"', "NEAR(a b)", "\ud7ff", "-MC1", "^MC1", "MC1:"],
)  # fmt: skip
def test_the_index_finds_what_a_look_at_every_line_finds(text, monkeypatch):
    assert found(text, monkeypatch) == looked_up(text)


@pytest.mark.long
def test_any_part_of_any_tag_or_name_is_found(monkeypatch):
    lines = [t for _, t, _ in every_line()]

    @given(st.sampled_from(lines), st.data())
    def part(line, data):
        start = data.draw(st.integers(0, len(line) - 1))
        text = line[start : data.draw(st.integers(start + 1, len(line)))]
        assert found(text, monkeypatch) == looked_up(text)

    part()


def test_equipment_that_begins_with_the_text_comes_first():
    first = hits("T1")
    assert (first[0].title, first[0].key) == ("T1", element_id("T1"))
    for text in ("T", "W-", "pump", "a"):
        found = [h for h in hits(text) if h.kind == "equipment"]
        order = [(not h.title.casefold().startswith(text.casefold()), len(h.title)) for h in found]
        assert order == sorted(order) and len(set(order)) > 1, text


def test_no_more_are_shown_than_fit_and_it_is_said_when_there_are_more():
    for text, more in (("a", True), ("MC1-2B", False), ("no such thing", False)):
        shown, left_out = records.find(the_site(), text, MOMENT)
        assert (len(shown) <= records.SHOWN, left_out) == (True, more)


def test_only_a_tag_or_number_that_one_thing_bears_is_gone_to():
    exact = {text: records.exact(the_site(), text, MOMENT) for text in ("t1", " EWP-0003", "T", "", "Sorcha Maddern")}
    assert {text: hit and hit.title for text, hit in exact.items()} == {
        "t1": "T1", " EWP-0003": "EWP-0003", "T": None, "": None, "Sorcha Maddern": None,
    }  # fmt: skip


def test_a_permit_that_has_run_out_is_never_found_as_in_force():
    seen = max(permits.in_states(the_site(), ["in_force"], MOMENT), key=lambda p: p.window_end)
    told = [en(records.exact(the_site(), seen.number, now).detail) for now in (MOMENT, seen.window_end)]
    assert told[0].startswith("In force") and told[1].startswith("Expired")


@pytest.mark.tampers
def test_what_is_made_later_is_found_at_once_and_a_name_that_changed_by_its_new_one():
    people.add_person(act("maren"), "zoe", "Zoë Ångström", "a long password", ["worker"])
    for text in ("zoë", "ÅNGSTRÖM", "å", "ZOË"):
        assert ("person", "Zoë Ångström") in {(h.kind, h.title) for h in hits(text)}, text
    number = jobs.start(act("maren"), element_id("MC1"), "retorque", "Quite unheard of work", "")
    assert [h.key for h in hits("unheard")] == [number]
    db.execute_sql("UPDATE person SET name = 'Zoë Berg' WHERE login = 'zoe'")
    db.execute_sql("UPDATE job SET title = 'Renamed entirely' WHERE number = ?", (number,))
    assert [h.title for h in hits("zoë")] == ["Zoë Berg"]
    assert hits("unheard") == [] != hits("entirely")


def test_an_item_out_of_use_reads_so_wherever_it_is_found_and_where_it_lies_now():
    item = next(i for i in gear.everything(the_site()) if i.barred)
    hit = next(h for h in hits(item.number) if h.kind == "gear")
    assert "out of use" in en(hit.detail) and hit.key == item.number
    good = next(i for i in gear.everything(the_site()) if i.holder_id is not None and not i.barred)
    gear.give_back(act("maren"), good.number, "Shelf by the north door")
    assert "Shelf by the north door" in en(next(h for h in hits(good.number) if h.kind == "gear").detail)
    assert good.number in {h.title for h in hits("north door")}
