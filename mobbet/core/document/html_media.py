"""What pictures, galleries, sound, video, embeds and files become in HTML. Functions take (node, inner HTML, Html).

A page that readers get has players and sizes; other HTML has what is needed to read the block back: settings
that HTML has no element for stand as JSON in `data-settings`.
"""

from __future__ import annotations

import json
from dataclasses import replace
from html import escape
from typing import Any

from mobbet.core import embeds
from mobbet.core.document.html import Html, Playing, Rendition, classes, typed
from mobbet.core.document.text import plain
from mobbet.core.media import places
from mobbet.core.media.captions import clock
from mobbet.core.media.rows import rows

Node = dict[str, Any]

PICTURE_SETTINGS = {
    "decoration": False,
    "size": "full",
    "place": "centre",
    "around": False,
    "frame": "plain",
    "space": "usual",
    "credit": "",
    "address": "",
}
"""The settings of a picture, with what holds when nothing is said."""
ROW_HEIGHT = 1000
SEPARATOR = "\x00"
"""Between the pictures of a gallery, which puts them into rows; no text can hold it."""


def picture(node: Node, inner: str, html: Html) -> str:
    """The first picture of a text loads at once, the others when they come near."""
    attrs = node["attrs"]
    size = attrs["size"]
    rendition = html.rendition(attrs["src"], places.sizes(size, html.share, html.is_stacked))
    alt = "" if attrs["decoration"] else escape(attrs["alt"])
    if html.is_page:
        return _page_picture(node, inner, html, rendition, alt)
    caption = f"<figcaption{classes(typed(node))}>{inner}</figcaption>" if inner else ""
    settings = {name: attrs[name] for name, usual in PICTURE_SETTINGS.items() if attrs[name] != usual}
    image = f'<img src="{escape(rendition.src if rendition else attrs["src"])}" alt="{escape(attrs["alt"])}"'
    if not settings and _is_title(node):
        title = f' title="{escape(plain(node))}"' if inner else ""
        return f"<p>{image}{title}></p>"
    return f'<figure class="picture"{_settings(settings)}>{image}>{caption}</figure>'


def _page_picture(node: Node, inner: str, html: Html, rendition: Rendition | None, alt: str) -> str:
    attrs = node["attrs"]
    credit = f'<span class="credit">{escape(attrs["credit"])}</span>' if attrs["credit"] else ""
    caption = (
        f"<figcaption{classes(typed(node))}>{inner}{' ' if inner and credit else ''}{credit}</figcaption>"
        if inner or credit
        else ""
    )
    if rendition is None:
        return f'<figure class="picture"><a href="{escape(attrs["src"])}">{alt or "Picture"}</a>{caption}</figure>'
    if html.is_row and rendition.width and rendition.height:
        rendition = replace(
            rendition, width=round(ROW_HEIGHT * rendition.width / rendition.height), height=ROW_HEIGHT
        )
    image = (
        _plain_picture(rendition, alt)
        if html.is_feed
        else picture_html(rendition, alt, "" if html.next_picture() else "high")
    )
    found = html.address(attrs["address"]) if attrs["address"] else None
    if found:
        rel = f' rel="{" ".join(found[1])}"' if found[1] else ""
        name = "" if alt else f' aria-label="{escape(plain(node).strip() or "Picture")}"'
        image = f'<a href="{escape(found[0])}"{rel}{name}>{image}</a>'
    names = [
        f"size-{attrs['size']}" if attrs["size"] != "full" else "",
        f"place-{attrs['place']}" if attrs["place"] != "centre" else "",
    ]
    names += [
        "around"
        if attrs["around"] and attrs["size"] in ("small", "half") and attrs["place"] != "centre"
        else ""
    ]
    names += [f"{kind}-{attrs[kind]}" for kind in ("frame", "space") if attrs[kind] != PICTURE_SETTINGS[kind]]
    return f"<figure{classes('picture', *names)}>{image}{caption}</figure>"


_PRIORITIES = {"high": 'fetchpriority="high"', "soon": "", "": 'loading="lazy" decoding="async"'}


def picture_html(rendition: Rendition, alt: str, priority: str = "") -> str:
    """A picture as a page shows it: in the best format the browser reads, over its colours until it has loaded.

    `priority` is 'high' for what readers see first, 'soon' for what they may see at once, '' for what can wait.
    """
    parts = [f'src="{escape(rendition.src)}"']
    if rendition.srcset:
        parts += [f'srcset="{escape(rendition.srcset)}"', f'sizes="{escape(rendition.sizes)}"']
    if rendition.width and rendition.height:
        parts += [f'width="{rendition.width}"', f'height="{rendition.height}"']
    parts += [f'alt="{alt}"', *([_PRIORITIES[priority]] if _PRIORITIES[priority] else [])]
    image = f"<img {' '.join(parts)}>"
    if rendition.sources:
        sizes = escape(rendition.sizes)
        sources = "".join(
            f'<source type="{type}" srcset="{escape(srcset)}" sizes="{sizes}">'
            for type, srcset in rendition.sources
        )
        image = f"<picture>{sources}{image}</picture>"
    return f'<span class="loading">{_stand_in(rendition)}{image}</span>' if rendition.tiny else image


def _plain_picture(rendition: Rendition, alt: str) -> str:
    """A picture for a feed, where one format must do."""
    size = f' width="{rendition.width}" height="{rendition.height}"' if rendition.width else ""
    return f'<img src="{escape(rendition.src)}"{size} alt="{alt}">'


def _in_feed(kind: str, node: Node, inner: str, poster: str, href: str, words: str) -> str:
    """What cannot play in a feed: a picture with a link."""
    image = f'<img src="{escape(poster)}" alt=""><br>' if poster else ""
    return _shell(kind, node, inner, f'<a href="{escape(href)}">{image}{escape(words)}</a>')


def _stand_in(rendition: Rendition) -> str:
    """The few colours of a picture, blurred, as a drawing: no style and no address is needed for it."""
    across = rendition.across
    down = max(1, len(rendition.tiny) // across)
    fields = "".join(
        f'<path fill="{colour}" d="M{at % across} {at // across}h1v1h-1z"/>'
        for at, colour in enumerate(rendition.tiny)
    )
    ground = (
        f'<path fill="{rendition.colour}" d="M-1-1h{across + 2}v{down + 2}h-{across + 2}z"/>'
        if rendition.colour
        else ""
    )
    return f'<svg class="tiny" viewBox="0 0 {across} {down}" preserveAspectRatio="none" aria-hidden="true" focusable="false">{ground}{fields}</svg>'


def _is_title(node: Node) -> bool:
    """Whether a caption can be told as the image's title: plain words, other than its alternative text."""
    content = node.get("content", ())
    is_words = len(content) == 1 and content[0]["type"] == "text" and "marks" not in content[0]
    return not content or (is_words and not typed(node) and plain(node) != node["attrs"]["alt"])


def _settings(settings: dict[str, Any]) -> str:
    return f' data-settings="{escape(json.dumps(settings, ensure_ascii=False))}"' if settings else ""


def gallery(node: Node, inner: str, html: Html) -> str:
    """Pictures in rows that keep their shapes, in a grid, or as slides that one moves sideways."""
    layout, figures = node["attrs"]["layout"], inner.split(SEPARATOR)
    if not html.is_page:
        body = "\n".join(figures)
        return f'<div class="gallery" data-layout="{layout}">\n{body}\n</div>'
    if layout == "rows":
        lines = "\n".join(
            f'<div class="row">{"".join(figures[at] for at in row)}</div>'
            for row in rows(_shapes(node, html))
        )
        return f'<div class="gallery rows">\n{lines}\n</div>'
    label = (
        f' tabindex="0" role="group" aria-label="{len(figures)} pictures, one beside the other"'
        if layout == "slides"
        else ""
    )
    return f'<div class="gallery {layout}"{label}>\n' + "\n".join(figures) + "\n</div>"


def _shapes(node: Node, html: Html) -> list[float]:
    found = (html.rendition(child["attrs"]["src"], "") for child in node["content"])
    return [one.width / one.height if one and one.width and one.height else 1.5 for one in found]


def gallery_shares(node: Node, html: Html) -> list[float]:
    """The share of its line that each picture of a gallery has."""
    layout, shapes = node["attrs"]["layout"], _shapes(node, html)
    if layout == "rows":
        whole = {at: sum(shapes[one] for one in row) for row in rows(shapes) for at in row}
        return [shape / whole[at] for at, shape in enumerate(shapes)]
    return [1 / 3 if layout == "grid" else 0.85] * len(shapes)


def _shell(kind: str, node: Node, inner: str, body: str, *names: str, data: str = "") -> str:
    caption = f"<figcaption{classes(typed(node))}>{inner}</figcaption>" if inner else ""
    return f"<figure{classes(kind, *names)}{data}>{body}{caption}</figure>"


def _kept(kind: str, node: Node, inner: str) -> str:
    """A block as it is read back."""
    attrs = node["attrs"]
    words = attrs["title"] or attrs.get("address") or kind.capitalize()
    return _shell(
        kind, node, inner, f"<span>{escape(words)}</span>", data=f' data-kind="{kind}"{_settings(attrs)}'
    )


def _link(playing: Playing, words: str) -> str:
    return f'<a href="{escape(playing.href)}">{escape(words)}</a>'


def _transcript(playing: Playing) -> str:
    if not playing.transcript:
        return ""
    blocks = "".join(
        f"<p>{escape(part.strip(), quote=False)}</p>"
        for part in playing.transcript.split("\n\n")
        if part.strip()
    )
    return f'<details class="transcript"><summary>Transcript</summary>{blocks}</details>'


def sound(node: Node, inner: str, html: Html) -> str:
    """A player with the browser's own controls, over the drawing of the sound; nothing loads before it is asked for."""
    playing = html.playing(node["attrs"]["src"]) if html.is_page else None
    if not html.is_page:
        return _kept("sound", node, inner)
    if playing is None:
        return ""
    name = node["attrs"]["title"] or playing.name
    if html.is_feed:
        return _in_feed("sound", node, inner, "", playing.href, f"Listen: {name} ({clock(playing.seconds)})")
    wave = (
        f'<img class="wave" src="{escape(playing.wave)}" width="480" height="80" alt="" loading="lazy">'
        if playing.wave
        else ""
    )
    player = f'<audio controls preload="none" src="{escape(playing.href)}" aria-label="{escape(name)}">{_link(playing, name)}</audio>'
    title = (
        f'<p class="played">{escape(name)} <span>{clock(playing.seconds)}</span></p>'
        if playing.seconds
        else ""
    )
    return _shell("sound", node, inner, title + wave + player + _transcript(playing), _size(node))


def video(node: Node, inner: str, html: Html) -> str:
    """A player with the browser's own controls; the poster shows first, nothing else loads before it is asked for."""
    if not html.is_page:
        return _kept("video", node, inner)
    playing = html.playing(node["attrs"]["src"])
    if playing is None:
        return ""
    name = node["attrs"]["title"] or playing.name
    if html.is_feed:
        return _in_feed(
            "video", node, inner, playing.poster, playing.href, f"Watch: {name} ({clock(playing.seconds)})"
        )
    poster = f' poster="{escape(playing.poster)}"' if playing.poster else ""
    track = (
        f'<track kind="captions" src="{escape(playing.captions)}" srclang="{html.language}" label="Captions" default>'
        if playing.captions
        else ""
    )
    size = f' width="{playing.width}" height="{playing.height}"' if playing.width else ""
    player = f'<video controls playsinline preload="none"{size}{poster} src="{escape(playing.href)}" aria-label="{escape(name)}">{track}{_link(playing, name)}</video>'
    return _shell("video", node, inner, player + _transcript(playing), _size(node))


def _size(node: Node) -> str:
    return "" if node["attrs"]["size"] == "full" else f"size-{node['attrs']['size']}"


def embed(node: Node, inner: str, html: Html) -> str:
    """A poster with a link to the provider's page; on a reader's click its frame takes the poster's place."""
    attrs = node["attrs"]
    if not html.is_page:
        return _kept("embed", node, inner)
    shown = embeds.shown_frame(attrs["address"], attrs["frame"], html.frame_hosts)
    name = attrs["title"] or attrs["address"]
    poster = (
        html.rendition(attrs["poster"], places.sizes(attrs["size"], html.share, html.is_stacked))
        if attrs["poster"]
        else None
    )
    if html.is_feed:
        return _in_feed("embed", node, inner, poster.src if poster else "", attrs["address"], f"Play: {name}")
    picture_of = picture_html(poster, "") if poster else ""
    provider = f" at {attrs['provider']}" if attrs["provider"] else ""
    frame = f' data-frame="{escape(shown)}" data-shape="{attrs["width"]} {attrs["height"]}"' if shown else ""
    body = f'<a class="facade" href="{escape(attrs["address"])}"{frame}>{picture_of}<span>Play “{escape(name)}”{escape(provider)}</span></a>'
    return _shell("embed", node, inner, body, _size(node))


def file(node: Node, inner: str, html: Html) -> str:
    """A file to download, with its kind and size."""
    attrs = node["attrs"]
    if not html.is_page:
        return (
            f'<p class="download" data-kind="file"{_settings(attrs)}>{escape(attrs["words"] or "File")}</p>'
        )
    playing = html.playing(attrs["src"])
    if playing is None:
        return ""
    told = f"{playing.name.rpartition('.')[2].upper()}, {size_words(playing.bytes)}"
    return f'<p class="download"><a href="{escape(playing.href)}" download="{escape(playing.name)}">{escape(attrs["words"] or playing.name)}</a> <span>{told}</span></p>'


def size_words(size: int) -> str:
    """A number of bytes as people say it: 12 kB, 3.4 MB."""
    if size < 1_000_000:
        return f"{max(1, round(size / 1000))} kB"
    return f"{size / 1_000_000:.1f} MB" if size < 100_000_000 else f"{size / 1_000_000:.0f} MB"
