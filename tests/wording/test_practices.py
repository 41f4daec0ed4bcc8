"""Under an invented practice no page, paper or message shows a word, a number or a citation of another."""

import json
import re
import threading
from itertools import product

import pytest

from demo_acts import MOMENT, PASSWORD, act, element_id, opened, person, the_site
from saying import en
from sixth_practice import SIX, STEMS
from spinel.actions import (
    box,
    gear,
    jobs,
    network,
    people,
    permit_approval,
    permit_moves,
    permits,
    program_view,
    programs,
    qualifying,
    setup,
)
from spinel.actions.acting import SYSTEM, Act
from spinel.actions.figures import document_text
from spinel.core import profile as practices
from spinel.core.network import schema
from spinel.core.network.kinds import SWITCHING
from spinel.core.permit.place import PLACE
from spinel.core.profile import NORTH_AMERICAN
from spinel.demo.people import PEOPLE, QUALIFIED
from spinel.demo.site import document
from spinel.web.app import create_app
from switching_acts import ready, run, start_job

#: Words of North American practice for which the invented one has its own; and numbers and forms of its tables.
FOREIGN = (
    r"\bground(?!ing\b)", r"energi[sz]", r"lock-?out\b", r"one-line", r"panelboard", r"switchboard", r"motor control cent",
    r"\bpermits?\b(?!:)", r"\bprograms?\b", r"switching (director|operator)", r"person in charge", r"authorizer",
    r"\battendants?\b", r"\bqualif", r"arc-flash boundary", r"limited approach", r"restricted approach",
    r"absence of voltage", r"barricade", r"NFPA", r"CFR", r"ASTM", r"\bEWP\b", r"\bSP-\d", r"\bL[123]\b", r"danger tape",
    r"Class (00|0|1|2)\b", r"hard hat", r"\b50 V", r"\b(Mon|Tue|Wed|Thu|Fri|Sat|Sun) \d", r"(?<!UTC−)\d\d:\d\d",
    r"PROVED DEAD", r"\bLIVE\b", r"\bUNKNOWN\b", r"leather protectors",
)  # fmt: skip


@pytest.fixture
def under_six(tmp_path, monkeypatch):
    """The demo's people and network, at a site that follows the invented practice."""
    monkeypatch.setitem(practices._PROFILES, SIX.id, SIX)
    schema.schema.cache_clear()
    doc = document()
    doc["site"]["profile"] = SIX.id
    # names that people gave are theirs, whatever the practice
    text = re.sub(
        r"(?i)\b(ground|permit|switchboard|panelboard|motor control cent\w+|lockout)\b",
        "thing",
        json.dumps(doc["elements"]),
    )
    doc["elements"] = json.loads(text.replace('"thing_switch"', '"ground_switch"'))
    site = opened(setup.open_site(tmp_path / "six.sqlite3"))
    first = Act(site, SYSTEM, MOMENT)
    for login, name, phone, roles in PEOPLE:
        people.add_person(first, login, name, PASSWORD, roles, phone, first=True)
    for login, tasks, classes, _ in QUALIFIED:
        until = MOMENT.date().replace(year=2030)
        qualifying.from_elsewhere(act("maren"), login, product(tasks, classes), until)
    network.publish(act("maren"), json.dumps(doc))
    found = {e.tag: e.normal_position for e in site.as_it_is().network.elements if e.kind in SWITCHING}
    network.walk_down(act("ivo"), found | {"G-1": "stopped", "SC-1": "stopped", "PV-1": "running"})
    yield site
    schema.schema.cache_clear()


def a_live_job():
    """A permit from its job to being in force, and what a page shows at each stage."""
    number = jobs.start(act("maren"), element_id("MC1"), "retorque", "Tighten a joint", "bus")
    facts = {"design_named": "Its shutters", "design_confirmed": "yes"}
    jobs.answer(act("maren"), number, jobs.view(the_site(), number).version, facts, "infeasible", "So it is", "bus")
    yield f"/jobs/{number}"
    permit = permits.draft(act("maren"), number)
    yield f"/permits/{permit}/edit"

    def go(move, who, *more):
        seen = permits.view(the_site(), permit, MOMENT)
        getattr(permit_approval if hasattr(permit_approval, move) else permit_moves, move)(
            act(who), permit, seen.version, *more
        )
        return f"/permits/{permit}"

    plan = permits.plan_of(permits.view(the_site(), permit, MOMENT))
    whole = {**vars(plan), "workers": (person("wanda"),), "in_charge": person("sorcha"), "attendants": (person("jory"),),
             "window_start": MOMENT, "window_end": act("maren", hours=2).now}  # fmt: skip
    permits.edit(act("maren"), permit, 1, permits.Plan(**whole))
    yield go("submit", "maren")
    content = permits.view(the_site(), permit, MOMENT).content_hash
    yield go("approve", "ruth", content, PASSWORD)
    yield go("issue", "tavi", content, PASSWORD, MOMENT, act("maren", hours=2).now)
    yield go("brief", "sorcha", list(SIX.briefing), [person(w) for w in ("wanda", "jory", "sorcha")], "Nothing unusual")
    yield go("state", "wanda", list(SIX.statements))
    go("attend", "jory")
    go("vouch", "piet")
    yield go("accept", "sorcha", content, dict.fromkeys(PLACE, "yes"), "4")
    yield from (f"/permits/{permit}/paper", f"/permits/{permit}/working")
    network.report_found(act("edda"), element_id("MC1-4A"), "open", "It stands open")
    yield f"/permits/{permit}"


def a_dead_job():
    """An isolation from its job to the box, with its restoration."""
    for number, kind, low_v, high_v in (("M-12", "contact", "12", "1000"), ("D-3", "detector", "800", "36000")):
        told = gear.NewItem(number=number, kind_id=kind, ratings={"low_v": low_v, "high_v": high_v, "category": "4"},
                         currents=("ac",), tested=act("maren").now.date())  # fmt: skip
        gear.add(act("maren"), told)
    yield from ("/gear", "/gear/item/M-12", "/gear/item/M-12/inspect", "/gear/intervals", "/gear/new?kind=gloves")
    isolation = programs.draft(act("maren"), start_job("T1"))
    yield f"/switching/{isolation}"
    ready(isolation)
    yield from (f"/switching/{isolation}/console", f"/switching/{isolation}/paper")
    while run(isolation, until="test").state == "executing":
        yield f"/switching/{isolation}/console"
        from switching_acts import confirm

        confirm(isolation)
    yield f"/switching/{isolation}"
    box.take(act("sorcha"), isolation)
    box.hang(act("nils"), isolation, "L-7")
    yield f"/switching/{isolation}"
    restoration = next(p.number for p in programs.linked(the_site(), isolation, isolation) if p.number != isolation)
    yield f"/switching/{restoration}"
    assert program_view.view(the_site(), isolation).state == "done"


def words_of_page(html):
    # raw data and addresses are no words
    html = re.sub(r"(?s)<(script|style|code)\b.*?</\1>", " ", html)
    html = re.sub(r"https?://\S+", " ", html)
    labels = re.findall(r'(?:aria-label|placeholder|alt|title)="([^"]*)"', html)
    return (
        re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", html) + " " + " ".join(labels))
        .replace("&nbsp;", " ")
        .replace("\xa0", " ")
    )


def test_one_live_and_one_dead_job_show_nothing_of_another_practice(under_six):
    app = create_app(str(under_six.path), clock=lambda: MOMENT)
    app.config["WTF_CSRF_ENABLED"] = False
    browser = app.test_client()
    assert browser.post("/sign-in", data={"login": "maren", "password": PASSWORD}).status_code == 302
    foreign = {}

    def look(path):
        answer = browser.get(path)
        assert answer.status_code == 200, (path, answer.status_code)
        text = words_of_page(answer.get_data(as_text=True))
        for pattern in FOREIGN:
            for hit in re.finditer(pattern, text):
                foreign.setdefault((pattern, path), text[max(0, hit.start() - 50) : hit.end() + 40])

    for steps in (a_live_job(), a_dead_job()):
        for path in steps:
            look(path)
    for path in ("/", "/network", "/jobs", "/jobs/new", "/switching", "/records", "/find?q=T"):
        look(path)
    for tag in ("MC1", "T1", "BB-1", "CTL-1", "52-A", "DCB-1"):
        look(f"/network?e={element_id(tag)}")
    assert not foreign, "\n".join(f"{pattern:32} {path:28} …{near}…" for (pattern, path), near in foreign.items())


def test_a_practice_below_a_floor_is_refused():
    from dataclasses import replace

    assert not list(practices.problems(SIX)) and not list(practices.problems(NORTH_AMERICAN))
    lax = replace(SIX, grounds_above_v=1001, instruments=replace(SIX.instruments, absent_v=3.1, tolerance=0.2))
    assert [p.field for p in practices.problems(lax)] == ["absent_v", "tolerance", "grounds_above_v"]
    assert all(en(p) for p in practices.problems(lax)) and STEMS


def test_two_sites_of_two_practices_and_zones_in_one_process_each_keep_their_own_words(under_six, database):
    """One thread that answers both in turn, and two that answer at once: words and times never cross."""
    opened(under_six)
    with under_six.connection():
        doc = json.loads(document_text(under_six.as_it_is().hash))
    doc["site"]["time_zone"] = "Asia/Kolkata"
    network.publish(act("maren"), json.dumps(doc))
    clients = {}
    for name, path in (("six", under_six.path), ("own", database)):
        app = create_app(str(path), clock=lambda: MOMENT)
        app.config["WTF_CSRF_ENABLED"] = False
        clients[name] = app.test_client()
        clients[name].post("/sign-in", data={"login": "maren", "password": PASSWORD})

    def told(name, path):
        page = clients[name].get(path)
        assert page.status_code == 200, (name, path)
        return ("WHO KNOWS" in page.text or "ROUSED" in page.text, "UTC+05:30" in page.text, "UTC−08:00" in page.text)

    wrong = []

    def ask(names):
        for _ in range(6):
            for name in names:
                for path in ("/network", f"/network/card/{element_id('MC1')}", "/records"):
                    own_words, east, west = told(name, path)
                    six = name == "six"
                    if (west if six else east) or (own_words and not six) or (path == "/network" and six != own_words):
                        wrong.append((name, path, own_words, east, west))

    ask(("six", "own"))
    threads = [threading.Thread(target=ask, args=((name,),)) for name in clients]
    [t.start() for t in threads]
    [t.join() for t in threads]
    assert wrong == []
