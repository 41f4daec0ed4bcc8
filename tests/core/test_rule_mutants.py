"""Every rule of switching, and every clause of one, is missed by somebody when it is taken away.

The rules' own code is changed, one place at a time, while a collection of dangerous programs is judged: a change that
lets none of them through has to be listed here with its reason. The soak runs it.
"""

import ast
import copy
import inspect
import os
import random
from collections import Counter
from dataclasses import replace

import pytest
from plain_graph import Site
from test_ground_switch import SWITCH
from test_mutations import DEMO, demo, generated, programs, safe_changes
from test_switching import drafted, walked

from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.network.field import fold_field
from spinel.core.network.kinds import GROUND_SWITCH, STAND_BY, SWITCHING
from spinel.core.network.now import FieldEvent
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.switching import load, rules, step_rules, wording
from spinel.core.switching.between import draft_switching
from spinel.core.switching.edit import restated
from spinel.core.switching.order import Crew, Crews
from spinel.core.switching.steps import PHASING
from spinel.demo.site import document

SOAK = bool(os.environ.get("SOAK"))
#: Equipment of the demo whose programs have what others do not.
FEW = ("T1", "EDP-5", "W-P31", "ATS-1", "MC2-2B", "F-B3", "52-U")
#: So many safe programs are tried on each change.
SAFE = 60
#: Places where a change may stay unseen by the collection: what else sees it, or why nothing can.
KNOWN = {
    "_well_formed": "kept data only: tests/core/test_texts.py and tests/actions send it",
    "_before_version_6": "programs of earlier releases: tests/test_releases.py",
    "_broken: without not _before_version_6(step, is_now)": "the same",
    "_open_still: without order.says_access": "the same",
    "_reached_in: without order.says_access": "the same",
    "_block: without order.says_access": "the same",
    "_nothing: nothing of ()": "it is nothing",
    "part_of: without order.purpose in (RESTORATION, SWITCHED)": "an isolation tells nobody that it is live",
    "_lock: without 'unlocked' in step.acts": "a tag without a lock comes off; nothing hangs one so",
    "_lock_on_ground: without 'unlocked' in step.acts": "the same",
    "_lock_on_ground: without device.position != 'closed'": "one that is locked open cannot be closed any more, and without it nothing is handed over",
    "unproved: without _must_ground(order, now, z)": "no site here has a ground where none is asked for",
    "_locked_closed: without e is None": "nothing is taken out of the network while a ground of it hangs",
    "_locked_closed: without not order.says_phasing": "programs of earlier releases: tests/core/test_ground_switch.py",
    "_tested_grounded: without asked": "the same: tests/core/test_induced.py",
    "_covered: without step.figures is None": "kept data only: every draft says them",
    "_told_by_name: without step.kind != 'operate'": "nothing but an operation takes a supply away: only speed",
    "_told_by_name: without not order.tells_by_name": "programs of earlier releases: tests/test_releases.py",
    "_undone: without element_id in behind": "a hold blocks nothing outside its region",
    "_block: without 'blocked' in step.acts": "what is released from a machine: no site here has it without a shaft",
    "_block: without e.kind == 'motor'": "no site here holds a weight on anything but a machine",
    "_block: without step.value == 'spring'": "no site here keeps pressure in a switching device",
    "_block: without e.kind in SWITCHING": "no site here has a spring in anything else",
    "switching-rules-no-figure-by-then": "no site here has a state on the way that lacks a figure",
    "differences: without ends.running != order.origin.device(element_id).running": "no draft stops and starts a generator",
}


def taken_away(module):
    """(name, function, code without one of its refusals or clauses)."""
    tree = ast.parse(inspect.getsource(module))
    for fn in (n for n in tree.body if isinstance(n, ast.FunctionDef)):
        for place, node in enumerate(ast.walk(fn)):
            for what, change in changes(node):
                other = copy.deepcopy(fn)
                change(next(n for i, n in enumerate(ast.walk(other)) if i == place))
                made = dict(vars(module))
                exec(compile(ast.fix_missing_locations(ast.Module([other], [])), module.__file__, "exec"), made)
                yield f"{fn.name}: {what}", getattr(module, fn.name), made[fn.name].__code__


def changes(node):
    if isinstance(node, ast.Expr) and isinstance(node.value, ast.Yield) and "Broken" in ast.unparse(node):
        yield "nothing of " + ast.unparse(node.value.value.args[1])[:90], lambda n: setattr(n, "value", _nothing())
    if isinstance(node, ast.Expr) and isinstance(node.value, ast.YieldFrom):
        yield "nothing of " + ast.unparse(node.value.value)[:90], lambda n: setattr(n, "value", _nothing())
    if isinstance(node, ast.If) and isinstance(node.test, ast.BoolOp):
        for i, clause in enumerate(node.test.values):
            yield "without " + ast.unparse(clause)[:90], lambda n, i=i: setattr(n, "test", _rest(n.test, i))


def _rest(test, i):
    left = [v for k, v in enumerate(test.values) if k != i]
    return left[0] if len(left) == 1 else ast.BoolOp(test.op, left)


def _nothing():
    return ast.parse("(yield from ())", mode="eval").body


def collection():
    """Programs that must be refused, each with a name for how it was made, and programs that must be accepted."""
    dice, unsafe, safe = random.Random(3), [], []
    for study, site, now, elements in _sites(dice):
        for element in elements:
            for order, start, steps, operators, dangers, fresh in programs(study, site, now, element):
                safe.append((order, start, restated(order, start, steps)))
                safe += [(order, start, restated(order, start, s)) for s in safe_changes(order, steps, dice)]
                safe += [(o, s, restated(o, s, n)) for o, s, n in still_safe(order, start, steps)]
                for name, operator in operators.items():
                    variants = operator(steps, order)
                    for variant in dice.sample(variants, min(3, len(variants))):
                        if dangers(fresh(), variant):
                            unsafe.append((name, (order, start, restated(order, start, variant))))
                for made in (with_others, what_nobody_drafts, left_out, left_behind):
                    for k, (o, s, n) in enumerate(made(order, start, steps)):
                        unsafe.append((f"{made.__name__} {k}", (o, s, restated(o, s, n))))
                unsafe += [("as kept", (order, start, n)) for n in as_kept(order, start, steps)]
                unsafe += [("side by side", case) for case in side_by_side(order, start, steps)]
                unsafe.append(("nothing", (order, start, [])))
    over_safe, over_unsafe = switched_over()
    return unsafe + over_unsafe, safe + over_safe


#: States that the demo can be switched to from its normal one.
GOALS = ({"52-TIE": "closed", "52-A": "open"}, {"F-A1": "open"}, {"Q-SC": "open"}, {"ATS-1": "emergency", "G-1": "running"},
         {"52-A": "withdrawn"})  # fmt: skip


def switched_over():
    """From one state to another: as drafted, and as it must not be."""
    study, _, now = demo()
    network, safe, unsafe = study.network, [], []
    tag = network.by_tag
    for goal in GOALS:
        made = draft_switching(study, now, tag["SWB-A"], "H", {tag[t].id: to for t, to in goal.items()})
        order, steps = made.order, list(made.steps)
        safe.append((order, now, steps))
        at = next(i for i, s in enumerate(steps) if s.kind == "operate")
        aside = tag["F-B1"]
        lost = [wording.operate(order, aside, "opened"), wording.check(order, aside, "open")]
        loud = wording.notify(order, affected=list(network.elements))
        other, no_load = (With(study, network=SimpleNetwork(network, replace(aside, **{what: False})))
                          for what in ("fault_make", "load_break"))  # fmt: skip
        shut = fold_field(network, [_event(k, aside.id) for k in ("opened", "checked")], now)
        closed = [wording.operate(order, aside, "closed"), wording.check(order, aside, "closed")]
        for name, o, start, n in (
            ("unnamed", order, now, [wording.notify(order, tag["T1"]), *steps[1:]]),
            ("unwatched", order, now, [replace(steps[0], critical=()), *steps[1:]]),
            ("moves more", order, now, [loud, *steps[1:at], *lost, *steps[at:]]),
            ("one more lost", order, now, [*steps[:at], *lost, *steps[at:]]),
            ("locks", order, now, [*steps[:-1], wording.lock(order, aside, "open"), steps[-1]]),
            ("unchecked", order, now, [s for s in steps if s.kind != "check"]),
            ("left out", order, now, [s for s in steps if s.element_id != steps[at].element_id]),
            ("nobody told at the end", order, now, steps[:-1]),
            ("told too early", order, now, [steps[0], steps[-1], *steps[1:-1]]),
            ("opened under load", replace(order, study=no_load), now, [loud, *steps[1:at], *lost, *steps[at:]]),
            ("closed under load", replace(order, study=no_load), shut, [loud, *steps[1:at], *closed, *steps[at:]]),
            ("onto what is dead", replace(order, study=other), shut, [loud, *steps[1:at], *closed, *steps[at:]]),
        ):
            unsafe.append((f"over: {name}", (o, start, restated(o, start, n))))
    return safe, unsafe


class SimpleNetwork:
    """A network with one element as another."""

    def __init__(self, network, e):
        self.__dict__.update(network=network, element={**network.element, e.id: e}, by_tag={**network.by_tag, e.tag: e})

    def __getattr__(self, name):
        return getattr(self.network, name)


def still_safe(order, start, steps):
    """Where others moved something else, where what tripped is opened, where a machine is stopped once more."""
    network, moved = order.network, [s.element_id for s in steps if s.acts == ("opened",)]
    used = {s.element_id for s in steps}
    other = next((e.id for e in network.elements if e.kind == "breaker" and e.id not in used
                  and e.load_break and not start.device(e.id).locks), None)  # fmt: skip
    if order.purpose == "restoration":
        if other is not None and start.device(other).position == "closed":
            theirs = [_event("opened", other, hold="Y"), _event("checked", other)]
            yield order, fold_field(network, theirs, start), steps
        machine = next((e for e in network.elements if e.kind == "motor"), None)
        if machine is not None and any(s.kind == "operate" for s in steps):
            at = next(i for i, s in enumerate(steps) if s.kind == "operate")
            yield order, start, [*steps[:at], wording.operate(order, machine, "stopped"), *steps[at:]]
    elif moved and network.element[moved[0]].load_break:
        yield order, fold_field(network, [_event("found", moved[0], value="tripped")], start), steps


def _sites(dice):
    study, site, now = demo()
    yield study, site, now, [study.network.by_tag[t] for t in (*DEMO, *FEW)]
    grounded, plain = with_a_ground_switch()
    yield grounded, plain, walked(grounded.network), [grounded.network.by_tag[t] for t in ("W-T1", "W-A1")]
    automatic = walked(study.network, F_A4="open", ATS_1="automatic")
    yield study, site, automatic, [study.network.by_tag["EDP-1"]]
    for seed in range(6):
        study, site, now = generated(seed)
        fit = [e for e in study.network.elements if drafted(study, now, e)[0] is not None]
        yield study, site, now, dice.sample(fit, min(3, len(fit)))


def with_a_ground_switch():
    """The demo with one on the feeder of T1, a ground that is looked at and locked like any device; and with a cable in
    which another line induces a voltage."""
    data = {**document(), "elements": [*document()["elements"], SWITCH]}
    next(e for e in data["elements"] if e["tag"] == "W-A1")["induced_voltage"] = True
    network = accept(data)
    return Study(network, NORTH_AMERICAN, None, 40.0), Site(data)


def _event(kind, element_id, **more):
    return FieldEvent(sequence=0, at="t", actor="x", kind=kind, element_id=element_id, **more)


def with_others(order, start, steps):
    """The same steps where somebody else is: their lock, their tag, their people, a trip, a device nobody looked at."""
    network = order.network
    moved = [s.element_id for s in steps if s.kind == "operate" and s.acts[0] not in ("stopped", "started")]
    for i in moved[:2]:
        for kind in ("locked", "tagged"):
            yield order, fold_field(network, [_event(kind, i, hold="X")], start), steps
        ends = frozenset(network.element[i].ends)
        for names in (("Nils",), ()):
            yield replace(order, crews=Crews(working=(Crew("X", ends, names),))), start, steps
    closed = [s.element_id for s in steps if s.acts == ("closed",)]
    for i in closed[:1]:
        yield order, fold_field(network, [_event("found", i, value="tripped")], start), steps
        yield order, fold_field(network, [_event("found", i, value="unsure")], start), steps
    if {"unlocked", "unblocked", "ungrounded"} & {a for s in steps for a in s.acts}:
        yield replace(order, personal_locks=("Nils",)), start, steps


class With:
    """A study with something else in its place."""

    def __init__(self, study, **own):
        self.__dict__.update(own, study=study)

    def __getattr__(self, name):
        return getattr(self.study, name)


def what_nobody_drafts(order, start, steps):
    """Steps that no draft makes: two operations at once, on what does not move, off what nobody hung."""
    network, hold = order.network, order.hold
    breaker = next((e for e in network.elements if e.row.switches and not e.withdrawable), None)
    bus = next((e for e in network.elements if e.kind == "bus"), None)
    if breaker is None or bus is None:
        return
    operate = wording.operate(order, breaker, "opened")
    last = len(steps) - 1
    for other in (
        replace(operate, acts=("opened", "closed")), replace(operate, kind="check"), wording.operate(order, bus, "opened"),
        wording.operate(order, breaker, "withdrawn"), wording.unground(order, bus, bus.ends[0]), wording.lock(order, bus, "open"),
        *(wording.unblock(order, e, "shaft") for e in network.elements if e.kind == "motor"),
        *(wording.operate(order, e, "closed") for e in network.elements
          if e.kind in SWITCHING and load.joins_sources(network, start, e, "closed")),
    ):  # fmt: skip
        yield order, start, [*steps[:last], other, *steps[last:]]
    for source in (e for e in network.elements if e.row.supplies == STAND_BY and e.row.own_voltage):
        runs = fold_field(network, [_event("started", source.id)], start)
        joining = [
            e for e in network.elements if e.kind in SWITCHING and load.joins_sources(network, runs, e, "closed")
        ]
        for e in joining[:1]:
            yield order, runs, [*steps[:last], wording.operate(order, e, "closed"), *steps[last:]]
    generator = next((e for e in network.elements if e.kind == "generator"), None)
    if generator is not None:
        held = fold_field(network, [_event("blocked", generator.id, hold="X", value="shaft")], start)
        yield order, held, [*steps[:last], wording.operate(order, generator, "started"), *steps[last:]]
        ran = fold_field(network, [_event("started", generator.id)], order.origin)
        stopped = fold_field(network, [_event("stopped", generator.id, hold=hold)], start)
        yield replace(order, origin=ran), stopped, steps
    moved = next((network.element[s.element_id] for s in steps if s.acts == ("opened",) and not s.remote), None)
    if moved is not None and moved.id in order.study.duty:
        failing = {**order.study.duty, moved.id: replace(order.study.duty[moved.id], adequate=False)}
        yield replace(order, study=With(order.study, duty=failing)), start, steps
    for supply in order.target.supplies:
        alone = replace(order.target, supplies=(replace(supply, isolator=None),))
        yield replace(order, target=alone), start, steps
    if any(s.stick for s in steps):
        # the same by hand, and at equipment without points of its own
        yield order, start, [replace(s, stick=False) for s in steps]
        plain = accept({**document(), "elements": [{k: v for k, v in e.items() if k != "built_in_tester"}
                                                   for e in document()["elements"]]})  # fmt: skip
        without = Study(plain, order.study.profile, None, order.study.ceiling_cal_cm2)
        yield replace(order, study=without), start, steps
    for i, s in enumerate(steps):
        if "grounded" in s.acts:
            first = next(k for k, t in enumerate(steps) if t.value == "proof")
            rest = [*steps[:i], *steps[i + 1 :]]
            yield order, start, [*rest[:first], replace(s, stick=True), *rest[first:]]
        if "ungrounded" in s.acts:
            crew = Crew("X", frozenset((s.node_id,)), ("Nils",))
            yield replace(order, crews=Crews(working=(crew,))), start, steps


def side_by_side(order, start, steps):
    """Steps as they were drafted, where two transformers side by side, or with none of that a figure, feed it by now."""
    network = order.network
    tie = network.by_tag.get("52-TIE")
    if tie is not None and order.purpose == "isolation" and start.device(tie.id).position == "open":
        joined = fold_field(network, [_event("closed", tie.id, hold="X"), _event("checked", tie.id)], start)
        drafted_before = restated(order, start, steps)
        yield order, joined, drafted_before
        yield order, joined, [replace(s, figures=s.figures and replace(s.figures, energy_cal_cm2=None, boundary_mm=None))
                              for s in drafted_before]  # fmt: skip


def left_out(order, start, steps):
    """Nobody looks at the phases, at a ground switch, or locks it."""
    yield order, start, [s for s in steps if s.value != PHASING]
    for s in steps:
        if order.network.element[s.element_id].kind == GROUND_SWITCH and s.kind in ("check", "lock"):
            yield order, start, [x for x in steps if x is not s]
    grounds = [i for i, s in enumerate(steps) if "grounded" in s.acts]
    if grounds:
        # what is induced is tested again once it is grounded
        yield (
            order,
            start,
            [s for i, s in enumerate(steps) if i <= grounds[-1] or s.kind in ("handover", "lock", "check")],
        )


def left_behind(order, start, steps):
    """What an earlier program of the hold, or a report, left behind is no check made now."""
    network, hold = order.network, order.hold
    target = order.target.element
    for kind in ("contact", "detector"):
        stale = fold_field(network, [_event("tested", target.id, value="instrument_before", hold=hold, instrument=kind)],
                           start)  # fmt: skip
        yield order, stale, [s for s in steps if (s.value, s.instrument) != ("instrument_before", kind)]
    machines = [e for e in network.elements if e.kind == "motor"]
    still = fold_field(network, [_event("stopped", e.id, hold=hold) for e in machines], start)
    yield order, still, [s for s in steps if "stopped" not in s.acts]


def as_kept(order, start, steps):
    """Steps that say something else than they were drafted with; states before them as they were."""
    whole = restated(order, start, steps)
    for i in (0, len(whole) // 2, len(whole) - 1):
        s = whole[i]
        for other in (replace(s, voltage="1 V"), replace(s, action="DO IT"), replace(s, stand="Here"),
                      replace(s, before="something else"), replace(s, location=""), replace(s, others="Somebody"), replace(s, remote=True),
                      replace(s, node_id="nowhere") if s.node_id else None):  # fmt: skip
            if other is not None and other != s and (other.remote == s.remote or s.kind == "operate"):
                yield [*whole[:i], other, *whole[i + 1 :]]


def refusals(case):
    """Every refusal that a program meets, at every step and at its end: not only the first."""
    order, now, steps = case
    so_far, met = [], []
    for step in steps:
        met += [(step.kind, b.rule.code, b.why.code) for b in rules._broken(order, now, so_far, step)]
        now = rules.take(order, now, step)
        so_far.append(step)
    return frozenset(met) | {("", b.rule.code, b.why.code) for b in rules._whole(order, now, so_far)}


def said_in(module):
    """The why of every refusal that stands in the module's text."""
    for node in ast.walk(ast.parse(inspect.getsource(module))):
        if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "Broken":
            why = node.args[1]
            for one in (why.body, why.orelse) if isinstance(why, ast.IfExp) else (why,):
                for part in ast.walk(one):
                    if isinstance(part, ast.Call) and getattr(part.func, "id", "") == "say":
                        yield part.args[0].value if isinstance(part.args[0], ast.Constant) else ""
                        break


@pytest.fixture(scope="module")
def collected():
    """Unsafe programs, up to three for each refusal, with the refusals that they meet; and safe ones."""
    unsafe, safe = collection()
    few, times = [], Counter()
    # the longest first: they have most of everything
    safe.sort(key=lambda case: (case[0].purpose != "switching", -len(case[2])))
    for name, case in unsafe:
        met = refusals(case)
        if any(times[name, m] < 2 for m in met):
            times.update((name, m) for m in met)
            few.append((case, met))
    return few, safe


@pytest.mark.skipif(not SOAK, reason="the soak's")
def test_every_refusal_is_met_by_a_dangerous_program(collected):
    """Where a refusal is taken away, this fails for want of it."""
    met = {why for _, of_case in collected[0] for *_, why in of_case}
    lacking = {c for module in (step_rules, rules) for c in said_in(module) if c} - met - set(KNOWN)
    assert not lacking, "\n".join(sorted(lacking))


@pytest.mark.skipif(not SOAK, reason="the soak's")
def test_no_rule_and_no_clause_of_one_can_go_unseen(collected):
    """Survivors are printed; one that is not known fails."""
    few, safe = collected
    refused = [(case[0].target.element.tag, case[0].purpose, *refusals(case)) for case in safe if refusals(case)]
    assert refused == []
    everything = [m for module in (step_rules, rules) for m in taken_away(module)]
    survivors = []
    for name, function, code in everything:
        own = function.__code__
        function.__code__ = code
        try:
            seen = any(refusals(case) != met for case, met in few) or any(refusals(case) for case in safe[:SAFE])
        except Exception:
            seen = True  # it broke down: nobody would be let through
        finally:
            function.__code__ = own
        if not seen:
            survivors.append(name)
    print(f"{len(everything)} changes, {len(few)} unsafe and {len(safe)} safe programs")
    unknown = [s for s in survivors if s.partition(":")[0] not in KNOWN and s not in KNOWN]
    assert not unknown, "\n".join(unknown)
