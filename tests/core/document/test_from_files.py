import io
import unittest
import zipfile

from mobbet.core.document.from_files import from_docx, from_odt, from_text
from mobbet.core.document.write import to_html
from mobbet.core.errors import BadDocument

W = "http://schemas.openxmlformats.org/wordprocessingml/2006/main"
ODT = """<?xml version="1.0"?><office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"
 xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:style="urn:oasis:names:tc:opendocument:xmlns:style:1.0"
 xmlns:fo="urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0" xmlns:xlink="http://www.w3.org/1999/xlink">
<office:automatic-styles><style:style style:name="T1"><style:text-properties fo:font-weight="bold"/></style:style>
<text:list-style style:name="L1"><text:list-level-style-number text:level="1"/></text:list-style></office:automatic-styles>
<office:body><office:text><text:h text:outline-level="2">Head</text:h>
<text:p>One <text:span text:style-name="T1">bold</text:span><text:s/><text:a xlink:href="https://a.example">link</text:a> tail</text:p>
<text:list text:style-name="L1"><text:list-item><text:p>first</text:p></text:list-item></text:list>
<text:list><text:list-item><text:p>dot</text:p></text:list-item></text:list></office:text></office:body></office:document-content>"""


def archive(**members: str) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        for name, body in members.items():
            made.writestr(name.replace("__", "/").replace("--", "."), body)
    return out.getvalue()


def docx(body: str) -> bytes:
    types = (
        '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/>'
        '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/></Types>'
    )
    rels = (
        '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" '
        'Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>'
    )
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        made.writestr("[Content_Types].xml", types)
        made.writestr("_rels/.rels", rels)
        made.writestr("word/document.xml", f'<w:document xmlns:w="{W}"><w:body>{body}</w:body></w:document>')
    return out.getvalue()


class FromFilesTests(unittest.TestCase):
    def test_plain_text_has_paragraphs_and_line_breaks(self) -> None:
        self.assertEqual(to_html(from_text("one\r\ntwo\n\n\n three ")), "<p>one<br>\ntwo</p>\n<p>three</p>")

    def test_a_docx_keeps_its_emphasis(self) -> None:
        data = docx("<w:p><w:r><w:t>plain </w:t></w:r><w:r><w:rPr><w:b/></w:rPr><w:t>bold</w:t></w:r></w:p>")
        self.assertEqual(to_html(from_docx(data)), "<p>plain <strong>bold</strong></p>")

    def test_an_odt_keeps_headings_lists_links_and_emphasis(self) -> None:
        html = to_html(from_odt(archive(**{"content--xml": ODT})))
        self.assertEqual(html.split("\n"), [
            '<h2>Head</h2>',
            '<p>One <strong>bold</strong> <a href="https://a.example">link</a> tail</p>',
            "<ol>", "<li>first</li>", "</ol>",
            "<ul>", "<li>dot</li>", "</ul>",
        ])  # fmt: skip

    def test_what_is_no_such_file_is_refused(self) -> None:
        for read, data in (
            (from_docx, b"no zip"),
            (from_docx, archive(a="b")),
            (from_odt, b""),
            (from_odt, archive(x="y")),
        ):
            with (
                self.subTest(read.__name__),
                self.assertRaisesRegex(BadDocument, "This is not a .(docx|odt) file"),
            ):
                read(data)

    def test_damaged_and_hostile_xml_is_refused(self) -> None:
        bomb = '<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><x>&b;'
        with self.assertRaisesRegex(BadDocument, "damaged"):
            from_odt(archive(**{"content--xml": bomb}))
        with self.assertRaisesRegex(BadDocument, "damaged"):
            from_docx(archive(word__document="x", **{"word__document--xml": "<broken"}))
