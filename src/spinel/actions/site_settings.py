"""What a site decides for itself: each setting with its range, and who changed it when and why."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from spinel.actions.acting import Act, work
from spinel.actions.site import Site, on_site
from spinel.actions.standing import NAMED, REFUSED
from spinel.core import stored as shapes
from spinel.core import texts
from spinel.core.errors import InputError
from spinel.core.labels import LANGUAGES, SIGNAL_RULES
from spinel.core.permit.life import APPROVALS
from spinel.core.quantities import CEILING_CAL_CM2, Quantity
from spinel.core.said import Sayable, say
from spinel.store import ledger, settings

#: Numbers that a site sets, in the order of the page.
NUMBERS: Mapping[str, Quantity] = {
    q.name: q for q in (
        CEILING_CAL_CM2, Quantity("longest_window_h", "h", 0.25, 24), Quantity("longest_stand_min", "min", 1, 240),
        Quantity("step_min", "min", 0.25, 60), Quantity("session_idle_h", "h", 0.25, 24),
        Quantity("session_whole_h", "h", 1, 72),
    )
}  # fmt: skip
#: Choices that a site makes. Who confirms the check steps of a program.
CHOICES: Mapping[str, tuple[str, ...]] = {
    "checks_by": ("director", "third_person"), "approvals": tuple(APPROVALS), "training_rule": (NAMED, REFUSED),
    "risk_rule": (NAMED, REFUSED),
    "one_time_code": ("no", "yes"), "label_signal": SIGNAL_RULES, "label_language": LANGUAGES,
    "study_signed_by": ("nobody", "engineer"),
}  # fmt: skip
#: Texts that a site sets; empty where it has none of its own.
TEXTS: Mapping[str, texts.Text] = {t.name: t for t in (texts.SITE_NAME, texts.SITE_ADDRESS)}
CHANGED = "setting changed"


@dataclass(frozen=True, kw_only=True)
class Decided:
    """A setting as it is. ``quantity``: of a number; ``options``: of a choice; ``text``: of a text. ``changed_by`` is
    empty for one that is as it ships."""

    key: str
    value: Any
    quantity: Quantity | None
    options: tuple[str, ...]
    text: texts.Text | None
    changed_by: str
    changed_at: str
    because: Sayable


@on_site
def every(site: Site) -> list[Decided]:
    """All of them, in the order of the page."""
    return [one(site, key) for key in (*TEXTS, *NUMBERS, *CHOICES)]


@on_site
def one(site: Site, key: str) -> Decided:
    last = next(iter(ledger.search(subject=f"setting:{key}", act=CHANGED, limit=1)), None)
    data = shapes.read("act", last.payload) if last else {}
    return Decided(
        key=key, value=settings.get(key), quantity=NUMBERS.get(key), options=CHOICES.get(key, ()), text=TEXTS.get(key),
        changed_by=last.actor if last else "", changed_at=last.at if last else "",
        because=data.get("because", ""),
    )  # fmt: skip


@on_site
def change(act: Act, key: str, value: Any, reason: str) -> None:
    """From now on the site decides so; whatever was signed before stays as it was signed."""
    act.actor.needs("coordinator", what=say("setup-change-settings"))
    if key in NUMBERS:
        value = NUMBERS[key].parse(value)
    elif key in TEXTS:
        value = TEXTS[key].check(value)
    elif key not in CHOICES:
        raise InputError("setting", key, say("one-of", options=(*NUMBERS, *CHOICES, *TEXTS)))
    elif value not in CHOICES[key]:
        raise InputError(key, value, say("one-of", options=CHOICES[key]))
    text = texts.REASON.check(reason)
    with work(act) as unit:
        if unit.done:
            return
        if settings.get(key) == value:
            raise InputError(key, str(value), say("setup-another-value-than-now"))
        settings.put(key, value)
        unit.record(CHANGED, f"setting:{key}", {"value": value, "because": text})
