"""The lines of a post's docket, each set by a person."""

from __future__ import annotations

from mobbet.actions.access import editable_post, require, told_title
from mobbet.actions.categories import make_category, named
from mobbet.actions.people import hashing
from mobbet.actions.posts import note_items, read_line
from mobbet.actions.readers import group_by_name
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import sealing
from mobbet.core.audience import GROUP, LISTED, PASSWORD, read_visibility
from mobbet.core.document import schema
from mobbet.core.errors import BadInput
from mobbet.core.languages import read_language
from mobbet.core.permalinks import one_form
from mobbet.core.rights import Action
from mobbet.core.sharing import NONE as NO_SHARING
from mobbet.core.slugs import read_post_slug
from mobbet.core.timing import instant_of_wall, read_wall
from mobbet.core.values import existing
from mobbet.store import addresses, blogs, filing, media, people, posts
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post


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
        note_items(workshop, document, posts.again(workshop.db, post))


def set_author(workshop: Workshop, person: Person, post_id: int, author_id: str) -> None:
    post, blog = editable_post(workshop, person, post_id)
    if not author_id.isdecimal() or blogs.role(workshop.db, blog.id, int(author_id)) is None:
        raise BadInput("That person does not work on this blog; choose one from the list.", "author")
    if int(author_id) == post.author_id:
        return
    require(workshop, person, blog, Action.GIVE_POST)
    name = existing(people.by_id(workshop.db, int(author_id))).name
    with changing(workshop):
        _settle(workshop, post, author_id=int(author_id))
        note(workshop, person, "given", blog.id, told_title(post), name, post.id)


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
    _settle(
        workshop,
        post,
        leads_to=other_post(workshop, blog, post, typed, "leads_to") if typed.split() else None,
    )


def other_post(workshop: Workshop, blog: Blog, post: Post, typed: str, field: str) -> int:
    """The number of another post of the blog, by its title or address. Raises BadInput."""
    words = " ".join(typed.split())
    owner = addresses.owner(workshop.db, blog.id, one_form(words)) if words.startswith("/") else None
    number = owner[1] if owner and owner[0] == "post" else posts.titled(workshop.db, blog.id, words)
    if number is None or number == post.id:
        raise BadInput(f"No other post has the address or title “{words}”; type one as it is.", field)
    return number


def set_sharing(workshop: Workshop, person: Person, post_id: int, is_off: bool) -> None:
    """Whether readers find the blog's ways to share a post below it."""
    post, _ = editable_post(workshop, person, post_id)
    _settle(workshop, post, sharing=NO_SHARING if is_off else "")


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
        chosen = [named(workshop, blog, name) for name in names]
        posts.set_categories(workshop.db, post.id, list(dict.fromkeys(chosen)), workshop.clock())


def _settle(workshop: Workshop, post: Post, **values: object) -> None:
    with changing(workshop):
        posts.settle(workshop.db, post.id, workshop.clock(), **values)
