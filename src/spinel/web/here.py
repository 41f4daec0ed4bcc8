"""The site that a request is for."""

from __future__ import annotations

from flask import current_app, g

from spinel.actions.site import Site, SiteNow


def site() -> Site:
    """The open database of this application."""
    found: Site = current_app.extensions["spinel"]
    return found


def here() -> SiteNow:
    """The site as it is now; NotFound before a network was published."""
    return site().as_it_is()


def published() -> bool:
    """Is there any network yet? Asked once a request."""
    if "published" not in g:
        g.published = site().published()
    return bool(g.published)
