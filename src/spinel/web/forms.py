"""Reading forms: every value is text from outside until it was parsed here or in core."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from datetime import UTC, date, datetime
from typing import Any
from zoneinfo import ZoneInfo

from flask import flash, redirect, request, session
from werkzeug.datastructures import MultiDict

from spinel.core import texts
from spinel.core.errors import InputError, NotAllowed, Refusal, Stale
from spinel.core.said import Said, Sayable, say
from spinel.web.filters import words
from spinel.wording.words import Words


@dataclass(frozen=True)
class Failed:
    """A form that was not accepted: which one, why, beside which field, and what was typed."""

    form: str
    error: InputError | Refusal | Stale
    typed: MultiDict[str, str]

    @property
    def field(self) -> str:
        return str(getattr(self.error, "field", None) or "")

    @property
    def message(self) -> Said:
        if isinstance(self.error, InputError):
            return say("forms-not-accepted", allowed=self.error.allowed)
        if isinstance(self.error, Refusal):
            return say("forms-refused", why=self.error.why, remedy=self.error.remedy)
        return say("forms-what-you-typed-is-kept-below-compare", error=self.error.said)

    @property
    def rule(self) -> Sayable:
        return self.error.rule if isinstance(self.error, Refusal) else ""


def attempt(form: str, do: Callable[[], Any], then: Callable[[Any], str], again: Callable[[Failed], Any]):
    """Do an action; go on when it holds, else show the page again with what was typed and the reason."""
    try:
        result = do()
    except NotAllowed:
        raise
    except (InputError, Refusal) as error:
        return again(Failed(form, error, request.form)), 422
    except Stale as error:
        return again(Failed(form, error, request.form)), 409
    # the next page tells the browser that what it kept of this form is saved
    session["saved"] = request.form.get("request_id", "")[:64]
    return redirect(then(result))


def saved() -> str:
    """The request id of the form that was just saved; once."""
    return str(session.pop("saved", ""))


def text(name: str, form: Mapping[str, str] | None = None) -> str:
    return (request.form if form is None else form).get(name, "").replace("\r\n", "\n").strip()


def whole(name: str) -> int:
    """A whole number from a hidden field; a forged one is an InputError."""
    raw = request.form.get(name, "")
    if not raw.isascii() or not raw.isdigit() or len(raw) > 9:
        raise InputError(name, raw, say("forms-a-whole-number-open-the-page-again"))
    return int(raw)


def people_ids(name: str) -> tuple[int, ...]:
    found = []
    for raw in request.form.getlist(name):
        if raw:
            if not raw.isascii() or not raw.isdigit() or len(raw) > 9:
                raise InputError(name, raw, say("forms-a-registered-person"))
            found.append(int(raw))
    return tuple(found)


def moment(name: str, zone: str) -> datetime:
    """A date and time as typed, in the site's zone, as a moment in UTC."""
    raw = text(name)
    try:
        local = datetime.strptime(raw, "%Y-%m-%dT%H:%M").replace(tzinfo=ZoneInfo(zone))
    except ValueError:
        raise InputError(name, raw, say("forms-a-date-and-a-time")) from None
    if not 2000 <= local.year <= 2200:
        raise InputError(name, raw, say("forms-a-date-and-a-time-of-this"))
    back = local.astimezone(UTC).astimezone(ZoneInfo(zone))
    if back.replace(tzinfo=None) != local.replace(tzinfo=None):
        raise InputError(name, raw, say("forms-a-time-that-exists-the-clocks-go"))
    return local.astimezone(UTC)


def day(name: str) -> date:
    """A day as typed."""
    raw = text(name)
    try:
        found = date.fromisoformat(raw)
    except ValueError:
        raise InputError(name, raw, say("forms-a-day")) from None
    if not 2000 <= found.year <= 2200:
        raise InputError(name, raw, say("forms-a-date-and-a-time-of-this"))
    return found


def lines(name: str) -> tuple[str, ...]:
    """One entry a line; empty lines are dropped."""
    found = tuple(texts.LINE.check(part, name) for part in text(name).split("\n") if part.strip())
    if len(found) > texts.MOST_LINES:
        raise InputError(name, len(found), say("forms-at-most-lines", most=texts.MOST_LINES))
    return found


def unsaid(typed: str, shown: Iterable[Sayable], shown_in: Words) -> Sayable:
    """What a form showed and nobody changed is what it was, with its code; anything else is somebody's own words."""
    return next((s for s in shown if " ".join(shown_in.say(s).split()) == " ".join(typed.split())), typed)


def said(message: Sayable) -> None:
    """A line at the top of the next page that says what was recorded."""
    flash(words().say(message))
