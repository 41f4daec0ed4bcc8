"""Every error that Spinel raises on purpose. Each says which value is wrong and what to change.

SpinelError
  InputError        a value is not usable: field, value, what is allowed
    OutOfRange      a usable value outside the range of the method that was asked
  DocumentError     a network document with problems, all of them listed
  NotFound          no such record
  Stale             somebody else changed the record since it was read
  NewerRecord       a later version of Spinel wrote this record
  NotAsPublished    the published network was changed outside Spinel
  NotKept           nothing can be recorded just now: the database is locked, read-only or full
  WrongVersion      a database of an earlier or later version of Spinel
  Refusal           a rule of the job says no: rule, why, what would make it acceptable
    NotAllowed      the person may not do this at all
"""

from __future__ import annotations

from dataclasses import dataclass

from spinel.core.said import Said, Sayable, say


class SpinelError(Exception):
    """Base of every error raised on purpose. ``said``: what it says, for wording to put into a sentence."""

    def __init__(self, said: Said):
        self.said = said
        super().__init__(str(said))


class InputError(SpinelError):
    """A value that cannot be used. ``field`` is the name of the parameter, form field or column."""

    def __init__(self, field: str, value: object, allowed: Sayable):
        self.field, self.value, self.allowed = field, value, allowed
        super().__init__(say("not-usable", field=field, value=show(value), allowed=allowed))


class OutOfRange(InputError):
    """A value outside the range in which the method named in ``allowed`` holds."""


@dataclass(frozen=True)
class Problem:
    """One thing wrong in a network document, said so that its author can find and mend it."""

    element: str
    field: str
    value: Sayable
    allowed: Sayable

    @property
    def said(self) -> Said:
        return say("problem", element=self.element, field=self.field, value=self.value, allowed=self.allowed)


class DocumentError(SpinelError):
    """A network document that is not accepted; nothing of it is kept."""

    def __init__(self, problems: list[Problem]):
        self.problems = problems
        super().__init__(say("joined", parts=tuple(p.said for p in problems), between="\n"))


class NotFound(SpinelError):
    """No record of that kind with that name or number."""

    def __init__(self, kind: str, name: object):
        self.kind, self.name = kind, name
        super().__init__(say("not-found", kind=say(f"kind-of-record-{kind.replace(' ', '-')}"), name=show(name)))


class Stale(SpinelError):
    """The record was changed by somebody else after it was read; nothing was saved."""

    def __init__(self, kind: str, name: str, changed_by: str, changed_at: str):
        self.kind, self.name, self.changed_by, self.changed_at = kind, name, changed_by, changed_at
        kind_said = say(f"kind-of-record-{kind}")
        super().__init__(say("stale", kind=kind_said, name=name, changed_by=changed_by, changed_at=changed_at))


class NewerRecord(SpinelError):
    """What is kept was written in a shape that this version does not know; it is not guessed at."""

    def __init__(self, kind: str, shape: object):
        self.kind, self.shape = kind, shape
        super().__init__(say("newer-record", kind=kind, shape=show(shape)))


class NotAsPublished(SpinelError):
    """The published network is not the text that its hash names: it was changed outside Spinel, or damaged."""

    def __init__(self, revision_hash: str):
        super().__init__(say("not-as-published", hash=revision_hash[:12]))


class NotKept(SpinelError):
    """Nothing of an act was recorded, for a reason that lies with the machine. ``why``: in the words of the system."""

    def __init__(self, why: str):
        self.why = say("not-kept")
        self.remedy = say("not-kept-until-then")
        self.system = why
        super().__init__(say("not-kept-because", why=why))


class WrongVersion(SpinelError):
    """A database that this version may not open as it is; nothing in it was changed."""


class Refusal(SpinelError):
    """A rule of the job says no. The rule is named, with what would make it acceptable."""

    def __init__(self, rule: Sayable, why: Sayable, remedy: Sayable, field: str | None = None):
        self.rule, self.why, self.remedy, self.field = rule, why, remedy, field
        super().__init__(say("refusal", rule=rule, why=why, remedy=remedy))


class NotAllowed(Refusal):
    """The person's roles, or what they did on this record before, forbid the act."""


def show(value: object) -> Sayable:
    """The value as a person would recognise it in a message, never longer than a line."""
    if isinstance(value, Said):
        return value
    if value is None or (isinstance(value, str) and value == ""):
        return say("empty")
    text = value if isinstance(value, str) else repr(value)
    return text if len(text) <= 60 else text[:57] + "..."
