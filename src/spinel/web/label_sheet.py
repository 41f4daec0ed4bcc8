"""Labels as a PDF, true to size: one a sheet of the stock's own size, or as many as fit a sheet of paper.

Every line and outline of a label has its place already (``label_drawing``): they are written straight into the PDF,
as a renderer of pages would lay each of them out again.
"""

from __future__ import annotations

import io
from functools import lru_cache
from typing import Any

from spinel.web.heavy import Tell
from spinel.web.label_drawing import BLACK, SignDrawing, code_runs
from spinel.web.paper_fonts import FONTS, REGULAR, SIGNS, in_fonts, path, width

KIND = "pdf"
#: Sheets of paper, mm, with the margin that printers leave.
PAPERS = {"letter": (215.9, 279.4), "a4": (210.0, 297.0)}
MARGIN_MM = 8.0
#: Points in a millimetre.
PT = 72 / 25.4


def as_sheet(tell: Tell, drawings: list[SignDrawing], paper: str) -> bytes:
    """``drawings``: of one stock. ``paper``: a name in ``PAPERS``, any other for a sheet of the stock's own size."""
    from reportlab.pdfgen.canvas import Canvas

    tell("drawing")
    fonts, one = _registered(), (drawings[0].width, drawings[0].height)
    size = PAPERS.get(paper, one)
    margin = MARGIN_MM if paper in PAPERS else 0.0
    across, down = (max(int((whole - 2 * margin) // part), 1) for whole, part in zip(size, one, strict=True))
    made = io.BytesIO()
    # no day in it: the same labels are the same file
    pdf = Canvas(made, pagesize=(size[0] * PT, size[1] * PT), invariant=1, pageCompression=1,
                 initialFontName=fonts[SIGNS, REGULAR])  # fmt: skip
    pdf.setAuthor("Spinel")
    pdf.setCreator("Spinel")
    # a printer that fits pages to its paper would make every letter smaller
    pdf.setViewerPreference("PrintScaling", "None")
    pdf.setTitle(", ".join(d.title for d in drawings[:3]) + (" …" if len(drawings) > 3 else ""))
    for i, drawing in enumerate(drawings):
        place = i % (across * down)
        if i and place == 0:
            pdf.showPage()
        left, top = margin + place % across * one[0], margin + place // across * one[1]
        pdf.saveState()
        pdf.translate(left * PT, (size[1] - top) * PT)
        pdf.scale(PT, PT)
        _draw(pdf, drawing, fonts)
        pdf.restoreState()
    pdf.save()
    return made.getvalue()


def _draw(pdf: Any, drawing: SignDrawing, fonts: dict[tuple[str, int], str]) -> None:
    """In millimetres, the upper left corner of the label at the origin; y counts upwards here."""
    pdf.setStrokeColor(BLACK)
    pdf.setLineJoin(1)
    for shape in drawing.shapes:
        path = pdf.beginPath()
        path.moveTo(shape.points[0][0], -shape.points[0][1])
        for x, y in shape.points[1:]:
            path.lineTo(x, -y)
        path.close()
        pdf.setFillColor(shape.fill)
        pdf.setLineWidth(shape.line)
        pdf.drawPath(path, stroke=shape.line > 0, fill=1)
    runs, count = code_runs(drawing.code.address)
    side, path = drawing.code.size / count, pdf.beginPath()
    for row, column, run in runs:
        path.rect(drawing.code.x + column * side, -drawing.code.y - (row + 1) * side, run * side, side)
    pdf.setFillColor(BLACK)
    pdf.drawPath(path, stroke=0, fill=1)
    for text in drawing.texts:
        x = text.x - text.width if text.at_end else text.x
        pdf.setFillColor(text.fill)
        for told, family, weight in in_fonts(text.told, text.family, text.weight):
            pdf.setFont(fonts[family, weight], text.size)
            pdf.drawString(x, -text.y, told)
            x += width(told, family, weight) * text.size


@lru_cache(maxsize=1)
def _registered() -> dict[tuple[str, int], str]:
    """The name that each font of paper has in the PDF."""
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    found = {}
    for family, weight in FONTS:
        found[family, weight] = f"{family} {weight}"
        pdfmetrics.registerFont(TTFont(found[family, weight], str(path(family, weight))))
    return found
