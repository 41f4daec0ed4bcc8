"""A paper as PDF, drawn beside the server."""

from __future__ import annotations

import warnings
from pathlib import Path

from spinel.web.heavy import Tell

KIND = "pdf"


def as_pdf(tell: Tell, html: str, base: str) -> bytes:
    """The PDF of a page whose addresses of styles and fonts are files below ``base``, the only ones it may show."""
    # weasyprint loads slowly, so only where a PDF is wanted
    from weasyprint import HTML
    from weasyprint.urls import URLFetcher

    own = Path(base).as_uri() + "/"

    class OwnFiles(URLFetcher):
        """Styles and fonts from the application's own files; never the network."""

        def fetch(self, url: str, headers: object = None) -> object:
            if not url.startswith(own):
                raise ValueError(f"not fetched: {url}")
            return super().fetch(url, headers)

    tell("drawing")
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        document = HTML(string=html, base_url=own, url_fetcher=OwnFiles(allowed_protocols=("file",)))
        return bytes(document.write_pdf())
