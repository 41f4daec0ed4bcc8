"""Addresses as templates write them."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from flask import current_app, request, url_for

#: The page of what has a number, by what it is.
PAGES_OF = {"job": "jobs.folder", "permit": "permits.page", "program": "switching.program", "label": "labels.one"}


def of(endpoint: str, **values: Any) -> str:
    """The address of a page: a drawing alone holds dozens, and none of them changes while the server runs."""
    return _of(request.root_path, endpoint, tuple(values.items()))


@lru_cache(maxsize=4096)
def _of(root: str, endpoint: str, values: tuple[tuple[str, Any], ...]) -> str:
    return url_for(endpoint, **dict(values))


def outside(path: str) -> str:
    """A path as somebody opens it from elsewhere: under the site's own address, where one is set."""
    return (str(current_app.config["BASE_URL"]) or request.host_url.rstrip("/")) + path
