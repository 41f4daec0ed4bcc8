"""Builds the demo site through the same actions that people use, at moments relative to the demo's own."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import date, datetime, timedelta
from itertools import product

from spinel.actions import (
    codes,
    exchanges,
    jobs,
    network,
    passwords,
    people,
    permit_approval,
    permit_moves,
    permits,
    qualifying,
    register,
    setup,
    tablets,
)
from spinel.actions.acting import SYSTEM, Act
from spinel.actions.exchanges import Told
from spinel.actions.expiry import note_expired
from spinel.actions.qualifying import Learnt
from spinel.actions.site import Site
from spinel.core.network.kinds import SWITCHING
from spinel.core.people import TASK
from spinel.core.permit.place import PLACE
from spinel.core.permit.tasks import NORMAL_CONDITIONS
from spinel.core.profile import NORTH_AMERICAN
from spinel.demo import building, emergency, gear, library, planning, procedures, risk, study, switching
from spinel.demo.history import Demo
from spinel.demo.people import ABOUT, CODE, PASSWORD, PEOPLE, QUALIFIED, SHOWN, TAUGHT
from spinel.demo.site import document, element_id

FLOOD_SAID = (
    "EDP-1 feeds the tidal gate pumps. With the surge that is forecast the concourse floods within "
    "20 minutes of their stopping, with passengers below."
)
GANGWAY_SAID = (
    "The linkspan holds a vessel's ramp on pressure. Without MC1 the ramp sinks on to the deck in about "
    "15 minutes while foot passengers are aboard."
)
#: How each justification's own questions were answered.
FLOOD = {"hazard_kind": "flooding", "hazard_named": "The tide rises into the concourse", "who_hurt": "Passengers below"}
GANGWAY = {"hazard_kind": "fall", "hazard_named": "The ramp sinks on to the deck", "who_hurt": "Foot passengers aboard"}
DARK = {"hazard_kind": "warning", "hazard_named": "Fender lights of both berths go out while a ferry makes fast",
        "who_hurt": "The mooring crew"}  # fmt: skip
SPILL = {"hazard_kind": "fire", "hazard_named": "Spilt fuel on a deck that can no longer be washed down",
         "who_hurt": "The crew on that deck"}  # fmt: skip
NO_OTHER_WAY = {"no_other_supply": "yes", "no_other_time": "yes", "no_temporary_supply": "yes",
                "confirmed_by": "Piet Osei, works manager"}  # fmt: skip
BUCKET = {"design_named": "Shutters of the bucket are driven from the live side", "design_confirmed": "yes",
          "confirmed_by": "Piet Osei, works manager"}  # fmt: skip
CELLS = {"design_named": "Cells are live at their own terminals", "design_confirmed": "yes",
         "confirmed_by": "Piet Osei, works manager"}  # fmt: skip
BY_DESIGN = "The bucket's stabs cannot be withdrawn with the bus dead: the shutters are driven from the live side."


def build(site: Site, moment: datetime) -> None:
    """Fill an empty database. ``moment`` (UTC) is the demo's now: history lies before it, windows around it."""
    demo = Demo(site, moment)
    # one connection for all of it: the last one closed writes the log back, each time
    with site.connection(), passwords.each_once():
        _register(demo)
        demo.play(
            _published, gear.registered, library.own_words, emergency.written, _taught, _exchanged, _closed_permit,
            _will_run_out, _in_force, _also_in_force, _waiting, _issued, _every_outcome,
            risk.waits_for_an_opinion, risk.proposes_an_improvement, *switching.STORIES, *building.STORIES,
            planning.planned, procedures.written, study.studied, study.labelled,
        )  # fmt: skip
        note_expired(site, demo.moment)


def _register(demo: Demo) -> None:
    long_ago = Act(demo.site, SYSTEM, demo.moment - timedelta(days=40))
    setup.mark_demo(long_ago)
    for login, name, phone, roles in PEOPLE:
        person_id = people.add_person(long_ago, login, name, PASSWORD, roles, phone, first=True)
        demo.actors[login] = people.actor(demo.site, person_id)
    for login, tasks, classes, days in QUALIFIED:
        until = (demo.moment + timedelta(days=days)).date()
        qualifying.from_elsewhere(demo.act("maren", -24 * 35), login, product(tasks, classes), until)


def _taught(demo: Demo) -> None:
    def day(before: int) -> date:
        return (demo.moment - timedelta(days=before)).date()

    for login, employer, company, trade, languages in ABOUT:
        phone = next(p[2] for p in PEOPLE if p[0] == login)
        about = {"employer": employer, "company": company, "trade": trade, "languages": languages, "phone": phone}
        register.describe(demo.act("maren", -24 * 5), login, about)
    for login, courses, before in TAUGHT:
        for course in courses:
            learnt = Learnt(course=course, how="trained", day=day(before), seen_by="Orla Fenn")
            qualifying.record(demo.act("maren", -24 * 4.9), login, learnt)
    for login, task_id, kind, how, before, by in SHOWN:
        learnt = Learnt(course=TASK, how=how, day=day(before), seen_by=by, task_id=task_id, classes=(kind,))
        qualifying.record(demo.act("maren", -24 * 4.8), login, learnt)
    for login, *_ in PEOPLE:
        codes.set_short(demo.act(login, -24 * 4.7), PASSWORD, CODE)
    # nobody holds what its browser would; another is made from any browser
    tablets.register(demo.act("maren", -24 * 4.6), "Tablet 1, workshop")


def _exchanged(demo: Demo) -> None:
    today = demo.moment.date()
    told = Told(
        guest="dag", work="Help to renew the sewage pumps' buckets", from_day=today - timedelta(days=4),
        until=today + timedelta(days=10), bring="Torque wrench, 20 to 120 N m, with its certificate",
        told="The vertical bus of MC1 and MC2 stays live behind the buckets. The pump gallery floods at spring tide.",
    )  # fmt: skip
    number = exchanges.offer(demo.act("sorcha", -24 * 4), told)
    exchanges.sign(demo.act("dag", -24 * 3.9), number, 1, "One battery grinder; nothing else that could hurt others.")
    exchanges.offer(demo.act("maren", -6), Told(
        guest="noor", work="Read the relays of the ferry berth", from_day=today, until=today + timedelta(days=2),
        told="The relays of SWG-1 stand in doors in front of 12.47 kV. Nobody opens a compartment beside them.",
    ))  # fmt: skip


def _published(demo: Demo) -> None:
    network.publish(demo.act("maren", -24 * 30), json.dumps(document()))
    elements = demo.site.as_it_is().network.elements
    found = {e.tag: e.normal_position or "" for e in elements if e.kind in SWITCHING}
    found |= {"F-A4": "open", "G-1": "stopped", "SC-1": "stopped", "PV-1": "running"}
    network.walk_down(demo.act("ivo", -24 * 14), found)


#: Of our own invention: number, kind, lowest and highest V, category, what it shows, and why it is out of use.
def _start(demo: Demo, hours: float, tag: str, task_id: str, title: str, facts: dict[str, str], claim: str = "none",
           statement: str = "", side: str = "") -> str:  # fmt: skip
    number = jobs.start(demo.act("maren", hours), element_id(tag), task_id, title, side)
    if facts or claim != "none":
        jobs.answer(
            demo.act("maren", hours + 0.1), number, jobs.view(demo.site, number).version, facts, claim, statement, side
        )
    return number


def _prepare(demo: Demo, hours: float, job: str, workers: tuple[str, ...], start_h: float, end_h: float,
             special: str) -> str:  # fmt: skip
    """Draft, fill and submit a permit. Hours are relative to the demo's moment."""
    act = demo.act("maren", hours)
    number = permits.draft(act, job)
    seen = permits.view(demo.site, number, act.now)
    plan = permits.plan_of(seen)
    filled = replace(
        plan, workers=tuple(demo.person(w) for w in workers), in_charge=demo.person("sorcha"),
        attendants=(demo.person("jory"),), special=special, window_start=demo.moment + timedelta(hours=start_h),
        window_end=demo.moment + timedelta(hours=end_h), working_distance_mm=None, distance_reason="",
    )  # fmt: skip
    permits.edit(act, number, seen.version, filled)
    permit_approval.submit(act, number, seen.version + 1)
    return number


def _sign(demo: Demo, hours: float, number: str, workers: tuple[str, ...], until: str = "accepted") -> None:
    """Approve, issue, brief, state, vouch, accept: each by the person whose act it is."""

    def version() -> int:
        return permits.view(demo.site, number, demo.moment).version

    seen = permits.view(demo.site, number, demo.moment)
    permit_approval.approve(demo.act("ruth", hours), number, version(), seen.content_hash, PASSWORD)
    permit_approval.issue(
        demo.act("tavi", hours + 0.1), number, version(), seen.content_hash, PASSWORD, seen.window_start,
        seen.window_end,
    )  # fmt: skip
    if until == "issued":
        return
    there = [demo.person(w) for w in (*workers, "sorcha", "jory")]
    points = list(NORTH_AMERICAN.briefing)
    permit_moves.brief(demo.act("sorcha", hours + 0.2), number, version(), points, there, "Tide rising, wet floor")
    for worker in workers:
        permit_moves.state(demo.act(worker, hours + 0.25), number, version(), list(NORTH_AMERICAN.statements))
    permit_moves.attend(demo.act("jory", hours + 0.27), number, version())
    permit_moves.vouch(demo.act("piet", hours + 0.3), number, version())
    ready = dict.fromkeys(PLACE, "yes")
    permit_moves.accept(demo.act("sorcha", hours + 0.35), number, version(), seen.content_hash, ready, "9")


def _closed_permit(demo: Demo) -> None:
    job = _start(demo, -24 * 12, "MC1", "retorque", "Tighten the bus joint at the back of column 2",
                 GANGWAY | NO_OTHER_WAY, "added_hazard", GANGWAY_SAID)  # fmt: skip
    number = _prepare(demo, -24 * 12 + 1, job, ("nils",), -24 * 12 + 2, -24 * 12 + 5, "Two bolts, left phase only")
    _sign(demo, -24 * 12 + 2, number, ("nils",))
    version = permits.view(demo.site, number, demo.moment).version
    permit_moves.hand_back(
        demo.act("sorcha", -24 * 12 + 3.5), number, version, "Joint tight, covers on, tools out", "9"
    )
    permit_moves.close(
        demo.act("maren", -24 * 12 + 4), number, version + 1, "no", "The blanket clips are too short for column 2"
    )
    jobs.close(
        demo.act("maren", -24 * 12 + 4.2), job, jobs.view(demo.site, job).version, "no", "Order longer blanket clips"
    )


def _will_run_out(demo: Demo) -> None:
    job = _start(demo, -5, "MC2-1D", "insert", "Put back the bucket of pump P-31", BUCKET, "infeasible", BY_DESIGN)
    number = _prepare(demo, -4.5, job, ("nils",), -4, -22 / 60, "The guide rail was bent last year")
    _sign(demo, -3.9, number, ("nils",))


def _in_force(demo: Demo) -> None:
    job = _start(demo, -3, "EDP-1", "replace", "Replace breaker 7 of the tidal gate pumps",
                 FLOOD | NO_OTHER_WAY, "added_hazard", FLOOD_SAID)  # fmt: skip
    number = _prepare(demo, -2.8, job, ("wanda",), -2, 0.8, "Surge expected at 18:00")
    _sign(demo, -1.9, number, ("wanda",))


def _also_in_force(demo: Demo) -> None:
    job = _start(demo, -2.5, "MC1-4A", "retorque", "Remake the loose line lug of H-1", GANGWAY | NO_OTHER_WAY,
                 "added_hazard", GANGWAY_SAID)  # fmt: skip
    number = _prepare(demo, -2.2, job, ("sorcha",), -1, 3.08, "Ramp pinned before the cover comes off")
    _sign(demo, -0.9, number, ("sorcha",))


def _waiting(demo: Demo) -> None:
    job = _start(demo, -1.5, "SWB-B", "replace", "Change the meter module above F-B2", DARK | NO_OTHER_WAY,
                 "added_hazard",
                 "SWB-B holds both berths' fender lights; a ferry is making fast in the dark right now.")  # fmt: skip
    _prepare(demo, -1, job, ("nils", "wanda"), 2, 5, "Wet plates in front of the board: mats down first")


def _issued(demo: Demo) -> None:
    spill = "MC2 drives the only wash-down pump while a ship at berth 1 clears a fuel spill from her deck."
    job = _start(demo, -1.2, "MC2", "retorque", "Tighten the neutral bar of MC2", SPILL | NO_OTHER_WAY, "added_hazard",
                 spill)  # fmt: skip
    number = _prepare(demo, -1, job, ("wanda",), -0.5, 4, "Nothing special: checked")
    _sign(demo, -0.4, number, ("wanda",), until="issued")


def _every_outcome(demo: Demo) -> None:
    """A place and a task for every outcome of the decision."""
    normal = dict.fromkeys(NORMAL_CONDITIONS, "yes")
    _start(demo, -30, "F-B2", "operate", "Switch the charger feeder off for the night", normal)
    _start(demo, -29, "MC2-2B", "operate", "Switch sewage pump P-32 on", normal)
    _start(demo, -28, "MC1-2B", "test", "Find out why P-21 trips", {"circuit_unaltered": "yes"})
    _start(demo, -27, "CTL-1", "test", "Measure the gate control supply",
           {"circuit_unaltered": "yes", "no_increased_exposure": "yes"})  # fmt: skip
    _start(demo, -26, "BB-1", "retorque", "Tighten a cell connector of the ferry battery", CELLS, "infeasible",
           "A battery cannot be switched off at its own terminals, whatever is opened.")  # fmt: skip
    _start(demo, -25, "T2", "inspect", "Thermal pictures of T2's low-voltage bushings",
           {"outside_restricted": "yes", "circuit_unaltered": "yes"}, side="terminals:n-t2s")  # fmt: skip
    _start(demo, -24, "MC1", "retorque", "Tighten column 3 between two sailings", {}, "production",
           "The 16:40 sailing would have to wait for the linkspan.")  # fmt: skip
    _start(demo, -23, "PV-1", "replace", "Replace the surge arrester of the roof inverter", {})
    _start(demo, -22, "EDP-1", "inspect", "Look at the warm terminal of way 5", {"outside_restricted": "yes"})
