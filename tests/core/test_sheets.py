"""A network as tables and back is the same document, to its hash; what is wrong is named by sheet, row and column."""

import json
import random

import pytest

from spinel.actions import workbooks
from spinel.core.canonical import content_hash
from spinel.core.errors import InputError
from spinel.core.network import sheets
from spinel.core.network.check import accept
from spinel.core.network.schema import schema
from spinel.demo.large import large_document
from spinel.demo.site import document

BOTH = pytest.mark.parametrize(
    ("name", "write"), [("a.xlsx", workbooks.write_xlsx), ("a.zip", workbooks.write_csv_folder)]
)


@BOTH
@pytest.mark.parametrize(
    "data", [document(), large_document(14, 3), large_document(14, 4)], ids=["demo", "large-3", "large-4"]
)
def test_written_and_read_again_it_is_the_same_document(name, write, data):
    found = workbooks.read(name, write(data, {}))
    assert workbooks.faults_of(found) == []
    assert content_hash(found.document) == content_hash(data)


@BOTH
def test_odd_values_survive(name, write):
    """Text that looks like a formula, a number or a list; whole numbers with a point; what is no and what is not told."""
    data = document()
    first = data["elements"][0]
    first |= {"name": '=1+1', "location": "007", "serves": "a; b", "notify": " \u2126 ", "isolating": False,
              "fault_mva_max": 350.0, "x_r_max": 1e-3, "basis": {"x_r_max": {"from": "letter", "note": "3; of March"}}}  # fmt: skip
    data["elements"].sort(key=lambda e: e["tag"][::-1])
    found = workbooks.read(name, write(data, {}))
    assert json.dumps(found.document, sort_keys=True) == json.dumps(data, sort_keys=True)


def cells(data=None):
    return {n: [(i + 4, dict(zip([c.head for c in cols], row, strict=True))) for i, row in enumerate(rows)]
            for n, (cols, rows) in sheets.to_rows(data or document()).items()}  # fmt: skip


#: Sheet, column, what somebody typed in the first row, and the fault; None: it is read as what it means.
TYPED = [
    ("cable", "length_m [m]", "forty", True), ("cable", "length_m [m]", "40,5", True), ("cable", "length_m [m]", "40.5", None),
    ("cable", "length_m [ft]", 40, True), ("cable", "lenght_m", 4, True), ("breaker", "isolating", "maybe", True),
    ("breaker", "isolating", "TRUE", None), ("breaker", "normal_position", "Closed", None),
    ("breaker", "curve", "{not json", True), ("breaker", "curve", '{"type": NaN}', True), ("motor", "no", "first", True),
    ("bus", "rated_a [A]", True, True), ("transformer", "rated_kva [kVA]", float("inf"), True),
    ("source", "fault_mva_max [MVA]", "nan", True),
]  # fmt: skip


@pytest.mark.parametrize(("sheet", "column", "value", "wrong"), TYPED)
def test_what_a_cell_cannot_hold_is_named_where_it_stands(sheet, column, value, wrong):
    grid = cells()
    number, row = grid[sheet][0]
    grid[sheet][0] = (number, {**row, column: value})
    found = sheets.from_rows(grid)
    assert [(f.sheet, f.row, f.column) for f in found.faults] == ([(sheet, number, column)] if wrong else [])
    if wrong:
        # what cannot be read is left out, never guessed at
        record = next(r for r in found.document["elements"] if r["id"] == row["id"])
        assert sheets.split_head(column)[0] not in record or "ft" in column or column == "no"
    else:
        accept(found.document)


def test_what_makes_no_sense_together_is_placed_too():
    grid = cells()
    number, row = grid["cable"][0]
    grid["cable"][0] = (number, {**row, "ends": "n-t1c; nowhere"})
    faults = workbooks.faults_of(sheets.from_rows(grid))
    assert ("cable", number, "ends") in [(f.sheet, f.row, f.column) for f in faults]


def test_a_record_that_cannot_be_worked_on_is_left_out_and_said():
    grid = cells()
    for name, column in (("breaker", "tag"), ("nodes", "nominal_voltage_v [V]")):
        number, row = grid[name][0]
        grid[name][0] = (number, {**row, column: None})
    read = sheets.from_rows(grid)
    some = sheets.workable(read)
    assert len(some.document["elements"]) == len(document()["elements"]) - 1
    assert {f.column for f in some.faults} >= {"tag", "nominal_voltage_v"}


@pytest.mark.parametrize(("name", "data"), [
    ("a.txt", b"hello"), ("a.xlsx", b"hello"), ("a.xlsx", b""), ("a.zip", b"PK\x03\x04 not"), ("a.ods", b"x"),
])  # fmt: skip
def test_what_is_no_workbook_is_refused(name, data):
    with pytest.raises(InputError):
        workbooks.read(name, data)


def test_a_formula_is_no_value():
    import io

    from openpyxl import load_workbook

    book = load_workbook(io.BytesIO(workbooks.write_xlsx(document(), {})))
    book["cable"]["H5"] = "=2*20"
    out = io.BytesIO()
    book.save(out)
    with pytest.raises(InputError) as error:
        workbooks.read("a.xlsx", out.getvalue())
    assert "cable H5" in str(error.value.value)


def test_a_broken_workbook_never_becomes_an_accepted_document_of_another_value():
    """Random cells are replaced by random things: either it is told, or the document differs in nothing but that cell."""
    things = ["", None, "x", "0", -1, 1e9, "yes", "closed", "[]", "{}", "1e400", "−5", "12 470", "480 V"]
    for seed in range(60):
        chance, grid = random.Random(seed), cells()
        name = chance.choice([n for n, rows in grid.items() if rows])
        i = chance.randrange(len(grid[name]))
        number, row = grid[name][i]
        column, thing = chance.choice(list(row)), chance.choice(things)
        grid[name][i] = (number, {**row, column: thing})
        read = sheets.from_rows(grid)
        if read.faults:
            continue
        other = [r for g in ("nodes", "enclosures", "cases", "elements") for r in read.document[g]]
        same = [r for g in ("nodes", "enclosures", "cases", "elements") for r in document()[g]]
        kept = sum(r in same for r in other)
        assert kept >= len(same) - 1, (seed, name, column, thing)


def test_every_field_of_the_document_has_its_column():
    whole = schema()["properties"]
    assert set(sheets.properties("breaker")) == set(whole["elements"]["items"]["properties"])
    for name in sheets.sheet_names():
        assert sheets.columns(name) and set(sheets.example(name)) <= set(sheets.properties(name))
