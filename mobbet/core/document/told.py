"""One line on what came of a text from elsewhere."""

from __future__ import annotations

from collections import Counter
from typing import Any

from mobbet.core.document.mentions import walk

_KEPT = {
    "heading": "heading", "listItem": "list item", "table": "table", "picture": "picture", "quote": "quote", "codeBlock": "code block",
}  # fmt: skip


def plainly_told(document: dict[str, Any]) -> str:
    """How many paragraphs came, of a text of which nothing else is to be told."""
    count = sum(node["type"] == "paragraph" for node in walk(document))
    return f"Kept the words, {count} paragraph{'s' if count != 1 else ''}."


def told(document: dict[str, Any], dropped: Counter[str]) -> str:
    """What was kept, counted, and what was dropped; '' when a few plain words came and nothing went."""
    counts: Counter[str] = Counter()
    hrefs: set[str] = set()
    for node in walk(document):
        if node["type"] in _KEPT:
            counts[_KEPT[node["type"]]] += 1
        hrefs.update(mark["attrs"]["href"] for mark in node.get("marks", ()) if mark["type"] == "link")
    counts["link"] = len(hrefs)
    kept = ", ".join(f"{count} {name}{'s' if count != 1 else ''}" for name, count in counts.items() if count)
    gone = ", ".join(dropped)
    if not kept and not gone:
        return ""
    return f"Kept {kept or 'the words'}." + (f" Dropped {gone}." if gone else "")
