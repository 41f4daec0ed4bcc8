"""The fonts of paper: those of the pages, each in the few weights that paper has, as files (scripts/paper_fonts.py)."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from itertools import groupby
from pathlib import Path
from unicodedata import normalize

TEXT, TAG, SIGNS = "Spinel Text", "Spinel Tag", "Spinel Signs"
REGULAR, STRONG, BOLD = 400, 640, 760
#: Family and weight. Any other weight of a style is the nearest; ``SIGNS`` stands behind, for letters that the others
#: lack.
FONTS = (*((family, weight) for family in (TEXT, TAG) for weight in (REGULAR, STRONG, BOLD)), (SIGNS, REGULAR))
_FILES = Path(__file__).parent / "static" / "fonts" / "paper"


def path(family: str, weight: int) -> Path:
    return _FILES / f"{family} {weight}.ttf".lower().replace(" ", "-")


def in_fonts(told: str, family: str, weight: int) -> Iterator[tuple[str, str, int]]:
    """A line in parts of one font each, with its family and weight."""
    own = _widths(family, weight)
    for is_own, letters in groupby(normalize("NFC", told), key=lambda c: ord(c) in own):
        yield "".join(letters), *((family, weight) if is_own else (SIGNS, REGULAR))


def width(told: str, family: str, weight: int) -> float:
    """How wide a line is, in its size; a letter that no font has counts as a wide one."""
    return sum(
        _widths(*font).get(ord(letter), 1.0) for part, *font in in_fonts(told, family, weight) for letter in part
    )


def letters_missing(told: str) -> str:
    """Those letters that no font of the application has: paper would show nothing in their place."""
    held = set().union(*(_widths(family, REGULAR) for family in (TEXT, TAG, SIGNS)))
    return "".join(dict.fromkeys(c for c in normalize("NFC", told) if c.isprintable() and ord(c) not in held))


@lru_cache(maxsize=len(FONTS))
def _widths(family: str, weight: int) -> dict[int, float]:
    """How wide each letter of a font is, in its size."""
    from fontTools.ttLib import TTFont

    font = TTFont(path(family, weight), lazy=True)
    advances, em = font["hmtx"].metrics, font["head"].unitsPerEm
    return {letter: advances[glyph][0] / em for letter, glyph in font.getBestCmap().items()}
