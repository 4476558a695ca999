"""Brings one post back out of a backup, into the folder that is in use."""

from __future__ import annotations

from typing import Any

from mobbet.actions import library, posts
from mobbet.actions.access import blog_for
from mobbet.actions.copy_to_blog import with_items
from mobbet.actions.files import settle
from mobbet.actions.permalinks import category_subjects
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import frontmatter
from mobbet.core.document import outline, schema
from mobbet.core.document.mentions import expanded
from mobbet.core.errors import NotFound
from mobbet.core.filing import path_in_words
from mobbet.core.values import existing
from mobbet.store import blogs, filing, kept, media
from mobbet.store import posts as post_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post


def find(workshop: Workshop, number: int) -> tuple[Post, Blog]:
    """A post of a backup that was opened, and its blog. Raises NotFound."""
    post = post_store.by_id(workshop.db, number)
    blog = blogs.by_id(workshop.db, post.blog_id) if post else None
    if post is None or blog is None:
        raise NotFound(f"There is no post {number} in this copy; mobbet post list tells the numbers.")
    return post, blog


def bring_back(
    workshop: Workshop, person: Person, blog: Blog, backup: Workshop, number: int
) -> tuple[Post, bool]:
    """(the post with the text that it has in a backup, whether it had to be made anew). Where the post is still there it gets that
    text as its newest revision, and readers get what they have; else it is a draft with its categories, tags and excerpt.

    Its pictures come into the library where they are no more. `backup` is a copy that was restored elsewhere. Raises NotFound.
    """
    old, _ = find(backup, number)
    revision = post_store.working(backup.db, number)
    document = _document(workshop, person, blog, backup, old, schema.load(revision.body))
    now = post_store.by_id(workshop.db, number)
    is_new = now is None or now.blog_id != blog.id or now.made_at != old.made_at
    with changing(workshop, person):
        post = posts.begin_post(workshop, person, blog.slug) if is_new else existing(now)
        posts.save_text(
            workshop,
            person,
            post.id,
            base=post.revision,
            title=revision.title,
            subtitle=revision.subtitle,
            body=document,
        )
        if is_new:
            settle(workshop, person, blog, post, _settings(backup, old))
    return post_store.again(workshop.db, post), is_new


def _document(
    workshop: Workshop, person: Person, blog: Blog, backup: Workshop, old: Post, body: Any
) -> dict[str, Any]:
    """The text with items of this library. Saved blocks that are shown in it stand in it as they were."""
    blog_for(workshop, person, blog.slug)
    document: Any = expanded(body, lambda number: kept.document(backup.db, old.blog_id, number))
    new: dict[int, int | None] = {}
    for number in dict.fromkeys(outline.items(document)):
        row = media.on_blog(backup.db, old.blog_id, number)
        if row is None:
            continue
        known = media.by_hash(workshop.db, blog.id, row.hash)
        if known is None:
            with backup.media.path(row.hash).open("rb") as stream:
                known = library.add_stream(
                    workshop, person, blog, row.name, stream, alt=row.alt, caption=row.caption
                )
        new[number] = known.id
    return schema.check(with_items(document, new))


def _settings(backup: Workshop, old: Post) -> frontmatter.Settings:
    blog = existing(blogs.by_id(backup.db, old.blog_id))
    subjects = category_subjects(backup, blog)
    paths = [path_in_words(subjects, number) for number in post_store.categories(backup.db, old.id)]
    tags = [tag.name for tag in filing.tags(backup.db, post_store.tags(backup.db, old.id))]
    return frontmatter.Settings(
        categories=tuple(paths) or None,
        tags=tuple(tags) or None,
        excerpt=old.excerpt or None,
        description=old.description or None,
    )
