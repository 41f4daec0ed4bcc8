"""The trial that an address asks for, and what of it is computed beside the server."""

from __future__ import annotations

import json
from typing import Any

from flask import current_app, request

from spinel.actions import trials
from spinel.actions.figures import document_text
from spinel.core.errors import InputError
from spinel.core.network.document import read_network
from spinel.core.said import say
from spinel.core.what_if.changes import MOST_CHANGES, TrialChange, changed_document, read_change
from spinel.web import study_work
from spinel.web.heavy import Heavy
from spinel.web.here import here, site

PATIENCE_S = 0.3


def asked_changes() -> tuple[TrialChange, ...]:
    """The trial of the address: each ``c`` a kind, an id, a field and a value, colons between them."""
    found: dict[tuple[str, str, str], TrialChange] = {}
    for raw in request.values.getlist("c"):
        kind, _, rest = raw.partition(":")
        id_, _, rest = rest.partition(":")
        field, _, value = rest.partition(":")
        change = read_change({"kind": kind, "id": id_, "field": field, "value": _plain(value)})
        found[kind, id_, field] = change
    given = _given()
    if given is not None:
        found[given.kind, given.id, given.field] = given
    if len(found) > MOST_CHANGES:
        # never fewer than were asked for
        raise InputError("c", len(found), say("what-if-so-many-changes", most=MOST_CHANGES))
    return tuple(found.values())


def _given() -> TrialChange | None:
    """A change that a form adds to the address."""
    kind = request.args.get("kind", "")
    if not kind:
        return None
    id_, _, field = request.args.get("of", "").partition(":")
    return read_change({"kind": kind, "id": id_, "field": field, "value": _plain(request.args.get("value", ""))})


def _plain(value: str) -> float | str:
    try:
        return float(value)
    except ValueError:
        return value[:40]


def number(name: str, quantity: Any) -> float | None:
    raw = request.args.get(name, "").strip()
    return quantity.parse(raw, name) if raw else None


def as_query(changes: tuple[TrialChange, ...] | list[TrialChange]) -> list[tuple[str, str]]:
    return [("c", f"{c.kind}:{c.id}:{c.field}:{c.value}") for c in changes]


def changed_network() -> Any:
    """The network with the trial's curves, which the drawing reads."""
    changes = asked_changes()
    if not changes:
        return here().network
    return read_network(changed_document(trials.of_site(site()).trials.document, changes))


def asked_of(name: str, work: Any, *args: Any) -> Any:
    """JSON that a trial asks for; None while it is computed."""
    heavy: Heavy = current_app.extensions["studies"]
    text = document_text(here().hash)
    key = heavy.key(name, here().hash, repr(here().ceiling_cal_cm2), *(repr(a) for a in args))
    made = heavy.make(study_work.KIND, key, work, text, here().ceiling_cal_cm2, *args, patience_s=PATIENCE_S)
    return None if made is None else json.loads(made)
