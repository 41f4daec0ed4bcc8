"""The demo's site, moment and people, while its history is played."""

from __future__ import annotations

from datetime import datetime, timedelta

from spinel.actions.acting import Act, Actor
from spinel.actions.site import Site


class Demo:
    """Holds the demo's moment and its people while the history is played."""

    def __init__(self, site: Site, moment: datetime):
        self.site = site
        self.moment = moment.replace(microsecond=0)
        self.actors: dict[str, Actor] = {}

    def act(self, login: str, hours: float) -> Act:
        """An act of a person, so many hours after (before: negative) the demo's moment."""
        return Act(self.site, self.actors[login], self.moment + timedelta(hours=hours))

    def person(self, login: str) -> int:
        person_id = self.actors[login].id
        assert person_id is not None
        return person_id
