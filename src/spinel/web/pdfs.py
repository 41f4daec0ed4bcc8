"""Papers as PDF, drawn by a process beside the server, one at a time: nobody who reads or signs waits for them.

What was drawn is kept under the hash of what it shows, so that the same paper is not drawn twice.
"""

from __future__ import annotations

import fcntl
import os
import time
import warnings
from collections.abc import Iterator
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures import TimeoutError as NotYet
from concurrent.futures.process import BrokenProcessPool
from contextlib import contextmanager
from hashlib import sha256
from multiprocessing import get_context
from pathlib import Path
from threading import BoundedSemaphore, Lock

from spinel import __version__

#: So many requests of a worker wait for their paper, so long; whoever asks beyond that is told to look again soon.
WAITING, PATIENCE_S = 2, 15.0
#: So long whoever waited may fetch their paper as it was when they asked, s.
FRESH_S = 300
#: So many papers stay drawn.
RETAINED = 200


class Pdfs:
    """Of one server process. ``folder``: where drawn papers are kept, for all workers; ``base``: of styles and fonts,
    the only files that a paper may show."""

    def __init__(self, folder: Path, base: Path):
        self._folder, self._base = folder, base
        self._pool: ProcessPoolExecutor | None = None
        self._asked: dict[str, Future[None]] = {}
        self._lock, self._slots = Lock(), BoundedSemaphore(WAITING)

    def key(self, html: str) -> str:
        return sha256(f"{__version__}\n{html}".encode()).hexdigest()

    def drawn(self, key: str) -> bytes | None:
        """A paper that is there already."""
        file = self._file(key)
        return file.read_bytes() if file.exists() else None

    def just_drawn(self, key: str) -> bytes | None:
        """The same for whoever waited for it: an address that somebody kept shows no paper of days ago."""
        file = self._file(key)
        return self.drawn(key) if file.exists() and time.time() - file.stat().st_mtime < FRESH_S else None

    def coming(self, key: str) -> bool:
        """Was it asked for, of this worker, and is not there yet?"""
        with self._lock:
            asked = self._asked.get(key)
        return asked is not None and not asked.done()

    def draw(self, html: str) -> bytes | None:
        """The paper; None when it is not there yet after a while, or others wait already."""
        key = self.key(html)
        if (found := self.drawn(key)) is not None:
            return found
        asked = self._ask(key, html)
        if not self._slots.acquire(blocking=False):
            return None
        try:
            asked.result(timeout=PATIENCE_S)
        except NotYet:
            return None
        finally:
            self._slots.release()
        return self.drawn(key)

    def _ask(self, key: str, html: str) -> Future[None]:
        with self._lock:
            self._asked = {k: f for k, f in self._asked.items() if not f.done()}
            if key not in self._asked:
                self._asked[key] = self._sent(key, html)
            return self._asked[key]

    def _sent(self, key: str, html: str) -> Future[None]:
        self._folder.mkdir(mode=0o700, exist_ok=True)
        for _ in range(2):
            if self._pool is None:
                # begun anew, not forked: a server has threads, and what they hold would be held for ever
                self._pool = ProcessPoolExecutor(1, get_context("spawn"))
            try:
                return self._pool.submit(_draw, html, str(self._base), str(self._file(key)))
            except BrokenProcessPool:
                self._pool = None
        raise RuntimeError("the process that draws papers does not start")

    def _file(self, key: str) -> Path:
        if len(key) != 64 or not set(key) <= set("0123456789abcdef"):
            raise ValueError("no key of a paper")
        return self._folder / f"{key}.pdf"


def _draw(html: str, base: str, to: str) -> None:
    """In its own process, and one at a time on the machine, however many ask."""
    file = Path(to)
    with _one_at_a_time(file.parent / "drawing"):
        if file.exists():
            return
        half = file.with_suffix(".half")
        with os.fdopen(os.open(half, os.O_CREAT | os.O_TRUNC | os.O_WRONLY, 0o600), "wb") as out:
            out.write(as_pdf(html, Path(base)))
        half.rename(file)
        kept = sorted(file.parent.glob("*.pdf"), key=lambda f: f.stat().st_mtime, reverse=True)
        for old in kept[RETAINED:]:
            old.unlink(missing_ok=True)


@contextmanager
def _one_at_a_time(lock: Path) -> Iterator[None]:
    with lock.open("w") as held:
        fcntl.flock(held, fcntl.LOCK_EX)
        yield


def as_pdf(html: str, base: Path) -> bytes:
    """The PDF of a page whose addresses of styles and fonts are files below ``base``."""
    # weasyprint loads slowly, so only where a PDF is wanted
    from weasyprint import HTML
    from weasyprint.urls import URLFetcher

    class OwnFiles(URLFetcher):
        """Styles and fonts from the application's own files; never the network."""

        def fetch(self, url: str, headers: object = None) -> object:
            if not url.startswith(base.as_uri() + "/"):
                raise ValueError(f"not fetched: {url}")
            return super().fetch(url, headers)

    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        document = HTML(string=html, base_url=base.as_uri() + "/", url_fetcher=OwnFiles(allowed_protocols=("file",)))
        return bytes(document.write_pdf())
