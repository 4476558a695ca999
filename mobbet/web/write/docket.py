"""The docket of a post as sentences: the same lines for a draft, a placed and a published post, in the right tense."""

from __future__ import annotations

from typing import Any

from mobbet.actions.access import has_right
from mobbet.actions.own_address import server_of
from mobbet.actions.permalinks import category_subjects, proposed_path
from mobbet.actions.placing import waiting_update
from mobbet.actions.post_states import state_of
from mobbet.actions.readers import visibility_words
from mobbet.actions.reading_copies import may_share
from mobbet.actions.workshop import Workshop
from mobbet.core import states
from mobbet.core.audience import EVERYONE, audience_of
from mobbet.core.comments import count_words
from mobbet.core.docket import differing
from mobbet.core.facts import Subject
from mobbet.core.filing import Rule, trail, tree
from mobbet.core.languages import NAMES, name_of
from mobbet.core.pages import ABOUT, CONTACT, KINDS, PAGE, POST
from mobbet.core.rights import Action
from mobbet.core.screen_dates import short_date, time_in_words
from mobbet.core.slugs import slug_of
from mobbet.core.timing import instant_of_wall
from mobbet.core.values import existing
from mobbet.store import comments, filing, pages, people, placements, posts, series, worklists
from mobbet.store.blogs import Blog
from mobbet.store.filing import Tag
from mobbet.store.people import Person
from mobbet.store.placements import Placement
from mobbet.store.posts import Post
from mobbet.web.public import addresses as to_public
from mobbet.web.shell.contexts import Choice
from mobbet.web.write import addresses as to_write
from mobbet.web.write.contexts import Actions, DocketPart, Out, PlacingShown, Setting
from mobbet.web.write.docket_appearance import shown_of
from mobbet.web.write.docket_blogs import also_in_fields, also_in_setting
from mobbet.web.write.docket_decision import ask_words, decision_of
from mobbet.web.write.docket_seen import seen_of
from mobbet.web.write.docket_times import going_of

MOST_CATEGORIES, LIKELY = 150, 30
KIND_HINTS = {
    POST: "It has a date, and stands in lists and feeds.",
    PAGE: "It has no date, and stands on no list and in no feed; the menu can lead to it.",
    ABOUT: "A page; search engines are told that it is about you.",
    CONTACT: "A page; search engines are told where to find you.",
}

STATE_WORDS = {
    states.DRAFT: "A draft",
    states.IN_TIMETABLE: "In the timetable",
    states.OUT: "Published",
    states.CAME_DOWN: "Came down",
    states.WITHDRAWN: "Withdrawn",
    states.SET_ASIDE: "Set aside",
}
STATE_CHOICES = {
    states.DRAFT: [("set-aside", "Set it aside", "It leaves the lists; it can be restored.")],
    states.IN_TIMETABLE: [("withdraw", "Take it out of the timetable", "It becomes a draft again.")],
    states.OUT: [("withdraw", "Withdraw it", "It leaves the site at once; its text stays here.")],
    states.CAME_DOWN: [("set-aside", "Set it aside", "It leaves the lists; it can be restored.")],
    states.WITHDRAWN: [("set-aside", "Set it aside", "It leaves the lists; it can be restored.")],
    states.SET_ASIDE: [("restore", "Restore it", "It comes back to the lists as it was.")],
}


def docket_of(
    workshop: Workshop,
    post: Post,
    blog: Blog,
    message: str = "",
    message_link: str = "",
    problem: str = "",
    problem_sheet: str = "",
    me: Person | None = None,
    out: Out | None = None,
    undo: int = 0,
    server: str = "",
) -> DocketPart:
    """Everything the docket says of a post now, to somebody who works on the blog; to nobody in particular, as to its owner.

    A message, or a problem without a sheet, is told in the base line; a problem of a sheet in that sheet.
    """
    db, now = workshop.db, workshop.clock()
    asks = ask_words(workshop, me, post, blog)
    state = state_of(workshop, post)
    rows = placements.of_post(db, post.id)
    live = _live(rows, now)
    subjects = category_subjects(workshop, blog)
    chosen, tags = posts.categories(db, post.id), filing.tags(db, posts.tags(db, post.id))
    author = existing(people.by_id(db, post.author_id)).name
    path, slug = proposed_path(workshop, post, blog, post.title, tuple(chosen), now)
    path_start, last = path.rstrip("/").rsplit("/", 1)
    changes = _changes(workshop, post, chosen, [tag.id for tag in tags], live)
    can_share = me is not None and may_share(workshop, me, post, blog)
    told = (message, message_link, "" if problem_sheet else problem, undo, can_share)
    shown_to = visibility_words(workshop, blog, post.visibility)
    settings = _settings(post, blog, state, live, author, slug, shown_to, now)
    settings |= _settings_beside(workshop, post)
    return DocketPart(
        post_id=post.id,
        state=state,
        language=post.language or blog.language,
        settings=settings,
        path_start=f"{path_start}/{last.removesuffix(slug)}",
        blog=blog.slug,
        going=_going(workshop, me, post, blog, state, rows, bool(asks)),
        slug=post.slug,
        proposed_slug=slug_of(post.title, slug, blog.slug_script, blog.language),
        excerpt=post.excerpt,
        shown=shown_of(workshop, post, blog),
        where=_where(state, live),
        changes=changes,
        public=_public(blog, state, rows, live, now),
        actions=_actions(post, blog, state, now, bool(changes), asks, *told),
        address=f"{blog.home}{path[1:]}",
        problem=problem if problem_sheet else "",
        problem_sheet=problem_sheet,
        out=out,
        **_filing_fields(workshop, post, blog, subjects, chosen, tags),
        **_series_fields(workshop, post, blog),
        **_page_fields(workshop, post, blog, _may(workshop, me, post, blog, Action.OWN_HOUSE)),
        **_people_fields(workshop, me, post, blog, state, server),
    )


def _may(workshop: Workshop, me: Person | None, post: Post, blog: Blog, action: Action) -> bool:
    return me is None or has_right(workshop, me, blog, action, me.id == post.author_id)


def _going(
    workshop: Workshop,
    me: Person | None,
    post: Post,
    blog: Blog,
    state: str,
    rows: list[Placement],
    asks: bool,
) -> PlacingShown:
    """When it goes out, as far as this person says so."""
    is_keeper = _may(workshop, me, post, blog, Action.ANY_AUTHOR)
    may_place = not asks and _may(workshop, me, post, blog, Action.PLACE_POST)
    return going_of(workshop, post, blog, state, rows, is_keeper, may_place)


def _people_fields(
    workshop: Workshop, me: Person | None, post: Post, blog: Blog, state: str, server: str
) -> dict[str, Any]:
    """What the docket says of who writes it, who decides, and what readers said of it."""
    return {
        "state_choices": [
            Choice(value, words, hint=hint) for value, words, hint in _state_choices(post, state)
        ],
        "languages": _languages(post, blog),
        "authors": [
            Choice(str(one.id), one.name, one.id == post.author_id)
            for one in people.of_blog(workshop.db, blog.id)
        ],
        "has_comments": bool(blog.comments),
        "comments_so_far": count_words(*comments.under(workshop.db, post.id)),
        "decision": decision_of(workshop, me, post, blog),
        "seen": seen_of(workshop, me, post, blog, server or server_of(workshop, blog)),
        "may_give": _may(workshop, me, post, blog, Action.GIVE_POST),
        "wanted_by": post.wanted_by,
        "wanted_words": _wanted(workshop, post, state),
    }


def _wanted(workshop: Workshop, post: Post, state: str) -> str:
    """“Tomas Wilde gave it to its author, to be written by Thu 3 Dec”; '' for a post that nobody gave, or that went out."""
    giver = people.by_id(workshop.db, post.given_by) if post.given_by else None
    if giver is None or state not in (states.DRAFT, states.WITHDRAWN):
        return ""
    until = f", to be written by {short_date(post.wanted_by)}" if post.wanted_by else ""
    return f"{giver.name} gave it to its author{until}"


def _live(rows: list[Placement], now: int) -> Placement | None:
    """The last placement that shows, or is going to."""
    return next(
        (row for row in reversed(rows) if row.shows_from < row.shows_until and row.shows_until > now), None
    )


def _filing_fields(
    workshop: Workshop,
    post: Post,
    blog: Blog,
    subjects: dict[int, Subject],
    chosen: list[int],
    tags: list[Tag],
) -> dict[str, Any]:
    """What the docket says of categories and tags."""
    return {
        "category_words": _category_words(subjects, chosen, bool(post.title or post.words)),
        "tag_words": [_word("tags", tag.name, "Change the tags") for tag in tags]
        or [Setting("tags", "nothing yet", "Change the tags")],
        "categories": _category_choices(workshop, post, subjects, chosen),
        "main_category": str(chosen[0]) if chosen else "",
        "tags": ", ".join(tag.name for tag in tags),
        "falls_under": subjects[blog.catch_all].name
        if blog.catch_all in subjects and not blog.least_categories
        else "",
        "takes_one": blog.most_categories == 1,
        "rule": _rule(blog),
    }


def _settings_beside(workshop: Workshop, post: Post) -> dict[str, Setting]:
    """What a post is part of: a series, other blogs, pages."""
    return {
        "series": _series(workshop, post),
        "also-in": also_in_setting(workshop, post),
        **_page_settings(workshop, post),
    }


def _series_fields(workshop: Workshop, post: Post, blog: Blog) -> dict[str, Any]:
    """What the docket says of the series a post is part of, and of other blogs."""
    db = workshop.db
    return {
        "series": series.name_of(db, post.series_id) if post.series_id else "",
        "series_place": str(post.series_position) if post.series_id else "",
        "known_series": series.names(db, blog.id),
        **also_in_fields(workshop, post),
    }


def _page_fields(workshop: Workshop, post: Post, blog: Blog, owns_house: bool) -> dict[str, Any]:
    """What the docket says of a post as a page."""
    kinds = [
        Choice(kind or "post", words, kind == post.kind, KIND_HINTS[kind]) for kind, words in KINDS.items()
    ]
    others = [page for page in pages.every(workshop.db, blog.id) if page.id != post.id] if post.kind else []
    return {
        "is_page": post.is_page,
        "owns_house": owns_house,
        "kinds": kinds,
        "pages": [
            Choice(str(page.id), page.title or "No title yet", page.id == post.below) for page in others
        ],
    }


def _page_settings(workshop: Workshop, post: Post) -> dict[str, Setting]:
    """Whether it is a post or a page, and the page that it stands below."""
    above = posts.on_blog(workshop.db, post.blog_id, post.below) if post.below is not None else None
    words = (above.title or "No title yet") if above else "nothing"
    return {
        "kind": Setting("kind", KINDS[post.kind], "Change whether it is a post or a page"),
        "below": Setting("below", words, "Change the page it stands below"),
    }


def _category_words(subjects: dict[int, Subject], chosen: list[int], is_begun: bool) -> list[Setting]:
    named = [
        _word("categories", subjects[number].name, "Change the categories")
        for number in chosen
        if number in subjects
    ]
    return named or [Setting("categories", "no category yet", "Choose the categories", is_begun)]


def _languages(post: Post, blog: Blog) -> list[Choice]:
    known = sorted(NAMES.items(), key=lambda pair: pair[1])
    return [
        Choice("", f"{name_of(blog.language)}, as the blog", not post.language),
        *(Choice(tag, name, tag == post.language) for tag, name in known),
    ]


def _public(blog: Blog, state: str, rows: list[Placement], live: Placement | None, now: int) -> str:
    """The address of the page that readers get; '' while there is none."""
    if live is None or state != states.OUT:
        return ""
    return to_public.public(blog.slug, (waiting_update(rows, now)[0] or live).path)


def _actions(
    post: Post,
    blog: Blog,
    state: str,
    now: int,
    is_changed: bool,
    asks: str,
    message: str,
    message_link: str,
    problem: str,
    undo: int,
    can_share: bool,
) -> Actions:
    can_place = _can_place(state, is_changed)
    words = asks or _main_action(post, blog, state, now)
    place = to_write.docket(post.id, "ask") if asks else to_write.place(post.id)
    return Actions(post.id, words, place, can_place, message, message_link, problem, undo, can_share)


def _can_place(state: str, is_changed: bool) -> bool:
    return state != states.SET_ASIDE and (state not in (states.OUT, states.IN_TIMETABLE) or is_changed)


def can_place(workshop: Workshop, post: Post) -> bool:
    """Whether the main action has anything to do: of a post that is out or placed only what was changed since."""
    live = _live(placements.of_post(workshop.db, post.id), workshop.clock())
    categories, tags = posts.categories(workshop.db, post.id), posts.tags(workshop.db, post.id)
    return _can_place(state_of(workshop, post), bool(_changes(workshop, post, categories, tags, live)))


def _state_choices(post: Post, state: str) -> list[tuple[str, str, str]]:
    """What may be done with the post as a whole."""
    copy = ("begin", "Begin a copy of it", "A new draft with this text and filing.")
    if post.is_template:
        return [
            ("begin", "Begin a post from it", "A new draft in this shape."),
            ("template", "Make it a draft again", "It is no template any more."),
            *STATE_CHOICES[state],
        ]
    if state in (states.OUT, states.IN_TIMETABLE, states.SET_ASIDE):
        return [*STATE_CHOICES[state], copy]
    return [
        *STATE_CHOICES[state],
        copy,
        (
            "template",
            "Keep it as a template",
            "A starting shape for other posts; it leaves the list of drafts.",
        ),
    ]


def _series(workshop: Workshop, post: Post) -> Setting:
    if post.series_id is None:
        return Setting("series", "no series", "Make it part of a series")
    parts = series.parts(workshop.db, post.series_id)
    number = next((at for at, (post_id, _, _) in enumerate(parts, 1) if post_id == post.id), 1)
    words = f"“{series.name_of(workshop.db, post.series_id)}”, as part {number} of {len(parts)}"
    return Setting("series", words, "Change the series")


def _where(state: str, live: Placement | None) -> Setting:
    """The word behind which it says where readers find the post, and why not elsewhere."""
    words = (
        "nowhere"
        if state != states.OUT
        else "on its page"
        if live and live.is_page and live.audience == EVERYONE
        else "on its page and in lists"
        if live and live.audience == EVERYONE
        else "if it is for them"
    )
    return Setting("where", words, "Where readers find it, and why not elsewhere")


def _short(words: str, longest: int = 60) -> str:
    return words if len(words) <= longest else words[:longest].rsplit(" ", 1)[0] + "…"


def _category_choices(
    workshop: Workshop, post: Post, subjects: dict[int, Subject], chosen: list[int]
) -> list[tuple[int, Choice]]:
    """(depth, category) of all of a small tree; of a large one those chosen and those likely, the others are typed."""
    rows = tree(subjects.values())
    if len(rows) > MOST_CATEGORIES:
        likely = {*chosen, *worklists.often_beside(workshop.db, post.blog_id, post.id, LIKELY)}
        rows = [(0, row) for _, row in rows if row.id in likely]
    return [
        (
            depth,
            Choice(
                str(row.id),
                row.name,
                row.id in chosen,
                " › ".join(step.name for step in trail(subjects, row.id)),
            ),
        )
        for depth, row in rows
    ]


def _rule(blog: Blog) -> str:
    """The blog's rule about categories, with its owner's help; '' where there is none."""
    if not (blog.least_categories or blog.most_categories):
        return blog.filing_help
    rule = Rule(blog.least_categories, blog.most_categories, blog.filing_help)
    return f"This blog asks for {rule.words()}. {rule.help}".strip()


def _word(sheet: str, words: str, name: str) -> Setting:
    return Setting(sheet, words, name)


def _settings(
    post: Post,
    blog: Blog,
    state: str,
    live: Placement | None,
    author: str,
    slug: str,
    readers_words: str,
    now: int,
) -> dict[str, Setting]:
    """The single words, by sheet."""
    if post.goes_out_wall:
        goes_out = time_in_words(instant_of_wall(post.goes_out_wall, blog.zone), blog.zone, now)
        goes_out = f"when its turn comes, about {goes_out}" if post.waits_turn else goes_out
    elif live:
        goes_out = time_in_words(live.goes_out, live.zone, now)
    else:
        goes_out = "when you publish it"
    stays = "for good"
    if post.comes_down_wall:
        stays = "until " + time_in_words(instant_of_wall(post.comes_down_wall, blog.zone), blog.zone, now)
    words = {
        "state": ("A template" if post.is_template else STATE_WORDS[state], "Change the state"),
        "author": (author, "Change the author"),
        "language": (name_of(post.language or blog.language), "Change the language"),
        "goes-out": (goes_out, "Change when it goes out"),
        "comes-down": (stays, "Change how long it stays up"),
        "visibility": (readers_words, "Change who may read it"),
        "comments": ("open" if post.takes_comments else "closed", "Change whether readers may comment"),
        "slug": (slug, "Change the address"),
        "description": (_short(post.description) or "no description yet", "Change the description"),
    }
    return {
        sheet: Setting(
            sheet,
            text,
            name,
            sheet == "description" and not post.description and bool(post.title or post.words),
        )
        for sheet, (text, name) in words.items()
    }


def _changes(
    workshop: Workshop, post: Post, categories: list[int], tags: list[int], live: Placement | None
) -> list[str]:
    """What readers do not get yet although it was changed, in words; empty without a placement."""
    if live is None:
        return []
    pairs = {
        "the text": (True, posts.is_same_text(workshop.db, post.id, post.revision, live.revision)),
        "the author": (post.author_id, live.author_id),
        "who may read it": (audience_of(post.visibility, post.author_id, post.id), live.audience),
        "the time": (post.goes_out_wall or live.goes_out_wall, live.goes_out_wall),
        "when it comes down": (post.comes_down_wall, live.comes_down_wall),
        "the categories": ([] if post.is_page else categories, list(live.categories)),
        "the tags": ([] if post.is_page else tags, list(live.tags)),
        "the address": (post.slug or live.slug, live.slug),
    }
    return [*(words for words, (mine, theirs) in pairs.items() if mine != theirs), *differing(post, live)]


def _main_action(post: Post, blog: Blog, state: str, now: int) -> str:
    if state == states.OUT:
        waits = post.update_wall is not None and instant_of_wall(post.update_wall, blog.zone) > now
        return "Place the update" if waits else "Update what is out"
    is_later = post.goes_out_wall is not None and instant_of_wall(post.goes_out_wall, blog.zone) > now
    if post.waits_turn:
        return "Put it in the queue"
    if state == states.IN_TIMETABLE:
        return "Update the timetable" if is_later else "Publish now"
    return "Put in the timetable" if is_later else "Publish now"
