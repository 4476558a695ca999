"""Readers and their groups: who may read what is not for everyone, and how they come in."""

from __future__ import annotations

import hmac
import re
from collections.abc import Iterator
from dataclasses import dataclass

from mobbet.actions import entry
from mobbet.actions import people as people_actions
from mobbet.actions.access import require
from mobbet.actions.pacing import count_try, forget_tries, network
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import sealing
from mobbet.core.audience import GROUP, VISIBILITIES
from mobbet.core.emails import is_email, split_line
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.names import one_line
from mobbet.core.networks import one_client
from mobbet.core.rights import Action
from mobbet.core.values import existing
from mobbet.store import people, placements, readers
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.placements import Placement
from mobbet.store.readers import Group

INVITED_FOR = 14 * 86400
LONGEST_LINES = 200_000
MOST_AT_ONCE = 2000


@dataclass(frozen=True)
class Added:
    """What adding readers came to: how many are new in the group, and how many letters wait to be sent."""

    new: int
    letters: int


def behind_passwords(workshop: Workshop, blog: Blog) -> list[Placement]:
    return placements.behind_passwords(workshop.db, blog.id, workshop.clock())


def open_with(workshop: Workshop, blog: Blog, path: str, password: str, address: str) -> str:
    """The proof that somebody typed the password of the post at a path. Raises TooSoon while slowed down, Refused for a wrong one."""
    row = next((one for one in behind_passwords(workshop, blog) if one.path == path), None)
    whose = f"{blog.id} {row.post_id if row else 0}"
    mine = ("post-network", f"{whose} {one_client(address)}")
    count_try(workshop, ("post", whose), mine, network(address))
    with people_actions.hashing():
        keys = sealing.keys_of(password[: sealing.LONGEST + 1], blog.salt)
    key = next((key for key in keys if row and hmac.compare_digest(row.password_key, key)), None)
    if key is None:
        raise Refused("This is not the password of this post; check it and try again.")
    forget_tries(workshop, mine)
    return sealing.proof_of(key)


def visibilities(workshop: Workshop, blog: Blog) -> dict[str, tuple[str, str]]:
    """{visibility: (its words, how many people that is)} of everything a post of this blog can be for."""
    sizes = readers.sizes(workshop.db, blog.id)
    counts = {
        "everyone": "whoever comes by",
        "signed-in": count_words(readers.count(workshop.db, blog.id)),
        "password": "whoever knows it",
        "only-me": "1 person",
    }
    found = {value: (words, counts[value]) for value, words in VISIBILITIES.items()}
    only_me = found.pop("only-me")
    for group in readers.groups(workshop.db, blog.id):
        found[f"{GROUP}{group.id}"] = (group.name, count_words(sizes.get(group.id, 0)))
    return {**found, "only-me": only_me}


def count_words(count: int) -> str:
    return f"{count} {'person' if count == 1 else 'people'}"


def visibility_words(workshop: Workshop, blog: Blog, visibility: str) -> str:
    """A visibility in words, with how many people that is where one can count them."""
    words, count = visibilities(workshop, blog).get(visibility, ("a group that is no more", "nobody"))
    return words if visibility in ("everyone", "password", "only-me") else f"{words} ({count})"


def is_written_to(workshop: Workshop, visibility: str) -> bool:
    """Whether the readers of a post get a letter when it goes out."""
    group = (
        readers.group(workshop.db, int(visibility.removeprefix(GROUP)))
        if visibility.startswith(GROUP)
        else None
    )
    return group is not None and group.writes_since is not None


def group_by_name(workshop: Workshop, blog: Blog, name: str) -> Group:
    """A group of a blog. Raises NotFound with the names there are."""
    group = readers.group_named(workshop.db, blog.id, one_line(name))
    if group is None:
        names = ", ".join(f"“{one.name}”" for one in readers.groups(workshop.db, blog.id)) or "none yet"
        raise NotFound(f"There is no group “{name}”; there are: {names}.")
    return group


def make_group(workshop: Workshop, person: Person, blog: Blog, name: str) -> Group:
    """A new group. Raises BadInput for a name that is taken or cannot be."""
    require(workshop, person, blog, Action.KEEP_READERS)
    name = read_group_name(name)
    with changing(workshop):
        if readers.group_named(workshop.db, blog.id, name):
            raise BadInput(
                f"There is a group “{existing(readers.group_named(workshop.db, blog.id, name)).name}” already; choose another name.",
                "name",
            )
        return existing(
            readers.group(
                workshop.db, readers.add_group(workshop.db, blog.id, name, entry.secret(), workshop.clock())
            )
        )


def read_group_name(text: str) -> str:
    name = one_line(text)
    if not 0 < len(name) <= 60:
        raise BadInput("A group needs a name of one to 60 letters.", "name")
    if name.lower().replace(" ", "-") in VISIBILITIES:
        raise BadInput(f"“{name}” is a choice of its own; give the group another name.", "name")
    return name


def _group_of(workshop: Workshop, blog: Blog, number: int) -> Group:
    group = readers.group(workshop.db, number)
    if group is None or group.blog_id != blog.id:
        raise NotFound("This group is no more; reload the page.")
    return group


def rename_group(workshop: Workshop, person: Person, blog: Blog, number: int, name: str) -> None:
    require(workshop, person, blog, Action.KEEP_READERS)
    group, name = _group_of(workshop, blog, number), read_group_name(name)
    with changing(workshop):
        other = readers.group_named(workshop.db, blog.id, name)
        if other and other.id != group.id:
            raise BadInput(f"There is a group “{other.name}” already; choose another name.", "name")
        readers.rename_group(workshop.db, group.id, name)


def remove_group(workshop: Workshop, person: Person, blog: Blog, number: int) -> None:
    """Removes a group; its readers stay readers of the blog. Raises Refused while posts are for it."""
    require(workshop, person, blog, Action.KEEP_READERS)
    group = _group_of(workshop, blog, number)
    with changing(workshop):
        titles = readers.posts_for(workshop.db, group.id)
        if titles:
            named = ", ".join(f"“{title}”" for title in titles[:3]) + (
                " and others" if len(titles) > 3 else ""
            )
            raise Refused(
                f"{named} {'is' if len(titles) == 1 else 'are'} for “{group.name}”; choose other readers there first."
            )
        readers.remove_group(workshop.db, group.id)


def set_writes(workshop: Workshop, person: Person, blog: Blog, number: int, is_written_to: bool) -> None:
    """Whether a group gets a letter about each post for it that goes out from now on."""
    require(workshop, person, blog, Action.KEEP_READERS)
    group = _group_of(workshop, blog, number)
    with changing(workshop):
        readers.set_writes(workshop.db, group.id, workshop.clock() if is_written_to else None)


def renew_feed(workshop: Workshop, person: Person, blog: Blog, number: int) -> None:
    """Gives a group's feed another address; the old one answers nobody any more."""
    require(workshop, person, blog, Action.KEEP_READERS)
    group = _group_of(workshop, blog, number)
    with changing(workshop):
        readers.renew_feed(workshop.db, group.id, entry.secret())


def add_readers(workshop: Workshop, person: Person, blog: Blog, number: int | None, lines: str) -> Added:
    """Adds readers, one a line as `Name <address>` or the address alone, to a group; each is invited by mail once.

    Raises BadInput for the first line that cannot be read; then nobody is added.
    """
    require(workshop, person, blog, Action.KEEP_READERS)
    group = _group_of(workshop, blog, number) if number is not None else None
    found = _read_lines(lines)
    new = letters = 0
    with changing(workshop):
        for name, email in found:
            reader = people.by_email(workshop.db, email) or people_actions.add_person(
                workshop, name=name or email.partition("@")[0], email=email, password=None
            )
            is_new = not readers.is_reader(workshop.db, blog.id, reader.id)
            readers.add_reader(
                workshop.db, blog.id, reader.id, name or email.partition("@")[0], workshop.clock()
            )
            is_new_there = readers.put_into(workshop.db, group.id, reader.id) if group else is_new
            new += is_new_there
            if is_new_there:
                invite(workshop, person, blog, reader, group)
                letters += 1
    workshop.on_change()
    return Added(new, letters)


def _read_lines(lines: str) -> list[tuple[str, str]]:
    found = {}
    if len(lines) > LONGEST_LINES:
        raise BadInput(
            f"These are {len(lines):,} letters; add at most {MOST_AT_ONCE:,} readers at once.", "lines"
        )
    for line in _parts(lines):
        if not line.strip():
            continue
        name, email = split_line(line)
        if not is_email(email):
            raise BadInput(
                f"“{line.strip()[:80]}” is no e-mail address; write one a line, like Name <name@example.example>.",
                "lines",
            )
        found[email.lower()] = (name[:80], email)
    if not found:
        raise BadInput("Nobody is named; type at least one e-mail address.", "lines")
    if len(found) > MOST_AT_ONCE:
        raise BadInput(f"These are {len(found):,} addresses; add at most {MOST_AT_ONCE:,} at once.", "lines")
    return list(found.values())


def _parts(lines: str) -> Iterator[str]:
    """The lines; several addresses in one are parted by semicolons, or by commas (a comma may stand in a name)."""
    for line in re.split(r"[\n;]", lines):
        part = ""
        for piece in line.split(","):
            part = f"{part},{piece}" if part else piece
            if "@" in piece:
                yield part
                part = ""
        if part.strip():
            yield part


def invite(workshop: Workshop, person: Person, blog: Blog, reader: Person, group: Group | None) -> None:
    """Writes the letter with the link that signs a reader in."""
    link = entry.entry_link(workshop, blog, reader, "/", INVITED_FOR)
    what = f"the posts for “{group.name}”" if group else "posts that are not for everyone"
    text = (
        f"Hello {readers.name_of(workshop.db, blog.id, reader.id)},\n\n{person.name} invites you to read {what} on {blog.name}.\n\nOpen this link once, in the browser you read with:\n{link}\n\n"
        f"It works for {INVITED_FOR // 86400} days. After that, {blog.home}~/in sends you another one.\n"
        "If you do not know what this is, do nothing: without the link nobody hears from you.\n"
    )
    readers.add_letter(
        workshop.db, blog.id, reader.email, f"{blog.name}: an invitation to read", text, workshop.clock()
    )


def invite_again(workshop: Workshop, person: Person, blog: Blog, person_id: int) -> Person:
    """Sends the letter of an invitation again. Raises NotFound, NotAllowed."""
    require(workshop, person, blog, Action.KEEP_READERS)
    reader = _reader(workshop, blog, person_id)
    with changing(workshop):
        group = next(
            (
                readers.group(workshop.db, number)
                for number in sorted(readers.groups_of(workshop.db, blog.id, reader.id))
            ),
            None,
        )
        invite(workshop, person, blog, reader, group)
    workshop.on_change()
    return reader


def take_out(workshop: Workshop, person: Person, blog: Blog, person_id: int, number: int | None) -> Person:
    """Takes a reader out of a group, or, without one, off the blog's readers."""
    require(workshop, person, blog, Action.KEEP_READERS)
    reader = _reader(workshop, blog, person_id)
    with changing(workshop):
        if number is None:
            readers.remove_reader(workshop.db, blog.id, reader.id)
        else:
            readers.take_out(workshop.db, _group_of(workshop, blog, number).id, reader.id)
    return reader


def _reader(workshop: Workshop, blog: Blog, person_id: int) -> Person:
    if not readers.is_reader(workshop.db, blog.id, person_id):
        raise NotFound("This reader is no more; reload the page.")
    return existing(people.by_id(workshop.db, person_id))
