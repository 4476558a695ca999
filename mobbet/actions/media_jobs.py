"""Background jobs that make the files of an item for readers, one after the other."""

from __future__ import annotations

import fcntl
import logging
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from mobbet.actions.library import unsettle
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, MobbetError
from mobbet.core.facts import PictureFile
from mobbet.core.media import recipes
from mobbet.core.media.kinds import BY_TYPE, PICTURE, SOUND, VIDEO
from mobbet.core.values import existing
from mobbet.media import pictures, recordings, transcoding
from mobbet.store import jobs, media
from mobbet.store.jobs import MOST_TRIES, Job
from mobbet.store.media import Media

CUTS = tuple(recipes.USES)
LEFT_AFTER = 24 * 3600
"""Seconds after which what an ended program left in the incoming place is swept away."""

log = logging.getLogger("mobbet.worker")

Files = list[tuple[PictureFile, int]]


@contextmanager
def only_worker(workshop: Workshop) -> Iterator[bool]:
    """Whether this is the one worker of the data folder; it stays so until the context ends, or the process.

    Work that another worker had begun and did not end waits again.
    """
    with (workshop.settings.data / "worker.lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            yield False
            return
        jobs.free_abandoned(workshop.db)
        workshop.media.sweep(workshop.clock() - LEFT_AFTER)
        yield True


def work_all(workshop: Workshop) -> int:
    """Does the work that waits, and answers how many jobs that were; for a process that is the one worker."""
    done = 0
    while (job := jobs.claim(workshop.db)) is not None:
        do(workshop, job)
        done += 1
    return done


def do(workshop: Workshop, job: Job) -> None:
    """Makes the files of a job's item, and puts them in the place of those it had, all at once."""
    row = existing(media.by_id(workshop.db, job.media_id))
    try:
        values, uses, files = _MAKERS[row.kind](workshop, row, job)
    except MobbetError as error:
        is_final = isinstance(error, BadInput) or job.tries >= MOST_TRIES
        _fail(workshop, job, row, str(error), is_final)
        return
    except Exception:
        log.exception("the work on item %d did not succeed", job.media_id)
        _fail(
            workshop,
            job,
            row,
            f"“{row.name}” could not be worked on; it is kept as it came.",
            job.tries >= MOST_TRIES,
        )
        return
    with changing(workshop, why=f"the copies of “{row.name}” are ready", is_left_to_scheduler=True):
        now = existing(media.by_id(workshop.db, row.id))
        is_current = (now.recipe, now.poster_second) == (row.recipe, row.poster_second)
        if is_current:
            media.set_copies(workshop.db, row.id, uses, files)
            media.change(workshop.db, row.id, state="ready", problem="", **values)
            unsettle(workshop, row.id)
        jobs.end(workshop.db, job.id, "done")
    workshop.on_change()


def _fail(workshop: Workshop, job: Job, row: Media, sentence: str, is_final: bool) -> None:
    with changing(workshop, is_left_to_scheduler=True):
        jobs.end(workshop.db, job.id, "failed" if is_final else "waiting")
        if is_final:
            media.change(workshop.db, row.id, state="failed", problem=sentence)


def _picture(workshop: Workshop, row: Media, job: Job) -> tuple[dict[str, Any], tuple[str, ...], Files]:
    limits, recipe = workshop.settings.limits, recipes.load(row.recipe)
    copies = pictures.derive(
        workshop.media.path(row.hash), row.type, row.name, recipe, limits, workshop.settings.with_avif
    )
    width = recipes.cropped_size(row.width, row.height, recipe)[0]
    expected = 3 * len(pictures.widths_of(width)) + 8
    return {}, ("whole", *CUTS), _laid_down(workshop, row, job, copies, expected)


def _laid_down(
    workshop: Workshop, row: Media, job: Job, copies: Iterator[pictures.Copy], expected: int
) -> Files:
    """The copies on the shelf, synced to the disk; progress is told after each."""
    found: Files = []
    new = []
    for copy in copies:
        digest, paths = workshop.media.put(copy.body)
        new += paths
        found.append(
            (PictureFile(row.id, copy.width, copy.height, copy.type, digest, copy.use), len(copy.body))
        )
        jobs.set_progress(workshop.db, job.id, min(0.95, len(found) / expected))
    workshop.media.sync(new)
    return found


def _sound(workshop: Workshop, row: Media, job: Job) -> tuple[dict[str, Any], tuple[str, ...], Files]:
    heard = existing(recordings.hear(workshop.media.path(row.hash), row.name, row.seconds))
    jobs.set_progress(workshop.db, job.id, 0.5)
    wave = recordings.wave_svg(heard.wave)
    digest, new = workshop.media.put(wave)
    workshop.media.sync(new)
    drawing = (PictureFile(row.id, 480, 80, "image/svg+xml", digest, "wave"), len(wave))
    return (
        {"loudness": heard.loudness, "wave": heard.wave},
        ("sound", "wave"),
        [_played(workshop, row, job, "sound"), drawing],
    )


def _video(workshop: Workshop, row: Media, job: Job) -> tuple[dict[str, Any], tuple[str, ...], Files]:
    film = _played(workshop, row, job, "video")
    with workshop.media.incoming() as file:
        file.write_bytes(recordings.frame_at(workshop.media.path(row.hash), row.name, row.poster_second))
        seen = pictures.verify(file, "image/png", row.name, workshop.settings.limits)
        copies = pictures.derive(
            file,
            "image/png",
            row.name,
            recipes.load(row.recipe),
            workshop.settings.limits,
            workshop.settings.with_avif,
        )
        copies = (copy for copy in copies if copy.type != "image/png")
        files = _laid_down(workshop, row, job, copies, 20)
    heard = recordings.hear(workshop.media.path(row.hash), row.name, row.seconds)
    values = {"colour": seen.colour, "tiny": seen.tiny, "loudness": heard.loudness if heard else None}
    return values, ("video", "whole", *CUTS), [film, *files]


def _played(workshop: Workshop, row: Media, job: Job, use: str) -> tuple[PictureFile, int]:
    """The file that readers play: the streams as they came, or converted where browsers do not play them."""
    kind, path = BY_TYPE[row.type], workshop.media.path(row.hash)
    found = recordings.look(path, kind, row.name)
    type = {"video/quicktime": "video/mp4"}.get(row.type, row.type)
    with workshop.media.incoming() as target:
        if found.is_ready:
            recordings.copied(path, type, target, row.name)
        else:
            transcoding.refuse_unready(row.name, found.codecs)
            type = "video/mp4" if row.kind == VIDEO else "audio/mp4"
            transcoding.to_mp4(
                path,
                target,
                row.name,
                found.seconds,
                lambda part: jobs.set_progress(workshop.db, job.id, 0.6 * part),
            )
        size = target.stat().st_size
        digest, new = workshop.media.take(target)
        workshop.media.sync(new)
    return PictureFile(row.id, found.width, found.height, type, digest, use), size


_MAKERS = {PICTURE: _picture, SOUND: _sound, VIDEO: _video}
