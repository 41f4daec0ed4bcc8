"""A line of a story as something to say: what an act did, in the words of the practice, from what it recorded."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from spinel.actions.records import Entry
from spinel.actions.story import Line
from spinel.core.people import role_name
from spinel.core.permit.decision import OUTCOMES
from spinel.core.permit.library import TASKS
from spinel.core.said import Said, say
from spinel.web import phrases
from spinel.web.filters import clock

#: How a value stands in a sentence; what is not here stands as it was recorded.
_SHOWN: Mapping[str, Callable[[Any], Any]] = {
    "content_hash": lambda v: f"{v[:4]} {v[4:8]}",
    "start": lambda v: clock(v),
    "end": lambda v: clock(v),
    "window_end": lambda v: clock(v),
    "covered": len,
    "how": lambda v: say(f"how-shown-{v}"),
    "course": lambda v: say("line-task") if v == "task" else say(f"course-{v.replace('_', '-')}"),
    "task": lambda v: TASKS[v].name if v in TASKS else v or "none",
    "from": lambda v: clock(v) if "T" in str(v) else v,
    "until": lambda v: clock(v) if "T" in str(v) else v or "none",
    "people": tuple,
    "roles": lambda v: tuple(role_name(r) for r in v),
    "equipment_classes": tuple,
    "outcome": lambda v: OUTCOMES[v],
    "circuit_changed": lambda v: say("story-yes" if v == "yes" else "story-no"),
}
#: The values that the sentence of each act holds: its code is ``story-`` and the act. An act that lacks one of them, or
#: is not here, is told by its name and all that it recorded.
VALUES: Mapping[str, tuple[str, ...]] = {
    "job started": ("title",),
    "job decided": ("outcome", "statement"),
    "job closed": ("circuit_changed", "learnt"),
    "job planned": ("from", "until", "people"),
    "job not as planned": ("found",),
    "job task renewed": (),
    "opinions asked": ("asked",),
    "opinion given": (),
    "opinions opened": (),
    "risk agreed": (),
    "permit drafted": (),
    "permit edited": ("content_hash",),
    "permit submitted": ("content_hash",),
    "permit approved": ("content_hash",),
    "permit signed": ("position", "content_hash"),
    "permit refused": ("because",),
    "permit issued": ("start", "end"),
    "permit briefed": ("attended", "covered", "special"),
    "permit stated": (),
    "permit attended": (),
    "permit device set": ("tag", "seen_by", "how"),
    "permit device put back": ("tag", "seen_by", "how"),
    "permit vouched": (),
    "permit accepted": ("content_hash",),
    "permit suspended": ("because",),
    "permit resumed": ("because",),
    "permit handed back": ("left",),
    "permit closed": ("circuit_changed", "learnt"),
    "permit cancelled": ("because",),
    "permit expired": ("window_end",),
    "signatures voided": ("because",),
    "program drafted": ("purpose",),
    "program edited": ("what", "content_hash"),
    "program checked": ("content_hash",),
    "program released": ("content_hash",),
    "program started": ("operator",),
    "program step confirmed": ("step", "identity", "action", "operator"),
    "program stopped": ("because",),
    "program resumed": ("because",),
    "program done": (),
    "box taken": (),
    "personal lock hung": ("lock",),
    "personal lock removed": ("lock",),
    "owner absent": ("owner", "reason"),
    "work complete": (),
    "person added": ("name",),
    "person described": (),
    "roles changed": ("roles",),
    "qualification recorded": ("task", "equipment_class", "until"),
    "qualification withdrawn": ("task", "equipment_class", "because"),
    "training recorded": ("course", "how", "day", "seen_by", "until", "task", "equipment_classes"),
    "signed in": (),
    "password changed": (),
    "password reset": (),
    "invited": (),
    "invitation accepted": (),
    "short code set": (),
    "one-time codes set up": (),
    "one-time codes taken away": ("because",),
    "left": ("because",),
    "came back": ("because",),
    "hazards told": ("guest", "work", "told", "from", "until"),
    "exchange signed": ("heard",),
    "exchange ended": ("because",),
    "tablet registered": (),
    "tablet taken out of use": ("because",),
}


def sentence(entry: Entry, data: Mapping[str, Any], names: Callable[[], Mapping[int, str]]) -> Said | None:
    """What somebody did, to stand behind their name; None for an act that has no sentence of its own. ``names``: of
    everybody, by id, asked for only where they are needed."""
    act = entry.act
    wanted = VALUES.get(act)
    if wanted is None or any(key not in data for key in wanted):
        return None
    found = {key: _SHOWN.get(key, lambda v: v)(data[key]) for key in wanted}
    if "attended" in found:
        known = names()
        found["attended"] = tuple(known.get(i, str(i)) for i in data["attended"])
    return say(f"story-{act.replace(' ', '-')}", **found)


def told(line: Line, names: Callable[[], Mapping[int, str]]) -> Said:
    """The same, or the act by its name with all that it recorded."""
    known = sentence(line.entry, line.data, names)
    return known or say("story-other", act=phrases.act(line.entry.act), says=phrases.payload(line.entry.payload))
