"""`mobbet restore`: makes a data folder of a backup."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

from mobbet.cli.backup import key_in, open_named, takes_place
from mobbet.cli.options import takes_data, takes_json
from mobbet.cli.shared import owner_of, report

if TYPE_CHECKING:
    from mobbet.actions.workshop import Workshop
    from mobbet.core.backups import Copy

EPILOG = """`--json` prints `{"copy", "files", "posts", "bytes", "sound", "problems", "letters"}`; `letters` is how many were on their way,
which are not sent again, since they may have arrived. With `--post` `{"copy", "post", "title", "is_new"}`, with
`--blog` `{"copy", "blog", "posts"}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_place(command, "--from")
    command.add_argument(
        "--at",
        metavar="TIME",
        help="the newest copy until then, such as 2026-12-01T09:00Z; without it the newest of all",
    )
    command.add_argument(
        "--post", type=int, metavar="N", help="bring this one post back into the data folder as it is in use"
    )
    command.add_argument(
        "--blog", metavar="SLUG", help="bring this one blog back into the data folder as it is in use"
    )
    command.add_argument(
        "--as",
        dest="new",
        default="",
        metavar="SLUG",
        help="the address that it gets, where its own is taken",
    )
    command.set_defaults(run=run)


def run(options: Namespace) -> int:
    from mobbet import wiring
    from mobbet.actions import backups, consistency
    from mobbet.core.timing import iso, read_instant
    from mobbet.settings import from_environment

    instant = read_instant(options.at, "UTC", "--at") if options.at else None
    if options.post is not None:
        return _bring_back(options, instant)
    if options.blog is not None:
        return _bring_blog_back(options, instant)
    with open_named(options, key_in(options)) as files:
        copy = backups.restore(files, instant, options.data, from_environment(options.data).sealing_key)
    workshop = wiring.open_existing(options.data)
    letters = backups.after_restoring(workshop)
    problems = consistency.problems(workshop)
    facts = {
        "copy": iso(copy.at), "files": copy.file_count, "posts": copy.posts, "bytes": copy.size,
        "sound": not problems, "problems": problems, "letters": letters,
    }  # fmt: skip
    words = (
        f"{options.data} holds the copy of {facts['copy']}: {copy.posts} posts and {copy.file_count} files."
    )
    report(options, facts, "\n".join([words, *(problems or ["All is sound."])]))
    return 1 if problems else 0


@contextmanager
def _opened(options: Namespace, instant: int | None) -> Iterator[tuple[Copy, Workshop, Path]]:
    """(the copy, its folder in use, a place beside it) for as long as it is needed."""
    from mobbet import wiring
    from mobbet.actions import backups

    with (
        open_named(options, key_in(options)) as files,
        backups.alone(options.data),
        backups.folder_here(options.data) as folder,
    ):
        data = folder / "data"
        copy = backups.restore(files, instant, data, data / "sealing.key")
        backup = wiring.open_folder(data)
        with closing(backup.db):
            yield copy, backup, folder


def _bring_blog_back(options: Namespace, instant: int | None) -> int:
    """Through an export of the copy, which is imported."""
    from mobbet import wiring
    from mobbet.actions import blog_imports, exporting
    from mobbet.actions.blogs import chosen_blogs
    from mobbet.actions.export_sinks import FolderSink
    from mobbet.actions.export_sources import open_tree
    from mobbet.core.timing import iso

    workshop = wiring.open_existing(options.data)
    with _opened(options, instant) as (copy, backup, folder), closing(workshop.services.heavy):
        blog = chosen_blogs(backup, options.blog)[0]
        exporting.export(
            backup, None, blog, FolderSink(folder / "blog"), exporting.read_choices("everything")
        )
        found, report_of = blog_imports.bring(workshop, None, open_tree(folder / "blog"), options.new)
    facts = {"copy": iso(copy.at), "blog": found.slug, "posts": report_of.rows["post"]}
    report(
        options,
        facts,
        f"“{found.name}” is at {found.slug}, as it was in the copy of {facts['copy']}: {facts['posts']} posts.",
    )
    return 0


def _bring_back(options: Namespace, instant: int | None) -> int:
    from mobbet import wiring
    from mobbet.actions import backup_posts
    from mobbet.actions.blogs import chosen_blogs
    from mobbet.core.timing import iso

    workshop = wiring.open_existing(options.data)
    with _opened(options, instant) as (copy, backup, _):
        _, blog = backup_posts.find(backup, options.post)
        here = chosen_blogs(workshop, blog.slug)[0]
        post, is_new = backup_posts.bring_back(workshop, owner_of(workshop, here), here, backup, options.post)
    facts = {"copy": iso(copy.at), "post": post.id, "title": post.title, "is_new": is_new}
    what = "is a draft now" if is_new else "has that text as its newest revision; readers get what they had"
    report(
        options, facts, f"Post {post.id}, “{post.title}”, as it was in the copy of {facts['copy']}, {what}."
    )
    return 0
