"""A label as a drawing in millimetres: the same for the page, true to size, and for the printer.

Signal words, colours and symbols are those of safety-sign standards (ANSI Z535.4, ISO 3864, ISO 7010 W012), from
memory, and hold on labels alone.
"""

from __future__ import annotations

import io
import math
from dataclasses import dataclass

import segno
from markupsafe import Markup, escape

from spinel.core.labels import DANGER, LabelSays
from spinel.core.said import say
from spinel.web.filters import words
from spinel.wording import formats
from spinel.wording.label_words import LABEL_WORDS

#: Safety orange and red of signal panels, and warning yellow of the triangle (ANSI Z535.1, from memory).
ORANGE, RED, YELLOW, BLACK, WHITE = "#FF7900", "#C8102E", "#FFD100", "#000000", "#FFFFFF"
#: Least height of the smallest letters, mm: below it a label is no label. And how far away it is read, in letter
#: heights (common practice, from memory).
LEAST_LETTER_MM, READ_AT = 1.6, 150
TEXT, TAG = "Spinel Text, sans-serif", "Spinel Tag, monospace"
#: A letter is about so wide, in its size.
WIDE = 0.54


@dataclass(frozen=True)
class Stock:
    """Common label stock, mm."""

    name: str
    width_mm: float
    height_mm: float


STOCKS = {
    "6x4": Stock("6 × 4 in", 152.4, 101.6), "5x3-5": Stock("5 × 3.5 in", 127.0, 88.9), "a6": Stock("A6", 148.0, 105.0),
    "4x3": Stock("4 × 3 in", 101.6, 76.2), "a7": Stock("A7", 105.0, 74.0), "3x2": Stock("3 × 2 in", 76.2, 50.8),
}  # fmt: skip


@dataclass(frozen=True)
class LabelLook:
    """``language``: beside English, empty for none. ``feet_first``: inches and feet before metres."""

    stock: Stock
    language: str
    feet_first: bool


def letter_mm(look: LabelLook) -> float:
    """Height of the smallest letters on a label, mm."""
    return _unit(look) * 2.5 * 0.72


def too_small(look: LabelLook) -> bool:
    return letter_mm(look) < LEAST_LETTER_MM


def _unit(look: LabelLook) -> float:
    """The drawing is made on a sheet of 152.4 by 101.6 units; two languages need more room."""
    fit = min(look.stock.width_mm / 152.4, look.stock.height_mm / 101.6)
    return fit * (0.86 if look.language else 1.0)


@dataclass(frozen=True, kw_only=True)
class SignText:
    """``x``, ``y``: where its line begins (``anchor`` start, middle) or ends, mm; ``size``: mm."""

    x: float
    y: float
    size: float
    told: str
    bold: bool
    fill: str
    face: str
    anchor: str


class _Draw:
    def __init__(self, unit: float):
        self.u, self.parts, self.texts = unit, list[str](), list[SignText]()
        self.code: tuple[str, float, float, float] = ("", 0.0, 0.0, 1.0)

    def rect(self, x: float, y: float, w: float, h: float, fill: str, line: float = 0) -> None:
        edge = f' stroke="{BLACK}" stroke-width="{line * self.u:.2f}"' if line else ""
        self.parts.append(
            f'<rect x="{x:.2f}" y="{y:.2f}" width="{w:.2f}" height="{h:.2f}" fill="{fill}"{edge}/>'
        )  # fmt: skip

    def path(self, d: str, fill: str, line: float = 0) -> None:
        edge = f' stroke="{BLACK}" stroke-width="{line * self.u:.2f}" stroke-linejoin="round"' if line else ""
        self.parts.append(f'<path d="{d}" fill="{fill}"{edge}/>')

    def text(
        self, x: float, y: float, size: float, told: str, *, bold: bool = False, fill: str = BLACK, face: str = TEXT,
        room: float = 0.0, anchor: str = "start",
    ) -> None:  # fmt: skip
        """``size`` in units. Squeezed where its room, mm, is less than it needs, never cut."""
        mm = size * self.u
        needed = len(told) * mm * WIDE
        if room and needed > room:
            mm *= max(room / needed, 0.55)
        self.texts.append(SignText(x=x, y=y, size=mm, told=told, bold=bold, fill=fill, face=face, anchor=anchor))


def label_shapes(says: LabelSays, look: LabelLook, address: str, number: str = "") -> Markup:
    """The label as SVG, as wide and high as its stock."""
    d, w, h = _drawn(says, look, address, number), look.stock.width_mm, look.stock.height_mm
    texts = (
        f'<text x="{t.x:.2f}" y="{t.y:.2f}" font-family="{t.face}" font-size="{t.size:.2f}" '
        f'font-weight="{700 if t.bold else 400}" fill="{t.fill}" text-anchor="{t.anchor}">{escape(t.told)}</text>'
        for t in d.texts
    )
    return Markup(_svg(says, w, h, [*d.parts, _code_path(*d.code), *texts]))


#: Where the baseline of the label's letters lies in a line as high as they are.
_BASELINE = 0.83


def label_html(says: LabelSays, look: LabelLook, address: str, number: str = "") -> Markup:
    """The same for a printer of pages, which sets a line of text far quicker than letters of a drawing."""
    d, w, h = _drawn(says, look, address, number), look.stock.width_mm, look.stock.height_mm
    texts = []
    for t in d.texts:
        # its width is told, so that nobody measures it: beyond it a line runs on
        side = f"left:0;width:{t.x:.2f}mm;text-align:right" if t.anchor == "end" else f"left:{t.x:.2f}mm;width:{w}mm"
        kind = " ".join(name for name, is_so in (("b", t.bold), ("g", t.face == TAG)) if is_so)
        ink = f";color:{t.fill}" if t.fill != BLACK else ""
        texts.append(
            f'<p class="{kind}" style="{side};top:{t.y - t.size * _BASELINE:.2f}mm;'
            f'font-size:{t.size:.2f}mm{ink}">{escape(t.told)}</p>'
        )
    return Markup(_svg(says, w, h, d.parts) + _code_image(*d.code) + "".join(texts))


def _svg(says: LabelSays, w: float, h: float, parts: list[str]) -> str:
    title = escape(f"{says.signal.upper()} {says.tag}")
    return (
        f'<svg class="sign" xmlns="http://www.w3.org/2000/svg" width="{w}mm" height="{h}mm" viewBox="0 0 {w} {h}" '
        f'role="img" aria-label="{title}">{"".join(parts)}</svg>'
    )


def _drawn(says: LabelSays, look: LabelLook, address: str, number: str) -> _Draw:
    w, h, u = look.stock.width_mm, look.stock.height_mm, _unit(look)
    d = _Draw(u)
    d.rect(0, 0, w, h, WHITE)
    d.rect(0.7, 0.7, w - 1.4, h - 1.4, WHITE, 0.6)
    panel = _signal(d, says, look, w, u)
    bottom = h - 19 * u
    _figures(d, says, look, panel, bottom, w, u)
    _foot(d, says, address, number, bottom, w, h, u)
    return d


def _languages(look: LabelLook) -> list[dict[str, str]]:
    return [LABEL_WORDS["en"], *([LABEL_WORDS[look.language]] if look.language else [])]


def _signal(d: _Draw, says: LabelSays, look: LabelLook, w: float, u: float) -> float:
    """The panel with the signal word; where it ends."""
    danger = says.signal == DANGER
    high = 20 * u
    d.rect(1, 1, w - 2, high, RED if danger else ORANGE)
    ink = WHITE if danger else BLACK
    told = " / ".join(v[says.signal] for v in _languages(look))
    size = 13.0 if not look.language else 9.0
    width = len(told) * size * u * 0.62
    at = max((w - width) / 2, 22 * u)
    _alert(d, at - 11 * u, 4 * u, 14 * u, ink, RED if danger else ORANGE)
    d.text(at + 6 * u, 16 * u, size, told, bold=True, fill=ink, room=w - at - 10 * u)
    d.rect(1, 1 + high, w - 2, 0.5 * u, BLACK)
    return 1 + high


def _alert(d: _Draw, x: float, y: float, size: float, ink: str, ground: str) -> None:
    """The safety-alert triangle."""
    d.path(f"M{x + size / 2:.2f} {y:.2f} L{x + size:.2f} {y + size * 0.88:.2f} H{x:.2f} Z", ink)
    middle = x + size / 2
    d.path(f"M{middle - size * 0.06:.2f} {y + size * 0.3:.2f} h{size * 0.12:.2f} l{-size * 0.03:.2f} {size * 0.28:.2f} "
           f"h{-size * 0.06:.2f} Z", ground)  # fmt: skip
    d.path(f"M{middle - size * 0.05:.2f} {y + size * 0.66:.2f} h{size * 0.1:.2f} v{size * 0.1:.2f} "
           f"h{-size * 0.1:.2f} Z", ground)  # fmt: skip


def _electric(d: _Draw, x: float, y: float, size: float) -> None:
    """Warning of electricity: a yellow triangle with a flash."""
    d.path(f"M{x + size / 2:.2f} {y:.2f} L{x + size:.2f} {y + size * 0.88:.2f} H{x:.2f} Z", YELLOW, 1.1)
    points = [(0.53, 0.24), (0.40, 0.52), (0.50, 0.52), (0.43, 0.78), (0.62, 0.46), (0.52, 0.46), (0.58, 0.24)]
    d.path("M" + " L".join(f"{x + a * size:.2f} {y + b * size:.2f}" for a, b in points) + " Z", BLACK)


def _figures(d: _Draw, says: LabelSays, look: LabelLook, top: float, bottom: float, w: float, u: float) -> None:
    each = _languages(look)
    _electric(d, 4 * u, top + 4 * u, 17 * u)
    y = top + 7.5 * u
    for v in each:
        d.text(24 * u, y, 6.4 if not look.language else 5.4, v["hazard"], bold=True, room=w - 28 * u)
        y += 6.6 * u
        d.text(24 * u, y, 3.6, v["forbids"] if _forbids(says) else v["requires"], room=w - 28 * u)
        y += 5.2 * u
    y = max(y, top + 24 * u)
    d.rect(4 * u, y - 2.6 * u, w - 8 * u, 0.3 * u, BLACK)
    lines = _lines(says, look)
    each_high = min((bottom - y - 1 * u) / max(len(lines), 1), 8.4 * u)
    for told, value, big in lines:
        y += each_high
        d.text(5 * u, y - each_high * 0.22, 3.5, told, room=w * 0.52)
        size = 6.2 if big else 4.6
        d.text(w - 5 * u, y - each_high * 0.2, size, value, bold=True, room=w * 0.45, anchor="end")


def _forbids(says: LabelSays) -> bool:
    return bool(says.no_figure) or says.signal == DANGER


def _lines(says: LabelSays, look: LabelLook) -> list[tuple[str, str, bool]]:
    """What stands before each figure, in each language, and the figure in both systems of units."""

    def told(key: str) -> str:
        return " / ".join(v[key] for v in _languages(look))

    found = [(told("voltage"), f"{says.voltage_v:g} V {says.current.upper()}", False)]
    if says.no_figure:
        found.append((told("no_figure"), "—", True))
    if says.energy_cal_cm2 is not None:
        at = f"{says.working_distance_mm or 0:.0f} mm ({formats.inches(says.working_distance_mm or 0)})"
        found.append((f"{told('energy')} {at}", f"{formats.energy(says.energy_cal_cm2)} cal/cm²", True))
    if says.category is not None:
        found.append((told("category"), f"{says.category}", True))
    for key, mm in (("boundary", says.boundary_mm), ("limited", says.limited_mm), ("restricted", says.restricted_mm)):
        if mm is not None:
            both = (f"{formats.metres(mm)} m", formats.feet(mm))
            found.append((told(key), " / ".join(both[::-1] if look.feet_first else both), key == "boundary"))
    glove = words().say(says.glove)
    if glove:
        worn = words().say(say("label-glove", glove=glove)) if glove.isdigit() else glove
        found.append((told("gloves"), worn, False))
    return found


def _foot(
    d: _Draw, says: LabelSays, address: str, number: str, bottom: float, w: float, h: float, u: float
) -> None:  # fmt: skip
    """The equipment, the day and the revision, and the code that opens the live card."""
    d.rect(4 * u, bottom + 0.6 * u, w - 8 * u, 0.3 * u, BLACK)
    room = w - 28 * u
    d.text(5 * u, bottom + 7 * u, 6.0, says.tag, bold=True, face=TAG, room=room)
    place = ", ".join(p for p in (says.name, says.location, words().say(says.side)) if p)
    d.text(5 * u, bottom + 11 * u, 3.0, place, room=room)
    told = words().say(say("label-foot", day=says.day, revision=says.revision, number=number or "-"))
    d.text(5 * u, bottom + 14.4 * u, 2.5, told, room=room)
    d.text(5 * u, bottom + 17.2 * u, 2.5, words().say(say("label-local-codes")), room=room)
    size = 16 * u
    d.code = (address, w - size - 4 * u, h - size - 2 * u, size)


def _code_path(address: str, x: float, y: float, size: float) -> str:
    """The code as one path: as so many squares it would take longer than all the rest."""
    modules, count = _code(address)
    runs = "".join(f"M{col} {row}h{run}v1h-{run}z" for row, col, run in modules)
    return f'<path transform="translate({x:.2f} {y:.2f}) scale({size / count:.4f})" fill="{BLACK}" d="{runs}"/>'


def _code_image(address: str, x: float, y: float, size: float) -> str:
    """The same as a picture, which a printer of pages sets at once."""
    data = segno.make(address, error="m").png_data_uri(scale=8, border=0)
    return f'<img src="{data}" style="left:{x:.2f}mm;top:{y:.2f}mm;width:{size:.2f}mm" alt="">'


def _code(address: str) -> tuple[list[tuple[int, int, int]], int]:
    """Runs of dark modules: row, column, length; and how many modules it is wide."""
    matrix = [list(row) for row in segno.make(address, error="m").matrix]
    found = []
    for r, row in enumerate(matrix):
        start = None
        for c, dark in enumerate([*row, 0]):
            if dark and start is None:
                start = c
            elif not dark and start is not None:
                found.append((r, start, c - start))
                start = None
    return found, len(matrix)


def ruler_mm(length: float) -> str:
    """Marks of a ruler, to hold a real label to: path data, a millimetre a unit."""
    out = io.StringIO()
    for mm in range(math.floor(length) + 1):
        out.write(f"M{mm} 0 V{4 if mm % 10 == 0 else 2.5 if mm % 5 == 0 else 1.5} ")
    return out.getvalue()
