"""How every kind of value is written on pages and papers: one filter a kind, in the words of the site's practice."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from contextvars import ContextVar
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

from flask import Flask
from markupsafe import Markup, escape

from spinel.core import texts
from spinel.core.errors import NotAsPublished
from spinel.core.people import ROLES, role_name
from spinel.core.permit.life import NAMES
from spinel.core.profile import NORTH_AMERICAN, Profile
from spinel.core.said import Said, Sayable, say
from spinel.core.stored import parsed
from spinel.core.switching.life import NAMES as PROGRAM_NAMES
from spinel.core.switching.steps import Step
from spinel.web import here
from spinel.web.shapes import drawn
from spinel.wording import dates, formats
from spinel.wording.words import Words, words_of

#: Set at the first word of a request, and forgotten at its end.
_spoken: ContextVar[Words | None] = ContextVar("words of the request", default=None)
_zone: ContextVar[ZoneInfo | None] = ContextVar("zone of the request", default=None)


def words() -> Words:
    """The words of this request: of the site's practice."""
    found = _spoken.get()
    if found is None:
        found = words_of(_practice())
        _spoken.set(found)
    return found


def forget_words(_: BaseException | None = None) -> None:
    """The next request may be for another site."""
    _spoken.set(None)
    _zone.set(None)


def _practice() -> Profile:
    try:
        return here.here().profile if here.published() else NORTH_AMERICAN
    except NotAsPublished:
        return NORTH_AMERICAN


def spoken(value: Any) -> Any:
    """What a template prints: everything said becomes a sentence, the rest stays as it is."""
    return words().say(value) if isinstance(value, Said) else value


def phrase(code: str, /, **values: Any) -> str:
    """A sentence of the catalogue."""
    return words().say(say(code, **values)) if values else words().plain(code)


_OPENED = {"b": "<b>", **{k: f'<b class="is-{k}">' for k in ("live", "unk", "late")}}
#: A tag or a number of a record, which a line never breaks.
_TAG = re.compile(r"\b(?=[A-Za-z0-9./-]*\d)[A-Z][A-Za-z0-9./]*(?:-[A-Za-z0-9./]*[A-Za-z0-9])+")
_MARKED = re.compile(r"\[(b|live|unk|late)\](.*?)\[/\]")


def rich(value: Sayable) -> Markup:
    """A sentence with what stands out in it marked and tags kept whole; everything else of it escaped."""
    escaped = str(escape(words().say(value)))
    marked = _MARKED.sub(lambda m: f"{_OPENED[m[1]]}{m[2]}</b>", escaped)
    return Markup(_TAG.sub(r'<span class="nb">\g<0></span>', marked))


def term(name: str, form: str = "one") -> str:
    return words().term(name, form)


def _number(write: Callable[[float], str], missing: str = "") -> Callable[[float | None], str]:
    def written(value: float | None) -> str:
        if value is None:
            return phrase(missing) if missing else ""
        return words().number(write(value))

    return written


def above(value: float, limit: float) -> str:
    """An energy above a limit, so written that it reads as above it."""
    return words().number(formats.above(value, limit))


def as_in_document(value: Any) -> str:
    """A value as the network document has it."""
    return value if isinstance(value, str) else json.dumps(value, ensure_ascii=False)


def plain(value: float) -> str:
    """A number as it was given, without needless zeros."""
    return words().number(f"{value:g}")


def zone() -> ZoneInfo:
    """The site's zone, looked up once a request: a page writes a hundred times."""
    found = _zone.get()
    if found is None:
        found = ZoneInfo(here.here().network.site.time_zone if here.published() else "UTC")
        _zone.set(found)
    return found


def _moment(write: Callable[[datetime, Words], str]) -> Callable[[str | datetime], str]:
    return lambda value: write(dates.local(value, zone()), words())


clock = _moment(dates.clock)


def duration(minutes: int) -> str:
    return formats.duration(minutes)


def tag(value: str) -> Markup:
    return Markup('<span class="tag">{}</span>').format(escape(value))


def state_name(value: str) -> str:
    return words().say(NAMES.get(value, value))


def program_state(value: str) -> str:
    return words().say(PROGRAM_NAMES.get(value, value))


def role(value: str) -> str:
    return words().say(role_name(value))


def live_state(value: str) -> str:
    """A state of liveness as it is called: live, unknown, dead (not proved), proved dead, grounded."""
    return term(f"state_{value}")


def position(value: str | None) -> str:
    return phrase(f"position-{value or 'unknown'}")


def energy_kind(value: str) -> str:
    return phrase(f"energy-{value}")


def equipment_class(value: str) -> str:
    return words().profile.equipment_classes.get(value, value)


def recorded_of(step: Step) -> str:
    """The same with what it is about: an instrument on its source says nothing of the equipment."""
    if step.on_a_source:
        return phrase("recorded-instrument")
    return f"{step.identity} {recorded(step)}"


def detected(shown: float | str) -> str:
    """What a simulated instrument shows: volts, or whether a detector indicates."""
    return phrase(f"detector-{shown}") if isinstance(shown, str) else f"{plain(shown)} V"


def joined(values: list[Sayable], between: str = ", ") -> str:
    return between.join(words().each(values))


def recorded(step: Step) -> str:
    """The words of the confirmation: was opened is not verified open."""
    if step.kind == "operate" and step.value:
        return phrase("recorded-set-to", value=say(f"position-{step.value}"))
    return phrase(f"recorded-{step.acts[0] if step.acts else step.kind}")


def capital(value: Sayable) -> str:
    """With a capital first letter; the rest as it is."""
    text = words().say(value)
    return text[:1].upper() + text[1:]


def lower_first(value: Sayable) -> str:
    text = words().say(value)
    return text[:1].lower() + text[1:]


FILTERS: dict[str, Callable[..., Any]] = {
    "energy": _number(formats.energy, "no-figure"),
    "approach": _number(formats.approach),
    "metres": _number(formats.metres, "none"),
    "feet": _number(formats.feet),
    "feet_inches": _number(formats.feet_inches),
    "inches": _number(formats.inches),
    "kiloamps": _number(formats.kiloamps, "none"),
    "seconds": _number(formats.seconds, "never"),
    "volts": _number(formats.volts),
    "above": above,
    "as_in_document": as_in_document,
    "plain": plain,
    "clock": clock,
    "clock_s": _moment(dates.clock_s),
    "day_time": _moment(dates.day_time),
    "full_time": _moment(dates.full_time),
    "day": lambda value: formats.day(value, words().profile.written.date),
    "short_day": lambda value: formats.day(value, words().profile.written.day),
    "offset": lambda value: dates.offset(dates.local(value, zone())),
    "input_time": lambda value: dates.for_input(dates.local(value, zone())),
    "duration": duration,
    "tag": tag,
    "state_name": state_name,
    "program_state": program_state,
    "role": role,
    "live_state": live_state,
    "position": position,
    "energy_kind": energy_kind,
    "equipment_class": equipment_class,
    "joined": joined,
    "recorded": recorded,
    "recorded_of": recorded_of,
    "detected": detected,
    "say": spoken,
    "rich": rich,
    "drawn": drawn,
    "capital": capital,
    "lower_first": lower_first,
    "fromjson": parsed,
}


def register(app: Flask) -> None:
    app.jinja_env.filters.update(FILTERS)
    app.jinja_env.globals.update(ROLES=ROLES, texts=texts.ALL, t=phrase, term=term, practice=lambda: words().profile)
    app.jinja_env.finalize = spoken
    app.teardown_appcontext(forget_words)
