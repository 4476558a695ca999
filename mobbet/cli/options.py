"""Arguments that several commands take."""

from __future__ import annotations

from argparse import SUPPRESS, ArgumentParser, ArgumentTypeError, Namespace
from collections.abc import Callable, Sequence
from pathlib import Path

from mobbet.core.errors import Refused


def takes_data(command: ArgumentParser) -> None:
    command.add_argument("--data", type=Path, required=True, metavar="DIR", help="the data folder")


def takes_json(command: ArgumentParser) -> None:
    command.add_argument("--json", action="store_true", help="print one JSON object")


def takes_blog(command: ArgumentParser) -> None:
    command.add_argument("--blog", default=None, metavar="SLUG", help="its address (the first blog)")


def takes_address(command: ArgumentParser) -> None:
    command.add_argument("--host", default="127.0.0.1", metavar="H")
    command.add_argument("--port", type=_port, default=8000, metavar="N", help="from 1 to 65535")


def _port(text: str) -> int:
    if not text.isdecimal() or not 1 <= int(text) <= 65_535:
        raise ArgumentTypeError(f"“{text}” is no port; choose a number from 1 to 65535")
    return int(text)


def refuse_taken(host: str, port: int) -> None:
    """Raises Refused where another program listens already, before an address is printed that is somebody else's."""
    from mobbet.services.connecting import listen_error  # most commands listen at no port

    if reason := listen_error(host, port):
        raise Refused(
            f"Port {port} on {host} cannot be used ({reason}); stop what uses it, or choose another with --port."
        )


class Subcommands:
    """Adds the words that follow a command, each with the function it runs. `--json`, and other `flags` of the command, may stand before such
    a word or after it."""

    def __init__(self, command: ArgumentParser, names: str, flags: Sequence[str] = ()) -> None:
        self._flags = [*flags, *(["--json"] if "--json" in command.format_usage() else [])]
        self._group = command.add_subparsers(dest="what", required=True, metavar=names)

    def __call__(self, name: str, run: Callable[[Namespace], int | None], help: str) -> ArgumentParser:
        command = self._group.add_parser(name, help=help, description=help)
        command.set_defaults(run=run)
        for flag in self._flags:
            command.add_argument(flag, action="store_true", default=SUPPRESS, help=SUPPRESS)
        return command
