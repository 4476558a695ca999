"""`mobbet where`: where a reader finds a post, and why not elsewhere."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import post_at_work, report
from mobbet.core.values import existing

EPILOG = """`--json` prints `{"visible", "reasons", "pages"}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument("id", type=int, metavar="ID")
    command.add_argument(
        "--as",
        dest="reader",
        default="everyone",
        metavar="READER",
        help="everyone, signed-in, group:NAME or owner",
    )
    command.add_argument("--at", default=None, metavar="INSTANT")
    command.set_defaults(run=where)


def where(options: Namespace) -> None:
    from mobbet.actions import preview_readers, whereabouts
    from mobbet.core.timing import read_instant
    from mobbet.store import posts as post_store

    workshop, _, blog = post_at_work(options)
    reader = preview_readers.reader_for_operator(workshop, blog, options.reader)
    instant = read_instant(options.at, blog.zone, "--at") if options.at else None
    found = whereabouts.whereabouts(
        workshop, existing(post_store.by_id(workshop.db, options.id)), blog, reader, instant
    )
    pages = list(
        dict.fromkeys(one.path for one in found if one.path and (one.is_there or "/page/" in one.path))
    )
    facts = {
        "visible": found[0].is_there,
        "reasons": [one.words for one in found if not one.is_there],
        "pages": pages,
    }
    report(options, facts, "\n".join(f"{'+' if one.is_there else '-'} {one.words}" for one in found))
