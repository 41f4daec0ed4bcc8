"""Positions that the site names sign a permit in their order, each another person, before it is approved."""

from dataclasses import replace

import pytest

from demo_acts import PASSWORD, act, permits_of, person, the_site
from spinel.actions import crew_check, permit_approval, permits, positions, register, site_settings, waiting
from spinel.actions.board import board
from spinel.actions.equipment import equipment_classes
from spinel.core.errors import InputError, NotAllowed, Refusal

pytestmark = pytest.mark.usefixtures("open_db")

#: Nobody of them wrote EWP-0005, works on it or approves it here.
AREA, SAFETY = ("Area owner", ("edda",)), ("Safety", ("dagny", "jory"))


def decide(*wanted, by="maren"):
    positions.change(
        act(by), [(title, [person(p) for p in held]) for title, held in wanted], "As the works manager wants"
    )


def sign(login, number, seen=None, password=PASSWORD):
    seen = seen or permits_of(number)
    permit_approval.sign(act(login), number, seen.version, seen.content_hash, password)


def approve(login, number):
    seen = permits_of(number)
    permit_approval.approve(act(login), number, seen.version, seen.content_hash, PASSWORD)


def lacks(number):
    return [p.title for p in positions.lacking(the_site(), permits_of(number))]


def test_without_any_nothing_else_is_asked():
    number = "EWP-0005"
    with pytest.raises(Refusal, match="Every position"):
        sign("edda", number)
    approve("ruth", number)
    assert permits_of(number).state == "approved"


def test_they_sign_in_their_order_and_then_it_is_approved():
    decide(AREA, SAFETY)
    number = "EWP-0005"
    with pytest.raises(Refusal, match="Area owner has not signed"):
        approve("ruth", number)
    with pytest.raises(Refusal, match="turn of Area owner: Edda"):
        sign("dagny", number)
    sign("edda", number)
    assert lacks(number) == ["Safety"] and permits_of(number).state == "submitted"
    with pytest.raises(NotAllowed):
        # nobody for two of them
        sign("edda", number)
    with pytest.raises(Refusal, match="Safety has not signed"):
        approve("ruth", number)
    sign("jory", number)
    approve("ruth", number)
    assert permits_of(number).state == "approved"
    assert {t: r.name for t, r in permits_of(number).positions_signed.items()} == {
        "Area owner": "Edda Quist", "Safety": "Jory Pell",
    }  # fmt: skip


def test_a_wrong_password_or_another_content_signs_nothing():
    decide(AREA)
    number = "EWP-0005"
    with pytest.raises(Refusal, match="not your password"):
        sign("edda", number, password="not my password")
    seen = permits_of(number)
    with pytest.raises(Refusal, match="content changed"):
        permit_approval.sign(act("edda"), number, seen.version, "0" * 64, PASSWORD)
    assert lacks(number) == ["Area owner"]


def test_an_edit_voids_what_they_signed():
    decide(AREA)
    number = "EWP-0005"
    sign("edda", number)
    seen = permits_of(number)
    permits.edit(act("maren"), number, seen.version, replace(permits.plan_of(seen), special="Tide at six"))
    seen = permits_of(number)
    permit_approval.submit(act("maren"), number, seen.version)
    assert lacks(number) == ["Area owner"]


def test_whoever_wrote_it_or_signed_for_a_position_does_not_do_the_other():
    decide(("Planner", ("maren",)), ("Owner", ("ruth",)))
    number = "EWP-0005"
    with pytest.raises(NotAllowed, match="requester"):
        sign("maren", number)
    decide(("Owner", ("ruth",)))
    sign("ruth", number)
    with pytest.raises(NotAllowed, match="signed for a position"):
        approve("ruth", number)


def test_a_position_that_is_new_is_waited_for_before_it_is_issued():
    number = "EWP-0005"
    approve("ruth", number)
    decide(AREA)
    seen = permits_of(number)
    with pytest.raises(Refusal, match="Area owner has not signed"):
        permit_approval.issue(
            act("tavi"), number, seen.version, seen.content_hash, PASSWORD, seen.window_start, seen.window_end
        )
    assert permits_of(number).state == "approved"


def test_who_has_left_signs_nothing_and_a_position_of_theirs_is_nobodys():
    decide(AREA)
    number = "EWP-0005"
    register.leave(act("maren"), "edda", "Left for another yard")
    assert positions.holders(the_site(), positions.of_site(the_site())[0]) == ()
    here = the_site().as_it_is()
    kinds = equipment_classes(here.network, here.network.by_tag["MC1"])
    permit, _ = crew_check.crews_for(the_site(), kinds, "retorque", act("maren").now.date())
    assert "position:Area owner" in permit.gaps
    assert lacks(number) == ["Area owner"]


def test_it_waits_for_whoever_holds_the_position_whose_turn_it_is():
    decide(AREA, SAFETY)
    number = "EWP-0005"

    def waits(login):
        day = the_site().as_it_is().day(act(login).now)
        found = waiting.for_person(the_site(), act(login).actor, board(the_site(), act(login).now), day)
        return [w.what for w in found if w.number == number]

    assert (waits("edda"), waits("dagny"), waits("ruth")) == (["sign"], [], [])
    sign("edda", number)
    assert (waits("edda"), waits("dagny"), waits("ruth")) == ([], ["sign"], [])
    sign("dagny", number)
    assert waits("ruth") == ["approve"]


@pytest.mark.parametrize(
    ("wanted", "says"),
    [
        ([("A", ("edda",))], "2 to 60 characters"),
        ([("Area owner", ())], "at least one person"),
        ([("Area owner", ("edda",)), ("AREA OWNER", ("dagny",))], "no other position has"),
        ([(f"Number {i}", ("edda",)) for i in range(7)], "at most 6"),
    ],
)
def test_what_cannot_be_is_refused(wanted, says):
    with pytest.raises(InputError, match=says):
        decide(*wanted)
    assert positions.of_site(the_site()) == ()


def test_they_are_the_coordinators_to_name_with_a_reason():
    with pytest.raises(NotAllowed):
        decide(AREA, by="ruth")
    with pytest.raises(InputError):
        positions.change(act("maren"), [("Area owner", [person("edda")])], "")
    decide(AREA)
    known = site_settings.one(the_site(), positions.KEY)
    assert (known.changed_by, known.because) == ("Maren Oduya", "As the works manager wants")


def test_the_page_takes_them_in_the_order_of_their_numbers(sign_in):
    maren = sign_in("maren")
    rows = {
        "order_0": "2", "title_0": "Safety", "holders_0": str(person("dagny")),
        "order_1": "1", "title_1": "Area owner", "holders_1": str(person("edda")),
    }  # fmt: skip
    again = maren.post("/settings/positions", {**rows, "reason": ""})
    assert again.status_code == 422 and 'value="Safety"' in again.text
    for absurd in ("-1", "first", "1e9", ""):
        assert maren.post("/settings/positions", {**rows, "order_0": absurd, "reason": "They ask"}).status_code == 422
    assert maren.post("/settings/positions", {**rows, "reason": "They want to know"}).status_code == 302
    assert [p.title for p in positions.of_site(the_site())] == ["Area owner", "Safety"]
    number = "EWP-0005"
    assert "It is the turn of Area owner" in sign_in("ruth").get(f"/permits/{number}").text
    seen = permits_of(number)
    edda = sign_in("edda")
    assert "for Area owner" in edda.get("/").text and "for an authorizer" not in edda.get("/").text
    assert "Sign as Area owner" in edda.get(f"/permits/{number}").text
    data = {"version": seen.version, "content_hash": seen.content_hash, "password": PASSWORD}
    assert edda.post(f"/permits/{number}/sign", data).status_code == 302
    for page in (f"/permits/{number}", f"/permits/{number}/paper", f"/records/story/permit/{number}"):
        assert "Area owner" in edda.get(page).text, page


def test_the_sites_own_name_and_address_are_printed(sign_in):
    site_settings.change(act("maren"), "site_name", "Gannet Quay, north pier", "As the harbour calls it")
    site_settings.change(act("maren"), "site_address", "Pier Road 4", "For the fire brigade")
    paper = sign_in("edda").get("/permits/EWP-0004/paper").text
    assert "Gannet Quay, north pier, Pier Road 4." in " ".join(paper.split())
    assert "Gannet Quay, north pier" in sign_in("edda").get("/").text
    site_settings.change(act("maren"), "site_name", "", "The document has it")
    assert "Gannet Quay" not in sign_in("edda").get("/").text
