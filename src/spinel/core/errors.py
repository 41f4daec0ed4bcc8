"""Every error that Spinel raises on purpose. Each says which value is wrong and what to change.

SpinelError
  InputError        a value is not usable: field, value, what is allowed
    OutOfRange      a usable value outside the range of the method that was asked
  DocumentError     a network document with problems, all of them listed
  NotFound          no such record
  Stale             somebody else changed the record since it was read
  NewerRecord       a later version of Spinel wrote this record
  NotAsPublished    the published network was changed outside Spinel
  WrongVersion      a database of an earlier or later version of Spinel
  Refusal           a rule of the job says no: rule, why, what would make it acceptable
    NotAllowed      the person may not do this at all
"""

from __future__ import annotations

from dataclasses import dataclass


class SpinelError(Exception):
    """Base of every error raised on purpose."""


class InputError(SpinelError):
    """A value that cannot be used. ``field`` is the name of the parameter, form field or column."""

    def __init__(self, field: str, value: object, allowed: str):
        self.field, self.value, self.allowed = field, value, allowed
        super().__init__(f"{field} is {show(value)}: {allowed}")


class OutOfRange(InputError):
    """A value outside the range in which the method named in ``allowed`` holds."""


@dataclass(frozen=True)
class Problem:
    """One thing wrong in a network document, said so that its author can find and mend it."""

    element: str
    field: str
    value: str
    allowed: str

    def __str__(self) -> str:
        return f"{self.element}: {self.field} is {self.value}: {self.allowed}"


class DocumentError(SpinelError):
    """A network document that is not accepted; nothing of it is kept."""

    def __init__(self, problems: list[Problem]):
        self.problems = problems
        super().__init__("\n".join(str(p) for p in problems))


class NotFound(SpinelError):
    """No record of that kind with that name or number."""

    def __init__(self, kind: str, name: object):
        self.kind, self.name = kind, name
        super().__init__(f"There is no {kind} {show(name)}.")


class Stale(SpinelError):
    """The record was changed by somebody else after it was read; nothing was saved."""

    def __init__(self, kind: str, name: str, changed_by: str, changed_at: str):
        self.kind, self.name, self.changed_by, self.changed_at = kind, name, changed_by, changed_at
        super().__init__(f"{kind} {name} was changed by {changed_by} at {changed_at} after you opened it.")


class NewerRecord(SpinelError):
    """What is kept was written in a shape that this version does not know; it is not guessed at."""

    def __init__(self, kind: str, shape: object):
        self.kind, self.shape = kind, shape
        super().__init__(
            f"This {kind} was written by a later version of Spinel (shape {show(shape)}). Install that one."
        )


class NotAsPublished(SpinelError):
    """The published network is not the text that its hash names: it was changed outside Spinel, or damaged."""

    def __init__(self, revision_hash: str):
        super().__init__(
            f"The published network {revision_hash[:12]} is not as it was published. Nothing that rests on it is "
            "shown. Stop, treat everything as live, and put back a copy of the database."
        )


class WrongVersion(SpinelError):
    """A database that this version may not open as it is; nothing in it was changed."""


class Refusal(SpinelError):
    """A rule of the job says no. The rule is named, with what would make it acceptable."""

    def __init__(self, rule: str, why: str, remedy: str, field: str | None = None):
        self.rule, self.why, self.remedy, self.field = rule, why, remedy, field
        super().__init__(f"{why} ({rule}) {remedy}")


class NotAllowed(Refusal):
    """The person's roles, or what they did on this record before, forbid the act."""


def show(value: object) -> str:
    """The value as a person would recognise it in a message, never longer than a line."""
    if value is None or (isinstance(value, str) and value == ""):
        return "empty"
    text = value if isinstance(value, str) else repr(value)
    return text if len(text) <= 60 else text[:57] + "..."
