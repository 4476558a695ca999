"""How readers fare while one client does its worst: a server over 200 made-up posts, a reader at 127.0.0.1, the other client at 127.0.0.2."""

from __future__ import annotations

import argparse
import asyncio
import json
import multiprocessing
import os
import socket
import subprocess
import sys
import tempfile
import time
from contextlib import suppress
from pathlib import Path
from statistics import quantiles
from urllib.parse import quote

from mobbet.actions import people, sample_posts
from mobbet.store import blogs, editions
from mobbet.web.shell.cookies import SESSION
from mobbet.wiring import open_folder, system_clock

READER, OTHER = "127.0.0.1", "127.0.0.2"
POSTS, READERS, PAUSE = 200, 4, 0.02


def main() -> int:
    parser = argparse.ArgumentParser()
    parser.add_argument("--seconds", type=int, default=120)
    parser.add_argument(
        "--only",
        choices=[one.__name__ for one in ATTACKS],
        action="append",
        help="this kind of traffic alone, to find out which one costs what",
    )
    options = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        data = Path(folder) / "data"
        shop = open_folder(data)
        sample_posts.fill(shop, POSTS, 1)
        blog = blogs.every(shop.db)[0]
        shop.press.publish(blog.id, system_clock())
        paths = [
            f"/b/{blog.slug}{row.path}"
            for row in editions.pages(shop.db, blog.id)
            if row.type.startswith("text/html") and not row.is_made_on_request
        ][:200]
        token = people.begin_session(shop, _owner(shop, blog.id)).token
        shop.db.close()
        port = _free_port()
        server = subprocess.Popen(
            [sys.executable, "-m", "mobbet", "serve", "--data", str(data), "--port", str(port)],
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )
        try:
            _wait(port)
            figures = asyncio.run(_measure(port, paths, f"/desk/{blog.slug}", token, server.pid, options))
        finally:
            server.terminate()
            server.wait(20)
    print(json.dumps(figures, indent=1))
    return 0


def _owner(shop, blog_id: int):  # noqa: ANN001, ANN202
    from mobbet.store import people as people_store

    return people_store.of_blog(shop.db, blog_id)[0]


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind((READER, 0))
        return probe.getsockname()[1]


def _wait(port: int) -> None:
    end = time.monotonic() + 90
    while time.monotonic() < end:
        with suppress(OSError), socket.create_connection((READER, port), timeout=1):
            return
        time.sleep(0.1)
    raise TimeoutError("the server did not start")


async def _measure(
    port: int, paths: list[str], desk: str, token: str, pid: int, options: argparse.Namespace
) -> dict[str, float]:
    seconds = options.seconds
    await _read(port, paths, 5)  # so that both measurements find the same at hand
    quiet = await _read(port, paths, min(20, seconds))
    hostile = multiprocessing.get_context("spawn").Process(
        target=_attack, args=(port, desk, token, options.only), daemon=True
    )  # so that its work does not count as the readers' waiting
    hostile.start()
    memory = asyncio.create_task(_memory(pid, seconds))
    loud = await _read(port, paths, seconds)
    hostile.kill()
    return {
        "readers' p50 alone, ms": _part(quiet, 50), "readers' p99 alone, ms": _part(quiet, 99), "readers' p50 beside it, ms": _part(loud, 50), "readers' p99 beside it, ms": _part(loud, 99),
        "the second p99 over the first": round(_part(loud, 99) / max(_part(quiet, 99), 0.01), 2), "pages read": len(loud), "most memory of the server and its processes, MB": await memory,
    }  # fmt: skip


def _attack(port: int, desk: str, token: str, only: list[str] | None) -> None:
    async def attack() -> None:
        await asyncio.gather(
            *(one(port, desk, token) for one in ATTACKS if not only or one.__name__ in only for _ in range(3))
        )

    asyncio.run(attack())


def _part(times: list[float], percent: int) -> float:
    return round(quantiles(times, n=100)[percent - 1], 2)


async def _read(port: int, paths: list[str], seconds: float) -> list[float]:
    """What readers do: each asks for a page, looks at it, and asks for another."""
    until, times = time.monotonic() + seconds, []

    async def one(number: int) -> None:
        at = number
        while time.monotonic() < until:
            began = time.perf_counter()
            answer = await _ask(
                port,
                READER,
                f"GET {paths[at % len(paths)]} HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n".encode(),
            )
            times.append((time.perf_counter() - began) * 1000)
            if not answer.startswith(b"HTTP/1.1 200"):
                raise RuntimeError(answer[:80])
            at += READERS
            await asyncio.sleep(PAUSE)

    await asyncio.gather(*(one(number) for number in range(READERS)))
    return times


async def _ask(port: int, source: str, data: bytes, most: int = 1 << 20) -> bytes:
    reader, writer = await asyncio.open_connection(READER, port, local_addr=(source, 0))
    try:
        writer.write(data)
        await writer.drain()
        return await reader.read(most) or b""
    finally:
        writer.close()


async def _again(ask, pause: float) -> None:  # noqa: ANN001
    number = 0
    while True:
        number += 1
        with suppress(OSError, asyncio.IncompleteReadError):
            await ask(number)
        await asyncio.sleep(pause)


async def slow_heads(port: int, desk: str, token: str) -> None:
    """Forty connections that send a letter now and then."""

    async def one() -> None:
        while True:
            with suppress(OSError):
                _, writer = await asyncio.open_connection(READER, port, local_addr=(OTHER, 0))
                for letter in b"GET /b/x/ HTTP/1.1\r\nHost: localhost\r\nX-Slow: " + b"a" * 200:
                    writer.write(bytes([letter]))
                    await writer.drain()
                    await asyncio.sleep(0.5)
            await asyncio.sleep(0.1)

    await asyncio.gather(*(one() for _ in range(40)))


async def not_found(port: int, desk: str, token: str) -> None:
    await _again(
        lambda n: _ask(
            port,
            OTHER,
            f"GET {desk.replace('/desk', '/b')}/none-{n}/ HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\n\r\n".encode(),
        ),
        0.005,
    )


async def large_heads(port: int, desk: str, token: str) -> None:
    await _again(
        lambda n: _ask(port, OTHER, b"GET / HTTP/1.1\r\nHost: localhost\r\nX: " + b"a" * 200_000), 0.02
    )


async def odd_cookies(port: int, desk: str, token: str) -> None:
    await _again(
        lambda n: _ask(
            port,
            OTHER,
            b'GET / HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\nCookie: a="'
            + b"\\" * 7500
            + b'"\r\n\r\n',
        ),
        0.02,
    )


async def large_bodies(port: int, desk: str, token: str) -> None:
    head = b"POST /documents/raw HTTP/1.1\r\nHost: localhost\r\nOrigin: http://localhost\r\nContent-Type: application/json\r\nContent-Length: 29000000\r\n\r\n"
    await _again(lambda n: _ask(port, OTHER, head + b"[" * 500_000), 0.05)


async def odd_sign_ins(port: int, desk: str, token: str) -> None:
    body = b"password=x&email=a@" + b"." * 14_000 + b"@"
    head = (
        b"POST /sign-in HTTP/1.1\r\nHost: localhost\r\nOrigin: http://localhost\r\nConnection: close\r\nContent-Type: application/x-www-form-urlencoded\r\nContent-Length: %d\r\n\r\n"
        % len(body)
    )
    await _again(lambda n: _ask(port, OTHER, head + body), 0.05)


async def odd_searches(port: int, desk: str, token: str) -> None:
    """By somebody who is signed in."""
    query = quote('"' + " ".join("abcdefghij"[at % 10] * (at % 12 + 1) + "zqx" for at in range(60))[:1500])
    head = f"GET {desk}/places?q={query} HTTP/1.1\r\nHost: localhost\r\nConnection: close\r\nCookie: {SESSION}={token}\r\n\r\n".encode()
    await _again(lambda n: _ask(port, OTHER, head), 0.05)


async def odd_html(port: int, desk: str, token: str) -> None:
    """By somebody who is signed in."""
    body = json.dumps({"html": "<a" * 60_000}).encode()
    head = f"POST /documents/raw HTTP/1.1\r\nHost: localhost\r\nOrigin: http://localhost\r\nConnection: close\r\nCookie: {SESSION}={token}\r\nContent-Type: application/json\r\nContent-Length: {len(body)}\r\n\r\n".encode()
    await _again(lambda n: _ask(port, OTHER, head + body), 0.2)


ATTACKS = (
    slow_heads,
    not_found,
    large_heads,
    odd_cookies,
    large_bodies,
    odd_sign_ins,
    odd_searches,
    odd_html,
)


async def _memory(pid: int, seconds: float) -> float:
    """The most that the server and the processes it started had in memory, in MB; what they share is counted once."""
    until, most = time.monotonic() + seconds, 0.0
    while time.monotonic() < until:
        most = max(most, sum(map(_held, _family(pid))))
        await asyncio.sleep(0.5)
    return round(most, 1)


def _family(pid: int) -> list[int]:
    found, fresh = [pid], [pid]
    while fresh:
        fresh = [int(child) for one in fresh for child in _children(one)]
        found += fresh
    return found


def _children(pid: int) -> list[str]:
    found = []
    with suppress(OSError):
        for task in os.listdir(f"/proc/{pid}/task"):
            found += Path(f"/proc/{pid}/task/{task}/children").read_text().split()
    return found


def _held(pid: int) -> float:
    with suppress(OSError, ValueError):
        lines = Path(f"/proc/{pid}/smaps_rollup").read_text().splitlines()
        return next(int(line.split()[1]) for line in lines if line.startswith("Pss:")) / 1024
    return 0.0


if __name__ == "__main__":
    sys.exit(main())
