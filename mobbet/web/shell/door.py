"""The door: judges every request before anything of it is read, and routes it."""

from __future__ import annotations

import asyncio
import ipaddress
import logging
import socket
import time
from collections import OrderedDict
from collections.abc import Awaitable, Callable

from starlette.types import ASGIApp, Message, Receive, Scope, Send

from mobbet.actions.people import person_of
from mobbet.actions.programs import grant_of
from mobbet.actions.workshop import Workshop
from mobbet.core.networks import client_behind, one_client
from mobbet.core.programs import token_in
from mobbet.web.public.place import below_prefix, on_own_host, with_place
from mobbet.web.public.site import DRAWN, Site
from mobbet.web.shell import cookies
from mobbet.web.shell.limits import (
    AT_ONCE,
    BODY_RATE,
    BODY_SECONDS,
    FROM_OTHER_SITES,
    MISSES,
    MISSES_A_SECOND,
    SLOWED_SECONDS,
    WAITING,
    most_bytes,
    problem_of_head,
)
from mobbet.web.shell.security import (
    APP_POLICY,
    COMMON,
    HSTS,
    OWN,
    PLAIN_POLICY,
    SAFE_METHODS,
    Headers,
    is_same_origin,
    with_headers,
)

log = logging.getLogger("mobbet.door")
LOCAL = frozenset({"localhost", "127.0.0.1", "::1", "testserver"})
MOST_CLIENTS = 10_000


class Door:
    """Judges the head of each request, says whose it is, and hands it to the application or to a published site."""

    def __init__(self, workshop: Workshop, app: ASGIApp, site: Site) -> None:
        self._settings, self._site, self._guard = workshop.settings, site, Guard(workshop, app)
        self._own = {
            *LOCAL,
            socket.gethostname().lower(),
            *self._settings.hosts,
            *([self._settings.host] if self._settings.host else []),
        }
        self._paces = Paces()

    @property
    def app(self) -> ASGIApp:
        """The application behind the door."""
        return self._guard.app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            if scope["type"] == "lifespan":
                await self._guard.app(scope, receive, send)
            return
        if self._settings.secure_cookies:
            send = _with_hsts(send)
        host = self._identify(scope)
        problem = problem_of_head(
            scope.get("query_string", b""), scope["headers"], scope.get("raw_path") or b""
        )
        if problem:
            if not self._paces.may(client_of(scope)):
                await asyncio.sleep(SLOWED_SECONDS)
            await refuse(send, *problem)
            return
        slug = self._site.host_of(host)
        if not slug and not self._answers_to(host):
            await refuse(
                send,
                421,
                f"This server does not answer to “{host[:80]}”; name it in MOBBET_HOSTS if it should.",
            )
            return
        await self._hand_over(scope, receive, send, slug, host)

    def _identify(self, scope: Scope) -> str:
        """Writes into the scope whose a request is and how it came, as trusted proxies tell; answers with the host it asks for."""
        headers = dict(scope["headers"])
        if self._settings.proxies and scope.get("client"):
            forwarded, client, scheme_told = (
                [value.decode("latin-1") for name, value in scope["headers"] if name == wanted]
                for wanted in (b"forwarded", b"x-forwarded-for", b"x-forwarded-proto")
            )
            address, scheme = client_behind(
                scope["client"][0], forwarded, client, scheme_told, self._settings.proxies
            )
            scope["client"] = (address, 0)
            scope["scheme"] = scheme or scope.get("scheme", "http")
        if self._settings.secure_cookies:
            scope["scheme"] = "https"
        host = headers.get(b"host", b"").decode("latin-1").lower()
        return host[1:].partition("]")[0] if host.startswith("[") else host.partition(":")[0].rstrip(".")

    def _answers_to(self, host: str) -> bool:
        """Whether a host name is one of this server's. An address in digits is: no name can be bound to the server by somebody else through it."""
        if host in self._own or self._site.is_home(host):
            return True
        try:
            ipaddress.ip_address(host)
        except ValueError:
            return False
        return True

    async def _hand_over(
        self, scope: Scope, receive: Receive, send: Send, slug: str | None, host: str
    ) -> None:
        path = scope["path"]
        place = (
            on_own_host(slug, path) if slug else below_prefix(path)
        )  # the application is not on a blog's own host
        if place is not None and place.private_path:
            await self._guard({**with_place(scope, place), "path": place.private_path}, receive, send)
        elif place is not None:
            await self._to_site(with_place(scope, place), receive, send)
        elif self._settings.host and host not in (self._settings.host, *LOCAL):
            await refuse(send, 404, f"Mobbet's own pages are at {self._settings.host}.")
        else:
            await self._guard(scope, receive, send)

    async def _to_site(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pages of the site are sent to anybody at any pace; who asks for what is not there, or has to be made, is paced."""
        if self._site.has_ready(scope):
            await self._site(scope, receive, send)
            return
        client = client_of(scope)
        if not self._paces.has_left(client):
            await slow_down(
                send, "Too many requests from this network for pages that are not there; wait a moment."
            )
            return

        async def charged(message: Message) -> None:
            if message["type"] == "http.response.start" and (message["status"] >= 400 or DRAWN in scope):
                self._paces.take(client)
            await send(message)

        await self._site(scope, receive, charged)


class Guard:
    """The application's side: origins, the size and the speed of bodies, and how much one client may ask for at once."""

    def __init__(self, workshop: Workshop, app: ASGIApp) -> None:
        self.app = app
        self._workshop = workshop
        limits = workshop.settings.limits
        self._largest = 1_000_000 * max(limits.picture_megabytes, limits.file_megabytes)
        self._gates: OrderedDict[str, Gate] = OrderedDict()
        self._paces = Paces()

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        headers, client = dict(scope["headers"]), client_of(scope)
        is_own = scope["method"] in SAFE_METHODS or is_same_origin(headers, scope.get("scheme", "http"))
        if not is_own and not FROM_OTHER_SITES.fullmatch(scope["path"]):
            await refuse(
                send,
                403,
                "This change was asked for by another site and was not made; open Mobbet itself and try again.",
            )
            return
        token = cookies.of_headers(headers).get(cookies.session_cookie(self._workshop.settings), "")
        is_person = bool(token) and await asyncio.to_thread(person_of, self._workshop, token) is not None
        program = token_in(headers.get(b"authorization", b"").decode("latin-1")) if not is_person else ""
        if program and scope["path"].startswith("/~/"):
            is_person = await asyncio.to_thread(grant_of, self._workshop, program) is not None
        if not is_person and not scope["path"].startswith("/static/") and not self._paces.may(client):
            await slow_down(send, "Too many requests from this network; wait a moment.")
            return
        gate = self._gate(client)
        if gate.waiting >= WAITING:
            await slow_down(send, "Too many requests at once from this network; wait a moment.")
            return
        async with gate:
            await Body(
                scope, receive, send, most_bytes(scope["path"], is_person, self._largest), headers
            ).answered_by(self.app)

    def _gate(self, client: str) -> Gate:
        gate = self._gates.get(client)
        if gate is None:
            gate = self._gates[client] = Gate()
            if len(self._gates) > MOST_CLIENTS:
                for name in [name for name, one in self._gates.items() if one.is_free][: MOST_CLIENTS // 2]:
                    del self._gates[name]
        return gate


class Gate:
    """Lets so many requests of one client be worked on at once."""

    def __init__(self) -> None:
        self._places = asyncio.Semaphore(AT_ONCE)
        self._in = 0
        self.waiting = 0

    @property
    def is_free(self) -> bool:
        return not self._in and not self.waiting

    async def __aenter__(self) -> None:
        self.waiting += 1
        try:
            await self._places.acquire()
        finally:
            self.waiting -= 1
        self._in += 1

    async def __aexit__(self, *error: object) -> None:
        self._in -= 1
        self._places.release()


class Paces:
    """A bucket for each client from which requests take, and that fills up with time; kept for this process alone, since it only has to be about right."""

    def __init__(self) -> None:
        self._left: OrderedDict[str, tuple[float, float]] = OrderedDict()

    def may(self, client: str) -> bool:
        """Whether a request is within the pace, which it then counts against."""
        may = self.has_left(client)
        if may:
            self.take(client)
        return may

    def has_left(self, client: str) -> bool:
        left, at = self._left.get(client, (float(MISSES), 0.0))
        return left + (time.monotonic() - at) * MISSES_A_SECOND >= 1

    def take(self, client: str) -> None:
        now = time.monotonic()
        left, at = self._left.get(client, (float(MISSES), now))
        self._left[client] = (max(0.0, min(float(MISSES), left + (now - at) * MISSES_A_SECOND) - 1), now)
        self._left.move_to_end(client)
        if len(self._left) > MOST_CLIENTS:
            self._left.popitem(last=False)


class Body:
    """The body of one request, counted and timed as it comes, and the headers of its answer."""

    def __init__(self, scope: Scope, receive: Receive, send: Send, most: int, headers: Headers) -> None:
        self._scope, self._receive, self._send, self._most = scope, receive, send, most
        self._received, self._is_answered = 0, False
        told = headers.get(b"content-length", b"0")
        self._told = int(told) if told.isdigit() and len(told) < 16 else most + 1 if told else 0
        self._until = time.monotonic() + BODY_SECONDS + min(self._told or most, most) / BODY_RATE
        self._is_late = self._is_whole = False

    async def answered_by(self, app: ASGIApp) -> None:
        if self._told > self._most:
            await self._refuse()
            return
        await app(self._scope, self._take, self._answer)
        if not self._is_answered and (self._received > self._most or self._is_late):
            await self._refuse()

    async def _take(self) -> Message:
        """What came, up to the limit of bytes and time; after that the sender is taken to have gone."""
        if self._is_whole:
            return await self._receive()
        try:
            message = await asyncio.wait_for(self._receive(), max(0.01, self._until - time.monotonic()))
        except TimeoutError:
            self._is_late = True
            return {"type": "http.disconnect"}
        self._received += len(message.get("body", b""))
        self._is_whole = not message.get("more_body", False)
        return message if self._received <= self._most else {"type": "http.disconnect"}

    async def _answer(self, message: Message) -> None:
        if self._received > self._most or self._is_late:
            if not self._is_answered:
                await self._refuse()
            return
        if message["type"] == "http.response.start":
            self._is_answered = True
            message["headers"] = with_headers(
                message["headers"],
                [
                    *COMMON,
                    OWN,
                    (b"content-security-policy", APP_POLICY.encode()),
                    (b"cache-control", b"no-store"),
                ],
            )
        await self._send(message)

    async def _refuse(self) -> None:
        self._is_answered = True
        if self._is_late:
            await refuse(
                self._send,
                408,
                "This request took too long to arrive; try again.",
                [(b"connection", b"close")],
            )
        elif self._most == 0:
            await refuse(
                self._send,
                401,
                "You are signed out; sign in in another tab, then go on here.",
                [(b"connection", b"close")],
            )
        else:
            size = f"{self._most // 1_000_000} MB" if self._most >= 1_000_000 else f"{self._most // 1_000} kB"
            await refuse(
                self._send,
                413,
                f"This is larger than {size}; make it smaller and try again.",
                [(b"connection", b"close")],
            )


def client_of(scope: Scope) -> str:
    """What counts as one client."""
    return one_client(scope["client"][0]) if scope.get("client") else ""


async def slow_down(send: Send, sentence: str) -> None:
    """Refuses one who asks too often, after a while."""
    await asyncio.sleep(SLOWED_SECONDS)
    await refuse(send, 429, sentence, [(b"retry-after", b"2")])


async def refuse(
    send: Send, status: int, sentence: str, more: list[tuple[bytes, bytes]] | None = None
) -> None:
    """Answers with one sentence."""
    body = sentence.encode()
    headers = [
        (b"content-type", b"text/plain; charset=utf-8"),
        (b"content-length", str(len(body)).encode()),
        (b"cache-control", b"no-store"),
        *COMMON,
        OWN,
        PLAIN_POLICY,
        *(more or []),
    ]
    await send({"type": "http.response.start", "status": status, "headers": headers})
    await send({"type": "http.response.body", "body": body})


def _with_hsts(send: Send) -> Callable[[Message], Awaitable[None]]:
    async def sending(message: Message) -> None:
        if message["type"] == "http.response.start":
            message = {**message, "headers": [*message["headers"], HSTS]}
        await send(message)

    return sending
