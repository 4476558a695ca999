"""Who works on a blog: roles, handing over, suspending, taking out. Inviting is in `invitations.py`."""

from __future__ import annotations

import json

from mobbet.actions.access import blog_for
from mobbet.actions.profiles import set_member
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.numbers import counted
from mobbet.core.rights import (
    ADJUSTABLE,
    ALWAYS,
    ASKERS,
    ROLE_WORDS,
    STAFF,
    Action,
    HouseRights,
    Role,
    house_rights,
)
from mobbet.core.values import existing
from mobbet.store import accounts, blogs, filing, people, posts
from mobbet.store.blogs import Blog
from mobbet.store.people import Member, Person


def of_blog(workshop: Workshop, person: Person, slug: str) -> tuple[Blog, list[Member]]:
    """Who works on a blog, for those who keep its people. Raises NotAllowed."""
    blog = blog_for(workshop, person, slug, Action.KEEP_PEOPLE)
    return blog, people.members(workshop.db, blog.id, workshop.clock())


def read_role(text: str) -> Role:
    """A role that somebody can have on a blog. Raises BadInput."""
    if text not in STAFF:
        raise BadInput(f"“{text[:30]}” is no role; choose {', '.join(STAFF)}.", "role")
    return Role(text)


def member(workshop: Workshop, blog: Blog, person_id: int) -> Member:
    """Somebody who works on a blog, suspended or not. Raises NotFound."""
    found = people.member(workshop.db, blog.id, person_id)
    if found is None:
        raise NotFound("This person does not work on the blog any more; reload the page.")
    return found


def _keep_an_owner(workshop: Workshop, blog: Blog, one: Member) -> None:
    """Raises Refused where the blog would be without an owner."""
    others = [
        other
        for other in people.of_blog(workshop.db, blog.id)
        if other.id != one.person.id
        and not other.suspended_at
        and blogs.role(workshop.db, blog.id, other.id) == Role.OWNER
    ]
    if one.role == Role.OWNER and not others:
        raise Refused(
            f"{one.person.name} is the only owner of “{blog.name}”; make somebody else an owner first."
        )


def set_role(workshop: Workshop, person: Person, slug: str, person_id: int, role: str) -> None:
    """Gives a colleague another role. Raises BadInput, NotFound, and Refused for the last owner."""
    blog, role = blog_for(workshop, person, slug, Action.KEEP_PEOPLE), read_role(role)
    with changing(workshop, person):
        one = member(workshop, blog, person_id)
        if role == one.role:
            return
        if role != Role.OWNER:
            _keep_an_owner(workshop, blog, one)
        set_member(workshop, blog, person_id, role)
        note(workshop, person, "role", blog.id, one.person.name, f"{role} (was {one.role})")


def suspend(workshop: Workshop, person: Person, slug: str, person_id: int, is_suspended: bool) -> None:
    """Keeps a colleague off the blog until they are let in again; what they wrote stays as it is. Raises NotFound, Refused for the last owner."""
    blog = blog_for(workshop, person, slug, Action.KEEP_PEOPLE)
    with changing(workshop, person):
        one = member(workshop, blog, person_id)
        if is_suspended:
            _keep_an_owner(workshop, blog, one)
        blogs.suspend_member(workshop.db, blog.id, person_id, workshop.clock() if is_suspended else None)
        note(workshop, person, "suspended" if is_suspended else "let-in", blog.id, one.person.name)


def hand_posts(workshop: Workshop, person: Person, slug: str, person_id: int, to_id: int) -> int:
    """Gives all posts of a colleague to another one, but those for the author alone; answers with how many. What is out keeps the name that it
    went out with, until it is updated. Raises BadInput, NotFound."""
    blog = blog_for(workshop, person, slug, Action.KEEP_PEOPLE)
    with changing(workshop, person):
        one = member(workshop, blog, person_id)
        to = people.member(workshop.db, blog.id, to_id)
        if to is None or to.suspended_at or to_id == person_id:
            raise BadInput("Nobody is chosen to whom the posts go; choose a colleague who works here.", "to")
        count = posts.give_all(workshop.db, blog.id, person_id, to_id)
        note(workshop, person, "handed-over", blog.id, one.person.name, counted(count, "post"))
        return count


def take_out(workshop: Workshop, person: Person, slug: str, person_id: int, to_id: int = 0) -> None:
    """Takes a colleague off the blog, after giving their posts to somebody else, or leaving them as they are, under their name.

    Raises BadInput, NotFound, Refused for the last owner.
    """
    blog = blog_for(workshop, person, slug, Action.KEEP_PEOPLE)
    with changing(workshop, person):
        one = member(workshop, blog, person_id)
        _keep_an_owner(workshop, blog, one)
        if to_id:
            hand_posts(workshop, person, slug, person_id, to_id)
        blogs.remove_member(workshop.db, blog.id, person_id)
        note(workshop, person, "taken-out", blog.id, one.person.name)


def leave(workshop: Workshop, person: Person, slug: str) -> None:
    """Takes oneself off a blog; posts and name stay. Raises Refused for the last owner."""
    blog = blog_for(workshop, person, slug)
    with changing(workshop, person):
        _keep_an_owner(workshop, blog, member(workshop, blog, person.id))
        blogs.remove_member(workshop.db, blog.id, person.id)
        note(workshop, person, "left", blog.id)


def rights_of(blog: Blog) -> HouseRights:
    """What a blog has otherwise than the table of rights."""
    return house_rights(blog.rights)


def adjust(workshop: Workshop, person: Person, slug: str, name: str, is_otherwise: bool) -> None:
    """Loosens or tightens a single right, a name of `core/rights.ADJUSTABLE`. Raises BadInput."""
    blog = blog_for(workshop, person, slug, Action.KEEP_PEOPLE)
    if name not in ADJUSTABLE:
        raise BadInput(f"“{name[:40]}” is no right that can be changed; choose one on the page.", "right")
    one = ADJUSTABLE[name]
    with changing(workshop, person):
        now = rights_of(existing(blogs.by_id(workshop.db, blog.id)))
        adjusted = now.adjusted | {name} if is_otherwise else now.adjusted - {name}
        _settle(
            workshop,
            person,
            blog,
            HouseRights(adjusted, now.asks),
            f"{one.before} {one.otherwise if is_otherwise else one.usual}",
        )


def set_asking(
    workshop: Workshop, person: Person, slug: str, role: str, when: str, categories: list[int]
) -> None:
    """Says when posts of a role need an editor's word: `always`, `never`, or `in` some categories. Raises BadInput."""
    blog = blog_for(workshop, person, slug, Action.KEEP_PEOPLE)
    if role not in ASKERS or role == Role.CONTRIBUTOR:
        raise BadInput(
            f"When a post of the role “{role[:20]}” goes out is not for this page to say; choose writer or editor.",
            "role",
        )
    known = filing.subjects(workshop.db, blog.id)
    chosen = frozenset(number for number in categories if number in known)
    if when not in (ALWAYS, "never", "in") or (when == "in" and not chosen):
        raise BadInput("No category is chosen; choose one at least, or always, or never.", "asks")
    rule = ALWAYS if when == ALWAYS else chosen if when == "in" else frozenset()
    names = ", ".join(known[number].name for number in sorted(chosen)) if when == "in" else when
    with changing(workshop, person):
        now = rights_of(existing(blogs.by_id(workshop.db, blog.id)))
        _settle(
            workshop,
            person,
            blog,
            HouseRights(now.adjusted, {**now.asks, Role(role): rule}),
            f"{role}s ask first: {names}",
        )


def _settle(workshop: Workshop, person: Person, blog: Blog, rights: HouseRights, words: str) -> None:
    blogs.settle(workshop.db, blog.id, rights=rights.written())
    note(workshop, person, "rights", blog.id, detail=words)


def described(role: str) -> str:
    """What a role is there for."""
    return ROLE_WORDS[Role(role)]


def hand_over(workshop: Workshop, person: Person, slug: str, person_id: int) -> None:
    """Makes a colleague the owner in the place of this person, who is an editor from then on. Raises BadInput, NotFound."""
    blog = blog_for(workshop, person, slug, Action.KEEP_PEOPLE)
    with changing(workshop, person):
        one = member(workshop, blog, person_id)
        if (
            one.suspended_at
            or one.person.suspended_at
            or one.person.password_hash is None
            or person_id == person.id
        ):
            raise BadInput(f"{one.person.name} cannot sign in here; choose a colleague who can.", "to")
        set_member(workshop, blog, person_id, Role.OWNER)
        set_member(workshop, blog, person.id, Role.EDITOR)
        note(workshop, person, "role", blog.id, one.person.name, "owner in their place")


FACTOR_ROLES = {
    "": "nobody",
    "owner": "owners",
    "owner,editor": "owners and editors",
    "owner,editor,writer,contributor": "everybody",
}
"""Of whom a blog may ask a second factor, as roles joined by commas."""


def set_factor_roles(workshop: Workshop, person: Person, slug: str, roles: str) -> None:
    """Says of whom a second factor is asked. Raises BadInput, and Refused where whoever asks has none themself."""
    blog = blog_for(workshop, person, slug, Action.KEEP_PEOPLE)
    if roles not in FACTOR_ROLES:
        raise BadInput(f"“{roles[:40]}” is no choice; choose one of the list.", "factor")
    if roles and not accounts.has_factor(workshop.db, person.id):
        raise Refused(
            "Set up a second factor of your own first, in your account; else you would be kept out yourself."
        )
    with changing(workshop, person):
        blogs.settle(
            workshop.db, blog.id, factor_roles=json.dumps([role for role in roles.split(",") if role])
        )
        note(workshop, person, "rights", blog.id, detail=f"a second factor is asked of {FACTOR_ROLES[roles]}")
