"""`mobbet restore`: makes a data folder of a backup."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace

from mobbet.cli.backup import key_in, open_named, takes_place
from mobbet.cli.options import takes_data, takes_json
from mobbet.cli.shared import owner_of, report

EPILOG = """`--json` prints `{"copy", "files", "posts", "bytes", "sound", "problems", "letters"}`; `letters` is how many were on their way,
which are not sent again, since they may have arrived. With `--post` `{"copy", "post", "title", "is_new"}`."""


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
    command.set_defaults(run=run)


def run(options: Namespace) -> int:
    from mobbet import wiring
    from mobbet.actions import backups, consistency
    from mobbet.core.timing import iso, read_instant
    from mobbet.settings import from_environment

    instant = read_instant(options.at, "UTC", "--at") if options.at else None
    if options.post is not None:
        return _bring_back(options, instant)
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


def _bring_back(options: Namespace, instant: int | None) -> int:
    """The copy is restored beside what is in use, for as long as it is needed."""
    from contextlib import closing

    from mobbet import wiring
    from mobbet.actions import backup_posts, backups
    from mobbet.actions.blogs import chosen_blogs
    from mobbet.core.timing import iso

    workshop = wiring.open_existing(options.data)
    with (
        open_named(options, key_in(options)) as files,
        backups.alone(options.data),
        backups.folder_here(options.data) as folder,
    ):
        data = folder / "data"
        copy = backups.restore(files, instant, data, data / "sealing.key")
        backup = wiring.open_folder(data)
        with closing(backup.db):
            _, blog = backup_posts.find(backup, options.post)
            here = chosen_blogs(workshop, blog.slug)[0]
            post, is_new = backup_posts.bring_back(
                workshop, owner_of(workshop, here), here, backup, options.post
            )
    facts = {"copy": iso(copy.at), "post": post.id, "title": post.title, "is_new": is_new}
    what = "is a draft now" if is_new else "has that text as its newest revision; readers get what they had"
    report(
        options, facts, f"Post {post.id}, “{post.title}”, as it was in the copy of {facts['copy']}, {what}."
    )
    return 0
