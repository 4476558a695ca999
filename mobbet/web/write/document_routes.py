"""Parsing, writing and cleaning documents for the writing surface."""

from __future__ import annotations

from collections import Counter
from typing import Any, Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field
from starlette.responses import HTMLResponse, JSONResponse, Response

from mobbet.actions import post_search
from mobbet.actions.access import blog_for
from mobbet.actions.imports import read_pasted as read_pasted_html
from mobbet.core.document import reading
from mobbet.core.document.from_plain import from_plain
from mobbet.core.document.raw import clean_html
from mobbet.core.document.told import plainly_told, told
from mobbet.core.document.write import to_html
from mobbet.core.errors import NotFound
from mobbet.core.states import OUT
from mobbet.store import kept as kept_store
from mobbet.web.shell.session import Here, Me
from mobbet.web.write import addresses as to_write
from mobbet.web.write.sheet_html import on_sheet

router = APIRouter()
SECONDS = 5.0
"""How long a text may take to be read or written."""
Format = Literal["markdown", "html"]


class HtmlPage(BaseModel):
    """HTML from the clipboard, or by hand."""

    html: str = Field(max_length=5_000_000)


class Pasted(BaseModel):
    """What the clipboard held: HTML, or plain text alone."""

    html: str = Field(default="", max_length=5_000_000)
    plain: str = Field(default="", max_length=5_000_000)


class Written(BaseModel):
    """A document to be written in a format."""

    document: dict[str, Any]
    format: Format = "markdown"


class Source(BaseModel):
    """A text to be read as a document."""

    text: str = Field(max_length=5_000_000)
    format: Format


@router.post(to_write.pasted.route)
def read_pasted(here: Here, me: Me, slug: str, pasted: Pasted) -> Response:
    """What was pasted as a document, its embedded pictures in the library, and one line on what was kept and dropped."""
    if not pasted.html:
        blog_for(here, me, slug)
        document = here.services.heavy(from_plain, pasted.plain, seconds=SECONDS, what="What was pasted")
        return JSONResponse(
            {"document": document, "told": told(document, Counter()) or plainly_told(document)}
        )
    found, notes = read_pasted_html(here, me, slug, pasted.html)
    words = " ".join([told(found.document, found.dropped) or plainly_told(found.document), *notes])
    return JSONResponse({"document": found.document, "told": words.strip()})


@router.post(to_write.clean_html.route)
def clean(here: Here, me: Me, page: HtmlPage) -> Response:
    html, removed = here.services.heavy(clean_html, page.html, seconds=SECONDS, what="This HTML")
    return JSONResponse({"html": html, "removed": removed})


@router.post(to_write.written.route)
def write(here: Here, me: Me, sheet: Written) -> Response:
    return JSONResponse(
        {
            "text": here.services.heavy(
                reading.written, sheet.document, sheet.format, seconds=SECONDS, what="This text"
            )
        }
    )


@router.post(to_write.source.route)
def read(here: Here, me: Me, source: Source) -> Response:
    """The document in a source, and remarks on it; a mistake is refused with its line."""
    if source.format == "markdown":
        return JSONResponse(
            {
                "document": here.services.heavy(
                    reading.read_markdown, source.text, seconds=SECONDS, what="This Markdown"
                ),
                "notes": [],
            }
        )
    document, notes = here.services.heavy(
        reading.read_written_html, source.text, seconds=SECONDS, what="This HTML"
    )
    return JSONResponse({"document": document, "notes": notes})


@router.post(to_write.anchors.route)
def anchors(here: Here, me: Me, sheet: Written) -> Response:
    """The anchors of the headings, in order."""
    return JSONResponse(
        {"anchors": here.services.heavy(reading.anchors, sheet.document, seconds=SECONDS, what="This text")}
    )


@router.get(to_write.linkable.route)
def linkable(here: Here, me: Me, slug: str, words: str = "") -> Response:
    """The blog's posts that hold the words, for a link."""
    blog = blog_for(here, me, slug)
    posts = [
        {
            "id": one.id,
            "title": one.title or "No title yet",
            "told": "post, out" if one.state == OUT else "post, not out yet",
        }
        for one in post_search.find(here, blog, words[:200], 6).posts
    ]
    return JSONResponse({"posts": posts})


@router.get(to_write.kept_one.at("shown"))
def shown(here: Here, me: Me, slug: str, number: int) -> Response:
    """A standing copy as it looks on the sheet."""
    blog = blog_for(here, me, slug)
    document = kept_store.document(here.db, blog.id, number)
    if document is None:
        raise NotFound("There is no such standing copy on this blog; it may have been removed.")

    return HTMLResponse(to_html(document, on_sheet(here, blog, is_page=True)))
