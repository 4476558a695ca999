"""The facts of a house, such as name, address and language: each is read from what somebody typed, tried, and given to readers."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import replace
from typing import Any

from mobbet.actions import house
from mobbet.actions.access import owned_blog
from mobbet.actions.people import read_name
from mobbet.actions.workshop import Workshop
from mobbet.core import sharing
from mobbet.core.canonical import canonical
from mobbet.core.embeds import read_hosts
from mobbet.core.errors import BadInput
from mobbet.core.fill_ins import read_facts
from mobbet.core.house import FACTS, read_home, read_hub, read_server, read_tagline
from mobbet.core.languages import read_language
from mobbet.core.link_rules import is_domain, read_rules
from mobbet.core.names import one_line
from mobbet.core.timing import zone as read_zone
from mobbet.core.web_addresses import split_address
from mobbet.publish.published import Published
from mobbet.store import blogs, media
from mobbet.store.blogs import HOUSE_COLUMNS, Blog
from mobbet.store.people import Person

LONGEST_SHORT, MOST_POSTS = 40, 100


def facts_text(blog: Blog) -> str:
    """The facts of a house as JSON, as `house.given` has them."""
    return canonical({column: getattr(blog, column) for column in HOUSE_COLUMNS})


def present(workshop: Workshop, blog: Blog) -> Blog:
    """The blog with the facts that its people see: those that are tried, or else those given."""
    tried = house.tried(workshop, blog, FACTS)
    return replace(blog, **json.loads(tried)) if tried else blog


def try_fact(
    workshop: Workshop, person: Person, slug: str, field: str, typed: str, asked_at: str = ""
) -> None:
    """Has one fact tried as it was typed. `asked_at` is the host name of the request, which the application needs. Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    now = present(workshop, blog)
    value = facts_text(replace(now, **_read(workshop, now, field, typed, asked_at)))
    house.try_value(workshop, person, slug, FACTS, value)


def give_facts(workshop: Workshop, person: Person, slug: str, asked_at: str = "", **typed: str) -> Published:
    """Gives readers some facts at once, as they were typed; what else is tried goes on. Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    changed = blog
    for field, text in typed.items():
        changed = replace(changed, **_read(workshop, changed, field, text, asked_at))
    tried = house.tried(workshop, blog, FACTS)
    published = house.give_value(
        workshop, person, blog, FACTS, facts_text(changed), "the facts of the house changed"
    )
    if tried:
        kept = {
            name: getattr(changed, name)
            for name in HOUSE_COLUMNS
            if getattr(changed, name) != getattr(blog, name)
        }
        house.try_value(workshop, person, slug, FACTS, canonical({**json.loads(tried), **kept}))
    return published


def allow_video_host(workshop: Workshop, person: Person, slug: str, host: str) -> None:
    """Lets posts show videos of one more host, at once. Only the owner may. Raises BadInput, NotAllowed."""
    give_facts(workshop, person, slug, more_video_hosts=host)


def _read(workshop: Workshop, blog: Blog, field: str, typed: str, asked_at: str) -> dict[str, Any]:
    """The columns that a field stands for, with their values. Raises BadInput."""
    kind, colon, name = field.partition(":")
    if kind == "icon" and not colon:
        return {"icon": _icon(workshop, blog, typed)}
    if kind == "host" and not colon:
        return {"host": read_host(workshop, blog, typed, asked_at) or None}
    reader = _READERS.get(kind)
    if reader is None:
        raise BadInput(f"“{field[:30]}” is nothing of a house; choose a word on yellow.", "where")
    return reader(blog, typed, name)


def _icon(workshop: Workshop, blog: Blog, typed: str) -> int:
    """The number of a picture of the blog's library; 0 for the usual icon. Raises BadInput."""
    number = int(typed) if typed.isascii() and typed.isdecimal() and len(typed) < 16 else -1
    row = media.on_blog(workshop.db, blog.id, number)
    if number and (row is None or row.kind != "picture" or row.aside_at):
        raise BadInput("That is no picture of this blog’s library; choose another one.", "icon")
    return number


def _text(column: str, read: Callable[[str], object]) -> Callable[[Blog, str, str], dict[str, Any]]:
    return lambda blog, typed, name: {column: read(typed)}


def _short(what: str, field: str) -> Callable[[str], str]:
    """The reader of a few words that stand on every page."""

    def read(text: str) -> str:
        words = one_line(text)
        if not words or len(words) > LONGEST_SHORT:
            raise BadInput(f"{what} has {len(words)} letters; give it one to {LONGEST_SHORT}.", field)
        return words

    return read


def _count(text: str) -> int:
    if not text.strip().isdecimal() or len(text) > 6 or not 1 <= int(text) <= MOST_POSTS:
        raise BadInput(
            f"“{text[:20]}” is no number of posts; type one from 1 to {MOST_POSTS}.", "posts_on_page"
        )
    return int(text)


def _zone(text: str) -> str:
    read_zone(text)
    return text


def _language(text: str) -> str:
    language = read_language(text)
    if not language:
        raise BadInput("A blog has a language; choose one of the list.", "language")
    return language


def _made_by(text: str) -> str:
    return read_name(text, "Whom the blog is by", "made_by") if text.strip() else ""


def _fact(blog: Blog, typed: str, name: str) -> dict[str, Any]:
    """A fact for fill-ins: with a name its value ('' takes it away), without one `name: value`."""
    known = dict(json.loads(blog.facts))
    if name and not typed.strip():
        return {"facts": json.dumps([pair for pair in known.items() if pair[0] != name])}
    (found, value), *_ = read_facts(f"{name}: {typed}" if name else typed) or (("", ""),)
    if not found:
        raise BadInput("Write a name, a colon and a value, like phone: 21 000.", "fact")
    return {"facts": json.dumps([*{**known, found: value}.items()])}


def _link_rule(blog: Blog, typed: str, domain: str) -> dict[str, Any]:
    """A rule for links by domain: with a domain its rule ('' takes it away), without one `shop.example paid`."""
    known = dict(json.loads(blog.link_rules))
    if domain and not typed.strip():
        return {"link_rules": json.dumps([pair for pair in known.items() if pair[0] != domain])}
    rules = read_rules(f"{domain} {typed}" if domain else " ".join(typed.split()))
    if not rules:
        raise BadInput("Write a domain and a rule, like shop.example paid.", "link_rule")
    return {"link_rules": json.dumps([*{**known, **dict(rules)}.items()])}


def _video_hosts(blog: Blog, typed: str, host: str) -> dict[str, Any]:
    """The hosts whose videos posts may show: with a host, whether it stays."""
    known = [one for one in json.loads(blog.video_hosts) if one != host or typed]
    return {"video_hosts": canonical(read_hosts(" ".join(known)))}


def _more_video_hosts(blog: Blog, typed: str, name: str) -> dict[str, Any]:
    hosts = read_hosts(" ".join([*json.loads(blog.video_hosts), typed]))
    if not typed.strip():
        raise BadInput("Write a host name, like films.example.", "more_video_hosts")
    return {"video_hosts": canonical(hosts)}


_READERS: dict[str, Callable[[Blog, str, str], dict[str, Any]]] = {
    "name": _text("name", lambda text: read_name(text, "The blog's name", "name")),
    "tagline": _text("tagline", read_tagline),
    "made_by": _text("made_by", _made_by),
    "home": _text("home", read_home),
    "server": _text("server", read_server),
    "hub": _text("hub", read_hub),
    "counts_reads": _text("counts_reads", lambda text: int(bool(text))),
    "zone": _text("zone", _zone),
    "language": _text("language", _language),
    "posts_on_page": _text("posts_on_page", _count),
    "label": _text("label", _short("The name of the section", "label")),
    "read_on": _text("read_on", _short("The link's words", "read_on")),
    "categories_in_lists": _text("categories_in_lists", lambda text: int(bool(text))),
    "full_in_lists": _text("full_in_lists", lambda text: int(bool(text))),
    "fact": _fact,
    "link_rule": _link_rule,
    "video_host": _video_hosts,
    "more_video_hosts": _more_video_hosts,
    "sharing": lambda blog, typed, way: {"sharing": sharing.with_way(blog.sharing, way, bool(typed))},
    "share_link": lambda blog, typed, words: {
        "share_links": sharing.with_link(blog.share_links, typed, words)
    },
}
"""{field: what reads it}; a colon and a name may follow some."""


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
