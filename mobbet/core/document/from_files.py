"""Plain text and word-processor files to document. Their pictures are handed to a `Bring` function."""

from __future__ import annotations

import base64
import io
import re
import zipfile
from collections.abc import Callable
from typing import Any

from lxml import etree

from mobbet.core.document import schema
from mobbet.core.document.from_html import Bring, Reading, no_embedded, read_html
from mobbet.core.document.open_document import html_of
from mobbet.core.errors import BadDocument

Node = dict[str, Any]

LARGEST_FILE = 50_000_000
LARGEST_UNPACKED = 100_000_000
LONGEST_HEADING = 100
_ENCODINGS = (
    "cp1252 cp1250 cp1251 cp1253 cp1254 cp1255 cp1256 koi8_r cp932 euc_jp gb18030 big5 cp949 utf_16".split()
)
_OTHER_STYLES = re.compile(
    r"heading|title|subtitle|(intense )?quot|(html )?preformatted|caption|toc|contents|list|table",
    re.IGNORECASE,
)
"""Names of styles whose paragraphs are something else than a line of text."""
_STYLES = """
u => u
p[style-name='Title'] => h1:fresh
p[style-name='Subtitle'] => h2:fresh
p[style-name='Quote'] => blockquote > p:fresh
p[style-name='Intense Quote'] => blockquote > p:fresh
p[style-name='Quotations'] => blockquote > p:fresh
p[style-name='made-up heading 2'] => h2:fresh
p[style-name='made-up heading 3'] => h3:fresh
p[style-name='made-up heading 4'] => h4:fresh
p[style-name='HTML Preformatted'] => pre:separator('\\n')
p[style-name='Preformatted Text'] => pre:separator('\\n')
p[style-name='Horizontal Line'] => hr:fresh
"""


def text_of(data: bytes) -> str:
    """The words of a text file in any encoding: as its mark says, else UTF-8, else the likeliest."""
    from charset_normalizer import from_bytes

    for mark, encoding in (
        (b"\xef\xbb\xbf", "utf-8"),
        (b"\xff\xfe", "utf-16-le"),
        (b"\xfe\xff", "utf-16-be"),
    ):
        if data.startswith(mark):
            return data[len(mark) :].decode(encoding, "replace")
    try:
        return data.decode()
    except UnicodeDecodeError:
        matches = from_bytes(data, cp_isolation=_ENCODINGS)
        best = matches.best()
        if best is None:
            return data.decode("cp1252", "replace")
        # letters of western Europe look much alike in all of these; by far the most texts are in this one
        western = next(
            (match for match in matches if match.encoding == "cp1252" and match.chaos <= best.chaos + 0.05),
            None,
        )
        return str(western or best)


def from_text(source: str) -> Node:
    """Plain text: blank lines make paragraphs, a single line break is a line break."""
    blocks = []
    for block in re.split(r"\n\s*\n", source.replace("\r\n", "\n").replace("\r", "\n").lstrip("\ufeff")):
        lines = [line.strip() for line in block.strip().split("\n")]
        content: list[Node] = []
        for line in lines:
            content += ([{"type": "lineBreak"}] if content else []) + (
                [{"type": "text", "text": line}] if line else []
            )
        if any(lines):
            blocks.append({"type": "paragraph", "content": content})
    return schema.check({"type": "doc", "content": blocks})


def from_docx(data: bytes) -> Node:
    """The text of a .docx file without its pictures. Raises BadDocument for a damaged one."""
    return read_docx(data).document


def from_odt(data: bytes) -> Node:
    """The text of an .odt file without its pictures. Raises BadDocument for a damaged one."""
    return read_odt(data).document


def read_docx(data: bytes, bring: Bring = no_embedded) -> Reading:
    """The text of a .docx file (Office Open XML); pictures come to `bring` as `data:` addresses."""
    import mammoth

    _check_archive(data, "word/document.xml", ".docx")
    try:
        html = mammoth.convert_to_html(
            io.BytesIO(_with_raised(data)),
            style_map=_STYLES,
            convert_image=mammoth.images.img_element(_embedded),
            transform_document=_with_headings,
        ).value
    except Exception:
        # mammoth raises whatever its XML and zip parts raise; for a person they all mean one thing
        raise _damaged(".docx") from None
    return read_html(html, bring)


def _with_raised(data: bytes) -> bytes:
    """The file with words that are moved up or down by a distance (`w:position`) told as raised or lowered."""
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        words = archive.read("word/document.xml")
        if b"<w:position " not in words:
            return data
        words = re.sub(rb'<w:position w:val="([1-9]\d*)"/>', b'<w:vertAlign w:val="superscript"/>', words)
        words = re.sub(rb'<w:position w:val="-[1-9]\d*"/>', b'<w:vertAlign w:val="subscript"/>', words)
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as copy:
            for info in archive.infolist():
                copy.writestr(info, words if info.filename == "word/document.xml" else archive.read(info))
    return out.getvalue()


def read_odt(data: bytes, bring: Bring = no_embedded) -> Reading:
    """The text of an .odt file (OpenDocument 1.3); pictures come to `bring` as `data:` addresses."""
    _check_archive(data, "content.xml", ".odt")
    parser = etree.XMLParser(resolve_entities=False, no_network=True, huge_tree=False)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        names = set(archive.namelist())
        try:
            content = etree.fromstring(archive.read("content.xml"), parser)
            styles = etree.fromstring(archive.read("styles.xml"), parser) if "styles.xml" in names else None
            html = html_of(
                content, styles, lambda name: _data_address(archive.read(name), name) if name in names else ""
            )
        except (etree.XMLSyntaxError, zipfile.BadZipFile, RecursionError):
            raise _damaged(".odt") from None
    return read_html(html, bring)


def _damaged(ending: str) -> BadDocument:
    return BadDocument(f"The {ending} file is damaged; open it in its word processor and save it again.")


def _check_archive(data: bytes, member: str, ending: str) -> None:
    if len(data) > LARGEST_FILE:
        raise BadDocument(
            f"The {ending} file is larger than {LARGEST_FILE // 1_000_000} MB; bring it in in parts."
        )
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            unpacked = sum(info.file_size for info in archive.infolist())
            has_member = member in archive.namelist()
    except (zipfile.BadZipFile, OSError):
        has_member, unpacked = False, 0
    if not has_member:
        raise BadDocument(f"This is not a {ending} file; choose one that a word processor saved.")
    if unpacked > LARGEST_UNPACKED:
        raise BadDocument(
            f"The {ending} file unpacks to more than {LARGEST_UNPACKED // 1_000_000} MB; bring it in in parts."
        )


def _data_address(body: bytes, name: str) -> str:
    kind = {"jpg": "jpeg"}.get(name.rpartition(".")[2].lower(), name.rpartition(".")[2].lower())
    return f"data:image/{kind};base64,{base64.b64encode(body).decode()}"


def _embedded(image: Any) -> dict[str, str]:
    with image.open() as source:
        body = source.read()
    return {"src": f"data:{image.content_type};base64,{base64.b64encode(body).decode()}"}


def _with_headings(document: Any) -> Any:
    """Bold short lines in a larger size than the text's get the style of a heading."""
    import mammoth

    sizes: dict[float, int] = {}
    lines: list[float | None] = []

    def measure(paragraph: Any) -> Any:
        runs = [child for child in paragraph.children if isinstance(child, mammoth.documents.Run)]
        letters = [(len(_letters(run)), run) for run in runs]
        for count, run in letters:
            sizes[run.font_size or 0] = sizes.get(run.font_size or 0, 0) + count
        whole = sum(count for count, _ in letters)
        is_line = 0 < whole <= LONGEST_HEADING and all(run.is_bold for count, run in letters if count)
        is_bare = paragraph.numbering is None and not _OTHER_STYLES.match(paragraph.style_name or "")
        lines.append(
            min(run.font_size or 0 for count, run in letters if count) if is_line and is_bare else None
        )
        return paragraph

    mammoth.transforms.paragraph(measure)(document)
    usual = max(sizes, key=lambda size: sizes[size], default=0)
    larger = sorted({size for size in lines if size is not None and size > usual}, reverse=True)
    in_order = iter(lines)

    def dress(paragraph: Any) -> Any:
        size = next(in_order)
        if size not in larger:
            return paragraph
        return paragraph.copy(
            style_name=f"made-up heading {min(4, 2 + larger.index(size))}", style_id="made-up"
        )

    return mammoth.transforms.paragraph(dress)(document) if larger else document


def _letters(run: Any) -> str:
    import mammoth

    return "".join(child.value for child in run.children if isinstance(child, mammoth.documents.Text)).strip()


READERS: dict[str, Callable[[bytes, Bring], Reading]] = {
    "docx": read_docx,
    "odt": read_odt,
    "html": lambda data, bring: read_html(text_of(data), bring),
    "txt": lambda data, bring: Reading(from_text(text_of(data))),
}
"""What reads a file, by its ending; Markdown has front matter and is read by `frontmatter`."""
