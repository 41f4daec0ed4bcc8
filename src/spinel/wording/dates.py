"""Days and times in the site's zone, as the practice writes them. The zone always stands beside a whole date."""

from __future__ import annotations

from datetime import datetime
from zoneinfo import ZoneInfo

from spinel.wording.words import Words


def local(value: str | datetime, zone: ZoneInfo) -> datetime:
    """A kept moment (UTC, ISO text) in a zone."""
    moment = value if isinstance(value, datetime) else datetime.fromisoformat(value)
    return moment.astimezone(zone)


def offset(moment: datetime) -> str:
    """The zone as an offset: UTC−08:00."""
    raw = moment.strftime("%z")
    return f"UTC{'−' if raw[0] == '-' else '+'}{raw[1:3]}:{raw[3:]}"


def clock(moment: datetime, words: Words) -> str:
    return moment.strftime(words.profile.written.time)


def clock_s(moment: datetime, words: Words) -> str:
    return moment.strftime(words.profile.written.seconds)


def day_time(moment: datetime, words: Words) -> str:
    return f"{moment.strftime(words.profile.written.day)} {clock(moment, words)}"


def full_time(moment: datetime, words: Words) -> str:
    return f"{moment.strftime(words.profile.written.date)} {clock(moment, words)} {offset(moment)}"


def for_input(moment: datetime) -> str:
    """As a field of a form holds it."""
    return moment.strftime("%Y-%m-%dT%H:%M")
