"""Finding jobs, permits and programs by what a person types."""

from __future__ import annotations

from dataclasses import dataclass

from spinel.store.models import Job, Permit, Program


@dataclass(frozen=True)
class Numbered:
    """``kind``: job, permit or program; ``detail``: its title, or its state."""

    kind: str
    number: str
    detail: str


def numbered(wanted: str) -> list[Numbered]:
    """Jobs whose number or title holds the text, permits and programs whose number does; newest first."""
    found = [
        Numbered("job", number, title)
        for number, title in Job.select(Job.number, Job.title).order_by(Job.id.desc()).tuples()
        if wanted in number.casefold() or wanted in title.casefold()
    ]
    for kind, model in (("permit", Permit), ("program", Program)):
        rows = model.select(model.number, model.state).order_by(model.id.desc()).tuples()
        found += [Numbered(kind, number, state) for number, state in rows if wanted in number.casefold()]
    return found
