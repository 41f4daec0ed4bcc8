"""What takes long, papers and studies, is made by a process beside the server, one at a time: nobody who reads or signs
waits for it.

What was made is kept under the hash of what it follows from, so that the same is not made twice.
"""

from __future__ import annotations

import fcntl
import os
import time
from collections.abc import Callable, Iterator
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures import TimeoutError as NotYet
from concurrent.futures.process import BrokenProcessPool
from contextlib import contextmanager, suppress
from hashlib import sha256
from multiprocessing import get_context
from pathlib import Path
from threading import BoundedSemaphore, Lock
from typing import Any

from spinel import __version__

#: So many requests of a worker wait for what they asked for, so long; whoever asks beyond that is told to look again.
WAITING, PATIENCE_S = 2, 15.0
#: So long whoever waited may fetch it as it was when they asked, s.
FRESH_S = 300
#: So many of each kind stay.
RETAINED = 200

#: Told how far a work is, by a code.
Tell = Callable[[str], None]


class Cancelled(Exception):
    """Whoever asked for it wants it no more."""


class Heavy:
    """Of one server process. ``folder``: where what was made is kept, for all workers. A kind is the ending of its
    files."""

    def __init__(self, folder: Path):
        self._folder = folder
        self._pool: ProcessPoolExecutor | None = None
        self._asked: dict[str, Future[None]] = {}
        self._lock, self._slots = Lock(), BoundedSemaphore(WAITING)

    def key(self, *follows_from: str) -> str:
        return sha256("\n".join((__version__, *follows_from)).encode()).hexdigest()

    def made(self, kind: str, key: str) -> bytes | None:
        """What is there already."""
        file = self._file(kind, key)
        return file.read_bytes() if file.exists() else None

    def just_made(self, kind: str, key: str) -> bytes | None:
        """The same for whoever waited for it: an address that somebody kept shows nothing of days ago."""
        file = self._file(kind, key)
        return self.made(kind, key) if file.exists() and time.time() - file.stat().st_mtime < FRESH_S else None

    def coming(self, kind: str, key: str) -> bool:
        """Was it asked for, of this worker, and is not there yet?"""
        with self._lock:
            asked = self._asked.get(f"{key}.{kind}")
        return asked is not None and not asked.done()

    def stage(self, kind: str, key: str) -> str:
        """How far it is, as its work told last; empty while others are made before it."""
        with suppress(FileNotFoundError):
            return _told(self._file(kind, key)).read_text()
        return ""

    def make(
        self, kind: str, key: str, work: Callable[..., bytes], *args: Any, patience_s: float = PATIENCE_S
    ) -> bytes | None:
        """What ``work(tell, *args)`` gives, a function of a module; None when it is not there yet after a while, or
        others wait already. What the work raises is raised here."""
        if (found := self.made(kind, key)) is not None:
            return found
        asked = self._ask(kind, key, work, args)
        if not self._slots.acquire(blocking=False):
            return None
        try:
            asked.result(timeout=patience_s)
        except NotYet:
            return None
        finally:
            self._slots.release()
        return self.made(kind, key)

    def stop(self, kind: str, key: str) -> None:
        """Give up what is made, at its next stage, in whatever worker it was asked for."""
        with self._lock:
            asked = self._asked.pop(f"{key}.{kind}", None)
        file = self._file(kind, key)
        if (asked is None or not asked.cancel()) and _told(file).exists():
            _stopped(file).touch()

    def give_up(self) -> None:
        """The server ends: what is being made is left, to be asked for again."""
        with self._lock:
            pool, self._pool, self._asked = self._pool, None, {}
        if pool is None:
            return
        # without this the end of the server would wait for the end of what nobody waits for
        for process in list((getattr(pool, "_processes", None) or {}).values()):
            process.kill()
        pool.shutdown(wait=False, cancel_futures=True)

    def _ask(self, kind: str, key: str, work: Callable[..., bytes], args: tuple[Any, ...]) -> Future[None]:
        with self._lock:
            self._asked = {k: f for k, f in self._asked.items() if not f.done()}
            name = f"{key}.{kind}"
            if name not in self._asked:
                self._asked[name] = self._sent(self._file(kind, key), work, args)
            return self._asked[name]

    def _sent(self, file: Path, work: Callable[..., bytes], args: tuple[Any, ...]) -> Future[None]:
        self._folder.mkdir(mode=0o700, exist_ok=True)
        for _ in range(2):
            if self._pool is None:
                # begun anew, not forked: a server has threads, and what they hold would be held for ever
                self._pool = ProcessPoolExecutor(1, get_context("spawn"))
            try:
                return self._pool.submit(_made, str(file), work, args)
            except BrokenProcessPool:
                self._pool = None
        raise RuntimeError("the process beside the server does not start")

    def _file(self, kind: str, key: str) -> Path:
        if len(key) != 64 or not set(key) <= set("0123456789abcdef"):
            raise ValueError("no key of anything made")
        return self._folder / f"{key}.{kind}"


def _told(file: Path) -> Path:
    return file.with_name(f"{file.name}.at")


def _stopped(file: Path) -> Path:
    return file.with_name(f"{file.name}.stop")


def _made(to: str, work: Callable[..., bytes], args: tuple[Any, ...]) -> None:
    """In its own process, and one at a time on the machine, however many ask."""
    file = Path(to)
    with _one_at_a_time(file.parent / "making"):
        if file.exists():
            return
        half, told, stopped = file.with_name(f"{file.name}.half"), _told(file), _stopped(file)
        stopped.unlink(missing_ok=True)

        def tell(stage: str) -> None:
            if stopped.exists():
                raise Cancelled(stage)
            told.write_text(stage)

        try:
            found = work(tell, *args)
            with os.fdopen(os.open(half, os.O_CREAT | os.O_TRUNC | os.O_WRONLY, 0o600), "wb") as out:
                out.write(found)
            half.rename(file)
        finally:
            told.unlink(missing_ok=True)
            stopped.unlink(missing_ok=True)
        kept = sorted(file.parent.glob(f"*{file.suffix}"), key=lambda f: f.stat().st_mtime, reverse=True)
        for old in kept[RETAINED:]:
            old.unlink(missing_ok=True)


@contextmanager
def _one_at_a_time(lock: Path) -> Iterator[None]:
    with lock.open("w") as held:
        fcntl.flock(held, fcntl.LOCK_EX)
        yield
