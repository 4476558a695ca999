"""Posts taken out as documents and books."""

from __future__ import annotations

from urllib.parse import quote

from fastapi import APIRouter
from starlette.responses import Response

from mobbet.actions import books
from mobbet.actions.books import File
from mobbet.web.preview import addresses as to_preview
from mobbet.web.shell.session import Here, Me

router = APIRouter()


def _download(file: File) -> Response:
    """A file that a browser keeps and never shows."""
    headers = {
        "content-disposition": f"attachment; filename=\"{file.name.encode('ascii', 'replace').decode()}\"; filename*=UTF-8''{quote(file.name)}",
        "content-security-policy": "sandbox", "cache-control": "private, no-store",
    }  # fmt: skip
    return Response(file.data, media_type=file.type, headers=headers)


@router.get(to_preview.post_as.route)
def post_as(here: Here, me: Me, post_id: int, format: str) -> Response:
    """A post as it is written now."""
    return _download(books.of_post(here, me, post_id, format))


@router.get(to_preview.posts_as.route)
def posts_as(here: Here, me: Me, slug: str, which: str = "", format: str = "") -> Response:
    """What is out of a category, a series or the blog."""
    return _download(books.of_blog(here, me, slug, which, format))
