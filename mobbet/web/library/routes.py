"""The library: its screen, uploads, and what the writing room asks of it."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated, Any

from fastapi import APIRouter, File, Query, UploadFile
from pydantic import BaseModel, Field
from starlette.responses import JSONResponse, Response

from mobbet.actions import external_media, library, library_rules
from mobbet.actions.access import blog_for, is_owner
from mobbet.actions.workshop import Workshop
from mobbet.core.document.html_media import size_words
from mobbet.core.document.links import media_src
from mobbet.core.errors import Refused
from mobbet.core.media.kinds import BY_ENDING, FILE, ending_of, refuse_size
from mobbet.core.media.licences import LICENCE, LICENCES
from mobbet.store import jobs, media
from mobbet.store.blogs import Blog
from mobbet.store.media import Media, Wanted
from mobbet.web.library import addresses as to_library
from mobbet.web.library.contexts import DescribePage, LibraryPage, LibraryRows
from mobbet.web.library.item_lines import choices_of, lines_of, wanted_of, with_start
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import Text
from mobbet.web.shell.file_limits import limits_of
from mobbet.web.shell.rendering import page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me

router = APIRouter()
SCALED = {"yes": "upright, at most 2,560 pixels", "no": "as they are"}
"""How large pictures come from a phone."""
AT_ONCE = 60
IN_PICKER = 40


class Filter(BaseModel):
    """What the library is asked for, as the sentence above it says it."""

    words: str = Field(default="", max_length=300)
    kind: str = ""
    shape: str = ""
    year: str = ""
    uses: str = ""
    licence: str = "any"
    label: str = Field(default="", max_length=60)
    lacks: str = ""
    order: str = "newest"
    aside: str = ""


Asked = Annotated[Filter, Query()]


@router.get(to_library.library.route)
def library_page(here: Here, me: Me, slug: str, asked: Asked) -> Response:
    blog = blog_for(here, me, slug)
    wanted = wanted_of(asked)
    return page(LibraryPage(
        bar_for(here, me, blog, "library"), asked.words, choices_of(here, blog, asked), _rows(here, blog, wanted, asked, 0),
        _room_words(here, blog), here.settings.limits.words, limits_of(here, blog),
        [Choice(one.key, one.words) for one in LICENCES if one.key],
        [Choice(value, words, (value == "yes") == bool(blog.scales_pictures)) for value, words in SCALED.items()],
        is_owner(here, me, blog),
    ))  # fmt: skip


@router.post(to_library.library_part.at("scaled"))
def set_scaled(here: Here, me: Me, slug: str, scaled: Text = "yes") -> Response:
    library_rules.set_scales_pictures(here, me, slug, scaled == "yes")
    return see_other(to_library.library(slug))


@router.get(to_library.library_part.at("rows"))
def rows(here: Here, me: Me, slug: str, asked: Asked, start: int = 0) -> Response:
    blog = blog_for(here, me, slug)
    return page(_rows(here, blog, wanted_of(asked), asked, max(0, start)))


def _rows(here: Workshop, blog: Blog, wanted: Wanted, asked: Filter, start: int) -> LibraryRows:
    found = media.find(here.db, blog.id, wanted, AT_ONCE + 1, start)
    more = (
        with_start(to_library.library_part(blog.slug, "rows"), asked, start + AT_ONCE)
        if len(found) > AT_ONCE
        else ""
    )
    is_all = wanted == Wanted()
    return LibraryRows(
        lines_of(here, found[:AT_ONCE]),
        media.count(here.db, blog.id, wanted) if not start else 0,
        more,
        start,
        is_all,
        asked.aside == "yes",
    )


def _room_words(here: Workshop, blog: Blog) -> str:
    room = media.room(here.db, blog.id)
    if not room.items:
        return ""
    words = size_words(room.originals + room.copies)
    told = f"{room.items:,} item{'s' if room.items != 1 else ''} take {words}: {size_words(room.originals)} as they came, {size_words(room.copies)} of copies."
    return told + (
        f" {room.unused_items:,} in no post take {size_words(room.unused)}." if room.unused_items else ""
    )


@router.post(to_library.library.route)
def bring_in(here: Here, me: Me, slug: str, file: Annotated[UploadFile, File()]) -> Response:
    """One file; answers as soon as it is safe, while the worker makes its copies."""
    blog = blog_for(here, me, slug)
    name = file.filename or "file"
    kind = BY_ENDING[ending_of(name)].kind if ending_of(name) in BY_ENDING else FILE
    refuse_size(name, file.size or 0, kind, here.settings.limits)
    return JSONResponse(told(here, library.add_stream(here, me, blog, name, file.file)))


def told(here: Workshop, row: Media) -> dict[str, Any]:
    """What the browser needs of an item."""
    return {
        "id": row.id, "src": media_src(row.id), "kind": row.kind, "name": row.name, "width": row.width, "height": row.height, "seconds": row.seconds,
        "alt": row.alt, "caption": row.caption, "credit": row.credit if LICENCE[row.licence].asks_credit else "", "state": row.state, "problem": row.problem,
        "progress": jobs.progress_of(here.db, row.id), "page": to_library.item(row.id), "picture": to_library.picture(row.id), "play": to_library.item(row.id, "play"),
        "has_picture": row.kind in ("picture", "video"),
    }  # fmt: skip


@router.get(to_library.library_part.at("items"))
def items(here: Here, me: Me, slug: str, words: str = "", kind: str = "") -> Response:
    """Items for the writing room to choose from, the newest first."""
    blog = blog_for(here, me, slug)
    kinds = [part for part in kind.split(",") if part] or [""]
    found = [
        row
        for one in kinds
        for row in media.find(here.db, blog.id, Wanted(words=words[:300], kind=one), IN_PICKER)
    ]
    found.sort(key=lambda row: (-row.added_at, -row.id))
    return JSONResponse({"items": [told(here, row) for row in found[:IN_PICKER]]})


@router.post(to_library.library_part.at("address"))
def from_address(
    here: Here, me: Me, slug: str, address: Text = "", credit: Text = "", licence: Text = ""
) -> Response:
    return JSONResponse(told(here, external_media.from_address(here, me, slug, address, credit, licence)))


@router.get(to_library.library_part.at("collection"))
def collection(here: Here, me: Me, slug: str, words: str = "") -> Response:
    blog_for(here, me, slug)
    found = here.services.collection.search(words[:200])
    offered = [
        {"id": one.id, "title": one.title, "credit": one.credit, "licence": LICENCE[one.licence].words, "small": f"{to_library.library_part(slug, 'collection/small')}?id={one.id}"}
        for one in found
    ]  # fmt: skip
    return JSONResponse({"name": here.services.collection.name, "offered": offered})


@router.get(to_library.collection_small.route)
def small(here: Here, me: Me, slug: str, id: str) -> Response:
    """The small picture of one that the collection offers, so that the browser asks nobody else."""
    blog_for(here, me, slug)
    return Response(
        here.services.collection.small(id),
        media_type="image/jpeg",
        headers={"Cache-Control": "private, max-age=3600"},
    )


@router.post(to_library.library_part.at("collection"))
def take(here: Here, me: Me, slug: str, id: Text = "") -> Response:
    return JSONResponse(told(here, external_media.from_collection(here, me, slug, id)))


@router.get(to_library.library_part.at("videos"))
def videos(here: Here, me: Me, slug: str, words: str = "") -> Response:
    return JSONResponse(
        {"offered": [asdict(one) for one in external_media.offered_videos(here, me, slug, words)]}
    )


@router.post(to_library.library_part.at("embed"))
def embed(here: Here, me: Me, slug: str, typed: Text = "") -> Response:
    """An embed for an address or a piece of embed code, or the link that stands in its place and why."""
    return JSONResponse(asdict(external_media.embed(here, me, slug, typed)))


@router.post(to_library.library_part.at("labels"))
def label(here: Here, me: Me, slug: str, ids: Text = "", labels: Text = "", act: Text = "add") -> Response:
    changed = library.label_many(here, me, slug, _numbers(ids), labels, act == "remove")
    return JSONResponse({"told": f"{changed} item{'s' if changed != 1 else ''} changed."})


@router.post(to_library.library_part.at("aside"))
def aside(here: Here, me: Me, slug: str, ids: Text = "", act: Text = "aside") -> Response:
    """Sets items aside, or restores them; says which could not be, and why."""
    blog_for(here, me, slug)
    done, problems = [], []
    for number in _numbers(ids):
        try:
            (library.restore if act == "restore" else library.set_aside)(here, me, number)
            done.append(number)
        except Refused as error:
            problems.append(str(error))
    verb = "restored" if act == "restore" else "set aside"
    return JSONResponse(
        {"told": " ".join([f"{len(done)} {verb}." if done else "", *problems]).strip(), "done": done}
    )


def _numbers(ids: str) -> list[int]:
    return [int(part) for part in ids.split(",") if part.strip().isdecimal()][:1000]


@router.get(to_library.library_part.at("describe"))
def describe_page(here: Here, me: Me, slug: str, ids: str = "") -> Response:
    """The items named, or else those without a description, to be described one after the other."""
    blog = blog_for(here, me, slug)
    chosen = [row for row in (media.on_blog(here.db, blog.id, number) for number in _numbers(ids)) if row]
    found = chosen or media.find(here.db, blog.id, Wanted(lacks="description"), 200)
    return page(DescribePage(bar_for(here, me, blog, "library"), lines_of(here, found)))
