"""`mobbet backup`: makes a backup while the server works, checks it, and lists the copies of a place."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import takes_data, takes_json
from mobbet.cli.shared import credentials_in, password_in, report
from mobbet.core.errors import BadInput, Refused

if TYPE_CHECKING:
    from mobbet.actions.backups import Opened
    from mobbet.actions.workshop import Workshop

EPILOG = """A place is folder:/srv/backups, s3://bucket/prefix?endpoint=… or sftp://user@host/path. `--json` prints
`{"copy", "files", "posts", "bytes", "sent", "seconds", "removed", "checked", "key"}`, `--list --json`
`{"copies": [{"copy", "files", "posts", "bytes"}]}`, `--due --json` `{"places": [{"address", "copy", "problem"}]}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_place(command, "--to")
    command.add_argument(
        "--encrypt", action="store_true", help="encrypt with a new key, which is printed once"
    )
    command.add_argument(
        "--check", action="store_true", help="restore the copy into an empty place and check it"
    )
    command.add_argument("--list", action="store_true", help="list the copies of the place")
    command.add_argument(
        "--due", action="store_true", help="make those that are due, as set at Site, Backups"
    )
    command.set_defaults(run=run)


def takes_place(command: ArgumentParser, name: str) -> None:
    command.add_argument(
        name, dest="place", metavar="folder:PATH|s3://…|sftp://…", help="where the backups lie"
    )
    command.add_argument(
        "--key-file", type=Path, metavar="F", help="a file with the key of encrypted backups"
    )
    command.add_argument(
        "--credentials-file", type=Path, metavar="F", help="a JSON file with what the place asks for"
    )


def run(options: Namespace) -> int:
    from mobbet import wiring

    workshop = wiring.open_existing(options.data)
    if options.due:
        return _make_due(options, workshop)
    if options.list:
        return _list(options, workshop)
    return _make(options, workshop)


def open_named(options: Namespace, key: bytes | None) -> Opened:
    """The place that `--to` or `--from` names, on behalf of whoever runs this machine. Raises BadInput."""
    from dataclasses import replace

    from mobbet.actions import backups
    from mobbet.core.places_outside import read_place
    from mobbet.settings import from_environment

    if not options.place:
        raise BadInput("Say where the backups lie, such as folder:/srv/backups.", "place")
    place, password = read_place(options.place)
    credentials = credentials_in(options.credentials_file)
    allowed = replace(from_environment(options.data).allowed, machines=(place.host,))
    return backups.open_place(
        place, allowed, replace(credentials, secret=credentials.secret or password), key, options.data
    )


def key_in(options: Namespace) -> bytes | None:
    """The key of the file that `--key-file` names; None without one."""
    from mobbet.core.backups import read_key

    return read_key(password_in(options.key_file)) if options.key_file else None


def _make(options: Namespace, workshop: Workshop) -> int:
    import os

    from mobbet import wiring
    from mobbet.actions import backups
    from mobbet.core.backups import KEY_BYTES, written_key
    from mobbet.core.timing import iso

    if options.encrypt and options.key_file:
        raise BadInput("Give --encrypt for a new key or --key-file for one you have, not both.", "key")
    key = os.urandom(KEY_BYTES) if options.encrypt else key_in(options)
    with open_named(options, key) as files, backups.alone(options.data):
        made = backups.make(workshop, files)
        checked = backups.check(workshop, files, made.copy.at, wiring.open_folder) if options.check else None
        removed = backups.remove_old(workshop, files, None)
    copy = made.copy
    facts: dict[str, Any] = {
        "copy": iso(copy.at), "files": copy.file_count, "posts": copy.posts, "bytes": copy.size, "sent": made.sent, "seconds": made.seconds,
        "removed": len(removed), "checked": {"sound": not checked.problem, "seconds": checked.seconds, "problem": checked.problem or None} if checked else None,
        "key": written_key(key) if options.encrypt and key else None,
    }  # fmt: skip
    words = f"The copy of {facts['copy']} holds {copy.posts} posts and {copy.file_count} files; {made.sent:,} bytes were sent in {made.seconds} s."
    if facts["key"]:
        words += f"\nIts key, which is shown this once; without it nobody reads the backup:\n{facts['key']}"
    if checked and not checked.problem:
        words += f"\nIt was restored in {checked.seconds} s and is sound."
    report(options, facts, words)
    if checked and checked.problem:
        raise Refused(f"The copy cannot be restored: {checked.problem}")
    return 0


def _list(options: Namespace, workshop: Workshop) -> int:
    from mobbet.core.timing import iso

    with open_named(options, key_in(options)) as files:
        copies = [files.copy(instant) for instant in files.copies()]
    rows = [
        {"copy": iso(one.at), "files": one.file_count, "posts": one.posts, "bytes": one.size}
        for one in copies
    ]
    lines = [
        f"{row['copy']}  {row['posts']} posts  {row['files']} files  {row['bytes']:,} bytes" for row in rows
    ]
    report(options, {"copies": rows}, "\n".join(lines) or "There is no copy in this place.")
    return 0


def _make_due(options: Namespace, workshop: Workshop) -> int:
    from mobbet import wiring
    from mobbet.actions import backup_places
    from mobbet.core.places_outside import shown
    from mobbet.core.timing import iso

    rows = []
    for place in backup_places.due(workshop):
        copy = backup_places.run(workshop, place, wiring.open_folder)
        problem = copy.problem if copy else backup_places.place_of(workshop, place.id).problem
        rows.append(
            {
                "address": shown(place.address),
                "copy": iso(copy.at) if copy else None,
                "problem": problem or None,
            }
        )
    words = [f"{row['address']}: {row['problem'] or row['copy']}" for row in rows]
    report(options, {"places": rows}, "\n".join(words) or "No backup is due.")
    return 1 if any(row["problem"] for row in rows) else 0
