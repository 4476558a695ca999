from mobbet.actions import consistency, library, sample_posts
from tests.shops import ShopCase, picture


class CheckingTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        media = library.add_picture(self.shop, self.me, self.blog, "p.png", picture())
        self.write("One", f"![a](media:{media.id})", date="2026-01-01", categories="Lamps > Wiring")
        self.publish()

    def problem(self) -> str:
        return " ".join(consistency.problems(self.shop))

    def break_with(self, sql: str) -> None:
        self.shop.db.run("PRAGMA foreign_keys = OFF")
        self.shop.db.run(sql)

    def test_a_sound_folder_has_no_problem(self) -> None:
        self.assertEqual(consistency.problems(self.shop), [])

    def test_damage_is_found_and_named(self) -> None:
        for sql, words in (
            ("DELETE FROM listing WHERE list = 'all'", "lists of post 1"),
            ("UPDATE revision SET body = '{}'", "is not a sound document"),
            ("UPDATE post SET revision = 99", "points to a text that is missing"),
            ("DELETE FROM person", "refers to a missing person"),
            ("UPDATE edition SET pages = 1", "says 1 pages"),
            ("UPDATE post SET placed_for = 5", "time kept with post 1"),
            ("UPDATE post SET placed_until = NULL", "time kept with post 1"),
        ):
            with self.subTest(words):
                self.shop.db.run("BEGIN")
                self.shop.db.run("ROLLBACK")
                self.break_with(sql)
                self.assertIn(words, self.problem())

    def test_missing_and_changed_files_are_found(self) -> None:
        for shelf in (self.shop.media, self.shop.pages):
            files = [path for path in shelf.folder.rglob("*") if path.is_file() and "." not in path.name]
            files[0].unlink()
            files[1].write_bytes(b"changed")
        for words in ("is missing", "is damaged", "media/", "pages/"):
            self.assertIn(words, self.problem())


class FillingTests(ShopCase):
    def test_the_same_seed_gives_the_same_posts(self) -> None:
        filled = sample_posts.fill(self.shop, 40, 7)
        self.assertEqual(filled.posts, 40)
        self.assertEqual(consistency.problems(self.shop), [])
        titles = [row[0] for row in self.shop.db.all("SELECT title FROM post ORDER BY id")]
        sample_posts.fill(self.shop, 40, 7)
        self.assertEqual(
            [row[0] for row in self.shop.db.all("SELECT title FROM post ORDER BY id")][40:], titles
        )
        self.assertEqual(self.publish(full=True).written, 0)


class LibraryTests(ShopCase):
    def test_the_same_picture_is_kept_once(self) -> None:
        first = library.add_picture(self.shop, self.me, self.blog, "C:\\pictures\\a.png", picture())
        self.assertEqual(library.add_picture(self.shop, self.me, self.blog, "b.png", picture()).id, first.id)
        self.assertEqual((first.name, first.type, first.width), ("a.png", "image/png", 900))
