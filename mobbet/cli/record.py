"""`mobbet record`: who did what, when and from where."""

from __future__ import annotations

import json
from argparse import ArgumentParser, Namespace
from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import takes_data, takes_json
from mobbet.core.record import sentence

if TYPE_CHECKING:
    from mobbet.actions.workshop import Workshop
    from mobbet.store.record import Entry

AT_ONCE = 1000

EPILOG = """Prints a line of JSON for each row, the oldest first: `{"at", "kind", "sentence", "who", "email", "blog", "post", "from"}`.
`--json` prints all of them as one object: `{"record": [row]}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    command.add_argument(
        "--from", dest="start", metavar="DATE", default="", help="only from this day on, such as 2026-11-01"
    )
    command.add_argument("--blog", metavar="SLUG", help="only of this blog")
    command.set_defaults(run=run)


def run(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.actions.blogs import chosen_blogs
    from mobbet.core.timing import instant_of_wall, read_wall
    from mobbet.store import blogs, people

    workshop = wiring.open_existing(options.data)
    chosen = chosen_blogs(workshop, options.blog)[0].id if options.blog else None
    start = instant_of_wall(read_wall(f"{options.start} 00:00", "--from"), "UTC") if options.start else 0
    names = {blog.id: blog.slug for blog in [*blogs.every(workshop.db), *blogs.set_aside(workshop.db)]}
    emails = {one.id: one.email for one in people.every(workshop.db)}
    rows = _rows(workshop, start, chosen)
    facts = (_facts(row, names, emails) for row in rows)
    if options.json:
        print(json.dumps({"record": list(facts)}, ensure_ascii=False))
        return
    for one in facts:
        print(json.dumps(one, ensure_ascii=False))


def _rows(workshop: Workshop, start: int, blog_id: int | None) -> Iterator[Entry]:
    """The rows from an instant on, of one blog where it is named."""
    from mobbet.store import record

    after = 0
    while rows := record.since(workshop.db, start, after, AT_ONCE):
        yield from (row for row in rows if blog_id in (None, row.on_blog))
        after = rows[-1].id


def _facts(row: Entry, names: dict[int, str], emails: dict[int, str]) -> dict[str, Any]:
    from mobbet.core.timing import iso

    return {
        "at": iso(row.at),
        "kind": row.kind,
        "sentence": sentence(row.kind, row.actor, row.subject, row.detail),
        "who": row.actor,
        "email": emails.get(row.actor_id or 0),
        "blog": names.get(row.on_blog or 0),
        "post": row.on_post,
        "from": row.origin,
    }
