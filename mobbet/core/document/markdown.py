"""What each node and mark becomes in CommonMark. Blocks take (node, written parts)."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from mobbet.core.document.text import plain

Node = dict[str, Any]

_SPECIAL = re.compile(r"([\\`*_\[\]<>~])")
_ENTITY = re.compile(r"&(?=#?\w+;)")
_LINE_START = re.compile(r"^(\s*)([#>+=-]|\d{1,9}(?=[.)]))", re.MULTILINE)


def escape_text(text: str) -> str:
    """Text in which nothing reads as a sign of Markdown any more."""
    return _ENTITY.sub("&amp;", _SPECIAL.sub(r"\\\1", text))


def inline(node: Node, parts: list[str]) -> str:
    return "".join(parts)


def paragraph(node: Node, parts: list[str]) -> str:
    return _protect("".join(parts))


def heading(node: Node, parts: list[str]) -> str:
    words = "".join(parts).replace("\\\n", " ")
    return f"{'#' * node['attrs']['level']} {re.sub(r'(#+)$', lambda m: chr(92) + m.group(1), words)}".rstrip()


def blocks(node: Node, parts: list[str]) -> str:
    return "\n\n".join(parts)


def quote(node: Node, parts: list[str]) -> str:
    return re.sub(r"^", "> ", blocks(node, parts), flags=re.MULTILINE).replace("> \n", ">\n")


def bullet_list(node: Node, parts: list[str]) -> str:
    return _join_items(node, [_hang("- ", part) for part in parts])


def ordered_list(node: Node, parts: list[str]) -> str:
    start = node["attrs"]["start"]
    return _join_items(node, [_hang(f"{start + index}. ", part) for index, part in enumerate(parts)])


def code_block(node: Node, parts: list[str]) -> str:
    text = "".join(child["text"] for child in node.get("content", ()))
    longest = max((len(run) for run in re.findall(r"`+", text)), default=0)
    fence = "`" * max(3, longest + 1)
    return f"{fence}{node['attrs']['language']}\n{text}\n{fence}"


def divider(node: Node, parts: list[str]) -> str:
    return "---"


def line_break(node: Node, parts: list[str]) -> str:
    return "\\\n"


def picture(node: Node, parts: list[str]) -> str:
    """The caption is the image's title, as plain words."""
    attrs, caption = node["attrs"], plain(node)
    title = f' "{_title(caption)}"' if caption else ""
    return f"![{escape_text(attrs['alt'])}]({_address(attrs['src'])}{title})"


def delimited(sign: str, tag: str) -> Callable[[dict, str, str, str], str]:
    """A mark written with a sign on both sides; with HTML tags where CommonMark would not see the sign.

    The function takes (attrs, inner, the character before, the character after). A sign is sure to
    be read when letters or digits stand inside it and none outside.
    """

    def write(attrs: dict, inner: str, before: str, after: str) -> str:
        sure = (
            inner[:1].isalnum() and inner[-1:].isalnum()
            and not before.isalnum() and not after.isalnum()
        )  # fmt: skip
        return f"{sign}{inner}{sign}" if sure else f"<{tag}>{inner}</{tag}>"

    return write


def tagged(tag: str) -> Callable[[dict, str, str, str], str]:
    """A mark for which CommonMark has no sign, written with its HTML tags."""
    return lambda attrs, inner, before, after: f"<{tag}>{inner}</{tag}>"


def code(attrs: dict, inner: str, before: str, after: str) -> str:
    """`inner` is the text as it is, not escaped."""
    longest = max((len(run) for run in re.findall(r"`+", inner)), default=0)
    fence = "`" * (longest + 1)
    pad = " " if inner.startswith("`") or inner.endswith("`") or (inner[:1] == inner[-1:] == " " and inner.strip()) else ""
    return f"{fence}{pad}{inner}{pad}{fence}"


def link(attrs: dict, inner: str, before: str, after: str) -> str:
    return f"[{inner}]({_address(attrs['href'])})"


def _address(address: str) -> str:
    if re.search(r"[\s()<>\\]", address):
        return "<" + re.sub(r"([<>\\])", r"\\\1", address) + ">"
    return address


def _title(words: str) -> str:
    return re.sub(r'(["\\])', r"\\\1", words)


def _hang(sign: str, part: str) -> str:
    return sign + re.sub(r"\n(?=[^\n])", "\n" + " " * len(sign), part)


def _join_items(node: Node, items: list[str]) -> str:
    loose = any(len(item["content"]) > 1 and item["content"][1]["type"] == "paragraph" for item in node["content"])
    return ("\n\n" if loose else "\n").join(items)


def _protect(text: str) -> str:
    """Keeps signs at the start of a line, and spaces at the edges, from being read as structure."""
    text = _LINE_START.sub(lambda m: m.group(1) + (m.group(2) + "\\" if m.group(2)[0].isdigit() else "\\" + m.group(2)), text)
    text = re.sub(r"^ ", "&#32;", text, flags=re.MULTILINE)
    return re.sub(r" $", "&#32;", text, flags=re.MULTILINE)
