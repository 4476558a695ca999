import json

from mobbet.actions import blogs, external_media, house_facts, people
from mobbet.core.errors import BadInput, NotAllowed
from mobbet.services.contracts import EmbedFacts
from mobbet.store import blogs as blog_store
from mobbet.store import editions
from mobbet.web.shell.security import SITE_POLICY, policy_of
from tests.shops import ShopCase

PAGE, FRAME = "https://films.example/film", "https://player.films.example/7"


class Films:
    """A host with one film."""

    def tell(self, address: str) -> EmbedFacts | None:
        if address != PAGE:
            raise BadInput("It answered with 404.")
        return EmbedFacts("A film", "Colm", 800, 450, FRAME, "Films", b"")


class VideoTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.shop.services.videos = Films()

    def embed(self, typed: str, person: object = None) -> external_media.Embedded:
        return external_media.embed(self.shop, person or self.me, "bench", typed)

    def allow(self, *hosts: str) -> None:
        for host in hosts:
            house_facts.allow_video_host(self.shop, self.me, "bench", host)

    def colleague(self) -> object:
        person = people.add_person(
            self.shop, name="Petra", email="p@bench.example", password="a long password"
        )
        blogs.add_member(self.shop, self.blog, person, "writer")
        return person

    def test_a_new_blog_allows_no_host(self) -> None:
        self.assertEqual(blog_store.by_id(self.shop.db, self.blog.id).video_hosts, "[]")

    def test_a_host_that_is_not_allowed_leaves_a_link_and_says_how_to_allow_it(self) -> None:
        found = self.embed(PAGE)
        self.assertEqual(
            (found.attrs, found.href, found.words, found.host), ({}, PAGE, "A film", "player.films.example")
        )
        self.assertIn("may not be shown yet, so it stands as a link.", found.message)

    def test_a_writer_is_told_whom_to_ask(self) -> None:
        petra = self.colleague()
        found = self.embed(PAGE, petra)
        self.assertEqual(found.host, "")
        self.assertIn("an owner of the blog can allow it at Site", found.message)
        with self.assertRaises(NotAllowed):
            house_facts.allow_video_host(self.shop, petra, "bench", "films.example")

    def test_an_allowed_host_and_those_below_it_become_an_embed(self) -> None:
        self.allow("films.example")
        attrs = self.embed(PAGE).attrs
        self.assertEqual((attrs["address"], attrs["frame"], attrs["provider"]), (PAGE, FRAME, "Films"))

    def test_code_of_an_allowed_host_becomes_the_same_block(self) -> None:
        self.allow("films.example")
        known = self.embed(f"<iframe src='{FRAME}'></iframe><a href='{PAGE}'>x</a>").attrs
        self.assertEqual(known, self.embed(PAGE).attrs)
        bare = self.embed(f"<iframe src='{FRAME}' title='Film' width=300 height=200></iframe>").attrs
        self.assertEqual(
            (bare["address"], bare["title"], bare["frame"], bare["width"]), (FRAME, "Film", FRAME, 300)
        )

    def test_what_a_host_says_of_a_page_never_widens_what_code_shows(self) -> None:
        self.allow("ours.example")
        found = self.embed(f"<iframe src='https://ours.example/1'></iframe><a href='{PAGE}'>x</a>").attrs
        self.assertEqual(found["frame"], "https://ours.example/1")

    def test_unknown_code_becomes_a_link_with_words(self) -> None:
        for code, href, words in (
            ("<iframe src='https://evil.example/x' title='A map'></iframe>", "https://evil.example/x", "A map"),
            ("<iframe src='https://evil.example/x'></iframe>", "https://evil.example/x", "evil.example"),
            ("<blockquote><a href='https://a.example/9'>What she said</a></blockquote><script src=//a.example/x.js></script>", "https://a.example/9", "What she said"),
        ):  # fmt: skip
            with self.subTest(code):
                found = self.embed(code)
                self.assertEqual((found.attrs, found.href, found.words), ({}, href, words))
                self.assertTrue(found.message)
        with self.assertRaisesRegex(BadInput, "holds no frame and no address"):
            self.embed("<script>alert(1)</script>")

    def test_hosts_are_a_setting_that_is_checked(self) -> None:
        self.allow("films.example", "films.example", "b.example")
        self.assertEqual(
            json.loads(blog_store.by_id(self.shop.db, self.blog.id).video_hosts),
            ["films.example", "b.example"],
        )
        with self.assertRaisesRegex(BadInput, "is no host name"):
            self.allow("b.example; script-src *")


class PageTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        block = f"~~~ mobbet:embed address={json.dumps(PAGE)} frame={json.dumps(FRAME)} title=Film\n~~~"
        forged = '`<a class="facade" href="x" data-frame="https://evil.example/">`'
        self.write("A film", f"{block}\n\n{forged}", date="2020-01-01")
        self.write("Another", date="2020-01-02")

    def page(self, slug: str = "a-film") -> bytes:
        return self.body(editions.page_at(self.shop.db, self.blog.id, f"/posts/{slug}/"))

    def test_a_page_loads_frames_of_hosts_that_are_allowed_when_it_is_written(self) -> None:
        self.assertEqual(policy_of(self.page()), SITE_POLICY)
        self.assertIn(f'<a class="facade" href="{PAGE}">'.encode(), self.page())
        house_facts.allow_video_host(self.shop, self.me, "bench", "films.example")
        self.assertIn(f'data-frame="{FRAME}"'.encode(), self.page())
        self.assertIn("frame-src 'self' https://player.films.example;", policy_of(self.page()))
        self.assertEqual(policy_of(self.page("another")), SITE_POLICY)
        row = editions.page_at(self.shop.db, self.blog.id, "/posts/a-film/")
        self.assertEqual(self.without_server(row), self.site()["/posts/a-film/"])
