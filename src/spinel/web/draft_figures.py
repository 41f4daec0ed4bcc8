"""Figures of a draft, computed beside the server and kept by what they follow from: the study, and how far each assumed
value reaches."""

from __future__ import annotations

import json
import math
from typing import Any

from flask import current_app

from spinel.core.editing.reach import reach
from spinel.core.errors import DocumentError
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.profile import profile
from spinel.core.study import SiteStudy
from spinel.core.study_compare import differs
from spinel.core.study_result import case_of
from spinel.web.heavy import Heavy, Tell
from spinel.wording.words import words_of

PATIENCE_S = 1.5
KIND = "json"
Row = dict[str, Any]


def studied(text: str, ceiling_cal_cm2: float) -> list[Row] | None:
    """The worst figure of every place of an acceptable document; None while it is computed."""
    made = _made("draft-study", as_studied, text, ceiling_cal_cm2)
    return None if made is None else list(json.loads(made))


def reached(text: str, ceiling_cal_cm2: float, patience_s: float = PATIENCE_S) -> list[Row] | None:
    """What is assumed or missing, with how far each moves a figure; None while it is computed."""
    made = _made("draft-reach", as_reached, text, ceiling_cal_cm2, patience_s)
    return None if made is None else list(json.loads(made))


def reach_stage(text: str, ceiling_cal_cm2: float) -> str:
    heavy: Heavy = current_app.extensions["heavy"]
    return heavy.stage(KIND, heavy.key("draft-reach", text, repr(ceiling_cal_cm2)))


def _made(what: str, work: Any, text: str, ceiling_cal_cm2: float, patience_s: float = PATIENCE_S) -> bytes | None:
    heavy: Heavy = current_app.extensions["heavy"]
    key = heavy.key(what, text, repr(ceiling_cal_cm2))
    return heavy.make(KIND, key, work, text, ceiling_cal_cm2, patience_s=patience_s)


def as_studied(tell: Tell, text: str, ceiling_cal_cm2: float) -> bytes:
    """In the process beside the server. What is not acceptable has no rows."""
    try:
        network = accept(json.loads(text))
    except DocumentError:
        return b"[]"
    practice = profile(network.site.profile)
    found = SiteStudy(Study(network, practice, None, min(ceiling_cal_cm2, practice.ceiling_cal_cm2)))
    words = words_of(practice)
    rows = []
    for location, row in found.worst_of_each():
        has = bool(row.get("method"))
        rows.append({
            "element_id": location.element.id, "tag": location.element.tag, "touches": location.reach.code,
            "side": words.say(location.side), "cal_cm2": row["incident_energy_cal_cm2"] if has else None,
            "mm": row["arc_flash_boundary_mm"] if has else None,
            "ka": row["bolted_fault_current_ka"] if has else None,
            "device": row.get("device") or "" if has else "", "ppe": words.say(row["ppe"]) if has else "",
            "case": case_of(row.get("case") or "") if has else "",
            "why_none": "" if has else words.say(row.get("warning") or ""),
            "limited_mm": row.get("limited_fixed_mm") or None, "restricted_mm": row.get("restricted_mm") or None,
            "working_mm": row.get("working_distance_mm") or None,
        })  # fmt: skip
    return json.dumps(rows).encode()


def as_reached(tell: Tell, text: str, ceiling_cal_cm2: float) -> bytes:
    """In the process beside the server."""
    found = reach(json.loads(text), ceiling_cal_cm2, lambda done, of: tell(f"{done}/{of}"))
    return json.dumps(
        [
            {
                "group": r.doubt.group, "id": r.doubt.id, "name": r.doubt.name, "field": r.doubt.field,
                "value": r.doubt.value if not isinstance(r.doubt.value, dict) else None, "why": r.doubt.why,
                "rise": _finite(r.rise), "fall": _finite(r.fall), "no_figure": math.isinf(r.most), "tag": r.tag,
                "was": r.was, "would": r.would, "site": _finite(r.site), "tried": bool(r.doubt.others),
            }
            for r in found
        ]
    ).encode()  # fmt: skip


def _finite(part: float) -> float | None:
    return part if math.isfinite(part) else None


def worst_by_element(rows: list[Row]) -> dict[str, Row]:
    """Of every piece of equipment the way of reaching it that is worst; one without a figure before any with one, as
    nobody knows how bad it is."""
    found: dict[str, Row] = {}
    for row in rows:
        kept = found.get(row["element_id"])
        if kept is None or _badness(row) > _badness(kept):
            found[row["element_id"]] = row
    return found


def _badness(row: Row) -> float:
    return math.inf if row["cal_cm2"] is None else float(row["cal_cm2"])


def side_by_side(before: list[Row], after: list[Row], reaches: list[Row] | None) -> list[Row]:
    """Every place of the draft with what it was, worst first; ``up_to``: how far one assumed value could carry it."""
    old, new = worst_by_element(before), worst_by_element(after)
    could: dict[str, float] = {}
    for r in reaches or ():
        if r["would"] is not None and r["tag"]:
            could[r["tag"]] = max(could.get(r["tag"], 0.0), r["would"])
    found = []
    for element_id, row in new.items():
        was = old.get(element_id)
        found.append({
            **row, "new": was is None, "was_cal_cm2": was["cal_cm2"] if was else None,
            "was_ka": was["ka"] if was else None, "moves": was is None or differs(was["cal_cm2"], row["cal_cm2"]),
            "up_to": could.get(row["tag"]),
        })  # fmt: skip
    return sorted(found, key=lambda r: -_badness(r))


#: So many places are shown beside a drawing; the table has all of them.
SHOWN = 14


def shown(rows: list[Row], element_id: str) -> list[Row]:
    """What is chosen first, then what the draft moves, worst first, then the worst of the rest."""
    order = sorted(rows, key=lambda r: (r["element_id"] != element_id, not r["moves"], -_badness(r)))
    return order[:SHOWN]
