"""How Mobbet is for one person: light or dark, the language of dates, keys."""

from __future__ import annotations

from collections.abc import Mapping

from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import own_keys
from mobbet.core.errors import BadInput
from mobbet.core.screen_dates import LANGUAGES
from mobbet.store import people
from mobbet.store.people import Person

THEMES = {"": "as this device has it", "light": "light", "dark": "dark"}
"""How the application's screens can be."""


def set_theme(workshop: Workshop, person: Person, theme: str) -> None:
    """Whether the application is light or dark for this person; '' for as their device has it. Raises BadInput."""
    if theme not in THEMES:
        raise BadInput(
            f"“{theme[:40]}” is no way to show the screens; choose light, dark, or as the device has it.",
            "theme",
        )
    with changing(workshop):
        people.set_theme(workshop.db, person.id, theme)


def set_date_language(workshop: Workshop, person: Person, language: str) -> None:
    """The language of days and times on this person's screens, as a code of CLDR; '' for English. Raises BadInput."""
    if language not in LANGUAGES:
        raise BadInput(f"Dates cannot be in “{language[:40]}”; choose a language of the list.", "dates")
    with changing(workshop):
        people.set_date_language(workshop.db, person.id, language)


def set_keys(workshop: Workshop, person: Person, typed: Mapping[str, str]) -> dict[str, str]:
    """The keys that this person prefers, as {Mobbet's own: theirs}; what is '' stays as it is. Answers with those that differ. Raises BadInput."""
    found = own_keys.read_own(typed)
    with changing(workshop):
        people.set_own_keys(workshop.db, person.id, own_keys.stored(found))
    return found
