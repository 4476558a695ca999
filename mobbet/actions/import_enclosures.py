"""The files that come with a post of an older site: pictures, sound and video come into the library and stand at the end of its text."""

from __future__ import annotations

import io
from typing import Any

from mobbet.actions import library
from mobbet.actions.import_sources import Bring
from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.document.links import media_src
from mobbet.core.document.mentions import walk
from mobbet.core.errors import MobbetError
from mobbet.core.importing.item import Item
from mobbet.core.web_addresses import split_address
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

BLOCKS = {"picture": "picture", "sound": "sound", "video": "video", "file": "file"}
"""{kind of an item of the library: the block that shows it}."""


def with_enclosures(
    workshop: Workshop,
    person: Person,
    blog: Blog,
    item: Item,
    document: dict[str, Any],
    bring: Bring,
    notes: list[str],
) -> dict[str, Any]:
    """A text with the files of its post, but for pictures that it shows already; what cannot come stays a link, and is noted."""
    blocks = []
    for address, _ in item.enclosures:
        if address in item.text:
            continue
        block = _block(workshop, person, blog, item, address, bring, notes)
        if block["attrs"].get("src") not in {node.get("attrs", {}).get("src") for node in walk(document)} - {
            None
        }:
            blocks.append(block)
    return schema.check({"type": "doc", "content": [*document["content"], *blocks]}) if blocks else document


def _block(
    workshop: Workshop, person: Person, blog: Blog, item: Item, address: str, bring: Bring, notes: list[str]
) -> dict[str, Any]:
    name = split_address(address).path.rpartition("/")[2] or "file"
    try:
        data = bring(item, address)
        if data is not None:
            found = library.add_stream(workshop, person, blog, name, io.BytesIO(data))
            return {"type": BLOCKS[found.kind], "attrs": {"src": media_src(found.id)}}
        reason = "it could not be brought"
    except MobbetError as error:
        reason = str(error)
    notes.append(f"The file {address[:120]} stays where it is: {reason}")
    link = {"type": "link", "attrs": {"href": address}}
    return {
        "type": "paragraph",
        "attrs": {"align": "start"},
        "content": [{"type": "text", "text": name, "marks": [link]}],
    }
