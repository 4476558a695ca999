import unittest

from mobbet.core.errors import BadInput
from mobbet.media.svg import clean_svg

SVG = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 40 20"{more}>{inner}</svg>'


def clean(inner: str, more: str = "") -> str:
    return clean_svg(SVG.format(inner=inner, more=more).encode(), "a.svg")[0].decode()


class SvgTests(unittest.TestCase):
    def test_what_draws_is_kept(self) -> None:
        kept = clean(
            '<defs><linearGradient id="g"><stop stop-color="red"/></linearGradient></defs><rect width="9" height="9" fill="url(#g)" style="opacity:.5"/><use href="#g"/>'
        )
        for part in (
            "linearGradient",
            'fill="url(#g)"',
            "opacity:.5",
            'href="#g"',
            'width="40"',
            'height="20"',
        ):
            self.assertIn(part, kept)

    def test_nothing_runs_loads_or_leads_elsewhere(self) -> None:
        for inner in (
            "<script>alert(1)</script>", '<rect onclick="x()"/>', '<image href="https://x.example/a.png"/>', '<use xlink:href="https://x.example/a.svg#b"/>',
            '<a href="javascript:alert(1)"><rect/></a>', "<foreignObject><body xmlns='http://www.w3.org/1999/xhtml'><iframe src='x'/></body></foreignObject>",
            "<style>@import url(https://x.example/)</style>", '<rect style="background:url(https://x.example/)"/>', '<rect fill="url( \'https://x.example/#a\')"/>',
            '<animate attributeName="href" to="javascript:alert(1)"/>', '<set attributeName="onload" to="x"/>', '<rect style="fill:\\75rl(https://x.example)"/>',
            '<x:script xmlns:x="http://www.w3.org/1999/xhtml">alert(1)</x:script>', '<use href="data:image/svg+xml;base64,AAAA"/>',
        ):  # fmt: skip
            with self.subTest(inner):
                self.assertNotRegex(
                    clean(inner, ' onload="x()"'),
                    r"script|onclick|onload|x\.example|iframe|import|animate|<set|data:",
                )

    def test_a_size_is_found_or_made(self) -> None:
        for more, size in (
            ("", (40, 20)),
            (' width="80"', (80, 40)),
            (' width="2in" height="1in"', (192, 96)),
            (' width="100%"', (40, 20)),
        ):
            with self.subTest(more):
                self.assertEqual(clean_svg(SVG.format(inner="", more=more).encode(), "a.svg")[1:], size)

    def test_hostile_drawings_are_refused_in_words(self) -> None:
        entities = '<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]>' + SVG.format(
            inner="<text>&b;</text>", more=""
        )
        levels = (
            "".join(f'<g id="l{at}">{f"""<use href="#l{at - 1}"/>""" * 12}</g>' for at in range(1, 9))
            + '<g id="l0"><rect/></g>'
        )
        for source, message in (
            (entities, "defines entities"), ("<svg", "no sound SVG"), ("<html/>", "no SVG drawing"), (SVG.format(inner=levels, more=""), "copies of copies"),
            (SVG.format(inner='<g id="a"><use href="#a"/></g>', more=""), "copies of copies"), (SVG.format(inner="<g/>" * 20_001, more=""), "more than 20,000 parts"),
            (" " * 2_000_001, "more than 2 MB"),
        ):  # fmt: skip
            with self.subTest(message), self.assertRaisesRegex(BadInput, message):
                clean_svg(source.encode(), "a.svg")
