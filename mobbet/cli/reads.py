"""`mobbet reads`: what is read, and access logs of places where others serve the site."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import Any

from mobbet.cli.options import Subcommands, takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report
from mobbet.core.errors import BadInput

EPILOG = """A page is a GET of an HTML page of the blog that was answered with 200 or 304; robots are counted apart. A reader is a network address and agent within
a day of the blog's zone. `show --json` prints `{"readers", "pages", "robots", "days": [{"day", "readers", "pages"}], "posts": [{"id", "path", "readers", "pages"}],
"from": [{"host", "pages"}]}`; `from` has the pages that readers opened first, by the host they came from. `import` takes logs in the Common or Combined Log
Format, also packed by gzip; a line is counted once, in however many logs it stands. `--root` is the path at which the log's server has the blog (the path of
its address, or /, as the log has it)."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    add = Subcommands(command, "show|import")
    shown = add("show", show, "tell how many readers opened what")
    for name, words in (("--from", "the first day, such as 2026-11-01"), ("--until", "the last day")):
        shown.add_argument(
            name, dest=name.strip("-").replace("from", "first"), metavar="DATE", default="", help=words
        )
    imported = add("import", import_logs, "count the pages of access logs")
    imported.add_argument("logs", nargs="+", type=Path, metavar="LOG")
    imported.add_argument("--root", default=None, metavar="PATH", help="where the log's server has the blog")


def _day(text: str, option: str, otherwise: str) -> str:
    from datetime import date

    if not text:
        return otherwise
    try:
        return date.fromisoformat(text).isoformat()
    except ValueError:
        raise BadInput(f"{option} {text} is no day; write it like 2026-11-01.") from None


def show(options: Namespace) -> None:
    from mobbet.actions import read_counts

    workshop, _, blog = at_work(options)
    first, last = _day(options.first, "--from", "0000-01-01"), _day(options.until, "--until", "9999-12-31")
    if first > last:
        raise BadInput(f"--from {first} is after --until {last}; change one of them.")
    facts = read_counts.facts(workshop, blog, first, last)
    lines = [
        f"{facts['readers']:,} readers opened {facts['pages']:,} pages; robots opened {facts['robots']:,}.",
        *(f"{one['day']}  {one['readers']:>7,} readers {one['pages']:>8,} pages" for one in facts["days"]),
        *(f"{one['pages']:>8,} pages {one['readers']:>7,} readers  {one['path']}" for one in facts["posts"]),
        *(f"{one['pages']:>8,} from {one['host']}" for one in facts["from"]),
    ]
    report(options, facts, "\n".join(lines))


def import_logs(options: Namespace) -> None:
    from dataclasses import asdict

    from mobbet.actions import read_counts

    workshop, _, blog = at_work(options)
    if options.root is not None and not (options.root.startswith("/") and options.root.endswith("/")):
        raise BadInput(f"--root {options.root} is no path; write it with a slash at both ends, like /blog/.")
    found: list[dict[str, Any]] = []
    for path in options.logs:
        found.append({"log": str(path), **asdict(read_counts.import_log(workshop, blog, path, options.root))})
    report(options, {"logs": found}, "\n".join(map(_told, found)))


def _told(one: dict[str, Any]) -> str:
    again = f", {one['again']:,} lines counted before" if one["again"] else ""
    none = f", {one['unreadable']:,} lines that are none" if one["unreadable"] else ""
    return f"{one['log']}: {one['pages']:,} pages and {one['robots']:,} of robots in {one['lines']:,} lines{again}{none}."
