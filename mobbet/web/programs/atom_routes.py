"""The Atom Publishing Protocol (RFC 5023): collections of posts and of files, for programs with a token."""

from __future__ import annotations

import io
import mimetypes
from collections.abc import Callable
from urllib.parse import unquote

from fastapi import APIRouter, Request
from starlette.concurrency import run_in_threadpool
from starlette.responses import Response

from mobbet.actions import atompub, library, micropub
from mobbet.actions.atompub import PAGE, etag_of, member_of, member_of_item, root
from mobbet.actions.workshop import Workshop
from mobbet.core.atompub import (
    CATEGORIES_TYPE,
    ENTRY_ACCEPTED,
    ENTRY_TYPE,
    FEED_TYPE,
    MEDIA_ACCEPTED,
    SERVICE_TYPE,
    Link,
    Member,
    categories_document,
    entry_document,
    feed_document,
    read_entry,
    service_document,
)  # fmt: skip
from mobbet.core.errors import MobbetError, NotFound
from mobbet.core.micropub import NotTaken, invalid
from mobbet.core.programs import token_in
from mobbet.core.timing import iso
from mobbet.store.blogs import Blog
from mobbet.web.programs import addresses as to_programs
from mobbet.web.programs.door import OPEN_TO_BROWSERS, Caller, caller_of, preflight, refused
from mobbet.web.public.routes import OfBlog
from mobbet.web.shell.session import Here

router = APIRouter()


async def _answered(
    request: Request, here: Workshop, blog: Blog, work: Callable[[Caller], Response]
) -> Response:
    def do() -> Response:
        return work(caller_of(here, blog, token_in(request.headers.get("authorization", ""))))

    try:
        answer = await run_in_threadpool(do)
    except NotFound as error:
        answer = Response(f"{error}\n", 404, media_type="text/plain")
    except MobbetError as error:
        answer = refused(error)
        if answer.status_code == 401:
            answer.headers["www-authenticate"] = (
                'Basic realm="Mobbet: a token as the password", ' + answer.headers["www-authenticate"]
            )
    for name, value in OPEN_TO_BROWSERS.items():
        answer.headers[name] = value
    return answer


def _entry(request: Request, member: Member, status: int = 200, **headers: str) -> Response:
    etag = etag_of(member)
    if (
        status == 200
        and request.method in ("GET", "HEAD")
        and etag in request.headers.get("if-none-match", "")
    ):
        return Response(status_code=304, headers={"etag": etag})
    told = {"etag": etag, **{name.replace("_", "-"): value for name, value in headers.items()}}
    return Response(entry_document(member), status, told, ENTRY_TYPE)


@router.get(to_programs.atom_service.route)
async def service(request: Request, here: Here, blog: OfBlog) -> Response:
    """The service document: which collections there are, and what they take."""

    def work(caller: Caller) -> Response:
        top = root(caller.grant)
        rows = [
            ("Posts", f"{top}/posts", (ENTRY_ACCEPTED,), f"{top}/categories"),
            ("Library", f"{top}/media", MEDIA_ACCEPTED, ""),
        ]
        return Response(service_document(blog.name, rows), media_type=SERVICE_TYPE)

    return await _answered(request, here, blog, work)


@router.get(to_programs.atom_categories.route)
async def categories(request: Request, here: Here, blog: OfBlog) -> Response:
    """The categories document."""
    return await _answered(
        request,
        here,
        blog,
        lambda caller: Response(
            categories_document(micropub.categories(caller.here, caller.grant)), media_type=CATEGORIES_TYPE
        ),
    )


@router.get(to_programs.atom_posts.route)
async def posts(request: Request, here: Here, blog: OfBlog, before: str = "") -> Response:
    """Posts, those that were edited last first, with a link to the next ones."""

    def work(caller: Caller) -> Response:
        found = atompub.listed(caller.here, caller.grant, _before(before))
        shown, top = found[:PAGE], f"{root(caller.grant)}/posts"
        links = [Link("self", f"{top}?before={before}" if before else top), Link("first", top)]
        if len(found) > PAGE:
            links.append(Link("next", f"{top}?before={shown[-1].changed_at}-{shown[-1].id}"))
        members = [member_of(caller.here, caller.grant, post) for post in shown]
        updated = iso(shown[0].changed_at if shown else blog.made_at)
        return Response(
            feed_document(top, f"{blog.name}: posts", updated, links, members), media_type=FEED_TYPE
        )

    return await _answered(request, here, blog, work)


def _before(text: str) -> tuple[int, int] | None:
    at, _, number = text.partition("-")
    is_place = len(text) < 40 and text.isascii() and at.isdecimal() and number.isdecimal()
    return (int(at), int(number)) if is_place else None


@router.post(to_programs.atom_posts.route)
async def add_post(request: Request, here: Here, blog: OfBlog) -> Response:
    """A new post of an entry; its slug is what the client proposes (`Slug`), where it is free."""
    data = await request.body()

    def work(caller: Caller) -> Response:
        _must_be(request, "application/atom+xml", "application/xml", "text/xml")
        micropub.need(caller.grant, "create", "draft")
        post, waits = atompub.create(
            caller.here,
            caller.grant,
            caller.here.services.heavy(read_entry, data, seconds=10.0, what="The entry"),
            _slug(request),
        )
        edit = f"{root(caller.grant)}/posts/{post.id}"
        return _entry(
            request,
            member_of(caller.here, caller.grant, post),
            201,
            location=edit,
            content_location=edit,
            **_said(waits),
        )

    return await _answered(request, here, blog, work)


def _said(waits: str) -> dict[str, str]:
    """Why a post does not go out yet, in a header that people read."""
    return (
        {"warning": '199 - "' + waits.encode("ascii", "replace").decode().replace('"', "'") + '"'}
        if waits
        else {}
    )


def _slug(request: Request) -> str:
    return unquote(request.headers.get("slug", ""))[:200].strip().lower().replace(" ", "-")


def _must_be(request: Request, *kinds: str) -> None:
    kind = request.headers.get("content-type", "").partition(";")[0].strip().lower()
    if kind not in kinds:
        raise NotTaken("unsupported_media_type", f"“{kind[:60]}” is not taken here; send {kinds[0]}.", 415)


@router.get(to_programs.atom_post.route)
async def post(request: Request, here: Here, blog: OfBlog, number: int) -> Response:
    """A post as an entry."""

    def work(caller: Caller) -> Response:
        micropub.need(caller.grant, "read", "update", "create", "draft")
        found = atompub.post_by_number(caller.here, caller.grant, number)
        return _entry(request, member_of(caller.here, caller.grant, found))

    return await _answered(request, here, blog, work)


@router.put(to_programs.atom_post.route)
async def change_post(request: Request, here: Here, blog: OfBlog, number: int) -> Response:
    """Puts an entry in the place of a post; with `If-Match`, of the state that the client knows."""
    data = await request.body()

    def work(caller: Caller) -> Response:
        _must_be(request, "application/atom+xml", "application/xml", "text/xml")
        micropub.need(caller.grant, "update")
        entry = caller.here.services.heavy(read_entry, data, seconds=10.0, what="The entry")
        found, waits = atompub.update(
            caller.here, caller.grant, number, entry, request.headers.get("if-match", "")
        )
        return _entry(request, member_of(caller.here, caller.grant, found), 200, **_said(waits))

    return await _answered(request, here, blog, work)


@router.delete(to_programs.atom_post.route)
async def remove_post(request: Request, here: Here, blog: OfBlog, number: int) -> Response:
    """Takes a post off the site and sets it aside."""

    def work(caller: Caller) -> Response:
        atompub.remove(caller.here, caller.grant, number, request.headers.get("if-match", ""))
        return Response(status_code=204)

    return await _answered(request, here, blog, work)


@router.get(to_programs.atom_items.route)
async def items(request: Request, here: Here, blog: OfBlog) -> Response:
    """The newest files of the library."""

    def work(caller: Caller) -> Response:
        found, top = atompub.items(caller.here, caller.grant), f"{root(caller.grant)}/media"
        updated = iso(found[0].added_at if found else blog.made_at)
        members = [member_of_item(caller.here, caller.grant, item) for item in found]
        return Response(
            feed_document(top, f"{blog.name}: library", updated, [Link("self", top)], members),
            media_type=FEED_TYPE,
        )

    return await _answered(request, here, blog, work)


@router.post(to_programs.atom_items.route)
async def add_item(request: Request, here: Here, blog: OfBlog) -> Response:
    """A new file, named by `Slug`; answers with its media link entry."""
    data = await request.body()
    kind = request.headers.get("content-type", "").partition(";")[0].strip().lower()

    def work(caller: Caller) -> Response:
        micropub.need(caller.grant, "media", "create", "draft")
        if not data:
            raise invalid("The file is empty.")
        if kind.partition("/")[0] not in ("image", "audio", "video") and kind != "application/pdf":
            raise NotTaken(
                "unsupported_media_type",
                f"“{kind[:60]}” is not taken here; send a picture, sound, video or PDF.",
                415,
            )
        name = _slug(request) or "file"
        if "." not in name:
            name += mimetypes.guess_extension(kind) or ""
        item = library.add_stream(caller.here, caller.grant.person, caller.grant.blog, name, io.BytesIO(data))
        edit = f"{root(caller.grant)}/media/{item.id}"
        return _entry(
            request,
            member_of_item(caller.here, caller.grant, item),
            201,
            location=edit,
            content_location=edit,
        )

    return await _answered(request, here, blog, work)


@router.get(to_programs.atom_item.route)
async def item(request: Request, here: Here, blog: OfBlog, number: int) -> Response:
    """A file as a media link entry."""

    def work(caller: Caller) -> Response:
        micropub.need(caller.grant, "media", "read", "update", "create")
        found = atompub.item_by_number(caller.here, caller.grant, number)
        return _entry(request, member_of_item(caller.here, caller.grant, found))

    return await _answered(request, here, blog, work)


@router.put(to_programs.atom_item.route)
async def describe_item(request: Request, here: Here, blog: OfBlog, number: int) -> Response:
    """Says of a file what an entry says: its name, and what it shows."""
    data = await request.body()

    def work(caller: Caller) -> Response:
        _must_be(request, "application/atom+xml", "application/xml", "text/xml")
        entry = caller.here.services.heavy(read_entry, data, seconds=10.0, what="The entry")
        found = atompub.describe(
            caller.here, caller.grant, number, entry, request.headers.get("if-match", "")
        )
        return _entry(request, member_of_item(caller.here, caller.grant, found))

    return await _answered(request, here, blog, work)


@router.delete(to_programs.atom_item.route)
async def remove_item(request: Request, here: Here, blog: OfBlog, number: int) -> Response:
    """Sets a file aside that no post shows."""

    def work(caller: Caller) -> Response:
        atompub.remove_item(caller.here, caller.grant, number)
        return Response(status_code=204)

    return await _answered(request, here, blog, work)


@router.options(to_programs.atom_service.route)
@router.options(to_programs.atom_posts.route)
@router.options(to_programs.atom_post.route)
@router.options(to_programs.atom_items.route)
@router.options(to_programs.atom_item.route)
def may_ask() -> Response:
    return preflight()
