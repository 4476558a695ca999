"""`mobbet notes`: the notes that people left on a post."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import post_at_work, report

EPILOG = """`--json` prints `{"post", "notes": [{"id", "who", "at", "words", "quote", "gone", "start", "end", "proposal", "state", "answers"}]}`; `start` and `end`
are offsets in the text of the post: its title, its subtitle and each block, a line each."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument("id", type=int, metavar="POST")
    command.set_defaults(run=run)


def run(options: Namespace) -> None:
    from mobbet.actions import notes
    from mobbet.actions.access import note_post
    from mobbet.actions.note_text import as_text, facts
    from mobbet.core.timing import iso, time_in_words

    workshop, owner, blog = post_at_work(options)
    threads = notes.threads(workshop, owner, options.id)
    title = note_post(workshop, owner, options.id)[0].title
    words = as_text(title, threads, lambda instant: time_in_words(instant, blog.zone, workshop.clock()))
    report(options, {"post": options.id, "notes": [facts(one, iso) for one in threads]}, words.rstrip())
