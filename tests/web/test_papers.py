"""Papers of a job, and the place on a permit: what is on them, and what is not yet."""

import pytest


@pytest.fixture
def maren(sign_in):
    return sign_in("maren")


def test_the_paper_of_a_job_holds_plan_and_place_and_allows_nothing(maren):
    page = maren.get("/jobs/J-0017/paper").text
    assert "The oil drain of T1 has no lock" in page and "Wanda Keogh" in page and "This paper allows nothing" in page
    assert "<svg" in page and "One-line round the place" in page and "Re-energizing" in page
    assert "<style" not in page, "the policy of the site runs no style of a page"


def test_an_assessment_that_waits_stays_sealed_on_paper_too(maren):
    page = maren.get("/jobs/J-0016/paper").text
    assert "RA-0001" in page and "Water drips" not in page and "sealed" in page


def test_the_place_of_a_permit_is_drawn_alone(maren):
    answer = maren.get("/permits/EWP-0004/place")
    assert answer.status_code == 200 and "<html" not in answer.text and "MC1-4A" in answer.text
    assert maren.get("/permits/EWP-9999/place").status_code == 404


def test_a_job_of_gone_equipment_still_has_a_paper(maren, monkeypatch):
    from spinel.actions import jobs

    known = jobs.view_of

    def gone(here, job):
        from dataclasses import replace

        return replace(known(here, job), element=None, hazard=None, decision=None)

    monkeypatch.setattr(jobs, "view_of", gone)
    assert maren.get("/jobs/J-0017/paper").status_code == 200
