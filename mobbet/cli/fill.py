"""`mobbet fill`: adds made-up posts for measuring."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from dataclasses import asdict

from mobbet.cli.options import takes_data, takes_json
from mobbet.cli.shared import report
from mobbet.core.errors import BadInput
from mobbet.core.numbers import counted


def add_arguments(command: ArgumentParser) -> None:
    takes_data(command)
    takes_json(command)
    command.add_argument("--posts", type=int, required=True, metavar="N")
    command.add_argument("--seed", type=int, default=1, metavar="S")
    command.set_defaults(run=fill)


def fill(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.actions import sample_posts

    if not 1 <= options.posts <= 1_000_000:
        raise BadInput(
            f"{options.posts} is no number of posts to make; name one from 1 to 1,000,000.", "posts"
        )
    workshop = wiring.open_folder(options.data)
    filled = sample_posts.fill(workshop, options.posts, options.seed)
    facts = {**asdict(filled), "seconds": round(filled.seconds, 3)}
    report(
        options,
        facts,
        f"{counted(filled.posts, 'post')} made and {counted(filled.written, 'page')} written in {filled.seconds:.1f} s.",
    )
