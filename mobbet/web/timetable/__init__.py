"""The timetable."""
