"""The web application: routes, errors, and the published sites beside them."""

from __future__ import annotations

from typing import Any, cast

from fastapi import Depends, FastAPI, Request
from fastapi.exceptions import RequestValidationError
from starlette.exceptions import HTTPException
from starlette.responses import JSONResponse, Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from mobbet.actions.workshop import Workshop
from mobbet.core.errors import Broken, NotAllowed, NotFound, ProveFirst, Refused, TooSoon
from mobbet.web.public.site import Site
from mobbet.web.public.tally import Tally
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell import rendering, screens, static_files
from mobbet.web.shell.compression import Compression
from mobbet.web.shell.contexts import ErrorPage
from mobbet.web.shell.door import Door
from mobbet.web.shell.fields import form_of
from mobbet.web.shell.rendering import page
from mobbet.web.shell.route_rights import FactorFirst, guard, use_dates
from mobbet.web.shell.routes import see_other
from mobbet.web.shell.session import SignInFirst, signed_in, workshop_of
from mobbet.web.shell.signing_routes import again_page

STATUS = ((NotFound, 404), (NotAllowed, 403), (TooSoon, 429), (Refused, 422), (Broken, 500))
HEADINGS = {
    403: "This is not yours to change",
    404: "There is nothing here",
    405: "That cannot be done here",
    500: "Something is broken",
}


def create_app(workshop: Workshop) -> Door:
    """All of Mobbet as one ASGI app, without background tasks."""
    return Door(workshop, application(workshop), Site(workshop, Tally(workshop)))


def application(workshop: Workshop) -> FastAPI:
    """The screens: routes, and the answers to errors."""
    app = FastAPI(title="Mobbet", openapi_url=None, docs_url=None, redoc_url=None)
    app.state.workshop = workshop
    for router in screens.routers():
        app.include_router(router, dependencies=[Depends(guard), Depends(use_dates)])
    app.add_middleware(HeadAsGet)
    app.add_middleware(Compression)
    app.add_exception_handler(SignInFirst, _sign_in_first)
    app.add_exception_handler(FactorFirst, _factor_first)
    app.add_exception_handler(ProveFirst, _prove_first)
    app.add_exception_handler(Refused, _refused)
    app.add_exception_handler(Broken, _refused)
    app.add_exception_handler(OverflowError, _too_large)
    app.add_exception_handler(HTTPException, cast(Any, _http_error))
    app.add_exception_handler(RequestValidationError, cast(Any, _not_understood))
    return app


class HeadAsGet:
    """Answers HEAD wherever GET is answered, with the same headers and no body (RFC 9110, 9.3.2)."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http" or scope["method"] != "HEAD":
            await self._app(scope, receive, send)
            return

        async def without_body(message: Message) -> None:
            if message["type"] == "http.response.body":
                message = {**message, "body": b""}
            await send(message)

        await self._app({**scope, "method": "GET"}, receive, without_body)


def warm_up(app: FastAPI) -> None:
    """Builds the routes and compiles the templates, which otherwise holds up everyone at the first request for a screen."""
    for route in app.router.routes:
        route.matches({"type": "http", "method": "GET", "path": "/", "headers": []})
    rendering.read_all()
    static_files.compress_all()


def _wants_data(request: Request) -> bool:
    """Whether a script asks: it must never draw the page on which one signs in in the place of what it asked for."""
    accept = request.headers.get("accept", "")
    return (
        accept.startswith("application/json")
        or request.headers.get("hx-request") == "true"
        or (request.headers.get("sec-fetch-dest") == "empty" and "text/html" not in accept)
    )


async def _sign_in_first(request: Request, error: Exception) -> Response:
    if request.headers.get("hx-request") == "true":
        return Response(status_code=401, headers={"HX-Redirect": to_shell.sign_in()})
    if _wants_data(request) or request.method != "GET":
        return JSONResponse(
            {"message": "You are signed out; sign in in another tab, then go on here."}, status_code=401
        )
    return see_other(
        to_shell.sign_in(f"{request.url.path}?{request.url.query}" if request.url.query else request.url.path)
    )


async def _factor_first(request: Request, error: Exception) -> Response:
    if request.method != "GET" or _wants_data(request):
        return _told(
            request, 403, "A blog that you work on asks for a second factor; set one up in your account."
        )
    return see_other(to_shell.signing_in(told="required"))


async def _prove_first(request: Request, error: Exception) -> Response:
    """Asks once more who somebody is; the form that they sent waits on the page, and goes on from there."""
    if _wants_data(request):
        return JSONResponse(
            {"message": "Prove once more who you are.", "prove": to_shell.again()}, status_code=403
        )
    here, form = (workshop_of(request), await form_of(request))
    path = f"{request.url.path}?{request.url.query}" if request.url.query else request.url.path
    return again_page(here, signed_in(request), path, form)


async def _refused(request: Request, error: Exception) -> Response:
    status = next(code for kind, code in STATUS if isinstance(error, kind))
    return _told(request, status, str(error), getattr(error, "field", ""))


async def _http_error(request: Request, error: HTTPException) -> Response:
    sentences = {
        404: "No screen of Mobbet has this address; the desk leads to all of them.",
        405: "This address answers other questions only.",
    }
    answer = _told(request, error.status_code, sentences.get(error.status_code, str(error.detail)))
    answer.headers.update(
        error.headers or {}
    )  # such as which methods an address answers to (RFC 9110, 15.5.6)
    return answer


async def _too_large(request: Request, error: Exception) -> Response:
    """SQLite refuses numbers of more than 63 bits, and nothing here has one."""
    return _told(
        request, 404, "A number in this address is larger than any that Mobbet gave; go on from the desk."
    )


async def _not_understood(request: Request, error: RequestValidationError) -> Response:
    first = error.errors()[0]
    place = ".".join(str(part) for part in first["loc"][1:]) or "the request"
    status = 404 if first["loc"][0] == "path" else 422
    if request.url.path.startswith("/~/"):  # a program asks, and has no page to reload
        said = f"“{place}” could not be read: {first['msg'].lower()}."
        return JSONResponse(
            {"error": "invalid_request", "error_description": said}, 404 if status == 404 else 400
        )
    return _told(
        request,
        status,
        f"“{place}” could not be read ({first['msg'].lower()}); reload the page and try again.",
    )


def _told(request: Request, status: int, sentence: str, field: str = "") -> Response:
    if _wants_data(request):
        return JSONResponse({"message": sentence, "field": field}, status_code=status)
    return page(ErrorPage(HEADINGS.get(status, "That did not work"), sentence, to_shell.home()), status)
