"""What each node becomes in plain text: blocks are parted by a blank line, list items by a line."""

from __future__ import annotations

from typing import Any

Node = dict[str, Any]


def plain(node: Node) -> str:
    """The bare words of an inline tree, a line break as a space."""
    if node["type"] == "text":
        return str(node["text"])
    if node["type"] == "lineBreak":
        return " "
    if node["type"] == "fillIn":
        return f"{{{node['attrs']['name']}}}"
    return "".join(plain(child) for child in node.get("content", ()))


def inline(node: Node, parts: list[str]) -> str:
    return "".join(parts)


def blocks(node: Node, parts: list[str]) -> str:
    return "\n\n".join(part for part in parts if part)


def bullet_list(node: Node, parts: list[str]) -> str:
    return "\n".join(_hang("- ", part) for part in parts)


def ordered_list(node: Node, parts: list[str]) -> str:
    start = node["attrs"]["start"]
    return "\n".join(_hang(f"{start + index}. ", part) for index, part in enumerate(parts))


def line_break(node: Node, parts: list[str]) -> str:
    return "\n"


def divider(node: Node, parts: list[str]) -> str:
    return "* * *"


def picture(node: Node, parts: list[str]) -> str:
    """The alternative text stands in for the picture, the caption follows."""
    alt, caption = node["attrs"]["alt"], "".join(parts)
    return "\n".join(line for line in (f"[{alt}]" if alt else "", caption) if line)


def sound(node: Node, parts: list[str]) -> str:
    """The title stands in for a sound or a video, the caption follows."""
    title, caption = node["attrs"]["title"], "".join(parts)
    return "\n".join(line for line in (f"[{title}]" if title else "", caption) if line)


def embed(node: Node, parts: list[str]) -> str:
    attrs = node["attrs"]
    return "\n".join(
        line
        for line in (
            f"[{attrs['title']}: {attrs['address']}]" if attrs["title"] else f"[{attrs['address']}]",
            "".join(parts),
        )
        if line
    )


def file(node: Node, parts: list[str]) -> str:
    return str(node["attrs"]["words"])


def quote(node: Node, parts: list[str]) -> str:
    source = node["attrs"]["source"]
    return blocks(node, [*parts, f"({source})" if source else ""])


def fill_in(node: Node, parts: list[str]) -> str:
    return f"{{{node['attrs']['name']}}}"


def table(node: Node, parts: list[str]) -> str:
    caption = node["attrs"]["caption"]
    return "\n".join([caption, *parts] if caption else parts)


def table_row(node: Node, parts: list[str]) -> str:
    return " | ".join(" ".join(part.split()) for part in parts)


def nothing(node: Node, parts: list[str]) -> str:
    return ""


def _hang(sign: str, part: str) -> str:
    return sign + part.replace("\n", "\n" + " " * len(sign))
