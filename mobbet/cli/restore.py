"""`mobbet restore`: makes a data folder of a backup."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace

from mobbet.cli.backup import key_in, open_named, takes_place
from mobbet.cli.options import takes_data, takes_json
from mobbet.cli.shared import report

EPILOG = """`--json` prints `{"copy", "files", "posts", "bytes", "sound", "problems", "letters"}`; `letters` is how many were on their way,
which are not sent again, since they may have arrived."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_place(command, "--from")
    command.add_argument(
        "--at",
        metavar="TIME",
        help="the newest copy until then, such as 2026-12-01T09:00Z; without it the newest of all",
    )
    command.set_defaults(run=run)


def run(options: Namespace) -> int:
    from mobbet import wiring
    from mobbet.actions import backups, consistency
    from mobbet.core.timing import iso, read_instant
    from mobbet.settings import from_environment

    instant = read_instant(options.at, "UTC", "--at") if options.at else None
    with open_named(options, key_in(options)) as files:
        copy = backups.restore(files, instant, options.data, from_environment(options.data).sealing_key)
    workshop = wiring.open_existing(options.data)
    letters = backups.after_restoring(workshop)
    problems = consistency.problems(workshop)
    facts = {
        "copy": iso(copy.at), "files": copy.file_count, "posts": copy.posts, "bytes": copy.size,
        "sound": not problems, "problems": problems, "letters": letters,
    }  # fmt: skip
    words = (
        f"{options.data} holds the copy of {facts['copy']}: {copy.posts} posts and {copy.file_count} files."
    )
    report(options, facts, "\n".join([words, *(problems or ["All is sound."])]))
    return 1 if problems else 0
