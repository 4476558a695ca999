"""`mobbet proof`: reads a text, or a post, as a careful editor would."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TYPE_CHECKING

from mobbet.cli.options import takes_blog, takes_json
from mobbet.cli.shared import post_at_work, read_source, report
from mobbet.core.errors import BadInput
from mobbet.core.values import existing

if TYPE_CHECKING:
    from mobbet.core.proofing.marks import Mark


EPILOG = """`--json` prints `{"marks": [{"check", "gravity", "message", "text", "mends"}]}`, `text` being the passage; the gravity
is `must`, `should` or `could`. Without a data folder it reads by the dictionary alone, with one by the blog's rules and
what stands on it."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_json(command)
    command.add_argument(
        "--data",
        type=Path,
        default=None,
        metavar="DIR",
        help="the data folder, for the blog's rules and its other posts",
    )
    takes_blog(command)
    command.add_argument("--post", type=int, default=None, metavar="ID")
    command.add_argument(
        "file",
        nargs="?",
        default=None,
        metavar="FILE",
        help="Markdown with front matter; - is standard input",
    )
    command.set_defaults(run=proof)


def proof(options: Namespace) -> None:
    """The marks of a file, or of a post of a data folder."""
    from mobbet import wiring
    from mobbet.actions import proofing
    from mobbet.actions.blogs import chosen_blogs
    from mobbet.store import posts

    if (options.file is None) == (options.post is None):
        raise BadInput("Name a file, or a post with --post; one of them.", "file")
    if options.post is not None:
        if options.data is None:
            raise BadInput("--post needs the data folder; name it with --data DIR.", "--data")
        options.id = options.post
        workshop, _, blog = post_at_work(options)
        marks = proofing.of_post(workshop, existing(posts.by_id(workshop.db, options.id)), blog)
    else:
        opened = wiring.open_existing(options.data) if options.data else None
        chosen = chosen_blogs(opened, options.blog) if opened else []
        marks = proofing.of_text(opened, chosen[0] if chosen else None, read_source(options.file))
    lines = [
        f"{mark.severity:<7} {mark.message}" + (f"  [{mark.text[:60]}]" if mark.text else "")
        for mark in marks
    ]
    report(options, {"marks": [_facts(mark) for mark in marks]}, "\n".join(lines) or "Nothing stands out.")


def _facts(mark: Mark) -> dict[str, object]:
    mends = [{"words": mend.words, **mend.operation} for mend in mark.mends]
    return {
        "check": mark.check,
        "gravity": mark.severity,
        "message": mark.message,
        "text": mark.text,
        "mends": mends,
    }
