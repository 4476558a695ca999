"""Measures going out: footprints, publishing and building beside bare Jinja, and serving beside a bare application."""

from __future__ import annotations

import asyncio
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from statistics import median
from unittest import mock

import jinja2
import uvicorn

from mobbet.actions import building, categories, files, footprints, placing
from mobbet.actions.workshop import Workshop
from mobbet.publish import editions as press
from mobbet.publish import fragments
from mobbet.publish.render_cache import RenderCache
from mobbet.publish.renderer import version
from mobbet.store import blogs, people
from mobbet.store.blogs import Blog
from mobbet.store.database import Database
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot
from mobbet.web.shell.app import create_app

ROUNDS = 9
REQUESTS, AT_ONCE = 3000, 8


def of_footprints(large: Workshop) -> dict[str, float]:
    """How long it takes to know what placing, updating and withdrawing a post changes, and what another menu and another name of a category do."""
    blog = blogs.every(large.db)[0]
    person = people.of_blog(large.db, blog.id)[0]
    new, out = (
        files.new_post(
            large,
            person,
            blog.slug,
            f"---\ntitle: Weighed\ncategories: [Lamps > Wiring]\ntags: flex, fuse\n{date}---\nWords.\n",
        ).post
        for date in ("", "date: 2026-01-01\n")
    )
    building.publish(large, blog)
    lamps = categories.find(large, blog, "Lamps")
    return {
        "footprint of a new post": _middle(lambda: footprints.effect_of_placing(large, person, blog, new.id)),
        "footprint of an update": _middle(lambda: footprints.effect_of_placing(large, person, blog, out.id)),
        "footprint of withdrawing": _middle(
            lambda: footprints.effect_of(large, blog, lambda: placing.withdraw(large, person, out.id))
        ),
        "footprint of another menu": _middle(
            lambda: footprints.effect_of_filing(large, blog, lambda shop: _in_menu(shop, person, blog, lamps))
        ),
        "footprint of renaming a category": _middle(
            lambda: footprints.effect_of_filing(
                large, blog, lambda shop: categories.rename(shop, person, blog.slug, lamps, "Lights")
            )
        ),
    }


def _in_menu(large: Workshop, person: Person, blog: Blog, number: int) -> None:
    categories.describe(large, person, blog.slug, number, description="", picture=None, shows_below=True)


def of_building(large: Workshop) -> dict[str, float]:
    """A full build by one process and by all cores, how much of the first is spent in Jinja, and what Jinja takes to render each of those pages whole."""
    build = lambda: large.press.publish(1, large.clock(), full=True)  # noqa: E731
    with _jinja_timed() as spent, mock.patch.object(press, "MANY", 1 << 60):
        alone = _seconds(build)
    with (
        _jinja_timed() as bare,
        mock.patch.object(press, "MANY", 1 << 60),
        mock.patch.object(fragments, "MOST", 0),
        mock.patch.object(press, "memo_of", _no_memo),
    ):
        build()
    return {
        "full build by one process, s": alone,
        "in Jinja of that, s": round(spent[0], 1),
        "bare Jinja of the same pages, each whole, one core, s": round(bare[0], 1),
        "full build by all cores, s": _seconds(build),
    }


def _no_memo(db: Database, snapshot: SiteSnapshot) -> RenderCache:
    """A memo that knows nothing, so that every part of a page is written for it."""
    return RenderCache(lambda posts: {}, snapshot.item, version())


@contextmanager
def _jinja_timed() -> Iterator[list[float]]:
    """The seconds spent in templates; one that another asks for counts with that."""
    spent, real, depth = [0.0], jinja2.Template.render, [0]

    def timed(template: jinja2.Template, *values: object, **named: object) -> str:
        depth[0] += 1
        began = time.perf_counter()
        try:
            return real(template, *values, **named)
        finally:
            depth[0] -= 1
            spent[0] += 0 if depth[0] else time.perf_counter() - began

    with mock.patch.object(jinja2.Template, "render", timed):
        yield spent


def of_serving(workshop: Workshop) -> dict[str, float]:
    """Requests a second of a public page, and of an application that returns the same bytes from memory, on the same server."""
    slug = blogs.every(workshop.db)[0].slug
    with _served(create_app(workshop)) as port:
        body = asyncio.run(_load(port, f"/b/{slug}/", 1))[2]
        site = [asyncio.run(_load(port, f"/b/{slug}/", REQUESTS)) for _ in range(3)][-1]

    async def bare(scope: dict, receive: Callable, send: Callable) -> None:
        headers = [
            (b"content-type", b"text/html; charset=utf-8"),
            (b"content-encoding", b"gzip"),
            (b"content-length", str(len(body)).encode()),
        ]
        await send({"type": "http.response.start", "status": 200, "headers": headers})
        await send({"type": "http.response.body", "body": body})

    with _served(bare) as port:
        plain = [asyncio.run(_load(port, "/", REQUESTS)) for _ in range(3)][-1]
    return {
        "public page, requests a second": site[0],
        "bare application, the same bytes": plain[0],
        "the first over the second, serving": round(site[0] / plain[0], 2),
        "public page, p99": site[1],
    }


@contextmanager
def _served(app: Callable) -> Iterator[int]:
    server = uvicorn.Server(uvicorn.Config(app, host="127.0.0.1", port=0, log_level="error", lifespan="off"))
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    while not server.started:
        time.sleep(0.02)
    yield server.servers[0].sockets[0].getsockname()[1]
    server.should_exit = True
    thread.join(timeout=5)


async def _load(port: int, path: str, count: int) -> tuple[int, float, bytes]:
    """(requests a second, p99 in ms, the last body), by a few connections in turn."""
    times: list[float] = []
    bodies: list[bytes] = []
    request = f"GET {path} HTTP/1.1\r\nhost: measured\r\naccept-encoding: gzip\r\n\r\n".encode()

    async def one() -> None:
        reader, writer = await asyncio.open_connection("127.0.0.1", port)
        for _ in range(max(1, count // AT_ONCE)):
            began = time.perf_counter()
            writer.write(request)
            head = await reader.readuntil(b"\r\n\r\n")
            length = next(
                int(line.split(b":")[1])
                for line in head.lower().split(b"\r\n")
                if line.startswith(b"content-length")
            )
            bodies[:] = [await reader.readexactly(length)]
            times.append(time.perf_counter() - began)
        writer.close()

    began = time.perf_counter()
    await asyncio.gather(*(one() for _ in range(AT_ONCE)))
    whole = time.perf_counter() - began
    return round(len(times) / whole), round(sorted(times)[int(len(times) * 0.99)] * 1000, 2), bodies[0]


def _middle(work: Callable[[], object]) -> float:
    return round(median(_seconds(work, 6) for _ in range(ROUNDS)) * 1000, 1)


def _seconds(work: Callable[[], object], digits: int = 1) -> float:
    began = time.perf_counter()
    work()
    return round(time.perf_counter() - began, digits)


def figures(large: Workshop) -> dict[str, float]:
    return {**of_footprints(large), **of_building(large), **of_serving(large)}
