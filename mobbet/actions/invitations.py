"""Invitations to work on blogs: a letter with a link that is good once, for a week."""

from __future__ import annotations

import re
import secrets
from dataclasses import dataclass

from mobbet.actions import people as people_actions
from mobbet.actions.access import blog_for, has_right
from mobbet.actions.members import read_role
from mobbet.actions.pacing import count_try, network
from mobbet.actions.people import Session
from mobbet.actions.profiles import set_member
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.emails import read_email
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.rights import ROLE_WORDS, STAFF, Action, Role
from mobbet.core.tokens import token_digest
from mobbet.core.values import existing
from mobbet.store import blogs, invitations, people, readers
from mobbet.store.blogs import Blog
from mobbet.store.invitations import TAKEN, WAITS, WITHDRAWN, Invitation
from mobbet.store.people import Person

GOOD_FOR = 7 * 86400
MOST_WAITING = 200
USED = "This invitation was taken or withdrawn, or its week is over; ask whoever invited you for another one."


@dataclass(frozen=True)
class Invited:
    """An invitation as whoever opens its link sees it: from whom, to which blogs in which roles, and whether the address has an account here already."""

    email: str
    by: str
    roles: list[tuple[Blog, Role]]
    has_account: bool


def invite(workshop: Workshop, person: Person, roles: dict[str, str], email: str, server: str) -> int:
    """Invites somebody to blogs of this person, `{slug: role}`; the letter's link stands below the address of the `server`. Raises BadInput, Refused."""
    email = read_email(email)
    if not roles:
        raise BadInput("No blog is chosen; choose one at least.", "blog")
    chosen = {
        blog_for(workshop, person, slug, Action.KEEP_PEOPLE): read_role(role) for slug, role in roles.items()
    }
    with changing(workshop, person):
        known = people.by_email(workshop.db, email)
        for blog in chosen:
            if known and people.member(workshop.db, blog.id, known.id):
                raise Refused(f"{email} works on “{blog.name}” already; change the role there.")
            waiting = invitations.waiting(workshop.db, blog.id)
            if len(waiting) >= MOST_WAITING:
                raise Refused(f"{MOST_WAITING} invitations wait already; withdraw some first.")
            for earlier, _ in waiting:
                if earlier.email.lower() == email.lower():
                    _leave(workshop, earlier, blog)
        number = _send(workshop, person, chosen, email, server)
        for blog, role in chosen.items():
            note(workshop, person, "invited", blog.id, email, role)
    workshop.on_change()
    return number


def _send(workshop: Workshop, person: Person, chosen: dict[Blog, Role], email: str, server: str) -> int:
    token, now = secrets.token_urlsafe(32), workshop.clock()
    first = next(iter(chosen))
    lines = "\n".join(f"- {blog.name}: {role}, who {ROLE_WORDS[role]}" for blog, role in chosen.items())
    text = (
        f"Hello,\n\n{person.name} invites you to work on:\n{lines}\n\nOpen this link to say yes:\n{server.rstrip('/')}/join/{token}\n\n"
        f"It works once, for {GOOD_FOR // 86400} days. If you do not know what this is, do nothing.\n"
    )
    letter = readers.add_letter(
        workshop.db, first.id, email, f"{first.name}: {person.name} invites you", text, now, is_private=True
    )
    roles = {blog.id: role.value for blog, role in chosen.items()}
    return invitations.add(
        workshop.db, token_digest(token), email, person.id, now, now + GOOD_FOR, letter, roles
    )


def send_again(workshop: Workshop, person: Person, slug: str, number: int, server: str) -> None:
    """Writes another letter in the place of an invitation that waits. Raises NotFound."""
    blog = blog_for(workshop, person, slug, Action.KEEP_PEOPLE)
    one, role = _waiting(workshop, blog, number)
    invite(workshop, person, {slug: role}, one.email, server)


def withdraw(workshop: Workshop, person: Person, slug: str, number: int) -> None:
    """Withdraws an invitation to a blog; to other blogs it stays. Raises NotFound."""
    blog = blog_for(workshop, person, slug, Action.KEEP_PEOPLE)
    one, _ = _waiting(workshop, blog, number)
    with changing(workshop, person):
        _leave(workshop, one, blog)
        note(workshop, person, "invitation-withdrawn", blog.id, one.email)


def _leave(workshop: Workshop, one: Invitation, blog: Blog) -> None:
    """Takes a blog out of an invitation, which ends with its last one."""
    invitations.leave_blog(workshop.db, one.id, blog.id)
    if not invitations.roles(workshop.db, one.id):
        invitations.end(workshop.db, one.id, WITHDRAWN)


def _waiting(workshop: Workshop, blog: Blog, number: int) -> tuple[Invitation, str]:
    found = next((pair for pair in invitations.waiting(workshop.db, blog.id) if pair[0].id == number), None)
    if found is None:
        raise NotFound("This invitation does not wait any more; reload the page.")
    return found


_LINK = re.compile(r"https?://\S+/join/[\w-]{20,}")


def link_shown(workshop: Workshop, one: Invitation) -> str:
    """The link of an invitation, while letters are kept here for want of a mail server; '' otherwise."""
    known = people.by_email(workshop.db, one.email)
    if known and known.password_hash is None and blogs.of_person(workshop.db, known.id):
        return ""  # with it, whoever sees the link could have an account that works on other blogs
    text = (
        readers.text_of(workshop.db, one.letter_id) if one.letter_id and workshop.services.mail.keeps else ""
    )
    found = _LINK.search(text)
    return found[0] if found else ""


def opened(workshop: Workshop, token: str) -> Invited:
    """What the link of a letter leads to. Raises Refused where it is good no more, TooSoon for who tries many."""
    one, roles = _good(workshop, token)
    known = people.by_email(workshop.db, one.email)
    by = existing(people.by_id(workshop.db, one.invited_by)).name
    return Invited(one.email, by, roles, known is not None and known.password_hash is not None)


def _good(workshop: Workshop, token: str) -> tuple[Invitation, list[tuple[Blog, Role]]]:
    one = invitations.by_token(workshop.db, token_digest(token)) if len(token) < 200 else None
    if one is None:
        count_try(workshop, network(workshop.origin))
    if one is None or one.ended != WAITS or one.ends_at <= workshop.clock():
        raise Refused(USED)
    inviter = people.by_id(workshop.db, one.invited_by)
    roles = []
    for blog_id, role in invitations.roles(workshop.db, one.id).items():
        blog = existing(blogs.by_id(workshop.db, blog_id))
        if (
            inviter
            and not inviter.suspended_at
            and role in STAFF
            and has_right(workshop, inviter, blog, Action.KEEP_PEOPLE)
        ):
            roles.append((blog, Role(role)))
    if not roles:
        raise Refused(USED)
    return one, roles


def take(workshop: Workshop, person: Person, token: str) -> list[Blog]:
    """Takes an invitation as somebody who has an account with its address. Raises Refused."""
    _good(workshop, token)  # a try that fails is counted outside of what is rolled back
    with changing(workshop, person):
        one, roles = _good(workshop, token)
        if person.email.lower() != one.email.lower():
            raise Refused(
                f"This invitation is for {one.email}, and you are signed in as {person.email}; sign in with that address."
            )
        if not invitations.end(workshop.db, one.id, TAKEN):
            raise Refused(USED)
        for blog, role in roles:
            if people.member(workshop.db, blog.id, person.id) is None:
                set_member(workshop, blog, person.id, role, workshop.clock())
                note(workshop, person, "joined", blog.id, detail=role)
    return [blog for blog, _ in roles]


def take_as_new(workshop: Workshop, token: str, name: str, password: str) -> tuple[Session, list[Blog]]:
    """Makes the account of somebody who has none, takes the invitation, and signs them in. Raises BadInput, Refused."""
    one, _ = _good(workshop, token)
    known = people.by_email(workshop.db, one.email)
    if known is not None and known.password_hash is not None:
        raise Refused(f"{one.email} has an account here already; sign in first, and open the link again.")
    if known is not None and known.suspended_at:
        raise Refused(USED)
    name = people_actions.read_name(name, "Your name", "name")
    digest = people_actions.hash_password(people_actions.read_password(password, name, one.email))
    with changing(workshop):
        person = people_actions.with_password(workshop, one.email, name, digest)
        joined = take(workshop, person, token)
    return people_actions.begin_session(workshop, person), joined
