"""The web application: routes, errors, and the published sites beside them."""

from __future__ import annotations

import threading
from collections.abc import AsyncIterator, Callable
from contextlib import asynccontextmanager
from typing import Protocol

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from starlette.exceptions import HTTPException
from starlette.responses import JSONResponse, Response

from mobbet.actions import aside, letters, link_trying
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import Broken, NotAllowed, NotFound, Refused, TooSoon
from mobbet.web import links, rendering, static_files
from mobbet.web.contexts import ErrorPage
from mobbet.web.door import Door
from mobbet.web.rendering import page
from mobbet.web.rounds import Rounds
from mobbet.web.routes import (
    checks,
    comments,
    desk,
    documents,
    filing,
    filing_addresses,
    filing_posts,
    going,
    handling,
    items,
    keeping,
    library,
    past,
    preview,
    proof_blog,
    proofing,
    publishing,
    readers,
    reading,
    rhythm,
    session,
    site,
    timetable,
    write,
)
from mobbet.web.routes.session import see_other
from mobbet.web.scheduler import Scheduler
from mobbet.web.sender import Sender
from mobbet.web.session import SignInFirst
from mobbet.web.site import Site
from mobbet.web.tally import Tally


class Service(Protocol):
    """Something that runs beside the app."""

    def start(self) -> None: ...
    def stop(self) -> None: ...


LETTERS_PAUSE, LINKS_PAUSE, ASIDE_PAUSE = 2.0, 20.0, 600.0
STATUS = ((NotFound, 404), (NotAllowed, 403), (TooSoon, 429), (Refused, 422), (Broken, 500))
HEADINGS = {403: "This is not yours to change", 404: "There is nothing here", 405: "That cannot be done here", 500: "Something is broken"}


def create_app(workshop: Workshop, exact_time: Callable[[], float] | None = None, worker: Service | None = None) -> Door:
    """The whole of Mobbet as one ASGI app.

    With `exact_time` its scheduler publishes what falls due; `worker` runs while the app does.
    """

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        if exact_time is None:
            yield
            return
        scheduler = Scheduler(workshop, exact_time)
        links_round = [Rounds("links", lambda: link_trying.try_some(workshop), LINKS_PAUSE)] if workshop.settings.links != "off" else []
        workshop.on_change = scheduler.wake
        services = [
            scheduler, tally, Rounds("letters", lambda: letters.go_round(workshop), LETTERS_PAUSE), *links_round,
            Rounds("aside", lambda: aside.remove_aged(workshop), ASIDE_PAUSE), Sender(workshop), *([worker] if worker else []),
        ]  # fmt: skip
        for service in services:
            service.start()
        threading.Thread(target=_warm_up, args=(app,), name="warm-up", daemon=True).start()
        yield
        for service in services:
            service.stop()
        workshop.services.heavy.close()

    tally = Tally(workshop)
    app = FastAPI(title="Mobbet", openapi_url=None, docs_url=None, redoc_url=None, lifespan=lifespan)
    app.state.workshop = workshop
    for module in (static_files, session, desk, handling, rhythm, site, write, documents, keeping, past, library, items, preview, filing, filing_addresses, filing_posts, checks, going, reading, readers, comments, timetable, publishing, proofing, proof_blog):
        app.include_router(module.router)
    app.add_exception_handler(SignInFirst, _sign_in_first)
    app.add_exception_handler(Refused, _refused)
    app.add_exception_handler(Broken, _refused)
    app.add_exception_handler(OverflowError, _too_large)
    app.add_exception_handler(HTTPException, _http_error)
    app.add_exception_handler(RequestValidationError, _not_understood)
    return Door(workshop, app, Site(workshop, tally))


def _warm_up(app: FastAPI) -> None:
    """Builds the routes and compiles the templates, which otherwise holds up everyone at the first request for a screen."""
    for route in app.router.routes:
        route.matches({"type": "http", "method": "GET", "path": "/", "headers": []})
    rendering.read_all()


def _wants_data(request: Request) -> bool:
    return request.headers.get("accept", "").startswith("application/json") or request.headers.get("hx-request") == "true"


async def _sign_in_first(request: Request, error: Exception) -> Response:
    if request.headers.get("hx-request") == "true":
        return Response(status_code=401, headers={"HX-Redirect": links.sign_in()})
    if _wants_data(request) or request.method != "GET":
        return JSONResponse({"message": "You are signed out; sign in in another tab, then go on here."}, status_code=401)
    return see_other(links.sign_in(request.url.path))


async def _refused(request: Request, error: Exception) -> Response:
    status = next(code for kind, code in STATUS if isinstance(error, kind))
    return _told(request, status, str(error), getattr(error, "field", ""))


async def _http_error(request: Request, error: HTTPException) -> Response:
    sentences = {404: "No screen of Mobbet has this address; the desk leads to all of them.", 405: "This address answers other questions only."}
    return _told(request, error.status_code, sentences.get(error.status_code, str(error.detail)))


async def _too_large(request: Request, error: Exception) -> Response:
    """SQLite refuses numbers of more than 63 bits, and nothing here has one."""
    return _told(request, 404, "A number in this address is larger than any that Mobbet gave; go on from the desk.")


async def _not_understood(request: Request, error: RequestValidationError) -> Response:
    first = error.errors()[0]
    place = ".".join(str(part) for part in first["loc"][1:]) or "the request"
    status = 404 if first["loc"][0] == "path" else 422
    return _told(request, status, f"“{place}” could not be read ({first['msg'].lower()}); reload the page and try again.")


def _told(request: Request, status: int, sentence: str, field: str = "") -> Response:
    if _wants_data(request):
        return JSONResponse({"message": sentence, "field": field}, status_code=status)
    return page(ErrorPage(HEADINGS.get(status, "That did not work"), sentence, links.home()), status)
