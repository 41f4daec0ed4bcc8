"""Signing in, the ledger, the schema, and documents from the command line."""

import json
import sqlite3
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from click.testing import CliRunner
from peewee import IntegrityError
from werkzeug.security import generate_password_hash

from demo_acts import MOMENT, PASSWORD, act, actor, opened, the_site
from spinel import cli
from spinel.actions import passwords, people, records, setup
from spinel.actions.acting import SYSTEM, Act, work
from spinel.actions.version import is_marked_demo
from spinel.commands.common import DEMO, database
from spinel.core.errors import InputError, NotAllowed, Refusal
from spinel.core.said import say
from spinel.demo.site import document
from spinel.store import ledger
from spinel.store.database import database as db


@pytest.mark.usefixtures("open_db")
class TestSignIn:
    def test_who_guesses_waits_longer_each_time_and_nobody_else_waits(self):
        """Five wrong passwords from one address stop that address: a minute, then twice as long each time."""
        now = MOMENT
        for _ in range(5):
            with pytest.raises(Refusal, match="wrong"):
                people.sign_in(the_site(), "maren", "nonsense", "10.0.0.9", now)
        for wait in (1, 2, 4, 8, 15):
            for early in (timedelta(), timedelta(minutes=wait, seconds=-1)):
                with pytest.raises(Refusal, match="Too many"):
                    people.sign_in(the_site(), "maren", PASSWORD, "10.0.0.9", now + early)
            # Maren herself, elsewhere or signed in, is not hindered
            assert people.sign_in(the_site(), "maren", PASSWORD, "10.0.0.7", now).login == "maren"
            people.confirm_identity(act("maren"), PASSWORD)
            now += timedelta(minutes=wait)
            with pytest.raises(Refusal, match="wrong"):
                people.sign_in(the_site(), "maren", "nonsense", "10.0.0.9", now)
        later = now + timedelta(minutes=16)
        assert people.sign_in(the_site(), "MAREN ", PASSWORD, "10.0.0.9", later).login == "maren"

    def test_many_who_guess_at_once_shut_out_only_where_the_account_was_never_used(self):
        people.sign_in(the_site(), "maren", PASSWORD, "10.0.0.7", MOMENT)
        for i in range(50):
            with pytest.raises(Refusal, match="wrong"):
                people.sign_in(the_site(), "maren", "nonsense", f"10.0.1.{i}", MOMENT)
        with pytest.raises(Refusal, match="Too many"):
            people.sign_in(the_site(), "maren", PASSWORD, "10.0.2.1", MOMENT)
        assert people.sign_in(the_site(), "maren", PASSWORD, "10.0.0.7", MOMENT).login == "maren"
        people.confirm_identity(act("maren"), PASSWORD)

    def test_whoever_tries_one_account_after_another_waits_whatever_account_it_is(self):
        """And nobody who is signed in, or comes from elsewhere, waits for that."""
        for i in range(60):
            with pytest.raises(Refusal, match="wrong"):
                people.sign_in(the_site(), f"guess{i}", "nonsense", "10.0.0.9", MOMENT)
        with pytest.raises(Refusal, match="Too many"):
            people.sign_in(the_site(), "ivo", PASSWORD, "10.0.0.9", MOMENT)
        people.confirm_identity(act("ivo"), PASSWORD)
        assert people.sign_in(the_site(), "ivo", PASSWORD, "10.0.0.7", MOMENT).login == "ivo"
        later = MOMENT + timedelta(minutes=16)
        assert people.sign_in(the_site(), "ivo", PASSWORD, "10.0.0.9", later).login == "ivo"

    @pytest.mark.parametrize("name", ["Maren Oduya", "MAREN  ODUYA", "Maren Oduya\N{ZERO WIDTH SPACE}", "system", "System",
                                      "Ｍaren Oduya", "Ma\N{SOFT HYPHEN}ren Oduya", "Ann\aa", ""])  # fmt: skip
    def test_nobody_is_called_what_somebody_else_or_the_system_is(self, name):
        with pytest.raises(InputError) as refused:
            people.add_person(act("maren"), "another", name, "a long password", ["worker"])
        assert refused.value.field == "name"

    def test_the_refusal_does_not_tell_whether_the_account_exists(self):
        said = set()
        for login in ("maren", "nobody"):
            with pytest.raises(Refusal) as refused:
                people.sign_in(the_site(), login, "nonsense", "", MOMENT)
            said.add(str(refused.value))
        assert len(said) == 1

    def test_passwords_are_stored_hashed(self):
        rows = db.execute_sql("SELECT password_hash FROM person").fetchall()
        assert all(r[0].startswith("scrypt:") and PASSWORD not in r[0] for r in rows)

    def test_a_password_is_hashed_with_the_cost_of_the_library_as_it_ships(self, monkeypatch):
        """N = 2^15, r = 8: a floor; the suite's own people are hashed more cheaply (tests/conftest)."""
        monkeypatch.setattr(passwords, "generate_password_hash", generate_password_hash)
        method, cost, block, _ = passwords.hashed("a long password").split("$")[0].split(":")
        assert (method, int(block)) == ("scrypt", 8) and int(cost) >= 2**15

    def test_two_with_the_same_password_do_not_share_a_hash(self):
        for login in ("anna", "otto"):
            people.add_person(act("maren"), login, login.title(), "the very same password", ["worker"])
        rows = db.execute_sql("SELECT password_hash FROM person WHERE login IN ('anna', 'otto')").fetchall()
        assert rows[0] != rows[1]

    @pytest.mark.parametrize(
        ("values", "field"),
        [({"login": "x"}, "login"), ({"login": "a b"}, "login"), ({"password": "short"}, "password"),
         ({"roles": ["king"]}, "roles"), ({"name": ""}, "name"), ({"login": "maren"}, "login")],
    )  # fmt: skip
    def test_a_person_is_registered_only_when_everything_fits(self, values, field):
        fine = {"login": "newone", "name": "New One", "password": "long enough password", "roles": ["worker"]}
        with pytest.raises(InputError) as refused:
            people.add_person(act("maren"), **{**fine, **values})
        assert refused.value.field == field
        with pytest.raises(NotAllowed):
            people.add_person(act("sorcha"), **fine)


@pytest.mark.usefixtures("open_db")
class TestLedger:
    def test_an_act_that_fails_leaves_nothing(self):
        before = ledger.head()
        with pytest.raises(RuntimeError), work(act("maren")) as unit:
            unit.record("something", "x", {})
            raise RuntimeError
        assert ledger.head() == before

    @pytest.mark.parametrize("typed", ["EWP-0003", "permit:EWP-0003", "EWP-000"])
    def test_a_number_typed_as_the_page_shows_it_finds_its_entries(self, typed):
        found = {e.subject for e in records.entries(the_site(), subject=typed)}
        assert "permit:EWP-0003" in found and all(s.startswith("permit:EWP-000") for s in found)
        assert records.entries(the_site(), subject="WP-0003") == []

    @pytest.mark.parametrize("table", ["ledger", "field_event", "revision", "permit_record"])
    @pytest.mark.parametrize("change", ["UPDATE {} SET rowid = rowid", "DELETE FROM {}"])
    def test_what_was_written_can_be_neither_changed_nor_deleted(self, table, change):
        with pytest.raises(IntegrityError, match="append-only"):
            db.execute_sql(change.format(table))

    @pytest.mark.parametrize("column", ["at", "actor", "act", "subject", "payload", "previous_hash", "hash"])
    def test_a_change_behind_the_triggers_is_found(self, open_db, column):
        value = "2020-01-01T00:00:00Z" if column == "at" else '{"a":1}' if column == "payload" else "forged"
        with sqlite3.connect(open_db) as raw:
            raw.execute("DROP TRIGGER ledger_no_update")
            raw.execute(f"UPDATE ledger SET {column} = ? WHERE seq = 20", (value,))
        assert records.verify(the_site()).broken_at in (20, 21)

    @pytest.mark.tampers
    def test_a_missing_row_and_a_cut_tail_are_found(self, open_db):
        count, head = records.head(the_site())
        assert records.verify(the_site(), head, count).broken_at is None
        with sqlite3.connect(open_db) as raw:
            raw.execute("DROP TRIGGER ledger_no_delete")
            raw.execute("DELETE FROM ledger WHERE seq = ?", (count,))
        assert records.verify(the_site()).broken_at is None
        assert records.verify(the_site(), head, count).reason == say("ledger-tail-was-cut")
        assert records.verify(the_site(), head).broken_at is not None
        with sqlite3.connect(open_db) as raw:
            raw.execute("DELETE FROM ledger WHERE seq = 7")
        assert records.verify(the_site()).broken_at == 8


def test_every_table_is_strict_and_durable(open_db):
    rows = db.execute_sql(
        "SELECT name, sql FROM sqlite_master WHERE type = 'table' AND name <> 'schema_migration'"
        # the search index holds nothing of its own
        " AND name NOT LIKE 'findable%'"
    )
    for name, sql in rows.fetchall():
        assert sql.rstrip().endswith("STRICT"), name
    assert db.execute_sql("PRAGMA synchronous").fetchone()[0] == 2
    assert db.execute_sql("PRAGMA journal_mode").fetchone()[0] == "wal"
    assert db.execute_sql("PRAGMA foreign_keys").fetchone()[0] == 1


@pytest.fixture
def run(tmp_path, monkeypatch):
    monkeypatch.setenv("SPINEL_DB", str(tmp_path / "own.sqlite3"))
    return lambda *args, **options: CliRunner().invoke(cli.main, list(args), **options)


def test_a_site_that_is_not_the_demo_from_the_first_day(run, tmp_path):
    file = tmp_path / "site.json"
    file.write_text(json.dumps({**document(), "site": {**document()["site"], "name": "Another place"}}))
    assert "acceptable: 67 elements" in run("network", "check", str(file)).output
    refused = run("network", "import", str(file))
    assert refused.exit_code == 1 and "coordinator-add" in refused.output
    assert run("coordinator-add", "anna", "--name", "Anna Boss", "--password", "a long password").exit_code == 0
    assert "published as revision 1" in run("network", "import", str(file)).output
    again = run("network", "import", str(file))
    assert again.exit_code == 1 and "revision 1 as published" in again.output
    walk = tmp_path / "found.csv"
    switches = [e for e in document()["elements"] if e.get("normal_position")]
    walk.write_text("tag,found\n" + "".join(f"{e['tag']},{e['normal_position']}\n" for e in switches[1:]))
    refused = run("network", "walk-down", str(walk), "--as", "anna")
    assert refused.exit_code == 1 and switches[0]["tag"] in refused.output
    walk.write_text(walk.read_text() + f"{switches[0]['tag']},closed\n")
    assert "recorded: 27 positions" in run("network", "walk-down", str(walk), "--as", "anna").output
    options = ("--role", "worker", "--as", "anna", "--password", "another long one")
    assert run("person-add", "will", "--name", "Will Work", *options).exit_code == 0
    assert (
        run(
            "qualify",
            "will",
            "test",
            "panelboard",
            f"{datetime.now(UTC) + timedelta(days=700):%Y-%m-%d}",
            "--as",
            "anna",
        ).exit_code
        == 0
    )
    assert run("setting", "ceiling_cal_cm2", "25", "--as", "anna", "--because", "Our suits").exit_code == 0
    assert run("setting", "ceiling_cal_cm2", "nan", "--as", "anna", "--because", "Our suits").exit_code == 1
    assert run("setting", "ceiling_cal_cm2", "25", "--as", "will", "--because", "Our suits").exit_code == 1
    assert "\nintact: 6 entries" in run("verify").output
    assert json.loads(run("network", "schema").output)["title"] == "Spinel network"


def test_a_bad_document_is_refused_and_nothing_is_saved(run, tmp_path):
    run("coordinator-add", "anna", "--name", "Anna Boss", "--password", "a long password")
    doc = document()
    broken = {
        **doc,
        "elements": [{**e, "ends": ["n-t1p", "n-t1p"]} if e["tag"] == "T1" else e for e in doc["elements"]],
    }
    file = tmp_path / "bad.json"
    file.write_text(json.dumps(broken))
    for command in ("check", "import"):
        refused = run("network", command, str(file))
        assert (
            refused.exit_code == 1 and "T1: ends is n-t1p twice" in refused.output and "Traceback" not in refused.output
        )
    with opened(setup.open_site(tmp_path / "own.sqlite3")).connection():
        assert db.execute_sql("SELECT count(*) FROM revision").fetchone()[0] == 0
        assert actor("anna").roles == {"coordinator"}


HEADER = (
    "method,voltage_v,bolted_fault_current_ka,electrode_configuration,gap_mm,working_distance_mm,duration_ms,"
    "reduced_duration_ms,enclosure_height_mm,enclosure_width_mm,enclosure_depth_mm,equipment_class,grounding,enclosed\n"
)


def test_calc_arcflash_reproduces_the_worked_examples_and_keeps_going_past_a_refusal(run):
    """IEEE 1584-2018 Annex D, example 2, to the printed digits; the second row is refused, the third computed."""
    rows = (
        "ieee1584-2018,480,45,VCB,32,609.6,61.3,319,610,610,254,,,\n"
        "ieee1584-2018,0.48,45,VCB,32,609.6,61.3,319,610,610,254,,,\n"
        "lee,34500,10,,,1000,100,,,,,,,\n"
        "magic,480,45,VCB,32,609.6,61.3,,610,610,254,,,\n"
        "ieee1584-2018,480,nan,VCB,32,609.6,61.3,,610,610,254,,,\n"
        "ieee1584-2018,480,20,VOA,32,609.6,100,,,,,,,\n"
    )
    found = run("calc", "arcflash", "-", input=HEADER + rows)
    assert found.exit_code == 1
    import csv
    import io

    one, two, three, four, five, six = csv.DictReader(io.StringIO(found.output))
    assert round(float(one["incident_energy_j_cm2"]), 3) == 11.585
    assert round(float(one["reduced_incident_energy_j_cm2"]), 3) == 53.156
    assert round(float(one["reduced_arc_flash_boundary_mm"])) == 2669
    assert len(one["arcing_current_ka"]) > 12 and one["error"] == ""
    assert "voltage_v" in two["error"] and two["incident_energy_j_cm2"] == ""
    assert float(three["incident_energy_j_cm2"]) == pytest.approx(73.899) and three["arcing_current_ka"] == "10.0"
    assert "method" in four["error"] and "bolted_fault_current_ka" in five["error"]
    assert six["error"] == "" and six["enclosure_correction_factor"] == "1.0"


def test_a_demo_never_takes_the_place_of_somebodys_own_database(run, tmp_path):
    """Neither kept, served nor deleted as one; nor is a file that is no database at all."""
    assert run("coordinator-add", "anna", "--name", "Anna Boss", "--password", "a long password").exit_code == 0
    own = tmp_path / "own.sqlite3"
    for file in (own, tmp_path / "letter.txt"):
        if file is not own:
            file.write_text("Not a database")
        before = file.read_bytes()
        for options in (("demo",), ("demo", "--fresh"), ("demo", "--fresh", "--serve")):
            refused = run(*options, env={"SPINEL_DB": str(file)})
            assert refused.exit_code == 1 and "is no demo" in refused.output
            assert file.read_bytes() == before


def test_a_demo_has_a_file_of_its_own_and_is_rebuilt_on_demand(monkeypatch, tmp_path):
    monkeypatch.chdir(tmp_path)
    monkeypatch.delenv("SPINEL_DB", raising=False)
    assert (database(), database(DEMO)) == ("var/spinel.sqlite3", "var/demo.sqlite3")
    Path("var").mkdir()
    setup.mark_demo(Act(opened(setup.open_site("var/demo.sqlite3")), SYSTEM, MOMENT))
    assert is_marked_demo("var/demo.sqlite3") and not is_marked_demo("var/none.sqlite3")
    kept = CliRunner().invoke(cli.main, ["demo"])
    assert kept.exit_code == 0 and "Keeping" in kept.output
