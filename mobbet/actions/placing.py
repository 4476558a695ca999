"""Places a post in time, updates what is out, and withdraws it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from mobbet.actions import alike, post_states, queue
from mobbet.actions.access import editable_post, post_to_withdraw, told_title
from mobbet.actions.approvals import require_may_go_out
from mobbet.actions.pages import readdress_below
from mobbet.actions.permalinks import (
    category_subjects,
    filed,
    free_page_path,
    free_path,
    wanted_slug,
    with_catch_all,
)
from mobbet.actions.posts import check_home
from mobbet.actions.recording import note
from mobbet.actions.work import changing, is_deferred
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import audience_of
from mobbet.core.canonical import canonical
from mobbet.core.docket import frozen, own_pictures
from mobbet.core.document import outline, schema
from mobbet.core.document.anchors import fixed
from mobbet.core.document.mentions import expanded, linked_posts, standing_copies
from mobbet.core.errors import BadInput, Refused
from mobbet.core.filing import Rule, category_lists
from mobbet.core.states import IN_TIMETABLE, OUT
from mobbet.core.timing import FOREVER, instant_of_wall, wall
from mobbet.store import editions, media, placements, posts, slots, stale
from mobbet.store import kept as kept_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.placements import Placement
from mobbet.store.posts import Post


@dataclass(frozen=True)
class Placed:
    """What placing came to: the state the post is in now, its public path, the edition before, and when an update waits for its time."""

    state: str
    path: str
    goes_out: int
    edition_before: int
    waits_until: int = 0


def place(workshop: Workshop, person: Person, post_id: int, has_passed: bool = False) -> Placed:
    """Gives the newest text and the docket to readers, at the time the docket names, or now.

    For a post that is out this updates what is out, now or at the time named for the update; until then readers get
    the text as it is. One that waits for its turn goes to the end of the queue. With `has_passed`, a new post whose times are both past becomes one that came down.
    A dry run shows what would be, also where an editor has to say so first. Raises BadInput and Refused with the reason when that cannot be.
    """
    post, blog = editable_post(workshop, person, post_id)
    check_home(workshop, post)
    with changing(workshop, person) as unit:
        post = posts.again(workshop.db, post)
        if not unit.is_dry_run:
            require_may_go_out(workshop, person, post, blog)
        now = workshop.clock()
        order = queue.waiting_but(workshop, blog, post_id) if post.waits_turn else None
        if order is not None:  # the slot that was free when it was chosen may be another post's by now
            slots.set_queue(workshop.db, blog.id, order)
            post = replace(post, goes_out_wall=queue.next_free(workshop, blog).wall)
        earlier = placements.of_post(workshop.db, post_id)
        current = placements.shown_at(earlier, now)
        placement = _placement(
            workshop, person, post, blog, earlier, current, now, has_passed and not earlier
        )
        for row in earlier:
            if row.shows_until > now and row.shows_from < row.shows_until:
                placements.end(workshop.db, row.id, max(now, placement.shows_from) if row == current else now)
        placements.add(
            workshop.db, placement, category_lists(category_subjects(workshop, blog), placement.categories)
        )
        if is_deferred():
            alike.leave(workshop, post_id)
        else:
            alike.join(workshop, blog, placement)
        stale.mark_posts(workshop.db, blog.id, post_id)
        if any(row.kind for row in (*earlier, placement)):
            readdress_below(workshop, blog, post_id)
        if not post.is_page and not posts.categories(workshop.db, post_id):
            posts.set_categories(workshop.db, post_id, list(placement.categories), now)
        waits = current is not None and placement.shows_from > now
        posts.settle(
            workshop.db,
            post_id,
            now,
            slug=placement.slug,
            goes_out_wall=placement.goes_out_wall,
            **({} if waits else {"update_wall": None}),
        )
        if order is not None:
            slots.set_queue(workshop.db, blog.id, [*order, post_id])
        queue.refill(workshop, blog, is_strict=order is not None)
        before = editions.current_number(workshop.db, blog.id)
        state = OUT if current or placement.shows_from <= now else IN_TIMETABLE
        unit.ends_hold = unit.ends_hold or placement.shows_from <= now
        done = _done(state, waits, current is not None)
        unit.why = unit.why or f"“{told_title(post)}” {done}"
        note(workshop, person, "placed", blog.id, told_title(post), _RECORDED[done], post_id)
    return Placed(state, placement.path, placement.goes_out, before, placement.shows_from if waits else 0)


_RECORDED = {
    "is placed": "it is in the timetable",
    "is to be updated": "an update waits for its time",
    "is updated": "what is out is updated",
    "is published": "it is out",
}


def _done(state: str, waits: bool, was_out: bool) -> str:
    """What placing did, for the list of editions."""
    if state != OUT:
        return "is placed"
    return "is to be updated" if waits else "is updated" if was_out else "is published"


def _placement(
    workshop: Workshop,
    person: Person,
    post: Post,
    blog: Blog,
    earlier: list[Placement],
    current: Placement | None,
    now: int,
    has_passed: bool,
) -> Placement:
    revision = posts.working(workshop.db, post.id)
    if post.aside_at is not None:
        raise Refused("This post is set aside; restore it first.")
    if not revision.title:
        raise BadInput("The post has no title yet; give it one, then it can go out.", "title")
    goes_out_wall, goes_out, zone = _goes_out(post, blog, current, now)
    update = instant_of_wall(post.update_wall, blog.zone) if current and post.update_wall else now
    comes_down = instant_of_wall(post.comes_down_wall, blog.zone) if post.comes_down_wall else FOREVER
    if comes_down <= (goes_out if has_passed else max(goes_out, now, update)):
        raise BadInput(
            "It would come down before it goes out; choose a later time for it to come down.",
            "comes_down_wall",
        )
    was_shown = any(row.shows_from < row.shows_until and row.shows_from <= now for row in earlier)
    kept = fixed(schema.load(revision.body))
    posts.set_body(workshop.db, post.id, revision.number, canonical(kept))
    document = expanded(kept, lambda number: kept_store.document(workshop.db, blog.id, number))
    shown = dict.fromkeys(
        [
            *outline.items(document),
            *([post.lead_media] if post.lead_media else []),
            *own_pictures(post.own_look),
        ]
    )
    slug, categories = wanted_slug(post, blog, revision.title), _categories(workshop, post, blog)
    if post.is_page:
        path, slug = free_page_path(workshop, blog, post, slug)
    else:
        where = filed(category_subjects(workshop, blog), categories, goes_out, zone)
        path, slug = free_path(workshop, blog, post.id, slug, where)
    return Placement(
        id=0, blog_id=blog.id, post_id=post.id, revision=revision.number, zone=zone,
        goes_out_wall=goes_out_wall, comes_down_wall=post.comes_down_wall, goes_out=goes_out, comes_down=comes_down,
        shows_from=max(now, goes_out, update) if was_shown else goes_out, shows_until=comes_down,
        path=path, slug=slug,
        audience=audience_of(post.visibility, post.author_id, post.id), author_id=post.author_id,
        categories=categories, tags=() if post.is_page else tuple(posts.tags(workshop.db, post.id)),
        media=media.of_blog(workshop.db, blog.id, list(shown)),
        placed_by=person.id, placed_at=now, links=linked_posts(document), kept=standing_copies(kept), **frozen(post),
    )  # fmt: skip


def moment_of(workshop: Workshop, blog: Blog, post: Post) -> int:
    """The instant at which the main action of a post takes effect: now, or when it is to go out, or its update. Raises BadInput."""
    now = workshop.clock()
    current, _ = waiting_update(placements.of_post(workshop.db, post.id), now)
    _, goes_out, _ = _goes_out(post, blog, current, now)
    update = instant_of_wall(post.update_wall, blog.zone) if current and post.update_wall else now
    return max(now, goes_out, update)


def _categories(workshop: Workshop, post: Post, blog: Blog) -> tuple[int, ...]:
    """What a post is filed under when it is placed: the catch-all where it has none; a page under nothing. Raises Refused by the blog's rule."""
    if post.is_page:
        return ()
    chosen = tuple(posts.categories(workshop.db, post.id))
    rule = Rule(blog.least_categories, blog.most_categories, blog.filing_help)
    told = [number for number in chosen if number != blog.catch_all]
    problem = rule.refusal(len(chosen), len(told))
    if problem:
        raise BadInput(problem, "categories")
    return with_catch_all(blog, chosen)


def _goes_out(post: Post, blog: Blog, current: Placement | None, now: int) -> tuple[str, int, str]:
    """(wall time, instant, zone). A post that is out keeps its time unless an earlier one was chosen."""
    if current and post.goes_out_wall in (None, current.goes_out_wall):
        return current.goes_out_wall, current.goes_out, current.zone
    if post.goes_out_wall is None:
        return wall(now, blog.zone), now, blog.zone
    goes_out = instant_of_wall(post.goes_out_wall, blog.zone)
    if current and goes_out > now:
        raise BadInput(
            "The post is out already; choose a time that has passed, or withdraw it first.", "goes_out_wall"
        )
    return post.goes_out_wall, goes_out, blog.zone


def take_update_back(workshop: Workshop, person: Person, post_id: int) -> None:
    """Takes an update that waits for its time back: what is out stays out. Raises Refused where none waits."""
    post, blog = editable_post(workshop, person, post_id)
    require_may_go_out(workshop, person, post, blog)
    with changing(workshop, person, f"“{told_title(post)}”: an update taken back"):
        now = workshop.clock()
        rows = placements.of_post(workshop.db, post.id)
        current, coming = waiting_update(rows, now)
        if current is None or coming is None:
            raise Refused("No update of this post waits for its time.")
        placements.end(workshop.db, coming.id, now)
        placements.end(workshop.db, current.id, current.comes_down)
        stale.mark_posts(workshop.db, blog.id, post.id)
        posts.settle(workshop.db, post.id, now, update_wall=None)


def undo_update(workshop: Workshop, person: Person, post_id: int) -> None:
    """Gives readers what they got before the last update of a post; its sheet and docket stay. Raises Refused without one."""
    post, blog = editable_post(workshop, person, post_id)
    require_may_go_out(workshop, person, post, blog)
    with changing(workshop, person, f"“{told_title(post)}”: an update undone"):
        now = workshop.clock()
        rows = placements.of_post(workshop.db, post.id)
        current, _ = waiting_update(rows, now)
        before = next(
            (
                row
                for row in reversed(rows)
                if current
                and row.id < current.id
                and row.shows_until == current.shows_from
                and row.shows_from < row.shows_until
            ),
            None,
        )
        if before is None:
            raise Refused("This post was not updated; withdraw it instead.")
        for row in rows:
            if row.shows_until > now and row.shows_from < row.shows_until:
                placements.end(workshop.db, row.id, now)
        again = replace(
            before, shows_from=now, shows_until=before.comes_down, placed_by=person.id, placed_at=now
        )
        placements.add(
            workshop.db, again, category_lists(category_subjects(workshop, blog), again.categories)
        )
        stale.mark_posts(workshop.db, blog.id, post.id)


def waiting_update(rows: list[Placement], now: int) -> tuple[Placement | None, Placement | None]:
    """(what is out, the update of it that waits for its time) among the placements of a post."""
    current = placements.shown_at(rows, now)
    coming = next((row for row in reversed(rows) if now < row.shows_from < row.shows_until), None)
    return current, coming if current else None


def withdraw(workshop: Workshop, person: Person, post_id: int) -> int:
    """Takes a post off the site, or out of the timetable; answers with the edition before.

    Raises Refused when it is on neither.
    """
    post, blog = post_to_withdraw(workshop, person, post_id)
    with changing(workshop, person, f"“{told_title(post)}”: withdrawn") as unit:
        now = workshop.clock()
        live = [
            row
            for row in placements.of_post(workshop.db, post_id)
            if row.shows_until > now and row.shows_from < row.shows_until
        ]
        if not live:
            raise Refused("This post is neither out nor in the timetable; there is nothing to withdraw.")
        unit.ends_hold = unit.ends_hold or any(row.shows_from <= now for row in live)
        for row in live:
            placements.end(workshop.db, row.id, now)
        stale.mark_posts(workshop.db, blog.id, post_id)
        note(workshop, person, "withdrawn", blog.id, told_title(post), post_id=post_id)
        posts.settle(workshop.db, post_id, now, goes_out_wall=None, update_wall=None)
        queue.refill(workshop, blog, is_strict=False)
        return editions.current_number(workshop.db, blog.id)


def why_at(workshop: Workshop, blog: Blog, instant: int) -> str:
    """What happens at an instant by itself, in words: “Which glue” goes out."""
    turning = placements.turning_at(workshop.db, blog.id, instant)
    words = ", ".join(f"“{title}” {what}" for what, title in turning[:3])
    return f"{words} and others" if len(turning) > 3 else words or "the blocks below posts changed by time"


def set_aside(workshop: Workshop, person: Person, post_id: int) -> None:
    """Removes a post from the lists, restorably. Raises Refused while readers get it or will get it."""
    post, blog = editable_post(workshop, person, post_id)
    with changing(workshop):
        if post_states.state_of(workshop, post) in (OUT, IN_TIMETABLE):
            raise Refused("Readers get this post, or are going to; withdraw it first.")
        posts.settle(workshop.db, post.id, workshop.clock(), aside_at=workshop.clock())
        note(workshop, person, "set-aside", blog.id, told_title(post), post_id=post.id)


def restore(workshop: Workshop, person: Person, post_id: int) -> None:
    """Brings a post that was set aside back to the lists."""
    post, _ = editable_post(workshop, person, post_id)
    with changing(workshop):
        posts.settle(workshop.db, post.id, workshop.clock(), aside_at=None)
