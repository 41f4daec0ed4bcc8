"""As many authorisers approve as the site wants, each another person, all on the same content."""

import pytest

from demo_acts import PASSWORD, act, actor, permits_of, the_site
from spinel.actions import board, crew_check, people, permit_approval, permits, register, site_settings, waiting
from spinel.actions.equipment import equipment_classes
from spinel.core.errors import NotAllowed, Refusal, Stale


@pytest.fixture(autouse=True)
def _two(open_db):
    site_settings.change(act("tavi"), "approvals", "two", "The insurer asks for it")


def approve(login, number="EWP-0005"):
    seen = permits_of(number)
    permit_approval.approve(act(login), number, seen.version, seen.content_hash, PASSWORD)


def waits(login):
    found = waiting.for_person(
        the_site(), actor(login), board.board(the_site(), act("maren").now), act("maren").now.date()
    )
    return {(w.number, w.what) for w in found}


def test_one_is_not_enough_and_two_are():
    approve("ruth")
    seen = permits_of("EWP-0005")
    assert seen.state == "submitted" and permit_approval.approvals_lacking(the_site(), seen) == 1
    with pytest.raises(Refusal):
        permit_approval.issue(
            act("tavi"), "EWP-0005", seen.version, seen.content_hash, PASSWORD, seen.window_start, seen.window_end
        )
    approve("piet")
    assert permits_of("EWP-0005").state == "approved"


def test_nobody_approves_twice_and_it_waits_for_the_other():
    assert ("EWP-0005", "approve") in waits("ruth")
    approve("ruth")
    with pytest.raises(NotAllowed):
        approve("ruth")
    assert permits_of("EWP-0005").state == "submitted"
    assert ("EWP-0005", "approve") not in waits("ruth") and ("EWP-0005", "approve") in waits("piet")


def test_an_edit_between_them_makes_the_first_void():
    approve("ruth")
    seen = permits_of("EWP-0005")
    plan = permits.plan_of(seen)
    permits.edit(
        act("maren"), "EWP-0005", seen.version, type(plan)(**{**vars(plan), "special": "Mats down, and a second lamp"})
    )
    permit_approval.submit(act("maren"), "EWP-0005", permits_of("EWP-0005").version)
    assert permit_approval.approvals_lacking(the_site(), permits_of("EWP-0005")) == 2
    approve("piet")
    assert permits_of("EWP-0005").state == "submitted"


def test_what_was_approved_by_one_is_not_issued_once_two_are_wanted():
    site_settings.change(act("tavi", minutes=1), "approvals", "one", "As before")
    approve("ruth")
    assert permits_of("EWP-0005").state == "approved"
    site_settings.change(act("tavi", minutes=2), "approvals", "three", "Three from now on")
    seen = permits_of("EWP-0005")
    with pytest.raises(Refusal, match="2 more approvals"):
        permit_approval.issue(
            act("tavi"), "EWP-0005", seen.version, seen.content_hash, PASSWORD, seen.window_start, seen.window_end
        )


def test_neither_of_them_issues_it():
    people.add_person(act("maren"), "both", "Both Hats", PASSWORD, ["authoriser", "coordinator"])
    approve("both")
    approve("ruth")
    seen = permits_of("EWP-0005")
    with pytest.raises(NotAllowed):
        permit_approval.issue(
            act("both"), "EWP-0005", seen.version, seen.content_hash, PASSWORD, seen.window_start, seen.window_end
        )


def test_two_at_the_same_moment_count_as_two_or_one_is_told():
    seen = permits_of("EWP-0005")
    permit_approval.approve(act("ruth"), "EWP-0005", seen.version, seen.content_hash, PASSWORD)
    with pytest.raises(Stale):
        permit_approval.approve(act("piet"), "EWP-0005", seen.version, seen.content_hash, PASSWORD)
    assert permits_of("EWP-0005").state == "submitted"


def test_a_crew_without_a_second_authoriser_is_named_before_the_job_begins():
    register.change_roles(act("maren"), "piet", ["reader"])
    element = the_site().as_it_is().network.by_tag["MC1"]
    permit, _ = crew_check.crews_for(
        the_site(), equipment_classes(the_site().as_it_is().network, element), "retorque", act("maren").now.date()
    )
    assert permit.gaps and set(permit.gaps) <= {"approves", "approves_2"}


def test_a_crew_is_of_people_qualified_at_the_end_that_is_worked_at():
    """Whoever may at the transformer's end of its cable may not therefore open the medium-voltage switchgear."""
    network, today = the_site().as_it_is().network, act("maren").now.date()
    cable = network.by_tag["W-T1"]
    near, far, either = (
        crew_check.crews_for(the_site(), equipment_classes(network, cable, touches), "retorque", today)[0]
        for touches in ("terminals:n-t1p", "terminals:n-t1c", "")
    )
    assert near.gaps == () and near.who["works"].login == "nils"
    assert far.gaps == ("works",) and either.gaps == ("works",)
