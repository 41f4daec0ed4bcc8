"""Every outcome of a decision is in the demo, each on its page with its rule and the usual caution."""

import re

import pytest

from demo_acts import element_id, the_site
from spinel.actions import jobs

CAUTION = re.compile(r"Local codes, the site's electrical safety program .* A qualified person must verify", re.S)
OUTCOMES = {
    "Switch the charger feeder off for the night": "Operate it: every condition of normal operation holds",
    "Switch sewage pump P-32 on": "Work dead.",
    "Find out why P-21 trips": "Live without a permit: testing",
    "Measure the gate control supply": "every voltage here is below 50 V",
    "Tighten a cell connector of the ferry battery": "no arc-flash figure",
    "Thermal pictures of T2's low-voltage bushings": "Nobody works on this live, and nobody tests it either",
    "Tighten column 3 between two sailings": "Refused: a stop of production",
    "Replace the surge arrester of the roof inverter": "Work dead.",
    "Look at the warm terminal of way 5": "No decision yet: One question is not answered",
    "Replace breaker 7 of the tidal gate pumps": "Live, by permit",
}


def text(answer):
    """What somebody reads: without its markup."""
    return re.sub(r"\s+", " ", re.sub(r"<[^>]+>", "", answer.text).replace("&#39;", "'").replace("&#34;", '"'))


@pytest.mark.parametrize(("title", "says"), OUTCOMES.items())
def test_the_demo_reaches_every_outcome(sign_in, title, says):
    number = next(j.number for j in jobs.lines(the_site()) if j.title == title)
    page = text(sign_in("maren").get(f"/jobs/{number}"))
    assert says in page and "Rule:" in page and CAUTION.search(page)


def test_above_the_ceiling_a_card_says_that_nobody_works_there(sign_in):
    page = text(sign_in("maren").get(f"/network?e={element_id('T2')}"))
    assert "above the site's ceiling of 40 cal/cm². Nobody works" in page
