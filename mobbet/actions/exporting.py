"""Exports a blog with all its facts, as docs/export.md describes it: the same bytes for the same facts."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import suppress
from dataclasses import dataclass
from pathlib import PurePosixPath
from typing import Any

from mobbet.actions.access import owned_blog
from mobbet.actions.export_sinks import SUMMARY, Sink
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.document.leading import place_of
from mobbet.core.errors import BadInput
from mobbet.core.exporting import post_files
from mobbet.core.exporting.forms import Key, Missing, written
from mobbet.core.exporting.structures import write_document
from mobbet.core.exporting.tables import (
    BLOG,
    CHOICES,
    MEDIA,
    PERSON,
    PLACEMENT,
    POST,
    REVISION,
    REVISIONS,
    TABLES,
    Table,
)
from mobbet.store import exporting, posts
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

FORMAT, VERSION = "mobbet-blog", 1
PART = 1 << 20
Progress = Callable[[int, int], None]
"""Is told how many posts of how many are written."""


@dataclass(frozen=True)
class Exported:
    """What an export holds: rows by file, and files."""

    rows: dict[str, int]
    files: int


def read_choices(text: str) -> frozenset[str]:
    """What an export shall have by choice, parted by commas; `everything` for all of it. Raises BadInput."""
    words = {word.strip() for word in text.split(",") if word.strip()}
    if words == {"everything"}:
        return frozenset(CHOICES)
    unknown = words - CHOICES.keys()
    if unknown:
        raise BadInput(
            f"“{min(unknown)[:40]}” is nothing that an export has by choice; choose of {', '.join(CHOICES)}, or everything.",
            "what",
        )
    return frozenset(words)


def export(
    workshop: Workshop,
    person: Person | None,
    blog: Blog,
    sink: Sink,
    choices: frozenset[str],
    progress: Progress = lambda done, of: None,
) -> Exported:
    """Writes a blog to a sink, from one state of the database, for an owner or for whoever runs the machine. The record says so afterwards.

    Raises NotAllowed, and Broken where the sink cannot be written.
    """
    if person:
        owned_blog(workshop, person, blog.slug)
    with workshop.db.reading():
        done = _Export(workshop, blog, sink, choices).run(progress)
    sink.finish()
    with changing(workshop, person):
        note(workshop, person, "exported", blog.id, blog.name, ", ".join(sorted(choices)))
    return done


class _Keys:
    """The keys of the rows of a blog. Notes whom an export refers to."""

    def __init__(self, workshop: Workshop, blog: Blog) -> None:
        db = workshop.db
        self._keys: dict[str, dict[int, Key]] = {
            table.kind: exporting.keys(db, table, blog.id) for table in TABLES if table.kind
        }
        self._keys["post"] = {
            number: place for place, number in enumerate(exporting.post_numbers(db, blog.id), start=1)
        }
        self._emails = exporting.emails(db)
        self.people: set[int] = set()

    def key(self, kind: str, number: int) -> Key | None:
        if kind == "person":
            if number in self._emails:
                self.people.add(number)
            return self._emails.get(number)
        return self._keys[kind].get(number)

    def place(self, kind: str, number: int) -> int:
        """The number of a row that has one."""
        found = self.key(kind, number)
        assert isinstance(found, int)
        return found

    def number(self, kind: str, key: Key) -> int:
        raise NotImplementedError

    def document(self, markdown: str) -> dict[str, Any]:
        raise NotImplementedError


class _Export:
    def __init__(self, workshop: Workshop, blog: Blog, sink: Sink, choices: frozenset[str]) -> None:
        self._workshop, self._db, self._blog, self._sink, self._choices = (
            workshop,
            workshop.db,
            blog,
            sink,
            choices,
        )
        self._keys = _Keys(workshop, blog)
        self._rows: Counter[str] = Counter()
        self._files = 0

    def run(self, progress: Progress) -> Exported:
        summary = written(exporting.blog(self._db, self._blog.id), BLOG, self._keys)
        for table in TABLES:
            if not table.choice or table.choice in self._choices:
                self._write(table.file, self._lines(table))
        self._originals()
        self._posts(progress)
        self._write("person.jsonl", self._people())
        facts = {
            "format": FORMAT, "version": VERSION, "has": sorted(self._choices), "rows": dict(sorted(self._rows.items())), "blog": summary,
        }  # fmt: skip
        self._sink.write(SUMMARY, [(json.dumps(facts, ensure_ascii=False, indent=2) + "\n").encode()])
        return Exported(dict(self._rows), self._files + 1)

    def _write(self, path: str, lines: Iterator[str]) -> None:
        """A file of lines; none where there is no line."""
        first = next(lines, None)
        if first is None:
            return
        self._files += 1

        def parts() -> Iterator[bytes]:
            self._rows[path] += 1
            yield f"{first}\n".encode()
            for line in lines:
                self._rows[path] += 1
                yield f"{line}\n".encode()

        self._sink.write(path, parts())

    def _lines(self, table: Table) -> Iterator[str]:
        lines = self._written(table)
        return lines if table.has_id else iter(sorted(lines))

    def _written(self, table: Table) -> Iterator[str]:
        for row in exporting.rows(self._db, table, self._blog.id):
            if table is PLACEMENT:
                row["lead"] = self._lead_of(row)
            with suppress(Missing):
                facts = written(row, table.fields, self._keys)
                if table is MEDIA:
                    facts = {"file": self._path(row), **facts}
                yield _line(facts)

    def _lead_of(self, placement: dict[str, Any]) -> int | None:
        """The place of the block that was chosen to lead a post, from 0: its mark follows from numbers of the installation."""
        if not placement["lead"]:
            return None
        body = posts.body(self._db, placement["post_id"], placement["revision"])
        return place_of(schema.load(body), placement["lead"])

    def _originals(self) -> None:
        """The files of the library, as they came."""
        for row in exporting.rows(self._db, MEDIA, self._blog.id):
            self._sink.write(self._path(row), self._parts(exporting.original(self._db, row["id"])))
            self._files += 1

    def _path(self, row: dict[str, Any]) -> str:
        """Where the original of an item lies."""
        name = PurePosixPath(row["name"])
        ending = name.suffix.lower() if name.suffix[1:].isalnum() and name.suffix.isascii() else ""
        return "media/" + f"{post_files.stem(self._keys.place('media', row['id']), name.stem)}{ending}"

    def _parts(self, digest: str) -> Iterator[bytes]:
        with self._workshop.media.path(digest).open("rb") as file:
            while part := file.read(PART):
                yield part

    def _posts(self, progress: Progress) -> None:
        numbers = exporting.post_numbers(self._db, self._blog.id)
        for done, number in enumerate(numbers, start=1):
            self._post(number)
            progress(done, len(numbers))

    def _post(self, number: int) -> None:
        row = exporting.post(self._db, number)
        key = self._keys.place("post", number)
        stem = post_files.stem(key, row["slug"] or row["title"])
        found = exporting.revisions(self._db, number, REVISIONS in self._choices)
        newest = next((one for one in found if one["number"] == row["revision"]), None)
        facts = {
            "number": key, "revision": row["revision"], **(written(newest, REVISION, self._keys) if newest else {}),
            **written(row, POST, self._keys),
            "categories": [self._keys.key("category", one) for one in row["categories"]], "tags": [self._keys.key("tag", one) for one in row["tags"]],
        }  # fmt: skip
        if newest and row["lead"]:
            facts["lead"] = place_of(schema.load(newest["body"]), json.loads(row["lead"])["digest"])
        facts = {name: value for name, value in facts.items() if value not in (None, [])}
        self._file(f"posts/{stem}.md", facts, newest["body"] if newest else "")
        for one in found:
            if one is not newest:
                self._file(
                    f"posts/{stem}/{one['number']:04}.md", written(one, REVISION, self._keys), one["body"]
                )

    def _file(self, path: str, facts: dict[str, Any], body: str) -> None:
        markdown = write_document(body, self._keys)
        self._sink.write(path, [post_files.written(facts, f"{markdown}\n" if markdown else "").encode()])
        self._rows[path.partition("/")[0] if path.count("/") == 1 else "revisions"] += 1
        self._files += 1

    def _people(self) -> Iterator[str]:
        found = [written(row, PERSON, self._keys) for row in exporting.profiles(self._db, self._keys.people)]
        return iter(sorted(map(_line, found)))


def _line(facts: dict[str, Any]) -> str:
    return json.dumps(facts, ensure_ascii=False)
