"""What a book takes from the library and the site: pictures, and whole addresses."""

from __future__ import annotations

import io
import json
import re
from dataclasses import replace

from PIL import Image

from mobbet.actions.workshop import Workshop
from mobbet.core.books.book import Chapter, Picture
from mobbet.core.document.links import media_number, post_number
from mobbet.store import media, placements
from mobbet.store.blogs import Blog

WIDEST, LARGEST_PICTURE = 1600, 60_000_000
_SHOWN = ("jpeg", "png", "gif", "webp", "avif")


def whole_address(workshop: Workshop, blog: Blog, where: str) -> str:
    """The whole address of a link, or of a file that readers get; '' for what leads nowhere."""
    post, item = post_number(where), media_number(where)
    if post is not None:
        path = placements.path_shown(workshop.db, post, workshop.clock())
        return blog.home.rstrip("/") + path if path else ""
    if item is not None:
        files = [file for file in media.files(workshop.db, item) if file.use in ("sound", "video", "file")]
        return blog.home.rstrip("/") + files[0].path if files else ""
    if where.startswith("/"):
        return blog.home.rstrip("/") + where
    return where if re.match(r"(?:https?|mailto|tel):", where) else ""


def picture_of(workshop: Workshop, blog: Blog, number: int) -> Picture | None:
    """The largest copy of a picture that fits a page, as JPEG, or as PNG where it is clear in places; None where there is none yet."""
    if media.on_blog(workshop.db, blog.id, number) is None:
        return None
    files = [
        file
        for file in media.files(workshop.db, number)
        if file.use == "whole" and file.type.removeprefix("image/") in _SHOWN
    ]
    fitting = [file for file in files if file.width <= WIDEST] or files
    if not fitting:
        return None
    best = max(fitting, key=lambda file: (file.width, file.type in ("image/jpeg", "image/png")))
    data = workshop.media.read(best.hash)
    if data is None or len(data) > LARGEST_PICTURE:
        return None
    if best.type in ("image/jpeg", "image/png", "image/gif"):
        return Picture(data, best.type, best.width, best.height)
    out = io.BytesIO()
    with Image.open(io.BytesIO(data)) as image:
        is_clear = "A" in image.getbands()
        image.convert("RGBA" if is_clear else "RGB").save(out, "PNG" if is_clear else "JPEG", quality=88)
    return Picture(out.getvalue(), "image/png" if is_clear else "image/jpeg", best.width, best.height)


def with_addresses(workshop: Workshop, blog: Blog, chapter: Chapter) -> Chapter:
    """A chapter whose pictures are where readers get them."""

    def address(found: re.Match[str]) -> str:
        files = [
            file
            for file in media.files(workshop.db, int(found[1]))
            if file.use == "whole" and file.width <= WIDEST
        ]
        return json.dumps(
            blog.home.rstrip("/") + max(files, key=lambda file: file.width).path if files else ""
        )

    return replace(
        chapter, document=json.loads(re.sub(r'"media:(\d{1,12})"', address, json.dumps(chapter.document)))
    )
