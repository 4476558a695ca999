"""A post on a background of its own, as readers get it."""

from mobbet.actions import library, looks, own_look, placing
from mobbet.core.errors import BadInput
from mobbet.core.values import existing
from mobbet.store import editions, posts
from tests.shops import ShopCase, picture


class OwnLookCase(ShopCase):
    def prepare(self) -> None:
        super().prepare()
        library.add_picture(self.shop, self.me, self.blog, "sky.png", picture())
        for number in (1, 2):
            self.write(f"Post {number}", categories="Lamps", date=f"2026-01-0{number}")
        self.publish()

    def paths(self) -> dict[str, str]:
        return {row.path: row.hash for row in editions.pages(self.shop.db, self.blog.id)}

    def html(self, path: str) -> str:
        return existing(self.body(existing(editions.page_at(self.shop.db, self.blog.id, path)))).decode()

    def has_files(self) -> bool:
        return any(row.key.kind == "media" for row in editions.pages(self.shop.db, self.blog.id))

    def give(self, paper: str = "#102018", accent: str = "", picture: str = "") -> None:
        own_look.set_own_look(self.shop, self.me, 1, paper=paper, accent=accent, picture=picture)
        placing.place(self.shop, self.me, 1)


class ShowingTests(OwnLookCase):
    def test_its_page_has_a_style_sheet_of_its_own_and_no_other_page_changes(self) -> None:
        before = self.paths()
        self.give()
        self.assertIn("look-of-1.css", self.html("/lamps/post-1/"))
        self.assertIn("--paper: #102018", self.html("/look-of-1.css"))
        changed = {path for path, hash in self.paths().items() if before.get(path) != hash}
        pages = {path for path in changed if not path.startswith("/sitemap") and "feed" not in path}
        self.assertEqual(pages, {"/lamps/post-1/", "/look-of-1.css"})
        self.assertEqual(self.publish(full=True).written, 0)

    def test_other_colours_of_the_site_rewrite_its_style_sheet_and_not_its_page(self) -> None:
        self.give(paper="", accent="#0b4f6c")
        before = self.paths()
        looks.try_colour(self.shop, self.me, "bench", "light", "paper", "#f4f4ff")
        looks.give(self.shop, self.me, "bench")
        after = self.paths()
        changed = {path for path, hash in after.items() if before.get(path) != hash}
        self.assertEqual(changed, {"/look.css", "/look-of-1.css", "/site.webmanifest"})
        self.assertEqual(self.publish(full=True).written, 0)

    def test_a_picture_on_top_comes_with_its_files_and_goes_with_them(self) -> None:
        self.give(paper="", picture="1")
        self.publish()
        self.assertIn('class="own-top"', self.html("/lamps/post-1/"))
        self.assertTrue(self.has_files())
        self.assertNotIn("/look-of-1.css", self.paths())
        self.give(paper="")
        self.assertFalse(self.has_files())
        self.assertEqual(self.publish(full=True).written, 0)

    def test_the_style_sheet_of_a_restricted_post_is_not_for_everyone(self) -> None:
        posts.settle(self.shop.db, 1, self.clock(), visibility="signed-in")
        self.give()
        row = existing(editions.page_at(self.shop.db, self.blog.id, "/look-of-1.css"))
        self.assertEqual(row.audience, "signed-in")

    def test_what_is_no_picture_of_the_blog_is_refused(self) -> None:
        for number in ("99", "-1", "²", "x"):
            if number in ("99",):
                with self.assertRaisesRegex(BadInput, "no such picture"):
                    self.give(picture=number)
            else:
                self.give(picture=number)
                self.assertNotIn("own-top", self.html("/lamps/post-1/"))
