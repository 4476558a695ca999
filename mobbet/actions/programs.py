"""Lets other programs write for a person on one blog, within scopes, until the person ends it."""

from __future__ import annotations

import secrets
from dataclasses import dataclass

from mobbet.actions.access import blog_for
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.client_pages import ClientPage, read_client_page
from mobbet.core.errors import BadInput, MobbetError, NotFound
from mobbet.core.names import one_line
from mobbet.core.programs import (
    CODE_SECONDS,
    SCOPES,
    UNUSED_SECONDS,
    Asked,
    AskedWrongly,
    is_of_client,
    proves,
    read_scopes,
)
from mobbet.core.tokens import token_digest
from mobbet.core.values import existing
from mobbet.store import accounts, blogs, people, programs
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.programs import Code, Token

MOST_TOKENS, LONGEST_NAME, NOTED_EVERY, SECONDS = 100, 80, 300, 5.0


@dataclass(frozen=True)
class Grant:
    """What a token lets a program do: in whose name, on which blog, with which scopes."""

    token: Token
    person: Person
    blog: Blog

    @property
    def scopes(self) -> tuple[str, ...]:
        return tuple(self.token.scopes.split())

    def has(self, *scopes: str) -> bool:
        """Whether it has one of these scopes."""
        return any(scope in self.scopes for scope in scopes)


def check(workshop: Workshop, asked: Asked) -> None:
    """Raises AskedWrongly where the answer would go to somebody else than the program."""
    if not is_of_client(asked):
        listed = client_page(workshop, asked.client).redirects
        if not is_of_client(asked, listed):
            raise AskedWrongly(
                "invalid_request",
                f"The answer would go to {asked.redirect[:80]}, which {asked.client[:80]} does not name as its own (redirect_uri); nothing was allowed.",
            )


def client_page(workshop: Workshop, address: str) -> ClientPage:
    """What the page of a program says of it; nothing where it cannot be read."""
    try:
        page = workshop.services.pages.get(address)
        found: ClientPage = workshop.services.heavy(
            read_client_page,
            page.type,
            page.body,
            page.links,
            address,
            seconds=SECONDS,
            what="The page of the program",
        )
    except MobbetError:
        return ClientPage("", ())
    return found


def allow(workshop: Workshop, person: Person, slug: str, asked: Asked, scopes: tuple[str, ...]) -> str:
    """A code for a program, good for five minutes. Raises NotAllowed, AskedWrongly."""
    blog = blog_for(workshop, person, slug)
    check(workshop, asked)
    code = secrets.token_urlsafe(32)
    with changing(workshop, person):
        programs.add_code(
            workshop.db,
            Code(
                token_digest(code), person.id, blog.id, asked.client, asked.redirect, " ".join(one for one in asked.scopes if one in scopes),
                asked.challenge, workshop.clock() + CODE_SECONDS,
            ),
        )  # fmt: skip
    return code


def redeem(
    workshop: Workshop, code: str, client: str, redirect: str, verifier: str, wants_token: bool = True
) -> tuple[str, Code, Blog]:
    """(token, the code, its blog) for a code, once; a code that comes twice ends what came of it. Without `wants_token`, or without scopes, there is no token.

    Raises AskedWrongly.
    """
    wrong = AskedWrongly("invalid_grant", "This code is not good (any more); ask for a new one.")
    with changing(workshop):
        found = programs.code(workshop.db, token_digest(code))
        if found is not None and not found.over_at and found.token_id:
            programs.end(workshop.db, found.token_id, found.person_id)
        is_good = (
            found is not None
            and found.over_at > workshop.clock()
            and (found.client, found.redirect) == (client, redirect)
            and proves(verifier, found.challenge)
        )
        if found is not None and not is_good:
            programs.spend(workshop.db, found.code_hash, None)
        if is_good and found is not None:
            person = existing(people.by_id(workshop.db, found.person_id))
            blog = existing(blogs.by_id(workshop.db, found.blog_id))
            token = ""
            number = None
            if wants_token and found.scopes:
                token, number = _make(workshop, person, blog, found.client, found.scopes)
            programs.spend(workshop.db, found.code_hash, number)
            return token, found, blog
    raise wrong


def make(workshop: Workshop, person: Person, slug: str, name: str, scopes: tuple[str, ...]) -> str:
    """A token that a person gives to a program by hand, shown once. Raises BadInput, NotAllowed."""
    blog, name = blog_for(workshop, person, slug), one_line(name)
    if not name or len(name) > LONGEST_NAME:
        raise BadInput(
            f"The name of the program has {len(name)} letters; give it 1 to {LONGEST_NAME}.", "name"
        )
    wanted = read_scopes(" ".join(scopes))
    if not wanted:
        raise BadInput("The program may do nothing yet; choose what it may do.", "scopes")
    with changing(workshop, person):
        return _make(workshop, person, blog, name, " ".join(wanted))[0]


def _make(workshop: Workshop, person: Person, blog: Blog, client: str, scopes: str) -> tuple[str, int]:
    if len(programs.of_person(workshop.db, person.id)) >= MOST_TOKENS:
        raise BadInput(
            f"{MOST_TOKENS} programs write for you already; end one of them at Account first.", "name"
        )
    token = secrets.token_urlsafe(32)
    number = programs.add(
        workshop.db, token_digest(token), person.id, blog.id, client, scopes, workshop.clock()
    )
    note(workshop, person, "program-allowed", blog.id, client, scopes)
    return token, number


def grant_of(workshop: Workshop, token: str) -> Grant | None:
    """What a token is good for; None for one that is not. It ends when it was not used for long, and its person has to work on the blog still."""
    found = programs.by_hash(workshop.db, token_digest(token)) if token else None
    now = workshop.clock()
    if found is None or found.used_at < now - UNUSED_SECONDS:
        return None
    person, blog = people.by_id(workshop.db, found.person_id), blogs.by_id(workshop.db, found.blog_id)
    if (
        person is None
        or blog is None
        or blog.set_aside_at
        or person.suspended_at
        or blogs.role(workshop.db, blog.id, person.id) is None
    ):
        return None
    if accounts.lacks_factor(workshop.db, person.id):
        return None
    if found.used_at < now - NOTED_EVERY:
        with changing(workshop):
            programs.note_use(workshop.db, found.id, now)
            programs.end_unused(workshop.db, now - UNUSED_SECONDS)
    return Grant(found, person, blog)


def of_person(workshop: Workshop, person: Person) -> list[Token]:
    """The programs that write for a person."""
    since = workshop.clock() - UNUSED_SECONDS
    return [one for one in programs.of_person(workshop.db, person.id) if one.used_at >= since]


def end(workshop: Workshop, person: Person, number: int) -> None:
    """Ends a token of one's own. Raises NotFound."""
    with changing(workshop, person):
        found = next((one for one in programs.of_person(workshop.db, person.id) if one.id == number), None)
        if found is None or not programs.end(workshop.db, number, person.id):
            raise NotFound("This program does not write for you any more.")
        note(workshop, person, "program-ended", found.blog_id, found.client)


def revoke(workshop: Workshop, token: str) -> None:
    """Ends the token that a program shows (RFC 7009); nothing for one that is not good."""
    found = programs.by_hash(workshop.db, token_digest(token)) if token else None
    if found is not None:
        with changing(workshop):
            programs.end(workshop.db, found.id, found.person_id)
            note(
                workshop,
                people.by_id(workshop.db, found.person_id),
                "program-ended",
                found.blog_id,
                found.client,
            )


def in_words(scopes: tuple[str, ...]) -> list[str]:
    """What scopes let a program do."""
    return [SCOPES[scope] for scope in scopes if scope in SCOPES]
