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
MANY = 60
"""From so many posts on, all pages of a list are looked at, rather than the place of each post in it."""


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


def shifted(plan: Plan, changes: Changes) -> set[str]:
    """The keys of numbered pages of lists on which other posts stand than before these changes: they differ, whatever those posts show.

    A page that is there now and was there before has the same posts if as many were taken out before each of them as came in.
    """
    keys: set[str] = set()
    size = plan.snapshot.house.posts_on_page
    for name, posts in _by_list(changes).items():
        last = 0 if name in ("all", "top") or name.startswith("under:") else plan.lists.last(name)
        if not last or len(posts) >= MANY:
            continue
        for start, end in _shifted_places(plan, name, posts):
            keys.update(f"list/{name}/{number}" for number in range(start // size + 1, min(last, (end - 1) // size + 1) + 1))
    return keys


def _shifted_places(plan: Plan, name: str, posts: list[Moved]) -> Iterator[tuple[int, int]]:
    """(first place, place after the last) of the stretches of a list, as it is now, in which other posts stand than before, from 0."""
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
        if shift:
            yield start, place
        shift, start = shift + steps[place], place
    if shift:
        yield start, plan.snapshot.count(name)


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
        if "all" in state["lists"]:
            keys.update(_neighbours(plan, state["goes_out"], post_id))
    return keys


def _of_links(plan: Plan, post_id: int) -> Iterator[str]:
    """The pages that lead to a post, which has come, gone or moved; a feed or a list may hold any of their texts."""
    for number in plan.snapshot.linking_to(post_id):
        yield f"post/{number}"
        for name in plan.lists_of(plan.snapshot.post(number)):
            yield from (f"feed/{name}/{feed}" for feed in FEEDS if name == "all" or name.startswith("category:"))
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
    newest = count - FEED_LENGTH - len(moved)
    return newest <= 0 or any(plan.snapshot.rank(name, state["goes_out"], post_id) >= newest for post_id, *states in moved for state in states if state)


def _of_places(plan: Plan, name: str, moved: list[Moved], count: int, count_before: int) -> set[str]:
    size = plan.snapshot.house.posts_on_page
    last, last_before = pages(count, size), pages(count_before, size)
    keys = {f"list/{name}/0"}
    if len(moved) >= MANY:
        keys.update(f"list/{name}/{number}" for number in range(max(last, last_before) + 1))
        if name.startswith("month:"):
            keys.update(_of_sitemap(name[6:], 0, max(count, count_before)))
        return keys
    for post_id, before, now in moved:
        places = {state["goes_out"] for state in (before, now) if state}
        ranks = [plan.snapshot.rank(name, goes_out, post_id) for goes_out in places]
        first = min(ranks) // size + 1
        is_shifted = before is None or now is None or before["goes_out"] != now["goes_out"]
        numbers = range(max(1, first - 1), max(last, last_before) + 1) if is_shifted else [first]
        keys.update(f"list/{name}/{number}" for number in numbers)
        if name.startswith("month:"):
            keys.update(_of_sitemap(name[6:], min(ranks), max(count, count_before)))
    if last != last_before:  # numbered pages begin or end, and the one before them leads elsewhere
        keys.update(f"list/{name}/{number}" for number in range(max(1, min(last, last_before)), max(last, last_before) + 1))
    return keys


def _of_sitemap(month: str, rank: int, count: int) -> Iterator[str]:
    return (f"sitemap/{month}/{part}" for part in range(rank // SITEMAP_LENGTH + 1, -(-count // SITEMAP_LENGTH) + 1))


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
