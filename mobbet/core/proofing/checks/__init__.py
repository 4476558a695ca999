"""The checks of the proof, one concern a file; `table.py` puts them in order."""
