"""`mobbet target`: the places outside to which the site is sent."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, credentials_in, report
from mobbet.core.errors import NotFound, Refused
from mobbet.core.values import existing

if TYPE_CHECKING:
    from mobbet.actions.workshop import Workshop
    from mobbet.store.blogs import Blog
    from mobbet.store.people import Person
    from mobbet.store.targets import Target


EPILOG = """`list --json` prints `{"targets": [{"id", "address", "edition", "current", "sent", "checked", "files", "problem"}]}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    command.add_argument(
        "words", nargs="+", metavar="add folder:PATH|s3://…|sftp://… | list | remove N | send [N] | check [N]"
    )
    command.add_argument(
        "--credentials-file",
        type=Path,
        default=None,
        metavar="F",
        help="with add: a JSON file with what the place asks for",
    )
    command.set_defaults(run=run)


def run(options: Namespace) -> int:
    """`add ADDRESS`, `list`, `remove N`, `send [N]`, `check [N]`."""
    from mobbet.actions import targets
    from mobbet.core.places_outside import shown
    from mobbet.store import targets as store

    workshop, person, blog = at_work(options)
    what, *words = options.words
    if what == "add" and len(words) == 1:
        made = targets.add(workshop, person, blog, words[0], credentials_in(options.credentials_file))
        report(
            options,
            _facts(workshop, blog, made),
            f"The site goes to {shown(made.address)} from now on; send it with mobbet target send.",
        )
        return 0
    if what == "list" and not words:
        rows = [_facts(workshop, blog, one) for one in store.of_blog(workshop.db, blog.id)]
        lines = [
            f"{row['id']:>4}  {row['address']}  edition {row['edition']}"
            + (f", {row['problem']}" if row["problem"] else "")
            for row in rows
        ]
        report(options, {"targets": rows}, "\n".join(lines) or "The site is sent nowhere yet.")
        return 0
    if what == "remove" and len(words) == 1 and words[0].isdecimal():
        targets.remove(workshop, person, blog, int(words[0]))
        report(options, {"removed": int(words[0])}, "Nothing is sent there any more; what lies there stays.")
        return 0
    if what in ("send", "check") and len(words) < 2 and all(word.isdecimal() for word in words):
        chosen = (
            [targets.target_of(workshop, blog, int(words[0]))]
            if words
            else store.of_blog(workshop.db, blog.id)
        )
        return (_send if what == "send" else _check)(options, workshop, person, blog, chosen)
    raise NotFound(
        f"“{' '.join(options.words)}” is not understood; write add ADDRESS, list, remove N, send [N] or check [N]."
    )


def _facts(workshop: Workshop, blog: Blog, target: Target) -> dict[str, Any]:
    from mobbet.core.places_outside import shown
    from mobbet.core.timing import iso
    from mobbet.store import editions
    from mobbet.store import targets as store

    return {
        "id": target.id, "address": shown(target.address), "edition": target.edition, "current": editions.current_number(workshop.db, blog.id),
        "sent": iso(target.sent_at) if target.sent_at else None, "checked": iso(target.checked_at) if target.checked_at else None,
        "files": len(store.files(workshop.db, target.id)), "problem": target.problem or None,
    }  # fmt: skip


def _send(options: Namespace, workshop: Workshop, person: Person, blog: Blog, chosen: list[Target]) -> int:
    """Each in turn; one that fails does not hold up the others."""
    from mobbet.actions import targets
    from mobbet.core.places_outside import shown
    from mobbet.store import targets as store

    rows: list[dict[str, Any]] = []
    for target in chosen:
        sent = targets.try_to_send(workshop, blog, target)
        after = existing(store.by_id(workshop.db, target.id))
        problem = "" if sent else after.problem or "another process is sending it just now"
        counts = (
            {"written": sent.written, "removed": sent.removed, "files": sent.files}
            if sent
            else dict.fromkeys(("written", "removed", "files"), 0)
        )
        rows.append(
            {
                "id": target.id,
                "address": shown(target.address),
                "edition": after.edition,
                **counts,
                "problem": problem or None,
            }
        )
    report(
        options,
        {"targets": rows},
        "\n".join(
            f"{row['address']}: {row['written']} files sent, {row['removed']} removed"
            for row in rows
            if not row["problem"]
        ),
    )
    failed = [row for row in rows if row["problem"]]
    if failed:
        raise Refused(f"{failed[0]['address']}: {failed[0]['problem']}")
    return 0


def _check(options: Namespace, workshop: Workshop, person: Person, blog: Blog, chosen: list[Target]) -> int:
    from mobbet.actions import targets
    from mobbet.core.places_outside import shown

    rows: list[dict[str, Any]] = []
    for target in chosen:
        found = targets.check(workshop, person, blog, target)
        rows.append(
            {
                "id": target.id,
                "address": shown(target.address),
                "files": found.files,
                "missing": found.missing,
                "altered": found.altered,
                "left": found.left,
                "strange": found.strange,
            }
        )
    is_sound = not any(row["missing"] or row["altered"] or row["left"] for row in rows)
    report(
        options,
        {"sound": is_sound, "targets": rows},
        "\n".join(
            f"{row['address']}: {row['files']} files, {len(row['missing'])} missing, {len(row['altered'])} altered, {len(row['left'])} left over, {len(row['strange'])} not ours"
            for row in rows
        ),
    )
    return 0 if is_sound else 1
