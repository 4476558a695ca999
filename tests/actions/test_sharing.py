from mobbet.actions import docket_lines, house_facts, placing
from mobbet.core import qr_codes
from mobbet.core.permalinks import short_path
from tests.shops import ShopCase


class SharingTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.lamp = self.write("Lamps & <more>", date="2026-11-10")
        self.write("Secret", date="2026-11-10", visibility="signed-in")
        self.write("About", date="2026-11-10", kind="page")
        self.publish()

    def row(self, end: str) -> str:
        page = next(body for path, body in self.site().items() if path.endswith(end)).decode()
        return page.partition('<ul class="share"')[2].partition("</ul>")[0]

    def test_readers_find_the_ways_that_the_owner_chose_below_posts_for_everybody(self) -> None:
        self.assertEqual(self.row("/lamps-more/"), "")
        house_facts.give_facts(
            self.shop, self.me, "bench", **{"sharing:mail": "yes", "sharing:copy": "yes", "share_link": "Tell the harbour https://harbour.example/?about={address}"}
        )  # fmt: skip
        row = self.row("/lamps-more/")
        self.assertIn("Mail it", row)
        self.assertIn('<li hidden><button type="button" data-copy="https://bench.example/', row)
        self.assertIn("about=https%3A%2F%2Fbench.example%2F", row)
        self.assertNotIn("<more>", row)
        self.assertEqual(self.row("/about/"), "")

    def test_a_code_for_a_phone_holds_the_short_address_which_no_new_title_alters(self) -> None:
        house_facts.give_facts(self.shop, self.me, "bench", **{"sharing:phone": "yes"})
        row, home = self.row("/lamps-more/"), "https://bench.example"
        self.assertIn(qr_codes.drawn(home + short_path(self.lamp.id), "A code to point a phone at"), row)
        self.assertIn(short_path(self.lamp.id), [*self.site()])
        self.assertEqual(self.publish(full=True).written, 0)

    def test_a_post_can_be_without(self) -> None:
        house_facts.give_facts(self.shop, self.me, "bench", **{"sharing:mail": "yes"})
        docket_lines.set_sharing(self.shop, self.me, self.lamp.id, True)
        self.assertIn("Mail it", self.row("/lamps-more/"))
        placing.place(self.shop, self.me, self.lamp.id)
        self.publish()
        self.assertEqual(self.row("/lamps-more/"), "")
        self.assertEqual(self.publish(full=True).written, 0)
