"""Addresses for other programs. Those below `/~/` belong to a blog, and need no session."""

from __future__ import annotations

from mobbet.web.shell.address import Address

program_metadata = Address("/~/{slug}/programs")
"""Where a program finds everything else (RFC 8414)."""
program_allow = Address("/~/{slug}/allow")
"""Where a program sends a person; leads to the screen of the application."""
program_token = Address("/~/{slug}/token")
program_revoke = Address("/~/{slug}/revoke")
program_introspect = Address("/~/{slug}/introspect")
micropub = Address("/~/{slug}/micropub")
micropub_media = Address("/~/{slug}/media")
program_media = Address("/~/{slug}/media/{name}")
"""A file of the library before a post shows it."""
allow_program = Address("/allow")
"""The screen on which a person allows a program to write."""
my_programs = Address("/account/programs[/{what}]")
atom_service = Address("/~/{slug}/atom")
"""The collections of a blog (RFC 5023), below which they are."""
atom_categories = Address("/~/{slug}/atom/categories")
atom_posts = Address("/~/{slug}/atom/posts")
atom_post = Address("/~/{slug}/atom/posts/{number}")
atom_items = Address("/~/{slug}/atom/media")
atom_item = Address("/~/{slug}/atom/media/{number}")
api_description = Address("/~/{slug}/api/openapi.json")
api_posts = Address("/~/{slug}/api/posts")
api_post = Address("/~/{slug}/api/posts/{number}")
api_footprint = Address("/~/{slug}/api/posts/{number}/footprint")
api_items = Address("/~/{slug}/api/media")
api_item = Address("/~/{slug}/api/media/{number}")
api_filing = Address("/~/{slug}/api/filing")
api_timetable = Address("/~/{slug}/api/timetable")
