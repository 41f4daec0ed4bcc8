"""Takes the pictures in docs/screenshots from a fresh demo at a fixed moment. Run by `make screenshots`."""

from __future__ import annotations

import logging
import sys
import tempfile
import threading
from datetime import UTC, datetime
from pathlib import Path

from playwright.sync_api import sync_playwright
from werkzeug.serving import make_server

from spinel.actions import people, setup, tablets, upkeep
from spinel.actions.acting import Act
from spinel.actions.site import Site
from spinel.demo.build import build
from spinel.demo.building import PLANNED
from spinel.demo.people import PASSWORD
from spinel.demo.site import element_id
from spinel.web.app import create_app

MOMENT = datetime(2026, 11, 24, 22, 32, 8, tzinfo=UTC)
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
         "--disable-component-update", "--disable-sync"]  # fmt: skip
DESK, TABLET, UPRIGHT, PHONE = (1280, 800), (1024, 768), (768, 1024), (390, 844)
#: file, who, path, window
SHOTS = (
    ("board", "maren", "/", DESK),
    ("network", "maren", "/network", DESK),
    ("hazard-card", "maren", f"/network?e={element_id('52-T1')}", DESK),
    ("gear", "maren", "/gear", DESK),
    ("risk", "wanda", "/jobs/J-0016/risk", (1280, 1100)),
    ("job-decision", "maren", "/jobs/J-0009", DESK),
    ("permit", "maren", "/permits/EWP-0003", DESK),
    ("acceptance-tablet", "sorcha", "/permits/EWP-0006", TABLET),
    ("board-phone", "sorcha", "/", PHONE),
    ("records", "edda", "/records?verify=1", DESK),
    ("program", "ivo", "/switching/SP-0007?step=6", DESK),
    ("console", "ivo", "/switching/SP-0005/console", DESK),
    ("build", "maren", f"/network/build/ND-0001?e={PLANNED}", DESK),
    ("study", "maren", "/study", DESK),
    ("location", "maren", f"/study/place/{element_id('52-B')}?c=setting:{element_id('52-T2')}:dial:0.8", (1280, 1100)),
    ("labels", "maren", "/study/labels", DESK),
    ("people", "maren", "/people", DESK),
    ("tablet", "", "/tablet", UPRIGHT),
    ("paper", "maren", "/permits/EWP-0003/paper", DESK),
)


def _tablet(site: Site) -> str:
    """What the browser of a registered tablet holds."""
    maren = next(p.id for p in people.everybody(site) if p.login == "maren")
    return tablets.register(Act(site, people.actor(site, maren), MOMENT), "Tablet 2, pump house")


def main(only: list[str], folder: Path) -> None:
    logging.getLogger("werkzeug").setLevel(logging.ERROR)
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as temporary:
        database = Path(temporary) / "demo.sqlite3"
        site = setup.open_site(database)
        build(site, MOMENT)
        upkeep.keep(database, MOMENT, None)
        token = _tablet(site)
        server = make_server("127.0.0.1", 0, create_app(str(database), clock=lambda: MOMENT))
        threading.Thread(target=server.serve_forever, daemon=True).start()
        address = f"http://127.0.0.1:{server.server_port}"
        with sync_playwright() as p:
            browser = p.chromium.launch(executable_path="/usr/bin/chromium-headless-shell", args=FLAGS)
            for name, login, path, (width, height) in SHOTS:
                if only and name not in only:
                    continue
                page = browser.new_page(viewport={"width": width, "height": height})
                page.on("console", lambda m: print("console:", m.text) if m.type in ("error", "warning") else None)
                if name == "tablet":
                    page.context.add_cookies([{"name": "tablet", "value": token, "url": address}])
                if login:
                    page.goto(f"{address}/sign-in")
                    page.fill("#login", login)
                    page.fill("#password", PASSWORD)
                    page.click("button.go")
                page.goto(address + path)
                if name == "risk":
                    page.wait_for_selector("#helps", timeout=120_000)
                if name == "location":
                    page.wait_for_selector(".trackline", timeout=120_000)
                    page.wait_for_selector("#elsewhere .moved", timeout=120_000)
                if name == "build":
                    page.wait_for_selector("#effect table", timeout=120_000)
                page.evaluate("document.fonts.ready")
                page.wait_for_timeout(150)
                page.screenshot(path=str(folder / f"{name}.png"))
                page.close()
            browser.close()
        server.shutdown()


if __name__ == "__main__":
    keep = [a for a in sys.argv[1:] if not a.startswith("--to=")]
    target = next((a.removeprefix("--to=") for a in sys.argv[1:] if a.startswith("--to=")), "docs/screenshots")
    main(keep, Path(target))
