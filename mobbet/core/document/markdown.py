"""What each node and mark becomes in CommonMark. Blocks take (node, written parts).

A function answers None where CommonMark has no sign for what the node holds; a mark that answers None
is written as the HTML of the mark.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from mobbet.core.document.text import plain

Node = dict[str, Any]

_SPECIAL = re.compile(r"([\\`*_\[\]<>~])")
_ENTITY = re.compile(r"&(?=#?\w+;)")
_LINE_START = re.compile(r"^(\s*)([#>+=-]|\d{1,9}(?=[.)]))", re.MULTILINE)
_ODD_SPACE = re.compile(r"[^\S \n]|\ufeff|(?<= ) ")


def escape_text(text: str) -> str:
    """Text in which nothing reads as a sign of Markdown any more."""
    escaped = _ENTITY.sub("&amp;", _SPECIAL.sub(r"\\\1", text))
    return _ODD_SPACE.sub(lambda match: f"&#{ord(match.group())};", escaped)


def inline(node: Node, parts: list[str]) -> str:
    return "".join(parts)


def paragraph(node: Node, parts: list[str]) -> str | None:
    """An empty paragraph, which CommonMark has no sign for, is `<p></p>`."""
    if node["attrs"]["align"] != "start":
        return None
    return _protect("".join(parts)) or "<p></p>"


def heading(node: Node, parts: list[str]) -> str:
    """A fixed anchor stands after the words, as an empty `<a id>`."""
    words = "".join(parts).replace("\\\n", "<br>")
    anchor = f' <a id="{node["attrs"]["anchor"]}"></a>' if node["attrs"]["anchor"] else ""
    bare = words.rstrip("#")
    return (
        f"{'#' * node['attrs']['level']} {bare}{chr(92) if bare != words else ''}{words[len(bare) :]}".rstrip()
        + anchor
    )


def blocks(node: Node, parts: list[str]) -> str:
    """Blocks parted by blank lines; two lists of one kind in a row are kept apart by an empty comment."""
    return "\n\n".join(_parted(node, parts))


def item(node: Node, parts: list[str]) -> str:
    """An item's blocks, parted by a control sign that the list replaces by one or two line breaks."""
    return "\x01".join(_parted(node, parts))


def _parted(node: Node, parts: list[str]) -> list[str]:
    written: list[str] = []
    before = ""
    for child, part in zip(node["content"], parts, strict=True):
        kind = child["type"]
        if kind == before and kind in ("bulletList", "orderedList"):
            written.append("<!-- -->")
        written.append(part)
        before = kind
    return written


def quote(node: Node, parts: list[str]) -> str | None:
    if node["attrs"]["source"] or node["attrs"]["address"]:
        return None
    return re.sub(r"^", "> ", blocks(node, parts), flags=re.MULTILINE).replace("> \n", ">\n")


def bullet_list(node: Node, parts: list[str]) -> str | None:
    if node["attrs"]["sign"] != "disc":
        return None
    return _join_items(
        node,
        [_hang("- ", _item(node, item, part)) for item, part in zip(node["content"], parts, strict=True)],
    )


def ordered_list(node: Node, parts: list[str]) -> str | None:
    start = node["attrs"]["start"]
    if node["attrs"]["numbers"] != "decimal" or start + len(parts) > 1_000_000_000:
        return None
    items = zip(node["content"], parts, strict=True)
    return _join_items(
        node,
        [_hang(f"{start + index}. ", _item(node, item, part)) for index, (item, part) in enumerate(items)],
    )


def fenced(node: Node, parts: list[str]) -> None:
    """For kinds that CommonMark lacks."""
    return None


def table(node: Node, parts: list[str]) -> str | None:
    """A table of pipes, where the first row alone is a heading, or none is, and every cell is one line. Without a heading, its row is empty."""
    rows = node["content"]
    first = rows[0].get("content", ())
    aligns = [cell["attrs"]["align"] for cell in first]
    has_heading = any(cell["type"] == "tableHeader" for cell in first)
    is_plain = (
        not node["attrs"]["caption"] and first and (len(rows) > 1 or not has_heading)
        and (not has_heading or any(part.strip(" |") for part in parts[:1]))
        and all(_is_plain_row(row, aligns, is_first=has_heading and index == 0) for index, row in enumerate(rows))
    )  # fmt: skip
    if not is_plain or any("\n" in part.replace("\\\n", "") for part in parts):
        return None
    lines = [part.replace("\\\n", "<br>") for part in parts]
    rule = (
        "| "
        + " | ".join({"start": "---", "centre": ":---:", "end": "---:"}[align] for align in aligns)
        + " |"
    )
    if not has_heading:
        lines.insert(0, "| " + " | ".join(" " for _ in aligns) + " |")
    return "\n".join([lines[0], rule, *lines[1:]])


def _is_plain_row(row: Node, aligns: list[str], is_first: bool) -> bool:
    cells = row.get("content", ())
    return len(cells) == len(aligns) and all(
        cell["type"] == ("tableHeader" if is_first else "tableCell")
        and (cell["attrs"]["colspan"], cell["attrs"]["rowspan"], cell["attrs"]["align"]) == (1, 1, align)
        and [(block["type"], block.get("attrs")) for block in cell["content"]]
        == [("paragraph", {"align": "start"})]
        for cell, align in zip(cells, aligns, strict=True)
    )


def table_row(node: Node, parts: list[str]) -> str:
    return "| " + " | ".join(re.sub(r"(?<!\\)((?:\\\\)*)\|", r"\1\\|", part) for part in parts) + " |"


def code_block(node: Node, parts: list[str]) -> str:
    text = "".join(child["text"] for child in node.get("content", ()))
    longest = max((len(run) for run in re.findall(r"`+", text)), default=0)
    fence = "`" * max(3, longest + 1)
    return f"{fence}{node['attrs']['language']}\n{text}\n{fence}"


def divider(node: Node, parts: list[str]) -> str:
    return "---"


def line_break(node: Node, parts: list[str]) -> str:
    return "\\\n"


def fill_in(node: Node, parts: list[str]) -> str:
    return f'<span data-fill-in="{node["attrs"]["name"]}"></span>'


def picture(node: Node, parts: list[str]) -> str | None:
    """A caption of plain words is the image's title."""
    attrs, caption = node["attrs"], plain(node)
    is_set = any(
        attrs[name] not in ("full", "centre", "plain", "usual", "", False)
        for name in attrs
        if name not in ("src", "alt")
    )
    if is_set or any(child["type"] != "text" or "marks" in child for child in node.get("content", ())):
        return None
    title = f' "{_title(caption)}"' if caption else ""
    return f"![{escape_text(attrs['alt'])}]({_address(attrs['src'])}{title})"


def delimited(sign: str) -> Callable[[dict[str, Any], str, str, str], str | None]:
    """A mark written with a sign on both sides, where CommonMark would see it.

    The function takes (attrs, inner, the character before, the character after). A sign is sure to
    be read when no white space stands inside its edges, and no letter or digit outside.
    """

    def write(attrs: dict[str, Any], inner: str, before: str, after: str) -> str | None:
        return f"{sign}{inner}{sign}" if _opens(inner[:1], before) and _opens(inner[-1:], after) else None

    return write


def _opens(inside: str, outside: str) -> bool:
    """Whether a sign between these letters is surely read as one (CommonMark's flanking rules)."""
    return not outside.isalnum() and (inside.isalnum() or (bool(inside.strip()) and not outside.strip()))


def tagged(attrs: dict[str, Any], inner: str, before: str, after: str) -> None:
    """A mark for which CommonMark has no sign."""
    return None


def code(attrs: dict[str, Any], inner: str, before: str, after: str) -> str:
    """`inner` is the text as it is, not escaped."""
    longest = max((len(run) for run in re.findall(r"`+", inner)), default=0)
    fence = "`" * (longest + 1)
    pad = (
        " "
        if inner.startswith("`") or inner.endswith("`") or (inner[:1] == inner[-1:] == " " and inner.strip())
        else ""
    )
    return f"{fence}{pad}{inner}{pad}{fence}"


def link(attrs: dict[str, Any], inner: str, before: str, after: str) -> str | None:
    if attrs["window"] != "here" or attrs["paid"]:
        return None
    title = f' "{_title(attrs["title"])}"' if attrs["title"] else ""
    return f"[{inner}]({_address(attrs['href'])}{title})"


def _address(address: str) -> str:
    if re.search(r"[\s()<>\\]", address):
        return "<" + re.sub(r"([<>\\])", r"\\\1", address) + ">"
    return address


def _title(words: str) -> str:
    return re.sub(r'(["\\])', r"\\\1", words)


def _item(node: Node, item: Node, part: str) -> str:
    """An item as its list spaces it; one of a single empty paragraph needs no more than its sign."""
    content = item["content"]
    part = part.replace("\x01", "\n\n" if node["attrs"]["loose"] else "\n")
    return (
        ""
        if len(content) == 1 and "content" not in content[0] and content[0]["attrs"]["align"] == "start"
        else part
    )


def _hang(sign: str, part: str) -> str:
    return (sign + re.sub(r"\n(?=[^\n])", "\n" + " " * len(sign), part)).rstrip(" ")


def _join_items(node: Node, items: list[str]) -> str:
    return ("\n\n" if node["attrs"]["loose"] else "\n").join(items)


def _protect(text: str) -> str:
    """Keeps signs at the start of a line, and spaces at the edges, from being read as structure."""
    text = _LINE_START.sub(
        lambda m: m.group(1) + (m.group(2) + "\\" if m.group(2)[0].isdecimal() else "\\" + m.group(2)), text
    )
    text = re.sub(r"^ ", "&#32;", text, flags=re.MULTILINE)
    return re.sub(r" $", "&#32;", text, flags=re.MULTILINE)
