"""The one-time word on the server's console, without which nobody can claim an empty data folder."""

from __future__ import annotations

import hmac
import os
import secrets

from mobbet.actions.pacing import count_try
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput
from mobbet.store import people

FILE = "first-run-word"
LETTERS = "bcdfghjkmnpqrstvwxz23456789"
"""Those that nobody takes for another one."""


def word(workshop: Workshop) -> str:
    """The word of a data folder without anybody in it, made when it is first asked for; '' once there is somebody."""
    file = workshop.settings.data / FILE
    if people.is_any(workshop.db):
        file.unlink(missing_ok=True)
        return ""
    if not file.exists():
        made = "-".join("".join(secrets.choice(LETTERS) for _ in range(4)) for _ in range(3))
        descriptor = os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        with os.fdopen(descriptor, "w") as out:
            out.write(made)
    return file.read_text().strip()


def check(workshop: Workshop, typed: str) -> None:
    """Raises BadInput for another word than the console's, TooSoon for too many of them."""
    count_try(workshop, ("pair", "first run"))
    if not hmac.compare_digest("".join(typed.lower().split()).encode(), word(workshop).encode()):
        raise BadInput("That is not the word; it stands in the terminal in which Mobbet was started.", "word")
