"""Addresses of the proof."""

from __future__ import annotations

from mobbet.web.shell.address import Address

proof = Address("/posts/{post_id}/proof[/{part}]")
"""The proof of a post; with a part, where something is decided about a mark: `stand`, `reopen`, `learn`."""
blog_proof = Address("/desk/{slug}/proof[/{what}]")
"""The proof of a whole blog; with a word, where many posts are mended: `all`, `describe`, `lead`, `update`."""
house_words = Address("/desk/{slug}/site/words")
"""The house style for words; `severity` is where the severity of each mark is set."""
