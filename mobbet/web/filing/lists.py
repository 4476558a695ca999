"""The lists of the Filing screen: tags with their remedies, addresses with their hits, and the worklists."""

from __future__ import annotations

from typing import Any

from mobbet.actions import addresses, missing_pages, patterns, tags
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.tags import Remedy
from mobbet.actions.workshop import Workshop
from mobbet.core.document import outline, schema
from mobbet.core.document.text import plain
from mobbet.core.filing import path_in_words, tree
from mobbet.core.permalinks import TOKENS, number_of_code, short_path
from mobbet.core.screen_dates import ago_in_words
from mobbet.core.slugs import SCRIPTS
from mobbet.core.values import existing
from mobbet.store import addresses as address_store
from mobbet.store import blogs, filing, posts, worklists
from mobbet.store.addresses import AddressRow
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.web.filing import addresses as to_filing
from mobbet.web.filing.contexts import (
    AddressesPage,
    AddressLine,
    ChangeMessage,
    MissedLine,
    RemedyRow,
    TagRow,
    TagsPage,
    WorklistPage,
)
from mobbet.web.filing.view import can_keep, filed_post, posts_tagged, tabs
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice

PAGE = 100
MOST_REMEDIES = 12
WORKLISTS = {"unfiled": "Posts without a category", "untagged": "Posts without tags"}
KINDS = {"post": "a post", "category": "a category", "tag": "a tag", "away": "added"}
MOST_CHOICES = 9


def tags_page(
    workshop: Workshop, person: Person, blog: Blog, words: str, chosen: int | None, after: int, **more: Any
) -> TagsPage:
    """The list of tags from `after` on, with one chosen tag open."""
    rows = filing.tag_counts(workshop.db, blog.id, PAGE + 1, after, words.strip())
    found = filing.tag(workshop.db, blog.id, chosen) if chosen else None
    counted = (
        next(
            (row for row in filing.tag_counts(workshop.db, blog.id, 1, 0, found.name) if row.id == found.id),
            None,
        )
        if found
        else None
    )
    named = (
        TagRow(
            found.id,
            found.name,
            found.slug,
            counted.posts if counted else len(filing.posts_tagged(workshop.db, [found.id])),
        )
        if found
        else None
    )
    total = filing.count_tags(workshop.db, blog.id)
    return TagsPage(
        bar=bar_for(workshop, person, blog, "filing"), can_keep=can_keep(workshop, person, blog), tabs=tabs(blog, "tags"),
        rows=[TagRow(row.id, row.name, row.slug, row.posts) for row in rows[:PAGE]], total=total, words=words.strip(),
        more=f"{to_filing.filing(blog.slug, 'tags')}?q={words.strip()}&after={after + PAGE}" if len(rows) > PAGE else "",
        chosen=named, names=filing.tag_names(workshop.db, blog.id, 500) if found else [],
        posts=posts_tagged(workshop, blog, found.id, found.name, 0) if found else None, **more,
    )  # fmt: skip


def remedies(workshop: Workshop, blog: Blog) -> list[tuple[str, list[RemedyRow]]]:
    """What wants attention among the tags, group by group, each with its one step."""
    seldom = tags.seldom(workshop, blog)
    groups = (
        ("Two names for one thing", tags.near_doubles(workshop, blog, MOST_REMEDIES)), ("Never used", seldom["never"]),
        ("Used once", seldom["once"]), ("Never without another", seldom["together"]),
    )  # fmt: skip
    return [(heading, [_remedy(one) for one in found[:MOST_REMEDIES]]) for heading, found in groups if found]


def _remedy(one: Remedy) -> RemedyRow:
    if one.into is None:
        return RemedyRow(f"“{one.tag.name}”: {one.words}", one.tag.id, 0, f"Remove “{one.tag.name}”")
    words = f"“{one.tag.name}” ({one.tag.posts}) beside “{one.into.name}” ({one.into.posts}): {one.words}"
    return RemedyRow(words, one.tag.id, one.into.id, f"Merge into “{one.into.name}”")


def addresses_page(
    workshop: Workshop, person: Person, blog: Blog, words: str, after: int, said: str = "", **more: Any
) -> AddressesPage:
    """The table of addresses, filtered and paged."""
    blog = existing(blogs.by_id(workshop.db, blog.id))
    tried = patterns.try_pattern(workshop, blog, blog.pattern)
    number = number_of_code(words.strip().strip("/").removeprefix("~")) if "~" in words else None
    rows = (
        address_store.of_post(workshop.db, blog.id, number)
        if number
        else address_store.find(workshop.db, blog.id, words.strip(), PAGE + 1, after)
    )
    missed = missing_pages.unresolved(workshop, blog)
    return AddressesPage(
        bar=bar_for(workshop, person, blog, "filing"), can_keep=blogs.role(workshop.db, blog.id, person.id) == "owner", tabs=tabs(blog, "addresses"),
        pattern=blog.pattern, example=tried.path, example_title=tried.title, tokens=list(TOKENS.items()), script=SCRIPTS[blog.slug_script],
        scripts=[Choice(value, label, value == blog.slug_script) for value, label in SCRIPTS.items()],
        rows=[_line(workshop, blog, row) for row in rows[:PAGE]], total=address_store.count(workshop.db, blog.id), words=words.strip(),
        more=f"{to_filing.filing(blog.slug, 'addresses')}?q={words.strip()}&after={after + PAGE}" if len(rows) > PAGE else "",
        missed=[MissedLine(one.path, one.hits, _ago(workshop, blog, one.last_at), *(one.likely or ("", ""))) for one in missed],
        told=_said(said), **more,
    )  # fmt: skip


def _said(said: str) -> ChangeMessage | None:
    what, _, count = said.partition("-")
    if not count.isdecimal():
        return None
    number = int(count)
    if what == "moved":
        return ChangeMessage(
            f"{number:,} post{'s' if number != 1 else ''} moved; every old address leads to the new one."
            if number
            else "The pattern is kept; no address moved."
        )
    return ChangeMessage(
        f"{number:,} old addresses lead to the new ones now."
        if number != 1
        else "1 old address leads to the new one now."
    )


def _line(workshop: Workshop, blog: Blog, row: AddressRow) -> AddressLine:
    answer = addresses.resolve(workshop, blog, row.path)
    leads_to = (
        answer.path
        if answer.kind == addresses.REDIRECT
        else "gone (410)"
        if answer.kind == addresses.GONE
        else ""
        if answer.kind == addresses.PAGE
        else "not out yet"
    )
    kind = "added" if row.by_hand else KINDS[row.kind]
    short = (
        short_path(row.owner)
        if row.kind == "post" and not row.by_hand and answer.kind == addresses.PAGE
        else ""
    )
    hits = address_store.hits_of(workshop.db, blog.id, short) if short else 0
    return AddressLine(
        row.path,
        kind,
        leads_to,
        row.hits,
        _ago(workshop, blog, row.last_at),
        bool(row.by_hand),
        short.rstrip("/"),
        hits,
    )


def _ago(workshop: Workshop, blog: Blog, instant: int) -> str:
    return ago_in_words(instant, blog.zone, workshop.clock()) if instant else ""


def worklist_page(
    workshop: Workshop,
    person: Person,
    blog: Blog,
    kind: str,
    after: int,
    told: ChangeMessage | None,
    problem: str = "",
) -> WorklistPage:
    """The next post of a worklist, with how it begins and what it could be filed under."""
    row = worklists.following(workshop.db, blog.id, kind, blog.catch_all, after)
    beginning, choices = "", []
    everything: list[Choice] = []
    if row is not None:
        document = schema.load(posts.working_body(workshop.db, row.id))
        beginning = (
            outline.teaser_text(document, 400) or " ".join(plain(node) for node in document["content"])[:400]
        )
        if kind == "untagged":
            known, new = tags.proposals(workshop, existing(posts.on_blog(workshop.db, blog.id, row.id)), blog)
            choices = [
                *(Choice(name, name) for name in known),
                *(Choice(name, name, hint="new") for name in new),
            ][:MOST_CHOICES]
        else:
            subjects = category_subjects(workshop, blog)
            everything = [
                Choice(str(subject.id), path_in_words(subjects, subject.id))
                for _, subject in tree(subjects.values())
                if subject.id != blog.catch_all
            ]
            likely = [
                number
                for number in worklists.often_beside(workshop.db, blog.id, row.id, MOST_CHOICES + 1)
                if number != blog.catch_all
            ]
            choices = [Choice(str(number), path_in_words(subjects, number)) for number in likely][
                :MOST_CHOICES
            ]
    return WorklistPage(
        bar_for(workshop, person, blog, "filing"), tabs(blog, "tags" if kind == "untagged" else "categories"), kind, WORKLISTS[kind],
        worklists.count(workshop.db, blog.id, kind, blog.catch_all), filed_post(workshop, blog, row) if row else None, beginning, choices, everything,
        f"{to_filing.worklist(blog.slug, kind)}?after={row.id}" if row else "", told, problem,
    )  # fmt: skip
