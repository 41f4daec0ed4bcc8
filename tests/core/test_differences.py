"""What differs between two documents is what was changed in one of them, and figures move where the cards move."""

import os
import random
from copy import deepcopy

import pytest

from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.network.differences import GROUPS, differences
from spinel.core.network.sides import reaches
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.study import SiteStudy, located
from spinel.core.study_compare import moved
from spinel.demo.site import document


def changed(data, which, **fields):
    new = deepcopy(data)
    next(e for e in new["elements"] if e["tag"] == which).update(fields)
    return new


def test_a_document_differs_in_nothing_from_itself_in_another_order():
    other = document()
    for group in GROUPS:
        random.Random(3).shuffle(other[group])
    assert differences(document(), other) == ()


@pytest.mark.parametrize("seed", range(30))
def test_whatever_is_changed_added_or_taken_out_is_told_and_nothing_else(seed):
    """Against a list of what was done, kept by the one who did it."""
    rng, old = random.Random(seed), document()
    new, done = deepcopy(old), set()
    for _ in range(rng.randint(1, 6)):
        group = rng.choice(GROUPS)
        record = rng.choice(new[group])
        if any(key[1] == record["id"] for key in done):
            continue
        how = rng.choice(("changed", "removed", "added"))
        if how == "changed":
            field = rng.choice([k for k in record if k != "id"])
            record[field] = "another" if record[field] != "another" else "yet another"
        elif how == "removed":
            new[group].remove(record)
        else:
            record = {**deepcopy(record), "id": f"new-{seed}-{len(done)}", "name": "New"}
            new[group].append(record)
        done.add((group, record["id"], how))
    assert {(d.group, d.id, d.how) for d in differences(old, new)} == done
    back = {"added": "removed", "removed": "added", "changed": "changed"}
    assert {(d.group, d.id, back[d.how]) for d in differences(new, old)} == done


@pytest.mark.parametrize(
    ("was", "now", "told"), [(1, 1.0, 0), (1, True, 1), (False, None, 1), (0, None, 1), (0, False, 1)]
)
def test_a_number_is_no_answer_and_what_is_not_given_is_not_no(was, now, told):
    def of(value):
        return {"elements": [{"id": "a", "tag": "F-1", **({"x": value} if value is not None else {})}]}

    assert len(differences(of(was), of(now))) == told


def test_parts_of_a_curve_are_told_by_their_names_and_a_new_tag_with_the_old_one():
    old = document()
    curve = next(e for e in old["elements"] if e["tag"] == "F-A1")["curve"]
    (found,) = differences(old, changed(old, "F-A1", tag="F-A9", curve={**curve, "short_delay_s": 0.5}))
    assert (found.name, found.was_called) == ("F-A9", "F-A1")
    assert {f.field for f in found.fields} == {"tag", "curve.short_delay_s"}


def slower(data):
    new = deepcopy(data)
    element = next(e for e in new["elements"] if e["tag"] == "F-A1")
    element["curve"] = {**element["curve"], "short_delay_s": 0.5}
    return new


@pytest.mark.long
@pytest.mark.parametrize("what", ["F-A1", "T1"] if os.environ.get("SOAK") else ["F-A1"])
def test_figures_move_where_the_cards_of_the_two_documents_differ(what):
    """Each card asked by itself, on a study of its own."""
    new = slower(document()) if what == "F-A1" else changed(document(), "T1", impedance_pct=5.0)
    networks = accept(document()), accept(new)
    old, new = (Study(n, NORTH_AMERICAN, None, 40.0) for n in networks)
    found = {(m.element_id, m.touches): m for m in moved(SiteStudy(old), SiteStudy(new))}
    rises = 0
    for e in located(networks[0]):
        for reach in reaches(e):
            was, now = (s.hazard(e.id, reach.code).data for s in (old, new))
            m = found.get((e.id, reach.code))
            for key, told in (("energy_cal_cm2", "cal_cm2"), ("boundary_mm", "mm")):
                if m is None:
                    assert was[key] is now[key] or was[key] == pytest.approx(now[key], rel=2e-4), (e.tag, reach.code)
                elif None not in (was[key], now[key]):
                    assert (getattr(m, f"was_{told}"), getattr(m, f"now_{told}")) == pytest.approx((was[key], now[key]))
            if (now["energy_cal_cm2"] or 0) > (was["energy_cal_cm2"] or 0) * 1.001:
                assert m is not None and m.worse
                rises += 1
    assert rises > 3


def test_what_has_no_figure_any_more_is_worse_and_what_went_is_not():
    data = document()
    gone = deepcopy(data)
    gone["elements"] = [e for e in gone["elements"] if e["tag"] not in ("P-32", "W-P32", "MC2-2B")]
    joined = {n for e in gone["elements"] for n in e["ends"]}
    gone["nodes"] = [n for n in gone["nodes"] if n["id"] in joined]
    old, new = (SiteStudy(Study(accept(d), NORTH_AMERICAN, None, 40.0)) for d in (data, gone))
    found = {m.tag: m for m in moved(old, new)}
    assert found["P-32"].gone and not found["P-32"].worse
    back = {m.tag: m for m in moved(new, old)}
    assert back["P-32"].new and back["P-32"].worse
    assert all(m.new for m in moved(None, new))
