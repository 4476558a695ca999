"""Copies a post to another blog, with its pictures, text, and filing by name."""

from __future__ import annotations

import json
import re
from typing import Any

from mobbet.actions import categories, tags
from mobbet.actions import posts as post_actions
from mobbet.actions.access import blog_for, is_keeper
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.docket import MOVING
from mobbet.core.document import outline, schema
from mobbet.core.document.links import post_number
from mobbet.core.document.mentions import expanded
from mobbet.core.filing import path_in_words
from mobbet.store import blogs, filing, jobs, media, placements, posts
from mobbet.store import kept as kept_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post


def bring_over(workshop: Workshop, person: Person, post: Post, blog: Blog, slug: str) -> Post:
    """A draft of the same text on another blog of this person: pictures come into its library, categories and tags are found by their
    names or made (categories by a keeper), standing copies become plain text, and links to posts lead to where those are out. Raises what making a draft raises.
    """
    other, db = blog_for(workshop, person, slug), workshop.db
    with changing(workshop):
        revision = posts.working(db, post.id)
        document, new = text_for(workshop, blog, other, schema.load(revision.body), post.lead_media)
        copy = post_actions.begin_post(workshop, person, other.slug)
        post_actions.save_text(
            workshop,
            person,
            copy.id,
            base=copy.revision,
            title=revision.title,
            subtitle=revision.subtitle,
            body=document,
        )
        now = workshop.clock()
        subjects = category_subjects(workshop, blog)
        known = {
            path_in_words(category_subjects(workshop, other), number): number
            for number in category_subjects(workshop, other)
        }
        paths = [path_in_words(subjects, number) for number in posts.categories(db, post.id)]
        if is_keeper(workshop, person, other):
            known |= {
                path: categories.make_category(workshop, other, path) for path in paths if path not in known
            }
        posts.set_categories(db, copy.id, [known[path] for path in paths if path in known], now)
        posts.set_tags(
            db,
            copy.id,
            [tags.make_tag(workshop, other, tag.name) for tag in filing.tags(db, posts.tags(db, post.id))],
            now,
        )
        settings = {name: getattr(post, name) for name in MOVING}
        author = post.author_id if blogs.role(db, other.id, post.author_id) else person.id
        posts.settle(
            db,
            copy.id,
            now,
            **settings,
            author_id=author,
            lead_media=new.get(post.lead_media) if post.lead_media else None,
        )
    return posts.again(db, copy)


def text_for(
    workshop: Workshop, blog: Blog, other: Blog, body: dict[str, Any], lead_media: int | None
) -> tuple[dict[str, Any], dict[int, int | None]]:
    """(a text of a blog as another blog can have it, {item of its library: the same one of the other's}); `lead_media` comes along."""
    document: Any = expanded(body, lambda number: kept_store.document(workshop.db, blog.id, number))
    numbers = dict.fromkeys([*outline.items(document), *filter(None, [lead_media])])
    new = {number: _item(workshop, blog, other, number) for number in numbers}
    return schema.check(_led_out(workshop, blog, with_items(document, new))), new


NO_ITEM = 0
"""The number that an item has in a text which named one of another blog; no library has it."""


def with_items(document: Any, new: dict[int, int | None]) -> Any:
    """A document whose items have other numbers, {before: now}; those without one are shown no more."""
    return json.loads(
        re.sub(
            r'"media:(\d{1,12})"',
            lambda found: f'"media:{new.get(int(found[1])) or NO_ITEM}"',
            json.dumps(document, ensure_ascii=False),
        )
    )


def _item(workshop: Workshop, blog: Blog, other: Blog, number: int) -> int | None:
    """The number that an item of a blog has in another blog's library; its files are the same ones. None for what the blog does not have."""
    row = media.on_blog(workshop.db, blog.id, number)
    if row is None:
        return None
    known = media.by_hash(workshop.db, other.id, row.hash)
    if known:
        return known.id
    values = {**row.__dict__, "blog_id": other.id, "aside_at": None}
    del values["id"]
    made = media.add(workshop.db, **values)
    found = media.copies(workshop.db, number)
    media.set_copies(workshop.db, made.id, tuple({file.use for file, _ in found}), found)
    if row.state == "working":
        jobs.add(workshop.db, made.id, workshop.clock())
    return made.id


def _led_out(workshop: Workshop, blog: Blog, node: Any) -> Any:
    """A document whose links to the blog's own posts lead to their public addresses; to one that is not out there is none."""
    if isinstance(node, list):
        return [_led_out(workshop, blog, one) for one in node]
    if not isinstance(node, dict):
        return node
    led = {name: _led_out(workshop, blog, value) for name, value in node.items()}
    if "marks" in led:
        led["marks"] = [mark for mark in led["marks"] if mark["type"] != "link" or mark["attrs"]["href"]]
    for name in ("href", "address"):
        number = post_number(led[name]) if isinstance(led.get(name), str) else None
        if number:
            led[name] = _address(workshop, blog, number)
    return led


def _address(workshop: Workshop, blog: Blog, number: int) -> str:
    now = workshop.clock()
    rows = placements.of_post(workshop.db, number) if posts.on_blog(workshop.db, blog.id, number) else []
    out = placements.shown_at(rows, now)
    return blog.home.rstrip("/") + out.path if out else ""
