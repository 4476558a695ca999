"""Lays the pages of an edition down: compares each with the current edition's, and renders what may differ.

A build of many pages is shared among processes. Each reads the facts for itself; that they all read the same is seen by whoever
shares the work out, from the database's change counters.
"""

from __future__ import annotations

import gc
import os
import pickle
import subprocess
import sys
import threading
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from mobbet.core.canonical import digest as digest_of
from mobbet.publish.memo import Memo
from mobbet.publish.pages import HTML, Renderer
from mobbet.publish.plan import Plan, fingerprint
from mobbet.publish.values import Page
from mobbet.store import editions, worked_out
from mobbet.store.database import Database
from mobbet.store.editions import PageRow
from mobbet.store.shelf import Shelf
from mobbet.store.snapshot import SiteSnapshot
from mobbet.store.worked_out import WorkedOut

LATE = {"card": "image/png", "leads-on": HTML}
"""Recipes whose bytes are made when somebody asks for them, with their type: many of them never are (`publish/late.py`)."""
MANY = 1500
"""From so many pages on, the work is shared."""
OF_POSTS = ("post/", "short/", "card/")
"""The keys that come first: a post's text is read once, for its own page, and lists find its card made."""
AHEAD = 600
"""So many keys of posts are gone through with what is kept of their posts read at once."""
SOME, PATIENT = 200, (50_000, 20, 100)
"""From so many pages on garbage is looked for as seldom as that: hardly any of what is kept meanwhile is garbage."""


@dataclass(frozen=True)
class Order:
    """What is to be laid down: the pages of one blog at an instant, into an edition that has this house; with `full`, all of them."""

    database: Path
    shelf: Path
    blog_id: int
    instant: int
    house: str
    full: bool


@dataclass
class Rows:
    """The rows by which an edition differs from the one before, and what was worked out for them."""

    new: list[PageRow] = field(default_factory=list)
    ended: list[str] = field(default_factory=list)
    files: list[Path] = field(default_factory=list)
    worked_out: list[WorkedOut] = field(default_factory=list)
    added: int = 0
    removed: int = 0

    def add(self, other: Rows) -> None:
        for name in ("new", "ended", "files", "worked_out"):
            getattr(self, name).extend(getattr(other, name))
        self.added += other.added
        self.removed += other.removed


def memo_of(db: Database, snapshot: SiteSnapshot) -> Memo:
    """What earlier editions worked out, for a plan and a renderer over this snapshot."""
    return Memo(lambda posts: worked_out.of_posts(db, posts), snapshot.item, Renderer.version())


def rows_of(db: Database, shelf: Shelf, plan: Plan, order: Order, keys: list[str], memo: Memo) -> Rows:
    """Works the rows of these keys out."""
    renderer = Renderer(plan.snapshot.house, plan.snapshot.item, memo=memo)
    rows = Rows()
    known = editions.pages_of(db, order.blog_id, keys)
    with _patience(len(keys)):
        of_posts = [key for key in keys if key.startswith(OF_POSTS)]
        for some in (of_posts[at : at + AHEAD] for at in range(0, len(of_posts), AHEAD)):
            memo.read_ahead(dict.fromkeys(int(key.partition("/")[2]) for key in some))
            for key in some:
                _take(shelf, renderer, order, rows, key, plan.page(key), known.pop(key, None))
        for key in (key for key in keys if not key.startswith(OF_POSTS)):
            _take(shelf, renderer, order, rows, key, plan.page(key), known.pop(key, None))
    rows.worked_out = list(memo.fresh.values())
    return rows


@contextmanager
def _patience(pages: int) -> Iterator[None]:
    """Looks for garbage seldom while many pages are made."""
    usual = gc.get_threshold()
    if pages >= SOME:
        gc.set_threshold(*PATIENT)
    try:
        yield
    finally:
        gc.set_threshold(*usual)


def _take(shelf: Shelf, renderer: Renderer, order: Order, rows: Rows, key: str, page: Page | None, old: PageRow | None) -> None:
    """Compares a page of the plan with the current edition's, and renders it if it may differ."""
    if page is None:
        if old:
            rows.ended.append(key)
            rows.removed += 1
        return
    print_now = fingerprint(page, order.house)
    if old and old.fingerprint == print_now and (page.recipe in LATE or not order.full):  # what is late has no bytes to render anew
        return
    row = _laid_down(shelf, renderer, rows, page, print_now)
    if old == row:
        return
    if old:
        rows.ended.append(key)
    else:
        rows.added += 1
    rows.new.append(row)


def _laid_down(shelf: Shelf, renderer: Renderer, rows: Rows, page: Page, print_now: str) -> PageRow:
    if page.recipe in LATE:
        return PageRow(page.key, page.path, LATE[page.recipe], "pages", digest_of(page.reads), print_now, page.audience, page.leads_to)
    rendered = renderer.render(page)
    name, digest = "media", rendered.media_hash
    if not digest:
        name = "pages"
        digest, new = shelf.put(rendered.body)
        rows.files += new
    return PageRow(page.key, page.path, rendered.type, name, digest, print_now, page.audience, page.leads_to)


Worked = tuple[Rows, dict[int, dict[str, Any] | None]]
"""Rows, and {post: its state}."""


def in_processes(order: Order, keys: list[str], posts: list[int], by_hand: Callable[[list[str], list[int]], Worked]) -> Worked | None:
    """The rows of many keys and the states of the posts, worked out by as many processes as there are cores; None where that cannot be done here.

    A process that does nothing else, as a command, takes a part itself (`by_hand`); a server hands out all of them, and goes on serving.
    """
    cores = len(os.sched_getaffinity(0)) if hasattr(os, "sched_getaffinity") else os.cpu_count() or 1
    if cores < 2:
        return None
    first, *others = divided(keys, posts, cores)
    helps = threading.active_count() == 1
    with ThreadPoolExecutor(cores) as pool:
        waiting = [pool.submit(_asked, order, *part) for part in (others if helps else (first, *others))]
        answers = [by_hand(*first)] if helps else []
        answers += [one.result() for one in waiting]
    if any(answer is None for answer in answers):
        return None
    rows, states = Rows(), {}
    for some_rows, some_states in answers:
        rows.add(some_rows)
        states.update(some_states)
    return rows, dict(sorted(states.items()))


def divided(keys: list[str], posts: list[int], parts: int) -> list[tuple[list[str], list[int]]]:
    """Keys and posts in as many parts: each has a stretch of time, so that hardly a post is read by two processes.

    Posts come in the order of time, and the pages of a list with it, but for the newest, which has the number 0.
    """
    place = {post_id: at * parts // max(1, len(posts)) for at, post_id in enumerate(posts)}
    lengths: dict[str, int] = {}
    for key in keys:
        if key.startswith("list/"):
            name = key.rpartition("/")[0]
            lengths[name] = lengths.get(name, 0) + 1
    found: list[tuple[list[str], list[int]]] = [([], []) for _ in range(parts)]
    part = 0
    for at, key in enumerate(keys):
        kind, _, rest = key.partition("/")
        if kind == "list":
            name, _, number = key.rpartition("/")
            part = min(parts - 1, (int(number) - 1) * parts // lengths[name]) if number != "0" else parts - 1
        elif kind in ("post", "short", "card"):
            part = place.get(int(rest), 0)
        elif kind != "former":  # an old address follows its post
            part = at % parts
        found[part][0].append(key)
    for post_id, where in place.items():
        found[where][1].append(post_id)
    return found


def worked(db: Database, shelf: Shelf, plan: Plan, order: Order, keys: list[str], posts: list[int], memo: Memo) -> Worked:
    """The rows of these keys, and the states of these posts."""
    return rows_of(db, shelf, plan, order, keys, memo), {post_id: plan.state(post_id) for post_id in posts}


def _asked(order: Order, keys: list[str], posts: list[int]) -> Worked | None:
    """What another process answers; None where it could not be started, or ended before its time.

    It is a plain program, which does not import the one that asks, and talks by its standard input and output.
    """
    command = [sys.executable, "-c", "from mobbet.publish.laying import answer; answer()"]
    asked = pickle.dumps((order, keys, posts))
    try:
        environment = {**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)}
        with subprocess.Popen(command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, env=environment) as process:
            process.stdin.write(asked)
            process.stdin.close()
            found = pickle.load(process.stdout)  # read as it comes, since all of it at once would take its room twice
        return found if process.returncode == 0 else None
    except (OSError, pickle.UnpicklingError, EOFError):
        return None


def answer() -> None:
    """The other process: reads an order, keys and posts, and writes the rows and the states."""
    order, keys, posts = pickle.load(sys.stdin.buffer)
    db, shelf = Database(order.database), Shelf(order.shelf)
    with db.reading():
        snapshot = SiteSnapshot(db, order.blog_id, order.instant)
        memo = memo_of(db, snapshot)
        plan = Plan(snapshot, memo)
        found = worked(db, shelf, plan, order, keys, posts, memo)
    pickle.dump(found, sys.stdout.buffer)
    sys.stdout.flush()
