"""`mobbet init`: makes the first person and blog in an empty data folder."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path

from mobbet.cli.options import takes_data, takes_json
from mobbet.cli.shared import password_in, report


def add_arguments(command: ArgumentParser) -> None:
    takes_data(command)
    takes_json(command)
    for name, help in (
        ("blog", "the blog's name"), ("address", "its address, such as mending-bench"), ("zone", "its time zone, such as Europe/Lisbon"),
        ("email", "the owner's e-mail address"),
    ):  # fmt: skip
        command.add_argument(f"--{name}", required=True, help=help)
    command.add_argument(
        "--password-file",
        required=True,
        type=Path,
        metavar="F",
        help="a file with the password on its first line",
    )
    command.add_argument(
        "--name", default="", help="the owner's name (the part of the e-mail address before the @)"
    )
    command.add_argument(
        "--home", default="", help="the site's public address (http://127.0.0.1:8000/b/ADDRESS/)"
    )
    command.set_defaults(run=init)


def init(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.actions import blogs as blog_actions

    workshop = wiring.open_folder(options.data)
    person, blog = blog_actions.set_up(
        workshop,
        name=options.name or options.email.split("@")[0],
        email=options.email,
        password=password_in(options.password_file),
        blog=options.blog,
        address=options.address,
        zone=options.zone,
        home=options.home or f"http://127.0.0.1:8000/b/{options.address.strip('/')}/",
    )
    report(
        options,
        {"blog": blog.slug, "person": person.id},
        f"“{blog.name}” is ready; start it with: mobbet serve --data {options.data}",
    )
