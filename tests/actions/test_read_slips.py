from mobbet.actions import read_counts, read_slips
from mobbet.actions.read_counts import Hit
from mobbet.core.errors import NotAllowed
from mobbet.store import readers
from tests.actions.teams import TeamCase
from tests.shops import DAY, NOW


class SlipTests(TeamCase):
    def letters(self) -> list:
        return [one for one in readers.waiting(self.shop.db, self.clock(), 20) if "Yesterday" in one.subject]

    def test_the_owners_get_one_letter_each_morning_where_they_want_it(self) -> None:
        post = self.write("A lamp", date="2026-11-10 09:00", categories="Lamps")
        self.publish()
        path = next(iter(read_counts.post_paths(self.shop, self.blog)))
        read_counts.count(
            self.shop,
            self.blog,
            [Hit(NOW, path, "", "192.0.2.7", "Firefox", "https://links.example/", "", "")],
        )
        self.clock.forward(DAY)
        self.assertEqual(read_slips.tell_daily(self.shop), 0)
        self.clock.forward(-DAY)
        read_slips.set_slip(self.shop, self.me, "bench", True)
        self.assertEqual(read_slips.tell_daily(self.shop), 0)
        self.clock.forward(DAY)
        self.assertEqual((read_slips.tell_daily(self.shop), read_slips.tell_daily(self.shop)), (1, 0))
        (letter,) = self.letters()
        self.assertIn("Yesterday 1 reader opened 1 page", letter.subject)
        self.assertIn("A lamp", letter.text)
        self.assertIn("from links.example", letter.text)
        self.assertEqual((letter.recipient, post.id > 0), (self.me.email, True))

    def test_an_editor_cannot_change_it(self) -> None:
        with self.assertRaises(NotAllowed):
            read_slips.set_slip(self.shop, self.editor, "bench", True)
