"""Every address times every role: who is let in, who is refused, and nobody without signing in."""

import pytest

from demo_acts import act, element_id, the_site
from spinel.actions import jobs, labels, permit_approval, permits
from spinel.core.people import ROLES
from spinel.core.permit.life import MOVES
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.switching import life
from spinel.demo.people import PASSWORD
from spinel.web import permits as permit_pages
from spinel.web import switching

MOVES_AT = {"permits.move": permit_pages.POSTS, "switching.move": switching.POSTS, "switching.box_move": switching.BOX}

EVERYBODY = frozenset(ROLES)
PLANNERS = frozenset({"coordinator", "person_in_charge"})
#: What each endpoint that writes asks for. Everything else is for everybody who is signed in.
WRITES = {
    "network.found": EVERYBODY,
    "network.correct": frozenset({"coordinator", "director"}),
    "network.emergency": EVERYBODY,
    "network.operate": frozenset({"director"}),
    "network.look": frozenset({"coordinator", "director"}),
    "network.inspected": frozenset({"coordinator", "director"}),
    "jobs.start": PLANNERS,
    "jobs.answer": PLANNERS,
    "jobs.draft": PLANNERS,
    "jobs.close": frozenset({"coordinator"}),
    "jobs.cancel": frozenset({"coordinator"}),
    "permits.save": PLANNERS,
    "jobs.renew_task": PLANNERS,
    "emergency.write": frozenset({"coordinator"}),
    "jobs.not_as_planned": EVERYBODY,
    **{f"assessing.{name}": PLANNERS for name in ("ask", "open_early", "agree")},
    "planning.save": PLANNERS,
    "procedures.write": PLANNERS,
    "assessing.change_words": frozenset({"coordinator"}),
    "assessing.seal": EVERYBODY,
    "assessing.propose": PLANNERS | frozenset({"authoriser"}),
    "improvements.decide": EVERYBODY,
    **{f"task_library.{name}": frozenset({"coordinator"}) for name in ("change", "set_live", "add")},
    **{f"study.{name}": frozenset({"coordinator"}) for name in ("run", "cancel")},
    "study.advance": EVERYBODY,
    # asked of the published network; nothing is written
    **{f"what_if.{name}": EVERYBODY for name in ("ask", "book")},
    "study.sign": frozenset({"coordinator", "authoriser"}),
    "study_place.draft": frozenset({"coordinator"}),
    "study_place.propose": PLANNERS | frozenset({"authoriser"}),
    "findings.give": frozenset({"coordinator"}),
    # refused to whoever does not own it, whatever their role
    "findings.close": EVERYBODY,
    "labels.print_": frozenset({"coordinator"}),
    **{f"labels.{name}": frozenset(labels.HANG) for name in ("hang", "look", "take_off", "keep_found")},
    "switching.draft": PLANNERS,
    "switchings.draft": PLANNERS,
    "switchings.back": PLANNERS,
    "console.confirm": frozenset({"director"}),
    "board.acknowledge_clock": frozenset({"coordinator"}),
    **{f"gear.{name}": frozenset({"coordinator"}) for name in ("add", "test", "clear", "retire", "shorten", "import_")},
    **{f"gear.{name}": EVERYBODY for name in ("bar", "answer", "mispressed", "give_back")},
    "gear.issue": PLANNERS,
    "kit.take": EVERYBODY,
    "people.add": frozenset({"coordinator"}),
    "people.roles": frozenset({"coordinator"}),
    "people.leave": frozenset({"coordinator"}),
    "people.come_back": frozenset({"coordinator"}),
    "people.change_setting": frozenset({"coordinator"}),
    "people.change_positions": frozenset({"coordinator"}),
    "revisions.look_at": frozenset({"coordinator"}),
    "revisions.publish": frozenset({"coordinator"}),
    "revisions.discard": frozenset({"coordinator"}),
    **{
        f"drafting.{name}": frozenset({"coordinator"})
        for name in (
            "begin",
            "hang",
            "change",
            "shape",
            "undo",
            "redo",
            "confirm",
            "answer",
            "bring_up",
            "publish",
            "discard",
            "save_table",
            "seen_to",
        )
    },
    **{f"cases.{name}": frozenset({"coordinator"}) for name in ("begin", "change")},
    "walking.keep": frozenset({"coordinator", "director"}),
    "walking.other": frozenset({"coordinator", "director"}),
    "curves.change": frozenset({"coordinator"}),
    "curves.picture": frozenset({"coordinator"}),
    "network_files.bring": frozenset({"coordinator"}),
    **{
        f"equipment.{name}": frozenset({"coordinator", "director", "operator"})
        for name in ("attach", "take_off", "upkeep")
    },
    "people.reset": frozenset({"coordinator"}),
    "people.describe": frozenset({"coordinator"}),
    "people.shown": frozenset({"coordinator"}),
    "people.withdraw": frozenset({"coordinator"}),
    "people.invite": frozenset({"coordinator"}),
    "people.take_otp": frozenset({"coordinator"}),
    "people.end_sessions": frozenset({"coordinator"}),
    "people.import_": frozenset({"coordinator"}),
    "accounts.change_password": EVERYBODY,
    "accounts.end_session": EVERYBODY,
    "accounts.set_code": EVERYBODY,
    "accounts.one_time": EVERYBODY,
    "accounts.new_calendar": EVERYBODY,
    "accounts.welcome": EVERYBODY,
    "exchanges.offer": PLANNERS,
    # refused to whoever is not the guest, whatever their role
    "exchanges.sign": EVERYBODY,
    "exchanges.end": PLANNERS,
    "tablets.register": frozenset({"coordinator"}),
    "tablets.end": frozenset({"coordinator"}),
    "tablets.sign_in": EVERYBODY,
    "tablets.leave": EVERYBODY,
    "tablets.stop": EVERYBODY,
    "session.sign_out": EVERYBODY,
    "session.sign_in": EVERYBODY,
}
#: What each move of a program asks for that is not in its life, and each act on a box.
PROGRAM = {
    # refused to whoever is not named, whatever their role
    "relief": EVERYBODY,
    "take-over": EVERYBODY,
    "withdraw": EVERYBODY,
    "redraft": PLANNERS, "move-step": PLANNERS, "remove-step": PLANNERS, "remark-step": PLANNERS,
    "add-step": PLANNERS, "practise": PLANNERS | {"director"}, "succeed": PLANNERS, "draw": frozenset({"coordinator", "director"}), "fault": frozenset({"coordinator", "director"}),
    "take": frozenset({"person_in_charge"}), "hang": EVERYBODY, "remove": EVERYBODY,
    "absent": PLANNERS, "complete": frozenset({"person_in_charge"}),
}  # fmt: skip
#: role -> a demo login that holds that role alone, registered for this test
LOGINS = {role: f"only-{role.replace('_', '-')}" for role in ROLES}
ARGUMENTS = {"login": "nobody-here", "number": "EWP-0005", "element_id": element_id("MC1-4A"), "tag": "MC1", "filename": "mark.svg", "kind": "permit", "name": "EWP-0003", "key": "step_min",
             "step": 1, "token": "k" * 43, "ending": "json"}  # fmt: skip
#: Where the same name stands for something else.
NAMED = {
    "network_files.revision": {"number": 1},
    "people.export": {"kind": "people"}, "people.end_sessions": {"login": "edda"}, "tablets.end": {"number": 9},
    "gear.shorten": {"kind_id": "leads"}, "study.table": {"ending": "csv"},
    **{f"task_library.{name}": {"task_id": "battery-clean"} for name in ("one", "change", "set_live", "add")},
}  # fmt: skip


@pytest.fixture
def browsers(app, sign_in):
    from spinel.actions import people

    for role, login in LOGINS.items():
        people.add_person(act("maren"), login, f"Only {role}", PASSWORD, [role])
    return {role: sign_in(login) for role, login in LOGINS.items()}


def addresses(app):
    """Every rule of the map with a method and its arguments filled in."""
    with app.test_request_context():
        from flask import url_for

        for rule in app.url_map.iter_rules():
            for method in sorted(rule.methods & {"GET", "POST"}):
                values = {k: v for k, v in ARGUMENTS.items() if k in rule.arguments}
                if (
                    rule.endpoint.startswith(("drafting.", "cases.", "curves.", "network_files.draft"))
                    and "number" in values
                ):
                    values["number"] = "ND-0001"
                if rule.endpoint.startswith(("jobs.", "assessing.", "planning.")) and "number" in values:
                    values["number"] = "J-0010"
                if rule.endpoint.startswith(("switching.", "console.", "papers.program")) and "number" in values:
                    values["number"] = "SP-0007" if rule.endpoint != "switching.draft" else "J-0010"
                if rule.endpoint.startswith(("study.", "study_report.")) and "number" in values:
                    values["number"] = "S-0001"
                if rule.endpoint.startswith(("labels.", "findings.")) and "number" in values:
                    values["number"] = "L-0001" if rule.endpoint.startswith("labels.") else "F-0001"
                if rule.endpoint.startswith("gear.") and "number" in values:
                    values["number"] = "M-14"
                values |= NAMED.get(rule.endpoint, {})
                if "revision_hash" in rule.arguments:
                    values["revision_hash"] = "0" * 64
                moves = ["move"] if "move" in rule.arguments else [None]
                if moves != [None]:
                    moves = list(MOVES_AT[rule.endpoint])
                for move in moves:
                    more = {"move": move} if move else {}
                    yield rule.endpoint, method, url_for(rule.endpoint, **values, **more), move


def allowed(endpoint, method, move):
    if method == "GET":
        return PLANNERS if endpoint == "permits.edit" else EVERYBODY
    if move == "copy":
        return PLANNERS
    if endpoint == "permits.move":
        return frozenset(MOVES[move.replace("-", "_")].roles)
    if move:
        return PROGRAM[move] if move in PROGRAM else frozenset(life.MOVES[move].roles)
    return WRITES[endpoint]


def test_every_address_for_every_role(app, browsers):
    """403 exactly for the roles that may not; whoever may is stopped by nothing but the form's content."""
    seen = set()
    for endpoint, method, address, move in list(addresses(app)):
        out = ("session.sign_out", "tablets.leave", "tablets.register")
        if endpoint in (*out, "session.sign_in", "static", "papers.permit_pdf", "papers.program_pdf"):
            continue
        seen.add((endpoint, move))
        for role, browser in browsers.items():
            if allowed(endpoint, method, move) == EVERYBODY and role not in ("coordinator", "reader"):
                # everybody's: who may most, and who may least
                continue
            data = {"version": "1", "covered": list(NORTH_AMERICAN.briefing), "special": "none at all",
                    "statements": ["safe", "qualified", "briefed"], "attended": "1", "reason": "some reason",
                    "cause": "some cause", "left": "all in order", "learnt": "something", "circuit_changed": "no",
                    "title": "A fine title", "task": "test", "touches": "bus", "element": element_id("MC1"),
                    "justification": "none", "value": "nothing", "note": "a note", "password": "wrong",
                    "window_start": "2026-11-24T16:32", "window_end": "2026-11-24T18:32", "steps": "one", "step": "1", "to": "2", "at": "1", "lock": "L1",
                    "what": "release", "how": "trained", "day": "2026-11-02", "from_day": "2026-11-25",
                    "until": "2026-11-26", "guest": "dag", "work": "Look at it", "told": "All that lies behind the buckets",
                    "heard": "nothing at all", "employer": "own", "kind": "people", "name": "Nora Quist", "login": "nobody-yet",
                    "owner": "1", "operator": "1", "content_hash": "0" * 64}  # fmt: skip
            if endpoint == "people.shown":
                data["seen_by"] = "Orla Fenn"
            answer = browser.get(address) if method == "GET" else browser.post(address, data)
            may = role in allowed(endpoint, method, move)
            assert (answer.status_code == 403) == (not may), (role, method, address, answer.status_code)
            assert answer.status_code < 500, (role, method, address)
    assert len(seen) > 55


def test_nobody_sees_anything_without_signing_in(app):
    client = app.test_client()
    for endpoint, method, address, _ in list(addresses(app)):
        if endpoint in ("static", "session.sign_in", "health.look", "accounts.welcome", "accounts.calendar"):
            continue
        answer = client.get(address) if method == "GET" else client.post(address)
        assert answer.status_code == 302 and "/sign-in" in answer.headers["Location"], address
        asks = method == "GET" and endpoint != "tablets.page"
        fragment = client.get(address, headers={"HX-Request": "true"}) if asks else None
        assert fragment is None or fragment.status_code in (401, 405)


def test_a_refused_role_leaves_no_trace(app, sign_in, open_db):
    """Approve, issue, accept by the wrong people: state and ledger stay."""
    from spinel.actions import records

    seen = permits.view(the_site(), "EWP-0005", act("maren").now)
    before = records.head(the_site())[0]
    for login, move in (("maren", "approve"), ("edda", "submit"), ("nils", "issue"), ("jory", "accept")):
        browser = sign_in(login)
        data = {"version": seen.version, "content_hash": seen.content_hash, "password": PASSWORD,
                "window_start": "2026-11-24T16:32", "window_end": "2026-11-24T18:32"}  # fmt: skip
        assert browser.post(f"/permits/EWP-0005/{move}", data).status_code == 403
    after = [e.act for e in records.entries(the_site()) if e.seq > before]
    assert set(after) == {"signed in"}
    assert permits.view(the_site(), "EWP-0005", act("maren").now) == seen


@pytest.mark.tampers
def test_a_person_who_left_is_out_at_once(app, sign_in):
    from spinel.store.database import database

    browser = sign_in("nils")
    assert browser.get("/").status_code == 200
    with the_site().connection():
        database.execute_sql("UPDATE person SET active = 0 WHERE login = 'nils'")
    assert browser.get("/").status_code == 302


def test_the_page_tells_why_a_move_is_not_theirs(sign_in):
    page = sign_in("maren").get("/permits/EWP-0005").text
    assert "Only an authorizer may approve" in page
    assert 'name="password"' not in page


def test_actions_refuse_even_without_any_page(open_db):
    """Roles live in actions: called directly, as CLI or a script would."""
    from spinel.core.errors import NotAllowed

    for call in (
        lambda: jobs.start(act("edda"), element_id("MC1"), "test", "Look at it", "bus"),
        lambda: jobs.cancel(act("nils"), "J-0010", 1, "because"),
        lambda: permits.draft(act("wanda"), "J-0015"),
        lambda: permit_approval.refuse(act("tavi"), "EWP-0005", 3, "I do not like it"),
    ):
        with pytest.raises(NotAllowed):
            call()
