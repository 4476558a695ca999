"""`mobbet copy`: a reading copy of a draft, a private link for those without an account."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import post_at_work, report

EPILOG = """`--json` prints `{"post", "address", "until", "may"}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument("id", type=int, metavar="POST")
    command.add_argument(
        "--until", default="", metavar="DATE", help="the last day on which it is good; two weeks, without one"
    )
    command.add_argument(
        "--may", choices=("read", "note", "propose"), default="note", help="what those with the link may do"
    )
    command.add_argument(
        "--this-revision", action="store_true", help="show the text as it is now, and no later one"
    )
    command.add_argument(
        "--server", metavar="ADDRESS", help="where this server is found, such as https://write.example"
    )
    command.set_defaults(run=run)


def run(options: Namespace) -> None:
    from mobbet.actions import reading_copies
    from mobbet.actions.own_address import server_of
    from mobbet.core.timing import iso

    workshop, owner, blog = post_at_work(options)
    copy = reading_copies.make(workshop, owner, options.id, options.until, options.this_revision, options.may)
    address = reading_copies.address_of(workshop, copy, options.server or server_of(workshop, blog))
    facts = {"post": options.id, "address": address, "until": iso(copy.ends_at), "may": copy.lets}
    report(options, facts, address)
