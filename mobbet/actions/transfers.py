"""Exports and imports asked for on the screen: a process of its own works through them, says how far it is, and can be stopped."""

from __future__ import annotations

import shutil
from pathlib import Path
from typing import BinaryIO

from mobbet.actions import importing
from mobbet.actions.access import owned_blog
from mobbet.actions.import_sources import KINDS
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, NotFound, Refused, TooSoon
from mobbet.core.importing.fields import FIELDS, field_name
from mobbet.store import transfers
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.transfers import FAILED, GOES, LOOKED, STOPPED, WAITS, Transfer

EXPORTS_A_DAY, KEPT_SECONDS = 12, 2 * 86400
EXPORT, IMPORT = "export", "import"


def folder_of(workshop: Workshop, number: int) -> Path:
    """Where the files of a transfer lie."""
    return workshop.settings.data / "transfers" / str(number)


def archive_of(workshop: Workshop, one: Transfer) -> Path:
    return folder_of(workshop, one.id) / "blog.zip"


def ask_export(workshop: Workshop, person: Person, slug: str, choices: frozenset[str]) -> int:
    """Has the blog exported. Raises Refused while another export goes on, TooSoon after too many in a day."""
    blog = owned_blog(workshop, person, slug)
    with changing(workshop, person):
        _one_at_a_time(workshop, blog, EXPORT)
        if transfers.count_since(workshop.db, blog.id, EXPORT, workshop.clock() - 86400) >= EXPORTS_A_DAY:
            raise TooSoon(
                f"The blog was exported {EXPORTS_A_DAY} times within a day; take one of those, or wait until tomorrow.",
                86400,
            )
        return transfers.add(
            workshop.db,
            blog.id,
            person.id,
            EXPORT,
            blog.name,
            {"choices": sorted(choices)},
            False,
            workshop.clock(),
        )


def _one_at_a_time(workshop: Workshop, blog: Blog, kind: str) -> None:
    if any(one.is_open and one.kind == kind for one in transfers.of_blog(workshop.db, blog.id, 50)):
        raise Refused(f"An {kind} of this blog is going on; wait until it has ended, or stop it.")


def ask_import(
    workshop: Workshop,
    person: Person,
    slug: str,
    kind: str,
    address: str,
    name: str,
    file: BinaryIO | None,
    subjects: str,
) -> int:
    """Has a source looked at: an address, or a file that was brought. Nothing is imported until somebody says so. Raises BadInput, Refused."""
    blog = owned_blog(workshop, person, slug)
    if kind not in KINDS:
        raise BadInput("Choose what you bring: a feed, pages, Markdown files or a table.", "kind")
    if subjects not in importing.SUBJECTS:
        raise BadInput("Choose what subjects become: categories or tags.", "subjects")
    address = address.strip()
    if (file is None) == (not address):
        raise BadInput("Choose a file, or type an address; one of the two.", "file")
    if address and not address.startswith(("http://", "https://")):
        raise BadInput(
            f"“{address[:80]}” is no address of a site; write it whole, like https://old.example/feed.xml.",
            "address",
        )
    if address and kind in ("markdown", "csv", "opml"):
        raise BadInput("Markdown files, tables and lists are brought as a file; choose one.", "file")
    settings = {"kind": kind, "address": address, "name": name, "subjects": subjects, "names": {}}
    with changing(workshop, person):
        _one_at_a_time(workshop, blog, IMPORT)
        number = transfers.add(
            workshop.db, blog.id, person.id, IMPORT, address or name, settings, True, workshop.clock()
        )
        if file is not None:
            folder = folder_of(workshop, number)
            folder.mkdir(parents=True, mode=0o700)
            with (folder / "brought").open("wb") as out:
                shutil.copyfileobj(file, out, 1 << 20)
    return number


def of_owner(workshop: Workshop, person: Person, slug: str, number: int) -> Transfer:
    """A transfer of one's blog. Raises NotFound, NotAllowed."""
    blog = owned_blog(workshop, person, slug)
    found = transfers.by_id(workshop.db, number)
    if found is None or found.blog_id != blog.id:
        raise NotFound("There is no such export or import of this blog.")
    return found


def go_on(workshop: Workshop, person: Person, slug: str, number: int, names: dict[str, str]) -> None:
    """Imports what was looked at, or goes on with what was stopped; looks again where `names` says of other fields what they are. Raises Refused."""
    one = of_owner(workshop, person, slug, number)
    if one.kind != IMPORT or one.state not in (LOOKED, STOPPED, FAILED):
        raise Refused("This import has ended, or goes on; begin another one.")
    wrong = {what for what in names.values() if what and what not in FIELDS}
    if wrong:
        raise BadInput(f"“{min(wrong)[:40]}” is nothing that a field can be.", "names")
    chosen = {field_name(name): what for name, what in names.items() if what}
    is_other = chosen != one.settings.get("names", {})
    with changing(workshop, person):
        transfers.settle(
            workshop.db,
            one.id,
            state=WAITS,
            is_dry=int(is_other),
            stops=0,
            done=0,
            problem="",
            ended_at=None,
            settings={**one.settings, "names": chosen},
        )


def stop(workshop: Workshop, person: Person, slug: str, number: int) -> None:
    """Stops a transfer; an import keeps what came, and can go on."""
    one = of_owner(workshop, person, slug, number)
    with changing(workshop, person):
        if one.state == WAITS:
            transfers.settle(workshop.db, one.id, state=STOPPED, ended_at=workshop.clock())
        elif one.state == GOES:
            transfers.settle(workshop.db, one.id, stops=1)


def undo(workshop: Workshop, person: Person, slug: str, number: int) -> tuple[int, list[str]]:
    """Takes away what an import brought; how many posts, and the titles of those that stay. Raises Refused."""
    one = of_owner(workshop, person, slug, number)
    run = one.report.get("run")
    if one.is_open or not run:
        raise Refused("This import brought nothing, or goes on.")
    blog = owned_blog(workshop, person, slug)
    with changing(workshop, person):
        found = importing.undo(workshop, person, blog, run)
        transfers.settle(workshop.db, one.id, report={**one.report, "undone": True})
    return found
