"""Where readers find a post, and why it is not where somebody looks for it."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions.permalinks import category_subjects
from mobbet.actions.placing import is_settled, state_of
from mobbet.actions.workshop import Workshop
from mobbet.core import states
from mobbet.core.audience import EVERYONE, VISIBILITIES
from mobbet.core.filing import category_lists
from mobbet.core.timing import month_name, month_of, time_in_words
from mobbet.publish.plan import FEED_LENGTH, MOST_ON_TOP
from mobbet.store import placements
from mobbet.store.blogs import Blog
from mobbet.store.placements import Placement
from mobbet.store.posts import Post
from mobbet.store.snapshot import SiteSnapshot


@dataclass(frozen=True)
class Whereabout:
    """One place on the site: whether the post stands there, in a sentence, its path, and the docket's sheet that mends it ('' for none)."""

    is_there: bool
    words: str
    path: str = ""
    mend: str = ""


def whereabouts(workshop: Workshop, post: Post, blog: Blog) -> list[Whereabout]:
    """Where everyone finds a post now, place by place; or the one reason why it is nowhere."""
    now = workshop.clock()
    rows = placements.of_post(workshop.db, post.id)
    live = next((row for row in rows if row.shows_from <= now < row.shows_until), None)
    if live is None:
        return [_nowhere(workshop, post, blog, rows, now)]
    if live.audience != EVERYONE:
        words = f"It is out for {VISIBILITIES[post.visibility]} alone: its page is at {live.path}, and it stands on no list, feed or map."
        return [Whereabout(False, words, "", "visibility")]
    snapshot = SiteSnapshot(workshop.db, blog.id, now)
    found = [Whereabout(True, f"Its page is at {live.path}.", live.path)]
    if not is_settled(workshop, post):
        found.append(Whereabout(False, "What was changed since it went out waits: readers get the text as it was last updated.", "", "main"))
    found.append(_on_front(snapshot, live))
    found += _in_categories(workshop, blog, snapshot, live)
    found += [_on_list(snapshot, live, f"tag:{tag.id}", f"the page of the tag “{tag.name}”", f"/tag/{tag.slug}/") for tag in snapshot.tags(live.tags)]
    month = month_of(live.goes_out, live.zone)
    found.append(_on_list(snapshot, live, f"month:{month}", f"the page of {month_name(month)}", f"/{month.replace('-', '/')}/"))
    found.append(_in_feed(snapshot, live))
    in_menu = bool(live.in_menu)
    found.append(Whereabout(in_menu, "The menu leads to it." if in_menu else "The menu has no link to it.", "", "" if in_menu else "front"))
    found.append(Whereabout(True, "Browsers ask for pages anew each time; one that was left open shows the older page until it is loaded again."))
    return found


def _nowhere(workshop: Workshop, post: Post, blog: Blog, rows: list[Placement], now: int) -> Whereabout:
    state = state_of(workshop, post)
    coming = next((row for row in rows if now < row.shows_from < row.shows_until), None)
    last = next((row for row in reversed(rows) if row.shows_from < row.shows_until), None)
    if state == states.SET_ASIDE:
        return Whereabout(False, "It is set aside; restore it, then it can go out.", "", "state")
    if coming is not None:
        return Whereabout(False, f"It goes out on {time_in_words(coming.shows_from, coming.zone, now)}; until then nobody finds it.", "", "goes-out")
    if state == states.CAME_DOWN and last is not None:
        return Whereabout(False, f"It came down on {time_in_words(last.shows_until, last.zone, now)}; its address answers that it is gone.", "", "comes-down")
    if state == states.WITHDRAWN and last is not None:
        return Whereabout(False, f"It was withdrawn on {time_in_words(last.shows_until, last.zone, now)}; its address answers that it is gone.", "", "main")
    return Whereabout(False, "It is a draft: nobody finds it until it is published.", "", "main")


def _on_front(snapshot: SiteSnapshot, live: Placement) -> Whereabout:
    if live.front == "off":
        return Whereabout(False, "It is kept off the front page and the pages before it.", "", "front")
    if live.front == "top" and snapshot.count("top") - snapshot.rank("top", live.goes_out, live.post_id) <= MOST_ON_TOP:
        return Whereabout(True, "It stands at the top of the front page.", "/")
    return _on_list(snapshot, live, "front", "the front page", "/")


def _on_list(snapshot: SiteSnapshot, live: Placement, name: str, words: str, base: str) -> Whereabout:
    """The page of a list on which the post stands: its newest, or a numbered one, counted from the oldest."""
    size, count = snapshot.house.posts_on_page, snapshot.count(name)
    rank = snapshot.rank(name, live.goes_out, live.post_id)
    place = count - rank
    if place <= size:
        return Whereabout(True, f"It is number {place} of {min(size, count)} on {words}.", base)
    number = rank // size + 1
    return Whereabout(False, f"It is older than the newest {size} on {words}; it stands on page {number}.", f"{base}page/{number}/")


def _in_categories(workshop: Workshop, blog: Blog, snapshot: SiteSnapshot, live: Placement) -> list[Whereabout]:
    subjects = category_subjects(workshop, blog)
    found = []
    for name in category_lists(subjects, live.categories):
        kind, _, number = name.partition(":")
        subject = subjects[int(number)]
        if kind == "under":
            found.append(Whereabout(False, f"The page of {subject.name} leaves out the posts of its parts.", f"/{subject.slug}/"))
        else:
            found.append(_on_list(snapshot, live, name, f"the page of {subject.name}", f"/{subject.slug}/"))
    if not found:
        found.append(Whereabout(False, "It is in no category, so no category’s page shows it.", "", "categories"))
    return found


def _in_feed(snapshot: SiteSnapshot, live: Placement) -> Whereabout:
    place = snapshot.count("all") - snapshot.rank("all", live.goes_out, live.post_id)
    if place <= FEED_LENGTH:
        return Whereabout(True, "It is in the blog’s feed.", "/feed.atom")
    return Whereabout(False, f"The blog’s feed holds the newest {FEED_LENGTH} posts, and it is older.")
