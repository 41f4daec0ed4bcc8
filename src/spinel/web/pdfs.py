"""A paper as PDF, drawn beside the server.

Styles and fonts take as long to read as a paper takes to be laid out, and are the same for all papers of a kind: they
are read once in the process, and kept.
"""

from __future__ import annotations

import atexit
import re
import warnings
from functools import lru_cache
from pathlib import Path
from typing import Any
from urllib.parse import unquote, urlsplit

from spinel.web.heavy import Tell
from spinel.web.paper_fonts import FONTS, path

KIND = "pdf"
#: The rule of a font; and a style sheet of a page, as its head names it.
_FACE = re.compile(r"@font-face\s*\{[^}]*\}")
_SHEET = re.compile(r'<link rel="stylesheet"\s+href="(file://[^"]+)">')


def as_pdf(tell: Tell, html: str, base: str) -> bytes:
    """The PDF of a page whose addresses of styles and fonts are files below ``base``, the only ones it may show."""
    # weasyprint loads slowly, so only where a PDF is wanted
    from weasyprint import HTML

    own = Path(base).as_uri() + "/"
    tell("drawing")
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        sheets, fonts = _read(tuple(_SHEET.findall(html)), own)
        document = HTML(string=_SHEET.sub("", html), base_url=own, url_fetcher=_own_files(own))
        return bytes(document.write_pdf(stylesheets=sheets, font_config=fonts))


@lru_cache(maxsize=6)
def _read(addresses: tuple[str, ...], own: str) -> tuple[list[Any], Any]:
    """Style sheets in their order, and the fonts that they bring."""
    from weasyprint import CSS
    from weasyprint.text.fonts import FontConfiguration

    fonts, fetch = FontConfiguration(), _own_files(own)
    faces = CSS(string=_faces(), font_config=fonts, url_fetcher=fetch)
    read = [CSS(string=_text(a, own), base_url=a, font_config=fonts, url_fetcher=fetch) for a in addresses]
    return [faces, *read], fonts


def _text(address: str, own: str) -> str:
    """A style sheet of the application's own, without fonts: a face of any weight would be made into one in each PDF,
    which takes longer than the layout of a page."""
    if not address.startswith(own):
        raise ValueError(f"not fetched: {address}")
    return _FACE.sub("", _at(address).read_text())


def _at(address: str) -> Path:
    return Path(unquote(urlsplit(address).path))


def _faces() -> str:
    """Rules for the fonts of paper."""
    return "\n".join(
        f'@font-face {{ font-family: "{family}"; font-weight: {weight}; src: url({path(family, weight).as_uri()}) }}'
        for family, weight in FONTS
    )


# what is kept goes while the libraries that it leans on are still there
atexit.register(_read.cache_clear)


def _own_files(own: str) -> Any:
    from weasyprint.urls import URLFetcher

    class OwnFiles(URLFetcher):
        """Styles and fonts from the application's own files, and pictures that a page brings; never the network."""

        def fetch(self, url: str, headers: object = None) -> object:
            if not url.startswith((own, "data:image/")):
                raise ValueError(f"not fetched: {url}")
            return super().fetch(url, headers)

    return OwnFiles(allowed_protocols=("file", "data"))
