"""The Filing screen in words and drawings: the tree, the map, what is chosen, the worklists."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from mobbet.actions import filing_counts
from mobbet.actions.filing_counts import Count
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.workshop import Workshop
from mobbet.core import states
from mobbet.core.document import schema
from mobbet.core.document.text import plain
from mobbet.core.document.write import to_markdown
from mobbet.core.facts import Subject
from mobbet.core.filing import Rule, path_in_words, trail, tree
from mobbet.core.screen_dates import short_day
from mobbet.core.timing import local
from mobbet.core.treemap import Box, squarified
from mobbet.core.values import existing
from mobbet.store import blogs, changes, filing, media, worklists
from mobbet.store.blogs import Blog
from mobbet.store.media import Wanted
from mobbet.store.people import Person
from mobbet.store.worklists import WorklistPost
from mobbet.web.filing import addresses as to_filing
from mobbet.web.filing.contexts import (
    ChangeMessage,
    Chosen,
    FiledPost,
    FilingPage,
    FilingPosts,
    MapBox,
    PictureChoice,
    Pictures,
    TreeRow,
)
from mobbet.web.library import addresses as to_library
from mobbet.web.public import addresses as to_public
from mobbet.web.shell.bar import bar_for

WIDE, NARROW = (800.0, 330.0), (380.0, 460.0)
"""The sizes in which the map is drawn: for a desk, and for a phone, whole in both."""
MOST_OPEN = 150
MOST_PICTURES = 11
"""A tree of up to so many categories stands open as a whole."""
PAGE = 40
SHADES = ((31, 5), (92, 4), (183, 3), (365, 2))
"""Up to how many days since the newest post a category has which shade; older ones have 1, empty ones 0."""
TABS = (("categories", "Categories"), ("tags", "Tags"), ("addresses", "Addresses"))


def tabs(blog: Blog, chosen: str) -> list[tuple[str, str, bool]]:
    return [
        (words, to_filing.filing(blog.slug, "" if name == "categories" else name), name == chosen)
        for name, words in TABS
    ]


def can_keep(workshop: Workshop, person: Person, blog: Blog) -> bool:
    return blogs.role(workshop.db, blog.id, person.id) in ("owner", "editor")


def told_of(workshop: Workshop, blog: Blog, done: str) -> ChangeMessage | None:
    """What the change with that number came to; with an undo while it is the last one."""
    change = changes.by_id(workshop.db, blog.id, int(done)) if done.isdecimal() else None
    if change is None:
        return None
    if change.undone_at is not None:
        return ChangeMessage(f"Undone: {change.words}")
    return ChangeMessage(change.words, change.id if changes.newest(workshop.db, blog.id) == change.id else 0)


def page(
    workshop: Workshop,
    person: Person,
    blog: Blog,
    chosen: int | None,
    opened: frozenset[int] = frozenset(),
    **more: Any,
) -> FilingPage:
    """The categories: the tree, the map, and the one that is looked at."""
    subjects = category_subjects(workshop, blog)
    counts = filing_counts.counts(workshop, blog, subjects)
    chosen = chosen if chosen in subjects else None
    now = workshop.clock()
    rule = Rule(blog.least_categories, blog.most_categories, blog.filing_help)
    shown = _chosen(workshop, blog, subjects, counts, chosen) if chosen else None
    return FilingPage(
        bar=bar_for(workshop, person, blog, "filing"),
        can_keep=can_keep(workshop, person, blog),
        tabs=tabs(blog, "categories"),
        catch_all=subjects[blog.catch_all].name if blog.catch_all in subjects else "",
        rule=rule.words(),
        rule_numbers=(rule.least, rule.most, rule.help),
        needs_category=rule.least > 0,
        tree=_rows(subjects, counts, chosen, opened, blog),
        total=len(subjects),
        boxes=boxes(subjects, counts, chosen, now, WIDE),
        narrow_boxes=boxes(subjects, counts, chosen, now, NARROW),
        chosen=shown,
        paths=[path_in_words(subjects, subject.id) for _, subject in tree(subjects.values())] if can_keep(workshop, person, blog) else [],
        pictures=pictures(workshop, blog, "", shown.picture) if shown else None,
        posts=posts_in(workshop, blog, subjects, chosen, 0) if chosen else None,
        waiting=waiting(workshop, blog) if can_keep(workshop, person, blog) else [],
        **more,
    )  # fmt: skip


def waiting(workshop: Workshop, blog: Blog) -> list[tuple[str, str]]:
    """The worklists that hold something: (words, address)."""
    found = []
    for kind, words in (("unfiled", "without a category of its own"), ("untagged", "without tags")):
        count = worklists.count(workshop.db, blog.id, kind, blog.catch_all)
        if count:
            some = words if count == 1 else words.replace("its", "their")
            found.append(
                (f"{count:,} post{'s' if count != 1 else ''} {some}", to_filing.worklist(blog.slug, kind))
            )
    return found


def _rows(
    subjects: Mapping[int, Subject],
    counts: Mapping[int, Count],
    chosen: int | None,
    opened: frozenset[int],
    blog: Blog,
) -> list[TreeRow]:
    """The rows of the tree that show: all of a small one; of a large one the top, what is opened, and the way to what is chosen."""
    is_small = len(subjects) <= MOST_OPEN
    way = {step.id for step in trail(subjects, chosen)} if chosen else set()
    parents = {subject.parent_id for subject in subjects.values()}
    rows, hidden_below = [], None
    for depth, subject in tree(subjects.values()):
        if hidden_below is not None and depth > hidden_below:
            continue
        hidden_below = None
        has_parts = subject.id in parents
        is_open = has_parts and (is_small or subject.id in opened or subject.id in way)
        if has_parts and not is_open:
            hidden_below = depth
        count = counts[subject.id]
        rows.append(TreeRow(
            subject.id, subject.name, depth, count.own, count.whole, count.to_come, subject.id == chosen, has_parts and not is_small, is_open,
            subject.parent_id, subject.id == blog.catch_all,
        ))  # fmt: skip
    return rows


def boxes(
    subjects: Mapping[int, Subject],
    counts: Mapping[int, Count],
    chosen: int | None,
    now: int,
    size: tuple[float, float],
) -> list[MapBox]:
    """The map of the blog in that width and height: areas by posts, those of subcategories within; empty categories get a narrow strip."""
    below: dict[int | None, list[Subject]] = {}
    for subject in subjects.values():
        below.setdefault(subject.parent_id, []).append(subject)
    made: list[MapBox] = []

    def lay(parent: int | None, box: Box, depth: int) -> None:
        parts: list[tuple[float, Subject | None]] = [
            (_size(counts[subject.id]), subject) for subject in below.get(parent, ())
        ]
        if parent is not None and counts[parent].own:
            parts.append((counts[parent].own, None))
        parts.sort(key=lambda part: -part[0])
        for (_, subject), place in zip(parts, squarified([size for size, _ in parts], box), strict=True):
            if place.width < 3 or place.height < 3:
                continue
            if subject is None and parent is not None:
                made.append(_own_box(subjects[parent], place, counts[parent], chosen, now))
                continue
            if subject is None:
                continue
            has_parts = bool(below.get(subject.id)) and depth < 3 and place.width > 90 and place.height > 54
            made.append(_box(subject, place, counts[subject.id], chosen, now, has_parts))
            if has_parts:
                lay(subject.id, place.inside(4, 22), depth + 1)

    lay(None, Box(1, 1, size[0] - 2, size[1] - 2), 0)
    return made


def _own_box(subject: Subject, place: Box, count: Count, chosen: int | None, now: int) -> MapBox:
    """The posts of a category that are in none of its parts."""
    box = _box(subject, place, count, chosen, now, False)
    words = (
        _fit(f"itself {count.own}", place.width - 12, 7.4) if place.height >= 17 and place.width > 30 else ""
    )
    return replace(
        box,
        words=words,
        note="",
        name=f"{subject.name} itself: {count.own} post{'s' if count.own != 1 else ''}",
    )


def _size(count: Count) -> float:
    return max(count.whole, 0.35)


def _box(subject: Subject, place: Box, count: Count, chosen: int | None, now: int, is_frame: bool) -> MapBox:
    days = (now - count.newest) // 86400 if count.newest else None
    shade = 0 if days is None else next((shade for most, shade in SHADES if days <= most), 1)
    posts = f"{count.whole} post{'s' if count.whole != 1 else ''}"
    age = (
        "nothing out yet"
        if days is None
        else "newest today"
        if days < 1
        else f"newest {days} day{'s' if days != 1 else ''} ago"
    )
    room = place.width - 12
    words = _fit(f"{subject.name} {count.whole}", room, 7.4) if place.height >= 17 and room > 18 else ""
    note = age if place.height > 44 and room > len(age) * 6.4 and not is_frame else ""
    return MapBox(
        subject.id, round(place.x, 1), round(place.y, 1), round(max(0.5, place.width - 1.5), 1), round(max(0.5, place.height - 1.5), 1),
        words, note, shade, subject.id == chosen, is_frame, f"{subject.name}: {posts}, {age}",
    )  # fmt: skip


def _fit(words: str, room: float, each: float) -> str:
    most = int(room / each)
    return words if len(words) <= most else words[: most - 1].rstrip() + "…" if most > 3 else ""


def _chosen(
    workshop: Workshop, blog: Blog, subjects: Mapping[int, Subject], counts: Mapping[int, Count], number: int
) -> Chosen:
    row = existing(filing.category(workshop.db, blog.id, number))
    document = schema.load(row.description) if row.description else None
    words = " ".join(plain(document["content"][0]).split()) if document else ""
    picture = media.on_blog(workshop.db, blog.id, row.picture) if row.picture else None
    count = counts[number]
    return Chosen(
        id=number, name=row.name, path=" › ".join(step.name for step in trail(subjects, number)), slug=row.slug,
        place=f"in {subjects[row.parent_id].name}" if row.parent_id else "at the top", parent=row.parent_id,
        description=to_markdown(document).strip() if document else "", description_words=_fit(words, 60, 1),
        picture=row.picture, picture_words=(picture.caption or picture.name) if picture else "",
        shows_below=bool(row.shows_below), is_catch_all=blog.catch_all == number,
        public=to_public.public(blog.slug, f"/{row.slug}/") if count.whole else "",
        tags=worklists.tags_within(workshop.db, number, 12), has_parts=any(subject.parent_id == number for subject in subjects.values()),
        has_posts=bool(count.whole or count.to_come or filing.posts_in(workshop.db, [number])),
    )  # fmt: skip


def pictures(workshop: Workshop, blog: Blog, find: str, chosen: int | None) -> Pictures:
    """The newest pictures with these words; the chosen one is always among them."""
    wanted = Wanted(words=find.strip(), kind="picture")
    rows = media.find(workshop.db, blog.id, wanted, MOST_PICTURES)
    own = media.on_blog(workshop.db, blog.id, chosen) if chosen else None
    if own and all(row.id != own.id for row in rows):
        rows = [own, *rows]
    count = media.count(workshop.db, blog.id, wanted)
    words = f"{count:,} picture{'s' if count != 1 else ''}" + (
        f" with “{find.strip()}”" if find.strip() else ""
    )
    return Pictures(
        [
            PictureChoice(
                row.id, row.caption or row.name, to_library.picture(row.id, "square"), row.id == chosen
            )
            for row in rows
        ],
        f"{words}; the newest {MOST_PICTURES} are shown." if count > MOST_PICTURES else f"{words}.",
    )


def posts_in(
    workshop: Workshop, blog: Blog, subjects: Mapping[int, Subject], number: int, after: int
) -> FilingPosts:
    """The posts filed under a category, those of its parts too, newest change first."""
    rows = worklists.in_category(workshop.db, blog.id, number, PAGE + 1, after)
    more = f"{to_filing.filing_posts(blog.slug)}?in={number}&after={after + PAGE}" if len(rows) > PAGE else ""
    return FilingPosts(
        [filed_post(workshop, blog, row) for row in rows[:PAGE]],
        more,
        f"Posts of {subjects[number].name}",
        blog.slug,
    )


def posts_tagged(workshop: Workshop, blog: Blog, number: int, name: str, after: int) -> FilingPosts:
    rows = worklists.with_tag(workshop.db, number, PAGE + 1, after)
    more = (
        f"{to_filing.filing_posts(blog.slug)}?tag={number}&after={after + PAGE}" if len(rows) > PAGE else ""
    )
    return FilingPosts(
        [filed_post(workshop, blog, row) for row in rows[:PAGE]], more, f"Posts tagged {name}", blog.slug
    )


def filed_post(workshop: Workshop, blog: Blog, row: WorklistPost) -> FiledPost:
    """A post as the lists of the Filing screen show it."""
    now = workshop.clock()
    if row.aside_at:
        state = "set aside"
    elif row.shows_from <= now < row.shows_until:
        state = f"out since {short_day(local(row.goes_out, blog.zone).date(), local(now, blog.zone).date())}"
    elif now < row.shows_from < row.shows_until:
        state = f"goes out {short_day(local(row.goes_out, blog.zone).date(), local(now, blog.zone).date())}"
    else:
        state = (
            states.WORDS[states.WITHDRAWN]
            if row.shows_from and row.shows_from < row.shows_until
            else "a draft"
        )
    return FiledPost(row.id, row.title or "No title yet", state, row.categories, row.tags)
