"""The checklist of a piece of equipment: what isolates it, what the site says of it, and whether anybody went by it."""

import io

import pytest
from PIL import Image

from demo_acts import act, element_id, the_site
from spinel.actions import attachments, procedures
from spinel.core.errors import InputError, NotAllowed
from spinel.store import database
from switching_acts import ready, run, start_job


def picture():
    out = io.BytesIO()
    Image.new("RGB", (64, 48), "white").save(out, "PNG")
    return out.getvalue()


pytestmark = pytest.mark.usefixtures("open_db")


def test_a_checklist_names_what_isolates_it_and_what_was_written():
    found = procedures.checklist(the_site(), element_id("MC1"))
    assert "F-A1" in [p.element.tag for p in found.devices]
    assert any("shutter" in line for line in found.own.lines) and found.by_class[0].lines
    assert "F-A1" in found.without_picture
    attachments.attach_picture(act("tavi"), element_id("F-A1"), "From the front", picture())
    found = procedures.checklist(the_site(), element_id("MC1"))
    assert [a.title for p in found.devices if p.element.tag == "F-A1" for a in p.pictures] == ["From the front"]
    assert "F-A1" not in found.without_picture
    battery = procedures.checklist(the_site(), element_id("BB-1"))
    assert battery.devices == () and battery.why_not


def test_the_last_that_was_written_counts_and_nothing_is_rewritten():
    where = element_id("MC1")
    procedures.write(act("maren"), where, "", ["Look first"], "Found so today")
    assert procedures.checklist(the_site(), where).own.lines == ("Look first",)
    procedures.write(act("sorcha"), where, "", [], "Nothing of it was right")
    assert procedures.checklist(the_site(), where).own.lines == ()
    with pytest.raises(Exception, match="append-only"):
        database.database.execute_sql("UPDATE procedure SET by = 'nobody'")


def test_what_is_not_written():
    where = element_id("MC1")
    for kind, lines, because, field in (
        ("switchboard of another", ["Look"], "So it is", "class"), ("", ["x" * 301], "So it is", "lines"),
        ("", ["Look"] * 41, "So it is", "lines"), ("", ["Look"], "", "because"),
    ):  # fmt: skip
        with pytest.raises(InputError) as error:
            procedures.write(act("maren"), where, kind, lines, because)
        assert error.value.field == field
    with pytest.raises(NotAllowed):
        procedures.write(act("wanda"), where, "", ["Look"], "So it is")


def test_the_first_time_is_over_once_somebody_isolated_it_by_the_checklist_as_it_stands():
    from datetime import timedelta

    from spinel.actions import programs
    from spinel.actions.acting import Act

    where = element_id("T1")
    assert procedures.first_time(the_site(), where)
    number = programs.draft(act("maren"), start_job("T1"))
    ready(number)
    assert procedures.first_time(the_site(), where)
    run(number)
    assert not procedures.first_time(the_site(), where)
    first = act("maren")
    later = Act(first.site, first.actor, first.now + timedelta(minutes=5))
    procedures.write(later, where, "", ["The drain has no lock"], "Seen today")
    assert procedures.first_time(the_site(), where)
