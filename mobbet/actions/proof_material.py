"""The context of a proof: docket, house rules, other posts, the library, and the answers of links."""

from __future__ import annotations

import json
from dataclasses import replace
from typing import Any

from mobbet.actions.permalinks import category_subjects, proposed_path
from mobbet.actions.post_states import showings
from mobbet.actions.workshop import Workshop
from mobbet.core.audience import EVERYONE, GROUP
from mobbet.core.document import outline, schema
from mobbet.core.document.mentions import linked_posts, standing_copies, walk
from mobbet.core.filing import Rule, path_in_words
from mobbet.core.fill_ins import values
from mobbet.core.media.licences import LICENCES
from mobbet.core.proofing.bounded import BoundedWords
from mobbet.core.proofing.checks.links import outward
from mobbet.core.proofing.material import (
    DocketFacts,
    Knowledge,
    LibraryItem,
    LinkAnswer,
    Material,
    OtherPost,
    PlannedNeighbour,
    Rules,
)
from mobbet.core.proofing.meant import Own, OwnPost, own_posts
from mobbet.core.slugs import slug_of
from mobbet.core.states import state_at
from mobbet.core.timing import FOREVER, day_in_words, hour_of, instant_of_wall, time_in_words
from mobbet.services.contracts import Dictionary, LanguageDetector
from mobbet.store import editions, filing, kept, media, placements, posts, proofs, readers, series, timetable
from mobbet.store.blogs import Blog
from mobbet.store.placements import Placement
from mobbet.store.posts import Post

_ASK_FOR_CREDIT = {one.key for one in LICENCES if one.asks_credit}
LEAST_TO_BE_USUAL = 5
"""So many posts of a category, all for everyone, make that what is usual there."""


def material_of(
    workshop: Workshop, post: Post, blog: Blog, person_id: int = 0, document: dict[str, Any] | None = None
) -> Material:
    """The working text and docket of a post (or another text of it), and what there is to know, for that person's words."""
    revision = posts.working(workshop.db, post.id)
    document = document or schema.load(revision.body)
    subjects = category_subjects(workshop, blog)
    chosen = posts.categories(workshop.db, post.id)
    rows = placements.of_post(workshop.db, post.id)
    now = workshop.clock()
    live = placements.shown_at(reversed(rows), now)
    path = proposed_path(workshop, post, blog, revision.title, tuple(chosen), now)[0] if live else ""
    docket = DocketFacts(
        title=revision.title,
        subtitle=revision.subtitle,
        slug=post.slug,
        usual_slug=slug_of(revision.title, f"post-{post.id}", blog.slug_script, blog.language),
        excerpt=post.excerpt,
        description=post.description,
        categories=tuple(path_in_words(subjects, number) for number in chosen if number in subjects),
        tags=tuple(tag.name for tag in filing.tags(workshop.db, posts.tags(workshop.db, post.id))),
        is_out=any(row.shows_from < row.shows_until for row in rows),
        moves_from=live.path if live and path != live.path else "",
        moves_to=path if live and path != live.path else "",
        is_page=post.is_page,
    )
    known = knowledge_of(workshop, blog, document, docket, post.id, person_id)
    known = replace(
        known,
        series_parts=tuple(number for _, _, number in series.parts(workshop.db, post.series_id))
        if post.series_id
        else (),
    )
    return Material(
        document,
        docket,
        post.language or blog.language,
        known,
        rules_of(blog),
        _going(workshop, post, blog, rows, live, chosen),
    )


def rules_of(blog: Blog) -> Rules:
    return Rules(blog.quotes, blog.dashes, blog.ellipses, _pairs(blog.avoided), _pairs(blog.link_rules))


def words_alone(dictionary: Dictionary, detect_language: LanguageDetector) -> Knowledge:
    """What the dictionary knows, without a blog."""
    return Knowledge(
        dictionary.knows,
        BoundedWords(dictionary.suggest),
        has_dictionary=dictionary.has,
        detect_language=detect_language,
    )


def knowledge_of(
    workshop: Workshop,
    blog: Blog,
    document: dict[str, Any],
    docket: DocketFacts,
    post_id: int,
    person_id: int = 0,
) -> Knowledge:
    """What there is to know beside the post itself; `post_id` 0 for a text that is no post."""
    db, now = workshop.db, workshop.clock()
    subjects = category_subjects(workshop, blog)
    told = [
        name
        for name in docket.categories
        if blog.catch_all not in subjects or name != subjects[blog.catch_all].name
    ]
    rule = Rule(blog.least_categories, blog.most_categories, blog.filing_help)
    others = {number: _other(workshop, blog, number, now) for number in linked_posts(document)}
    copies = (kept.by_id(db, blog.id, number) for number in standing_copies(document))
    return replace(
        words_alone(workshop.services.dictionary, workshop.services.detect_language),
        learned=proofs.learned(db, person_id, blog.id),
        titles=posts.others_with_title(db, blog.id, docket.title, post_id),
        descriptions=posts.others_with_description(db, blog.id, docket.description, post_id),
        posts={number: other for number, other in others.items() if other is not None},
        items=_items(workshop, blog, document),
        facts=frozenset(
            values(
                title="",
                subtitle="",
                author="",
                date="",
                updated="",
                blog="",
                address="",
                facts=_pairs(blog.facts),
            )
        ),
        rule=rule.refusal(len(docket.categories), len(told)) or "",
        catch_all=subjects[blog.catch_all].name if blog.catch_all in subjects else "",
        answers=_answers(workshop, blog, document),
        own=_own(workshop, blog, post_id),
        aside_copies={
            copy.id: (copy.name, schema.load(copy.body) != schema.EMPTY)
            for copy in copies
            if copy is not None and copy.removed_at is not None
        },
        lists_show_teasers=not blog.full_in_lists,
    )


def _pairs(text: str) -> tuple[tuple[str, str], ...]:
    return tuple(map(tuple, json.loads(text)))


def _own(workshop: Workshop, blog: Blog, post_id: int) -> Own:
    """The posts that are out for everyone, ready to be recognised; made anew with each edition."""
    edition = editions.current_number(workshop.db, blog.id)
    found = workshop.cache.get(("own", blog.id))
    if found is None or found[0] != edition:
        index = own_posts(
            (
                OwnPost(number, title, tuple(tags))
                for number, title, tags in placements.titles_out(workshop.db, blog.id, workshop.clock())
            ),
            blog.language,
        )
        found = workshop.cache[("own", blog.id)] = (edition, index)
    return found[1].without(post_id)


def _answers(workshop: Workshop, blog: Blog, document: dict[str, Any]) -> dict[str, LinkAnswer]:
    found = proofs.answers(workshop.db, outward(document)) if blog.tries_links else {}
    return {
        address: LinkAnswer(one.problem, day_in_words(one.since, blog.zone), one.ends_at)
        for address, one in found.items()
        if (one.problem and one.tries > 1) or one.ends_at
    }


def _other(workshop: Workshop, blog: Blog, number: int, now: int) -> OtherPost | None:
    """What is known of a post of the blog that the text leads to, as readers get it; None for one that is no such post, or not to be told of."""
    post = posts.on_blog(workshop.db, blog.id, number)
    if post is None:
        return None
    rows = placements.of_post(workshop.db, number)
    live = placements.shown_at(rows, now)
    state = state_at(showings(rows), now, post.aside_at is not None)
    if live is None or live.audience != EVERYONE:
        return OtherPost(post.title, state if live is None else "not for everyone")
    shown = schema.load(posts.body(workshop.db, number, live.revision))
    anchors = frozenset(
        node["attrs"].get("anchor") or "" for node in walk(shown) if node["type"] == "heading"
    )
    return OtherPost(post.title, state, live.comes_down < FOREVER, anchors)


def _items(workshop: Workshop, blog: Blog, document: dict[str, Any]) -> dict[int, LibraryItem]:
    found = {}
    for number in outline.items(document):
        row = media.on_blog(workshop.db, blog.id, number)
        if row is not None:
            found[number] = LibraryItem(
                row.kind,
                row.name,
                row.width,
                row.height,
                row.caption,
                row.credit,
                row.licence in _ASK_FOR_CREDIT,
                bool(row.captions),
                bool(row.transcript),
            )
    return found


def _going(
    workshop: Workshop,
    post: Post,
    blog: Blog,
    rows: list[Placement],
    live: Placement | None,
    chosen: list[int],
) -> PlannedNeighbour:
    """What is odd about when and to whom the post goes out; nothing for one that is out and stays so."""
    db, now = workshop.db, workshop.clock()
    if live is not None:
        return PlannedNeighbour()
    goes_out = instant_of_wall(post.goes_out_wall, blog.zone) if post.goes_out_wall else now
    comes_down = instant_of_wall(post.comes_down_wall, blog.zone) if post.comes_down_wall else FOREVER
    is_placed = any(row.shows_from > now and row.shows_from < row.shows_until for row in rows)
    return PlannedNeighbour(
        when=time_in_words(goes_out, blog.zone, now) if post.goes_out_wall else "now",
        is_past=bool(post.goes_out_wall) and not post.waits_turn and goes_out < now and not is_placed,
        comes_down_first=comes_down <= max(goes_out, now),
        same_hour=()
        if post.is_page
        else tuple(timetable.titles_between(db, blog.id, *hour_of(goes_out, blog.zone), post.id, now))
        if post.goes_out_wall
        else (),
        usual_readers=_usual(workshop, blog, chosen, now) if post.visibility != EVERYONE else "",
        letters=_letters(workshop, post),
    )


def _usual(workshop: Workshop, blog: Blog, chosen: list[int], now: int) -> str:
    """The name of the post's main category where every post is for everyone, and there are some; else ''."""
    subject = category_subjects(workshop, blog).get(chosen[0]) if chosen else None
    audiences = placements.audiences_in(workshop.db, blog.id, subject.id, now) if subject else {}
    return (
        subject.name
        if subject and set(audiences) == {EVERYONE} and audiences[EVERYONE] >= LEAST_TO_BE_USUAL
        else ""
    )


def _letters(workshop: Workshop, post: Post) -> tuple[int, str] | None:
    """(how many readers, of which group) get a letter when the post goes out."""
    group = (
        readers.group(workshop.db, int(post.visibility.removeprefix(GROUP)))
        if post.visibility.startswith(GROUP)
        else None
    )
    if group is None or group.writes_since is None or readers.is_announced(workshop.db, post.id, group.id):
        return None
    count = len(readers.addresses_in(workshop.db, group.id))
    return (count, group.name) if count else None
