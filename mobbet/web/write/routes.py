"""The writing room: saving the text, the lines of the docket, and the base line's actions."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict, replace
from typing import Any

from fastapi import APIRouter, Form, Request
from pydantic import BaseModel, Field
from starlette.responses import HTMLResponse, JSONResponse, Response

from mobbet.actions import (
    alike,
    also_in,
    announcing,
    appearance,
    assigning,
    comments,
    docket_lines,
    kept_blocks,
    letter_rules,
    menus,
    own_look,
    pages,
    posts,
    presence,
    tags,
)
from mobbet.actions.access import editable_post, may_edit_post
from mobbet.actions.fill_in_values import fill_ins
from mobbet.actions.workshop import Workshop
from mobbet.core.comments import CLOSED
from mobbet.core.document import outline, schema
from mobbet.core.errors import BadInput, Conflict, NotAllowed, NotFound, Refused
from mobbet.core.media.licences import LICENCES
from mobbet.core.menu import MENU, Target
from mobbet.store import notes as note_store
from mobbet.store import posts as post_store
from mobbet.store.people import Person
from mobbet.store.posts import Post
from mobbet.web.copies import addresses as to_copies
from mobbet.web.proof import addresses as to_proof
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import Text, Texts
from mobbet.web.shell.rendering import html_of, page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.security import MAY_RECORD
from mobbet.web.shell.session import Here, Me, written_by_another
from mobbet.web.shell.static_files import address_of
from mobbet.web.write import addresses as to_write
from mobbet.web.write.contexts import WritePage
from mobbet.web.write.docket import docket_of
from mobbet.web.write.sheet import first_picture, sheet_addresses, sheet_facts, sheet_style

router = APIRouter()
SHOWN_FIRST = 4
"""So many blocks of a text may show when the room opens."""
FIRST = "Type a title, then your text. “Preview” shows it as readers will see it; “Publish now” puts it on your site."
"""What is said on the sheet of somebody's very first post."""


class Sheet(BaseModel):
    """The sheet's text as the writing surface sends it, upon the revision it began from."""

    base: int = Field(ge=0)
    title: str = Field(default="", max_length=5000)
    subtitle: str = Field(default="", max_length=5000)
    document: dict[str, Any]
    key: str = Field(default="", max_length=80)
    after: list[str] = Field(default=[], max_length=20)
    person: int = 0
    """Who wrote it, where the browser knows: it may have another session by now."""


@router.get(to_write.write.route)
def write(request: Request, here: Here, me: Me, post_id: int, first: str = "") -> Response:
    if not may_edit_post(here, me, post_id):
        return see_other(to_copies.draft(post_id))
    post, blog = editable_post(here, me, post_id)
    if post.home_post:
        return _to_home(here, me, post)
    revision = post_store.working(here.db, post.id)
    document = schema.load(revision.body)
    room: dict[str, Any] = {
        **sheet_facts(here, me, blog, document),
        "post": post.id,
        "person": me.id,
        "revision": revision.number,
        "saved": revision.saved_at,
        "now": here.clock(),
        "fill": [asdict(one) for one in fill_ins(here, post, blog)],
        "to": {**sheet_addresses(blog), **_addresses(post)},
    }
    words = f"{post.words:,} word{'s' if post.words != 1 else ''}" + (
        f" · {outline.reading_time(post.words)}" if post.words else ""
    )
    docket = docket_of(here, post, blog, FIRST if first else "", me=me, server=str(request.base_url))
    return page(
        WritePage(
            bar_for(here, me, blog, "write"),
            replace(docket, with_sheets=False),
            note_store.open_count(here.db, post.id),
            revision.title,
            revision.subtitle,
            words,
            post.revision,
            room,
            here.settings.limits.words,
            [Choice(one.key, one.words) for one in LICENCES if one.key],
            sheet_style(here, blog),
            first_picture(document, room["items"]),
        ),
        headers=MAY_RECORD,
    )


def _to_home(here: Workshop, me: Person, post: Post) -> Response:
    """The room of the post that this one follows. Raises Refused for whoever may not write there."""
    try:
        home, _ = editable_post(here, me, post.home_post or 0)
    except (NotFound, NotAllowed):
        posts.check_home(here, post)
        raise
    return see_other(to_write.write(home.id))


def _addresses(post: Post) -> dict[str, str]:
    """The addresses that the scripts of the room ask about its post."""
    return {
        "split": to_write.split(post.id),
        "compared": to_write.compared(post.id),
        "text": to_write.text(post.id),
        "saver": address_of("saver.js"),
        "over": to_write.text_over(post.id),
        "apart": to_write.text_apart(post.id),
        "notes": to_write.notes(post.id),
        "addNote": to_write.notes(post.id, "add"),
        "note": to_write.note(post.id, "NUMBER", "WHAT"),
        "proof": to_proof.proof(post.id),
        **{part: to_proof.proof(post.id, part) for part in ("stand", "reopen", "learn")},
    }


@router.put(to_write.text.route)
def save(here: Here, me: Me, post_id: int, sheet: Sheet) -> Response:
    """Saves the sheet; 409 with the conflict when the working revision is another one, 401 when somebody else is signed in than wrote it."""
    if sheet.person not in (0, me.id):
        return written_by_another("saved")
    try:
        saved = posts.save_text(
            here,
            me,
            post_id,
            base=sheet.base,
            title=sheet.title,
            subtitle=sheet.subtitle,
            body=sheet.document,
            save_key=sheet.key,
            after=sheet.after,
        )
    except Conflict as error:
        return JSONResponse({"message": str(error), "current": error.current}, status_code=409)
    return JSONResponse(saved.__dict__)


@router.post(to_write.text_over.route)
def save_over(here: Here, me: Me, post_id: int, sheet: Sheet) -> Response:
    """Saves the sheet over the revision named in `base`, which stays kept."""
    try:
        saved = posts.save_over(
            here,
            me,
            post_id,
            over=sheet.base,
            title=sheet.title,
            subtitle=sheet.subtitle,
            body=sheet.document,
        )
    except Conflict as error:
        return JSONResponse({"message": str(error), "current": error.current}, status_code=409)
    return JSONResponse(saved.__dict__)


@router.post(to_write.text_apart.route)
def keep_apart(here: Here, me: Me, post_id: int, sheet: Sheet) -> Response:
    """Keeps the sheet as a draft of its own, and says where it is."""
    copy = posts.keep_as_draft(
        here, me, post_id, title=sheet.title, subtitle=sheet.subtitle, body=sheet.document
    )
    return JSONResponse({"address": to_write.write(copy.id)})


def answer(here: Workshop, me: Person, post_id: int, **more: Any) -> HTMLResponse:
    """The docket, read anew."""
    post, blog = editable_post(here, me, post_id)
    docket = docket_of(here, post, blog, **more, me=me)
    return HTMLResponse(html_of(docket) + html_of(docket.actions))


def attempt(
    here: Workshop, me: Person, post_id: int, sheet: str, change: Any, message: str = "", server: str = ""
) -> HTMLResponse:
    """Makes a change and answers with the docket; with the reason, its sheet still open, when it was refused."""
    try:
        change()
    except Refused as error:
        return answer(here, me, post_id, problem=str(error), problem_sheet=sheet, server=server)
    return answer(here, me, post_id, message=message, server=server)


@router.get(to_write.docket.route)
def docket(request: Request, here: Here, me: Me, post_id: int) -> Response:
    return answer(here, me, post_id, server=str(request.base_url))


@router.post(to_write.presence.route)
def open_now(
    here: Here,
    me: Me,
    post_id: int,
    leaves: Text = "",
    tab: Text = "",
    block: int = Form(-1),
    heading: Text = "",
) -> Response:
    """A writing room says that it is open, or closes; answers with who else has the post open, and whether another tab of the same person has."""
    editable_post(here, me, post_id)
    if leaves:
        presence.leave(here, me, post_id, tab)
    else:
        presence.note(here, me, post_id, tab, block, heading)
    is_mine = presence.in_other_tab(here, me, post_id, tab)
    rooms = presence.rooms(here, post_id, me.id)
    where = [{"name": one.name, "block": one.block, "heading": one.heading} for one in rooms]
    return JSONResponse({"others": presence.on_it(here, post_id, me.id), "where": where, "is_mine": is_mine})


@router.post(to_write.docket.at("language"))
def set_language(here: Here, me: Me, post_id: int, value: Text = "") -> Response:
    return attempt(here, me, post_id, "language", lambda: docket_lines.set_language(here, me, post_id, value))


@router.post(to_write.docket.at("comments"))
def set_comments(here: Here, me: Me, post_id: int, value: Text = "") -> Response:
    return attempt(here, me, post_id, "comments", lambda: comments.close(here, me, post_id, value == CLOSED))


@router.post(to_write.docket.at("kind"))
def set_kind(here: Here, me: Me, post_id: int, value: Text = "") -> Response:
    return attempt(here, me, post_id, "kind", lambda: pages.set_kind(here, me, post_id, value))


@router.post(to_write.docket.at("below"))
def set_below(here: Here, me: Me, post_id: int, value: Text = "") -> Response:
    return attempt(here, me, post_id, "below", lambda: pages.set_below(here, me, post_id, value))


@router.post(to_write.docket.at("author"))
def set_author(
    request: Request, here: Here, me: Me, post_id: int, value: Text = "", wanted_by: Text = ""
) -> Response:
    """Makes somebody else its author; with a day, they have it to write by then."""

    def change() -> None:
        if wanted_by.strip():
            assigning.give(here, me, post_id, value, wanted_by, str(request.base_url))
        else:
            docket_lines.set_author(here, me, post_id, value)

    return attempt(here, me, post_id, "author", change)


@router.post(to_write.docket.at("slug"))
def set_slug(here: Here, me: Me, post_id: int, value: Text = "") -> Response:
    return attempt(here, me, post_id, "slug", lambda: docket_lines.set_slug(here, me, post_id, value))


@router.post(to_write.docket.at("excerpt"))
def set_excerpt(here: Here, me: Me, post_id: int, value: Text = "") -> Response:
    return attempt(
        here, me, post_id, "excerpt", lambda: docket_lines.set_line(here, me, post_id, "excerpt", value)
    )


@router.post(to_write.docket.at("lead"))
def set_lead(here: Here, me: Me, post_id: int, value: Text = "") -> Response:
    """What leads the post: `block:3` of its text, `media:7` of the library in lists alone, or '' for the rule."""
    kind, _, number = value.partition(":")

    def change() -> None:
        if kind == "block" and number.isdecimal():
            appearance.lead_with_block(here, me, post_id, int(number))
        elif kind == "media" and number.isdecimal():
            docket_lines.set_lead_picture(here, me, post_id, int(number))
        else:
            appearance.lead_by_rule(here, me, post_id)

    return attempt(here, me, post_id, "lead", change)


@router.post(to_write.docket.at("description"))
def set_description(here: Here, me: Me, post_id: int, value: Text = "", title: Text = "") -> Response:
    return attempt(
        here, me, post_id, "description", lambda: appearance.set_search(here, me, post_id, title, value)
    )


@router.post(to_write.docket.at("heading"))
def set_heading(here: Here, me: Me, post_id: int, kind: Text = "", part: Texts = []) -> Response:  # noqa: B006
    return attempt(
        here, me, post_id, "heading", lambda: appearance.set_heading(here, me, post_id, kind, part)
    )


@router.post(to_write.docket.at("own-look"))
def set_own_look(
    here: Here, me: Me, post_id: int, paper: Text = "", accent: Text = "", picture: Text = "", act: Text = ""
) -> Response:
    """Gives the post a background, an accent and a picture on top of its own, or has it look like the site."""
    if act == "none":
        paper = accent = picture = ""
    return attempt(
        here,
        me,
        post_id,
        "own-look",
        lambda: own_look.set_own_look(here, me, post_id, paper=paper, accent=accent, picture=picture),
    )


@router.post(to_write.docket.at("announce"))
def set_announced(here: Here, me: Me, post_id: int, value: Text = "") -> Response:
    """Whether the post is announced at the blog's accounts."""
    return attempt(
        here, me, post_id, "announce", lambda: announcing.set_announced(here, me, post_id, value == "none")
    )


@router.post(to_write.docket.at("letter"))
def set_letter(
    here: Here, me: Me, post_id: int, shows: Text = "", subject: Text = "", line: Text = ""
) -> Response:
    """What goes to subscribers about the post."""
    return attempt(
        here, me, post_id, "letter", lambda: letter_rules.set_letter(here, me, post_id, shows, subject, line)
    )


@router.post(to_write.docket.at("sharing"))
def set_sharing(here: Here, me: Me, post_id: int, value: Text = "") -> Response:
    """Whether readers find ways to share the post."""
    return attempt(
        here, me, post_id, "sharing", lambda: docket_lines.set_sharing(here, me, post_id, value == "none")
    )


@router.post(to_write.docket.at("alike"))
def set_alike(here: Here, me: Me, post_id: int, act: Text = "", which: Text = "") -> Response:
    """Which posts like it stand below the post."""
    return attempt(here, me, post_id, "alike", lambda: alike.choose(here, me, post_id, act, which))


@router.post(to_write.docket.at("front"))
def set_front(here: Here, me: Me, post_id: int, front: Text = "") -> Response:
    return attempt(here, me, post_id, "front", lambda: appearance.set_front(here, me, post_id, front))


@router.post(to_write.docket.at("menu"))
def set_menu(here: Here, me: Me, post_id: int, words: Text = "", leaves: Text = "") -> Response:
    """Has the menu lead to a post or page under these words, or no more; readers get it so at once."""

    def change() -> None:
        post, blog = editable_post(here, me, post_id)
        target = Target.of("post", post.id)
        change = menus.without(target, MENU) if leaves else menus.at_address(MENU, target, words)
        menus.give_change(here, me, blog.slug, change)

    return attempt(here, me, post_id, "menu", change)


@router.post(to_write.docket.at("place"))
def set_place(
    here: Here, me: Me, post_id: int, name: Text = "", point: Text = "", map: Text = ""
) -> Response:
    return attempt(
        here, me, post_id, "place", lambda: appearance.set_place(here, me, post_id, name, point, bool(map))
    )


@router.post(to_write.docket.at("categories"))
def set_categories(
    here: Here,
    me: Me,
    post_id: int,
    main: Text = "",
    also: Texts = [],
    new: Text = "",  # noqa: B006
) -> Response:
    return attempt(
        here,
        me,
        post_id,
        "categories",
        lambda: docket_lines.set_categories(here, me, post_id, main, also, new),
    )


@router.post(to_write.docket.at("tags"))
def set_tags(here: Here, me: Me, post_id: int, value: Text = "") -> Response:
    return attempt(here, me, post_id, "tags", lambda: tags.set_tags(here, me, post_id, value))


@router.post(to_write.docket.at("series"))
def set_series(here: Here, me: Me, post_id: int, value: Text = "", place: Text = "") -> Response:
    return attempt(
        here, me, post_id, "series", lambda: kept_blocks.set_series(here, me, post_id, value, place)
    )


@router.post(to_write.docket.at("also-in"))
def set_also_in(
    here: Here, me: Me, post_id: int, blog: Text = "", act: Text = "", category: Text = ""
) -> Response:
    """Has the post stand in another blog as well, files it there, or takes it out again."""
    number = int(category) if category.isascii() and category.isdecimal() and len(category) < 16 else 0
    acts: dict[str, Callable[[], object]] = {
        "add": lambda: also_in.add(here, me, post_id, blog),
        "file": lambda: also_in.file_under(here, me, post_id, blog, number),
        "remove": lambda: also_in.remove(here, me, post_id, blog),
    }
    if act not in acts:
        raise BadInput("Say what to do with the other blog: add, file or remove.", "act")
    return attempt(here, me, post_id, "also-in", acts[act])


@router.post(to_write.template.route)
def set_template(here: Here, me: Me, post_id: int) -> Response:
    """Keeps the post as a template, or makes it a draft again."""
    post, _ = editable_post(here, me, post_id)
    return attempt(
        here, me, post_id, "state", lambda: kept_blocks.set_template(here, me, post_id, not post.is_template)
    )


@router.post(to_write.begin_from.route)
def begin_from(request: Request, here: Here, me: Me, post_id: int) -> Response:
    """A new draft with this post's text."""
    address = to_write.write(kept_blocks.begin_from(here, me, post_id).id)
    if request.headers.get("hx-request") == "true":
        return Response(headers={"HX-Redirect": address})
    return see_other(address)
