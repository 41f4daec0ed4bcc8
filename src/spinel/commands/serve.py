"""`spinel serve`: checks the database and its settings, then becomes the server; nothing heavy is loaded twice."""

from __future__ import annotations

import fcntl
import os
import sys
import time
from pathlib import Path

import click

from spinel.actions.version import check_version
from spinel.commands.common import database, says_errors

#: So long a server waits for one that is just ending, s.
PATIENCE_S = 15


@click.command()
@says_errors
def serve() -> None:
    """Serve the site. All settings are in the environment:

    \b
    SPINEL_DB        the database (var/spinel.sqlite3)
    SPINEL_PORT      port on 127.0.0.1 (8000); or
    SPINEL_BIND      address and port, or unix:/path, where it is not that
    SPINEL_WORKERS   processes (2)
    SPINEL_BASE_URL  the address that people open and papers print
    SPINEL_HOSTS     further names it may be opened by, with commas between
    SPINEL_PROXIES   how many reverse proxies stand before it (0)
    SPINEL_BACKUPS, SPINEL_BACKUPS_KEPT, SPINEL_ANCHOR_COMMAND: see `spinel keep` and docs/deploy.md
    """
    check_version(database())
    run_server(database())


def run_server(path: str) -> None:
    port = _number("SPINEL_PORT", 8000, 1, 65535)
    bind = os.environ.get("SPINEL_BIND", f"127.0.0.1:{port}")
    workers = _number("SPINEL_WORKERS", 2, 1, 64)
    _number("SPINEL_PROXIES", 0, 0, 9)
    os.environ["SPINEL_DB"] = path
    _alone(path)
    click.echo(f"Spinel listens on {bind if ':/' in bind else 'http://' + bind}")
    sys.stdout.flush()
    # loaded once, before it is divided into workers; what solves networks loads in each beside the first answers
    arguments = [
        sys.executable, "-m", "gunicorn", "--bind", bind, "--workers", str(workers), "--threads", "4",
        "--worker-class", "gthread", "--preload", "--config", "python:spinel.web.serving", "--graceful-timeout", "20",
        "--no-control-socket", "--log-level", "warning", "spinel.web.app:from_environment()",
    ]  # fmt: skip
    os.execv(sys.executable, arguments)


def _number(name: str, default: int, least: int, most: int) -> int:
    text = os.environ.get(name, str(default))
    if not (text.isascii() and text.isdigit() and len(text) < 9 and least <= int(text) <= most):
        raise click.ClickException(f"{name} is {text!r}: a number from {least} to {most}")
    return int(text)


def _alone(path: str) -> None:
    """One server a database: two would each keep half of who may try a password, and look after it twice. The lock is
    held by the open file, which the server and its workers inherit, and goes with the last of them."""
    Path(path).parent.mkdir(parents=True, exist_ok=True)
    held = os.open(f"{path}.serving", os.O_CREAT | os.O_RDWR, 0o600)
    os.set_inheritable(held, True)
    until = time.monotonic() + PATIENCE_S
    while True:
        try:
            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
            return
        except BlockingIOError:
            if time.monotonic() > until:
                raise click.ClickException(f"another server serves {path} already.") from None
            time.sleep(0.2)
