"""A paper as PDF, drawn beside the server.

Styles and fonts take as long to read as a paper takes to be laid out, and are the same for all papers of a kind: they
are read once in the process, and kept.
"""

from __future__ import annotations

import atexit
import io
import re
import warnings
from base64 import b64encode
from functools import lru_cache
from pathlib import Path
from typing import Any
from urllib.parse import unquote, urlsplit

from spinel.web.heavy import Tell

KIND = "pdf"
#: A style sheet of a page, as its head names it.
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
    faces = CSS(string=_faces(own), font_config=fonts, url_fetcher=fetch)
    read = [CSS(string=_text(a, own), base_url=a, font_config=fonts, url_fetcher=fetch) for a in addresses]
    return [faces, *read], fonts


#: Weights that paper has: a font that may have any is made into one of these in each PDF, which costs more than the
#: layout of a page; made once in the process, they cost nothing. Any other weight of a style is the nearest.
WEIGHTS = (400, 640, 760)
_VARIABLE = re.compile(r'@font-face\s*\{[^}]*font-family:\s*"([^"]+)"[^}]*url\(([^)]*-wght-[^)]*)\)[^}]*\}')


def _text(address: str, own: str) -> str:
    """A style sheet of the application's own, without the fonts that ``_faces`` gives."""
    if not address.startswith(own):
        raise ValueError(f"not fetched: {address}")
    return _VARIABLE.sub("", _at(address).read_text())


def _at(address: str) -> Path:
    return Path(unquote(urlsplit(address).path))


@lru_cache(maxsize=2)
def _faces(own: str) -> str:
    """Rules for the fonts of the site's tokens, each in the weights of paper."""
    from fontTools.ttLib import TTFont
    from fontTools.varLib.instancer import instantiateVariableFont

    tokens = _at(own) / "css" / "tokens.css"
    rules: list[str] = []
    if not tokens.exists():
        return ""
    for family, url in _VARIABLE.findall(tokens.read_text()):
        for weight in WEIGHTS:
            font = instantiateVariableFont(TTFont(tokens.parent / url), {"wght": weight}, static=True)
            font.flavor, made = None, io.BytesIO()
            font.save(made)
            held = b64encode(made.getvalue()).decode()
            data = f"data:font/ttf;base64,{held}"
            rules.append(f'@font-face {{ font-family: "{family}"; font-weight: {weight}; src: url({data}) }}')
    return "\n".join(rules)


# what is kept goes while the libraries that it leans on are still there
atexit.register(_read.cache_clear)


def _own_files(own: str) -> Any:
    from weasyprint.urls import URLFetcher

    class OwnFiles(URLFetcher):
        """Styles and fonts from the application's own files, and pictures that a page brings; never the network."""

        def fetch(self, url: str, headers: object = None) -> object:
            if not url.startswith((own, "data:image/", "data:font/")):
                raise ValueError(f"not fetched: {url}")
            return super().fetch(url, headers)

    return OwnFiles(allowed_protocols=("file", "data"))
