from types import SimpleNamespace
from unittest import mock

from mobbet.publish.pages import post as pages
from mobbet.publish.render_cache import RenderCache, TrackedItems
from mobbet.store import cached, editions
from tests.shops import ShopCase


class MemoTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.items = {7: SimpleNamespace(version=1)}

    def memo(self, version: str = "a", row: cached.Cached | None = None) -> RenderCache:
        return RenderCache(lambda posts: {post_id: row for post_id in posts if row}, self.items.get, version)

    def of(self, post_id: int) -> cached.Cached | None:
        return cached.of_posts(self.shop.db, [post_id]).get(post_id)

    def worked(self, memo: RenderCache, what: str, facts: str, value: str = "made now") -> str:
        """What the memo answers of post 3, which shows the items 7 and 8; that value where it has to make it."""
        items = TrackedItems(self.items.get)
        return memo.worked(
            what, 3, facts, items, lambda: {"value": value, "shows": bool(items(7) and items(8))}
        )["value"]

    def kept(self) -> cached.Cached:
        memo = self.memo()
        self.worked(memo, "card", "facts", "a card")
        self.worked(memo, "page", "more", "a page")
        return memo.given_up()[0]

    def test_it_answers_for_the_same_facts_alone(self) -> None:
        memo = self.memo(row=self.kept())
        for what, facts, found in (
            ("card", "facts", "a card"),
            ("page", "more", "a page"),
            ("card", "other facts", "made now"),
        ):
            with self.subTest(what, facts=facts):
                self.assertEqual(self.worked(memo, what, facts), found)
        self.assertEqual(
            self.worked(self.memo("b", self.kept()), "card", "facts"),
            "made now",
            "another version of Mobbet works it out anew",
        )

    def test_it_forgets_what_asked_for_an_item_that_changed_or_came(self) -> None:
        row = self.kept()
        self.assertEqual(self.worked(self.memo(row=row), "page", "more"), "a page")
        for number, version in ((7, 2), (8, 1)):
            with (
                self.subTest(number),
                mock.patch.dict(self.items, {number: SimpleNamespace(version=version)}),
            ):
                self.assertEqual(self.worked(self.memo(row=row), "page", "more"), "made now")

    def test_what_it_gave_up_is_no_longer_its_own(self) -> None:
        memo = self.memo()
        self.worked(memo, "card", "facts")
        self.assertEqual([row.post_id for row in memo.given_up()], [3])
        self.assertEqual(memo.given_up(), [])

    def test_a_full_build_takes_texts_from_it_and_gives_the_same_bytes(self) -> None:
        self.write(
            "One",
            "# One\n\nSome *words* and [a link](https://out.example/).\n\n- a\n- b",
            date="2026-01-01",
            tags="flex",
            categories="Lamps",
        )
        self.write("Two", "More words.", date="2026-02-01", excerpt="In short.")
        self.publish()
        before = self.site()
        with mock.patch.object(pages, "_written", side_effect=AssertionError("written again")):
            self.assertEqual(self.publish(full=True).written, 0)
        self.assertEqual(self.site(), before)

    def test_what_changed_is_worked_out_anew(self) -> None:
        post = self.write("One", "Some words.", date="2026-01-01")
        self.publish()
        old = self.of(post.id)
        with self.shop.db.transaction():
            self.shop.db.run("UPDATE blog SET name = 'Another name'")
            self.shop.db.run("UPDATE placement SET excerpt = 'Another beginning.'")
        self.publish(full=True)
        self.assertNotEqual(self.of(post.id).card_key, old.card_key)
        self.assertIn(b"Another beginning.", self.site()["/"])
        page = self.body(editions.page_of(self.shop.db, self.blog.id, f"post/{post.id}"))
        self.assertIn(b'<meta property="og:site_name" content="Another name">', page)

    def test_what_the_head_says_follows_the_filing_and_the_house(self) -> None:
        post = self.write("One", "Some words.", date="2026-01-01", tags="flex", categories="Lamps")
        self.publish()
        for change, words in (
            ("UPDATE tag SET name = 'wire'", b'<meta property="article:tag" content="wire">'),
            ("UPDATE category SET name = 'Lights'", b'<meta property="article:section" content="Lights">'),
            (
                "UPDATE blog SET home = 'https://other.example/'",
                b'<link rel="canonical" href="https://other.example/',
            ),
            ("UPDATE blog SET label = 'Notes'", "<title>One · Notes · The Bench</title>".encode()),
        ):
            with self.subTest(change):
                with self.shop.db.transaction():
                    self.shop.db.run(change)
                self.publish(full=True)
                self.assertIn(
                    words, self.body(editions.page_of(self.shop.db, self.blog.id, f"post/{post.id}"))
                )

    def test_a_card_alone_leaves_the_text_that_another_process_worked_out(self) -> None:
        post = self.write("One")
        row = self.kept()._replace(post_id=post.id)
        with self.shop.db.transaction():
            cached.put(self.shop.db, [row])
            cached.put(self.shop.db, [row._replace(card_key="new", card=b"n", page_key="", page=b"")])
        self.assertEqual(self.of(post.id), row._replace(card_key="new", card=b"n"))

    def test_a_post_that_is_gone_keeps_nothing(self) -> None:
        with self.shop.db.transaction():
            cached.put(self.shop.db, [self.kept()._replace(post_id=99)])
        self.assertIsNone(self.of(99))
