"""`mobbet import`: brings in a blog that was exported, or the posts of an older site, and takes these away again."""

from __future__ import annotations

import sys
import time
from argparse import ArgumentParser, Namespace
from collections import Counter
from contextlib import closing
from pathlib import Path
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report
from mobbet.core.errors import BadInput

if TYPE_CHECKING:
    from mobbet.actions.blog_imports import Report
    from mobbet.actions.importing import Outcome
    from mobbet.actions.workshop import Workshop
    from mobbet.store.blogs import Blog
    from mobbet.store.people import Person

EPILOG = """`--json` prints `{"run", "new", "there", "refused", "comments", "posts": [{"key", "what", "title", "id", "date", "addresses", "notes"}]}`; with
`--list` `{"runs": [{"id", "source", "begun", "undone", "posts"}]}`, with `--undo` `{"run", "set_aside", "stayed"}`. A post that came before is not
brought again; a run that broke off is run again and goes on. With `--from folder`, an export becomes a new blog at the address that `--blog` names, or
at its own; into a blog that has posts, its posts come like those of an older site: `{"blog", "name", "rows", "new_people", "known_people", "notes"}`."""
SHOWN_EVERY = 1.0


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument(
        "source", nargs="?", metavar="PATH|ADDRESS", help="a feed, a table of posts, or a folder of files"
    )
    command.add_argument(
        "--from",
        dest="kind",
        metavar="KIND",
        help="folder (an export, also as a zip file), atom, rss, jsonfeed, markdown, html, csv or opml",
    )
    command.add_argument(
        "--subjects",
        default="categories",
        metavar="WORD",
        help="what the subjects of a feed become: categories (as it comes) or tags",
    )
    command.add_argument(
        "--dry-run", action="store_true", help="only tell what would come, and what would not"
    )
    command.add_argument("--list", action="store_true", help="list the imports of the blog")
    command.add_argument("--undo", type=int, metavar="N", help="set the posts of an import aside again")
    command.set_defaults(run=run)


def run(options: Namespace) -> int:
    if options.kind == "folder":
        return _folder(options)
    workshop, person, blog = at_work(options)
    if options.list:
        return _list(options, workshop, blog)
    if options.undo is not None:
        return _undo(options, workshop, person, blog)
    return _import(options, workshop, person, blog)


def _import(options: Namespace, workshop: Workshop, person: Person, blog: Blog) -> int:
    from mobbet.actions import importing
    from mobbet.actions.import_sources import open_export, open_source

    if not options.kind or not options.source:
        raise BadInput("Say what to import, such as: --from rss https://old.example/feed.xml", "source")
    source = (
        open_export(options.source)
        if options.kind == "folder"
        else open_source(workshop, options.kind, options.source)
    )
    outcomes = importing.run(
        workshop, person, blog, source, options.source, options.subjects, options.dry_run
    )
    found: list[Outcome] = []
    shown = time.monotonic()
    with closing(workshop.services.heavy):
        for one in outcomes:
            found.append(one)
            if sys.stderr.isatty() and time.monotonic() - shown > SHOWN_EVERY:
                shown = time.monotonic()
                print(f"mobbet: {len(found):,} posts; {one.title[:60]}", file=sys.stderr)
    counts, number = Counter(one.what for one in found), max((one.run for one in found), default=0)
    facts = {
        "run": number, **{what: counts[what] for what in ("new", "there", "refused")}, "comments": counts["comment"],
        "posts": [_facts(one) for one in found if one.what != "comment"],
    }  # fmt: skip
    report(
        options,
        facts,
        "\n".join(
            [*(_line(one) for one in found if one.what != "comment"), _sum(number, counts, options.dry_run)]
        ),
    )
    return 1 if found and counts["refused"] == len(found) else 0


def _folder(options: Namespace) -> int:
    from mobbet import wiring
    from mobbet.actions import blog_imports
    from mobbet.actions.export_sources import open_tree
    from mobbet.cli.export import tell

    if not options.source:
        raise BadInput("Say which export to import, such as: --from folder /srv/my-blog", "source")
    workshop = wiring.open_folder(options.data)
    if options.blog and blog_imports.has_posts(workshop, options.blog):
        return _import(options, *at_work(options))
    tree, slug = open_tree(Path(options.source)), options.blog or ""
    with closing(workshop.services.heavy):
        if options.dry_run:
            found = blog_imports.look_at(workshop, tree, slug, tell)
        else:
            _, found = blog_imports.bring(workshop, None, tree, slug, tell)
    rows = {name: count for name, count in found.rows.items() if count}
    facts = {
        "blog": found.slug, "name": found.name, "rows": rows, "new_people": found.new_people, "known_people": found.known_people, "notes": found.notes,
    }  # fmt: skip
    report(options, facts, "\n".join(_folder_lines(found, options.dry_run)))
    return 0


def _folder_lines(found: Report, is_dry: bool) -> list[str]:
    rows = found.rows
    would = "would come" if is_dry else "came"
    return [
        f"“{found.name}” {would} to {found.slug}: {rows['post']} posts, {rows['media']} files, {rows['category']} categories, {rows['comment']} comments.",
        *[
            f"{one} {'would get' if is_dry else 'has'} an account without a password; “I forgot my password” gives one."
            for one in found.new_people
        ],
        *[f"{one} has an account here, which stays as it is." for one in found.known_people],
        *found.notes,
    ]


def _facts(one: Outcome) -> dict[str, Any]:
    return {
        "key": one.key, "what": one.what, "title": one.title, "id": one.post or None, "date": one.published or None,
        "addresses": list(one.addresses), "notes": list(one.notes),
    }  # fmt: skip


def _line(one: Outcome) -> str:
    post = {"new": f"Post {one.post}" if one.post else "New", "there": "There already"}.get(
        one.what, "Refused"
    )
    return f"{post}: {one.title or one.key} {' '.join(one.notes)}".rstrip()


def _sum(number: int, counts: Counter[str], is_dry: bool) -> str:
    words = (
        f"{counts['new']} {'would come' if is_dry else 'came'}, {counts['there']} were there already, {counts['refused']} did not come."
        + (
            f" {counts['comment']} comments {'would come' if is_dry else 'came'} with them."
            if counts["comment"]
            else ""
        )
    )
    return words if not number else f"{words} mobbet import --undo {number} takes them away again."


def _list(options: Namespace, workshop: Workshop, blog: Blog) -> int:
    from mobbet.core.timing import iso
    from mobbet.store import imports

    rows = [
        {"id": one.id, "source": one.source, "begun": iso(one.begun_at), "undone": iso(one.undone_at) if one.undone_at else None, "posts": posts}
        for one, posts in imports.runs(workshop.db, blog.id)
    ]  # fmt: skip
    lines = [f"{row['id']:>4}  {row['begun']}  {row['posts']} posts of {row['source']}" for row in rows]
    report(options, {"runs": rows}, "\n".join(lines) or "Nothing was imported yet.")
    return 0


def _undo(options: Namespace, workshop: Workshop, person: Person, blog: Blog) -> int:
    from mobbet.actions import importing

    gone, stayed = importing.undo(workshop, person, blog, options.undo)
    words = f"{gone} posts were set aside."
    if stayed:
        words += f" Written on since, and so they stay: {', '.join(stayed[:20])}."
    report(options, {"run": options.undo, "set_aside": gone, "stayed": stayed}, words)
    return 0
