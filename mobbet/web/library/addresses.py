"""Addresses of the library."""

from __future__ import annotations

from mobbet.web.shell.address import Address

picture = Address("/pictures/{media_id}", "use")
"""A picture as the blog's own people see it: whole, or its cut for a use."""
library = Address("/desk/{slug}/library")
library_part = Address("/desk/{slug}/library/{part}")
"""What belongs to a library: `rows`, `items`, `scaled`, `describe`, `labels`, `address`, `collection`, `videos`, `embed`."""
collection_small = Address("/desk/{slug}/library/collection/small")
item = Address("/library/{media_id}[/{part}]")
"""An item's page, and what is done with it."""
stand_in_frame = Address("/stand-ins/{host}/{name}")
