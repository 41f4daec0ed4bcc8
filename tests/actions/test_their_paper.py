"""The intake is isolated by the utility, for us: asked, recorded who said so, their paper's number kept until it is given
back."""

import os

import pytest
from peewee import IntegrityError

from demo_acts import act, element_id, person, the_site
from spinel.actions import board, box, operation, program_view, programs, relief
from spinel.core.errors import InputError, Refusal
from spinel.store import holds
from spinel.store.holds import Place
from switching_acts import confirm, ready, run, start_job

pytestmark = pytest.mark.usefixtures("open_db")


MOMENT_TEXT = "2026-11-24T22:32:08Z"


def view(number):
    return program_view.view(the_site(), number)


def papers():
    seen = board.board(the_site(), act("maren").now).hanging
    return [(h.owner, h.number, h.hold) for h in seen if h.others]


def at_theirs(number, kind):
    while not (view(number).current.others and view(number).current.kind == kind):
        confirm(number)


@pytest.mark.long
def test_their_paper_is_taken_signed_over_and_given_back(sign_in):
    made = programs.draft(act("maren"), start_job("52-U"))
    maren = sign_in("maren")
    card = maren.get(f"/network?e={element_id('Q-U1')}").text
    assert "Skerrow Grid control room, 555-0160" in card and "One operation" not in card
    assert "ASK Skerrow Grid control room, 555-0160: OPEN" in maren.get(f"/switching/{made}").text
    ready(made)
    at_theirs(made, "operate")
    for said in ("", "x"):
        with pytest.raises(InputError) as refused:
            confirm(made, said_by=said)
        assert refused.value.field == "said_by"
    at_theirs(made, "lock")
    console = sign_in("ivo").get(f"/switching/{made}/console").text
    assert "Number of their paper" in console and "Who of theirs says so" in console
    with pytest.raises(InputError) as refused:
        confirm(made, lock="")
    assert refused.value.field == "lock" and papers() == []
    confirm(made, lock="G-2231")
    assert papers() == [("Bram Castel", "G-2231", made)]
    # the shift of who took it ends: it is signed over, and keeps its number; locks get new ones
    relief.offer(act("bram"), made, "operator", person("eero"))
    tags = relief.waiting(the_site(), view(made)).locks
    numbers = {f"lock_{i}": "G-2231" if tag == "Q-U1" else f"E-{i}" for i, tag in enumerate(tags)}
    wrong = {k: "E-0" for k in numbers}
    with pytest.raises(InputError):
        relief.take_over(act("eero"), made, view(made).version, wrong)
    relief.take_over(act("eero"), made, view(made).version, numbers)
    assert papers() == [("Eero Vance", "G-2231", made)]
    if os.environ.get("SOAK"):
        goes_back(made)


def goes_back(made):
    """The walk goes through all of it by the screens; here the acts do."""
    assert run(made).state == "done"
    box.take(act("sorcha"), made)
    box.complete(act("sorcha"), made)
    back = next(p.number for p in programs.lines(the_site()) if (p.hold, p.purpose) == (made, "restoration"))
    ready(back, operator="eero")
    at_theirs(back, "lock")
    assert papers()
    confirm(back)
    assert papers() == []
    assert run(back).state == "done"
    device = the_site().as_it_is().device(the_site().as_it_is().network.by_tag["Q-U1"])
    assert (device.position, device.checked, device.locks) == ("closed", True, ())


@pytest.mark.tampers
def test_one_paper_of_theirs_may_be_for_several_devices(open_db):
    """A number of ours hangs once; a paper is theirs to number."""
    at, me = MOMENT_TEXT, person("bram")
    with the_site().transaction():
        for device in ("one", "two"):
            holds.hang(Place("SP-1", "lock", device), "G-2231", me, "Bram", at, practice=False, others="The grid")
        holds.hang(Place("SP-1", "lock", "three"), "R-1", me, "Bram", at, practice=False)
        with pytest.raises(IntegrityError):
            holds.hang(Place("SP-2", "lock", "four"), "R-1", me, "Bram", at, practice=False)
    assert "G-2231" not in holds.numbers() and "R-1" in holds.numbers()
    with the_site().transaction():
        for device in ("one", "two", "three"):
            holds.take_off(Place("SP-1", "lock", device), at, "Bram")


def test_nobody_here_moves_it_by_a_single_operation():
    here = the_site().as_it_is()
    assert operation.choices(here.network.by_tag["Q-U1"]) == ()
    with pytest.raises((InputError, Refusal)):
        operation.operate(act("ivo"), element_id("Q-U1"), "open", person("bram"), "Everybody")
