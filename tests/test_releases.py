"""Databases of every release open, upgrade, verify and show; migrations stand on their own."""

import gzip
import json
import os
import re
import sqlite3
from pathlib import Path

import pytest
from click.testing import CliRunner

from demo_acts import MOMENT, PASSWORD, act, opened
from spinel import __version__
from spinel.actions import gear, jobs, permits, program_view, programs, records, setup
from spinel.actions.site import Site
from spinel.actions.verifying import verify
from spinel.cli import main
from spinel.core import stored
from spinel.core.errors import InputError, NewerRecord, NotFound, WrongVersion
from spinel.core.network.now import EVENT_KINDS
from spinel.core.people import ROLES
from spinel.core.permit.life import STATES
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.switching.life import STATES as PROGRAM_STATES
from spinel.core.switching.steps import from_data
from spinel.store import database as store
from spinel.web.app import create_app
from spinel.wording.words import words_when_signed
from switching_acts import confirm, run

FIXTURES = sorted(
    (Path(__file__).parent / "fixtures").glob("site-*.sqlite3.gz"),
    key=lambda p: [int(n) for n in re.findall(r"\d+", p.name.removesuffix(".sqlite3.gz"))],
)


#: The first and the last before this one, which every other test is on; the soak opens every one.
SOME = FIXTURES if os.environ.get("SOAK") else [FIXTURES[0], FIXTURES[-2]]


@pytest.fixture(params=SOME, ids=lambda p: p.name.removesuffix(".sqlite3.gz"))
def released(request, tmp_path):
    """The demo's database as that release left it."""
    path = tmp_path / "site.sqlite3"
    path.touch(0o600)
    path.write_bytes(gzip.decompress(request.param.read_bytes()))
    return path


def test_this_version_is_the_newest_of_the_changes_and_has_its_database_here():
    """The program, the list of changes and the fixtures name the same release."""
    newest = re.search(r"^## (\S+)", (Path(__file__).parents[1] / "CHANGELOG.md").read_text(), re.M)[1]
    assert newest == __version__
    assert FIXTURES[-1].name == f"site-{newest}.sqlite3.gz"


def schema_of(path):
    with sqlite3.connect(path) as own:
        return dict(own.execute("SELECT name, sql FROM sqlite_master WHERE sql IS NOT NULL").fetchall())


def test_a_released_database_upgrades_to_the_same_schema_as_a_fresh_one(released, tmp_path):
    """Triggers and STRICT included, and its ledger goes on where it was."""
    with sqlite3.connect(released) as own:
        before = own.execute("SELECT seq, hash FROM ledger ORDER BY seq").fetchall()
    setup.upgrade(released, MOMENT)
    site = setup.open_site(released)
    setup.open_site(tmp_path / "fresh.sqlite3")
    assert schema_of(released) == schema_of(tmp_path / "fresh.sqlite3")
    assert sum("STRICT" in sql for sql in schema_of(released).values()) >= 13
    verdict = records.verify(site, before[-1][1], len(before))
    assert verdict.broken_at is None and verdict.count >= len(before)
    assert verify(released).found == ()


def test_every_page_and_paper_of_a_released_database_is_shown(released):
    setup.upgrade(released, MOMENT)
    app = create_app(str(released), clock=lambda: MOMENT)
    app.config["WTF_CSRF_ENABLED"] = False
    client = app.test_client()
    client.post("/sign-in", data={"login": "maren", "password": PASSWORD})
    site = app.extensions["spinel"]
    pages = ["/", "/network", "/jobs?state=all", "/switching?state=all", "/records?verify=1", "/find?q=MC"]
    numbers = [n for j in jobs.lines(site) for n, _ in j.permits]
    assert len(numbers) >= 6
    for number in numbers:
        pages += [
            f"/permits/{number}",
            f"/permits/{number}/working",
            f"/permits/{number}/paper",
            f"/records/story/permit/{number}",
        ]
    pages += [f"/jobs/{j.number}" for j in jobs.lines(site)]
    for line in programs.lines(site):
        pages += [f"/switching/{line.number}", f"/switching/{line.number}/console", f"/switching/{line.number}/paper"]
    for page in pages:
        answer = client.get(page)
        assert answer.status_code == 200, (page, answer.text[:300])


def test_what_was_signed_before_shapes_had_numbers_still_says_what_it_said(released):
    """Contents are brought up to date when read; text and hash stay as they were signed."""
    setup.upgrade(released, MOMENT)
    site = setup.open_site(released)
    with sqlite3.connect(released) as own:
        rows = own.execute("SELECT number, content, content_hash FROM permit").fetchall()
    for number, text, named in rows:
        seen = permits.view(site, number, MOMENT)
        kept = json.loads(text)
        assert seen.content_hash == named
        for key in ("energy_cal_cm2", "boundary_mm", "working_distance_mm"):
            assert seen.content["hazard"][key] == kept["hazard"][key]
        nearest = kept["hazard"]["approach"]["restricted_mm"]
        distance = kept["hazard"]["working_distance_mm"]
        inside = nearest is not None and distance is not None and distance < nearest
        assert seen.content["hazard"]["inside_restricted"] == inside
    assert all(program_view.view(site, p.number).steps for p in programs.lines(site))


def test_what_was_signed_in_a_release_is_said_in_the_same_words(tmp_path):
    """Sentences as 0.4.0 said them: a message changed since must have left its text in catalogue/en/was."""
    everything = sorted((Path(__file__).parent / "fixtures").glob("said-*.json.gz"))
    for kept in everything if os.environ.get("SOAK") else [everything[0], everything[-1]]:
        path = tmp_path / kept.stem / "site.sqlite3"
        path.parent.mkdir()
        path.write_bytes(
            gzip.decompress(kept.with_name(kept.name.replace("said", "site").replace("json", "sqlite3")).read_bytes())
        )
        setup.upgrade(path, MOMENT)
        then = json.loads(gzip.decompress(kept.read_bytes()))
        assert len(then) > 8
        assert of_then(signed_sentences(setup.open_site(path)), then) == then


def of_then(now, then):
    """What is said now of everything that was said then; what a later shape has more is left out."""
    if isinstance(then, dict):
        return {k: of_then(now[k], v) for k, v in then.items() if k in now}
    same_length = isinstance(then, list) and len(now) == len(then)
    return [of_then(n, t) for n, t in zip(now, then, strict=True)] if same_length else now


def signed_sentences(site):
    """Everything that permits and programs of a site hold, in the words in which it was signed."""
    seen = [permits.view(site, n, MOMENT) for j in jobs.lines(site) for n, _ in j.permits]
    seen += [program_view.view(site, p.number) for p in programs.lines(site)]
    spoken = {v.number: words_when_signed(v.content).spoken(v.content) for v in seen}
    return json.loads(json.dumps(spoken, default=str))


def test_an_older_database_is_not_touched_by_opening_it_and_upgrading_keeps_a_copy(tmp_path, monkeypatch):
    path = tmp_path / "old.sqlite3"
    with Site(path).connection():
        store.migrate("0001_first")
    untouched = schema_of(path)
    with pytest.raises(WrongVersion, match="spinel upgrade"):
        setup.open_site(path)
    monkeypatch.setenv("SPINEL_DB", str(path))
    refused = CliRunner().invoke(main, ["serve"])
    assert refused.exit_code == 1 and "spinel upgrade" in refused.output and "Traceback" not in refused.output
    assert schema_of(path) == untouched
    said = CliRunner().invoke(main, ["upgrade"])
    assert said.exit_code == 0 and "ran 0002_switching" in said.output and "\nintact: 1 entries" in said.output
    (copy,) = tmp_path.glob("old.sqlite3.before-*")
    assert schema_of(copy) == untouched
    assert "nothing to do" in CliRunner().invoke(main, ["upgrade"]).output
    assert [e.act for e in records.entries(setup.open_site(path))] == ["database upgraded"]


def test_a_database_of_a_later_version_is_left_alone(tmp_path):
    path = tmp_path / "new.sqlite3"
    setup.open_site(path)
    with sqlite3.connect(path) as own:
        own.execute("INSERT INTO schema_migration (name, applied) VALUES ('9999_later', '2030-01-01')")
    for opening in (lambda: setup.open_site(path), lambda: setup.upgrade(path, MOMENT)):
        with pytest.raises(WrongVersion):
            opening()
    with pytest.raises(NotFound):
        setup.upgrade(tmp_path / "mistyped.sqlite3", MOMENT)
    assert not (tmp_path / "mistyped.sqlite3").exists()


@pytest.mark.parametrize(
    ("table", "column", "allowed"),
    [
        ("person_role", "role", ROLES),
        ("field_event", "kind", EVENT_KINDS),
        ("practice_event", "kind", EVENT_KINDS),
        ("permit", "state", STATES),
        ("program", "state", PROGRAM_STATES),
        ("job", "justification", tuple(NORTH_AMERICAN.claims)),
    ],
)
def test_what_the_schema_allows_is_what_the_code_allows(tmp_path, table, column, allowed):
    """A choice added to the code needs a migration of its own, or old databases would refuse it."""
    setup.open_site(tmp_path / "fresh.sqlite3")
    sql = schema_of(tmp_path / "fresh.sqlite3")[table]
    listed = re.search(rf"CHECK \({column} IN \(([^)]*)\)\)", sql)
    assert listed and re.findall(r"'([^']*)'", listed[1]) == list(allowed)


def test_migrations_import_nothing_of_spinel():
    for path in store.MIGRATIONS.glob("*.py"):
        assert "spinel" not in path.read_text().split('"""')[2], path.name


def test_what_a_later_version_wrote_is_refused_by_name_and_unknown_fields_are_passed_over():
    with pytest.raises(NewerRecord, match="later version"):
        stored.read("permit", '{"shape": 99}')
    written = stored.write("facts", {"doors_closed": "yes"})
    assert stored.read("facts", written.text) == {"doors_closed": "yes"}
    assert stored.read("faults", '[{"kind": "dead_meter"}]') == {"faults": [{"kind": "dead_meter"}]}
    step = {"kind": "check", "acts": ["checked"], "element_id": "e", "location": "", "equipment_type": "",
            "identity": "", "voltage": "", "action": "", "stand": "", "before": "", "after": "", "pairs": [],
            "figures": None, "spoken_by": "a field of a later version"}  # fmt: skip
    assert from_data(step).acts == ("checked",)


def listed(number, kind, low_v, high_v, currents):
    ratings = {"low_v": low_v, "high_v": high_v, "category": "4"}
    gear.add(
        act("maren"),
        gear.NewItem(number=number, kind_id=kind, ratings=ratings, currents=currents, tested=MOMENT.date()),
    )


def test_a_program_that_was_under_way_in_the_release_before_is_executed_to_its_end(tmp_path):
    """0.6 had no list of instruments and no steps for doors: once an instrument is listed it goes on as it was written."""
    path = tmp_path / "site.sqlite3"
    path.write_bytes(gzip.decompress((FIXTURES[0].parent / "site-0.6.0.sqlite3.gz").read_bytes()))
    setup.upgrade(path, MOMENT)
    site = opened(setup.open_site(path))
    before = program_view.view(site, "SP-0005")
    assert before.state == "executing" and not any(s.kind == "access" for s in before.steps)
    seen = run("SP-0005", until="instrument_before")
    with pytest.raises(InputError, match="an instrument of the site's list"):
        confirm("SP-0005")
    listed("M-12", "contact", "12", "1000", ("ac", "dc"))
    assert seen.current.value == "instrument_before" and run("SP-0005").state == "done"
    with site.connection():
        assert "SP-0005" in {p.hold for p in site.as_it_is().field.proofs}
    assert records.verify(site).broken_at is None
    back = next(p for p in programs.lines(site) if p.hold == "SP-0005" and p.purpose == "restoration")
    assert program_view.view(site, back.number).safe
