"""Posts and files for Mobbet's own JSON over HTTP."""

from __future__ import annotations

from typing import Any

from mobbet.actions import docket_lines, posts, tags
from mobbet.actions.imports import FILE_SECONDS, read_with_pictures
from mobbet.actions.micropub import need
from mobbet.actions.post_states import state_of
from mobbet.actions.program_posts import (
    ProgramPictures,
    address_of,
    is_placed,
    place,
    spelled_visibility,
    withdraw,
)
from mobbet.actions.programs import Grant
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.document.reading import read_markdown
from mobbet.core.document.write import to_markdown
from mobbet.core.errors import BadInput
from mobbet.core.filing import path_in_words
from mobbet.core.timing import iso, read_instant, wall
from mobbet.store import filing, people, placements
from mobbet.store import posts as post_store
from mobbet.store.posts import Post


def write(workshop: Workshop, grant: Grant, post: Post | None, wanted: dict[str, Any]) -> tuple[Post, str]:
    """(a post with what is wanted of it, a new one without one; why it does not go out although it was asked for). Raises what actions raise."""
    need(grant, *(("update",) if post else ("create", "draft")))
    document = _document(workshop, grant, wanted)
    with changing(workshop, grant.person):
        post = post or posts.begin_post(workshop, grant.person, grant.blog.slug)
        _save(workshop, grant, post, wanted, document)
        _settle(workshop, grant, post, wanted)
    waits, now = "", post_store.again(workshop.db, post)
    state = wanted.get("state")
    if state == "draft" and is_placed(workshop, now):
        withdraw(workshop, grant, now)
    elif state == "out" or (state is None and is_placed(workshop, now)):
        if not is_placed(workshop, now):
            need(grant, "create")
        waits = place(workshop, grant, now.id)
    return post_store.again(workshop.db, now), waits


def _document(workshop: Workshop, grant: Grant, wanted: dict[str, Any]) -> dict[str, Any] | None:
    if wanted.get("markdown") is not None and wanted.get("html") is not None:
        raise BadInput("The text came as markdown and as html; send one of the two.", "markdown")
    if wanted.get("html") is not None:
        pictures = ProgramPictures(workshop, grant)
        return dict(
            read_with_pictures(
                workshop,
                "html",
                wanted["html"].encode("utf-8", "replace"),
                pictures,
                FILE_SECONDS,
                "The text",
            ).document
        )
    if wanted.get("markdown") is not None:
        return dict(
            workshop.services.heavy(read_markdown, wanted["markdown"], seconds=FILE_SECONDS, what="The text")
        )
    return None


def _save(
    workshop: Workshop, grant: Grant, post: Post, wanted: dict[str, Any], document: dict[str, Any] | None
) -> None:
    if document is None and wanted.get("title") is None and wanted.get("subtitle") is None and post.revision:
        return
    working = post_store.working(workshop.db, post.id)
    body = document if document is not None else schema.load(working.body)
    title, subtitle = (
        wanted[name] if wanted.get(name) is not None else getattr(working, name)
        for name in ("title", "subtitle")
    )
    posts.save_text(
        workshop, grant.person, post.id, base=post.revision, title=title, subtitle=subtitle, body=body
    )


def _settle(workshop: Workshop, grant: Grant, post: Post, wanted: dict[str, Any]) -> None:
    """Writes the lines of the docket that are wanted."""
    person, blog = grant.person, grant.blog
    if wanted.get("categories") is not None:
        subjects = filing.subjects(workshop.db, blog.id)
        known = {path_in_words(subjects, number).casefold(): number for number in subjects}
        missing = next((path for path in wanted["categories"] if path.casefold() not in known), None)
        if missing is not None:
            raise BadInput(
                f"There is no category “{missing[:80]}”; the filing tells which there are.", "categories"
            )
        main, *others = [str(known[path.casefold()]) for path in wanted["categories"]] or [""]
        docket_lines.set_categories(workshop, person, post.id, main, others)
    if wanted.get("tags") is not None:
        tags.set_tags(workshop, person, post.id, ", ".join(one.replace(",", " ") for one in wanted["tags"]))
    if wanted.get("excerpt") is not None:
        docket_lines.set_line(workshop, person, post.id, "excerpt", wanted["excerpt"])
    if wanted.get("slug") is not None:
        docket_lines.set_slug(workshop, person, post.id, wanted["slug"])
    if wanted.get("visibility") is not None:
        docket_lines.set_visibility(workshop, person, post.id, wanted["visibility"])
    if wanted.get("goes_out") is not None:
        docket_lines.set_time(
            workshop,
            person,
            post.id,
            "goes_out_wall",
            wall(read_instant(wanted["goes_out"], blog.zone), blog.zone),
        )


def line(workshop: Workshop, grant: Grant, post: Post) -> dict[str, Any]:
    """A post as a line of a list."""
    rows = placements.of_post(workshop.db, post.id)
    newest = next((row for row in reversed(rows) if row.shows_from < row.shows_until), None)
    goes_out = (
        newest.goes_out
        if newest
        else read_instant(post.goes_out_wall, grant.blog.zone)
        if post.goes_out_wall
        else None
    )
    return {
        "id": post.id, "title": post.title, "state": state_of(workshop, post), "address": address_of(workshop, grant.blog, post),
        "goes_out": iso(goes_out) if goes_out is not None else None, "changed": iso(post.changed_at),
    }  # fmt: skip


def whole(workshop: Workshop, grant: Grant, post: Post, waits: str = "") -> dict[str, Any]:
    """A post with its text."""
    working, subjects = post_store.working(workshop.db, post.id), filing.subjects(workshop.db, grant.blog.id)
    author = people.by_id(workshop.db, post.author_id)
    return {
        **line(workshop, grant, post), "title": working.title, "subtitle": working.subtitle, "revision": post.revision, "author": author.name if author else "",
        "excerpt": post.excerpt, "slug": post.slug, "visibility": spelled_visibility(workshop, post),
        "categories": [path_in_words(subjects, one) for one in post_store.categories(workshop.db, post.id) if one in subjects],
        "tags": [tag.name for tag in filing.tags(workshop.db, post_store.tags(workshop.db, post.id))],
        "markdown": to_markdown(schema.load(working.body)), "waits": waits,
    }  # fmt: skip
