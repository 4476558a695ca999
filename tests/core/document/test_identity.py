import json
import unittest
from random import Random

from mobbet.core.document import schema
from mobbet.core.document.from_html import from_html
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.html import Html
from mobbet.core.document.write import to_html, to_markdown, to_text
from mobbet.core.errors import BadDocument
from tests.core.document.generating import BLOCKS, Maker

SEEDS = range(250)


def nested(seed: int) -> dict:
    """A document that nests one kind of block in another as deep as it may."""
    random = Random(seed)
    paragraph = {"type": "paragraph", "content": [{"type": "text", "text": "x"}]}
    node, depth = paragraph, 2
    while depth < schema.DEEPEST - 2:
        kind = random.choice(("quote", "callout", "bulletList", "beside", "table"))
        if kind == "bulletList":
            node, depth = (
                {"type": kind, "content": [{"type": "listItem", "content": [paragraph, node]}]},
                depth + 2,
            )
        elif kind == "beside":
            node, depth = (
                {
                    "type": kind,
                    "content": [{"type": "side", "content": [side]} for side in (node, paragraph)],
                },
                depth + 2,
            )
        elif kind == "table":
            cell = {"type": "tableCell", "content": [node]}
            node, depth = {"type": kind, "content": [{"type": "tableRow", "content": [cell]}]}, depth + 3
        else:
            node, depth = {"type": kind, "content": [node]}, depth + 1
    if depth > schema.DEEPEST:
        return nested(seed + 1000)
    return schema.check({"type": "doc", "content": [node]})


class IdentityTests(unittest.TestCase):
    def test_every_document_comes_back_from_its_html(self) -> None:
        for seed in SEEDS:
            document = Maker(seed).document()
            with self.subTest(seed):
                self.assertEqual(from_html(to_html(document)), document)

    def test_every_document_comes_back_from_its_markdown(self) -> None:
        for seed in SEEDS:
            document = Maker(seed).document()
            with self.subTest(seed):
                self.assertEqual(from_markdown(to_markdown(document)), document)

    def test_documents_nested_to_the_limit_come_back(self) -> None:
        for seed in range(20):
            document = nested(seed)
            with self.subTest(seed):
                self.assertEqual(from_html(to_html(document)), document)
                self.assertEqual(from_markdown(to_markdown(document)), document)

    def test_every_kind_is_made_and_can_be_written_everywhere(self) -> None:
        names = set()
        for name in BLOCKS:
            document = schema.check({"type": "doc", "content": [Maker(7).node(name, 1)]})
            names.add(document["content"][0]["type"])
            with self.subTest(name):
                to_html(document, Html(is_page=True))
                to_text(document)
                self.assertEqual(schema.load(json.dumps(document)), document)
        self.assertEqual(names, set(BLOCKS))

    def test_the_normal_form_of_a_made_document_is_itself(self) -> None:
        for seed in SEEDS:
            document = Maker(seed).document()
            self.assertEqual(schema.check(document), document)

    def test_attributes_that_came_later_have_their_defaults(self) -> None:
        kept = '{"type":"doc","content":[{"type":"paragraph","content":[{"type":"text","text":"x"}]}]}'
        self.assertEqual(schema.load(kept), schema.check(schema.load(kept)))

    def test_a_mistake_in_the_notation_is_named_with_its_line(self) -> None:
        for source, message in (
            ("one\n\n~~~ mobbet:bubble\n~~~", "line 3: There is no kind of block named “bubble”"),
            ("~~~ mobbet:callout colour=red\n~~~", "line 1: “callout” has no “colour”"),
            ('~~~ mobbet:callout title="x\n~~~', "line 1: The value of “title” cannot be read"),
            ("~~~ mobbet:callout nonsense\n~~~", "line 1: “nonsense” is no name=value pair"),
            ("~~~~ mobbet:callout\nx\n\n~~~ mobbet:beside\n~~~\n~~~~", "line 4: “beside” cannot be empty"),
            ("~~~ mobbet:callout sign=whale\n~~~", 'cannot have "whale" as its “sign”'),
        ):
            with self.subTest(source), self.assertRaises(BadDocument) as caught:
                from_markdown(source)
            self.assertIn(message, str(caught.exception))
