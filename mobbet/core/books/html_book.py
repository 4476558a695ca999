"""A book as one HTML file with its pictures in it."""

from __future__ import annotations

import base64
from html import escape

from mobbet.core.books.book import Book
from mobbet.core.books.pages import STYLE, chapter_html


def html_book(book: Book) -> bytes:
    """One page, whole by itself; with several chapters it begins with their contents."""

    def place(src: str) -> str:
        found = book.pictures.get(src)
        return f"data:{found.type};base64,{base64.b64encode(found.data).decode()}" if found else ""

    is_one = len(book.chapters) == 1
    contents = "".join(f'<li><a href="#c{one.key}">{escape(one.title)}</a></li>' for one in book.chapters)
    front = (
        ""
        if is_one
        else f'<h1>{escape(book.title)}</h1>\n<p class="by">{escape(book.author)}</p>\n<nav><ol>{contents}</ol></nav>\n'
    )
    chapters = "\n".join(
        f'<section class="chapter" id="c{one.key}">\n{chapter_html(one, place, 1 if is_one else 2)}\n</section>'
        for one in book.chapters
    )
    policy = "default-src 'none'; img-src data:; style-src 'unsafe-inline'"
    return (
        f'<!DOCTYPE html>\n<html lang="{escape(book.language)}"><head><meta charset="utf-8"><meta http-equiv="Content-Security-Policy" content="{policy}">'
        f'<meta name="viewport" content="width=device-width, initial-scale=1"><title>{escape(book.title)}</title><style>{STYLE}</style></head>\n'
        f"<body>\n{front}{chapters}\n</body></html>\n"
    ).encode()
