"""Whether a change of the filing alters the menu or the foot, which stand on every page."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from mobbet.core.filing import tree
from mobbet.core.keys import ListName
from mobbet.core.menu import Menu, Target, links
from mobbet.publish.changes.outline import ListHead, Outline


@dataclass(frozen=True)
class MenuSide:
    """What is known of the targets of a menu before or after a change; `has_page` and `head` answer for a list on that side."""

    outline: Outline
    before: Outline
    has_page: Callable[[ListName], bool]
    head: Callable[[ListName], ListHead | None]

    def link(self, target: Target) -> tuple[str, str] | None:
        """For `core/menu.links`: names of categories and tags, and where posts are; all else is the same on both sides."""
        if target.kind in ("category", "tag"):
            name = ListName(target)
            head = self.head(name)
            return (head.name, head.path) if head and self.has_page(name) else None
        if target.kind == "post":
            return "", self._path(target.number)
        if target.kind == "series":
            parts = self.before.snapshot.series_parts(target.number)
            return ("", self._path(parts[0].id)) if parts else None
        return "", target

    def _path(self, post_id: int) -> str:
        """Where a post of the change is; '' for any other, and for one that strangers do not find."""
        row = self.outline.rows.get(post_id)
        return row.path if row and row.audience in self.outline.audiences else ""

    def parts(self, target: Target) -> Iterable[Target]:
        if target.kind != "category":
            return ()
        rows = tree(self.outline.snapshot.categories.values())
        return [Target.of("category", one.id) for _, one in rows if one.parent_id == target.number]


def differs(menu: Menu, before: MenuSide, after: MenuSide) -> bool:
    """Whether an entry has other words, leads elsewhere, comes or goes."""
    return any(links(entries, before) != links(entries, after) for entries in (menu.menu, menu.foot))
