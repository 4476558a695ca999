"""The site: its settings, editions, places outside, and the site at a moment."""
