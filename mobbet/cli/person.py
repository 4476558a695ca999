"""`mobbet person`: the people of this server."""

from __future__ import annotations

from argparse import ArgumentParser, Namespace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import Subcommands, takes_data, takes_json
from mobbet.cli.shared import password_in, person_by_email, report
from mobbet.core.errors import NotFound
from mobbet.core.rights import NO_ROLE, STAFF, Role
from mobbet.core.values import existing

if TYPE_CHECKING:
    from mobbet.actions.workshop import Workshop
    from mobbet.store.blogs import Blog
    from mobbet.store.people import Person


ROLES = tuple(map(str, STAFF))


EPILOG = """`list --json` prints `{"people": [{"id", "email", "name", "suspended", "has_password", "blogs": [{"blog", "role"}]}]}`,
the other words one of these; a role may also be `none`. `invite --json` prints `{"email", "blog", "role", "link"}`, the link only while no mail
server is set. `sessions --json` prints `{"sessions": [{"browser", "from", "begun", "used"}]}`."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    add = Subcommands(command, "list|add|invite|role|suspend|password|sessions|factor")
    add("list", list_people, "list everybody with their roles")
    added = add("add", add_person, "add somebody to a blog")
    added.add_argument("email", metavar="EMAIL")
    for name, shown, choices, help in (
        ("name", "NAME", None, "as it stands below their posts"), ("blog", "SLUG", None, "the blog's address"), ("role", "ROLE", ROLES, "owner, editor, writer or contributor"),
    ):  # fmt: skip
        added.add_argument(f"--{name}", required=True, metavar=shown, choices=choices, help=help)
    invited = add("invite", invite, "write to somebody with a link by which they join a blog")
    invited.add_argument("email", metavar="EMAIL")
    invited.add_argument("--blog", required=True, metavar="SLUG", help="the blog's address")
    invited.add_argument(
        "--role", required=True, metavar="ROLE", choices=ROLES, help="owner, editor, writer or contributor"
    )
    invited.add_argument(
        "--as", dest="person", metavar="EMAIL", help="the owner who invites; otherwise the first one"
    )
    invited.add_argument(
        "--server", metavar="ADDRESS", help="where this server is found, such as https://write.example"
    )
    role = add("role", set_role, "give somebody another role on a blog, or none")
    role.add_argument("email", metavar="EMAIL")
    role.add_argument(
        "role", metavar="ROLE", choices=(*ROLES, NO_ROLE), help="owner, editor, writer, contributor or none"
    )
    role.add_argument("--blog", required=True, metavar="SLUG")
    suspended = add("suspend", suspend, "sign somebody out everywhere and let them in no more")
    suspended.add_argument("email", metavar="EMAIL")
    suspended.add_argument("--lift", action="store_true", help="let them in again")
    sessions = add("sessions", list_sessions, "list the sessions of somebody, or end them")
    sessions.add_argument("email", metavar="EMAIL")
    sessions.add_argument("--end", action="store_true", help="end them all")
    factor = add("factor", turn_factor_off, "take the second factor of somebody away who is locked out")
    factor.add_argument("email", metavar="EMAIL")
    factor.add_argument("off", choices=("off",), help="the word off")
    password = add("password", set_password, "set somebody's password")
    password.add_argument("email", metavar="EMAIL")
    for one, is_needed in ((added, False), (password, True)):
        one.add_argument(
            "--password-file",
            required=is_needed,
            type=Path,
            default=None,
            metavar="F",
            help="a file with the password on its first line",
        )


def list_people(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.store import people

    workshop = wiring.open_existing(options.data)
    rows = [_facts(workshop, one) for one in people.every(workshop.db)]
    report(options, {"people": rows}, "\n".join(map(_line, rows)))


def _line(row: dict[str, Any]) -> str:
    roles = ", ".join(f"{one['role']} of {one['blog']}" for one in row["blogs"]) or "no blog"
    notes = [
        *(["suspended"] if row["suspended"] else []),
        *([] if row["has_password"] else ["no password yet"]),
    ]
    return "  ".join([row["email"], row["name"], roles, *notes])


def add_person(options: Namespace) -> None:
    """Somebody with a role on a blog; somebody who is known already is given the role alone."""
    from mobbet import wiring
    from mobbet.actions import blogs as blog_actions
    from mobbet.actions import people as people_actions
    from mobbet.actions.work import changing
    from mobbet.store import people

    workshop = wiring.open_existing(options.data)
    blog, password = (
        _blog(workshop, options.blog),
        password_in(options.password_file) if options.password_file else None,
    )
    person = people.by_email(workshop.db, options.email)
    with changing(workshop):
        if person is None:
            person = people_actions.add_person(
                workshop, name=options.name, email=options.email, password=password
            )
        elif password:
            people_actions.set_password(workshop, person, password)
        blog_actions.add_member(workshop, blog, person, options.role)
    then = (
        ""
        if password or person.password_hash
        else f" They cannot sign in yet; set a password with: mobbet person --data {options.data} password {person.email} --password-file F"
    )
    report(
        options,
        _facts(workshop, existing(people.by_id(workshop.db, person.id))),
        f"{person.name} is {options.role} of “{blog.name}”.{then}",
    )


def invite(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.actions import invitations
    from mobbet.actions.own_address import server_of
    from mobbet.store import invitations as store

    workshop = wiring.open_existing(options.data)
    blog = _blog(workshop, options.blog)
    owner = _owner(workshop, blog, options.person)
    server = options.server or server_of(workshop, blog)
    number = invitations.invite(workshop, owner, {blog.slug: options.role}, options.email, server)
    link = next(
        (
            invitations.link_shown(workshop, one)
            for one, _ in store.waiting(workshop.db, blog.id)
            if one.id == number
        ),
        "",
    )
    facts = {"email": options.email, "blog": blog.slug, "role": options.role, "link": link or None}
    how = f"No mail server is set, so hand the link on yourself: {link}" if link else "The letter is written."
    report(options, facts, f"{options.email} is invited as {options.role} of “{blog.name}”. {how}")


def _owner(workshop: Workshop, blog: Blog, email: str | None) -> Person:
    """The owner of a blog with that address, or the first one. Raises NotFound."""
    from mobbet.store import blogs, people

    owners = [
        one
        for one in people.of_blog(workshop.db, blog.id)
        if blogs.role(workshop.db, blog.id, one.id) == Role.OWNER
    ]
    found = next((one for one in owners if email is None or one.email.lower() == email.lower()), None)
    if found is None:
        raise NotFound(f"{email or 'Nobody'} is no owner of “{blog.name}”; mobbet person list shows who is.")
    return found


def set_role(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.actions import blogs as blog_actions

    workshop = wiring.open_existing(options.data)
    person, blog = person_by_email(workshop, options.email), _blog(workshop, options.blog)
    blog_actions.set_role(workshop, blog, person, options.role)
    words = (
        f"does not work on “{blog.name}” any more"
        if options.role == NO_ROLE
        else f"is {options.role} of “{blog.name}”"
    )
    report(options, _facts(workshop, person), f"{person.name} {words}.")


def suspend(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.actions import people as people_actions
    from mobbet.store import people

    workshop = wiring.open_existing(options.data)
    person = person_by_email(workshop, options.email)
    people_actions.suspend(workshop, person, not options.lift)
    words = (
        "may sign in again"
        if options.lift
        else "is signed out everywhere and may not sign in; what they wrote stays"
    )
    report(
        options, _facts(workshop, existing(people.by_id(workshop.db, person.id))), f"{person.name} {words}."
    )


def set_password(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.actions import people as people_actions
    from mobbet.store import people

    workshop = wiring.open_existing(options.data)
    person = person_by_email(workshop, options.email)
    people_actions.set_password(workshop, person, password_in(options.password_file))
    report(
        options,
        _facts(workshop, existing(people.by_id(workshop.db, person.id))),
        f"{person.name} has a new password and is signed out everywhere.",
    )


def list_sessions(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.actions import people as people_actions
    from mobbet.actions import sessions
    from mobbet.core.timing import iso

    workshop = wiring.open_existing(options.data)
    person = person_by_email(workshop, options.email)
    if options.end:
        people_actions.end_sessions(workshop, person)
    rows = [
        {"browser": one.browser, "from": one.begun_from, "begun": iso(one.begun_at), "used": iso(one.used_at)}
        for one in sessions.of_person(workshop, person)
    ]
    lines = [f"{row['used']}  {row['browser'] or 'a browser'}  {row['from']}".rstrip() for row in rows]
    report(options, {"sessions": rows}, "\n".join(lines) or f"{person.name} is signed in nowhere.")


def turn_factor_off(options: Namespace) -> None:
    from mobbet import wiring
    from mobbet.actions import factors
    from mobbet.store import people

    workshop = wiring.open_existing(options.data)
    person = person_by_email(workshop, options.email)
    factors.turn_off(workshop, person, None)
    facts = _facts(workshop, existing(people.by_id(workshop.db, person.id)))
    report(options, facts, f"{person.name} signs in by the password alone.")


def _blog(workshop: Workshop, slug: str) -> Blog:
    from mobbet.store import blogs

    blog = blogs.by_slug(workshop.db, slug)
    if blog is None:
        raise NotFound(f"There is no blog “{slug[:80]}”; mobbet blog list shows them all.")
    return blog


def _facts(workshop: Workshop, person: Person) -> dict[str, Any]:
    from mobbet.core.timing import iso
    from mobbet.store import blogs

    roles = [
        {"blog": blog.slug, "role": blogs.role(workshop.db, blog.id, person.id)}
        for blog in blogs.of_person(workshop.db, person.id)
    ]
    suspended = iso(person.suspended_at) if person.suspended_at else None
    return {
        "id": person.id,
        "email": person.email,
        "name": person.name,
        "suspended": suspended,
        "has_password": person.password_hash is not None,
        "blogs": roles,
    }
