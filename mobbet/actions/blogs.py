"""Blogs: making one, who works on it, and what of it concerns readers and places outside."""

from __future__ import annotations

import secrets

from mobbet.actions import people as people_actions
from mobbet.actions.access import owned_blog
from mobbet.actions.people import read_name
from mobbet.actions.profiles import set_member
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.addresses import read_blog_slug
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.house import read_home, read_tagline
from mobbet.core.languages import read_language
from mobbet.core.look.begun import FIRST, read_begun
from mobbet.core.rights import NO_ROLE, STAFF
from mobbet.core.timing import zone as read_zone
from mobbet.store import blogs, people, targets
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

ROLES = tuple(map(str, STAFF))


def set_up(
    workshop: Workshop, *, name: str, email: str, password: str, blog: str, address: str, zone: str, home: str, tagline: str = "", language: str = "",
) -> tuple[Person, Blog]:  # fmt: skip
    """The first person and their first blog, in an empty data folder. Raises Refused when it is not empty."""
    for read, value in ((read_blog_slug, address), (read_zone, zone)):
        read(value)
    read_name(blog, "The blog's name", "blog")
    if people.is_any(workshop.db):
        raise Refused("This data folder has its first blog already; sign in instead.")
    with changing(workshop, why="the blog began"):
        if people.is_any(workshop.db):
            raise Refused("This data folder has its first blog already; sign in instead.")
        people_actions.read_password(password, name, email, blog)
        person = people_actions.add_person(workshop, name=name, email=email, password=password)
        return person, make_blog(
            workshop,
            person,
            name=blog,
            address=address,
            zone=zone,
            home=home,
            tagline=tagline,
            language=language,
        )


def make_blog(
    workshop: Workshop,
    owner: Person,
    *,
    name: str,
    address: str,
    zone: str,
    home: str,
    tagline: str = "",
    look: str = FIRST,
    language: str = "",
) -> Blog:
    """A blog of this owner. `home` is the public address of its front page. Raises BadInput, Refused."""
    name, slug = read_name(name, "The blog's name", "blog"), read_blog_slug(address)
    read_zone(zone)
    tagline, language = read_tagline(tagline), read_language(language) or "en"
    with changing(workshop, owner, "the blog began") as unit:
        if blogs.by_slug_of_any(workshop.db, slug):
            raise Refused(f"The address “{slug}” belongs to another blog; choose a different one.")
        blog = blogs.add(
            workshop.db,
            slug=slug,
            name=name,
            tagline=tagline,
            zone=zone,
            home=read_home(home),
            design=read_begun(look),
            made_at=workshop.clock(),
            salt=secrets.token_hex(16),
        )
        blogs.settle(workshop.db, blog.id, language=language)
        blogs.add_member(workshop.db, blog.id, owner.id, "owner", workshop.clock())
        unit.must_publish(blog.id)
    return blog


def add_member(workshop: Workshop, blog: Blog, person: Person, role: str) -> None:
    if role not in ROLES:
        raise BadInput(f"“{role}” is no role; choose {', '.join(ROLES)}.", "role")
    with changing(workshop, person):
        set_member(workshop, blog, person.id, role, workshop.clock())
        note(workshop, None, "role", blog.id, person.name, role)


def set_role(workshop: Workshop, blog: Blog, person: Person, role: str) -> None:
    """Gives somebody who works on a blog another role, or none. Raises BadInput, and Refused where nobody would own the blog any more."""
    if role not in (*ROLES, NO_ROLE):
        raise BadInput(f"“{role}” is no role; choose {', '.join((*ROLES, NO_ROLE))}.", "role")
    with changing(workshop, person):
        owners = [
            one.id
            for one in people.of_blog(workshop.db, blog.id)
            if blogs.role(workshop.db, blog.id, one.id) == "owner"
        ]
        if owners == [person.id] and role != "owner":
            raise Refused(f"{person.name} is the only owner of “{blog.name}”; give it another owner first.")
        if blogs.role(workshop.db, blog.id, person.id) is None:
            raise Refused(f"{person.name} does not work on “{blog.name}”; add them first.")
        if role == NO_ROLE:
            blogs.remove_member(workshop.db, blog.id, person.id)
            note(workshop, None, "taken-out", blog.id, person.name)
        else:
            set_member(workshop, blog, person.id, role)
            note(workshop, None, "role", blog.id, person.name, role)


def set_open_entry(workshop: Workshop, person: Person, slug: str, is_open: bool) -> None:
    """Lets anyone with an e-mail address sign in to read, or only those who were invited. Only the owner may."""
    blog = owned_blog(workshop, person, slug)
    with changing(workshop, person):
        blogs.settle(workshop.db, blog.id, open_entry=int(is_open))


def set_seals(workshop: Workshop, person: Person, slug: str, seals: bool) -> None:
    """Whether posts behind a password go to places outside, sealed, or not at all. Only the owner may."""
    blog = owned_blog(workshop, person, slug)
    with changing(workshop, person):
        blogs.settle(workshop.db, blog.id, seals=int(seals))
        for target in targets.of_blog(workshop.db, blog.id):
            targets.set_behind(workshop.db, target.id)


def chosen_blogs(workshop: Workshop, slug: str | None) -> list[Blog]:
    """The blog with that address, or all of them. Raises NotFound."""
    if slug is None:
        return blogs.every(workshop.db)
    blog = blogs.by_slug(workshop.db, slug)
    if blog is None:
        names = ", ".join(blog.slug for blog in blogs.every(workshop.db)) or "none yet"
        raise NotFound(f"There is no blog “{slug}”; there are: {names}.")
    return [blog]
