"""The network in open formats: JSON, one workbook, a folder of CSV; out of a revision or a draft, and in again."""

from __future__ import annotations

import json
from functools import lru_cache

from flask import Blueprint, Response, render_template, request, url_for
from werkzeug.datastructures import FileStorage

from spinel.actions import drafting, revisions, workbooks
from spinel.core.errors import DocumentError, InputError, NotFound
from spinel.core.network import sheets
from spinel.core.network.check import parse
from spinel.core.network.sheets import Fault, Read
from spinel.core.network.upgrade import upgraded
from spinel.core.said import say
from spinel.web import forms
from spinel.web.filters import words
from spinel.web.here import published, site
from spinel.web.session import act
from spinel.wording.fields import described
from spinel.wording.words import Words

pages = Blueprint("network_files", __name__)
TYPES = {
    "json": "application/json", "zip": "application/zip",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
}  # fmt: skip


@pages.get("/network/revisions/<int:number>.<ending>")
def revision(number: int, ending: str):
    found = revisions.of_number(site(), number)
    return _file(revisions.text_of(site(), found.hash), ending, f"network-{number}")


@pages.get("/network/build/<number>/document.<ending>")
def draft(number: str, ending: str):
    return _file(drafting.draft(site(), number).text, ending, number)


def _file(text: str, ending: str, name: str) -> Response:
    if ending not in TYPES:
        raise NotFound("network", ending)
    data: bytes = text.encode()
    if ending != "json":
        write = workbooks.write_xlsx if ending == "xlsx" else workbooks.write_csv_folder
        data = write(upgraded(json.loads(text)), explanations(words()))
    head = {"Content-Disposition": f'attachment; filename="{name}.{ending}"'}
    return Response(data, mimetype=TYPES[ending], headers=head)


@lru_cache(maxsize=8)
def explanations(spoken: Words) -> dict[tuple[str, str], str]:
    """Words to every field, by sheet and field."""
    whole = described(spoken)["properties"]
    found = {}
    for sheet in sheets.sheet_names():
        part = (
            whole["site"] if sheet == sheets.SITE else whole[sheet if sheet in sheets.GROUPS else "elements"]["items"]
        )
        for field, rule in part["properties"].items():
            found[sheet, field] = str(rule.get("description", ""))
    found |= {(sheet, sheets.ORDER): spoken.say(say("sheets-order")) for sheet in sheets.sheet_names()}
    return found


@pages.get("/network/import")
def page():
    return _page()


def _page(failed: forms.Failed | None = None, faults: list[Fault] | None = None, read: Read | None = None):
    return render_template(
        "network/import.html", failed=failed, faults=faults or [], name=_uploaded().filename if faults else "",
        counts=_counts(read) if read else [], published=published(), rows_of=_rows_of(read, faults or []),
    )  # fmt: skip


def _uploaded() -> FileStorage:
    found = request.files.get("document")
    return found if found is not None else FileStorage()


def _counts(read: Read) -> list[tuple[str, int]]:
    return [(g, len(read.document[g])) for g in ("elements", "nodes", "enclosures", "cases")]


def _rows_of(read: Read | None, faults: list[Fault]) -> dict[tuple[str, int], str]:
    """What else the row of a fault says: its tag or name, so that people find it."""
    if read is None:
        return {}
    by_place = {place: name for name, place in read.at.items()}
    return {(f.sheet, f.row): by_place.get((f.sheet, f.row), "") for f in faults}


@pages.post("/network/import")
def bring():
    """A whole document becomes a draft; one with faults only where somebody asks for it."""
    drafting.may(act())
    try:
        read, faults = _read(_uploaded())
    except InputError as error:
        return _page(forms.Failed("import", error, request.form)), 422
    if faults and not request.form.get("keep"):
        return _page(None, faults, read), 422
    what = say("import-brought", name=_uploaded().filename or "", count=len(faults))

    def do() -> str:
        some = sheets.workable(read) if faults else read
        missing = [f for f in some.faults if f.sheet]
        return drafting.begin_with(act(), some.document, what, missing)

    return forms.attempt("import", do, lambda number: url_for("drafting.page", number=number), _page)


def _read(file: FileStorage) -> tuple[Read, list[Fault]]:
    name, data = file.filename or "", file.read()
    if not data:
        raise InputError("document", name, say("import-a-file"))
    if name.lower().endswith(".json"):
        return _json(name, data)
    found = workbooks.read(name, data)
    return found, workbooks.faults_of(found)


def _json(name: str, data: bytes) -> tuple[Read, list[Fault]]:
    try:
        document = upgraded(parse(data.decode("utf-8-sig")))
    except (UnicodeDecodeError, DocumentError):
        raise InputError("document", name, say("import-json-that-can-be-read")) from None
    groups = (*sheets.GROUPS, "elements")
    if not isinstance(document.get("site"), dict) or not all(_are_records(document.get(g)) for g in groups):
        raise InputError("document", name, say("import-json-that-can-be-read"))
    places = {str(r.get(k)): (str(r.get("kind") or g), i) for g in groups for i, r in enumerate(document[g], 1)
              for k in ("id", "tag") if r.get(k)}  # fmt: skip
    found = Read(document, (), places)
    return found, workbooks.faults_of(found)


def _are_records(value: object) -> bool:
    return isinstance(value, list) and all(isinstance(r, dict) for r in value)
