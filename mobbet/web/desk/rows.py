"""The desk's lists, sentence and strip, in words."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta
from typing import TYPE_CHECKING
from urllib.parse import urlencode

from markupsafe import Markup

from mobbet.actions import bulk_actions, post_search, presence, undoing
from mobbet.actions import desk as desk_actions
from mobbet.actions.access import has_right, is_keeper
from mobbet.actions.workshop import Workshop
from mobbet.core import states
from mobbet.core.audience import EVERYONE, ONLY_ME, PASSWORD, SIGNED_IN
from mobbet.core.comments import count_words
from mobbet.core.numbers import spelled
from mobbet.core.places_outside import shown
from mobbet.core.rights import Action
from mobbet.core.screen_dates import ago_in_words, short_day, time_in_words
from mobbet.core.timing import FOREVER, local
from mobbet.store import blogs, changes, editions, people, posts, proofs, read_counts, targets
from mobbet.store import desk as desk_store
from mobbet.store.blogs import Blog
from mobbet.store.desk import DeskRow
from mobbet.store.people import Person
from mobbet.store.posts import Post
from mobbet.web.desk import addresses as to_desk
from mobbet.web.desk.contexts import DeskRows, Group, MoreRows, Peek, Row
from mobbet.web.filing.contexts import ChangeMessage
from mobbet.web.readers import addresses as to_readers
from mobbet.web.shell.contexts import Choice
from mobbet.web.write.docket_appearance import shown_of

if TYPE_CHECKING:
    from mobbet.web.desk.filter import Filter

LONGEST_TEASER = 420


WEEKS = 12
"""So many weeks of a post's course the desk draws."""


def days(number: int) -> str:
    return f"{spelled(number)} day{'s' if number != 1 else ''}"


def row_of(workshop: Workshop, blog: Blog, row: DeskRow) -> Row:
    """A post's row: its state in words, and what there is to say beside it."""
    said = ""
    now = workshop.clock()
    state, mark, note = "", "", ago_in_words(row.changed_at, blog.zone, now)
    is_live = row.shows_from < row.shows_until and row.shows_until > now
    if row.aside_at:
        state = "set aside"
        until = local(row.aside_at + blog.aside_days * 86400, blog.zone).date()
        note = (
            f"kept until {short_day(until, local(now, blog.zone).date())}"
            if blog.aside_days
            else "kept for good"
        )
    elif is_live:
        today = local(now, blog.zone).date()
        is_out = row.shows_from <= now
        state = (
            short_day(local(row.goes_out, blog.zone).date(), today)
            if is_out
            else time_in_words(row.goes_out, blog.zone, now).replace(" at ", " ")
        )
        read = f"{row.reads:,} read{'s' if row.reads != 1 else ''}" if is_out and row.reads else ""
        down = (
            f"comes down {short_day(local(row.comes_down, blog.zone).date(), today)}"
            if row.comes_down < FOREVER
            else ""
        )
        said = count_words(row.comments, row.waiting)
        note = " · ".join(filter(None, (down, read)))
        if not posts.is_same_text(workshop.db, row.id, row.revision, row.placed_revision):
            note, mark = "changed since, not out yet" if is_out else "changed since it was placed", "bad"
    elif row.shows_from < row.shows_until:
        state = states.WORDS[states.CAME_DOWN if row.comes_down == row.shows_until else states.WITHDRAWN]
    else:
        state = f"{row.words:,} word{'s' if row.words != 1 else ''}" if row.words else "empty"
    others = presence.on_it(workshop, row.id)
    note = " · ".join(
        filter(
            None,
            (f"{' and '.join(others)} on it now" if others else "", note or _readers_note(row.visibility)),
        )
    )
    return Row(
        row.id,
        row.title or "No title yet",
        row.author,
        "page" if row.kind else row.categories or "no category yet",
        state,
        mark,
        note,
        *_proof_note(row, now),
        comments=said,
        comments_at=to_readers.comments(blog.slug, post=row.id) if said else "",
        course=_course(workshop, blog, row.id) if is_live and row.reads else Markup(""),
    )


def _course(workshop: Workshop, blog: Blog, post_id: int) -> Markup:
    """How often a post was opened in each of the last weeks, as a small drawing; nothing where nothing was counted."""
    today = local(workshop.clock(), blog.zone).date()
    days = [(today - timedelta(days=7 * week - 1)).isoformat() for week in range(WEEKS, 0, -1)]
    counts = read_counts.course(workshop.db, blog.id, post_id, days)
    top = max(counts)
    if not top:
        return Markup("")
    points = " ".join(
        f"{at * 60 / (WEEKS - 1):.1f},{15 - 13 * count / top:.1f}" for at, count in enumerate(counts)
    )
    words = f"Opened {counts[-1]} times this week, {top} in its best week of the last {WEEKS}"
    return Markup(
        f'<svg class="course" viewBox="0 0 60 16" width="60" height="16" role="img" aria-label="{words}"><title>{words}</title><polyline points="{points}"/></svg>'
    )


def _proof_note(row: DeskRow, now: int) -> tuple[str, bool]:
    """What the proof of a post that is not out comes to, shortly, and whether something must be settled; '' before it was read."""
    if (
        row.shows_from < row.shows_until
        and row.shows_from <= now < row.shows_until
        or row.aside_at
        or not row.words
        or not (row.is_read or row.must or row.should)
    ):
        return "", False
    count = row.must + row.should
    return f"{count} to settle" if count else "clear", count > 0


def _readers_note(visibility: str) -> str:
    """For whom a post is that is not for everyone, shortly."""
    known = {
        EVERYONE: "",
        ONLY_ME: "only its author reads it",
        SIGNED_IN: "for people signed in",
        PASSWORD: "behind a password",
    }
    return known.get(visibility, "for a group")


ASKED = {
    states.CAME_DOWN: "what came down",
    states.WITHDRAWN: "what was withdrawn",
    states.SET_ASIDE: "what is set aside",
}
"""Groups that stand in the list only when somebody asks for them."""


GROUPS = {
    "in-hand": ("In hand", "Show more in hand"),
    "timetable": ("In the timetable", "Show what goes out later"),
    "pages": ("Pages", "Show more pages"),
    "published": ("Published", "Show older posts"),
}
"""The groups of the desk: their headings, and the words that show more of them."""


def groups(workshop: Workshop, blog: Blog, chosen: Filter) -> DeskRows:
    """The groups of the desk, of the author that the sentence names."""
    found = [(heading, more_of(workshop, blog, name, None, chosen)) for name, (heading, _) in GROUPS.items()]
    shown = [Group(heading, page.rows, page.more, page.more_words) for heading, page in found if page.rows]
    problem = "" if shown or not chosen.author else "No post is by this author; “anyone” shows everyone’s."
    asked = [
        Choice(f"{to_desk.desk(blog.slug)}?{urlencode({'state': state})}", words)
        for state, words in ASKED.items()
    ]
    return DeskRows(shown, "", False, not shown and not problem, blog, problem, asked)


def more_of(
    workshop: Workshop, blog: Blog, name: str, after: tuple[int, int] | None, chosen: Filter
) -> MoreRows:
    """A page of a group, from its beginning or after a place in it."""
    page = desk_actions.group(workshop, blog, name, after, chosen.author)
    query = f"&{chosen.query}" if chosen.query else ""
    more = (
        f"{to_desk.desk_rows(blog.slug)}?group={name}&before={page.more[0]}-{page.more[1]}{query}"
        if page.more
        else ""
    )
    return MoreRows([row_of(workshop, blog, row) for row in page.rows], more, GROUPS[name][1])


def search(workshop: Workshop, blog: Blog, query: str) -> DeskRows:
    """The rows that a query finds, with what was wrong with the query."""
    found = post_search.find(workshop, blog, query)
    places = post_search.places(workshop, found)
    rows = [
        replace(row_of(workshop, blog, row), place=places[row.id])
        for row in desk_store.by_ids(workshop.db, list(places))
    ]
    said = query.strip()
    for typed, taken in found.instead.items():
        said = said.replace(typed, taken)
    heading = (
        f"{found.total:,} found with “{said}”"
        + (f", the first {len(rows)} here" if len(rows) < found.total else "")
        + (f"; none has “{'”, “'.join(found.instead)}”" if found.instead else "")
    )
    return DeskRows(
        [Group(heading, rows)] if rows else [], query, True, False, blog, " ".join(found.problems)
    )


def peek_of(workshop: Workshop, post: Post, blog: Blog) -> Peek:
    """A post as readers see it in lists, and its facts in a sentence."""
    row = desk_store.by_ids(workshop.db, [post.id])[0]
    shown, told = shown_of(workshop, post, blog), row_of(workshop, blog, row)
    filed = (
        "A page: it has no date, and stands on no list."
        if row.kind
        else f"Filed under {row.categories.replace(' · ', ' and ')}."
        if row.categories
        else "In no category yet."
    )
    facts = f"{post.words:,} word{'s' if post.words != 1 else ''}, by {row.author}. {filed}"
    must, should, _ = proofs.counts(workshop.db, [post.id]).get(post.id, (0, 0, 0))
    subtitle = posts.working(workshop.db, post.id).subtitle
    return Peek(
        post.id,
        told.title,
        subtitle,
        shown.card,
        " ".join(shown.teaser_html.split())[:LONGEST_TEASER],
        facts,
        f"{must + should} to settle" if must + should else "",
    )


def colleagues(workshop: Workshop, person: Person, blog: Blog) -> list[Choice]:
    """To whom this person may give something to write; nobody without the right."""
    if not has_right(workshop, person, blog, Action.GIVE_POST):
        return []
    return [Choice(str(one.id), one.name) for one in people.of_blog(workshop.db, blog.id)]


def doings(workshop: Workshop, person: Person, blog: Blog, state: str) -> list[Choice]:
    """What can be done with chosen posts, as (name, verb): what this person may, and what has a meaning for a list of that state."""
    is_aside, keeps = state == states.SET_ASIDE, is_keeper(workshop, person, blog)
    has_other = len(blogs.of_person(workshop.db, person.id)) > 1
    barred = {
        "restore": not is_aside,
        "give": not keeps,
        "move": not has_other,
        "withdraw": is_aside,
        "aside": is_aside,
        "place": is_aside,
    }
    return [
        Choice(name, " ".join(one.verb.format("").split()), hint="…" if one.asks else "")
        for name, one in bulk_actions.DOINGS.items()
        if not barred.get(name)
    ]


def told_of(workshop: Workshop, person: Person, blog: Blog, done: str) -> ChangeMessage | None:
    """What a change of posts came to, with an undo until it is undone, to whoever made it."""
    change = (
        changes.by_id(workshop.db, blog.id, int(done), undoing.POSTS)
        if done.isdecimal() and len(done) < 16
        else None
    )
    if change is None or change.person_id != person.id:
        return None
    return (
        ChangeMessage(f"{change.words}.", change.id)
        if change.undone_at is None
        else ChangeMessage(f"Undone: {change.words}.")
    )


def sentence(workshop: Workshop, blog: Blog) -> tuple[str, str]:
    """(headline, the rest): days since the last post, the usual gap, the next one out."""
    rhythm, now = desk_actions.rhythm(workshop, blog), workshop.clock()
    if rhythm.days_quiet is None:
        headline = "Nothing is published yet."
    elif rhythm.days_quiet == 0:
        headline = "The last post went out today."
    else:
        headline = f"{days(rhythm.days_quiet).capitalize()} since the last post."
    rest = []
    if rhythm.usual_gap:
        rest.append(f"You usually leave {days(rhythm.usual_gap)}.")
    if rhythm.next_out:
        rest.append(f"The next goes out on {time_in_words(rhythm.next_out, blog.zone, now)}.")
    elif rhythm.days_quiet is not None:
        rest.append("Nothing is in the timetable.")
    return headline, " ".join(rest)


LATE, TOLD_FOR = 120, 2 * 86400
"""In seconds: what is called late, and for how long it is told."""


def notices(workshop: Workshop, blog: Blog) -> list[str]:
    """What happened that somebody should know of: posts that went out late, an edition that differs from the facts."""
    now = workshop.clock()
    found = []
    for one in editions.late(workshop.db, blog.id, now - TOLD_FOR, LATE):
        if one.why and not one.person_id:
            due, made = (time_in_words(instant, blog.zone, now) for instant in (one.instant, one.made_at))
            found.append(f"Mobbet was not running on {due}: {one.why}, made up for on {made}.")
    for target in targets.of_blog(workshop.db, blog.id):
        if target.problem and target.edition < editions.current_number(workshop.db, blog.id):
            again = time_in_words(max(target.next_try, now), blog.zone, now)
            found.append(f"{shown(target.address)} is behind: {target.problem} It is tried again {again}.")
    current = editions.current(workshop.db, blog.id)
    if current and current.puts_back:
        found.append(
            f"Readers get edition {current.puts_back}, which was put back; what is written since waits until something is published."
        )
    return found
