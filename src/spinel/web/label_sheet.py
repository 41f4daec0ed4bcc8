"""Labels as a PDF, true to size: one a sheet of the stock's own size, or as many as fit a sheet of paper."""

from __future__ import annotations

from spinel.web.heavy import Tell
from spinel.web.label_drawing import BLACK, TAG, TEXT
from spinel.web.pdfs import as_pdf

KIND = "pdf"
#: Sheets of paper, mm, with the margin that printers leave.
PAPERS = {"letter": (215.9, 279.4), "a4": (210.0, 297.0)}
MARGIN_MM = 8.0


def as_sheet(
    tell: Tell, drawings: list[str], width_mm: float, height_mm: float, paper: str, static: str
) -> bytes:  # fmt: skip
    """``drawings``: labels as pages hold them, each of ``width_mm`` by ``height_mm``."""
    size = PAPERS.get(paper, (width_mm, height_mm))
    margin = MARGIN_MM if paper in PAPERS else 0.0
    beside = paper in PAPERS and (size[0] - 2 * margin) // width_mm > 1
    placed = "float:left" if beside else "display:block"
    style = "".join((
        f"@page{{size:{size[0]}mm {size[1]}mm;margin:{margin}mm}}body{{margin:0;background:none}}",
        f".l{{{placed};position:relative;width:{width_mm}mm;height:{height_mm}mm;break-inside:avoid;line-height:0}}",
        f".l p{{position:absolute;margin:0;white-space:nowrap;font:400 1mm/1 {TEXT};color:{BLACK}}}",
        ".l img{position:absolute}",
        f".l p.b{{font-weight:700}}.l p.g{{font-family:{TAG}}}",
        "" if paper in PAPERS else ".l{break-after:page}.l:last-child{break-after:auto}",
    ))  # fmt: skip
    body = "".join(f'<div class="l">{d}</div>' for d in drawings)
    head = f"<style>{style}</style>"
    return as_pdf(tell, f"<!DOCTYPE html><html><head>{head}</head><body>{body}</body></html>", static)
