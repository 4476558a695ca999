"""Imports an export of a blog (docs/export.md): everything is read and checked first, then written in one transaction."""

from __future__ import annotations

import json
import tempfile
from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import IO

from mobbet.actions import library
from mobbet.actions.export_reading import ExportReader, Rows
from mobbet.actions.export_sources import Tree
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.posts import note_items
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.document.leading import mark_of
from mobbet.core.errors import BadInput, Refused
from mobbet.core.exporting.tables import MEDIA, PLACEMENT, TABLES
from mobbet.core.filing import category_lists
from mobbet.core.house import PROMOS
from mobbet.core.promos import read_promos
from mobbet.core.values import existing
from mobbet.store import blogs, exporting, filed, house, jobs, media, people, placements, posts
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

Progress = Callable[[int, int], None]
"""Is told how many posts of how many are read."""


@dataclass
class Report:
    """What an export has, and what becomes of it: rows by file, the people who get an account here, and those who have one."""

    name: str
    slug: str
    rows: Counter[str] = field(default_factory=Counter)
    new_people: list[str] = field(default_factory=list)
    known_people: list[str] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)


def look_at(
    workshop: Workshop, tree: Tree, slug: str = "", progress: Progress = lambda done, of: None
) -> Report:
    """What an import would bring: everything is read and checked, and nothing is written. Raises BadInput, naming file and line, and Refused."""
    with tempfile.TemporaryFile() as texts:
        return _Import(workshop, tree, slug, texts).look(progress)


def bring(
    workshop: Workshop,
    person: Person | None,
    tree: Tree,
    slug: str = "",
    progress: Progress = lambda done, of: None,
) -> tuple[Blog, Report]:
    """Brings a blog in, under its own address or another one: as a new blog, or in place of one that has no posts yet. The caller has asked for the right.

    Somebody who imports and does not work on the blog becomes an owner of it. Raises as `look_at`; nothing is written then.
    """
    with tempfile.TemporaryFile() as texts:
        found = _Import(workshop, tree, slug, texts)
        report = found.look(progress)
        found.take_originals()
        with exporting.consistent():
            return found.write(person), report


def has_posts(workshop: Workshop, slug: str) -> bool:
    """Whether a blog is there and has posts, which nothing replaces."""
    found = blogs.by_slug_of_any(workshop.db, slug)
    return found is not None and bool(exporting.post_numbers(workshop.db, found.id))


class _Import:
    def __init__(self, workshop: Workshop, tree: Tree, slug: str, texts: IO[bytes]) -> None:
        self._workshop, self._db, self._tree = workshop, workshop.db, tree
        self._reader = ExportReader(workshop, tree, texts)
        self._slug = slug or str(self._reader.summary["blog"].get("slug", ""))
        self._items: dict[int, library.Prepared] = {}

    def look(self, progress: Progress) -> Report:
        """Reads and checks everything."""
        reader = self._reader
        report = Report(str(reader.summary["blog"].get("name", "")), self._slug)
        there = self._target()
        for place, row in enumerate(reader.people(), start=1):
            known = people.by_email(self._db, row["email"])
            reader.numbers.people[row["email"].casefold()] = known.id if known else -place
            (report.known_people if known else report.new_people).append(f"{row['name']} ({row['email']})")
        values = reader.blog(self._slug)
        for table in TABLES:
            report.rows[table.name] += sum(1 for _ in reader.rows(table))
        for done, path in enumerate(reader.posts, start=1):
            report.rows.update(name for name, _ in reader.post(path))
            progress(done, len(reader.posts))
        report.rows["media"] = sum(1 for _ in reader.originals())
        holder = blogs.by_host(self._db, values["host"]) if values["host"] else None
        if holder and holder != there:
            report.notes.append(
                f"The domain {values['host']} belongs to another blog here, so that this one comes without it."
            )
        return report

    def take_originals(self) -> None:
        """Keeps the originals, which are of no use to anybody until their rows are written. Raises BadInput for what is no file that the library keeps."""
        seen: dict[str, str] = {}
        for place, name, path in self._reader.originals():
            with self._tree.open(path) as stream:
                self._items[place] = item = library.prepare(self._workshop, name, stream)
            if seen.setdefault(item.digest, path) != path:
                raise BadInput(
                    f"{path} is the same file as {seen[item.digest]}; a library keeps each once.", "folder"
                )

    def _target(self) -> Blog | None:
        """The blog that is there and has no posts yet; None where a new one is made. Raises Refused."""
        found = blogs.by_slug_of_any(self._db, self._slug)
        if found is not None and exporting.post_numbers(self._db, found.id):
            raise Refused(
                f"The blog “{self._slug}” has posts already; choose another address for what you import."
            )
        return found

    # what is written

    def write(self, person: Person | None) -> Blog:
        with changing(self._workshop, person, "the blog was imported") as unit:
            self._db.defer_foreign_keys()
            blog = self._blog()
            self._people()
            before = self._reader.numbers.after
            before["post"] = exporting.last_number(self._db, "post")
            for table in TABLES:
                if table.has_id:
                    before[table.kind or table.name] = exporting.last_number(self._db, table.name)
            self._facts(blog)
            self._follow(blog)
            if person and blogs.role(self._db, blog.id, person.id) is None:
                blogs.add_member(self._db, blog.id, person.id, "owner", self._workshop.clock())
            note(self._workshop, person, "imported", blog.id, blog.name)
            unit.must_publish(blog.id)
        return existing(blogs.by_id(self._db, blog.id))

    def _blog(self) -> Blog:
        """The blog that the facts come into."""
        there = self._target()
        if there:
            exporting.remove_facts(self._db, there.id)
        else:
            values = self._reader.blog(self._slug)
            exporting.insert(self._db, "blog", [{**values, "catch_all": None, "host": None}])
        blog = existing(blogs.by_slug_of_any(self._db, self._slug))
        self._reader.blog_id = blog.id
        return blog

    def _people(self) -> None:
        """Makes the accounts that are missing; those without a password, which their owners get by a letter."""
        db, now = self._db, self._workshop.clock()
        for row in self._reader.people():
            known = people.by_email(db, row["email"])
            if known is None:
                slug = row["author_slug"]
                if slug and people.with_slug(db, slug) is not None:
                    row["author_slug"] = f"{slug}-{exporting.last_person(db) + 1}"
                exporting.insert(db, "person", [{**row, "password_hash": None, "made_at": now}])
                known = existing(people.by_email(db, row["email"]))
            self._reader.numbers.people[row["email"].casefold()] = known.id

    def _facts(self, blog: Blog) -> None:
        """The rows, in an order in which each trigger finds what it needs."""
        db, reader = self._db, self._reader
        before_posts = TABLES[: TABLES.index(MEDIA)]
        after_posts = TABLES[TABLES.index(PLACEMENT) :]
        for table in before_posts:
            exporting.insert(db, table.name, reader.rows(table))
        for item in self._media():
            media.add(db, **item)
        for path in reader.posts:
            for name, row in reader.post(path):
                exporting.insert(db, name, [row])
        for table in after_posts:
            exporting.insert(db, table.name, self._placed() if table is PLACEMENT else reader.rows(table))
        values = reader.blog(self._slug)
        holder = blogs.by_host(db, values["host"]) if values["host"] else None
        exporting.update_blog(
            db, blog.id, {**values, "host": None if holder and holder.id != blog.id else values["host"]}
        )

    def _media(self) -> Iterator[Rows]:
        for place, row in enumerate(self._reader.rows(MEDIA), start=1):
            item = self._items[place]
            yield {
                **row,
                **item.columns,
                "labels": json.loads(row["labels"]),
                **{name: row[name] for name in ("taken", "camera", "place", "poster_second")},
            }

    def _placed(self) -> Iterator[Rows]:
        for row in self._reader.rows(PLACEMENT):
            at, row["lead"] = row["lead"], ""
            if at is not None:
                blocks = schema.load(posts.body(self._db, row["post_id"], row["revision"]))["content"]
                row["lead"] = mark_of(blocks[at]) if 0 <= at < len(blocks) else ""
            yield row

    def _follow(self, blog: Blog) -> None:
        """Writes what follows from the facts: lists, what posts show, moments, and work for the library."""
        db, now = self._db, self._workshop.clock()
        subjects = category_subjects(self._workshop, blog)
        for placement in placements.every(db, blog.id):
            placements.relate(db, placement)
            filed.restore_listings(
                db,
                filed.listing_rows(
                    placements.filed_as(placement), category_lists(subjects, placement.categories)
                ),
            )
        for number in exporting.post_numbers(db, blog.id):
            post = existing(posts.by_id(db, number))
            if post.revision:
                note_items(self._workshop, schema.load(posts.working_body(db, number)), post)
        exporting.index_posts(db, blog.id)
        rules = house.every_given(db, blog.id, PROMOS, 1)
        if rules:
            house.set_moments(
                db, blog.id, PROMOS, (at for rule in read_promos(rules[0].value).rules for at in rule.moments)
            )
        first = self._reader.numbers.after["media"]
        for place, item in self._items.items():
            media.set_copies(db, first + place, (), item.copies_of(first + place))
            if item.needs_work:
                jobs.add(db, first + place, now)
