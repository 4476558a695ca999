"""The page of all categories and tags with posts."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import takewhile

from markupsafe import Markup

from mobbet.core.document.html_media import picture_html
from mobbet.core.facts import Item
from mobbet.core.filing import tree
from mobbet.core.keys import ListName, PageKey
from mobbet.core.numbers import MOST_COUNTED
from mobbet.core.values import existing
from mobbet.publish import house_parts
from mobbet.publish.changes.altered import Altered
from mobbet.publish.changes.change_set import ChangeSet
from mobbet.publish.fragments import link_from
from mobbet.publish.lists import data
from mobbet.publish.page_kind import FootprintGroup, FootprintNames, PageKind
from mobbet.publish.pictures import rendition
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer
from mobbet.publish.values import Family, Page, Step, SubjectsPage

KEY, PATH = PageKey("subjects/"), "/subjects/"
PICTURE_WIDTH = "16rem"


def page(plan: Plan, key: PageKey) -> Page:
    """Every category with posts, as families, and every tag, by name; each with how many posts its page lists."""
    snapshot = plan.snapshot
    counts = snapshot.counts("category:", MOST_COUNTED + 1)
    numbers = {name.number for name in (*counts, *snapshot.lists("under:"))}
    found = [
        (depth, (existing(plan.lists.step(name)), counts.get(name, 0)))
        for depth, subject in tree(snapshot.categories.values())
        if subject.id in numbers
        for name in (ListName.of("category", subject.id),)
    ]
    tagged = snapshot.counts("tag:", MOST_COUNTED + 1)
    snapshot.tags(tuple(name.number for name in tagged))  # read together
    known = [(existing(plan.lists.step(name)), count) for name, count in tagged.items()]
    tags = tuple(sorted(known, key=lambda one: (one[0].name.casefold(), one[0].name)))
    pictures = _pictures(plan, sorted(numbers))
    reads = [
        [(depth, *data([step]), count) for depth, (step, count) in found],
        [(*data([step]), count) for step, count in tags],
        [(path, item.id, item.version) for path, item in pictures.items()],
    ]
    return Page(key, PATH, "subjects", reads, SubjectsPage(_families(found), tags, pictures))


def _pictures(plan: Plan, numbers: list[int]) -> dict[str, Item]:
    """{path of a category: its picture}, where the page shows those."""
    found: dict[str, Item] = {}
    for number in numbers if plan.snapshot.house.subject_pictures else ():
        subject, picture = plan.snapshot.categories.get(number), plan.snapshot.category_page(number).picture
        item = plan.snapshot.item(picture) if picture else None
        if subject and item and item.of("whole"):
            found[f"/{subject.slug}/"] = item
    return found


def _families(found: list[tuple[int, tuple[Step, int]]]) -> tuple[Family, ...]:
    """(depth, category) in the order of the tree as what stands below what."""
    families = []
    for at, (depth, (step, count)) in enumerate(found):
        if depth == found[0][0]:
            below = takewhile(lambda one, top=depth: one[0] > top, found[at + 1 :])  # type: ignore[misc]
            families.append(Family(step, count, _families(list(below))))
    return tuple(families)


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    has_pictures = changed.plan.snapshot.house.subject_pictures
    if (
        any(changed.subjects)
        or (has_pictures and any(changed.facts_of("media")))
        or any(
            one.begins_or_ends or (one.name.kind != "under" and one.count != one.count_before)
            for one in changed.lists
            if one.name.kind in ("category", "tag", "under")
        )
    ):
        yield KEY


def _render(renderer: Renderer, page: Page) -> Rendered:
    link = link_from(renderer.root_from(page), renderer.house.server)
    return renderer.template(
        page,
        picture=lambda item: Markup(
            picture_html(existing(rendition(item, PICTURE_WIDTH, link, "thumb")), "", "")
        ),
    )


def _words(pages: list[Altered], names: FootprintNames) -> str:
    if len(pages) > 1:
        return "subjects and archive"
    return "the page “Subjects”" if pages[0].key == KEY else "the page “Archive”"


OVERVIEWS = FootprintGroup(lambda key, post_id: True, _words)
"""The line of a footprint that tells of this page and of the archive."""

KIND = PageKind(
    name="subjects",
    page=page,
    recipes={"subjects": _render},
    fixed=lambda: (KEY,),
    touched=_touched,
    at=lambda plan, path: KEY if path == PATH else None,
    groups=(OVERVIEWS,),
    differs_by_reader=True,
    shows_of_house=house_parts.SUBJECTS,
)
