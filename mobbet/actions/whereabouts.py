"""Where readers find a post, and why it is not where somebody looks for it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from mobbet.actions.permalinks import category_subjects
from mobbet.actions.post_states import is_settled, showings
from mobbet.actions.workshop import Workshop
from mobbet.core import states
from mobbet.core.audience import (
    EVERYONE,
    GROUP,
    LOCKED,
    PASSWORD,
    PRIVATE_TITLE,
    SIGNED_IN,
    STRANGER,
    Reader,
    list_audience,
    list_audiences,
    may_read,
)
from mobbet.core.filing import category_lists
from mobbet.core.keys import ALL, FRONT, TOP, ListName
from mobbet.core.places_outside import shown
from mobbet.core.screen_dates import month_name, time_in_words
from mobbet.core.states import state_at
from mobbet.core.timing import local, month_of
from mobbet.core.values import existing
from mobbet.publish.lists import page_path
from mobbet.publish.pages import feed
from mobbet.publish.pages.post_list import MOST_ON_TOP
from mobbet.publish.plan import Plan
from mobbet.store import editions, holds, placements, posts, readers, targets
from mobbet.store.blogs import Blog
from mobbet.store.placements import Placement
from mobbet.store.posts import Post
from mobbet.store.snapshot import SiteSnapshot

HELD = 60
"""For how many seconds a browser may hold a page of a place outside (`publish/targets/host.A_MINUTE`)."""


@dataclass(frozen=True)
class Whereabout:
    """One place on the site: whether the post stands there, in a sentence, its path, and the docket's sheet that mends it ('' for none)."""

    is_there: bool
    words: str
    path: str = ""
    mend: str = ""


def whereabouts(
    workshop: Workshop, post: Post, blog: Blog, reader: Reader = STRANGER, instant: int | None = None
) -> list[Whereabout]:
    """Where a reader finds a post at an instant (now, without one), place by place; or why it is nowhere for them."""
    now = workshop.clock() if instant is None else instant
    rows = placements.of_post(workshop.db, post.id)
    live = next((row for row in reversed(rows) if row.shows_from <= now < row.shows_until), None)
    if live is None:
        return [_nowhere(workshop, post, blog, rows, now)]
    if not may_read(live.audience, reader):
        return [
            Whereabout(
                False,
                f"It is out, but for {audience_words(workshop, live)}: {reader_words(workshop, reader)} may not read it.",
                "",
                "visibility",
            )
        ]
    snapshot = SiteSnapshot(workshop.db, blog.id, now, reader)
    hold = holds.of_blog(workshop.db, blog.id) if instant is None else None
    if hold:
        return [
            Whereabout(
                False,
                f"Readers get edition {hold.edition}, which was put back; what is written since waits.",
                "",
                "main",
            )
        ]
    found = [Whereabout(True, f"Its page is at {live.path}.", live.path)]
    if instant is None and not is_settled(workshop, post):
        found.append(
            Whereabout(
                False,
                "What was changed since it went out waits: readers get the text as it was last updated.",
                "",
                "main",
            )
        )
    if live.is_page:
        found.append(Whereabout(True, "It is a page, so it stands on no list and in no feed."))
        found.append(_in_menu(snapshot, live))
    elif list_audience(live.audience, live.listed) not in list_audiences(reader):
        words = f"It is for {audience_words(workshop, live)}, so it stands on no list, feed or map."
        return [*found, Whereabout(False, words, "", "visibility")]
    else:
        found += _on_lists(workshop, blog, snapshot, live)
    if instant is None:
        found += _on_targets(workshop, blog)
        found.append(
            Whereabout(
                True,
                "Browsers ask for pages anew each time; one that was left open shows the older page until it is loaded again.",
            )
        )
    return found


def _on_lists(
    workshop: Workshop, blog: Blog, snapshot: SiteSnapshot, live: Placement
) -> Iterator[Whereabout]:
    """The front page, the lists of its categories, tags and month, the feed and the menu."""
    yield _on_front(snapshot, live)
    yield from _in_categories(workshop, blog, snapshot, live)
    for tag in snapshot.tags(live.tags):
        name, words = ListName.of("tag", tag.id), f"the page of the tag “{tag.name}”"
        yield _on_list(snapshot, live, name, words, f"/tag/{tag.slug}/")
    month = month_of(live.goes_out, live.zone)
    name, words = ListName.of("month", month), f"the page of {month_name(month)}"
    yield _on_list(snapshot, live, name, words, f"/{month.replace('-', '/')}/")
    if list_audience(live.audience, live.listed) in (EVERYONE, LOCKED):
        yield _in_feed(snapshot, live)
    elif live.audience.startswith(GROUP):
        yield Whereabout(False, "The blog’s feed leaves it out; the group’s private feed has it.")
    yield _in_menu(snapshot, live)


def _in_menu(snapshot: SiteSnapshot, live: Placement) -> Whereabout:
    """Whether the menu leads to a post or page."""
    links = [link for one in snapshot.house.menu for link in (one, *one.below)]
    if any(link.path == live.path for link in links):
        return Whereabout(True, "The menu leads to it.")
    return Whereabout(False, "The menu has no link to it.", "", "menu")


def _on_targets(workshop: Workshop, blog: Blog) -> list[Whereabout]:
    """The places outside that do not have the current edition yet, with how far they are."""
    number = editions.current_number(workshop.db, blog.id)
    found = []
    for target in targets.of_blog(workshop.db, blog.id):
        if target.edition < number:
            why = f": {target.problem}" if target.problem else ""
            found.append(
                Whereabout(
                    False,
                    f"{shown(target.address)} does not have the newest edition yet; {target.done} of {target.wanted} files are sent{why}.",
                    "",
                    "",
                )
            )
        elif target.sent_at and target.sent_at + HELD > workshop.clock():
            until = local(target.sent_at + HELD, blog.zone)
            found.append(
                Whereabout(
                    False,
                    f"{shown(target.address)} has it; a browser that read the page before may hold the older copy until {until:%H:%M:%S}.",
                )
            )
    return found


def audience_words(workshop: Workshop, live: Placement) -> str:
    """For whom something is that is out, in words."""
    kind, _, number = live.audience.partition(":")
    if kind == "group":
        group = readers.group(workshop.db, int(number))
        return f"the group “{group.name}”" if group else "a group that is no more"
    return {
        EVERYONE: "everyone",
        SIGNED_IN: "people who are signed in",
        PASSWORD: "whoever knows its password",
    }.get(kind, "its author alone")


def reader_words(workshop: Workshop, reader: Reader) -> str:
    if reader.works_here:
        return "whoever works on the blog"
    if reader.groups:
        return "a reader of " + " and ".join(
            f"“{existing(readers.group(workshop.db, number)).name}”" for number in sorted(reader.groups)
        )
    return "somebody who is signed in" if reader.is_signed_in else "a stranger"


def _nowhere(workshop: Workshop, post: Post, blog: Blog, rows: list[Placement], now: int) -> Whereabout:
    state = state_at(showings(rows), now, post.aside_at is not None)
    coming = next((row for row in rows if now < row.shows_from < row.shows_until), None)
    last = next((row for row in reversed(rows) if row.shows_from < row.shows_until), None)
    if state == states.SET_ASIDE:
        return Whereabout(False, "It is set aside; restore it, then it can go out.", "", "state")
    if coming is not None:
        return Whereabout(
            False,
            f"It goes out on {time_in_words(coming.shows_from, coming.zone, now)}; until then nobody finds it.",
            "",
            "goes-out",
        )
    then = "its address answers that it is gone"
    if (
        last is not None
        and last.leads_to
        and SiteSnapshot(workshop.db, blog.id, now).redirect_target(post.id)
    ):
        then = f"its address leads to “{_led_to(workshop, blog, last.leads_to)}” while that is out"
    if state == states.CAME_DOWN and last is not None:
        return Whereabout(
            False,
            f"It came down on {time_in_words(last.shows_until, last.zone, now)}; {then}.",
            "",
            "comes-down",
        )
    if state == states.WITHDRAWN and last is not None:
        return Whereabout(
            False,
            f"It was withdrawn on {time_in_words(last.shows_until, last.zone, now)}; {then}.",
            "",
            "main",
        )
    return Whereabout(False, "It is a draft: nobody finds it until it is published.", "", "main")


def _led_to(workshop: Workshop, blog: Blog, number: int) -> str:
    other = posts.on_blog(workshop.db, blog.id, number)
    return other.title if other else PRIVATE_TITLE


def _on_front(snapshot: SiteSnapshot, live: Placement) -> Whereabout:
    if live.front == "off":
        return Whereabout(False, "It is kept off the front page and the pages before it.", "", "front")
    if (
        live.front == "top"
        and snapshot.count(TOP) - snapshot.rank(TOP, live.goes_out, live.post_id) <= MOST_ON_TOP
    ):
        return Whereabout(True, "It stands at the top of the front page.", "/")
    return _on_list(snapshot, live, FRONT, "the front page", "/")


def _on_list(snapshot: SiteSnapshot, live: Placement, name: ListName, words: str, base: str) -> Whereabout:
    """The page of a list on which the post stands: its newest, or an older one."""
    lists = Plan(snapshot).lists
    count, place = snapshot.count(name), (live.goes_out, live.post_id)
    from_newest = count - snapshot.rank(name, *place)
    if from_newest <= lists.size:
        return Whereabout(True, f"It is number {from_newest} of {min(lists.size, count)} on {words}.", base)
    return Whereabout(
        False,
        f"It is older than the newest {lists.size} on {words}; it stands on an older page.",
        page_path(base, lists.page_holding(name, place)),
    )


def _in_categories(
    workshop: Workshop, blog: Blog, snapshot: SiteSnapshot, live: Placement
) -> list[Whereabout]:
    subjects = category_subjects(workshop, blog)
    found = []
    for name in category_lists(subjects, live.categories):
        subject = subjects[name.number]
        if name.kind == "under":
            found.append(
                Whereabout(
                    False,
                    f"The page of {subject.name} leaves out the posts of its parts.",
                    f"/{subject.slug}/",
                )
            )
        else:
            found.append(_on_list(snapshot, live, name, f"the page of {subject.name}", f"/{subject.slug}/"))
    if not found:
        found.append(
            Whereabout(False, "It is in no category, so no category’s page shows it.", "", "categories")
        )
    return found


def _in_feed(snapshot: SiteSnapshot, live: Placement) -> Whereabout:
    place = snapshot.count(ALL) - snapshot.rank(ALL, live.goes_out, live.post_id)
    if place <= feed.LENGTH:
        return Whereabout(True, "It is in the blog’s feed.", "/feed.atom")
    return Whereabout(False, f"The blog’s feed holds the newest {feed.LENGTH} posts, and it is older.")
