"""`make bench`: one line a figure (name value unit), and build/bench.json. Figures, not tests."""

from __future__ import annotations

import json
import os
import statistics
import subprocess
import sys
import tempfile
import time
import warnings
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, datetime
from pathlib import Path

import numpy as np

from spinel.actions import setup
from spinel.actions.acting import SYSTEM
from spinel.actions.site import Site
from spinel.core.arcflash import ieee1584_2018 as ieee
from spinel.core.fault.grid import Grid
from spinel.core.fault.nodal import NodalModel
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.network.circuit import at_present, in_case
from spinel.core.network.field import fold_field
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.layout import layout
from spinel.core.network.liveness import liveness
from spinel.core.network.now import DeviceNow, FieldEvent
from spinel.core.network.sides import Reach
from spinel.core.network.topology import operated
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.study import SiteStudy
from spinel.core.switching.draft import draft_isolation
from spinel.core.switching.rules import judge
from spinel.demo.build import build
from spinel.demo.large import large_document
from spinel.demo.people import PASSWORD
from spinel.demo.site import document, element_id
from spinel.web.app import create_app

MOMENT = datetime(2026, 11, 24, 22, 32, 8, tzinfo=UTC)
PAGES = {
    "board": "/", "network": "/network", "card": f"/network/card/{element_id('MC1-2B')}", "jobs": "/jobs",
    "job": "/jobs/J-0013", "permit": "/permits/EWP-0003", "permit_edit": "/permits/EWP-0005/edit",
    "program": "/switching/SP-0007?step=6", "after_step": "/switching/SP-0007/after/9",
    "console": "/switching/SP-0005/console", "programs": "/switching?state=all",
    "working": "/permits/EWP-0003/working", "records": "/records", "find": "/find?q=MC",
    "draft": "/network/build/ND-0001", "sources": f"/network/sources/{element_id('MC1')}",
    "people": "/people", "person": "/people/nils/card", "crew": "/jobs/J-0003/crew",
}  # fmt: skip
REQUESTS = 200


def taken_ms(call: Callable[[], object], times: int) -> list[float]:
    call()
    taken = []
    for _ in range(times):
        start = time.perf_counter()
        call()
        taken.append((time.perf_counter() - start) * 1000)
    return taken


def p95_ms(call: Callable[[], object]) -> float:
    return statistics.quantiles(taken_ms(call, REQUESTS), n=20)[18]


def median_ms(call: Callable[[], object]) -> float:
    return statistics.median(taken_ms(call, 5))


def demo_figures() -> dict[str, tuple[float, str]]:
    """The core on the demo: study, one hazard, layout, switching."""
    figures: dict[str, tuple[float, str]] = {}
    network = accept(document())
    figures["study_demo_ms"] = (median_ms(lambda: Study(network, NORTH_AMERICAN, None, 40.0).site.figures), "ms")
    study = Study(network, NORTH_AMERICAN, None, 40.0)
    figures["hazard_demo_ms"] = (median_ms(lambda: study._hazard(element_id("MC1"), Reach(), None)), "ms")
    figures["layout_demo_ms"] = (median_ms(lambda: layout(network)), "ms")
    place = ieee.Situation(480, "VCB", 32, 610, ieee.Enclosure(610, 610, 254))
    figures["arcflash_scalar_us"] = (median_ms(lambda: [ieee.energy(place, 30, 100) for _ in range(1000)]), "us")
    return figures | switching_figures(network, study)


def page_figures() -> dict[str, tuple[float, str]]:
    """The demo built, its pages, and what a console waits for."""
    figures: dict[str, tuple[float, str]] = {}
    with tempfile.TemporaryDirectory() as folder:
        database = Path(folder) / "demo.sqlite3"
        site = setup.open_site(database)
        start = time.perf_counter()
        build(site, MOMENT)
        figures["demo_build_s"] = (time.perf_counter() - start, "s")
        app = create_app(str(database), clock=lambda: MOMENT)
        app.config["WTF_CSRF_ENABLED"] = False
        client = app.test_client()
        client.post("/sign-in", data={"login": "maren", "password": PASSWORD})
        for name, path in PAGES.items():
            assert client.get(path).status_code == 200, path
            figures[f"page_{name}_p95_ms"] = (p95_ms(lambda path=path: client.get(path)), "ms")
        figures["state_after_confirmation_ms"] = (confirmation_ms(site), "ms")
        figures["first_load_kb"] = (first_load_kb(client), "kB")
    return figures


def study_figures() -> dict[str, tuple[float, str]]:
    """The workspace Study: a page of a study of 5,000 places, a step of a slider, a hundred labels, a permit as PDF, a
    folder of sites with two workers against one."""
    import random

    from spinel.actions import labels, study_runs
    from spinel.actions.acting import Act
    from spinel.core.what_if.answers import Trials
    from spinel.core.what_if.changes import TrialChange
    from spinel.web.label_drawing import STOCKS, LabelLook, label_drawing
    from spinel.web.label_sheet import as_sheet
    from spinel.web.pdfs import as_pdf

    figures: dict[str, tuple[float, str]] = {}
    trials, place = Trials(document(), NORTH_AMERICAN, 40.0), (element_id("SWB-B"), "bus")
    trials.at(*place, ())
    values = iter(range(1, 10_000))

    def step() -> object:
        change = TrialChange("setting", element_id("52-B"), "short_delay_s", 0.2 + next(values) / 1000)
        return trials.at(*place, (change,))

    # one setting alone, and one of those that a grip or a slider asks for together, with the order of opening of each
    figures["what_if_alone_ms"] = (statistics.median(taken_ms(step, 15)), "ms")
    points = len(trials.track(*place, element_id("52-B"), "short_delay_s"))
    whole = taken_ms(lambda: trials.track(*place, element_id("52-B"), "short_delay_s"), 5)
    figures["what_if_ms"] = (statistics.median(whole) / points, "ms")
    with tempfile.TemporaryDirectory() as folder:
        database = Path(folder) / "demo.sqlite3"
        site = setup.open_site(database)
        build(site, MOMENT)
        last = study_runs.latest(site)
        with site.connection():
            from spinel.store import studies

            kept = json.loads(studies.result(last.result_hash))
        rows, draw = kept["rows"], random.Random(1)
        kept["rows"] = [
            [f"{row[0]}-{n}", f"{row[1]}-{n}", *row[2:]] for n in range(5000) for row in [draw.choice(rows)]
        ]
        maren = next(p for p in site.register() if p.login == "maren")
        from spinel.actions import people

        act = Act(site, people.actor(site, maren.id), MOMENT)
        number = study_runs.ask(act)
        study_runs.keep(act, number, json.dumps(kept, sort_keys=True, separators=(",", ":"), ensure_ascii=False))
        app = create_app(str(database), clock=lambda: MOMENT)
        app.config["WTF_CSRF_ENABLED"] = False
        client = app.test_client()
        client.post("/sign-in", data={"login": "maren", "password": PASSWORD})
        for name, path in (("picture", "/study?first=2000"), ("table", "/study?view=table&first=2000")):
            assert client.get(path).status_code == 200
            figures[f"study_5000_rows_{name}_p95_ms"] = (p95_ms(lambda path=path: client.get(path)), "ms")
        asked: list[tuple] = []
        app.extensions["heavy"].make = lambda kind, key, work, *args, **more: asked.append(args) or b"%PDF"
        client.get("/permits/EWP-0004.pdf")
        as_pdf(lambda stage: None, *asked[-1])
        figures["pdf_permit_s"] = (median_ms(lambda: as_pdf(lambda stage: None, *asked[-1])) / 1000, "s")
        with app.test_request_context("/"), site.connection():
            says = labels.without(site, "2026-11-24T22:32:08Z")
            look = LabelLook(STOCKS["6x4"], "", True)

            def sheet() -> object:
                drawn = [label_drawing(says[i % len(says)], look, f"http://x/network/tag/{i}") for i in range(100)]
                return as_sheet(lambda stage: None, drawn, "each")

            sheet()
            start = time.perf_counter()
            sheet()
            figures["label_sheet_100_s"] = (time.perf_counter() - start, "s")
    return figures | many_figures()


def many_figures(sites: int = 32) -> dict[str, tuple[float, str]]:
    """A folder of sites: two workers against one, numeric threads 1 in both, and the command in a loop."""
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name) / "sites"
        folder.mkdir()
        for i in range(sites):
            (folder / f"site-{i:02}.json").write_text(json.dumps(large_document(24, i + 1)))
        environment = {**os.environ, **dict.fromkeys(("OMP_NUM_THREADS", "OPENBLAS_NUM_THREADS"), "1")}

        def ran(*command: str) -> float:
            start = time.perf_counter()
            subprocess.run([sys.executable, "-m", "spinel", "study", *command], check=True, capture_output=True,
                           env=environment)  # fmt: skip
            return time.perf_counter() - start

        loop = sum(ran(str(f), "--worst", "-o", str(Path(name) / f"{f.stem}.csv")) for f in sorted(folder.iterdir()))
        one = ran(str(folder), "-o", str(Path(name) / "one"), "--workers", "1")
        two = ran(str(folder), "-o", str(Path(name) / "two"), "--workers", "2")
        same = all((Path(name) / "two" / f.name).read_bytes() == f.read_bytes() for f in (Path(name) / "one").iterdir())
        assert same, "the same results to the digit"
        return {"study_many_loop_s": (loop, "s"), "study_many_one_s": (one, "s"), "study_many_two_s": (two, "s"),
                "study_many_ratio": (one / two, "x")}  # fmt: skip


def switching_figures(network, study) -> dict[str, tuple[float, str]]:
    """Drafting, judging and following a program on the demo; the study's hazards are known, as in a running site."""
    found = {e.id: e.normal_position for e in network.elements if e.kind in SWITCHING}
    start = fold_field(
        network,
        [
            FieldEvent(sequence=i, at="t", actor="a", kind="found", element_id=k, value=v)
            for i, (k, v) in enumerate(found.items())
        ],
    )
    element = network.by_tag["SWG-1"]
    draft = draft_isolation(study, start, element, "H")
    steps = draft.steps[:31]
    return {
        "draft_demo_ms": (median_ms(lambda: draft_isolation(study, start, network.by_tag["T1"], "H")), "ms"),
        "draft_longest_demo_ms": (median_ms(lambda: draft_isolation(study, start, element, "H")), "ms"),
        "rules_31_steps_ms": (median_ms(lambda: judge(draft.order, start, steps)), "ms"),
        "rules_steps_judged": (float(len(steps)), "steps"),
    }


def core_figures() -> dict[str, tuple[float, str]]:
    """The core on synthetic sites: library calls alone, warm, median of five.

    The reference is the short-circuit function of a general-purpose power-system library on the same network, asked for
    the same: three-phase currents at every bus and the current through every line and transformer for each of them.
    """
    network = accept(large_document(1000, 1))
    start = time.perf_counter()
    whole = SiteStudy(Study(network, NORTH_AMERICAN, None, 40.0)).figures
    study_s = time.perf_counter() - start
    sys.path.insert(0, "tests")
    import library_network as library

    circuit = replace(in_case(network, network.cases[0]), level="nominal")
    grid = Grid(network)
    buses = [e.ends[0] for e in network.elements if e.kind == "bus"]
    wanted = ("cable", "transformer")

    def ours() -> NodalModel:
        model = NodalModel(network, circuit, grid)
        lines = np.array([i for i, k in enumerate(model.branches) if grid.elements[k].kind in wanted])
        model.faults(buses, lines)
        return model

    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        net, at = library.build(network, circuit)
        asked = [at[b] for b in buses]
        theirs_ms = median_ms(lambda: library.solve(net, bus=asked, branch_results=True, return_all_currents=True))
    ours_ms = median_ms(ours)
    model = ours()
    worst = max(abs(model.bolted_ka(b) * library.C / net.res_bus_sc.ikss_ka.at[at[b]] - 1) for b in buses)
    figures = {
        "fault_1000_bus_ms": (ours_ms, "ms"), "fault_1000_bus_reference_ms": (theirs_ms, "ms"),
        "fault_speed_ratio_to_reference": (theirs_ms / ours_ms, ""), "fault_worst_difference_pct": (worst * 100, "%"),
        "fault_buses": (float(len(buses)), "buses"), "fault_nodes": (float(len(grid.names)), "nodes"),
    }  # fmt: skip
    return figures | {
        "study_1000_bus_s": (study_s, "s"),
        "study_circuits": (float(len(whole.columns)), "circuits"),
        "study_pickup_steps": (float(whole.steps), "steps"),
        "study_places": (float(len(whole.places)), "places"),
        "study_1000_bus_mb": (study_mb(), "MB"),
        "arcflash_evaluations_per_s": (evaluations_per_s(), "1/s"),
        "topology_5000_switch_ms": (topology_ms(), "ms"),
    }


def study_mb() -> float:
    """Most memory of a process of its own that reads the site and studies it, as `spinel study` does."""
    script = (
        "from spinel.demo.large import large_document; from spinel.core.network.check import accept\n"
        "from spinel.core.hazard import Study; from spinel.core.study import SiteStudy\n"
        "from spinel.core.profile import NORTH_AMERICAN\n"
        "SiteStudy(Study(accept(large_document(1000, 1)), NORTH_AMERICAN, None, 40.0)).figures\n"
        # not getrusage, which starts from what the parent had
        "print(next(int(l.split()[1]) for l in open('/proc/self/status') if l.startswith('VmHWM')) / 1024)"
    )
    return float(subprocess.run([sys.executable, "-c", script], check=True, capture_output=True, text=True).stdout)


def evaluations_per_s() -> float:
    """Arcing current, energy and boundary of IEEE 1584-2018 at mixed voltages and configurations, one array call."""
    random, n = np.random.default_rng(1), 200_000
    volts = random.choice([208.0, 480.0, 480.0, 600.0, 4160.0, 12470.0], n)
    kinds = np.array(ieee.CONFIGURATIONS)[random.integers(0, 5, n)]
    box = ieee.Enclosure(random.uniform(300, 1300, n), random.uniform(300, 1300, n), random.uniform(100, 500, n))
    place = ieee.Situation(volts, kinds, random.uniform(25, 76, n), random.uniform(305, 1000, n), box)
    currents, ms = random.uniform(0.6, 60, n), random.uniform(10, 2000, n)
    return n / median_ms(lambda: ieee.energy(place, currents, ms)) * 1000


def topology_ms() -> float:
    """One switch of a site of 5,000 operated, and the state of every node and element known again."""
    network = accept(large_document(1800, 1))
    switches = network.switches
    assert len(switches) >= 5000
    now = {e.id: DeviceNow(position=e.normal_position, checked=True) for e in switches}
    before = at_present(network, now)
    liveness(network, before, now)
    opened = DeviceNow(position="open", checked=True)

    def operate() -> None:
        after = operated(network, before, switches[100], opened)
        assert liveness(network, after, {**now, switches[100].id: opened}).nodes

    return median_ms(operate)


def confirmation_ms(site: Site) -> float:
    """From a confirmation in the database to the state of every node on the one-line: what a console waits for."""
    from spinel.actions import console, program_view
    from spinel.actions.acting import Act
    from spinel.actions.people import actor, everybody
    from spinel.demo.switching import typed

    taken = []
    who = actor(site, next(p.id for p in everybody(site) if p.login == "ivo"))
    sorcha = next(p.id for p in everybody(site) if p.login == "sorcha")
    while (seen := program_view.view(site, "SP-0005")).state == "executing":
        start = time.perf_counter()
        console.confirm(Act(site, who, MOMENT), "SP-0005", seen.done + 1, seen.version, typed(seen.current, sorcha))
        assert site.as_it_is().liveness.nodes
        taken.append((time.perf_counter() - start) * 1000)
    return statistics.median(taken)


def first_load_kb(client) -> float:
    """Bytes of the board and everything that it links, as sent compressed."""
    import re

    total = 0
    page = client.get("/", headers={"Accept-Encoding": "br"})
    total += len(page.data)
    html = client.get("/").text
    for address in set(re.findall(r'(?:href|src)="(/static/[^"]+)"', html)):
        total += len(client.get(address, headers={"Accept-Encoding": "br"}).data)
    return total / 1000


#: Elements of the site of which the one-line is drawn, and a seed of it.
ONE_LINE, ONE_LINE_BUSES = 500, 68


def oneline_figures() -> dict[str, tuple[float, str]]:
    """The one-line of about 500 elements, laid out and printed anew each time; and a scripted pan in a browser, beside
    the same pan of an empty page."""
    from spinel.actions.acting import Act
    from spinel.actions.network import publish
    from spinel.actions.people import actor, add_person
    from spinel.web import drawing

    figures: dict[str, tuple[float, str]] = {}
    with tempfile.TemporaryDirectory() as folder:
        database = Path(folder) / "large.sqlite3"
        site = setup.open_site(database)
        data = large_document(ONE_LINE_BUSES, 1)
        with site.connection():
            who = actor(
                site,
                add_person(Act(site, SYSTEM, MOMENT), "maren", "Maren Oduya", PASSWORD, ["coordinator"], first=True),
            )
            publish(Act(site, who, MOMENT), json.dumps(data))
        figures["oneline_elements"] = (float(len(data["elements"])), "elements")
        app = create_app(str(database), clock=lambda: MOMENT)
        app.config["WTF_CSRF_ENABLED"] = False
        client = app.test_client()
        client.post("/sign-in", data={"login": "maren", "password": PASSWORD})
        page = client.get("/network?fold=none").text

        def anew() -> None:
            drawing._kept.clear()
            assert client.get("/network?fold=none").status_code == 200

        figures["oneline_500_ms"] = (median_ms(anew), "ms")
        figures["oneline_500_kept_ms"] = (median_ms(lambda: client.get("/network?fold=none")), "ms")
        svg = page[page.index('<svg class="oneline"') : page.index("</svg>", page.index('<svg class="oneline"')) + 6]
        figures |= pan_figures(client, svg)
    return figures


def pan_figures(client, svg: str) -> dict[str, tuple[float, str]]:
    """Frames while the view box moves, p95 of 120: of the drawing with its styles, and of a page without anything."""
    import re

    from playwright.sync_api import sync_playwright

    styles = "".join(
        client.get(a).text for a in set(re.findall(r'href="(/static/[^"]+\.css)"', client.get("/network").text))
    )
    script = """() => new Promise((done) => { const svg = document.querySelector('svg'); const took = [];
      let last = null;
      const [x, y, w, h] = svg.getAttribute('viewBox').split(' ').map(Number); let i = 0;
      const step = (now) => { if (last !== null) { took.push(now - last); } last = now;
        svg.setAttribute('viewBox', `${x + i * 9} ${y} ${w / 6} ${h / 2}`);
        if (++i < 121) { requestAnimationFrame(step); } else { done(took); } };
      requestAnimationFrame(step); })"""
    found = {}
    with sync_playwright() as play:
        browser = play.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox", "--disable-gpu"]
        )
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        for name, body in (("oneline_500", svg), ("empty_page", '<svg class="oneline" viewBox="0 0 4000 1000"></svg>')):
            page.set_content(f"<style>{styles} svg {{ width: 1240px; height: 700px }}</style>{body}")
            frames = page.evaluate(script)
            found[f"{name}_pan_frame_p95_ms"] = (statistics.quantiles(frames, n=20)[18], "ms")
        browser.close()
    return found


GROUPS = {
    "pages": page_figures,
    "oneline": oneline_figures,
    "demo": demo_figures,
    "study": study_figures,
    "core": core_figures,
}


def main() -> None:
    """All groups, or those named; each is printed when it is known: the last takes minutes."""
    record = {}
    for group in sys.argv[1:] or GROUPS:
        for name, (value, unit) in GROUPS[group]().items():
            record[name] = {"value": round(value, 3), "unit": unit}
            print(f"{name} {value:.3f} {unit}", flush=True)
    Path("build").mkdir(exist_ok=True)
    Path("build/bench.json").write_text(json.dumps(record, indent=1) + "\n")


if __name__ == "__main__":
    main()
