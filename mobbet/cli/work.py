"""`mobbet work`: does the work that takes time, until standard input ends."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace

from mobbet.cli.options import takes_data


def add_arguments(command: ArgumentParser) -> None:
    takes_data(command)
    command.set_defaults(run=work)


def work(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.worker import end_with_input
    from mobbet.worker import work as work_on

    work_on(wiring.open_existing(options.data), end_with_input())
