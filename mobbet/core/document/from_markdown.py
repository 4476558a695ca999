"""CommonMark (with tables, `~~strike~~` and the notation of `notation`) to document.

The Markdown is written as HTML by markdown-it, and that is read by `from_html`, so HTML in Markdown means
what it means everywhere. Words keep their white space. What stands in a fence of the notation is read by
itself and put in its place.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from html import escape
from itertools import takewhile
from typing import Any

from markdown_it import MarkdownIt
from markdown_it.common.utils import unescapeAll
from markdown_it.rules_core import StateCore
from markdown_it.token import Token

from mobbet.core.document import notation, schema
from mobbet.core.document.attributes import LANGUAGE
from mobbet.core.document.from_html import tidy_blocks
from mobbet.core.document.html import LIST_TYPES, classes
from mobbet.core.document.nodes import NODE
from mobbet.core.errors import BadDocument

Node = dict[str, Any]

_FENCE_DEPTH = schema.DEEPEST


def from_markdown(source: str) -> Node:
    """The document in a Markdown text. Raises BadDocument, with the line, for a mistake in the notation."""
    if len(source) > schema.MOST_BYTES:
        raise BadDocument(
            f"The text is larger than {schema.MOST_BYTES // 1_000_000} MB; bring it in in parts."
        )
    return schema.check({"type": "doc", "content": _read(source, 0, 0)})


def _read(source: str, line: int, depth: int) -> list[Node]:
    """The blocks of a text that begins at `line` (from 0) of the whole."""
    if depth > _FENCE_DEPTH:
        raise BadDocument(
            f"Blocks are nested more than {schema.DEEPEST} deep; take some out of others.", f"line {line + 1}"
        )
    parts: list[list[Node]] = []
    html = _PARSER.render(source, {"parts": parts, "line": line, "depth": depth})
    return tidy_blocks(html, parts) if html.strip() else []


def _fence(renderer: Any, tokens: Sequence[Token], index: int, options: Any, env: dict[str, Any]) -> str:
    token = tokens[index]
    line = env["line"] + (token.map[0] if token.map else 0)
    try:
        fence = notation.read_fence(unescapeAll(token.info))
        if fence is None:
            return _code(token)
        nodes = _nodes(*fence, token.content, line, env["depth"])
    except BadDocument as problem:
        raise (
            problem if problem.place.startswith("line") else BadDocument(problem.reason, f"line {line + 1}")
        ) from None
    env["parts"].append(nodes)
    return f'<div data-part="{len(env["parts"]) - 1}"></div>'


def _nodes(kind: str, attrs: dict[str, Any], body: str, line: int, depth: int) -> list[Node]:
    """The nodes that a fence of the notation stands for."""
    if kind == notation.HTML:
        return tidy_blocks(body) or [schema.PARAGRAPH]
    row = NODE.get(notation.camel(kind))
    if row is None or row.group not in ("block", "top") and row.name != "side":
        raise BadDocument(f"There is no kind of block named “{kind[:40]}”.")
    unknown = sorted(set(attrs) - {attribute.name for attribute in row.attributes})
    if unknown:
        raise BadDocument(f"“{kind}” has no “{unknown[0]}”.")
    if row.name == "rawHtml":
        attrs = {"html": body.removesuffix("\n")}
    node: Node = {"type": row.name, "attrs": attrs}
    content = _read(body, line + 1, depth + 1) if row.content else []
    if row.content == "inline*":
        if len(content) > 1 or (content and content[0]["type"] not in ("paragraph", row.name)):
            raise BadDocument(f"“{kind}” holds one paragraph of words.")
        content = content[0].get("content", []) if content else []
    elif row.name in ("bulletList", "orderedList"):
        if len(content) != 1 or content[0]["type"] != row.name:
            raise BadDocument(f"“{kind}” must hold one list.")
        attrs = {**content[0]["attrs"], **attrs}
        return _sound({**content[0], "attrs": attrs})
    if content:
        node["content"] = content
    return _sound(node)


def _sound(node: Node) -> list[Node]:
    """The node, checked by itself, so that a mistake is found where it stands."""
    if node["type"] != "side":
        checked: list[Node] = schema.check({"type": "doc", "content": [node]})["content"]
        return checked
    return [node]


def _code(token: Token) -> str:
    words = re.match(LANGUAGE + r"{1,40}(?=\s|$)", unescapeAll(token.info).strip())
    name = f' class="language-{escape(words.group())}"' if words else ""
    return f"<pre><code{name}>{escape(token.content, quote=False)}</code></pre>\n"


def _picture(renderer: Any, tokens: Sequence[Token], index: int, options: Any, env: dict[str, Any]) -> str:
    """The title of an image is a picture's caption."""
    token = tokens[index]
    alt = escape(renderer.renderInlineAsText(token.children or [], options, env))
    caption = escape(str(token.attrGet("title") or ""))
    return f'<img src="{escape(str(token.attrGet("src") or ""))}" alt="{alt}" title="{caption}">'


def _typed_open(renderer: Any, tokens: Sequence[Token], index: int, options: Any, env: dict[str, Any]) -> str:
    """A paragraph or heading whose words keep their white space."""
    return f'<{tokens[index].tag} class="as-typed">'


def _list_open(renderer: Any, tokens: Sequence[Token], index: int, options: Any, env: dict[str, Any]) -> str:
    """A list; one whose paragraphs stand apart in the source is loose."""
    token = tokens[index]
    inside = takewhile(lambda inner: inner.level > token.level, tokens[index + 1 :])
    own = (inner for inner in inside if inner.type == "paragraph_open" and inner.level == token.level + 2)
    start = token.attrGet("start")
    first = next(own, None)
    loose = "loose" if first is not None and not first.hidden else ""
    kind = LIST_TYPES.get(token.meta.get("style", ""))
    given = f" start={start}" * (start is not None) + f" type={kind}" * (kind is not None)
    return f"<{token.tag}{classes(loose, _class_of(token))}{given}>"


def _class_of(token: Token) -> str:
    """The class of a list by its sign, or by numbers that HTML has no type for."""
    style = token.meta.get("style", "")
    if token.tag == "ul":
        return f"sign-{style}" if style else ""
    return "numbers-greek" if style == "lower-greek" else ""


def _list_styles(state: StateCore) -> None:
    """A comment above a list, as `notation.list_comment` writes it, says its numbers or its sign."""
    kept: list[Token] = []
    for token in state.tokens:
        above = kept[-1] if kept else None
        if token.type in ("bullet_list_open", "ordered_list_open") and above and above.type == "html_block":
            found = notation.read_list_comment(above.content)
            if found and found[0] == ("bulletList" if token.tag == "ul" else "orderedList"):
                token.meta["style"] = found[1]
                kept.pop()
        kept.append(token)
    state.tokens = kept


def _inline(state: StateCore) -> None:
    """Reads words by the second parser: brackets in brackets take it a time that grows with their depth."""
    for token in state.tokens:
        if token.type == "inline":
            token.children = token.children or []
            _WORDS.inline.parse(token.content, _WORDS, state.env, token.children)


def _bare_parser(deepest: int) -> MarkdownIt:
    parser = MarkdownIt("commonmark", {"maxNesting": deepest}).enable(["strikethrough", "table"])
    # links.clean_address judges addresses, by one list for all sources
    parser.validateLink = lambda url: True  # type: ignore[method-assign]
    return parser


def _make_parser() -> MarkdownIt:
    parser = _bare_parser(4 * schema.DEEPEST)
    parser.core.ruler.at("inline", _inline)
    parser.core.ruler.push("list_styles", _list_styles)
    parser.core.ruler.push("headless_tables", _headless_tables)
    for name, rule in {
        "fence": _fence,
        "code_block": lambda renderer, tokens, index, options, env: _code(tokens[index]),
        "image": _picture,
        "paragraph_open": _typed_open,
        "paragraph_close": lambda renderer, tokens, index, options, env: "</p>\n",
        "heading_open": _typed_open,
        "bullet_list_open": _list_open,
        "ordered_list_open": _list_open,
        "text": lambda renderer, tokens, index, options, env: escape(
            re.sub(" {2,}", " ", tokens[index].content), quote=False
        ),
        "softbreak": lambda renderer, tokens, index, options, env: " ",
        "hardbreak": lambda renderer, tokens, index, options, env: "<br>\n",
        "table_open": lambda renderer, tokens, index, options, env: '<table class="data">',
    }.items():
        parser.add_render_rule(name, lambda *given, rule=rule: rule(*given))
    return parser


def _headless_tables(state: StateCore) -> None:
    """A table whose heading row is empty has none."""
    kept, at = [], 0
    while at < len(state.tokens):
        if state.tokens[at].type == "thead_open":
            end = next(
                place for place in range(at, len(state.tokens)) if state.tokens[place].type == "thead_close"
            )
            if not any(token.type == "inline" and token.content.strip() for token in state.tokens[at:end]):
                at = end + 1
                continue
        kept.append(state.tokens[at])
        at += 1
    state.tokens = kept


_WORDS = _bare_parser(12)
_PARSER = _make_parser()
