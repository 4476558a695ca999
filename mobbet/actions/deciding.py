"""Asking for somebody's word that a post may go out, giving it, and sending a post back."""

from __future__ import annotations

from mobbet.actions import approvals, pushing
from mobbet.actions.access import editable_post, has_right, other_post, told_title
from mobbet.actions.letters_to_colleagues import write
from mobbet.actions.recording import note
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.approval import ASKED, BACK, OUTLASTS, TAKEN_BACK, YES
from mobbet.core.errors import BadInput, Refused
from mobbet.core.pushes import WORD
from mobbet.core.rights import Action
from mobbet.store import decisions, events, people, posts
from mobbet.store.blogs import Blog
from mobbet.store.decisions import Decision
from mobbet.store.people import Person
from mobbet.store.posts import Post

LONGEST_REMARK = 1000


def may_be_asked(workshop: Workshop, post: Post, blog: Blog) -> list[Person]:
    """Those who can say that a post may go out: all who may say it of colleagues' posts, but its author."""
    return [
        one
        for one in people.of_blog(workshop.db, blog.id)
        if one.id != post.author_id
        and not one.suspended_at
        and has_right(workshop, one, blog, Action.GIVE_WORD, is_own=False)
    ]


def ask(
    workshop: Workshop, person: Person, post_id: int, of: int = 0, remark: str = "", server: str = ""
) -> None:
    """Asks one colleague, or with 0 any editor, whether a post may go out; writes to them. Raises BadInput, Refused."""
    post, blog = editable_post(workshop, person, post_id)
    remark = read_remark(remark)
    with changing(workshop, person):
        post = posts.again(workshop.db, post)
        colleagues = may_be_asked(workshop, post, blog)
        if not approvals.standing(workshop, blog, post).is_needed:
            raise Refused("This post needs nobody's word; put it out.")
        if not colleagues:
            raise Refused(
                "Nobody here can say that it may go out; the owner of the blog can make somebody an editor."
            )
        if of and of not in [one.id for one in colleagues]:
            raise BadInput("That person cannot say that it may go out; choose one of the list.", "decision")
        if not posts.working(workshop.db, post.id).title:
            raise BadInput("The post has no title yet; give it one, then ask.", "decision")
        _add(workshop, person, post, blog, ASKED, asked_of=of or None, remark=remark)
        note(workshop, person, "asked", blog.id, told_title(post), post_id=post.id)
        words = f"{person.name} asks whether “{told_title(post)}” may go out"
        for one in colleagues:
            if of in (0, one.id):
                write(workshop, one, blog, words, remark, server, post.id)
        asked = [one for one in colleagues if of in (0, one.id)]
        pushing.tell(workshop, asked, WORD, f"{blog.name}: {words}", f"/posts/{post.id}")
    workshop.on_change()


def take_back(workshop: Workshop, person: Person, post_id: int) -> None:
    """Asks no more. Raises Refused where nobody is asked."""
    post, blog = editable_post(workshop, person, post_id)
    with changing(workshop, person):
        if not approvals.standing(workshop, blog, post).is_asked:
            raise Refused("Nobody is asked about this post.")
        _add(workshop, person, post, blog, TAKEN_BACK)


def say_yes(
    workshop: Workshop,
    person: Person,
    post_id: int,
    revision: int,
    outlasts: str = "",
    remark: str = "",
    server: str = "",
) -> None:
    """Says that a colleague's post may go out as it is in the revision that was looked at. Raises BadInput, and Refused where it has changed since."""
    post, blog = other_post(workshop, person, post_id, Action.GIVE_WORD)
    if outlasts not in OUTLASTS:
        raise BadInput(f"“{outlasts[:20]}” is no choice; choose for what the yes holds.", "decision")
    remark = read_remark(remark)
    with changing(workshop, person):
        post = posts.again(workshop.db, post)
        if revision != post.revision:
            raise Refused("It was changed while you looked at it; look at it once more, then say so.")
        _add(workshop, person, post, blog, YES, outlasts=outlasts, remark=remark)
        note(workshop, person, "yes", blog.id, told_title(post), post_id=post.id)
        _tell_author(
            workshop, blog, post, f"{person.name} says that “{told_title(post)}” may go out", remark, server
        )
    workshop.on_change()


def send_back(workshop: Workshop, person: Person, post_id: int, remark: str, server: str = "") -> None:
    """Sends a colleague's post back with a word. Raises BadInput without one."""
    post, blog = other_post(workshop, person, post_id, Action.GIVE_WORD)
    remark = read_remark(remark)
    if not remark:
        raise BadInput("No word goes with it yet; say what is to be mended.", "decision")
    with changing(workshop, person):
        post = posts.again(workshop.db, post)
        _add(workshop, person, post, blog, BACK, remark=remark)
        note(workshop, person, "sent-back", blog.id, told_title(post), post_id=post.id)
        _tell_author(workshop, blog, post, f"{person.name} sends “{told_title(post)}” back", remark, server)
    workshop.on_change()


def read_remark(text: str) -> str:
    """A word that goes with a decision. Raises BadInput where it is too long."""
    text = text.replace("\r\n", "\n").strip()
    if len(text) > LONGEST_REMARK:
        raise BadInput(
            f"These are {len(text):,} letters; {LONGEST_REMARK:,} are the most for a word. Leave notes for more.",
            "decision",
        )
    return text


def _add(
    workshop: Workshop,
    person: Person,
    post: Post,
    blog: Blog,
    kind: str,
    asked_of: int | None = None,
    outlasts: str = "",
    remark: str = "",
) -> None:
    filed = approvals.filed_under(workshop, blog, post)
    row = Decision(
        0,
        blog.id,
        post.id,
        kind,
        person.id,
        asked_of,
        post.revision,
        post.visibility,
        filed,
        outlasts,
        remark,
        workshop.clock(),
    )
    decisions.add(workshop.db, row)
    events.add(workshop.db, blog.id)


def _tell_author(workshop: Workshop, blog: Blog, post: Post, words: str, remark: str, server: str) -> None:
    author = people.by_id(workshop.db, post.author_id)
    if author is not None and author.password_hash is not None:
        write(workshop, author, blog, words, remark, server, post.id)
