"""Whether a post may go out by its author's hand: by the blog's rule, and by what an editor said of it."""

from __future__ import annotations

from dataclasses import dataclass

from mobbet.actions.workshop import Workshop
from mobbet.core import approval
from mobbet.core.approval import Text
from mobbet.core.audience import ONLY_ME
from mobbet.core.document import schema
from mobbet.core.errors import NotAllowed
from mobbet.core.filing import trail
from mobbet.core.rights import RIGHTS, Action, Role, house_rights, may
from mobbet.core.values import existing
from mobbet.store import blogs, decisions, filing, people, posts
from mobbet.store.blogs import Blog
from mobbet.store.decisions import Decision
from mobbet.store.people import Person
from mobbet.store.posts import Post


@dataclass(frozen=True)
class Standing:
    """Whether somebody's word is needed before the author puts the post out; what was asked or said last; and whether a yes holds for it as it is now."""

    is_needed: bool
    newest: Decision | None
    holds: bool

    @property
    def is_asked(self) -> bool:
        return self.newest is not None and self.newest.kind == approval.ASKED

    @property
    def is_sent_back(self) -> bool:
        return self.newest is not None and self.newest.kind == approval.BACK


def filed_under(workshop: Workshop, blog: Blog, post: Post) -> str:
    """The categories of a post as a decision keeps them."""
    return ",".join(map(str, sorted(posts.categories(workshop.db, post.id))))


def standing(workshop: Workshop, blog: Blog, post: Post) -> Standing:
    """How a post stands with the blog's rule."""
    newest = decisions.newest(workshop.db, post.id)
    return Standing(
        _asks_first(workshop, blog, post), newest, newest is not None and _holds(workshop, blog, post, newest)
    )


def _asks_first(workshop: Workshop, blog: Blog, post: Post) -> bool:
    role = blogs.role(workshop.db, blog.id, post.author_id)
    if role is None or role == Role.OWNER or post.visibility == ONLY_ME:
        return False
    subjects = filing.subjects(workshop.db, blog.id)
    own = posts.categories(workshop.db, post.id)
    categories = {step.id for number in own if number in subjects for step in trail(subjects, number)}
    return house_rights(blog.rights).asks_first(role, categories)


def _holds(workshop: Workshop, blog: Blog, post: Post, said: Decision) -> bool:
    """Whether a yes still holds: nobody else reads the post by now, it is filed the same, and its text changed no more than it outlasts."""
    if said.kind != approval.YES or said.visibility != post.visibility:
        return False
    if said.categories != filed_under(workshop, blog, post):
        return False
    if said.revision == post.revision or said.outlasts == approval.ANYTHING:
        return True
    return approval.is_within(
        said.outlasts, text_at(workshop, post, said.revision), text_at(workshop, post, post.revision)
    )


def text_at(workshop: Workshop, post: Post, number: int) -> Text:
    """The text of a revision."""
    row = existing(posts.revision(workshop.db, post.id, number))
    return Text(row.title, row.subtitle, schema.load(row.body))


def refusal(workshop: Workshop, person: Person, post: Post, blog: Blog) -> str:
    """Why this person may not put the post out; '' where they may."""
    role, is_own = blogs.role(workshop.db, blog.id, person.id), post.author_id == person.id
    rights = house_rights(blog.rights)
    if role is None or not may(role, Action.PLACE_POST, is_own=is_own, rights=rights):
        return RIGHTS[Action.PLACE_POST].refusal
    if not is_own:
        return ""
    now = standing(workshop, blog, post)
    if not now.is_needed or now.holds:
        return ""
    if now.is_asked:
        return f"{_asked(workshop, now)} has not said yet that it may go out; wait for the answer, or write to them."
    if now.newest is not None and now.newest.kind == approval.YES:
        return "It changed since an editor said that it may go out; ask again."
    if now.is_sent_back:
        return "It was sent back; mend it, and ask again."
    return "On this blog an editor says when it goes out; ask for their word."


def _asked(workshop: Workshop, now: Standing) -> str:
    number = now.newest.asked_of if now.newest else None
    somebody = people.by_id(workshop.db, number) if number else None
    return somebody.name if somebody else "An editor"


def require_may_go_out(workshop: Workshop, person: Person, post: Post, blog: Blog) -> None:
    """Raises NotAllowed with the reason unless this person may put the post out."""
    reason = refusal(workshop, person, post, blog)
    if reason:
        raise NotAllowed(reason)
