"""Feeds: Atom (RFC 4287), RSS 2.0 and 1.0, and JSON Feed 1.1, with the pages and archives of RFC 5005."""

from __future__ import annotations

import html
import json
from dataclasses import dataclass
from typing import Any

from lxml import etree
from selectolax.lexbor import LexborHTMLParser

from mobbet.core.errors import BadInput
from mobbet.core.importing.item import Item, NotRead, Reply, addresses, listed, names, one_line, read_date
from mobbet.core.safe_xml import read_xml
from mobbet.core.web_addresses import join_address

ATOM = "{http://www.w3.org/2005/Atom}"
CONTENT = "{http://purl.org/rss/1.0/modules/content/}encoded"
DC = "{http://purl.org/dc/elements/1.1/}"
RDF_ABOUT = "{http://www.w3.org/1999/02/22-rdf-syntax-ns#}about"
BASE = "{http://www.w3.org/XML/1998/namespace}base"
REPLY = "{http://purl.org/syndication/thread/1.0}in-reply-to"
LONGEST_REPLY, MOST_ENCLOSURES = 20_000, 10
NEXT = ("prev-archive", "next")
"""By which a feed leads to older entries."""


@dataclass(frozen=True)
class Feed:
    """The entries of one page of a feed, and where older ones are ('' for nowhere)."""

    items: tuple[Item | NotRead | Reply, ...]
    older: str = ""


def read_feed(data: bytes, address: str = "") -> Feed:
    """A feed of any kind; relative addresses begin at `address`. Raises BadInput for what is none."""
    start = data.lstrip(b"\xef\xbb\xbf \t\r\n")[:1]
    return _json_feed(data, address) if start == b"{" else _xml_feed(data, address)


def _xml_feed(data: bytes, address: str) -> Feed:
    root = read_xml(data, recover=True)
    if root is None:
        raise BadInput("This is no feed: it cannot be read as XML or JSON.", "source")
    if root.tag == f"{ATOM}feed":
        return _atom(root, join_address(address, root.get(BASE, "")))
    items = [one for one in root.iter() if isinstance(one.tag, str) and _local(one) == "item"]
    if _local(root).lower() not in ("rss", "rdf"):
        raise BadInput(
            f"This is no feed: its outermost element is “{_local(root)[:40]}”; Atom, RSS and JSON Feed are read.",
            "source",
        )
    older = next((one.get("href", "") for one in root.iter(f"{ATOM}link") if one.get("rel") in NEXT), "")
    return Feed(
        tuple(_rss_item(one, address) for one in items), join_address(address, older) if older else ""
    )


def _atom(root: Any, base: str) -> Feed:
    older = next((one.get("href", "") for one in root.iterfind(f"{ATOM}link") if one.get("rel") in NEXT), "")
    author = _text(root.find(f"{ATOM}author/{ATOM}name"))
    items = tuple(_atom_item(one, base, author) for one in root.iterfind(f"{ATOM}entry"))
    return Feed(items, join_address(base, older) if older else "")


def _atom_item(entry: Any, base: str, author: str) -> Item | NotRead | Reply:
    base = join_address(base, entry.get(BASE, ""))
    link = next(
        (
            one.get("href", "")
            for one in entry.iterfind(f"{ATOM}link")
            if one.get("rel", "alternate") == "alternate"
        ),
        "",
    )
    key = _text(entry.find(f"{ATOM}id")) or _link(base, link)
    content, summary = entry.find(f"{ATOM}content"), entry.find(f"{ATOM}summary")
    text = _construct(content) or _construct(summary)
    if entry.find(REPLY) is not None:
        name, at = (
            _text(entry.find(f"{ATOM}author/{ATOM}name")),
            _text(entry.find(f"{ATOM}published")) or _text(entry.find(f"{ATOM}updated")),
        )
        return _reply(key, entry.find(REPLY), name, text, at)
    return _item(
        key,
        title=_plain(entry.find(f"{ATOM}title")),
        text=text,
        published=read_date(_text(entry.find(f"{ATOM}published")) or _text(entry.find(f"{ATOM}updated"))),
        words=[one.get("label") or one.get("term") for one in entry.iterfind(f"{ATOM}category")],
        author=_text(entry.find(f"{ATOM}author/{ATOM}name")) or author,
        excerpt=_plain(summary) if content is not None and len(content.xpath("string()")) else "",
        link=_link(base, link),
        base=join_address(base, (content.get(BASE, "") if content is not None else "") or link),
        enclosures=[
            (_link(base, one.get("href", "")), one.get("type", ""))
            for one in entry.iterfind(f"{ATOM}link")
            if one.get("rel") == "enclosure"
        ],
        is_draft=any(_text(one) == "yes" for one in entry.iter("{http://www.w3.org/2007/app}draft")),
    )


def _rss_item(item: Any, base: str) -> Item | NotRead | Reply:
    fields: dict[str, Any] = {}
    words = []
    for child in item:
        if not isinstance(child.tag, str):
            continue
        local = _local(child)
        if local == "category" or child.tag == f"{DC}subject":
            words.append(_text(child))
        elif child.tag in (CONTENT, f"{DC}creator", f"{DC}date"):
            fields[child.tag] = _text(child)
        elif _namespace(child) in ("", "http://purl.org/rss/1.0/"):
            fields.setdefault(local, _text(child))
    guid, link = fields.get("guid", ""), _link(base, fields.get("link", ""))
    description = fields.get("description", "")
    content = fields.get(CONTENT, "")
    if item.find(REPLY) is not None:
        at = fields.get("pubDate") or fields.get(f"{DC}date", "")
        return _reply(
            guid or link,
            item.find(REPLY),
            fields.get(f"{DC}creator", "") or fields.get("author", ""),
            content or description,
            at,
        )
    return _item(
        guid or item.get(RDF_ABOUT, "") or link,
        title=html.unescape(fields.get("title", "")),
        text=content or description,
        published=read_date(fields.get("pubDate") or fields.get(f"{DC}date")),
        words=words,
        author=fields.get(f"{DC}creator", ""),
        excerpt=description if content else "",
        link=link,
        base=link or base,
        enclosures=[
            (_link(base, one.get("url", "")), one.get("type", "")) for one in item.iterfind("enclosure")
        ],
    )


def _reply(key: str, answered: Any, name: str, text: str, published: str) -> Reply:
    """A comment on the entry that an element `thr:in-reply-to` names, by its id or its address."""
    to = tuple(value for value in (answered.get("ref", ""), answered.get("href", "")) if value)
    return Reply(
        key, to, one_line(html.unescape(name), 80), _plain_lines(text)[:LONGEST_REPLY], read_date(published)
    )


def _plain_lines(text: str) -> str:
    """The words of some HTML, a line for each block."""
    tree = LexborHTMLParser(text)
    for node in tree.css("script, style, template"):
        node.decompose()
    for node in tree.css("br, p, li, div, blockquote"):
        node.insert_after("\n")
    lines = [" ".join(line.split()) for line in tree.text().split("\n")]
    return "\n".join(lines).strip()


def _json_feed(data: bytes, address: str) -> Feed:
    try:
        facts = json.loads(data)
        entries = [one for one in facts["items"] if isinstance(one, dict)]
    except (ValueError, KeyError, TypeError, RecursionError):
        raise BadInput("This is no JSON Feed: it has no list of items.", "source") from None
    older = facts.get("next_url")
    return Feed(
        tuple(_json_item(one, address) for one in entries),
        join_address(address, older) if isinstance(older, str) else "",
    )


def _objects(value: Any) -> list[dict[str, Any]]:
    """The objects of a list; none of anything else."""
    return [one for one in value if isinstance(one, dict)] if isinstance(value, list) else []


def _json_item(entry: dict[str, Any], base: str) -> Item | NotRead:
    link = _link(base, str(entry.get("url") or ""))
    authors = entry.get("authors") or [entry.get("author") or {}]
    first = authors[0] if isinstance(authors, list) and authors and isinstance(authors[0], dict) else {}
    text = str(entry.get("content_html") or "")
    plain = str(entry.get("content_text") or "")
    if not text and plain:
        text = "".join(f"<p>{html.escape(part)}</p>" for part in plain.split("\n\n"))
    return _item(
        str(entry.get("id") or link),
        title=str(entry.get("title") or ""),
        text=text,
        published=read_date(entry.get("date_published")),
        words=listed(entry.get("tags")),
        author=one_line(first.get("name")),
        excerpt=str(entry.get("summary") or ""),
        link=link,
        base=link or base,
        enclosures=[
            (_link(base, str(one.get("url", ""))), str(one.get("mime_type", "")))
            for one in _objects(entry.get("attachments"))
        ],
    )


def _item(
    key: str,
    *,
    title: str,
    text: str,
    published: str,
    words: list[Any],
    author: str,
    excerpt: str,
    link: str,
    base: str,
    is_draft: bool = False,
    enclosures: list[tuple[str, str]] | None = None,
) -> Item | NotRead:
    key = one_line(key, 500) or one_line(title, 500)
    if not key:
        return NotRead("an entry", "it has neither an identifier nor a title")
    if not text.strip() and not title.strip():
        return NotRead(key, "it has neither a title nor a text")
    return Item(
        key, one_line(title), text, published=published, categories=names(words), author=one_line(author), excerpt=_without_tags(excerpt),
        is_draft=is_draft, addresses=addresses([link]), base=base,
        enclosures=tuple((one, kind[:80]) for one, kind in enclosures or () if one.startswith(("http://", "https://")))[:MOST_ENCLOSURES],
    )  # fmt: skip


def _local(node: Any) -> str:
    """The name of an element without its namespace, also of one that XML would not allow."""
    return str(node.tag).rpartition("}")[2]


def _namespace(node: Any) -> str:
    return str(node.tag).rpartition("}")[0].lstrip("{")


def _link(base: str, link: str) -> str:
    return join_address(base, link) if link else ""


def _construct(node: Any) -> str:
    """The HTML of an Atom text construct (RFC 4287, 3.1): escaped, as XHTML, or plain words."""
    if node is None or node.get("src"):
        return ""
    kind = node.get("type", "text")
    if kind == "xhtml":
        return "".join(etree.tostring(child, encoding="unicode", method="html") for child in node)
    text = _text(node)
    return text if kind in ("html", "text/html") else f"<p>{html.escape(text)}</p>" if text else ""


def _plain(node: Any) -> str:
    if node is None:
        return ""
    text = "".join(node.itertext()) if node.get("type") == "xhtml" else _text(node)
    return _without_tags(text) if node.get("type") == "html" else " ".join(text.split())


def _without_tags(text: str) -> str:
    from selectolax.lexbor import LexborHTMLParser

    if "<" not in text and "&" not in text:
        return " ".join(text.split())[:1000]
    body = LexborHTMLParser(text[:100_000]).body
    return " ".join(body.text(separator=" ").split())[:1000] if body else ""


def _text(node: Any) -> str:
    return "".join(node.itertext()).strip() if node is not None else ""
