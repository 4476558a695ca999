"""`mobbet export`: writes a whole blog as a folder or a zip file."""

from __future__ import annotations

import os
import sys
from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TYPE_CHECKING

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import report

if TYPE_CHECKING:
    from mobbet.actions.exporting import Exported
    from mobbet.actions.workshop import Workshop
    from mobbet.store.blogs import Blog

EPILOG = """The format is described in docs/export.md. A folder of an earlier export is brought up to date. `--json` prints
`{"blog", "out", "files", "rows": {"posts", …}}`."""


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
    command.set_defaults(run=run)


def run(options: Namespace) -> int:
    from mobbet import wiring
    from mobbet.actions.blogs import chosen_blogs
    from mobbet.actions.exporting import read_choices

    workshop = wiring.open_existing(options.data)
    blog = chosen_blogs(workshop, options.blog)[0]
    done = write(workshop, blog, options.out, read_choices(options.what))
    facts = {"blog": blog.slug, "out": str(options.out), "files": done.files, "rows": done.rows}
    report(
        options,
        facts,
        f"{options.out} holds {blog.name}: {done.rows.get('posts', 0)} posts in {done.files} files.",
    )
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
