"""What each command does, through the same actions as the web."""

from __future__ import annotations

import gc
import json
import sys
from argparse import Namespace
from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path
from typing import Any

from mobbet import wiring
from mobbet.actions import blogs as blog_actions
from mobbet.actions import (
    building,
    checking,
    files,
    filling,
    first_run,
    placing,
    posts,
    proofing,
)
from mobbet.actions.access import editable_post
from mobbet.actions.permalinks import proposed_path
from mobbet.actions.workshop import Workshop
from mobbet.core.document import schema
from mobbet.core.document.from_files import from_docx, from_odt, from_text, text_of
from mobbet.core.document.from_html import from_html
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.write import to_html, to_markdown, to_text
from mobbet.core.errors import BadInput, NotFound, Refused
from mobbet.core.states import WORDS
from mobbet.core.timing import FOREVER, iso, read_instant, wall
from mobbet.core.when import read_when
from mobbet.publish.editions import Published
from mobbet.store import blogs, desk, people, placements
from mobbet.store import posts as post_store
from mobbet.store.blogs import Blog
from mobbet.store.people import Person

SWITCHING = 0.001
"""In seconds: for how long a thread that computes holds the interpreter while the one that answers requests waits for it."""
READERS: dict[str, Callable[[bytes], dict]] = {
    "html": lambda data: from_html(text_of(data)),
    "markdown": lambda data: from_markdown(_words(data)),
    "document": lambda data: schema.read(data),
    "docx": from_docx,
    "odt": from_odt,
    "text": lambda data: from_text(text_of(data)),
}
WRITERS: dict[str, Callable[[dict], str]] = {
    "document": lambda document: json.dumps(document, ensure_ascii=False),
    "html": to_html,
    "markdown": lambda document: to_markdown(document).removesuffix("\n"),
    "text": to_text,
}


def report(options: Namespace, facts: dict[str, Any], words: str) -> None:
    """One JSON object on stdout with --json, a sentence without."""
    print(json.dumps(facts, ensure_ascii=False) if options.json else words)


def demo(options: Namespace) -> None:
    from mobbet.demo.make import ACCOUNT, make_demo

    if not (options.data / wiring.DATABASE).is_file():
        print(f"making the demo data in {options.data} ...", flush=True)
        make_demo(options.data, wiring.system_clock(), f"http://127.0.0.1:{options.port}")
    if options.no_serve:
        return
    print(f"\n  Mobbet's demo: http://{options.host}:{options.port}/\n  Sign in as {ACCOUNT[0]} with the password {ACCOUNT[1]}\n", flush=True)
    _serve(options, ACCOUNT)


def serve(options: Namespace) -> None:
    print(f"Mobbet at http://{options.host}:{options.port}/", flush=True)
    _serve(options)


def _serve(options: Namespace, demo_account: tuple[str, str] | None = None) -> None:
    import uvicorn

    from mobbet.settings import from_environment
    from mobbet.web.app import create_app
    from mobbet.web.limits import CONNECTIONS
    from mobbet.web.protocol import LimitedProtocol
    from mobbet.worker import Keeper

    workshop = wiring.open_folder(options.data, settings=from_environment(options.data, demo_account))
    app = create_app(workshop, wiring.exact_time, Keeper(options.data))
    word = first_run.word(workshop)
    if word:
        print(f"\n  Nobody is here yet. Open the address, and type this word to begin: {word}\n", flush=True)
    gc.collect()
    sys.setswitchinterval(SWITCHING)
    gc.freeze()  # what is loaded stays; walking it anew at every collection takes a tenth of a second
    LimitedProtocol.unlimited = frozenset(str(one.network_address) for one in workshop.settings.proxies if one.num_addresses == 1)
    uvicorn.run(
        app, host=options.host, port=options.port, http=LimitedProtocol, ws="none", log_level="warning", timeout_graceful_shutdown=3, server_header=False,
        proxy_headers=False, limit_concurrency=CONNECTIONS, timeout_keep_alive=5,
    )  # fmt: skip


def init(options: Namespace) -> None:
    workshop = wiring.open_folder(options.data)
    person, blog = blog_actions.set_up(
        workshop,
        name=options.name or options.email.split("@")[0],
        email=options.email,
        password=password_in(options.password_file),
        blog=options.blog,
        address=options.address,
        zone=options.zone,
        home=options.home or f"http://127.0.0.1:8000/b/{options.address.strip('/')}/",
    )
    placing.publish(workshop, blog)
    report(options, {"blog": blog.slug, "person": person.id}, f"“{blog.name}” is ready; start it with: mobbet serve --data {options.data}")


def password_in(file: Path) -> str:
    """The first line of a file. Raises BadInput where there is none."""
    lines = file.read_text().splitlines()
    if not lines:
        raise BadInput(f"{file} is empty; put the password on its first line.", "password")
    return lines[0]


def at_work(options: Namespace) -> tuple[Workshop, Person, Blog]:
    """The workshop, the blog asked for (or the first), and its owner, in whose name commands work."""
    workshop = wiring.open_existing(options.data)
    chosen = building.chosen_blogs(workshop, options.blog)
    if not chosen:
        raise NotFound(f"There is no blog in {options.data}; make one with mobbet init.")
    return workshop, owner_of(workshop, chosen[0]), chosen[0]


def owner_of(workshop: Workshop, blog: Blog) -> Person:
    return next(person for person in people.of_blog(workshop.db, blog.id) if blogs.role(workshop.db, blog.id, person.id) == "owner")


def _wall_at(workshop: Workshop, blog: Blog, text: str) -> str:
    """The wall time of a date and time, or of words such as “thu 9”."""
    try:
        return wall(read_instant(text, blog.zone, "--at"), blog.zone)
    except BadInput:
        return read_when(text, workshop.clock(), blog.zone, "--at")


def post_at_work(options: Namespace) -> tuple[Workshop, Person, Blog]:
    """As `at_work`, but with the blog of the post that `options.id` names."""
    workshop = wiring.open_existing(options.data)
    post = post_store.by_id(workshop.db, options.id)
    blog = blogs.by_id(workshop.db, post.blog_id) if post else None
    if blog is None or options.blog not in (None, blog.slug):
        raise NotFound(f"There is no post with the number {options.id}; mobbet post list shows them all.")
    return workshop, owner_of(workshop, blog), blog


def post_new(options: Namespace) -> None:
    workshop, person, blog = at_work(options)
    brought = files.new_post(workshop, person, blog.slug, read_source(options.file), folder_of(options.file))
    _tell_post(options, workshop, blog, brought)


def post_update(options: Namespace) -> None:
    workshop, person, blog = post_at_work(options)
    brought = files.update_post(workshop, person, options.id, read_source(options.file), folder_of(options.file))
    _tell_post(options, workshop, blog, brought)


def _tell_post(options: Namespace, workshop: Workshop, blog: Blog, brought: files.Brought) -> None:
    for note in brought.notes:
        print(f"mobbet: {note}", file=sys.stderr)
    published = placing.publish(workshop, blog, brought.edition_before)
    _tell_published(options, brought.post.id, brought.path, brought.state, published)


def _tell_published(options: Namespace, post_id: int, path: str, state: str, published: Published) -> None:
    facts = {"id": post_id, "path": path, "state": state, "edition": published.edition, "written": published.written, "seconds": round(published.seconds, 6)}
    report(options, facts, f"Post {post_id} is {WORDS[state]}, at {path}; {published.written} pages written.")


def post_place(options: Namespace) -> None:
    workshop, person, blog = post_at_work(options)
    with workshop.db.transaction():
        if options.at is not None:
            posts.set_time(workshop, person, options.id, "goes_out_wall", _wall_at(workshop, blog, options.at))
        placed = placing.place(workshop, person, options.id)
    for mark in proofing.read(workshop, post_store.by_id(workshop.db, options.id), blog, person.id).must:
        print(f"mobbet: to be settled all the same: {mark.message}", file=sys.stderr)
    _tell_published(options, options.id, placed.path, placed.state, placing.publish(workshop, blog, placed.edition_before))


def post_withdraw(options: Namespace) -> None:
    workshop, person, blog = post_at_work(options)
    published = placing.publish(workshop, blog, placing.withdraw(workshop, person, options.id))
    facts = _facts(workshop, options.id)
    _tell_published(options, options.id, facts["path"], facts["state"], published)


def post_show(options: Namespace) -> None:
    workshop, person, _ = post_at_work(options)
    post, _ = editable_post(workshop, person, options.id)
    revision = post_store.working(workshop.db, post.id)
    document = schema.load(revision.body)
    facts = {**_facts(workshop, post.id), "subtitle": revision.subtitle, "revision": revision.number, "words": post.words, "document": document}
    report(options, facts, f"# {revision.title}\n\n{to_markdown(document)}")


def post_list(options: Namespace) -> None:
    workshop, _, blog = at_work(options)
    rows = [_facts(workshop, row.id) for row in desk.every(workshop.db, blog.id)]
    lines = [f"{row['id']:>6}  {row['state']:<13} {row['goes_out'] or '':<21} {row['title'] or 'No title yet'}" for row in rows]
    report(options, {"posts": rows}, "\n".join(lines))


def _facts(workshop: Workshop, post_id: int) -> dict[str, Any]:
    """A post as the command line tells of it; instants in RFC 3339, null where there is none."""
    post = post_store.by_id(workshop.db, post_id)
    blog = blogs.by_id(workshop.db, post.blog_id)
    rows = placements.of_post(workshop.db, post_id)
    last = rows[-1] if rows else None
    path = last.path if last else proposed_path(workshop, post, blog, post.title, tuple(post_store.categories(workshop.db, post_id)), workshop.clock())[0]
    return {
        "id": post.id,
        "title": post.title,
        "path": path,
        "state": placing.state_of(workshop, post),
        "goes_out": iso(last.goes_out) if last else None,
        "comes_down": iso(last.comes_down) if last and last.comes_down < FOREVER else None,
    }


def build(options: Namespace) -> None:
    workshop = wiring.open_existing(options.data)
    if options.out is None:
        if options.at is not None:
            raise Refused("--at goes with --out; what readers get is always as of now.")
        built = building.build(workshop, options.blog, options.full)
    else:
        if options.out.resolve().is_relative_to(options.data.resolve()):
            raise Refused(f"{options.out} lies in the data folder; name a folder outside of it.")
        chosen = building.chosen_blogs(workshop, options.blog)
        zone = chosen[0].zone if chosen else "UTC"
        instant = read_instant(options.at, zone, "--at") if options.at is not None else workshop.clock()
        built = building.write_out(workshop, options.out, options.blog, instant)
    facts = {**asdict(built), "seconds": round(built.seconds, 6)}
    report(options, facts, f"{built.written} pages written, {built.removed} removed; {built.pages} in all.")


def convert(options: Namespace) -> None:
    data = sys.stdin.buffer.read() if options.file == "-" else Path(options.file).read_bytes()
    print(WRITERS[options.target](READERS[options.source](data)))


def fill(options: Namespace) -> None:
    if not 1 <= options.posts <= 1_000_000:
        raise BadInput(f"{options.posts} is no number of posts to make; name one from 1 to 1,000,000.", "posts")
    workshop = wiring.open_folder(options.data)
    filled = filling.fill(workshop, options.posts, options.seed)
    facts = {**asdict(filled), "seconds": round(filled.seconds, 3)}
    report(options, facts, f"{filled.posts} posts made and {filled.written} pages written in {filled.seconds:.1f} s.")


def check(options: Namespace) -> int:
    workshop = wiring.open_existing(options.data)
    problems = checking.problems(workshop)
    report(options, {"sound": not problems, "problems": problems}, "\n".join(problems) or "All is sound.")
    return 1 if problems else 0


def bench(options: Namespace) -> None:
    from mobbet.bench import measure

    figures = measure(options.posts)
    report(options, figures, "\n".join(f"{name:<58} {value}" for name, value in figures.items()))


def read_source(name: str) -> str:
    """The text of a file, or of standard input for `-`."""
    return _words(sys.stdin.buffer.read() if name == "-" else Path(name).read_bytes())


def folder_of(name: str) -> Path | None:
    return None if name == "-" else Path(name).resolve().parent


def _words(data: bytes) -> str:
    """The text in a file: UTF-8, or what it most likely is without being that."""
    for encoding in ("utf-8-sig", "utf-16" if data[:2] in (b"\xff\xfe", b"\xfe\xff") else "utf-8", "cp1252"):
        try:
            return data.decode(encoding)
        except UnicodeDecodeError:
            continue
    return data.decode("latin-1")
