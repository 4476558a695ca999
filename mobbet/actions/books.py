"""Posts as documents and books of open formats: one, those of a category or a series, or all that are out."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from mobbet.actions.access import blog_for, readable_post
from mobbet.actions.book_material import picture_of, whole_address, with_addresses
from mobbet.actions.fill_in_values import fill_ins
from mobbet.actions.workshop import Workshop
from mobbet.core.addresses import make_slug
from mobbet.core.atompub import Link as AtomLink
from mobbet.core.atompub import Member, feed_document
from mobbet.core.books.book import Book, Chapter, Picture, printable
from mobbet.core.books.html_book import html_book
from mobbet.core.books.pages import blocks_html
from mobbet.core.document import outline, schema
from mobbet.core.document.write import to_markdown
from mobbet.core.errors import BadInput
from mobbet.core.filing import below, path_in_words
from mobbet.core.keys import ListName
from mobbet.core.permalinks import short_path
from mobbet.core.timing import day_in_words, iso
from mobbet.core.values import existing
from mobbet.services import printing
from mobbet.store import filing, kept, people, placements, posts, series
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.placements import Placement
from mobbet.store.posts import Post

MOST_POSTS, MOST_BYTES, IN_ARCHIVE = 2000, 1_000_000_000, 500


@dataclass(frozen=True)
class File:
    """A file that somebody takes out: its name, its type and its bytes."""

    name: str
    type: str
    data: bytes


def _docx(book: Book) -> bytes:
    from mobbet.core.books.docx_book import docx_book  # its package loads slowly

    return docx_book(book)


def _odt(book: Book) -> bytes:
    from mobbet.core.books.odt_book import odt_book

    return odt_book(book)


def _epub(book: Book) -> bytes:
    from mobbet.core.books.epub import epub

    return epub(book)


def _members(book: Book) -> list[Member]:
    return [
        Member(
            f"{book.id}#post-{one.key}", one.title, one.changed or book.changed_at, one.author, (AtomLink("alternate", one.address, "text/html"),),
            published=one.published, html=blocks_html(one.document["content"], lambda src: src if src.startswith("http") else ""),
        )
        for one in book.chapters
    ]  # fmt: skip


def _atom(book: Book) -> bytes:
    """A complete feed (RFC 5005, section 2) of whole texts."""
    links = (AtomLink("alternate", book.id, "text/html"),)
    return feed_document(book.id, book.title, book.changed_at, links, _members(book), "complete")


@dataclass(frozen=True)
class Format:
    """A format: its words, its type, what writes it, and whether it is of many posts alone."""

    words: str
    type: str
    write: Callable[[Book], bytes]
    has_pictures: bool = True


FORMATS = {
    "docx": Format(
        "a Word document (.docx)",
        "application/vnd.openxmlformats-officedocument.wordprocessingml.document",
        _docx,
    ),
    "odt": Format("an OpenDocument text (.odt)", "application/vnd.oasis.opendocument.text", _odt),
    "epub": Format("a book for e-readers (.epub)", "application/epub+zip", _epub),
    "html": Format("one web page (.html)", "text/html; charset=utf-8", html_book),
    "pdf": Format("a PDF to print", "application/pdf", lambda book: printing.print_pdf(html_book(book))),
    "atom": Format(
        "a feed with everything (.atom)", "application/atom+xml; charset=utf-8", _atom, has_pictures=False
    ),
    "md": Format("Markdown (.md)", "text/markdown; charset=utf-8", lambda book: b""),
}
"""{ending: format}; Markdown is written from the texts themselves."""


def formats() -> dict[str, str]:
    """{ending: words} of what this server can make."""
    return {name: one.words for name, one in FORMATS.items() if name != "pdf" or printing.can_print()}


def choices(workshop: Workshop, person: Person, slug: str) -> list[tuple[str, str]]:
    """(value, words) of what can be a book: all posts, each category, each series."""
    blog = blog_for(workshop, person, slug)
    subjects = filing.subjects(workshop.db, blog.id)
    found = [("all", "all posts")]
    found += [
        (ListName.of("category", number), f"the category {path_in_words(subjects, number)}")
        for number in subjects
    ]
    return found + [
        (ListName.of("series", number), f"the series {name}")
        for number, name in series.of_blog(workshop.db, blog.id)
    ]


def named(
    workshop: Workshop, person: Person, slug: str, category: str | None, series_name: str | None
) -> str:
    """The value of a choice by the path of a category or the name of a series; `all` without either. Raises BadInput."""
    wanted = (
        f"the category {category}"
        if category
        else f"the series {series_name}"
        if series_name
        else "all posts"
    )
    found = next(
        (value for value, words in choices(workshop, person, slug) if words.casefold() == wanted.casefold()),
        None,
    )
    if found is None:
        raise BadInput(f"There is not {wanted[:80]} on this blog.", "which")
    return found


def of_post(workshop: Workshop, person: Person, post_id: int, format: str) -> File:
    """A post as a file, as it is written now. Raises NotFound, BadInput, Refused."""
    post, blog = readable_post(workshop, person, post_id)
    title = posts.working(workshop.db, post.id).title
    return _file(workshop, blog, [(post, None)], title, format)


def of_blog(workshop: Workshop, person: Person, slug: str, which: str, format: str) -> File:
    """What is out for everyone as one file: `all`, `category:3` or `series:2`. Raises BadInput where nothing is out of it."""
    blog = blog_for(workshop, person, slug)
    title, found = _chosen(workshop, blog, which)
    if not found:
        raise BadInput(f"Nothing of “{title}” is out, so that there is nothing to take.", "which")
    if len(found) > MOST_POSTS and format != "atom":
        raise BadInput(
            f"These are {len(found):,} posts; a book has at most {MOST_POSTS:,}. Choose a category.", "which"
        )
    chosen = [(existing(posts.by_id(workshop.db, row.post_id)), row) for row in found]
    return _file(workshop, blog, chosen, title, format)


def _chosen(workshop: Workshop, blog: Blog, which: str) -> tuple[str, list[Placement]]:
    """(title, what is out for everyone) of all, a category or a series; the oldest first, parts of a series in their order."""
    db, now = workshop.db, workshop.clock()
    rows = [
        row
        for row in placements.live(db, blog.id, now)
        if row.shows_from <= now and row.audience == "everyone" and not row.kind
    ]
    rows.sort(key=lambda row: (row.goes_out, row.post_id))
    kind, _, number = which.partition(":")
    wanted = int(number) if number.isascii() and number.isdecimal() and len(number) < 16 else 0
    if which == "all":
        return blog.name, rows
    if kind == "category":
        subjects = filing.subjects(db, blog.id)
        if wanted in subjects:
            inside = below(subjects, wanted)
            return subjects[wanted].name, [row for row in rows if inside & set(row.categories)]
    if kind == "series" and (name := series.on_blog(db, blog.id, wanted)):
        parts = [row for row in rows if row.series_id == wanted]
        return name, sorted(parts, key=lambda row: (row.series_position, row.goes_out))
    raise BadInput("Choose all posts, a category or a series of this blog.", "which")


def _file(
    workshop: Workshop, blog: Blog, chosen: Sequence[tuple[Post, Placement | None]], title: str, format: str
) -> File:
    if format not in formats():
        raise BadInput(f"“{format[:20]}” is no format here; choose one of {', '.join(formats())}.", "format")
    name = make_slug(title, "post")
    if format == "md":
        return _markdown(workshop, chosen, name)
    if format == "atom" and len(chosen) > IN_ARCHIVE:
        return _archives(workshop, blog, chosen, title, name)
    book = _book(workshop, blog, chosen, title, FORMATS[format].has_pictures)
    return File(f"{name}.{format}", FORMATS[format].type, FORMATS[format].write(book))


def _markdown(workshop: Workshop, chosen: Sequence[tuple[Post, Placement | None]], name: str) -> File:
    """The text of one post, or a zip file with a file for each."""
    texts = []
    for post, placed in chosen:
        revision = existing(
            posts.revision(workshop.db, post.id, placed.revision if placed else post.revision)
        )
        texts.append(
            (
                f"{make_slug(revision.title, 'post')}-{post.id}.md",
                f"# {revision.title}\n\n{to_markdown(schema.load(revision.body))}".encode(),
            )
        )
    if len(texts) == 1:
        return File(f"{name}.md", FORMATS["md"].type, texts[0][1])
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as file:
        for path, data in texts:
            file.writestr(zipfile.ZipInfo(path, (1980, 1, 1, 0, 0, 0)), data, zipfile.ZIP_DEFLATED)
    return File(f"{name}.zip", "application/zip", out.getvalue())


def _archives(
    workshop: Workshop, blog: Blog, chosen: Sequence[tuple[Post, Placement | None]], title: str, name: str
) -> File:
    """A zip file of archived feeds (RFC 5005, section 4), the oldest posts in the first one; `feed.atom` has the newest and leads to them."""
    parts = [chosen[start : start + IN_ARCHIVE] for start in range(0, len(chosen), IN_ARCHIVE)]
    names = [*(f"archive-{number:04}.atom" for number in range(1, len(parts))), "feed.atom"]
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as file:
        for at, part in enumerate(parts):
            book = _book(workshop, blog, part, title, has_pictures=False)
            links = [
                AtomLink("alternate", blog.home, "text/html"),
                AtomLink("self", names[at]),
                AtomLink("current", names[-1]),
            ]
            links += [AtomLink("prev-archive", names[at - 1])] if at else []
            links += [AtomLink("next-archive", names[at + 1])] if at + 2 < len(parts) else []
            mark = "archive" if at + 1 < len(parts) else ""
            data = feed_document(
                f"{blog.home}#{names[at]}", title, book.changed_at, links, reversed(_members(book)), mark
            )
            file.writestr(zipfile.ZipInfo(names[at], (1980, 1, 1, 0, 0, 0)), data, zipfile.ZIP_DEFLATED)
    return File(f"{name}.zip", "application/zip", out.getvalue())


def _book(
    workshop: Workshop,
    blog: Blog,
    chosen: Sequence[tuple[Post, Placement | None]],
    title: str,
    has_pictures: bool,
) -> Book:
    chapters, pictures, size = [], dict[str, Picture](), 0
    for post, placed in chosen:
        chapter = _chapter(workshop, blog, post, placed)
        for number in outline.items(chapter.document) if has_pictures else ():
            src = f"media:{number}"
            found = pictures.get(src) or picture_of(workshop, blog, number)
            if found and src not in pictures:
                size += len(found.data)
                if size > MOST_BYTES:
                    raise BadInput(
                        "The pictures of these posts are too large for one file; choose fewer posts.", "which"
                    )
                pictures[src] = found
        chapters.append(chapter if has_pictures else with_addresses(workshop, blog, chapter))
    authors = list(dict.fromkeys(one.author for one in chapters))
    changed = max(one.changed for one in chapters)
    address = blog.home if len(chapters) > 1 else blog.home.rstrip("/") + short_path(chosen[0][0].id)
    return Book(address, title, ", ".join(authors[:5]), blog.language, changed, tuple(chapters), pictures)


def _chapter(workshop: Workshop, blog: Blog, post: Post, placed: Placement | None) -> Chapter:
    db = workshop.db
    revision = existing(posts.revision(db, post.id, placed.revision if placed else post.revision))
    values = {one.name: one.value for one in fill_ins(workshop, post, blog)}
    document = printable(
        schema.load(revision.body),
        lambda number: kept.document(db, blog.id, number),
        values,
        lambda where: whole_address(workshop, blog, where),
    )
    author = people.by_id(db, placed.author_id if placed else post.author_id)
    address = blog.home.rstrip("/") + (placed.path if placed else "")
    return Chapter(
        post.id, revision.title, revision.subtitle, author.name if author else "", day_in_words(placed.goes_out, blog.zone) if placed else "", address, document,
        iso(placed.goes_out) if placed else "", iso(max(revision.saved_at, placed.placed_at if placed else 0)),
    )  # fmt: skip
