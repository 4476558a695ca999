"""Readers: groups, letters, comments."""
