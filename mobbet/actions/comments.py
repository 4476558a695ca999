"""Comments: readers write them, people of the blog show, refuse and answer them."""

from __future__ import annotations

import json
from contextlib import suppress
from dataclasses import dataclass, replace

from mobbet.actions import comment_letters, robots, subscribers
from mobbet.actions import people as people_actions
from mobbet.actions.access import blog_for, editable_post, is_keeper, owned_blog, right_to_settle
from mobbet.actions.mailings import tell_of_comment
from mobbet.actions.pacing import count_try
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core import comments as rules
from mobbet.core.audience import PRIVATE_TITLE, Reader, is_told_of, may_read
from mobbet.core.blocklist import blocked_by, read_blocklist
from mobbet.core.canonical import canonical
from mobbet.core.comments import REFUSED, SHOWN, WAITS
from mobbet.core.emails import read_email
from mobbet.core.errors import BadInput, Broken, NotAllowed, NotFound, Refused, TooSoon
from mobbet.core.facts import OutPost
from mobbet.core.networks import one_client
from mobbet.core.proof_of_work import is_done
from mobbet.core.rights import Action
from mobbet.core.robots import fingerprint
from mobbet.core.subscriptions import ANSWERS, POST
from mobbet.services.vault import Vault
from mobbet.store import blogs, comments, people, posts, stale
from mobbet.store.blogs import Blog
from mobbet.store.comments import Comment
from mobbet.store.people import Person
from mobbet.store.snapshot import SiteSnapshot

MOST_AT_ONCE, MOST_EMPTIED = 200, 5000
CHANGED_WITHIN, LONGEST_SIGN = 600, 1000
_CHANGE = "change of a comment"
_FOR_ADDRESSES, _FROM_ADDRESSES = str.maketrans("+/", "-_"), str.maketrans("-_", "+/")
"""Between base64 and its alphabet for addresses (RFC 4648, 5)."""
NO_WORK = "Its browser did not do the work that the form asks for."
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
    `remark`, a field that people do not see, the number of the comment that it `answers`, `sign` and `nonce` of the work that a browser did, and
    `tells`, by which the reader asks to be told of answers. Raises NotFound, NotAllowed, BadInput, TooSoon.
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
    first = _answered(workshop, post_id, typed.get("answers", ""))
    if typed.get("tells") and not email:
        raise BadInput("Type your e-mail address to be told of answers, or leave that out.", "email")
    count_try(
        workshop, ("comment", f"{blog.id} {one_client(address)}")
    )  # each comment counts as a try, so that nobody floods a post
    by = _By(name, email, reader)
    worked = is_done(typed.get("sign", ""), text, typed.get("nonce", ""))
    state, why, likelihood = _judged(
        workshop, blog, post, by, text, seconds, bool(typed.get("remark")), worked
    )
    title = post.title if is_told_of(post.audience, 0) else PRIVATE_TITLE
    made = Comment(
        0, blog.id, post_id, first, reader.person_id, int(reader.works_here), name, email, text, state, workshop.clock(), None,
        likelihood, why, fingerprint(text),
    )  # fmt: skip
    with changing(workshop, why=f"{name} commented on “{title}”"):
        if comments.is_there(workshop.db, post_id, name, text):
            return made
        made = replace(made, id=comments.add(workshop.db, made))
        if state == SHOWN:
            _look_again(workshop, blog, [post_id])
            tell_of_comment(workshop, blog, made)
        comment_letters.tell_of_waiting(workshop, blog, made)
    if typed.get("tells") and state != REFUSED and subscribers.is_open(blog):
        with suppress(TooSoon):
            subscribers.ask(workshop, blog, email, f"{ANSWERS}:{first or made.id}", POST, address)
    return made


@dataclass(frozen=True)
class _By:
    """Who writes a comment."""

    name: str
    email: str
    reader: Reader


def _judged(
    workshop: Workshop,
    blog: Blog,
    post: OutPost,
    by: _By,
    text: str,
    seconds: int | None,
    is_trapped: bool,
    has_worked: bool,
) -> tuple[str, str, float]:
    """(what becomes of a comment, why in words, how likely it is a robot's): by the rules of the blog, the guard, what is refused for good, and the work of the browser."""
    reader = by.reader
    waits = not reader.works_here and rules.waits(blog.comments_wait, reader.is_signed_in, text)
    found = robots.judge(workshop, blog, post, reader, by.name, by.email, text, seconds, is_trapped)
    state = robots.state_of(blog, found, WAITS if waits else SHOWN)
    if blocked := _blocked(blog, reader, by.name, by.email, text):
        return REFUSED, blocked, found.likelihood
    if blog.comment_work and state == SHOWN and not reader.works_here and not has_worked:
        return WAITS, NO_WORK, found.likelihood
    return state, found.words, found.likelihood


def _answered(workshop: Workshop, post_id: int, typed: str) -> int | None:
    """The comment under which an answer stands: the one that was answered, or the one that this one answers. Raises BadInput."""
    if not typed:
        return None
    is_number = typed.isascii() and typed.isdecimal() and len(typed) < 16
    found = comments.one(workshop.db, int(typed)) if is_number else None
    if found is None or found.post_id != post_id or found.state != SHOWN:
        raise BadInput("The comment that you answer is no more; write yours as a new one.", "answers")
    return found.answers or found.id


def change_sign(workshop: Workshop, comment: Comment) -> str:
    """What lets whoever just wrote a comment change it: sealed, and good for ten minutes."""
    sealed = Vault(workshop.settings.sealing_key).seal(f"{comment.id} {workshop.clock()}", _CHANGE)
    return sealed.translate(_FOR_ADDRESSES)


def to_change(workshop: Workshop, blog: Blog, sign: str) -> Comment:
    """The comment that a sign lets change. Raises Refused where the ten minutes are over, and for any other sign."""
    try:
        sealed = sign[:LONGEST_SIGN].translate(_FROM_ADDRESSES)
        number, made = map(int, Vault(workshop.settings.sealing_key).open(sealed, _CHANGE).split())
    except (Broken, ValueError):
        number, made = 0, 0
    found = comments.one(workshop.db, number) if workshop.clock() - made <= CHANGED_WITHIN else None
    if found is None or found.blog_id != blog.id or found.state == REFUSED:
        raise Refused(
            f"A comment can be changed for {CHANGED_WITHIN // 60} minutes after it was sent; these are over."
        )
    return found


def change(workshop: Workshop, blog: Blog, sign: str, typed: str) -> Comment:
    """Gives a comment another text, which is judged as a new one is. Raises Refused, BadInput."""
    found = to_change(workshop, blog, sign)
    text = rules.read_text(typed)
    reader = Reader(found.person_id, found.person_id is not None, works_here=bool(found.is_ours))
    post = SiteSnapshot(workshop.db, blog.id, workshop.clock()).post(found.post_id)
    if post is None:
        raise NotFound("There is no such post here.")
    state, why, _ = _judged(
        workshop, blog, post, _By(found.name, found.email, reader), text, None, False, True
    )
    state = WAITS if found.state == WAITS and state == SHOWN else state
    with changing(workshop, why="a comment was changed by whoever wrote it"):
        comments.rewrite(workshop.db, found.id, text, state, why, fingerprint(text))
        _look_again(workshop, blog, [found.post_id])
    return replace(found, text=text, state=state)


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
        for one in changed if state == SHOWN else ():
            tell_of_comment(workshop, blog, one)
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
        made = replace(made, id=comments.add(workshop.db, made))
        comments.set_state(workshop.db, [first.id], SHOWN, person.id)
        tell_of_comment(workshop, blog, made)
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


def set_work(workshop: Workshop, person: Person, slug: str, is_asked: bool) -> None:
    """Whether a reader's browser works a moment before it sends a comment. Only the owner may."""
    blog = owned_blog(workshop, person, slug)
    with changing(workshop, person):
        blogs.settle(workshop.db, blog.id, comment_work=int(is_asked))


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
