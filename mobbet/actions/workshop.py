"""What every action works with: one data folder, its press and its clock."""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from mobbet.actions.cabinet import Cabinet, Trial
from mobbet.core.errors import NotAllowed, NotFound
from mobbet.publish.editions import Press
from mobbet.services.contracts import (
    Asker,
    Clock,
    Collection,
    Dictionary,
    Fetcher,
    Mail,
    VideoHost,
)
from mobbet.settings import Settings
from mobbet.store import blogs, posts
from mobbet.store.blogs import Blog
from mobbet.store.database import Database
from mobbet.store.people import Person
from mobbet.store.posts import Post
from mobbet.store.shelf import Shelf


@dataclass
class Workshop:
    """One data folder in use. `on_change` is called after facts changed, to wake the scheduler.

    `memo` keeps what is dear to work out and can be worked out again.
    Pictures that come in are looked at one at a time, under `looking`, so that memory stays small.
    With a `trial`, changes of the filing are only tried.
    """

    settings: Settings
    db: Database
    media: Shelf
    pages: Shelf
    press: Press
    clock: Clock
    fetch: Fetcher
    collection: Collection
    videos: VideoHost
    dictionary: Dictionary
    mail: Mail
    ask: Asker
    on_change: Callable[[], None] = field(default=lambda: None)
    looking: threading.Lock = field(default_factory=threading.Lock)
    memo: dict[tuple, Any] = field(default_factory=dict)
    trial: Trial | None = None

    @property
    def cabinet(self) -> Cabinet:
        """Where changes of the filing are written."""
        return self.trial or Cabinet(self.db)


def blog_for(workshop: Workshop, person: Person, slug: str) -> Blog:
    """The blog with that address, for somebody who works on it. Raises NotFound for anyone else."""
    blog = blogs.by_slug(workshop.db, slug)
    if blog is None or blogs.role(workshop.db, blog.id, person.id) is None:
        raise NotFound(f"There is no blog “{slug}” that you work on; choose one of yours from the bar.")
    return blog


def post_for(workshop: Workshop, person: Person, post_id: int) -> tuple[Post, Blog]:
    """A post that this person may change: their own, or any for owners and editors.

    Raises NotFound when there is none on a blog of theirs, NotAllowed for a writer's colleague.
    """
    post = posts.by_id(workshop.db, post_id)
    role = blogs.role(workshop.db, post.blog_id, person.id) if post else None
    if post is None or role is None:
        raise NotFound(f"There is no post with the number {post_id} on your blogs.")
    if role == "writer" and post.author_id != person.id:
        raise NotAllowed("This post is by somebody else; ask an editor or the owner to change it.")
    return post, blogs.by_id(workshop.db, post.blog_id)


def keeper_of(workshop: Workshop, person: Person, slug: str, what: str = "its filing") -> Blog:
    """A blog whose filing (or `what` is named) this person keeps: its owner, or an editor. Raises NotAllowed for its writers."""
    blog = blog_for(workshop, person, slug)
    if blogs.role(workshop.db, blog.id, person.id) == "writer":
        raise NotAllowed(f"Only the owner and the editors of the blog change {what}; ask one of them.")
    return blog


def is_keeper(workshop: Workshop, person: Person, blog: Blog) -> bool:
    """Whether this person keeps the filing, the readers and the timetable of a blog: its owner, or an editor."""
    return blogs.role(workshop.db, blog.id, person.id) in ("owner", "editor")


def owned_blog(workshop: Workshop, person: Person, slug: str) -> Blog:
    """A blog of which this person is the owner. Raises NotAllowed for other members."""
    blog = blog_for(workshop, person, slug)
    if blogs.role(workshop.db, blog.id, person.id) != "owner":
        raise NotAllowed("Only the owner of the blog can change this; ask them.")
    return blog
