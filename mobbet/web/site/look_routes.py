"""How a blog's site looks: what is tried, whether it can be read, and giving it to readers."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, File, UploadFile
from starlette.responses import Response

from mobbet.actions import looks, moments, preview_readers
from mobbet.actions.access import blog_for, owned_blog
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.house import LOOK
from mobbet.core.look.begun import BEGUN, begun_look
from mobbet.core.look.check import remedies
from mobbet.core.look.choices import NUMBERS, PICTURES
from mobbet.core.look.look import LARGEST, Look, look_file, look_text, read_look_file
from mobbet.core.screen_dates import day_in_words
from mobbet.publish.look_style import sheet_style
from mobbet.store import blogs
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.fields import Text
from mobbet.web.shell.rendering import looked_response, page
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import Here, Me
from mobbet.web.site import addresses as to_site
from mobbet.web.site.library_choices import pictures_of
from mobbet.web.site.look_contexts import BegunLook, LookPage, View
from mobbet.web.site.look_view import bars, pair_line, remedy_line, sentences, thumb, veil_line
from mobbet.web.site.part_effect import effect_of_part

router = APIRouter()
PAGES = {"front": "the front page", "post": "a post", "archive": "the archive"}
MODES = {"light": "daylight", "dark": "the dark"}
WHICH = {"tried": "it would be", "given": "it is out", "both": "it would be, beside what is out"}
SEES = {
    "": "most people see it", "red": "people see it who lack red", "green": "people see it who lack green",
    "blue": "people see it who lack blue", "none": "people see it who see no colours", "large": "it is with letters twice as large",
}  # fmt: skip
TOLD = {
    "given": "Readers have this look now.",
    "back": "The trial is over; you see what readers have.",
    "undone": "Readers have the look before again.",
}


@router.get(to_site.look.route)
def show(
    here: Here, me: Me, slug: str, page: str = "front", mode: str = "light", which: str = "tried", sees: str = "", told: str = ""
) -> Response:  # fmt: skip
    chosen = {"page": page, "mode": mode, "which": which, "sees": sees}
    return _page(here, me, owned_blog(here, me, slug), chosen, told=TOLD.get(told, ""))


def _page(
    here: Workshop,
    me: Person,
    blog: Blog,
    chosen: dict[str, str] | None = None,
    status: int = 200,
    **more: Any,
) -> Response:
    look, found = looks.present(here, blog), looks.listed(here, blog)[:1]
    measured, over = looks.measured(here, blog, look), looks.over_picture(here, blog, look)
    wrong = [one for one in measured if not one.holds]
    since = day_in_words(found[0].given_at if found else blog.made_at, blog.zone)
    begun = [(name, read_look_file(begun_look(name))) for name in BEGUN]
    context = LookPage(
        bar_for(here, me, blog, "site"),
        sentences(look, wrong, pictures_of(here, blog)),
        [BegunLook(name, one.name, thumb(one), one == look) for name, one in begun],
        bars(measured),
        len(wrong),
        [
            *([veil_line(over)] if over and not over.checked.holds else []),
            *(remedy_line(one) for one in remedies(look)),
        ],
        [pair_line(one) for one in measured],
        _view(here, blog, chosen or {}),
        looks.tried(here, blog) is not None,
        since,
        looks.before(here, blog) is not None,
        [Choice(one.slug, one.name) for one in blogs.of_person(here.db, me.id) if one.id != blog.id],
        **more,
    )
    return page(context, status)


def _view(here: Workshop, blog: Blog, asked: dict[str, str]) -> View:
    known = {"page": PAGES, "mode": MODES, "which": WHICH, "sees": SEES}
    usual = {"page": "front", "mode": "light", "which": "tried", "sees": ""}
    chosen = {name: asked[name] if asked.get(name) in words else usual[name] for name, words in known.items()}
    path = {"front": "/", "post": _post_path(here, blog), "archive": "/archive/"}[chosen["page"]]
    offered = {
        name: [Choice(value, told, value == chosen[name]) for value, told in words.items()]
        for name, words in known.items()
    }
    shown = ("given", "tried") if chosen["which"] == "both" else (chosen["which"],)
    frames = tuple(
        (
            f"{PAGES[chosen['page']]}, as {WHICH[which]}",
            to_site.look_site(blog.slug, which, chosen["mode"], path),
        )
        for which in shown
    )
    return View(**offered, wide=frames, narrow=frames[-1][1], chosen=chosen)


def _post_path(here: Workshop, blog: Blog) -> str:
    """The newest post that everybody may read; the front page where there is none."""
    return looks.newest_path(here, blog) or "/"


@router.get(to_site.look_site.route)
def look_site(here: Here, me: Me, slug: str, which: str, mode: str, path: str) -> Response:
    """Any page of the site as it looks with what is tried, or with what is out."""
    blog = blog_for(here, me, slug)
    if which not in ("tried", "given") or mode not in MODES:
        raise NotFound("There is no such view of the site.")
    look = looks.present(here, blog) if which == "tried" else looks.given(here, blog)
    root = to_site.look_site(slug, which, mode, "")
    reader = preview_readers.reader_as(here, me, blog, "everyone")
    found = moments.look(
        here, blog, path, here.clock(), reader, f"{root}/", {LOOK: look_text(look.in_mode(mode))}
    )
    if found.leads_to:
        return Response(
            status_code=307,
            headers={"Location": found.leads_to if "://" in found.leads_to else root + found.leads_to},
        )
    return looked_response(found)


@router.post(to_site.look.at("set"))
def set_value(here: Here, me: Me, slug: str, where: Text = "", value: Text = "") -> Response:
    """Has the look tried with another value at one place."""
    return _tried(here, me, slug, lambda: _set(here, me, slug, where, value))


def _set(here: Workshop, me: Person, slug: str, where: str, value: str) -> None:
    mode, _, name = where.partition(".")
    if where == "dark":
        look = looks.present(here, owned_blog(here, me, slug))
        looks.try_look(
            here, me, slug, look.model_copy(update={"dark": look.in_dark if value == "chosen" else None})
        )
    elif mode in MODES:
        looks.try_colour(here, me, slug, mode, name, value)
    elif where in PICTURES:
        looks.try_picture(
            here,
            me,
            slug,
            where,
            int(value) if value.isascii() and value.isdecimal() and len(value) < 16 else -1,
        )
    elif where in NUMBERS:
        looks.try_change(here, me, slug, where, _whole(value, where))
    else:
        looks.try_change(here, me, slug, where, value)


def _whole(text: str, where: str) -> int:
    least, most, _ = NUMBERS[where]
    if not text.strip().isdecimal() or len(text) > 4 or not least <= int(text) <= most:
        raise BadInput(
            f"“{text[:20]}” cannot be set here; write a whole number from {least} to {most}.", where
        )
    return int(text)


def _tried(here: Workshop, me: Person, slug: str, act: Any) -> Response:
    try:
        act()
    except BadInput as error:
        return _page(here, me, owned_blog(here, me, slug), status=422, problem=str(error))
    return see_other(to_site.look(slug))


@router.post(to_site.look.at("begin"))
def begin(here: Here, me: Me, slug: str, name: Text = "") -> Response:
    """Has one of the looks to begin from tried."""
    return _tried(here, me, slug, lambda: looks.try_begun(here, me, slug, name))


@router.post(to_site.look.at("copy"))
def copy(here: Here, me: Me, slug: str, blog: Text = "") -> Response:
    """Has the look of another of the person's blogs tried."""
    return _tried(
        here,
        me,
        slug,
        lambda: looks.try_look(
            here, me, slug, looks.given(here, blog_for(here, me, blog)).without_pictures()
        ),
    )


@router.post(to_site.look.at("read"))
async def read(here: Here, me: Me, slug: str, file: Annotated[UploadFile | None, File()] = None) -> Response:
    """Has the look of a file tried."""
    raw = await file.read(LARGEST + 1) if file else b""
    return _tried(here, me, slug, lambda: looks.try_look(here, me, slug, _look_in(raw)))


def _look_in(raw: bytes) -> Look:
    if not raw:
        raise BadInput("No file came; choose a file of a look.", "file")
    try:
        return read_look_file(raw.decode())
    except UnicodeDecodeError:
        raise BadInput(
            "This is no text in UTF-8; a look is a file that “Save to a file” wrote.", "file"
        ) from None


@router.get(to_site.look.at("file"))
def save(here: Here, me: Me, slug: str) -> Response:
    """The look as a file."""
    blog = owned_blog(here, me, slug)
    headers = {
        "content-disposition": f'attachment; filename="{blog.slug}-look.json"',
        "cache-control": "no-store",
    }
    return Response(look_file(looks.present(here, blog)), media_type="application/json", headers=headers)


@router.get(to_site.look.at("sheet.css"))
def sheet(here: Here, me: Me, slug: str) -> Response:
    """The letters of the look that readers have, for the writing surface."""
    style = sheet_style(looks.given(here, blog_for(here, me, slug)), to_shell.static)
    return Response(style, media_type="text/css", headers={"cache-control": "private, no-cache"})


@router.post(to_site.look.at("put-back"))
def put_back(here: Here, me: Me, slug: str) -> Response:
    looks.put_back(here, me, slug)
    return see_other(to_site.look(slug, told="back"))


@router.post(to_site.look.at("undo"))
def undo(here: Here, me: Me, slug: str) -> Response:
    """Gives readers the look that they had before."""
    return _given(here, me, slug, "", lambda: looks.undo_given(here, me, slug), "undone")


@router.post(to_site.look.at("give"))
def give(here: Here, me: Me, slug: str, reason: Text = "") -> Response:
    return _given(here, me, slug, reason, lambda: looks.give(here, me, slug, reason), "given")


def _given(here: Workshop, me: Person, slug: str, reason: str, act: Any, told: str) -> Response:
    try:
        act()
    except Refused as error:
        return _page(here, me, owned_blog(here, me, slug), status=422, problem=str(error), reason=reason)
    return see_other(to_site.look(slug, told=told))


@router.get(to_site.look.at("effect"))
def effect(here: Here, me: Me, slug: str) -> Response:
    """How many pages giving the tried look alters, for the main action."""
    return effect_of_part(lambda: looks.effect(here, me, slug), ": every page, by its style sheet")
