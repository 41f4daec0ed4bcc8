"""The JSON Schema of the network document with a sentence on every field."""

from __future__ import annotations

from typing import Any

from spinel.core.network.schema import schema
from spinel.core.said import say
from spinel.wording.words import Words


def described(words: Words) -> dict[str, Any]:
    """The whole schema, every field with what it means, its usual value and where it is read off."""
    found: dict[str, Any] = _explain(words, schema())
    return found


def _explain(words: Words, schema: Any, group: str = "") -> Any:
    if isinstance(schema, list):
        return [_explain(words, s, group) for s in schema]
    if not isinstance(schema, dict):
        return schema
    found = {k: _explain(words, v, group) if k not in ("properties", "if") else v for k, v in schema.items()}
    if "properties" in schema:
        found["properties"] = {name: _field(words, name, inner, group) for name, inner in schema["properties"].items()}
    return found


def _field(words: Words, name: str, inner: Any, group: str) -> Any:
    key = f"{group}-{name}" if group else name
    below = "curve" if name in ("curve", "maintenance_curve", "zone_curve") and group == "elements" else name
    said = _explain(words, inner, below)
    return {**said, "description": words.say(say(f"field-{key}"))} if isinstance(said, dict) else said
