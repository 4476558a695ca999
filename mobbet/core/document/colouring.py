"""Colours the code of a post, as spans with short class names."""

from __future__ import annotations

from functools import lru_cache
from html import escape

LONGEST = 60_000
"""Letters of code beyond which it is left plain, so that one block cannot hold up a publication."""


@lru_cache(maxsize=256)
def coloured(code: str, language: str) -> str:
    """HTML of the code; plain where the language is not known."""
    if not language or len(code) > LONGEST:
        return escape(code, quote=False)
    from pygments import highlight
    from pygments.formatters.html import HtmlFormatter
    from pygments.lexers import get_lexer_by_name
    from pygments.util import ClassNotFound

    try:
        lexer = get_lexer_by_name(language, stripnl=False, ensurenl=False)
    except ClassNotFound:
        return escape(code, quote=False)
    return str(highlight(code, lexer, HtmlFormatter(nowrap=True, classprefix="c-")))
