"""Documents made by chance: every node and mark of the table, nested as far as it allows."""

from __future__ import annotations

from random import Random
from typing import Any

from mobbet.core.document import schema
from mobbet.core.document.composed import SUBSCRIBE_TO
from mobbet.core.document.nodes import MARKS, NODE, NODES, NUMBERS, SHARES, SIGNS_OF_LISTS
from mobbet.core.document.palette import NAMES
from mobbet.core.document.signs import SIGNS
from mobbet.core.media.places import FRAMES, LAYOUTS, PLACES, SIZES, SPACES

WORDS = (
    "lamp", "flex", "Fuse", "d’une", "日本", "*", "_", "**bold**", "`tick`", "<b>", "&amp;", "&", "~~", "[x](y)", "![a](b)", "#", "1.", "- ",
    "+", "> ", "\\", "|", "\u00a0", "  ", " ", "\t", "~~~", "```", "---", "===", "http://a.example/?q=1&b=2", "•", "a)", "{title}", "\u2028", "\ufeff",
    "é", "\u200b", "😀", "<!--", "-->", "</p>", "''", '"', "mobbet:html", "&#32;", "*a", "b*", "_c_", "1) ", "x", "y z", "\x85", "\u3000", ":", "!",
)  # fmt: skip
ADDRESSES = (
    "https://a.example/", "mailto:a@b.example", "/lamps/a b", "#part", "post:12", "tel:+351", "https://x.example/url?q=https://y.example/&a=b",
    "https://a.example/(x)\"'<>\\", "b*c_d", "https://ä.example/ü?%20&amp;",
)  # fmt: skip
RAW = (
    "<div>free</div>",
    "",
    '<p class="x">a &amp; b</p>\n\n<ul><li>c</li></ul>',
    "~~~\nwords",
    "  <b>edge</b>  ",
)


class Maker:
    """Makes documents of one seed; `size` is about how many blocks stand side by side."""

    def __init__(self, seed: int, size: int = 4, depth: int = 6) -> None:
        self.random = Random(seed)
        self.size = size
        self.depth = depth

    def document(self) -> dict[str, Any]:
        names = [*BLOCKS, "teaserLine"]
        return schema.check(
            {
                "type": "doc",
                "content": [self.block(1, names) for _ in range(self.random.randint(1, self.size))],
            }
        )

    def words(self, most: int = 6, glue: str | None = None) -> str:
        glue = self.random.choice(("", " ", " ")) if glue is None else glue
        return glue.join(self.random.choice(WORDS) for _ in range(self.random.randint(0, most)))

    def inline(self) -> list[dict[str, Any]]:
        return [self.leaf() for _ in range(self.random.randint(0, 5))]

    def leaf(self) -> dict[str, Any]:
        chance = self.random.random()
        if chance < 0.15:
            return {"type": "lineBreak"}
        marks = [self.mark(row.name) for row in MARKS if self.random.random() < 0.12]
        if chance < 0.25:
            return {
                "type": "fillIn",
                "attrs": {"name": self.random.choice(("title", "next-session"))},
                "marks": marks,
            }
        return {"type": "text", "text": self.words() or "x", "marks": marks}

    def mark(self, name: str) -> dict[str, Any]:
        choose = self.random.choice
        attrs = {
            "link": {
                "href": choose(ADDRESSES),
                "title": choose(("", 'A title “&”" \\')),
                "window": choose(("here", "new")),
                "paid": choose((True, False)),
            },
            "size": {"step": choose((-2, -1, 1, 2, 3))},
            "tint": {"tint": choose(NAMES)},
            "marker": {"marker": choose(NAMES)},
            "language": {"language": choose(("de", "pt-BR", "zh-Hant"))},
        }
        return {"type": name, "attrs": attrs[name]} if name in attrs else {"type": name}

    def block(self, depth: int, names: list[str] | None = None) -> dict[str, Any]:
        choices = names or BLOCKS
        if depth >= self.depth:
            choices = [
                name
                for name in choices
                if not NODE[name].content.endswith("+") and " " not in NODE[name].content
            ]
        return self.node(self.random.choice(choices), depth)

    def node(self, name: str, depth: int) -> dict[str, Any]:
        node: dict[str, Any] = {"type": name, "attrs": self.attrs(name)}
        content = NODE[name].content
        if content == "inline*":
            node["content"] = self.inline()
        elif content == "text*":
            node["content"] = [
                {"type": "text", "text": "\n".join(self.words() for _ in range(self.random.randint(1, 4)))}
            ]
        elif content == "listItem+":
            node["content"] = [self.item(depth + 1) for _ in range(self.random.randint(1, 3))]
        elif content == "tableRow+":
            node["content"] = [self.row(depth + 1) for _ in range(self.random.randint(1, 3))]
        elif content == "picture+":
            node["content"] = [self.node("picture", depth + 1) for _ in range(self.random.randint(1, 3))]
        elif content == "side side":
            node["content"] = [{"type": "side", "content": [self.block(depth + 2)]} for _ in range(2)]
        elif content:
            node["content"] = [self.block(depth + 1) for _ in range(self.random.randint(1, 3))]
        return node

    def item(self, depth: int) -> dict[str, Any]:
        more = (
            []
            if depth >= self.depth
            else [self.block(depth + 1) for _ in range(self.random.choice((0, 0, 1, 2)))]
        )
        return {"type": "listItem", "content": [self.node("paragraph", depth), *more]}

    def row(self, depth: int) -> dict[str, Any]:
        names = self.random.choice((["tableHeader"], ["tableCell"], ["tableHeader", "tableCell"]))
        cells = [self.node(self.random.choice(names), depth + 1) for _ in range(self.random.randint(0, 3))]
        return {"type": "tableRow", "content": cells}

    def attrs(self, name: str) -> dict[str, Any]:
        choose = self.random.choice
        align = {"align": choose(("start", "start", "start", "centre", "end"))}
        made: dict[str, dict[str, Any]] = {
            "paragraph": align,
            "heading": {"level": choose((1, 2, 3, 4, 5, 6)), "anchor": choose(("", "", "a-part", "x"))},
            "bulletList": {"sign": choose(("disc", *SIGNS_OF_LISTS)), "loose": choose((True, False))},
            "orderedList": {"start": choose((1, 1, 7, 0, 999_999_999)), "numbers": choose(("decimal", *NUMBERS)), "loose": choose((True, False))},
            "quote": {"source": choose(("", self.words())), "address": choose(("", *ADDRESSES))},
            "codeBlock": {"language": choose(("", "python", "c++", "föö;"))},
            "picture": {
                "src": choose(("media:3", "https://a.example/x y.png", "a.png")), "alt": self.words(), "decoration": choose((False, False, True)),
                "size": choose(("full", *SIZES)), "place": choose(("centre", *PLACES)), "around": choose((False, False, True)), "frame": choose(("plain", *FRAMES)),
                "space": choose(("usual", *SPACES)), "credit": choose(("", self.words())), "address": choose(("", "", *ADDRESSES)),
            },
            "gallery": {"layout": choose(LAYOUTS)},
            "sound": {"src": "media:4", "title": self.words(), "size": choose(("small", "full"))},
            "video": {"src": "media:5", "title": self.words(), "size": choose(("small", "full", "wide"))},
            "embed": {
                "address": choose(("https://reel.example/watch/a-b", *ADDRESSES)), "title": self.words(), "width": 640, "height": choose((360, 480)),
                "poster": choose(("", "media:6")), "size": choose(("small", "full", "wide")), "frame": choose(("", "https://reel.example/frame/a-b")),
                "provider": self.words(),
            },
            "file": {"src": "media:7", "words": self.words()},
            "table": {"caption": choose(("", self.words()))},
            "tableCell": {**align, "colspan": choose((1, 1, 1, 2)), "rowspan": choose((1, 1, 1, 2))},
            "callout": {"sign": choose(tuple(SIGNS)), "tint": choose(NAMES), "title": self.words()},
            "button": {"words": self.words(), "address": choose(("", *ADDRESSES)), "weight": choose(("strong", "quiet"))},
            "ask": {
                "key": choose(("", "a1b2")), "kind": choose(("form", "poll")), "title": self.words(), "questions": [["choice", self.words(), ["Yes <b>", "No"], choose((True, False))]],
                "told": self.words(), "outcome": choose(("voted", "never")), "closes": choose(("", "2026-12-24")),
            },
            "subscribe": {"words": self.words(), "what": choose(SUBSCRIBE_TO)},
            "beside": {"share": choose(SHARES)},
            "contents": {"depth": choose((2, 3, 4, 5, 6))},
            "review": {
                "name": self.words(), "criteria": [["Grip <b>", choose((0, 7.5, 10)), choose((1, 3))]] * choose((0, 1, 2)),
                "points_for": [self.words() or "x"], "points_against": [], "verdict": self.words(), "kind": choose(("", "book")),
            },
            "rawHtml": {"html": choose(RAW)},
            "standing": {"copy": choose((1, 42))},
        }  # fmt: skip
        made["tableHeader"] = made["tableCell"]
        return made.get(name, {})


BLOCKS = [row.name for row in NODES if row.group == "block"]
