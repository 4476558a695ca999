"""Letters to those who work on a blog about comments that wait to be read."""

from __future__ import annotations

from mobbet.actions import letters_to_colleagues, pushing
from mobbet.actions.access import owned_blog
from mobbet.actions.work import changing
from mobbet.actions.workshop import Workshop
from mobbet.core.comments import WAITS
from mobbet.core.errors import BadInput
from mobbet.core.numbers import counted
from mobbet.core.pushes import COMMENT
from mobbet.core.timing import local
from mobbet.store import blogs, comments, people, posts
from mobbet.store.blogs import Blog
from mobbet.store.comments import Comment
from mobbet.store.people import Person

NEVER, EACH, DAY = "", "each", "day"
OFTEN = {NEVER: "to nobody", EACH: "about each", DAY: "once a day"}
AUTHOR, EDITORS = "author", "editors"
TO = {AUTHOR: "the author of the post", EDITORS: "the editors"}
"""How often letters go about comments that wait, and to whom, in words."""
HOUR, A_DAY = 8, 86_400
"""From which hour of the blog's day on the letter of the day goes."""


def set_rule(workshop: Workshop, person: Person, slug: str, often: str, to: str) -> None:
    """To whom letters go about comments that wait, and how often. Only the owner may. Raises BadInput."""
    blog = owned_blog(workshop, person, slug)
    if often not in OFTEN or to not in TO:
        raise BadInput(f"“{often or to}” is no choice; choose one of the list.", "letters")
    with changing(workshop, person):
        blogs.settle(
            workshop.db,
            blog.id,
            comment_letters=often,
            comment_letters_to=to,
            comments_told_at=workshop.clock(),
        )


def tell_of_waiting(workshop: Workshop, blog: Blog, comment: Comment) -> None:
    """Tells of a comment that waits: devices that want to hear of it, and by letter where each is told of; within a unit of work."""
    if comment.state != WAITS:
        return
    title = posts.by_id(workshop.db, comment.post_id)
    words = f"{comment.name} commented on “{title.title if title else 'a post'}”, which waits to be read"
    whom = _whom(workshop, blog, comment)
    pushing.tell(workshop, whom, COMMENT, f"{blog.name}: {words}", f"/desk/{blog.slug}/comments")
    if blog.comment_letters == EACH:
        for person in whom:
            letters_to_colleagues.write(workshop, person, blog, words, comment.text)


def tell_daily(workshop: Workshop) -> int:
    """Writes about the comments of a day that wait, once a day on each blog that wants it; answers with how many letters."""
    written, now = 0, workshop.clock()
    for blog in blogs.every(workshop.db):
        is_new_day = local(now, blog.zone).date() > local(blog.comments_told_at, blog.zone).date()
        if blog.comment_letters != DAY or not is_new_day or local(now, blog.zone).hour < HOUR:
            continue
        with changing(workshop):
            blogs.settle(workshop.db, blog.id, comments_told_at=now)
            found: dict[int, tuple[Person, list[Comment]]] = {}
            for comment in comments.waiting_since(workshop.db, blog.id, blog.comments_told_at):
                for person in _whom(workshop, blog, comment):
                    found.setdefault(person.id, (person, []))[1].append(comment)
            for person, waiting in found.values():
                words = (
                    f"{counted(len(waiting), 'comment')} wait{'s' if len(waiting) == 1 else ''} to be read"
                )
                said = "\n\n".join(f"{one.name}: {one.text}" for one in waiting[:20])
                letters_to_colleagues.write(workshop, person, blog, words, said)
                written += 1
    return written


def _whom(workshop: Workshop, blog: Blog, comment: Comment) -> list[Person]:
    """Who is told: the post's author while they work here, or the editors; the owners where there is nobody else."""
    here = {person.id: person for person in people.of_blog(workshop.db, blog.id)}
    roles = {number: blogs.role(workshop.db, blog.id, number) for number in here}
    post = posts.by_id(workshop.db, comment.post_id)
    if blog.comment_letters_to == AUTHOR and post and post.author_id in here:
        return [here[post.author_id]]
    editors = [person for number, person in here.items() if roles[number] == "editor"]
    return editors or [person for number, person in here.items() if roles[number] == "owner"]
