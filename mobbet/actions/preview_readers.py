"""The readers as whom a person may look at the site; nobody looks as somebody with more rights.

Nobody looks as somebody who may read more than they may themselves: as a stranger or as somebody signed in whoever works on
the blog, as a reader of a group its owner and editors (and whoever writes for that group, at their own post), and as
somebody who works on the blog each as themselves.
"""

from __future__ import annotations

from mobbet.actions import readers
from mobbet.actions.access import is_keeper, role_of
from mobbet.actions.workshop import Workshop
from mobbet.core import sealing
from mobbet.core.audience import EVERYONE, GROUP, SIGNED_IN, STRANGER, Reader
from mobbet.core.errors import BadInput, NotAllowed
from mobbet.core.rights import Action, Role, house_rights, may
from mobbet.store import blogs, people
from mobbet.store import readers as reader_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post

OWNER, MYSELF = "owner", "me"


def reader_of(
    workshop: Workshop,
    blog: Blog,
    person: Person | None,
    guest: Person | None = None,
    proofs: frozenset[str] = frozenset(),
) -> Reader:
    """What somebody may read of a blog. `proofs` show which passwords they typed (`core/sealing.proof_of`).

    A `guest` came in by a link of a letter: they read as one of the groups they are in, and as nobody who works here.
    """
    db = workshop.db
    opened = (
        frozenset(
            row.post_id
            for row in readers.behind_passwords(workshop, blog)
            if sealing.proof_of(row.password_key) in proofs
        )
        if proofs
        else frozenset()
    )
    if person is None and guest is not None:
        return Reader(
            None,
            reader_store.is_reader(db, blog.id, guest.id),
            reader_store.groups_of(db, blog.id, guest.id),
            opened,
        )
    if person is None:
        return Reader(opened=opened)
    role = role_of(workshop, person, blog)
    works_here = role is not None
    sees_all = role is not None and may(
        role, Action.READ_POST, is_own=False, rights=house_rights(blog.rights)
    )
    groups = (
        frozenset(group.id for group in reader_store.groups(db, blog.id))
        if sees_all
        else reader_store.groups_of(db, blog.id, person.id)
    )
    return Reader(
        person.id,
        works_here or reader_store.is_reader(db, blog.id, person.id),
        groups,
        opened,
        works_here,
        sees_all,
    )


def choices(workshop: Workshop, person: Person, blog: Blog, post: Post | None = None) -> dict[str, str]:
    """{as whom: in words} of those as whom this person may look, a post of theirs being looked at."""
    groups = [
        group
        for group in reader_store.groups(workshop.db, blog.id)
        if _may_look_as_group(workshop, person, blog, group.id, post)
    ]
    found = {
        EVERYONE: "anyone",
        SIGNED_IN: "somebody signed in",
        **{f"{GROUP}{group.id}": f"a reader of {group.name}" for group in groups},
    }
    return {
        **found,
        **(
            {OWNER: "you, as the owner"}
            if role_of(workshop, person, blog) == Role.OWNER
            else {MYSELF: "you, who work on it"}
        ),
    }


def reader_as(workshop: Workshop, person: Person, blog: Blog, kind: str, post: Post | None = None) -> Reader:
    """The reader that a choice stands for. Raises BadInput for none of the choices, NotAllowed for one of somebody else's."""
    word = kind.strip()
    if word in ("", EVERYONE):
        return STRANGER
    if word == SIGNED_IN:
        return Reader(None, True)
    if word == MYSELF or (word == OWNER and role_of(workshop, person, blog) == Role.OWNER):
        return reader_of(workshop, blog, person)
    number = word.removeprefix(GROUP)
    if (
        word.startswith(GROUP)
        and number.isdecimal()
        and len(number) < 16
        and int(number) in {group.id for group in reader_store.groups(workshop.db, blog.id)}
    ):
        if not _may_look_as_group(workshop, person, blog, int(number), post):
            raise NotAllowed(
                "Only the owner and the editors of the blog look as a reader of a group; ask one of them."
            )
        return Reader(None, True, frozenset({int(number)}))
    if word == OWNER:
        raise NotAllowed("Only the owner of the blog looks as the owner; choose another reader.")
    raise BadInput(f"“{kind[:80]}” is no reader; choose one of the list.", "reader")


def _may_look_as_group(
    workshop: Workshop, person: Person, blog: Blog, number: int, post: Post | None
) -> bool:
    return is_keeper(workshop, person, blog) or (post is not None and post.visibility == f"{GROUP}{number}")


def reader_for_operator(workshop: Workshop, blog: Blog, kind: str) -> Reader:
    """The reader that `everyone`, `signed-in`, `group:NAME` or `owner` stands for at the command line, where whoever types has every file anyway.

    Raises BadInput, NotFound.
    """
    word = kind.strip()
    if word.lower() in ("", EVERYONE):
        return STRANGER
    if word.lower() == SIGNED_IN:
        return Reader(None, True)
    if word.lower().startswith(GROUP):
        return Reader(None, True, frozenset({readers.group_by_name(workshop, blog, word[len(GROUP) :]).id}))
    if word.lower() == OWNER:
        owner = next(
            person
            for person in people.of_blog(workshop.db, blog.id)
            if blogs.role(workshop.db, blog.id, person.id) == Role.OWNER
        )
        return reader_of(workshop, blog, owner)
    raise BadInput(f"“{kind}” is no reader; choose everyone, signed-in, group:NAME or owner.", "--as")
