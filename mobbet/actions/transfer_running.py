"""The process that works through exports and imports which were asked for on the screen."""

from __future__ import annotations

import fcntl
import logging
import os
import shutil
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any

from mobbet.actions import exporting, importing
from mobbet.actions.access import owned_blog
from mobbet.actions.archives import unpack
from mobbet.actions.export_sinks import ZipSink
from mobbet.actions.import_sources import FEEDS, FOLDERS, count_of, open_source
from mobbet.actions.importing import COMMENT, NEW, REFUSED, THERE, Outcome
from mobbet.actions.transfers import EXPORT, KEPT_SECONDS, archive_of, folder_of
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import Broken, MobbetError
from mobbet.core.values import existing
from mobbet.store import blogs, people, transfers
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.transfers import DONE, FAILED, GOES, LOOKED, STOPPED, Transfer

log = logging.getLogger("mobbet.transfers")
MOST_SHOWN, NOTED_EVERY = 200, 1.0


class Stopped(Exception):
    """Somebody stopped a transfer."""


@contextmanager
def _alone(workshop: Workshop) -> Iterator[bool]:
    """Whether this process is the one that works, of all on this data folder."""
    handle = os.open(workshop.settings.data / "transfers.lock", os.O_CREAT | os.O_RDWR, 0o600)
    try:
        with suppress(OSError):
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            yield True
            return
        yield False
    finally:
        os.close(handle)


def run_due(workshop: Workshop) -> int:
    """Works through what waits, one after the other, and forgets what ended long ago; how many."""
    count = 0
    with _alone(workshop) as is_alone:
        while is_alone and (one := transfers.oldest_waiting(workshop.db)):
            _run(workshop, one)
            count += 1
        if is_alone:
            _forget_old(workshop)
    return count


def _forget_old(workshop: Workshop) -> None:
    for one in transfers.ended_before(workshop.db, workshop.clock() - KEPT_SECONDS):
        shutil.rmtree(folder_of(workshop, one.id), ignore_errors=True)
        if one.kind == EXPORT or not one.report.get("run"):
            with changing(workshop):
                transfers.forget(workshop.db, one.id)


def _settle(workshop: Workshop, one: Transfer, **values: Any) -> None:
    with changing(workshop):
        transfers.settle(workshop.db, one.id, **values)


def _run(workshop: Workshop, one: Transfer) -> None:
    person, blog = people.by_id(workshop.db, one.person_id), blogs.by_id(workshop.db, one.blog_id)
    _settle(workshop, one, state=GOES, begun_at=workshop.clock())
    work = _export if one.kind == EXPORT else _import
    try:
        owned_blog(workshop, existing(person), existing(blog).slug)
        values = work(workshop, one, existing(person), existing(blog))
    except Stopped:
        values = {"state": STOPPED}
    except MobbetError as error:
        values = {"state": FAILED, "problem": str(error)}
    except Exception:
        log.exception("transfer %d failed", one.id)
        values = {
            "state": FAILED,
            "problem": "Something is broken; whoever runs this server finds the cause in its log.",
        }
    _settle(workshop, one, ended_at=workshop.clock(), **values)


def _noting(
    workshop: Workshop, one: Transfer, report: Callable[[], dict[str, Any]]
) -> Callable[[int, int], None]:
    """Notes how far a transfer is, each second. Raises Stopped once somebody stopped it."""
    last = [0.0]

    def note(done: int, total: int) -> None:
        if time.monotonic() - last[0] < NOTED_EVERY:
            return
        last[0] = time.monotonic()
        _settle(workshop, one, done=done, total=total, report=report())
        now = transfers.by_id(workshop.db, one.id)
        if now is None or now.stops:
            raise Stopped

    return note


def _export(workshop: Workshop, one: Transfer, person: Person, blog: Blog) -> dict[str, Any]:
    archive = archive_of(workshop, one)
    archive.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    part = archive.with_suffix(".part")
    try:
        with part.open("wb") as stream:
            note = _noting(workshop, one, dict)
            done = exporting.export(
                workshop, person, blog, ZipSink(stream), frozenset(one.settings["choices"]), note
            )
        os.replace(part, archive)
    except OSError as error:
        raise Broken(f"The zip file cannot be written ({error.strerror}); free some space.") from None
    finally:
        part.unlink(missing_ok=True)
    posts = done.rows.get("posts", 0)
    return {
        "state": DONE,
        "done": posts,
        "total": posts,
        "report": {"files": done.files, "bytes": archive.stat().st_size, "rows": done.rows},
    }


def _import(workshop: Workshop, one: Transfer, person: Person, blog: Blog) -> dict[str, Any]:
    settings, folder = one.settings, folder_of(workshop, one.id)
    name = settings["address"] or _unpacked(folder, settings["kind"])
    total = count_of(settings["kind"], name)
    source = open_source(workshop, settings["kind"], name, settings["names"])
    report: dict[str, Any] = {
        "counts": {NEW: 0, THERE: 0, REFUSED: 0, COMMENT: 0},
        "posts": [],
        "fields": {},
        "run": one.report.get("run", 0),
    }
    note, done = _noting(workshop, one, lambda: report), 0
    is_dry = bool(one.is_dry)
    try:
        for outcome in importing.run(
            workshop, person, blog, source, one.source, settings["subjects"], is_dry
        ):
            done += 1
            _add(report, outcome)
            note(done, total)
    except Stopped:
        _settle(workshop, one, done=done, total=total, report=report)
        raise
    return {"state": LOOKED if is_dry else DONE, "done": done, "total": done, "report": report}


def _unpacked(folder: Path, kind: str) -> str:
    """The file that was brought, or the folder that was packed in it."""
    brought, inside = folder / "brought", folder / "inside"
    if kind in FEEDS or kind not in FOLDERS:
        return str(brought)
    if not inside.is_dir():
        part = folder / "inside.part"
        shutil.rmtree(part, ignore_errors=True)
        unpack(brought, part)
        os.replace(part, inside)
    return str(inside)


def _add(report: dict[str, Any], outcome: Outcome) -> None:
    """Counts what came of a post, and keeps those that somebody wants to look at: the first ones, and those with remarks."""
    report["counts"][outcome.what] += 1
    report["run"] = outcome.run or report["run"]
    for name, example in outcome.fields:
        examples = report["fields"].setdefault(name, [])
        if example not in examples and len(examples) < 3:
            examples.append(example)
    if len(report["posts"]) < MOST_SHOWN and outcome.what != COMMENT:
        report["posts"].append(
            {"key": outcome.key[:300], "what": outcome.what, "title": outcome.title, "date": outcome.published, "notes": list(outcome.notes)[:5],
             "addresses": list(outcome.addresses)[:3], "post": outcome.post}
        )  # fmt: skip
