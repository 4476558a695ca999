"""Categories: making, naming and describing them, and filing posts under them. Each change can be undone.

Everything here changes facts in one transaction and publishes nothing; the caller does, or asks for the
footprint first (`actions/footprints.py`).
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from mobbet.actions import refiling
from mobbet.actions.access import blog_for, owned_blog
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.refiling import Before
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.addresses import free_slug, is_reserved, make_slug, read_slug
from mobbet.core.canonical import canonical
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.write import is_empty
from mobbet.core.errors import BadInput, NotFound
from mobbet.core.facts import Subject
from mobbet.core.filing import below, check_name, path_in_words, read_category, read_rule, trail
from mobbet.core.rights import Action
from mobbet.core.timing import FOREVER
from mobbet.core.values import existing
from mobbet.store import addresses, blogs, filing, media, stale
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

LONGEST_DESCRIPTION = 4000
SHOWN_BY_POSTS = {"name", "slug", "parent_id", "shows_below"}
"""What the pages, the lists and the addresses of a category's posts follow from; the rest stands on its own page alone."""


@dataclass(frozen=True)
class FilingChange:
    """A change of the filing that was made: what it came to in words, its number for undoing, the category or tag it left."""

    words: str
    number: int
    subject: int | None = None


def find(workshop: Workshop, blog: Blog, path: str) -> int:
    """The number of the category typed as `A > B`. Raises NotFound, naming those there are."""
    parent: int | None = None
    for name in read_category(path):
        found = filing.find_category(workshop.db, blog.id, parent, name)
        if found is None:
            subjects = category_subjects(workshop, blog)
            names = [subject.name for subject in subjects.values() if subject.parent_id == parent]
            there = f"; there are: {', '.join(names[:12])}{' …' if len(names) > 12 else ''}" if names else ""
            where = f"in “{subjects[parent].name}”" if parent else "at the top"
            raise NotFound(f"There is no category “{name}” {where}{there}.")
        parent = found.id
    return existing(parent)


def make_category(workshop: Workshop, blog: Blog, text: str) -> int:
    """The number of the category typed as `A > B`; what is missing on the way is made."""
    parent: int | None = None
    for name in read_category(text):
        found = filing.find_category(workshop.db, blog.id, parent, name)
        if found is None:
            slug = _free(workshop, blog, make_slug(name, "category"), 0)
            found = filing.add_category(workshop.db, blog.id, parent, name, slug)
            addresses.take(workshop.db, blog.id, f"/{slug}/", "category", found.id, FOREVER)
        parent = found.id
    return existing(parent)


def named(workshop: Workshop, blog: Blog, text: str) -> int:
    """The number of the category that a file names: by its path, else the only one that ends with that path wherever it stands in the tree; made where
    there is none. Raises BadInput where there are several.
    """
    names = read_category(text)
    if not missing(workshop, blog, text):
        return find(workshop, blog, text)
    subjects = category_subjects(workshop, blog)
    wanted = [name.casefold() for name in names]
    found = [
        number
        for number in subjects
        if [step.name.casefold() for step in trail(subjects, number)][-len(wanted) :] == wanted
    ]
    if len(found) > 1:
        paths = " and ".join(f"“{path_in_words(subjects, number)}”" for number in found[:3])
        raise BadInput(
            f"“{text}” is the name of several categories, {paths}; write the whole path.", "categories"
        )
    return found[0] if found else make_category(workshop, blog, text)


def missing(workshop: Workshop, blog: Blog, text: str) -> list[str]:
    """Which categories of a typed path would have to be made, each as a path."""
    parent, found, made = None, True, []
    names = read_category(text)
    for at, name in enumerate(names):
        row = filing.find_category(workshop.db, blog.id, parent, name) if found else None
        found = row is not None
        parent = row.id if row else None
        if not found:
            made.append(" > ".join(names[: at + 1]))
    return made


def add(workshop: Workshop, person: Person, blog_slug: str, path: str) -> FilingChange:
    """Makes a category, with those above it that are missing. Raises BadInput when it is there already."""
    blog = blog_for(workshop, person, blog_slug, Action.KEEP_FILING)
    with changing(workshop, person, "the filing changed"):
        made = missing(workshop, blog, path)
        if not made:
            raise BadInput(
                f"There is a category “{' > '.join(read_category(path))}” already; choose another name.",
                "name",
            )
        number = make_category(workshop, blog, path)
        return FilingChange(f"“{made[-1]}” is made.", 0, number)


def _free(workshop: Workshop, blog: Blog, wanted: str, number: int) -> str:
    """The slug, or one with a number, that no page of the site has or ever had."""

    def is_taken(slug: str) -> bool:
        return is_reserved(slug) or addresses.owner(workshop.db, blog.id, f"/{slug}/") not in (
            None,
            ("category", number),
        )

    return free_slug(wanted, is_taken)


def subject_of(subjects: dict[int, Subject], number: int) -> Subject:
    """A category among those of a blog. Raises NotFound."""
    if number not in subjects:
        raise NotFound("There is no such category on this blog; it may have been removed.")
    return subjects[number]


def read_subject_name(text: str, field: str = "name") -> str:
    """A name of a category that a person typed. Raises BadInput."""
    names = read_category(text)
    if len(names) != 1:
        raise BadInput(f"“{text}” names several categories; a name has no “>” in it.", field)
    return names[0]


def rename(workshop: Workshop, person: Person, blog_slug: str, number: int, name: str) -> FilingChange:
    """Gives a category another name; its slug follows where it followed the name before."""
    blog = blog_for(workshop, person, blog_slug, Action.KEEP_FILING)
    with changing(workshop, person, "the filing changed"):
        subjects = category_subjects(workshop, blog)
        mine = subject_of(subjects, number)
        name = read_subject_name(name)
        check_name(subjects, name, mine.parent_id, number)
        before = Before()
        before.category(workshop, blog, number)
        follows = mine.slug.rstrip("0123456789").rstrip("-") == make_slug(
            mine.name, "category"
        ) or mine.slug == make_slug(mine.name, "category")
        slug = _free(workshop, blog, make_slug(name, "category"), number) if follows else mine.slug
        return set_and_keep(
            workshop,
            person,
            blog,
            number,
            before,
            f"“{mine.name}” is called “{name}” now.",
            name=name,
            slug=slug,
        )


def set_slug(workshop: Workshop, person: Person, blog_slug: str, number: int, text: str) -> FilingChange:
    """Gives a category another slug; its old address redirects."""
    blog = blog_for(workshop, person, blog_slug, Action.KEEP_FILING)
    with changing(workshop, person, "the filing changed"):
        mine = subject_of(category_subjects(workshop, blog), number)
        slug = read_slug(text) if text.strip() else make_slug(mine.name, "category")
        if is_reserved(slug):
            raise BadInput(f"“{slug}” is a word that the site keeps for itself; choose another one.", "slug")
        if addresses.owner(workshop.db, blog.id, f"/{slug}/") not in (None, ("category", number)):
            raise BadInput(f"Something else has, or had, the address /{slug}/; choose another one.", "slug")
        before = Before()
        before.category(workshop, blog, number)
        return set_and_keep(
            workshop, person, blog, number, before, f"“{mine.name}” lives at /{slug}/ now.", slug=slug
        )


def set_and_keep(
    workshop: Workshop, person: Person, blog: Blog, number: int, before: Before, words: str, **values: object
) -> FilingChange:
    """Writes a category's own facts, with everything that shows them, and keeps the change."""
    db, old = workshop.db, before.categories[number]
    filing.set_category(db, number, **values)
    altered = {name for name, value in values.items() if value != old[name]}
    if "slug" in altered:
        waiting = addresses.address_owner(db, blog.id, f"/{old['slug']}/", workshop.clock()) is None
        if waiting:
            addresses.drop_waiting(db, "category", number)
        addresses.take(
            db, blog.id, f"/{values['slug']}/", "category", number, FOREVER if waiting else workshop.clock()
        )
    if altered & SHOWN_BY_POSTS:
        mark_below(workshop, blog, number)
        refiling.settle_posts(
            workshop,
            blog,
            filing.posts_in(db, sorted(below(category_subjects(workshop, blog), number))),
            not altered & {"parent_id", "shows_below"},
        )
    else:
        stale.mark_fact(db, blog.id, "category", number)
    return FilingChange(words, refiling.keep(workshop, person, blog, words, before), number)


def mark_below(workshop: Workshop, blog: Blog, number: int) -> None:
    """A category's name stands on its own pages and on those of everything below it."""
    for one in below(category_subjects(workshop, blog), number):
        stale.mark_fact(workshop.db, blog.id, "category", one)


def describe(
    workshop: Workshop,
    person: Person,
    blog_slug: str,
    number: int,
    *,
    description: str,
    picture: int | None,
    shows_below: bool,
) -> FilingChange:
    """Settles what a category's own page shows: a description in Markdown, a picture, the posts below it."""
    blog = blog_for(workshop, person, blog_slug, Action.KEEP_FILING)
    if len(description) > LONGEST_DESCRIPTION:
        raise BadInput(
            f"The description has {len(description):,} letters; {LONGEST_DESCRIPTION:,} is the most.",
            "description",
        )
    document = from_markdown(description)
    with changing(workshop, person, "the filing changed"):
        mine = subject_of(category_subjects(workshop, blog), number)
        row = media.on_blog(workshop.db, blog.id, picture) if picture is not None else None
        if picture is not None and (row is None or row.kind != "picture"):
            raise BadInput("That is no picture of this blog’s library; choose another one.", "picture")
        before = Before()
        before.category(workshop, blog, number)
        for one in {before.categories[number]["picture"], picture} - {None}:
            stale.mark_fact(workshop.db, blog.id, "media", one)
        kept = "" if is_empty(document) else canonical(document)
        values = {"description": kept, "picture": picture, "shows_below": int(shows_below)}
        return set_and_keep(
            workshop, person, blog, number, before, f"The page of “{mine.name}” is described.", **values
        )


def set_catch_all(workshop: Workshop, person: Person, blog_slug: str, number: int | None) -> None:
    """Names the category under which posts without any fall when they are placed. Only the owner may."""
    blog = owned_blog(workshop, person, blog_slug)
    with changing(workshop, person, "the filing changed"):
        if number is not None:
            subject_of(category_subjects(workshop, blog), number)
        blogs.settle(workshop.db, blog.id, catch_all=number)


def set_rule(workshop: Workshop, person: Person, blog_slug: str, least: str, most: str, help: str) -> None:
    """How many categories a post needs and may have. Only the owner may. Raises BadInput."""
    blog = owned_blog(workshop, person, blog_slug)
    rule = read_rule(least, most, help)
    with changing(workshop, person, "the filing changed"):
        blogs.settle(
            workshop.db,
            blog.id,
            least_categories=rule.least,
            most_categories=rule.most,
            filing_help=rule.help,
        )


def refile_posts(
    workshop: Workshop, person: Person, blog_slug: str, post_ids: Iterable[int], *, add: Iterable[int] = (), take: Iterable[int] = (),
    main: int | None = None, tags: Iterable[int] = (), without_tags: Iterable[int] = (),
) -> FilingChange:  # fmt: skip
    """Files many posts at once, for readers too where they are out. Raises NotFound for a post of another blog."""
    blog = blog_for(workshop, person, blog_slug, Action.KEEP_FILING)
    post_ids = list(dict.fromkeys(post_ids))
    with changing(workshop, person, "the filing changed"):
        subjects = category_subjects(workshop, blog)
        add, take = list(add), list(take)
        for number in (*add, *take, *([main] if main is not None else [])):
            subject_of(subjects, number)
        strangers = filing.strangers(workshop.db, blog.id, post_ids)
        if strangers:
            raise NotFound(f"There is no post with the number {strangers[0]} on this blog.")
        before = Before()
        count = len(
            refiling.refile(
                workshop, blog, post_ids, refiling.adding(add, tags, take, main, without_tags), before
            )
        )
        refiling.catch(workshop, blog, before)
        names = [
            subjects[number].name for number in dict.fromkeys([*([main] if main is not None else []), *add])
        ]
        where = f" under {' and '.join(names)}" if names else ""
        words = (
            f"{posts_in_words(count)} {'is' if count == 1 else 'are'} filed{where}."
            if count
            else "Nothing was to be changed."
        )
        return FilingChange(words, refiling.keep(workshop, person, blog, words, before) if count else 0)


def posts_in_words(count: int) -> str:
    """`1 post`, `2 posts`."""
    return f"{count} post{'s' if count != 1 else ''}"
