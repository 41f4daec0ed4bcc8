"""Relief in the middle: both sign, and no isolation lock is ever without its owner."""

import pytest

from demo_acts import act, person, the_site
from saying import en
from spinel.actions import box, console, program_view, programs, relief
from spinel.actions.locks import isolation_locks, lock_numbers
from spinel.core.errors import InputError, NotAllowed, NotFound, Refusal
from switching_acts import confirm, ready, run, under_way

pytestmark = pytest.mark.usefixtures("open_db")


def view(number):
    return program_view.view(the_site(), number)


@pytest.fixture
def number():
    """An isolation under way, with locks of its operator hanging."""
    made = under_way("MC2-1D", until="barricade")
    assert isolation_locks(made)
    return made


def test_the_other_operator_hangs_locks_beside_and_takes_them_off_in_the_end(number):
    tags = [the_site().as_it_is().network.element[row.element_id].tag for row in isolation_locks(number)]
    elsewhere = {"R-45"}  # of the demo's own program that is under way
    before = lock_numbers(number) - elsewhere
    relief.offer(act("bram"), number, "operator", person("eero"))
    waits = relief.waiting(the_site(), view(number))
    assert (waits.part, waits.by, waits.to, list(waits.locks)) == ("operator", "Bram Castel", "Eero Vance", tags)
    assert view(number).operator_id == person("bram")  # nothing has changed hands yet
    version = view(number).version
    with pytest.raises(Refusal, match="between"):
        relief.take_over(act("ivo"), number, version, {})
    for lock in ("", next(iter(before))):
        with pytest.raises(InputError) as refused:
            relief.take_over(act("eero"), number, version, {f"lock_{i}": lock for i in range(len(tags))})
        assert refused.value.field == "lock_0"
    relief.take_over(act("eero"), number, version, {f"lock_{i}": f"E-{i}" for i in range(len(tags))})
    assert view(number).operator_id == person("eero")
    assert {hung.person_id for hung in isolation_locks(number)} == {person("eero")}
    assert {f"E-{i}" for i in range(len(tags))} <= lock_numbers(number) and not before & lock_numbers(number)
    assert relief.waiting(the_site(), view(number)) is None
    run(number)
    box.take(act("sorcha"), number)
    box.complete(act("sorcha"), number)
    back = next(p.number for p in programs.lines(the_site()) if (p.hold, p.purpose) == (number, "restoration"))
    # whoever hung them is gone; only who has them now takes them off
    ready(back, operator="bram")
    run(back, until="lock")
    with pytest.raises(Refusal, match="removed by whoever hung"):
        confirm(back)
    console.change_operator(act("ivo"), back, view(back).version, person("eero"))
    assert run(back).state == "done"


def test_a_director_hands_over_to_another_who_confirms_from_there_on(number):
    with pytest.raises(InputError):
        relief.offer(act("ivo"), number, "director", person("jory"))  # no director
    with pytest.raises(InputError):
        relief.offer(act("ivo"), number, "director", person("ivo"))
    with pytest.raises(Refusal, match="You are not"):
        relief.offer(act("maren"), number, "director", person("ivo"))
    other = next(p for p in people_with("director") if p.id != person("ivo"))
    relief.offer(act("ivo"), number, "director", other.id)
    confirm(number)  # until the other has signed it is still Ivo's
    relief.take_over(act(other.login), number, view(number).version, {})
    assert view(number).director_id == other.id
    with pytest.raises(NotAllowed, match="directs this program"):
        confirm(number)
    confirm(number, login=other.login)
    with pytest.raises(NotFound):
        relief.take_over(act(other.login), number, view(number).version, {})


def people_with(role):
    from spinel.actions import people

    return [p for p in people.everybody(the_site()) if role in p.roles]


def test_an_offer_can_be_taken_back_and_lapses_with_whoever_made_it(number):
    relief.offer(act("bram"), number, "operator", person("eero"))
    with pytest.raises(Refusal, match="between"):
        relief.withdraw(act("edda"), number)
    relief.withdraw(act("eero"), number)
    assert relief.waiting(the_site(), view(number)) is None
    relief.offer(act("bram"), number, "operator", person("eero"))
    console.change_operator(act("ivo"), number, view(number).version, person("eero"))
    assert relief.waiting(the_site(), view(number)) is None  # he is not the operator any more
    assert {hung.person_id for hung in isolation_locks(number)} == {person("bram")}
    # whoever was replaced hands on the own locks, and nothing else
    assert relief.parts_of(the_site(), view(number), person("bram")) == ("operator",)
    relief.offer(act("bram"), number, "operator", person("eero"))
    assert relief.waiting(the_site(), view(number)).locks_only
    relief.take_over(act("eero"), number, view(number).version, {f"lock_{i}": f"X-{i}" for i in range(9)})
    assert {hung.person_id for hung in isolation_locks(number)} == {person("eero")}
    assert relief.parts_of(the_site(), view(number), person("bram")) == ()


def test_who_is_in_charge_hands_the_box_over(number):
    run(number)
    box.take(act("sorcha"), number)
    box.hang(act("jory"), number, "J-9")
    others = [p for p in people_with("person_in_charge") if p.id != person("sorcha")]
    relief.offer(act("sorcha"), number, "in_charge", others[0].id)
    with pytest.raises(Refusal):
        box.complete(act(others[0].login), number)
    relief.take_over(act(others[0].login), number, view(number).version, {})
    held = box.view(the_site(), number)
    assert held.in_charge_id == others[0].id and [p.lock for p in held.locks] == ["J-9"]
    with pytest.raises(Refusal):
        box.complete(act("sorcha"), number)
    box.remove(act("jory"), number)
    box.complete(act(others[0].login), number)


def test_its_forms_show_who_waits_for_whom(number, sign_in):
    bram = sign_in("bram")
    assert "Hand over to somebody else" in bram.get(f"/switching/{number}").text
    version = str(view(number).version)
    answer = bram.post(
        f"/switching/{number}/relief", data={"version": version, "part": "operator", "to": str(person("eero"))}
    )
    assert answer.status_code == 302, answer.text
    page = sign_in("eero").get(f"/switching/{number}").text
    assert "I take over, and sign" in page and "Number of your lock on" in page
    assert "who has not signed yet" in sign_in("edda").get(f"/switching/{number}").text
    refused = sign_in("eero").post(f"/switching/{number}/take-over", data={"version": version, "lock_0": ""})
    assert refused.status_code == 422 and "wrong-take-over-lock_0" in refused.text
    assert en(relief.waiting(the_site(), view(number)).by) == "Bram Castel"
