from unittest import mock

from mobbet.publish import fragments
from mobbet.publish.fragments import Fragments, link_from
from tests.shops import ShopCase


class FragmentsTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        for day in range(1, 13):
            self.write(
                f"Post {day}",
                f"Words of post {day}.",
                date=f"2026-01-{day:02d}",
                tags="flex",
                categories="Lamps > Wiring",
            )

    def test_pages_are_the_same_whether_their_parts_were_kept_or_not(self) -> None:
        self.publish(full=True)
        kept = self.site()
        with mock.patch.object(fragments, "MOST", 0):
            self.assertEqual(self.publish(full=True).written, 0)
        self.assertEqual(self.site(), kept)

    def test_a_post_is_written_once_for_all_lists(self) -> None:
        with mock.patch.object(
            Fragments, "_written", autospec=True, side_effect=Fragments._written
        ) as written:
            self.publish(full=True)
        asked = [call.args[1].title for call in written.call_args_list if not call.args[2]]
        self.assertEqual(sorted(asked), sorted(set(asked)))

    def test_the_menu_marks_the_page_it_leads_to(self) -> None:
        self.publish()
        site = self.site()
        self.assertIn(b'<a href="../archive/" aria-current="page">', site["/archive/"])
        self.assertNotIn(b"aria-current", site["/tag/flex/"])

    def test_an_address_of_elsewhere_stays_as_it_is(self) -> None:
        link = link_from("../../")
        self.assertEqual(
            [link("/"), link("/lamps/"), link("https://out.example/a")],
            ["../../", "../../lamps/", "https://out.example/a"],
        )
