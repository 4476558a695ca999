"""A footprint in words: which pages, addresses and feeds a change alters, in the order in which people care."""

from __future__ import annotations

from collections.abc import Mapping

from mobbet.core.facts import Subject
from mobbet.core.keys import FRONT, ListName
from mobbet.publish.changes.altered import Altered
from mobbet.publish.page_kind import FootprintGroup, FootprintNames, Head
from mobbet.publish.pages.kinds import KINDS, count_of
from mobbet.web.shell.contexts import FootprintLine, FootprintWords


def in_words(
    pages: list[Altered],
    subjects: Mapping[int, Subject],
    post_id: int | None = None,
    heads: Mapping[ListName, Head] | None = None,
    every: int = 0,
) -> FootprintWords:
    """The lines of a footprint; `post_id` is the post it is asked for, whose own page comes first; `heads` tell where it comes to stand.

    `every` other pages alter as well, since the menu stands on each.
    """
    names = FootprintNames(subjects, (heads or {}).get(FRONT))
    grouped: dict[FootprintGroup, list[Altered]] = {
        group: [] for kind in KINDS.values() for group in kind.groups
    }
    for page in pages:
        group = _group(page, post_id)
        if group:
            grouped[group].append(page)
    lines = [
        FootprintLine(group.words(found, names), _kind(found)) for group, found in grouped.items() if found
    ]
    if every:
        lines.append(
            FootprintLine(f"every other page of the site, {every:,}, for the menu stands on each", "altered")
        )
    count = count_of([page.key for page in pages], every)
    beside = [f"Also {count.beside}."] if count.beside else []
    return FootprintWords(count.pages, lines, " ".join([*beside, *_address_words(pages)]))


def _group(page: Altered, post_id: int | None) -> FootprintGroup | None:
    return next((one for one in KINDS[page.key.kind].groups if one.holds(page.key, post_id)), None)


def _address_words(pages: list[Altered]) -> list[str]:
    """What happens to addresses: how many old ones lead to new ones, how many pages end."""
    redirects = [page for page in pages if page.key.kind == "former" and page.what != "removed"]
    moved = [page for page in pages if page.was and page.key.kind in ("post", "list", "feed")]
    ends = [page for page in pages if page.what == "removed" and page.key.kind in ("post", "list")]
    words = []
    count = max(len(redirects), len(moved))
    if count:
        words.append(
            "1 old address leads to the new one."
            if count == 1
            else f"{count} old addresses lead to the new ones."
        )
    if ends:
        words.append("1 page ends." if len(ends) == 1 else f"{len(ends)} pages end.")
    return words


def _kind(pages: list[Altered]) -> str:
    kinds = {page.what for page in pages}
    return kinds.pop() if len(kinds) == 1 else "altered"
