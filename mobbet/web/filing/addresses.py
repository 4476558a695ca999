"""Addresses of the filing."""

from __future__ import annotations

from mobbet.web.shell.address import Address

filing = Address("/desk/{slug}/filing[/{part}]")
"""The tree of categories, or `tags`, `addresses`."""
category = Address("/desk/{slug}/filing", "in")
"""The tree with a category looked at."""
filing_change = Address("/desk/{slug}/filing/{kind}/{number}/{what}")
"""Where a category or a tag is changed: rename, move, merge, remove …"""
category_change = Address("/desk/{slug}/filing/category/{number}/{what}")
tag_change = Address("/desk/{slug}/filing/tag/{number}/{what}")
tag_remedies = Address("/desk/{slug}/filing/tags/remedies")
filing_rules = Address("/desk/{slug}/filing/rules")
filing_add = Address("/desk/{slug}/filing/add")
filing_pictures = Address("/desk/{slug}/filing/pictures")
"""Pictures of the library for a category, found by words."""
filing_posts = Address("/desk/{slug}/filing/posts")
filing_undo = Address("/desk/{slug}/filing/undo/{number}")
worklist = Address("/desk/{slug}/filing/worklist/{kind}")
"""Posts to file one after the other: `unfiled` or `untagged`."""
several = Address("/desk/{slug}/filing/several")
"""Many posts filed at once."""
address_change = Address("/desk/{slug}/filing/addresses/{what}")
"""What is done with addresses: `pattern`, `script`, `add`, `import`, `remove`, `dismiss`."""
