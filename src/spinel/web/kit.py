"""What the people of a permit put on, of what the site owns."""

from __future__ import annotations

from flask import Blueprint, g, render_template, url_for

from spinel.actions import kit, permits
from spinel.core.gear.items import due
from spinel.web import forms, verdicts
from spinel.web.gear import rated
from spinel.web.here import site
from spinel.web.session import act

pages = Blueprint("kit", __name__)
#: Of a bar, px, and cal/cm² at its end.
BAR, MOST_CAL_CM2 = 180.0, 45.0


@pages.get("/permits/<number>/kit")
def page(number: str):
    return _page(number)


def _page(number: str, failed: forms.Failed | None = None):
    seen = permits.view(site(), number, g.now)
    needed, wearers = kit.for_permit(site(), number, g.now)
    return render_template(
        "permits/kit.html", permit=seen, needed=needed, wearers=wearers, failed=failed, rated=rated, due=due,
        answer=verdicts.kit(seen.content["hazard"]["energy_cal_cm2"], wearers), bar=_bar,
    )  # fmt: skip


def _bar(rating: float | None) -> float:
    return min(BAR, BAR * (rating or 0.0) / MOST_CAL_CM2)


@pages.post("/permits/<number>/kit")
def take(number: str):
    person, item = forms.text("person"), forms.text("item")
    return forms.attempt(
        f"kit-{person}-{item}", lambda: kit.take(act(), number, person, item, forms.text("why")),
        lambda _: url_for("kit.page", number=number), lambda failed: _page(number, failed),
    )  # fmt: skip
