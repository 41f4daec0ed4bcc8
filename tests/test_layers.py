"""Who may import whom, read from the syntax tree; and core alone brings no framework with it."""

import ast
import hashlib
import subprocess
import sys
from functools import cache
from pathlib import Path

import networkx as nx
import pytest

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src" / "spinel"
STANDARD = set(sys.stdlib_module_names)
MAY = {
    "core": STANDARD - {"sqlite3", "logging", "random", "pathlib", "os", "time"} | {"numpy", "networkx", "scipy", "numba", "jsonschema", "jsonschema_rs", "spinel.core"},
    "store": STANDARD | {"peewee", "cryptography", "playhouse", "spinel.core", "spinel.store"},
    "wording": STANDARD - {"sqlite3"} | {"fluent", "spinel.core", "spinel.wording"},
    "actions": STANDARD | {"werkzeug", "pyotp", "zxcvbn", "PIL", "cryptography", "openpyxl", "spinel.core", "spinel.store", "spinel.actions"},
    "web": STANDARD - {"sqlite3"} | {"flask", "flask_wtf", "flask_login", "flask_compress", "werkzeug",
            "jinja2", "markupsafe", "segno", "icalendar", "pythonjsonlogger", "weasyprint", "reportlab", "fontTools", "spinel.core", "spinel.wording", "spinel.actions", "spinel.web", "spinel.demo.people"},
    "commands": STANDARD - {"sqlite3"} | {"click", "distributed", "spinel.core", "spinel.actions", "spinel.demo", "spinel.commands",
                 "spinel.wording"},
    "demo": STANDARD - {"sqlite3"} | {"spinel.core", "spinel.actions", "spinel.demo"},
}  # fmt: skip
FILES = [(layer, p) for layer in MAY for p in sorted((SOURCE / layer).rglob("*.py"))]


@cache
def nodes(path: Path) -> tuple[ast.AST, ...]:
    """Everything in a file's syntax tree, read once for all tests that ask."""
    return tuple(ast.walk(ast.parse(path.read_text())))


def imports(path: Path) -> set[str]:
    found = set()
    for node in nodes(path):
        if isinstance(node, ast.Import):
            found |= {a.name for a in node.names}
        elif isinstance(node, ast.ImportFrom):
            assert node.level == 0, "absolute imports only"
            found |= {f"{node.module}.{a.name}" if node.module == "spinel" else node.module for a in node.names}
    return found - {"spinel.__version__"}


def import_graph() -> nx.DiGraph:
    """Which file imports which, imports inside functions counted."""
    modules = {}
    for path in sorted(SOURCE.rglob("*.py")):
        parts = path.relative_to(SOURCE.parent).with_suffix("").parts
        modules[".".join(parts[:-1] if parts[-1] == "__init__" else parts)] = path
    graph = nx.DiGraph()
    graph.add_nodes_from(modules)
    for name, path in modules.items():
        for node in nodes(path):
            if isinstance(node, ast.Import):
                asked = {a.name for a in node.names}
            elif isinstance(node, ast.ImportFrom):
                asked = {f"{node.module}.{a.name}" for a in node.names}
                asked = {a if a in modules else str(node.module) for a in asked}
            else:
                continue
            graph.add_edges_from((name, a) for a in asked & set(modules) if a != name)
    return graph


def test_no_file_imports_itself_by_any_way_round_and_no_folder_does():
    graph = import_graph()
    assert graph.number_of_edges() > 500
    assert [sorted(c) for c in nx.strongly_connected_components(graph) if len(c) > 1] == []
    # a folder of core is one thing: curves < network < fault < protection < arcflash; what lies beside them stands alone
    folders = nx.DiGraph()
    for pair in graph.edges:
        one, other = (".".join(n.split(".")[:3]) if n.count(".") > 2 else n for n in pair)
        if one != other:
            folders.add_edge(one, other)
    assert [sorted(c) for c in nx.strongly_connected_components(folders) if len(c) > 1] == []


def test_every_action_runs_on_the_site_that_it_is_given():
    """Two sites in one process: an action binds the database of its own first argument, whatever else is open."""
    for path in sorted((SOURCE / "actions").glob("*.py")):
        for node in ast.parse(path.read_text()).body:
            if not isinstance(node, ast.FunctionDef) or node.name.startswith("_") or not node.args.args:
                continue
            first = node.args.args[0].arg
            # what takes a unit or a present state is called from within an action; the rest asks no database
            exempt = {
                "on_site",
                "work",
                "changing",
                "utc_text",
                "session_key",
                "is_demo",
                "third_person_checks",
                "check_password",
            }
            if first in ("site", "act") and node.name not in exempt and path.stem not in ("keeping", "program_moves"):
                marks = {getattr(d, "id", "") for d in node.decorator_list}
                assert "on_site" in marks, f"{path.stem}.{node.name}"


#: Two things of the trade that bear one name, or the stored row of a thing; told apart where both are used.
TWICE = {
    "Site": "the open database; what a network document says of the site",
    "Box": "of personal locks; of a drawing",
    "Plan": "what a person writes into a permit; a plan view",
    "Step": "of a program; of a working",
    "Place": "of a program in its steps; of an arc",
    "Fault": "put into a practice plant; a short circuit",
    "Line": "of a point-to-point working; of a drawing",
    "Figures": "that a step carries; of a study",
    "Enclosure": "of the network; as the arc-flash model sees it",
    "Qualification": "held by a person; its stored row",
    "FieldEvent": "that happened; its stored row",
    "Meta": "peewee's own",
}


def classes() -> list[tuple[str, ast.ClassDef]]:
    found = []
    for path in sorted(SOURCE.rglob("*.py")):
        found += [(str(path.relative_to(SOURCE)), n) for n in nodes(path) if isinstance(n, ast.ClassDef)]
    return found


def test_two_classes_share_a_name_only_for_a_reason():
    files = {}
    for path, node in classes():
        files.setdefault(node.name, set()).add(path)
    assert {name for name, where in files.items() if len(where) > 1} <= set(TWICE)


def test_a_dataclass_of_more_than_seven_fields_is_filled_by_name():
    """Two swapped floats pass every checker."""
    for path, node in classes():
        marks = [ast.unparse(d) for d in node.decorator_list]
        if any("dataclass" in m for m in marks) and sum(isinstance(x, ast.AnnAssign) for x in node.body) > 7:
            assert any("kw_only=True" in m for m in marks), f"{path}: {node.name}"


def test_all_sql_is_in_store():
    asks = {"execute", "execute_sql", "select", "where", "insert_many", "get_or_none", "create"}
    for _, path in (f for f in FILES if f[0] in ("actions", "web", "demo")):
        for node in nodes(path):
            called = node.func.attr if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute) else ""
            assert called not in asks, f"{path.name}:{node.lineno} {called}"


@pytest.mark.parametrize(("layer", "path"), FILES, ids=lambda v: v.name if isinstance(v, Path) else v)
def test_each_layer_imports_only_what_it_may(layer, path):
    for name in imports(path):
        parts = name.split(".")
        allowed = any(".".join(parts[:n]) in MAY[layer] for n in range(1, len(parts) + 1))
        assert allowed, f"{path.relative_to(ROOT)} ({layer}) imports {name}"


def test_core_has_no_clock_no_files_and_no_framework():
    for _, path in (f for f in FILES if f[0] == "core"):
        text = path.read_text()
        for word in (".now(", "open(", "today(", "print(", "utcnow"):
            assert word not in text, f"{path}: {word}"
    code = (
        "import pkgutil, importlib, sys, spinel.core as c\n"
        "[importlib.import_module(m.name) for m in pkgutil.walk_packages(c.__path__, 'spinel.core.')]\n"
        "bad = {'flask', 'peewee', 'sqlite3', 'werkzeug', 'jinja2', 'playhouse', 'click'} & set(sys.modules)\n"
        "assert not bad, bad"
    )
    subprocess.run([sys.executable, "-c", code], check=True)


def test_vendored_files_are_what_they_were():
    listed = dict(
        reversed(line.split("  ")) for line in (SOURCE / "web/static/vendored.sha256").read_text().splitlines()
    )
    folders = [SOURCE / "web/static/vendor", SOURCE / "web/static/fonts"]
    present = {str(p.relative_to(SOURCE / "web/static")) for f in folders for p in f.rglob("*") if p.is_file()}
    assert present == set(listed)
    for name, digest in listed.items():
        assert hashlib.sha256((SOURCE / "web/static" / name).read_bytes()).hexdigest() == digest, name


def test_templates_hold_no_inline_script_style_or_foreign_address():
    for path in (SOURCE / "web/templates").glob("*.html"):
        text = path.read_text()
        assert "<script>" not in text and " style=" not in text and "<style" not in text, path.name
        assert "http://" not in text and "https://" not in text and " onclick" not in text, path.name
        assert "|safe" not in text or path.name in ("paper_permit.html", "paper_program.html"), path.name


def test_every_colour_in_the_stylesheets_is_a_token():
    import re

    sheets = sorted((SOURCE / "web/static/css").glob("*.css"))
    assert len(sheets) > 10
    for path in sheets:
        body = path.read_text().split("color-scheme", 1)[-1] if path.name == "tokens.css" else path.read_text()
        assert not re.findall(r"#[0-9A-Fa-f]{6}\b", body), path.name
