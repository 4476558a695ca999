"""Imports posts from files: each becomes a draft, with its pictures in the library."""

from __future__ import annotations

import io
import re
import zipfile
from collections import Counter
from dataclasses import dataclass
from pathlib import PurePosixPath
from typing import Any

from mobbet.actions import posts
from mobbet.actions.access import blog_for
from mobbet.actions.files import settle
from mobbet.actions.import_pictures import Beside, Pictures, nothing_beside, with_local, with_named
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import frontmatter
from mobbet.core.document import outline, schema
from mobbet.core.document.from_files import text_of
from mobbet.core.document.from_html import Reading
from mobbet.core.document.reading import PASTED, read_markdown, read_source
from mobbet.core.document.text import plain
from mobbet.core.errors import BadInput, Refused, TooMuch
from mobbet.store import posts as post_store
from mobbet.store.people import Person

ENDINGS = {
    "docx": "docx",
    "odt": "odt",
    "md": "md",
    "markdown": "md",
    "html": "html",
    "htm": "html",
    "txt": "txt",
    "text": "txt",
}
LARGEST_ARCHIVE = 200_000_000
LARGEST_UNPACKED = 500_000_000
MOST_MEMBERS = 2000

FILE_SECONDS, PASTE_SECONDS, MOST_PICTURES = 10.0, 5.0, 300


@dataclass(frozen=True)
class ImportedPost:
    """A draft made from a file, and remarks on what did not come."""

    id: int
    file: str
    title: str
    words: int
    pictures: int
    notes: tuple[str, ...]


@dataclass(frozen=True)
class NotBrought:
    """A file of which nothing was made, and why."""

    file: str
    reason: str


def bring_in(
    workshop: Workshop,
    person: Person,
    blog_slug: str,
    name: str,
    data: bytes,
    beside: Beside = nothing_beside,
) -> list[ImportedPost | NotBrought]:
    """The drafts a file becomes: one, or as many as an archive has texts. Nothing is made of one that is refused."""
    if name.lower().endswith(".zip"):
        return _archive(workshop, person, blog_slug, name, data)
    try:
        return [_one(workshop, person, blog_slug, name, data, beside)]
    except Refused as error:
        return [NotBrought(name, str(error))]


@dataclass(frozen=True)
class ReadFile:
    """The text of a file, with its settings, what was dropped of it, and remarks."""

    document: dict[str, Any]
    settings: frontmatter.Settings
    dropped: Counter[str]
    notes: tuple[str, ...]


def read_file(
    workshop: Workshop,
    person: Person,
    blog_slug: str,
    name: str,
    data: bytes,
    beside: Beside = nothing_beside,
) -> ReadFile:
    """The text of one file; its pictures go to the library. Raises BadInput for what is no such file."""
    blog = blog_for(workshop, person, blog_slug)
    kind = ENDINGS.get(name.rpartition(".")[2].lower())
    if kind is None:
        raise BadInput(
            f"“{name}” is no text Mobbet can bring in; choose a .docx, .odt, .md, .html, .txt or .zip file.",
            "file",
        )
    pictures = Pictures(workshop, person, blog, beside)
    settings = frontmatter.Settings()
    if kind == "md":
        text = frontmatter.read(text_of(data), blog.zone)
        settings, pictures.notes = (
            text.settings,
            [f"“{field}” is not a setting Mobbet knows; it was left out." for field in text.unknown],
        )
        reading = Reading(
            with_local(
                workshop.services.heavy(
                    read_markdown, text.markdown, seconds=FILE_SECONDS, what=f"“{name[:80]}”"
                ),
                pictures,
            )
        )
    else:
        reading = read_with_pictures(workshop, kind, data, pictures, FILE_SECONDS, f"“{name[:80]}”")
    document = with_named(reading.document, pictures)
    return ReadFile(document, settings, reading.dropped, tuple(dict.fromkeys(pictures.notes)))


def read_pasted(workshop: Workshop, person: Person, blog_slug: str, html: str) -> tuple[Reading, list[str]]:
    """Pasted HTML, its embedded pictures in the library, and remarks on those that do not come. Raises BadDocument, TooMuch."""
    pictures = Pictures(workshop, person, blog_for(workshop, person, blog_slug))
    reading = read_with_pictures(workshop, PASTED, html, pictures, PASTE_SECONDS, "What was pasted")
    return reading, list(dict.fromkeys(pictures.notes))


def read_with_pictures(
    workshop: Workshop, kind: str, data: str | bytes, pictures: Pictures, seconds: float, what: str
) -> Reading:
    """A text read apart; once its pictures are in the library it is read again with them in their places."""
    read: tuple[Reading, list[str]] = workshop.services.heavy(
        read_source, kind, data, seconds=seconds, what=what
    )
    reading, sources = read
    if len(sources) > MOST_PICTURES:
        raise TooMuch(f"{what} has {len(sources):,} pictures; {MOST_PICTURES} is the most at once.")
    if not sources:
        return reading
    brought = {src: pictures.bring(src) for src in sources}
    again: tuple[Reading, list[str]] = workshop.services.heavy(
        read_source, kind, data, brought, seconds=seconds, what=what
    )
    return again[0]


def _one(
    workshop: Workshop, person: Person, blog_slug: str, name: str, data: bytes, beside: Beside
) -> ImportedPost:
    blog = blog_for(workshop, person, blog_slug)
    read = read_file(workshop, person, blog_slug, name, data, beside)
    title, document = _title(read.settings.title, read.document, name)
    notes = [*read.notes, *_dropped(read.dropped)]
    with changing(workshop):
        post = posts.begin_post(workshop, person, blog.slug)
        posts.save_text(
            workshop,
            person,
            post.id,
            base=post.revision,
            title=title,
            subtitle=read.settings.subtitle or "",
            body=document,
        )
        settle(workshop, person, blog, post, read.settings)
    kept = post_store.again(workshop.db, post)
    return ImportedPost(
        kept.id, name, kept.title, kept.words, len(outline.items(document)), tuple(dict.fromkeys(notes))
    )


def _dropped(dropped: Counter[str]) -> list[str]:
    gone = [words for words in dropped if words != "pictures"]
    return [f"Left out: {', '.join(gone)}."] if gone else []


def _title(given: str | None, document: dict[str, Any], name: str) -> tuple[str, dict[str, Any]]:
    """The title: as given, or the first heading of level 1 (which goes from the text), or the file's name."""
    if given:
        return given, document
    first, *rest = document["content"]
    if first["type"] == "heading" and first["attrs"]["level"] == 1 and plain(first).strip():
        return " ".join(plain(first).split())[:300], schema.check({"type": "doc", "content": rest})
    stem = PurePosixPath(name.replace("\\", "/")).stem
    return (" ".join(re.sub(r"[_-]+", " ", stem).split()) or "Without a title")[:300].capitalize(), document


def _archive(
    workshop: Workshop, person: Person, blog_slug: str, name: str, data: bytes
) -> list[ImportedPost | NotBrought]:
    """A .zip of one folder of text and pictures for each post."""
    try:
        archive = _open(data, name)
    except Refused as error:
        return [NotBrought(name, str(error))]
    with archive:
        names = [info.filename for info in archive.infolist() if not info.is_dir()]
        texts = [path for path in names if _is_text(path)]
        if not texts:
            return [
                NotBrought(
                    name,
                    f"“{name}” holds no text Mobbet can bring in; put a .md, .docx, .odt, .html or .txt file in each folder.",
                )
            ]
        found: list[ImportedPost | NotBrought] = []
        for path in sorted(texts):
            for result in bring_in(
                workshop,
                person,
                blog_slug,
                PurePosixPath(path).name,
                archive.read(path),
                _beside(archive, names, path),
            ):
                where = f"{name}: {path}"
                found.append(
                    ImportedPost(**{**result.__dict__, "file": where})
                    if isinstance(result, ImportedPost)
                    else NotBrought(where, result.reason)
                )
        return found


def _open(data: bytes, name: str) -> zipfile.ZipFile:
    if len(data) > LARGEST_ARCHIVE:
        raise BadInput(
            f"“{name}” is larger than {LARGEST_ARCHIVE // 1_000_000} MB; bring it in in parts.", "file"
        )
    try:
        archive = zipfile.ZipFile(io.BytesIO(data))
    except (zipfile.BadZipFile, OSError, ValueError):
        raise BadInput(f"“{name}” is no sound .zip file; pack it again.", "file") from None
    infos = archive.infolist()
    if len(infos) > MOST_MEMBERS or sum(info.file_size for info in infos) > LARGEST_UNPACKED:
        archive.close()
        raise BadInput(
            f"“{name}” unpacks to more than {LARGEST_UNPACKED // 1_000_000} MB or {MOST_MEMBERS:,} files; bring it in in parts.",
            "file",
        )
    return archive


def _is_text(path: str) -> bool:
    parts = PurePosixPath(path)
    return parts.suffix[1:].lower() in ENDINGS and not any(
        part.startswith((".", "__")) for part in parts.parts
    )


def _beside(archive: zipfile.ZipFile, names: list[str], path: str) -> Beside:
    """The files of the text's own folder, or below it."""
    folder = PurePosixPath(path).parent

    def read(src: str) -> bytes | None:
        wanted = str(folder / src).replace("/./", "/")
        exact = next((name for name in names if name == wanted), None)
        close = exact or next((name for name in names if name.lower() == wanted.lower()), None)
        if close is None or ".." in src or archive.getinfo(close).file_size > 60_000_000:
            return None
        return archive.read(close)

    return read


def report(results: list[ImportedPost | NotBrought]) -> dict[str, Any]:
    """What came, what did not, and why, as data."""
    return {
        "posts": [
            {
                "id": one.id,
                "file": one.file,
                "title": one.title,
                "words": one.words,
                "pictures": one.pictures,
                "notes": list(one.notes),
            }
            for one in results
            if isinstance(one, ImportedPost)
        ],
        "refused": [
            {"file": one.file, "reason": one.reason} for one in results if isinstance(one, NotBrought)
        ],
    }
