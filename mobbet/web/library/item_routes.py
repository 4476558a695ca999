"""One item of the library: its page, its files for the blog's own people, and its actions."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Depends, Request, UploadFile
from pydantic import BaseModel
from starlette.responses import FileResponse, JSONResponse, Response

from mobbet.actions import library, post_states, replacing
from mobbet.actions.access import may_edit_item, readable_item
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.document.from_files import text_of
from mobbet.core.errors import BadInput, NotAllowed, NotFound, Refused
from mobbet.core.media import captions, recipes
from mobbet.core.media.kinds import FILE, SOUND, VIDEO
from mobbet.core.media.licences import LICENCES
from mobbet.core.states import WORDS
from mobbet.media import pictures, recordings
from mobbet.services.stand_ins.videos import BY_ADDRESS
from mobbet.store import media, posts
from mobbet.store.media import Media, Wanted
from mobbet.store.people import Person
from mobbet.web.library import addresses as to_library
from mobbet.web.library.contexts import ItemPage, ReachShown
from mobbet.web.library.item_lines import facts_words, lines_of
from mobbet.web.library.routes import told
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice, StandInFrame
from mobbet.web.shell.fields import AnyForm, LongText, Text
from mobbet.web.shell.rendering import page
from mobbet.web.shell.security import ALONE_POLICY, DRAWING_POLICY
from mobbet.web.shell.session import Here, Me
from mobbet.web.write import addresses as to_write

router = APIRouter()
SAID = ("name", "alt", "caption", "credit", "licence", "source", "labels", "transcript")
"""The fields of what is said of an item."""
FRAME_POLICY = "default-src 'none'; style-src 'self'; font-src 'self'; frame-ancestors 'self'"
STRIP_FRAMES = 10
ON_SHEET = 800


class Given(BaseModel):
    """How a picture is to be made of its original."""

    recipe: dict[str, Any]


@router.get(to_library.item.route)
def item(here: Here, me: Me, media_id: int) -> Response:
    return _page(here, me, media_id)


def _page(here: Workshop, me: Person, media_id: int, status: int = 200, **values: Any) -> Response:
    row, blog = readable_item(here, me, media_id)
    recipe = recipes.load(row.recipe)
    shown = [
        post
        for post in (
            posts.on_blog(here.db, blog.id, number)
            for number in media.posts_showing(here.db, row.id, here.clock())
        )
        if post
    ]
    uses = [
        (post.title or "No title yet", to_write.write(post.id), WORDS[post_states.state_of(here, post)])
        for post in shown
    ]
    is_picture = row.kind == "picture" and row.type != "image/svg+xml"
    facts = [
        ("Kind and size", facts_words(row)),
        ("Taken", row.taken.replace("T", " ")),
        ("Camera", row.camera),
        ("Place", row.place),
    ]
    facts += [
        ("Loudness", f"{row.loudness:g} dB" if row.loudness is not None else ""),
        ("Came from", row.source),
    ]
    context = ItemPage(
        bar=bar_for(here, me, blog, "library"), line=lines_of(here, [row])[0], values=_values(row), facts=[fact for fact in facts if fact[1]],
        licences=[Choice(one.key, one.words, one.key == row.licence) for one in LICENCES], uses=uses, kept=media.kept_showing(here.db, blog.id, row.id),
        state=row.state, is_aside=row.aside_at is not None, is_picture=is_picture, has_camera=bool(row.taken or row.camera or row.place),
        may_edit=may_edit_item(here, me, row.id), said=_said(row),
        editing=_editing(row, recipe) if is_picture else {}, frames=_frames(row), captions=captions.as_lines(captions.read(row.captions)) if row.captions else "",
        others=[(other.id, other.name) for other in media.find(here.db, blog.id, Wanted(kind=row.kind), 100) if other.id != row.id],
        **values,
    )  # fmt: skip
    return page(context, status)


def _said(row: Media) -> list[tuple[str, str]]:
    """(what, words) of all that is said of an item, but for its name and source, which its page tells anyway."""
    licence = next((one.words for one in LICENCES if one.key == row.licence), "")
    pairs = [
        ("Described as", row.alt),
        ("Caption", row.caption),
        ("Credit", row.credit),
        ("Licence", licence),
        ("Labels", ", ".join(row.labels)),
        ("Transcript", row.transcript),
    ]
    return [pair for pair in pairs if pair[1]]


def _values(row: Media) -> dict[str, str]:
    return {
        "name": row.name, "alt": row.alt, "caption": row.caption, "credit": row.credit, "source": row.source,
        "labels": ", ".join(row.labels), "transcript": row.transcript,
    }  # fmt: skip


def _editing(row: Media, recipe: recipes.Recipe) -> dict[str, Any]:
    """What the editing canvas begins with."""
    return {
        "recipe": json.loads(recipe.kept()), "width": row.width, "height": row.height, "isMoving": bool(row.is_moving) or row.kind == "video",
        "canvas": to_library.item(row.id, "canvas"), "cuts": to_library.item(row.id, "cuts"), "save": to_library.item(row.id, "recipe"), "state": to_library.item(row.id, "state"),
        "uses": {name: {"words": use.words, "shape": use.shape} for name, use in recipes.USES.items()},
        "shapes": {**recipes.SHAPES, "as the lead, 16:9": 16 / 9}, "mostStraightening": recipes.MOST_STRAIGHTENING,
    }  # fmt: skip


def _frames(row: Media) -> list[tuple[float, str, bool]]:
    """(second, address, whether it is the poster) of the frames one may choose the poster from."""
    if row.kind != "video" or row.state == "failed":
        return []
    steps = [round(row.seconds * at / STRIP_FRAMES, 2) for at in range(STRIP_FRAMES)]
    seconds = sorted({*steps, row.poster_second})
    return [
        (second, f"{to_library.item(row.id, 'frame')}?second={second:g}", second == row.poster_second)
        for second in seconds
    ]


def typed_in(form: AnyForm) -> dict[str, str]:
    """The fields of a form as they were typed, also those that were emptied."""
    return {name: value for name, value in form.items() if isinstance(value, str) and name in SAID}


@router.post(to_library.item.route)
def describe(
    request: Request, here: Here, me: Me, media_id: int, about: Annotated[dict[str, str], Depends(typed_in)]
) -> Response:
    """Keeps what is said of an item; fields that were not sent stay as they are."""
    if request.headers.get("accept", "").startswith("application/json"):
        row = library.describe(here, me, media_id, **about)
        here.on_change()
        return JSONResponse({"told": f"“{row.name}” is kept."})
    return _done(
        here, me, media_id, lambda: library.describe(here, me, media_id, **about), "Kept.", typed=about
    )


def _done(
    here: Workshop,
    me: Person,
    media_id: int,
    act: Callable[[], object],
    message: str,
    typed: dict[str, str] | None = None,
) -> Response:
    """The item's page after something was done with it; a problem is told there, and what was typed is kept."""
    try:
        act()
    except (NotAllowed, NotFound):
        raise
    except Refused as error:
        return _page(
            here,
            me,
            media_id,
            422,
            problem=str(error),
            problem_field=getattr(error, "field", ""),
            typed=typed or {},
        )
    here.on_change()
    return _page(here, me, media_id, message=message)


@router.get(to_library.item.at("state"))
def state(here: Here, me: Me, media_id: int) -> Response:
    """How far the work on an item is."""
    row, _ = readable_item(here, me, media_id)
    return JSONResponse(told(here, row))


@router.post(to_library.item.at("recipe"))
def set_recipe(here: Here, me: Me, media_id: int, given: Given) -> Response:
    return JSONResponse(told(here, library.set_recipe(here, me, media_id, given.recipe)))


@router.post(to_library.item.at("cuts"))
def cuts(here: Here, me: Me, media_id: int, given: Given) -> Response:
    """The cut of each use for a recipe, as parts of the cropped picture, and the size of that picture."""
    row, _ = readable_item(here, me, media_id)
    recipe = recipes.read(given.recipe)
    width, height = recipes.cropped_size(row.width, row.height, recipe)
    return JSONResponse(
        {
            "width": width,
            "height": height,
            "cuts": {use: recipes.cut(use, width, height, recipe) for use in recipes.USES},
        }
    )


@router.get(to_library.item.at("canvas"))
def canvas(here: Here, me: Me, media_id: int) -> Response:
    """The upright original for the editing canvas; of a video, its poster's frame."""
    row, _ = readable_item(here, me, media_id)
    path, type = here.media.path(row.hash), row.type
    with here.looking:
        if row.kind == "video":
            return Response(
                recordings.frame_at(path, row.name, row.poster_second),
                media_type="image/png",
                headers={"Cache-Control": "no-cache"},
            )
        return Response(
            pictures.as_shown(path, type, row.name, here.settings.limits),
            media_type="image/webp",
            headers={"Cache-Control": "private, max-age=86400"},
        )


@router.get(to_library.item.at("frame"))
def frame(here: Here, me: Me, media_id: int, second: float = 0.0) -> Response:
    """A small frame of a video, to choose the poster from."""
    row, _ = readable_item(here, me, media_id)
    with here.looking:
        body = pictures.small_jpeg(
            recordings.frame_at(here.media.path(row.hash), row.name, min(max(0.0, second), row.seconds))
        )
    return Response(body, media_type="image/jpeg", headers={"Cache-Control": "private, max-age=86400"})


@router.post(to_library.item.at("poster"))
def set_poster(here: Here, me: Me, media_id: int, second: Text = "") -> Response:
    return _done(
        here,
        me,
        media_id,
        lambda: library.set_poster(here, me, media_id, second),
        "The poster is being made of this frame.",
    )


@router.post(to_library.item.at("captions"))
def set_captions(
    here: Here, me: Me, media_id: int, text: LongText = "", file: UploadFile | None = None
) -> Response:
    """Captions written line by line, or uploaded as WebVTT or SubRip."""
    given = text_of(file.file.read(2_000_000)) if file is not None and file.filename else text
    return _done(
        here,
        me,
        media_id,
        lambda: library.set_captions(here, me, media_id, given),
        "The captions are kept.",
        typed={"captions": given},
    )


@router.post(to_library.item.at("forget-camera"))
def forget_camera(here: Here, me: Me, media_id: int) -> Response:
    return _done(
        here,
        me,
        media_id,
        lambda: library.forget_camera(here, me, media_id),
        "What the camera noted is forgotten.",
    )


@router.post(to_library.item.at("aside"))
def set_aside(here: Here, me: Me, media_id: int) -> Response:
    return _done(
        here,
        me,
        media_id,
        lambda: library.set_aside(here, me, media_id),
        "Set aside; it can be restored here.",
    )


@router.post(to_library.item.at("restore"))
def restore(here: Here, me: Me, media_id: int) -> Response:
    return _done(here, me, media_id, lambda: library.restore(here, me, media_id), "Restored.")


@router.post(to_library.item.at("replace"))
def replace(here: Here, me: Me, media_id: int, other: Text = "", act: Text = "") -> Response:
    """Shows the footprint of replacing an item everywhere, or replaces it and publishes."""
    number = int(other) if other.isdecimal() else 0
    try:
        if act == "replace":
            _, blog = readable_item(here, me, media_id)
            with changing(here, me) as unit:
                reach = replacing.replace(here, me, media_id, number)
            written = unit.published(blog).written
            told_of = f"Replaced in {_count(len(reach.posts), 'post')}. {_count(written, 'page')} of the site changed."
            return _page(here, me, media_id, message=told_of)
        reach = replacing.footprint(here, me, media_id, number)
    except (BadInput, NotFound) as error:
        return _page(
            here, me, media_id, 422, problem=str(error), problem_field="other", typed={"other": other}
        )
    shown = ReachShown(
        number,
        [(post.title or "No title yet", to_write.write(post.id)) for post in reach.posts],
        reach.placed,
        reach.kept,
        reach.pages,
    )
    return _page(here, me, media_id, reach=shown)


def _count(number: int, what: str) -> str:
    return f"{number} {what}{'s' if number != 1 else ''}"


@router.get(to_library.item.at("original"))
def original(here: Here, me: Me, media_id: int) -> Response:
    """The very bytes that were brought in."""
    row, _ = readable_item(here, me, media_id)
    return _download(here, row)


def _download(here: Workshop, row: Media) -> Response:
    return FileResponse(
        here.media.path(row.hash),
        media_type="application/octet-stream",
        filename=row.name,
        headers={"Content-Security-Policy": ALONE_POLICY},
    )


@router.get(to_library.item.at("play"))
def play(here: Here, me: Me, media_id: int) -> Response:
    """The sound or video that readers play, once it is made; a file to download as such."""
    row, _ = readable_item(here, me, media_id)
    if row.kind == FILE:
        return _download(here, row)
    file = next(
        (
            file
            for file in media.files(here.db, row.id)
            if file.use == row.kind and row.kind in (SOUND, VIDEO)
        ),
        None,
    )
    if file is None:
        raise NotFound(f"“{row.name}” is not ready to be played; it is once Mobbet has made its copy.")
    return FileResponse(
        here.media.path(file.hash), media_type=file.type, headers={"Cache-Control": "private, no-cache"}
    )


@router.get(to_library.item.at("captions.vtt"))
def captions_file(here: Here, me: Me, media_id: int) -> Response:
    row, _ = readable_item(here, me, media_id)
    return Response(row.captions or "WEBVTT\n", media_type="text/vtt")


@router.get(to_library.picture.route)
def picture(request: Request, here: Here, me: Me, media_id: int, use: str = "whole") -> Response:
    """A picture for the sheet and the library's screen, to people who work on its blog."""
    row, _ = readable_item(here, me, media_id)
    files = media.files(here.db, media_id)
    found = [file for file in files if file.use == use] or [file for file in files if file.use == "whole"]
    found = [file for file in found if file.type == "image/webp"] or found
    if not found:
        raise NotFound(f"“{row.name}” has no picture yet.")
    file = next(
        (file for file in sorted(found, key=lambda file: file.width) if file.width >= ON_SHEET),
        max(found, key=lambda file: file.width),
    )
    etag = f'"{file.hash[:24]}"'
    headers = {
        "Cache-Control": "private, no-cache",
        "ETag": etag,
        **({"Content-Security-Policy": DRAWING_POLICY} if file.type == "image/svg+xml" else {}),
    }
    if request.headers.get("if-none-match") == etag:
        return Response(status_code=304, headers=headers)
    return Response(here.media.read(file.hash), media_type=file.type, headers=headers)


@router.get(to_library.stand_in_frame.route)
def stand_in_frame(host: Literal["reel", "quay"], name: str) -> Response:
    """The frame of a made-up provider, which plays nothing and says so."""
    address = f"https://{'reel.example/watch' if host == 'reel' else 'quay-sound.example/listen'}/{name}"
    found = BY_ADDRESS.get(address)
    if found is None:
        raise NotFound("This made-up provider has nothing of that name.")
    return page(
        StandInFrame(found[1], found[2], found[3], "Harbour Reel" if host == "reel" else "Quay Sound"),
        headers={"Content-Security-Policy": FRAME_POLICY},
    )
