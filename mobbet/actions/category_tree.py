"""The tree of categories: moving, ordering, merging, removing and splitting. Each change can be undone.

As in `categories.py`, facts are changed in one transaction, and nothing is published.
"""

from __future__ import annotations

from mobbet.actions import refiling
from mobbet.actions.access import blog_for
from mobbet.actions.categories import (
    FilingChange,
    make_category,
    mark_below,
    posts_in_words,
    read_subject_name,
    set_and_keep,
    subject_of,
)
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.refiling import Before
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, Refused
from mobbet.core.filing import LONGEST_NAME, below, check_move, path_in_words
from mobbet.core.rights import Action
from mobbet.store import addresses, blogs, filing, stale
from mobbet.store.blogs import Blog
from mobbet.store.people import Person


def move(
    workshop: Workshop,
    person: Person,
    blog_slug: str,
    number: int,
    parent: int | None,
    before_number: int | None = None,
) -> FilingChange:
    """Puts a category below another one (None is the top), before one of those there, or after all of them."""
    blog = blog_for(workshop, person, blog_slug, Action.KEEP_FILING)
    with changing(workshop, person, "the filing changed"):
        subjects = category_subjects(workshop, blog)
        mine = subject_of(subjects, number)
        if parent is not None:
            subject_of(subjects, parent)
        check_move(subjects, number, parent)
        before = Before()
        beside = [
            subject.id
            for subject in subjects.values()
            if subject.parent_id == parent and subject.id != number
        ]
        at = beside.index(before_number) if before_number in beside else len(beside)
        for one in (*beside, number):
            before.category(workshop, blog, one)
        words = f"“{mine.name}” stands {f'in “{subjects[parent].name}”' if parent else 'at the top'} now."
        order = [*beside[:at], number, *beside[at:]]
        if parent == mine.parent_id:
            filing.set_positions(workshop.db, order)
            stale.mark_fact(workshop.db, blog.id, "category", number)
            return FilingChange(
                f"“{mine.name}” has another place now.",
                refiling.keep(workshop, person, blog, words, before),
                number,
            )
        done = set_and_keep(workshop, person, blog, number, before, words, parent_id=parent)
        filing.set_positions(workshop.db, order)
        return done


def order(workshop: Workshop, person: Person, blog_slug: str, number: int, step: int) -> FilingChange:
    """Moves a category one place up (-1) or down (1) among those beside it."""
    blog = blog_for(workshop, person, blog_slug, Action.KEEP_FILING)
    subjects = category_subjects(workshop, blog)
    mine = subject_of(subjects, number)
    beside = [subject.id for subject in subjects.values() if subject.parent_id == mine.parent_id]
    at = beside.index(number) + step
    if not 0 <= at < len(beside):
        raise Refused(f"“{mine.name}” is the {'first' if step < 0 else 'last'} one there.")
    beside.remove(number)
    follower = beside[at] if at < len(beside) else None
    return move(workshop, person, blog_slug, number, mine.parent_id, follower)


def merge(workshop: Workshop, person: Person, blog_slug: str, number: int, into: int) -> FilingChange:
    """Makes one category of two: posts, subcategories and addresses of the first go to the second."""
    blog = blog_for(workshop, person, blog_slug, Action.KEEP_FILING)
    with changing(workshop, person, "the filing changed"):
        subjects = category_subjects(workshop, blog)
        mine = subject_of(subjects, number)
        subject_of(subjects, into)
        if number == into or into in below(subjects, number):
            raise BadInput(
                f"“{mine.name}” cannot be merged into itself or into a part of it; choose another category.",
                "into",
            )
        before = Before(catch_all=blog.catch_all)
        count = len(filing.posts_in(workshop.db, [number]))
        _merge(workshop, blog, number, into, before)
        words = (
            f"“{mine.name}” is part of “{path_in_words(subjects, into)}” now: {posts_in_words(count)} moved."
        )
        return FilingChange(words, refiling.keep(workshop, person, blog, words, before), into)


def _merge(workshop: Workshop, blog: Blog, number: int, into: int | None, before: Before) -> dict[int, int]:
    """Moves everything of a category to another one, or takes it out (None), and removes it. Answers {merged subcategory: the one it is part of}.

    Its subcategories go below the other one, or up where it is taken out; where one of the same name
    stands there, the two are merged as well.
    """
    db = workshop.db
    subjects = category_subjects(workshop, blog)
    mine = subjects[number]
    before.category(workshop, blog, number)
    before.owner(workshop, "category", number)
    merged = _move_children(workshop, blog, number, into if into is not None else mine.parent_id, before)
    if blog.catch_all == number:
        blogs.settle(db, blog.id, catch_all=into)
    refiling.refile(
        workshop,
        blog,
        filing.posts_in(db, [number]),
        refiling.replacing("category", {number: into}),
        before,
        is_past_too=True,
    )
    heir = into if into is not None else mine.parent_id
    addresses.drop_waiting(db, "category", number)
    addresses.pass_on(db, "category", number, heir) if heir is not None else addresses.lead_away(
        db, "category", number, "/subjects/"
    )
    for row in before.addresses:
        if row["kind"] == "category" and row["owner"] == number:
            stale.mark_fact(db, blog.id, "away", row["path"])
    if heir is not None:
        mark_below(workshop, blog, heir)
    before.subscribers(workshop, number, heir)
    stale.mark_fact(db, blog.id, "category", number)
    filing.remove_category(db, number)
    return merged


def _move_children(
    workshop: Workshop, blog: Blog, number: int, parent: int | None, before: Before
) -> dict[int, int]:
    """Puts the subcategories of a category below another one; answers as `_merge`."""
    merged: dict[int, int] = {}
    for child in [
        subject for subject in category_subjects(workshop, blog).values() if subject.parent_id == number
    ]:
        twin = filing.find_category(workshop.db, blog.id, parent, child.name)
        if twin is not None and twin.id != number:
            merged |= {**_merge(workshop, blog, child.id, twin.id, before), child.id: twin.id}
            continue
        name = child.name if twin is None else _other_name(workshop, blog, parent, child.name)
        before.category(workshop, blog, child.id)
        filing.set_category(workshop.db, child.id, parent_id=parent, name=name)
        mark_below(workshop, blog, child.id)
        refiling.settle_posts(
            workshop,
            blog,
            filing.posts_in(workshop.db, sorted(below(category_subjects(workshop, blog), child.id))),
        )
    return merged


def _other_name(workshop: Workshop, blog: Blog, parent: int | None, name: str) -> str:
    """A name beside the one that is about to go: `Wiring 2`."""
    number = 2
    while filing.find_category(workshop.db, blog.id, parent, f"{name[: LONGEST_NAME - 4]} {number}"):
        number += 1
    return f"{name[: LONGEST_NAME - 4]} {number}"


def remove(workshop: Workshop, person: Person, blog_slug: str, number: int, to: int | None) -> FilingChange:
    """Removes a category. Its posts go to another one, or only leave it (None); its subcategories go up."""
    blog = blog_for(workshop, person, blog_slug, Action.KEEP_FILING)
    with changing(workshop, person, "the filing changed"):
        subjects = category_subjects(workshop, blog)
        mine = subject_of(subjects, number)
        if to is not None:
            subject_of(subjects, to)
        if to == number:
            raise BadInput(
                f"The posts of “{mine.name}” cannot go to the category that is removed; choose another one.",
                "to",
            )
        if blog.catch_all == number and to is None:
            raise Refused(
                f"“{mine.name}” is the catch-all; name another one first, or say where its posts go."
            )
        before = Before(catch_all=blog.catch_all)
        count = len(filing.posts_in(workshop.db, [number]))
        merged = _move_children(workshop, blog, number, mine.parent_id, before)
        while to in merged:  # it was below the one that is removed, and moved up to another of its name
            to = merged[to]
        _merge(workshop, blog, number, to, before)
        refiling.catch(workshop, blog, before)
        where = (
            f"{posts_in_words(count)} went to “{subjects[to].name}”"
            if to is not None
            else f"{posts_in_words(count)} left it"
        )
        words = f"“{mine.name}” is removed; {where}."
        return FilingChange(words, refiling.keep(workshop, person, blog, words, before), to)


def split(
    workshop: Workshop, person: Person, blog_slug: str, number: int, tag_name: str, name: str = ""
) -> FilingChange:
    """Moves the posts of a category that have a tag into a subcategory of it, named like the tag or otherwise."""
    blog = blog_for(workshop, person, blog_slug, Action.KEEP_FILING)
    with changing(workshop, person, "the filing changed"):
        subjects = category_subjects(workshop, blog)
        mine = subject_of(subjects, number)
        tag = filing.find_tag(workshop.db, blog.id, " ".join(tag_name.split()).lstrip("#"))
        if tag is None:
            raise BadInput(
                f"There is no tag “{tag_name.strip()}” on this blog; choose one that posts of “{mine.name}” have.",
                "tag",
            )
        chosen = sorted(
            set(filing.posts_in(workshop.db, [number])) & set(filing.posts_tagged(workshop.db, [tag.id]))
        )
        if not chosen:
            raise BadInput(f"No post of “{mine.name}” has the tag “{tag.name}”; choose another tag.", "tag")
        words = read_subject_name(name) if name.strip() else tag.name[:1].upper() + tag.name[1:]
        new = make_category(workshop, blog, f"{path_in_words(subjects, number)} > {words}")
        before = Before()

        def change(
            categories: tuple[int, ...], tags: tuple[int, ...]
        ) -> tuple[tuple[int, ...], tuple[int, ...]]:
            if number not in categories or tag.id not in tags:
                return categories, tags
            return refiling.replacing("category", {number: new})(categories, tags)

        count = len(refiling.refile(workshop, blog, chosen, change, before))
        told = (
            f"{posts_in_words(count)} of “{mine.name}” tagged “{tag.name}” went to “{mine.name} > {words}”."
        )
        return FilingChange(told, refiling.keep(workshop, person, blog, told, before), new)
