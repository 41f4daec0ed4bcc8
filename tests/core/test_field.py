"""Proofs, grounds and what ends them; auxiliary supplies; the states that are shown."""

from dataclasses import replace

import pytest
from plain_graph import Site

from saying import en
from spinel.core.hazard import Study
from spinel.core.isolation.absence import instrument_works, required_pairs, residual_falls
from spinel.core.isolation.points import NoCut, isolation, target_of
from spinel.core.network.check import accept
from spinel.core.network.circuit import at_present
from spinel.core.network.cut import still_fed
from spinel.core.network.field import fold_field
from spinel.core.network.kinds import SWITCHING
from spinel.core.network.liveness import liveness
from spinel.core.network.now import FieldEvent
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.switching.draft import draft_isolation
from spinel.core.switching.plant import Fault, Plant, read
from spinel.core.switching.steps import events
from spinel.demo.site import document


@pytest.fixture(scope="module")
def study(demo_network):
    return Study(demo_network, NORTH_AMERICAN, None, 40.0)


@pytest.fixture(scope="module")
def start(demo_network):
    found = {e.id: e.normal_position for e in demo_network.elements if e.kind in SWITCHING}
    return fold_field(
        demo_network,
        [
            FieldEvent(sequence=i, at="t", actor="a", kind="found", element_id=k, value=v, walked=True)
            for i, (k, v) in enumerate(found.items())
        ],
    )


def happened(network, start, steps):
    return fold_field(network, [e for s in steps for e in events(s, "H")], start)


def test_a_proof_exists_only_after_the_second_instrument_check(demo_network, study, start):
    steps = draft_isolation(study, start, demo_network.by_tag["T1"], "H").steps
    first, kept = (i for i, s in enumerate(steps) if s.value == "instrument_after")
    assert happened(demo_network, start, steps[:first]).proofs == ()
    # the contact instrument proves the low side; the detector was not proved again yet
    assert {p.point for p in happened(demo_network, start, steps[: first + 1]).proofs} == {"n-t1s"}
    assert {p.point for p in happened(demo_network, start, steps[: kept + 1]).proofs} == {"n-t1p", "n-t1s"}


def test_an_instrument_that_fails_its_second_check_leaves_no_proof(demo_network, study, start):
    steps = draft_isolation(study, start, demo_network.by_tag["T1"], "H").steps
    tested = happened(demo_network, start, [s for s in steps if s.kind != "ground" and s.value != "instrument_after"])
    assert tested.testing["H", "contact"] and tested.testing["H", "detector"]
    failed = FieldEvent(
        sequence=1, at="t", actor="a", kind="tested", element_id=demo_network.by_tag["T1"].id, value="failed", hold="H",
        instrument="contact",
    )  # fmt: skip
    void = fold_field(demo_network, [failed], tested)
    assert void.proofs == () and set(void.testing) == {("H", "detector")}
    # a second check that is good afterwards proves nothing of what was tested before
    good = FieldEvent(
        sequence=2,
        at="t",
        actor="a",
        kind="tested",
        element_id=demo_network.by_tag["T1"].id,
        value="instrument_after",
        hold="H",
        instrument="contact",
    )
    assert fold_field(demo_network, [good], void).proofs == ()


@pytest.mark.parametrize(
    ("kind", "tag", "value", "stands"),
    [
        ("unlocked", "52-A", "", False), ("opened", "52-A", "", False), ("found", "T1", "voltage present", False),
        ("found", "52-T1", "withdrawn", False), ("closed", "52-T1", "", False), ("unblocked", "T1", "", False),
        # nothing of these touches the island
        ("opened", "F-B1", "", True), ("found", "MC2-1D", "open", True), ("locked", "52-A", "", True),
        ("tagged", "52-T1", "", True), ("grounded", "T1", "", True),
    ],
)  # fmt: skip
def test_what_ends_a_proof(demo_network, study, start, kind, tag, value, stands):
    done = happened(demo_network, start, draft_isolation(study, start, demo_network.by_tag["T1"], "H").steps)
    element = demo_network.by_tag[tag]
    later = fold_field(
        demo_network,
        [
            FieldEvent(
                sequence=1, at="t", actor="a", kind=kind, element_id=element.id, value=value, hold="H", node_id="n-t1s"
            )
        ],
        done,
    )
    assert (later.proved("n-t1s", "H") is not None) == stands


def test_a_revision_that_touches_the_island_ends_the_proof(demo_network, study, start):
    steps = draft_isolation(study, start, demo_network.by_tag["T1"], "H").steps
    from spinel.core.network.field import island_digest
    from spinel.core.network.ways import island

    def told(network, digest):
        marked = []
        for e in (e for s in steps for e in events(s, "H")):
            marked.append(replace(e, digest=digest) if e.pairs else e)
        return fold_field(network, marked, start)

    before_test = happened(demo_network, start, [s for s in steps if s.kind != "test"])
    digest = island_digest(demo_network, island(demo_network, before_test.devices, "n-t1s"))
    assert told(demo_network, digest).proved("n-t1s", "H")
    changed = document()
    for e in changed["elements"]:
        if e["tag"] == "W-A":
            e |= {"length_m": 15}
    assert told(accept(changed), digest).proved("n-t1s", "H") is None


def test_states_shown_and_the_alarm(demo_network, study, start):
    done = happened(demo_network, start, draft_isolation(study, start, demo_network.by_tag["T1"], "H").steps)
    now = done.devices
    seen = liveness(demo_network, at_present(demo_network, now), now, done)
    assert (seen.nodes["n-t1p"], seen.nodes["n-t1s"]) == ("grounded", "proved") and seen.alarm == ()
    hung = fold_field(
        demo_network,
        [FieldEvent(sequence=1, at="t", actor="a", kind="grounded", element_id="x", value="", hold="H", node_id="n-b")],
        done,
    )
    assert "n-b" in liveness(demo_network, at_present(demo_network, now), now, hung).alarm


def test_the_control_supply_of_an_enclosure_is_isolated_like_any_other_or_refuses(demo_network, study, start):
    draft = draft_isolation(study, start, demo_network.by_tag["SWG-1"], "H")
    assert "EDP-9" in {p.tag for p in draft.isolation.points}
    tested = [s for s in draft.steps if s.node_id.startswith("aux:")]
    assert [s.pairs for s in tested] == [("L-N", "L-G", "N-G")] and en(tested[0].voltage) == "120 V"
    unknown = document()
    supply = next(b for b in unknown["enclosures"] if b["id"] == "e-swg")["auxiliary_supplies"][0]
    del supply["isolated_by"]
    network = accept(unknown)
    with pytest.raises(NoCut, match="closing and spring-charging supply") as refused:
        isolation(Study(network, NORTH_AMERICAN, None, 40.0), network.by_tag["SWG-1"])
    assert refused.value.source == supply["source"]
    assert "outside" in Site(unknown).fed(Site(unknown).target(network.by_tag["SWG-1"].id), set())


def test_a_motor_that_can_turn_feeds_until_its_shaft_is_blocked(demo_network, study, start):
    p21 = demo_network.by_tag["P-21"]
    steps = draft_isolation(study, start, p21, "H").steps
    block = next(i for i, s in enumerate(steps) if s.kind == "block")
    locked = happened(demo_network, start, steps[:block])
    fed = still_fed(demo_network, locked.devices, target_of(demo_network, p21).all_nodes, "H")
    assert [e.tag for e, _ in fed] == ["P-21"]
    assert (
        still_fed(
            demo_network,
            happened(demo_network, start, steps[: block + 1]).devices,
            target_of(demo_network, p21).all_nodes,
            "H",
        )
        == []
    )


@pytest.mark.parametrize(
    ("node", "pairs"),
    [
        # common practice, no source: three phase to phase, three to ground; a neutral to ground and to each phase
        ("n-mc1", 6), ("n-t1s", 10), ("n-swg", 3), ("n-24", 6), ("n-psu", 12),
    ],
)  # fmt: skip
def test_pairs_that_must_be_read(demo_network, node, pairs):
    assert len(required_pairs(demo_network, [node], NORTH_AMERICAN)) == pairs


@pytest.mark.parametrize(
    ("first", "second", "falls"),
    [
        (48, 21, True),
        (48, 48, False),
        (48, 47, False),
        (48, 52, False),
        (0.4, 0.4, True),
        (480, 455, False),
        (48, 24, True),
        (48, 25, False),
    ],
)
def test_residual_voltage(first, second, falls):
    assert residual_falls(first, second, NORTH_AMERICAN.instruments) is falls


@pytest.mark.parametrize(
    ("reading", "good"), [(120, True), (108, True), (107, False), (133, False), (float("nan"), False)]
)
def test_an_instrument_on_its_known_source(reading, good):
    assert instrument_works(reading, 120, NORTH_AMERICAN.instruments) is good


def test_the_simulated_detector_reads_the_truth_not_the_record(demo_network, study, start):
    """Phase voltages by hand: 480 V between phases, 480/√3 = 277.1 V to ground."""
    steps = draft_isolation(study, start, demo_network.by_tag["P-21"], "H").steps
    locked = happened(demo_network, start, [s for s in steps if s.kind not in ("test", "ground")])
    p21, pairs = "n-p21", next(s.pairs for s in steps if s.value == "proof")
    assert max(read(Plant(demo_network, locked), p21, pairs).values()) < 3
    live = read(Plant(demo_network, start), p21, pairs)
    assert live["L1-L2"] == 480 and live["L1-G"] == pytest.approx(277.1, abs=0.1)
    stuck = read(Plant(demo_network, locked, (Fault("stuck_blade", demo_network.by_tag["MC1-2B"].id),)), p21, pairs)
    assert stuck["L1-G"] == pytest.approx(277.1, abs=0.1) and stuck["L2-G"] < 3 and stuck["L2-L3"] < 3
    back = read(Plant(demo_network, locked, (Fault("back_feed", demo_network.by_tag["P-21"].id),)), p21, pairs)
    assert min(back.values()) > 200
