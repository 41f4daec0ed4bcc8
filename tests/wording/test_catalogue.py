"""Every code that the program says stands in the catalogue, with the values that its message uses, and no others."""

import ast
from collections import Counter
from functools import cache
from pathlib import Path

from fluent.syntax import FluentParser
from fluent.syntax import ast as fluent
from fluent.syntax.visitor import Visitor
from jinja2 import Environment, FileSystemLoader, nodes

import spinel
from spinel.wording.words import CATALOGUE

SOURCE = Path(spinel.__file__).parent
TEMPLATES = SOURCE / "web" / "templates"
#: Made in Python from what they join; not in the catalogue.
BUILT_IN = ("joined", "verbatim")
#: Said by filters that are given a code and by the practice's tables.
ELSEWHERE = ("no-figure", "none", "never")
#: Said by earlier releases, and kept in what was recorded then.
EARLIER = (
    "readings-reads-v-on-a-source-of-v",
    "scenes-generators-at-their-transient-reactance",
    "scenes-generators-at-what-they-sustain",
    "scenes-generators-when-excitation-support-has-ended",
    "scenes-generators-after-s",
)


class _Values(Visitor):
    def __init__(self):
        self.found = set()

    def visit_VariableReference(self, node):
        self.found.add(node.id.name)


@cache
def messages():
    """Values used by each message of the catalogue."""
    found = {}
    for file in sorted((CATALOGUE / "en").glob("*.ftl")):
        for entry in FluentParser().parse(file.read_text("utf-8")).body:
            assert not isinstance(entry, fluent.Junk), f"{file.name}: {entry.content[:200]}"
            if isinstance(entry, fluent.Message):
                assert entry.id.name not in found, entry.id.name
                values = _Values()
                values.visit(entry)
                found[entry.id.name] = values.found
    return found


@cache
def said_in_python():
    return tuple(_said_in_python())


def _said_in_python():
    for file in sorted(SOURCE.rglob("*.py")):
        for node in ast.walk(ast.parse(file.read_text("utf-8"))):
            if isinstance(node, ast.Call) and getattr(node.func, "id", "") in ("say", "phrase") and node.args:
                where, names = f"{file.relative_to(SOURCE)}:{node.lineno}", {k.arg for k in node.keywords}
                for code in _python_codes(node.args[0]):
                    yield code, names, where


def _python_codes(node):
    """Codes written out, and for a code made of pieces what it begins with, marked by a star."""
    if isinstance(node, ast.Constant):
        yield node.value
    elif isinstance(node, ast.IfExp):
        yield from (*_python_codes(node.body), *_python_codes(node.orelse))
    elif isinstance(node, ast.JoinedStr) and isinstance(node.values[0], ast.Constant):
        yield f"{node.values[0].value}*"


def said_in_templates():
    environment = Environment(loader=FileSystemLoader(TEMPLATES))
    for file in sorted(TEMPLATES.rglob("*.html")):
        for call in environment.parse(file.read_text("utf-8")).find_all(nodes.Call):
            if isinstance(call.node, nodes.Name) and call.node.name == "t":
                where, names = f"{file.relative_to(TEMPLATES)}:{call.lineno}", {k.key for k in call.kwargs}
                for code in _template_codes(call.args[0]):
                    yield code, names, where


def _template_codes(node):
    if isinstance(node, nodes.Const):
        yield node.value
    elif isinstance(node, nodes.CondExpr):
        yield from (*_template_codes(node.expr1), *_template_codes(node.expr2))
    elif isinstance(node, nodes.Concat) and isinstance(node.nodes[0], nodes.Const):
        yield f"{node.nodes[0].value}*"


def everything_said():
    yield from said_in_python()
    yield from said_in_templates()


def test_every_code_has_its_message_and_gives_it_all_its_values():
    known = messages()
    wrong = []
    for code, values, where in everything_said():
        if code.endswith("*"):
            if not any(m.startswith(code[:-1]) for m in known):
                wrong.append(f"{where}: nothing begins with {code[:-1]}")
        elif code not in BUILT_IN and not known.get(code, {"no message"}) <= values:
            wrong.append(f"{where}: {code} {sorted(values)} but {sorted(known.get(code, ['no message']))}")
    assert not wrong, "\n".join(wrong)


def test_no_message_is_left_that_nobody_says():
    codes = {code for code, _, _ in everything_said()}
    families = tuple(code[:-1] for code in codes if code.endswith("*"))
    text = "".join(f.read_text("utf-8") for f in SOURCE.rglob("*.py"))
    left = [
        m for m in messages()
        if m not in codes and not m.startswith(families) and m not in (*ELSEWHERE, *EARLIER) and f'"{m}"' not in text
    ]  # fmt: skip
    assert not left, left


def test_no_value_is_given_that_no_message_of_the_code_uses():
    known = messages()
    given = list(said_in_python())
    # one call may stand for two codes, of which one needs less
    calls = Counter(where for _, _, where in given)
    spare = [
        f"{where}: {code} {sorted(values - known[code])}"
        for code, values, where in given
        if code in known and not values <= known[code] and calls[where] == 1
    ]
    assert not spare, "\n".join(spare)
