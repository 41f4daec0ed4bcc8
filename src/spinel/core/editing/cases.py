"""Changes of the cases of a document in the making: the states of the plant that every figure is the worst of."""

from __future__ import annotations

import copy
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Any

from spinel.core.editing.records import Record, Sheet
from spinel.core.errors import InputError
from spinel.core.network.case_words import CaseGap
from spinel.core.network.kinds import KIND
from spinel.core.said import Said, say
from spinel.core.texts import NAME

LEVELS = ("maximum", "minimum", "nominal")
UPS_STATES = ("inverter", "battery", "bypass")
#: As many cases as anybody can tell apart; each is followed at every place.
MOST = 40


@dataclass(frozen=True)
class CaseSetting:
    """One thing that a case sets. ``group``: positions, sources or settings; ``key``: state, strength or reactance of a
    source, else empty."""

    group: str
    tag: str
    key: str
    value: str

    @property
    def code(self) -> str:
        """What names it on a form."""
        return "|".join((self.group, self.key, self.value, self.tag))

    @property
    def says(self) -> Said:
        if self.group == "positions":
            return say("case-set-position", tag=self.tag, position=say(f"position-{self.value}"))
        if self.group == "settings":
            return say("case-means-maintenance", tags=(self.tag,))
        return say(f"case-means-{self.key}-{self.value}", tag=self.tag)


def settable(document: Record) -> list[CaseSetting]:
    """Everything that a case may set otherwise than normal, what is open in normal service first."""
    elements = sorted(document["elements"], key=lambda e: (e.get("normal_position") != "open", str(e["tag"])))
    return [s for e in elements for s in _settable(e)]


def _settable(e: Record) -> Iterator[CaseSetting]:
    row, tag = KIND[e["kind"]], str(e["tag"])
    if row.switches:
        every = ("normal", "emergency", "off") if e["kind"] == "transfer_switch" else ("open", "closed")
        for position in every:
            if position != e.get("normal_position"):
                yield CaseSetting("positions", tag, "", position)
    if e["kind"] == "ups":
        # a UPS of which nothing is recorded may be in any of them
        states: Iterable[str] = UPS_STATES
    else:
        states = ("running", "stopped") if row.may_turn else ()
    for state in states:
        if state != e.get("normal_state"):
            yield CaseSetting("sources", tag, "state", state)
    if e["kind"] == "source":
        yield from (CaseSetting("sources", tag, "strength", s) for s in ("minimum", "maximum"))
    if e["kind"] == "generator" and e.get("xd_transient_pu") is not None:
        yield CaseSetting("sources", tag, "reactance", "transient")
    if e.get("maintenance_curve"):
        yield CaseSetting("settings", tag, "", "maintenance")


def set_in(case: Record) -> list[CaseSetting]:
    """What a case sets, as it stands in the document."""
    found = [CaseSetting("positions", tag, "", str(p)) for tag, p in case.get("positions", {}).items()]
    found += [CaseSetting("sources", tag, k, str(v)) for tag, said in case.get("sources", {}).items()
              for k, v in said.items()]  # fmt: skip
    return found + [CaseSetting("settings", tag, "", str(s)) for tag, s in case.get("settings", {}).items()]


def setting_of(document: Record, code: str) -> CaseSetting:
    """The one of ``settable`` with a code, or InputError."""
    for found in settable(document):
        if found.code == code:
            return found
    raise InputError("setting", code, say("case-one-that-can-be-set"))


def add(sheet: Sheet, name: str, like: str = "") -> str:
    """A case of its own: as normal, or with what another one (by its id) sets. Its id."""
    cases = sheet.document["cases"]
    if len(cases) >= MOST:
        raise InputError("name", name, say("case-so-many", most=MOST))
    case: Record = {"id": sheet.fresh(), "name": _free(sheet, name, "")}
    if like:
        other = sheet.of("cases", like)
        case |= {k: copy.deepcopy(v) for k, v in other.items() if k not in ("id", "name")}
    cases.append(case)
    return str(case["id"])


def add_for(sheet: Sheet, gap: CaseGap, name: str) -> str:
    """The case that covers what no case covers. Its id."""
    made = add(sheet, name)
    case = sheet.of("cases", made)
    for group, said in (
        ("positions", dict(gap.positions)),
        ("sources", {tag: {"state": state} for tag, state in gap.sources}),
    ):
        if said:
            case[group] = said
    return made


def change(sheet: Sheet, case_id: str, name: str, impedances: str) -> None:
    """Its name, and the impedances that it pins; empty: none, so that the whole range is looked at."""
    case = sheet.of("cases", case_id)
    case["name"] = _free(sheet, name, case_id)
    if impedances and impedances not in LEVELS:
        raise InputError("impedances", impedances, say("one-of", options=LEVELS))
    if impedances:
        case["impedances"] = impedances
    else:
        case.pop("impedances", None)


def put(sheet: Sheet, case_id: str, setting: CaseSetting) -> None:
    case = sheet.of("cases", case_id)
    group: dict[str, Any] = dict(case.get(setting.group, {}))
    if setting.group == "sources":
        group[setting.tag] = {**group.get(setting.tag, {}), setting.key: setting.value}
    else:
        group[setting.tag] = setting.value
    case[setting.group] = group


def as_normal(sheet: Sheet, case_id: str, setting: CaseSetting) -> None:
    """What a case sets is as in normal service again. InputError for what it does not set."""
    case = sheet.of("cases", case_id)
    if setting not in set_in(case):
        raise InputError("setting", setting.code, say("case-one-that-it-sets"))
    group: dict[str, Any] = dict(case[setting.group])
    if setting.group == "sources":
        left = {k: v for k, v in group[setting.tag].items() if k != setting.key}
        group[setting.tag] = left
    if setting.group != "sources" or not group[setting.tag]:
        del group[setting.tag]
    if group:
        case[setting.group] = group
    else:
        del case[setting.group]


def remove(sheet: Sheet, case_id: str) -> str:
    """Take a case out; its name. InputError for the only one: no figure would be of anything."""
    case = sheet.of("cases", case_id)
    if len(sheet.document["cases"]) == 1:
        raise InputError("case", case["name"], say("case-one-at-least"))
    sheet.document["cases"] = [c for c in sheet.document["cases"] if c["id"] != case_id]
    return str(case["name"])


def _free(sheet: Sheet, name: str, but: str) -> str:
    wanted = NAME.check(name, "name")
    if any(str(c["name"]).casefold() == wanted.casefold() and c["id"] != but for c in sheet.document["cases"]):
        raise InputError("name", name, say("case-a-name-that-no-case-has"))
    return wanted
