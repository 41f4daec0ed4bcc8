"""The result of a study as it is kept, and which of its rows somebody sees: against the study's own rows."""

import json

import pytest

from spinel.core.canonical import digest
from spinel.core.errors import InputError
from spinel.core.hazard import Study
from spinel.core.network.check import accept
from spinel.core.profile import NORTH_AMERICAN
from spinel.core.study import NOT_FED, SiteStudy
from spinel.core.study_findings import findings
from spinel.core.study_result import energy_of, name_of, read_result, study_content, unfed
from spinel.core.study_view import SHOWN, counts, levels_of, lines, moves, wanted_rows
from spinel.demo.site import document


def studied(change=lambda by_tag: None):
    doc = document()
    change({e["tag"]: e for e in doc["elements"]})
    return SiteStudy(Study(accept(doc), NORTH_AMERICAN, None, 40.0))


@pytest.fixture(scope="module")
def demo():
    study = studied()
    return study, read_result(study_content(study, "d" * 64, 40.0))


@pytest.fixture(scope="module")
def faster(demo):
    return read_result(study_content(studied(lambda t: t["52-T2"]["curve"].update(dial=0.8)), "e" * 64, 40.0))


def test_it_holds_the_studys_own_rows_and_findings_and_its_hash_is_of_its_content(demo):
    study, result = demo
    rows = {(p.element.id, p.reach.code): r for p, r in study.worst_of_each()}
    assert len(result.rows) == len(rows)
    for kept in result.rows:
        row = rows[kept["element_id"], kept["touches"]]
        for name in ("incident_energy_cal_cm2", "arc_flash_boundary_mm", "device", "warning", "side", "ppe", "case"):
            assert kept[name] == row[name]
    own = [f for f in result.found if f["kind"] != "order"]
    assert [(f["kind"], f["tag"]) for f in own] == [(f.kind, f.tag) for f in findings(study)]
    assert len({name_of(f) for f in result.found}) == len(result.found)
    text = study_content(study, "d" * 64, 40.0)
    assert digest(text) == result.hash and json.loads(text)["document"] == "d" * 64


def test_the_worst_stands_first_what_nobody_knows_before_it_and_what_nothing_feeds_last(demo):
    _, result = demo
    kinds = [0 if energy_of(r) is None and not unfed(r) else 2 if unfed(r) else 1 for r in result.rows]
    assert kinds == sorted(kinds) and set(kinds) >= {0, 1}
    energies = [energy_of(r) for r in result.rows if energy_of(r) is not None]
    assert energies == sorted(energies, reverse=True)
    assert all(r["warning"] == NOT_FED for r in result.rows if unfed(r))


def test_each_choice_shows_exactly_what_it_says(demo, faster):
    study, result = demo
    every = {(p.element.id, p.reach.code): r for p, r in study.worst_of_each()}

    def shown(choice, text="", before=None):
        return {(r["element_id"], r["touches"]) for r in wanted_rows(result, before, choice, text, 40.0)}

    def where(test):
        return {k for k, r in every.items() if test(r)}

    assert shown("all") == set(every)
    assert shown("ceiling") == where(lambda r: r["method"] and r["incident_energy_cal_cm2"] > 40)
    assert shown("8") == where(lambda r: r["method"] and r["incident_energy_cal_cm2"] > 8)
    assert shown("below") == where(lambda r: r["method"] and r["incident_energy_cal_cm2"] <= 1.2)
    assert shown("none") == where(lambda r: not r["method"] and r["warning"] != NOT_FED)
    assert shown("unfed") == where(lambda r: not r["method"] and r["warning"] == NOT_FED)
    # risen since the faster dial: 52-B and T2, and nothing fell
    assert {k[0] for k in shown("up", before=faster)} and shown("down", before=faster) == set()
    assert shown("up") == set() and len(shown("all", "52-t2")) < len(every)
    assert moves(result, faster)[0] == len(shown("up", before=faster)) and moves(result, faster)[1] == 0
    with pytest.raises(InputError):
        wanted_rows(result, None, "best", "", 40.0)
    assert len(SHOWN) == 10


def test_places_alike_are_one_line_and_no_place_is_lost(demo, faster):
    _, result = demo
    found = lines(result.rows, faster)
    assert sum(len(x.rows) for x in found) == len(result.rows) and len(found) < len(result.rows)
    for line in found:
        energies = {energy_of(r) for r in line.rows}
        if None in energies:
            assert energies == {None}
        else:
            assert max(energies) - min(energies) <= 1e-3 * max(energies)
    raised = next(x for x in found if x.row["tag"] == "T2" and x.energy and x.energy > 40)
    assert raised.moved == pytest.approx(raised.energy - raised.was_energy) and raised.moved > 20


def test_counts_are_those_of_the_rows(demo, faster):
    _, result = demo
    levels = levels_of(40.0, [1.2, 12.0, None])
    assert levels == [1.2, 8.0, 12.0, 40.0]
    for c in counts(result, faster, levels):
        assert c.now == sum((energy_of(r) or 0) > c.level for r in result.rows)
        assert c.before == sum((energy_of(r) or 0) > c.level for r in faster.rows)
    assert result.without_figure == 8
