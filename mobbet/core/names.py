"""Names that people give to things: tags, categories, groups, views, pictures, themselves."""

from __future__ import annotations

import unicodedata


def one_line(text: str) -> str:
    """A name as it is kept: its letters composed (NFC), so that one name has one spelling, and single spaces between its words."""
    return " ".join(unicodedata.normalize("NFC", text).split())
