"""Every code that the program says stands in the catalogue, with the values that its message uses, and no others."""

import ast
from pathlib import Path

from fluent.syntax import FluentParser
from fluent.syntax import ast as fluent
from fluent.syntax.visitor import Visitor

import spinel
from spinel.wording.words import CATALOGUE

SOURCE = Path(spinel.__file__).parent
#: Codes made from an id: what stands before it, and where the ids are.
FAMILIES = (
    "kind-",
    "position-",
    "step-",
    "state-",
    "role-",
    "permit-state-",
    "program-state-",
    "statement-",
    "briefing-",
    "caution-",
    "field-",
    "kind-of-record-",
    "recorded-",
    "error-",
    "written-",
    # a bound of a quantity, and what filters write in place of a number
    "a-number-",
    "no-figure",
    "none",
    "never",
)


class _Found(Visitor):
    def __init__(self):
        self.values, self.junk = set(), []

    def visit_VariableReference(self, node):
        self.values.add(node.id.name)

    def visit_Junk(self, node):
        self.junk.append(node.content)


def messages():
    """Values used by each message of the catalogue."""
    found = {}
    for file in sorted((CATALOGUE / "en").glob("*.ftl")):
        resource = FluentParser().parse(file.read_text("utf-8"))
        for entry in resource.body:
            assert not isinstance(entry, fluent.Junk), f"{file.name}: {entry.content[:200]}"
            if isinstance(entry, fluent.Message):
                assert entry.id.name not in found, entry.id.name
                seen = _Found()
                seen.visit(entry)
                found[entry.id.name] = seen.values
    return found


def said():
    """Every call of say with a code written out: the code, the names of its values, where it stands."""
    for file in sorted(SOURCE.rglob("*.py")):
        for node in ast.walk(ast.parse(file.read_text("utf-8"))):
            if isinstance(node, ast.Call) and getattr(node.func, "id", "") == "say" and node.args:
                code, where = node.args[0], f"{file.relative_to(SOURCE)}:{node.lineno}"
                if isinstance(code, ast.Constant):
                    yield code.value, {k.arg for k in node.keywords}, where


def test_every_code_has_its_message_and_gives_it_all_its_values():
    known = messages()
    wrong = [
        f"{where}: {code} {sorted(values)} but {sorted(known[code]) if code in known else 'no message'}"
        for code, values, where in said()
        if code not in ("joined", "verbatim") and known.get(code) != values
    ]
    assert not wrong, "\n".join(wrong)


def test_no_message_is_left_that_nobody_says():
    codes = {code for code, _, _ in said()}
    left = [m for m in messages() if m not in codes and not m.startswith(FAMILIES)]
    assert not left, left
