"""`mobbet group`: the groups of readers, and who is invited to them."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report
from mobbet.core.errors import NotFound


def add_arguments(command: ArgumentParser) -> None:
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument("words", nargs="+", metavar="list | add NAME | invite NAME ADDRESS… | remove NAME")
    command.set_defaults(run=run)


def run(options: Namespace) -> None:
    """`list`, `add NAME`, `invite NAME ADDRESS…`, `remove NAME`."""
    from mobbet.actions import readers
    from mobbet.store import readers as reader_store

    workshop, person, blog = at_work(options)
    what, *words = options.words
    if what == "add" and len(words) == 1:
        readers.make_group(workshop, person, blog, words[0])
    elif what == "invite" and len(words) > 1:
        readers.add_readers(
            workshop, person, blog, readers.group_by_name(workshop, blog, words[0]).id, "\n".join(words[1:])
        )
    elif what == "remove" and len(words) == 1:
        readers.remove_group(workshop, person, blog, readers.group_by_name(workshop, blog, words[0]).id)
    elif what != "list" or words:
        raise NotFound(
            f"“{' '.join(options.words)}” is not understood; write list, add NAME, invite NAME ADDRESS or remove NAME."
        )
    sizes = reader_store.sizes(workshop.db, blog.id)
    groups = reader_store.groups(workshop.db, blog.id)
    facts = {
        "groups": [
            {
                "name": one.name,
                "readers": sizes.get(one.id, 0),
                "feed": f"{blog.home}~/feed/{one.feed_key}.atom",
            }
            for one in groups
        ]
    }
    report(
        options,
        facts,
        "\n".join(f"{sizes.get(one.id, 0):>5}  {one.name}" for one in groups) or "There are no groups yet.",
    )
