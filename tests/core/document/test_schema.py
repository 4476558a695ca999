import json
import unittest

from mobbet.core.document import nodes, schema
from mobbet.core.errors import BadDocument


def doc(*blocks: object) -> dict:
    return {"type": "doc", "content": list(blocks)}


def deep(levels: int) -> dict:
    node = {"type": "paragraph"}
    for _ in range(levels):
        node = {"type": "quote", "content": [node]}
    return doc(node)


REFUSED = (
    ([], "must be a node of the type “doc”"),
    (doc({"type": "marquee"}), 'block 1: There is no kind of block named "marquee"'),
    (doc({"type": ["x"]}), "no kind of block"),
    (doc({"type": "doc"}), "no kind of block"),
    (doc("words"), "block 1: A node must be an object"),
    (doc({"type": "text", "text": "x"}), "“text” cannot stand in “doc”"),
    (doc({"type": "heading", "attrs": {"level": 9}}), "“heading” cannot have 9 as its “level”"),
    (doc({"type": "heading"}), "cannot have null as its “level”"),
    (doc({"type": "heading", "attrs": {"level": True}}), "cannot have true"),
    (doc({"type": "bulletList"}), "“bulletList” cannot be empty"),
    (doc({"type": "listItem", "content": [{"type": "paragraph"}]}), "“listItem” cannot stand in “doc”"),
    (doc({"type": "bulletList", "content": [{"type": "listItem", "content": [{"type": "divider"}]}]}), "block 1 > part 1: “listItem” must hold: paragraph block*."),
    (doc({"type": "paragraph", "content": [{"type": "text"}]}), "A text must hold words"),
    (doc({"type": "paragraph", "content": [{"type": "text", "text": "x", "marks": [{"type": "blink"}]}]}), 'no mark named "blink"'),
    (doc({"type": "paragraph", "content": [{"type": "text", "text": "x", "marks": [{"type": "link", "attrs": {"href": "javascript:x"}}]}]}), "cannot have"),
    (doc({"type": "picture", "attrs": {"src": "data:text/html,x"}}), "cannot have"),
    (doc({"type": "paragraph", "content": {"type": "text"}}), "must be a list"),
    (deep(60), "nested more than 50 deep"),
)  # fmt: skip


class SchemaTests(unittest.TestCase):
    def test_what_breaks_the_table_is_refused_with_its_place(self) -> None:
        for tree, message in REFUSED:
            with self.subTest(message), self.assertRaises(BadDocument) as caught:
                schema.check(tree)
            self.assertIn(message, str(caught.exception))

    def test_a_tree_comes_into_its_normal_form(self) -> None:
        strong, link = (
            {"type": "strong"},
            {"type": "link", "attrs": {"href": "https://a.example", "target": "_blank"}},
        )
        tree = doc(
            {"type": "paragraph", "attrs": {"color": "red"}, "content": [
                {"type": "text", "text": "a", "marks": [strong, link]},
                {"type": "text", "text": ""},
                {"type": "text", "text": "b\nc", "marks": [link, strong, strong]},
            ]}
        )  # fmt: skip
        text = schema.check(tree)["content"][0]["content"]
        self.assertEqual(
            text,
            [
                {
                    "type": "text",
                    "text": "ab c",
                    "marks": [
                        {
                            "type": "link",
                            "attrs": {
                                "href": "https://a.example",
                                "title": "",
                                "window": "here",
                                "paid": False,
                            },
                        },
                        strong,
                    ],
                }
            ],
        )

    def test_the_normal_form_stays_as_it_is(self) -> None:
        once = schema.check(deep(49))
        self.assertEqual(schema.check(once), once)

    def test_code_keeps_its_lines_and_loses_its_marks(self) -> None:
        tree = doc(
            {
                "type": "codeBlock",
                "content": [{"type": "text", "text": "a\nb", "marks": [{"type": "strong"}]}],
            }
        )
        self.assertEqual(schema.check(tree)["content"][0]["content"], [{"type": "text", "text": "a\nb"}])

    def test_an_empty_document_has_a_paragraph(self) -> None:
        self.assertEqual(schema.check({"type": "doc"}), schema.EMPTY)

    def test_unprintable_characters_are_dropped(self) -> None:
        tree = doc({"type": "paragraph", "content": [{"type": "text", "text": "a\x00b\ud800c"}]})
        self.assertEqual(schema.check(tree)["content"][0]["content"][0]["text"], "abc")

    def test_reading_json_names_what_is_wrong(self) -> None:
        for source, message in (
            ("{", "not a document in JSON"),
            ("[" * 100_000, "not a document in JSON"),
            (" " * 5_000_001, "larger than 5 MB"),
        ):
            with self.subTest(message), self.assertRaisesRegex(BadDocument, message):
                schema.read(source)

    def test_the_table_describes_itself_as_data(self) -> None:
        described = json.loads(json.dumps(nodes.description()))
        self.assertEqual(described["nodes"]["video"]["attributes"], ["size", "src", "title"])
        self.assertEqual(
            list(described["marks"]),
            [
                "link",
                "emphasis",
                "strong",
                "underline",
                "strike",
                "superscript",
                "subscript",
                "size",
                "tint",
                "marker",
                "language",
                "code",
            ],
        )
