"""Labels as a PDF, true to size: one a sheet of the stock's own size, or as many as fit a sheet of paper.

Every line and outline of a label has its place already (``label_drawing``): they are written straight into the PDF,
as a renderer of pages would lay each of them out again.
"""

from __future__ import annotations

import io
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import groupby
from typing import Any
from unicodedata import normalize

from spinel.web.heavy import Tell
from spinel.web.label_drawing import BLACK, SignDrawing, SignText, code_runs
from spinel.web.paper_fonts import BOLD, FONTS, REGULAR, SIGNS, path

KIND = "pdf"
#: Sheets of paper, mm, with the margin that printers leave.
PAPERS = {"letter": (215.9, 279.4), "a4": (210.0, 297.0)}
MARGIN_MM = 8.0
#: Points in a millimetre.
PT = 72 / 25.4


def as_sheet(tell: Tell, drawings: list[SignDrawing], paper: str, static: str) -> bytes:
    """``drawings``: of one stock. ``paper``: a name in ``PAPERS``, any other for a sheet of the stock's own size."""
    from reportlab.pdfgen.canvas import Canvas

    tell("drawing")
    width, height = drawings[0].width, drawings[0].height
    size = PAPERS.get(paper, (width, height))
    margin = MARGIN_MM if paper in PAPERS else 0.0
    across, down = (max(int((side - 2 * margin) // one), 1) for side, one in zip(size, (width, height), strict=True))
    made = io.BytesIO()
    # no day in it: the same labels are the same file
    pdf = Canvas(made, pagesize=(size[0] * PT, size[1] * PT), invariant=1, pageCompression=1,
                 initialFontName=_fonts(static)[SIGNS, REGULAR].name)  # fmt: skip
    pdf.setAuthor("Spinel")
    pdf.setCreator("Spinel")
    # a printer that fits pages to its paper would make every letter smaller
    pdf.setViewerPreference("PrintScaling", "None")
    pdf.setTitle(", ".join(d.title for d in drawings[:3]) + (" …" if len(drawings) > 3 else ""))
    for i, drawing in enumerate(drawings):
        place = i % (across * down)
        if i and place == 0:
            pdf.showPage()
        left, top = margin + place % across * width, margin + place // across * height
        pdf.saveState()
        pdf.translate(left * PT, (size[1] - top) * PT)
        pdf.scale(PT, PT)
        _draw(pdf, drawing, _fonts(static))
        pdf.restoreState()
    pdf.save()
    return made.getvalue()


def _draw(pdf: Any, drawing: SignDrawing, fonts: dict[tuple[str, int], _Font]) -> None:
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
        parts = list(_set(text, fonts))
        x = text.x - sum(font.width(told) for told, font in parts) * text.size if text.at_end else text.x
        pdf.setFillColor(text.fill)
        for told, font in parts:
            pdf.setFont(font.name, text.size)
            pdf.drawString(x, -text.y, told)
            x += font.width(told) * text.size


def width_mm(text: SignText, static: str) -> float:
    """How wide a line of a label is as it is printed, mm."""
    return sum(font.width(told) for told, font in _set(text, _fonts(static))) * text.size


@dataclass(frozen=True)
class _Font:
    name: str
    letters: frozenset[int]

    def width(self, told: str) -> float:
        """In its size."""
        from reportlab.pdfbase.pdfmetrics import stringWidth

        return float(stringWidth(told, self.name, 1))


@lru_cache(maxsize=2)
def _fonts(static: str) -> dict[tuple[str, int], _Font]:
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    found = {}
    for family, weight in FONTS:
        font = TTFont(f"{family} {weight}", str(path(static, family, weight)))
        pdfmetrics.registerFont(font)
        found[family, weight] = _Font(font.fontName, frozenset(font.face.charToGlyph))
    return found


def _set(text: SignText, fonts: dict[tuple[str, int], _Font]) -> Iterator[tuple[str, _Font]]:
    """A line in parts of one font each."""
    own = fonts[text.face.split(",")[0], BOLD if text.bold else REGULAR]
    behind = fonts[SIGNS, REGULAR]
    for is_own, letters in groupby(normalize("NFC", text.told), key=lambda c: ord(c) in own.letters):
        yield "".join(letters), own if is_own else behind
