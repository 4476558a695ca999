"""Pictures: bringing them in, and showing them to the blog's own people."""

from __future__ import annotations

from fastapi import APIRouter, UploadFile
from starlette.responses import JSONResponse, Response

from mobbet.actions import library
from mobbet.actions.workshop import blog_for
from mobbet.core.errors import BadInput, NotFound
from mobbet.media.pictures import LARGEST_BYTES
from mobbet.store import blogs, media
from mobbet.web import links
from mobbet.web.session import Here, Me

router = APIRouter()
WIDTH_ON_SHEET = 800


@router.post("/desk/{blog_slug}/pictures")
def bring_in(here: Here, me: Me, blog_slug: str, picture: UploadFile) -> Response:
    blog = blog_for(here, me, blog_slug)
    name = picture.filename or "picture"
    if picture.size is not None and picture.size > LARGEST_BYTES:
        raise BadInput(f"“{name}” is larger than {LARGEST_BYTES // 1_000_000} MB; make it smaller and try again.", "picture")
    row = library.add_picture(here, me, blog, name, picture.file.read(LARGEST_BYTES + 1))
    return JSONResponse({"src": f"media:{row.id}", "address": links.picture(row.id), "width": row.width, "height": row.height, "name": row.name})


@router.get("/pictures/{media_id}")
def picture(here: Here, me: Me, media_id: int) -> Response:
    """The file for the sheet, to people who work on the picture's blog."""
    row = media.by_id(here.db, media_id)
    if row is None or blogs.role(here.db, row.blog_id, me.id) is None:
        raise NotFound(f"There is no picture {media_id} on your blogs.")
    files = [file for file in media.files(here.db, media_id) if file.type == "image/webp"]
    file = next((file for file in files if file.width >= WIDTH_ON_SHEET), files[-1])
    headers = {"Cache-Control": "private, max-age=86400"}
    return Response(here.media.read(file.hash), media_type=file.type, headers=headers)
