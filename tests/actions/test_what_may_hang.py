"""What somebody says was hung or taken off, and the record could not follow, may or may not hang: it is listed so, and
an isolation relies on none of it."""

import pytest

from demo_acts import act, the_site
from spinel.actions import board, console, program_view, programs
from spinel.actions.as_found import Moved
from spinel.actions.locks import lock_numbers
from switching_acts import readings, ready, run, start_job

pytestmark = pytest.mark.usefixtures("open_db")


def view(number):
    return program_view.view(the_site(), number)


def said_too_late(number):
    """The step was done; meanwhile somebody stopped the program."""
    seen = view(number)
    console.stop(act("jory"), number, "Somebody stands in the doorway")
    with pytest.raises(Moved):
        console.confirm(act("ivo"), number, seen.done + 1, seen.version, readings(seen.current))
    return seen.current


def hanging(number, kind):
    return [(h.element.tag, h.unsure) for h in board.board(the_site(), act("maren").now).hanging
            if (h.hold, h.kind) == (number, kind)]  # fmt: skip


@pytest.fixture
def number():
    made = programs.draft(act("maren"), start_job("T1"))
    ready(made)
    return made


def test_a_ground_that_was_put_on_too_late_may_hang(number):
    run(number, until="ground")
    step = said_too_late(number)
    assert hanging(number, "ground") == [(step.identity, True)]
    here = the_site().as_it_is()
    assert here.field.grounded([step.node_id]) is None and here.field.grounded([step.node_id], maybe=True) is not None


def test_a_block_that_was_put_on_too_late_may_hold_and_is_none():
    made = programs.draft(act("maren"), start_job("P-31"))
    ready(made)
    run(made, until="block")
    step = said_too_late(made)
    assert hanging(made, "block") == [(step.identity, True)]
    assert not the_site().as_it_is().now[step.element_id].blocked


def test_a_lock_that_was_taken_off_too_late_is_no_isolation_and_its_number_stays_taken():
    from spinel.actions import box

    made = programs.draft(act("maren"), start_job("P-31"))
    ready(made)
    run(made)
    box.take(act("sorcha"), made)
    box.complete(act("sorcha"), made)
    back = next(p.number for p in programs.lines(the_site()) if (p.hold, p.purpose) == (made, "restoration"))
    ready(back)
    run(back, until="lock")
    numbers = lock_numbers(made)
    step = said_too_late(back)
    assert hanging(made, "lock") == [(step.identity, True)] and lock_numbers(made) == numbers
    assert made not in the_site().as_it_is().now[step.element_id].locks
