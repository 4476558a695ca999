"""`mobbet revisions`: lists, compares, names and puts back the revisions of a post."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from typing import TYPE_CHECKING

from mobbet.cli.options import takes_data, takes_json
from mobbet.cli.shared import post_at_work, report
from mobbet.core.errors import BadInput

if TYPE_CHECKING:
    from mobbet.actions.workshop import Workshop
    from mobbet.store.people import Person

USAGE = (
    "write: revisions ID, or revisions compare ID A B, or revisions restore ID A, or revisions name ID A NAME"
)


EPILOG = """`--json` prints `{"id", "revisions": [{"revision", "person", "saved", "words", "added", "removed", "name", "placed"}]}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    command.add_argument("words", nargs="+", metavar="ID | compare ID A B | restore ID A | name ID A NAME")
    command.set_defaults(run=run)


def run(options: Namespace) -> None:
    """Lists the revisions of a post, compares two, names one, or puts one back."""
    what, *rest = options.words if not options.words[0].isdecimal() else ["list", *options.words]
    wanted = {"list": 1, "compare": 3, "restore": 2, "name": 3}.get(what)
    if (
        wanted is None
        or len(rest) < wanted
        or (what != "name" and len(rest) > wanted)
        or not all(word.isdecimal() for word in rest[: min(wanted, 3 if what == "compare" else 2)])
    ):
        raise BadInput(f"“{' '.join(options.words)}” asks for nothing Mobbet knows; {USAGE}.", "words")
    options.id, options.blog = int(rest[0]), None
    workshop, person, _ = post_at_work(options)
    _ASKED[what](options, workshop, person, options.id, rest[1:])


def _list(options: Namespace, workshop: Workshop, person: Person, post_id: int, rest: list[str]) -> None:
    from mobbet.actions import revisions
    from mobbet.core.timing import iso

    found = [
        {
            "revision": past.row.number, "person": past.row.person, "saved": iso(past.row.saved_at), "words": past.row.words,
            "added": past.added, "removed": past.removed, "name": past.row.name or None, "placed": past.row.is_placed,
        }
        for past in revisions.history(workshop, person, post_id)
    ]  # fmt: skip
    lines = [
        f"{row['revision']:>5}  {row['saved']}  {row['person']:<20} +{row['added']} -{row['removed']}  {row['name'] or ''}{' (placed)' if row['placed'] else ''}"
        for row in found
    ]
    report(options, {"id": post_id, "revisions": found}, "\n".join(line.rstrip() for line in lines))


def _compare(options: Namespace, workshop: Workshop, person: Person, post_id: int, rest: list[str]) -> None:
    from mobbet.actions import revisions
    from mobbet.core.document.difference import as_text

    compared = revisions.compare(workshop, person, post_id, int(rest[0]), int(rest[1]))
    text = as_text(compared.difference)
    facts = {
        "id": post_id,
        "from": int(rest[0]),
        "to": int(rest[1]),
        "added": compared.difference.added,
        "removed": compared.difference.removed,
        "text": text,
    }
    report(options, facts, text.rstrip("\n"))


def _restore(options: Namespace, workshop: Workshop, person: Person, post_id: int, rest: list[str]) -> None:
    from mobbet.actions import revisions

    number = revisions.restore(workshop, person, post_id, int(rest[0]))
    report(
        options,
        {"id": post_id, "restored": int(rest[0]), "revision": number},
        f"Revision {rest[0]} is put back as revision {number}.",
    )


def _name(options: Namespace, workshop: Workshop, person: Person, post_id: int, rest: list[str]) -> None:
    from mobbet.actions import revisions

    words = " ".join(rest[1:])
    revisions.name(workshop, person, post_id, int(rest[0]), words)
    report(
        options,
        {"id": post_id, "revision": int(rest[0]), "name": words},
        f"Revision {rest[0]} is named “{words}”.",
    )


_ASKED = {"list": _list, "compare": _compare, "restore": _restore, "name": _name}
