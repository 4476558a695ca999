"""The tree of categories: making, renaming, moving, merging, splitting and removing. Each change can be undone.

Everything here changes facts in one transaction and publishes nothing; the caller does, or asks for the
footprint first (`actions/effects.py`).
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from mobbet.actions import refiling
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.refiling import Before
from mobbet.actions.workshop import Workshop, keeper_of, owned_blog
from mobbet.core.addresses import free_slug, is_reserved, make_slug, read_slug
from mobbet.core.canonical import canonical
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.write import is_empty
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.facts import Subject
from mobbet.core.filing import (
    LONGEST_NAME,
    below,
    check_move,
    check_name,
    path_in_words,
    read_category,
    read_rule,
)
from mobbet.core.timing import FOREVER
from mobbet.store import addresses, blogs, filing, media
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

LONGEST_DESCRIPTION = 4000


@dataclass(frozen=True)
class Done:
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
    return parent


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
    return parent


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


def add(workshop: Workshop, person: Person, blog_slug: str, path: str) -> Done:
    """Makes a category, with those above it that are missing. Raises BadInput when it is there already."""
    blog = keeper_of(workshop, person, blog_slug)
    with workshop.db.transaction():
        made = missing(workshop, blog, path)
        if not made:
            raise BadInput(f"There is a category “{' > '.join(read_category(path))}” already; choose another name.", "name")
        number = make_category(workshop, blog, path)
        return Done(f"“{made[-1]}” is made.", 0, number)


def _free(workshop: Workshop, blog: Blog, wanted: str, number: int) -> str:
    """The slug, or one with a number, that no page of the site has or ever had."""

    def is_taken(slug: str) -> bool:
        return is_reserved(slug) or addresses.owner(workshop.db, blog.id, f"/{slug}/") not in (None, ("category", number))

    return free_slug(wanted, is_taken)


def _subject(subjects: dict[int, Subject], number: int) -> Subject:
    if number not in subjects:
        raise NotFound("There is no such category on this blog; it may have been removed.")
    return subjects[number]


def read_subject_name(text: str, field: str = "name") -> str:
    """A name of a category that a person typed. Raises BadInput."""
    names = read_category(text)
    if len(names) != 1:
        raise BadInput(f"“{text}” names several categories; a name has no “>” in it.", field)
    return names[0]


def rename(workshop: Workshop, person: Person, blog_slug: str, number: int, name: str) -> Done:
    """Gives a category another name; its slug follows where it followed the name before."""
    blog = keeper_of(workshop, person, blog_slug)
    with workshop.db.transaction():
        subjects = category_subjects(workshop, blog)
        mine = _subject(subjects, number)
        name = read_subject_name(name)
        check_name(subjects, name, mine.parent_id, number)
        before = Before()
        before.category(workshop, blog, number)
        follows = mine.slug.rstrip("0123456789").rstrip("-") == make_slug(mine.name, "category") or mine.slug == make_slug(mine.name, "category")
        slug = _free(workshop, blog, make_slug(name, "category"), number) if follows else mine.slug
        return _changed(workshop, person, blog, number, before, f"“{mine.name}” is called “{name}” now.", name=name, slug=slug)


def set_slug(workshop: Workshop, person: Person, blog_slug: str, number: int, text: str) -> Done:
    """Gives a category another slug; its old address leads on."""
    blog = keeper_of(workshop, person, blog_slug)
    with workshop.db.transaction():
        mine = _subject(category_subjects(workshop, blog), number)
        slug = read_slug(text) if text.strip() else make_slug(mine.name, "category")
        if is_reserved(slug):
            raise BadInput(f"“{slug}” is a word that the site keeps for itself; choose another one.", "slug")
        if addresses.owner(workshop.db, blog.id, f"/{slug}/") not in (None, ("category", number)):
            raise BadInput(f"Something else has, or had, the address /{slug}/; choose another one.", "slug")
        before = Before()
        before.category(workshop, blog, number)
        return _changed(workshop, person, blog, number, before, f"“{mine.name}” lives at /{slug}/ now.", slug=slug)


def _changed(workshop: Workshop, person: Person, blog: Blog, number: int, before: Before, words: str, **values: object) -> Done:
    """Writes a category's own facts, with everything that shows them, and keeps the change."""
    db = workshop.db
    old = category_subjects(workshop, blog)[number].slug
    filing.set_category(db, number, **values)
    if values.get("slug", old) != old:
        waiting = addresses.home_of(db, blog.id, f"/{old}/", workshop.clock()) is None
        if waiting:
            addresses.drop_waiting(db, "category", number)
        addresses.take(db, blog.id, f"/{values['slug']}/", "category", number, FOREVER if waiting else workshop.clock())
    _mark_below(workshop, blog, number)
    refiling.settle_posts(workshop, blog, filing.posts_in(db, sorted(below(category_subjects(workshop, blog), number))))
    return Done(words, refiling.keep(workshop, person, blog, words, before), number)


def _mark_below(workshop: Workshop, blog: Blog, number: int) -> None:
    """A category's name stands on its own pages and on those of everything below it."""
    for one in below(category_subjects(workshop, blog), number):
        filing.mark_list(workshop.db, blog.id, f"category:{one}")


def move(workshop: Workshop, person: Person, blog_slug: str, number: int, parent: int | None, before_number: int | None = None) -> Done:
    """Puts a category below another one (None is the top), before one of those there, or after all of them."""
    blog = keeper_of(workshop, person, blog_slug)
    with workshop.db.transaction():
        subjects = category_subjects(workshop, blog)
        mine = _subject(subjects, number)
        if parent is not None:
            _subject(subjects, parent)
        check_move(subjects, number, parent)
        before = Before()
        beside = [subject.id for subject in subjects.values() if subject.parent_id == parent and subject.id != number]
        at = beside.index(before_number) if before_number in beside else len(beside)
        for one in (*beside, number):
            before.category(workshop, blog, one)
        words = f"“{mine.name}” stands {f'in “{subjects[parent].name}”' if parent else 'at the top'} now."
        order = [*beside[:at], number, *beside[at:]]
        if parent == mine.parent_id:
            filing.set_positions(workshop.db, order)
            filing.mark_list(workshop.db, blog.id, f"category:{number}")
            return Done(f"“{mine.name}” has another place now.", refiling.keep(workshop, person, blog, words, before), number)
        done = _changed(workshop, person, blog, number, before, words, parent_id=parent)
        filing.set_positions(workshop.db, order)
        return done


def merge(workshop: Workshop, person: Person, blog_slug: str, number: int, into: int) -> Done:
    """Makes one category of two: posts, subcategories and addresses of the first go to the second."""
    blog = keeper_of(workshop, person, blog_slug)
    with workshop.db.transaction():
        subjects = category_subjects(workshop, blog)
        mine = _subject(subjects, number)
        _subject(subjects, into)
        if number == into or into in below(subjects, number):
            raise BadInput(f"“{mine.name}” cannot be merged into itself or into a part of it; choose another category.", "into")
        before = Before(catch_all=blog.catch_all)
        count = len(filing.posts_in(workshop.db, [number]))
        _merge(workshop, blog, number, into, before)
        words = f"“{mine.name}” is part of “{path_in_words(subjects, into)}” now: {_posts(count)} moved."
        return Done(words, refiling.keep(workshop, person, blog, words, before), into)


def _merge(workshop: Workshop, blog: Blog, number: int, into: int | None, before: Before) -> None:
    """Moves everything of a category to another one, or takes it out (None), and removes it.

    Its subcategories go below the other one, or up where it is taken out; where one of the same name
    stands there, the two are merged as well.
    """
    db = workshop.db
    subjects = category_subjects(workshop, blog)
    mine = subjects[number]
    before.category(workshop, blog, number)
    before.owner(workshop, "category", number)
    _move_children(workshop, blog, number, into if into is not None else mine.parent_id, before)
    if blog.catch_all == number:
        blogs.settle(db, blog.id, catch_all=into)
    affected = filing.posts_in(db, sorted(below(subjects, number)))
    refiling.refile(workshop, blog, affected, refiling.replacing("category", {number: into}), before, is_past_too=True)
    heir = into if into is not None else mine.parent_id
    addresses.drop_waiting(db, "category", number)
    addresses.pass_on(db, "category", number, heir) if heir is not None else addresses.lead_away(db, "category", number, "/subjects/")
    for row in before.addresses:
        if row["kind"] == "category" and row["owner"] == number:
            filing.mark_list(db, blog.id, f"away:{row['path']}")
    if heir is not None:
        _mark_below(workshop, blog, heir)
    filing.mark_list(db, blog.id, f"category:{number}")
    filing.remove_category(db, number)
    refiling.settle_posts(workshop, blogs.by_id(db, blog.id), affected)


def _move_children(workshop: Workshop, blog: Blog, number: int, parent: int | None, before: Before) -> None:
    for child in [subject for subject in category_subjects(workshop, blog).values() if subject.parent_id == number]:
        twin = filing.find_category(workshop.db, blog.id, parent, child.name)
        if twin is not None and twin.id != number:
            _merge(workshop, blog, child.id, twin.id, before)
            continue
        name = child.name if twin is None else _other_name(workshop, blog, parent, child.name)
        before.category(workshop, blog, child.id)
        filing.set_category(workshop.db, child.id, parent_id=parent, name=name)
        _mark_below(workshop, blog, child.id)


def _other_name(workshop: Workshop, blog: Blog, parent: int | None, name: str) -> str:
    """A name beside the one that is about to go: `Wiring 2`."""
    number = 2
    while filing.find_category(workshop.db, blog.id, parent, f"{name[: LONGEST_NAME - 4]} {number}"):
        number += 1
    return f"{name[: LONGEST_NAME - 4]} {number}"


def remove(workshop: Workshop, person: Person, blog_slug: str, number: int, to: int | None) -> Done:
    """Removes a category. Its posts go to another one, or only leave it (None); its subcategories go up."""
    blog = keeper_of(workshop, person, blog_slug)
    with workshop.db.transaction():
        subjects = category_subjects(workshop, blog)
        mine = _subject(subjects, number)
        if to is not None:
            _subject(subjects, to)
        if to == number:
            raise BadInput(f"The posts of “{mine.name}” cannot go to the category that is removed; choose another one.", "to")
        if blog.catch_all == number and to is None:
            raise Refused(f"“{mine.name}” is the catch-all; name another one first, or say where its posts go.")
        before = Before(catch_all=blog.catch_all)
        count = len(filing.posts_in(workshop.db, [number]))
        _move_children(workshop, blog, number, mine.parent_id, before)
        _merge(workshop, blog, number, to, before)
        _catch(workshop, blog, before)
        where = f"{_posts(count)} went to “{subjects[to].name}”" if to is not None else f"{_posts(count)} left it"
        words = f"“{mine.name}” is removed; {where}."
        return Done(words, refiling.keep(workshop, person, blog, words, before), to)


def _catch(workshop: Workshop, blog: Blog, before: Before) -> None:
    """Posts for readers that a change left without any category fall under the catch-all."""
    if blog.catch_all:
        left = [post_id for post_id in before.posts if not filing.has_category(workshop.db, post_id)]
        refiling.refile(workshop, blog, left, refiling.adding([blog.catch_all]), before)


def split(workshop: Workshop, person: Person, blog_slug: str, number: int, tag_name: str, name: str = "") -> Done:
    """Moves the posts of a category that have a tag into a subcategory of it, named like the tag or otherwise."""
    blog = keeper_of(workshop, person, blog_slug)
    with workshop.db.transaction():
        subjects = category_subjects(workshop, blog)
        mine = _subject(subjects, number)
        tag = filing.find_tag(workshop.db, blog.id, " ".join(tag_name.split()).lstrip("#"))
        if tag is None:
            raise BadInput(f"There is no tag “{tag_name.strip()}” on this blog; choose one that posts of “{mine.name}” have.", "tag")
        chosen = sorted(set(filing.posts_in(workshop.db, [number])) & set(filing.posts_tagged(workshop.db, [tag.id])))
        if not chosen:
            raise BadInput(f"No post of “{mine.name}” has the tag “{tag.name}”; choose another tag.", "tag")
        words = read_subject_name(name) if name.strip() else tag.name[:1].upper() + tag.name[1:]
        new = make_category(workshop, blog, f"{path_in_words(subjects, number)} > {words}")
        before = Before()

        def change(categories: tuple[int, ...], tags: tuple[int, ...]) -> tuple[tuple[int, ...], tuple[int, ...]]:
            if number not in categories or tag.id not in tags:
                return categories, tags
            return refiling.replacing("category", {number: new})(categories, tags)

        count = refiling.refile(workshop, blog, chosen, change, before)
        told = f"{_posts(count)} of “{mine.name}” tagged “{tag.name}” went to “{mine.name} > {words}”."
        return Done(told, refiling.keep(workshop, person, blog, told, before), new)


def describe(
    workshop: Workshop, person: Person, blog_slug: str, number: int, *, description: str, picture: int | None, shows_below: bool, in_menu: bool
) -> Done:
    """Settles what a category's own page shows: a description in Markdown, a picture, the posts below it; and its place in the menu."""
    blog = keeper_of(workshop, person, blog_slug)
    if len(description) > LONGEST_DESCRIPTION:
        raise BadInput(f"The description has {len(description):,} letters; {LONGEST_DESCRIPTION:,} is the most.", "description")
    document = from_markdown(description)
    with workshop.db.transaction():
        mine = _subject(category_subjects(workshop, blog), number)
        row = media.by_id(workshop.db, picture) if picture is not None else None
        if picture is not None and (row is None or row.blog_id != blog.id or row.kind != "picture"):
            raise BadInput("That is no picture of this blog’s library; choose another one.", "picture")
        before = Before()
        before.category(workshop, blog, number)
        for one in {before.categories[number]["picture"], picture} - {None}:
            filing.mark_list(workshop.db, blog.id, f"media:{one}")
        kept = "" if is_empty(document) else canonical(document)
        values = {"description": kept, "picture": picture, "shows_below": int(shows_below), "in_menu": int(in_menu)}
        return _changed(workshop, person, blog, number, before, f"The page of “{mine.name}” is settled.", **values)


def order(workshop: Workshop, person: Person, blog_slug: str, number: int, step: int) -> Done:
    """Moves a category one place up (-1) or down (1) among those beside it."""
    blog = keeper_of(workshop, person, blog_slug)
    subjects = category_subjects(workshop, blog)
    mine = _subject(subjects, number)
    beside = [subject.id for subject in subjects.values() if subject.parent_id == mine.parent_id]
    at = beside.index(number) + step
    if not 0 <= at < len(beside):
        raise Refused(f"“{mine.name}” is the {'first' if step < 0 else 'last'} one there.")
    beside.remove(number)
    follower = beside[at] if at < len(beside) else None
    return move(workshop, person, blog_slug, number, mine.parent_id, follower)


def set_catch_all(workshop: Workshop, person: Person, blog_slug: str, number: int | None) -> None:
    """Names the category under which posts without any fall when they are placed. Only the owner may."""
    blog = owned_blog(workshop, person, blog_slug)
    with workshop.db.transaction():
        if number is not None:
            _subject(category_subjects(workshop, blog), number)
        blogs.settle(workshop.db, blog.id, catch_all=number)


def set_rule(workshop: Workshop, person: Person, blog_slug: str, least: str, most: str, help: str) -> None:
    """How many categories a post needs and may have. Only the owner may. Raises BadInput."""
    blog = owned_blog(workshop, person, blog_slug)
    rule = read_rule(least, most, help)
    with workshop.db.transaction():
        blogs.settle(workshop.db, blog.id, least_categories=rule.least, most_categories=rule.most, filing_help=rule.help)


def refile_posts(
    workshop: Workshop, person: Person, blog_slug: str, post_ids: Iterable[int], *, add: Iterable[int] = (), take: Iterable[int] = (),
    main: int | None = None, tags: Iterable[int] = (), without_tags: Iterable[int] = (),
) -> Done:  # fmt: skip
    """Files many posts at once, for readers too where they are out. Raises NotFound for a post of another blog."""
    blog = keeper_of(workshop, person, blog_slug)
    post_ids = list(dict.fromkeys(post_ids))
    with workshop.db.transaction():
        subjects = category_subjects(workshop, blog)
        add, take = list(add), list(take)
        for number in (*add, *take, *([main] if main is not None else [])):
            _subject(subjects, number)
        strangers = filing.strangers(workshop.db, blog.id, post_ids)
        if strangers:
            raise NotFound(f"There is no post with the number {strangers[0]} on this blog.")
        before = Before()
        count = refiling.refile(workshop, blog, post_ids, refiling.adding(add, tags, take, main, without_tags), before)
        _catch(workshop, blog, before)
        names = [subjects[number].name for number in dict.fromkeys([*([main] if main is not None else []), *add])]
        where = f" under {' and '.join(names)}" if names else ""
        words = f"{_posts(count)} {'is' if count == 1 else 'are'} filed{where}." if count else "Nothing was to be changed."
        return Done(words, refiling.keep(workshop, person, blog, words, before) if count else 0)


def _posts(count: int) -> str:
    return f"{count} post{'s' if count != 1 else ''}"
