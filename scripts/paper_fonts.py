"""Makes the fonts of paper (src/spinel/web/static/fonts/paper) of the fonts of the pages. Run it when those change:
making a weight in each process that draws a paper would take longer than the paper."""

import re
from pathlib import Path

from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

from spinel.web.paper_fonts import FONTS, path

STATIC = Path(__file__).parent.parent / "src" / "spinel" / "web" / "static"
FACE = re.compile(r'@font-face\s*\{[^}]*font-family:\s*"([^"]+)"[^}]*url\(([^)]*)\)')
OF = dict(FACE.findall((STATIC / "css" / "tokens.css").read_text()))

for family, weight in FONTS:
    font = TTFont(STATIC / "css" / OF[family])
    if "fvar" in font:
        font = instantiateVariableFont(font, {"wght": weight}, static=True)
    # whoever writes a PDF tells fonts apart by this name
    font["name"].setName(f"{family} {weight}".replace(" ", "-"), 6, 3, 1, 0x409)
    font.flavor = None
    # no day of its making: the same fonts are the same files
    font.recalcTimestamp = False
    file = path(family, weight)
    font.save(file)
    print(file.name, file.stat().st_size)
