"""The register and one's account: roles, leaving, passwords, and sessions that end when they are ended."""

import re
import sqlite3
from datetime import timedelta
from stat import S_IMODE

import pytest

from demo_acts import PASSWORD, act, actor, element_id, the_site
from spinel.actions import people, records, register, sessions
from spinel.core.errors import InputError, NotAllowed, Refusal
from switching_acts import ready, run, start_job

NEW = "tide over the quay"


@pytest.fixture
def cookie_of(app):
    """A second browser that holds what another one held."""

    def copied(browser):
        other = app.test_client()
        held = browser.client.get_cookie("session")
        other.set_cookie("session", held.value)
        return other

    return copied


def signed_in(browser):
    return browser.get("/account").status_code == 200


class TestSessions:
    def test_what_was_copied_is_worth_nothing_once_its_owner_has_signed_out(self, sign_in, cookie_of):
        maren = sign_in("maren")
        thief = cookie_of(maren)
        assert signed_in(thief)
        maren.post("/sign-out")
        assert not signed_in(thief) and not signed_in(maren)

    def test_signing_out_here_leaves_other_places_alone_and_one_of_them_can_be_ended(self, sign_in):
        here, there = sign_in("maren"), sign_in("maren")
        page = here.get("/account").text
        (other,) = re.findall(r'name="session" value="(\d+)"', page)
        assert "this one" in page
        assert here.post("/account/sessions", data={"session": other}).status_code == 302
        assert signed_in(here) and not signed_in(there)

    def test_nobody_ends_what_is_somebody_elses_but_a_coordinator(self, sign_in):
        sign_in("ivo")
        (kept,) = sessions.of_person(the_site(), actor("ivo").id, act("ivo").now)
        with pytest.raises(NotAllowed):
            sessions.end(act("jory"), actor("ivo").id, kept.id)
        assert sessions.end(act("maren"), actor("ivo").id, kept.id) == 1
        # an id of somebody else's session ends nothing of one's own
        assert sessions.end(act("ivo"), actor("ivo").id, kept.id) == 0

    @pytest.mark.parametrize(("gap", "times", "lasts"), [(timedelta(hours=7), 3, True), (timedelta(hours=9), 1, False),
                                                         (timedelta(hours=7), 4, False)])  # fmt: skip
    def test_it_ends_by_idling_a_shift_and_after_a_day_whatever_is_done(self, sign_in, clock, gap, times, lasts):
        maren = sign_in("maren")
        for _ in range(times):
            clock.forward(seconds=gap.total_seconds())
            last = signed_in(maren)
        assert last == lasts

    def test_what_the_browser_holds_is_nowhere_to_be_read_and_the_file_is_its_owners_alone(self, sign_in, database):
        maren = sign_in("maren")
        with maren.client.session_transaction() as held:
            token = held["token"]
        beside = database.with_name(f"{database.name}.beside")
        assert S_IMODE(beside.stat().st_mode) == 0o600
        with sqlite3.connect(beside) as own:
            kept = [str(v) for row in own.execute("SELECT * FROM session") for v in row]
        assert kept and not any(token in v for v in kept)

    def test_a_full_disk_keeps_nobody_out_and_a_lost_file_signs_everybody_out(self, sign_in, database, clock):
        maren, beside = sign_in("maren"), database.with_name(f"{database.name}.beside")
        clock.forward(minutes=5)
        with sqlite3.connect(beside) as other:
            other.execute("CREATE TRIGGER full BEFORE UPDATE ON session BEGIN SELECT RAISE(ABORT, 'disk is full'); END")
        assert signed_in(maren)
        for file in database.parent.glob("*.beside*"):
            file.unlink()
        assert not signed_in(maren)

    def test_a_forged_token_or_another_persons_is_nobodys(self, app, sign_in):
        maren = sign_in("maren")
        for change in ({"token": "x" * 43}, {"_user_id": str(actor("ivo").id)}):
            with maren.client.session_transaction() as held:
                before = dict(held)
                held.update(change)
            assert not signed_in(maren)
            with maren.client.session_transaction() as held:
                held.clear()
                held.update(before)


class TestLeaving:
    def test_whoever_has_left_is_out_at_once_and_comes_back_as_they_were(self, sign_in):
        ivo, maren = sign_in("ivo"), sign_in("maren")
        assert maren.post("/people/ivo/leave", data={"reason": "Took another post"}).status_code == 302
        assert not signed_in(ivo)
        with pytest.raises(Refusal):
            people.sign_in(the_site(), "ivo", PASSWORD, "", act("maren").now)
        assert maren.post("/people/ivo/return", data={"reason": "Is back"}).status_code == 302
        assert not signed_in(ivo)  # the session that was ended stays so
        assert people.sign_in(the_site(), "ivo", PASSWORD, "", act("maren").now).roles == {"director"}
        assert [e.act for e in records.entries(the_site(), subject="person:ivo")][:2] != []
        said = [e.act for e in records.entries(the_site(), subject="person:ivo")]
        assert said.index("came back") < said.index("left")

    def test_what_hangs_in_their_name_is_named_and_stays(self, sign_in):
        from spinel.actions import programs

        number = programs.draft(act("maren"), start_job("MC2-1D"))
        ready(number)
        run(number, until="barricade")
        maren = sign_in("maren")
        maren.post("/people/bram/leave", data={"reason": "Left the company"})
        page = maren.get("/people/register").text
        assert "left with this in their name" in page and number in page

    def test_a_site_keeps_a_coordinator(self):
        others = [p for p in people.everybody(the_site()) if "coordinator" in p.roles and p.login != "maren"]
        for p in others:
            register.leave(act("maren"), p.login, "Not here any more")
        for last in (
            lambda: register.leave(act("maren"), "maren", "Me too, then"),
            lambda: register.change_roles(act("maren"), "maren", ["worker"]),
        ):
            with pytest.raises(Refusal, match="keeps a coordinator"):
                last()


class TestRolesAndPasswords:
    def test_roles_hold_from_the_next_act_on(self, sign_in):
        jory, maren = sign_in("jory"), sign_in("maren")
        assert jory.post("/people/ivo/leave", data={"reason": "I do not like him"}).status_code == 403
        maren.post("/people/jory/roles", data={"roles": ["coordinator"]})
        assert jory.post("/people/ivo/leave", data={"reason": "He has left"}).status_code == 302
        maren.post("/people/jory/roles", data={"roles": []})
        assert jory.post("/people/ivo/return", data={"reason": "He is back"}).status_code == 403

    def test_a_password_made_by_somebody_else_is_changed_before_anything_else(self, sign_in, app):
        maren, edda = sign_in("maren"), sign_in("edda")
        answer = maren.post("/people/edda/password")
        # on that one answer, and not by way of what the browser keeps
        assert not any(k.lower() == "set-cookie" and "_flashes" in v for k, v in answer.headers)
        with maren.client.session_transaction() as held:
            assert "_flashes" not in held
        shown = answer.text
        made = re.search(r"The new password of edda is (\S+)\. It", shown)[1]
        assert made not in maren.get("/people/register").text and not signed_in(edda)
        edda = app.test_client()
        edda.post("/sign-in", data={"login": "edda", "password": made})
        assert edda.get("/").headers["Location"] == "/account" and edda.get("/jobs").status_code == 302
        # a stop is never hindered
        number = "EWP-0003"
        stop = {"version": 99, "reason": "Somebody stands too near"}
        assert edda.post(f"/permits/{number}/suspend", data=stop).headers.get("Location") != "/account"
        found = edda.post(f"/network/found/{element_id('F-B1')}", data={"value": "open", "note": "It stands open"})
        assert found.headers["Location"] != "/account"
        assert edda.post("/account/password", data={"old": made, "new": NEW}).status_code == 302
        assert edda.get("/").status_code == 200

    def test_changing_ones_own_ends_every_other_session(self, sign_in):
        here, there = sign_in("maren"), sign_in("maren")
        assert here.post("/account/password", data={"old": PASSWORD, "new": NEW}).status_code == 302
        assert signed_in(here) and not signed_in(there)
        assert people.sign_in(the_site(), "maren", NEW, "", act("maren").now).login == "maren"
        with pytest.raises(Refusal):
            people.sign_in(the_site(), "maren", PASSWORD, "", act("maren").now)

    @pytest.mark.parametrize(
        "new", ["abc12", "Maren.Oduya!", "Password2026!!", "aaaaaaaaaaaa", "abcdefghijkl", PASSWORD]
    )
    def test_one_that_is_guessed_soon_is_refused_and_never_shown_again(self, sign_in, new):
        answer = sign_in("maren").post("/account/password", data={"old": PASSWORD, "new": new})
        assert answer.status_code == 422 and new not in answer.text
        with pytest.raises((InputError, Refusal)):
            register.change_password(act("maren"), PASSWORD, new)

    def test_the_old_one_is_asked_for_and_a_wrong_one_waits_like_any(self):
        for _ in range(5):
            with pytest.raises(Refusal, match="not your password"):
                register.change_password(act("maren"), "nonsense", NEW)
        with pytest.raises(Refusal, match="Too many"):
            register.change_password(act("maren"), PASSWORD, NEW)

    def test_somebody_new_is_added_by_the_page(self, sign_in, app):
        data = {"name": "Nora Quist", "login": "nora", "password": "harbour and rope", "roles": ["worker"]}
        assert sign_in("maren").post("/people", data=data).status_code == 302
        nora = app.test_client()
        nora.post("/sign-in", data={"login": "nora", "password": "harbour and rope"})
        assert nora.get("/").headers["Location"] == "/account"
        refused = sign_in("maren").post("/people", data={**data, "login": "nora2"})
        assert refused.status_code == 422 and "harbour" not in refused.text and "Nora Quist" in refused.text
