"""People of a permit dressed of what the site owns; and an item issued for a permit that goes out of use suspends it."""

import pytest

from demo_acts import act, the_site
from spinel.actions import gear, kit, permits
from spinel.actions.verifying import verify
from spinel.core.errors import InputError, NotAllowed, Refusal

PERMIT = "EWP-0004"


def wearers():
    return {w.login: w for w in kit.for_permit(the_site(), PERMIT, act("maren").now)[1]}


def test_an_item_is_given_by_what_fits_and_a_heavier_one_with_its_reason(open_db):
    who = next(iter(wearers().values()))
    trunk = next(o for o in who.offers if o.need.zone == "trunk")
    given = next(i for i in trunk.fits if not i.holder)
    kit.take(act("maren"), PERMIT, who.login, given.number, "")
    assert (gear.one(the_site(), given.number).holder, gear.one(the_site(), given.number).held_for) == (
        who.name,
        PERMIT,
    )
    heavy = next(i for o in wearers()[who.login].offers for i in o.heavier)
    with pytest.raises(InputError):
        kit.take(act("maren"), PERMIT, who.login, heavy.number, "")
    kit.take(act("maren"), PERMIT, who.login, heavy.number, "The lighter one is in the wash")
    assert "wash" in gear.history(the_site(), heavy.number)[0].note
    for number in ("G-22", "M-12", "SH-02"):
        with pytest.raises(Refusal):
            kit.take(act("maren"), PERMIT, who.login, number, "Because I want it")
    with pytest.raises(InputError):
        kit.take(act("maren"), PERMIT, "edda", given.number, "")
    with pytest.raises(NotAllowed):
        kit.take(act("ivo"), PERMIT, who.login, "CO-13", "")


def test_what_was_issued_for_a_permit_and_goes_out_of_use_suspends_it(open_db):
    who = next(iter(wearers().values()))
    trunk = next(o for o in who.offers if o.need.zone == "trunk")
    number = next(i.number for i in trunk.fits if not i.holder)
    kit.take(act("maren"), PERMIT, who.login, number, "")
    touched = gear.bar(act("jory"), number, "A seam gives at the shoulder")
    assert (touched.held_for, touched.stopped, touched.holder) == (PERMIT, (PERMIT,), who.name)
    assert permits.view(the_site(), PERMIT, act("maren").now).state == "suspended"
    other = next(p for p in permits.in_states(the_site(), ("in_force",), act("maren").now))
    assert other.number != PERMIT
    assert verify(the_site().path).found == ()


def test_an_instrument_is_given_for_a_permit_only_where_it_does_for_what_is_exposed(open_db):
    """At 480 V a detector for 800 to 36000 V tells nothing; nor does a meter of a lower category or range."""
    at = permits.view(the_site(), PERMIT, act("maren").now).content["hazard"]
    assert at["voltage_v"] == 480
    with pytest.raises(Refusal, match="D-3"):
        kit.issue(act("maren"), "D-3", "wanda", f" {PERMIT.lower()} ")
    assert not gear.one(the_site(), "D-3").holder
    kit.issue(act("maren"), "M-12", "wanda", PERMIT)
    assert [i.number for i in gear.given_for(the_site(), PERMIT) if i.number == "M-12"] == ["M-12"]
    # for nothing in particular anybody may carry it
    kit.issue(act("maren"), "D-3", "wanda", "")
    assert gear.one(the_site(), "D-3").holder == "Wanda Keogh"
