"""The library of a blog: adding files, describing and editing them, setting them aside."""

from __future__ import annotations

import json
import re
import shutil
from collections.abc import Iterable
from dataclasses import dataclass, replace
from pathlib import Path
from typing import IO, Any, BinaryIO

from mobbet.actions.access import blog_for, editable_item, may_edit_item, title_for
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, Refused
from mobbet.core.facts import PictureFile
from mobbet.core.media import captions as caption_rules
from mobbet.core.media import recipes
from mobbet.core.media.kinds import (
    BY_ENDING,
    FILE,
    PICTURE,
    SOUND,
    VIDEO,
    FileType,
    clean_name,
    ending_of,
    refuse_ending,
    refuse_size,
    with_ending,
)
from mobbet.core.media.licences import read_licence
from mobbet.core.names import one_line
from mobbet.media import pictures, recordings, svg, transcoding
from mobbet.media.sniffing import sniff
from mobbet.store import filing, jobs, media, stale
from mobbet.store.blogs import Blog
from mobbet.store.media import Media
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot

LONGEST = {"alt": 2000, "caption": 600, "credit": 200, "source": 2000, "transcript": 100_000, "name": 120}
MOST_LABELS = 20
ON_PAGES = ("name", "transcript")
"""What is said of an item that pages show; a picture's words stand in each post by themselves."""


def add_picture(workshop: Workshop, person: Person, blog: Blog, name: str, data: bytes) -> Media:
    """Keeps a picture that came inside a text, whatever its name ends in. Raises BadInput for anything else."""
    with workshop.media.incoming() as file:
        file.write_bytes(data)
        row = sniff(file, name)
        if row.kind != PICTURE:
            raise BadInput(
                f"“{name}” is no picture; choose a JPEG, PNG, WebP, AVIF, GIF, HEIC or SVG.", "file"
            )
        return _take(workshop, person, blog, with_ending(clean_name(name), row), file, {})


def add_stream(
    workshop: Workshop, person: Person, blog: Blog, name: str, stream: BinaryIO, **about: Any
) -> Media:
    """As `add_file`, for a file that is being read."""
    with workshop.media.incoming() as file:
        with file.open("wb") as out:
            shutil.copyfileobj(stream, out, 1 << 20)
        return _take(workshop, person, blog, clean_name(name), file, about)


def add_file(workshop: Workshop, person: Person, blog: Blog, path: Path, **about: Any) -> Media:
    """Keeps a file in the library; what takes time is left to the worker. The same file twice is kept once.

    `about` may give its alt, caption, credit, licence, source and labels. Raises BadInput, with one clear
    sentence, for what is no file the library keeps, is damaged, disguised or too large.
    """
    with path.open("rb") as stream:
        kind = BY_ENDING[ending_of(path.name)].kind if ending_of(path.name) in BY_ENDING else FILE
        refuse_size(clean_name(path.name), path.stat().st_size, kind, workshop.settings.limits)
        return add_stream(workshop, person, blog, path.name, stream, **about)


@dataclass(frozen=True)
class Prepared:
    """A file that is kept, before the library has a row of it: its hash, the columns that follow from it, and the copies that were made at once."""

    digest: str
    columns: dict[str, Any]
    copies: tuple[tuple[PictureFile, int], ...]

    @property
    def needs_work(self) -> bool:
        return bool(self.columns["state"] == "working")

    def copies_of(self, media_id: int) -> list[tuple[PictureFile, int]]:
        return [(replace(copy, media_id=media_id), size) for copy, size in self.copies]


def prepare(workshop: Workshop, name: str, stream: IO[bytes]) -> Prepared:
    """Keeps a file that is being read. Raises BadInput for what is no file the library keeps, is damaged, disguised or too large."""
    with workshop.media.incoming() as file:
        most = workshop.settings.limits.bytes_of(FILE)
        with file.open("wb") as out:
            while part := stream.read(1 << 20):
                out.write(part)
                refuse_size(
                    clean_name(name), out.tell(), FILE, workshop.settings.limits
                ) if out.tell() > most else None
        return _prepared(workshop, clean_name(name), file)


def _prepared(workshop: Workshop, name: str, file: Path) -> Prepared:
    limits, size = workshop.settings.limits, file.stat().st_size
    refuse_size(name, size, FILE, limits)
    row = sniff(file, name)
    refuse_size(name, size, row.kind, limits)
    refuse_ending(name, row)
    seen, made = _look(workshop, row, name, file)
    digest, new = workshop.media.take(file)
    copies = []
    for copy in made:
        file_hash, paths = workshop.media.put(copy.body)
        new += paths
        copies.append(
            (PictureFile(0, copy.width, copy.height, copy.type, file_hash, copy.use), len(copy.body))
        )
    if row.kind == FILE:
        copies.append((PictureFile(0, 0, 0, row.type, digest, "file"), size))
    workshop.media.sync(new)
    needs_work = row.kind != FILE and row.type != "image/svg+xml"
    columns = {
        "hash": digest, "type": row.type, "bytes": size, "kind": row.kind, "state": "working" if needs_work else "ready", **seen,
    }  # fmt: skip
    return Prepared(digest, columns, tuple(copies))


def _take(
    workshop: Workshop, person: Person, blog: Blog, name: str, file: Path, about: dict[str, Any]
) -> Media:
    found = _prepared(workshop, name, file)
    with changing(workshop, is_left_to_scheduler=True):
        known = media.by_hash(workshop.db, blog.id, found.digest)
        if known:
            return media.change(workshop.db, known.id, aside_at=None) if known.aside_at else known
        now = workshop.clock()
        item = media.add(
            workshop.db, blog_id=blog.id, name=name, added_by=person.id, added_at=now, **{"alt": "", **found.columns, **read_about(about)}
        )  # fmt: skip
        media.set_copies(workshop.db, item.id, (), found.copies_of(item.id))
        if found.needs_work:
            jobs.add(workshop.db, item.id, now)
    return item


def _look(
    workshop: Workshop, row: FileType, name: str, file: Path
) -> tuple[dict[str, Any], list[pictures.Copy]]:
    """What a quick look tells of a file, as columns, and the copies that are made at once."""
    if row.type == "image/svg+xml":
        body, width, height = svg.clean_svg(file.read_bytes(), name)
        return {"width": width, "height": height}, [pictures.Copy("whole", width, height, row.type, body)]
    if row.kind == PICTURE:
        with workshop.looking:
            seen = pictures.verify(file, row.type, name, workshop.settings.limits)
        noted = ("width", "height", "colour", "tiny", "taken", "camera", "place")
        return {**{field: getattr(seen, field) for field in noted}, "is_moving": int(seen.is_moving)}, [
            seen.first
        ]
    if row.kind in (SOUND, VIDEO):
        found = recordings.look(file, row, name)
        if not found.is_ready:
            transcoding.refuse_unready(name, found.codecs)
        second = round(min(1.0, found.seconds / 10), 2) if row.kind == VIDEO else 0.0
        return {
            "width": found.width,
            "height": found.height,
            "seconds": found.seconds,
            "poster_second": second,
        }, []
    return {"width": 0, "height": 0}, []


def read_about(about: dict[str, Any]) -> dict[str, Any]:
    """What a person says of an item, as columns. Raises BadInput, naming the field, for what cannot be kept."""
    values: dict[str, Any] = {}
    for field in ("alt", "caption", "credit", "source", "name"):
        if about.get(field) is not None:
            values[field] = _line(str(about[field]), field)
    if about.get("transcript") is not None:
        if len(about["transcript"]) > LONGEST["transcript"]:
            raise BadInput(
                f"The transcript has {len(about['transcript']):,} letters; {LONGEST['transcript']:,} is the most.",
                "transcript",
            )
        values["transcript"] = about["transcript"].replace("\r\n", "\n").strip()
    if about.get("licence") is not None:
        values["licence"] = read_licence(about["licence"])
    if about.get("labels") is not None:
        given = about["labels"]
        values["labels"] = read_labels(given.split(",") if isinstance(given, str) else given)
    if values.get("name") == "":
        raise BadInput("The name is empty; give the item one.", "name")
    return values


def _line(text: str, field: str) -> str:
    line = one_line(text)
    if len(line) > LONGEST[field]:
        raise BadInput(f"The {field} has {len(line):,} letters; {LONGEST[field]:,} is the most.", field)
    return line


def read_labels(names: Iterable[str]) -> tuple[str, ...]:
    """Labels as they are kept, each once whatever its capitals. Raises BadInput for too many or too long ones."""
    kept: dict[str, str] = {}
    for name in names:
        label = one_line(name)
        if len(label) > 40:
            raise BadInput(f"The label “{label[:60]}” has {len(label)} letters; 40 is the most.", "labels")
        if label:
            kept.setdefault(label.casefold(), label)
    if len(kept) > MOST_LABELS:
        raise BadInput(f"These are {len(kept)} labels; {MOST_LABELS} is the most.", "labels")
    return tuple(kept.values())


def describe(workshop: Workshop, person: Person, media_id: int, **about: Any) -> Media:
    """Changes what is said of an item; posts that are out are written anew where they show it."""
    row, _ = editable_item(workshop, person, media_id)
    values = read_about(about)
    if not values:
        return row
    with changing(workshop, person, f"“{row.name}” was changed", is_left_to_scheduler=True):
        if any(values.get(field, getattr(row, field)) != getattr(row, field) for field in ON_PAGES):
            unsettle(workshop, media_id)
        return media.change(workshop.db, media_id, **values)


def label_many(
    workshop: Workshop, person: Person, blog_slug: str, numbers: list[int], labels: str, remove: bool = False
) -> int:
    """Adds labels to many items, or takes them away; answers how many changed."""
    blog = blog_for(workshop, person, blog_slug)
    wanted = read_labels(labels.split(","))
    if not wanted:
        raise BadInput("No label was typed; type one or more, with commas between them.", "labels")
    folded = {label.casefold() for label in wanted}
    changed = 0
    with changing(
        workshop, person, f"labels of {len(numbers)} files were changed", is_left_to_scheduler=True
    ):
        for number in numbers:
            row = media.on_blog(workshop.db, blog.id, number)
            if row is None or not may_edit_item(workshop, person, number):
                continue
            kept = tuple(label for label in row.labels if label.casefold() not in folded)
            now = kept if remove else read_labels((*row.labels, *wanted))
            if now != row.labels:
                media.change(workshop.db, number, labels=now)
                changed += 1
    return changed


def set_recipe(workshop: Workshop, person: Person, media_id: int, given: Any) -> Media:
    """Keeps how a picture is made of its original; its files are made anew by the worker."""
    row, _ = editable_item(workshop, person, media_id)
    if row.kind == FILE or row.kind == SOUND or row.type == "image/svg+xml":
        raise Refused(f"“{row.name}” is no picture of pixels, so it cannot be cropped.")
    recipe = recipes.read(given)
    if (row.is_moving or row.kind == VIDEO) and not recipe.is_plain:
        raise Refused(
            f"“{row.name}” moves; it can have a focal point and cuts, but is not turned or cropped."
        )
    with changing(workshop, person, f"“{row.name}” was changed", is_left_to_scheduler=True):
        jobs.add(workshop.db, media_id, workshop.clock())
        return media.change(workshop.db, media_id, recipe=recipe.kept(), state="working")


def forget_camera(workshop: Workshop, person: Person, media_id: int) -> Media:
    """Takes away what the camera noted: when, with what and where it was taken."""
    editable_item(workshop, person, media_id)
    with changing(workshop, person, "a file of the library was changed", is_left_to_scheduler=True):
        return media.change(workshop.db, media_id, taken="", camera="", place="")


def set_poster(workshop: Workshop, person: Person, media_id: int, second: str) -> Media:
    """Chooses the frame of a video that shows before it plays."""
    row, _ = editable_item(workshop, person, media_id)
    try:
        at = float(second)
    except ValueError:
        at = -1.0
    if row.kind != VIDEO or not 0 <= at <= max(row.seconds, 0.0):
        raise BadInput(
            f"“{second}” is no moment of “{row.name}”; give seconds from 0 to {row.seconds:g}.", "second"
        )
    with changing(workshop, person, f"“{row.name}” was changed", is_left_to_scheduler=True):
        jobs.add(workshop.db, media_id, workshop.clock())
        return media.change(workshop.db, media_id, poster_second=round(at, 2), state="working")


def set_captions(workshop: Workshop, person: Person, media_id: int, text: str) -> Media:
    """Keeps the captions of a video, from WebVTT, SubRip or lines with times. Raises BadInput with the line."""
    row, _ = editable_item(workshop, person, media_id)
    if row.kind != VIDEO:
        raise Refused(f"“{row.name}” is no video, so it has no captions.")
    cues = caption_rules.read(text, row.seconds or None)
    kept = caption_rules.write(cues) if cues else ""
    body = kept.encode()
    if kept:
        digest, new = workshop.media.put(body)
        workshop.media.sync(new)
    with changing(workshop, person, f"“{row.name}” was changed", is_left_to_scheduler=True):
        file = [(PictureFile(media_id, 0, 0, "text/vtt", digest, "captions"), len(body))] if kept else []
        media.set_copies(workshop.db, media_id, ("captions",), file)
        unsettle(workshop, media_id)
        return media.change(workshop.db, media_id, captions=kept)


def unsettle(workshop: Workshop, media_id: int) -> None:
    """Marks the pages that show an item, for the next edition."""
    media.raise_version(workshop.db, media_id)
    blog_id = media.blog_of(workshop.db, media_id)
    categories = filing.with_picture(workshop.db, media_id)
    for number in categories:
        stale.mark_fact(workshop.db, blog_id, "category", number)
    if categories or media_id in SiteSnapshot(workshop.db, blog_id, workshop.clock()).house.pictures:
        stale.mark_fact(workshop.db, blog_id, "media", media_id)
    for blog_id, post_id in media.shown_by(workshop.db, media_id, workshop.clock()):
        stale.mark_posts(workshop.db, blog_id, post_id)


def set_aside(workshop: Workshop, person: Person, media_id: int) -> Media:
    """Takes an item from the library, restorably. Raises Refused, with the list, while readers get it."""
    row, _ = editable_item(workshop, person, media_id)
    with changing(workshop, person, f"“{row.name}” was changed", is_left_to_scheduler=True):
        if media_id in SiteSnapshot(workshop.db, row.blog_id, workshop.clock()).house.pictures:
            raise Refused(f"The look of the site shows “{row.name}”; choose another picture there first.")
        out = [
            title_for(workshop, person, post_id)
            for _, post_id in media.shown_by(workshop.db, media_id, workshop.clock())
        ]
        if out:
            names = ", ".join(f"“{title}”" for title in out[:5]) + (
                f" and {len(out) - 5} more" if len(out) > 5 else ""
            )
            raise Refused(
                f"Readers see “{row.name}” in {names}; take it out of there, or replace it, and update what is out first."
            )
        return media.change(workshop.db, media_id, aside_at=workshop.clock())


def restore(workshop: Workshop, person: Person, media_id: int) -> Media:
    """Brings an item that was set aside back to the library."""
    editable_item(workshop, person, media_id)
    with changing(workshop, person, "a file of the library was changed", is_left_to_scheduler=True):
        return media.change(workshop.db, media_id, aside_at=None)


def renumbered(document: Any, before: int, now: int) -> Any:
    """A document with one item in the place of another; every setting around it stays."""
    return json.loads(
        re.sub(rf'"media:{before}"', f'"media:{now}"', json.dumps(document, ensure_ascii=False))
    )
