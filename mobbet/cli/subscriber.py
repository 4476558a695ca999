"""`mobbet subscriber`: those who get a blog's letters."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TYPE_CHECKING

from mobbet.cli.options import Subcommands, takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report, text_in

if TYPE_CHECKING:
    from mobbet.actions.workshop import Workshop
    from mobbet.store.blogs import Blog

EPILOG = """`--to` is `all`, `category:PATH`, `author:EMAIL`, `series:NAME` or `comments:POST`. `list --json` prints `{"subscribers": [{"id", "email",
"state", "what": [[WHAT, EVERY]], "since", "consent"}], "counts"}`. `import` reads a CSV file with a column `email` and perhaps `what`, `every`, `state` and
`consent`; lines that say nothing of consent need `--consent`. It prints `{"new", "known", "problems": [[LINE, WHY]]}`. `export` prints CSV."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    add = Subcommands(command, "list|add|end|forget|import|export")
    listed = add("list", list_subscribers, "list those who get letters, or others")
    listed.add_argument("--state", default="on", metavar="STATE", help="on, asked, ended or aside")
    added = add("add", add_subscriber, "have letters go to an address whose owner agreed")
    added.add_argument("email", metavar="EMAIL")
    added.add_argument("--to", default="all", metavar="WHAT", help="what they get (all)")
    added.add_argument("--every", default="post", metavar="EVERY", help="post, week or month (post)")
    added.add_argument(
        "--consent", default="said so to the owner", metavar="WORDS", help="where they agreed to it"
    )
    for name, run, help in (("end", end, "end all letters to an address"), ("forget", forget, "remove all that is known of an address")):  # fmt: skip
        add(name, run, help).add_argument("email", metavar="EMAIL")
    imported = add("import", bring_in, "add the subscribers of a CSV file")
    imported.add_argument("file", metavar="FILE.csv")
    imported.add_argument(
        "--consent", default="", metavar="WORDS", help="where those agreed of whom the file does not say it"
    )
    add("export", export, "print all subscribers as CSV")


def what_of(workshop: Workshop, blog: Blog, typed: str) -> str:
    """What somebody subscribes to, as the command line names it, as it is kept. Raises NotFound, BadInput."""
    from mobbet.actions import categories
    from mobbet.cli.shared import person_by_email
    from mobbet.core.errors import NotFound
    from mobbet.core.keys import Name
    from mobbet.core.subscriptions import read_what
    from mobbet.store import series

    kind, _, which = typed.partition(":")
    if kind == "category" and which and not which.isdecimal():
        return Name.of("category", categories.find(workshop, blog, which))
    if kind == "author" and "@" in which:
        return f"author:{person_by_email(workshop, which).id}"
    if kind == "series" and which and not which.isdecimal():
        number = series.named(workshop.db, blog.id, which)
        if number is None:
            raise NotFound(
                f"There is no series “{which[:60]}”; mobbet post show tells which one a post is of."
            )
        return f"series:{number}"
    return read_what(typed)


def list_subscribers(options: Namespace) -> None:
    """Those of a state."""
    from mobbet.actions.access import require
    from mobbet.core.errors import BadInput
    from mobbet.core.rights import Action
    from mobbet.core.subscriptions import STATES
    from mobbet.core.timing import iso
    from mobbet.store import subscribers as store

    workshop, person, blog = at_work(options)
    require(workshop, person, blog, Action.KEEP_READERS)
    if options.state not in STATES:
        raise BadInput(
            f"“{options.state}” is nothing a subscriber can be; write one of: {', '.join(STATES)}.", "--state"
        )
    rows = [one for one in store.every(workshop.db, blog.id) if one.state == options.state]
    facts = [
        {
            "id": one.id, "email": one.email, "state": one.state, "since": iso(one.confirmed_at or one.asked_at), "consent": one.consent,
            "what": [[wish.what, wish.every] for wish in store.wishes_of(workshop.db, one.id)],
        }
        for one in rows
    ]  # fmt: skip
    lines = [
        f"{one.email}: {', '.join(f'{wish.what} ({wish.every})' for wish in store.wishes_of(workshop.db, one.id))}"
        for one in rows
    ]
    report(
        options,
        {"subscribers": facts, "counts": store.counts(workshop.db, blog.id)},
        "\n".join(lines) or f"Nobody {STATES[options.state]}.",
    )


def add_subscriber(options: Namespace) -> None:
    """Adds an address."""
    from mobbet.actions import subscribers

    workshop, person, blog = at_work(options)
    what = what_of(workshop, blog, options.to)
    made = subscribers.add(workshop, person, blog, options.email, what, options.every, options.consent)
    report(
        options,
        {"id": made.id, "email": made.email, "what": what, "every": options.every},
        f"{made.email} gets letters.",
    )


def end(options: Namespace) -> None:
    """Ends letters to an address."""
    from mobbet.actions import subscribers

    workshop, person, blog = at_work(options)
    found = subscribers.by_email(workshop, blog, options.email)
    subscribers.end(workshop, person, blog, found.id)
    report(options, {"ended": found.email}, f"{found.email} gets no more letters.")


def forget(options: Namespace) -> None:
    """Forgets an address."""
    from mobbet.actions import subscribers

    workshop, person, blog = at_work(options)
    found = subscribers.by_email(workshop, blog, options.email)
    subscribers.forget(workshop, person, blog, found.id)
    report(options, {"forgotten": found.email}, f"Nothing is known of {found.email} any more.")


def bring_in(options: Namespace) -> None:
    """Adds the subscribers of a file."""
    from mobbet.actions import subscribers

    workshop, person, blog = at_work(options)
    source = text_in(Path(options.file).read_bytes())
    words = subscribers.spellings(workshop, blog)
    found = subscribers.bring_in(workshop, person, blog, source, options.consent, words)
    problems = [f"line {line}: {why}" for line, why in found.problems]
    report(
        options,
        {"new": found.new, "known": found.known, "problems": [list(one) for one in found.problems]},
        "\n".join([f"{found.new} are new, {found.known} were known.", *problems]),
    )


def export(options: Namespace) -> None:
    """Prints all subscribers."""
    import sys

    from mobbet.actions import subscribers

    workshop, person, blog = at_work(options)
    sys.stdout.write(subscribers.as_csv(workshop, person, blog))
