"""Tags: making, finding near-doubles, proposing, renaming, merging and removing. Changes can be undone."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from mobbet.actions import refiling
from mobbet.actions.access import blog_for, editable_post
from mobbet.actions.categories import FilingChange
from mobbet.actions.refiling import Before
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.addresses import free_slug, make_slug
from mobbet.core.document import schema
from mobbet.core.document.write import to_text
from mobbet.core.errors import BadInput, NotFound
from mobbet.core.filing import read_tags
from mobbet.core.key_phrases import phrases, tags_in
from mobbet.core.names import one_line
from mobbet.core.near import REASONS, Double, doubles, near
from mobbet.core.rights import Action
from mobbet.core.timing import FOREVER
from mobbet.store import addresses, filing, posts, stale
from mobbet.store.blogs import Blog
from mobbet.store.filing import TagCount
from mobbet.store.people import Person
from mobbet.store.posts import Post

MOST_LISTED = 100
MOST_PROPOSED = 8


def is_word(workshop: Workshop, blog: Blog) -> Callable[[str], bool]:
    """Whether the dictionary of the blog's language knows a word."""
    return lambda word: workshop.services.dictionary.knows(word, blog.language)


def make_tag(workshop: Workshop, blog: Blog, name: str) -> int:
    """The number of a tag; one that the blog does not have is made."""
    found = filing.find_tag(workshop.db, blog.id, name)
    if found is None:
        found = filing.add_tag(workshop.db, blog.id, name, _free(workshop, blog, make_slug(name, "tag"), 0))
        addresses.take(workshop.db, blog.id, f"/tag/{found.slug}/", "tag", found.id, FOREVER)
    return found.id


def _free(workshop: Workshop, blog: Blog, wanted: str, number: int) -> str:
    return free_slug(
        wanted,
        lambda slug: addresses.owner(workshop.db, blog.id, f"/tag/{slug}/") not in (None, ("tag", number)),
    )


def find(workshop: Workshop, blog: Blog, name: str) -> int:
    """The number of a tag. Raises NotFound, with the nearest there is."""
    name = one_line(name).lstrip("#")
    found = filing.find_tag(workshop.db, blog.id, name)
    if found is None:
        alike = near(name, filing.tag_names(workshop.db, blog.id), is_word(workshop, blog))
        raise NotFound(
            f"There is no tag “{name}” on this blog{f'; did you mean “{alike[0].other}”?' if alike else '; mobbet tag list shows them all.'}"
        )
    return found.id


def read_tag_name(text: str) -> str:
    """One tag that a person typed. Raises BadInput."""
    names = read_tags(text)
    if len(names) != 1:
        raise BadInput(
            f"“{text}” is {'no tag' if not names else 'several tags'}; type one, without commas.", "name"
        )
    return names[0]


def rename(workshop: Workshop, person: Person, blog_slug: str, number: int, name: str) -> FilingChange:
    """Gives a tag another name, and the address that follows from it; the old one redirects."""
    blog = blog_for(workshop, person, blog_slug, Action.KEEP_FILING)
    name = read_tag_name(name)
    with changing(workshop, person, "the filing changed"):
        mine = _tag(workshop, blog, number)
        other = filing.find_tag(workshop.db, blog.id, name)
        if other is not None and other.id != number:
            raise BadInput(
                f"There is a tag “{other.name}” already; merge “{mine.name}” into it instead.", "name"
            )
        before = Before()
        before.tag(workshop, blog, number)
        slug = _free(workshop, blog, make_slug(name, "tag"), number)
        _set(workshop, blog, number, name, slug, mine.slug)
        words = f"The tag “{mine.name}” is called “{name}” now."
        return FilingChange(words, refiling.keep(workshop, person, blog, words, before), number)


def _set(workshop: Workshop, blog: Blog, number: int, name: str, slug: str, old: str) -> None:
    db = workshop.db
    filing.set_tag(db, number, name, slug)
    if slug != old:
        waiting = addresses.address_owner(db, blog.id, f"/tag/{old}/", workshop.clock()) is None
        if waiting:
            addresses.drop_waiting(db, "tag", number)
        addresses.take(db, blog.id, f"/tag/{slug}/", "tag", number, FOREVER if waiting else workshop.clock())
    stale.mark_fact(db, blog.id, "tag", number)
    workshop.filing_writer.mark(blog.id, filing.posts_tagged(db, [number]))


def _tag(workshop: Workshop, blog: Blog, number: int) -> filing.Tag:
    found = filing.tag(workshop.db, blog.id, number)
    if found is None:
        raise NotFound("There is no such tag on this blog; it may have been removed.")
    return found


def merge(workshop: Workshop, person: Person, blog_slug: str, number: int, into: int) -> FilingChange:
    """Makes one tag of two: the posts and addresses of the first go to the second."""
    blog = blog_for(workshop, person, blog_slug, Action.KEEP_FILING)
    with changing(workshop, person, "the filing changed"):
        mine, other = _tag(workshop, blog, number), _tag(workshop, blog, into)
        if number == into:
            raise BadInput(f"“{mine.name}” cannot be merged into itself; choose another tag.", "into")
        before, db = _before_removing(workshop, blog, number), workshop.db
        affected = filing.posts_tagged(db, [number])
        refiling.refile(
            workshop, blog, affected, refiling.replacing("tag", {number: into}), before, is_past_too=True
        )
        addresses.drop_waiting(db, "tag", number)
        addresses.pass_on(db, "tag", number, into)
        stale.mark_fact(db, blog.id, "tag", into)
        filing.remove_tag(db, number)
        words = f"The tag “{mine.name}” is part of “{other.name}” now: {_posts(len(affected))}."
        return FilingChange(words, refiling.keep(workshop, person, blog, words, before), into)


def remove(workshop: Workshop, person: Person, blog_slug: str, number: int) -> FilingChange:
    """Takes a tag off every post; its address leads to the subjects."""
    blog = blog_for(workshop, person, blog_slug, Action.KEEP_FILING)
    with changing(workshop, person, "the filing changed"):
        mine, before, db = _tag(workshop, blog, number), _before_removing(workshop, blog, number), workshop.db
        affected = filing.posts_tagged(db, [number])
        refiling.refile(
            workshop, blog, affected, refiling.replacing("tag", {number: None}), before, is_past_too=True
        )
        addresses.drop_waiting(db, "tag", number)
        for row in addresses.rows_of(db, "tag", number):
            stale.mark_fact(db, blog.id, "away", row.path)
        addresses.lead_away(db, "tag", number, "/subjects/")
        filing.remove_tag(db, number)
        words = f"The tag “{mine.name}” is removed from {_posts(len(affected))}."
        return FilingChange(words, refiling.keep(workshop, person, blog, words, before))


def _before_removing(workshop: Workshop, blog: Blog, number: int) -> Before:
    before = Before()
    before.tag(workshop, blog, number)
    before.owner(workshop, "tag", number)
    stale.mark_fact(workshop.db, blog.id, "tag", number)
    return before


def _posts(count: int) -> str:
    return f"{count} post{'s' if count != 1 else ''}"


@dataclass(frozen=True)
class Remedy:
    """A tag, or a pair of tags, that wants attention: what is the matter, and which tag would go into which (0 is removed)."""

    words: str
    tag: TagCount
    into: TagCount | None


def near_doubles(workshop: Workshop, blog: Blog, most: int = MOST_LISTED) -> list[Remedy]:
    """Tags that mean one thing; the one that fewer posts have would go into the other."""
    counts = {tag.name: tag for tag in filing.tag_counts(workshop.db, blog.id)}
    found = _doubles(workshop, blog, tuple(sorted(counts)))[:most]
    remedies = []
    for double in found:
        one, other = sorted(
            (counts[double.one], counts[double.other]), key=lambda tag: (tag.posts, -len(tag.name))
        )
        remedies.append(Remedy(REASONS[double.why], one, other))
    return remedies


_found: dict[int, tuple[int, list[Double]]] = {}
"""The near-doubles of each blog's tags, with the hash of the names they were found among."""


def _doubles(workshop: Workshop, blog: Blog, names: tuple[str, ...]) -> list[Double]:
    """Near-doubles among the names, found once while the names stay the same."""
    mark = hash((str(workshop.db.path), names))
    if _found.get(blog.id, (None,))[0] != mark:
        _found[blog.id] = (mark, doubles(names, is_word(workshop, blog)))
    return _found[blog.id][1]


def seldom(workshop: Workshop, blog: Blog) -> dict[str, list[Remedy]]:
    """Tags used never, once, or only together with another one, each with what would mend it."""
    return {
        "never": [
            Remedy("no post has it", tag, None)
            for tag in filing.tags_used(workshop.db, blog.id, 0, MOST_LISTED)
        ],
        "once": [
            Remedy("one post has it", tag, None)
            for tag in filing.tags_used(workshop.db, blog.id, 1, MOST_LISTED)
        ],
        "together": [
            Remedy(f"always with “{other.name}”", one, other)
            for one, other in filing.tags_together(workshop.db, blog.id, MOST_LISTED)
        ],
    }


def alike(workshop: Workshop, blog: Blog, names: list[str]) -> list[Double]:
    """The tags of the blog that double one of those typed, where that one is new; and those typed that double each other."""
    known = filing.tag_names(workshop.db, blog.id)
    folded = {name.casefold() for name in known}
    new = [name for name in names if name.casefold() not in folded]
    found = [double for name in new for double in near(name, known, is_word(workshop, blog))]
    return found + [
        double
        for double in doubles(names, is_word(workshop, blog))
        if double.one in new or double.other in new
    ]


def known(workshop: Workshop, blog: Blog) -> list[str]:
    """The names of the blog's tags in alphabetical order."""
    return filing.tag_names(workshop.db, blog.id)


def proposals(workshop: Workshop, post: Post, blog: Blog) -> tuple[list[str], list[str]]:
    """(tags of the blog that occur in a post's text, telling phrases of it that would be new), without those it has."""
    revision = posts.working(workshop.db, post.id)
    text = f"{revision.title}. {revision.subtitle}. {to_text(schema.load(revision.body))}"
    has = {tag.name.casefold() for tag in filing.tags(workshop.db, posts.tags(workshop.db, post.id))}
    names = filing.tag_names(workshop.db, blog.id)
    known = [name for name in tags_in(text, names) if name.casefold() not in has][:MOST_PROPOSED]
    taken = has | {name.casefold() for name in names}
    new = [
        phrase
        for phrase in phrases(revision.title, text, blog.language)
        if phrase not in taken and not near(phrase, [*has, *known], is_word(workshop, blog))
    ]
    return known, new[: max(0, MOST_PROPOSED - len(known))]


def set_tags(workshop: Workshop, person: Person, post_id: int, text: str) -> None:
    """Sets the tags of a post, typed with commas; those the blog does not have are made."""
    post, blog = editable_post(workshop, person, post_id)
    names = read_tags(text)
    with changing(workshop, person, "the filing changed"):
        chosen = [make_tag(workshop, blog, name) for name in names]
        posts.set_tags(workshop.db, post.id, list(dict.fromkeys(chosen)), workshop.clock())
