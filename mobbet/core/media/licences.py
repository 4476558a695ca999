"""Licences under which a picture, sound or video may be shown, and which of them ask for a credit."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.core.errors import BadInput


@dataclass(frozen=True)
class Licence:
    """One licence: how it is kept, its words, its page (none for '') and whether it asks for a credit."""

    key: str
    words: str
    page: str = ""
    asks_credit: bool = False


LICENCES: tuple[Licence, ...] = (
    Licence("", "not settled"),
    Licence("own", "our own work"),
    Licence("permission", "used with permission", asks_credit=True),
    Licence("cc0", "CC0, free of any condition", "https://creativecommons.org/publicdomain/zero/1.0/"),
    Licence("public-domain", "public domain"),
    Licence("cc-by", "CC BY 4.0", "https://creativecommons.org/licenses/by/4.0/", True),
    Licence("cc-by-sa", "CC BY-SA 4.0", "https://creativecommons.org/licenses/by-sa/4.0/", True),
    Licence("cc-by-nd", "CC BY-ND 4.0", "https://creativecommons.org/licenses/by-nd/4.0/", True),
    Licence("cc-by-nc", "CC BY-NC 4.0", "https://creativecommons.org/licenses/by-nc/4.0/", True),
)
LICENCE = {row.key: row for row in LICENCES}


def read_licence(key: str) -> str:
    """Raises BadInput for a licence that the table does not have."""
    if key not in LICENCE:
        raise BadInput(f"“{key}” is no licence Mobbet knows; choose one of the list.", "licence")
    return key
