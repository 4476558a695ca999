"""Addresses of a previous site, and others that people add, which redirect to where something is now."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass
from urllib.parse import unquote

from mobbet.actions.access import owned_blog
from mobbet.actions.addresses import GONE, NOTHING, resolve
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, Refused
from mobbet.core.permalinks import is_own_path, one_form
from mobbet.core.web_addresses import split_address
from mobbet.store import addresses, editions, stale
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

LONGEST = 500
MOST_ROWS = 20_000


def add(workshop: Workshop, person: Person, blog_slug: str, old: str, new: str) -> str:
    """Lets an address of a previous site lead to one of this blog, or elsewhere; answers where it leads now.

    An address of the blog's own is not led away. Raises BadInput with what to do.
    """
    blog = owned_blog(workshop, person, blog_slug)
    with changing(workshop, person, f"the old address {old.strip()[:80]} was added"):
        return _add(workshop, blog, old, new)


def add_for_post(workshop: Workshop, person: Person, blog_slug: str, old: str, post_id: int) -> None:
    """Lets an address of a previous site lead to a post, wherever that moves. Raises BadInput as `add` does."""
    blog = owned_blog(workshop, person, blog_slug)
    with changing(workshop, person):
        _lead(workshop, blog, _free(workshop, blog, old), ("post", post_id, ""))


def _add(workshop: Workshop, blog: Blog, old: str, new: str) -> str:
    path, leads_to = _free(workshop, blog, old), read_new(workshop, blog, new)
    _lead(workshop, blog, path, leads_to)
    return resolve(workshop, blog, path).path or leads_to[2]


def _free(workshop: Workshop, blog: Blog, old: str) -> str:
    """An old address as a path that nothing else has. Raises BadInput."""
    path = read_old(old, blog)
    if "?" not in path and (is_own_path(path) or _is_current(workshop, blog, path)):
        raise BadInput(
            f"“{path}” is a page of this site; only addresses that lead nowhere can lead on.", "old"
        )
    taken = addresses.owner(workshop.db, blog.id, path)
    if taken and not addresses.is_by_hand(workshop.db, blog.id, path):
        raise BadInput(f"“{path}” belongs to something on this blog and leads to it already.", "old")
    return path


def _lead(workshop: Workshop, blog: Blog, path: str, new: tuple[str, int, str]) -> None:
    kind, number, target = new
    if path.partition("?")[0] == target:
        raise BadInput(f"“{path}” would lead to itself; choose another address.", "new")
    addresses.take(workshop.db, blog.id, path, kind, number, 0, target, by_hand=True)
    stale.mark_fact(workshop.db, blog.id, "away", path)
    addresses.forget_asked(workshop.db, blog.id, path)


def _is_current(workshop: Workshop, blog: Blog, path: str) -> bool:
    row = editions.page_at(workshop.db, blog.id, path)
    return row is not None and row.leads_to is None


def read_old(text: str, blog: Blog) -> str:
    """An address of a previous site, as a path below the blog's, with its query. Raises BadInput."""
    typed = text.strip()
    parts = split_address(typed if "://" in typed or typed.startswith("/") else "/" + typed)
    if (
        not typed
        or len(typed) > LONGEST
        or any(letter.isspace() for letter in typed)
        or parts.scheme not in ("", "http", "https")
    ):
        raise BadInput(f"“{typed[:80]}” is no address; write it like /2019/old-post/ or /?p=12.", "old")
    prefix = split_address(blog.home).path.rstrip("/")
    path = parts.path.removeprefix(prefix) if prefix and parts.path.startswith(prefix + "/") else parts.path
    if path in ("", "/") and not parts.query:
        raise BadInput("The front page cannot lead on; name an address below it.", "old")
    return one_form(path or "/") + (f"?{unquote(parts.query).lower()}" if parts.query else "")


def read_new(workshop: Workshop, blog: Blog, text: str) -> tuple[str, int, str]:
    """(kind, number, target) of where an old address is to lead: a post, category or tag of the blog follows wherever it
    moves; anything else is an address. Raises BadInput where nothing stands there.
    """
    typed = text.strip()
    if not typed or len(typed) > LONGEST or any(letter.isspace() for letter in typed):
        raise BadInput(
            f"“{typed[:80]}” is no address to lead to; write it like /lamps/flex/ or https://elsewhere.example/.",
            "new",
        )
    parts = split_address(typed)
    is_mine = typed.startswith(blog.home)
    if parts.scheme and not is_mine:
        if parts.scheme not in ("http", "https") or not parts.hostname:
            raise BadInput(
                f"“{typed}” is no address to lead to; write it like /lamps/flex/ or https://elsewhere.example/.",
                "new",
            )
        return "away", 0, typed
    path = one_form(typed[len(blog.home) - 1 :] if is_mine else typed)
    home = addresses.address_owner(workshop.db, blog.id, path, workshop.clock())
    if home is not None:
        return home.kind, home.number, home.target
    answer = resolve(workshop, blog, path)
    if answer.kind == NOTHING:
        raise BadInput(f"Nothing stands at “{path}” on this site; check the address it is to lead to.", "new")
    if answer.kind == GONE:
        raise BadInput(f"The post at “{path}” is not there any more; choose another address.", "new")
    row = editions.page_at(workshop.db, blog.id, answer.path)
    kind, _, number = row.key.partition("/") if row else ("", "", "")
    return ("post", int(number), "") if kind == "post" else ("away", 0, answer.path)


@dataclass(frozen=True)
class Imported:
    """What a file of old addresses came to: how many lead on now, and (line, reason) of those refused."""

    added: int
    refused: tuple[tuple[int, str], ...]


def bring_in(workshop: Workshop, person: Person, blog_slug: str, source: str) -> Imported:
    """Old addresses from a CSV file: two columns, the old address and where it leads. A first line without addresses is a heading."""
    blog = owned_blog(workshop, person, blog_slug)
    added, refused = 0, []
    with changing(workshop, person, "old addresses were brought in"):
        for line, (old, new) in read_csv(source):
            try:
                _add(workshop, blog, old, new)
                added += 1
            except BadInput as error:
                refused.append((line, str(error)))
    return Imported(added, tuple(refused))


def read_csv(source: str) -> list[tuple[int, tuple[str, str]]]:
    """(line, (old, new)) of each row. Commas, semicolons and tabs divide; raises BadInput for a file without two columns."""
    source = source.removeprefix("\ufeff")
    first = next((line for line in source.splitlines() if line.strip()), "")
    divider = max(",;\t", key=first.count)
    rows = []
    try:
        for at, row in enumerate(csv.reader(io.StringIO(source), delimiter=divider), 1):
            cells = [cell.strip() for cell in row]
            if any(cells):
                rows.append((at, cells))
    except csv.Error as error:
        raise BadInput(
            f"The file cannot be read as CSV ({error}); save it with two columns, old and new.", "file"
        ) from None
    if rows and not any("/" in cell or "?" in cell for cell in rows[0][1]):
        rows = rows[1:]
    if not rows:
        raise BadInput(
            "The file holds no addresses; it needs two columns, the old address and the new one.", "file"
        )
    if len(rows) > MOST_ROWS:
        raise BadInput(f"The file has {len(rows):,} lines; {MOST_ROWS:,} is the most at once.", "file")
    short = next((at for at, cells in rows if len(cells) < 2 or not cells[1]), None)
    if short is not None:
        raise BadInput(
            f"Line {short} has no second column; each line needs the old address and the new one.", "file"
        )
    return [(at, (cells[0], cells[1])) for at, cells in rows]


def remove(workshop: Workshop, person: Person, blog_slug: str, path: str) -> None:
    """Takes away an address that a person added. Raises Refused for one that was public here."""
    blog = owned_blog(workshop, person, blog_slug)
    with changing(workshop, person, f"the old address {path} was taken away"):
        if not addresses.remove_by_hand(workshop.db, blog.id, path):
            raise Refused(
                f"“{path}” was public on this site, so it always leads somewhere; only added addresses can be taken away."
            )
        stale.mark_fact(workshop.db, blog.id, "away", path)
