"""A network as one workbook or a folder of CSV, written and read: open formats, for whoever keeps lists elsewhere."""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Iterable, Mapping
from typing import Any

from spinel.core.errors import DocumentError, InputError
from spinel.core.network import sheets
from spinel.core.network.check import accept
from spinel.core.network.sheets import Cell, Fault, Read, Rows, SheetColumn
from spinel.core.said import say

#: Words to a field, for the row of explanations; given by whoever knows the language.
Explained = Mapping[tuple[str, str], str]
#: Bytes that a folder may unpack to: more is no network.
MOST_BYTES = 64 * 1024 * 1024
_DAY = (2026, 1, 1, 0, 0, 0)


def write_xlsx(document: Mapping[str, Any], explained: Explained) -> bytes:
    """A workbook: heads with units, a row of explanations and one of example, lists of choices. The same document gives
    the same cells."""
    from openpyxl import Workbook
    from openpyxl.styles import Alignment, Font
    from openpyxl.utils import get_column_letter
    from openpyxl.worksheet.datavalidation import DataValidation

    book = Workbook()
    for page in book.worksheets:
        book.remove(page)
    for name, (columns, rows) in sheets.to_rows(document).items():
        page = book.create_sheet(name)
        for r, row in enumerate(_with_remarks(name, columns, rows, explained), 1):
            for c, value in enumerate(row, 1):
                if value is None:
                    continue
                cell = page.cell(r, c, value)
                if isinstance(value, str):
                    # a text that begins with = is a text
                    cell.data_type = "s"
                if r == 1:
                    cell.font = Font(bold=True)
                if r == 2:
                    cell.alignment = Alignment(wrap_text=True, vertical="top")
        page.freeze_panes = "C4" if name != sheets.SITE else "A4"
        for c, column in enumerate(columns, 2):
            letter = get_column_letter(c)
            page.column_dimensions[letter].width = max(14, min(30, len(column.head) + 2))
            listed = ",".join(column.choices)
            if column.choices and len(listed) < 250:
                rule = DataValidation(type="list", formula1=f'"{listed}"', allow_blank=True)
                rule.add(f"{letter}4:{letter}{max(len(rows) + 3, 500)}")
                page.add_data_validation(rule)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _with_remarks(
    name: str, columns: list[SheetColumn], rows: Iterable[list[Cell]], explained: Explained
) -> Iterable[list[Cell]]:  # fmt: skip
    """The first column marks rows that only people read."""
    yield [sheets.REMARK, *(c.head for c in columns)]
    yield [sheets.REMARK, *(explained.get((name, c.field), "") for c in columns)]
    like = sheets.example(name)
    yield [sheets.REMARK, *(like.get(c.field) for c in columns)]
    for row in rows:
        yield [None, *row]


def write_csv_folder(document: Mapping[str, Any], explained: Explained) -> bytes:
    """A folder of CSV, packed: one file a sheet."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as folder:
        for name, (columns, rows) in sheets.to_rows(document).items():
            text = io.StringIO()
            writer = csv.writer(text, lineterminator="\n")
            for row in _with_remarks(name, columns, rows, explained):
                writer.writerow(["" if v is None else v for v in row])
            # of no day: the same document gives the same bytes
            folder.writestr(zipfile.ZipInfo(f"{name}.csv", _DAY), text.getvalue())
    return out.getvalue()


def read(name: str, data: bytes) -> Read:
    """What an uploaded file holds, by the ending of its name. InputError for one that cannot be opened."""
    return sheets.from_rows(tables(name, data))


def tables(name: str, data: bytes) -> dict[str, Rows]:
    """Every sheet of an uploaded workbook or folder of CSV, by its name. InputError as ``read``."""
    if name.lower().endswith(".xlsx"):
        return _xlsx(data)
    if name.lower().endswith(".zip"):
        return _csv_folder(data)
    raise InputError("document", name, say("workbooks-an-ending"))


def faults_of(found: Read) -> list[Fault]:
    """Everything that is wrong with it: cells first, then what the check of the document says, where it stands."""
    try:
        accept(found.document)
    except DocumentError as error:
        return [*found.faults, *sheets.placed(error.problems, found)]
    return list(found.faults)


def _xlsx(data: bytes) -> dict[str, Rows]:
    from openpyxl import load_workbook

    _not_too_much(data)
    try:
        book = load_workbook(io.BytesIO(data), data_only=False, keep_links=False)
    except Exception:  # whatever the reader of the format trips over is no workbook
        raise InputError("document", "", say("workbooks-a-workbook")) from None
    found: dict[str, Rows] = {}
    for page in book.worksheets:
        grid: list[list[Any]] = []
        for number, row in enumerate(page.iter_rows(), 1):
            if number > sheets.MOST_ROWS:
                raise InputError("document", page.title, say("workbooks-so-many-rows", most=sheets.MOST_ROWS))
            grid.append([_plain(page.title, cell) for cell in row])
        found[page.title.strip()] = _rows(grid)
    return found


def _plain(sheet: str, cell: Any) -> Cell:
    value = cell.value
    if cell.data_type == "f":
        # what a formula gives depends on who opens it
        raise InputError("document", f"{sheet} {cell.coordinate}", say("workbooks-values-not-formulas"))
    if cell.data_type == "e":
        raise InputError("document", f"{sheet} {cell.coordinate}", say("workbooks-a-value"))
    return value if isinstance(value, str | int | float | bool) or value is None else str(value)


def _csv_folder(data: bytes) -> dict[str, Rows]:
    _not_too_much(data)
    found: dict[str, Rows] = {}
    with zipfile.ZipFile(io.BytesIO(data)) as folder:
        for entry in folder.infolist():
            name = entry.filename.rpartition("/")[2]
            if entry.is_dir() or not name.lower().endswith(".csv"):
                continue
            try:
                text = folder.read(entry).decode("utf-8-sig")
            except UnicodeDecodeError:
                raise InputError("document", name, say("revisions-a-text-in-utf-8")) from None
            grid: list[list[Any]] = [list(row) for row in csv.reader(io.StringIO(text))]
            if len(grid) > sheets.MOST_ROWS:
                raise InputError("document", name, say("workbooks-so-many-rows", most=sheets.MOST_ROWS))
            found[name[: -len(".csv")]] = _rows(grid)
    if not found:
        raise InputError("document", "", say("workbooks-a-folder-of-csv"))
    return found


def _not_too_much(data: bytes) -> None:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            size = sum(entry.file_size for entry in packed.infolist())
    except zipfile.BadZipFile:
        raise InputError("document", "", say("workbooks-a-workbook")) from None
    if size > MOST_BYTES:
        raise InputError("document", size, say("workbooks-so-many-bytes", most=MOST_BYTES // 1024 // 1024))


def _rows(grid: list[list[Any]]) -> Rows:
    """Records by head: the first row has the heads; rows whose first cell is marked, or that hold nothing, are none."""
    if not grid:
        return ()
    heads = [str(h).strip() if h is not None else "" for h in grid[0]]
    # a table that somebody made without the column of marks
    marked = heads[:1] == [sheets.REMARK]
    found = []
    for number, row in enumerate(grid[1:], 2):
        if str(row[0] if row else "").strip() == sheets.REMARK:
            continue
        cells = {h: v for h, v in zip(heads, row, strict=False) if h and not (marked and h == sheets.REMARK)}
        if any(v not in (None, "") for v in cells.values()):
            found.append((number, cells))
    return found
