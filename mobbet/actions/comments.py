"""Comments: readers write them, people of the blog show, refuse and answer them."""

from __future__ import annotations

import json
from dataclasses import replace

from mobbet.actions import people as people_actions
from mobbet.actions import robots
from mobbet.actions.access import blog_for, editable_post, is_keeper, owned_blog, right_to_settle
from mobbet.actions.pacing import count_try
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import comments as rules
from mobbet.core.audience import PRIVATE_TITLE, Reader, is_told_of, may_read
from mobbet.core.blocklist import blocked_by, read_blocklist
from mobbet.core.canonical import canonical
from mobbet.core.comments import REFUSED, SHOWN, WAITS
from mobbet.core.emails import read_email
from mobbet.core.errors import BadInput, NotAllowed, NotFound
from mobbet.core.facts import OutPost
from mobbet.core.networks import one_client
from mobbet.core.rights import Action
from mobbet.core.robots import fingerprint
from mobbet.store import blogs, comments, people, posts, stale
from mobbet.store.blogs import Blog
from mobbet.store.comments import Comment
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot

MOST_AT_ONCE, MOST_EMPTIED = 200, 5000
GONE = "This comment is no more; reload the page."
CLOSED = "Nobody writes comments under this post any more."


def post_to_comment(workshop: Workshop, blog: Blog, post_id: int, reader: Reader) -> OutPost:
    """The post as this reader gets it. Raises NotFound where they get none."""
    post = SiteSnapshot(workshop.db, blog.id, workshop.clock(), reader).post(post_id)
    if post is None or not may_read(post.audience, reader):
        raise NotFound("There is no such post here.")
    return post


def write(
    workshop: Workshop,
    blog: Blog,
    post_id: int,
    reader: Reader,
    typed: dict[str, str],
    address: str,
    seconds: int | None = None,
) -> Comment:
    """A reader's comment (`name`, `email`, `text`); shown at once or once somebody has read it, by the blog's rule.

    One that was sent twice is kept once; `address` is the reader's network address, `seconds` how long the form was open. `typed` may have
    `remark`, a field that people do not see. Raises NotFound, NotAllowed, BadInput, TooSoon.
    """
    post = post_to_comment(workshop, blog, post_id, reader)
    if not rules.may_comment(blog.comments, post.takes_comments, reader.is_signed_in):
        raise NotAllowed(
            CLOSED
            if not rules.may_comment(blog.comments, post.takes_comments, True)
            else "Only people who are signed in comment here."
        )
    person = people.by_id(workshop.db, reader.person_id) if reader.person_id else None
    name = person.name if person else people_actions.read_name(typed["name"], "Your name", "name")
    email = person.email if person else read_email(typed["email"]) if typed["email"].strip() else ""
    text = rules.read_text(typed["text"])
    count_try(
        workshop, ("comment", f"{blog.id} {one_client(address)}")
    )  # each comment counts as a try, so that nobody floods a post
    waits = not reader.works_here and rules.waits(blog.comments_wait, reader.is_signed_in, text)
    found = robots.judge(workshop, blog, post, reader, name, email, text, seconds, bool(typed.get("remark")))
    state, why = robots.state_of(blog, found, WAITS if waits else SHOWN), found.words
    if blocked := _blocked(blog, reader, name, email, text):
        state, why = REFUSED, blocked
    title = post.title if is_told_of(post.audience, 0) else PRIVATE_TITLE
    made = Comment(
        0,
        blog.id,
        post_id,
        None,
        reader.person_id,
        int(reader.works_here),
        name,
        email,
        text,
        state,
        workshop.clock(),
        None,
        found.likelihood,
        why,
        fingerprint(text),
    )
    with changing(workshop, why=f"{name} commented on “{title}”"):
        if comments.is_there(workshop.db, post_id, name, text):
            return made
        made = replace(made, id=comments.add(workshop.db, made))
        if state == SHOWN:
            _look_again(workshop, blog, [post_id])
    return made


def _blocked(blog: Blog, reader: Reader, name: str, email: str, text: str) -> str:
    """Why a comment is refused for good, as a sentence; '' where it is not."""
    entry = "" if reader.works_here else blocked_by(json.loads(blog.blocklist), name, email, text)
    return entry and f"Has “{entry}”, which is refused for good."


def mine(workshop: Workshop, person: Person, blog: Blog) -> int:
    """Under whose posts this person settles comments: 0 for all of them, else their own number."""
    return 0 if is_keeper(workshop, person, blog) else person.id


def settle(workshop: Workshop, person: Person, slug: str, numbers: list[int], state: str) -> int:
    """Shows comments to readers, refuses them, or lets them wait again; answers with how many. Raises NotFound, NotAllowed, BadInput."""
    if state not in rules.STATES:
        raise BadInput(f"“{state}” is nothing a comment can be; reload the page.", "state")
    blog, chosen = _chosen(workshop, person, slug, numbers)
    changed = [one for one in chosen if one.state != state]
    words = {SHOWN: "shown", REFUSED: "refused", WAITS: "taken back"}[state]
    why = f"{len(changed)} comment{'s' if len(changed) != 1 else ''} {words}"
    with changing(workshop, person, why):
        comments.set_state(workshop.db, [one.id for one in changed], state, person.id)
        robots.learn(workshop, blog, changed, state)
        _look_again(workshop, blog, [one.post_id for one in changed])
    return len(chosen)


def answer(workshop: Workshop, person: Person, slug: str, number: int, typed: str) -> Comment:
    """Answers a comment in the name of the blog's people, and shows it where it waited. Raises NotFound, NotAllowed, BadInput."""
    text = rules.read_text(typed)
    blog, (first,) = _chosen(workshop, person, slug, [number])
    made = Comment(
        0,
        blog.id,
        first.post_id,
        first.answers or first.id,
        person.id,
        1,
        person.name,
        person.email,
        text,
        SHOWN,
        workshop.clock(),
        person.id,
    )
    with changing(workshop, person, f"{person.name} answered {first.name}"):
        comments.add(workshop.db, made)
        comments.set_state(workshop.db, [first.id], SHOWN, person.id)
        _look_again(workshop, blog, [first.post_id])
    return made


def empty_refused(workshop: Workshop, person: Person, slug: str) -> int:
    """Removes all refused comments for good; answers with how many. Raises NotAllowed."""
    blog = blog_for(workshop, person, slug, Action.ANY_AUTHOR)
    numbers = comments.refused(workshop.db, blog.id, MOST_EMPTIED)
    with changing(workshop, person, "refused comments removed"):
        comments.remove(workshop.db, numbers)
    return len(numbers)


def remove(workshop: Workshop, person: Person, slug: str, numbers: list[int]) -> int:
    """Removes comments for good, with what was answered to them."""
    blog, chosen = _chosen(workshop, person, slug, numbers)
    with changing(workshop, person, "comments removed"):
        comments.remove(workshop.db, [one.id for one in chosen])
        _look_again(workshop, blog, [one.post_id for one in chosen])
    return len(chosen)


def _chosen(workshop: Workshop, person: Person, slug: str, numbers: list[int]) -> tuple[Blog, list[Comment]]:
    """The blog, and those of its comments. Raises NotFound for none, NotAllowed for a writer's under a colleague's post."""
    blog = blog_for(workshop, person, slug)
    chosen = comments.by_ids(workshop.db, blog.id, numbers[:MOST_AT_ONCE])
    if not chosen:
        raise NotFound(GONE if numbers else "No comment is chosen; mark some first.")
    for one in chosen:
        right_to_settle(workshop, person, one.post_id)
    return blog, chosen


def _look_again(workshop: Workshop, blog: Blog, post_ids: list[int]) -> None:
    """Has the next edition look at the pages of these posts."""
    for post_id in dict.fromkeys(post_ids):
        stale.mark_fact(workshop.db, blog.id, "comments", post_id)


def set_rule(workshop: Workshop, person: Person, slug: str, who: str, waiting: str) -> None:
    """Who may comment on the blog's posts, and whose comments wait. Only the owner may. Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    if who not in rules.WHO or waiting not in rules.WAITING:
        raise BadInput(f"“{who or waiting}” is no choice; choose one of the list.", "comments")
    with changing(workshop, person, "who may comment was changed") as unit:
        blogs.settle(workshop.db, blog.id, comments=who, comments_wait=waiting)
        unit.must_publish(blog.id)


def set_blocklist(workshop: Workshop, person: Person, slug: str, typed: str) -> None:
    """The words, domains and e-mail addresses, one a line, whose comments are refused from now on. Only the owner may. Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    entries = read_blocklist(typed)
    with changing(workshop, person):
        blogs.settle(workshop.db, blog.id, blocklist=canonical(entries))


def close(workshop: Workshop, person: Person, post_id: int, is_closed: bool) -> None:
    """Whether readers may write comments under one post or page; as any line of the docket, it holds from when it goes out (again)."""
    post, _ = editable_post(workshop, person, post_id)
    value = rules.CLOSED if is_closed else rules.OPEN if post.is_page else ""
    with changing(workshop):
        posts.settle(workshop.db, post.id, workshop.clock(), comments=value)
