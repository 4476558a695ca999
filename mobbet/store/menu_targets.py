"""Where the entries of a menu lead, for the reader of a snapshot."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Protocol

from mobbet.core.facts import Author, OutPost, Subject
from mobbet.core.filing import tree
from mobbet.core.keys import ListName
from mobbet.core.menu import FIXED, NEWEST, Target
from mobbet.core.web_addresses import split_address


class SiteFacts(Protocol):
    """What of a snapshot says where entries lead."""

    @property
    def label(self) -> str: ...
    @property
    def newest_path(self) -> str: ...
    @property
    def categories(self) -> dict[int, Subject]: ...

    def tags(self, numbers: tuple[int, ...]) -> list[Subject]: ...
    def has_any(self, name: ListName) -> bool: ...
    def post_to_read(self, post_id: int) -> OutPost | None: ...
    def pages_below(self, post_id: int) -> list[OutPost]: ...
    def author(self, number: int) -> Author | None: ...
    def series_name(self, series_id: int) -> str: ...
    def series_parts(self, series_id: int) -> list[OutPost]: ...


class MenuTargets:
    """Answers for `core/menu.links` from the facts of one site."""

    def __init__(self, facts: SiteFacts) -> None:
        self._facts = facts

    def link(self, target: Target) -> tuple[str, str] | None:
        if target == NEWEST:
            return self._facts.label, self._facts.newest_path
        if target in FIXED:
            return FIXED[target]
        if target.address:
            host = (split_address(target.address).hostname or "").removeprefix("www.")
            return host or target.address.removeprefix("mailto:"), target.address
        found = {
            "category": self._category,
            "tag": self._tag,
            "post": self._post,
            "series": self._series,
            "author": self._author,
        }
        return found[target.kind](target.number) if target.kind in found else None

    def _category(self, number: int) -> tuple[str, str] | None:
        subject = self._facts.categories.get(number)
        names = (ListName.of("category", number), ListName.of("under", number))
        return (
            (subject.name, f"/{subject.slug}/") if subject and any(map(self._facts.has_any, names)) else None
        )

    def _tag(self, number: int) -> tuple[str, str] | None:
        tag = next(iter(self._facts.tags((number,))), None)
        return (
            (tag.name, f"/tag/{tag.slug}/")
            if tag and self._facts.has_any(ListName.of("tag", number))
            else None
        )

    def _post(self, number: int) -> tuple[str, str] | None:
        post = self._facts.post_to_read(number)
        return (post.title, post.path) if post else None

    def _series(self, number: int) -> tuple[str, str] | None:
        parts = self._facts.series_parts(number)
        return (self._facts.series_name(number), parts[0].path) if parts else None

    def _author(self, number: int) -> tuple[str, str] | None:
        author = self._facts.author(number) if self._facts.has_any(ListName.of("author", number)) else None
        return (author.name, author.path) if author else None

    def parts(self, target: Target) -> Iterable[Target]:
        if target.kind == "category":
            below = (
                one for _, one in tree(self._facts.categories.values()) if one.parent_id == target.number
            )
            return [Target.of("category", one.id) for one in below]
        if target.kind == "post":
            return [Target.of("post", page.id) for page in self._facts.pages_below(target.number)]
        return ()
