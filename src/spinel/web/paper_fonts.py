"""The fonts of paper: those of the pages, each in the few weights that paper has, as files (scripts/paper_fonts.py)."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path
from unicodedata import normalize

TEXT, TAG, SIGNS = "Spinel Text", "Spinel Tag", "Spinel Signs"
REGULAR, STRONG, BOLD = 400, 640, 760
#: Family and weight. Any other weight of a style is the nearest; ``SIGNS`` stands behind, for letters that the others
#: lack.
FONTS = (*((family, weight) for family in (TEXT, TAG) for weight in (REGULAR, STRONG, BOLD)), (SIGNS, REGULAR))


def path(static: str, family: str, weight: int) -> Path:
    return Path(static) / "fonts" / "paper" / f"{family} {weight}.ttf".lower().replace(" ", "-")


def letters_missing(told: str, static: str) -> str:
    """Those letters that no font of the application has: paper would show nothing in their place."""
    held = _letters(static)
    return "".join(dict.fromkeys(c for c in normalize("NFC", told) if c.isprintable() and ord(c) not in held))


@lru_cache(maxsize=2)
def _letters(static: str) -> frozenset[int]:
    from fontTools.ttLib import TTFont

    files = [path(static, family, REGULAR) for family in (TEXT, TAG, SIGNS)]
    return frozenset(letter for file in files for letter in TTFont(file, lazy=True).getBestCmap())
