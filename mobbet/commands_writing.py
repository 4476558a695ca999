"""The commands that bring texts in and look back at them."""

from __future__ import annotations

import sys
from argparse import Namespace
from pathlib import Path

from mobbet.actions import bringing, revisions
from mobbet.actions.workshop import Workshop
from mobbet.commands import at_work, post_at_work, report
from mobbet.core.document.difference import as_text
from mobbet.core.errors import BadInput
from mobbet.core.timing import iso
from mobbet.store.people import Person

USAGE = "write: revisions ID, or revisions compare ID A B, or revisions restore ID A, or revisions name ID A NAME"


def bring_in(options: Namespace) -> int:
    """Makes a draft of every file; 1 when none came."""
    workshop, person, blog = at_work(options)
    results: list[bringing.Brought | bringing.NotBrought] = []
    for at, name in enumerate(options.files, 1):
        if sys.stderr.isatty():
            print(f"mobbet: {at} of {len(options.files)}: {name}", file=sys.stderr)
        path = Path(name)
        try:
            data = path.read_bytes()
        except OSError as error:
            results.append(bringing.NotBrought(name, f"“{name}” cannot be read ({error.strerror}); check its name and rights."))
            continue
        results += bringing.bring_in(workshop, person, blog.slug, path.name, data, _beside(path.parent))
    facts = bringing.report(results)
    lines = [f"Post {post['id']}: {post['title']} ({post['words']} words, {post['pictures']} pictures). {' '.join(post['notes'])}".rstrip() for post in facts["posts"]]
    lines += [f"Refused: {one['file']}: {one['reason']}" for one in facts["refused"]]
    report(options, facts, "\n".join(lines))
    return 1 if facts["refused"] and not facts["posts"] else 0


def _beside(folder: Path) -> bringing.Beside:
    """The files in the text's own folder, or below it."""

    def read(src: str) -> bytes | None:
        file = (folder / src).resolve()
        return file.read_bytes() if file.is_relative_to(folder.resolve()) and file.is_file() else None

    return read


def look_back(options: Namespace) -> None:
    """Lists the revisions of a post, compares two, names one, or puts one back."""
    what, *rest = options.words if not options.words[0].isdecimal() else ["list", *options.words]
    wanted = {"list": 1, "compare": 3, "restore": 2, "name": 3}.get(what)
    if wanted is None or len(rest) < wanted or (what != "name" and len(rest) > wanted) or not all(word.isdecimal() for word in rest[: min(wanted, 3 if what == "compare" else 2)]):
        raise BadInput(f"“{' '.join(options.words)}” asks for nothing Mobbet knows; {USAGE}.", "words")
    options.id, options.blog = int(rest[0]), None
    workshop, person, _ = post_at_work(options)
    _ASKED[what](options, workshop, person, options.id, rest[1:])


def _list(options: Namespace, workshop: Workshop, person: Person, post_id: int, rest: list[str]) -> None:
    found = [
        {
            "revision": past.row.number, "person": past.row.person, "saved": iso(past.row.saved_at), "words": past.row.words,
            "added": past.added, "removed": past.removed, "name": past.row.name or None, "placed": past.row.is_placed,
        }
        for past in revisions.history(workshop, person, post_id)
    ]  # fmt: skip
    lines = [f"{row['revision']:>5}  {row['saved']}  {row['person']:<20} +{row['added']} -{row['removed']}  {row['name'] or ''}{' (placed)' if row['placed'] else ''}" for row in found]
    report(options, {"id": post_id, "revisions": found}, "\n".join(line.rstrip() for line in lines))


def _compare(options: Namespace, workshop: Workshop, person: Person, post_id: int, rest: list[str]) -> None:
    compared = revisions.compare(workshop, person, post_id, int(rest[0]), int(rest[1]))
    text = as_text(compared.difference)
    facts = {"id": post_id, "from": int(rest[0]), "to": int(rest[1]), "added": compared.difference.added, "removed": compared.difference.removed, "text": text}
    report(options, facts, text.rstrip("\n"))


def _restore(options: Namespace, workshop: Workshop, person: Person, post_id: int, rest: list[str]) -> None:
    number = revisions.restore(workshop, person, post_id, int(rest[0]))
    report(options, {"id": post_id, "restored": int(rest[0]), "revision": number}, f"Revision {rest[0]} is put back as revision {number}.")


def _name(options: Namespace, workshop: Workshop, person: Person, post_id: int, rest: list[str]) -> None:
    words = " ".join(rest[1:])
    revisions.name(workshop, person, post_id, int(rest[0]), words)
    report(options, {"id": post_id, "revision": int(rest[0]), "name": words}, f"Revision {rest[0]} is named “{words}”.")


_ASKED = {"list": _list, "compare": _compare, "restore": _restore, "name": _name}
