"""What changed between two publications; the pages that may differ follow from it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from mobbet.core.division import Place
from mobbet.core.keys import ALL, ChangedFact, ListName
from mobbet.publish.changes.redivision import LAST, MovedPlace, Redivision, redivided
from mobbet.publish.plan import Plan

State = dict[str, Any]
"""What the site shows of a post, as `Plan.state` has it."""
Changes = Mapping[int, tuple[State | None, State | None]]
"""{post: (its state before, its state now)}."""


class ChangeSet:
    """The posts whose state changed, and the changed facts beside them; `plan` is the site as it is now."""

    def __init__(self, plan: Plan, changes: Changes, facts: Iterable[ChangedFact] = ()) -> None:
        self.plan = plan
        self.posts: Changes = {post_id: pair for post_id, pair in changes.items() if pair[0] != pair[1]}
        self.facts = set(facts)

    @cached_property
    def lists(self) -> list[ListChange]:
        """What happened to each list on which one of the posts stood or stands."""
        moved: dict[ListName, list[Moved]] = {}
        for post_id, (before, now) in self.posts.items():
            for text in {*(before or {}).get("lists", ()), *(now or {}).get("lists", ())}:
                name = ListName(text)
                on_before = before if before and name in before["lists"] else None
                on_now = now if now and name in now["lists"] else None
                moved.setdefault(name, []).append(Moved(post_id, on_before, on_now))
        return [ListChange(self.plan, name, posts) for name, posts in moved.items()]

    @property
    def moved_posts(self) -> Iterator[int]:
        """The posts that came, went, or have another address or audience, so that links to them differ."""
        return self._differing("path", "audience")

    @property
    def renamed_posts(self) -> Iterator[int]:
        """The posts of which it differs whether, how or where they are named as ones on the same matter."""
        return self._differing("path", "audience", "title", "kind", "series", "goes_out")

    def _differing(self, *names: str) -> Iterator[int]:
        for post_id, (before, now) in self.posts.items():
            if before is None or now is None or any(before.get(name) != now[name] for name in names):
                yield post_id

    @property
    def states(self) -> Iterator[tuple[int, State]]:
        """(post, state) for each state before and now."""
        for post_id, pair in self.posts.items():
            yield from ((post_id, state) for state in pair if state)

    def facts_of(self, kind: str) -> Iterator[ChangedFact]:
        return (fact for fact in self.facts if fact.kind == kind)

    @property
    def subjects(self) -> Iterator[ListName]:
        """The categories and tags whose own facts changed."""
        return filter(None, (fact.list_name for fact in self.facts))


@dataclass(frozen=True)
class Moved:
    """A post with its state while it stood on a list, and its state now that it stands there."""

    post_id: int
    before: State | None
    now: State | None

    @property
    def states(self) -> Iterator[State]:
        return (state for state in (self.before, self.now) if state)

    @property
    def places(self) -> MovedPlace:
        """Where the post stood, and where it stands."""
        before, now = (
            (state["goes_out"], self.post_id) if state else None for state in (self.before, self.now)
        )
        return MovedPlace(before, now)


class ListChange:
    """One list and what became of its posts."""

    def __init__(self, plan: Plan, name: ListName, moved: list[Moved]) -> None:
        self.plan = plan
        self.name = name
        self.moved = moved

    @cached_property
    def count(self) -> int:
        return self.plan.snapshot.count(self.name)

    @cached_property
    def count_before(self) -> int:
        return self.count + sum((one.before is not None) - (one.now is not None) for one in self.moved)

    @property
    def begins_or_ends(self) -> bool:
        return (self.count == 0) != (self.count_before == 0)

    def places(self, start: int, most: int) -> list[Place]:
        return self.plan.snapshot.places(self.name, start, most)

    def rank(self, place: Place) -> int:
        return self.plan.snapshot.rank(self.name, *place)

    @cached_property
    def lowest(self) -> int:
        """The first place, from 0, at which one of the posts stands, or would stand as it was."""
        return min(self.rank((state["goes_out"], one.post_id)) for one in self.moved for state in one.states)

    @cached_property
    def redivided(self) -> Redivision:
        """The pages of the list on which other posts stand than before, or whose links lead elsewhere."""
        return redivided((one.places for one in self.moved), self, self.plan.lists.size)

    @cached_property
    def standing_on(self) -> set[int]:
        """The pages with an address on which posts stand of which lists may show something else than before, by their first posts."""
        return self._older_pages(
            one for one in self.moved if one.now and is_shown_otherwise(one.before, one.now)
        )

    @cached_property
    def reaches_newest(self) -> bool:
        """Whether the newest page may show something else than before."""
        if any(high == LAST for _, high in self.redivided.stretches):
            return True
        newest = self.count - self.plan.lists.size
        return any(self.rank(place) >= newest for one in self.moved if (place := one.places.now))

    @cached_property
    def _rewritten(self) -> list[Moved]:
        """The posts of which lists show something else than before."""
        return [one for one in self.moved if is_rewritten(one.before, one.now, "list_digest")]

    @property
    def rewritten_on(self) -> set[int]:
        """The pages with an address on which posts show something else than before."""
        return self._older_pages(self._rewritten)

    @property
    def is_rewritten_on_newest(self) -> bool:
        """Whether a post of the newest page shows something else than before."""
        newest = self.count - self.plan.lists.size
        return any(self.rank(place) >= newest for one in self._rewritten if (place := one.places.now))

    def _older_pages(self, moved: Iterable[Moved]) -> set[int]:
        pages = {self.plan.lists.page_holding(self.name, place) for one in moved if (place := one.places.now)}
        return pages - {0}

    def is_among_newest(self, length: int) -> bool:
        """Whether one of the posts may be, or have been, among the newest `length` of the list."""
        latest = max((state["goes_out"], one.post_id) for one in self.moved for state in one.states)
        return self.plan.snapshot.rank(self.name, *latest) >= self.count - length - len(self.moved)


def is_rewritten(before: State | None, now: State | None, digest: str = "digest") -> bool:
    """Whether the page of a post surely shows something else than before; or lists do, by their digest. What those show of a post behind a
    password is its author's choice, so nothing is sure of one.

    A state that an older Mobbet kept may lack its audience, and the digest for lists.
    """
    if not before or not now or digest not in before:
        return False
    return before[digest] != now[digest] and not any(
        state.get("audience", "password:").startswith("password:") for state in (before, now)
    )


def is_shown_otherwise(before: State | None, now: State | None) -> bool:
    """Whether lists may show something else of a post than before."""
    if not before or not now:
        return True
    return any(before.get(name) != now[name] for name in ("list_digest", "audience", "goes_out"))


def is_named_alike(before: State | None, now: State | None) -> bool:
    """Whether the posts beside a post name it, and link to it, as before."""
    if not before or not now:
        return False
    return all(before.get(name) == now[name] for name in ("path", "title", "goes_out")) and (
        ALL in before["lists"]
    ) == (ALL in now["lists"])
