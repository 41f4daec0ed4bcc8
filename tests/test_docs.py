"""What the documents name is there."""

import re
from pathlib import Path

ROOT = Path(__file__).parent.parent


def test_every_test_that_the_table_of_controls_names_is_there():
    known = {n for f in (ROOT / "tests").rglob("test_*.py") for n in re.findall(r"def (test_\w+)", f.read_text())}
    named = set(re.findall(r"`(test_\w+)`", (ROOT / "docs/security.md").read_text()))
    assert len(named) > 40 and named <= known, named - known


def test_a_control_that_is_met_names_a_test_and_what_is_open_says_why():
    for line in (ROOT / "docs/security.md").read_text().splitlines():
        cells = [c.strip() for c in line.strip("|").split("|")]
        if len(cells) == 4 and cells[2] in ("met", "open", "not applicable"):
            assert cells[2] != "met" or "`test_" in cells[3], line
            assert len(cells[3]) > 5, line


def test_links_between_documents_lead_somewhere():
    for file in (*ROOT.glob("*.md"), *(ROOT / "docs").rglob("*.md")):
        for target in re.findall(r"\]\(([^)#:]+)[^)]*\)", file.read_text()):
            assert (file.parent / target).exists(), f"{file.name}: {target}"
