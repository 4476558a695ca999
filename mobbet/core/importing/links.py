"""Links in a text of another site, which begin elsewhere when the text stands here."""

from __future__ import annotations

from selectolax.lexbor import LexborHTMLParser

from mobbet.core.web_addresses import join_address, split_address


def with_whole_links(html: str, base: str) -> str:
    """HTML whose relative links, and those to its own site, are paths from the top, where its old addresses lead on."""
    start = base if "://" in base else f"/{base.lstrip('/')}"
    host = split_address(start).netloc
    tree = LexborHTMLParser(html)
    if tree.body is None:
        return html
    for link in tree.css("a[href]"):
        href = link.attributes.get("href") or ""
        if href.startswith("#"):
            continue
        parts = split_address(join_address(start, href))
        if parts.scheme in ("", "http", "https") and parts.netloc == host:
            query, fragment = (
                f"?{parts.query}" if parts.query else "",
                f"#{parts.fragment}" if parts.fragment else "",
            )
            link.attrs["href"] = f"{parts.path or '/'}{query}{fragment}"
    return "".join(child.html or "" for child in tree.body.iter(include_text=True))
