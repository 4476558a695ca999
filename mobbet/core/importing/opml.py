"""Lists of blogs (OPML 2.0), which become a page of links."""

from __future__ import annotations

from html import escape
from typing import Any

from mobbet.core.errors import BadInput
from mobbet.core.importing.item import HTML, Item, one_line
from mobbet.core.safe_xml import read_xml

MOST, DEEPEST = 5000, 8


def read_opml(data: bytes, name: str) -> Item:
    """The blogs of a list as one text, a part for each group; it has no date, and so is a draft. Raises BadInput for what is no such list."""
    root = read_xml(data, recover=True)
    body = root.find("body") if root is not None and root.tag == "opml" else None
    if body is None:
        raise BadInput("This is no list of blogs: OPML has an element “opml” with a “body”.", "source")
    lines = _lines(body, 2, [MOST])
    if not lines:
        raise BadInput("The list names no blog.", "source")
    title = one_line(root.findtext("head/title") or "") or "Blogs to read"
    return Item(f"opml:{name}", title, "".join(lines), HTML, is_draft=True)


def _lines(element: Any, level: int, left: list[int]) -> list[str]:
    """The outlines of an element: links as a list, groups below a heading."""
    links, groups = [], []
    for one in element.iterfind("outline"):
        title = one_line(one.get("text") or one.get("title") or one.get("htmlUrl") or "")
        address = one.get("htmlUrl") or one.get("url") or one.get("xmlUrl") or ""
        if address.startswith(("http://", "https://")) and left[0] > 0:
            left[0] -= 1
            about = one_line(one.get("description") or "", 300)
            links.append(
                f'<li><a href="{escape(address)}">{escape(title or address)}</a>{": " + escape(about) if about else ""}</li>'
            )
        elif len(one) and level < DEEPEST:
            inside = _lines(one, level + 1, left)
            groups += [f"<h{min(level, 6)}>{escape(title)}</h{min(level, 6)}>", *inside] if inside else []
    return [*([f"<ul>{''.join(links)}</ul>"] if links else []), *groups]
