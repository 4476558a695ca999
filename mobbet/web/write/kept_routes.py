"""Reuse of text: imports, saved blocks and standing copies, splitting, the house style."""

from __future__ import annotations

import json
from dataclasses import asdict
from typing import Annotated, Any

from fastapi import APIRouter, File, UploadFile
from pydantic import BaseModel, Field
from starlette.responses import JSONResponse, Response

from mobbet.actions import imports, kept_blocks, menus, promos
from mobbet.actions.access import blog_for, editable_kept, editable_post, may_edit_kept, readable_kept
from mobbet.actions.fill_in_values import house_fill_ins
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.document.html import Html
from mobbet.core.document.told import told
from mobbet.core.document.write import to_html
from mobbet.core.errors import BadInput
from mobbet.core.front import BLOCKS
from mobbet.core.media.licences import LICENCES
from mobbet.store import kept as kept_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import BringInPage, Choice, KeptLine, KeptPage
from mobbet.web.shell.fields import LongText, Text
from mobbet.web.shell.footprints import in_words
from mobbet.web.shell.rendering import page
from mobbet.web.shell.session import Here, Me
from mobbet.web.write import addresses as to_write
from mobbet.web.write.sheet import sheet_addresses, sheet_facts, sheet_style

router = APIRouter()


class Blocks(BaseModel):
    """Blocks of the sheet, to be kept under a name."""

    name: str = Field(default="", max_length=500)
    blocks: list[dict[str, Any]]


class Cuts(BaseModel):
    """Where a post is to be cut: the indexes of top-level blocks."""

    blocks: list[int]


class Mended(BaseModel):
    """What a split is undone with: the revision of before, and the drafts it made."""

    revision: int
    parts: list[int]


@router.get(to_write.bring_in.route)
def bring_in_page(here: Here, me: Me, slug: str) -> Response:
    return page(BringInPage(bar_for(here, me, blog_for(here, me, slug), "desk")))


@router.post(to_write.bring_in.route)
def bring_in(
    here: Here,
    me: Me,
    slug: str,
    file: Annotated[UploadFile, File()],
    beside: Annotated[list[UploadFile], File()] = [],  # noqa: B006
) -> Response:
    """One file, with the pictures chosen beside it, as one or more drafts."""
    pictures = {one.filename or "": one.file.read() for one in beside}

    def found(src: str) -> bytes | None:
        return pictures.get(src.rpartition("/")[2])

    results = imports.bring_in(here, me, slug, file.filename or "a file", file.file.read(), found)
    facts = imports.report(results)
    for post in facts["posts"]:
        post["address"] = to_write.write(post["id"])
    return JSONResponse(facts)


@router.post(to_write.read_file.route)
def read_file(here: Here, me: Me, slug: str, file: Annotated[UploadFile, File()]) -> Response:
    """A text file dropped on a sheet, as a document, with one line on what came of it."""
    read = imports.read_file(here, me, slug, file.filename or "a file", file.file.read())
    return JSONResponse(
        {
            "document": read.document,
            "told": " ".join([told(read.document, read.dropped), *read.notes]).strip(),
        }
    )


@router.get(to_write.kept.route)
def kept(here: Here, me: Me, slug: str) -> Response:
    return _kept_page(here, me, blog_for(here, me, slug))


@router.post(to_write.kept.route)
def keep(here: Here, me: Me, slug: str, sheet: Blocks) -> Response:
    one = kept_blocks.keep_blocks(here, me, slug, sheet.name, sheet.blocks)
    return JSONResponse({"id": one.id, "name": one.name, "blocks": schema.load(one.body)["content"]})


@router.get(to_write.kept_one.route)
def kept_one(here: Here, me: Me, slug: str, number: int) -> Response:
    blog = blog_for(here, me, slug)
    one = readable_kept(here, blog, number)
    return _kept_page(here, me, blog, number=number, name=one.name, document=schema.load(one.body))


@router.post(to_write.kept_one.route)
def change_kept(
    here: Here, me: Me, slug: str, number: int, name: Text = "", document: LongText = "", act: Text = ""
) -> Response:
    """Shows the footprint of a change, or makes it and publishes."""
    blog = blog_for(here, me, slug)
    editable_kept(here, me, blog, number)
    values: dict[str, Any] = {"number": number, "name": name}
    try:
        typed = values["document"] = _read(document)
        if act == "footprint":
            effect = kept_blocks.footprint_of_change(here, me, slug, number, typed)
            footprint = in_words(effect.pages, category_subjects(here, blog), every=effect.every)
            return _kept_page(here, me, blog, **values, footprint=footprint)
        with changing(here, me) as unit:
            kept_blocks.change_kept(here, me, slug, number, name, typed)
    except BadInput as error:
        if "document" not in values:
            values["document"] = schema.load(readable_kept(here, blog, number).body)
        return _kept_page(here, me, blog, **values, problem=str(error))
    published = unit.published(blog)
    return _kept_page(here, me, blog, **values, message=f"Changed. {published.changed.in_words}")


@router.post(to_write.kept_one.at("remove"))
def remove_kept(here: Here, me: Me, slug: str, number: int, text: Text = "stays") -> Response:
    kept_blocks.remove_kept(here, me, slug, number, text != "goes")
    blog = blog_for(here, me, slug)
    return _kept_page(
        here,
        me,
        blog,
        message="Removed. "
        + ("The posts keep its last text." if text != "goes" else "The posts do not show it any more."),
    )


def _read(text: str) -> dict[str, Any]:
    """The document of the sheet as its script sends it. Raises BadInput."""
    try:
        data = json.loads(text)
    except ValueError:
        raise BadInput(
            "The text of the sheet did not arrive whole; load the page again and repeat the change.",
            "document",
        ) from None
    return schema.check(data)


def _elsewhere(here: Workshop, blog: Blog, number: int) -> str:
    """Where a saved block stands outside of the texts of posts, in words."""
    is_on_front = any(one.kind == BLOCKS and number in one.of for one in menus.present(here, blog).sections)
    is_below = any(rule.block == number for rule in promos.present(here, blog).rules)
    where = [
        words
        for words, holds in (("on the front page", is_on_front), ("below posts by a rule", is_below))
        if holds
    ]
    return f"It stands {' and '.join(where)}." if where else ""


def _kept_page(
    here: Workshop, me: Person, blog: Blog, document: dict[str, Any] | None = None, **values: Any
) -> Response:
    lines = []
    for one in kept_store.every(here.db, blog.id):
        count = len(kept_blocks.reach(here, blog, one.id).posts)
        lines.append(
            KeptLine(
                one.id,
                one.name,
                f"in {count} post{'s' if count != 1 else ''} as standing copy"
                if count
                else "not shown as standing copy",
            )
        )
    number = values.get("number", 0)
    shown = kept_blocks.reach(here, blog, number).posts if number else ()
    posts = tuple((post.title or "No title yet", to_write.write(post.id)) for post in shown)
    may_edit = not number or may_edit_kept(here, me, blog, number)
    if document and may_edit:
        values["room"] = {
            **sheet_facts(here, me, blog, document),
            "post": 0,
            "block": number,
            "fill": [asdict(one) for one in house_fill_ins(blog)],
            "to": sheet_addresses(blog),
        }
        values |= {"sheet_style": sheet_style(here, blog), "limits": here.settings.limits.words}
        values["licences"] = tuple(Choice(one.key, one.words) for one in LICENCES if one.key)
    elif document:
        values["text"] = to_html(document, Html(language=blog.language))
    values["elsewhere"] = _elsewhere(here, blog, number) if number else ""
    return page(
        KeptPage(bar_for(here, me, blog, "desk"), lines, posts=posts, may_edit=may_edit, **values),
        422 if values.get("problem") else 200,
    )


@router.post(to_write.split.route)
def split(here: Here, me: Me, post_id: int, cuts: Cuts) -> Response:
    post, _ = editable_post(here, me, post_id)
    parts = kept_blocks.split_post(here, me, post_id, cuts.blocks)
    return JSONResponse(
        {"parts": [part.id for part in parts[1:]], "revision": post.revision, "count": len(parts)}
    )


@router.post(to_write.split_undo.route)
def undo_split(here: Here, me: Me, post_id: int, mended: Mended) -> Response:
    kept_blocks.undo_split(here, me, post_id, mended.revision, mended.parts)
    return JSONResponse({})
