"""What several commands share: the blog they work on, reading files, reporting."""

from __future__ import annotations

import json
import sys
from argparse import Namespace
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any

from mobbet.core.errors import BadInput, NotFound

if TYPE_CHECKING:
    from mobbet.actions.categories import FilingChange
    from mobbet.actions.workshop import Workshop
    from mobbet.core.places_outside import Credentials
    from mobbet.publish.published import Published
    from mobbet.store.blogs import Blog
    from mobbet.store.people import Person


def report(options: Namespace, facts: dict[str, Any], words: str) -> None:
    """One JSON object on stdout with --json, a sentence without."""
    print(json.dumps(facts, ensure_ascii=False) if options.json else words)


def at_work(options: Namespace) -> tuple[Workshop, Person, Blog]:
    """The workshop, the blog asked for (or the first), and its owner, in whose name commands work."""
    from mobbet import wiring
    from mobbet.actions.blogs import chosen_blogs

    workshop = wiring.open_existing(options.data)
    chosen = chosen_blogs(workshop, options.blog)
    if not chosen:
        raise NotFound(f"There is no blog in {options.data}; make one with mobbet init.")
    return workshop, owner_of(workshop, chosen[0]), chosen[0]


def owner_of(workshop: Workshop, blog: Blog) -> Person:
    from mobbet.store import blogs, people

    return next(
        person
        for person in people.of_blog(workshop.db, blog.id)
        if blogs.role(workshop.db, blog.id, person.id) == "owner"
    )


def post_at_work(options: Namespace) -> tuple[Workshop, Person, Blog]:
    """As `at_work`, but with the blog of the post that `options.id` names."""
    from mobbet import wiring
    from mobbet.store import blogs
    from mobbet.store import posts as post_store

    workshop = wiring.open_existing(options.data)
    post = post_store.by_id(workshop.db, options.id)
    blog = blogs.by_id(workshop.db, post.blog_id) if post else None
    if blog is None or options.blog not in (None, blog.slug):
        raise NotFound(f"There is no post with the number {options.id}; mobbet post list shows them all.")
    return workshop, owner_of(workshop, blog), blog


def password_in(file: Path) -> str:
    """The first line of a file. Raises BadInput where there is none."""
    lines = file.read_text().splitlines()
    if not lines:
        raise BadInput(f"{file} is empty; put the password on its first line.", "password")
    return lines[0]


def credentials_in(file: Path | None) -> Credentials:
    """What a place outside asks for, of a JSON file; nothing without one. Raises BadInput."""
    from mobbet.core.places_outside import Credentials

    if file is None:
        return Credentials()
    try:
        facts = json.loads(file.read_text())
        return Credentials(**{name.replace("-", "_"): str(value) for name, value in facts.items()})
    except (ValueError, TypeError, AttributeError):
        raise BadInput(
            f'{file} cannot be read; write {{"access": "…", "secret": "…"}} for a store, {{"secret": "…", "host-key": "…"}} for a machine.',
            "credentials",
        ) from None


def read_source(name: str) -> str:
    """The text of a file, or of standard input for `-`."""
    return text_in(sys.stdin.buffer.read() if name == "-" else Path(name).read_bytes())


def folder_of(name: str) -> Path | None:
    return None if name == "-" else Path(name).resolve().parent


def text_in(data: bytes) -> str:
    """The text in a file: UTF-8, or what it most likely is without being that."""
    for encoding in ("utf-8-sig", "utf-16" if data[:2] in (b"\xff\xfe", b"\xfe\xff") else "utf-8", "cp1252"):
        try:
            return data.decode(encoding)
        except UnicodeDecodeError:
            continue
    return data.decode("latin-1")


def published(made: Published) -> dict[str, Any]:
    """What a change gave readers, for the output."""
    return {
        "edition": made.edition,
        "written": made.written,
        "removed": made.removed,
        "changed": made.changed._asdict(),
        "seconds": made.seconds,
    }


def change(options: Namespace, change: Callable[[Workshop, Any, Blog], FilingChange]) -> None:
    """Makes a change of the filing, and reports it with what readers got of it."""
    from mobbet.actions.work import changing

    workshop, person, blog = at_work(options)
    with changing(workshop, person) as unit:
        done = change(workshop, person, blog)
    made = published(unit.published(blog))
    words = (
        f"{done.words} Edition {made['edition']}: {made['written']} pages written, {made['removed']} removed."
    )
    report(options, {"done": done.words, "id": done.subject, **made}, words)


def person_by_email(workshop: Workshop, email: str) -> Person:
    from mobbet.store import people

    person = people.by_email(workshop.db, email)
    if person is None:
        raise NotFound(f"There is nobody with the address {email[:80]}; mobbet person list shows them all.")
    return person
