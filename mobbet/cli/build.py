"""`mobbet build`: publishes what is due now, or writes the site as files."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from dataclasses import asdict
from pathlib import Path

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import report
from mobbet.core.errors import Refused
from mobbet.core.numbers import counted


def add_arguments(command: ArgumentParser) -> None:
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument("--full", action="store_true", help="render every page anew")
    command.add_argument(
        "--out",
        type=Path,
        default=None,
        metavar="DIR",
        help="write the public site as files; changes nothing in the data folder",
    )
    command.add_argument(
        "--at", default=None, metavar="INSTANT", help="with --out: the site as it stands then"
    )
    command.set_defaults(run=build)


def build(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.actions import building
    from mobbet.actions.blogs import chosen_blogs
    from mobbet.core.timing import read_instant

    workshop = wiring.open_existing(options.data)
    if options.out is None:
        if options.at is not None:
            raise Refused("--at goes with --out; what readers get is always as of now.")
        built = building.build(workshop, options.blog, options.full)
    else:
        if options.out.resolve().is_relative_to(options.data.resolve()):
            raise Refused(f"{options.out} lies in the data folder; name a folder outside of it.")
        chosen = chosen_blogs(workshop, options.blog)
        zone = chosen[0].zone if chosen else "UTC"
        instant = read_instant(options.at, zone, "--at") if options.at is not None else workshop.clock()
        built = building.write_out(workshop, options.out, options.blog, instant)
    facts = {**asdict(built), "seconds": round(built.seconds, 6)}
    report(
        options,
        facts,
        f"{counted(built.written, 'page')} written, {built.removed} removed; {built.pages} in all.",
    )
