"""A page as it is for a place where nothing but files is served: without what only Mobbet's server answers for.

What leads to a server by its whole address stays, since it works from anywhere.
"""

from __future__ import annotations

import re

FORM = "static copy 5"
"""The name of this form of a page; another one has copies sent anew."""
_SECTION, _SECTION_END = b'<section class="comments"', b"</section>\n"
_HERE = rb'"(?!https?:)[^"]*~/[^"]*"'
"""A relative address of what a server answers for, as an attribute has it."""
_FORMS = (
    re.compile(rb'<form class="ask[^"]*" method="post" action=' + _HERE + rb"[^>]*>.*?</form>\n?", re.DOTALL),
    re.compile(rb'<li class="served"><a href=' + _HERE + rb"[^>]*>[^<]*</a></li>\n?"),
    re.compile(rb"<link rel=\"webmention\" href=" + _HERE + rb">\n?"),
)
_PROGRAMS = re.compile(
    rb'<link rel="(?:indieauth-metadata|authorization_endpoint|token_endpoint|micropub|service)"(?: type="[^"]*")? href='
    + _HERE
    + rb">\n?"
)
"""Where programs are let in, as the page of the front says."""
_OF_COMMENTS = (
    re.compile(rb'<p><a class="write-one" href=' + _HERE + rb".*?</p>", re.DOTALL),
    re.compile(rb'<p class="further"><a href=' + _HERE + rb".*?</p>\n?", re.DOTALL),
    re.compile(" · ".encode() + rb"<a href=" + _HERE + rb"[^>]*>Answer</a>"),
)
_COUNT = re.compile(rb"<!-- count (https?://[^ >]*?/~/read)(/[^ >]*) -->")
"""Where a page asks to be counted: what a copy has a picture in the place of, and the server's own page only says."""
_COUNTED = re.compile(rb'<img class="end-mark" src="(https?://[^/"]+)')
_END_MARK = re.compile(rb'(<img class="end-mark" src=")[^"]*?(/end\.gif\?\d+")')


_SEARCH = re.compile(rb'<script src="[^"]*" data-there="([^"]*)" defer></script>')
_SEARCH_FORM = re.compile(rb'(<form class="ask search wide")(.*?</form>\n?)', re.DOTALL)


def static_copy(body: bytes, kind: str = "post", has_index: bool = False) -> bytes:
    """A page of a kind (`PageKey.kind`) that asks the server to count it where it should. That of a post is without forms and the ways to them,
    and without the section of comments where there is none; that of the search asks an index that lies beside it, or has no form where there is none."""
    body = _PROGRAMS.sub(b"", _with_counting(body))
    if kind == "search":
        return _searching_there(body) if has_index else _SEARCH_FORM.sub(b"", _SEARCH.sub(b"", body))
    return _without_server(body) if kind == "post" else body


def _searching_there(body: bytes) -> bytes:
    """The page of the search with a script in the place of the server, a policy as strict as can be, and a form that waits for the script."""
    server = _COUNTED.search(body)
    pictures = b"'self' " + server[1] if server else b"'self'"
    policy = (
        b"default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; connect-src 'self'; worker-src 'self'; style-src 'self'; font-src 'self'; img-src "
        + pictures
        + b"; form-action 'self'; base-uri 'none'"
    )
    told = b'<meta http-equiv="Content-Security-Policy" content="' + policy + b'">\n<script src="'
    body = _SEARCH.sub(lambda found: told + found[1] + b'" type="module"></script>', body)
    return _SEARCH_FORM.sub(rb"\1 hidden\2", body).replace(b" autofocus>", b">", 1)


def _with_counting(body: bytes) -> bytes:
    asked = _COUNT.search(body)
    if asked is None:
        return body
    start, path = asked.groups()
    body = _END_MARK.sub(rb"\1" + start + rb"\2", body)
    dot = b'<img class="end-mark" src="' + start + path + b'" alt="" width="1" height="1">'
    return body.replace(asked[0], dot, 1)


def _without_server(body: bytes) -> bytes:
    for pattern in _FORMS:
        body = pattern.sub(b"", body)
    start = body.find(_SECTION)
    end = body.find(_SECTION_END, start) if start >= 0 else -1
    if end < 0:
        return body
    section = body[start:end]
    for pattern in _OF_COMMENTS:
        section = pattern.sub(b"", section)
    if b'<li id="comment-' not in section and b"write-one" not in section:
        return body[:start] + body[end + len(_SECTION_END) :]
    return body[:start] + section + body[end:]
