"""A network document is accepted whole or not at all, and every problem names element, field, value, what is allowed."""

import copy
import itertools
import json

import jsonschema
import pytest

from small_site import radial
from spinel.core.canonical import canonical, content_hash
from spinel.core.errors import DocumentError
from spinel.core.network.check import _flawless, accept, parse
from spinel.core.network.schema import schema
from spinel.demo.site import document


def changed(path: str, value):
    """The demo document with one value replaced; path as ``elements.TAG.field`` or ``site.field``."""
    doc = copy.deepcopy(document())
    group, *rest = path.split("/")
    if group == "elements" and rest:
        target = next(e for e in doc["elements"] if e["tag"] == rest[0])
        keys = rest[1:]
    elif group in ("nodes", "enclosures", "cases") and rest:
        target = next(r for r in doc[group] if r["id"] == rest[0])
        keys = rest[1:]
    else:
        target, keys = doc, [group, *rest]
    for key in keys[:-1]:
        target = target[key]
    if value is KeyError:
        del target[keys[-1]]
    else:
        target[keys[-1]] = value
    return doc


@pytest.mark.parametrize(
    ("path", "value", "element", "field"),
    [
        ("elements/F-A1/ends", ["n-a", "n-nowhere"], "F-A1", "ends"),
        ("elements/F-A1/tag", "F-A2", "F-A2", "tag"),
        ("elements/F-A1/tag", "f-a2", "f-a2", "tag"),
        ("elements/F-A1/ends", ["n-a"], "F-A1", "ends"),
        ("elements/W-A1/resistance_ohm", -0.1, "W-A1", "resistance_ohm"),
        ("elements/T1/ends", ["n-t1p", "n-t1p"], "T1", "ends"),
        ("elements/T1/impedance_pct", 0, "T1", "impedance_pct"),
        ("elements/T1/rated_kva", KeyError, "T1", "rated_kva"),
        ("elements/T1/rated_kva", "1500", "T1", "rated_kva"),
        ("elements/52-A/isolation", True, "52-A", "isolation"),
        ("elements/52-A/normal_position", "ajar", "52-A", "normal_position"),
        ("elements/52-A/normal_position", "emergency", "52-A", "normal_position"),
        ("elements/ATS-1/isolating", True, "ATS-1", "isolating"),
        ("elements/52-A/curve/short_pickup_a", 100, "52-A", "curve.short_pickup_a"),
        ("elements/52-A/curve/type", "magic", "52-A", "curve.type"),
        ("elements/EDP-5/curve/points", [[60, 1], [50, 0.5]], "EDP-5", "curve.points (current)"),
        ("elements/EDP-5/curve/points", [[60, 1], [90, 2]], "EDP-5", "curve.points (time)"),
        ("elements/U-1/kind", "dynamo", "U-1", "kind"),
        ("nodes/n-mc1/nominal_voltage_v", 0, "n-mc1", "nominal_voltage_v"),
        ("nodes/n-mc1/nominal_voltage_v", 0.48, "n-mc1", "nominal_voltage_v"),
        ("nodes/n-mc1/nominal_voltage_v", 48, "W-A1", "ends"),
        ("nodes/n-mc1/enclosure", "e-none", "n-mc1", "enclosure"),
        ("enclosures/e-mc1/gap_mm", -25, "e-mc1", "gap_mm"),
        ("enclosures/e-mc1/electrode_configuration", "VBC", "e-mc1", "electrode_configuration"),
        ("cases/tie-t1/positions", {"52-Z": "open"}, "tie-t1", "positions.52-Z"),
        ("cases/tie-t1/positions", {"52-B": "normal"}, "tie-t1", "positions.52-B"),
        ("cases/normal/settings", {"52-A": "maintenance"}, "normal", "settings.52-A"),
        ("site/time_zone", "Mars/Olympus", "site", "time_zone"),
        ("version", 3, "document", "version"),
        (
            "elements/F-A1/curve",
            {
                "type": "trip",
                "long_pickup_a": 600,
                "long_delay_s": 8,
                "instantaneous_a": 6000,
                "instantaneous_clearing_s": 0.001,
            },
            "F-A1",
            "curve.clearing time",
        ),
        ("elements/EDP-5/curve/points", [[60, 1], [900, 0.0001]], "EDP-5", "curve.clearing time"),
        ("elements/G-1/xd_transient_pu", 0.1, "G-1", "xd_transient_pu"),
        ("elements/G-1/excitation_support_s", KeyError, "G-1", "excitation_support_s"),
        ("elements/G-1/normal_state", "bypass", "G-1", "normal_state"),
        ("enclosures/e-swb-b/barriers", [["bus", "roof"]], "e-swb-b", "barriers"),
        (
            "enclosures/e-swb-b/compartments",
            [{"id": "bus", "name": "Bus", "nodes": ["n-b"]}],
            "e-swb-b",
            "compartments.nodes",
        ),
        ("cases/gen/sources", {"U-1": {"reactance": "transient"}}, "gen", "sources.U-1"),
        ("version", True, "document", "version"),
        ("format", "other", "document", "format"),
    ],
)
def test_a_wrong_value_is_named_with_its_element_and_what_is_allowed(path, value, element, field):
    with pytest.raises(DocumentError) as refused:
        accept(changed(path, value))
    found = [(p.element, p.field) for p in refused.value.problems]
    assert (element, field) in found
    assert all(p.value and p.allowed for p in refused.value.problems)


def test_zero_impedance_dangling_end_and_a_transformer_on_one_zone():
    doc = changed("elements/W-A1/resistance_ohm", 0)
    next(e for e in doc["elements"] if e["tag"] == "W-A1")["reactance_ohm"] = 0
    doc["elements"].append({"id": "x", "tag": "X-1", "kind": "cable", "ends": ["n-a", "n-loose"], "resistance_ohm": 1,
                            "reactance_ohm": 1})  # fmt: skip
    doc["nodes"].append({"id": "n-loose", "nominal_voltage_v": 480, "current": "ac"})
    doc["elements"].append({"id": "y", "tag": "T9", "kind": "transformer", "ends": ["n-a", "n-b"], "rated_kva": 10,
                            "impedance_pct": 5, "x_r": 2})  # fmt: skip
    with pytest.raises(DocumentError) as refused:
        accept(doc)
    text = str(refused.value)
    assert "W-A1" in text and "zero impedance" in text
    assert "X-1: ends is n-loose: dangling" in text
    assert "T9" in text and "fed from itself" in text


@pytest.mark.parametrize("text", ["", "{", "[]", '{"a": NaN}', '{"a": 1, "a": 2}', '"x"', "[" * 100_000])
def test_text_that_is_no_document_is_refused(text):
    with pytest.raises(DocumentError):
        accept(parse(text))


def test_the_published_schema_is_one_and_accepts_the_demo():
    jsonschema.Draft202012Validator.check_schema(schema())
    jsonschema.validate(document(), schema())


#: What a field may be given by mistake: wrong kinds, edges, numbers that are none, names with a line break.
ODD = (
    None,
    True,
    0,
    -1,
    1,
    1.0,
    0.5,
    1e400,
    float("nan"),
    10**30,
    "",
    "x",
    "open",
    "60\n",
    [],
    {},
    ["n", "n"],
    [[1, 2]],
)


def test_the_quick_look_at_a_documents_shape_never_passes_what_the_one_that_names_problems_refuses():
    """Two validators of the same published schema (general-purpose libraries) on one field replaced at a time."""
    site = radial()
    whole, reference = site.document(), jsonschema.Draft202012Validator(schema())
    passed = refused = 0
    for group in ("nodes", "enclosures", "elements", "cases"):
        for record in whole[group]:
            for field, odd in itertools.product([*record, "unheard_of"], ODD):
                was = record.get(field, KeyError)
                record[field] = odd
                quick = _flawless(whole)
                assert not quick or reference.is_valid(whole), (record, field, odd)
                passed, refused = passed + quick, refused + (not quick)
                if was is KeyError:
                    del record[field]
                else:
                    record[field] = was
    assert _flawless(whole) and passed > 20 and refused > 500


@pytest.mark.parametrize("value", [float("nan"), float("inf")])
def test_a_number_that_is_none_is_refused_however_it_came(value):
    with pytest.raises(DocumentError):
        accept(changed("nodes/n-mc1/nominal_voltage_v", value))


def test_a_name_that_ends_in_a_line_break_is_refused():
    with pytest.raises(DocumentError):
        accept(changed("cases/normal/id", "normal\n"))


def test_the_hash_does_not_depend_on_the_order_of_keys():
    doc = document()
    turned = json.loads(json.dumps(doc, sort_keys=True))
    assert content_hash(doc) == content_hash(turned)
    assert canonical({"b": 1, "a": [1.0, "é"]}) == '{"a":[1.0,"é"],"b":1}'
