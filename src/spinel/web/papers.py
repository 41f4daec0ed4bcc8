"""Papers: permit and switching program as printed pages and as PDF, with a code that opens the live record."""

from __future__ import annotations

import base64
import io
import re
from ctypes.util import find_library
from functools import lru_cache
from pathlib import Path
from typing import Any
from urllib.parse import urlencode

from flask import Blueprint, Response, current_app, g, render_template, request, url_for

from spinel.actions import assessing, attachments, gear, job_plan, jobs, permits, positions, program_view, records
from spinel.core.errors import InputError, NotFound
from spinel.core.isolation.reenergizing import reenergizing
from spinel.core.people import role_name
from spinel.core.risk.scales import words as scale_words
from spinel.core.said import Said, say
from spinel.web import network_pages, phrases, showing, verdicts
from spinel.web import records as records_pages
from spinel.web.addresses import outside
from spinel.web.drawing import detail, sheets
from spinel.web.filters import words
from spinel.web.heavy import Heavy
from spinel.web.here import here, site
from spinel.web.pdfs import KIND, as_pdf
from spinel.web.session import actor
from spinel.web.showing_emergency import emergency_of, highest_v

pages = Blueprint("papers", __name__)
#: Columns of the reading copy.
COLUMNS = ("step", "location", "type", "identity", "voltage", "action", "operated", "verified", "time")
SIZES = {"letter": "Letter", "a4": "A4"}
#: What the PDF library loads, and the Debian package that brings it.
NEEDS = {
    "pango-1.0": "libpango-1.0-0",
    "pangoft2-1.0": "libpangoft2-1.0-0",
    "harfbuzz": "libharfbuzz0b",
    "harfbuzz-subset": "libharfbuzz-subset0",
    "fontconfig": "libfontconfig1",
}
_STATIC = Path(__file__).with_name("static")


@pages.get("/permits/<number>/paper")
def permit(number: str):
    """The paper as a screen; its buttons make the PDF."""
    return render_template("papers/permit.html", **_permit(number), missing=missing_packages())


@pages.get("/permits/<number>/place")
def place(number: str):
    """The one-line round the place and its pictures, alone: for the briefing."""
    seen = permits.view(site(), number, g.now)
    return render_template("papers/_place.html", **_place(seen.content["equipment"]["id"], False))


@pages.get("/permits/<number>.pdf")
def permit_pdf(number: str):
    return as_paper("papers/permit.html", number, _permit(number, True))


@pages.get("/jobs/<number>/paper")
def job(number: str):
    """Plan and assessment of a job, for the wall of the site office and for the file."""
    return render_template("papers/job.html", **_job(number), missing=missing_packages())


@pages.get("/jobs/<number>.pdf")
def job_pdf(number: str):
    return as_paper("papers/job.html", number, _job(number, True))


@pages.get("/switching/<number>/paper")
def program(number: str):
    """The reading copy of a program, with columns to sign."""
    return render_template("papers/program.html", **_program(number), missing=missing_packages())


@pages.get("/switching/<number>.pdf")
def program_pdf(number: str):
    return as_paper("papers/program.html", number, _program(number))


@pages.get("/records/story/<kind>/<name>/paper")
def story(kind: str, name: str):
    """A story for who keeps paper, with the head of the ledger that it can be held against."""
    return render_template("papers/story.html", **_story(kind, name), missing=missing_packages())


@pages.get("/records/story/<kind>/<name>.pdf")
def story_pdf(kind: str, name: str):
    return as_paper("papers/story.html", re.sub("[^A-Za-z0-9._-]", "-", f"{kind}-{name}")[:80], _story(kind, name))


@pages.get("/network/paper")
def drawing():
    """The one-line on sheets: to fit one, or in parts of readable size."""
    return render_template("papers/drawing.html", **_drawing(), missing=missing_packages())


@pages.get("/network/one-line.pdf")
def drawing_pdf():
    return as_paper("papers/drawing.html", "one-line", _drawing())


def _drawing() -> dict[str, object]:
    tiled = request.args.get("tiled") == "1"
    asked = {k: v for k in ("state", "layer") if (v := request.args.get(k))}
    live = _live("network.page", "papers.drawing_pdf")
    pdf = f"{url_for('papers.drawing_pdf')}?{urlencode({**asked, 'tiled': int(tiled)})}"
    return {**live, "leaves": sheets(network_pages.drawing_asked(), tiled), "tiled": tiled, "asked": asked, "pdf": pdf,
            "styles": network_pages.printed_styles(), "drawn_sheets": network_pages.DRAWN}  # fmt: skip


def as_paper(template: str, number: str, content: dict[str, object]):
    size = request.args.get("size", words().profile.written.paper)
    if size not in SIZES:
        raise InputError("size", size, say("papers-letter-or-a4"))
    if missing_packages():
        return render_template(template, **content, missing=missing_packages()), 503
    heavy: Heavy = current_app.extensions["heavy"]
    asked = request.args.get("drawn", "")
    key = asked if re.fullmatch("[0-9a-f]{64}", asked) else ""
    found = heavy.just_made(KIND, key) if key else None
    if found is None and not (key and heavy.coming(KIND, key)):
        html = render_template(template, **content, missing="", pdf_size=SIZES[size])
        html = html.replace(f'href="{current_app.static_url_path}/', f'href="{_STATIC.as_uri()}/')
        key = heavy.key(html)
        found = heavy.make(KIND, key, as_pdf, html, str(_STATIC))
    if found is None:
        # others have asked before: this page looks again by itself
        page = render_template("papers/coming.html", number=number)
        again = url_for(str(request.endpoint), **(request.view_args or {}), size=size, drawn=key)
        return page, 202, {"Refresh": f"2; url={again}"}
    answer = Response(found, mimetype="application/pdf")
    answer.headers["Content-Disposition"] = f'inline; filename="{number}-{size}.pdf"'
    return answer


def _story(kind: str, name: str) -> dict[str, object]:
    return {**records_pages.told(kind, name), **_live("records.story", "papers.story_pdf", kind=kind, name=name)}


def _permit(number: str, for_pdf: bool = False) -> dict[str, object]:
    seen = showing.permit(permits.view(site(), number, g.now))
    return {
        "permit": seen,
        "c": seen.content,
        "waited": positions.waited_for(site(), seen),
        "given": gear.given_for(site(), number),
        **_place(seen.content["equipment"]["id"], for_pdf),
        **emergency_of(seen.content["equipment"]["location"], seen.content["equipment"]["voltage_v"]),
        **_live("permits.page", "papers.permit_pdf", number=number),
    }


def _job(number: str, for_pdf: bool = False) -> dict[str, object]:
    seen, who = jobs.view(site(), number), actor()
    each = ((s, assessing.of_job(site(), number, who, s)) for s in assessing.SUBJECTS)
    element, place = seen.element, {}
    if element is not None and seen.hazard is not None:
        place = emergency_of(element.location, seen.hazard.voltage_v)
    return {
        "job": seen, "planned": job_plan.of_job(site(), number), "together": job_plan.together(site(), number),
        "names": site().names(), "assessed": [(s, a) for s, a in each if a is not None],
        "figures": list(phrases.figures_of(seen, verdicts.worst_side(seen))) if seen.hazard else [],
        "scales": dict(scale_words(here().settings["risk_words"])),
        "again": reenergizing(here().study, element) if element and seen.isolable else None,
        **place, **_place(element.id if element else "", for_pdf),
        **_live("jobs.folder", "papers.job_pdf", number=number),
    }  # fmt: skip


#: Of the one-line round a place on paper, px of the drawing; and so many pictures at most.
_PLACE_PX, _PICTURES = (760.0, 380.0), 4


def _place(element_id: str, for_pdf: bool) -> dict[str, object]:
    """The one-line round a piece of equipment as it stands, live parts round it, and pictures of it."""
    if element_id not in here().network.element:
        return {"place": None, "pictures": []}
    kept = [a for a in attachments.of(site(), element_id) if a.file.endswith(".jpg")]
    return {
        "place": detail(here(), element_id, *_PLACE_PX), "place_of": element_id,
        "place_styles": network_pages.printed_styles(), "drawn_sheets": network_pages.DRAWN,
        "pictures": [(a.title, _address_of(a.file, for_pdf)) for a in kept[:_PICTURES]],
    }  # fmt: skip


def _address_of(name: str, for_pdf: bool) -> str:
    """Where a page finds a kept picture; for a PDF the picture itself, as its renderer fetches nothing but styles."""
    if not for_pdf:
        return url_for("equipment.attached", name=name)
    try:
        picture = attachments.file(site(), name).read_bytes()
    except NotFound:
        # damaged or lost: the paper says so by its title alone, and the check of the record names it
        return ""
    return f"data:image/jpeg;base64,{base64.b64encode(picture).decode()}"


def _program(number: str) -> dict[str, object]:
    seen = showing.program(program_view.view(site(), number))
    confirmed = {r.detail["step"]: r for r in seen.valid("confirmed")}
    return {
        "program": seen,
        "c": seen.content,
        "confirmed": confirmed,
        "signers": _signers(seen),
        "columns": COLUMNS,
        **emergency_of(seen.content["equipment"]["location"], highest_v(seen)),
        **_live("switching.program", "papers.program_pdf", number=number),
    }


def _signers(seen: program_view.ProgramView) -> list[tuple[Said, str]]:
    """Who wrote, checked, released, reads and operates, with what each is called."""
    checked, released = seen.last("checked"), seen.last("released")
    return [
        (say("paper-written-by"), seen.requester),
        (say("paper-checked-by"), checked.name if checked else ""),
        (say("paper-released-by"), released.name if released else ""),
        (say("paper-director"), seen.director),
        (role_name("operator"), seen.operator),
    ]


def _sizes() -> list[str]:
    """Both sizes of paper, the practice's own first."""
    own = words().profile.written.paper
    return sorted(SIZES, key=lambda size: size != own)


def _live(page: str, pdf: str, **named: Any) -> dict[str, object]:
    """The address of the live record as a code, and the ledger's count and head at this moment."""
    back = url_for(page, **named)
    address = outside(back)
    count, head = records.head(site())
    return {"address": address, "code": code(address), "count": count, "head": head, "back": back,
            "pdf": url_for(pdf, **named), "sizes": _sizes()}  # fmt: skip


def live_record(back: str) -> str:
    """The address of a live record, as people outside this page open it."""
    return outside(back)


def code_of(back: str) -> str:
    return code(outside(back))


def code(text: str) -> str:
    """The address as an SVG code for the page."""
    import segno

    out = io.BytesIO()
    segno.make(text, error="m").save(out, kind="svg", scale=3, border=2, xmldecl=False, svgns=True, omitsize=False)
    return out.getvalue().decode("utf-8")


@lru_cache(maxsize=1)
def missing_packages() -> str:
    """Names of the Debian packages that the PDF library needs and that are not here, else empty."""
    return " ".join(package for library, package in NEEDS.items() if find_library(library) is None)
