"""Micropub: the endpoint, and the one for media (W3C Recommendation)."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from typing import Any

from fastapi import APIRouter, Request
from starlette.concurrency import run_in_threadpool
from starlette.datastructures import UploadFile
from starlette.responses import JSONResponse, Response

from mobbet.actions import library, micropub, program_posts
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import MobbetError
from mobbet.core.micropub import invalid, of_form, of_json
from mobbet.store import media
from mobbet.store.blogs import Blog
from mobbet.web.programs import addresses as to_programs
from mobbet.web.programs.door import OPEN_TO_BROWSERS, Caller, bearer_of, caller_of, preflight, refused
from mobbet.web.public.routes import OfBlog
from mobbet.web.shell.fields import form_of, form_with_files
from mobbet.web.shell.session import Here

router = APIRouter()
MOST_FILES = 20
FILES = ("photo", "video", "audio", "photo[]", "video[]", "audio[]")


async def _answered(work: Callable[[], Response]) -> Response:
    """What a request comes to, in a thread; a refusal as the Recommendation has it."""
    try:
        return await run_in_threadpool(work)
    except MobbetError as error:
        return refused(error)


@router.get(to_programs.micropub.route)
async def ask(request: Request, here: Here, blog: OfBlog) -> Response:
    """`q=config`, `source`, `syndicate-to`, `category` or `post-types`."""
    return await _answered(
        lambda: JSONResponse(
            _asked(request, caller_of(here, blog, bearer_of(request)), blog), headers=OPEN_TO_BROWSERS
        )
    )


def _asked(request: Request, caller: Caller, blog: Blog) -> dict[str, Any]:
    query, grant, here = request.query_params, caller.grant, caller.here
    what = query.get("q", "")
    if what == "config":
        return {
            "media-endpoint": f"{blog.home.rstrip('/')}/~/media", "syndicate-to": micropub.syndication(here, grant),
            "q": ["config", "source", "syndicate-to", "category"], "categories": micropub.categories(here, grant)[:1000],
            "post-types": [{"type": "article", "name": "Post"}, {"type": "note", "name": "Note"}, {"type": "photo", "name": "Picture"}],
            "visibility": ["public", "private"],
        }  # fmt: skip
    if what == "syndicate-to":
        return {"syndicate-to": micropub.syndication(here, grant)}
    if what == "category":
        return {"categories": micropub.categories(here, grant, query.get("filter", ""))[:1000]}
    if what == "source":
        wanted = [*query.getlist("properties[]"), *query.getlist("properties")]
        return micropub.source(here, grant, query.get("url", ""), wanted)
    raise invalid(f"“{what[:40]}” is nothing to ask for; q is config, source, syndicate-to or category.")


@router.post(to_programs.micropub.route)
async def write(request: Request, here: Here, blog: OfBlog) -> Response:
    """Makes, changes, removes or brings back a post."""
    kind = request.headers.get("content-type", "").partition(";")[0].strip().lower()
    try:
        if kind == "application/json":
            return await _written(here, blog, bearer_of(request), of_json, _json(await request.body()))
        if kind not in ("application/x-www-form-urlencoded", "multipart/form-data"):
            raise invalid("Send a form or JSON (application/json).")
        form = await form_with_files(request, MOST_FILES)
        token = _token(bearer_of(request), form.getlist("access_token"))
        return await _written(here, blog, token, of_form, list(form.multi_items()))
    except MobbetError as error:
        return refused(error)


def _token(head: str, fields: list[Any]) -> str:
    """The token of the head or of the form; a request with both is refused (RFC 6750)."""
    if head and fields:
        raise invalid("The token stands in the head and in the form; send it in one place.")
    return head or str(fields[0] if fields else "")


def _json(body: bytes) -> Any:
    try:
        return json.loads(body)
    except (ValueError, RecursionError):
        raise invalid("The request is no JSON.") from None


async def _written(here: Workshop, blog: Blog, token: str, read: Callable[[Any], Any], data: Any) -> Response:
    def work() -> Response:
        caller = caller_of(here, blog, token)
        wanted = read(_with_files(caller, data) if isinstance(data, list) else data)
        done = micropub.do(caller.here, caller.grant, wanted)
        headers = {**OPEN_TO_BROWSERS, **({"location": done.url} if done.is_new or done.has_moved else {})}
        if done.waits:
            body = {
                "state": "draft",
                "error_description": f"It is kept, and does not go out yet: {done.waits}",
            }
            return JSONResponse(body, 202, headers=headers)
        return Response(status_code=201 if done.is_new or done.has_moved else 204, headers=headers)

    return await _answered(work)


def _with_files(caller: Caller, form: list[tuple[str, Any]]) -> list[tuple[str, Any]]:
    """A form with the numbers of the library in place of files."""
    if any(isinstance(value, UploadFile) for _, value in form):
        micropub.need(caller.grant, "create", "draft", "media")
    found = []
    for name, value in form:
        if isinstance(value, UploadFile):
            if name not in FILES:
                raise invalid(f"“{name[:40]}” takes no file; send it as photo, video or audio.")
            value = _kept(caller, value)
        found.append((name, value))
    return found


def _kept(caller: Caller, file: UploadFile) -> int:
    grant = caller.grant
    return library.add_stream(caller.here, grant.person, grant.blog, file.filename or "file", file.file).id


@router.post(to_programs.micropub_media.route)
async def add_file(request: Request, here: Here, blog: OfBlog) -> Response:
    """Puts a file into the library, and answers where it is."""
    try:
        form = await form_of(request)
        token = _token(bearer_of(request), form.getlist("access_token"))
        file = form.get("file")
    except MobbetError as error:
        return refused(error)

    def work() -> Response:
        caller = caller_of(here, blog, token)
        micropub.need(caller.grant, "media", "create", "draft")
        if not isinstance(file, UploadFile):
            raise invalid("Send one file, as the part “file” of a form (multipart/form-data).")
        number = _kept(caller, file)
        return Response(
            status_code=201,
            headers={**OPEN_TO_BROWSERS, "location": program_posts.media_address(here, blog, number)},
        )

    return await _answered(work)


@router.get(to_programs.program_media.route)
def file_of(here: Here, blog: OfBlog, slug: str, name: str) -> Response:
    """A file of the library before a post shows it: the copy that Mobbet made, for whoever has the address."""
    number = program_posts.media_at(here, blog, f"{blog.home.rstrip('/')}/~/media/{name}")
    if number is None:
        return Response("There is no such file.\n", 404, media_type="text/plain", headers=OPEN_TO_BROWSERS)
    copies = [
        (file, size) for file, size in media.copies(here.db, number) if not re.match(r"tiny|poster", file.use)
    ]
    if not copies:
        return Response(
            "The file is being made ready; ask again in a moment.\n",
            503,
            media_type="text/plain",
            headers={**OPEN_TO_BROWSERS, "retry-after": "5"},
        )
    file = max(copies, key=lambda one: one[0].width)[0]
    return Response(
        here.media.read(file.hash),
        media_type=file.type,
        headers={**OPEN_TO_BROWSERS, "content-disposition": "inline"},
    )


@router.options(to_programs.micropub.route)
@router.options(to_programs.micropub_media.route)
def may_ask() -> Response:
    return preflight()
