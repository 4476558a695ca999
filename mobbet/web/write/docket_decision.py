"""The line of the docket that says whose word a post needs before it goes out, and what was said of it."""

from __future__ import annotations

from mobbet.actions import approvals, deciding
from mobbet.actions.access import has_right
from mobbet.actions.approvals import Standing
from mobbet.actions.workshop import Workshop
from mobbet.core.approval import ASKED, BACK, OUTLASTS, YES
from mobbet.core.rights import Action
from mobbet.core.screen_dates import ago_in_words
from mobbet.store import decisions, people
from mobbet.store.blogs import Blog
from mobbet.store.people import Person
from mobbet.store.posts import Post
from mobbet.web.shell.contexts import Choice
from mobbet.web.write import addresses as to_write
from mobbet.web.write.contexts import DecisionShown, Setting


def decision_of(workshop: Workshop, me: Person | None, post: Post, blog: Blog) -> DecisionShown | None:
    """What the docket says of it to this person; None where nobody's word is needed, and none was asked."""
    now = approvals.standing(workshop, blog, post)
    is_mine = me is None or post.author_id == me.id
    if not now.is_needed and not (now.is_asked or now.is_sent_back):
        return None
    decides = me is not None and not is_mine and has_right(workshop, me, blog, Action.GIVE_WORD, is_own=False)
    if not is_mine and not decides:
        return None
    before, words, is_open = _deciding(workshop, post, blog, now) if decides else _asking(workshop, blog, now)
    does = "Say whether it may go out" if decides else "Change who is asked"
    colleagues = (
        [Choice(str(one.id), one.name) for one in deciding.may_be_asked(workshop, post, blog)]
        if is_mine
        else []
    )
    return DecisionShown(
        before, Setting("decision", words, does, is_open), now.newest.remark if now.newest else "", decides, now.is_asked, colleagues,
        [Choice(name, words, not name) for name, words in OUTLASTS.items()], post.revision, _last_look(workshop, me, post) if decides else "",
    )  # fmt: skip


def ask_words(workshop: Workshop, me: Person | None, post: Post, blog: Blog) -> str:
    """What the main action says where this person has to ask first, such as “Ask Tomas Wilde”; '' where they put it out themselves."""
    if me is None or post.author_id != me.id:
        return ""
    now = approvals.standing(workshop, blog, post)
    if not now.is_needed or now.holds:
        return ""
    somebody = _name(workshop, now.newest.asked_of if now.newest else None, "an editor")
    return f"Ask {somebody} again" if now.newest else f"Ask {somebody}"


def _name(workshop: Workshop, number: int | None, otherwise: str) -> str:
    found = people.by_id(workshop.db, number) if number else None
    return found.name if found else otherwise


def _asking(workshop: Workshop, blog: Blog, now: Standing) -> tuple[str, str, bool]:
    """(what stands before the changeable words, those, whether something is open) for the author."""
    said = now.newest
    if said is None or said.kind not in (ASKED, YES, BACK):
        return "It goes out when an editor says so:", "nobody is asked yet", True
    when, who = (
        ago_in_words(said.decided_at, blog.zone, workshop.clock()),
        _name(workshop, said.person_id, "somebody"),
    )
    if said.kind == ASKED:
        return (
            f"It goes out when {_name(workshop, said.asked_of, 'an editor')} says so:",
            f"not said yet, asked {when}",
            True,
        )
    if said.kind == BACK:
        return f"{who} sent it back {when}:", "ask again once it is mended", True
    if now.holds:
        return f"{who} said {when} that it may go out,", OUTLASTS[said.outlasts], False
    return f"It changed since {who} said {when} that it may go out:", "ask again", True


def _deciding(workshop: Workshop, post: Post, blog: Blog, now: Standing) -> tuple[str, str, bool]:
    """The same for somebody who can say so."""
    said, author = now.newest, _name(workshop, post.author_id, "its author")
    when = ago_in_words(said.decided_at, blog.zone, workshop.clock()) if said else ""
    if said is not None and said.kind == ASKED:
        return f"{author} asked {when} whether it may go out:", "say yes, or send it back", True
    if said is not None and said.kind == BACK:
        return (
            f"{_name(workshop, said.person_id, 'somebody')} sent it back {when};",
            "say yes after all",
            False,
        )
    if said is not None and said.kind == YES and now.holds:
        return (
            f"{_name(workshop, said.person_id, 'somebody')} said {when} that it may go out,",
            OUTLASTS[said.outlasts],
            False,
        )
    if said is not None and said.kind == YES:
        return (
            f"It changed since {_name(workshop, said.person_id, 'somebody')} said {when} that it may go out:",
            "say yes, or send it back",
            False,
        )
    return f"{author} needs somebody’s word before it goes out:", "say yes, or send it back", False


def _last_look(workshop: Workshop, me: Person | None, post: Post) -> str:
    """Where what changed since this person said something of it last stands side by side; '' where nothing did."""
    said = decisions.latest_by(workshop.db, post.id, me.id) if me else None
    if said is None or said.revision == post.revision:
        return ""
    return f"{to_write.revisions(post.id)}?one={said.revision}&other={post.revision}"
