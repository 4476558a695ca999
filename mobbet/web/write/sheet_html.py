"""HTML of blocks for the blog's own people, with files from the library's routes."""

from __future__ import annotations

from mobbet.actions.workshop import Workshop
from mobbet.core.document.html import Html, Playing, Rendition
from mobbet.core.document.links import media_number
from mobbet.store import media
from mobbet.store.blogs import Blog
from mobbet.web.library import addresses as to_library


def on_sheet(here: Workshop, blog: Blog, is_page: bool) -> Html:
    """What a document of the blog is written with."""

    def rendition(src: str, sizes: str) -> Rendition | None:
        number = media_number(src)
        row = media.on_blog(here.db, blog.id, number) if number is not None else None
        return Rendition(to_library.picture(number), row.width or None, row.height or None) if row else None

    def playing(src: str) -> Playing | None:
        number = media_number(src)
        row = media.on_blog(here.db, blog.id, number) if number is not None else None
        if row is None:
            return None
        poster = to_library.picture(row.id) if row.kind == "video" and row.state == "ready" else ""
        return Playing(
            row.name,
            to_library.item(row.id, "play"),
            row.type,
            row.bytes,
            row.seconds,
            row.width,
            row.height,
            poster,
            transcript=row.transcript,
        )

    return Html(rendition, playing, is_page=is_page)
