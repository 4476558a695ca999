"""`mobbet post`: makes, changes, places and lists posts."""

from __future__ import annotations

import sys
from argparse import ArgumentParser, Namespace
from typing import TYPE_CHECKING, Any

from mobbet.cli.options import Subcommands, takes_blog, takes_data, takes_json
from mobbet.cli.shared import at_work, folder_of, post_at_work, read_source, report
from mobbet.core.errors import BadInput
from mobbet.core.numbers import counted
from mobbet.core.values import existing

if TYPE_CHECKING:
    from mobbet.actions import files
    from mobbet.actions.workshop import Workshop
    from mobbet.publish.published import Published
    from mobbet.store.blogs import Blog


EPILOG = """A post's file is Markdown with YAML front matter: `title, subtitle, slug, date` (the wall time it goes out; without
one it stays a draft), `expires, author, categories` (the first is the main one; `A > B` is subcategory B of A), `tags,
excerpt, description, visibility` (`everyone`, `signed-in`, `group:NAME`, `password` or `only-me`; a group that is not
there yet is made, with nobody in it), `password`, `lead` (what leads the post: a kind of block such as `quotation`,
`sound`, `review`, `table` or `link`, or a picture's file), `comments` (`open` or `closed`), `kind` (`post`, `page`, `about`
or `contact`: a page has no date and stands on no list) `below` (the address of the page that a page stands below), `menu` and `foot` (the words under which the menu, or the foot, leads to
it; `true` for its title), `background` and `accent` (colours of its own, like `"#10241f"`). Pictures that lie beside the
file come along. `place` tells what must be settled and goes on."""


def add_arguments(command: ArgumentParser) -> None:
    command.epilog = EPILOG
    takes_data(command)
    takes_json(command)
    takes_blog(command)
    add = Subcommands(command, "new|update|place|withdraw|also|show|list")
    new = add("new", new_post, "make a post from a Markdown file with front matter")
    new.add_argument("file", metavar="FILE", help="- is standard input")
    update = add("update", update_post, "replace a post's text and the settings that the file names")
    update.add_argument("id", type=int)
    update.add_argument("file", metavar="FILE")
    placed = add("place", place, "publish a post now, or give it a time to go out")
    placed.add_argument("id", type=int)
    placed.add_argument(
        "--at", default=None, metavar="TIME", help="such as 2026-11-26T09:00 or thu 9, in the blog’s zone"
    )
    also = add(
        "also", stand_also, "have a post stand in another blog too, with one text; or tell in which it does"
    )
    also.add_argument("id", type=int)
    also.add_argument("--in", dest="other", default="", metavar="SLUG", help="the other blog")
    also.add_argument("--not", dest="leaves", action="store_true", help="take it out of that blog again")
    for name, run, help in (
        ("withdraw", withdraw, "take a post off the site or out of the timetable"),
        ("show", show, "tell about one post"),
    ):
        add(name, run, help).add_argument("id", type=int)
    add("list", list_posts, "list the posts")


def new_post(options: Namespace) -> None:
    from mobbet.actions import files
    from mobbet.actions.work import changing

    workshop, person, blog = at_work(options)
    source = read_source(options.file)
    with changing(workshop, person) as unit:
        brought = files.new_post(workshop, person, blog.slug, source, folder_of(options.file))
    _report_post(options, brought, unit.published(blog))


def update_post(options: Namespace) -> None:
    from mobbet.actions import files
    from mobbet.actions.work import changing

    workshop, person, blog = post_at_work(options)
    source = read_source(options.file)
    with changing(workshop, person) as unit:
        brought = files.update_post(workshop, person, options.id, source, folder_of(options.file))
    _report_post(options, brought, unit.published(blog))


def _report_post(options: Namespace, brought: files.Brought, published: Published) -> None:
    for note in brought.notes:
        print(f"mobbet: {note}", file=sys.stderr)
    _report_published(options, brought.post.id, brought.path, brought.state, published)


def _report_published(options: Namespace, post_id: int, path: str, state: str, published: Published) -> None:
    from mobbet.core.states import WORDS

    facts = {
        "id": post_id,
        "path": path,
        "state": state,
        "edition": published.edition,
        "written": published.written,
        "seconds": round(published.seconds, 6),
    }
    report(
        options,
        facts,
        f"Post {post_id} is {WORDS[state]}, at {path}; {counted(published.written, 'page')} written.",
    )


def place(options: Namespace) -> None:
    from mobbet.actions import docket_lines, placing, proofing
    from mobbet.actions.work import changing
    from mobbet.store import posts as post_store

    workshop, person, blog = post_at_work(options)
    with changing(workshop, person) as unit:
        if options.at is not None:
            docket_lines.set_time(
                workshop, person, options.id, "goes_out_wall", _wall_at(workshop, blog, options.at)
            )
        placed = placing.place(workshop, person, options.id)
    for mark in proofing.read(
        workshop, existing(post_store.by_id(workshop.db, options.id)), blog, person.id
    ).must:
        print(f"mobbet: to be settled all the same: {mark.message}", file=sys.stderr)
    _report_published(options, options.id, placed.path, placed.state, unit.published(blog))


def _wall_at(workshop: Workshop, blog: Blog, text: str) -> str:
    """The wall time of a date and time, or of words such as “thu 9”."""
    from mobbet.core.timing import read_instant, wall
    from mobbet.core.when import read_when

    try:
        return wall(read_instant(text, blog.zone, "--at"), blog.zone)
    except BadInput:
        return read_when(text, workshop.clock(), blog.zone, "--at")


def withdraw(options: Namespace) -> None:
    from mobbet.actions import placing
    from mobbet.actions.work import changing

    workshop, person, blog = post_at_work(options)
    with changing(workshop, person) as unit:
        placing.withdraw(workshop, person, options.id)
    facts = _facts(workshop, options.id)
    _report_published(options, options.id, facts["path"], facts["state"], unit.published(blog))


def stand_also(options: Namespace) -> None:
    from mobbet.actions import also_in
    from mobbet.actions.access import readable_post

    workshop, person, _ = post_at_work(options)
    if options.other:
        change = also_in.remove if options.leaves else also_in.add
        change(workshop, person, options.id, options.other)
    post, _ = readable_post(workshop, person, options.id)
    guests = also_in.guests_of(workshop, post)
    rows = [
        {"blog": one.blog.slug, "post": one.post.id, "path": one.path or None, "is_behind": one.is_behind}
        for one in guests
    ]
    lines = [f"{row['blog']}: post {row['post']}, {row['path'] or 'not out'}" for row in rows]
    report(options, {"post": post.id, "also_in": rows}, "\n".join(lines) or "It stands in no other blog.")


def show(options: Namespace) -> None:
    from mobbet.actions.access import editable_post
    from mobbet.core.document import schema
    from mobbet.store import posts as post_store

    workshop, person, _ = post_at_work(options)
    post, _ = editable_post(workshop, person, options.id)
    revision = post_store.working(workshop.db, post.id)
    document = schema.load(revision.body)
    facts = {
        **_facts(workshop, post.id),
        "subtitle": revision.subtitle,
        "revision": revision.number,
        "words": post.words,
        "document": document,
    }
    report(options, facts, "" if options.json else _as_markdown(revision.title, document))


def _as_markdown(title: str, document: dict[str, Any]) -> str:
    from mobbet.core.document.write import to_markdown

    return f"# {title}\n\n{to_markdown(document)}"


def list_posts(options: Namespace) -> None:
    from mobbet.store import desk

    workshop, _, blog = at_work(options)
    rows = [_facts(workshop, row.id) for row in desk.every(workshop.db, blog.id)]
    lines = [
        f"{row['id']:>6}  {row['kind']:<4}  {row['state']:<13} {row['goes_out'] or '':<21} {row['title'] or 'No title yet'}"
        for row in rows
    ]
    report(options, {"posts": rows}, "\n".join(lines))


def _facts(workshop: Workshop, post_id: int) -> dict[str, Any]:
    """A post as the command line tells of it; instants in RFC 3339, null where there is none."""
    from mobbet.actions import post_states
    from mobbet.actions.permalinks import proposed_path
    from mobbet.core.pages import kind_name
    from mobbet.core.timing import FOREVER, iso
    from mobbet.store import blogs, placements
    from mobbet.store import posts as post_store

    post = existing(post_store.by_id(workshop.db, post_id))
    blog = existing(blogs.by_id(workshop.db, post.blog_id))
    rows = placements.of_post(workshop.db, post_id)
    last = rows[-1] if rows else None
    path = (
        last.path
        if last
        else proposed_path(
            workshop,
            post,
            blog,
            post.title,
            tuple(post_store.categories(workshop.db, post_id)),
            workshop.clock(),
        )[0]
    )
    return {
        "id": post.id,
        "kind": kind_name(post.kind),
        "title": post.title,
        "path": path,
        "state": post_states.state_of(workshop, post),
        "goes_out": iso(last.goes_out) if last else None,
        "comes_down": iso(last.comes_down) if last and last.comes_down < FOREVER else None,
    }
