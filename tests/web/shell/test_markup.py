from html.parser import HTMLParser

from tests.web.test_web import WebCase

VOID = frozenset("area base br col hr img input link meta source track wbr".split())
PHRASES = frozenset("span p a b i em strong small label button h1 h2 h3 h4 summary".split())
BLOCKS = frozenset(
    "div p form details fieldset ul ol dl table section article aside nav header figure h1 h2 h3".split()
)
MAY_HOLD = {("summary", name) for name in ("h1", "h2", "h3")} | {("a", name) for name in BLOCKS}
"""What HTML allows all the same: a heading in a summary, and a link around anything."""


class Faults(HTMLParser):
    """Where the markup of a page is not HTML: blocks in phrases, attributes of nobody, links to nowhere."""

    def __init__(self, page: str) -> None:
        super().__init__()
        self.open: list[str] = []
        self.found: list[str] = []
        self.feed(page)

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        over = self.open[-1] if self.open else ""
        if over in PHRASES and tag in BLOCKS and (over, tag) not in MAY_HOLD:
            self.found.append(f"{tag} in {over}")
        if over == "figure" and tag in ("form", "div"):
            self.found.append(f"{tag} in figure")
        names = dict(attrs)
        if tag == "a" and "href" not in names:
            self.found.append("a without href")
        self.found += [f"{name} on {tag}" for name in names if name.startswith("hx-")]
        if tag not in VOID and "svg" not in self.open:
            self.open.append(tag)

    def handle_endtag(self, tag: str) -> None:
        if tag in self.open:
            while self.open.pop() != tag:
                pass


class MarkupTests(WebCase):
    def test_screens_are_html(self) -> None:
        self.sign_in()
        post = self.write("A lamp", "Words.", date="2026-01-01", categories="Lamps", tags="flex")
        self.write("A zip", "Words.", date="2026-12-01")
        self.publish()
        desk = "/desk/bench"
        for path in (
            desk, f"{desk}/write", f"{desk}/timetable", f"{desk}/rhythm", f"{desk}/library", f"{desk}/filing", f"{desk}/filing/tags", f"{desk}/filing/addresses",
            f"{desk}/readers", f"{desk}/comments", f"{desk}/site", f"{desk}/site/look", "/blogs/new", f"{desk}/site/editions", f"{desk}/site/targets", f"{desk}/site/backups", f"{desk}/site/in-and-out", "/account/programs", "/allow?response_type=code&client_id=https%3A%2F%2Fpencil.example%2F&redirect_uri=https%3A%2F%2Fpencil.example%2Fback&code_challenge=E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM&code_challenge_method=S256&scope=create+media", f"{desk}/site/menu", f"{desk}/site/menu?at=menu.1", f"{desk}/proof", f"{desk}/moment",
            f"/posts/{post.id}", f"/posts/{post.id}/preview", f"/posts/{post.id}/revisions", "/account",
        ):  # fmt: skip
            with self.subTest(path):
                answer = self.get(path)
                self.assertEqual(answer.status_code, 200)
                self.assertEqual(Faults(answer.text).found, [])

    def test_what_is_no_html_is_seen(self) -> None:
        faulty = '<span><details></details></span><figure><form></form></figure><a>x</a><p hx-get="/"></p>'
        self.assertEqual(
            Faults(faulty).found, ["details in span", "form in figure", "a without href", "hx-get on p"]
        )
