"""What the server writes of itself: one line of JSON an event, without anything secret.

Who tried what and was refused is among it; what somebody typed is not, neither a name they signed in with, for that may
have been their password.
"""

from __future__ import annotations

import logging
import sys
import time

from flask import Flask, request
from flask.wrappers import Response
from pythonjsonlogger.json import JsonFormatter

#: The logger of events that somebody looking after security reads.
events = logging.getLogger("spinel.events")
_FORM = "{asctime}{levelname}{name}{message}"
#: Addresses whose last part is a secret.
_SECRET = ("accounts.welcome", "accounts.calendar")


def to_stderr() -> None:
    """For a server on its own: every logger writes there, as JSON."""
    handler = logging.StreamHandler(sys.stderr)
    form = JsonFormatter(
        _FORM, "%Y-%m-%dT%H:%M:%SZ", style="{", rename_fields={"asctime": "at", "levelname": "level"}
    )  # fmt: skip
    form.converter = time.gmtime
    handler.setFormatter(form)
    root = logging.getLogger()
    root.handlers[:] = [handler]
    root.setLevel(logging.INFO)


def note(what: str, person_id: int | None = None, **more: str | int) -> None:
    """One event of this request: what, who, from where, at which address. Never what was typed."""
    where = str(request.endpoint) if request.endpoint in _SECRET else request.path
    told: dict[str, object] = {"person": person_id, "address": request.remote_addr, "method": request.method}
    events.warning(what, extra={**told, "path": where, **more})


def register(app: Flask) -> None:
    """Answers that failed on this side are noted; the others are the proxy's to count."""

    @app.after_request
    def failed(response: Response) -> Response:
        if response.status_code >= 500:
            note("failed", status=response.status_code)
        return response
