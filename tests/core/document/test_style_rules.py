"""Text that is dressed by the style rules of its own page keeps what they mean."""

import unittest

from mobbet.core.document.from_html import read_html
from mobbet.core.document.style_rules import read_rules
from mobbet.core.document.write import to_markdown

BODY = "Some words of the text, which are long enough to be most of it."
READ = {
    "headings by size": (
        f'<style>p.h1 {{font-size:20pt; font-weight:bold}} .big{{font-size:16pt;font-weight:700}} p.body{{font-size:11pt}}</style><p class="h1">A title</p><p class="body">{BODY}</p><p class="big">Below</p><p class="body">{BODY}</p>',
        f"# A title\n\n{BODY}\n\n## Below\n\n{BODY}\n",
    ),
    "headings by the size of their words": (
        f'<style>.x{{font-size:24px}}</style><p><span class="x">Above</span></p><p>{BODY}</p>',
        f"## Above\n\n{BODY}\n",
    ),
    "a large word alone is none": (
        f'<style>.x{{font-size:24px}}</style><p>A <span class="x">large</span> word.</p><p>{BODY}</p>',
        f"A large word.\n\n{BODY}\n",
    ),
    "bold by class with plain words inside": (
        '<style>.b{font-weight:bold}</style><p class="b">Bold <span style="font-weight:normal">and plain</span> again</p>',
        "<strong>Bold </strong>and plain<strong> again</strong>\n",
    ),
    "lines of a code editor": (
        '<div style="font-family: Consolas, monospace; white-space: pre;"><div><span>def</span> f(x):</div><div>    return x</div><br><div>f(1)</div></div>',
        "```\ndef f(x):\n    return x\n\nf(1)\n```\n",
    ),
    "lines of a code editor that are dressed by class": (
        '<style>.c { font-family: "Fira Code", monospace; white-space: pre }</style><div class="c"><div>f(1)</div><div>  g(2)</div></div>',
        "```\nf(1)\n  g(2)\n```\n",
    ),
    "definitions": (
        "<dl><dt>Flex</dt><dd>A wire.</dd><div><dt>Fuse</dt><dd>It melts.</dd></div></dl>",
        "**Flex**\n\nA wire.\n\n**Fuse**\n\nIt melts.\n",
    ),
}
DROPPED = {
    '<p style="text-align: justify">a</p>': "justified text",
    '<p><a href="javascript:alert(1)">a</a></p>': "links with an unsafe address",
    '<p>a<img src="https://t.example/p.gif" width="1" height="1"></p>': "tracking pictures",
    '<p>a<img src="https://t.example/p.gif" style="width:1px;height:1px"></p>': "tracking pictures",
}


class StyleRuleTests(unittest.TestCase):
    def test_what_the_rules_mean_is_kept(self) -> None:
        for name, (html, markdown) in READ.items():
            with self.subTest(name):
                self.assertEqual(to_markdown(read_html(html).document), markdown)

    def test_what_is_left_out_is_told(self) -> None:
        for html, name in DROPPED.items():
            with self.subTest(name):
                self.assertEqual(dict(read_html(html).dropped), {name: 1})

    def test_nothing_but_rules_for_classes_is_read(self) -> None:
        rules = read_rules(
            "<style>p{a:b} .x, p.y {Color: Red} #z .q{a:b} @media x{.m{a:b}}</style><style>.x{font-size:2em"
        )
        self.assertEqual(rules[".x"], {"color": "red"})
        self.assertEqual(rules["p.y"], {"color": "red"})
        self.assertNotIn(".q", rules)
