"""Arguments that several commands take."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from collections.abc import Callable
from pathlib import Path


def takes_data(command: ArgumentParser) -> None:
    command.add_argument("--data", type=Path, required=True, metavar="DIR", help="the data folder")


def takes_json(command: ArgumentParser) -> None:
    command.add_argument("--json", action="store_true", help="print one JSON object")


def takes_blog(command: ArgumentParser) -> None:
    command.add_argument("--blog", default=None, metavar="SLUG", help="its address (the first blog)")


def takes_address(command: ArgumentParser) -> None:
    command.add_argument("--host", default="127.0.0.1", metavar="H")
    command.add_argument("--port", type=int, default=8000, metavar="N")


class Subcommands:
    """Adds the words that follow a command, each with the function it runs."""

    def __init__(self, command: ArgumentParser, names: str) -> None:
        self._group = command.add_subparsers(dest="what", required=True, metavar=names)

    def __call__(self, name: str, run: Callable[[Namespace], int | None], help: str) -> ArgumentParser:
        command = self._group.add_parser(name, help=help, description=help)
        command.set_defaults(run=run)
        return command
