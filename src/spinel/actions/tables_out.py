"""Tables as a workbook that any spreadsheet opens: one sheet each, numbers as numbers, texts that begin no formula."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from pathlib import Path
from typing import Any

from spinel.core.rows import disarmed


def write_workbook(path: Path, sheets: Mapping[str, tuple[Sequence[str], Iterable[Mapping[str, Any]]]]) -> None:
    """``sheets``: by name, columns and rows. A file that is there is written over, whole or not at all."""
    # loads slowly, so only where a workbook is wanted
    from openpyxl import Workbook
    from openpyxl.styles import Font

    book = Workbook()
    for name, (columns, rows) in sheets.items():
        sheet = book.create_sheet(name)
        sheet.append(list(columns))
        for cell in sheet[1]:
            cell.font = Font(bold=True)
        sheet.freeze_panes = "A2"
        for row in rows:
            sheet.append([disarmed(row.get(column, "")) for column in columns])
    del book["Sheet"]
    beside = path.with_name(f".{path.name}.part")
    book.save(beside)
    beside.replace(path)
