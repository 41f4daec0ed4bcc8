"""Evidence of what was taught and shown: a picture or a PDF that somebody hands in.

What it is, is told by what it holds, never by its name. A picture is drawn anew: where it was taken, by which device
and whatever else was hidden in it does not come along.
"""

from __future__ import annotations

import io
from pathlib import Path

from PIL import Image, ImageOps

from spinel.actions.acting import Act
from spinel.actions.site import Site, on_site
from spinel.core.errors import InputError, NotFound
from spinel.core.said import say
from spinel.store import files, training

#: Bytes that are taken at most, and points of a picture: our choice.
MOST_BYTES, MOST_POINTS = 6 * 1024 * 1024, 40_000_000
#: Of a picture's longer side, in points: a certificate is read well at this.
LONGEST = 2400


@on_site
def keep(act: Act, content: bytes) -> str:
    """The name to refer to it by, empty for nothing; InputError for what is no picture and no PDF."""
    act.actor.needs("coordinator", what=say("act-people-record-qualifications"))
    if not content:
        return ""
    if len(content) > MOST_BYTES:
        raise InputError("evidence", len(content), say("evidence-at-most", most=MOST_BYTES // 1024 // 1024))
    if content.startswith(b"%PDF-"):
        return files.keep(act.site.path, content, "pdf")
    return files.keep(act.site.path, drawn_anew(content), "jpg")


def drawn_anew(content: bytes) -> bytes:
    """A picture as JPEG with nothing hidden in it; InputError for what is none, or is too large."""
    try:
        with Image.open(io.BytesIO(content), formats=("JPEG", "PNG", "WEBP")) as picture:
            if picture.width * picture.height > MOST_POINTS:
                raise InputError("evidence", f"{picture.width} x {picture.height}", say("evidence-smaller"))
            upright = ImageOps.exif_transpose(picture).convert("RGB")
            upright.thumbnail((LONGEST, LONGEST))
            plain = Image.new("RGB", upright.size)
            plain.paste(upright)
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise InputError("evidence", "", say("evidence-a-picture-or-a-pdf")) from None
    out = io.BytesIO()
    plain.save(out, "JPEG", quality=85)
    return out.getvalue()


@on_site
def file(site: Site, name: str) -> Path:
    """Where a file lies that the record refers to; NotFound for any other."""
    path = files.path_of(site.path, name) if name in training.evidence() else None
    if path is None:
        raise NotFound("evidence", name[:12])
    return path
