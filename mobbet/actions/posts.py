"""Beginning a post, saving its text, settling its docket."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from mobbet.actions import presence
from mobbet.actions.access import blog_for, editable_post
from mobbet.actions.categories import make_category
from mobbet.actions.lead_tracking import carry_lead
from mobbet.actions.people import hashing
from mobbet.actions.readers import group_by_name
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import sealing
from mobbet.core.audience import EVERYONE, GROUP, LISTED, PASSWORD, read_visibility
from mobbet.core.canonical import canonical
from mobbet.core.docket import COLUMNS, Docket
from mobbet.core.document import outline, schema
from mobbet.core.document.anchors import carried
from mobbet.core.document.characters import UNPRINTABLE
from mobbet.core.errors import BadInput, Conflict
from mobbet.core.languages import read_language
from mobbet.core.permalinks import one_form
from mobbet.core.revisions import Aged, to_drop
from mobbet.core.slugs import read_post_slug
from mobbet.core.timing import instant_of_wall, read_wall
from mobbet.core.values import existing
from mobbet.store import addresses, blogs, filing, media, people, placements, posts, revisions
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post, Revision

STRETCH = 5 * 60
"""Saves by one person within so many seconds replace each other; the first after it is kept apart."""
LONGEST = {"alt": 2000, "title": 300, "subtitle": 300, "excerpt": 600, "description": 320}


@dataclass(frozen=True)
class Saved:
    """A save that is safe on the disk."""

    revision: int
    words: int
    minutes: int


def begin_post(workshop: Workshop, person: Person, blog_slug: str) -> Post:
    """A new, empty draft by this person."""
    blog = blog_for(workshop, person, blog_slug)
    with changing(workshop):
        post = posts.add(workshop.db, blog_id=blog.id, author_id=person.id, made_at=workshop.clock())
        save_text(workshop, person, post.id, base=0, title="", subtitle="", body=schema.EMPTY)
    return posts.again(workshop.db, post)


def new_post(workshop: Workshop, person: Person, blog_slug: str) -> Post:
    """An empty draft by this person: one they began before and left untouched, or another one."""
    blog = blog_for(workshop, person, blog_slug)
    for post in posts.as_begun(workshop.db, blog.id, person.id):
        if _is_untouched(workshop, post) and not presence.on_it(workshop, post.id):
            return post
    return begin_post(workshop, person, blog_slug)


def _is_untouched(workshop: Workshop, post: Post) -> bool:
    """Whether nothing at all was put into a post since it was begun."""
    usual = Docket()
    return (
        (post.slug, post.visibility, post.goes_out_wall, post.comes_down_wall, post.is_template)
        == ("", EVERYONE, None, None, 0)
        and all(getattr(post, column) == getattr(usual, column) for column in COLUMNS)
        and not posts.categories(workshop.db, post.id)
        and not posts.tags(workshop.db, post.id)
        and posts.working_body(workshop.db, post.id) == canonical(schema.EMPTY)
    )


def save_text(
    workshop: Workshop, person: Person, post_id: int, *, base: int, title: str, subtitle: str, body: object,
    save_key: str = "", is_apart: bool = False, after: Sequence[str] = (),
) -> Saved:  # fmt: skip
    """Saves title, subtitle and document as a new revision, upon revision `base`.

    The same `save_key` sent again is answered as before, without a second revision; a text equal to
    the working one makes none. `after` are the keys of saves of this sheet that were never answered: when one
    of them arrived all the same, this one follows it. `is_apart` keeps the text before as a revision however new it is. Raises Conflict when the working revision is not `base`,
    BadDocument and BadInput for a text that cannot be kept.
    """
    post, _ = editable_post(workshop, person, post_id)
    title, subtitle = read_line(title, "title"), read_line(subtitle, "subtitle")
    document = schema.check(body)
    words = outline.count_words(document)
    with changing(workshop):
        post = posts.again(workshop.db, post)
        before = posts.revision(workshop.db, post_id, post.revision)
        text = canonical(carried(document, schema.load(before.body)) if before else document)
        if before and (
            (save_key and before.save_key == save_key)
            or (before.title, before.subtitle, before.body) == (title, subtitle, text)
        ):
            return Saved(before.number, words, outline.minutes(words))
        if post.revision != base and not (
            before and before.save_key and before.save_key in after and before.person_id == person.id
        ):
            raise _conflict(workshop, post, existing(before))
        now = workshop.clock()
        is_same_stretch = (
            before is not None
            and not is_apart
            and not before.name
            and before.person_id == person.id
            and now - before.begun_at < STRETCH
            and not posts.is_placed(workshop.db, post_id, before.number)
        )
        begun = before.begun_at if before and is_same_stretch else now
        number = post.revision + 1
        posts.add_revision(
            workshop.db,
            Revision(post_id, number, person.id, title, subtitle, text, save_key, begun, now),
            words,
        )
        if before is not None:
            carry_lead(workshop, post, schema.load(before.body), schema.load(text))
        media.set_post_media(workshop.db, post_id, _shown(workshop, document, post))
        if before and is_same_stretch:
            posts.drop_revision(workshop.db, post_id, before.number)
        elif before is not None:
            thin(workshop, post_id)
    return Saved(number, words, outline.minutes(words))


def _shown(workshop: Workshop, document: dict[str, Any], post: Post) -> tuple[int, ...]:
    """Everything of its blog's library that a post shows, in its text or in lists; a text may name what is no such item."""
    return media.of_blog(
        workshop.db, post.blog_id, [*outline.items(document), *([post.lead_media] if post.lead_media else [])]
    )


def set_lead_picture(workshop: Workshop, person: Person, post_id: int, media_id: int | None) -> None:
    """Chooses the picture that a post is shown by in lists, share cards and feeds; None leaves it to the rule."""
    post, blog = editable_post(workshop, person, post_id)
    row = media.on_blog(workshop.db, blog.id, media_id) if media_id is not None else None
    if media_id is not None and (row is None or row.kind not in ("picture", "video")):
        raise BadInput("That is no picture of this blog’s library; choose another one.", "lead")
    with changing(workshop):
        posts.settle(
            workshop.db,
            post.id,
            workshop.clock(),
            lead_media=media_id,
            **({"lead": ""} if media_id is not None else {}),
        )
        document = schema.load(posts.working_body(workshop.db, post.id))
        media.set_post_media(workshop.db, post.id, _shown(workshop, document, posts.again(workshop.db, post)))


def thin(workshop: Workshop, post_id: int) -> None:
    """Drops the revisions that age has made superfluous; called when a new stretch of writing begins."""
    rows = revisions.of_post(workshop.db, post_id)
    aged = [Aged(row.number, row.saved_at, row.is_placed or bool(row.name)) for row in rows]
    for number in to_drop(aged, workshop.clock()):
        posts.drop_revision(workshop.db, post_id, number)


def save_over(
    workshop: Workshop, person: Person, post_id: int, *, over: int, title: str, subtitle: str, body: object
) -> Saved:
    """Saves a text although revision `over` came in between; that one is kept as a revision of its own."""
    post, _ = editable_post(workshop, person, post_id)
    title, subtitle = read_line(title, "title"), read_line(subtitle, "subtitle")
    document = schema.check(body)
    words = outline.count_words(document)
    with changing(workshop):
        post = posts.again(workshop.db, post)
        if post.revision != over:
            raise _conflict(workshop, post, posts.working(workshop.db, post_id))
        now = workshop.clock()
        before = existing(posts.revision(workshop.db, post_id, over))
        document = _with_anchors_of(workshop, post_id, document, schema.load(before.body), now)
        revision = Revision(post_id, over + 1, person.id, title, subtitle, canonical(document), "", now, now)
        posts.add_revision(workshop.db, revision, words)
        carry_lead(workshop, post, schema.load(before.body), document)
        media.set_post_media(workshop.db, post_id, _shown(workshop, document, post))
    return Saved(over + 1, words, outline.minutes(words))


def _with_anchors_of(
    workshop: Workshop, post_id: int, document: dict[str, Any], over: dict[str, Any], now: int
) -> dict[str, Any]:
    """A text with the anchors of its headings as readers have them, and then as the text has that it is saved over."""
    live = next(
        (row for row in placements.of_post(workshop.db, post_id) if row.shows_from <= now < row.shows_until),
        None,
    )
    if live is not None:
        document = carried(document, schema.load(posts.body(workshop.db, post_id, live.revision)))
    return carried(document, over)


def keep_as_draft(
    workshop: Workshop, person: Person, post_id: int, *, title: str, subtitle: str, body: object
) -> Post:
    """Keeps a text that met another one as a draft of its own."""
    post, blog = editable_post(workshop, person, post_id)
    with changing(workshop):
        copy = begin_post(workshop, person, blog.slug)
        save_text(workshop, person, copy.id, base=copy.revision, title=title, subtitle=subtitle, body=body)
        posts.set_categories(workshop.db, copy.id, posts.categories(workshop.db, post_id), workshop.clock())
    return posts.again(workshop.db, copy)


def _conflict(workshop: Workshop, post: Post, other: Revision | None) -> Conflict:
    who = existing(people.by_id(workshop.db, other.person_id)).name if other else "Somebody"
    return Conflict(
        f"{who} saved another text of this post in the meantime; choose which one goes on.", post.revision
    )


def read_line(text: object, field: str) -> str:
    """A title, subtitle, excerpt or description in one line. Raises BadInput when it is too long."""
    line = " ".join(UNPRINTABLE.sub(" ", str(text)).split())
    if len(line) > LONGEST[field]:
        raise BadInput(f"The {field} has {len(line)} letters; {LONGEST[field]} is the most.", field)
    return line


def set_author(workshop: Workshop, person: Person, post_id: int, author_id: str) -> None:
    post, blog = editable_post(workshop, person, post_id)
    if not author_id.isdecimal() or blogs.role(workshop.db, blog.id, int(author_id)) is None:
        raise BadInput("That person does not work on this blog; choose one from the list.", "author")
    _settle(workshop, post, author_id=int(author_id))


def set_language(workshop: Workshop, person: Person, post_id: int, said: str) -> None:
    """The language of a post by tag or name; '' for its blog's. Raises BadInput."""
    post, blog = editable_post(workshop, person, post_id)
    language = read_language(said)
    _settle(workshop, post, language="" if language == blog.language else language)


def set_visibility(workshop: Workshop, person: Person, post_id: int, visibility: str) -> None:
    """Chooses who may read the post: a visibility, or `group:NAME` of a group of the blog. Raises NotFound for none of them."""
    post, blog = editable_post(workshop, person, post_id)
    value = read_visibility(visibility)
    if value.startswith(GROUP):
        value = f"{GROUP}{group_by_name(workshop, blog, value.removeprefix(GROUP)).id}"
    if value == PASSWORD and not post.password_key:
        raise BadInput("Type the password that opens the post.", "password")
    _settle(workshop, post, visibility=value)


def set_post_password(
    workshop: Workshop, person: Person, post_id: int, password: str, listed: str | None = None
) -> None:
    """Puts a post behind a password; '' keeps the one it has. `listed` is what lists show of it (`core/audience.LISTED`)."""
    post, blog = editable_post(workshop, person, post_id)
    if listed is not None and listed not in LISTED:
        raise BadInput(f"“{listed}” is no choice; choose one of the three.", "listed")
    if not password.strip() and not post.password_key:
        raise BadInput("Type the password that opens the post.", "password")
    key = _key_of(sealing.read_post_password(password), blog) if password.strip() else post.password_key
    _settle(
        workshop,
        post,
        visibility=PASSWORD,
        password_key=key,
        listed=post.listed if listed is None else listed,
    )


def _key_of(password: str, blog: Blog) -> str:
    with hashing():
        return sealing.key_of(password, blog.salt)


def set_line(workshop: Workshop, person: Person, post_id: int, field: str, text: str) -> None:
    """Sets the excerpt or the description."""
    post, _ = editable_post(workshop, person, post_id)
    _settle(workshop, post, **{field: read_line(text, field)})


def set_slug(workshop: Workshop, person: Person, post_id: int, text: str) -> None:
    """Sets the last part of the address; empty lets it follow the title again."""
    post, blog = editable_post(workshop, person, post_id)
    slug = read_post_slug(text, blog.slug_script) if text.strip() else ""
    if slug and posts.is_slug_taken(workshop.db, post.blog_id, slug, post.id):
        raise BadInput(f"Another post has the address “{slug}”; choose a different one.", "slug")
    _settle(workshop, post, slug=slug)


def set_time(workshop: Workshop, person: Person, post_id: int, field: str, wall: str) -> None:
    """Sets when the post is to go out or come down (`goes_out_wall`, `comes_down_wall`); '' for no time."""
    post, _ = editable_post(workshop, person, post_id)
    _settle(workshop, post, **{field: read_wall(wall, field) if wall.strip() else None})


def set_update_time(workshop: Workshop, person: Person, post_id: int, wall: str) -> None:
    """Sets when changes of what is out are to go out; '' for when they are updated. Raises BadInput for a time that has passed."""
    post, blog = editable_post(workshop, person, post_id)
    kept = read_wall(wall, "update") if wall.strip() else None
    if kept and instant_of_wall(kept, blog.zone) <= workshop.clock():
        raise BadInput(
            "That time has passed; choose a later one, or let changes go out when you update.", "update"
        )
    _settle(workshop, post, update_wall=kept)


def set_leads_to(workshop: Workshop, person: Person, post_id: int, typed: str) -> None:
    """Chooses the post to which the address leads once this one came down, by its address or title; '' answers that it is gone."""
    post, blog = editable_post(workshop, person, post_id)
    words = " ".join(typed.split())
    number = None
    if words:
        owner = addresses.owner(workshop.db, blog.id, one_form(words)) if words.startswith("/") else None
        number = owner[1] if owner and owner[0] == "post" else posts.titled(workshop.db, blog.id, words)
        if number is None or number == post.id:
            raise BadInput(
                f"No other post has the address or title “{words}”; type one as it is.", "leads_to"
            )
    _settle(workshop, post, leads_to=number)


def set_categories(
    workshop: Workshop, person: Person, post_id: int, main: str, others: list[str], new: str = ""
) -> None:
    """Files a post: the number of its main category, those of others, and perhaps a new one typed as a path.

    A new category becomes the main one where none is chosen.
    """
    post, blog = editable_post(workshop, person, post_id)
    with changing(workshop):
        known = {category.id for category in filing.categories(workshop.db, blog.id)}
        chosen = [int(number) for number in (main, *others) if number.isdecimal() and int(number) in known]
        if new.strip():
            chosen.append(make_category(workshop, blog, new))
        posts.set_categories(workshop.db, post.id, list(dict.fromkeys(chosen)), workshop.clock())


def set_category_names(workshop: Workshop, post: Post, blog: Blog, names: tuple[str, ...]) -> None:
    with changing(workshop):
        chosen = [make_category(workshop, blog, name) for name in names]
        posts.set_categories(workshop.db, post.id, list(dict.fromkeys(chosen)), workshop.clock())


def _settle(workshop: Workshop, post: Post, **values: object) -> None:
    with changing(workshop):
        posts.settle(workshop.db, post.id, workshop.clock(), **values)
