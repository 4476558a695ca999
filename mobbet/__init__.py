"""Mobbet: write posts, file them, give them a time, and publish them to a real web site."""

__version__ = "0.11.0"
