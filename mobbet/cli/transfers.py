"""`mobbet transfers`: works through the exports and imports that were asked for on the screen."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from contextlib import closing

from mobbet.cli.options import takes_data, takes_json
from mobbet.cli.shared import report

EPILOG = """The server starts this by itself. `--json` prints `{"done"}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    command.add_argument("--due", action="store_true", help="those that wait now (as it comes)")
    command.set_defaults(run=run)


def run(options: Namespace) -> int:
    from mobbet import wiring
    from mobbet.actions import transfer_running

    workshop = wiring.open_existing(options.data)
    with closing(workshop.services.heavy):
        count = transfer_running.run_due(workshop)
    report(options, {"done": count}, f"{count} exports and imports were worked through.")
    return 0
