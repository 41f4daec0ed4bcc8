"""What a worker of the server does when it starts: get ready for the first page while sign-in answers already."""

from __future__ import annotations

from threading import Thread
from typing import Any

from spinel.actions.site import Site
from spinel.core.errors import SpinelError


def post_worker_init(worker: Any) -> None:
    """Called by gunicorn in each worker: what solves networks loads beside the first answers, not before them."""
    site: Site = worker.wsgi.extensions["spinel"]
    Thread(target=_warm, args=(site,), daemon=True).start()


def _warm(site: Site) -> None:
    try:
        site.as_it_is()
    except SpinelError:
        # nothing is published yet: there is nothing to get ready
        return
