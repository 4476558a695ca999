"""The figures of BENCHMARKS.md, measured on this machine with made-up posts."""

from __future__ import annotations

import asyncio
import json
import resource
import tempfile
import time
from collections.abc import Callable, MutableMapping
from functools import partial
from pathlib import Path
from statistics import median, quantiles
from typing import Any

from bench import altering as bench_altering
from bench import filing as bench_filing
from bench import house as bench_house
from bench import library as bench_library
from bench import proof as bench_proof
from bench import publishing as bench_going
from bench import readers as bench_readers
from mobbet.actions import building, files, placing, post_search, posts, sample_posts
from mobbet.actions.work import unpublished
from mobbet.actions.workshop import Workshop
from mobbet.core.document.from_html import from_html
from mobbet.core.document.schema import check
from mobbet.core.document.write import to_html
from mobbet.core.values import existing
from mobbet.store import blogs, people
from mobbet.store import posts as post_store
from mobbet.web.shell.app import create_app
from mobbet.wiring import open_folder

SMALL = 100
ROUNDS = 20


def measure(count: int) -> dict[str, float]:
    """Each figure under its name; times in milliseconds unless the name says otherwise."""
    figures: dict[str, float] = {}
    with tempfile.TemporaryDirectory() as folder:
        small, large = open_folder(Path(folder) / "small"), open_folder(Path(folder) / "large")
        sample_posts.fill(small, SMALL, 1)
        filled = sample_posts.fill(large, count, 1)
        figures[f"fill and publish {count} posts, s"] = round(filled.seconds, 1)
        figures[f"pages of {count} posts"] = filled.pages
        for more, put_in_use in (
            ("", lambda workshop: None),
            (" with the whole house in use", bench_house.put_in_use),
            (f" with {bench_readers.SUBSCRIBERS} subscribers", bench_readers.put_in_use),
        ):
            for workshop in (small, large):
                put_in_use(workshop)
            few, many = _publishing(small, large)
            figures[f"publish one post{more} at {SMALL}"] = few
            figures[f"publish one post{more} at {count}"] = many
            figures[f"the second over the first{more and ','}{more}"] = round(many / few, 2)
        figures.update(bench_readers.figures(large))
        figures.update(bench_house.figures(large, count))
        figures.update(bench_going.figures(large))
        figures.update(bench_altering.figures(small, SMALL))
        figures.update(bench_altering.figures(large, count))
        figures.update(bench_proof.figures(large))
        figures["autosave, p95"] = _autosave(large)
        figures["desk, first byte, p95"] = _request(large, "/desk/measured")
        figures["public page from the cache, p95"] = _request(large, "/b/measured/", is_signed_in=False)
        figures["public page from the cache, signed in, p95"] = _request(large, "/b/measured/")
        figures["search, p95"] = _p95(
            lambda: post_search.find(large, existing(blogs.by_id(large.db, 1)), "stubborn hinge")
        )
        figures.update(bench_library.of_screen(large, _request, _p95))
        figures.update(bench_library.of_pictures())
        figures.update(bench_filing.figures(Path(folder) / "filing"))
        figures["convert 100 kB of word-processor HTML, middle of 40"] = _middle(
            lambda: from_html(sample_html())
        )
        figures["write 10,000 words as HTML"] = _p95(partial(to_html, _document()))
        figures["most memory used, MB"] = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024
    return figures


def _publishing(*workshops: Workshop) -> list[float]:
    """For each workshop the middle of ROUNDS publications of a new post, taken in turn, each into the same lists."""
    times: list[list[float]] = [[] for _ in workshops]
    for number in range(ROUNDS):
        source = (
            f"---\ntitle: One more {number}\ncategories: [Lamps > Wiring]\ntags: flex, fuse\n---\nWords.\n"
        )
        for workshop, own in zip(workshops, times, strict=True):
            person = _owner(workshop)
            post = files.new_post(workshop, person, "measured", source)
            with unpublished():
                placing.place(workshop, person, post.post.id)
            own.append(building.publish(workshop, existing(blogs.by_id(workshop.db, 1))).seconds * 1000)
    return [round(median(own), 1) for own in times]


def _owner(workshop: Workshop) -> people.Person:
    return people.of_blog(workshop.db, 1)[0]


def _autosave(workshop: Workshop) -> float:
    person = _owner(workshop)
    post = posts.begin_post(workshop, person, "measured")
    document = json.loads(post_store.body(workshop.db, 1, 1))

    def save() -> None:
        base = existing(post_store.by_id(workshop.db, post.id)).revision
        posts.save_text(workshop, person, post.id, base=base, title=f"T {base}", subtitle="", body=document)

    return _p95(save)


def _request(workshop: Workshop, path: str, is_signed_in: bool = True) -> float:
    """The whole application asked through ASGI."""
    from mobbet.actions.people import begin_session
    from mobbet.web.shell.cookies import SESSION

    app, token = create_app(workshop), begin_session(workshop, _owner(workshop)).token
    headers = [
        (b"host", b"localhost"),
        (b"accept-encoding", b"br"),
        *([(b"cookie", f"{SESSION}={token}".encode())] if is_signed_in else []),
    ]
    scope = {"type": "http", "method": "GET", "path": path, "raw_path": path.encode(), "query_string": b"", "headers": headers, "root_path": "", "scheme": "http", "server": ("localhost", 80), "client": ("127.0.0.1", 1), "http_version": "1.1"}  # fmt: skip

    async def ask() -> None:
        async def receive() -> dict:
            return {"type": "http.request", "body": b"", "more_body": False}

        async def send(message: MutableMapping[str, Any]) -> None:
            if message["type"] == "http.response.start" and message["status"] != 200:
                raise RuntimeError(f"{path} answered {message['status']}")

        await app(dict(scope), receive, send)

    loop = asyncio.new_event_loop()
    try:
        return _p95(lambda: loop.run_until_complete(ask()))
    finally:
        loop.close()


def sample_html() -> str:
    """About 100 kB as a word processor writes it."""
    dress = "style='font-size:11.0pt;font-family:\"Some Font\",sans-serif;mso-fareast-language:EN-GB'"
    paragraph = f"<p class=MsoNormal style='margin-bottom:8.0pt'><span lang=EN-GB {dress}>Some <b>words</b> and <a href='https://a.example/'>more</a> of them.<o:p></o:p></span></p>"
    item = f"<p class=MsoListParagraph style='text-indent:-18.0pt;mso-list:l0 level1 lfo1'><span style='mso-list:Ignore'>·<span>&nbsp;&nbsp; </span></span><span {dress}>An item<o:p></o:p></span></p>"
    return "<h2>Head</h2>" + (paragraph * 3 + item * 2) * 85


def _document() -> dict:
    paragraph = {"type": "paragraph", "content": [{"type": "text", "text": "word " * 50}]}
    return check({"type": "doc", "content": [paragraph] * 200})


def _middle(run: Callable[[], object]) -> float:
    return round(median(_times(run, 40)), 1)


def _p95(run: Callable[[], object]) -> float:
    return round(quantiles(_times(run, 60), n=20)[-1], 2)


def _times(run: Callable[[], object], count: int) -> list[float]:
    """How long each of so many runs took, in milliseconds."""
    times = []
    for _ in range(count):
        started = time.perf_counter()
        run()
        times.append((time.perf_counter() - started) * 1000)
    return times
