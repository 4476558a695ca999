"""Writes the public site at an instant as files; changes nothing else."""

from __future__ import annotations

import pickle
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO

from mobbet.core.audience import EVERYONE, STATIC_HOST
from mobbet.core.errors import Broken
from mobbet.core.keys import PageKey
from mobbet.publish.page_rows import memo_of
from mobbet.publish.pages.kinds import all_keys, page_at, render
from mobbet.publish.parallel import MANY, in_processes, stretches
from mobbet.publish.plan import Plan
from mobbet.publish.render_cache import RenderCache
from mobbet.publish.renderer import Renderer
from mobbet.publish.static_copy import static_copy
from mobbet.publish.targets import folder
from mobbet.publish.targets.folder import Sent
from mobbet.store.database import Database
from mobbet.store.shelf import Shelf
from mobbet.store.snapshot import SiteSnapshot

Written = tuple[set[str], int]
"""The names of the files of some pages, and how many of them had to be written."""


@dataclass(frozen=True)
class WritingOut:
    """What is to be written: the site of one blog at an instant, into the folder `out`; `media` is where its pictures lie."""

    database: Path
    media: Path
    out: Path
    blog_id: int
    instant: int

    def answer(self, keys: list[PageKey], posts: list[int], out: BinaryIO) -> None:
        db = Database(self.database)
        with db.reading():
            plan, memo = self.plan(db)
            pickle.dump(self.written(plan, memo, keys), out)

    def read(self, source: BinaryIO) -> Written:
        written: Written = pickle.load(source)
        return written

    def plan(self, db: Database) -> tuple[Plan, RenderCache]:
        snapshot = SiteSnapshot(
            db, self.blog_id, self.instant, STATIC_HOST
        )  # what is not written is not linked
        memo = memo_of(db, snapshot)
        return Plan(snapshot, memo), memo

    def written(self, plan: Plan, memo: RenderCache, keys: list[PageKey]) -> Written:
        """Raises Broken where a file is missing, or cannot be written."""
        return folder.write(self.out, files_of(plan, Shelf(self.media), keys, memo))


def write_out(db: Database, media: Shelf, blog_id: int, out: Path, instant: int) -> Sent:
    """Raises Refused for a folder that holds files of somebody else, Broken when it cannot be written."""
    job = WritingOut(db.path, media.folder, out, blog_id, instant)
    ours = folder.begin(out)
    version = db.version()
    parts = _parts(db, job, True)
    if db.version() != version:  # the processes may have read other facts than this one
        parts = _parts(db, job, False)
    names = set().union(*(names for names, _ in parts))
    return Sent(sum(written for _, written in parts), folder.finish(out, ours, names), len(names))


def _parts(db: Database, job: WritingOut, may_share: bool) -> list[Written]:
    with db.reading():
        plan, memo = job.plan(db)
        keys = list(all_keys(plan))

        def by_hand(some: list[PageKey], _: list[int]) -> Written:
            return job.written(plan, memo, some)

        shared = (
            in_processes(job, keys, list(plan.snapshot.post_ids()), by_hand)
            if may_share and len(keys) >= MANY
            else None
        )
        return shared or [by_hand(keys, [])]


def files_of(
    plan: Plan, media: Shelf, keys: list[PageKey], memo: RenderCache | None = None
) -> Iterator[tuple[str, bytes]]:
    """(path, bytes) of the pages at these keys that everyone may read; texts that are kept already come from the memo.

    Raises Broken where a file is missing.
    """
    renderer = Renderer(plan.snapshot.house, plan.snapshot.item, memo=memo)
    for some, posts in stretches(keys):
        if memo:
            memo.read_ahead(posts)
        for page in filter(None, (page_at(plan, key) for key in some)):
            if page.audience != EVERYONE:
                continue
            rendered = render(renderer, page)
            body = media.read(rendered.media_hash) if rendered.media_hash else rendered.body
            if body is None:
                raise Broken(f"A file of the picture at {page.path} is missing; run mobbet check.")
            yield (
                page.path,
                static_copy(body, page.key.kind) if rendered.type.startswith("text/html") else body,
            )
        if memo:
            memo.given_up()  # this changes nothing in the data folder
