"""Equipment as it occurs: a feeder with its cable and panel, a starter with its motor, a bay, a transfer switch.

A group hangs below a node and is made at once, its parts tagged after the principal one: Q breaker, K contactor, W
cable. What is not given is assumed, or left out where no value is safer than another (curves).
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from spinel.core.editing import usual
from spinel.core.editing.plates import PlateRow, plate
from spinel.core.editing.records import Origin, Record, Sheet, assume
from spinel.core.editing.usual import Usual
from spinel.core.errors import InputError
from spinel.core.quantities import NOMINAL_VOLTAGE_V
from spinel.core.said import say

#: Values by part and field, such as ``cable.length_m``; and what the group itself asks (``voltage_v``, ``tag``).
Given = Mapping[str, Any]


@dataclass(frozen=True)
class Asked:
    """A value that is asked before the group is made: of which part, which field. ``part`` empty: of the group;
    ``kind``: of equipment that the part is, or "node"."""

    part: str
    row: PlateRow
    kind: str = "node"

    @property
    def name(self) -> str:
        return f"{self.part}.{self.row.field}" if self.part else self.row.field


@dataclass(frozen=True)
class Group:
    """``parts``: kinds in their order, for its picture."""

    id: str
    parts: tuple[str, ...]
    asks: tuple[Asked, ...]
    make: Callable[[_Hanging], None]


class _Hanging:
    """A group in the making: where it has come to, and what it has made."""

    def __init__(self, sheet: Sheet, node: Record, given: Given, origin: Origin):
        self.sheet, self.node, self.given, self.origin = sheet, node, given, origin
        self.tag = str(given["tag"])
        self.place = {"location": given["location"]} if given.get("location") else {}
        self.made: list[str] = []
        #: of what is upstream, where the group has no device of its own
        self.rated_a = 0.0

    def volts(self) -> float:
        return float(self.node["nominal_voltage_v"])

    def of(self, part: str) -> Record:
        return {k.partition(".")[2]: v for k, v in self.given.items() if k.startswith(f"{part}.") and v is not None}

    def add(self, part: str, kind: str, prefix: str, ends: list[str], **more: Any) -> Record:
        """``prefix`` empty: this is the principal part, which has the tag itself."""
        tag = self.sheet.free_tag(f"{prefix}-{self.tag}") if prefix else self.tag
        given = {**self.place, **more, **self.of(part)}
        if not prefix and self.given.get("name"):
            given["name"] = self.given["name"]
        element = self.sheet.new_element(kind, tag, ends, given, self.origin)
        self.made.append(element["id"])
        return element

    def through(self, part: str, kind: str, prefix: str, **more: Any) -> None:
        """A device in the enclosure that it has come to."""
        before = self.node
        self.node = self.sheet.new_node(self.volts(), before.get("enclosure"), before["current"], before)
        self.add(part, kind, prefix, [before["id"], self.node["id"]], **more)

    def cable(self, equipment_class: str, name: str = "", part: str = "cable", prefix: str = "W") -> None:
        """To an enclosure of its own."""
        before = self.node
        box = self.sheet.new_enclosure(name or self.tag, equipment_class, self.volts())
        self.node = self.sheet.new_node(self.volts(), box["id"], before["current"], before)
        made = self.add(part, "cable", prefix, [before["id"], self.node["id"]])
        self._sized(part, made)

    def _sized(self, part: str, made: Record) -> None:
        """Where nobody told its size, that which the device before it usually has behind it."""
        rated = self.given.get("main.rated_a" if part == "secondary_cable" else "breaker.rated_a") or self.rated_a
        if rated and "conductor_size" not in self.of(part) and "resistance_ohm" not in made:
            size, count = usual.conductor_for(float(rated))
            assume(made, "conductor_size", Usual(size, ()))
            if count > 1 and "per_phase" not in self.of(part):
                assume(made, "per_phase", Usual(count, ()))

    def change(self, part: str, kind: str, volts: float, current: str, equipment_class: str = "", name: str = "",
               prefix: str = "", **more: Any) -> None:  # fmt: skip
        """Through something that changes voltage or kind of current; into an enclosure of its own, or the same."""
        before, box = self.node, self.node.get("enclosure")
        if equipment_class:
            box = self.sheet.new_enclosure(name or self.tag, equipment_class, volts)["id"]
        self.node = self.sheet.new_node(volts, box, current)
        self.add(part, kind, prefix, [before["id"], self.node["id"]], **more)

    def end(self, part: str, kind: str, prefix: str = "", **more: Any) -> Record:
        return self.add(part, kind, prefix, [self.node["id"]], **more)


def _feeder(h: _Hanging) -> None:
    h.through("breaker", "breaker", "Q")
    h.cable(str(h.given.get("equipment_class") or "panelboard"))
    h.end("bus", "bus")


def _motor(h: _Hanging) -> None:
    h.through("breaker", "breaker", "Q")
    h.cable("cable junction box", f"{h.tag} terminal box")
    h.end("motor", "motor")


def _starter(h: _Hanging) -> None:
    h.through("breaker", "breaker", "Q")
    h.through("contactor", "contactor", "K")
    h.cable("cable junction box", f"{h.tag} terminal box")
    h.end("motor", "motor")


def _drive(h: _Hanging) -> None:
    """Its line side feeds nothing back until somebody says so; its link holds a charge."""
    h.through("breaker", "breaker", "Q")
    h.cable("converter", f"{h.tag} drive")
    h.change("drive", "rectifier", h.volts(), "ac", "cable junction box", f"{h.tag} terminal box", prefix="U")
    h.end("motor", "motor")


def _transformer(h: _Hanging) -> None:
    low = float(h.given.get("voltage_v") or 480)
    h.through("breaker", str(h.given.get("device") or "breaker"), "Q")
    h.cable("transformer", f"{h.tag} primary chamber")
    h.change("transformer", "transformer", low, "ac", "transformer", f"{h.tag} secondary chamber")
    h.node["grounding"], h.node["neutral"] = "solid", True
    board = str(h.given.get("board") or f"SWB-{h.tag}")
    board = h.sheet.tag_is_free(board) if h.given.get("board") else h.sheet.free_tag(board)
    h.cable(str(h.given.get("equipment_class") or "switchboard"), board, "secondary_cable", "WS")
    h.through("main", "breaker", "QM")
    h.sheet.free_tag(board)
    element = h.sheet.new_element("bus", board, [h.node["id"]], {**h.place, **h.of("bus")}, h.origin)
    h.made.append(element["id"])


def _transfer(h: _Hanging) -> None:
    """The generator's own breaker and cable to the other input; a panel behind it."""
    volts, before = h.volts(), h.node
    h.through("breaker", "breaker", "Q")
    h.cable("switchboard", f"{h.tag} transfer switch")
    normal = h.node
    emergency = h.sheet.new_node(volts, normal["enclosure"], "ac", before)
    load = h.sheet.new_node(volts, normal["enclosure"], "ac", before)
    h.add("transfer_switch", "transfer_switch", "", [normal["id"], emergency["id"], load["id"]])
    box = h.sheet.new_enclosure(f"{h.tag} generator terminals", "generator terminal box", volts)
    at = h.sheet.new_node(volts, box["id"], "ac", before)
    h.add("generator", "generator", "G", [at["id"]])
    out = h.sheet.new_node(volts, box["id"], "ac", before)
    h.add("generator_breaker", "breaker", "QG", [at["id"], out["id"]])
    h.add("generator_cable", "cable", "WG", [out["id"], emergency["id"]])
    h.node = load
    h.cable("panelboard", f"{h.tag} panel", "load_cable", "WL")
    h.end("bus", "bus", "P")


def _solar(h: _Hanging) -> None:
    h.through("breaker", "breaker", "Q")
    h.cable("panelboard", f"{h.tag} disconnect")
    h.through("switch", "switch", "QD")
    h.end("inverter", "inverter")


def _ups(h: _Hanging) -> None:
    h.through("breaker", "breaker", "Q")
    h.cable("converter", f"{h.tag} cabinet")
    h.change("ups", "ups", h.volts(), "ac")
    h.cable("panelboard", f"{h.tag} panel", "load_cable", "WL")
    h.end("bus", "bus", "P")


def _shore(h: _Hanging) -> None:
    h.through("breaker", "breaker", "Q")
    h.cable("outdoor terminal", f"{h.tag} plug tower")
    h.through("switch", "switch", "QD")
    h.end("shore_connection", "shore_connection")


def _battery(h: _Hanging) -> None:
    """A charger that may feed back from the battery; a disconnect between them."""
    volts = float(h.given.get("voltage_v") or 125)
    h.through("breaker", "breaker", "Q")
    h.cable("converter", f"{h.tag} charger")
    h.change("charger", "rectifier", volts, "dc", "battery", f"{h.tag} battery", prefix="U")
    h.through("switch", "switch", "QD")
    h.end("battery", "battery")


def _load(h: _Hanging) -> None:
    h.through("breaker", "breaker", "Q")
    h.cable("cable junction box", f"{h.tag} terminals")
    h.end("load", "load")


def _capacitor(h: _Hanging) -> None:
    h.through("breaker", "breaker", "Q")
    h.cable("control panel", f"{h.tag} cabinet")
    h.end("capacitor", "capacitor")


def _asks(*named: str) -> tuple[Asked, ...]:
    """By part and kind and field, as ``cable:cable.length_m``."""
    found = []
    for name in named:
        part, _, rest = name.rpartition(":")
        kind, _, field = rest.partition(".")
        found.append(Asked(part or kind, next(r for r in plate(kind) if r.field == field), kind))
    return tuple(found)


VOLTS = Asked("", PlateRow("voltage_v", "number", NOMINAL_VOLTAGE_V))
_FED = _asks(
    "breaker.rated_a",
    "breaker.interrupting_ka",
    "breaker.curve",
    "cable.conductor_size",
    "cable.per_phase",
    "cable.length_m",
)
GROUPS: tuple[Group, ...] = (
    Group("feeder", ("breaker", "cable", "bus"), _FED, _feeder),
    Group("motor", ("breaker", "cable", "motor"), (*_asks("motor.rated_kva"), *_FED), _motor),
    Group("starter", ("breaker", "contactor", "cable", "motor"), (*_asks("motor.rated_kva"), *_FED), _starter),
    Group("drive", ("breaker", "cable", "rectifier", "motor"), (*_asks("motor.rated_kva"), *_FED), _drive),
    Group("load", ("breaker", "cable", "load"), _FED, _load),
    Group("transformer", ("breaker", "transformer", "breaker", "bus"),
          (VOLTS, *_asks("transformer.rated_kva", "transformer.impedance_pct", "breaker.rated_a",
                         "breaker.interrupting_ka", "breaker.curve",
                         "cable.length_m", "secondary_cable:cable.conductor_size", "secondary_cable:cable.per_phase",
                         "secondary_cable:cable.length_m", "main:breaker.rated_a", "main:breaker.interrupting_ka",
                         "main:breaker.curve")),
          _transformer),
    Group("transfer", ("breaker", "transfer_switch", "generator"),
          (*_asks("generator.rated_kva", "generator.xd_subtransient_pu"), *_FED), _transfer),
    Group("solar", ("breaker", "switch", "inverter"), (*_asks("inverter.rated_kva", "inverter.fault_multiple"), *_FED),
          _solar),
    Group("ups", ("breaker", "ups", "bus"), (*_asks("ups.rated_kva"), *_FED), _ups),
    Group("shore", ("breaker", "switch", "shore_connection"), (*_asks("shore_connection.rated_kva"), *_FED), _shore),
    Group("battery", ("breaker", "rectifier", "battery"), (VOLTS, *_FED), _battery),
    Group("capacitor", ("breaker", "cable", "capacitor"), (*_asks("capacitor.rated_kva"), *_FED), _capacitor),
)  # fmt: skip
GROUP: Mapping[str, Group] = {g.id: g for g in GROUPS}


def hang(sheet: Sheet, group_id: str, node_id: str, given: Given, origin: Origin) -> list[str]:
    """Hang a group below a node of the document; ids of what it made, the principal part among them.

    InputError for a group that there is not, for a tag that is taken, and for a group of alternating current at a node
    that has none.
    """
    group, node = GROUP.get(group_id), sheet.node(node_id)
    if group is None:
        raise InputError("group", group_id, say("one-of", options=tuple(GROUP)))
    if node["current"] != "ac":
        raise InputError("node", node_id, say("editing-these-groups-hang-at-alternating-current"))
    tag = sheet.tag_is_free(str(given.get("tag", "")))
    making = _Hanging(sheet, node, {**given, "tag": tag}, origin)
    group.make(making)
    return making.made


def begin(document: Mapping[str, Any], fresh: Callable[[], str], given: Given, origin: Origin) -> Sheet:
    """A site that begins with its supply: a source at a terminal, a main switchboard below it.

    ``given``: ``tag`` of the source, ``board`` of the first board, ``voltage_v``, and fields as ``source.x_r_max``.
    """
    sheet = Sheet(document, fresh)
    volts = float(given["voltage_v"])
    box = sheet.new_enclosure("Supply terminals", "outdoor terminal", volts)
    node = sheet.new_node(volts, box["id"])
    making = _Hanging(sheet, node, given, origin)
    making.end("source", "source")
    board = str(given.get("board") or ("SWG-1" if volts > 1000 else "MSB-1"))
    making.given = {**given, "tag": board}
    making.tag, making.origin = sheet.tag_is_free(board), origin
    making.rated_a = float(given.get("main.rated_a") or (200 if volts > 1000 else 800))
    kind = "medium-voltage switchgear" if volts > 1000 else "switchboard"
    making.cable(kind, board)
    making.through("main", "breaker", "Q")
    making.end("bus", "bus")
    return sheet


def empty(name: str, time_zone: str, practice: str, frequency_hz: float) -> Record:
    """The document of a site in which nothing stands yet: not acceptable until something does."""
    site = {"name": name, "time_zone": time_zone, "profile": practice, "frequency_hz": frequency_hz}
    case = {"id": "normal", "name": "normal"}
    return {"format": "spinel-network", "version": 2, "site": site, "nodes": [], "enclosures": [], "elements": [],
            "cases": [case]}  # fmt: skip
