"""What a worker of the server does beside answering: get ready for the first page, and see that the record is looked
after daily, by a process of its own."""

from __future__ import annotations

import os
import subprocess
import sys
import time
from datetime import UTC, datetime
from threading import Thread
from typing import Any

from spinel.actions import upkeep
from spinel.actions.site import Site
from spinel.core.errors import SpinelError


def post_worker_init(worker: Any) -> None:
    """Called by gunicorn in each worker: what solves networks loads beside the first answers, not before them."""
    site: Site = worker.wsgi.extensions["spinel"]
    Thread(target=_warm, args=(site,), daemon=True).start()
    Thread(target=_look_after, args=(site, worker.log), daemon=True).start()


def worker_exit(server: Any, worker: Any) -> None:
    """Called by gunicorn when a worker ends."""
    for made in ("heavy", "studies"):
        worker.wsgi.extensions[made].give_up()


def _warm(site: Site) -> None:
    try:
        site.as_it_is()
    except SpinelError:
        # nothing is published yet: there is nothing to get ready
        return


#: How long after the start, and how often, it is asked whether the record is due to be looked after, s.
FIRST_S, EVERY_S = 20, 300


def _look_after(site: Site, log: Any) -> None:
    """Whichever worker comes first has it done; what comes of it is on the board, and in the log where it failed."""
    time.sleep(FIRST_S)
    while True:
        try:
            if upkeep.due(site.path, datetime.now(UTC)):
                environment = {**os.environ, "SPINEL_DB": str(site.path)}
                command = [sys.executable, "-m", "spinel", "keep", "--if-due"]
                done = subprocess.run(command, env=environment, capture_output=True, text=True, check=False)
                if done.returncode:
                    log.error("spinel keep: %s", done.stderr.strip())
        except Exception as error:
            # the next round may go well, and nobody else would have it tried
            log.error("spinel keep: %r", error)
        time.sleep(EVERY_S)
