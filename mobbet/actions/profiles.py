"""How readers see those who write: what somebody says of themselves, and, for contributors, the word of an editor before readers get it."""

from __future__ import annotations

import json
from dataclasses import dataclass

from mobbet.actions.access import blog_for
from mobbet.actions.people import read_name
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.names import one_line
from mobbet.core.rights import Action, Role
from mobbet.core.tokens import token_digest
from mobbet.core.values import existing
from mobbet.core.web_addresses import read_web_address
from mobbet.store import blogs, media, people, profiles, stale
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.profiles import Profile

LONGEST_LINE, LONGEST_PROFILE, MOST_LINKS = 160, 2000, 8


def set_profile(
    workshop: Workshop,
    person: Person,
    *,
    name: str,
    line: str,
    text: str,
    links: str,
    pictures: dict[str, int | None],
) -> None:
    """How readers see somebody: the name, a line, a text in paragraphs, web addresses one a line; and the picture on each of their blogs, by slug.
    Raises BadInput."""
    name, line, text = (
        read_name(name, "Your name", "name"),
        one_line(line),
        text.replace("\r\n", "\n").strip(),
    )
    if len(line) > LONGEST_LINE:
        raise BadInput(f"The line about you has {len(line)} letters; {LONGEST_LINE} is the most.", "line")
    if len(text) > LONGEST_PROFILE:
        raise BadInput(
            f"The text about you has {len(text):,} letters; {LONGEST_PROFILE:,} is the most.", "text"
        )
    found = [_read_link(one) for one in links.split()]
    if len(found) > MOST_LINKS:
        raise BadInput(f"These are {len(found)} addresses; {MOST_LINKS} is the most.", "links")
    with changing(workshop, person, f"the profile of {person.name} changed"):
        people.set_profile(workshop.db, person.id, name, line, text, json.dumps(found))
        for blog in blogs.of_person(workshop.db, person.id):
            if blog.slug in pictures:
                _set_picture(workshop, blog, person, pictures[blog.slug])
            stale.mark_fact(workshop.db, blog.id, "author", person.id)
        stale.mark_posts_of(workshop.db, person.id, workshop.clock())


def _read_link(text: str) -> str:
    try:
        return read_web_address(text)
    except BadInput as error:
        raise BadInput(str(error), "links") from None


def _set_picture(workshop: Workshop, blog: Blog, person: Person, item: int | None) -> None:
    row = media.on_blog(workshop.db, blog.id, item) if item is not None else None
    if item is not None and (row is None or row.kind != "picture" or row.aside_at):
        raise BadInput(f"That is no picture of the library of “{blog.name}”; choose another one.", "picture")
    for one in {people.picture(workshop.db, blog.id, person.id), item} - {None}:
        stale.mark_fact(workshop.db, blog.id, "media", one or 0)
    people.set_picture(workshop.db, blog.id, person.id, item)


def set_web_address(workshop: Workshop, person: Person, text: str) -> None:
    """Where a person stands on the web, which search engines are told with each of their posts; '' for nowhere. Raises BadInput."""
    address = read_web_address(text)
    with changing(workshop, person, f"the web address of {person.name} changed"):
        people.set_web_address(workshop.db, person.id, address)
        stale.mark_posts_of(workshop.db, person.id, workshop.clock())


def set_member(workshop: Workshop, blog: Blog, person_id: int, role: str, now: int = 0) -> None:
    """Gives a person a role on a blog, or another one: with the role it changes whose word their profile needs. In a unit of work."""
    blogs.add_member(workshop.db, blog.id, person_id, role, now)
    _mark(workshop, blog, person_id)


def _mark(workshop: Workshop, blog: Blog, person_id: int) -> None:
    stale.mark_fact(workshop.db, blog.id, "author", person_id)
    for item in profiles.pictures(workshop.db, blog.id):
        stale.mark_fact(workshop.db, blog.id, "media", item)
    stale.mark_posts_of(workshop.db, person_id, workshop.clock())


@dataclass(frozen=True)
class Waiting:
    """A contributor's profile that readers do not get yet: as it is shown, and as they have it now; `sign` is known by what was looked at."""

    person: Person
    shown: Profile
    now: Profile
    sign: str


def waiting(workshop: Workshop, person: Person, slug: str) -> tuple[Blog, list[Waiting]]:
    """The profiles of contributors that wait for an editor's word. Raises NotFound, NotAllowed."""
    blog = blog_for(workshop, person, slug, Action.ANY_AUTHOR)
    return blog, waiting_on(workshop, blog)


def waiting_on(workshop: Workshop, blog: Blog) -> list[Waiting]:
    found = []
    for number in profiles.contributors(workshop.db, blog.id):
        shown, now = (
            profiles.fixed(workshop.db, blog.id, number),
            profiles.own(workshop.db, blog.id, number),
        )
        if shown and now and shown != now:
            found.append(
                Waiting(existing(people.by_id(workshop.db, number)), shown, now, token_digest(repr(now))[:16])
            )
    return found


def is_waiting(workshop: Workshop, blog: Blog, person: Person) -> bool:
    """Whether readers of a blog do not get this person's profile as it is now."""
    return blogs.role(workshop.db, blog.id, person.id) == Role.CONTRIBUTOR and profiles.fixed(
        workshop.db, blog.id, person.id
    ) != profiles.own(workshop.db, blog.id, person.id)


def let_stand(workshop: Workshop, person: Person, slug: str, person_id: int, sign: str) -> None:
    """Has readers get a contributor's profile as the editor looked at it. Raises NotFound, NotAllowed, and Refused where it changed meanwhile."""
    blog, found = waiting(workshop, person, slug)
    with changing(workshop, person, "a profile was let stand"):
        one = next((one for one in waiting_on(workshop, blog) if one.person.id == person_id), None)
        if one is None:
            raise NotFound("This profile waits no more; look at the list again.")
        if one.sign != sign:
            raise Refused(f"{one.person.name} has changed the profile meanwhile; look at it once more.")
        profiles.let_stand(workshop.db, blog.id, person_id)
        _mark(workshop, blog, person_id)
        note(workshop, person, "profile", blog.id, one.person.name)
