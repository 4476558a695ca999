"""Another blog: begun from nothing, or with parts of one that the person owns."""

from __future__ import annotations

from collections.abc import Callable, Collection
from dataclasses import dataclass, replace

from mobbet.actions import blogs as blog_actions
from mobbet.actions import kept_blocks, looks, menus, posts
from mobbet.actions.access import owned_blog
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.document import outline, schema
from mobbet.core.errors import BadInput, NotAllowed
from mobbet.core.filing import path_in_words, tree
from mobbet.core.fill_ins import FILL_IN
from mobbet.core.front import BLOCKS, CATEGORY, CHOSEN, PAGES, TAG, Section
from mobbet.core.house import LOOK, MENU
from mobbet.core.look.look import look_text
from mobbet.core.menu import PLACES, Entry, Target, menu_text
from mobbet.core.numbers import counted
from mobbet.core.rights import Role
from mobbet.store import blogs, filing, kept
from mobbet.store import desk as desk_store
from mobbet.store import house as house_store
from mobbet.store import pages as page_store
from mobbet.store import posts as post_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

RULES = (
    "pattern", "slug_script", "least_categories", "most_categories", "filing_help", "label", "read_on", "full_in_lists", "categories_in_lists", "quotes", "dashes",
    "ellipses", "avoided", "severities", "tries_links", "aside_days", "look_again_days", "comments", "comments_wait", "guard", "blocklist", "comment_work", "comment_letters", "comment_letters_to", "mentions", "sharing", "share_links", "video_hosts",
)  # fmt: skip
"""The settings of a blog that another one may take over."""


@dataclass(frozen=True)
class Begun:
    """A blog that was made, and what of its model did not come along, in sentences."""

    blog: Blog
    notes: tuple[str, ...] = ()


def begin(
    workshop: Workshop,
    person: Person,
    *,
    name: str,
    address: str,
    zone: str,
    home: str,
    tagline: str = "",
    language: str = "",
    source: str = "",
    parts: Collection[str] = (),
) -> Begun:
    """Makes a blog of this person, who owns one already; with the parts (a subset of PARTS) of the blog `source`. Raises BadInput, Refused."""
    if not models(workshop, person):
        raise NotAllowed("Only somebody who owns a blog here makes another; ask the owner of yours.")
    unknown = [part for part in parts if part not in PARTS]
    if unknown:
        raise BadInput(f"“{unknown[0][:40]}” is no part of a blog; choose {', '.join(PARTS)}.", "parts")
    model = owned_blog(workshop, person, source) if source else None
    with changing(workshop, person, "the blog began"):
        blog = blog_actions.make_blog(
            workshop,
            person,
            name=name,
            address=address,
            zone=zone,
            home=home,
            tagline=tagline,
            language=language,
        )
        notes = [PARTS[part].copy(workshop, person, model, blog) for part in PARTS if model and part in parts]
    return Begun(blogs.by_id(workshop.db, blog.id) or blog, tuple(filter(None, notes)))


def models(workshop: Workshop, person: Person) -> list[Blog]:
    """The blogs that somebody owns, from which another one may begin."""
    mine = blogs.of_person(workshop.db, person.id)
    return [blog for blog in mine if blogs.role(workshop.db, blog.id, person.id) == Role.OWNER]


def _look(workshop: Workshop, person: Person, model: Blog, blog: Blog) -> str:
    value = look_text(looks.given(workshop, model).without_pictures())
    house_store.give(workshop.db, blog.id, LOOK, value, person.id, workshop.clock(), f"as on {model.name}")
    return ""


def _categories(workshop: Workshop, person: Person, model: Blog, blog: Blog) -> str:
    """The tree with its descriptions; pictures are of another library."""
    numbers: dict[int, int] = {}
    for _, subject in tree(filing.subjects(workshop.db, model.id).values()):
        parent = numbers.get(subject.parent_id) if subject.parent_id else None
        made = filing.add_category(workshop.db, blog.id, parent, subject.name, subject.slug)
        numbers[subject.id] = made.id
        about = filing.page_of(workshop.db, subject.id).description
        is_bare = not about or _stands_alone(about)
        filing.set_category(
            workshop.db, made.id, shows_below=int(subject.shows_below), description=about if is_bare else ""
        )  # fmt: skip
    if model.catch_all in numbers:
        blogs.settle(workshop.db, blog.id, catch_all=numbers[model.catch_all])
    return ""


def _pages(workshop: Workshop, person: Person, model: Blog, blog: Blog) -> str:
    """The pages as drafts, below one another as they were."""
    copies: dict[int, int] = {}
    found, left = page_store.every(workshop.db, model.id), 0
    for page in found:
        revision = post_store.working(workshop.db, page.id)
        if not _stands_alone(revision.body):
            left += 1
            continue
        post = posts.begin_post(workshop, person, blog.slug)
        body = schema.load(revision.body)
        posts.save_text(
            workshop,
            person,
            post.id,
            base=post.revision,
            title=page.title,
            subtitle=revision.subtitle,
            body=body,
        )
        facts = {name: getattr(page, name) for name in ("kind", "slug", "description", "excerpt")}
        post_store.settle(workshop.db, post.id, workshop.clock(), **facts)
        copies[page.id] = post.id
    for page in found:
        if page.id in copies and page.below in copies:
            post_store.settle(workshop.db, copies[page.id], workshop.clock(), below=copies[page.below])
    return _left(left, "page")


def _menu(workshop: Workshop, person: Person, model: Blog, blog: Blog) -> str:
    """The menu, the foot and the front page, as far as they lead to what the new blog has: categories, pages and saved blocks of the same name, and what
    every blog has."""
    menu, left = menus.given(workshop, model), 0
    theirs, mine = (filing.subjects(workshop.db, one.id) for one in (model, blog))
    categories = {path_in_words(mine, number): number for number in mine}
    pages = {page.title: page.id for page in page_store.every(workshop.db, blog.id)}
    titles = {page.id: page.title for page in page_store.every(workshop.db, model.id)}
    names = {one.id: one.name for one in kept.every(workshop.db, model.id)}
    blocks = {one.name: one.id for one in kept.every(workshop.db, blog.id)}

    def target(one: Target) -> Target | None:
        if one in PLACES or one.address:
            return one
        if one.kind == "category" and one.number in theirs:
            number = categories.get(path_in_words(theirs, one.number))
            return Target.of("category", number) if number else None
        number = pages.get(titles.get(one.number, "")) if one.kind == "post" else None
        return Target.of("post", number) if number else None

    def copied(entries: tuple[Entry, ...]) -> tuple[Entry, ...]:
        nonlocal left
        found: list[Entry] = []
        for entry in entries:
            to, below = target(entry.to), copied(entry.below)
            left += to is None
            found += [replace(entry, to=to, below=below)] if to else below
        return tuple(found)

    def section(one: Section) -> Section | None:
        """The section as the new blog can have it: of its own categories, pages and saved blocks."""
        if one.kind == CATEGORY or (one.kind == PAGES and one.of):
            kind = "category" if one.kind == CATEGORY else "post"
            found = (target(Target.of(kind, number)) for number in one.of)
            of = tuple(to.number for to in found if to)
        elif one.kind == BLOCKS:
            of = tuple(number for number in (blocks.get(names.get(one.of[0], "")),) if number)
        else:
            of = ()
        return replace(one, of=of) if of or one.kind not in (CATEGORY, TAG, BLOCKS, CHOSEN) else None

    sections = tuple(filter(None, map(section, menu.sections)))
    left += len(menu.sections) - len(sections)
    whole = replace(menu, menu=copied(menu.menu), foot=copied(menu.foot), front_door=0, sections=sections)
    line = whole.line if not FILL_IN.search(whole.line) else ""
    house_store.give(
        workshop.db,
        blog.id,
        MENU,
        menu_text(replace(whole, line=line)),
        person.id,
        workshop.clock(),
        f"as on {model.name}",
    )
    return _left(left, "menu entry", "menu entries")


def _rules(workshop: Workshop, person: Person, model: Blog, blog: Blog) -> str:
    blogs.settle(workshop.db, blog.id, **{name: getattr(model, name) for name in RULES})
    blogs.set_house_style(workshop.db, blog.id, model.facts, model.link_rules)
    return ""


def _blocks(workshop: Workshop, person: Person, model: Blog, blog: Blog) -> str:
    left = 0
    for one in kept.every(workshop.db, model.id):
        if not _stands_alone(one.body):
            left += 1
        else:
            kept.add(workshop.db, blog.id, one.name, one.body, person.id, workshop.clock())
    return _left(left, "saved block")


def _templates(workshop: Workshop, person: Person, model: Blog, blog: Blog) -> str:
    left = 0
    for number, title in desk_store.templates(workshop.db, model.id):
        revision = post_store.working(workshop.db, number)
        if not _stands_alone(revision.body):
            left += 1
            continue
        post = posts.begin_post(workshop, person, blog.slug)
        posts.save_text(
            workshop,
            person,
            post.id,
            base=post.revision,
            title=title,
            subtitle=revision.subtitle,
            body=schema.load(revision.body),
        )
        kept_blocks.set_template(workshop, person, post.id, True)
    return _left(left, "template")


def _stands_alone(body: str) -> bool:
    """Whether a text shows no file, no saved block and links to no post of its own blog."""
    return not (outline.items(schema.load(body)) or '"standing"' in body or '"post:' in body)


def _left(count: int, what: str, many: str = "") -> str:
    if not count:
        return ""
    verb = "needs" if count == 1 else "need"
    return f"{counted(count, what, many)} {verb} files, blocks or posts of the other blog and stayed there."


@dataclass(frozen=True)
class Part:
    """A part of a blog that another one can begin with: in words, and how it is copied, which answers with what stayed behind."""

    words: str
    copy: Callable[[Workshop, Person, Blog, Blog], str]


PARTS = {
    "look": Part("its look", _look),
    "categories": Part("its categories", _categories),
    "pages": Part("its pages, as drafts", _pages),
    "blocks": Part("its saved blocks", _blocks),
    "menu": Part("its menu, foot and front page", _menu),
    "rules": Part("its rules for words, links, addresses and comments", _rules),
    "templates": Part("its templates", _templates),
}
"""{name: part}, in the order in which they are copied."""
