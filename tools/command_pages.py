"""Writes docs/commands.md from the parsers of the command line."""

from __future__ import annotations

import argparse
import sys
import textwrap
from pathlib import Path

FILE = Path(__file__).parent.parent / "docs" / "commands.md"
HEAD = """# Commands

<!-- Written by `python -m tools.command_pages` from the parsers; a test holds it against them. -->

Every command that reports takes `--json` and prints exactly one JSON object; messages go to stderr. It ends with 0
when done, 1 when refused (one line says why and what to do), 2 for wrong usage.
"""


def text() -> str:
    """The page, as it follows from the parsers."""
    from mobbet.cli.parser import COMMANDS, parser

    group = _choices(parser())
    return HEAD + "".join(_section(group[name], COMMANDS[name]) for name in COMMANDS)


def _choices(command: argparse.ArgumentParser) -> dict[str, argparse.ArgumentParser]:
    """The commands below a command, by their names."""
    groups = [action for action in command._actions if isinstance(action, argparse._SubParsersAction)]
    return dict(groups[0].choices) if groups else {}


def _section(command: argparse.ArgumentParser, help: str) -> str:
    below = _choices(command)
    lines = [
        f"\n## {command.prog}\n",
        f"{help[0].upper()}{help[1:]}.\n",
        "```text",
        _usage(command),
        *map(_usage, below.values()),
        "```\n",
    ]
    described = [*_described(command), *(line for one in below.values() for line in _described(one))]
    lines += [*dict.fromkeys(described), ""] if described else []
    return "\n".join([*lines, *([f"{command.epilog}\n"] if command.epilog else [])])


def _usage(command: argparse.ArgumentParser) -> str:
    """How a command is written; argparse's own usage differs between versions of Python."""
    parts = [_part(one) for one in command._actions if not isinstance(one, argparse._HelpAction)]
    options, words = (
        [one for one in parts if one.lstrip("[").startswith("-")],
        [one for one in parts if not one.lstrip("[").startswith("-")],
    )
    return textwrap.fill(
        " ".join([command.prog, *options, *words]),
        108,
        subsequent_indent="    ",
        break_long_words=False,
        break_on_hyphens=False,
    )


def _part(action: argparse.Action) -> str:
    if isinstance(action, argparse._SubParsersAction):
        return f"{action.metavar} ..."
    name = _name(action)
    if not action.option_strings:
        return {"?": f"[{name}]", "*": f"[{name} ...]", "+": f"{name} ..." if "|" not in name else name}.get(
            str(action.nargs), name
        )
    value = "" if action.nargs == 0 or isinstance(action.metavar, str) else f" {action.dest.upper()}"
    if action.choices and not isinstance(action.metavar, str):
        value = f" {'|'.join(map(str, action.choices))}"
    return f"{name}{value}" if action.required else f"[{name}{value}]"


def _described(command: argparse.ArgumentParser) -> list[str]:
    """What its arguments are for, those that say so."""
    return [
        f"- `{_name(one)}`: {one.help}"
        for one in command._actions
        if one.help and not isinstance(one, argparse._HelpAction)
    ]


def _name(action: argparse.Action) -> str:
    shown = (
        action.metavar
        if isinstance(action.metavar, str)
        else action.dest
        if not action.option_strings
        else ""
    )
    return " ".join([*action.option_strings[:1], *([shown] if shown else [])])


def main() -> int:
    FILE.write_text(text())
    return 0


if __name__ == "__main__":
    sys.exit(main())
