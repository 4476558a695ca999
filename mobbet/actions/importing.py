"""Imports the posts of an older site: a dry run first, each once, and all of a run can be taken away again."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass
from itertools import islice
from pathlib import PurePosixPath
from typing import Any

from mobbet.actions import docket_lines, import_comments, old_addresses, placing, posts
from mobbet.actions.access import owned_blog
from mobbet.actions.files import settle
from mobbet.actions.import_enclosures import with_enclosures
from mobbet.actions.import_pictures import Pictures, with_local
from mobbet.actions.import_sources import Bring, Source
from mobbet.actions.imports import FILE_SECONDS, read_with_pictures
from mobbet.actions.undoing import put_aside
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import frontmatter
from mobbet.core.document.reading import read_markdown
from mobbet.core.errors import BadInput, MobbetError, NotFound
from mobbet.core.importing.item import MARKDOWN, Item, NotRead, Reply, instant_in
from mobbet.core.importing.links import with_whole_links
from mobbet.core.timing import read_instant
from mobbet.core.web_addresses import split_address
from mobbet.store import imports, people
from mobbet.store import posts as post_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

BATCH = 40
"""So many posts become one edition."""
SUBJECTS = ("categories", "tags")
NEW, THERE, REFUSED, COMMENT = "new", "there", "refused", "comment"


@dataclass(frozen=True)
class Outcome:
    """What came of one post of the source: `what` is 'new', 'there' for one that was imported before, or 'refused'; `fields` are those
    of the source that mean nothing here."""

    key: str
    what: str
    title: str = ""
    post: int = 0
    published: str = ""
    addresses: tuple[str, ...] = ()
    notes: tuple[str, ...] = ()
    run: int = 0
    fields: tuple[tuple[str, str], ...] = ()


def run(
    workshop: Workshop,
    person: Person,
    blog: Blog,
    source: Source,
    name: str,
    subjects: str = "categories",
    is_dry: bool = False,
) -> Iterator[Outcome]:
    """Imports a source, or only looks at it; what comes of each post, as it goes. A run that was broken off is run again and goes on.

    `subjects` says what the subjects of a feed become. Raises NotAllowed for anyone but the owner, BadInput for another word.
    """
    owned_blog(workshop, person, blog.slug)
    if subjects not in SUBJECTS:
        raise BadInput(
            f"“{subjects[:40]}” is nothing that subjects can become; choose categories or tags.", "subjects"
        )
    if is_dry:
        return _looked_at(workshop, blog, source, subjects)
    return _Run(workshop, person, blog, source.bring, subjects, name).outcomes(source.items)


def undo(workshop: Workshop, person: Person, blog: Blog, number: int) -> tuple[int, list[str]]:
    """Sets the posts of a run aside; how many, and the titles of those that were written on since, which stay."""
    owned_blog(workshop, person, blog.slug)
    found = imports.run_by_id(workshop.db, number)
    if found is None or found.blog_id != blog.id:
        raise NotFound(
            f"There is no import {number} of this blog; mobbet import --list tells which there are."
        )
    gone, stay = 0, []
    with changing(workshop, person, f"import {number} was undone"):
        for one in imports.of_run(workshop.db, number):
            post = post_store.by_id(workshop.db, one.post_id)
            if post is not None and post.revision != one.revision:
                stay.append(post.title)
                continue
            if post is not None:
                put_aside(workshop, person, post)
                gone += 1
            imports.forget(workshop.db, blog.id, one.key)
        imports.set_undone(workshop.db, number, workshop.clock())
    return gone, stay


def _looked_at(workshop: Workshop, blog: Blog, source: Source, subjects: str) -> Iterator[Outcome]:
    known, seen = imports.known(workshop.db, blog.id), set[str]()
    for item in source.items:
        if isinstance(item, Reply):
            yield Outcome(item.key, COMMENT, item.name)
            continue
        if isinstance(item, NotRead):
            yield Outcome(item.key, REFUSED, notes=(item.reason,))
        elif item.key in known or item.key in seen:
            yield Outcome(item.key, THERE, item.title, known.get(item.key, 0))
        else:
            seen.add(item.key)
            settings, notes = _settings(workshop, blog, item, subjects)
            yield Outcome(
                item.key, NEW, item.title, 0, settings.date or "", item.addresses, notes, 0, item.fields
            )


class _Run:
    """One import: texts are read and pictures brought before a batch of posts is written in one unit of work."""

    def __init__(
        self, workshop: Workshop, person: Person, blog: Blog, bring: Bring, subjects: str, name: str
    ) -> None:
        self._workshop, self._person, self._blog, self._bring = workshop, person, blog, bring
        self._subjects, self._name, self._number = subjects, name, 0
        self._known = imports.known(workshop.db, blog.id)

    def outcomes(self, items: Iterator[Item | NotRead | Reply]) -> Iterator[Outcome]:
        replies = import_comments.Replies(self._workshop, self._person, self._blog)
        while batch := list(islice(replies.apart(items), BATCH)):
            read = [self._read(item) for item in batch]
            with changing(self._workshop, self._person, "posts of an older site were imported"):
                self._begin(read)
                written = [one if isinstance(one, Outcome) else self._write(*one) for one in read]
            for one in written:
                replies.know(one.key, one.post, one.addresses)
            yield from written
        for key in replies.write():
            yield Outcome(key, COMMENT)

    def _begin(self, read: list[Any]) -> None:
        """Gives the run a number, once there is a post of it."""
        if not self._number and any(not isinstance(one, Outcome) for one in read):
            db, now = self._workshop.db, self._workshop.clock()
            self._number = imports.begin(db, self._blog.id, self._name[:300], now)

    def _read(self, item: Item | NotRead) -> Outcome | tuple[Item, dict[str, Any], tuple[str, ...]]:
        if isinstance(item, NotRead):
            return Outcome(item.key, REFUSED, notes=(item.reason,))
        if item.key in self._known:
            return Outcome(item.key, THERE, item.title, self._known[item.key])
        self._known[item.key] = 0
        pictures = _ItemPictures(self._workshop, self._person, self._blog, item, self._bring)
        what = f"“{item.title[:80]}”"
        try:
            if item.kind == MARKDOWN:
                document = self._workshop.services.heavy(
                    read_markdown, item.text, seconds=FILE_SECONDS, what=what
                )
                document = with_local(document, pictures)
            else:
                heavy = self._workshop.services.heavy
                html = heavy(with_whole_links, item.text, item.base, seconds=FILE_SECONDS, what=what).encode()
                document = read_with_pictures(
                    self._workshop, "html", html, pictures, FILE_SECONDS, what
                ).document
        except MobbetError as error:
            return Outcome(item.key, REFUSED, item.title, notes=(str(error),))
        document = with_enclosures(
            self._workshop, self._person, self._blog, item, document, self._bring, pictures.notes
        )
        return item, document, tuple(dict.fromkeys(pictures.notes))

    def _write(self, item: Item, document: dict[str, Any], notes: tuple[str, ...]) -> Outcome:
        settings, more = _settings(self._workshop, self._blog, item, self._subjects)
        try:
            with changing(self._workshop):
                post, refused = self._post(item, document, settings)
        except MobbetError as error:
            return Outcome(item.key, REFUSED, item.title, notes=(str(error),))
        kept = self._keep_addresses(item, post)
        notes = (*more, *refused, *notes)
        return Outcome(
            item.key, NEW, item.title, post, settings.date or "", kept, notes, self._number, item.fields
        )

    def _post(
        self, item: Item, document: dict[str, Any], settings: frontmatter.Settings
    ) -> tuple[int, tuple[str, ...]]:
        """(its number, why it stays a draft though it was out)."""
        workshop, person, blog = self._workshop, self._person, self._blog
        post = posts.begin_post(workshop, person, blog.slug)
        posts.save_text(
            workshop, person, post.id, base=post.revision, title=item.title, subtitle="", body=document
        )
        settle(workshop, person, blog, post, settings)
        if item.slug:
            with (
                suppress(MobbetError),
                changing(workshop),
            ):  # one that is taken, or none, makes way for the proposed one
                docket_lines.set_slug(workshop, person, post.id, item.slug)
        refused: tuple[str, ...] = ()
        if settings.date is not None and not item.is_draft:
            try:
                with changing(workshop):
                    placing.place(workshop, person, post.id)
            except MobbetError as error:
                refused = (f"It stays a draft: {error}",)
        kept = post_store.again(workshop.db, post)
        imports.add(workshop.db, blog.id, item.key, self._number, post.id, kept.revision)
        return post.id, refused

    def _keep_addresses(self, item: Item, post: int) -> tuple[str, ...]:
        """The addresses that lead to the post from now on; those that are another page's already do not."""
        kept = []
        for address in item.addresses if not item.is_draft else ():
            try:
                old_addresses.add_for_post(self._workshop, self._person, self._blog.slug, address, post)
            except MobbetError:
                continue
            kept.append(address)
        return tuple(kept)


class _ItemPictures(Pictures):
    """Puts the pictures of an imported post into the library, also those that lie at the older site."""

    def __init__(self, workshop: Workshop, person: Person, blog: Blog, item: Item, bring: Bring) -> None:
        super().__init__(workshop, person, blog, lambda name: bring(item, name))
        self._item, self._from = item, bring

    def bring(self, src: str) -> str | None:
        if not src.startswith("data:"):
            data = self._from(self._item, src)
            if data is not None:
                return self._keep(PurePosixPath(split_address(src).path).name or "picture", data)
        return super().bring(src)


def _settings(
    workshop: Workshop, blog: Blog, item: Item, subjects: str
) -> tuple[frontmatter.Settings, tuple[str, ...]]:
    """The docket of a post, and remarks on what does not come as it was."""
    notes = []
    categories, tags = (
        (item.categories, item.tags) if subjects == "categories" else ((), (*item.categories, *item.tags))
    )
    author = people.by_name(workshop.db, blog.id, item.author) if item.author else None
    if item.author and author is None:
        notes.append(f"Nobody named “{item.author[:80]}” works on this blog, so it is yours.")
    date = None
    if item.published and instant_in(item.published):
        try:
            read_instant(item.published, blog.zone)
            date = item.published
        except BadInput as error:
            notes.append(str(error))
    if date is None:
        notes.append("It has no date, so it comes as a draft.")
    elif item.is_draft:
        notes.append("It was not public, so it comes as a draft.")
    settings = frontmatter.Settings(
        date=date, author=author.name if author else None, excerpt=item.excerpt[:600] or None,
        categories=tuple(name.replace(">", "›") for name in categories) or None, tags=tags or None,
    )  # fmt: skip
    return settings, tuple(notes)
