"""What the writing surface needs of the server: in the writing room, and on the sheet of a saved block."""

from __future__ import annotations

from typing import Any

from mobbet.actions import external_media, looks
from mobbet.actions.workshop import Workshop
from mobbet.core.document import outline, palette, schema
from mobbet.core.document.links import media_number
from mobbet.core.document.signs import SIGNS
from mobbet.core.languages import NAMES
from mobbet.core.look.look import Letters, Look
from mobbet.core.look.palette import paper_of
from mobbet.core.media import places
from mobbet.store import kept as kept_store
from mobbet.store import media
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.library import addresses as to_library
from mobbet.web.library.routes import told
from mobbet.web.shell.file_limits import limits_of
from mobbet.web.site import addresses as to_site
from mobbet.web.write import addresses as to_write

SHOWN_FIRST = 4
"""So many blocks of a text may show when the room opens."""


def sheet_facts(here: Workshop, me: Person, blog: Blog, document: dict[str, Any]) -> dict[str, Any]:
    """What the surface must know of a document, of its blog and of the server."""
    return {
        "document": document,
        "kept": [
            {"id": one.id, "name": one.name, "blocks": schema.load(one.body)["content"]}
            for one in kept_store.every(here.db, blog.id)
        ],
        "signs": SIGNS,
        "languages": [[tag, name] for tag, name in sorted(NAMES.items(), key=lambda pair: pair[1])],
        "palette": _palette(looks.given(here, blog)),
        "items": _items(here, blog, document),
        "has_videos": bool(external_media.offered_videos(here, me, blog.slug, "")),
        "limits": limits_of(here, blog),
        "places": {size: places.width_in_pixels(size) for size in places.SIZES},
    }


def sheet_addresses(blog: Blog) -> dict[str, str]:
    """The addresses that the scripts of the surface ask."""
    return {
        "clean": to_write.clean_html(),
        "written": to_write.written(),
        "source": to_write.source(),
        "anchors": to_write.anchors(),
        "kept": to_write.kept(blog.slug),
        "links": to_write.linkable(blog.slug),
        "library": to_library.library(blog.slug),
        **{
            part: to_library.library_part(blog.slug, part)
            for part in ("items", "address", "collection", "videos", "embed")
        },
        "allow": to_site.video_hosts(blog.slug),
        "picture": to_library.picture.stem,
        "post": to_write.write.stem,
        "item": to_library.item.stem,
        "file": to_write.read_file(blog.slug),
        "read": to_write.pasted(blog.slug),
    }


def sheet_style(here: Workshop, blog: Blog) -> str:
    """The address of the letters of the blog's look; '' where it has the usual ones."""
    return "" if looks.given(here, blog).letters == Letters() else to_site.look(blog.slug, "sheet.css")


def _items(here: Workshop, blog: Blog, document: dict[str, Any]) -> dict[int, dict[str, Any]]:
    """What the writing surface must know of the items a text shows."""
    found = (media.on_blog(here.db, blog.id, number) for number in outline.items(document))
    return {row.id: told(here, row) for row in found if row}


def first_picture(document: dict[str, Any], items: dict[int, dict[str, Any]]) -> str:
    """The address of the picture that shows when the room opens, so that it loads along with the scripts; '' where none does."""
    numbers = (
        media_number(node.get("attrs", {}).get("src") or "") for node in document["content"][:SHOWN_FIRST]
    )
    return next(
        (items[number]["picture"] for number in numbers if number in items and items[number]["has_picture"]),
        "",
    )


def _palette(look: Look) -> dict[str, dict[str, tuple[str, ...]]]:
    """Which tints can be read on each marker ('' for none), and the other way round, in the light and in the dark."""
    papers = (paper_of(look.light), paper_of(look.in_dark))
    return {
        "tintsOn": {name: palette.tints_on(papers, name or None) for name in ("", *palette.NAMES)},
        "markersUnder": {name: palette.markers_under(papers, name or None) for name in ("", *palette.NAMES)},
    }
