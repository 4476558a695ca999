import io
import unittest

from PIL import Image

from mobbet.actions import aside, consistency, desk, people
from mobbet.demo.drawings import DRAWINGS, SIZE, draw
from mobbet.demo.make import ACCOUNT, POSTS
from mobbet.store import blogs
from mobbet.store import desk as store
from mobbet.wiring import open_folder
from tests.browser.browsing import demo_copy
from tests.shops import ShopCase


class DemoTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        (self.folder / "demo").mkdir()
        self.demo = open_folder(demo_copy(self.folder / "demo"))
        self.addCleanup(self.demo.db.close)

    def test_the_demo_is_sound_and_has_both_blogs(self) -> None:
        self.assertEqual(consistency.problems(self.demo), [])
        self.assertEqual([blog.slug for blog in blogs.every(self.demo.db)], ["mending-bench", "ferry-log"])
        self.assertEqual(
            {blog.zone for blog in blogs.every(self.demo.db)}, {"Europe/Lisbon", "Atlantic/Azores"}
        )

    def test_the_timetable_is_half_past_and_half_ahead(self) -> None:
        blog = blogs.by_slug(self.demo.db, "mending-bench")
        in_hand, timetable, pages, published = (desk.group(self.demo, blog, name) for name in desk.GROUPS)
        self.assertEqual((len(timetable.rows), timetable.more), (3, None))
        self.assertIsNotNone(published.more)
        self.assertGreaterEqual(len(in_hand.rows), 4)
        self.assertEqual(len(pages.rows), 5)
        self.assertEqual(self.demo.press.publish(1, self.demo.clock()).written, 0)

    def test_what_is_set_aside_is_still_kept(self) -> None:
        self.assertEqual(aside.remove_aged(self.demo), 0)
        self.assertEqual(len(store.set_aside(self.demo.db, 1, 10)), 1)

    def test_the_account_that_is_told_signs_in(self) -> None:
        self.assertEqual(people.sign_in(self.demo, *ACCOUNT).person.name, "Ines Farrow")


class SourceTests(unittest.TestCase):
    def test_every_drawing_is_a_picture_of_the_same_size(self) -> None:
        for name in DRAWINGS:
            with self.subTest(name):
                self.assertEqual(Image.open(io.BytesIO(draw(name))).size, SIZE)

    def test_the_texts_name_no_real_address(self) -> None:
        for file in POSTS.glob("*.md"):
            self.assertNotRegex(file.read_text(), r"https?://(?![\w.-]+\.example)")
