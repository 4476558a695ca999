"""`mobbet search`: finds posts."""

from __future__ import annotations

import time
from argparse import ArgumentParser, Namespace

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report
from mobbet.core.errors import BadInput

EPILOG = """`--json` prints `{"posts": [{"id", "title", "state"}], "total", "milliseconds"}`. A query has words, `"exact words"`,
`-without`, `tag:fuse`, `in:Lamps` (and what is below), `by:ines`, `is:draft` (`timetable`, `published`, `came-down`,
`withdrawn`, `set-aside`; `post`, `page`), `before:2026-03` and `after:2026-03-15`; the last word may be the beginning of one. Where
nothing matches, a word one slip away is taken, which `instead` tells."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument("query", metavar="QUERY")
    command.add_argument("--limit", type=int, default=50, metavar="N")
    command.set_defaults(run=search)


def search(options: Namespace) -> None:
    """The posts that a query finds, the likeliest first."""
    from mobbet.actions import post_search
    from mobbet.core.states import WORDS

    if options.limit < 1:
        raise BadInput(f"--limit is {options.limit}; ask for one post at least.", "--limit")
    workshop, _, blog = at_work(options)
    began = time.perf_counter()
    found = post_search.find(workshop, blog, options.query, options.limit)
    milliseconds = round(1000 * (time.perf_counter() - began), 1)
    facts = {
        "posts": [{"id": one.id, "title": one.title, "state": one.state} for one in found.posts], "total": found.total, "milliseconds": milliseconds,
        **({"instead": found.instead} if found.instead else {}), **({"problems": found.problems} if found.problems else {}),
    }  # fmt: skip
    lines = [f"{one.id:>6}  {WORDS[one.state]:<16} {one.title or 'No title yet'}" for one in found.posts]
    report(options, facts, "\n".join([*lines, *found.problems, f"{found.total} found in {milliseconds} ms."]))
