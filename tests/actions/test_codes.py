"""Short codes sign one's own and nothing else, one-time codes count once, a shared tablet stops whatever is under way."""

from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pyotp
import pytest

from demo_acts import MOMENT, PASSWORD, act, actor, permits_of, person, the_site
from spinel.actions import (
    box,
    codes,
    console,
    falling_due,
    invitations,
    network,
    people,
    permit_approval,
    permit_moves,
    program_view,
    sessions,
    site_settings,
    tablets,
)
from spinel.actions.acting import SHORT_MAY, Act
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal
from spinel.core.profile import NORTH_AMERICAN
from spinel.demo.people import CODE
from spinel.store import keys, ledger, permits, programs
from spinel.store import people as store


@pytest.fixture(autouse=True)
def _in(open_db):
    pass


@pytest.fixture
def tablet():
    token = tablets.register(act("maren"), "Tablet 2, pump house")
    return tablets.of_token(the_site(), token)


def short_act(login, **later):
    return Act(the_site(), codes.short(actor(login)), MOMENT + timedelta(**later))


class TestShortCodes:
    def test_it_is_good_at_a_tablet_in_use_and_for_its_owner_alone(self, tablet):
        assert codes.sign_in(the_site(), tablet, "wanda", CODE, MOMENT).short
        for login, code in (
            ("wanda", "999999"),
            ("nobody", CODE),
            ("wanda", ""),
            ("wanda", PASSWORD),
            ("wanda", f"{CODE}0"),
        ):
            with pytest.raises(Refusal):
                codes.sign_in(the_site(), tablet, login, code, MOMENT + timedelta(hours=1))
        with pytest.raises(Refusal):
            people.sign_in(the_site(), "wanda", CODE, "10.0.0.1", MOMENT)

    def test_who_guesses_waits_longer_each_time_and_keeps_nobody_from_the_password(self, tablet):
        now, tries = MOMENT, 0
        while now < MOMENT + timedelta(hours=24):
            try:
                codes.sign_in(the_site(), tablet, "wanda", "555123", now)
            except Refusal as refusal:
                tries += "not the short code" in str(refusal)
            now += timedelta(minutes=1)
        # of a million codes: a day finds one with a chance below one in five thousand
        assert 5 <= tries < 200
        assert people.sign_in(the_site(), "wanda", PASSWORD, "10.0.0.1", now).id == person("wanda")
        with pytest.raises(Refusal, match="Wait"):
            codes.sign_in(the_site(), tablet, "wanda", CODE, now)

    @pytest.mark.parametrize(
        "code", ["111111", "121212", "123456", "987654", "12345", "1234567", "12345a", "１２３４５６", ""]
    )
    def test_one_that_is_guessed_soon_is_no_code(self, code):
        with pytest.raises(InputError):
            codes.set_short(act("wanda"), PASSWORD, code)

    def test_nobody_sets_it_without_the_password(self):
        with pytest.raises(Refusal):
            codes.set_short(act("wanda"), "not the password", "582914")
        codes.set_short(act("wanda"), PASSWORD, "582914")
        assert store.code_of(person("wanda")) and "582914" not in store.code_of(person("wanda"))

    def test_whoever_leaves_has_none(self, tablet):
        from spinel.actions import register

        register.leave(act("maren"), "wanda", "Moved away")
        with pytest.raises(Refusal):
            codes.sign_in(the_site(), tablet, "wanda", CODE, MOMENT)

    @pytest.mark.parametrize("what", ["reset", "left"])
    def test_nothing_lets_anybody_in_after_a_reset_or_leaving(self, tablet, what):
        """Whoever knew the password may have set a code, or hold a link."""
        from spinel.actions import register

        link = invitations.invite(act("maren"), "wanda")
        if what == "reset":
            register.reset_password(act("maren"), "wanda")
        else:
            register.leave(act("maren"), "wanda", "Moved away")
            register.come_back(act("maren"), "wanda", "Back again")
        with pytest.raises(Refusal):
            codes.sign_in(the_site(), tablet, "wanda", CODE, MOMENT)
        with pytest.raises(Refusal):
            invitations.guest(the_site(), link, MOMENT)

    def test_it_signs_ones_statements_and_stops_work(self):
        seen = permits_of("EWP-0006")
        permit_moves.brief(
            act("sorcha"),
            "EWP-0006",
            seen.version,
            list(NORTH_AMERICAN.briefing),
            [person(p) for p in ("wanda", "sorcha", "jory")],
            "Mind the hose",
        )
        permit_moves.state(short_act("wanda"), "EWP-0006", seen.version + 1, list(NORTH_AMERICAN.statements))
        assert permits_of("EWP-0006").stated(person("wanda"))
        permit_moves.suspend(short_act("maren"), "EWP-0003", permits_of("EWP-0003").version, "Smoke")
        console.stop(short_act("ruth"), "SP-0005", "Wrong cubicle")
        assert program_view.view(the_site(), "SP-0005").state == "stopped"

    @pytest.mark.parametrize("login", ["maren", "tavi", "ruth", "sorcha", "ivo", "bram"])
    def test_nothing_else_whatever_the_roles_of_its_owner(self, login):
        """Every other act that these people do in the demo, tried with their short code."""
        wide = codes.short(actor(login))
        assert wide.roles <= {"worker", "attendant", "reader"}
        # even with all roles back, what is entered is refused where the entry is made
        forged = Act(the_site(), replace(wide, roles=actor(login).roles), MOMENT)
        before = ledger.head()
        seen = permits_of("EWP-0005")
        for attempt in (
            lambda: permit_approval.approve(forged, "EWP-0005", seen.version, seen.content_hash, PASSWORD),
            lambda: permit_moves.accept(forged, "EWP-0006", permits_of("EWP-0006").version, permits_of("EWP-0006").content_hash, {}, "4"),
            lambda: permit_moves.hand_back(forged, "EWP-0002", permits_of("EWP-0002").version, "All out, covers on"),
            lambda: site_settings.change(forged, "step_min", "3", "because"),
            lambda: people.add_person(forged, "newone", "New One", "a fine long password", ["worker"]),
            lambda: console.confirm(forged, "SP-0005", 5, program_view.view(the_site(), "SP-0005").version, {}),
            lambda: network.correct(forged, "x", "open", "because"),
            lambda: box.complete(forged, "SP-0003"),
            lambda: tablets.register(forged, "Another"),
            lambda: invitations.invite(forged, "nils"),
        ):  # fmt: skip
            with pytest.raises((NotAllowed, Refusal, NotFound, InputError)):
                attempt()
        assert {e.act for e in ledger.search(limit=50) if e.seq > before[0]} <= {"program stopped"}

    def test_the_list_of_what_it_signs_holds_no_act_that_lets_work_go_on(self):
        onward = (
            "approved",
            "issued",
            "accepted",
            "resumed",
            "confirmed",
            "released",
            "checked",
            "published",
            "handed back",
        )
        assert not [act for act in SHORT_MAY if any(word in act for word in onward)]

    def test_a_page_that_asks_by_itself_is_no_sign_of_life(self):
        token = sessions.begin(the_site(), codes.short(actor("wanda")), "tablet", MOMENT, short=True)
        for seconds in range(10, 240, 10):
            found = sessions.of_token(the_site(), token, MOMENT + timedelta(seconds=seconds), by_itself=True)
            assert (found is not None) == (seconds < 180), seconds

    def test_it_makes_no_secret_address(self):
        with pytest.raises(NotAllowed):
            falling_due.new_address(short_act("maren"))

    def test_a_short_session_ends_by_itself_soon(self):
        token = sessions.begin(the_site(), codes.short(actor("wanda")), "tablet", MOMENT, short=True)
        assert sessions.of_token(the_site(), token, MOMENT + timedelta(minutes=2)).short
        assert sessions.of_token(the_site(), token, MOMENT + timedelta(minutes=4)) is not None
        assert sessions.of_token(the_site(), token, MOMENT + timedelta(minutes=8)) is None


class TestTablets:
    def test_anybody_stops_a_permit_and_a_program_and_it_is_kept_as_said_there(self, tablet):
        assert tablets.stop(the_site(), tablet, "EWP-0003", "", MOMENT, None)
        assert tablets.stop(the_site(), tablet, "SP-0005", "He is inside", MOMENT, None)
        assert (
            permits_of("EWP-0003").state == "suspended" and program_view.view(the_site(), "SP-0005").state == "stopped"
        )
        last = {e.act: e.actor for e in ledger.search(limit=2)}
        assert last == {"permit suspended": tablet.name, "program stopped": tablet.name}

    def test_what_stands_already_is_no_error_and_nothing_is_entered(self, tablet):
        before = ledger.head()
        for number in ("EWP-0001", "EWP-9999", "", "SP-0001"):
            assert not tablets.stop(the_site(), tablet, number, "because", MOMENT, None)
        assert ledger.head() == before

    def test_a_repeat_stops_once(self, tablet):
        for _ in range(3):
            tablets.stop(the_site(), tablet, "EWP-0003", "because", MOMENT, "r" * 20)
        assert len([e for e in ledger.search(subject="permit:EWP-0003", act="permit suspended", limit=9)]) == 1

    def test_a_stop_waits_for_whoever_writes_at_the_same_moment(self, tablet, monkeypatch):
        """Somebody signs between its look and its act: it looks again, and stops."""
        real, raced = permits.permit, []

        def slow(number):
            found = real(number)
            if not raced:
                raced.append(number)
                found.version -= 1
            return found

        monkeypatch.setattr(permits, "permit", slow)
        assert tablets.stop(the_site(), tablet, "EWP-0003", "because", MOMENT, None)
        monkeypatch.undo()
        assert permits_of("EWP-0003").state == "suspended"

    def test_one_taken_out_of_use_is_none_and_signs_out_whoever_was_there(self, tablet):
        token = sessions.begin(the_site(), codes.short(actor("wanda")), "t", MOMENT, short=True, tablet_id=tablet.id)
        tablets.take_out(act("maren"), tablet.id, "Dropped into the harbour")
        assert sessions.of_token(the_site(), token, MOMENT) is None
        assert [t.ended_at is None for t in tablets.everything(the_site()) if t.id == tablet.id] == [False]
        with pytest.raises(NotFound):
            tablets.take_out(act("maren"), tablet.id, "Once more")

    def test_no_tablet_is_called_like_a_person_and_nobody_like_a_tablet(self, tablet):
        for name in ("Wanda Keogh", "WANDA keogh", tablet.name.upper(), "system"):
            with pytest.raises(InputError):
                tablets.register(act("maren"), name)
        with pytest.raises(InputError):
            people.add_person(act("maren"), "ghost", tablet.name, "a fine long password", ["worker"])


class TestOneTimeCodes:
    #: RFC 6238, appendix B (SHA-1, the secret "12345678901234567890"): second of the epoch, and the last six digits.
    VECTORS = (
        (59, "287082"),
        (1111111109, "081804"),
        (1111111111, "050471"),
        (1234567890, "005924"),
        (2000000000, "279037"),
    )
    SECRET = "GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ"

    @pytest.mark.parametrize(("second", "code"), VECTORS)
    def test_it_is_the_code_of_the_standard(self, second, code):
        moment = datetime.fromtimestamp(second, UTC)
        assert codes._counter(self.SECRET, code, moment) == second // 30

    def _set_up(self, login="ruth"):
        at = act(login)
        codes.keep_secret(at, PASSWORD, self.SECRET, pyotp.TOTP(self.SECRET).at(at.now))
        site_settings.change(act("tavi"), "one_time_code", "yes", "Signatures at a distance")

    def test_approving_asks_for_one_and_each_counts_once(self):
        self._set_up()
        seen = permits_of("EWP-0005")
        late = act("ruth", minutes=2)
        code = pyotp.TOTP(self.SECRET).at(late.now)
        for wrong in (
            "",
            "000000",
            pyotp.TOTP(self.SECRET).at(MOMENT),
            pyotp.TOTP(self.SECRET).at(late.now + timedelta(minutes=2)),
        ):
            with pytest.raises(Refusal, match="one-time"):
                permit_approval.approve(late, "EWP-0005", seen.version, seen.content_hash, PASSWORD, wrong)
        permit_approval.approve(late, "EWP-0005", seen.version, seen.content_hash, PASSWORD, code)
        assert permits_of("EWP-0005").state == "approved"
        with pytest.raises(Refusal, match="one-time"):
            codes.need(late, code)

    def test_whoever_has_none_does_not_approve(self):
        site_settings.change(act("tavi"), "one_time_code", "yes", "Signatures at a distance")
        seen = permits_of("EWP-0005")
        with pytest.raises(Refusal, match="none"):
            permit_approval.approve(act("ruth"), "EWP-0005", seen.version, seen.content_hash, PASSWORD, "123456")

    def test_who_guesses_waits(self):
        self._set_up()
        said = []
        for _ in range(8):
            with pytest.raises(Refusal) as refusal:
                codes.need(act("ruth", minutes=5), "000000")
            said.append("does not fit" in str(refusal.value))
        assert said == [True] * 5 + [False] * 3

    def test_the_secret_is_not_in_the_database_and_is_worth_nothing_with_other_keys(self, database):
        self._set_up()
        kept = store.otp_of(person("ruth"))
        assert kept and self.SECRET not in kept and self.SECRET.encode() not in database.read_bytes()
        assert keys.decrypted(database, kept) == self.SECRET
        other = database.with_name("other.sqlite3")
        keys.make(other, 0)
        with pytest.raises(Exception, match="other keys"):
            keys.decrypted(other, kept)

    def test_nobody_sets_up_another_over_it_and_only_somebody_else_takes_it_away(self):
        self._set_up()
        with pytest.raises(Refusal):
            codes.keep_secret(act("ruth"), PASSWORD, self.SECRET, pyotp.TOTP(self.SECRET).at(MOMENT))
        with pytest.raises(NotAllowed):
            codes.take_secret(act("ruth"), "ruth", "Lost it")
        codes.take_secret(act("maren"), "ruth", "Her telephone fell into the dock")
        assert store.otp_of(person("ruth")) == ""

    @pytest.mark.parametrize("secret", ["", "abc", "A" * 31, "1" * 32, "A" * 33, "a" * 32])
    def test_no_secret_of_another_form_is_kept(self, secret):
        with pytest.raises(InputError):
            codes.keep_secret(act("ruth"), PASSWORD, secret, "123456")


class TestInvitations:
    def test_whoever_is_invited_sets_their_own_password_once(self):
        token = invitations.invite(act("maren"), "nils")
        before = sessions.begin(the_site(), actor("nils"), "b", MOMENT)
        who = invitations.accept(the_site(), token, "rope over the harbour", MOMENT)
        assert who.login == "nils" and sessions.of_token(the_site(), before, MOMENT) is None
        assert people.sign_in(the_site(), "nils", "rope over the harbour", "10.0.0.1", MOMENT).id == person("nils")
        with pytest.raises(Refusal):
            invitations.accept(the_site(), token, "another long password", MOMENT)

    def test_a_link_ends_with_time_with_another_and_with_who_left(self):
        from spinel.actions import register

        first = invitations.invite(act("maren"), "nils")
        second = invitations.invite(act("maren"), "nils")
        for token in (first, "x" * 43, ""):
            with pytest.raises(Refusal):
                invitations.guest(the_site(), token, MOMENT)
        assert invitations.guest(the_site(), second, MOMENT + timedelta(days=2)).login == "nils"
        with pytest.raises(Refusal):
            invitations.guest(the_site(), second, MOMENT + timedelta(days=3, minutes=1))
        register.leave(act("maren"), "nils", "Moved away")
        register.come_back(act("maren"), "nils", "Back again")
        with pytest.raises(Refusal):
            invitations.guest(the_site(), second, MOMENT)

    def test_a_password_that_is_guessed_soon_uses_up_nothing(self):
        token = invitations.invite(act("maren"), "nils")
        with pytest.raises(InputError):
            invitations.accept(the_site(), token, "nils.abara.nils", MOMENT)
        assert invitations.accept(the_site(), token, "rope over the harbour", MOMENT)

    def test_a_coordinator_invites_others_and_nobody_themselves(self):
        with pytest.raises(InputError):
            invitations.invite(act("maren"), "maren")
        with pytest.raises(NotAllowed):
            invitations.invite(act("sorcha"), "nils")


def test_limits_of_a_session_are_the_sites_own_and_longer_for_who_directs():
    for login in ("ruth", "ivo"):
        site_settings.change(
            act("tavi", **{"minutes": 1 if login == "ivo" else 0}),
            "session_idle_h",
            "1" if login == "ruth" else "0.5",
            "Shorter here",
        )
    by = {login: sessions.begin(the_site(), actor(login), "b", MOMENT) for login in ("ruth", "ivo")}
    assert programs.directed_by(person("ivo")) and not programs.directed_by(person("ruth"))
    later = MOMENT + timedelta(minutes=45)
    assert sessions.of_token(the_site(), by["ruth"], later) is None
    assert sessions.of_token(the_site(), by["ivo"], later) is not None
