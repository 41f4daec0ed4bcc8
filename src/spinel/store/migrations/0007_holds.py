"""What hangs for a hold, and its box, as tables of their own; until now both were read off the records each time.

What hangs at the moment of the upgrade is taken from those records, once. They stay as they are.
"""

import json
from typing import Any

_UTC = "CHECK ({0} GLOB '????-??-??T??:??:??Z')"

TABLES = [
    f"""CREATE TABLE box (
        hold TEXT PRIMARY KEY, element_id TEXT NOT NULL, in_charge_id INTEGER NOT NULL REFERENCES person(id),
        taken_by TEXT NOT NULL, taken_at TEXT NOT NULL {_UTC.format("taken_at")},
        complete INTEGER NOT NULL DEFAULT 0 CHECK (complete IN (0, 1)),
        completed_by TEXT NOT NULL DEFAULT '') STRICT""",
    f"""CREATE TABLE hung (
        id INTEGER PRIMARY KEY, hold TEXT NOT NULL CHECK (hold <> ''),
        kind TEXT NOT NULL CHECK (kind IN ('lock', 'ground', 'block', 'personal')),
        element_id TEXT NOT NULL DEFAULT '', node_id TEXT NOT NULL DEFAULT '', part TEXT NOT NULL DEFAULT '',
        number TEXT NOT NULL DEFAULT '', person_id INTEGER NOT NULL REFERENCES person(id), owner TEXT NOT NULL,
        since TEXT NOT NULL {_UTC.format("since")}, practice INTEGER NOT NULL DEFAULT 0 CHECK (practice IN (0, 1)),
        unsure INTEGER NOT NULL DEFAULT 0 CHECK (unsure IN (0, 1)),
        others TEXT NOT NULL DEFAULT '',
        freed INTEGER NOT NULL DEFAULT 0 CHECK (freed IN (0, 1)),
        absent TEXT NOT NULL DEFAULT '' CHECK (absent = '' OR json_valid(absent)),
        gone_at TEXT CHECK (gone_at IS NULL OR gone_at GLOB '????-??-??T??:??:??Z'), gone_by TEXT NOT NULL DEFAULT '',
        CHECK ((kind = 'personal') = (element_id = ''))) STRICT""",
    """CREATE UNIQUE INDEX hung_once ON hung
        (hold, kind, element_id, node_id, part, (CASE kind WHEN 'personal' THEN person_id ELSE 0 END))
        WHERE gone_at IS NULL AND kind <> 'lock'""",
    """CREATE UNIQUE INDEX hung_number ON hung (number, (CASE practice WHEN 1 THEN hold ELSE '' END))
        WHERE gone_at IS NULL AND kind = 'lock' AND number <> '' AND others = ''""",
    "CREATE INDEX hung_now ON hung (hold) WHERE gone_at IS NULL",
    """CREATE TRIGGER hung_no_delete BEFORE DELETE ON hung
        BEGIN SELECT RAISE(ABORT, 'what hung is taken down, never deleted'); END""",
    """CREATE TRIGGER hung_fixed BEFORE UPDATE OF
        hold, kind, element_id, node_id, part, number, person_id, owner, since, practice, others ON hung
        BEGIN SELECT RAISE(ABORT, 'what hangs is fixed when it is hung'); END""",
    """CREATE TRIGGER hung_gone BEFORE UPDATE ON hung WHEN OLD.gone_at IS NOT NULL
        BEGIN SELECT RAISE(ABORT, 'what was taken down is not changed'); END""",
    """CREATE TRIGGER box_no_delete BEFORE DELETE ON box
        BEGIN SELECT RAISE(ABORT, 'a box is never deleted'); END""",
]

RECORDS = """SELECT r.kind, r.person_id, r.person_name, r.detail, r.at, p.hold, p.content, p.practice, p.operator_id
    FROM program_record r JOIN program p ON p.id = r.program_id ORDER BY r.id"""
FOUND = """SELECT element_id, node_id, value, hold, actor, at FROM field_event
    WHERE kind = 'found' AND value IN ('lock unsure', 'ground unsure', 'block unsure') ORDER BY id"""
HANGS = {"locked": "lock", "grounded": "ground", "blocked": "block"}
COMES_OFF = {"unlocked": "lock", "ungrounded": "ground", "unblocked": "block"}


class Wall:
    """What hangs and the boxes, as the records of all programs leave them, one after the other."""

    def __init__(self) -> None:
        self.rows: list[dict[str, Any]] = []
        self.boxes: dict[str, dict[str, Any]] = {}

    def hanging(self, **like: Any) -> list[dict[str, Any]]:
        return [r for r in self.rows if r["gone_at"] is None and all(r[k] == v for k, v in like.items())]

    def hang(self, by: tuple[int, str], at: str, **what: Any) -> None:
        texts = dict.fromkeys(("tag", "element_id", "node_id", "part", "number", "absent", "gone_by", "others"), "")
        blank = {**texts, "practice": 0, "unsure": 0, "freed": 0, "gone_at": None}
        self.rows.append({**blank, **what, "person_id": by[0], "owner": by[1], "since": at})

    def off(self, at: str, by: str, **like: Any) -> None:
        for row in self.hanging(**like):
            row |= {"gone_at": at, "gone_by": by}

    def record(self, kind: str, by: tuple[int, str], detail: dict[str, Any], at: str, program: dict[str, Any]) -> None:
        hold = program["hold"]
        personal = {"hold": hold, "kind": "personal"}
        if kind == "confirmed":
            self.step(by, detail, at, program)
        elif kind == "relieved":
            for tag, number in detail.get("locks", {}).items():
                theirs = {"hold": hold, "kind": "lock", "person_id": detail["from_id"], "tag": tag}
                if here := self.hanging(**theirs):
                    self.off(at, by[1], **theirs)
                    self.hang(by, at, hold=hold, kind="lock", element_id=here[0]["element_id"], number=number, tag=tag)
        elif kind == "box taken":
            self.boxes[hold] = {"element_id": program["element_id"], "in_charge_id": by[0], "taken_by": by[1],
                                "taken_at": at, "complete": 0, "completed_by": ""}  # fmt: skip
        elif kind == "lock hung":
            self.hang(by, at, **personal, number=detail["lock"])
        elif kind == "lock removed":
            self.off(at, by[1], **personal, person_id=by[0])
        else:
            self._absence(kind, by, detail, at, hold)

    def _absence(self, kind: str, by: tuple[int, str], detail: dict[str, Any], at: str, hold: str) -> None:
        personal = {"hold": hold, "kind": "personal"}
        if kind in ("owner absent", "operator absent"):
            said = {**detail, "by": by[1], "by_id": by[0], "at": at}
            said.pop("shape", None)
            what = "personal" if kind == "owner absent" else "lock"
            for row in self.hanging(hold=hold, kind=what, person_id=detail["owner"]):
                row["absent"] = json.dumps(said, ensure_ascii=False, sort_keys=True, separators=(",", ":"))
        elif kind == "absent lock removed":
            self.off(at, by[1], **personal, person_id=detail["owner"])
        elif kind == "isolation locks freed":
            for row in self.hanging(hold=hold, kind="lock", person_id=detail["owner"]):
                row["freed"] = 1
        elif kind == "work complete" and hold in self.boxes:
            self.boxes[hold] |= {"complete": 1, "completed_by": by[1]}

    def step(self, by: tuple[int, str], detail: dict[str, Any], at: str, program: dict[str, Any]) -> None:
        step = program["steps"][detail["step"] - 1]
        operator = (detail.get("operator_id") or by[0], detail.get("operator") or by[1])
        for act in detail["acts"]:
            kind = HANGS.get(act) or COMES_OFF.get(act)
            if kind is None:
                continue
            part = (step.get("value") or "shaft") if kind == "block" else ""
            place = {"hold": program["hold"], "kind": kind, "element_id": step["element_id"],
                     "node_id": step.get("node_id", "") if kind == "ground" else "", "part": part}  # fmt: skip
            if act not in HANGS or kind != "lock":
                self.off(at, operator[1], **place)
            if act in HANGS:
                self.hang(operator, at, **place, number=detail.get("lock", ""), tag=detail["identity"],
                          practice=program["practice"])  # fmt: skip


def up(migrator: Any, db: Any) -> None:
    for statement in TABLES:
        db.execute_sql(statement)
    wall = Wall()
    for kind, person, name, text, at, hold, content, practice, operator in db.execute_sql(RECORDS).fetchall():
        by = person if person is not None else operator
        if by is None:
            continue
        kept = json.loads(content)
        program = {"hold": hold, "steps": kept["steps"], "element_id": kept["equipment"]["id"], "practice": practice}
        wall.record(kind, (by, name), json.loads(text), at, program)
    for element_id, node_id, value, hold, _, at in db.execute_sql(FOUND).fetchall():
        kind = value.removesuffix(" unsure")
        like = {"kind": kind, "element_id": element_id} | ({"node_id": node_id} if kind == "ground" else {})
        for row in wall.hanging(**like, **({} if kind == "block" else {"hold": hold})):
            if row["since"] <= at:
                row["unsure"] = 1
    for row in wall.rows:
        row.pop("tag", None)
        names = ", ".join(row)
        db.execute_sql(f"INSERT INTO hung ({names}) VALUES ({', '.join('?' * len(row))})", tuple(row.values()))
    for hold, box in wall.boxes.items():
        names = ", ".join(("hold", *box))
        db.execute_sql(f"INSERT INTO box ({names}) VALUES ({', '.join('?' * (len(box) + 1))})", (hold, *box.values()))
