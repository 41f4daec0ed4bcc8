"""Whether a crew can be put together is what trying out every assignment finds, with as few people as it finds."""

import random
from itertools import product

import pytest

from spinel.core.crew import POSITION, Able, crew, for_permit, for_program, gaps
from spinel.core.people import ROLES
from spinel.core.permit import life as permit_life
from spinel.core.permit.positions import Position
from spinel.core.switching import life as program_life

CREWS = {
    "permit": for_permit("retorque"),
    "two": for_permit("retorque", 2),
    "positions": for_permit("retorque", 1, [Position("Area owner", (0, 1)), Position("writes", (1,))]),
    "program": for_program(third=False),
    "third": for_program(third=True),
}


def tried_out(duties, people):
    """The fewest people over every assignment there is, or None: no pruning, no order."""
    best = None
    for chosen in product(people, repeat=len(duties)):
        named = dict(zip((d.name for d in duties), chosen, strict=True))
        if all(p.fills(d) for d, p in zip(duties, chosen, strict=True)) and not any(
            named[other].id == named[d.name].id for d in duties for other in d.apart
        ):
            best = min(best or 99, len({p.id for p in chosen}))
    return best


def somebody(rng, number):
    roles = rng.sample(ROLES, rng.choice((1, 1, 2, 3)))
    return Able(number, frozenset(roles), frozenset(rng.sample(("operate", "retorque"), rng.choice((0, 1, 2)))))


@pytest.mark.parametrize("seed", range(40))
def test_a_crew_is_found_where_there_is_one_and_never_a_larger_than_need_be(seed):
    rng = random.Random(seed)
    people = [somebody(rng, i) for i in range(rng.choice((2, 3, 4)))]
    # the program of seven duties would be tried out 16,384 times over four people
    duties = CREWS[
        rng.choice(("permit", "program", "third", rng.choice(("two", "positions")) if len(people) < 4 else "permit"))
    ]
    found, expected = crew(duties, people), tried_out(duties, people)
    assert (found is None) == (expected is None), seed
    if found is not None:
        assert len(set(found.values())) == expected, seed
        assert gaps(duties, people) == ()
    else:
        lacking = gaps(duties, people)
        assert lacking and crew([d for d in duties if d.name not in lacking], people) is not None, seed


def test_it_separates_what_the_lives_of_permits_and_programs_separate():
    """Each pair that an act would be refused for is apart here, both ways."""
    owner = POSITION + "Area owner"
    parts = {"requester": "writes", "approver": "approves", "issuer": "issues", "worker": "works", "signatory": owner}
    acts = {"approve": "approves", "sign": owner, "issue": "issues", "accept": "leads", "vouch": "vouches"}
    apart = {d.name: d.apart for d in CREWS["positions"]}
    for act, mine in acts.items():
        for part in permit_life.DUTIES_APART[act]:
            if parts[part] == mine:
                # nobody approves twice: of one duty there is nothing to part
                continue
            assert parts[part] in apart[mine] and mine in apart[parts[part]]
    program = {d.name: d.apart for d in CREWS["program"]}
    assert program_life.DUTIES_APART["check"] == ("writer",) and "writes" in program["checks"]
    assert "operates" in program["directs"] and "releases" in program["operates"]


def test_positions_are_apart_from_each_other_and_whoever_does_not_hold_one_does_not_sign():
    """A title that is called like a duty is none."""
    duties = {d.name: d for d in CREWS["positions"]}
    owner, other = POSITION + "Area owner", POSITION + "writes"
    assert other in duties[owner].apart and owner in duties[other].apart and "approves" in duties[owner].apart
    assert "writes" in duties[other].apart and "issues" not in duties[owner].apart
    everything = Able(7, frozenset(ROLES), frozenset({"retorque"}))
    assert not everything.fills(duties[owner]) and everything.fills(duties["writes"])


def test_two_who_approve_are_two_people_and_neither_issues_writes_or_works():
    apart = {d.name: d.apart for d in for_permit("retorque", 3)}
    for name in ("approves", "approves_2", "approves_3"):
        assert apart[name] >= {"writes", "works", "issues", "approves", "approves_2", "approves_3"} - {name}
        assert all(name in apart[other] for other in apart[name])


def test_two_people_are_too_few_for_a_permit_and_the_gap_is_named():
    """The one authoriser works himself: nobody approves."""
    people = [
        Able(1, frozenset(("coordinator", "person_in_charge")), frozenset()),
        Able(2, frozenset(("authoriser", "worker")), frozenset(("retorque",))),
    ]  # fmt: skip
    assert crew(CREWS["permit"], people) is None
    assert set(gaps(CREWS["permit"], people)) & {"approves", "works", "vouches"}


def test_fifty_people_of_all_kinds_are_no_more_work_than_five():
    rng = random.Random(4)
    people = [somebody(rng, i) for i in range(50)]
    assert len(set((crew(CREWS["third"], people) or {}).values())) >= 3
