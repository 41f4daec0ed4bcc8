"""Canonical JSON and its hash: the one text that a signature, a revision and a ledger row cover."""

from __future__ import annotations

import hashlib
import json
from types import MappingProxyType
from typing import Any

from spinel.core.said import Said, as_data


def canonical(value: Any) -> str:
    """Sorted keys, no spaces, UTF-8, numbers as given; NaN and infinity are refused. What is said: code and values.

    >>> canonical({"b": 1.50, "a": "Ω"})
    '{"a":"Ω","b":1.5}'
    """
    return json.dumps(value, sort_keys=True, separators=(",", ":"), ensure_ascii=False, allow_nan=False, default=_plain)


def _plain(value: object) -> Any:
    if isinstance(value, Said):
        return as_data(value)
    if isinstance(value, MappingProxyType):
        return dict(value)
    raise TypeError(f"{type(value).__name__} is not kept as JSON")


def digest(text: str) -> str:
    """SHA-256 of the text's UTF-8 bytes, in hexadecimal."""
    return hashlib.sha256(text.encode("utf-8")).hexdigest()


def content_hash(value: Any) -> str:
    """The hash that names a network revision and that a signature on a permit covers."""
    return digest(canonical(value))
