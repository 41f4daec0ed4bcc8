"""Texts that people type: declared once, for form, action, document and table."""

import re
from pathlib import Path

import pytest

from spinel.core import texts
from spinel.core.errors import InputError
from spinel.core.network.schema import schema

SOURCE = Path(texts.__file__).parents[1]


@pytest.mark.parametrize("text", texts.ALL.values(), ids=texts.ALL)
def test_a_text_is_kept_whole_or_refused(text):
    for length in {text.least, text.most}:
        assert text.check("ä" * length) == "ä" * length
        assert text.check(f"  {'ä' * length} \n") == "ä" * length
    for length in {text.least - 1, text.most + 1} - {-1}:
        with pytest.raises(InputError) as refused:
            text.check("ä" * length, "its own field")
        assert refused.value.field == "its own field"


@pytest.mark.parametrize("sign", ["\x00", "\x1b", "\x7f", "\u202e", "\u2066", "\ud800", "\ue000"])
def test_nothing_unseen_is_kept_and_nothing_that_turns_the_order_of_writing(sign):
    """Unicode, Standard Annex 9: these characters show 12 as 21."""
    with pytest.raises(InputError, match="seen"):
        texts.REASON.check(f"reads 1{sign}2 V")


def test_lines_stay_where_a_text_has_several_and_become_blanks_where_it_has_one():
    assert texts.REASON.check("one\r\n\ttwo\u00a0V") == "one\n\ttwo\u00a0V"
    assert texts.TITLE.check("one\r\n\ttwo ") == "one two"


def test_no_form_has_a_length_of_its_own():
    own = {p.name: found for p in (SOURCE / "web" / "templates").rglob("*.html")
           if (found := re.findall(r'(?:max|min)length="\d+"|\bmost=[1-9]\d+', p.read_text()))}  # fmt: skip
    assert own == {}


def test_the_tables_and_the_document_allow_what_the_texts_do():
    kept = (SOURCE / "store" / "migrations" / "0001_first.py").read_text()
    found = re.findall(r"length\((\w+)\) BETWEEN (\d+) AND (\d+)", kept)
    between = {name: (int(low), int(high)) for name, low, high in found}
    assert between == {t.name: (t.least, t.most) for t in (texts.LOGIN, texts.NAME, texts.TITLE)}
    assert f"length(statement) <= {texts.STATEMENT.most})" in kept
    element = schema()["properties"]["elements"]["items"]["properties"]
    assert element["name"]["maxLength"] == element["location"]["maxLength"] == texts.PLATE.most
    for tag in ("T" * texts.TAG.most, "T" * (texts.TAG.most + 1)):
        assert bool(re.search(element["tag"]["pattern"], tag)) == (len(tag) <= texts.TAG.most)
