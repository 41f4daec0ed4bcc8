"""What a site decides for itself is changed on a page, with its reason, and says who did and why."""

import pytest

from demo_acts import act, the_site
from spinel.actions import assessing, gear, positions, site_settings
from spinel.core.errors import InputError, NotAllowed
from spinel.store import settings as store


def test_every_setting_but_the_mark_of_a_demo_stands_on_the_page_with_a_range_or_choices():
    assert {
        *site_settings.NUMBERS,
        *site_settings.CHOICES,
        *site_settings.TEXTS,
        positions.KEY,
        gear.MONTHS,
        assessing.WORDS,
    } == set(store.DEFAULTS) - {"demo"}
    for key, quantity in site_settings.NUMBERS.items():
        assert quantity.parse(str(store.DEFAULTS[key])) == store.DEFAULTS[key]
    for key, options in site_settings.CHOICES.items():
        assert store.DEFAULTS[key] in options


def test_a_change_is_shown_with_who_and_why(sign_in):
    maren = sign_in("maren")
    assert "As Spinel ships" in maren.get("/settings").text
    answer = maren.post("/settings/ceiling_cal_cm2", {"ceiling_cal_cm2": "25", "reason": "Our suits are rated 25"})
    assert answer.status_code == 302 and the_site().as_it_is().ceiling_cal_cm2 == 25
    page = sign_in("edda").get("/settings").text
    assert "Maren Oduya" in page and "Our suits are rated 25" in page and "Decide so" not in page


@pytest.mark.parametrize(("key", "value", "reason", "field"), [
    ("ceiling_cal_cm2", "0", "Our suits", "ceiling_cal_cm2"), ("ceiling_cal_cm2", "nan", "Our suits", "ceiling_cal_cm2"),
    ("ceiling_cal_cm2", "25 J/cm²", "Our suits", "ceiling_cal_cm2"), ("longest_window_h", "25", "Long days", "longest_window_h"),
    ("step_min", "2", "As it was timed", "step_min"), ("checks_by", "nobody", "Nobody there", "checks_by"),
    ("step_min", "3", " ", "reason"), ("demo", "false", "It is none", "setting"), ("session_key", "x", "To sign", "setting")])  # fmt: skip
def test_what_cannot_be_is_refused_beside_its_field(sign_in, key, value, reason, field):
    before = {s.key: s.value for s in site_settings.every(the_site())}
    with pytest.raises(InputError) as refused:
        site_settings.change(act("maren"), key, value, reason)
    assert refused.value.field == field
    assert sign_in("maren").post(f"/settings/{key}", {key: value, "reason": reason}).status_code == 422
    assert {s.key: s.value for s in site_settings.every(the_site())} == before


def test_only_a_coordinator_decides(sign_in):
    with pytest.raises(NotAllowed):
        site_settings.change(act("ruth"), "step_min", "3", "As it was timed")
