"""Is the server well? For whatever watches it: no names, no figures of the site, and nobody signs in for it."""

from __future__ import annotations

import shutil
import time
from datetime import timedelta

from flask import Blueprint, current_app, jsonify

from spinel.actions import health
from spinel.web.here import site

pages = Blueprint("health", __name__)
#: Below this much disk left it is not well, MB.
LEAST_MB = 200


#: Whoever asks more often gets the same answer: to see whether the database takes entries is to wait in line, s.
FRESH_S = 5.0


@pages.get("/healthz")
def look():
    known = current_app.extensions.get("health")
    if known is not None and time.monotonic() - known[0] < FRESH_S:
        return jsonify(known[1]), known[2]
    told, status = _look()
    current_app.extensions["health"] = (time.monotonic(), told, status)
    return jsonify(told), status


def _look() -> tuple[dict[str, float | None], int]:
    now = current_app.config["CLOCK"]()
    seen = health.look(site(), now)
    free_mb = shutil.disk_usage(site().path.parent).free // 1_000_000
    well = seen.writable and free_mb >= LEAST_MB and not seen.astray and not seen.clock_in_doubt
    told = dict(
        well=well, database_writable=seen.writable, disk_free_mb=free_mb, verified_h=_hours(seen.verified),
        not_as_recorded=seen.astray, backup_h=_hours(seen.backup), clock_in_doubt=seen.clock_in_doubt,
    )  # fmt: skip
    return told, 200 if well else 503


def _hours(since: timedelta | None) -> float | None:
    return None if since is None else round(since.total_seconds() / 3600, 1)
