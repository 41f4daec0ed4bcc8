"""Every draft is safe or refused for a reason that holds; every program with a piece missing or out of order is refused.

What is expected comes from plain_graph.py, which shares no code with core: it reads the JSON document.
"""

import os
import random
from copy import copy
from dataclasses import replace
from itertools import combinations, permutations
from types import SimpleNamespace

import pytest
from plain_graph import Site

from networks import meshed
from saying import en
from spinel.core.errors import Refusal
from spinel.core.hazard import Study
from spinel.core.isolation.points import NoCut
from spinel.core.network.check import accept
from spinel.core.network.field import fold_field
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.now import FieldEvent
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.switching.draft import draft_isolation
from spinel.core.switching.restore import draft_restoration
from spinel.core.switching.rules import first_broken, judge
from spinel.core.switching.step_rules import CEILING
from spinel.demo.site import document

#: So many swaps of steps that are no neighbours are tried outside the soak.
OTHERS = 15
#: The settled order, written down a second time: position of each kind, a test by what it tests.
ORDER = {
    "isolation": ["notify", "operate check lock", "block", "try", "residual discharge", "proof", "instrument_after",
                  "ground", "handover"],
    "restoration": ["notify", "inspect", "block ground", "access", "lock", "operate check", "barricade", "told"],
}  # fmt: skip
#: Of an isolation these have no place of their own: what needs them comes after them.
FREE = ("instrument_before", "barricade", "access")


def walked(network, **found):
    seen = {e.id: e.normal_position for e in network.elements if e.kind in SWITCHING}
    seen |= {network.by_tag[t.replace("_", "-")].id: v for t, v in found.items()}
    # stand-by sources are seen stopped: nobody knows counts as running
    seen |= {e.id: "stopped" for e in network.elements if e.row.supplies == "stand_by" and e.row.own_voltage}
    return fold_field(
        network,
        [
            FieldEvent(sequence=i, at="t", actor="a", kind="found", element_id=k, value=v, walked=True)
            for i, (k, v) in enumerate(seen.items())
        ],
    )


def drafted(study, now, element):
    """Both programs of an element, or the refusal."""
    try:
        isolation = draft_isolation(study, now, element, "H")
    except Refusal as why:
        return None, None, why
    return isolation, draft_restoration(study, isolation.judged.fields[-1], element, "H", now), None


def held(steps):
    """What hangs and stands after the steps, replayed from their acts alone."""
    positions, locks, still = {}, set(), set()
    for s in steps:
        for act in s.acts:
            if act in ("opened", "withdrawn"):
                positions[s.element_id] = "withdrawn" if act == "withdrawn" else s.value or "open"
            if act == "locked":
                locks.add(s.element_id)
            if act in ("blocked", "discharged"):
                still.add(s.element_id)
    return positions, locks, still


def check_isolates(site, now, isolation, element):
    _, locks, still = held(isolation.steps)
    target = site.target(element.id)
    assert site.fed(target, locks) == set(), element.tag
    assert site.could_turn_or_hold(target, locks) <= still, element.tag
    assert all(site.able(site.elements[i]) for i in locks)
    assert (
        isolation.steps[-1].kind == "handover"
        and {n for n in target if not isolation.judged.fields[-1].proved(n, "H")} == set()
    )


def check_restores(now, restoration):
    ends = restoration[2].fields[-1]
    for element_id in {*ends.devices, *now.devices}:
        was, is_now = now.device(element_id), ends.device(element_id)
        for name in ("position", "locks", "tags", "blocks"):
            assert getattr(was, name) == getattr(is_now, name), (element_id, name)
        # a machine that was stopped is started by those who run it
        assert is_now.running in (was.running, False), element_id
    assert ends.grounds == now.grounds


#: Why a point was passed over whose figures rise while the others are opened.
ON_THE_WAY = "step-rules-has-above-the-ceiling-of-cal"


def check_refusal(site, study, now, element, why, every_set=False):
    """A source that no set of devices cuts, by brute force; or equipment that nobody may stand at, by the study."""
    if isinstance(why, NoCut):
        able = {i for i, e in site.elements.items() if site.able(e)}
        source = why.source if why.source in site.tags else "outside"
        assert not site.cut_possible(site.target(element.id), source, able - set(why.passed), every_set), (
            element.tag,
            str(why),
        )
        for i in why.passed:
            if getattr(why.passed[i], "code", "") == ON_THE_WAY:
                continue  # once others are open: what such a state has is test_meanwhile's
            assert unfit(site, study, now, i), (site.elements[i]["tag"], why.passed[i])
        return
    assert en(why.rule) == "no step above the ceiling or without a figure", str(why)
    assert nobody_stands_at(study, study.network.by_tag[en(why.why).split()[0]]), str(why)


def nobody_stands_at(study, e):
    worst = study.hazard(e.id)
    return bool(worst.no_figure or worst.beyond_ceiling)


def unfit(site, study, now, element_id):
    e, duty = study.network.element[element_id], study.duty.get(element_id)
    if nobody_stands_at(study, e) or (duty is not None and not duty.adequate and not e.remote):
        return True
    if e.load_break and e.fault_make:
        return False
    # with everything open that could do it instead, a source still stands at one of its ends
    positions = {i: now.device(i).position for i in site.elements}
    for i, other in site.elements.items():
        if other.get("load_break") and other.get("fault_make") and other["kind"] != "transfer_switch" and i != e.id:
            found = study.network.element[i]
            if not nobody_stands_at(study, found) and (
                study.duty.get(i) is None or study.duty[i].adequate or found.remote
            ):
                positions[i] = "open"
    return any(fed for fed, _ in site.sides(positions, e.id))


def without_one(purpose, steps):
    """Every program that lacks one thing: what is left out, and the steps without it."""
    for i, s in enumerate(steps):
        rest = [*steps[:i], *steps[i + 1 :]]
        if purpose == "restoration" and s.kind in ("inspect", "check"):
            yield f"{s.kind} {s.identity}", rest
            continue
        if s.value == "instrument_before" and any(s.key == earlier.key for earlier in steps[:i]):
            continue  # proved already, before what was read first
        yield f"{s.kind} {s.identity} {s.value}", rest
        for part in s.acts if len(s.acts) > 1 else ():
            yield (
                f"{part} {s.identity}",
                [*steps[:i], replace(s, acts=tuple(a for a in s.acts if a != part)), *steps[i + 1 :]],
            )
        for pair in s.pairs if s.value == "proof" else ():
            lacking = replace(s, pairs=tuple(p for p in s.pairs if p != pair))
            yield f"{pair} {s.node_id}", [*steps[:i], lacking, *steps[i + 1 :]]


def rank(purpose, step):
    name = step.value if step.kind == "test" else "told" if step.value == "live" else step.kind
    return next(i for i, kinds in enumerate(ORDER[purpose]) if name in kinds.split())


def waits(step):
    """The spring of what is operated by remote, at which nobody may stand: let go once it is proved dead."""
    return step.kind == "block" and step.value == "spring" and step.figures.beyond


def free(step):
    return waits(step) or (step.value if step.kind == "test" else step.kind) in FREE


BLOCK = SimpleNamespace(kind="block", value="")


def too_hot_yet(s, again, rest):
    """Before it is proved nobody stands at what is above the ceiling; and its spring is no surprise for who takes over."""
    left = s.kind == "handover" and any(waits(t) for t in rest)
    return left or (again and s.figures.beyond and (waits(s) or (s.kind == "check" and not s.remote)))


def comes_too_late(steps, site, target, weak):
    """An instrument after what it read, a barricade after the door, a door after what is done inside or before every
    source is locked off; what fails its duty opened before that; and nobody told before."""
    told = up = opened = False
    again = sum(s.value == "instrument_after" for s in steps)
    kinds, proved, locked, held = set(), set(), set(), set()
    bled = next(i for i, kinds in enumerate(ORDER["isolation"]) if "discharge" in kinds)
    for k, s in enumerate(steps):
        told |= s.kind == "notify"
        up |= s.kind == "barricade"
        locked |= {s.element_id} if "locked" in s.acts else set()
        held |= {s.element_id} if "blocked" in s.acts else set()
        if s.acts == ("opened",) and s.element_id in weak and site.fed(site.elements[s.element_id]["ends"], locked):
            return True
        again -= s.value == "instrument_after"
        if s.kind == "access":
            closed = [t for t in steps[k + 1 :] if t.kind in ("block", "try") and rank("isolation", t) < bled]
            if any(not waits(t) for t in closed):
                return True
            # too dangerous to be opened before it is proved dead
            turns = {i for i in site.could_turn_or_hold(target, locked) - held if site.elements[i]["kind"] == "motor"}
            early = site.fed(target, locked) or (turns and rank("isolation", BLOCK) < bled)
            if early or not up or (again and all(t.stick for t in steps if t.value == "proof")):
                return True
            opened = True
        if s.value == "instrument_before":
            if s.instrument in proved:
                return True  # what was read with it before counts no more
            kinds.add(s.instrument)
        if s.value == "proof":
            proved.add(s.instrument)
        if too_hot_yet(s, again, steps[k + 1 :]):
            return True
        inside = s.value in ("residual", "proof") or s.kind in ("discharge", "ground")
        unproved = s.value in ("residual", "proof") and s.instrument not in kinds
        if (s.kind != "check" and not told) or (inside and not opened and not s.stick) or unproved:
            return True
    return False


def reversed_pair(purpose, steps, site, now, target, weak):
    """Does this order turn around a pair of the settled order, or ask a device for what it is not built for?"""
    # checking is never refused for the order: only what it is a check of is asked for
    placed = [s for s in steps if s.kind != "check" and (purpose == "restoration" or not free(s))]
    ranks = [rank(purpose, s) for s in placed]
    if ranks != sorted(ranks) or (purpose == "isolation" and comes_too_late(steps, site, target, weak)):
        return True
    positions = {i: now.device(i).position if now.device(i).known else None for i in site.elements}
    reached = {}
    for s in steps:
        e = site.elements[s.element_id]
        if s.kind == "operate" and s.acts[0] != "stopped":
            weak_load, weak_make = not e.get("load_break"), not e.get("fault_make")
            if s.acts[0] in ("opened", "closed") and weak_load and site.carries_load(positions, e["id"]):
                return True
            if s.acts[0] == "closed" and weak_make and site.energizes(positions, e["id"], target):
                return True
            reached[e["id"]] = {"opened": "open", "closed": "closed", "withdrawn": "withdrawn", "inserted": "open"}[
                s.acts[0]
            ]
            positions[e["id"]] = "closed" if s.acts[0] == "closed" else None
        if s.kind == "check":
            positions[e["id"]] = reached.get(e["id"], now.device(e["id"]).position)
    return False


def per_thing(steps):
    """The order of the steps on each device, and of reading and bleeding on each charged part."""
    found = {}
    for s in steps:
        if s.kind in ("operate", "check", "lock", "discharge") or s.value in ("residual", "spring"):
            found.setdefault(s.element_id, []).append(s)
    return found


def settled(field):
    """What is left in the end, in no order."""
    devices = {k: replace(d, locks=tuple(sorted(d.locks))) for k, d in field.devices.items()}
    return devices, set(field.proofs), set(field.grounds), field.tried, field.released


def for_any_state(step):
    """A step whose figures cover whatever feeds it: here the order alone is asked about."""
    return replace(step, figures=replace(step.figures, energy_cal_cm2=1e9, boundary_mm=1e9))


def check_swaps(purpose, order, start, steps, judged, site, dice):
    target = [*order.target.all_nodes]
    weak = {i for i, d in order.study.duty.items() if not d.adequate and not order.network.element[i].remote}
    steps = [*map(for_any_state, steps)]
    own = per_thing(steps)
    pairs = list(combinations(range(len(steps)), 2))
    if dice is not None and len(pairs) > OTHERS:
        pairs = [*zip(range(len(steps)), range(1, len(steps)), strict=False), *dice.sample(pairs, OTHERS)]
    for i, j in pairs:
        swapped = [*steps]
        swapped[i], swapped[j] = steps[j], steps[i]
        wrong = per_thing(swapped) != own or reversed_pair(purpose, swapped, site, start, target, weak)
        broken = first_broken(order, judged.fields[i], steps[:i], swapped[i:])
        if broken is not None and broken.rule == CEILING and not wrong:
            # no order is turned round: what is open by then is what lets more come there (test_meanwhile)
            continue
        assert (broken is not None) == wrong, (i, j, steps[i].key, steps[j].key, broken)
        if broken is None:
            assert settled(judge(order, start, swapped).fields[-1]) == settled(judged.fields[-1])


def check_one(study, site, now, element, isolation, restoration, dice=None):
    """Every removal; every swap, or of a long program each neighbour and some others when ``dice`` are given."""
    done = isolation.judged.fields[-1]
    for purpose, order, start, steps, judged in (
        ("isolation", isolation.order, now, list(isolation.steps), isolation.judged),
        ("restoration", restoration[0], done, list(restoration[1]), restoration[2]),
    ):
        assert judged.safe and len(steps) == len(judged.steps)
        for lacking, rest in without_one(purpose, steps):
            broken = first_broken(order, start, [], rest)
            assert broken is not None and broken.rule and broken.remedy, (element.tag, purpose, lacking)
        check_swaps(purpose, order, start, steps, judged, site, dice)


@pytest.mark.long
@pytest.mark.parametrize("seed", range(200) if os.environ.get("SOAK") else (2, 5))
def test_a_site_never_seen_is_isolated_and_restored_or_refused_for_a_reason_that_holds(seed):
    data = meshed(seed)
    network, site = accept(data), Site(data)
    # a ceiling of 40 cal/cm² for every fifth, out of the way for the others
    study = Study(network, NORTH_AMERICAN, None, 40.0 if seed % 5 == 0 else 1000.0)
    now = walked(network)
    fit, chosen = [], random.Random(seed).choice(network.elements).id
    for element in network.elements:
        isolation, restoration, why = drafted(study, now, element)
        if why is not None:
            check_refusal(site, study, now, element, why, every_set=chosen == element.id)
            continue
        check_isolates(site, now, isolation, element)
        check_restores(now, restoration)
        fit.append((element, isolation, restoration))
    if fit:
        check_one(study, site, now, *random.Random(seed).choice(fit), random.Random(seed))


DEMO = document()
#: What has the most of everything; every element is drafted by the test below.
SOME = ("MC1-4A", "F-B3", "CTL-1", "T2", "EDP-5", "BB-1")


@pytest.fixture(scope="module")
def demo(demo_study):
    return demo_study, Site(DEMO), walked(demo_study.network, F_A4="open")


@pytest.mark.long
@pytest.mark.parametrize("tag", [e["tag"] for e in DEMO["elements"]] if os.environ.get("SOAK") else SOME)
def test_every_element_of_the_demo(demo, tag):
    study, site, now = demo
    element = study.network.by_tag[tag]
    isolation, restoration, why = drafted(study, now, element)
    if why is not None:
        check_refusal(site, study, now, element, why, every_set=True)
        return
    check_isolates(site, now, isolation, element)
    check_restores(now, restoration)
    # every swap of a long program is tried in the soak; here of every third each neighbour and some others
    every = os.environ.get("SOAK")
    if not every and SOME.index(tag) % 3:
        return
    check_one(study, site, now, element, isolation, restoration, None if every else random.Random(tag))


#: What of the demo nothing isolates, and why that is right: the device nearest to each of these sources is the source's
#: own, or, behind the charger, direct current for which no method gives a figure, so that nobody may stand at a switch.
NEVER = {
    "U-1": "U-1 Q-U1", "G-1": "G-1 52-G", "PV-1": "PV-1 Q-PV", "SC-1": "SC-1 Q-SC", "BB-1": "BB-1 DCB-1 Q-DC CH-1 Q-CH",
}  # fmt: skip
#: What has more than the ceiling at itself, whatever is open upstream, and no points built in to test it from.
BEYOND = {"52-B", "W-B"}


@pytest.mark.long
def test_what_of_the_demo_cannot_be_isolated_and_from_what(demo):
    study, _, now = demo
    # the soak asks every element; here those that are refused, and what lies beside them
    near = {*BEYOND, *" ".join(NEVER.values()).split(), "F-B2", "W-B2", "52-A", "52-G", "PV-1", "Q-SC"}
    asked = [e for e in study.network.elements if os.environ.get("SOAK") or e.tag in near]
    refused = {e.tag: why for e in asked if (why := drafted(study, now, e)[2]) is not None}
    beyond = {tag for tag in refused if "above the ceiling" in en(refused[tag].why)} & BEYOND
    assert beyond == BEYOND
    refused = {tag: why for tag, why in refused.items() if tag not in BEYOND}
    assert all(isinstance(why, NoCut) for why in refused.values())
    sources = {tag: set(tags.split()) for tag, tags in NEVER.items()}
    assert {s: {t for t, why in refused.items() if why.source == s} for s in sources} == sources
    assert set(refused) == set().union(*sources.values())


PARTS = {"hold": "block", "try": "try", "bleed": "residual discharge"}
OTHERWISE = [p for p in permutations(PARTS) if p != NORTH_AMERICAN.made_safe]


@pytest.mark.long
@pytest.mark.parametrize("made_safe", OTHERWISE if os.environ.get("SOAK") else OTHERWISE[::3], ids="-".join)
def test_in_the_order_of_another_practice_the_same_is_done_and_none_of_it_can_be_left_out(demo, made_safe, monkeypatch):
    """Where a practice holds, tries and bleeds in another order, its rules ask for that one; proof still needs all."""
    study, site, now = demo
    own = [PARTS[p] for p in made_safe]
    monkeypatch.setitem(ORDER, "isolation", [*ORDER["isolation"][:2], *own, *ORDER["isolation"][5:]])
    other = copy(study)
    other.profile = replace(NORTH_AMERICAN, made_safe=made_safe)
    several = 0
    for tag in ("MC1-4A", "ATS-1", "PSU-1", "CTL-1"):
        element = study.network.by_tag[tag]
        isolation, restoration, why = drafted(other, now, element)
        assert why is None, why
        usual, _, _ = drafted(study, now, element)
        assert sorted(s.key for s in isolation.steps) == sorted(s.key for s in usual.steps)
        check_isolates(site, now, isolation, element)
        check_one(other, site, now, element, isolation, restoration, random.Random(tag))
        several += len({rank("isolation", s) for s in isolation.steps if not free(s)} & {2, 3, 4}) == 3
    assert several >= 2
