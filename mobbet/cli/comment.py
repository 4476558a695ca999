"""`mobbet comment`: the comments of readers."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace

from mobbet.cli.options import Subcommands, takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report
from mobbet.core.errors import BadInput
from mobbet.core.values import existing

NEWEST = 1 << 60


EPILOG = """`list --json` prints `{"comments": [{"id", "post", "answers", "name", "text", "state", "made_at"}], "counts"}`. `rule
anyone --waiting strangers` opens a blog to comments; those of people who are not signed in wait."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    add = Subcommands(command, "list|show|refuse|take-back|remove|rule")
    listed = add("list", list_comments, "list the newest comments that wait, or of another state")
    listed.add_argument("--state", default="waits", metavar="STATE", help="waits, shown or refused")
    listed.add_argument("--limit", type=int, default=50, metavar="N")
    for name, run, help in (
        ("show", settle, "let readers see comments"), ("refuse", settle, "show comments to nobody"),
        ("take-back", settle, "let comments wait again"), ("remove", remove, "remove comments for good"),
    ):  # fmt: skip
        add(name, run, help).add_argument("ids", nargs="+", type=int, metavar="ID")
    ruled = add("rule", rule, "tell who may comment, or change it")
    ruled.add_argument(
        "who",
        nargs="?",
        default=None,
        choices=("nobody", "signed-in", "anyone"),
        metavar="WHO",
        help="nobody, signed-in or anyone",
    )
    ruled.add_argument(
        "--waiting",
        default="all",
        choices=("all", "strangers", "none"),
        metavar="WHOSE",
        help="whose comments wait: all, strangers or none",
    )


def list_comments(options: Namespace) -> None:
    """The newest comments of a state."""
    from mobbet.actions import comments
    from mobbet.core.comments import STATES
    from mobbet.core.timing import iso
    from mobbet.store import comments as store
    from mobbet.store import posts

    workshop, person, blog = at_work(options)
    if options.state not in STATES:
        raise BadInput(
            f"“{options.state}” is nothing a comment can be; write one of: {', '.join(STATES)}.", "--state"
        )
    author = comments.mine(workshop, person, blog)
    rows = store.page(workshop.db, blog.id, options.state, 0, author, NEWEST, options.limit)
    facts = [
        {
            "id": row.id,
            "post": row.post_id,
            "answers": row.answers,
            "name": row.name,
            "text": row.text,
            "state": row.state,
            "made_at": iso(row.made_at),
        }
        for row in rows
    ]
    lines = [
        f"{row.id:>6}  {row.name}, under “{existing(posts.by_id(workshop.db, row.post_id)).title}”: {' '.join(row.text.split())}"
        for row in rows
    ]
    report(
        options,
        {"comments": facts, "counts": store.counts(workshop.db, blog.id, 0, author)},
        "\n".join(lines) or f"No comment is {STATES[options.state]}.",
    )


def settle(options: Namespace) -> None:
    """Shows, refuses or takes back comments by number."""
    from mobbet.actions import comments
    from mobbet.core.comments import STATES

    workshop, person, blog = at_work(options)
    become = {"show": "shown", "refuse": "refused", "take-back": "waits"}[options.what]
    count = comments.settle(workshop, person, blog.slug, options.ids, become)
    report(
        options,
        {"settled": count, "state": become},
        f"{count} {'is' if count == 1 else 'are'} {STATES[become]} now.",
    )


def remove(options: Namespace) -> None:
    """Removes comments for good."""
    from mobbet.actions import comments

    workshop, person, blog = at_work(options)
    count = comments.remove(workshop, person, blog.slug, options.ids)
    report(options, {"removed": count}, f"{count} removed for good.")


def rule(options: Namespace) -> None:
    """Says who may comment and which comments wait, or changes it."""
    from mobbet.actions import comments

    workshop, person, blog = at_work(options)
    if options.who is not None:
        comments.set_rule(
            workshop, person, blog.slug, "" if options.who == "nobody" else options.who, options.waiting
        )
        blog = at_work(options)[2]
    report(
        options,
        {"who": blog.comments or "nobody", "waiting": blog.comments_wait},
        f"{(blog.comments or 'nobody').capitalize()} may comment; {blog.comments_wait} of it waits.",
    )
