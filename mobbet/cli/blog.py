"""`mobbet blog`: the blogs of this server."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import Subcommands, takes_data, takes_json
from mobbet.cli.shared import owner_of, person_by_email, report
from mobbet.core.numbers import counted

if TYPE_CHECKING:
    from mobbet.actions.workshop import Workshop
    from mobbet.store.blogs import Blog
    from mobbet.store.people import Person


EPILOG = """`list --json` prints `{"blogs": [{"blog", "name", "home", "host", "zone", "owners", "state"}]}`; the state is `open`, `people` (its site answers those
who work on it), `closed` or `set-aside`. A closed site answers 503. `remove` sets a blog aside: `open` brings it back within 30 days, after
which it is removed for good."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    add = Subcommands(command, "list|add|rename|close|open|remove")
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
        default="look,categories,pages,menu,rules,blocks,templates",
        metavar="PARTS",
        help="what it takes over of that blog: look,categories,pages,menu,rules,blocks,templates (all)",
    )
    made.add_argument("--zone", default="", metavar="ZONE", help="its time zone (that of the first blog)")
    made.add_argument(
        "--home", default="", metavar="URL", help="the site's public address (http://127.0.0.1:8000/b/SLUG/)"
    )

    renamed = add("rename", rename, "give a blog another name")
    renamed.add_argument("slug", metavar="SLUG")
    renamed.add_argument("name", metavar="NAME")
    closed = add("close", close, "close the site of a blog")
    closed.add_argument("slug", metavar="SLUG")
    closed.add_argument("--for-people", action="store_true", help="its people see it all the same")
    add(
        "open", open_again, "open a site that was closed, or bring back a blog that was set aside"
    ).add_argument("slug", metavar="SLUG")
    add("remove", remove, "set a blog aside; after 30 days it is removed for good").add_argument(
        "slug", metavar="SLUG"
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
            "state": "set-aside" if blog.set_aside_at else blog.closed or "open",
        }
        for blog in [*blogs.every(workshop.db), *blogs.set_aside(workshop.db)]
    ]
    report(
        options,
        {"blogs": rows},
        "\n".join(
            f"{row['blog']}  {row['name']}  {row['home']}  {row['state']}  {', '.join(row['owners'])}"
            for row in rows
        )
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


def _chosen(options: Namespace) -> tuple[Workshop, Person, Blog]:
    """The workshop, the owner of the blog that is named, in whose name it is changed, and the blog, which may be set aside."""
    from mobbet import wiring
    from mobbet.core.errors import NotFound
    from mobbet.store import blogs

    workshop = wiring.open_existing(options.data)
    blog = blogs.by_slug_of_any(workshop.db, options.slug)
    if blog is None:
        raise NotFound(f"There is no blog “{options.slug[:80]}”; mobbet blog list shows them all.")
    return workshop, owner_of(workshop, blog), blog


def rename(options: Namespace) -> None:
    from mobbet.actions import house_facts

    workshop, person, blog = _chosen(options)
    published = house_facts.give_facts(workshop, person, blog.slug, name=options.name)
    facts = {
        "blog": blog.slug,
        "name": options.name,
        "edition": published.edition,
        "written": published.written,
    }
    report(
        options, facts, f"It is called “{options.name}” now; {counted(published.written, 'page')} written."
    )


def close(options: Namespace) -> None:
    from mobbet.actions import blog_states
    from mobbet.core.blog_states import CLOSED, NOBODY, PEOPLE

    workshop, person, blog = _chosen(options)
    state = PEOPLE if options.for_people else NOBODY
    blog_states.close(workshop, person, blog.slug, state)
    report(options, {"blog": blog.slug, "state": state}, f"The site of “{blog.name}” is {CLOSED[state]}.")


def open_again(options: Namespace) -> None:
    from mobbet.actions import blog_states

    workshop, person, blog = _chosen(options)
    if blog.set_aside_at:
        blog_states.bring_back(workshop, person, blog.slug)
    blog_states.close(workshop, person, blog.slug, "")
    report(options, {"blog": blog.slug, "state": "open"}, f"The site of “{blog.name}” is open to everyone.")


def remove(options: Namespace) -> None:
    from mobbet.actions import blog_states
    from mobbet.core.blog_states import KEPT_DAYS

    workshop, person, blog = _chosen(options)
    blog_states.set_aside(workshop, person, blog.slug)
    words = f"“{blog.name}” is set aside; after {KEPT_DAYS} days it is removed. `mobbet blog open {blog.slug}` brings it back."
    report(options, {"blog": blog.slug, "state": "set-aside"}, words)
