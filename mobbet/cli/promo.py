"""`mobbet promo`: the rules by which saved blocks stand below posts."""

from __future__ import annotations

import sys
from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import Subcommands, takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report
from mobbet.core.errors import BadInput
from mobbet.core.numbers import counted

if TYPE_CHECKING:
    from mobbet.actions.workshop import Workshop
    from mobbet.core.promos import Promo, Promos
    from mobbet.store.blogs import Blog

EPILOG = """FILE is a block as Markdown, or `-` for standard input, after front matter with `name` and, as you like, `categories`, `tags`, `never` (words that no
post beside it may name; `lamp*` is any word that begins so), `from`, `until` and `weight` (1 to 9). A saved block of that name gets the words of the file; a
file without any uses the one there is. `where` tells for a post which blocks stand below it, and why the others do not. Readers get each change at once."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    add = Subcommands(command, "list|add|where|remove|most")
    add("list", show, "list the rules with their numbers")
    add("add", add_file, "add a rule with its block").add_argument("file", metavar="FILE")
    add("where", where, "tell which blocks stand below a post, and why").add_argument(
        "post", type=int, metavar="ID"
    )
    add("remove", remove, "take a rule out; its block stays saved").add_argument(
        "rule", type=int, metavar="N"
    )
    add("most", most, "set how many blocks stand below one post at most").add_argument(
        "count", type=int, metavar="COUNT"
    )


def _read(name: str) -> str:
    try:
        data = sys.stdin.buffer.read() if name == "-" else Path(name).read_bytes()
        return data.decode()
    except (OSError, UnicodeDecodeError) as error:
        raise BadInput(f"{name} cannot be read as a text: {error}.") from None


def show(options: Namespace) -> None:
    from mobbet.actions import promos

    workshop, _, blog = at_work(options)
    _report(options, workshop, blog, promos.given(workshop, blog))


def _report(options: Namespace, workshop: Workshop, blog: Blog, promos: Promos, **more: Any) -> None:
    rows = [_row(workshop, blog, rule) for rule in promos.rules]
    lines = [f"{row['rule']:>4}  {row['block']:<24} {_places(row)}" for row in rows]
    lines.append(f"At most {promos.most} below a post.")
    report(options, {"most": promos.most, "rules": rows, **more}, "\n".join(lines))


def _places(row: dict[str, Any]) -> str:
    return ", ".join((*row["categories"], *(f"tag {name}" for name in row["tags"]))) or "every post"


def _row(workshop: Workshop, blog: Blog, rule: Promo) -> dict[str, Any]:
    from mobbet.core.filing import path_in_words
    from mobbet.core.timing import wall
    from mobbet.store import filing, kept

    subjects = filing.subjects(workshop.db, blog.id)
    names = {one.id: one.name for one in kept.every(workshop.db, blog.id)}
    return {
        "rule": rule.id,
        "block": names.get(rule.block),
        "categories": [path_in_words(subjects, number) for number in rule.categories if number in subjects],
        "tags": [tag.name for tag in filing.tags(workshop.db, list(rule.tags))],
        "never": list(rule.never),
        "from": rule.shows_from and wall(rule.shows_from, blog.zone),
        "until": rule.shows_until and wall(rule.shows_until, blog.zone),
        "weight": rule.weight,
    }


def add_file(options: Namespace) -> None:
    from mobbet.actions import promos

    workshop, person, blog = at_work(options)
    added = promos.add_file(workshop, person, blog.slug, _read(options.file))
    row = _row(workshop, blog, added.rule)
    words = f"Rule {added.rule.id} shows “{added.block}”: {_places(row)}; {counted(added.published.written, 'file')} written."
    report(options, {**row, "edition": added.published.edition, "written": added.published.written}, words)


def where(options: Namespace) -> None:
    from mobbet.actions import promos

    workshop, person, _ = at_work(options)
    found = promos.below(workshop, person, options.post)
    rows = [
        {"rule": one.rule.id, "block": name, "stands": one.stands, "why": one.why}
        for name, one in found.verdicts
    ]
    lines = [f"{row['rule']:>4}  {row['block']}: {row['why']}" for row in rows]
    data = {"post": found.post.id, "stands": [row["rule"] for row in rows if row["stands"]], "rules": rows}
    report(options, data, "\n".join(lines) or "There are no rules.")


def remove(options: Namespace) -> None:
    from mobbet.actions import promos

    _give(options, promos.removing(options.rule))


def most(options: Namespace) -> None:
    from mobbet.actions import promos

    _give(options, promos.most(options.count))


def _give(options: Namespace, change: Any) -> None:
    from mobbet.actions import promos

    workshop, person, blog = at_work(options)
    published = promos.give_change(workshop, person, blog.slug, change)
    now = promos.given(workshop, blog)
    _report(options, workshop, blog, now, edition=published.edition, written=published.written)
