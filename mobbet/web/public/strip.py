"""The strip that people who work on a blog find on its public pages: to write on what they look at, and to begin a post. No reader gets it."""

from __future__ import annotations

from html import escape

from mobbet.actions.access import role_of
from mobbet.actions.people import person_of
from mobbet.actions.workshop import Workshop
from mobbet.core.keys import PageKey
from mobbet.core.rights import Action, house_rights, may
from mobbet.store import posts
from mobbet.store.blogs import Blog
from mobbet.web.desk import addresses as to_desk
from mobbet.web.shell import addresses as to_shell
from mobbet.web.shell.cookies import session_cookie
from mobbet.web.write import addresses as to_write


def with_strip(
    workshop: Workshop, blog: Blog, cookies: dict[str, str], key: PageKey | None, page: bytes
) -> bytes | None:
    """A page with the strip of whoever sent these cookies; None for anybody who does not work on the blog. `key` says what the page is of."""
    person = person_of(workshop, cookies.get(session_cookie(workshop.settings)))
    role = role_of(workshop, person, blog) if person else None
    if person is None or role is None:
        return None
    found = posts.of_page(workshop.seen_by(person.id).db, key.number) if key and key.kind == "post" else None
    is_editable = found is not None and may(
        role,
        Action.EDIT_POST,
        is_own=found.author_id == person.id,
        is_private=found.visibility == "only-me",
        rights=house_rights(blog.rights),
    )
    write = f'<a href="{to_write.write(found.id)}">Write on it</a>' if found and is_editable else ""
    strip = (
        f'<nav class="of-the-house" aria-label="For {escape(person.name)}, who works here">{write}'
        f'<form method="post" action="{to_desk.new_post(blog.slug)}"><button>New post</button></form>'
        f'<a href="{to_desk.desk(blog.slug)}">Desk</a></nav>'
    )
    style = f'<link rel="stylesheet" href="{to_shell.static("strip.css")}">'
    return page.replace(b"</head>", style.encode() + b"\n</head>", 1).replace(
        b"</body>", strip.encode() + b"\n</body>", 1
    )
