"""Whom the site of a blog answers."""

from __future__ import annotations

OPEN, PEOPLE, NOBODY = "", "people", "closed"
CLOSED = {OPEN: "open to everyone", PEOPLE: "open to those who work on it", NOBODY: "closed to everyone"}
"""{state: in words}."""
KEPT_DAYS = 30
"""For so long a blog that was set aside can be brought back."""
