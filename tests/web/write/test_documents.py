"""What the writing surface asks the server to read, write, clean and compare."""

from mobbet.actions import house_facts, posts
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.document.nodes import defaults
from mobbet.web.shell.static_files import address_of
from tests.shops import picture
from tests.web.test_web import WebCase


class DocumentRouteTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def send(self, path: str, **body: object) -> dict:
        answer = self.ask("POST", path, json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_pasted_html_comes_back_with_what_was_kept_and_dropped(self) -> None:
        answer = self.send(
            "/desk/bench/pasted",
            html="<h2>Head</h2><p><font color=red>a</font> <a href='https://a.example'>b</a></p>",
        )
        self.assertEqual(answer["told"], "Kept 1 heading, 1 link. Dropped fonts, colours and sizes.")

    def test_an_embedded_picture_goes_to_the_library(self) -> None:
        import base64

        data = base64.b64encode(picture(20, 20)).decode()
        answer = self.send(
            "/desk/bench/pasted", html=f"<img src='data:image/png;base64,{data}' alt='A lamp'>"
        )
        self.assertEqual(
            answer["document"]["content"][0]["attrs"],
            {**defaults("picture"), "src": "media:1", "alt": "A lamp"},
        )

    def test_sources_are_read_and_written(self) -> None:
        document = self.send("/documents/source", text="~~~ mobbet:divider\n~~~", format="markdown")[
            "document"
        ]
        self.assertEqual(self.send("/documents/written", document=document, format="html")["text"], "<hr>\n")
        self.assertEqual(
            self.send("/documents/source", text="<p>a<b>", format="html")["notes"],
            ["Line 1: <b> is not closed."],
        )
        refused = self.ask(
            "POST",
            "/documents/source",
            json={"text": "a\n\n~~~ mobbet:x\n~~~", "format": "markdown"},
            headers={"accept": "application/json"},
        )
        self.assertEqual(
            (refused.status_code, refused.json()["message"]),
            (422, "line 3: There is no kind of block named “x”."),
        )

    def test_html_by_hand_is_cleaned_and_what_went_is_named(self) -> None:
        self.assertEqual(
            self.send("/documents/raw", html="<p onclick=x>a</p>"),
            {"html": "<p>a</p>", "removed": ["onclick"]},
        )

    def test_posts_are_found_for_a_link(self) -> None:
        self.write("About lamps", date="2026-01-01")
        self.write("Lamps to come")
        found = self.get("/desk/bench/linkable?words=lam").json()["posts"]
        self.assertEqual(
            sorted((post["title"], post["told"]) for post in found),
            [("About lamps", "post, out"), ("Lamps to come", "post, not out yet")],
        )

    def test_headings_have_anchors_told(self) -> None:
        self.assertEqual(
            self.send("/documents/anchors", document=from_markdown("## A b\n\n## A b"))["anchors"],
            ["a-b", "a-b-2"],
        )

    def test_a_sheet_is_compared_with_the_working_text(self) -> None:
        post = self.write("Lamps", "one two\n\nthree four")
        rows = self.send(
            f"/posts/{post.id}/compared", mine={"document": from_markdown("one two\n\nthree five")}
        )["rows"]
        self.assertEqual([row["kind"] for row in rows], ["same", "changed"])
        self.assertEqual(
            (rows[1]["before"], rows[1]["now"]),
            ("<p>three <del>four</del></p>", "<p>three <ins>five</ins></p>"),
        )

    def test_a_save_that_was_never_answered_is_followed_by_the_next(self) -> None:
        post = posts.begin_post(self.shop, self.me, "bench")
        sheet = {"title": "T", "subtitle": "", "document": from_markdown("one"), "base": 1}
        self.assertEqual(
            self.ask("PUT", f"/posts/{post.id}/text", json={**sheet, "key": "lost"}).status_code, 200
        )
        later = {**sheet, "document": from_markdown("one two"), "key": "next"}
        self.assertEqual(
            self.ask("PUT", f"/posts/{post.id}/text", json={**later, "after": ["other"]}).status_code, 409
        )
        self.assertEqual(
            self.ask("PUT", f"/posts/{post.id}/text", json={**later, "after": ["other", "lost"]}).status_code,
            200,
        )

    def test_a_text_is_saved_only_as_that_of_whoever_wrote_it(self) -> None:
        post = posts.begin_post(self.shop, self.me, "bench")
        sheet = {"title": "T", "subtitle": "", "document": from_markdown("one"), "base": 1}
        other = self.ask("PUT", f"/posts/{post.id}/text", json={**sheet, "person": self.me.id + 1})
        self.assertEqual(other.status_code, 401)
        self.assertIn("was written by somebody else in this browser", other.json()["message"])
        mine = self.ask("PUT", f"/posts/{post.id}/text", json={**sheet, "person": self.me.id})
        self.assertEqual(mine.status_code, 200)

    def test_what_is_not_of_this_blog_is_refused(self) -> None:
        for path in (
            "/desk/bench/kept/99",
            "/desk/bench/kept/99/shown",
            "/desk/other/kept/",
            "/posts/99/revisions",
        ):
            with self.subTest(path):
                self.assertEqual(self.get(path).status_code, 404)

    def test_a_writer_may_not_change_the_house_style_but_may_keep_blocks(self) -> None:
        kept = self.send("/desk/bench/kept/", name="Safety", blocks=from_markdown("Unplug it.")["content"])
        self.assertIn("Unplug it.", self.get(f"/desk/bench/kept/{kept['id']}").text)
        twice = self.ask(
            "POST",
            "/desk/bench/kept/",
            json={"name": "Safety", "blocks": []},
            headers={"accept": "application/json"},
        )
        self.assertIn("is kept already", twice.json()["message"])

    def test_the_page_of_a_post_has_its_fill_ins_rules_and_review(self) -> None:
        house_facts.give_facts(
            self.shop, self.me, "bench", fact="phone: 21 000", link_rule="shop.example paid"
        )
        body = (
            'Call <span data-fill-in="phone"></span>, says <span data-fill-in="author"></span>. See [flex](https://www.shop.example/).\n\n'
            '~~~ mobbet:review name=Stripper criteria=[["Grip",8,1]]\n~~~'
        )
        self.write("Tools", body, date="2026-01-01")
        self.publish()
        page = self.get("/b/bench/posts/tools/").text
        self.assertIn("Call 21 000, says Ines Farrow.", page)
        self.assertIn('<a href="https://www.shop.example/" rel="sponsored nofollow">flex</a>', page)
        self.assertIn('"@type":"Review"', page)
        self.assertIn("Call 21 000", self.get("/b/bench/feed.json").text)

    def test_the_worker_that_saves_may_ask_the_server_and_nothing_else(self) -> None:
        policy = self.get(address_of("saver.js")).headers["content-security-policy"]
        self.assertEqual(policy, "default-src 'none'; connect-src 'self'")
        self.assertEqual(
            self.get(address_of("editor.js")).headers["content-security-policy"], "default-src 'none'"
        )

    def test_the_service_worker_stands_at_the_root(self) -> None:
        answer = self.get("/worker.js")
        self.assertEqual(
            (answer.status_code, answer.headers["content-type"]), (200, "text/javascript; charset=utf-8")
        )


class RevisionRouteTests(WebCase):
    def test_one_revision_has_nothing_to_compare(self) -> None:
        self.sign_in()
        post = posts.begin_post(self.shop, self.me, "bench")
        page = self.get(f"/posts/{post.id}/revisions").text
        self.assertIn("There is one revision so far", page)
        self.assertNotIn("Compare</button>", page)
