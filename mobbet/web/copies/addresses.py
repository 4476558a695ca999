"""Addresses of reading copies, and of drafts that colleagues read."""

from __future__ import annotations

from mobbet.web.shell.address import Address

copy = Address("/copy/{token}")
"""Where the link of a reading copy leads."""
copy_site = Address("/copy/{token}/site{path:path}")
"""The draft's page, and what it shows."""
copy_note = Address("/copy/{token}/note")
copy_answer = Address("/copy/{token}/note/{number}")
copy_read = Address("/copy/{token}/read")
"""Where it is told how far somebody read."""
draft = Address("/posts/{post_id}/read")
"""A colleague's draft, for notes."""
draft_site = Address("/posts/{post_id}/read/site{path:path}", "told")
"""Its page, and what it shows."""
draft_note = Address("/posts/{post_id}/read/note")
draft_answer = Address("/posts/{post_id}/read/note/{number}")
