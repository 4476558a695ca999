"""Commands by which an operator sets up people and blogs, and mends what only they can."""

from __future__ import annotations

from argparse import Namespace
from typing import Any

from mobbet import wiring
from mobbet.actions import blogs as blog_actions
from mobbet.actions import people as people_actions
from mobbet.actions.workshop import Workshop
from mobbet.commands import password_in, report
from mobbet.core.errors import NotFound
from mobbet.core.timing import iso
from mobbet.store import blogs, people
from mobbet.store.blogs import Blog
from mobbet.store.people import Person


def person_list(options: Namespace) -> None:
    workshop = wiring.open_existing(options.data)
    rows = [_facts(workshop, one) for one in people.every(workshop.db)]
    report(options, {"people": rows}, "\n".join(map(_line, rows)))


def _line(row: dict[str, Any]) -> str:
    roles = ", ".join(f"{one['role']} of {one['blog']}" for one in row["blogs"]) or "no blog"
    notes = [*(["suspended"] if row["suspended"] else []), *([] if row["has_password"] else ["no password yet"])]
    return "  ".join([row["email"], row["name"], roles, *notes])


def person_add(options: Namespace) -> None:
    """Somebody with a role on a blog; somebody who is known already is given the role alone."""
    workshop = wiring.open_existing(options.data)
    blog, password = _blog(workshop, options.blog), password_in(options.password_file) if options.password_file else None
    person = people.by_email(workshop.db, options.email)
    with workshop.db.transaction():
        if person is None:
            person = people_actions.add_person(workshop, name=options.name, email=options.email, password=password)
        elif password:
            people_actions.set_password(workshop, person, password)
        blog_actions.add_member(workshop, blog, person, options.role)
    then = "" if password or person.password_hash else f" They cannot sign in yet; set a password with: mobbet person --data {options.data} password {person.email} --password-file F"
    report(options, _facts(workshop, people.by_id(workshop.db, person.id)), f"{person.name} is {options.role} of “{blog.name}”.{then}")


def person_role(options: Namespace) -> None:
    workshop = wiring.open_existing(options.data)
    person, blog = _person(workshop, options.email), _blog(workshop, options.blog)
    blog_actions.set_role(workshop, blog, person, options.role)
    words = f"does not work on “{blog.name}” any more" if options.role == blog_actions.NO_ROLE else f"is {options.role} of “{blog.name}”"
    report(options, _facts(workshop, person), f"{person.name} {words}.")


def person_suspend(options: Namespace) -> None:
    workshop = wiring.open_existing(options.data)
    person = _person(workshop, options.email)
    people_actions.suspend(workshop, person, not options.lift)
    words = "may sign in again" if options.lift else "is signed out everywhere and may not sign in; what they wrote stays"
    report(options, _facts(workshop, people.by_id(workshop.db, person.id)), f"{person.name} {words}.")


def person_password(options: Namespace) -> None:
    workshop = wiring.open_existing(options.data)
    person = _person(workshop, options.email)
    people_actions.set_password(workshop, person, password_in(options.password_file))
    report(options, _facts(workshop, people.by_id(workshop.db, person.id)), f"{person.name} has a new password and is signed out everywhere.")


def blog_list(options: Namespace) -> None:
    workshop = wiring.open_existing(options.data)
    rows = [{"blog": blog.slug, "name": blog.name, "home": blog.home, "host": blog.host, "zone": blog.zone, "owners": _owners(workshop, blog)} for blog in blogs.every(workshop.db)]
    report(options, {"blogs": rows}, "\n".join(f"{row['blog']}  {row['name']}  {row['home']}  {', '.join(row['owners'])}" for row in rows) or "There is no blog yet.")


def blog_add(options: Namespace) -> None:
    workshop = wiring.open_existing(options.data)
    owner = _person(workshop, options.owner)
    first = next(iter(blogs.every(workshop.db)), None)
    slug = options.address.strip("/")
    made = blog_actions.make_blog(
        workshop, owner, name=options.name, address=options.address, zone=options.zone or (first.zone if first else "UTC"), home=options.home or f"http://127.0.0.1:8000/b/{slug}/",
    )  # fmt: skip
    workshop.press.publish(made.id, workshop.clock())
    report(options, {"blog": made.slug, "name": made.name, "home": made.home, "zone": made.zone, "owners": [owner.email]}, f"“{made.name}” is ready at /b/{made.slug}/; {owner.name} owns it.")


def _person(workshop: Workshop, email: str) -> Person:
    person = people.by_email(workshop.db, email)
    if person is None:
        raise NotFound(f"There is nobody with the address {email[:80]}; mobbet person list shows them all.")
    return person


def _blog(workshop: Workshop, slug: str) -> Blog:
    blog = blogs.by_slug(workshop.db, slug)
    if blog is None:
        raise NotFound(f"There is no blog “{slug[:80]}”; mobbet blog list shows them all.")
    return blog


def _owners(workshop: Workshop, blog: Blog) -> list[str]:
    return [one.email for one in people.of_blog(workshop.db, blog.id) if blogs.role(workshop.db, blog.id, one.id) == "owner"]


def _facts(workshop: Workshop, person: Person) -> dict[str, Any]:
    roles = [{"blog": blog.slug, "role": blogs.role(workshop.db, blog.id, person.id)} for blog in blogs.of_person(workshop.db, person.id)]
    suspended = iso(person.suspended_at) if person.suspended_at else None
    return {"id": person.id, "email": person.email, "name": person.name, "suspended": suspended, "has_password": person.password_hash is not None, "blogs": roles}
