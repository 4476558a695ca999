"""Divides work on many pages among processes.

Each reads the facts for itself; that they all read the same is seen by whoever shares the work out, from the database's change counters.
"""

from __future__ import annotations

import os
import pickle
import subprocess
import sys
import threading
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from typing import Any, BinaryIO, Protocol, cast

from mobbet.core.keys import PageKey
from mobbet.core.values import existing
from mobbet.publish.pages.kinds import KINDS

MANY = 1500
"""The number of pages from which the work is divided among processes."""
OF_POSTS = tuple(kind.name for kind in KINDS.values() if kind.is_of_post)
"""The kinds that come first: a post's text is read once, for its own page, and lists find its card made."""
AHEAD = 600
"""The number of keys of posts for which cached data is read in one query."""


class Job(Protocol):
    """What is to be done with many keys of a plan; it travels to other processes by pickle."""

    def answer(self, keys: list[PageKey], posts: list[int], out: BinaryIO) -> None:
        """In another process: does a part, and writes what came of it."""

    def read(self, source: BinaryIO) -> Any:
        """Reads what another process wrote, as it comes."""


def in_processes(
    job: Job, keys: list[PageKey], posts: list[int], by_hand: Callable[[list[PageKey], list[int]], Any]
) -> list[Any] | None:
    """What came of each part, the work done by as many processes as there are cores; None where that cannot be done here.

    A process that does nothing else, as a command, takes a part itself (`by_hand`); a server hands out all of them, and goes on serving.
    """
    cores = len(os.sched_getaffinity(0)) if hasattr(os, "sched_getaffinity") else os.cpu_count() or 1
    if cores < 2:
        return None
    first, *others = divided(keys, posts, cores)
    helps = threading.active_count() == 1
    with ThreadPoolExecutor(cores) as pool:
        waiting = [pool.submit(_asked, job, *part) for part in (others if helps else (first, *others))]
        answers = [by_hand(*first)] if helps else []
        answers += [one.result() for one in waiting]
    return None if any(answer is None for answer in answers) else answers


def divided(keys: list[PageKey], posts: list[int], parts: int) -> list[tuple[list[PageKey], list[int]]]:
    """Keys and posts in as many parts: each has a stretch of time, so that hardly a post is read by two processes.

    Posts come in the order of time. An older page of a list goes with its first post.
    """
    place = {post_id: at * parts // max(1, len(posts)) for at, post_id in enumerate(posts)}
    found: list[tuple[list[PageKey], list[int]]] = [([], []) for _ in range(parts)]
    part, is_of_post = 0, False
    for at, key in enumerate(keys):
        kind = key.kind
        if kind == "list":
            part = place.get(key.first_post, 0) if key.first_post else parts - 1
        elif kind in OF_POSTS:
            part = place.get(key.number, 0)
        elif kind != "former" or not is_of_post:  # in a list of all keys, an old address follows its post
            part = at % parts
        is_of_post = kind in OF_POSTS or (is_of_post and kind == "former")
        found[part][0].append(key)
    for post_id, where in place.items():
        found[where][1].append(post_id)
    return found


def stretches(keys: list[PageKey]) -> Iterator[tuple[list[PageKey], list[int]]]:
    """The keys in processing order, in batches, each with the posts whose pages it has."""
    of_posts = [key for key in keys if key.kind in OF_POSTS]
    for some in (of_posts[at : at + AHEAD] for at in range(0, len(of_posts), AHEAD)):
        yield some, list(dict.fromkeys(key.number for key in some))
    yield [key for key in keys if key.kind not in OF_POSTS], []


def _asked(job: Job, keys: list[PageKey], posts: list[int]) -> Any:
    """What another process answers; None where it could not be started, or ended before its time.

    It is a plain program, which does not import the one that asks, and talks by its standard input and output.
    """
    command = [sys.executable, "-c", "from mobbet.publish.parallel import answer; answer()"]
    asked = pickle.dumps((job, keys, posts))
    try:
        environment = {**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)}
        with subprocess.Popen(
            command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, env=environment
        ) as process:
            out, answers = existing(process.stdin), existing(process.stdout)
            out.write(asked)
            out.close()
            found = job.read(cast(BinaryIO, answers))
        return found if process.returncode == 0 else None
    except (OSError, pickle.UnpicklingError, EOFError):
        return None


def answer() -> None:
    """The other process: reads a job, keys and posts, and writes what comes of them."""
    job, keys, posts = pickle.load(sys.stdin.buffer)
    job.answer(keys, posts, sys.stdout.buffer)
    sys.stdout.flush()
