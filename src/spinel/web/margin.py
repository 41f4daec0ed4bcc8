"""Templates as they are compiled."""

from __future__ import annotations

import re

from jinja2.ext import Extension


class AtTheMargin(Extension):
    """Templates are indented for who reads them: pages go out without it.

    The end of a line stays a space, so that sentences of two blocks never run together; only that of a line which holds
    a condition or a loop alone goes, for the line before it has one.
    """

    _INDENTED = re.compile(r"(?m)^[ \t]+")
    _ALONE = re.compile(r"(?m)^(\{% (?:if|elif|else|endif|for|endfor|set)\b(?:(?!%\}).)*?) %\}$")

    def preprocess(self, source: str, name: str | None, filename: str | None = None) -> str:
        return self._ALONE.sub(r"\1 -%}", self._INDENTED.sub("", source))
