"""A label as a drawing in millimetres: the same for the page, true to size, and for the printer.

Signal words, colours and symbols are those of safety-sign standards (ANSI Z535.4, ISO 3864, ISO 7010 W012), from
memory, and hold on labels alone.
"""

from __future__ import annotations

import io
import math
from dataclasses import dataclass
from itertools import combinations

import segno
from markupsafe import Markup, escape

from spinel.core.labels import DANGER, LabelSays
from spinel.core.said import say
from spinel.web.filters import words
from spinel.web.paper_fonts import BOLD, REGULAR, TAG, TEXT, width
from spinel.wording import formats
from spinel.wording.label_words import LABEL_WORDS

#: Safety orange and red of signal panels, and warning yellow of the triangle (ANSI Z535.1, from memory).
ORANGE, RED, YELLOW, BLACK, WHITE = "#FF7900", "#C8102E", "#FFD100", "#000000", "#FFFFFF"
#: Least height of the smallest letters, mm: below it a label is no label. And how far away it is read, in letter
#: heights (common practice, from memory).
LEAST_LETTER_MM, READ_AT = 1.6, 150
#: A capital is so high, and what hangs below a line so deep, in their size. Letters of the least height are so large,
#: mm.
_CAPITAL, _BELOW = 0.72, 0.2
_LEAST = LEAST_LETTER_MM / _CAPITAL


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


def letter_mm(drawn: SignDrawing) -> float:
    """Height of the smallest letters on a label, mm: of those that were squeezed into their room too."""
    return min(t.size for t in drawn.texts) * _CAPITAL


def too_small(drawn: SignDrawing) -> bool:
    return letter_mm(drawn) < LEAST_LETTER_MM - 1e-9


def crowded(drawn: SignDrawing) -> bool:
    """Does any line run into another, into the code, or out of the label?"""
    code = drawn.code
    each = [(code.x, code.y, code.x + code.size, code.y + code.size)]
    for t in drawn.texts:
        left = t.x - t.width if t.at_end else t.x
        each.append((left, t.y - t.size * _CAPITAL, left + t.width, t.y + t.size * _BELOW))
    inside = all(a >= 0 and b >= 0 and c <= drawn.width and d <= drawn.height for a, b, c, d in each)
    return not inside or any(
        a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3] for a, b in combinations(each, 2)
    )


#: A point, mm from the upper left corner of the label.
Point = tuple[float, float]


@dataclass(frozen=True)
class SignShape:
    """A filled outline. ``line``: width of its edge in black, mm, 0 for none."""

    points: tuple[Point, ...]
    fill: str
    line: float


@dataclass(frozen=True, kw_only=True)
class SignText:
    """``x``, ``y``: where its line begins or ends (``at_end``), mm; ``size``: mm."""

    x: float
    y: float
    size: float
    told: str
    family: str
    weight: int
    fill: str
    at_end: bool

    @property
    def width(self) -> float:
        """As it is printed, mm."""
        return width(self.told, self.family, self.weight) * self.size


@dataclass(frozen=True)
class SignCode:
    """The code that opens the live card: a square of ``size`` mm."""

    address: str
    x: float
    y: float
    size: float


@dataclass(frozen=True)
class SignDrawing:
    """What stands on a label of ``width`` by ``height`` mm, the first of it lowest."""

    title: str
    width: float
    height: float
    shapes: tuple[SignShape, ...]
    texts: tuple[SignText, ...]
    code: SignCode

    @property
    def told(self) -> str:
        """All that it says."""
        return "\n".join(t.told for t in self.texts)


class _Draw:
    def __init__(self, unit: float):
        self.u, self.shapes, self.texts = unit, list[SignShape](), list[SignText]()

    def rect(self, x: float, y: float, w: float, h: float, fill: str, line: float = 0) -> None:
        self.shape(((x, y), (x + w, y), (x + w, y + h), (x, y + h)), fill, line)

    def shape(self, points: tuple[Point, ...], fill: str, line: float = 0) -> None:
        self.shapes.append(SignShape(points, fill, line * self.u))

    def text(
        self, x: float, y: float, size: float, told: str, room: float, *, bold: bool = False, fill: str = BLACK,
        family: str = TEXT, at_end: bool = False,
    ) -> None:  # fmt: skip
        """``size`` in units, but never planned below the least. Squeezed where its ``room``, mm, is less than it needs,
        never cut."""
        weight = BOLD if bold else REGULAR
        mm = max(size * self.u, _LEAST)
        mm *= min(room / (width(told, family, weight) * mm), 1.0) if told else 1.0
        self.texts.append(
            SignText(x=x, y=y, size=mm, told=told, family=family, weight=weight, fill=fill, at_end=at_end)
        )  # fmt: skip


def label_drawing(says: LabelSays, look: LabelLook, address: str, number: str = "") -> SignDrawing:
    """The label, as wide and high as its stock. ``address``: of the live card, in its code."""
    w, h = look.stock.width_mm, look.stock.height_mm
    # drawn on a sheet of 152.4 by 101.6 units, of which two languages need more
    u = min(w / 152.4, h / 101.6) * (0.92 if look.language else 1.0)
    d = _Draw(u)
    d.rect(0, 0, w, h, WHITE)
    d.rect(0.7, 0.7, w - 1.4, h - 1.4, WHITE, 0.6)
    panel = _signal(d, says, look, w, u)
    bottom, code = _foot(d, says, address, number, w, h, u)
    _figures(d, says, look, panel, bottom, w, u)
    title = f"{says.signal.upper()} {says.tag}"
    return SignDrawing(title, w, h, tuple(d.shapes), tuple(d.texts), code)


def as_svg(drawn: SignDrawing) -> Markup:
    """The label for a page, true to size."""
    w, h, code = drawn.width, drawn.height, drawn.code
    shapes = "".join(
        f'<path d="M{" L".join(f"{x:.2f} {y:.2f}" for x, y in s.points)} Z" fill="{s.fill}"'
        + (f' stroke="{BLACK}" stroke-width="{s.line:.2f}" stroke-linejoin="round"' if s.line else "")
        + "/>"
        for s in drawn.shapes
    )
    texts = "".join(
        f'<text x="{t.x:.2f}" y="{t.y:.2f}" font-family="{t.family}, sans-serif" font-size="{t.size:.2f}" '
        f'font-weight="{t.weight}" fill="{t.fill}" text-anchor="{"end" if t.at_end else "start"}">'
        f"{escape(t.told)}</text>"
        for t in drawn.texts
    )
    runs, count = code_runs(code.address)
    # one path: as so many squares it would take longer than all the rest
    dark = "".join(f"M{col} {row}h{run}v1h-{run}z" for row, col, run in runs)
    square = f'<path transform="translate({code.x:.2f} {code.y:.2f}) scale({code.size / count:.4f})" d="{dark}"/>'
    return Markup(
        f'<svg class="sign" xmlns="http://www.w3.org/2000/svg" width="{w}mm" height="{h}mm" viewBox="0 0 {w} {h}" '
        f'role="img" aria-label="{escape(drawn.title)}">{shapes}{square}{texts}</svg>'
    )


def _languages(look: LabelLook) -> list[dict[str, str]]:
    return [LABEL_WORDS["en"], *([LABEL_WORDS[look.language]] if look.language else [])]


def _signal(d: _Draw, says: LabelSays, look: LabelLook, w: float, u: float) -> float:
    """The panel with the signal word; where it ends."""
    danger = says.signal == DANGER
    high = 20 * u
    d.rect(1, 1, w - 2, high, RED if danger else ORANGE)
    ink = WHITE if danger else BLACK
    told = " / ".join(dict.fromkeys(v[says.signal] for v in _languages(look)))
    size = 13.0 if not look.language else 9.0
    at = max((w - width(told, TEXT, BOLD) * size * u) / 2, 22 * u)
    _alert(d, at - 11 * u, 4 * u, 14 * u, ink, RED if danger else ORANGE)
    d.text(at + 6 * u, 16 * u, size, told, w - at - 10 * u, bold=True, fill=ink)
    d.rect(1, 1 + high, w - 2, 0.5 * u, BLACK)
    return 1 + high


#: Outlines in parts of the height and width of their triangle.
_TRIANGLE = ((0.5, 0.0), (1.0, 0.88), (0.0, 0.88))
_STROKE = ((0.44, 0.3), (0.56, 0.3), (0.53, 0.58), (0.47, 0.58))
_DOT = ((0.45, 0.66), (0.55, 0.66), (0.55, 0.76), (0.45, 0.76))
_FLASH = ((0.53, 0.24), (0.40, 0.52), (0.50, 0.52), (0.43, 0.78), (0.62, 0.46), (0.52, 0.46), (0.58, 0.24))


def _placed(outline: tuple[Point, ...], x: float, y: float, size: float) -> tuple[Point, ...]:
    return tuple((x + a * size, y + b * size) for a, b in outline)


def _alert(d: _Draw, x: float, y: float, size: float, ink: str, ground: str) -> None:
    """The safety-alert triangle."""
    d.shape(_placed(_TRIANGLE, x, y, size), ink)
    d.shape(_placed(_STROKE, x, y, size), ground)
    d.shape(_placed(_DOT, x, y, size), ground)


def _electric(d: _Draw, x: float, y: float, size: float) -> None:
    """Warning of electricity: a yellow triangle with a flash."""
    d.shape(_placed(_TRIANGLE, x, y, size), YELLOW, 1.1)
    d.shape(_placed(_FLASH, x, y, size), BLACK)


def _figures(d: _Draw, says: LabelSays, look: LabelLook, top: float, bottom: float, w: float, u: float) -> None:
    each = _languages(look)
    _electric(d, 4 * u, top + 4 * u, 17 * u)
    y = top + 7.5 * u
    for v in each:
        d.text(24 * u, y, 6.4 if not look.language else 5.4, v["hazard"], w - 28 * u, bold=True)
        y += 5.4 * u
        d.text(24 * u, y, 3.6, v["forbids"] if says.forbidden else v["requires"], w - 28 * u)
        y += 6.8 * u
    y = max(y, top + 24 * u)
    d.rect(4 * u, y - 2.6 * u, w - 8 * u, 0.3 * u, BLACK)
    lines = _lines(says, look)
    each_high = min((bottom - y - 1 * u) / max(len(lines), 1), 8.4 * u)
    for told, value, big in lines:
        y += each_high
        d.text(5 * u, y - each_high * 0.22, 3.5, told, w * 0.52 if value else w - 10 * u)
        size = min(6.2 if big else 4.6, each_high * 0.95 / u)
        if value:
            d.text(w - 5 * u, y - each_high * 0.2, size, value, w * 0.38, bold=True, at_end=True)


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
    for key, mm, inches in (
        ("boundary", says.boundary_mm, None), ("limited", says.limited_mm, says.limited_in),
        ("restricted", says.restricted_mm, says.restricted_in),
    ):  # fmt: skip
        if mm is not None:
            both = (f"{formats.metres(mm)} m", formats.feet_inches(inches) if inches else formats.feet(mm))
            found.append((told(key), " / ".join(both[::-1] if look.feet_first else both), key == "boundary"))
    if says.avoid_contact:
        found.append((told("restricted"), told("avoid"), False))
    glove = words().say(says.glove)
    if glove.isdigit():
        found.append((told("gloves"), words().say(say("label-glove", glove=glove)), False))
    elif glove:
        # no class is made for this voltage
        found.append((told("no_gloves"), "", False))
    return found


def _foot(
    d: _Draw, says: LabelSays, address: str, number: str, w: float, h: float, u: float
) -> tuple[float, SignCode]:  # fmt: skip
    """The equipment, the day and the revision, and the code that opens the live card, from below; where it begins."""
    side = 15 * u
    code = SignCode(address, w - side - 4.5 * u, h - side - 2.6 * u, side)
    room, size = code.x - 7 * u, max(3.0 * u, _LEAST)
    place = ", ".join(p for p in (says.name, says.location, words().say(says.side)) if p)
    small = max(2.5 * u, _LEAST)
    lines = [
        *((line, size) for line in _wrapped(place, room / size)),
        (words().say(say("label-foot", day=says.day, revision=says.revision, number=number or "-")), small),
        (words().say(say("label-local-codes")), small),
    ]
    y = h - 1.8 * u
    for told, mm in reversed(lines):
        d.text(5 * u, y, mm / u, told, room)
        y -= mm * 1.14
    d.text(5 * u, y - 0.6 * u, 6.0, says.tag, room, bold=True, family=TAG)
    top = min(y - 6.2 * u, code.y - 1.6 * u)
    d.rect(4 * u, top - 0.4 * u, w - 8 * u, 0.3 * u, BLACK)
    return top - 1.0 * u, code


def _wrapped(told: str, room: float) -> list[str]:
    """Words in lines of a width, in their size; a word that is wider has a line of its own."""
    lines: list[str] = []
    for word in told.split():
        longer = f"{lines[-1]} {word}" if lines else ""
        if longer and width(longer, TEXT, REGULAR) <= room:
            lines[-1] = longer
        else:
            lines.append(word)
    return lines


def code_runs(address: str) -> tuple[list[tuple[int, int, int]], int]:
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
