"""`spinel serve`: checks the database, then becomes the server; nothing heavy is loaded twice."""

from __future__ import annotations

import os
import sys

import click

from spinel.actions.version import check_version
from spinel.commands.common import database, says_errors


@click.command()
@says_errors
def serve() -> None:
    """Serve the site on 127.0.0.1 (SPINEL_PORT, default 8000; SPINEL_DB; SPINEL_BASE_URL)."""
    check_version(database())
    run_server(database())


def run_server(path: str) -> None:
    port = os.environ.get("SPINEL_PORT", "8000")
    if not port.isascii() or not port.isdigit() or not 0 < int(port) < 65536:
        raise click.ClickException(f"SPINEL_PORT is {port!r}: a port number from 1 to 65535")
    os.environ["SPINEL_DB"] = path
    click.echo(f"Spinel listens on http://127.0.0.1:{port}")
    sys.stdout.flush()
    # loaded once, before it is divided into workers; what solves networks loads in each beside the first answers
    arguments = [
        sys.executable, "-m", "gunicorn", "--bind", f"127.0.0.1:{port}", "--workers", "2", "--threads", "4",
        "--worker-class", "gthread", "--preload", "--config", "python:spinel.web.serving",
        "--no-control-socket", "--log-level", "warning", "spinel.web.app:from_environment()",
    ]  # fmt: skip
    os.execv(sys.executable, arguments)
