"""Who may import whom, read from the syntax tree; and core alone brings no framework with it."""

import ast
import hashlib
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src" / "spinel"
STANDARD = set(sys.stdlib_module_names)
MAY = {
    "core": STANDARD - {"sqlite3", "logging", "random", "pathlib", "os", "time"} | {"numpy", "networkx", "scipy", "jsonschema", "spinel.core"},
    "store": STANDARD | {"peewee", "playhouse", "spinel.core", "spinel.store"},
    "actions": STANDARD | {"werkzeug", "spinel.core", "spinel.store", "spinel.actions"},
    "web": STANDARD - {"sqlite3"} | {"flask", "flask_wtf", "flask_login", "flask_limiter", "flask_compress", "werkzeug",
            "markupsafe", "segno", "weasyprint", "spinel.core", "spinel.actions", "spinel.web", "spinel.demo.people"},
    "demo": STANDARD - {"sqlite3"} | {"spinel.core", "spinel.actions", "spinel.demo"},
}  # fmt: skip
FILES = [(layer, p) for layer in MAY for p in sorted((SOURCE / layer).rglob("*.py"))]


def imports(path: Path) -> set[str]:
    found = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            found |= {a.name for a in node.names}
        elif isinstance(node, ast.ImportFrom):
            assert node.level == 0, "absolute imports only"
            found |= {f"{node.module}.{a.name}" if node.module == "spinel" else node.module for a in node.names}
    return found - {"spinel.__version__"}


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
    present = {str(p.relative_to(SOURCE / "web/static")) for f in folders for p in f.iterdir()}
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

    for path in (SOURCE / "web/static").glob("*.css"):
        body = path.read_text().split("color-scheme", 1)[-1] if path.name == "spinel.css" else path.read_text()
        assert not re.findall(r"#[0-9A-Fa-f]{6}\b", body), path.name
