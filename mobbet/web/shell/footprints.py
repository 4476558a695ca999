"""A footprint in words: which pages, addresses and feeds a change alters, in the order in which people care."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping

from mobbet.actions.effects import Head
from mobbet.core.facts import Subject
from mobbet.core.filing import tree
from mobbet.core.numbers import spelled
from mobbet.core.timing import month_name
from mobbet.publish.editions import Altered
from mobbet.web.shell.contexts import FootprintLine, FootprintWords

MOST_NAMES = 4


def in_words(
    pages: list[Altered],
    subjects: Mapping[int, Subject],
    post_id: int | None = None,
    tag_names: Mapping[int, str] | None = None,
    heads: Mapping[str, Head] | None = None,
) -> FootprintWords:
    """The lines of a footprint; `post_id` is the post it is asked for, whose own page comes first; `heads` tell where it comes to stand."""
    shown = [page for page in pages if page.key.partition("/")[0] not in ("short", "media", "asset", "card")]
    groups: dict[str, list[Altered]] = defaultdict(list)
    for page in shown:
        groups[_group(page, post_id)].append(page)
    lines = [
        FootprintLine(_words(name, groups[name], subjects, tag_names or {}), _kind(groups[name]))
        for name in _ORDER
        if name in groups
    ]
    front = (heads or {}).get("front")
    if front:
        lines = [
            FootprintLine(f"{line.words}: {head_in_words(front)}", line.kind)
            if line.words == "the front page"
            else line
            for line in lines
        ]
    ends = [page for page in shown if page.what == "removed" and page.key.startswith(("post/", "list/"))]
    leads_on = [page for page in pages if page.key.startswith("former/") and page.what != "removed"]
    moved = [page for page in shown if page.was]
    said = []
    if moved or leads_on:
        count = max(
            len(leads_on), len([page for page in moved if page.key.startswith(("post/", "list/", "feed/"))])
        )
        said.append(
            f"{count} old address{'es' if count != 1 else ''} lead{'s' if count == 1 else ''} on to the new one{'s' if count != 1 else ''}."
        )
    if ends:
        said.append(f"{len(ends)} page{'s' if len(ends) != 1 else ''} end{'s' if len(ends) == 1 else ''}.")
    counted = [page for page in shown if not page.key.startswith("former/")]
    return FootprintWords(len(counted), [line for line in lines if line.words], " ".join(said))


def every_page(count: int) -> FootprintWords:
    """The footprint of a change of what stands on every page."""
    return FootprintWords(count, [FootprintLine("every page of the site", "altered")])


_PLACES = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")


def head_in_words(head: Head) -> str:
    """“first of ten; “Which glue, honestly” leaves it”."""
    place = _PLACES[head.place - 1] if head.place <= len(_PLACES) else f"number {head.place}"
    return f"{place} of {spelled(head.size)}" + (f"; “{head.leaves}” leaves it" if head.leaves else "")


_ORDER = (
    "this",
    "posts",
    "front",
    "front pages",
    "categories",
    "tags",
    "months",
    "feeds",
    "category feeds",
    "overviews",
    "sitemap",
    "other",
)


def _group(page: Altered, post_id: int | None) -> str:
    kind, _, rest = page.key.partition("/")
    if kind == "post":
        return "this" if post_id is not None and rest == str(post_id) else "posts"
    if kind == "list":
        name, _, number = rest.rpartition("/")
        if name == "front":
            return "front" if number == "0" else "front pages"
        return {"category": "categories", "tag": "tags", "month": "months"}[name.partition(":")[0]]
    if kind == "feed":
        return "feeds" if rest.startswith("all/") else "category feeds"
    return {"subjects": "overviews", "archive": "overviews", "sitemap": "sitemap", "former": "former"}.get(
        kind, "other"
    )


def _words(
    name: str, pages: list[Altered], subjects: Mapping[int, Subject], tag_names: Mapping[int, str]
) -> str:
    count = len(pages)
    if name in ("categories", "category feeds"):
        numbers = {int(page.key.split("/")[1].partition(":")[2]) for page in pages}
        names = [subject.name for _, subject in tree(subjects.values()) if subject.id in numbers]
        words = _named(names, len(numbers), "category", "categories")
        return (
            f"{words}{f', {count} pages' if count > len(numbers) else ''}"
            if name == "categories"
            else f"feed{'s' if len(numbers) > 1 else ''} of {words}"
        )
    if name == "tags":
        numbers = list(dict.fromkeys(int(page.key.split("/")[1].partition(":")[2]) for page in pages))
        return f"{len(numbers)} tag page{'s' if len(numbers) != 1 else ''}"
    if name == "months":
        months = list(dict.fromkeys(page.key.split("/")[1].partition(":")[2] for page in pages))
        return f"the page of {month_name(months[0])}" if len(months) == 1 else f"{len(months)} months"
    return {
        "this": "this post’s page",
        "posts": f"{count} {'other post' if count == 1 else 'posts'}",
        "front": "the front page",
        "front pages": f"{count} older page{'s' if count != 1 else ''} of the front",
        "feeds": "the blog’s feeds",
        "overviews": "subjects and archive"
        if count > 1
        else f"the page “{'Subjects' if pages[0].key.startswith('subjects') else 'Archive'}”",
        "sitemap": "the site map",
        "other": f"{count} other page{'s' if count != 1 else ''}",
    }[name]


def _named(names: list[str], count: int, one: str, many: str) -> str:
    if not names or count > MOST_NAMES:
        return f"{count} {one if count == 1 else many}"
    return ", ".join(names)


def _kind(pages: list[Altered]) -> str:
    kinds = {page.what for page in pages}
    return kinds.pop() if len(kinds) == 1 else "altered"
