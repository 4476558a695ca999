"""The parts of a house, each of which is tried, given to readers and put back by itself."""

from __future__ import annotations

LOOK, MENU, FACTS = "look", "menu", "facts"
PARTS = {LOOK: "the look", MENU: "the menu", FACTS: "what the house says of itself"}
"""{part: what it is called in the list of editions}."""
