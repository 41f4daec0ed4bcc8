"""Sentences out of codes and values, in the words of one practice and of one edition of the catalogue.

The catalogue is Project Fluent's (``catalogue/en``): a message a code, with functions for every kind of number. What
differs between practices is a term, taken from the profile. ``EDITION`` grows when a message that a signed record may
hold is worded anew; the message as it was then goes into ``catalogue/en/was/<edition>.ftl``, so that a permit signed
before still reads as it did.
"""

from __future__ import annotations

import logging
import re
from collections.abc import Callable, Mapping
from functools import cache, cached_property
from pathlib import Path
from typing import Any, ClassVar, TypeVar

from fluent.runtime import FluentBundle, FluentResource
from fluent.runtime.types import FluentType, fluent_number

from spinel.core.errors import SpinelError
from spinel.core.profile import NORTH_AMERICAN, Profile, profile
from spinel.core.said import EDITION, VERBATIM, Said, Sayable
from spinel.wording import formats

CATALOGUE = Path(__file__).parent / "catalogue"
#: A number that a function writes, and the space before its unit: they never stand on two lines.
_UNIT = re.compile(r"(\b[A-Z]+\([^(){}]*\) \}) (?=(?:cal/cm²|J/cm²|mm|m|k?A|k?V|ms|s|ft)\b)")
#: So many sentences are remembered for each practice.
_KEPT = 8000
#: And so many whole contents of permits and programs.
_KEPT_WHOLE = 200
T = TypeVar("T")
_log = logging.getLogger(__name__)


class _Several(FluentType):
    """Several things in one place; the catalogue says what stands between them."""

    def __init__(self, parts: list[str]):
        self.parts = parts

    def format(self, locale: Any) -> str:
        return ", ".join(self.parts)


class _Exactly(FluentType):
    """A number that only a function of the catalogue may write: none is rounded by chance."""

    def __init__(self, value: float):
        self.value = value

    def format(self, locale: Any) -> str:
        raise ValueError(f"{self.value!r} stands without a function that writes it")


def _exactly(said: Said) -> tuple[Any, ...]:
    """What tells one thing to say from any other."""
    # a text is equal to nothing but the same text
    return said.code, *[(name, v if v.__class__ is str else _told_apart(v)) for name, v in said.values.items()]


def _told_apart(value: Any) -> Any:
    """1, 1.0 and yes are equal, and said differently."""
    if isinstance(value, Said):
        return _exactly(value)
    if isinstance(value, tuple):
        return tuple, *map(_told_apart, value)
    return value.__class__, value


class Words:
    """The words of a practice. ``edition``: of the catalogue; the present one where none is given."""

    #: Tests make a message that cannot be said an error; a page in use shows its code and values instead.
    strict: ClassVar[bool] = False

    def __init__(self, profile: Profile, edition: int = EDITION, language: str = "en"):
        self.profile, self.edition, self.language = profile, edition, language
        # a page says the same things again and again, and the catalogue of an edition never changes under them
        self._made: dict[Any, str] = {}
        self._put: dict[int, tuple[Any, Any]] = {}

    def say(self, said: Sayable | None) -> str:
        """The sentence. A text is somebody's own words and stays as it is.

        >>> from spinel.core.profile import NORTH_AMERICAN
        >>> from spinel.core.said import say
        >>> words_of(NORTH_AMERICAN).say(say("one-of", options=("letter", "a4")))
        'one of letter, a4'
        """
        if not isinstance(said, Said):
            return said or ""
        if said.code == VERBATIM:
            return str(said.values["text"])
        if said.code == "joined":
            return self._value(said.values["between"]).join(self.each(said.values["parts"]))
        key = _exactly(said)
        if (made := self._made.get(key)) is not None:
            return made
        try:
            pattern = self._bundle.get_message(said.code).value
            assert pattern is not None, said.code
            values = {name: self._argument(v) for name, v in said.values.items()}
            text, problems = self._bundle.format_pattern(pattern, values)
            if not problems:
                if len(self._made) >= _KEPT:
                    self._made.clear()
                sentence = self._made[key] = str(text).strip()
                return sentence
            why: object = problems
        except LookupError as error:
            why = error
        if self.strict:
            raise LookupError(f"{said!s}: {why}")
        _log.error("cannot say %s: %s", said, why)
        return str(said)

    def plain(self, code: str) -> str:
        """The sentence of a code without values: most of what a page says."""
        return self._made.get((code,)) or self.say(Said(code, {}))

    def knows(self, code: str) -> bool:
        """Has the catalogue a message of this code?"""
        return bool(self._bundle.has_message(code))

    def each(self, several: Any) -> list[str]:
        """The sentences of several things to say, those without words left out."""
        return [text for s in several if (text := self._value(s))]

    def error(self, error: SpinelError) -> str:
        """What an error says: its rule, why, and what would make it acceptable."""
        return self.say(error.said)

    def term(self, term: str, form: str = "one") -> str:
        """A word that differs between practices. ``form``: one, many, verb, done; as the profile has them."""
        return self.profile.terms[term].form(form)

    def spoken(self, data: Any) -> Any:
        """Kept data with everything said in it put into words; the rest as it is."""
        if isinstance(data, Said):
            return self.say(data)
        if isinstance(data, Mapping):
            return {k: self.spoken(v) for k, v in data.items()}
        if isinstance(data, list | tuple):
            return type(data)(self.spoken(v) for v in data)
        return data

    def once(self, data: T, put: Callable[[T], Any]) -> Any:
        """What ``put`` makes of immutable data, made once while that very object is kept."""
        known = self._put.get(id(data))
        if known is None or known[0] is not data:
            if len(self._put) >= _KEPT_WHOLE:
                self._put.clear()
            known = self._put[id(data)] = (data, put(data))
        return known[1]

    def _value(self, value: Any) -> str:
        if isinstance(value, Said | str):
            return self.say(value)
        return "" if value is None else f"{value:g}" if isinstance(value, float) else str(value)

    def _argument(self, value: Any) -> Any:
        if isinstance(value, Said | str) or value is None:
            return self.say(value)
        if isinstance(value, bool):
            return "yes" if value else "no"
        if isinstance(value, tuple | list):
            return _Several(self.each(value))
        return _Exactly(value) if isinstance(value, float) else fluent_number(value, useGrouping=False)

    @cached_property
    def _bundle(self) -> FluentBundle:
        bundle = FluentBundle([self.language], functions=self._functions(), use_isolating=False)
        for resource in _resources(self.language, self.edition):
            bundle.add_resource(resource, allow_overrides=True)
        bundle.add_resource(FluentResource(_terms(self.profile)), allow_overrides=True)
        return bundle

    def number(self, text: str) -> str:
        """A number as the practice writes it: its decimal sign, its groups."""
        written = self.profile.written
        return text.translate({ord("."): written.decimal, ord(","): written.group})

    def _functions(self) -> dict[str, Callable[..., Any]]:
        def numeric(write: Callable[..., str]) -> Callable[..., str]:
            def written(*values: Any, **options: Any) -> str:
                plain = [v.value if isinstance(v, _Exactly) else v for v in values]
                return self.number(write(*(float(v) for v in plain), **{k: int(v) for k, v in options.items()}))

            return written

        def parts(several: Any) -> list[str]:
            return several.parts if isinstance(several, _Several) else [str(several)]

        return {
            "N": numeric(lambda v: f"{v:g}"),
            "SIGNED": numeric(lambda v: f"{v:+g}"),
            "BY": numeric(lambda v: f"{v:+.1f}"),
            "SIG": numeric(lambda v, digits: f"{v:.{digits}g}"),
            "FIX": numeric(lambda v, digits: f"{v:.{digits}f}"),
            "GROUPED": numeric(lambda v: f"{v:,.0f}"),
            "PERCENT": numeric(lambda v: f"{v:.0%}"),
            "ABOVE": numeric(formats.above),
            "ENERGY": numeric(formats.energy),
            "METRES": numeric(formats.metres),
            "APPROACH": numeric(formats.approach),
            "UP": numeric(lambda v, digits: f"{formats.up(v, digits):.{digits}f}"),
            "FEET": numeric(formats.feet),
            "VOLTS": numeric(formats.volts),
            "DURATION": numeric(lambda v: formats.duration(int(v))),
            "DAY": lambda text: formats.day(str(text), self.profile.written.date),
            "SHORTDAY": lambda text: formats.day(str(text), self.profile.written.day),
            "UPPER": lambda text: str(text).upper(),
            "LOWER": lambda text: str(text).lower(),
            "LOWERFIRST": lambda text: str(text)[:1].lower() + str(text)[1:],
            "CAPITAL1": lambda text: str(text)[:1].upper() + str(text)[1:],
            "LIST": lambda several, between=", ": str(between).join(parts(several)),
            "ANY": lambda several: " or ".join(_article(p) for p in parts(several)),
        }


def _article(name: str) -> str:
    lower = name[:1].lower() + name[1:] if not name[:2].isupper() else name
    return f"{'an' if lower[0] in 'aeiou' else 'a'} {lower}"


@cache
def _resources(language: str, edition: int) -> tuple[Any, ...]:
    """The catalogue of an edition: the present one, and over it what was worded otherwise then, newest first."""
    folder = CATALOGUE / language
    files = sorted(folder.glob("*.ftl"))
    files += [f for n in range(EDITION - 1, edition - 1, -1) if (f := folder / "was" / f"{n}.ftl").exists()]
    return tuple(FluentResource(_UNIT.sub(rf"\1{formats.NB}", f.read_text("utf-8"))) for f in files)


def _terms(profile: Profile) -> str:
    """The terms of a profile as the catalogue reads them: every form, and each with a capital or all in capitals."""
    lines = []
    for name, term in profile.terms.items():
        lines.append(f"-{name} = {{ $form ->")
        for form, text in term.forms():
            quoted = text.replace("\\", "\\\\").replace('"', '\\"')
            lines.append(f'   {"*" if form == "one" else " "}[{form}] {{ "{quoted}" }}')
        lines.append("}")
    return "\n".join(lines) + "\n"


_made: dict[tuple[str, str, int], Words] = {}


def words_of(practice: Profile, catalogue: int = EDITION) -> Words:
    """The words of a practice, made once."""
    key = practice.id, practice.edition, catalogue
    if key not in _made:
        _made[key] = Words(practice, catalogue)
    return _made[key]


def words_when_signed(content: Mapping[str, Any]) -> Words:
    """The words in which the content of a permit or a program was signed: its practice and edition, its catalogue."""
    spoken = content.get("words")
    if not spoken:
        # kept before words had editions: its sentences are texts
        return words_of(profile(content.get("profile", NORTH_AMERICAN.id)))
    return words_of(profile(spoken["practice"], spoken["edition"]), spoken["catalogue"])
