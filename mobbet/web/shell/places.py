"""“Find or go to”: screens, parts of them, actions, people, categories and posts, by a few letters, the likely ones first."""

from __future__ import annotations

from dataclasses import dataclass
from urllib.parse import quote

from mobbet.actions import post_search
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.workshop import Workshop
from mobbet.core.states import DRAFT, IN_TIMETABLE, SET_ASIDE, WORDS
from mobbet.store import blogs, desk, people
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.desk import addresses as to_desk
from mobbet.web.filing import addresses as to_filing
from mobbet.web.library import addresses as to_library
from mobbet.web.proof import addresses as to_proof
from mobbet.web.public import addresses as to_public
from mobbet.web.readers import addresses as to_readers
from mobbet.web.shell import addresses as to_shell
from mobbet.web.site import addresses as to_site
from mobbet.web.timetable import addresses as to_timetable
from mobbet.web.write import addresses as to_write

MOST, MOST_POSTS, RECENT, LEAST_IDEA = 12, 7, 5, 6


@dataclass(frozen=True)
class Place:
    """Something to go to, or an action, which is sent as a form."""

    words: str
    hint: str
    href: str
    is_action: bool = False
    also: str = ""
    """What it is called elsewhere, as people may type it."""


def places_for(workshop: Workshop, person: Person, blog: Blog, typed: str) -> list[Place]:
    """What the letters may mean; without any, the posts changed last and the screens."""
    said = " ".join(typed.casefold().split())
    known = _known(workshop, person, blog)
    if not said:
        rows = desk.in_hand(workshop.db, blog.id, workshop.clock(), RECENT)
        return [
            *(Place(row.title or "No title yet", "in hand", to_write.write(row.id)) for row in rows),
            *known,
        ][:MOST]
    ranked = sorted(
        ((rank, at) for at, place in enumerate(known) if (rank := _rank_of(place, said)) is not None)
    )
    named = [known[at] for _, at in ranked]
    found = [
        Place(one.title or "No title yet", WORDS[one.state], to_write.write(one.id))
        for one in post_search.find(workshop, blog, typed, MOST_POSTS).posts
    ]
    near = [place for place in named if _rank(place.words, said) == 0]
    others = [*near, *found, *(place for place in named if place not in near)][: MOST - 1]
    idea = (
        [Place(f"Note “{typed.strip()}”", "as an idea", to_desk.ideas(blog.slug, typed.strip()), True)]
        if len(said) >= LEAST_IDEA
        else []
    )
    return [*others, *idea]


def _rank_of(place: Place, said: str) -> int | None:
    """The rank of a place by its words; by what it is called elsewhere it comes after those."""
    rank = _rank(place.words, said)
    if rank is None and len(said) > 2 and any(word.startswith(said) for word in place.also.split(", ")):
        return 3
    return rank


def _rank(words: str, said: str) -> int | None:
    """0 where the words begin so, 1 where one of them does, 2 where their first letters are meant; None where nothing fits."""
    plain = words.casefold()
    if plain.startswith(said):
        return 0
    parts = plain.replace("-", " ").split()
    if any(part.startswith(said) for part in parts) or all(
        any(part.startswith(piece) for part in parts) for piece in said.split()
    ):
        return 1
    return 2 if len(said) > 1 and "".join(part[0] for part in parts).startswith(said) else None


def _known(workshop: Workshop, person: Person, blog: Blog) -> list[Place]:
    role = blogs.role(workshop.db, blog.id, person.id)
    slug = blog.slug
    found = [
        Place("New post", "begin a draft", to_desk.new_post(slug), True), Place("Desk", "screen", to_desk.desk(slug)), Place("Write", "the post in hand", to_desk.write_any(slug)),
        Place("Timetable", "screen", to_timetable.timetable(slug), also="schedule, calendar, queue, plan, slots"), Place("Library", "screen", to_library.library(slug), also="media, pictures, images, photos, files, uploads"), Place("Filing", "screen", to_filing.filing(slug), also="categories, taxonomy, sections, menu"),
        Place("Tags", "in the filing", to_filing.filing(slug, "tags")), Place("Addresses", "in the filing", to_filing.filing(slug, "addresses"), also="redirect, redirects, permalink, permalinks, url, links, slugs, 404"),
        Place("A year by weeks", "the rhythm of posts", to_desk.rhythm(slug)), Place("Proof of every post", "at the desk", to_proof.blog_proof(slug), also="spelling, check, broken links"), Place("Bring in files", "at the desk", to_write.bring_in(slug), also="import, upload"), Place("Saved blocks", "at the desk", to_write.kept(slug), also="reusable, snippets, blocks, template"),
    ]  # fmt: skip
    found += [
        Place("Templates", "at the desk", to_desk.desk(slug), also="template, templates, starter"),
        Place(
            "What is set aside",
            "at the desk",
            f"{to_desk.desk(slug)}?state={SET_ASIDE}",
            also="trash, bin, deleted, delete, removed, archive",
        ),
        Place(
            "What is in the timetable",
            "at the desk",
            f"{to_desk.desk(slug)}?state={IN_TIMETABLE}",
            also="scheduled, planned, future",
        ),
        Place("Drafts", "at the desk", f"{to_desk.desk(slug)}?state={DRAFT}", also="unpublished"),
    ]
    found.append(
        Place("Comments", "what readers wrote", to_readers.comments(slug), also="moderation, replies, spam")
    )
    if role != "writer":
        found.append(
            Place("Readers", "screen", to_readers.readers(slug), also="groups, members, followers, private")
        )
    if role == "owner":
        found += [
            Place("House", "name, zone, address", to_site.site(slug), also="settings, options, domain, language, tagline, site settings, facts, rules for links"), Place("Look", "site", to_site.look(slug), also="theme, themes, design, colours, colors, fonts, style, css, appearance, dark mode"), Place("New blog", "another one", to_shell.new_blog(), also="add blog, second blog, create blog"), Place("Pages and menu", "site", to_site.menu(slug), also="menu, navigation, about page, footer, front page, homepage"),
            Place("Words and proof", "house style", to_proof.house_words(slug), also="dictionary, style guide"), Place("Editions", "site", to_site.editions(slug), also="history, versions, restore, undo"), Place("In and out", "site", to_site.in_and_out(slug), also="export, import, move, leave, feed, rss, zip"), Place("Backups", "site", to_site.backups(slug), also="copy, restore, safety, disk"), Place("Where it goes", "places outside", to_site.targets(slug), also="hosting, deploy, ftp, sftp, export, server"),
        ]  # fmt: skip
    found += [
        Place("Look at the site", "as readers see it", to_public.public(slug)),
        Place(
            "Your account",
            "name and password",
            to_shell.account(),
            also="password, profile, e-mail, email, sign in",
        ),
    ]
    found += [
        Place(one.name, "posts by", f"{to_desk.desk(slug)}?q=by:{_quoted(one.name)}")
        for one in people.of_blog(workshop.db, blog.id)
    ]
    found += [
        Place(one.name, "category", f"{to_desk.desk(slug)}?q=in:{_quoted(one.name)}")
        for one in category_subjects(workshop, blog).values()
    ]
    found += [
        Place(other.name, "another blog", to_desk.desk(other.slug))
        for other in blogs.of_person(workshop.db, person.id)
        if other.id != blog.id
    ]
    return found


def _quoted(name: str) -> str:
    """A name as a filter of the search has it, in an address."""
    return quote(f'"{name}"')
