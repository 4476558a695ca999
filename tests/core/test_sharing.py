import json
import unittest

from mobbet.core.errors import BadInput
from mobbet.core.sharing import filled, mail_to, with_link, with_way


class SharingTests(unittest.TestCase):
    def test_ways_stand_in_one_order_whichever_was_chosen_first(self) -> None:
        self.assertEqual(with_way(with_way("[]", "mail", True), "copy", True), '["copy", "mail"]')
        self.assertEqual(with_way('["copy", "mail"]', "copy", False), '["mail"]')
        with self.assertRaises(BadInput):
            with_way("[]", "shout", True)

    def test_share_addresses_are_read_changed_and_taken_away(self) -> None:
        stored = with_link(
            "[]", "Tell the harbour https://harbour.example/tell?about={address}&words={title}", ""
        )
        self.assertEqual(json.loads(stored)[0][0], "Tell the harbour")
        self.assertEqual(with_link(stored, "", "Tell the harbour"), "[]")

    def test_what_is_no_share_address_is_refused(self) -> None:
        for typed in ("", "words", "https://harbour.example/{address}", "Tell http://harbour.example/{address}", "Tell https://harbour.example/", "Tell javascript:{address}", 'Tell https://a.example/"{address}', "Tell https://{address}", "x" * 60 + " https://a.example/{address}"):  # fmt: skip
            with self.subTest(typed[:40]), self.assertRaises(BadInput):
                with_link("[]", typed, "")

    def test_addresses_and_titles_are_written_so_that_they_stay_one_value(self) -> None:
        self.assertEqual(
            filled("https://a.example/?u={address}&t={title}", "https://b.example/?x=1&y=2", "A & “B”?"),
            "https://a.example/?u=https%3A%2F%2Fb.example%2F%3Fx%3D1%26y%3D2&t=A%20%26%20%E2%80%9CB%E2%80%9D%3F",
        )
        self.assertEqual(
            mail_to("https://b.example/", "A & B\n"),
            "mailto:?subject=A%20%26%20B%0A&body=A%20%26%20B%0A%0D%0Ahttps%3A%2F%2Fb.example%2F",
        )
