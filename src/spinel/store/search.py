"""Finding equipment, jobs, permits, programs and people by what a person types: SQLite's full-text index."""

from __future__ import annotations

from dataclasses import dataclass

from spinel.store.database import DatabaseError, database, rows


@dataclass(frozen=True)
class Findable:
    """``kind``: equipment, job, permit, program, gear, study, label or person. ``state``: of a permit, a program or
    gear; ``window_end``, ``over``: of a permit."""

    kind: str
    key: str
    title: str
    detail: str
    state: str
    window_end: str
    over: int


_FOUND = """SELECT f.kind, f.key, f.title, f.detail,
    coalesce(p.state, q.state, iif(g.retired, 'retired', iif(g.barred <> '', 'out', '')), ''),
    coalesce(p.window_end, ''), coalesce(p.over, 0) FROM findable f
LEFT JOIN permit p ON f.kind = 'permit' AND p.number = f.key
LEFT JOIN program q ON f.kind = 'program' AND q.number = f.key
LEFT JOIN gear g ON f.kind = 'gear' AND g.number = f.key
WHERE {where}
ORDER BY f.kind <> 'equipment', f.kind <> 'job', f.kind <> 'permit', f.kind <> 'program',
    f.kind = 'equipment' AND f.title NOT LIKE ? ESCAPE '\\', (f.kind = 'equipment') * length(f.title), f.rowid DESC
LIMIT ?"""
#: The index knows three letters in a row; what is shorter is looked for in every line.
_INDEXED = 3


def holding(wanted: str, at_most: int) -> list[Findable]:
    """What has the text in its tag, number or name, or in what stands beside that, whatever the case of its letters.
    Equipment first, that which begins with it before other, short tags before long; then the newest of each kind."""
    if "\x00" in wanted:
        # SQLite would end the text there; nothing that is kept holds one
        return []
    begins = f"{_plain(wanted)}%"
    if len(wanted) >= _INDEXED:
        quoted = wanted.replace('"', '""')
        return _found("f.findable MATCH ?", (f'"{quoted}"',), begins, at_most)
    # LIKE passes over the case of plain letters only
    cases = tuple(f"%{_plain(text)}%" for text in {wanted, wanted.lower(), wanted.upper(), wanted.title()})
    likes = " OR ".join(["f.title LIKE ? ESCAPE '\\' OR f.detail LIKE ? ESCAPE '\\'"] * len(cases))
    return _found(f"({likes})", tuple(c for case in cases for c in (case, case)), begins, at_most)


def titled(title: str) -> list[Findable]:
    """What bears exactly this tag or number, whatever the case of its letters. People are asked for by name."""
    near = _found("f.kind <> 'person' AND f.title LIKE ? ESCAPE '\\'", (_plain(title),), _plain(title), -1)
    return [f for f in near if f.title.casefold() == title.casefold()]


def _found(where: str, values: tuple[str, ...], begins: str, at_most: int) -> list[Findable]:
    return [Findable(*row) for row in rows(_FOUND.format(where=where), *values, begins, at_most)]


def _plain(text: str) -> str:
    """The text with nothing in it that LIKE would take for a wildcard."""
    return text.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")


_EXPECTED = """SELECT 'equipment' kind, e.value ->> '$.id' key, e.value ->> '$.tag' title,
    coalesce(e.value ->> '$.name', '') || ', ' || coalesce(e.value ->> '$.location', '') detail
FROM (SELECT document FROM revision ORDER BY number DESC LIMIT 1) r, json_each(r.document, '$.elements') e
WHERE e.value ->> '$.tag' IS NOT NULL
UNION ALL SELECT 'job', number, number, title FROM job
UNION ALL SELECT 'permit', p.number, p.number, j.title FROM permit p JOIN job j ON j.id = p.job_id
UNION ALL SELECT 'program', p.number, p.number, j.title FROM program p JOIN job j ON j.id = p.job_id
UNION ALL SELECT 'gear', number, number, kind || ', ' || place FROM gear
UNION ALL SELECT 'study', number, number,
    CASE WHEN draft = '' THEN 'revision ' || revision ELSE draft END FROM study_run
UNION ALL SELECT 'label', number, number, content ->> '$.tag' FROM label
UNION ALL SELECT 'person', login, name, login FROM person"""


def astray() -> list[str]:
    """What the index holds that no table does, and what it lacks; its own words where it is damaged."""
    index = "SELECT kind, key, title, detail FROM findable"
    try:
        wrong = rows(f"SELECT kind, key FROM ({index} EXCEPT SELECT * FROM ({_EXPECTED})) UNION "
                     f"SELECT kind, key FROM (SELECT * FROM ({_EXPECTED}) EXCEPT {index})")  # fmt: skip
        database.execute_sql("INSERT INTO findable (findable) VALUES ('integrity-check')")
    except DatabaseError as error:
        return [str(error)]
    return [f"{kind} {key}" for kind, key in wrong]
