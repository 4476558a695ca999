"""Measurements; not part of the shipped package."""
