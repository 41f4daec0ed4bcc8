"""Emergency plans by place: who writes them, what they may not leave out, and who is trained for it today."""

from datetime import date, timedelta

import pytest

from demo_acts import act, the_site
from spinel.actions import emergency
from spinel.actions.verifying import verify
from spinel.core.errors import InputError, NotAllowed
from spinel.store import database

TODAY = date(2026, 11, 24)


def test_a_plan_is_written_by_a_coordinator_for_a_place_and_says_who_is_called(open_db):
    place = emergency.everywhere(the_site())[0].location
    assert not emergency.of_place(the_site(), place).says, "those without a plan come first"
    for login in ("ivo", "sorcha", "edda"):
        with pytest.raises(NotAllowed):
            emergency.write(act(login), place, {"call": "911"})
    for says in ({}, {"call": "  "}, {"rescue": "North door"}):
        with pytest.raises(InputError):
            emergency.write(act("maren"), place, says)
    with pytest.raises(InputError):
        emergency.write(act("maren"), "A place of nowhere", {"call": "911"})
    emergency.write(act("maren"), place, {"call": "911", "rescue": "North door"})
    emergency.write(act("maren", minutes=1), place, {"call": "Harbor control, then 911"})
    assert dict(emergency.of_place(the_site(), place).says) == {"call": "Harbor control, then 911"}
    with the_site().connection(), pytest.raises(database.DatabaseError, match="append-only"):
        database.database.execute_sql("DELETE FROM emergency_plan")
    assert verify(the_site().path).found == ()


def test_who_is_named_as_trained_was_taught_both_and_is_in_date(open_db):
    named = {name for name, _ in emergency.trained(the_site(), TODAY)}
    assert {"Nils Abara", "Sorcha Maddern", "Jory Pell"} >= named and named, (
        "first aid alone or release alone names nobody"
    )
    assert "Wanda Keogh" not in named and "Ivo Tanaka" not in named
    assert emergency.trained(the_site(), TODAY + timedelta(days=4000)) == []
    assert emergency.trained(the_site(), TODAY - timedelta(days=4000)) == [], "nor before anybody was taught"


@pytest.mark.parametrize(("path", "high"), [("/permits/EWP-0004", False), ("/permits/EWP-0004/paper", False),
                                            ("/switching/SP-0003/paper", False), ("/switching/SP-0007/paper", True)])  # fmt: skip
def test_it_stands_on_permit_program_and_paper_with_what_is_never_done_above_1000_v(sign_in, path, high):
    text = sign_in("maren").get(path).text
    assert "In an emergency" in text and ("Above 1000" in text) is high
    assert ("Switch off first, always" in text) is not high
