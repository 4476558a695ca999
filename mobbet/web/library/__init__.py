"""The library and its items."""
