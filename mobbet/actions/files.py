"""Posts from Markdown files with YAML front matter."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

from mobbet.actions import (
    appearance,
    comments,
    docket_lines,
    library,
    menus,
    own_look,
    pages,
    placing,
    post_states,
    posts,
    readers,
    tags,
)
from mobbet.actions.access import blog_for, editable_post
from mobbet.actions.permalinks import proposed_path
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import frontmatter
from mobbet.core.audience import GROUP, PASSWORD
from mobbet.core.comments import CLOSED
from mobbet.core.document import outline
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.links import media_src
from mobbet.core.document.text import plain
from mobbet.core.errors import BadInput, Refused
from mobbet.core.menu import FOOT, MENU, Target
from mobbet.core.states import DRAFT, IN_TIMETABLE, OUT
from mobbet.core.timing import read_instant, wall
from mobbet.store import media, people
from mobbet.store import posts as post_store
from mobbet.store import readers as store_readers
from mobbet.store.blogs import Blog
from mobbet.store.media import Wanted
from mobbet.store.people import Person
from mobbet.store.posts import Post


@dataclass(frozen=True)
class Brought:
    """A post made or changed from a file, and remarks on what was not used."""

    post: Post
    path: str
    state: str
    notes: tuple[str, ...]


def new_post(
    workshop: Workshop, person: Person, blog_slug: str, source: str, folder: Path | None = None
) -> Brought:
    """A post from a file's text. With a `date` it goes out then (at once when that has passed).

    Pictures named by a file beside it are taken from `folder`. Raises BadInput before anything is kept.
    """
    blog = blog_for(workshop, person, blog_slug)
    text = frontmatter.read(source, blog.zone)
    with changing(workshop, person):
        post = posts.begin_post(workshop, person, blog_slug)
        return _fill(workshop, person, blog, post, text, folder, is_new=True)


def update_post(
    workshop: Workshop, person: Person, post_id: int, source: str, folder: Path | None = None
) -> Brought:
    """Replaces text and the settings that the file names; what is out or placed is updated with it."""
    _, blog = editable_post(workshop, person, post_id)
    text = frontmatter.read(source, blog.zone)
    with changing(workshop, person):
        post, _ = editable_post(workshop, person, post_id)  # as it is now: a save may have come between
        return _fill(workshop, person, blog, post, text, folder, is_new=False)


def _fill(
    workshop: Workshop,
    person: Person,
    blog: Blog,
    post: Post,
    text: frontmatter.Text,
    folder: Path | None,
    is_new: bool,
) -> Brought:
    settings, notes = (
        text.settings,
        [f"“{name}” is not a setting Mobbet knows; it was left out." for name in text.unknown],
    )
    document, missing = _with_pictures(workshop, person, blog, from_markdown(text.markdown), folder)
    notes += [f"The picture “{src}” was not found; its place shows its address." for src in missing]
    before = post_store.working(workshop.db, post.id)
    title = settings.title if settings.title is not None else (before.title or _title(document))
    subtitle = settings.subtitle if settings.subtitle is not None else before.subtitle
    posts.save_text(
        workshop, person, post.id, base=post.revision, title=title, subtitle=subtitle, body=document
    )
    settle(workshop, person, blog, post, settings)
    if settings.lead is not None:
        _set_lead(workshop, person, blog, post, settings.lead, folder)
    state = post_states.state_of(workshop, post_store.again(workshop.db, post))
    if settings.date is not None or state in (OUT, IN_TIMETABLE):
        has_passed = is_new and _has_passed(workshop, blog, settings)
        placed = placing.place(workshop, person, post.id, has_passed)
        kept = post_store.again(workshop.db, post)
        if has_passed:
            notes.append(
                "It went out and came down before now, by its date and its expiry; it is kept as a post that came down."
            )
        return Brought(kept, placed.path, post_states.state_of(workshop, kept), tuple(notes))
    categories = tuple(post_store.categories(workshop.db, post.id))
    kept = post_store.again(workshop.db, post)
    return Brought(
        kept,
        proposed_path(workshop, kept, blog, title, categories, workshop.clock())[0],
        DRAFT if is_new else state,
        tuple(notes),
    )


def _has_passed(workshop: Workshop, blog: Blog, settings: frontmatter.Settings) -> bool:
    """Whether the file names a time to come down that is past."""
    return bool(settings.expires) and read_instant(str(settings.expires), blog.zone) <= workshop.clock()


def _set_lead(
    workshop: Workshop, person: Person, blog: Blog, post: Post, lead: str, folder: Path | None
) -> None:
    """What the file says leads the post: a kind of block (“quotation”), a picture, or '' for the rule."""
    if not lead:
        appearance.lead_by_rule(workshop, person, post.id)
    elif not appearance.lead_with_kind(workshop, person, post.id, lead):
        docket_lines.set_lead_picture(workshop, person, post.id, _lead(workshop, person, blog, lead, folder))


def _lead(workshop: Workshop, person: Person, blog: Blog, name: str, folder: Path | None) -> int | None:
    """The picture of the library, or the file beside the text, that a post is to be shown by; None for ''."""
    if not name:
        return None
    file = (folder / name).resolve() if folder else None
    if folder and file and file.is_relative_to(folder.resolve()) and file.is_file():
        return library.add_picture(workshop, person, blog, file.name, file.read_bytes()).id
    known = next(
        (
            row
            for row in media.find(workshop.db, blog.id, Wanted(words=name, kind="picture"), 20)
            if row.name == name or media_src(row.id) == name
        ),
        None,
    )
    if known is None:
        raise BadInput(
            f"There is no picture “{name}” beside the file or in the library; check “lead” in the front matter.",
            "lead",
        )
    return known.id


def settle(
    workshop: Workshop, person: Person, blog: Blog, post: Post, settings: frontmatter.Settings
) -> None:
    """Writes the settings that the file names into the docket."""
    if settings.kind is not None:
        pages.set_kind(workshop, person, post.id, settings.kind or "post")
    if settings.below is not None:
        pages.set_below(workshop, person, post.id, settings.below)
    if settings.slug is not None:
        docket_lines.set_slug(workshop, person, post.id, settings.slug)
    _settle_readers(workshop, person, blog, post, settings)
    for field in ("excerpt", "description"):
        if getattr(settings, field) is not None:
            docket_lines.set_line(workshop, person, post.id, field, getattr(settings, field))
    for field, value in (("goes_out_wall", settings.date), ("comes_down_wall", settings.expires)):
        if value is not None:
            docket_lines.set_time(
                workshop, person, post.id, field, wall(read_instant(value, blog.zone), blog.zone)
            )
    if settings.background is not None or settings.accent is not None:
        own_look.set_colours(workshop, person, post.id, settings.background, settings.accent)
    if settings.language is not None:
        docket_lines.set_language(workshop, person, post.id, settings.language)
    if settings.comments is not None:
        comments.close(workshop, person, post.id, settings.comments == CLOSED)
    if settings.categories is not None:
        docket_lines.set_category_names(workshop, post, blog, settings.categories)
    if settings.tags is not None:
        tags.set_tags(workshop, person, post.id, ", ".join(settings.tags))
    for where in (MENU, FOOT):
        said = getattr(settings, where)
        if said is not None:
            _settle_menu(workshop, person, blog, post, where, said)
    if settings.author is not None:
        author = people.by_name(workshop.db, blog.id, settings.author)
        if author is None:
            raise BadInput(
                f"Nobody named “{settings.author}” works on this blog; check the author in the front matter.",
                "author",
            )
        docket_lines.set_author(workshop, person, post.id, str(author.id))


def _settle_menu(
    workshop: Workshop, person: Person, blog: Blog, post: Post, where: str, said: str | bool
) -> None:
    """Has the menu, or the foot, lead to the post under these words; or no more."""
    target = Target.of("post", post.id)
    words = "" if isinstance(said, bool) else said
    change = menus.at_address(where, target, words) if said is not False else menus.without(target, where)
    menus.give_change(workshop, person, blog.slug, change)


def _settle_readers(
    workshop: Workshop, person: Person, blog: Blog, post: Post, settings: frontmatter.Settings
) -> None:
    """Who may read it. A group that the file names is made where there is none: nobody is in it yet, so nobody else reads the post."""
    visibility = settings.visibility or (PASSWORD if settings.password is not None else None)
    if visibility == PASSWORD:
        docket_lines.set_post_password(workshop, person, post.id, settings.password or "")
    elif visibility is not None:
        name = visibility.removeprefix(GROUP)
        if visibility.startswith(GROUP) and store_readers.group_named(workshop.db, blog.id, name) is None:
            readers.make_group(workshop, person, blog, name)
        docket_lines.set_visibility(workshop, person, post.id, visibility)


def _title(document: dict[str, Any]) -> str:
    """The first heading's words, or the beginning of the first paragraph's."""
    headings = outline.headings(document)
    if headings:
        return headings[0].words[:300]
    words = next((plain(block) for block in document["content"] if plain(block).strip()), "")
    if not words:
        raise Refused("The file has neither a title nor any text; nothing was made of it.")
    return outline.teaser_text(
        {"content": [{"type": "paragraph", "content": [{"type": "text", "text": words}]}]}, 80
    )


def _with_pictures(
    workshop: Workshop, person: Person, blog: Blog, document: dict[str, Any], folder: Path | None
) -> tuple[dict[str, Any], list[str]]:
    """The document with its local pictures in the library, and the addresses of those not found."""
    missing: list[str] = []

    def change(node: dict[str, Any]) -> dict[str, Any]:
        if node["type"] == "picture" and ":" not in node["attrs"]["src"]:
            src = node["attrs"]["src"]
            file = (folder / src).resolve() if folder else None
            if (
                folder is None
                or file is None
                or not file.is_relative_to(folder.resolve())
                or not file.is_file()
            ):
                missing.append(src)
                return node
            row = library.add_picture(workshop, person, blog, file.name, file.read_bytes())
            return {**node, "attrs": {**node["attrs"], "src": media_src(row.id)}}
        if "content" in node:
            return {**node, "content": [change(child) for child in node["content"]]}
        return node

    return change(document), missing
