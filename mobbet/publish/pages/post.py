"""The page of a post."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from markupsafe import Markup

from mobbet.core import comments as comment_rules
from mobbet.core import geo, sharing
from mobbet.core.docket import own_pictures
from mobbet.core.document.html_media import PICTURE_SETTINGS, picture_html
from mobbet.core.document.mentions import linked_posts, walk
from mobbet.core.document.review import structured
from mobbet.core.document.text import plain
from mobbet.core.document.write import to_html
from mobbet.core.facts import Comment, OutPost
from mobbet.core.keys import ALL, PageKey
from mobbet.core.numbers import counted
from mobbet.core.pages import DEEPEST
from mobbet.core.permalinks import number_of_code
from mobbet.core.promo_places import reach_of
from mobbet.core.search_results import usual_title
from mobbet.core.values import existing
from mobbet.publish import coast, house_parts
from mobbet.publish.changes.change_set import ChangeSet, State, is_named_alike, is_rewritten
from mobbet.publish.fragments import link_from
from mobbet.publish.lists import data
from mobbet.publish.look_style import has_own_colours, own_path
from mobbet.publish.page_kind import FootprintGroup, PageKind
from mobbet.publish.pictures import rendition
from mobbet.publish.plan import Plan
from mobbet.publish.rendered import Rendered
from mobbet.publish.renderer import Renderer, author_of, parted
from mobbet.publish.templating import written
from mobbet.publish.values import Page, PostPage, SeriesBox, Step

MOST_COMMENTS = 50
"""So many comments stand below a post, with their answers; further ones on numbered pages."""


def key(post_id: int) -> PageKey:
    return PageKey.of("post", post_id)


def page(plan: Plan, key: PageKey) -> Page | None:
    post = plan.snapshot.post(key.number)
    return page_of(plan, post, lambda: plan.snapshot.body(post)) if post else None


def page_of(plan: Plan, post: OutPost, body: Callable[[], dict[str, Any]]) -> Page:
    """The page of a post that is out, or that stands as if it were; `body` reads its text."""
    card, snapshot = plan.cards.of(post), plan.snapshot
    older = newer = None
    steps, tags = plan.filed(post)
    below: tuple[Step, ...] = ()
    author, portrait = plan.author_of(post)
    if post.is_page:
        steps = _above(plan, post)
        below = tuple(Step(one.title, one.path) for one in snapshot.pages_below(post.id))
    if plan.lists_of(post):  # any other has no neighbours
        older = _neighbour(snapshot.older(post.goes_out, post.id))
        newer = _neighbour(snapshot.newer(post.goes_out, post.id))
    links, series = plan.cards.links(post), _series(plan, post)
    comments = tuple(snapshot.comments(post.id))
    may_comment = comment_rules.may_comment(snapshot.house.comments, post.takes_comments, True)
    promos = plan.promos_of(post)
    shows_alike = snapshot.house.names_alike and not post.is_page
    alike = tuple(Step(one.title, one.path) for one in snapshot.alike(post)) if shows_alike else ()
    top = next((snapshot.item(number) for number in own_pictures(post.own_look)), None)
    context = PostPage(
        card,
        body,
        steps,
        tags,
        older,
        newer,
        links,
        series,
        comments[:MOST_COMMENTS],
        may_comment,
        below,
        author,
        portrait,
        promos,
        post.sharing != sharing.NONE,
        alike,
        snapshot.home_address(post),
        own_path(post.id) if has_own_colours(post.own_look) else "",
        top if top and top.kind == "picture" and top.of("whole") else None,
        len(comments),
    )
    reads: list[Any] = [
        card.digest,
        data(steps),
        data(tags),
        data([older]),
        data([newer]),
        sorted(links.items()),
    ]
    reads.append([series.name, series.number, data(series.parts)] if series else None)
    reads.append(data(below))
    reads.append(plan.author_shown(post))
    reads.append([block.reads for block in promos])
    reads.append([data(alike), post.sharing])
    reads.append(context.home_address)
    reads.append([context.own_style, context.top and [context.top.id, context.top.version]])
    reads.append([may_comment, len(comments), [_comment_data(one) for one in context.comments]])
    return Page(key(post.id), post.path, "post", reads, context, post.audience)


def _above(plan: Plan, page: OutPost) -> tuple[Step, ...]:
    """The pages that a page stands below, of those that are out for the reader, from the top."""
    steps: list[Step] = []
    for _ in range(DEEPEST):
        above = plan.snapshot.post(page.below) if page.below is not None else None
        if above is None or not above.is_page:
            break
        if plan.may_read(above.audience):
            steps.append(Step(above.title, above.path))
        page = above
    return tuple(reversed(steps))


def _series(plan: Plan, post: OutPost) -> SeriesBox | None:
    """The series of a post; None while it is the only part that is out."""
    if post.series_id is None or not plan.may_read(post.audience):
        return None
    parts = plan.snapshot.series_parts(post.series_id)
    if all(part.id != post.id for part in parts):
        parts = sorted([*parts, post], key=lambda part: (part.series_position, part.goes_out, part.id))
    if len(parts) < 2:
        return None
    number = next(at for at, part in enumerate(parts, 1) if part.id == post.id)
    steps = tuple(Step(part.title, part.path) for part in parts)
    return SeriesBox(plan.snapshot.series_name(post.series_id), number, steps)


def _neighbour(post: OutPost | None) -> Step | None:
    return Step(post.title, post.path) if post else None


def _comment_data(comment: Comment) -> list[Any]:
    answers = [_comment_data(one) for one in comment.answers]
    return [
        comment.id, comment.name, comment.text, comment.made_at, comment.is_ours, comment.address, comment.source, answers,
    ]  # fmt: skip


def _touched(changed: ChangeSet) -> Iterator[PageKey]:
    """The posts' own pages, and those that show something of them beside their own text."""
    snapshot = changed.plan.snapshot
    yield from map(key, changed.posts)
    yield from (key(fact.number) for fact in changed.facts_of("comments"))
    if snapshot.house.promos and _alters_blocks(changed):
        yield from map(key, snapshot.posts_in_reach(reach_of(snapshot.house.promos)))
    yield from (key(fact.number) for fact in changed.facts_of("alike"))
    if snapshot.house.names_alike:
        for post_id in changed.renamed_posts:
            yield from map(key, snapshot.showing_alike(post_id))
    for post_id in changed.moved_posts:
        yield from map(key, snapshot.linking_to(post_id))
    for post_id, state in changed.states:
        if state.get("series"):
            yield from (key(part.id) for part in snapshot.series_parts(state["series"][0]))
        if state.get("kind"):
            yield from _of_family(changed, post_id, state)
        if ALL in state["lists"] and not is_named_alike(*changed.posts[post_id]):
            beside = (snapshot.older(state["goes_out"], post_id), snapshot.newer(state["goes_out"], post_id))
            yield from (key(post.id) for post in beside if post)


def _alters_blocks(changed: ChangeSet) -> bool:
    """Whether a block below posts has other words, or leads to a post that moved."""
    snapshot, moved = changed.plan.snapshot, set(changed.moved_posts)
    numbers = {rule.block for rule in snapshot.house.promos}
    if any(fact.number in numbers for fact in changed.facts_of("kept")):
        return True
    blocks = map(snapshot.saved_block, numbers) if moved else ()
    return any(block and not moved.isdisjoint(linked_posts(block.document)) for block in blocks)


def _of_family(changed: ChangeSet, post_id: int, state: State) -> Iterator[PageKey]:
    """The page that lists a page below itself, and those whose trail names it."""
    if state["below"] is not None:
        yield key(state["below"])
    waiting = [post_id]
    for _ in range(DEEPEST):
        waiting = [number for one in waiting for number in changed.plan.snapshot.numbers_below(one)]
        yield from map(key, waiting)


def _certain(changed: ChangeSet) -> Iterator[tuple[PageKey, str]]:
    for post_id, (before, now) in changed.posts.items():
        if now and is_rewritten(before, now):
            yield key(post_id), now["path"]


def _at(plan: Plan, path: str) -> PageKey | None:
    """A post that is out, by any address it has had, or by its short one."""
    if path == "/":
        door = plan.snapshot.house.front_door
        return key(door) if door else None
    if path.startswith("/~"):
        number = number_of_code(path.strip("/~"))
        return key(number) if number else None
    home = plan.snapshot.address_owner(path)
    return key(home.number) if home and home.kind == "post" and plan.snapshot.post(home.number) else None


def _render(renderer: Renderer, page: Page) -> Rendered:
    text = _text(renderer, page.context, renderer.root_from(page))
    html = {name: Markup(text[name]) for name in ("about", "opening", "text")}
    link = link_from(renderer.root_from(page), renderer.house.server)
    return renderer.template(
        page,
        **html,
        title=text["title"],
        has_media=text["has_media"] or any(block.has_media for block in page.context.promos),
        block=lambda shown: renderer.block(shown, link),
        top_picture=lambda item: Markup(
            picture_html(existing(rendition(item, "100vw", link, "lead")), "", "high")
        ),
        picture=lambda item, sizes: Markup(picture_html(existing(rendition(item, sizes, link)), "", "")),
    )


def _text(renderer: Renderer, context: PostPage, root: str) -> dict[str, Any]:
    """What of a page follows from its post alone: its text, and what its head says about it. Taken from the cache, if there is one."""
    if renderer.memo is None:
        return _written(renderer, context, root)
    card, house = context.card, renderer.house
    facts = [
        card.digest,
        sorted(context.links.items()),
        root,
        house.link_rules,
        house.language,
        house.name,
        house.home,
        house.label,
        list(house.frame_hosts),
        house.licence,
        house.made_by,
        context.home_address,
        house.server,
        house.takes_subscribers,
        house.takes_mentions,
    ]
    author, portrait = context.author, context.portrait
    by: list[Any] = [author and [author.path, author.line], portrait and [portrait.id, portrait.version]]
    facts += by
    facts += [[list(step) for step in steps] for steps in (context.trail, context.tags)]
    return renderer.memo.worked(
        "page", card.id, facts, renderer.items, lambda: _written(renderer, context, root)
    )


def _written(renderer: Renderer, context: PostPage, root: str) -> dict[str, Any]:
    document, card, link = context.body(), context.card, link_from(root, renderer.house.server)
    html = renderer.html_of(card, context.links, link)
    first, rest = parted(card, document)
    leading, body = to_html(first, html) if first else "", to_html(rest, html)
    nodes = list(walk(document))
    place = geo.read_kept(card.place)
    small_map = coast.small_map(place) if place and place.has_map and place.point else ""
    parts: dict[str, dict[str, Any]] = {
        "about": {
            "reviews": [
                structured(node["attrs"], author_of(card)) for node in nodes if node["type"] == "review"
            ],
            "videos": [
                about
                for node in nodes
                if node["type"] == "video" and (about := renderer.video(node["attrs"], plain(node), card))
            ],
            "has_frames": any(' data-frame="' in part for part in (leading, body)),
        },
        "opening": {"leading": Markup(leading), "has_own_title": any(map(_is_title, walk(rest)))},
        "text": {"body": Markup(body), "small_map": Markup(small_map)},
    }
    values = {**renderer.helpers, "page": context, "to": link}
    house = renderer.house
    return {
        "title": card.search_title or usual_title(card.title, house.label, house.name),
        "has_media": any(map(_is_media, nodes)),
        **{name: written(name, {**values, **more}) for name, more in parts.items()},
    }


def _is_title(node: dict[str, Any]) -> bool:
    return bool(node["type"] == "heading" and node["attrs"]["level"] == 1)


def _is_media(node: dict[str, Any]) -> bool:
    """Whether a block is more than a plain picture, which a style sheet of its own is for."""
    kind = node["type"]
    if kind == "picture":
        return any(node["attrs"][name] != usual for name, usual in PICTURE_SETTINGS.items())
    return kind in ("gallery", "sound", "video", "embed", "file", "subscribe", "ask")


KIND = PageKind(
    name="post",
    page=page,
    recipes={"post": _render},
    keys_of_post=lambda plan, post_id: (key(post_id),),
    touched=_touched,
    certain=_certain,
    at=_at,
    groups=(
        FootprintGroup(lambda key, post_id: key.number == post_id, lambda pages, names: "this post’s page"),
        FootprintGroup(
            lambda key, post_id: True, lambda pages, names: counted(len(pages), "other post", "posts")
        ),
    ),
    is_of_post=True,
    shows_of_house=house_parts.POSTS,
    differs_by_reader=True,
)
