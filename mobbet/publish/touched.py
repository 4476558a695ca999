"""Which pages a change may have altered: what a publication looks at instead of the whole site."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator

from mobbet.publish.list_pages import FEED_LENGTH, FEEDS, SITEMAP_LENGTH, pages
from mobbet.publish.plan import Plan

Changes = dict[int, tuple[dict | None, dict | None]]
"""{post: (its state before, its state now)}, as `Plan.state` tells it."""
Moved = tuple[int, dict | None, dict | None]
"""(post, its state while it stood on a list, its state now that it stands there)."""


def touched(plan: Plan, changes: Changes, lists: Iterable[str] = ()) -> set[str]:
    """The keys of every page that may differ after these changes, and after the own facts of these lists have changed."""
    changes = {post_id: pair for post_id, pair in changes.items() if pair[0] != pair[1]}
    keys: set[str] = set()
    for post_id, (before, now) in changes.items():
        keys |= _of_post(plan, post_id, before, now)
    for name, posts in _by_list(changes).items():
        keys |= _of_list(plan, name, posts)
    for name in set(lists):
        keys |= _of_changed_list(plan, name)
    return keys


def certain(plan: Plan, changes: Changes) -> dict[str, str]:
    """{key: path} of pages that differ after these changes, whatever else they show, if they were there before: the changed posts' own,
    those of lists on which they stand, and those on which other posts stand than before.
    """
    changes = {post_id: pair for post_id, pair in changes.items() if pair[0] != pair[1]}
    found = {
        f"post/{post_id}": now["path"]
        for post_id, (before, now) in changes.items()
        if _is_rewritten(before, now)
    }
    for name, posts in _by_list(changes).items():
        if name in ("all", "top") or name.startswith("under:"):
            continue
        count, size = plan.snapshot.count(name), plan.snapshot.house.posts_on_page
        rewritten = [
            plan.snapshot.rank(name, now["goes_out"], post_id)
            for post_id, before, now in posts
            if _is_rewritten(before, now)
        ]
        numbers = _shifted_pages(plan, name, posts) | {place // size + 1 for place in rewritten}
        numbers |= {0} if any(place >= count - size for place in rewritten) else set()
        found.update(
            {f"list/{name}/{number}": path for number in numbers if (path := plan.lists.path(name, number))}
        )
    return found


def _is_rewritten(before: dict | None, now: dict | None) -> bool:
    """Whether a post shows something else than before, in lists too: what those show of one behind a password is its author's choice.

    A state that an older Mobbet kept may lack its audience.
    """
    return (
        bool(before and now)
        and before["digest"] != now["digest"]
        and not any(state.get("audience", "password:").startswith("password:") for state in (before, now))
    )


def _shifted_pages(plan: Plan, name: str, posts: list[Moved]) -> set[int]:
    """The numbers of a list's pages on which other posts stand than before."""
    size = plan.snapshot.house.posts_on_page
    return {
        number
        for start, end in _shifted_places(plan, name, posts)
        for number in range(start // size + 1, (end - 1) // size + 2)
    }


def _shifted_places(plan: Plan, name: str, posts: list[Moved]) -> Iterator[tuple[int, int]]:
    """(first place, place after the last) of the stretches of a list, as it is now, in which other posts stand than before, from 0.

    A post stands where it stood if as many were taken out before it as came in.
    """
    steps: Counter[int] = Counter()
    for post_id, before, now in posts:
        if before and now and before["goes_out"] == now["goes_out"]:
            continue
        if before:
            steps[plan.snapshot.rank(name, before["goes_out"], post_id)] += 1
        if now:
            place = plan.snapshot.rank(name, now["goes_out"], post_id)
            steps[place + 1] -= 1
            yield place, place + 1
    shift, start = 0, 0
    for place in sorted(steps):
        if shift and place > start:
            yield start, place
        shift, start = shift + steps[place], place
    count = plan.snapshot.count(name)
    if shift and count > start:
        yield start, count


def _by_list(changes: Changes) -> dict[str, list[Moved]]:
    """{list: what became of its posts}."""
    moved: dict[str, list[Moved]] = {}
    for post_id, (before, now) in changes.items():
        for name in {*(before or {}).get("lists", ()), *(now or {}).get("lists", ())}:
            on_before = before if before and name in before["lists"] else None
            on_now = now if now and name in now["lists"] else None
            moved.setdefault(name, []).append((post_id, on_before, on_now))
    return moved


def _of_post(plan: Plan, post_id: int, before: dict | None, now: dict | None) -> set[str]:
    """A post's own page, and those that show something of it beside their own text."""
    keys = {f"post/{post_id}", f"short/{post_id}", f"card/{post_id}", *plan.former_keys("post", post_id)}
    if before is None or now is None or any(before.get(name) != now[name] for name in ("path", "audience")):
        keys.update(_of_links(plan, post_id))
        for number in _led_here(plan, post_id):
            keys.update(plan.former_keys("post", number))
    for state in (before, now):
        if state is None:
            continue
        if state.get("series"):
            keys.update(f"post/{part.id}" for part in plan.snapshot.series_parts(state["series"][0]))
        keys.add(f"former/{state['path']}")
        for media_id in state["media"]:
            keys.update(plan.media_keys(media_id))
        keys.update(state.get("files", ()))
        if "all" in state["lists"] and not _is_named_alike(before, now):
            keys.update(_neighbours(plan, state["goes_out"], post_id))
    return keys


def _is_named_alike(before: dict | None, now: dict | None) -> bool:
    """Whether the posts beside a post name it, and lead to it, as before."""
    return (
        bool(before and now)
        and all(before.get(name) == now[name] for name in ("path", "title", "goes_out"))
        and ("all" in before["lists"]) == ("all" in now["lists"])
    )


def _of_links(plan: Plan, post_id: int) -> Iterator[str]:
    """The pages that lead to a post, which has come, gone or moved; a feed or a list may hold any of their texts."""
    for number in plan.snapshot.linking_to(post_id):
        yield f"post/{number}"
        for name in plan.lists_of(plan.snapshot.post(number)):
            yield from (
                f"feed/{name}/{feed}" for feed in FEEDS if name == "all" or name.startswith("category:")
            )
            if plan.snapshot.house.full_in_lists:
                yield from plan.lists.keys_of(name)


def _led_here(plan: Plan, post_id: int) -> set[int]:
    """The posts that came down whose addresses lead to one, be it by way of another that came down too."""
    found: set[int] = set()
    waiting = [post_id]
    while waiting:
        for number in plan.snapshot.leading_on_to(waiting.pop()):
            if number not in found:
                found.add(number)
                waiting.append(number)
    return found


def _neighbours(plan: Plan, goes_out: int, post_id: int) -> Iterator[str]:
    for post in (plan.snapshot.older(goes_out, post_id), plan.snapshot.newer(goes_out, post_id)):
        if post:
            yield f"post/{post.id}"


def _of_list(plan: Plan, name: str, moved: list[Moved]) -> set[str]:
    """The pages of one list that may differ: from the first place that shifted up to the newest."""
    count = plan.snapshot.count(name)
    count_before = count + sum((before is not None) - (now is not None) for _, before, now in moved)
    kind = name.partition(":")[0]
    keys: set[str] = set()
    if kind in ("all", "category") and _is_in_feed(plan, name, moved, count):
        keys.update(f"feed/{name}/{feed}" for feed in FEEDS)
    if kind == "top":
        keys.add("list/front/0")
    if kind in ("all", "top"):
        return keys
    if (count == 0) != (count_before == 0):
        keys.update(("archive/",) if kind == "month" else ("subjects/",))
        if kind in ("category", "tag", "under"):
            keys.update(plan.former_keys("tag" if kind == "tag" else "category", int(name.partition(":")[2])))
    if kind == "under":
        return keys | set(plan.lists.keys_of(name))
    if kind == "month" and -(-count // SITEMAP_LENGTH) != -(-count_before // SITEMAP_LENGTH):
        keys.add("sitemap/index")
    return keys | _of_places(plan, name, moved, count, count_before)


def _is_in_feed(plan: Plan, name: str, moved: list[Moved], count: int) -> bool:
    """Whether one of these posts may be, or have been, among the newest of a list, which its feeds have."""
    latest = max((state["goes_out"], post_id) for post_id, *states in moved for state in states if state)
    return plan.snapshot.rank(name, *latest) >= count - FEED_LENGTH - len(moved)


def _of_places(plan: Plan, name: str, moved: list[Moved], count: int, count_before: int) -> set[str]:
    """The pages on which these posts stand or stood, those on which others stand than before, and those that begin or end."""
    size = plan.snapshot.house.posts_on_page
    last, last_before = pages(count, size), pages(count_before, size)
    ranks = {
        plan.snapshot.rank(name, state["goes_out"], post_id)
        for post_id, *states in moved
        for state in states
        if state
    }
    numbers = {0, *(rank // size + 1 for rank in ranks)} | _shifted_pages(plan, name, moved)
    if last != last_before:  # numbered pages begin or end, and the one before them leads elsewhere
        numbers.update(range(max(1, min(last, last_before)), max(last, last_before) + 1))
    keys = {f"list/{name}/{number}" for number in numbers if number <= max(last, last_before)}
    return (
        keys.union(_of_sitemap(name[6:], min(ranks), max(count, count_before)))
        if name.startswith("month:")
        else keys
    )


def _of_sitemap(month: str, rank: int, count: int) -> Iterator[str]:
    return (
        f"sitemap/{month}/{part}"
        for part in range(rank // SITEMAP_LENGTH + 1, -(-count // SITEMAP_LENGTH) + 1)
    )


def _of_changed_list(plan: Plan, name: str) -> set[str]:
    """Everything of a category or tag whose name, address, place, description or picture has changed (`category:3`, `tag:5`);
    the files of an item that came or went with it (`media:17`); an address that a person added or took away (`away:/old/`);
    what readers see under a post (`comments:12`).
    """
    kind, _, which = name.partition(":")
    if kind == "media":
        return set(plan.media_keys(int(which)))
    if kind == "comments":
        return {f"post/{which}"}
    if kind == "away":
        return {f"former/{which}"}
    keys = {"subjects/", *plan.lists.keys_of(name), *plan.former_keys(kind, int(which))}
    if kind == "category":
        keys.update(f"feed/{name}/{feed}" for feed in FEEDS)
        keys.add(f"list/{name}/0")
    return keys
