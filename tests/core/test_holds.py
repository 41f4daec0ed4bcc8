"""What belongs to a hold, what is unknown, and what ends a proof: one small site made by hand, one rule a test.

U ==Q0== bus ==Q1== a ==Q2== m(motor P)      bus ==Q3== b (load L)      a ==Q4== c (load N)
all breakers isolate, take a lock, break load and make onto a fault; K is a contactor between m and p.
"""

from dataclasses import replace

import pytest

from saying import en
from small_site import Small, trip
from spinel.core.errors import Refusal
from spinel.core.hazard import Study
from spinel.core.isolation.absence import zones
from spinel.core.isolation.points import target_of
from spinel.core.network.check import accept
from spinel.core.network.circuit import at_present
from spinel.core.network.cut import region, still_fed
from spinel.core.network.field import Field, Proof, fold_field
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.liveness import DEAD, PROVED, UNKNOWN, liveness
from spinel.core.network.now import FieldEvent
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.switching import wording
from spinel.core.switching.draft import draft_isolation
from spinel.core.switching.edit import restated
from spinel.core.switching.order import ISOLATION, Crew, Crews, Order
from spinel.core.switching.restore import draft_restoration
from spinel.core.switching.rules import judge, judge_step
from spinel.core.switching.step_rules import standing
from spinel.core.switching.steps import events, stamped

ABLE = {"isolating": True, "lockable": True, "load_break": True, "fault_make": True}


def site():
    made = Small(escape_clear=True)
    for node in ("u", "bus", "a", "m", "p", "b", "c"):
        made.node(node)
    made.add("source", "U", "u", fault_mva_max=2, x_r_max=4, fault_mva_min=1.5, x_r_min=4)
    for tag, one, other in (
        ("Q0", "u", "bus"),
        ("Q1", "bus", "a"),
        ("Q2", "a", "m"),
        ("Q3", "bus", "b"),
        ("Q4", "a", "c"),
    ):
        made.breaker(tag, one, other, **trip(100, short_pickup_a=400, short_delay_s=0.1, instantaneous_a=800))
        made.elements[-1] |= ABLE
    made.add("contactor", "K", "m", "p", normal_position="closed", rated_voltage_v=600, interrupting_ka=50)
    made.add("motor", "P", "p", rated_kva=20, xd_subtransient_pu=0.2, x_r=6)
    made.add("load", "L", "b")
    made.add("load", "N", "c")
    made.add("bus", "B", "bus")
    return accept(made.document())


@pytest.fixture(scope="module")
def network():
    return site()


@pytest.fixture(scope="module")
def study(network):
    return Study(network, NORTH_AMERICAN, None, 1000.0)


def event(tag, kind, value="", hold="", **more):
    return FieldEvent(sequence=1, at="t", actor="a", kind=kind, element_id=f"id-{tag}", value=value, hold=hold, **more)


@pytest.fixture
def start(network):
    return fold_field(network, [event(e.tag, "found", e.normal_position, walked=True)
                                for e in network.elements if e.kind in SWITCHING])  # fmt: skip


def cut(tag, hold):
    return [event(tag, "opened", hold=hold), event(tag, "checked", hold=hold), event(tag, "locked", hold=hold),
            event(tag, "tagged", hold=hold)]  # fmt: skip


def proof(at, hold, *nodes):
    tests = [event(at, "tested", "proof", hold, node_id=n, pairs=("L1-L2",)) for n in nodes]
    return [event(at, "tested", "instrument_before", hold), *tests, event(at, "tested", "instrument_after", hold)]


def still(hold):
    return [event("P", "blocked", "shaft", hold)]


def shown(network, field):
    return liveness(network, at_present(network, field.devices), field.devices, field).nodes


# Unknown positions ---------------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", ["opened", "closed", "found"])
def test_what_nobody_checked_is_of_unknown_position(network, start, kind):
    moved = fold_field(network, [event("Q4", kind, "open" if kind == "found" else "")], start)
    assert not moved.devices["id-Q4"].known
    assert fold_field(network, [event("Q4", "checked")], moved).devices["id-Q4"].known
    walked = fold_field(network, [event("Q4", "found", "open", walked=True)], start)
    assert walked.devices["id-Q4"].known


@pytest.mark.parametrize("between", ["unchecked closing", "unknown", "contactor"])
def test_a_test_says_nothing_of_the_other_side_of_what_is_not_surely_closed(network, start, between):
    """Both sides of it lie behind one lock; only the tested one is shown proved."""
    tag, near, far = ("K", "m", "p") if between == "contactor" else ("Q2", "a", "m")
    doubt = {"unchecked closing": [event("Q2", "opened"), event("Q2", "checked"), event("Q2", "closed")],
             "unknown": [event("Q2", "found", "closed")], "contactor": []}[between]  # fmt: skip
    done = fold_field(network, [*doubt, *cut("Q1", "H"), *still("H"), *proof(tag, "H", near)], start)
    assert shown(network, done)[near] == PROVED and shown(network, done)[far] == DEAD
    sure = fold_field(network, [*cut("Q1", "H"), *still("H"), *proof("Q2", "H", "a")], start)
    assert shown(network, sure)["m"] == PROVED


def test_each_side_of_an_unsure_device_in_the_target_is_tested(network, study, start):
    """The draft tests both; a handover after one alone is refused, also when the device is checked afterwards."""
    here = fold_field(network, [event("Q2", "found", "closed")], start)
    made = draft_isolation(study, here, network.element["id-Q2"], "H")
    assert {z.point for z in zones(network, here, made.order.target, NORTH_AMERICAN)} == {"a", "m"}
    assert [s.node_id for s in made.steps if s.value == "proof"] == ["a", "m"]
    lacking = [s for s in made.steps if not (s.value == "proof" and s.node_id == "m")]
    field, done = here, []
    for step in lacking[:-1]:
        field = fold_field(network, events(step, "H"), field)
        done.append(step)
    checked = fold_field(network, [event("Q2", "checked")], field)
    for now in (field, checked):
        assert en(judge_step(made.order, now, done, lacking[-1]).rule) == "no handover without proof"


def test_a_ground_on_one_side_of_an_unsure_device_is_none_for_the_other(network, start):
    done = fold_field(network, [event("Q2", "found", "closed"), *cut("Q1", "H"), *still("H"),
                                event("Q4", "grounded", hold="H", node_id="a")], start)  # fmt: skip
    states = shown(network, done)
    assert states["a"] == "grounded" and states["m"] == DEAD


# Isolation and proof belong to a hold ---------------------------------------------------------------------------


def test_only_the_locks_of_the_hold_isolate_for_it(network, start):
    field = fold_field(network, [*cut("Q1", "A"), *still("B")], start)
    assert still_fed(network, field.devices, ["a"], "A") == [] and still_fed(network, field.devices, ["a"], "B")
    assert fold_field(network, proof("Q2", "B", "a"), field).proofs == ()
    both = fold_field(network, [event("Q1", "locked", hold="B"), *proof("Q2", "B", "a")], field)
    assert both.proved("a", "B") and both.proved("a", "A") is None


def test_tests_on_what_is_not_isolated_are_no_proof(network, start):
    """Whatever the record says was tested: no lock, an unchecked point, a report in place of a look."""
    for lead in (
        [],
        [*cut("Q1", "H"), event("Q1", "found", "open")],
        [event("Q1", "opened"), event("Q1", "locked", hold="H")],
    ):
        assert fold_field(network, [*still("H"), *lead, *proof("Q2", "H", "a")], start).proofs == ()


@pytest.mark.parametrize(
    "what",
    [event("Q1", "found", "open"), event("Q1", "found", "closed"), event("Q4", "opened"), event("Q4", "closed"),
     event("Q1", "unlocked", hold="H"), event("Q0", "found", "open"), event("P", "unblocked", "shaft", "H"),
     event("K", "closed")],
)  # fmt: skip
def test_with_a_device_open_in_series_a_proof_still_ends(network, start, what):
    """Q2 stands open and checked, without a lock: the region reaches on to the points of the hold all the same."""
    field = fold_field(network, [event("Q2", "found", "open", walked=True), *cut("Q0", "H"), *cut("Q1", "H"),
                                 *still("H"), *proof("K", "H", "m", "p")], start)  # fmt: skip
    assert region(network, field.devices, ["m"], "H") == {"m", "p", "a", "c"}
    ends = what.element_id != "id-Q0"
    after = fold_field(network, [what], field)
    assert (after.proved("m", "H") is None) == ends
    # and does not come back with a new look and a new lock
    again = fold_field(network, [event("Q1", "found", "open", walked=True), event("Q1", "locked", hold="H"),
                                 event("P", "blocked", "shaft", "H")], after)  # fmt: skip
    assert again.proved("m", "H") is None


def test_a_second_lock_that_comes_off_ends_the_proof_of_its_hold_alone(network, start):
    field = fold_field(network, [*cut("Q1", "A"), *cut("Q2", "A"), event("Q2", "locked", hold="B"), *cut("Q0", "B"),
                                 *still("A"), *still("B"), *proof("K", "A", "m"), *proof("K", "B", "m")], start)  # fmt: skip
    off = fold_field(network, [event("Q2", "unlocked", hold="A")], field)
    assert off.proved("m", "A") is None and off.proved("m", "B") is not None


def test_a_block_goes_only_with_its_last_hold(network, start):
    field = fold_field(network, [*still("A"), *still("B"), event("P", "unblocked", "shaft", "A")], start)
    assert field.devices["id-P"].blocked and field.devices["id-P"].blocked_for("A") == frozenset()
    assert not fold_field(network, [event("P", "unblocked", "shaft", "B")], field).devices["id-P"].blocked


# Two crews ------------------------------------------------------------------------------------------------------


def isolated(study, start, tag, hold, crews=None):
    made = draft_isolation(study, start, study.network.by_tag[tag], hold, crews=crews or Crews())
    return made, made.judged.fields[-1]


def working(network, field, hold, tag="Q2"):
    ends = study_ends(network, tag)
    return Crews((Crew(hold, region(network, field.devices, ends, hold), ("Nils",)),))


def study_ends(network, tag):
    return network.by_tag[tag].ends


def test_the_first_crew_keeps_the_second_ones_block_and_ground(network, study, start):
    _, field = isolated(study, start, "P", "A")
    _, both = isolated(study, field, "K", "B", Crews(given_back=frozenset({"A"})))
    assert both.devices["id-P"].holding("shaft") == ("A", "B")
    back = draft_restoration(study, both, network.by_tag["P"], "A", start, Crews(given_back=frozenset("A")))
    after = back[2].fields[-1]
    assert after.devices["id-P"].holding("shaft") == ("B",)
    assert "the block stays for B" in next(en(s.action) for s in back[1] if s.kind == "block")
    assert all(b.devices["id-Q2"].position != "closed" or "B" not in b.devices["id-Q2"].locks for b in back[2].fields)
    assert after.proved("p", "B") is not None


def test_nothing_moves_where_another_crew_is_behind_its_locks(network, study, start):
    first, field = isolated(study, start, "Q2", "A")
    points = {e.tag for e in first.isolation.points}
    assert points == {"Q1"}
    crews = working(network, field, "A")
    # Q4 has an end in what A keeps dead: refused when drafted by hand, and a draft goes further upstream
    order = replace(draft_isolation(study, start, network.by_tag["Q4"], "B").order, crews=crews)
    told = wording.notify(order)
    step = stamped(field, fold_field(network, [event("Q4", "opened", hold="B")], field),
                   wording.operate(order, network.by_tag["Q4"], "opened"), "B")  # fmt: skip
    assert en(judge_step(order, field, [told], step).rule) == "nothing moves where another crew is behind its locks"
    # the same by their proof alone, before anybody has hung a personal lock
    assert judge_step(replace(order, crews=Crews()), field, [told], step) is not None
    given = Crews(given_back=frozenset("A"))
    assert judge_step(replace(order, crews=given), field, [told], step) is None
    made, both = isolated(study, field, "N", "B", crews)
    assert {e.tag for e in made.isolation.points} == {"Q1"}
    assert [s.kind for s in made.steps if s.element_id == "id-Q1"] == ["check", "lock"]
    assert both.devices["id-Q1"].locks == ("A", "B")


@pytest.mark.parametrize("first", ["A", "B"])
def test_either_crew_may_restore_first_and_the_last_one_closes_what_was_left_open(network, study, start, first):
    _, field = isolated(study, start, "Q2", "A")
    _, field = isolated(study, field, "N", "B", working(network, field, "A"))
    second = "B" if first == "A" else "A"
    tag = {"A": "Q2", "B": "N"}
    given = Crews(given_back=frozenset("AB"))
    _, steps, judged = draft_restoration(study, field, network.by_tag[tag[first]], first, start, given)
    assert not [s for s in steps if s.kind == "operate"]
    field = judged.fields[-1]
    assert field.devices["id-Q1"].position == "open" and field.devices["id-Q1"].locks == (second,)
    over = replace(given, over=frozenset({first}))
    _, steps, judged = draft_restoration(study, field, network.by_tag[tag[second]], second, start, over)
    assert [s.identity for s in steps if s.kind == "operate"] == ["Q1"]
    assert judged.fields[-1].devices["id-Q1"].position == "closed"


# Restoration ----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("how", ["reported", "another hold", "never touched"])
def test_a_restoration_closes_nothing_that_its_hold_did_not_open(network, study, start, how):
    _, field = isolated(study, start, "Q2", "A")
    before = {"reported": [event("Q3", "found", "open")], "never touched": [],
              "another hold": [event("Q3", "opened", hold="C"), event("Q3", "checked", hold="C")]}[how]  # fmt: skip
    field = fold_field(network, before, field)
    order, steps, judged = draft_restoration(
        study, field, network.by_tag["Q2"], "A", start, Crews(given_back=frozenset("A"))
    )
    assert judged.safe and {s.identity for s in steps if s.kind == "operate"} == {"Q1"}
    checked = fold_field(network, [event("Q3", "opened", hold="C"), event("Q3", "checked")], judged.fields[-1])
    closing = wording.operate(order, network.by_tag["Q3"], "closed")
    closing = stamped(checked, fold_field(network, events(closing, "A"), checked), closing, "A")
    assert (
        en(judge_step(order, checked, list(steps[:-2]), closing).rule)
        == "a restoration undoes what its own hold did, nothing else"
    )


def test_what_its_own_hold_opened_and_somebody_found_otherwise_is_left_and_named(network, study, start):
    _, field = isolated(study, start, "P", "A")
    field = fold_field(network, [event("Q2", "found", "open")], field)
    _, steps, judged = draft_restoration(
        study, field, network.by_tag["P"], "A", start, Crews(given_back=frozenset("A"))
    )
    assert judged.safe and not [s for s in steps if s.kind == "operate"]
    assert any(s.kind == "check" and s.identity == "Q2" for s in steps)


def test_a_called_off_program_always_has_a_way_back(network, study, start):
    """After every step of an isolation: abandoned there, the restoration drafted from what stands is safe."""
    made, _ = isolated(study, start, "P", "A")
    for k in range(1, len(made.steps) + 1):
        field = made.judged.fields[k]
        _, _, judged = draft_restoration(study, field, network.by_tag["P"], "A", start)
        assert judged.safe, k
        ends = judged.fields[-1]
        for i, device in start.devices.items():
            now = ends.devices[i]
            assert (now.position, now.locks, now.blocks) == (device.position, device.locks, device.blocks), (k, i)


# Sources --------------------------------------------------------------------------------------------------------


def two_sources(tie):
    made = Small(escape_clear=True)
    for node in ("u1", "u2", "a", "b"):
        made.node(node)
    for tag, node in (("U1", "u1"), ("U2", "u2")):
        made.add("source", tag, node, fault_mva_max=2, x_r_max=4, fault_mva_min=1.5, x_r_min=4)
    for tag, one, other in (("M1", "u1", "a"), ("M2", "u2", "b"), ("T", "a", "b"), ("T2", "a", "b")):
        made.breaker(tag, one, other, **trip(100, instantaneous_a=800))
        made.elements[-1] |= ABLE
    net = accept(made.document())
    at = {"M1": "closed", "M2": "closed", "T": "open", "T2": "open"} | tie
    return net, fold_field(net, [event(t, "found", p, walked=True) for t, p in at.items() if p])


@pytest.mark.parametrize("tie", ["open", None, "reported closed"])
def test_an_unknown_tie_excuses_no_closing_that_joins_two_sources(tie):
    net, field = two_sources({"T": None if tie != "open" else "open"})
    if tie == "reported closed":
        field = fold_field(net, [event("T", "found", "closed")], field)
    study = Study(net, NORTH_AMERICAN, None, 1000.0)
    made = wording.operate(draft_order(study), net.by_tag["T2"], "closed")
    step = stamped(field, field, made, "A")
    broken = [judge_step(draft_order(study), field, [wording.notify(draft_order(study))], step)]
    assert en(broken[0].rule) == "two sources are joined only where declared"
    # where both are joined already for certain, a second way joins nothing new
    _, certain = two_sources({"T": "closed"})
    ok = judge_step(
        draft_order(study), certain, [wording.notify(draft_order(study))], stamped(certain, certain, made, "A")
    )
    assert ok is None or "joined only" not in en(ok.rule)


def draft_order(study):

    target = target_of(study.network, study.network.by_tag["U1"])
    return Order(purpose=ISOLATION, hold="A", target=target, study=study, origin=Field())


# Steps say what the network says ----------------------------------------------------------------------------------


@pytest.mark.parametrize(
    "change",
    [{"identity": "Q3"}, {"location": "another building"}, {"voltage": "24 V"}, {"equipment_type": "Load"},
     {"action": "CLOSE it"}, {"stand": "inside it"}, {"element_id": "id-Q3"}],
)  # fmt: skip
def test_a_step_that_contradicts_its_element_is_refused(network, study, start, change):
    made, _ = isolated(study, start, "Q2", "A")
    at = next(i for i, s in enumerate(made.steps) if s.kind == "operate")
    steps = [replace(s, **change) if i == at else s for i, s in enumerate(made.steps)]
    broken = judge(made.order, start, steps).steps[at]
    assert en(broken.rule) == "a step says what the network says of its equipment"


def test_a_test_point_that_the_element_does_not_have_is_refused(network, study, start):
    made, _ = isolated(study, start, "Q2", "A")
    at = next(i for i, s in enumerate(made.steps) if s.value == "proof")
    wrong = [replace(s, node_id="b") if i == at else s for i, s in enumerate(made.steps)]
    assert "no terminals at b" in en(judge(made.order, start, wrong).steps[at].why)


def test_checking_and_telling_once_more_are_never_refused(network, study, start):
    made, _ = isolated(study, start, "P", "A")
    for again in (s for s in made.steps if s.kind in ("check", "notify")):
        for place in range(1, len(made.steps)):
            if again.kind == "check" and place <= made.steps.index(again):
                continue
            now = made.judged.fields[place]
            step = stamped(now, now, again, "A")
            assert judge_step(made.order, now, made.steps[:place], step) is None, (again.action, place)


def test_a_draft_is_refused_where_another_crew_stands_between_it_and_every_point(network, study, start):
    crews = Crews((Crew("A", frozenset(n.id for n in network.nodes), ("Nils",)),))
    with pytest.raises(Refusal, match="keeps one end of it dead for its people"):
        draft_isolation(study, start, network.by_tag["P"], "B", crews=crews)


def test_dead_is_not_proved_and_unknown_is_not_dead(network, start):
    assert shown(network, fold_field(network, [*cut("Q1", "H"), *still("H")], start))["a"] == DEAD
    assert shown(network, fold_field(network, [event("Q1", "found", "open"), *still("H")], start))["a"] == UNKNOWN


# What opened by itself ----------------------------------------------------------------------------------------------


def test_nothing_closes_what_tripped_before_inspection_and_cause_are_recorded(network, study, start):
    """Not the program that is under way, nor a look at its position; only the inspection, and then the check."""
    made, _ = isolated(study, start, "Q2", "A")
    order = draft_restoration(study, made.judged.fields[-1], network.by_tag["Q2"], "A", start)[0]
    told = [wording.notify(order), wording.inspect(order)]
    field = fold_field(network, [event("Q1", "opened", hold="A"), event("Q1", "checked")], start)
    closing = wording.operate(order, network.by_tag["Q1"], "closed")
    assert judge_step(order, field, told, stamped(field, field, closing, "A")) is None
    tripped = fold_field(network, [event("Q1", "found", "tripped")], field)
    looked = fold_field(network, [event("Q1", "found", "open", walked=True)], tripped)
    for now in (tripped, fold_field(network, [event("Q1", "checked")], tripped), looked):
        broken = [b for b in (judge_step(order, now, told, stamped(now, now, closing, "A")),) if b]
        assert broken and now.devices["id-Q1"].tripped
    rules = {en(b.rule) for b in _all_broken(order, looked, told, stamped(looked, looked, closing, "A"))}
    assert "what tripped stays open until its cause is known" in rules
    known = fold_field(network, [event("Q1", "checked", "inspected")], looked)
    assert not known.devices["id-Q1"].tripped
    unknown = fold_field(network, [event("Q1", "checked", "inspected")], tripped)
    assert not unknown.devices["id-Q1"].known and shown(network, tripped)["a"] in (UNKNOWN, "live")


def _all_broken(order, now, done, step):
    from spinel.core.switching.rules import _broken

    return list(_broken(order, now, done, step))


def test_proved_at_its_own_ends_is_not_enough_where_something_else_in_its_enclosure_is_live(demo_network):
    """52-B is above the ceiling; both its terminals are proved, a feeder beside it is not, then all is."""
    study = Study(demo_network, NORTH_AMERICAN, None, 40.0)
    e = demo_network.by_tag["52-B"]
    order = Order(purpose=ISOLATION, hold="A", target=target_of(demo_network, e), study=study, origin=Field())
    step = wording.lock(order, e, "open")

    def stands(nodes):
        proofs = tuple(Proof(point=n, nodes=frozenset((n,)), around=frozenset((n,)), pairs=(), hold="A") for n in nodes)
        return [en(b.rule) for b in standing(order, Field(proofs=proofs), step, e)]

    assert stands([]) == stands(e.ends) == ["no step above the ceiling or without a figure"]
    assert stands(order.target.all_nodes) == []


def test_an_instrument_or_a_stop_of_an_earlier_program_of_the_hold_is_none_of_this_one(network, study, start):
    """Called off after both: its successor proves the instrument and sees the machine stand still itself."""
    made, _ = isolated(study, start, "P", "A")
    at = next(i for i, s in enumerate(made.steps) if s.value == "instrument_before") + 1
    left = made.judged.fields[at]
    assert any(hold == "A" for hold, _ in left.testing)
    again = draft_isolation(study, left, network.by_tag["P"], "A", start)
    assert any(s.value == "instrument_before" for s in again.steps) and again.judged.safe
    without = restated(again.order, left, [s for s in again.steps if s.value != "instrument_before"])
    assert en(judge(again.order, left, without).first.rule) == "the instrument is proved before and after"
    for k in range(2, at):
        # wherever it was called off, a shaft that is not blocked yet is seen to stand still first
        field = made.judged.fields[k]
        steps = draft_isolation(study, field, network.by_tag["P"], "A", start).steps
        kinds = [s.acts[:1] for s in steps]
        assert kinds.count(("stopped",)) == kinds.count(("blocked",))
