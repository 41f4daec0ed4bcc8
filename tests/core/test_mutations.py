"""Safe programs made unsafe in many ways: what a machine of its own calls dangerous, the rules refuse.

Each operator must produce variants that are dangerous, or the proof is worth nothing; safe changes must be accepted.
The states before and after each step are written anew, so that only rules can tell.
"""

import os
import random
from collections import Counter
from dataclasses import replace

import pytest
from plain_dangers import Played, isolating, restoring
from plain_graph import Site
from test_switching import drafted, walked

from networks import meshed
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.switching import wording
from spinel.core.switching.edit import restated
from spinel.core.switching.rules import first_broken
from spinel.demo.site import document

SOAK = bool(os.environ.get("SOAK"))
#: Variants of one operator on one program.
MOST = 12 if SOAK else 2
DEMO = ("MC1-4A", "T2")


def which(steps, test):
    return [i for i, s in enumerate(steps) if test(s)]


def without(test):
    def made(steps, order):
        return [[*steps[:i], *steps[i + 1 :]] for i in which(steps, test)]

    return made


def changed(test, change):
    def made(steps, order):
        return [[*steps[:i], new, *steps[i + 1 :]] for i in which(steps, test)
                for new in change(steps[i], steps, order)]  # fmt: skip

    return made


def before(test, other):
    """The first is brought to just before the other."""

    def made(steps, order):
        found = []
        for i in which(steps, test):
            for j in which(steps, other):
                if j < i:
                    rest = [*steps[:i], *steps[i + 1 :]]
                    found.append([*rest[:j], steps[i], *rest[j:]])
        return found

    return made


def act(name):
    return lambda s: name in s.acts


def kind(name, value=None):
    return lambda s: s.kind == name and (value is None or s.value == value)


def proof(s):
    return s.value == "proof"


def own_lock(s, steps, order):
    """The lock on a device that this program never opened."""
    used = {t.element_id for t in steps}
    found = [e for e in order.network.elements if e.lockable and e.id not in used]
    return [wording.lock(order, e, "open") for e in found[:2]]


def words_of_another(s, steps, order):
    other = next((t for t in steps if t.element_id != s.element_id), None)
    said = ("identity", "location", "equipment_type")
    return [replace(s, **{name: getattr(other, name) for name in said})] if other else []


def elsewhere(s, steps, order):
    far = [n.id for n in order.network.nodes if n.id not in order.target.nodes]
    return [replace(s, node_id=n) for n in far[:2]]


def closing(s, steps, order):
    used = {t.element_id for t in steps}
    found = [e for e in order.network.elements if e.kind == "breaker" and e.id not in used]
    return [(wording.operate(order, e, "closed")) for e in found[:2]]


def put_in(test, change):
    """Something more, just before a step."""

    def made(steps, order):
        return [[*steps[:i], new, *steps[i:]] for i in which(steps, test)[:1] for new in change(steps[i], steps, order)]

    return made


ISOLATION = {
    "nobody is told": without(kind("notify")),
    "not opened": without(act("opened")),
    "not looked at": without(kind("check")),
    "not locked": without(act("locked")),
    "tagged only": changed(act("locked"), lambda s, *_: [replace(s, acts=("tagged",))]),
    "locked without a tag": changed(act("locked"), lambda s, *_: [replace(s, acts=("locked",))]),
    "locked before it is looked at": before(act("locked"), kind("check")),
    "locked before it is opened": before(act("locked"), act("opened")),
    "withdrawn before it is open": before(act("withdrawn"), act("opened")),
    "not withdrawn where it must be": without(act("withdrawn")),
    "the lock on another device": changed(act("locked"), own_lock),
    "the words of another device": changed(lambda s: s.kind in ("operate", "lock", "test"), words_of_another),
    "a machine is not stopped": without(act("stopped")),
    "blocked before it is stopped": before(act("blocked"), act("stopped")),
    "blocked before it is locked": before(act("blocked"), act("locked")),
    "not blocked": without(act("blocked")),
    "energy not let go": without(act("released")),
    "start not tried": without(kind("try")),
    "not read before bleeding": without(kind("test", "residual")),
    "bled before it is read": before(kind("discharge"), kind("test", "residual")),
    "bled before it is opened": before(kind("discharge"), kind("access")),
    "not bled": without(kind("discharge")),
    "no barricade": without(kind("barricade")),
    "not opened by a step": without(kind("access")),
    "the door before the last lock": before(kind("access"), act("locked")),
    "the door before the barricade": before(kind("access"), kind("barricade")),
    "instrument not proved": without(kind("test", "instrument_before")),
    "instrument not proved again": without(kind("test", "instrument_after")),
    "proved again before it read": before(kind("test", "instrument_after"), proof),
    "a place not tested": without(proof),
    "a pair not tested": changed(proof, lambda s, *_: [replace(s, pairs=s.pairs[1:]), replace(s, pairs=s.pairs[:-1])]),
    "the other kind of instrument": changed(proof, lambda s, *_: [
        replace(s, instrument="contact" if s.instrument == "detector" else "detector")]),
    "another kind is proved": changed(kind("test", "instrument_before"), lambda s, *_: [
        replace(s, instrument="contact" if s.instrument == "detector" else "detector")]),
    "tested somewhere else": changed(proof, elsewhere),
    "tested before the last lock": before(proof, act("locked")),
    "tested before it is bled": before(proof, kind("discharge")),
    "grounded before it is proved": before(act("grounded"), proof),
    "not grounded": without(act("grounded")),
    "handed over before the last test": before(kind("handover"), kind("test")),
    "handed over before the ground": before(kind("handover"), act("grounded")),
    "handed over to nobody": without(kind("handover")),
    "closed again": put_in(kind("test"), lambda s, steps, order: [
        wording.operate(order, order.network.element[t.element_id], "closed") for t in steps if "opened" in t.acts][:2]),
}  # fmt: skip
RESTORATION = {
    "nobody is told": without(kind("notify", "")),
    "nobody is told that it is live": without(kind("notify", "live")),
    "nobody looks": without(kind("inspect")),
    "the lock off before the ground": before(act("unlocked"), act("ungrounded")),
    "the lock off before the block": before(act("unlocked"), act("unblocked")),
    "the lock off before it is closed up": before(act("unlocked"), kind("access")),
    "closed up before the ground is off": before(kind("access"), act("ungrounded")),
    "not closed up": without(kind("access")),
    "a ground is left": without(act("ungrounded")),
    "a block is left": without(act("unblocked")),
    "only the tag comes off": changed(act("unlocked"), lambda s, *_: [replace(s, acts=("untagged",))]),
    "only the lock comes off": changed(act("unlocked"), lambda s, *_: [replace(s, acts=("unlocked",))]),
    "a lock is left": without(act("unlocked")),
    "closed under its lock": before(act("closed"), act("unlocked")),
    "closed and not looked at": without(lambda s: s.kind == "check" and s.stand == wording.FRONT),
    "left open": without(act("closed")),
    "not put in": without(act("inserted")),
    "closes what it never opened": put_in(kind("barricade"), closing),
    "somebody else's lock": put_in(kind("barricade"), lambda s, steps, order: [
        replace(t, acts=("unlocked", "untagged")) for t in own_lock(s, steps, order)]),
    "the words of another device": changed(lambda s: s.kind in ("operate", "lock"), words_of_another),
    "the barricade is left": without(kind("barricade")),
}  # fmt: skip


def played(site, now, element, study):
    network = study.network
    too_hot = {e.id for e in network.elements if e.remote and e.stored_energy and study.hazard(e.id).beyond_ceiling}
    positions = {i: d.position for i, d in now.devices.items() if i in site.elements and d.position in (
        "open", "closed", "withdrawn", "normal", "emergency", "off")}  # fmt: skip
    words = {e.id: (_place(network, e), e.kind_name, e.tag) for e in network.elements}
    return Played(site, positions, site.target(element.id), words, too_hot)


def _place(network, e):
    boxes = network.enclosures_of(e)
    return e.location or (boxes[0].name if boxes else None)


def programs(study, site, now, element):
    """Both programs of an element with how each begins, or nothing where it is refused."""
    isolation, restoration, _ = drafted(study, now, element)
    if isolation is None:
        return
    done = isolation.judged.fields[-1]
    yield (
        isolation.order,
        now,
        [*isolation.steps],
        ISOLATION,
        isolating,
        lambda: played(site, now, element, study),
    )

    def after():
        p = played(site, now, element, study)
        assert isolating(p, [*isolation.steps]) == [], element.tag
        return p

    yield restoration[0], done, [*restoration[1]], RESTORATION, restoring, after


def try_all(study, site, now, element, dice, counts):
    for order, start, steps, operators, dangers, fresh in programs(study, site, now, element):
        assert dangers(fresh(), steps) == [], (element.tag, order.purpose)
        for name, operator in operators.items():
            variants = operator(steps, order)
            counts[order.purpose, name, "made"] += len(variants)
            for variant in dice.sample(variants, min(MOST, len(variants))):
                found = dangers(fresh(), variant)
                if not found:
                    continue
                counts[order.purpose, name, "unsafe"] += 1
                broken = first_broken(order, start, [], restated(order, start, variant))
                assert broken is not None, (element.tag, order.purpose, name, found)
        for changed_safely in safe_changes(order, steps, dice):
            assert dangers(fresh(), changed_safely) == []
            broken = first_broken(order, start, [], restated(order, start, changed_safely))
            assert broken is None, (element.tag, order.purpose, broken)


def safe_changes(order, steps, dice):
    """Looking, telling, testing and locking once more, and points in another order."""
    once_more = [
        i for i, s in enumerate(steps) if s.kind in ("check", "inspect") or (s.kind == "notify" and not s.value)
    ]
    for i in dice.sample(once_more, min(3, len(once_more))):
        later = len(steps) - 1 if steps[i].kind != "check" else i + 1
        yield [*steps[: later or 1], steps[i], *steps[later or 1 :]]
    locks = [i for i, s in enumerate(steps) if "locked" in s.acts]
    for i in locks[:2]:
        yield [*steps[: i + 1], steps[i], *steps[i + 1 :]]
    tests = [i for i, s in enumerate(steps) if s.value in ("instrument_before", "proof", "instrument_after")]
    if tests and order.purpose == "isolation":
        last = max(tests) + 1
        inside = max(which(steps, kind("access")), default=0)
        # the instrument was proved before the door was opened, where something was tested before that
        begins = inside if any(i > inside and steps[i].value == "instrument_before" for i in tests) else 0
        again = [steps[i] for i in tests if i >= begins]
        yield [*steps[:last], *again, *steps[last:]]


def demo():
    data = document()
    network = accept(data)
    return Study(network, NORTH_AMERICAN, None, 40.0), Site(data), walked(network, F_A4="open")


def generated(seed):
    data = meshed(seed)
    network = accept(data)
    return Study(network, NORTH_AMERICAN, None, 1000.0), Site(data), walked(network)


@pytest.mark.long
def test_every_way_of_making_a_program_unsafe_is_refused_and_safe_changes_are_accepted():
    """Over forty ways; each must be dangerous somewhere. Counts are printed in the soak."""
    counts, dice = Counter(), random.Random(11)
    study, site, now = demo()
    for tag in [e.tag for e in study.network.elements] if SOAK else DEMO:
        try_all(study, site, now, study.network.by_tag[tag], dice, counts)
    for seed in range(60 if SOAK else 0):
        study, site, now = generated(seed)
        fit = [e for e in study.network.elements if drafted(study, now, e)[0] is not None]
        for element in dice.sample(fit, min(len(fit), 4 if SOAK else 1)):
            try_all(study, site, now, element, dice, counts)
    for purpose, operators in (("isolation", ISOLATION), ("restoration", RESTORATION)):
        for name in operators:
            made, unsafe = counts[purpose, name, "made"], counts[purpose, name, "unsafe"]
            print(f"{purpose}: {name}: {made} made, {unsafe} unsafe, all refused")
            assert unsafe or not SOAK, (purpose, name, made)
    assert len(ISOLATION) + len(RESTORATION) >= 25
