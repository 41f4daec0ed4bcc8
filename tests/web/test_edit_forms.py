"""A form that is saved as it was shown changes no line: what was said by code keeps its code."""

import re
from html import unescape

from demo_acts import MOMENT, the_site
from spinel.actions import permits, program_view
from spinel.core.said import Said

PERMIT, PROGRAM = "EWP-0005", "SP-0007"


def form_of(page, field):
    """What a browser would send of the form with this field, nothing typed."""
    form = next(f for f in re.findall(r"<form.*?</form>", page, re.S) if f'name="{field}"' in f)
    sent = {}
    for tag in re.findall(r"<input[^>]*>", form, re.S):
        name, value = (re.search(rf'{a}="([^"]*)"', tag) for a in ("name", "value"))
        ticked = "checked" in tag or not re.search(r'type="(checkbox|radio)"', tag)
        if name and ticked:
            sent.setdefault(name[1], []).append(unescape(value[1] if value else ""))
    for name, text in re.findall(r'<textarea[^>]*name="(\w+)"[^>]*>(.*?)</textarea>', form, re.S):
        sent[name] = [unescape(text).removeprefix("\n")]
    for name, options in re.findall(r'<select[^>]*name="(\w+)"[^>]*>(.*?)</select>', form, re.S):
        chosen = re.search(r'value="([^"]*)"\s+selected', options)
        sent[name] = [chosen[1] if chosen else ""]
    return sent


def coded(lines):
    return [line for line in lines if isinstance(line, Said)]


def test_a_permit_saved_as_it_was_shown_keeps_its_codes_and_a_line_typed_anew_is_somebodys_own(sign_in):
    maren, before = sign_in("maren"), permits.plan_of(permits.view(the_site(), PERMIT, MOMENT))
    assert coded(before.practices) and isinstance(before.keep_out, Said)
    form = form_of(maren.get(f"/permits/{PERMIT}/edit").text, "practices")
    assert maren.post(f"/permits/{PERMIT}/edit", form).status_code == 302
    after = permits.plan_of(permits.view(the_site(), PERMIT, MOMENT))
    assert (after.steps, after.practices, after.keep_out) == (before.steps, before.practices, before.keep_out)
    form = form_of(maren.get(f"/permits/{PERMIT}/edit").text, "practices")
    form["practices"] = [form["practices"][0] + "\nSing while you work"]
    assert maren.post(f"/permits/{PERMIT}/edit", form).status_code == 302
    after = permits.plan_of(permits.view(the_site(), PERMIT, MOMENT))
    assert after.practices == (*before.practices, "Sing while you work")


def test_a_remark_stands_beside_the_words_of_a_step_and_changes_none_of_them(sign_in):
    maren, before = sign_in("maren"), program_view.view(the_site(), PROGRAM).steps
    form = form_of(maren.get(f"/switching/{PROGRAM}?step=2").text, "remark")
    form["remark"] = ["CLOSE it, whatever stands here"]
    assert maren.post(f"/switching/{PROGRAM}/remark-step", form).status_code == 302
    after = program_view.view(the_site(), PROGRAM).steps
    assert after[1].remark == form["remark"][0]
    assert [(s.key, s.location, s.action, s.stand, s.identity) for s in after] == [
        (s.key, s.location, s.action, s.stand, s.identity) for s in before]  # fmt: skip
    page = maren.get(f"/switching/{PROGRAM}").text
    assert "Remark: CLOSE it, whatever stands here" in page
