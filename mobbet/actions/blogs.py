"""Blogs: making one, and changing its name, address, times and house style."""

from __future__ import annotations

import json
import secrets

from mobbet.actions import people as people_actions
from mobbet.actions.access import owned_blog
from mobbet.actions.people import read_name
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.addresses import read_blog_slug
from mobbet.core.canonical import canonical
from mobbet.core.embeds import read_hosts
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.fill_ins import read_facts
from mobbet.core.languages import read_language
from mobbet.core.link_rules import is_domain, read_rules
from mobbet.core.look.begun import FIRST, read_begun
from mobbet.core.names import one_line
from mobbet.core.rights import NO_ROLE, Role
from mobbet.core.timing import zone as read_zone
from mobbet.core.values import existing
from mobbet.core.web_addresses import split_address
from mobbet.store import blogs, people, targets
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

ROLES = tuple(map(str, Role))


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
    tagline, language = _tagline(tagline), read_language(language) or "en"
    with changing(workshop, owner, "the blog began") as unit:
        if blogs.by_slug(workshop.db, slug):
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
        blogs.add_member(workshop.db, blog.id, owner.id, "owner")
        unit.must_publish(blog.id)
    return blog


def add_member(workshop: Workshop, blog: Blog, person: Person, role: str) -> None:
    if role not in ROLES:
        raise BadInput(f"“{role}” is no role; choose {', '.join(ROLES)}.", "role")
    with changing(workshop, person):
        blogs.add_member(workshop.db, blog.id, person.id, role)


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
        else:
            blogs.add_member(workshop.db, blog.id, person.id, role)


def change_blog(
    workshop: Workshop, person: Person, slug: str, *, name: str, tagline: str, home: str, zone: str, posts_on_page: str,
    label: str = "Posts", read_on: str = "Read on", categories_in_lists: str = "yes", full_in_lists: str = "", host: str | None = None, asked_at: str = "",
    video_hosts: str | None = None,
) -> Blog:  # fmt: skip
    """Changes what stands on every page, and publishes. Only the owner may. Without `host` and `video_hosts` the blog keeps its host name and the hosts whose videos it shows; `asked_at` is
    the host name of this very request, which the application needs. Raises BadInput, NotAllowed.
    """
    blog = owned_blog(workshop, person, slug)
    name, tagline = read_name(name, "The blog's name", "name"), _tagline(tagline)
    if not posts_on_page.strip().isdecimal() or not 1 <= int(posts_on_page) <= 100:
        raise BadInput(f"“{posts_on_page}” is no number of posts; type one from 1 to 100.", "posts_on_page")
    read_zone(zone)
    home = read_home(home)
    label, read_on = (
        _short(label, "The name of the section", "label"),
        _short(read_on, "The link's words", "read_on"),
    )
    name_of_host = (blog.host or "") if host is None else read_host(workshop, blog, host, asked_at)
    allowed = blog.video_hosts if video_hosts is None else canonical(read_hosts(video_hosts))
    with changing(workshop, person, "the house style changed") as unit:
        unit.must_publish(blog.id)
        blogs.settle(
            workshop.db,
            blog.id,
            host=name_of_host or None,
            video_hosts=allowed,
            label=label,
            read_on=read_on,
            categories_in_lists=int(bool(categories_in_lists)),
            full_in_lists=int(bool(full_in_lists)),
        )
        blogs.update(
            workshop.db,
            blog.id,
            name=name,
            tagline=tagline,
            home=home,
            zone=zone,
            posts_on_page=int(posts_on_page),
        )
    return existing(blogs.by_id(workshop.db, blog.id))


def allow_video_host(workshop: Workshop, person: Person, slug: str, host: str) -> None:
    """Lets posts show videos of one more host. Only the owner may. Raises BadInput, NotAllowed."""
    blog = owned_blog(workshop, person, slug)
    hosts = read_hosts(" ".join([*json.loads(blog.video_hosts), host]))
    with changing(workshop, person, f"videos from {host} may be shown") as unit:
        unit.must_publish(blog.id)
        blogs.settle(workshop.db, blog.id, video_hosts=canonical(hosts))


def _tagline(text: str) -> str:
    """The line below the name. Raises BadInput."""
    tagline = " ".join(text.split())
    if len(tagline) > 160:
        raise BadInput("The line below the name is longer than 160 letters; shorten it.", "tagline")
    return tagline


def _short(text: str, what: str, field: str) -> str:
    """A few words that stand on every page. Raises BadInput."""
    words = one_line(text)
    if not words or len(words) > 40:
        raise BadInput(f"{what} has {len(words)} letters; give it one to 40.", field)
    return words


def change_house_style(workshop: Workshop, person: Person, slug: str, *, facts: str, link_rules: str) -> Blog:
    """Changes the facts for fill-ins and the rules for links, and publishes. Only the owner may. Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    kept_facts, kept_rules = json.dumps(read_facts(facts)), json.dumps(read_rules(link_rules))
    with changing(workshop, person, "the house style changed") as unit:
        unit.must_publish(blog.id)
        blogs.set_house_style(workshop.db, blog.id, kept_facts, kept_rules)
    return existing(blogs.by_id(workshop.db, blog.id))


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


def read_host(workshop: Workshop, blog: Blog, text: str, asked_at: str) -> str:
    """The host name at which a blog stands by itself; '' for none. Raises BadInput for one that is somebody else's."""
    name = text.strip().lower().rstrip(".")
    if not name:
        return ""
    if not is_domain(name):
        raise BadInput(f"“{text.strip()[:80]}” is no host name; write it like my-blog.example.", "host")
    own = {workshop.settings.host, *workshop.settings.hosts, asked_at.lower()}
    others = [one for one in blogs.every(workshop.db) if one.id != blog.id]
    if name in own or name in {one.host for one in others} | {
        split_address(one.home).hostname for one in others
    }:
        raise BadInput(f"{name} belongs to Mobbet itself or to another blog; choose another name.", "host")
    return name


def read_home(text: str) -> str:
    """The public address of a site's front page, with a slash at its end. Raises BadInput."""
    text = text.strip()
    parts = split_address(text)
    if (
        parts.scheme not in ("http", "https")
        or not parts.hostname
        or parts.query
        or parts.fragment
        or any(c.isspace() for c in text)
    ):
        raise BadInput(f"“{text}” is no address of a site; write it like https://my-blog.example/.", "home")
    return text.rstrip("/") + "/"


def chosen_blogs(workshop: Workshop, slug: str | None) -> list[Blog]:
    """The blog with that address, or all of them. Raises NotFound."""
    if slug is None:
        return blogs.every(workshop.db)
    blog = blogs.by_slug(workshop.db, slug)
    if blog is None:
        names = ", ".join(blog.slug for blog in blogs.every(workshop.db)) or "none yet"
        raise NotFound(f"There is no blog “{slug}”; there are: {names}.")
    return [blog]
