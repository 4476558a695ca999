"""A page as it is for a place where nothing but files is served: without what only Mobbet's server answers for."""

from __future__ import annotations

FORM = "static copy 1"
"""The name of this form of a page; another one has copies sent anew."""
_SECTION, _SECTION_END = b'<section class="comments"', b"</section>\n"
_FORM, _FORM_END = b'<p><a class="write-one"', b"</p>"


def static_copy(body: bytes) -> bytes:
    """The page of a post without the link to the form for comments, and without the section where there is no comment."""
    start = body.find(_SECTION)
    end = body.find(_SECTION_END, start) if start >= 0 else -1
    if end < 0:
        return body
    section = body[start:end]
    if b'<li id="comment-' not in section:
        return body[:start] + body[end + len(_SECTION_END) :]
    before, form, after = section.partition(_FORM)
    return body[:start] + before + (after.partition(_FORM_END)[2] if form else b"") + body[end:]
