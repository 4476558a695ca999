"""`mobbet look`: how a blog's site looks; what is tried, whether it can be read, and what readers get."""

from __future__ import annotations

import sys
from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TYPE_CHECKING

from mobbet.cli.options import Subcommands, takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report
from mobbet.core.numbers import counted

if TYPE_CHECKING:
    from mobbet.core.look.look import Look

EPILOG = """FILE is a look as docs/look.md describes it, `-` for standard input, or the name of one to begin from: bench, ferry,
noticeboard, harbour, lamplight, ledger. `show` prints the look that is tried, or else the one given, as such a file; with `--given`, the
one that readers get. `check --json` prints `{"pairs": [{"where", "foreground", "background", "ratio", "needed", "holds", "nearest"}]}`.
`give` refuses a look with colours that cannot be read, unless `--because` says why they stay."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    add = Subcommands(command, "show|try|check|give|put-back|list")
    add("show", show, "print the look as a file").add_argument(
        "--given", action="store_true", help="the one that readers get, also while another is tried"
    )
    add("try", try_file, "try a look, which no reader sees").add_argument("file", metavar="FILE")
    add("check", check, "measure every pair of colours that can meet on a page").add_argument(
        "file", nargs="?", metavar="FILE", help="a look that need not be tried (the present one)"
    )
    add("give", give, "give the look that is tried to readers").add_argument(
        "--because", default="", metavar="REASON", help="why colours that cannot be read by everyone stay"
    )
    add("put-back", put_back, "end the trial; without one, give readers the look that they had before")
    add("list", list_looks, "list the looks that readers had, the newest first")


def show(options: Namespace) -> None:
    from mobbet.actions import looks
    from mobbet.core.look.look import look_file

    workshop, _, blog = at_work(options)
    look = looks.given(workshop, blog) if options.given else looks.present(workshop, blog)
    report(options, look.dump(), look_file(look).rstrip())


def try_file(options: Namespace) -> None:
    from mobbet.actions import looks

    workshop, person, blog = at_work(options)
    is_tried = looks.try_look(workshop, person, blog.slug, _read(options.file))
    words = (
        "It is tried; readers do not see it yet. `mobbet look give` gives it to them."
        if is_tried
        else "Readers have this look already."
    )
    report(options, {"tried": is_tried}, words)


def check(options: Namespace) -> None:
    from mobbet.actions import looks

    workshop, _, blog = at_work(options)
    look = _read(options.file) if options.file else looks.present(workshop, blog)
    names = ("where", "foreground", "background", "ratio", "needed", "holds", "nearest")
    found = looks.measured(workshop, blog, look)
    wrong = [one for one in found if not one.holds]
    lines = [
        f"{one.where}: {one.foreground} on {one.background} is {one.ratio:.2f}, {one.needed:g} is needed; nearest that holds: {one.nearest}"
        for one in wrong
    ]
    total = f"{len(found) - len(wrong)} of {len(found)} pairs of colours can be read."
    report(
        options,
        {"pairs": [{name: getattr(one, name) for name in names} for one in found]},
        "\n".join((*lines, total)),
    )


def give(options: Namespace) -> None:
    from mobbet.actions import looks

    workshop, person, blog = at_work(options)
    published = looks.give(workshop, person, blog.slug, options.because)
    report(
        options,
        {"edition": published.edition, "written": published.written},
        f"Readers have it with edition {published.edition}; {counted(published.written, 'page')} and files were written.",
    )


def put_back(options: Namespace) -> None:
    from mobbet.actions import looks

    workshop, person, blog = at_work(options)
    if looks.tried(workshop, blog) is not None:
        looks.put_back(workshop, person, blog.slug)
        report(options, {"tried": False}, "The trial is over; everybody sees the look that readers have.")
        return
    published = looks.undo_given(workshop, person, blog.slug)
    report(
        options,
        {"edition": published.edition, "written": published.written},
        f"Readers have the look before with edition {published.edition}.",
    )


def list_looks(options: Namespace) -> None:
    from mobbet.actions import looks
    from mobbet.core.timing import iso, wall

    workshop, _, blog = at_work(options)
    found = looks.listed(workshop, blog)
    facts = [
        {"number": one.number, "name": one.name, "given": iso(one.given_at), "why": one.why} for one in found
    ]
    lines = [
        f"{one.number:>5}  {wall(one.given_at, blog.zone).replace('T', ' ')}  {one.name or 'of its own'}: {one.why}"
        for one in found
    ]
    report(options, {"looks": facts}, "\n".join(lines) or "Readers have the look that the blog began with.")


def _read(file: str) -> Look:
    from mobbet.core.errors import BadInput
    from mobbet.core.look.begun import BEGUN, begun_look
    from mobbet.core.look.look import LARGEST, read_look_file

    if file in BEGUN:
        return read_look_file(begun_look(file))
    try:
        raw = sys.stdin.buffer.read(LARGEST + 1) if file == "-" else Path(file).open("rb").read(LARGEST + 1)
        return read_look_file(raw.decode())
    except OSError as error:
        raise BadInput(
            f"“{file}” cannot be read: {error.strerror}. Name a file, or one of {', '.join(BEGUN)}.", "file"
        ) from None
    except UnicodeDecodeError:
        raise BadInput(
            f"“{file}” is no text in UTF-8; a look is a file as docs/look.md describes it.", "file"
        ) from None
