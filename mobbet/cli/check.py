"""`mobbet check`: checks the integrity of database, media and pages."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace

from mobbet.cli.options import takes_data, takes_json
from mobbet.cli.shared import report


def add_arguments(command: ArgumentParser) -> None:
    takes_data(command)
    takes_json(command)
    command.set_defaults(run=check)


def check(options: Namespace) -> int:
    from mobbet import wiring
    from mobbet.actions import consistency

    workshop = wiring.open_existing(options.data)
    problems = consistency.problems(workshop)
    report(options, {"sound": not problems, "problems": problems}, "\n".join(problems) or "All is sound.")
    return 1 if problems else 0
