"""Word-processor files and the habits of office programs, one by one."""

import io
import unittest
import zipfile

from mobbet.core.document.from_files import read_docx, read_odt
from mobbet.core.document.from_html import from_html, read_html
from mobbet.core.document.nodes import defaults
from mobbet.core.document.write import to_html, to_markdown
from tests.core.document.test_from_files import docx
from tests.shops import picture

ODT = """<office:document-content xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:xlink="http://www.w3.org/1999/xlink"
 xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" xmlns:style="urn:oasis:names:tc:opendocument:xmlns:style:1.0"
 xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:draw="urn:oasis:names:tc:opendocument:xmlns:drawing:1.0"
 xmlns:svg="urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0" xmlns:fo="urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0">
<office:automatic-styles>
<style:style style:name="Sup"><style:text-properties style:text-position="super 58%"/></style:style>
<style:style style:name="Big"><style:text-properties fo:font-weight="bold" fo:font-size="18pt"/></style:style>
<style:style style:name="Child" style:parent-style-name="Big"/>
<text:list-style style:name="L"><text:list-level-style-number text:level="1" style:num-format="1"/><text:list-level-style-number text:level="2" style:num-format="a"/></text:list-style>
</office:automatic-styles><office:body><office:text>BODY</office:text></office:body></office:document-content>"""


def odt(body: str, **files: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        made.writestr("content.xml", ODT.replace("BODY", body))
        for name, data in files.items():
            made.writestr(f"Pictures/{name}.png", data)
    return out.getvalue()


def markdown(body: str) -> str:
    return to_markdown(read_odt(odt(body)).document)


class OpenDocumentTests(unittest.TestCase):
    def test_lists_keep_their_levels_and_numbers(self) -> None:
        inner = "<text:list><text:list-item><text:p>sub</text:p></text:list-item></text:list>"
        body = f'<text:list text:style-name="L"><text:list-item text:start-value="3"><text:p>top</text:p>{inner}</text:list-item></text:list>'
        self.assertEqual(
            to_html(read_odt(odt(body)).document),
            '<ol start="3">\n<li>top\n<ol type="a">\n<li>sub</li>\n</ol>\n</li>\n</ol>',
        )

    def test_tables_keep_their_heading_and_spans(self) -> None:
        cell = "<table:table-cell><text:p>{}</text:p></table:table-cell>"
        head = f"<table:table-header-rows><table:table-row>{cell.format('A')}{cell.format('B')}</table:table-row></table:table-header-rows>"
        wide = '<table:table-row><table:table-cell table:number-columns-spanned="2"><text:p>wide</text:p></table:table-cell></table:table-row>'
        html = to_html(read_odt(odt(f"<table:table>{head}{wide}</table:table>")).document)
        self.assertIn('<thead><tr><th scope="col">A</th>\n<th scope="col">B</th></tr></thead>', html)
        self.assertIn('<td colspan="2">wide</td>', html)

    def test_notes_come_to_the_end_with_their_number_in_the_text(self) -> None:
        note = "<text:note><text:note-citation>1</text:note-citation><text:note-body><text:p>The note.</text:p></text:note-body></text:note>"
        self.assertEqual(
            markdown(f"<text:p>Words{note} go on.</text:p>"),
            "Words<sup>1</sup> go on.\n\n---\n\n1. The note.\n",
        )

    def test_raised_words_and_made_up_headings_are_known_by_their_style(self) -> None:
        body = '<text:p text:style-name="Child">A heading</text:p><text:p>x<text:span text:style-name="Sup">2</text:span> and some more words of the usual size.</text:p>'
        self.assertEqual(
            markdown(body), "## A heading\n\nx<sup>2</sup> and some more words of the usual size.\n"
        )

    def test_deleted_text_and_annotations_do_not_come(self) -> None:
        body = "<text:tracked-changes><text:p>gone</text:p></text:tracked-changes><text:p>kept<office:annotation><text:p>why?</text:p></office:annotation></text:p>"
        self.assertEqual(markdown(body), "kept\n")

    def test_pictures_are_handed_over_with_their_description(self) -> None:
        frame = '<text:p><draw:frame><draw:image xlink:href="Pictures/lamp.png"/><svg:desc>A lamp</svg:desc></draw:frame></text:p>'
        handed: list[str] = []
        reading = read_odt(odt(frame, lamp=picture(8, 8)), lambda src: handed.append(src[:22]) or "media:4")
        self.assertEqual(handed, ["data:image/png;base64,"])
        self.assertEqual(
            reading.document["content"][0]["attrs"],
            {**defaults("picture"), "src": "media:4", "alt": "A lamp"},
        )

    def test_lines_of_code_are_one_block_and_a_line_across_is_a_divider(self) -> None:
        code = '<text:p text:style-name="Preformatted_20_Text">{}</text:p>'
        source = (
            code.format("if it hums:")
            + code.format('<text:s text:c="4"/>unplug()')
            + '<text:p text:style-name="Horizontal_20_Line"/>'
        )
        self.assertEqual(markdown(source), "```\nif it hums:\n    unplug()\n```\n\n---\n")

    def test_a_picture_that_is_not_in_the_file_leaves_nothing(self) -> None:
        self.assertEqual(
            markdown(
                '<text:p>a<draw:frame><draw:image xlink:href="../../etc/passwd"/></draw:frame></text:p>'
            ),
            "a\n",
        )


class DocxTests(unittest.TestCase):
    def run_of(self, words: str, *properties: str) -> str:
        return f"<w:r><w:rPr>{''.join(properties)}</w:rPr><w:t xml:space='preserve'>{words}</w:t></w:r>"

    def test_bold_lines_in_a_larger_size_become_headings(self) -> None:
        head = self.run_of("A heading", "<w:b/>", '<w:sz w:val="36"/>')
        body = self.run_of("Plain words of the usual size, and quite some of them.", '<w:sz w:val="22"/>')
        self.assertEqual(
            to_markdown(read_docx(docx(f"<w:p>{head}</w:p><w:p>{body}</w:p>")).document).split("\n")[0],
            "## A heading",
        )

    def test_raised_struck_and_underlined_words_are_kept(self) -> None:
        runs = (
            self.run_of("2", '<w:vertAlign w:val="superscript"/>')
            + self.run_of("old", "<w:strike/>")
            + self.run_of("new", '<w:u w:val="single"/>')
        )
        self.assertEqual(
            to_html(read_docx(docx(f"<w:p>{runs}</w:p>")).document), "<p><sup>2</sup><s>old</s><u>new</u></p>"
        )

    def test_words_moved_up_or_down_by_a_distance_are_raised_or_lowered(self) -> None:
        runs = (
            self.run_of("up", '<w:position w:val="8"/>')
            + self.run_of("down", '<w:position w:val="-6"/>')
            + self.run_of("plain", '<w:position w:val="0"/>')
        )
        self.assertEqual(
            to_html(read_docx(docx(f"<w:p>{runs}</w:p>")).document),
            "<p><sup>up</sup><sub>down</sub>plain</p>",
        )

    def test_deleted_text_does_not_come(self) -> None:
        body = "<w:p><w:del><w:r><w:delText>gone</w:delText></w:r></w:del><w:ins><w:r><w:t>kept</w:t></w:r></w:ins></w:p>"
        self.assertEqual(to_html(read_docx(docx(body)).document), "<p>kept</p>")

    def test_tables_stay_tables(self) -> None:
        cell = "<w:tc><w:p><w:r><w:t>{}</w:t></w:r></w:p></w:tc>"
        rows = "".join(f"<w:tr>{cell.format(a)}{cell.format(b)}</w:tr>" for a, b in (("a", "b"), ("c", "d")))
        table = read_docx(docx(f"<w:tbl>{rows}</w:tbl>")).document["content"][0]
        self.assertEqual((table["type"], len(table["content"])), ("table", 2))

    def test_an_archive_bomb_is_refused_before_it_is_unpacked(self) -> None:
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
            made.writestr("word/document.xml", b"0" * 100_000_001)
        data = out.getvalue()
        with self.assertRaisesRegex(Exception, "unpacks to more than 100 MB"):
            read_docx(data)


LISTS = (
    ("<p>• one</p><p>• two</p>", "- one\n- two\n"),
    ("<p>- one</p><p>- two</p>", "- one\n- two\n"),
    ("<p>1. one</p><p>2. two</p>", "1. one\n2. two\n"),
    ("<div>1) one</div><div>2) two</div>", "1. one\n2. two\n"),
    ("<p>• only one</p>", "• only one\n"),
    ("<p>1. one</p><p>7. seven</p>", "1\\. one\n\n7\\. seven\n"),
    ("<p>• a<br>• b</p>", "- a\n- b\n"),
    ("<p>• a<br>no sign</p>", "• a\\\nno sign\n"),
)
STYLED = (
    ("<p><span style='font-weight:700;font-style:italic'>x</span></p>", "<p><em><strong>x</strong></em></p>"),
    ("<p><b style='font-weight:normal'>x</b></p>", "<p>x</p>"),
    ("<p><span style='text-decoration:line-through'>x</span></p>", "<p><s>x</s></p>"),
    ("<p><span style='vertical-align:sub'>x</span></p>", "<p><sub>x</sub></p>"),
    ("<h2><b>All bold</b></h2>", "<h2>All bold</h2>"),
    ("<p>a<br><br>b</p>", "<p>a</p>\n<p>b</p>"),
    ("<p>10&nbsp;km&nbsp; away</p>", '<p class="as-typed">10\u00a0km away</p>'),
    ("<ul style='list-style-type:square'><li>x</li></ul>", "<ul>\n<li>x</li>\n</ul>"),
    ("<ol type=I start=4><li>x</li></ol>", '<ol start="4" type="I">\n<li>x</li>\n</ol>'),
    ("<p hidden>x</p><p>y</p>", "<p>y</p>"),
)


class HabitTests(unittest.TestCase):
    def test_lists_made_of_paragraphs_and_signs_become_lists(self) -> None:
        for html, wanted in LISTS:
            with self.subTest(html):
                self.assertEqual(to_markdown(from_html(html)), wanted)

    def test_emphasis_by_style_counts_and_its_absence_too(self) -> None:
        for html, wanted in STYLED:
            with self.subTest(html):
                self.assertEqual(to_html(from_html(html)), wanted)

    def test_tables_that_only_arrange_a_page_are_taken_apart(self) -> None:
        for html in (
            "<table role=presentation><tr><td>a</td><td>b</td></tr><tr><td>c</td><td>d</td></tr></table>",
            "<table><tr><td><table><tr><td>a</td></tr></table></td></tr></table>",
            "<table><tr><td>a</td></tr><tr><td>b</td></tr></table>",
        ):
            with self.subTest(html):
                self.assertNotIn("<table", to_html(from_html(html)))

    def test_notes_of_markdown_made_pages_come_to_the_end(self) -> None:
        html = '<p>a<sup id="r1"><a href="#f1">1</a></sup></p><section class="footnotes"><ol><li id="f1"><p>Note. <a href="#r1">↩</a></p></li></ol></section>'
        self.assertEqual(to_markdown(from_html(html)), "a<sup>1</sup>\n\n---\n\n1. Note.\n")

    def test_links_of_a_table_of_contents_lose_their_address(self) -> None:
        self.assertEqual(
            to_html(from_html('<p><a href="#_Toc1">One</a> <a href="#part">Two</a></p>')),
            '<p>One <a href="#part">Two</a></p>',
        )

    def test_what_is_dropped_is_counted_by_its_kind(self) -> None:
        dropped = read_html(
            "<p>a</p><p></p><script>1</script><iframe></iframe><form><input></form><svg></svg><p><font color=red>b</font></p>"
        ).dropped
        self.assertEqual(
            set(dropped),
            {
                "empty paragraphs",
                "scripts and styles",
                "embedded things",
                "forms",
                "drawings",
                "fonts, colours and sizes",
            },
        )
