"""The part of the docket that says how a post is shown: its lead, teaser, heading, front page, search results, place."""

from __future__ import annotations

import json
from typing import Any

from mobbet.actions import looks, menus
from mobbet.actions.appearance import FRONTS
from mobbet.actions.workshop import Workshop
from mobbet.core import geo, search_results
from mobbet.core.alike import read_choice
from mobbet.core.announcing import NONE as NO_NOTICE
from mobbet.core.document import leading, outline, schema
from mobbet.core.document.leading import CHOSEN, LOST, Lead, words_of
from mobbet.core.document.links import media_number
from mobbet.core.document.mentions import walk
from mobbet.core.document.text import plain
from mobbet.core.headings import NONE, PARTS, heading_in_words, shown_parts
from mobbet.core.look.own import read_own
from mobbet.core.menu import MENU, Entry, Target, places
from mobbet.core.numbers import ordinal, spelled
from mobbet.core.permalinks import short_path
from mobbet.core.sharing import NONE as NO_SHARING
from mobbet.publish.cards import WIDE_ENOUGH
from mobbet.store import media, posts
from mobbet.store.blogs import Blog
from mobbet.store.media import Media, Wanted
from mobbet.store.posts import Post
from mobbet.web.library import addresses as to_library
from mobbet.web.public import addresses as to_public
from mobbet.web.shell.contexts import Choice
from mobbet.web.write import addresses as to_write
from mobbet.web.write.contexts import Measure, SearchSample, Setting, ShownPart
from mobbet.web.write.docket_letter import announce_of, letter_of

MOST_BLOCKS = 30
MOST_PICTURES = 15
MOST_OFFERED = 60
"""So many pictures of the library are offered for the top of a post."""


def shown_of(workshop: Workshop, post: Post, blog: Blog) -> ShownPart:
    """Everything of it, computed from the working text."""
    document = schema.load(posts.working_body(workshop.db, post.id))
    rows = _pictures(workshop, post, document)
    now, picture = _lead(post, document, rows)
    sample = search_sample(post, blog, document, post.search_title, post.description)
    place = geo.read_kept(post.place)
    words = _teaser(post, document)
    menu, entry = _menu(workshop, post, blog)
    return ShownPart(
        lead=_lead_setting(post, now, rows),
        lead_why=_why(post, now),
        lead_at=now.at if now.at is not None else -1,
        blocks=_blocks(document, now if not post.lead_media else None),
        pictures=[Choice(str(row.id), row.caption or row.name, row.id == post.lead_media) for row in rows[:MOST_PICTURES]],
        teaser=Setting("excerpt", _teaser_words(post, document), "Change what lists show"),
        teaser_html=words,
        teaser_count=f"{len(words.split())} word{'s' if len(words.split()) != 1 else ''}",
        has_teaser_line=outline.has_teaser_line(document),
        read_on=blog.read_on,
        heading=Setting("heading", heading_in_words(post.heading), "Change the heading"),
        heading_parts=[Choice(part, about, part in shown_parts(post.heading) or post.heading == NONE) for part, about in PARTS.items()],
        has_heading=post.heading != NONE,
        **_own_look(workshop, post, blog),
        alike=_alike(post),
        sharing=_sharing(post, blog),
        is_shared=post.sharing != NO_SHARING,
        announce=announce_of(workshop, post, blog),
        is_announced=post.announce != NO_NOTICE,
        letter=letter_of(workshop, post, blog),
        front=Setting("front", FRONTS[post.front], "Change its place on the front page"),
        fronts=[Choice(value, about, value == post.front) for value, about in FRONTS.items()],
        menu=menu,
        menu_words=entry.words if entry else "",
        in_menu=entry is not None,
        search_title=Setting("description", "a title of its own" if post.search_title else "its title", "Change the title for search engines"),
        sample=sample,
        card=to_library.picture(picture.id, "share") if picture else to_write.share_card(post.id),
        card_alt="" if picture else f"Drawn card: {post.title}",
        place=Setting("place", place.name if place else "no place", "Change the place it is about"),
        place_name=place.name if place else "",
        place_point=f"{place.point[0]:g}, {place.point[1]:g}" if place and place.point else "",
        has_map=bool(place and place.has_map),
        short=to_public.public(blog.slug, short_path(post.id)),
        short_words=short_path(post.id).rstrip("/"),
    )  # fmt: skip


def _alike(post: Post) -> Setting | None:
    """Whether posts like it stand below it; None of a page, below which none do."""
    choice = read_choice(post.alike)
    words = "no posts like it" if choice.none else "posts like it"
    changed = [
        *([f"{spelled(len(choice.pinned))} put first"] if choice.pinned else []),
        *([f"{spelled(len(choice.struck))} struck out"] if choice.struck else []),
    ]
    more = f", {' and '.join(changed)}" if changed and not choice.none else ""
    return (
        None if post.is_page else Setting("alike", words + more, "Change which posts like it stand below it")
    )


def _sharing(post: Post, blog: Blog) -> Setting | None:
    """Whether readers find ways to share it below the post; None where the blog has none."""
    if post.is_page or (blog.sharing == "[]" and blog.share_links == "[]"):
        return None
    words = "no ways to share it" if post.sharing == NO_SHARING else "ways to share it"
    return Setting("sharing", words, "Change whether readers find ways to share it")


def _own_look(workshop: Workshop, post: Post, blog: Blog) -> dict[str, Any]:
    """How the post differs from the look of the site."""
    own, light = read_own(post.own_look), looks.given(workshop, blog).light
    chosen = [
        words
        for words, is_so in (
            ("a background", own.paper),
            ("an accent", own.accent),
            ("a picture on top", own.picture),
        )
        if is_so
    ]
    words = f"with {' and '.join(chosen)} of its own" if chosen else "like the site"
    rows = media.find(workshop.db, blog.id, Wanted(kind="picture"), MOST_OFFERED)
    return {
        "own_look": Setting("own-look", words, "Change how it looks"),
        "own_paper": own.paper,
        "own_accent": own.accent,
        "site_colours": (light.paper, light.accent),
        "own_pictures": [Choice(str(row.id), row.caption or row.name, row.id == own.picture) for row in rows],
    }


def _menu(workshop: Workshop, post: Post, blog: Blog) -> tuple[Setting, Entry | None]:
    """Where the menu leads to it, in words, and the entry that does."""
    label = "Change whether the menu leads to it"
    for place, entry in places(menus.present(workshop, blog), MENU):
        if entry.to == Target.of("post", post.id):
            words = (
                f"{ordinal(place[0] + 1)} in the menu"
                if len(place) == 1
                else "in the second level of the menu"
            )
            return Setting("menu", f"{words}, called “{entry.words or post.title}”", label), entry
    return Setting("menu", "not in the menu", label), None


def _pictures(workshop: Workshop, post: Post, document: dict[str, Any]) -> list[Media]:
    """The pictures a post may be shown by: those of its text first, then the newest of the library."""
    numbers = [*outline.items(document), *([post.lead_media] if post.lead_media else [])]
    numbers += [
        row.id for row in media.find(workshop.db, post.blog_id, Wanted(kind="picture"), MOST_PICTURES)
    ]
    rows = [media.on_blog(workshop.db, post.blog_id, number) for number in dict.fromkeys(numbers)]
    return [row for row in rows if row and row.kind in ("picture", "video")]


def _lead(post: Post, document: dict[str, Any], rows: list[Media]) -> tuple[Lead, Media | None]:
    """What leads the post now, and the picture that share cards show."""
    chosen = json.loads(post.lead)["digest"] if post.lead else ""
    now = leading.lead(
        document, chosen, lambda number: any(row.id == number and row.width >= WIDE_ENOUGH for row in rows)
    )
    number = post.lead_media or media_number(now.src)
    return now, next((row for row in rows if row.id == number), None)


def _lead_setting(post: Post, now: Lead, rows: list[Media]) -> Setting:
    if post.lead_media:
        row = next((row for row in rows if row.id == post.lead_media), None)
        words = f"picture “{(row.caption or row.name) if row else 'gone'}”"
    else:
        words = words_of(now.node) if now.node else "its words"
    words = f"the {words}" if words != "its words" else words
    return Setting("lead", words, "Change what leads it")


def _why(post: Post, now: Lead) -> str:
    if post.lead_media:
        return "a picture of the library, as you chose"
    if now.why == CHOSEN:
        return "as you chose, so the page opens with it"
    by_rule = {
        "picture": "the first picture, which stays where it is in the text",
        "video": "the first video, which stays where it is in the text",
        "text": "for it shows nothing else",
    }.get(now.form, "for it has no picture")
    return f"{by_rule}, because the block you chose is gone" if now.why == LOST else by_rule


def _blocks(document: dict[str, Any], now: Lead | None) -> list[Choice]:
    """The blocks of the text that can lead, each with its place."""
    found = [
        Choice(f"block:{at}", words_of(node), now is not None and now.why == CHOSEN and now.at == at)
        for at, node in enumerate(document["content"])
        if leading.can_lead(node)
    ]
    showing = [choice for choice in found if not choice.words.startswith("paragraph")]
    return (found if len(found) <= MOST_BLOCKS else showing)[:MOST_BLOCKS]


def _teaser(post: Post, document: dict[str, Any]) -> str:
    """What lists show, in words."""
    if post.excerpt and not outline.has_teaser_line(document):
        return post.excerpt
    return " ".join(" ".join(plain(block) for block in outline.teaser(document)).split())


def _teaser_words(post: Post, document: dict[str, Any]) -> str:
    if outline.has_teaser_line(document):
        return "what stands above the teaser line"
    return "an excerpt of your own" if post.excerpt else "the first paragraph"


def search_sample(
    post: Post, blog: Blog, document: dict[str, Any], title: str, description: str
) -> SearchSample:
    """How a post stands in search results with this title and description, measured; and what was left empty, computed."""
    usual = search_results.usual_title(post.title or "No title yet", blog.label, blog.name)
    paragraphs = [plain(node) for node in walk(document) if node["type"] == "paragraph"]
    proposed = search_results.proposed_description(paragraphs)
    shown_title = search_results.title(title or usual)
    shown = search_results.description(
        description or post.excerpt or outline.teaser_text(document) or post.title
    )
    return SearchSample(
        title=Measure(shown_title.shown, shown_title.pixels, shown_title.most, _measured(shown_title, "title")),
        description=Measure(shown.shown, shown.pixels, shown.most, _measured(shown, "description")),
        address=blog.home.split("://", 1)[-1].rstrip("/"),
        usual_title=usual,
        proposed=proposed if proposed != description else "",
        own_title=title,
        own_description=description,
    )  # fmt: skip


LAST_WORDS = 40
"""In letters: so much is named of what is left of a text that results cut."""


def _measured(measured: search_results.Measured, what: str) -> str:
    if not measured.is_cut:
        return f"The {what} fits."
    return f"The {what} is cut after “{measured.shown.rstrip(' …')[-LAST_WORDS:].partition(' ')[2] or measured.shown.rstrip(' …')}”."
