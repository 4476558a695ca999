import unittest

from mobbet.core.document.from_html import from_html
from mobbet.core.document.write import to_html
from mobbet.core.errors import BadDocument

KEPT = (
    ("<p>one</p><p>two</p>", "<p>one</p>\n<p>two</p>"),
    ("loose words<p>one</p>", "<p>loose words</p>\n<p>one</p>"),
    ("<div>a<div>b</div>c</div>", "<p>a</p>\n<p>b</p>\n<p>c</p>"),
    ("<h2>Head <b>bold</b></h2>", '<h2>Head <strong>bold</strong></h2>'),
    ("<p><span style='font-weight:700'>b</span></p>", "<p><strong>b</strong></p>"),
    ("<p><span style='font-style: italic'>i</span></p>", "<p><em>i</em></p>"),
    ("<b><p>bold block</p></b>", "<p><strong>bold block</strong></p>"),
    ("<ul><li>a<ul><li>b</li></ul></li></ul>", "<ul>\n<li>a\n<ul>\n<li>b</li>\n</ul>\n</li>\n</ul>"),
    ("<ul><li>a</li><ul><li>b</li></ul></ul>", "<ul>\n<li>a\n<ul>\n<li>b</li>\n</ul>\n</li>\n</ul>"),
    ("<ol start=4><li>a</li></ol>", '<ol start="4">\n<li>a</li>\n</ol>'),
    ("<blockquote>said</blockquote>", "<blockquote>\n<p>said</p>\n</blockquote>"),
    ("<pre><code class='language-py'>x = 1\n</code></pre>", '<pre><code class="language-py">x = 1\n</code></pre>'),
    ("<p>a<br>b</p>", "<p>a<br>\nb</p>"),
    ("<p>  many \n spaces&nbsp; here </p>", "<p>many spaces here</p>"),
    ("<hr>", "<hr>"),
    ("<table><tr><td>1</td><td>2</td></tr></table>", "<p>1</p>\n<p>2</p>"),
    ("<p><a href='https://x.example/?a=1&b=2'>x</a></p>", '<p><a href="https://x.example/?a=1&amp;b=2">x</a></p>'),
    ("<p>one <img src='a.png' alt='A'> two</p>", '<p>one</p>\n<p><img src="a.png" alt="A"></p>\n<p>two</p>'),
    ("<figure><img src='a.png'><figcaption>c</figcaption></figure>", '<p><img src="a.png" alt="" title="c"></p>'),
    ("", ""),
)  # fmt: skip
DROPPED = (
    "<script>alert(1)</script>", "<style>p{}</style>", "<iframe src='https://x.example'></iframe>", "<svg><script>1</script></svg>",
    "<img src=x onerror=alert(1)>", "<a href='javascript:alert(1)'>x</a>", "<a href='java\tscript:alert(1)'>x</a>",
    "<a href='&#x1;javascript:alert(1)'>x</a>", "<a href='vbscript:x'>x</a>", "<img src='data:text/html,x'>", "<p onclick='x()'>x</p>",
    "<math><mi xlink:href='javascript:x'>", "<object data=x></object>", "<a href=' jAvAsCrIpT&colon;alert(1)'>x</a>",
)  # fmt: skip


class FromHtmlTests(unittest.TestCase):
    def test_structure_is_kept(self) -> None:
        for source, wanted in KEPT:
            with self.subTest(source):
                self.assertEqual(to_html(from_html(source)), wanted)

    def test_nothing_that_runs_or_loads_comes_through(self) -> None:
        for source in DROPPED:
            with self.subTest(source):
                html = to_html(from_html(source)).lower()
                for bad in ("script", "onerror", "onclick", "<iframe", "<svg", "data:", "<object", "<style"):
                    self.assertNotIn(bad, html)

    def test_its_own_html_comes_back_the_same(self) -> None:
        for source, _ in KEPT:
            with self.subTest(source):
                document = from_html(source)
                self.assertEqual(from_html(to_html(document)), document)

    def test_deep_nesting_is_read_as_plain_words_and_deeper_refused(self) -> None:
        document = from_html("<div>" * 1500 + "deep" + "</div>" * 1500)
        self.assertEqual(to_html(document), "<p>deep</p>")
        with self.assertRaisesRegex(BadDocument, "nests elements more than 2,000 deep"):
            from_html("<div>" * 3000 + "deep" + "</div>" * 3000)

    def test_too_much_is_refused_with_a_remedy(self) -> None:
        with self.assertRaisesRegex(BadDocument, "larger than 5 MB; bring it in in parts"):
            from_html("x" * 5_000_001)
