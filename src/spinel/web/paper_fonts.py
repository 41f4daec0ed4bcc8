"""The fonts of the site's tokens as paper takes them: a font that may have any weight, made once in the process into
the few that paper has. Made anew in each PDF it costs more than the layout of a page."""

from __future__ import annotations

import io
import re
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path
from unicodedata import normalize

#: Weights of paper. Any other of a style is the nearest.
WEIGHTS = (400, 640, 760)
#: The rule of a font of the tokens. One of variable weight says so in its file's name.
FACE = re.compile(r'@font-face\s*\{[^}]*font-family:\s*"([^"]+)"[^}]*url\(([^)]*)\)[^}]*\}')
_VARIABLE = "-wght-"


@dataclass(frozen=True)
class PaperFont:
    """A font of one weight, as a TrueType file."""

    family: str
    weight: int
    variable: bool
    data: bytes


@lru_cache(maxsize=2)
def paper_fonts(static: str) -> tuple[PaperFont, ...]:
    """Each font of the tokens below ``static``, in the weights of paper or in its one."""
    from fontTools.ttLib import TTFont
    from fontTools.varLib.instancer import instantiateVariableFont

    tokens = Path(static) / "css" / "tokens.css"
    found: list[PaperFont] = []
    for family, url in FACE.findall(tokens.read_text() if tokens.exists() else ""):
        variable = _VARIABLE in url
        for weight in WEIGHTS if variable else WEIGHTS[:1]:
            font = TTFont(tokens.parent / url)
            if variable:
                font = instantiateVariableFont(font, {"wght": weight}, static=True)
                # whoever writes a PDF tells fonts apart by this name
                font["name"].setName(f"{family} {weight}".replace(" ", "-"), 6, 3, 1, 0x409)
            font.flavor, made = None, io.BytesIO()
            font.save(made)
            found.append(PaperFont(family, weight, variable, made.getvalue()))
    return tuple(found)


def letters_missing(told: str, static: str) -> str:
    """Those letters that no font of the application has: paper would show nothing in their place."""
    held = _letters(static)
    return "".join(dict.fromkeys(c for c in normalize("NFC", told) if c.isprintable() and ord(c) not in held))


@lru_cache(maxsize=2)
def _letters(static: str) -> frozenset[int]:
    from fontTools.ttLib import TTFont

    tokens = Path(static) / "css" / "tokens.css"
    files = {tokens.parent / url for _, url in FACE.findall(tokens.read_text())}
    return frozenset(letter for file in files for letter in TTFont(file, lazy=True).getBestCmap())
