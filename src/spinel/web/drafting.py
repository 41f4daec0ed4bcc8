"""Building a network: a draft on squared paper, its pieces hung and changed, its differences published."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import partial
from typing import Any
from zoneinfo import available_timezones

from flask import Blueprint, render_template, request, session, url_for
from werkzeug.datastructures import MultiDict

from spinel.actions import draft_publishing, drafting, revisions
from spinel.actions.drafting import Change, Conflicted, NetworkInMaking
from spinel.core import quantities as q
from spinel.core.canonical import digest
from spinel.core.editing import acts, branch, groups, plates
from spinel.core.editing.records import Record, Sheet
from spinel.core.editing.units import Beside, plain, typed, units
from spinel.core.errors import InputError, NotFound, Refusal
from spinel.core.network.basis import ASSUMED, ORIGINS, assumed
from spinel.core.network.differences import Difference
from spinel.core.network.kinds import KIND, SWITCHING
from spinel.core.profile import profile_ids
from spinel.core.said import Sayable, say
from spinel.core.texts import PLATE
from spinel.web import draft_drawing, draft_figures, forms, plate_forms, verdicts
from spinel.web.filters import words
from spinel.web.here import here, published, site
from spinel.web.plate_forms import FieldShown
from spinel.web.session import act

pages = Blueprint("drafting", __name__)


@pages.before_request
def who_may() -> None:
    """Before anything that was typed is looked at; the actions ask it again."""
    if request.method == "POST":
        drafting.may(act())


#: Classes of an enclosure that a joint of two cables may stand in; the first is the usual one.
JOINTS = ("cable junction box", "panelboard", "switchboard", "outdoor terminal")
#: Devices that may be put in, or that join two nodes.
DEVICES = tuple(k for k in SWITCHING if k != "transfer_switch")


@pages.get("/network/build")
def start():
    """Where a draft is begun: of a site in which nothing stands yet, or of what is published."""
    return _start()


def _start(failed: forms.Failed | None = None):
    return render_template(
        "network/start.html", failed=failed, drafts=drafting.drafts(site()), published=published(),
        zones=sorted(z for z in available_timezones() if "/" in z or z == "UTC"), practices=profile_ids(),
        origins=ORIGINS, revisions=revisions.published(site()),
    )  # fmt: skip


@pages.post("/network/build")
def begin():
    def do() -> str:
        if published():
            raw = forms.text("revision")
            return drafting.begin(act(), int(raw) if raw.isascii() and raw.isdigit() and len(raw) < 9 else None)
        return _begun_empty()

    return forms.attempt("begin", do, lambda number: url_for("drafting.page", number=number), _start)


def _begun_empty() -> str:
    volts_units = units("node", "nominal_voltage_v", q.NOMINAL_VOLTAGE_V)
    volts = typed(
        forms.text("voltage_v"), forms.text("unit.voltage_v") or "V", volts_units, q.NOMINAL_VOLTAGE_V, Beside()
    )
    hz = forms.text("frequency_hz")
    supply: dict[str, Any] = {"voltage_v": volts, "tag": forms.text("tag") or "U-1"}
    if forms.text("board"):
        supply["board"] = forms.text("board")
    rows = [r for r in plates.plate("source") if r.field in ("fault_mva_max", "x_r_max", "fault_mva_min", "x_r_min")]
    beside = Beside(voltage_v=volts, frequency_hz=float(hz or 60))
    told = plate_forms.typed("source", rows, {}, request.form, beside, "source.")
    supply |= {f"source.{k}": v for k, v in told.items() if v is not None}
    given = {"name": forms.text("name"), "time_zone": forms.text("time_zone"), "practice": forms.text("practice"),
             "frequency_hz": 50 if hz == "50" else 60}  # fmt: skip
    if given["practice"] not in profile_ids():
        raise InputError("practice", given["practice"], say("one-of", options=profile_ids()))
    origin = plate_forms.origin(request.form) if told else {"from": ASSUMED}
    return drafting.begin_empty(act(), given, supply, origin)


@dataclass(frozen=True, kw_only=True)
class _Part:
    """A record of the right-hand side: a form of its own."""

    group: str
    id: str
    name: Sayable
    kind: str
    fields: list[FieldShown]


@pages.get("/network/build/<number>")
def page(number: str):
    return _page(number)


def _page(number: str, failed: forms.Failed | None = None, conflicts: tuple[Any, ...] = ()):
    draft = drafting.draft(site(), number)
    document, found = draft.document, draft_publishing.differs(site(), number)
    chosen = _chosen(document, request.values.get("e", ""))
    group = groups.GROUP.get(request.values.get("g", ""))
    target = _target(document, chosen, request.values.get("at", ""))
    problems = drafting.problems(site(), number)
    node_names = _node_names(document)
    if failed is not None and isinstance(failed.error, Conflicted):
        conflicts = failed.error.conflicts
    return render_template(
        "network/draft.html", draft=draft, failed=failed, conflicts=conflicts, problems=problems,
        drawing=draft_drawing.drawn(document, found), differences=found, chosen=chosen, group=group,
        groups=groups.GROUPS, target=target, node_names=node_names, target_name=dict(node_names).get(target, ""),
        origins=ORIGINS,
        origin=session.get("origin", ""), answer=verdicts.draft(found, problems, _assumed_count(document)),
        element_list=sorted(document["elements"], key=lambda e: str(e["tag"])),
        kinds_words=_kinds_words,
        **(_hanging(document, group, target) if group else {}),
        **(_card(document, chosen, found) if chosen else {}), **_effect(draft, problems, chosen),
    )  # fmt: skip


def _assumed_count(document: Mapping[str, Any]) -> int:
    return sum(len(assumed(r)) for g in ("elements", "enclosures", "nodes") for r in document[g])


def _chosen(document: Mapping[str, Any], element_id: str) -> Record | None:
    return next((e for e in document["elements"] if e["id"] == element_id), None)


def _target(document: Mapping[str, Any], chosen: Record | None, at: str) -> str:
    """The node at which something would hang: asked for, or the far end of what is chosen."""
    nodes = {n["id"] for n in document["nodes"]}
    if at in nodes:
        return at
    if chosen is None:
        first = next((e for e in document["elements"] if e["kind"] == "bus"), None)
        return str(first["ends"][0]) if first else str(next(iter(nodes), ""))
    near = branch.upper(document, chosen["id"])
    far = [n for n in chosen["ends"] if n != near]
    return str(far[-1] if far else near)


def _node_names(document: Mapping[str, Any]) -> list[tuple[str, Sayable]]:
    """Every node by what is at it: a bus by its tag, else the ends of what it joins."""
    found: list[tuple[str, Sayable]] = []
    at: dict[str, list[Record]] = {n["id"]: [] for n in document["nodes"]}
    for e in document["elements"]:
        for n in dict.fromkeys(e["ends"]):
            at.setdefault(n, []).append(e)
    for node in document["nodes"]:
        here_ = at[node["id"]]
        bus = next((e for e in here_ if e["kind"] == "bus"), None)
        tags = (bus["tag"],) if bus else tuple(e["tag"] for e in here_[:3])
        found.append((node["id"], say("draft-node", tags=tags, voltage=q.volts(node["nominal_voltage_v"],
                                                                               node["current"]))))  # fmt: skip
    return sorted(found, key=lambda pair: str(pair[1]))


def _hanging(document: Mapping[str, Any], group: groups.Group, target: str) -> dict[str, Any]:
    """The form of a group: what it asks, with what is usual where nothing is told."""
    asked = [plate_forms.shown(a.kind, [a.row], {}, f"{a.part}." if a.part else "")[0] for a in group.asks]
    return {"asked": asked, "free": Sheet(document).free_tag(_next_tag(document, group))}


def _kinds_words(kinds: tuple[str, ...]) -> list[tuple[str, Sayable]]:
    return [(k, say(f"kind-{k}")) for k in kinds]


_FIRST = {"feeder": "PNL-1", "motor": "M-1", "starter": "M-1", "drive": "M-1", "load": "L-1", "transformer": "T-1",
          "transfer": "ATS-1", "solar": "PV-1", "ups": "UPS-1", "shore": "SC-1", "battery": "BAT-1",
          "capacitor": "CAP-1"}  # fmt: skip


def _next_tag(document: Mapping[str, Any], group: groups.Group) -> str:
    head, _, _ = _FIRST[group.id].rpartition("-")
    taken = {str(e["tag"]).casefold() for e in document["elements"]}
    return next(t for n in range(1, 10_000) if (t := f"{head}-{n}").casefold() not in taken)


def _card(document: Mapping[str, Any], chosen: Record, found: tuple[Difference, ...]) -> dict[str, Any]:
    kind = chosen["kind"]
    nodes = [n for n in document["nodes"] if n["id"] in chosen["ends"]]
    boxes = [b for b in document["enclosures"] if b["id"] in {n.get("enclosure") for n in nodes}]
    parts = [_Part(group="elements", id=chosen["id"], name=chosen["tag"], kind=kind,
                   fields=plate_forms.shown(kind, plates.plate(kind), chosen))]  # fmt: skip
    parts += [_Part(group="enclosures", id=b["id"], name=b["name"], kind="enclosure",
                    fields=plate_forms.shown("enclosure", plates.ENCLOSURE, b)) for b in boxes]  # fmt: skip
    names = dict(_node_names(document))
    parts += [_Part(group="nodes", id=n["id"], name=names[n["id"]], kind="node",
                    fields=plate_forms.shown("node", plates.NODE, n)) for n in nodes]  # fmt: skip
    near = branch.upper(document, chosen["id"])
    below = branch.below(document, chosen["id"])
    tags = {e["id"]: e["tag"] for e in document["elements"]}
    return {
        "parts": parts, "chain": draft_drawing.chain(document, chosen["id"], near), "kind": KIND[kind],
        "below": [tags[i] for i in below if i != chosen["id"]],
        "ends": [(i, names.get(n, n)) for i, n in enumerate(chosen["ends"])],
        "devices": DEVICES, "joints": JOINTS,
        "changed_here": [d for d in found if d.group == "elements" and d.id == chosen["id"]],
    }  # fmt: skip


def ceiling() -> float:
    return here().ceiling_cal_cm2 if published() else 100.0


def _effect(
    draft: NetworkInMaking, problems: list[Any], chosen: Record | None = None, stays: bool = False
) -> dict[str, Any]:
    """The figures of the draft beside those of what it is compared with; none while something is wrong with it.
    ``stays``: somebody has stayed on the page for a while, so that how far assumptions reach is worth computing."""
    if problems or not draft.document["elements"]:
        return {"rows": None, "reaches": None, "computing": False}
    limit = ceiling()
    after = draft_figures.studied(draft.text, limit)
    before: list[Any] | None = []
    if draft.base:
        before = draft_figures.studied(revisions.text_of(site(), draft.base), limit)
    if after is None or before is None:
        return {"rows": None, "reaches": None, "computing": True}
    small = len(draft.document["elements"]) <= SMALL
    reaches = draft_figures.reached(draft.text, limit, 0.0) if small and stays else None
    rows = draft_figures.shown(draft_figures.side_by_side(before, after, reaches), chosen["id"] if chosen else "")
    return {"rows": rows, "reaches": reaches, "computing": False,
            "waits_for_reach": small and reaches is None}  # fmt: skip


#: Up to so many pieces of equipment the reach of every assumption is computed as one goes.
SMALL = 40


@pages.get("/network/build/<number>/effect")
def effect(number: str):
    """The figures alone, for a page that waits for them."""
    draft = drafting.draft(site(), number)
    problems = drafting.problems(site(), number)
    chosen = _chosen(draft.document, request.values.get("e", ""))
    return render_template(
        "network/_draft_effect.html", draft=draft, chosen=chosen, **_effect(draft, problems, chosen, stays=True)
    )


def _seen() -> int:
    return forms.whole("seen")


def sides() -> dict[str, str]:
    """Which side stands, of what somebody else changed too."""
    return {k.removeprefix("chosen."): v for k, v in request.form.items() if k.startswith("chosen.")}


def _edited(form: str, number: str, change: Change, select: Callable[[], str]):
    """Do it, and come back to the page with what is chosen then."""

    def then(_: int) -> str:
        return url_for("drafting.page", number=number, e=select() or None)

    def do() -> int:
        return drafting.edit(act(), number, _seen(), change, sides())

    return forms.attempt(form, do, then, partial(_page, number))


def _origin() -> dict[str, str]:
    found = plate_forms.origin(request.form)
    session["origin"] = found["from"]
    return found


@pages.post("/network/build/<number>/hang")
def hang(number: str):
    """Hang a group of equipment below a node."""
    group = groups.GROUP.get(forms.text("g"))
    made: list[str] = []

    def change(sheet: Sheet) -> Sayable:
        if group is None:
            raise InputError("g", forms.text("g"), say("one-of", options=tuple(groups.GROUP)))
        node = sheet.node(forms.text("at"))
        given = _given(group, node, float(sheet.document["site"].get("frequency_hz", 60)))
        told = any(v is not None for k, v in given.items() if "." in k)
        ids = groups.hang(sheet, group.id, node["id"], given, _origin() if told else {"from": ASSUMED})
        made[:] = [i for i in ids if sheet.element(i)["tag"] == given["tag"]] or ids[-1:]
        return say("draft-hung", tag=given["tag"], group=say(f"group-{group.id}"))

    return _edited("hang", number, change, lambda: made[0] if made else "")


def _given(group: groups.Group, node: Record, hz: float) -> dict[str, Any]:
    found: dict[str, Any] = {"tag": forms.text("tag")}
    for name in ("name", "location"):
        if forms.text(name):
            found[name] = PLATE.check(forms.text(name), name)
    for name in ("board", "equipment_class"):
        if forms.text(name):
            found[name] = forms.text(name)
    for asked in group.asks:
        # the part's own rating is known before its curve is asked
        record = {r.row.field: found.get(r.name) for r in group.asks if r.part == asked.part}
        beside = plate_forms.beside_of(request.form, float(node["nominal_voltage_v"]), hz)
        prefix = f"{asked.part}." if asked.part else ""
        told = plate_forms.typed(asked.kind, [asked.row], record, request.form, beside, prefix)
        if told.get(asked.row.field) is not None:
            found[asked.name] = told[asked.row.field]
    return found


@pages.post("/network/build/<number>/change")
def change(number: str):
    """Values of one record, and those of them that somebody confirms."""
    group, record_id, e = forms.text("group"), forms.text("id"), forms.text("e")

    def do(sheet: Sheet) -> Sayable:
        if group not in acts.GROUPS:
            raise NotFound("equipment", group)
        record = sheet.of(group, record_id)
        kind, rows = _rows_of(group, record)
        volts = sheet.volts([record_id] if group == "nodes" else record.get("ends", []))
        beside = plate_forms.beside_of(request.form, volts, float(sheet.document["site"].get("frequency_hz", 60)))
        values = plate_forms.typed(kind, rows, record, request.form, beside)
        sure = [r.field for r in rows if request.form.get(f"sure.{r.field}") and record.get(r.field) is not None]
        told = [f for f in values if f not in ("name", "location")]
        origin = _origin() if told or sure else {}
        tag = forms.text("tag")
        if group == "elements" and tag and tag != record["tag"]:
            acts.retag(sheet, {record_id: tag})
        acts.change(sheet, group, record_id, values, origin)
        acts.confirm(sheet, group, record_id, [f for f in sure if f not in values], origin)
        name = record.get("tag") or record.get("name") or e
        return say("draft-changed", name=name, fields=tuple(say(f"label-{f.replace('_', '-')}") for f in values))

    return _edited(f"change-{record_id}", number, do, lambda: e)


def _rows_of(group: str, record: Record) -> tuple[str, tuple[plates.PlateRow, ...]]:
    if group == "elements":
        return str(record["kind"]), plates.plate(record["kind"])
    return ("node", plates.NODE) if group == "nodes" else ("enclosure", plates.ENCLOSURE)


@pages.post("/network/build/<number>/shape")
def shape(number: str):
    """Take out, connect, insert, split, copy, renumber: what changes how things hang together."""
    what, e = forms.text("what"), forms.text("e")
    then = {"select": e}

    def do(sheet: Sheet) -> Sayable:
        done = _SHAPES.get(what)
        if done is None:
            raise InputError("what", what, say("one-of", options=tuple(_SHAPES)))
        said, then["select"] = done(sheet, sheet.element(e))
        return said

    return _edited(f"shape-{what}", number, do, lambda: then["select"])


def _origin_or_assumed() -> dict[str, str]:
    return _origin() if forms.text("origin") else {"from": ASSUMED}


def _remove(sheet: Sheet, element: Record) -> tuple[Sayable, str]:
    going = branch.below(sheet.document, element["id"]) if forms.text("with_below") else (element["id"],)
    acts.remove(sheet, going)
    return say("draft-removed", tag=element["tag"], count=len(going) - 1), ""


def _take_out(sheet: Sheet, element: Record) -> tuple[Sayable, str]:
    acts.take_out(sheet, element["id"])
    return say("draft-taken-out", tag=element["tag"]), ""


def _connect(sheet: Sheet, element: Record) -> tuple[Sayable, str]:
    acts.connect(sheet, element["id"], forms.whole("end"), forms.text("to"))
    return say("draft-connected", tag=element["tag"]), element["id"]


def _tie(sheet: Sheet, element: Record) -> tuple[Sayable, str]:
    node = _target(sheet.document, element, "")
    made = acts.tie(sheet, node, forms.text("to"), forms.text("tag"), forms.text("kind"), {}, _origin_or_assumed())
    return say("draft-tied", tag=forms.text("tag")), made


def _insert(sheet: Sheet, element: Record) -> tuple[Sayable, str]:
    kind = forms.text("kind")
    made = acts.insert(sheet, element["id"], forms.whole("end"), kind, forms.text("tag"), {}, _origin_or_assumed())
    return say("draft-inserted", tag=forms.text("tag"), at=element["tag"]), made


def _split(sheet: Sheet, element: Record) -> tuple[Sayable, str]:
    allowed = units("cable", "length_m", q.LENGTH_M)
    try:
        at_m = typed(forms.text("at_m"), forms.text("unit.at_m") or "m", allowed, q.LENGTH_M, Beside())
    except InputError as error:
        raise InputError("at_m", error.value, error.allowed) from None
    kind = forms.text("equipment_class")
    if kind not in JOINTS:
        raise InputError("equipment_class", kind, say("one-of", options=JOINTS))
    made = acts.split(sheet, element["id"], at_m, kind, forms.text("tag"))
    return say("draft-split-done", tag=element["tag"]), made


def _copy(sheet: Sheet, element: Record) -> tuple[Sayable, str]:
    """With new tags: a part of each old one replaced, or each typed."""
    going = [sheet.element(i) for i in branch.below(sheet.document, element["id"])]
    old, new = forms.text("old"), forms.text("new")
    tags = {}
    for part in going:
        asked = forms.text(f"tag.{part['tag']}")
        tags[part["tag"]] = asked or (part["tag"].replace(old, new) if old and old in part["tag"] else "")
    made = acts.duplicate(sheet, element["id"], forms.text("to"), tags)
    return say("draft-copied", tag=element["tag"], count=len(made)), made[0]


def _renumber(sheet: Sheet, element: Record) -> tuple[Sayable, str]:
    going = branch.below(sheet.document, element["id"]) if forms.text("with_below") else (element["id"],)
    first = plain(forms.text("first") or "1", "first", say("editing-a-count"))
    was = acts.renumber(sheet, list(going), forms.text("old"), forms.text("new"), int(first))
    return say("draft-renumbered", count=len(was)), element["id"]


def _aside(by: int) -> Callable[[Sheet, Record], tuple[Sayable, str]]:
    def moved(sheet: Sheet, element: Record) -> tuple[Sayable, str]:
        acts.aside(sheet, element["id"], by)
        return say("draft-aside", tag=element["tag"]), element["id"]

    return moved


_SHAPES: Mapping[str, Callable[[Sheet, Record], tuple[Sayable, str]]] = {
    "remove": _remove, "take-out": _take_out, "connect": _connect, "tie": _tie, "insert": _insert, "split": _split,
    "copy": _copy, "renumber": _renumber, "left": _aside(-1), "right": _aside(1),
}  # fmt: skip


@pages.post("/network/build/<number>/undo")
def undo(number: str):
    return _stepped(number, -1)


@pages.post("/network/build/<number>/redo")
def redo(number: str):
    return _stepped(number, 1)


def _stepped(number: str, by: int):
    e = forms.text("e")
    return forms.attempt(
        "undo",
        lambda: drafting.undo(act(), number, _seen(), by),
        lambda _: url_for("drafting.page", number=number, e=e or None),
        partial(_page, number),
    )


@pages.get("/network/build/<number>/assumed")
def doubts(number: str):
    """What is assumed or missing, by how far it could move a figure."""
    return _doubts(number)


def _doubts(number: str, failed: forms.Failed | None = None):
    draft = drafting.draft(site(), number)
    problems = drafting.problems(site(), number)
    rows = None if problems else draft_figures.reached(draft.text, ceiling())
    return render_template(
        "network/assumed.html", draft=draft, rows=rows, problems=problems, failed=failed, origins=ORIGINS,
        origin=session.get("origin", ""), stage=draft_figures.reach_stage(draft.text, ceiling()),
        answer=verdicts.doubts(rows), far=verdicts.FAR,
        owner=_owners(draft.document),
    )  # fmt: skip


def _owners(document: Mapping[str, Any]) -> dict[str, str]:
    """The piece of equipment at which a record is changed: an element itself, an enclosure one that stands in it."""
    found = {e["id"]: e["id"] for e in document["elements"]}
    box = {n["id"]: n.get("enclosure") for n in document["nodes"]}
    for e in document["elements"]:
        for n in e["ends"]:
            if box.get(n) is not None:
                found.setdefault(box[n], e["id"])
    return found


@pages.post("/network/build/<number>/confirm")
def confirm(number: str):
    """Several assumed values at once are as they stand."""

    def change(sheet: Sheet) -> Sayable:
        origin, count = _origin(), 0
        for key in request.form.getlist("sure"):
            group, _, rest = key.partition("/")
            record_id, _, field = rest.rpartition("/")
            if group not in acts.GROUPS:
                raise NotFound("equipment", key)
            acts.confirm(sheet, group, record_id, [field], origin)
            count += 1
        return say("draft-confirmed", count=count)

    return forms.attempt(
        "confirm",
        lambda: drafting.edit(act(), number, _seen(), change, sides()),
        lambda _: url_for("drafting.doubts", number=number),
        partial(_doubts, number),
    )


@pages.get("/network/build/<number>/differences")
def differences(number: str):
    return _differences(number)


def _differences(number: str, failed: forms.Failed | None = None, conflicts: tuple[Any, ...] = ()):
    draft = drafting.draft(site(), number)
    found, problems = draft_publishing.differs(site(), number), drafting.problems(site(), number)
    waits: Sayable = ""
    text, effects = draft.text, None
    if not problems and found and not draft.behind:
        try:
            text = draft_publishing.text_to_publish(site(), number)
        except Refusal as error:
            waits = error.said
        effects = revisions.effects(site(), text)
    pieces = draft_publishing.pieces(site(), number)
    return render_template(
        "network/draft_differences.html", draft=draft, found=found, problems=problems, failed=failed,
        conflicts=conflicts, effects=effects, waits=waits, split=text != draft.text, pieces=pieces, seen=digest(text),
        answer=verdicts.compared(found, None, effects), **_effect(draft, problems),
    )  # fmt: skip


@pages.post("/network/build/<number>/answer")
def answer(number: str):
    """Is it so already? Of one piece with what belongs to it, or of all at once."""

    def do() -> None:
        said = {k.removeprefix("so."): v for k, v in request.form.items() if k.startswith("so.")}
        if every := forms.text("every"):
            said = dict.fromkeys(request.form.getlist("shown"), every)
        draft_publishing.answer_pieces(act(), number, said)

    back = url_for("drafting.differences", number=number)
    return forms.attempt("answer", do, lambda _: back, partial(_differences, number))


@pages.post("/network/build/<number>/bring-up")
def bring_up(number: str):
    conflicts: list[Any] = []

    def do() -> None:
        conflicts[:] = drafting.bring_up(act(), number, _seen(), sides())

    def again(failed: forms.Failed):
        return _differences(number, failed)

    done = forms.attempt("bring-up", do, lambda _: url_for("drafting.differences", number=number), again)
    return (_differences(number, None, tuple(conflicts)), 409) if conflicts else done


@pages.post("/network/build/<number>/publish")
def publish(number: str):
    def then(done: tuple[int, list[str]]) -> str:
        revision, touched = done
        forms.said(
            say("revisions-published-and-stopped", number=revision, touched=tuple(touched))
            if touched else say("revisions-published", number=revision)
        )  # fmt: skip
        return url_for("network.page")

    def do() -> tuple[int, list[str]]:
        password, against = request.form.get("password", ""), forms.text("against")
        return draft_publishing.publish(act(), number, forms.text("seen"), password, forms.text("note"), against)

    return forms.attempt("publish", do, then, partial(_differences, number))


@pages.post("/network/build/<number>/discard")
def discard(number: str):
    do: Callable[[], None] = partial(drafting.throw_away, act(), number)
    return forms.attempt("discard", do, lambda _: url_for("revisions.page"), partial(_differences, number))


@pages.get("/network/build/<number>/table")
def table(number: str):
    """Many pieces of one kind at once."""
    return _table(number)


def _table(number: str, failed: forms.Failed | None = None):
    draft = drafting.draft(site(), number)
    document = draft.document
    kinds = list(dict.fromkeys(e["kind"] for e in document["elements"]))
    kind = request.values.get("kind", "")
    kind = kind if kind in kinds else (kinds[0] if kinds else "")
    rows = [r for r in plates.plate(kind) if r.form in _IN_TABLE] if kind else []
    records = [e for e in document["elements"] if e["kind"] == kind]
    return render_template(
        "network/draft_table.html", draft=draft, kinds=kinds, kind=kind, rows=rows, failed=failed,
        lines=[(e, plate_forms.shown(kind, rows, e, f"{e['id']}.")) for e in records], origins=ORIGINS,
        origin=session.get("origin", ""), heads=plate_forms.shown(kind, rows, {}) if kind else [],
    )  # fmt: skip


#: What fits into a cell.
_IN_TABLE = (plates.NUMBER, plates.COUNT, plates.CHOICE, plates.TEXT)


@pages.post("/network/build/<number>/table")
def save_table(number: str):
    kind = forms.text("kind")

    def change(sheet: Sheet) -> Sayable:
        if kind not in KIND:
            raise InputError("kind", kind, say("one-of", options=tuple(KIND)))
        rows = tuple(r for r in plates.plate(kind) if r.form in _IN_TABLE)
        pasted = _pasted(sheet, kind, rows)
        count, tags = 0, {}
        for element in [e for e in sheet.document["elements"] if e["kind"] == kind]:
            form = pasted.get(element["id"], request.form)
            prefix = f"{element['id']}."
            values = plate_forms.typed(kind, rows, element, form, Beside(), prefix)
            tag = form.get(f"{prefix}tag", "").strip()
            if tag and tag != element["tag"]:
                tags[element["id"]] = tag
            if values:
                told = [f for f in values if f not in ("name", "location")]
                acts.change(sheet, "elements", element["id"], values, _origin() if told else {})
                count += len(values)
        if tags:
            acts.retag(sheet, tags)
        return say("draft-table-changed", count=count + len(tags), kind=say(f"kind-{kind}"))

    return forms.attempt(
        "table",
        lambda: drafting.edit(act(), number, _seen(), change, sides()),
        lambda _: url_for("drafting.table", number=number, kind=kind),
        partial(_table, number),
    )


def _pasted(sheet: Sheet, kind: str, rows: tuple[plates.PlateRow, ...]) -> dict[str, MultiDict[str, str]]:
    """What was pasted from a spreadsheet: a first line of heads (tag, and fields or their labels), a line each."""
    lines = [line.split("\t") for line in forms.text("paste").split("\n") if line.strip()]
    if not lines:
        return {}
    known = {r.field: r.field for r in rows} | {"tag": "tag"}
    known |= {words().say(say(f"label-{r.field.replace('_', '-')}")).casefold(): r.field for r in rows}
    heads = [known.get(h.partition("[")[0].strip().casefold(), "") for h in lines[0]]
    if "tag" not in heads or heads.count("") or len(lines) < 2:
        wrong = next((h for h, k in zip(lines[0], heads, strict=True) if not k), lines[0][0])
        raise InputError("paste", wrong, say("draft-paste-heads", options=tuple(known)))
    by_tag = {e["tag"].casefold(): e["id"] for e in sheet.document["elements"] if e["kind"] == kind}
    found = {}
    for cells in lines[1:]:
        said = dict(zip(heads, (c.strip() for c in cells), strict=False))
        element_id = by_tag.get(said.pop("tag", "").casefold())
        if element_id is None:
            raise InputError("paste", cells[heads.index("tag")], say("draft-paste-tag"))
        found[element_id] = MultiDict({f"{element_id}.{k}": v for k, v in said.items()})
    return found


@pages.post("/network/build/<number>/seen-to")
def seen_to(number: str):
    """A fault of the workbook, or a note of a walk-down, was seen to."""
    which = {k: forms.text(k) for k in ("sheet", "row", "column")}
    do = partial(drafting.mended, act(), number, which)
    return forms.attempt("seen-to", do, lambda _: url_for("drafting.page", number=number), partial(_page, number))
