"""Live checks of the docket: is an address free, does a tag double another, how wide is a title."""

from __future__ import annotations

import re
from collections.abc import Mapping
from urllib.parse import urlencode

from fastapi import APIRouter
from starlette.responses import Response

from mobbet.actions import alike, categories, footprints, looks, placing, preview_readers, tags
from mobbet.actions.access import editable_post
from mobbet.actions.permalinks import category_subjects, filed, free_path, with_catch_all
from mobbet.actions.readers import is_written_to, visibility_words
from mobbet.actions.whereabouts import whereabouts
from mobbet.actions.workshop import Workshop
from mobbet.core import geo
from mobbet.core.audience import EVERYONE, GROUP
from mobbet.core.document import schema
from mobbet.core.errors import BadInput, Refused
from mobbet.core.filing import path_in_words, read_tags
from mobbet.core.keys import ListName, PageKey
from mobbet.core.near import REASONS
from mobbet.core.permalinks import is_own_path, path_of
from mobbet.core.screen_dates import time_in_words
from mobbet.core.slugs import read_post_slug, shorter_slugs, slug_of
from mobbet.core.timing import day_of, instant_of_wall, local
from mobbet.core.when import clock_change, read_when
from mobbet.core.when import in_words as in_words_of_time
from mobbet.publish import coast, share_cards
from mobbet.publish.page_kind import Head
from mobbet.publish.pages.post_list import head_in_words
from mobbet.store import addresses, posts
from mobbet.store import desk as desk_store
from mobbet.store.blogs import Blog
from mobbet.store.desk import OnDay
from mobbet.store.posts import Post
from mobbet.web.public import addresses as to_public
from mobbet.web.shell.bar import bar_for
from mobbet.web.shell.contexts import Choice
from mobbet.web.shell.footprints import in_words
from mobbet.web.shell.rendering import page
from mobbet.web.shell.session import Here, Me
from mobbet.web.write import addresses as to_write
from mobbet.web.write import months
from mobbet.web.write.contexts import (
    AlikePart,
    Check,
    CoastMap,
    DocketFootprint,
    FootprintPage,
    FootprintRow,
    WherePart,
)
from mobbet.web.write.docket import can_place
from mobbet.web.write.docket_appearance import search_sample
from mobbet.web.write.docket_letter import notices_of
from mobbet.web.write.docket_times import MOST_TITLES

router = APIRouter()
MAP_WIDTH, MAP_HEIGHT = 420.0, 260.0
WIDEST, NEAREST = 170.0, 1.5
"""How many degrees of latitude the coast map shows at the most, and at the least."""


@router.get(to_write.docket_check.at("slug"))
def check_slug(here: Here, me: Me, post_id: int, value: str = "") -> Response:
    """Whether an address is free, which post has it, or that the site keeps it; and shorter proposals."""
    post, blog = editable_post(here, me, post_id)
    usual = slug_of(post.title, f"post-{post.id}", blog.slug_script, blog.language)
    proposals = [slug for slug in shorter_slugs(post.title, blog.slug_script, blog.language) if slug != value]
    choices = (
        [("Shorter:", [Choice(slug, slug, hint="slug-word") for slug in proposals])] if proposals else []
    )
    try:
        slug = read_post_slug(value, blog.slug_script) if value.strip() else usual
    except BadInput as error:
        return page(Check(bad=str(error), choices=choices))
    return page(_free_or_not(here, post, blog, slug, choices))


def _free_or_not(
    here: Workshop, post: Post, blog: Blog, slug: str, choices: list[tuple[str, list[Choice]]]
) -> Check:
    chosen = with_catch_all(blog, tuple(posts.categories(here.db, post.id)))
    goes_out = instant_of_wall(post.goes_out_wall, blog.zone) if post.goes_out_wall else here.clock()
    where = filed(category_subjects(here, blog), chosen, goes_out, blog.zone)
    path = path_of(blog.pattern, slug, where)
    if is_own_path(path):
        return Check(bad=f"{path} is kept for the site itself; choose another word.", choices=choices)
    owner = addresses.owner(here.db, blog.id, path)
    if owner in (None, ("post", post.id)) and not posts.is_slug_taken(here.db, blog.id, slug, post.id):
        return Check(good=f"{path} is free, {len(slug)} letters.", choices=choices)
    other = (
        posts.on_blog(here.db, blog.id, owner[1])
        if owner and owner[0] == "post"
        else posts.with_slug(here.db, blog.id, slug, post.id)
    )
    whose = f"“{other.title}”" if other and other.id != post.id else "something else on this blog"
    free, _ = free_path(here, blog, post.id, slug, where)
    return Check(bad=f"{path} belongs to {whose}; {free} is free.", choices=choices)


@router.get(to_write.docket_check.at("tags"))
def check_tags(here: Here, me: Me, post_id: int, value: str = "") -> Response:
    """Tags that double others, tags found as one types, and those proposed from the text."""
    post, blog = editable_post(here, me, post_id)
    try:
        names = list(read_tags(value))
    except BadInput as error:
        return page(Check(bad=str(error)))
    notes: list[str] = []
    choices: list[tuple[str, list[Choice]]] = []
    for double in tags.alike(here, blog, names)[:4]:
        choices.append(
            (
                f"“{double.one}” beside “{double.other}”: {REASONS[double.why]}. Use",
                [Choice(f"{double.one}\t{double.other}", double.other, hint="instead")],
            )
        )
    last = value.rpartition(",")[2].strip().lstrip("#").casefold()
    known = tags.known(here, blog)
    if last and last not in {name.casefold() for name in known}:
        found = [name for name in known if name.casefold().startswith(last)][:8]
        if found:
            choices.append(
                (
                    "In use:",
                    [
                        Choice(f"{value.rpartition(',')[2].strip()}\t{name}", name, hint="instead")
                        for name in found
                    ],
                )
            )
    made = [name for name in names if name.casefold() not in {one.casefold() for one in known}]
    if made:
        notes.append(f"New on this blog: {', '.join(made)}.")
    in_text, new = tags.proposals(here, post, blog)
    taken = {name.casefold() for name in names}
    for heading, proposed in (("In the text:", in_text), ("It is also about:", new)):
        left = [name for name in proposed if name.casefold() not in taken]
        choices += [(heading, [Choice(name, name) for name in left])] if left else []
    return page(Check(notes=notes, choices=choices))


@router.get(to_write.docket_check.at("category"))
def check_category(here: Here, me: Me, post_id: int, new: str = "") -> Response:
    """What filing under a typed path will make."""
    _, blog = editable_post(here, me, post_id)
    if not new.strip():
        return page(Check())
    try:
        made = categories.missing(here, blog, new)
    except BadInput as error:
        return page(Check(bad=str(error)))
    last = new.rpartition(">")[2].strip().casefold()
    subjects = category_subjects(here, blog)
    found = [
        number for number, subject in subjects.items() if last and subject.name.casefold().startswith(last)
    ][:8]
    paths = [path_in_words(subjects, number) for number in found]
    choices = (
        [("There are:", [Choice(path, path, hint="new-category") for path in paths])]
        if paths and made
        else []
    )
    if not made:
        return page(Check(good="This category is there already; the post is filed under it."))
    names = " and ".join(f"“{path}”" for path in made)
    return page(
        Check(
            good=f"{names} {'is' if len(made) == 1 else 'are'} made, and the post is filed there.",
            choices=choices,
        )
    )


@router.get(to_write.docket_check.at("when"))
def check_when(here: Here, me: Me, post_id: int, said: str = "", down: str = "") -> Response:
    """Which time is meant, what a clock change does to it, and what else goes out that day."""
    post, blog = editable_post(here, me, post_id)
    if not said.strip():
        return page(Check())
    now = here.clock()
    try:
        wall = read_when(said, now, blog.zone)
    except BadInput as error:
        return page(Check(bad=str(error)))
    instant = instant_of_wall(wall, blog.zone)
    notes = [clock_change(wall, blog.zone)]
    if not down:
        others = [row.title for row in _that_day(here, blog, wall[:10]) if row.id != post.id]
        notes.append(f"That day also: {', '.join(f'“{title}”' for title in others[:3])}." if others else "")
        notes.append(
            "That has passed: the post takes its place there in the lists, and goes out at once."
            if instant <= now
            else ""
        )
    return page(Check(good=in_words_of_time(instant, blog.zone, now), notes=[note for note in notes if note]))


def _that_day(here: Workshop, blog: Blog, day: str) -> list[OnDay]:
    """The posts that went out or go out on a day of the blog's zone."""
    return desk_store.out_days(here.db, blog.id, *day_of(day, blog.zone), here.clock())


@router.get(to_write.docket_check.at("where"))
def where(here: Here, me: Me, post_id: int, reader: str = "everyone") -> Response:
    """Where a reader finds a post, and why it is not elsewhere, each with its mend."""
    post, blog = editable_post(here, me, post_id)
    found = whereabouts(here, post, blog, preview_readers.reader_as(here, me, blog, reader, post))
    asked = [
        Choice(
            f"{to_write.docket_check(post_id, 'where')}?{urlencode({'reader': kind})}", words, kind == reader
        )
        for kind, words in preview_readers.choices(here, me, blog, post).items()
    ]
    return page(
        WherePart(
            asked,
            [
                (one.is_there, one.words, to_public.public(blog.slug, one.path) if one.path else "", one.mend)
                for one in found
            ],
        )
    )


@router.get(to_write.docket_check.at("month"))
def month(here: Here, me: Me, post_id: int, value: str = "", month: str = "") -> Response:
    """A month with what goes out on its days; the month of the chosen day, or this one."""
    post, blog = editable_post(here, me, post_id)
    now = here.clock()
    today = local(now, blog.zone).date()
    shown = next(
        (text for text in (month, value[:7]) if re.fullmatch(r"(?:19|20|21)\d\d-(?:0[1-9]|1[0-2])", text)),
        f"{today:%Y-%m}",
    )
    return page(months.month_page(here, blog, post, shown, value[:10], today))


@router.get(to_write.docket_check.at("search"))
def check_search(here: Here, me: Me, post_id: int, title: str = "", value: str = "") -> Response:
    """The sample of a search result, measured anew."""
    post, blog = editable_post(here, me, post_id)
    document = schema.load(posts.working_body(here.db, post.id))
    return page(search_sample(post, blog, document, " ".join(title.split()), " ".join(value.split())))


@router.get(to_write.docket_check.at("alike"))
def posts_alike(here: Here, me: Me, post_id: int) -> Response:
    """The posts like this one, with the reasons."""
    post, blog = editable_post(here, me, post_id)
    choice, found = alike.shown(here, post, blog)
    titles = posts.newest_titles(here.db, blog.id, post.id, MOST_TITLES)
    return page(AlikePart(post.id, choice.none, found, titles))


@router.get(to_write.docket_check.at("announce"))
def notices(here: Here, me: Me, post_id: int) -> Response:
    """How the post is, or would be, announced."""
    post, blog = editable_post(here, me, post_id)
    return page(notices_of(here, post, blog))


@router.get(to_write.docket_check.at("coast"))
def coast_map(
    here: Here,
    me: Me,
    post_id: int,
    value: str = "",
    lat: float = 0.0,
    lon: float = 0.0,
    degrees: float = 0.0,
) -> Response:
    """A piece of the coast around a point, or the whole earth."""
    editable_post(here, me, post_id)
    chosen = None
    try:
        chosen = geo.read_point(value) if value.strip() else None
    except BadInput:
        chosen = None
    middle = chosen if chosen and not degrees else (max(-90.0, min(90.0, lat)), (lon + 180) % 360 - 180)
    degrees = max(NEAREST, min(WIDEST, degrees or (12.0 if chosen else WIDEST)))
    window = geo.window_around(middle, degrees, MAP_WIDTH, MAP_HEIGHT)

    def to(words: str, north: float, east: float, factor: float) -> tuple[str, str]:
        step = degrees * 0.4
        query = {
            "value": value,
            "lat": round(middle[0] + north * step, 3),
            "lon": round(middle[1] + east * step, 3),
            "degrees": round(degrees * factor, 2),
        }
        return words, f"{to_write.docket_check(post_id, 'coast')}?{urlencode(query)}"

    moves = [
        to("Nearer", 0, 0, 0.4),
        to("Farther", 0, 0, 2.5),
        to("West", 0, -1, 1),
        to("East", 0, 1, 1),
        to("North", 1, 0, 1),
        to("South", -1, 0, 1),
    ]
    words = f"{round(middle[0], 3):g}, {round(middle[1], 3):g}"
    point = (
        window.place(*chosen)
        if chosen and window.south <= chosen[0] <= window.north and window.west <= chosen[1] <= window.east
        else None
    )
    return page(
        CoastMap(
            window.west, window.east, window.south, window.north, coast.coarse(window), point, moves, words
        )
    )


@router.get(to_write.docket_check.at("footprint"))
def footprint(here: Here, me: Me, post_id: int) -> Response:
    """The pages that the main action would change now."""
    post, blog = editable_post(here, me, post_id)
    if not can_place(here, post):
        return page(DocketFootprint(None))
    try:
        effect = footprints.effect_of_placing(here, me, blog, post_id, in_short=True)
    except Refused as error:
        return page(DocketFootprint(None, str(error)))
    later = max(effect.answer.waits_until, effect.answer.goes_out)
    when = time_in_words(later, blog.zone, here.clock()) if later > here.clock() else ""
    words = in_words(effect.pages, category_subjects(here, blog), post.id, effect.heads, effect.every)
    return page(
        DocketFootprint(
            words, when=when, readers=_who_gets_it(here, post, blog), full=to_write.footprint(post.id)
        )
    )


@router.get(to_write.docket_check.at("withdraw"))
def withdrawing(here: Here, me: Me, post_id: int) -> Response:
    """The pages that withdrawing the post would change now."""
    post, blog = editable_post(here, me, post_id)
    try:
        effect = footprints.effect_of(here, blog, lambda: placing.withdraw(here, me, post_id), in_short=True)
    except Refused as error:
        return page(DocketFootprint(None, str(error)))
    return page(
        DocketFootprint(
            in_words(effect.pages, category_subjects(here, blog), post.id, every=effect.every),
            when="when it is withdrawn",
        )
    )


def _who_gets_it(here: Workshop, post: Post, blog: Blog) -> str:
    """Who will get a post that is not for everyone."""
    if post.visibility == EVERYONE:
        return ""
    words = visibility_words(here, blog, post.visibility)
    if not post.visibility.startswith(GROUP):
        return f"It is for {words}; no letter goes out."
    letters = "each of them gets a letter" if is_written_to(here, post.visibility) else "no letter goes out"
    return f"It is for {words}; the group’s private feed has it, and {letters}."


@router.get(to_write.footprint.route)
def footprint_in_full(here: Here, me: Me, post_id: int) -> Response:
    """Every address that the main action would add, alter, remove or redirect."""
    post, blog = editable_post(here, me, post_id)
    try:
        effect = footprints.effect_of_placing(here, me, blog, post_id, in_short=True)
    except Refused as error:
        return page(
            FootprintPage(
                bar_for(here, me, blog, "write"), post.id, post.title or "No title yet", "", [], str(error)
            )
        )
    later = max(effect.answer.waits_until, effect.answer.goes_out)
    when = time_in_words(later, blog.zone, here.clock()) if later > here.clock() else "now"
    rows = [
        FootprintRow(one.what, one.path, one.leads_to or "", one.was, _standing(effect.heads, one.key))
        for one in effect.pages
    ]
    return page(
        FootprintPage(bar_for(here, me, blog, "write"), post.id, post.title or "No title yet", when, rows)
    )


def _standing(heads: Mapping[ListName, Head], key: PageKey) -> str:
    """Where the post comes to stand on a list's newest page, and which one leaves it."""
    head = heads.get(key.list_name) if key.kind == "list" and key.first_post == 0 else None
    return head_in_words(head) if head else ""


@router.get(to_write.share_card.route)
def card(here: Here, me: Me, post_id: int) -> Response:
    """The share card that is drawn for a post without a picture."""
    post, blog = editable_post(here, me, post_id)
    body = share_cards.draw(post.title or "No title yet", blog.name, looks.given(here, blog).light)
    return Response(body, media_type="image/png", headers={"cache-control": "private, no-cache"})
