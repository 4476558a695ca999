"""`mobbet blog`: the blogs of this server."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import Subcommands, takes_data, takes_json
from mobbet.cli.shared import owner_of, person_by_email, report

if TYPE_CHECKING:
    from mobbet.actions.workshop import Workshop
    from mobbet.store.blogs import Blog


EPILOG = """`list --json` prints `{"blogs": [{"blog", "name", "home", "host", "zone", "owners"}]}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    add = Subcommands(command, "list|add")
    add("list", list_blogs, "list the blogs with their owners")
    made = add("add", add_blog, "make another blog")
    made.add_argument("name", metavar="NAME")
    made.add_argument("--address", required=True, metavar="SLUG", help="such as mending-bench")
    made.add_argument(
        "--owner", default="", metavar="EMAIL", help="who owns it (the owner of the first blog)"
    )
    made.add_argument("--from", dest="source", default="", metavar="SLUG", help="the blog it begins from")
    made.add_argument(
        "--with",
        dest="parts",
        default="look,categories,rules,blocks,templates",
        metavar="PARTS",
        help="what it takes over of that blog: look,categories,rules,blocks,templates (all)",
    )
    made.add_argument("--zone", default="", metavar="ZONE", help="its time zone (that of the first blog)")
    made.add_argument(
        "--home", default="", metavar="URL", help="the site's public address (http://127.0.0.1:8000/b/SLUG/)"
    )


def list_blogs(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.store import blogs

    workshop = wiring.open_existing(options.data)
    rows: list[dict[str, Any]] = [
        {
            "blog": blog.slug,
            "name": blog.name,
            "home": blog.home,
            "host": blog.host,
            "zone": blog.zone,
            "owners": _owners(workshop, blog),
        }
        for blog in blogs.every(workshop.db)
    ]
    report(
        options,
        {"blogs": rows},
        "\n".join(f"{row['blog']}  {row['name']}  {row['home']}  {', '.join(row['owners'])}" for row in rows)
        or "There is no blog yet.",
    )


def add_blog(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.actions import blogs as blog_actions
    from mobbet.actions import new_blog
    from mobbet.core.errors import BadInput
    from mobbet.store import blogs

    workshop = wiring.open_existing(options.data)
    first = next(iter(blogs.every(workshop.db)), None)
    if not (options.owner or first):
        raise BadInput(
            "There is no blog yet whose owner could own this one; name somebody with --owner.", "--owner"
        )
    owner = (
        person_by_email(workshop, options.owner) if options.owner or not first else owner_of(workshop, first)
    )
    slug = options.address.strip("/")
    facts = {
        "name": options.name, "address": options.address, "zone": options.zone or (first.zone if first else "UTC"),
        "home": options.home or f"http://127.0.0.1:8000/b/{slug}/",
    }  # fmt: skip
    notes: tuple[str, ...] = ()
    if options.source:
        begun = new_blog.begin(
            workshop,
            owner,
            source=options.source,
            parts=[part for part in options.parts.split(",") if part],
            **facts,
        )
        made, notes = begun.blog, begun.notes
    else:
        made = blog_actions.make_blog(workshop, owner, **facts)
    report(
        options,
        {"blog": made.slug, "name": made.name, "home": made.home, "zone": made.zone, "owners": [owner.email]},
        " ".join((f"“{made.name}” is ready at /b/{made.slug}/; {owner.name} owns it.", *notes)),
    )


def _owners(workshop: Workshop, blog: Blog) -> list[str]:
    from mobbet.store import blogs, people

    return [
        one.email
        for one in people.of_blog(workshop.db, blog.id)
        if blogs.role(workshop.db, blog.id, one.id) == "owner"
    ]
