"""A post on a background of its own: its colours and a picture on top, within what can be read."""

from __future__ import annotations

from mobbet.actions import looks
from mobbet.actions.access import editable_post
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput
from mobbet.core.look.own import own_text, read_own, read_typed
from mobbet.store import media, posts
from mobbet.store.people import Person


def set_colours(
    workshop: Workshop, person: Person, post_id: int, paper: str | None, accent: str | None
) -> None:
    """Gives a post another background or accent; what is None stays. Raises BadInput."""
    post, _ = editable_post(workshop, person, post_id)
    own = read_own(post.own_look)
    paper, accent = own.paper if paper is None else paper, own.accent if accent is None else accent
    set_own_look(workshop, person, post_id, paper=paper, accent=accent, picture=str(own.picture or ""))


def set_own_look(
    workshop: Workshop, person: Person, post_id: int, *, paper: str, accent: str, picture: str
) -> None:
    """Gives a post a background, an accent and a picture on top of its own; with none of them it looks like the site. Raises BadInput for what is no colour, and
    what could not be read."""
    post, blog = editable_post(workshop, person, post_id)
    number = int(picture) if picture.isascii() and picture.isdecimal() and len(picture) < 16 else 0
    item = media.on_blog(workshop.db, blog.id, number) if number else None
    if number and (item is None or item.kind != "picture"):
        raise BadInput("The library of this blog has no such picture; choose one of the list.", "picture")
    own = read_typed(looks.given(workshop, blog), paper, accent, number)
    with changing(workshop):
        posts.settle(workshop.db, post.id, workshop.clock(), own_look=own_text(own))
