"""Resolves a number or an address to what a person may have; every lookup for a person asks `core/rights.py` here.

What is handed out is typed by what it is for (`ReadablePost`, `EditablePost` and so on). Nothing else makes these types, and
no other module of `actions` or `web` looks a post, an item or saved blocks up by number for a person; a test of the
architecture holds both.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import NewType

from mobbet.actions import approvals
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import COLLEAGUE_TITLE, EVERYONE, ONLY_ME, PRIVATE_TITLE, SIGNED_IN
from mobbet.core.errors import NotAllowed, NotFound
from mobbet.core.rights import RIGHTS, Action, Role, house_rights, may
from mobbet.core.values import existing
from mobbet.store import blogs, kept, media, placements, posts
from mobbet.store.blogs import Blog
from mobbet.store.kept import Kept
from mobbet.store.media import Media
from mobbet.store.people import Person
from mobbet.store.posts import Post

ReadablePost = NewType("ReadablePost", Post)
EditablePost = NewType("EditablePost", ReadablePost)
ReadableItem = NewType("ReadableItem", Media)
EditableItem = NewType("EditableItem", ReadableItem)
ReadableKept = NewType("ReadableKept", Kept)
EditableKept = NewType("EditableKept", ReadableKept)


OF_POSTS = frozenset(
    {
        Action.READ_POST,
        Action.EDIT_POST,
        Action.PLACE_POST,
        Action.WITHDRAW_POST,
        Action.GIVE_WORD,
        Action.NOTE_POST,
        Action.SHARE_COPY,
        Action.SETTLE_COMMENT,
    }
)
"""The rights that are on a post, its author's or a colleague's."""


def role_of(workshop: Workshop, person: Person, blog: Blog) -> Role | None:
    """What a person is on a blog; None for somebody who does not work on it."""
    role = blogs.role(workshop.db, blog.id, person.id)
    return Role(role) if role else None


def blog_for(workshop: Workshop, person: Person, slug: str, action: Action = Action.WORK) -> Blog:
    """The blog with that address, for somebody who may do this there.

    Raises NotFound for anyone who does not work on it, NotAllowed for other roles.
    """
    blog = blogs.by_slug(workshop.db, slug)
    role = role_of(workshop, person, blog) if blog else None
    if blog is None or role is None:
        raise NotFound(f"There is no blog “{slug[:80]}” that you work on; choose one of yours from the bar.")
    if not _may(blog, role, action):
        raise NotAllowed(RIGHTS[action].refusal)
    return blog


def _may(blog: Blog, role: Role, action: Action, is_own: bool = True, is_private: bool = False) -> bool:
    return may(role, action, is_own=is_own, is_private=is_private, rights=house_rights(blog.rights))


def has_right(workshop: Workshop, person: Person, blog: Blog, action: Action, is_own: bool = True) -> bool:
    """Whether this person may do this on a blog, with what is their own or a colleague's."""
    role = role_of(workshop, person, blog)
    return role is not None and _may(blog, role, action, is_own)


def owns_every_blog(workshop: Workshop, person: Person) -> bool:
    """Whether a person owns all blogs of the server, and so may have what holds them all."""
    every = blogs.every(workshop.db)
    return bool(every) and all(role_of(workshop, person, blog) is Role.OWNER for blog in every)


def require_every_blog(workshop: Workshop, person: Person) -> None:
    """Raises NotAllowed for somebody who does not own every blog of the server."""
    if not owns_every_blog(workshop, person):
        raise NotAllowed(
            "Backups hold every blog of this server; only somebody who owns all of them keeps backups."
        )


def require(workshop: Workshop, person: Person, blog: Blog, action: Action) -> None:
    """Raises NotFound or NotAllowed unless this person may do this on a blog."""
    blog_for(workshop, person, blog.slug, action)


def require_for(workshop: Workshop, person: Person, slug: str, action: Action, kept_number: int = 0) -> None:
    """Raises NotFound or NotAllowed unless this person may do this on the blog with that address; with EDIT_KEPT, to some saved blocks of it."""
    if action == Action.EDIT_KEPT:
        editable_kept(workshop, person, blog_for(workshop, person, slug), kept_number)
    else:
        blog_for(workshop, person, slug, action)


def require_on_post(workshop: Workshop, person: Person, post_id: int, action: Action) -> None:
    """Raises NotFound or NotAllowed unless this person may do this with a post, or, for a right on the whole blog, with that of a post they may change."""
    if action in OF_POSTS:
        _post_to(workshop, person, post_id, action)
    else:
        _, blog = editable_post(workshop, person, post_id)
        require(workshop, person, blog, action)


def require_on_item(workshop: Workshop, person: Person, media_id: int, action: Action) -> None:
    """Raises NotFound or NotAllowed unless this person may do this with an item of the library."""
    if action == Action.EDIT_ITEM:
        editable_item(workshop, person, media_id)
    else:
        readable_item(workshop, person, media_id)


def owned_blog(workshop: Workshop, person: Person, slug: str) -> Blog:
    """A blog of which this person is the owner. Raises NotAllowed for other members."""
    return blog_for(workshop, person, slug, Action.OWN_HOUSE)


def is_keeper(workshop: Workshop, person: Person, blog: Blog) -> bool:
    """Whether this person sees and settles what concerns colleagues' posts: the owner, or an editor."""
    return has_right(workshop, person, blog, Action.ANY_AUTHOR)


def is_owner(workshop: Workshop, person: Person, blog: Blog) -> bool:
    """Whether this person keeps the house of a blog: its look, its editions, its places outside."""
    return has_right(workshop, person, blog, Action.OWN_HOUSE)


def editable_post(workshop: Workshop, person: Person, post_id: int) -> tuple[EditablePost, Blog]:
    """A post that this person may change. Raises NotFound where there is none for them, NotAllowed for a writer's colleague."""
    post, blog = _post_to(workshop, person, post_id, Action.EDIT_POST)
    return EditablePost(ReadablePost(post)), blog


def readable_post(workshop: Workshop, person: Person, post_id: int) -> tuple[ReadablePost, Blog]:
    """A post whose working text this person may see. Raises NotFound for any other."""
    post, blog = _post_to(workshop, person, post_id, Action.READ_POST)
    return ReadablePost(post), blog


def post_to_withdraw(workshop: Workshop, person: Person, post_id: int) -> tuple[Post, Blog]:
    """A post that this person may take off the site; its working text may be for its author alone. Raises NotFound, NotAllowed."""
    return _post_to(workshop, person, post_id, Action.WITHDRAW_POST)


def note_post(workshop: Workshop, person: Person, post_id: int) -> tuple[Post, Blog]:
    """A post on which this person may leave notes. Raises NotFound, NotAllowed."""
    return _post_to(workshop, person, post_id, Action.NOTE_POST)


def share_post(workshop: Workshop, person: Person, post_id: int) -> tuple[Post, Blog]:
    """A post of which this person may make reading copies. Raises NotFound, NotAllowed."""
    return _post_to(workshop, person, post_id, Action.SHARE_COPY)


def other_post(workshop: Workshop, person: Person, post_id: int, action: Action) -> tuple[Post, Blog]:
    """A post of which this person may say something that nobody says of their own, such as GIVE_WORD. Raises NotFound, NotAllowed."""
    return _post_to(workshop, person, post_id, action)


def right_to_settle(workshop: Workshop, person: Person, post_id: int) -> None:
    """Raises NotAllowed or NotFound unless this person settles the comments under a post."""
    _post_to(workshop, person, post_id, Action.SETTLE_COMMENT)


def may_read_post(workshop: Workshop, person: Person, post_id: int) -> bool:
    """Whether `readable_post` would answer with it."""
    try:
        readable_post(workshop, person, post_id)
    except (NotAllowed, NotFound):
        return False
    return True


def may_edit_post(workshop: Workshop, person: Person, post_id: int) -> bool:
    """Whether `editable_post` would answer with it."""
    try:
        editable_post(workshop, person, post_id)
    except (NotAllowed, NotFound):
        return False
    return True


def title_for(workshop: Workshop, person: Person, post_id: int) -> str:
    """The title of a post as this person may see it: of one that they may not read what other readers get, or words in its place."""
    if may_read_post(workshop, person, post_id):
        return existing(posts.by_id(workshop.db, post_id)).title or "No title yet"
    row = placements.for_others(workshop.db, post_id, workshop.clock())
    is_told = row is not None and not (workshop.db.limited and row.audience not in (EVERYONE, SIGNED_IN))
    return (
        placements.title_of(workshop.db, existing(row))
        if is_told
        else COLLEAGUE_TITLE
        if workshop.db.limited
        else PRIVATE_TITLE
    )


def told_title(post: Post) -> str:
    """The title of a post for what everybody of the blog reads, such as why an edition was made."""
    return PRIVATE_TITLE if post.visibility == ONLY_ME else post.title or "No title yet"


def _post_to(workshop: Workshop, person: Person, post_id: int, action: Action) -> tuple[Post, Blog]:
    post = posts.by_id(workshop.db, post_id)
    blog = blogs.by_id(workshop.db, post.blog_id) if post else None
    role = role_of(workshop, person, blog) if blog and not blog.set_aside_at else None
    is_own = post is not None and post.author_id == person.id
    is_private = post is not None and post.visibility == ONLY_ME
    if (
        post is None
        or blog is None
        or role is None
        or (is_private and not _may(blog, role, action, is_own, is_private=True))
        or (is_private and not is_own and not placements.for_others(workshop.db, post_id, workshop.clock()))
    ):
        raise NotFound(f"There is no post with the number {post_id} on your blogs.")
    if not _may(blog, role, action, is_own):
        raise NotAllowed(RIGHTS[action].refusal)
    return post, blog


def readable_item(workshop: Workshop, person: Person, media_id: int) -> tuple[ReadableItem, Blog]:
    """An item of a blog this person works on. Raises NotFound for any other."""
    row = media.by_id(workshop.db, media_id)
    blog = blogs.by_id(workshop.db, row.blog_id) if row else None
    role = role_of(workshop, person, blog) if blog and not blog.set_aside_at else None
    if (
        row is None
        or blog is None
        or role is None
        or not _may(blog, role, Action.READ_ITEM, row.added_by == person.id)
    ):
        raise NotFound(f"There is no item {media_id} in the libraries of your blogs.")
    return ReadableItem(row), blog


def editable_item(workshop: Workshop, person: Person, media_id: int) -> tuple[EditableItem, Blog]:
    """An item that this person may change: a writer one they brought in, while no colleague's post shows it to readers. Raises NotFound, NotAllowed."""
    row, blog = readable_item(workshop, person, media_id)
    role = existing(role_of(workshop, person, blog))
    if not _may(blog, role, Action.EDIT_ITEM, _is_own_item(workshop, person, row, blog)):
        raise NotAllowed(RIGHTS[Action.EDIT_ITEM].refusal)
    return EditableItem(row), blog


def may_edit_item(workshop: Workshop, person: Person, media_id: int) -> bool:
    """Whether `editable_item` would answer with it."""
    try:
        editable_item(workshop, person, media_id)
    except (NotAllowed, NotFound):
        return False
    return True


def _is_own_item(workshop: Workshop, person: Person, row: Media, blog: Blog) -> bool:
    showing = (post_id for _, post_id in media.shown_by(workshop.db, row.id, workshop.clock()))
    return row.added_by == person.id and _are_own(workshop, person, showing, blog)


def readable_kept(workshop: Workshop, blog: Blog, number: int) -> ReadableKept:
    """Saved blocks of a blog that `blog_for` handed out. Raises NotFound where there are none."""
    one = kept.by_id(workshop.db, blog.id, number)
    if one is None or one.removed_at is not None:
        raise NotFound("There are no such saved blocks on this blog; they may have been removed.")
    return ReadableKept(one)


def editable_kept(workshop: Workshop, person: Person, blog: Blog, number: int) -> EditableKept:
    """Saved blocks that this person may change: a writer those they saved, while no colleague's post shows them to readers. Raises NotFound, NotAllowed."""
    one = readable_kept(workshop, blog, number)
    role = role_of(workshop, person, blog)
    if role is None:
        raise NotFound("There are no such saved blocks on your blogs.")
    showing = (post_id for _, post_id in kept.placements_of(workshop.db, number, workshop.clock()))
    is_own = one.added_by == person.id and _are_own(workshop, person, showing, blog)
    if not _may(blog, role, Action.EDIT_KEPT, is_own):
        raise NotAllowed(RIGHTS[Action.EDIT_KEPT].refusal)
    return EditableKept(one)


def may_edit_kept(workshop: Workshop, person: Person, blog: Blog, number: int) -> bool:
    """Whether `editable_kept` would answer with them."""
    try:
        editable_kept(workshop, person, blog, number)
    except (NotAllowed, NotFound):
        return False
    return True


def _are_own(workshop: Workshop, person: Person, post_ids: Iterable[int], blog: Blog) -> bool:
    """Whether these posts, which readers get, are all this person's, and none of them needed an editor's word to go out."""
    for post_id in post_ids:
        post = existing(posts.by_id(workshop.db, post_id))
        if post.author_id != person.id or approvals.standing(workshop, blog, post).is_needed:
            return False
    return True
