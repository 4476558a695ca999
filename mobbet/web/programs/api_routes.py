"""Mobbet's own JSON over HTTP for programs with a token: posts, files, filing, footprints, the timetable; and its OpenAPI description."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any, TypeVar

from fastapi import APIRouter, File, Query, Request, UploadFile
from starlette.responses import JSONResponse, Response

from mobbet.actions import atompub, calendar, footprints, library, program_api, program_posts
from mobbet.actions.atompub import PAGE
from mobbet.actions.micropub import need
from mobbet.core.document.links import media_src
from mobbet.core.errors import MobbetError, NotFound
from mobbet.core.filing import path_in_words
from mobbet.core.programs import token_in
from mobbet.core.timing import iso
from mobbet.store import filing, media
from mobbet.store.media import Media, Wanted
from mobbet.web.programs import addresses as to_programs
from mobbet.web.programs.api_description import open_api
from mobbet.web.programs.api_models import (
    CategoryOut,
    Event,
    Filing,
    Footprint,
    Items,
    MediaIn,
    MediaOut,
    PostIn,
    PostLine,
    PostOut,
    Posts,
    Problem,
    TagOut,
    Timetable,
)  # fmt: skip
from mobbet.web.programs.door import OPEN_TO_BROWSERS, Caller, caller_of, preflight, refused
from mobbet.web.public.routes import OfBlog
from mobbet.web.shell.session import Here

router = APIRouter()
Answer = TypeVar("Answer")
REFUSALS: dict[int | str, dict[str, Any]] = {
    400: {"model": Problem, "description": "what was sent cannot be taken"}, 401: {"model": Problem, "description": "no good token, or one without the scope"},
    403: {"model": Problem, "description": "the person of the token may not do it"}, 404: {"model": Problem, "description": "there is no such thing"},
}  # fmt: skip


def _answered(
    request: Request, here: Here, blog: OfBlog, work: Callable[[Caller], Answer], status: int = 200
) -> Response:
    """The JSON of what a request comes to, or why it is not carried out."""
    try:
        found = work(caller_of(here, blog, token_in(request.headers.get("authorization", ""))))
    except NotFound as error:
        return JSONResponse(
            {"error": "not_found", "error_description": str(error)}, 404, headers=OPEN_TO_BROWSERS
        )
    except MobbetError as error:
        return refused(error)
    if found is None:
        return Response(status_code=204, headers=OPEN_TO_BROWSERS)
    return JSONResponse(
        found.model_dump() if hasattr(found, "model_dump") else found, status, headers=OPEN_TO_BROWSERS
    )


@router.get(
    to_programs.api_posts.route,
    response_model=Posts,
    responses=REFUSALS,
    tags=["posts"],
    summary="List posts",
)
def list_posts(
    request: Request, here: Here, blog: OfBlog, before: Annotated[str, Query(max_length=40)] = ""
) -> Response:
    """Those that were changed last come first. Scope: `read`."""

    def work(caller: Caller) -> Posts:
        need(caller.grant, "read")
        at, _, number = before.partition("-")
        start = (int(at), int(number)) if before.isascii() and at.isdecimal() and number.isdecimal() else None
        found = atompub.listed(caller.here, caller.grant, start)
        lines = [PostLine(**program_api.line(caller.here, caller.grant, post)) for post in found[:PAGE]]
        return Posts(
            posts=lines,
            next=f"{found[PAGE - 1].changed_at}-{found[PAGE - 1].id}" if len(found) > PAGE else None,
        )

    return _answered(request, here, blog, work)


@router.post(
    to_programs.api_posts.route,
    response_model=PostOut,
    status_code=201,
    responses=REFUSALS,
    tags=["posts"],
    summary="Make a post",
)
def make_post(request: Request, here: Here, blog: OfBlog, body: PostIn) -> Response:
    """A draft, or with `state` out a post that goes out. Scope: `create`, or `draft` for drafts alone."""

    def work(caller: Caller) -> PostOut:
        wanted = body.model_dump(exclude_none=True)
        if not caller.grant.has("create"):
            wanted["state"] = "draft"
        post, waits = program_api.write(caller.here, caller.grant, None, wanted)
        return PostOut(**program_api.whole(caller.here, caller.grant, post, waits))

    return _answered(request, here, blog, work, 201)


@router.get(
    to_programs.api_post.route,
    response_model=PostOut,
    responses=REFUSALS,
    tags=["posts"],
    summary="Get a post with its text",
)
def get_post(request: Request, here: Here, blog: OfBlog, number: int) -> Response:
    """Scope: `read`."""

    def work(caller: Caller) -> PostOut:
        need(caller.grant, "read")
        return PostOut(
            **program_api.whole(
                caller.here, caller.grant, atompub.post_by_number(caller.here, caller.grant, number)
            )
        )

    return _answered(request, here, blog, work)


@router.patch(
    to_programs.api_post.route,
    response_model=PostOut,
    responses=REFUSALS,
    tags=["posts"],
    summary="Change a post",
)
def change_post(request: Request, here: Here, blog: OfBlog, number: int, body: PostIn) -> Response:
    """What is out is updated with it. Scope: `update`."""

    def work(caller: Caller) -> PostOut:
        need(caller.grant, "update")
        post = atompub.post_by_number(caller.here, caller.grant, number)
        post, waits = program_api.write(caller.here, caller.grant, post, body.model_dump(exclude_none=True))
        return PostOut(**program_api.whole(caller.here, caller.grant, post, waits))

    return _answered(request, here, blog, work)


@router.delete(
    to_programs.api_post.route,
    status_code=204,
    responses=REFUSALS,
    tags=["posts"],
    summary="Take a post off the site and set it aside",
)
def remove_post(request: Request, here: Here, blog: OfBlog, number: int) -> Response:
    """It can be brought back. Scope: `delete`."""

    def work(caller: Caller) -> None:
        need(caller.grant, "delete")
        program_posts.remove(
            caller.here, caller.grant, atompub.post_by_number(caller.here, caller.grant, number)
        )

    return _answered(request, here, blog, work)


@router.get(
    to_programs.api_footprint.route,
    response_model=Footprint,
    responses=REFUSALS,
    tags=["posts"],
    summary="What would change if a post went out",
)
def footprint(request: Request, here: Here, blog: OfBlog, number: int) -> Response:
    """Nothing is changed. Scope: `read`."""

    def work(caller: Caller) -> Footprint:
        need(caller.grant, "read")
        post = atompub.post_by_number(caller.here, caller.grant, number)
        return Footprint(
            **{
                name: value
                for name, value in footprints.sorted_out(
                    footprints.effect_of_placing(caller.here, caller.grant.person, blog, post.id).pages
                ).items()
                if name != "changed"
            }
        )

    return _answered(request, here, blog, work)


@router.get(
    to_programs.api_items.route,
    response_model=Items,
    responses=REFUSALS,
    tags=["media"],
    summary="Find files of the library",
)
def list_items(
    request: Request,
    here: Here,
    blog: OfBlog,
    words: Annotated[str, Query(max_length=200)] = "",
    start: Annotated[int, Query(ge=0, le=100_000)] = 0,
) -> Response:
    """The newest first. Scope: `read` or `media`."""

    def work(caller: Caller) -> Items:
        need(caller.grant, "read", "media")
        return Items(
            items=[_item(one) for one in media.find(here.db, blog.id, Wanted(words=words), PAGE, start)]
        )

    return _answered(request, here, blog, work)


def _item(item: Media) -> MediaOut:
    names = ("id", "name", "kind", "state", "alt", "caption", "credit", "width", "height", "bytes")
    return MediaOut(src=media_src(item.id), **{name: getattr(item, name) for name in names})


@router.post(
    to_programs.api_items.route,
    response_model=MediaOut,
    status_code=201,
    responses=REFUSALS,
    tags=["media"],
    summary="Add a file",
)
def add_item(request: Request, here: Here, blog: OfBlog, file: Annotated[UploadFile, File()]) -> Response:
    """A picture, sound, video or PDF, as the part `file` of a form. Scope: `media`."""

    def work(caller: Caller) -> MediaOut:
        need(caller.grant, "media")
        return _item(
            library.add_stream(caller.here, caller.grant.person, blog, file.filename or "file", file.file)
        )

    return _answered(request, here, blog, work, 201)


@router.patch(
    to_programs.api_item.route,
    response_model=MediaOut,
    responses=REFUSALS,
    tags=["media"],
    summary="Say what a file shows",
)
def describe_item(request: Request, here: Here, blog: OfBlog, number: int, body: MediaIn) -> Response:
    """Scope: `media`."""

    def work(caller: Caller) -> MediaOut:
        need(caller.grant, "media")
        item = atompub.item_by_number(caller.here, caller.grant, number)
        return _item(
            library.describe(caller.here, caller.grant.person, item.id, **body.model_dump(exclude_none=True))
        )

    return _answered(request, here, blog, work)


@router.get(
    to_programs.api_filing.route,
    response_model=Filing,
    responses=REFUSALS,
    tags=["filing"],
    summary="Categories and tags",
)
def get_filing(request: Request, here: Here, blog: OfBlog) -> Response:
    """Scope: any that writes, or `read`."""

    def work(caller: Caller) -> Filing:
        need(caller.grant, "read", "create", "draft", "update")
        subjects = filing.subjects(here.db, blog.id)
        slugs = {one.id: one.slug for one in filing.categories(here.db, blog.id)}
        return Filing(
            categories=[
                CategoryOut(id=number, path=path_in_words(subjects, number), slug=slugs[number])
                for number in subjects
            ],
            tags=[
                TagOut(name=one.name, posts=one.posts) for one in filing.tag_counts(caller.here.db, blog.id)
            ],
        )

    return _answered(request, here, blog, work)


@router.get(
    to_programs.api_timetable.route,
    response_model=Timetable,
    responses=REFUSALS,
    tags=["timetable"],
    summary="What goes out and comes down",
)
def get_timetable(request: Request, here: Here, blog: OfBlog) -> Response:
    """Scope: `read`."""

    def work(caller: Caller) -> Timetable:
        need(caller.grant, "read")
        now = here.clock()
        found = calendar.happenings(caller.here, blog, now - calendar.BACK, now + calendar.AHEAD)
        return Timetable(
            zone=blog.zone,
            events=[
                Event(what=one.what, instant=iso(one.instant), post=one.post or None, title=one.title)
                for one in found
            ],
        )

    return _answered(request, here, blog, work)


@router.get(to_programs.api_description.route, include_in_schema=False)
def description(blog: OfBlog) -> Response:
    """The OpenAPI description of this blog's interface."""
    return JSONResponse(open_api(router, f"{blog.home.rstrip('/')}/~"), headers=OPEN_TO_BROWSERS)


@router.options(to_programs.api_posts.route, include_in_schema=False)
@router.options(to_programs.api_post.route, include_in_schema=False)
@router.options(to_programs.api_items.route, include_in_schema=False)
@router.options(to_programs.api_item.route, include_in_schema=False)
def may_ask() -> Response:
    return preflight()
