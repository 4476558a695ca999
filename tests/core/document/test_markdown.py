import unittest
from pathlib import Path

from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.schema import check
from mobbet.core.document.write import to_html, to_markdown

FIXTURES = Path(__file__).parents[2] / "fixtures" / "markdown.txt"


def pairs() -> list[tuple[str, str]]:
    """Markdown and HTML, parted by a line of dots, each pair ended by a line of equal signs."""
    parts = FIXTURES.read_text().split("\n====\n")
    return [tuple(part.strip("\n").split("\n....\n")) for part in parts if part.strip()]


def words(text: str, *marks: str) -> dict:
    return {"type": "text", "text": text, **({"marks": [{"type": mark} for mark in marks]} if marks else {})}


def paragraph(*content: dict) -> dict:
    return {"type": "paragraph", "content": list(content)}


TRICKY = (
    paragraph(words("# no heading, 1. no list, - no item, > no quote")),
    paragraph(words("1. at the start")),
    paragraph(words("- at the start")),
    paragraph(words("+ at the start")),
    paragraph(words("= at the start")),
    paragraph(words("*stars* _lines_ `ticks` [brackets](x) <b> &amp; ~~waves~~ \\ slash")),
    paragraph(words("in"), words("word", "strong"), words("s")),
    paragraph(words("x"), words(" edge ", "emphasis"), words("x")),
    paragraph(words("a", "strong"), words("b", "strong", "emphasis"), words("c", "emphasis")),
    paragraph(words("under", "underline"), words(" and "), words("struck out", "strike")),
    paragraph(words("a ` tick", "code"), words(" "), words("``", "code")),
    paragraph(words("line"), {"type": "lineBreak"}, words("# break")),
    {"type": "heading", "attrs": {"level": 3}, "content": [words("Ends with #")]},
    {"type": "codeBlock", "attrs": {"language": "text"}, "content": [words("```\ninside\n```")]},
    {"type": "quote", "content": [paragraph(words("a")), paragraph(words("b"))]},
    {"type": "orderedList", "attrs": {"start": 7}, "content": [{"type": "listItem", "content": [paragraph(words("seven")), paragraph(words("more"))]}]},
    {"type": "picture", "attrs": {"src": "media:4", "alt": "a [b] c"}, "content": [words('say "hello"')]},
)  # fmt: skip


class MarkdownTests(unittest.TestCase):
    def test_each_fixture_gives_its_html(self) -> None:
        self.assertGreater(len(pairs()), 15)
        for source, wanted in pairs():
            with self.subTest(source):
                self.assertEqual(to_html(from_markdown(source)), wanted)

    def test_writing_and_reading_again_changes_nothing(self) -> None:
        for source, _ in pairs():
            with self.subTest(source):
                document = from_markdown(source)
                self.assertEqual(from_markdown(to_markdown(document)), document)

    def test_signs_in_the_words_stay_words(self) -> None:
        for block in TRICKY:
            document = check({"type": "doc", "content": [block]})
            with self.subTest(to_markdown(document)):
                self.assertEqual(from_markdown(to_markdown(document)), document)

    def test_an_unsafe_link_loses_its_address_and_keeps_its_words(self) -> None:
        self.assertEqual(to_html(from_markdown("[x](javascript:alert(1))")), "<p>x</p>")

    def test_a_list_is_loose_for_its_own_paragraphs_alone(self) -> None:
        tight, loose = from_markdown("- ***\n\n<!-- -->\n\n- one\n\n- two\n")["content"]
        self.assertEqual((tight["attrs"]["loose"], loose["attrs"]["loose"]), (False, True))
