"""Labels as a PDF, true to size: one a sheet of the stock's own size, or as many as fit a sheet of paper."""

from __future__ import annotations

from pathlib import Path

from spinel.web.heavy import Tell
from spinel.web.pdfs import as_pdf

KIND = "pdf"
#: Sheets of paper, mm, with the margin that printers leave.
PAPERS = {"letter": (215.9, 279.4), "a4": (210.0, 297.0)}
MARGIN_MM = 8.0
_FACES = (
    ("Spinel Text", "atkinson-hyperlegible-next-latin-wght-normal.woff2"),
    ("Spinel Tag", "atkinson-hyperlegible-mono-latin-wght-normal.woff2"),
)  # fmt: skip


def as_sheet(
    tell: Tell, drawings: list[str], width_mm: float, height_mm: float, paper: str, static: str
) -> bytes:  # fmt: skip
    """``drawings``: labels as SVG, each of ``width_mm`` by ``height_mm``."""
    size = PAPERS.get(paper, (width_mm, height_mm))
    margin = MARGIN_MM if paper in PAPERS else 0.0
    fonts = Path(static) / "fonts"
    faces = "".join(
        f'@font-face{{font-family:"{name}";src:url({(fonts / file).as_uri()}) format("woff2");font-weight:200 800}}'
        for name, file in _FACES
    )  # fmt: skip
    style = (
        f"{faces}@page{{size:{size[0]}mm {size[1]}mm;margin:{margin}mm}}body{{margin:0}}"
        f".l{{display:inline-block;width:{width_mm}mm;height:{height_mm}mm;break-inside:avoid;line-height:0}}"
        f"{'' if paper in PAPERS else '.l{break-after:page}.l:last-child{break-after:auto}'}"
    )
    body = "".join(f'<div class="l">{d}</div>' for d in drawings)
    return as_pdf(tell, f"<!DOCTYPE html><html><head><style>{style}</style></head><body>{body}</body></html>", static)
