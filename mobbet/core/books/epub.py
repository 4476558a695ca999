"""A book as EPUB 3.3."""

from __future__ import annotations

import io
import zipfile
from html import escape

from mobbet.core.books.book import Book, Chapter
from mobbet.core.books.pages import STYLE, chapter_html

_DATE = (1980, 1, 1, 0, 0, 0)
_ENDINGS = {"image/jpeg": "jpg", "image/png": "png", "image/gif": "gif"}
_CONTAINER = """<?xml version="1.0" encoding="UTF-8"?>
<container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="book/package.opf" media-type="application/oebps-package+xml"/></rootfiles></container>
"""


def epub(book: Book) -> bytes:
    """The bytes of the file, the same for the same book."""
    names = {
        src: f"picture-{number}.{_ENDINGS[one.type]}"
        for number, (src, one) in enumerate(book.pictures.items(), start=1)
    }
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as file:
        _add(file, "mimetype", b"application/epub+zip", zipfile.ZIP_STORED)
        _add(file, "META-INF/container.xml", _CONTAINER.encode())
        _add(file, "book/package.opf", _package(book, names).encode())
        _add(file, "book/contents.xhtml", _page(book, "Contents", _contents(book)).encode())
        _add(file, "book/style.css", STYLE.encode())
        for chapter in book.chapters:
            body = f"<section>{chapter_html(chapter, lambda src: names.get(src, ''))}</section>"
            _add(file, f"book/{_name(chapter)}", _page(book, chapter.title, body).encode())
        for src, name in names.items():
            _add(file, f"book/{name}", book.pictures[src].data, zipfile.ZIP_STORED)
    return out.getvalue()


def _add(file: zipfile.ZipFile, path: str, data: bytes, packing: int = zipfile.ZIP_DEFLATED) -> None:
    entry = zipfile.ZipInfo(path, _DATE)
    entry.compress_type = packing
    entry.external_attr = 0o644 << 16
    file.writestr(entry, data)


def _name(chapter: Chapter) -> str:
    return f"chapter-{chapter.key}.xhtml"


def _page(book: Book, title: str, body: str) -> str:
    return (
        f'<?xml version="1.0" encoding="UTF-8"?>\n<!DOCTYPE html>\n<html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops" lang="{escape(book.language)}" '
        f'xml:lang="{escape(book.language)}"><head><title>{escape(title) or "Without a title"}</title><link rel="stylesheet" type="text/css" href="style.css"/></head><body>\n{body}\n</body></html>\n'
    )


def _contents(book: Book) -> str:
    lines = "".join(
        f'<li><a href="{_name(one)}">{escape(one.title) or "Without a title"}</a></li>'
        for one in book.chapters
    )
    return f'<h1>{escape(book.title)}</h1>\n<nav epub:type="toc"><ol>{lines}</ol></nav>'


def _package(book: Book, names: dict[str, str]) -> str:
    items = [
        f'<item id="c{one.key}" href="{_name(one)}" media-type="application/xhtml+xml"/>'
        for one in book.chapters
    ]
    items += [
        f'<item id="p{number}" href="{name}" media-type="{book.pictures[src].type}"/>'
        for number, (src, name) in enumerate(names.items(), start=1)
    ]
    spine = "".join(f'<itemref idref="c{one.key}"/>' for one in book.chapters)
    author = f"<dc:creator>{escape(book.author)}</dc:creator>" if book.author else ""
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n<package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="id">'
        f'<metadata xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:identifier id="id">{escape(book.id)}</dc:identifier><dc:title>{escape(book.title)}</dc:title>'
        f'<dc:language>{escape(book.language)}</dc:language>{author}<meta property="dcterms:modified">{book.changed_at}</meta></metadata>'
        '<manifest><item id="nav" href="contents.xhtml" media-type="application/xhtml+xml" properties="nav"/><item id="style" href="style.css" media-type="text/css"/>'
        f'{"".join(items)}</manifest><spine><itemref idref="nav"/>{spine}</spine></package>\n'
    )
