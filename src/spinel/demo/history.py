"""The demo's site, moment and people, while its history is played in the order of time."""

from __future__ import annotations

from collections.abc import Callable
from contextvars import copy_context
from datetime import datetime, timedelta
from threading import Condition, Thread, current_thread

from spinel.actions.acting import Act, Actor
from spinel.actions.site import Site


class Demo:
    """Holds the demo's moment and its people while the history is played."""

    def __init__(self, site: Site, moment: datetime):
        self.site = site
        self.moment = moment.replace(microsecond=0)
        self.actors: dict[str, Actor] = {}
        self._turns = _Turns()

    def act(self, login: str, hours: float) -> Act:
        """An act of a person, so many hours after (before: negative) the demo's moment. In a story it waits until what
        the other stories do before that moment is done."""
        self._turns.wait_for(hours)
        return Act(self.site, self.actors[login], self.moment + timedelta(hours=hours))

    def person(self, login: str) -> int:
        person_id = self.actors[login].id
        assert person_id is not None
        return person_id

    def play(self, *stories: Callable[[Demo], None]) -> None:
        """Each story is told as if it were alone; what they do together comes in the order of time, as people do it."""

        def told(story: Callable[[Demo], None]) -> None:
            with self.site.connection():
                story(self)

        self._turns.play([lambda s=story: told(s) for story in stories])  # type: ignore[misc]


class _Turns:
    """One story goes on at a time: that which comes next."""

    def __init__(self) -> None:
        self._changed = Condition()
        #: What each story waits for, in their order; None while it goes on.
        self._waiting: dict[Thread, float | None] = {}
        self._failed: BaseException | None = None

    def wait_for(self, hours: float) -> None:
        me = current_thread()
        if me not in self._waiting:
            return
        with self._changed:
            self._waiting[me] = hours
            self._changed.notify_all()
            self._changed.wait_for(lambda: self._waiting[me] is None or self._failed is not None)
        if self._failed is not None:
            raise SystemExit

    def play(self, stories: list[Callable[[], None]]) -> None:
        threads = [Thread(target=copy_context().run, args=(self._tell, story), daemon=True) for story in stories]
        self._waiting = dict.fromkeys(threads)
        for thread in threads:
            thread.start()
        with self._changed:
            while self._waiting and self._failed is None:
                self._changed.wait_for(lambda: self._failed or None not in self._waiting.values())
                due = [(hours, thread) for thread, hours in self._waiting.items() if hours is not None]
                if due:
                    self._waiting[min(due, key=lambda d: d[0])[1]] = None
                    self._changed.notify_all()
        for thread in threads:
            thread.join()
        if self._failed is not None:
            raise self._failed

    def _tell(self, story: Callable[[], None]) -> None:
        try:
            story()
        except BaseException as error:
            self._failed = self._failed or error
        finally:
            with self._changed:
                self._waiting.pop(current_thread(), None)
                self._changed.notify_all()
