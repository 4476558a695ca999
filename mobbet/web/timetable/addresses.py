"""Addresses of the timetable."""

from __future__ import annotations

from mobbet.web.shell.address import Address

timetable = Address("/desk/{slug}/timetable")
calendar = Address("/calendar/{slug}/{key}.ics")
"""The private address from which a calendar program reads the timetable."""
calendar_file = Address("/desk/{slug}/timetable.ics")
calendar_renew = Address("/desk/{slug}/timetable/calendar")
timetable_change = Address("/desk/{slug}/timetable/{what:path}")
"""What is done with slips and days: `move`, `push`, `swap`, `place`, `mark`, `days`, `unmark/N`."""
timetable_add = Address("/desk/{slug}/timetable/add")
slot_change = Address("/desk/{slug}/timetable/slot/{number}/{what}")
queue_change = Address("/desk/{slug}/timetable/queue/{number}/{step}")
