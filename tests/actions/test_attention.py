from mobbet.actions import attention, blogs, presence, proofing
from mobbet.actions import people as people_actions
from mobbet.actions.read_counts import Hit, count
from mobbet.core.errors import BadInput, NotAllowed
from mobbet.store import blogs as blog_store
from tests.shops import DAY, ShopCase


class LookAgainTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.lamp = self.write("A lamp", date="2025-06-01").id
        self.write("Seldom read", date="2025-06-02")
        self.publish()
        for path, times in (("/posts/a-lamp/", 30), ("/posts/seldom-read/", 3), ("/", 99)):
            self.read(path, times)

    def read(self, path: str, times: int) -> None:
        count(self.shop, self.blog, [Hit(self.clock(), path, "", "192.0.2.1", "Firefox", "", "", "")] * times)

    def old(self) -> list[str]:
        blog = blog_store.by_id(self.shop.db, self.blog.id)
        return [want.title for want in attention.wants(self.shop, self.me, blog) if want.what == "old"]

    def test_an_old_post_that_is_read_much_is_to_be_looked_at_until_somebody_did(self) -> None:
        self.clock.forward(366 * DAY)
        self.assertEqual(self.old(), [])  # it was not read of late
        self.read("/posts/a-lamp/", 30)
        self.assertEqual(self.old(), ["A lamp"])
        attention.still_holds(self.shop, self.me, "bench", self.lamp)
        self.assertEqual(self.old(), [])

    def test_the_owner_says_after_how_long(self) -> None:
        self.assertEqual(self.old(), ["A lamp"])
        attention.look_again_after(self.shop, self.me, "bench", "900")
        self.assertEqual(self.old(), [])
        attention.look_again_after(self.shop, self.me, "bench", "0")
        self.assertEqual(self.old(), [])
        with self.assertRaisesRegex(BadInput, "“-1” is no number of days"):
            attention.look_again_after(self.shop, self.me, "bench", "-1")

    def test_only_a_keeper_says_that_it_holds(self) -> None:
        writer = people_actions.add_person(
            self.shop, name="Laran", email="laran@bench.example", password="a long password"
        )
        blogs.add_member(self.shop, self.blog, writer, "writer")
        with self.assertRaises(NotAllowed):
            attention.still_holds(self.shop, writer, "bench", self.lamp)


class PresenceTests(ShopCase):
    def test_who_has_a_post_open_is_known_for_a_minute(self) -> None:
        self.assertEqual(self.write("A lamp").id, 1)
        presence.note(self.shop, self.me, 1)
        self.assertEqual(
            (presence.on_it(self.shop, 1), presence.on_it(self.shop, 1, but=self.me.id)),
            (["Ines Farrow"], []),
        )
        self.clock.forward(61)
        self.assertEqual(presence.on_it(self.shop, 1), [])
        presence.note(self.shop, self.me, 1)
        presence.leave(self.shop, self.me, 1)
        self.assertEqual(presence.on_it(self.shop, 1), [])


class MarksTests(ShopCase):
    def test_a_post_that_goes_out_soon_tells_how_many_marks_it_has(self) -> None:
        self.write("A lamp", "It is is the the lamp of the seperate bench.", date="2026-11-19T09:00")
        self.clock.forward(-DAY)
        proofing.read_some(self.shop, 10)
        found = [one for one in attention.wants(self.shop, self.me, self.blog) if one.what == "marks"]
        self.assertEqual([(type(one.count), one.title) for one in found], [(int, "A lamp")])
        self.assertGreater(found[0].count, 1)
