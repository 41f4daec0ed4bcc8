"""Two kept results side by side: which places differ, which is worse, what follows of it; and which record of two
documents caused it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from spinel.core.errors import SpinelError
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.network.differences import CHANGED, Difference, differences
from spinel.core.profile import profile
from spinel.core.study import SiteStudy
from spinel.core.study_compare import SAME, differs
from spinel.core.study_result import StudyResult, by_place, differ, energy_of

#: So many changed records are looked at for what each moved; of more it is told that they are too many.
MOST_CAUSES = 14
#: Fields of records that words are in, and nothing else.
_WORDS = ("name", "location", "basis", "notify", "serves", "operated_by", "tag")


@dataclass(frozen=True, kw_only=True)
class PlaceMoved:
    """``was``, ``now``: rows of the two studies, None where one has none. ``by``: change of energy, cal/cm²; ``worse``:
    more energy, a wider boundary, or nobody knows any more; ``ppe``, ``boundary``: is another kit worn, does the
    boundary differ; ``because``: names of what moved it."""

    was: Mapping[str, Any] | None
    now: Mapping[str, Any] | None
    by: float | None
    worse: bool
    ppe: bool
    boundary: bool
    because: tuple[str, ...]

    @property
    def row(self) -> Mapping[str, Any]:
        found = self.now or self.was
        assert found is not None
        return found


def compared(old: StudyResult, new: StudyResult, causes: Mapping[str, Any] | None) -> list[PlaceMoved]:
    """Every place that differs, what is worse first, by how much."""
    before, after = by_place(old), by_place(new)
    why: dict[tuple[str, str], list[str]] = {}
    for cause in (causes or {}).get("causes", ()):
        for a, b in cause["places"]:
            why.setdefault((a, b), []).append(cause["name"])
    pairs = ((key, before.get(key), after.get(key)) for key in dict.fromkeys((*after, *before)))
    found = [_moved(was, now, tuple(why.get(key, ()))) for key, was, now in pairs if differ(was, now, SAME)]
    return sorted(found, key=_gravity)


def _gravity(m: PlaceMoved) -> tuple[bool, bool, float]:
    return not m.worse, m.now is not None and energy_of(m.now) is not None, -abs(m.by or 0.0)


def _moved(was: Mapping[str, Any] | None, now: Mapping[str, Any] | None, because: tuple[str, ...]) -> PlaceMoved:
    then, is_now = (energy_of(r) if r else None for r in (was, now))
    mm_then, mm_now = (r["arc_flash_boundary_mm"] if r and r["method"] else None for r in (was, now))
    known = then is not None and is_now is not None
    wider = mm_then is not None and mm_now is not None and mm_now > mm_then * (1 + SAME)
    more = then is None or (is_now is not None and is_now > then * (1 + SAME))
    return PlaceMoved(
        was=was, now=now, by=is_now - then if then is not None and is_now is not None else None,
        worse=now is not None and (is_now is None or more or wider),
        ppe=bool(was and now and was["ppe"] != now["ppe"]), boundary=known and differs(mm_then, mm_now),
        because=because,
    )  # fmt: skip


def causes_of(
    before: Mapping[str, Any], after: Mapping[str, Any], ceiling_cal_cm2: float,
    tell: Callable[[str], None] = lambda stage: None,
) -> dict[str, Any]:  # fmt: skip
    """Of each record that two documents have otherwise: which places move when it alone is put back; as JSON data."""
    changed = [d for d in differences(before, after) if d.how != CHANGED or _tells(d)]
    if len(changed) > MOST_CAUSES:
        return {"too_many": len(changed), "causes": []}
    now, causes = _energies(after, ceiling_cal_cm2), []
    for n, d in enumerate(changed):
        tell(f"{n}/{len(changed)}")
        try:
            then = _energies(_put_back(before, after, d), ceiling_cal_cm2)
        except SpinelError:
            # the document would be none without it: it hangs together with another
            causes.append(_cause(d, {}, alone=False))
            continue
        causes.append(_cause(d, {k: (then[k], e) for k, e in now.items() if k in then and differs(then[k], e)}))
    return {"too_many": 0, "causes": causes}


def _tells(d: Difference) -> bool:
    """Could a figure follow from it?"""
    return any(not f.field.startswith(_WORDS) for f in d.fields)


def _cause(
    d: Difference, moved: Mapping[tuple[str, str], tuple[float | None, float | None]], alone: bool = True
) -> dict[str, Any]:  # fmt: skip
    told = [f for f in d.fields if not f.field.startswith(_WORDS)]
    rises = [b - a for a, b in moved.values() if a is not None and b is not None]
    return {
        "name": d.name, "how": d.how, "fields": [[f.field, _short(f.was), _short(f.now)] for f in told[:6]],
        "alone": alone, "up": sum(b is None or (a is not None and b > a) for a, b in moved.values()),
        "down": sum(b is not None and (a is None or b < a) for a, b in moved.values()),
        "most": max(rises, key=abs, default=None), "places": [list(k) for k in moved],
    }  # fmt: skip


def _short(value: Any) -> str:
    return f"{value:g}" if isinstance(value, int | float) and not isinstance(value, bool) else str(value)[:40]


def _put_back(before: Mapping[str, Any], after: Mapping[str, Any], d: Difference) -> dict[str, Any]:
    if d.group == "site":
        return {**after, "site": before["site"]}
    old = next((r for r in before.get(d.group, ()) if r["id"] == d.id), None)
    rest = [r for r in after.get(d.group, ()) if r["id"] != d.id]
    return {**after, d.group: [*rest, old] if old is not None else rest}


def _energies(document: Mapping[str, Any], ceiling_cal_cm2: float) -> dict[tuple[str, str], float | None]:
    network = accept(dict(document))
    practice = profile(network.site.profile)
    study = SiteStudy(Study(network, practice, None, min(ceiling_cal_cm2, practice.ceiling_cal_cm2)))
    return {
        (place.element.id, place.reach.code): float(row["incident_energy_cal_cm2"]) if row.get("method") else None
        for place, row in study.worst_of_each()
    }
