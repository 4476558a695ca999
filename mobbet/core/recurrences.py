"""Recurrences (RFC 5545), computed by dateutil within the years that Mobbet knows."""

from __future__ import annotations

import datetime
from types import SimpleNamespace

from dateutil import rrule as engine

LAST_YEAR = 2199
FREQUENCIES = ("DAILY", "WEEKLY", "MONTHLY", "YEARLY")

# For a day that never comes (30 February) dateutil looks up to the last year of the calendar it was given, which takes
# it twenty seconds for the year 9999.
engine.datetime = SimpleNamespace(**{**vars(datetime), "MAXYEAR": LAST_YEAR})

rrule, rrulestr = engine.rrule, engine.rrulestr
