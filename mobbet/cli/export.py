"""`mobbet export`: writes a whole blog as a folder or a zip file, or posts as a document or a book."""

from __future__ import annotations

import os
import sys
from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TYPE_CHECKING

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import owner_of, report

if TYPE_CHECKING:
    from mobbet.actions.exporting import Exported
    from mobbet.actions.workshop import Workshop
    from mobbet.store.blogs import Blog

ENDINGS = (".docx", ".odt", ".epub", ".html", ".pdf", ".atom", ".md")
EPILOG = """With an ending such as .epub, .docx, .odt, .pdf, .html, .atom or .md, --out becomes one file of what is out: of all posts, or of those that
--category, --series or --post name. Otherwise the whole blog is written. The format is described in docs/export.md. A folder of an earlier export is brought up to date. `--json` prints
`{"blog", "out", "files", "rows": {"posts", …}}`, of one file `{"blog", "out", "bytes"}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument(
        "--out", type=Path, required=True, metavar="PATH", help="a folder, or a file that ends with .zip"
    )
    command.add_argument(
        "--what",
        default="",
        metavar="WORDS",
        help="what comes by choice, parted by commas: revisions, subscribers, reads; or everything",
    )
    which = command.add_mutually_exclusive_group()
    which.add_argument("--post", type=int, metavar="N", help="this post, as it is written now")
    which.add_argument(
        "--category", metavar="PATH", help="the posts of a category, such as “Textiles › Zips”"
    )
    which.add_argument("--series", metavar="NAME", help="the parts of a series")
    command.set_defaults(run=run)


def run(options: Namespace) -> int:
    from mobbet import wiring
    from mobbet.actions.blogs import chosen_blogs
    from mobbet.actions.exporting import read_choices

    workshop = wiring.open_existing(options.data)
    blog = chosen_blogs(workshop, options.blog)[0]
    if options.out.suffix.lower() in ENDINGS or options.post or options.category or options.series:
        return _book(options, workshop, blog)
    done = write(workshop, blog, options.out, read_choices(options.what))
    facts = {"blog": blog.slug, "out": str(options.out), "files": done.files, "rows": done.rows}
    report(
        options,
        facts,
        f"{options.out} holds {blog.name}: {done.rows.get('posts', 0)} posts in {done.files} files.",
    )
    return 0


def _book(options: Namespace, workshop: Workshop, blog: Blog) -> int:
    """One file of some posts, in a format by its ending."""
    from mobbet.actions import books

    person, format = owner_of(workshop, blog), options.out.suffix.lower().removeprefix(".")
    if options.post:
        file = books.of_post(workshop, person, options.post, format)
    else:
        file = books.of_blog(
            workshop,
            person,
            blog.slug,
            books.named(workshop, person, blog.slug, options.category, options.series),
            format,
        )
    out = options.out.with_suffix(Path(file.name).suffix)  # many texts, or archives of a feed, are packed
    out.write_bytes(file.data)
    facts = {"blog": blog.slug, "out": str(out), "bytes": len(file.data)}
    report(options, facts, f"{out} is made: {len(file.data):,} bytes.")
    return 0


def write(workshop: Workshop, blog: Blog, out: Path, choices: frozenset[str]) -> Exported:
    """Exports a blog to a folder, or to a zip file that takes its name once it is whole."""
    from mobbet.actions.export_sinks import FolderSink, ZipSink
    from mobbet.actions.exporting import export
    from mobbet.core.errors import Broken

    if out.suffix.lower() != ".zip":
        return export(workshop, None, blog, FolderSink(out), choices, tell)
    part = out.with_name(f"{out.name}.part")
    try:
        with part.open("wb") as stream:
            done = export(workshop, None, blog, ZipSink(stream), choices, tell)
        os.replace(part, out)
    except OSError as error:
        part.unlink(missing_ok=True)
        raise Broken(f"{out} cannot be written ({error.strerror}); choose another place.") from None
    return done


def tell(done: int, of: int) -> None:
    """Progress, for somebody who looks on."""
    if sys.stderr.isatty() and (done == of or done % 50 == 0):
        print(f"\rmobbet: {done:,} of {of:,} posts", end="\n" if done == of else "", file=sys.stderr)
