"""Questions to the network: from where could it be live, and what would an operation do. Nothing is operated."""

from __future__ import annotations

from urllib.parse import urlencode

from flask import Blueprint, render_template, request, url_for

from spinel.actions import asking, jobs, source_ways
from spinel.core.errors import InputError
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.now import position_words
from spinel.core.said import say
from spinel.web import forms, verdicts
from spinel.web.drawing import one_line
from spinel.web.here import here, site
from spinel.web.session import actor
from spinel.web.source_lanes import lanes

pages = Blueprint("asking", __name__)


@pages.get("/network/sources/<element_id>")
def sources(element_id: str):
    found = source_ways.sources(site(), element_id)
    drawn = lanes(here(), found.found, found.element)
    lit = request.args.get("way", "")
    return render_template(
        "network/sources.html", asked=found, drawn=drawn, answer=verdicts.sources(found),
        lit=int(lit) if lit.isascii() and lit.isdigit() and len(lit) < 4 else 0,
    )  # fmt: skip


@pages.get("/network/if")
def trial():
    """A chain of acts in the address: nothing of it is kept."""
    acts = [tuple(a.partition("~")[::2]) for a in request.args.getlist("a") if "~" in a]
    chosen, add = request.args.get("e", ""), request.args.get("add", "")
    failed = None
    if add and request.args.get("to"):
        acts.append((add, request.args["to"]))
    if request.args.get("back") and acts:
        acts.pop()
    try:
        chain = asking.tried(site(), [(str(i), str(to)) for i, to in acts], chosen)
    except InputError as error:
        failed = forms.Failed("trial", error, request.args)
        acts = acts[:-1]
        chain = asking.tried(site(), [(str(i), str(to)) for i, to in acts], chosen)
    network, pick = here().network, request.args.get("pick", "")
    who = actor()
    return render_template(
        "network/trial.html", chain=chain, acts=tuple(f"{i}~{to}" for i, to in acts), failed=failed, pick=pick,
        drawing=one_line(chain.after), answer=verdicts.trial(chain), devices=_devices(), elements=network.elements,
        positions=[(p, position_words(p)) for p in asking.positions(network.element[pick])]
        if pick in network.element else _EVERY, jobs=_open_jobs() if who else [], hand=_hand,
    )  # fmt: skip


_EVERY = [(p, position_words(p)) for p in ("open", "closed", "withdrawn", "normal", "emergency", "off")]


def _devices() -> list[tuple[str, str]]:
    return sorted(((e.id, e.tag) for e in here().network.elements if e.kind in SWITCHING), key=lambda pair: pair[1])


def _open_jobs() -> list[jobs.JobLine]:
    return jobs.lines(site(), "open", 0, 40)


def _hand(job: str, chain: asking.Chain) -> str:
    """Where a switching is drafted from a goal; the form there is filled in with it."""
    asked = urlencode([(f"to_{i}", to) for i, to in chain.goal])
    return f"{url_for('switchings.ask', number=job)}?{asked}"


@pages.get("/network/by-place")
def by_place():
    """Equipment by its location, each with its state: what stands together."""
    now = here()
    found: dict[str, list[object]] = {}
    for e in sorted(now.network.elements, key=lambda e: (e.location, e.tag)):
        found.setdefault(e.location or "", []).append(e)
    return render_template(
        "network/by_place.html", places=found, answer=say("by-place-answer", count=len([p for p in found if p]))
    )
