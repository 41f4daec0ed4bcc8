"""Labels on paper: what a reader of PDFs finds on them, against what was to be drawn."""

import json
import math
import re
import subprocess
from collections import Counter
from dataclasses import replace
from itertools import combinations
from pathlib import Path

import pytest
import segno
from fontTools.ttLib import TTFont
from PIL import Image
from reportlab.pdfbase.ttfonts import TTFont as ReadFont

from demo_acts import act, element_id
from spinel.actions import network
from spinel.core.labels import LabelSays
from spinel.demo.site import document
from spinel.web.label_drawing import STOCKS, LabelLook, crowded, label_drawing, too_small
from spinel.web.label_sheet import PAPERS, as_sheet
from spinel.web.paper_fonts import FONTS, letters_missing, path
from spinel.wording.label_words import LABEL_WORDS

SAYS = LabelSays(
    tag="MC1", name="Motor control center 1", location="Pump gallery", side="", voltage_v=480.0, current="ac",
    signal="warning", energy_cal_cm2=6.4, working_distance_mm=455.0, boundary_mm=1300.0, limited_mm=1067.0,
    restricted_mm=305.0, glove="00", no_figure="", method="m", revision=3, day="2026-11-24",
)  # fmt: skip
FORBIDS = replace(
    SAYS, signal="danger", energy_cal_cm2=None, working_distance_mm=None, boundary_mm=None, no_figure="unknown",
    tag="52-MAIN-WEST-STATION-4", name="Incoming breaker of the western pumping station", location="Switch room 4, mezzanine",
)  # fmt: skip
ADDRESS = "https://spinel.example/network/tag/MC1"


@pytest.fixture
def drawn(app):
    """A label in a stock and a second language."""
    with app.test_request_context("/"):
        yield lambda says, stock="6x4", language="", number="L-0042": label_drawing(
            says, LabelLook(STOCKS[stock], language, False), ADDRESS, number
        )


def sheet(app, tmp_path, drawings, paper="each"):
    file = tmp_path / "labels.pdf"
    file.write_bytes(as_sheet(lambda stage: None, drawings, paper))
    return file


def read(file, *options):
    return subprocess.run(["pdftotext", *options, file, "-"], capture_output=True, text=True, check=True).stdout


@pytest.mark.parametrize("language", ["", "es", "fr", "de"])
def test_each_line_is_on_the_paper_once_and_where_it_was_drawn(app, tmp_path, drawn, language):
    label = drawn(SAYS, language=language)
    file = sheet(app, tmp_path, [label])
    assert Counter(read(file, "-raw").split()) == Counter(w for t in label.texts for w in t.told.split())
    # in points from the upper left corner: where the first word of a line begins, or its last one ends
    words = re.findall(
        r'<word xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">([^<]*)<', read(file, "-bbox")
    )
    for t in label.texts:
        word = t.told.split()[-1 if t.at_end else 0].replace("&", "&amp;")
        side = 2 if t.at_end else 0
        assert any(
            w[4] == word and abs(float(w[side]) / 72 * 25.4 - t.x) < 0.5 and float(w[1]) / 72 * 25.4 < t.y < float(w[3]) / 72 * 25.4
            for w in words
        ), t  # fmt: skip


LOUD = replace(
    SAYS, tag="MMMMMMMMMMMMMMMM", name="WESTERN MAXIMUM PUMPING STATION", location="SWITCH ROOM 4, MEZZANINE"
)
HUGE = replace(
    SAYS, name="W" * 40 + " " + "M" * 39, location="WWWW " * 16, side="terminals at the cable to MMMMMMMM-1234"
)


@pytest.mark.parametrize("stock", STOCKS)
@pytest.mark.parametrize("language", ["", *(name for name in LABEL_WORDS if name != "en")])
def test_no_line_runs_out_of_its_label_or_into_another(drawn, stock, language):
    """By the widths of another reader of fonts; whatever would is refused."""
    high = replace(SAYS, voltage_v=13800.0, boundary_mm=12345.0, energy_cal_cm2=139.9, glove="4")
    no_gloves = replace(
        high, voltage_v=46000.0, glove="voltage_v is 46000: glove classes end at 36,000 V AC: other means"
    )
    fonts = {f: ReadFont(" ".join(map(str, f)), str(path(*f))) for f in FONTS}
    for says in (SAYS, FORBIDS, high, no_gloves, LOUD, HUGE, replace(SAYS, name="", location="")):
        label = drawn(says, stock, language)
        if too_small(label) or crowded(label):
            assert (stock, says) not in {("6x4", s) for s in (SAYS, FORBIDS, high, no_gloves, LOUD)}
            continue
        boxes = []
        for t in label.texts:
            wide = fonts[t.family, t.weight].stringWidth(t.told, t.size)
            left = t.x - wide if t.at_end else t.x
            assert left > 1 and left + wide < label.width - 1, (t.told, wide)
            assert t.size * 0.72 >= 1.6 - 1e-6 and 1 < t.y < label.height - 0.7
            boxes.append((left, left + wide, t.y - t.size * 0.72, t.y + t.size * 0.15, t.told))
        code = label.code
        boxes.append((code.x, code.x + code.size, code.y, code.y + code.size, "code"))
        for a, b in combinations(boxes, 2):
            assert a[1] <= b[0] or b[1] <= a[0] or a[3] <= b[2] or b[3] <= a[2], (a, b)


@pytest.mark.parametrize("feet_first", [False, True])
def test_the_approach_is_printed_as_the_table_has_it(app, feet_first):
    with app.test_request_context("/"):
        look = LabelLook(STOCKS["6x4"], "", feet_first)
        says = replace(SAYS, limited_mm=1000.0, limited_in=42.0, restricted_mm=None, avoid_contact=True)
        told = [t.told.replace("\u00a0", " ") for t in label_drawing(says, look, ADDRESS).texts]
    assert ("3 ft 6 in / 1.00 m" if feet_first else "1.00 m / 3 ft 6 in") in told
    assert told[told.index("Restricted approach") + 1] == "avoid contact"


def test_the_code_on_the_paper_is_that_of_the_live_card(app, tmp_path, drawn):
    label = drawn(SAYS)
    file = sheet(app, tmp_path, [label])
    subprocess.run(["pdftoppm", "-r", "300", "-gray", "-png", "-singlefile", file, tmp_path / "page"], check=True)
    page = Image.open(tmp_path / "page.png").convert("L")
    matrix = [list(row) for row in segno.make(ADDRESS, error="m").matrix]
    side = label.code.size / len(matrix)
    for r, row in enumerate(matrix):
        for c, dark in enumerate(row):
            at = [(o + (k + 0.5) * side) / 25.4 * 300 for o, k in ((label.code.x, c), (label.code.y, r))]
            assert (page.getpixel((int(at[0]), int(at[1]))) < 128) == bool(dark), (r, c)
    # the panel of the signal word is at the top
    assert 90 < page.getpixel((int(3 / 25.4 * 300), int(3 / 25.4 * 300))) < 200


@pytest.mark.parametrize(("paper", "stock"), [("each", "a7"), ("letter", "3x2"), ("a4", "a7"), ("a4", "6x4")])
def test_as_many_as_fit_are_on_a_sheet_true_to_size(app, tmp_path, drawn, paper, stock):
    size = STOCKS[stock]
    file = sheet(app, tmp_path, [drawn(SAYS, stock, number=f"L-{i:04}") for i in range(1, 12)], paper)
    wide, high = PAPERS.get(paper, (size.width_mm, size.height_mm))
    fit = {("each", "a7"): 1, ("letter", "3x2"): 2 * 5, ("a4", "a7"): 1 * 3, ("a4", "6x4"): 1 * 2}[paper, stock]
    info = subprocess.run(["pdfinfo", file], capture_output=True, text=True, check=True).stdout
    assert int(re.search(r"Pages: +(\d+)", info)[1]) == math.ceil(11 / fit)
    points = [float(p) for p in re.search(r"Page size: +([\d.]+) x ([\d.]+)", info).groups()]
    assert [p / 72 * 25.4 for p in points] == pytest.approx([wide, high], abs=0.1)
    for page in range(math.ceil(11 / fit)):
        told = read(file, "-raw", "-f", str(page + 1), "-l", str(page + 1))
        assert re.findall(r"L-\d{4}", told) == [
            f"L-{i:04}" for i in range(page * fit + 1, min(11, page * fit + fit) + 1)
        ]
    assert b"/PrintScaling /None" in file.read_bytes()
    fonts = subprocess.run(["pdffonts", file], capture_output=True, text=True, check=True).stdout
    assert fonts.count("yes yes yes") == len(fonts.splitlines()) - 2 >= 3, "each font is embedded"


def test_letters_that_the_font_lacks_come_from_the_next_and_those_of_none_are_refused(app, tmp_path, drawn, sign_in):
    label = drawn(replace(SAYS, name="Łódź Ω ≥ Zażo\u0301ł\u0107", location="Насосная"))
    assert "Łódź Ω ≥ Zażółć, Насосная" in read(sheet(app, tmp_path, [label]), "-raw")
    assert letters_missing(label.told) == ""
    assert letters_missing("Pump 漢 ☃ 漢") == "漢☃"
    maren, place, renamed = sign_in("maren"), element_id("P-31"), document()
    next(e for e in renamed["elements"] if e["id"] == place)["name"] = "Pump 漢"
    network.publish(act("maren"), json.dumps(renamed))
    page = maren.get(f"/study/labels/of/{place}").text
    assert "has the letters 漢" in page and "Print it" not in page
    answer = maren.post("/study/labels/print", {"place": f"{place} ", "element": place, "stock": "a6"})
    assert answer.status_code == 422 and "has the letters 漢" in answer.text


def test_the_fonts_of_paper_are_those_of_the_pages(app):
    """Each letter as wide as the font of any weight draws it, by a reader of fonts that makes no file of a weight."""
    css = Path(app.static_folder, "css")
    files = dict(re.findall(r'font-family:\s*"([^"]+)";\s*src:\s*url\(([^)]+)\)', (css / "tokens.css").read_text()))
    assert set(files) == {family for family, _ in FONTS}
    for family, weight in FONTS:
        pages, paper = TTFont(css / files[family]), TTFont(path(family, weight))
        assert pages.getBestCmap().keys() == paper.getBestCmap().keys()
        drawn, printed = pages.getGlyphSet(location={"wght": weight}), paper.getGlyphSet()
        for letter, glyph in pages.getBestCmap().items():
            assert printed[paper.getBestCmap()[letter]].width == pytest.approx(drawn[glyph].width, abs=0.51), (
                family,
                weight,
                letter,
            )
