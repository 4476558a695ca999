"""`mobbet library`: adds, finds, shows and removes pictures, sound, video and files."""

from __future__ import annotations

import time
from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import Subcommands, takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, report
from mobbet.core.errors import Refused
from mobbet.core.values import existing

if TYPE_CHECKING:
    from mobbet.actions.workshop import Workshop
    from mobbet.store.media import Media

LONGEST_WAIT = 3600


EPILOG = """`add` waits until everything is made of its files and prints `{"items": [{"id", "kind", "name", "width", "height",
"seconds", "copies": [{"path", "use", "width", "height", "format", "bytes"}]}], "refused": [{"file", "reason"}]}`; `path`
is relative to the data folder."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    within = Subcommands(command, "add|list|show|remove")
    within("add", add, "keep files, and wait until everything is made of them").add_argument(
        "files", nargs="+", metavar="FILE"
    )
    within("list", find, "list the items that fit some words").add_argument(
        "words", nargs="*", metavar="WORDS"
    )
    for name, run, help in (("show", show, "tell about one item"), ("remove", remove, "set an item aside")):
        within(name, run, help).add_argument("id", type=int)


def add(options: Namespace) -> int:
    """Keeps files in the library and waits until everything is made of them; 1 when none came."""
    from mobbet.actions import library
    from mobbet.store import media

    workshop, person, blog = at_work(options)
    kept: list[Media] = []
    refused = []
    for name in options.files:
        try:
            kept.append(library.add_file(workshop, person, blog, Path(name)))
        except Refused as error:
            refused.append({"file": name, "reason": str(error)})
        except OSError as error:
            refused.append(
                {
                    "file": name,
                    "reason": f"“{name}” cannot be read ({error.strerror}); check its name and rights.",
                }
            )
    _wait(workshop)
    items = []
    for row in dict.fromkeys(row.id for row in kept):
        now = existing(media.by_id(workshop.db, row))
        if now.state == "failed":
            refused.append({"file": now.name, "reason": now.problem})
            continue
        items.append(_facts(workshop, now))
    lines = [_line(item) for item in items] + [f"Refused: {one['file']}: {one['reason']}" for one in refused]
    report(options, {"items": items, "refused": refused}, "\n".join(lines))
    return 1 if refused and not items else 0


def _wait(workshop: Workshop) -> None:
    """Until no work is left, done here or by the worker of a running server."""
    from mobbet.actions import media_jobs
    from mobbet.store import jobs

    end = time.monotonic() + LONGEST_WAIT
    while jobs.open_count(workshop.db) and time.monotonic() < end:
        with media_jobs.only_worker(workshop) as is_only:
            if is_only:
                media_jobs.work_all(workshop)
                return
        time.sleep(0.1)


def _facts(workshop: Workshop, row: Media) -> dict[str, Any]:
    from mobbet.store import media

    copies = [
        {"path": str(workshop.media.path(file.hash).relative_to(workshop.settings.data)), "use": file.use, "width": file.width, "height": file.height, "format": file.type, "bytes": size}
        for file, size in media.copies(workshop.db, row.id)
    ]  # fmt: skip
    return {
        "id": row.id, "kind": row.kind, "name": row.name, "width": row.width, "height": row.height, "seconds": row.seconds,
        "state": row.state, "bytes": row.bytes, "copies": copies,
    }  # fmt: skip


def _line(item: dict[str, Any]) -> str:
    size = (
        f"{item['width']} × {item['height']}"
        if item["width"]
        else f"{item['seconds']:g} s"
        if item["seconds"]
        else f"{item['bytes']:,} bytes"
    )
    return f"Item {item['id']}: {item['name']}, {item['kind']}, {size}, {len(item['copies'])} files."


def find(options: Namespace) -> None:
    from mobbet.store import media
    from mobbet.store.media import Wanted

    workshop, _, blog = at_work(options)
    rows = media.find(workshop.db, blog.id, Wanted(words=" ".join(options.words)), 10_000)
    counts = media.use_counts(workshop.db, [row.id for row in rows]) if rows else {}
    items = [
        {"id": row.id, "kind": row.kind, "name": row.name, "width": row.width, "height": row.height, "bytes": row.bytes, "alt": row.alt, "labels": list(row.labels), "posts": counts.get(row.id, 0)}
        for row in rows
    ]  # fmt: skip
    report(
        options,
        {"items": items},
        "\n".join(f"{item['id']:>6}  {item['kind']:<8} {item['name']}" for item in items),
    )


def show(options: Namespace) -> None:
    from mobbet.actions.access import readable_item
    from mobbet.core.timing import iso
    from mobbet.store import media

    workshop, person, _ = at_work(options)
    row, _ = readable_item(workshop, person, options.id)
    about = {
        name: getattr(row, name)
        for name in (
            "alt",
            "caption",
            "credit",
            "licence",
            "source",
            "taken",
            "camera",
            "place",
            "transcript",
        )
    }
    facts = {
        **_facts(workshop, row),
        **about,
        "labels": list(row.labels),
        "added": iso(row.added_at),
        "posts": media.posts_showing(workshop.db, row.id, workshop.clock()),
    }
    report(
        options,
        facts,
        "\n".join([_line(facts), *(f"{name}: {value}" for name, value in about.items() if value)]),
    )


def remove(options: Namespace) -> None:
    from mobbet.actions import library

    workshop, person, _ = at_work(options)
    row = library.set_aside(workshop, person, options.id)
    report(
        options,
        {"id": row.id, "state": "set-aside"},
        f"“{row.name}” is set aside; the library can restore it.",
    )
