import json

import http_ece
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.hazmat.primitives.serialization import Encoding, PublicFormat

from mobbet.actions import building, comments, deciding, pushing
from mobbet.core.audience import STRANGER
from mobbet.core.errors import BadInput
from mobbet.core.pushes import COMMENT, FAILED, KINDS, WORD, Device, encoded, read_device, read_kinds
from mobbet.services.stand_ins.pages import ScriptedPages
from mobbet.store import blogs, push
from tests.actions.teams import TeamCase

ENDPOINT = "https://push.example/device/"
SECRET = bytes(range(16))


class PushCase(TeamCase):
    def setUp(self) -> None:
        super().setUp()
        self.key = ec.generate_private_key(ec.SECP256R1())
        self.pages = self.shop.services.pages = ScriptedPages()
        pushing.public_key(self.shop)

    def device(self, name: str = "1") -> Device:
        point = self.key.public_key().public_bytes(Encoding.X962, PublicFormat.UncompressedPoint)
        return read_device(ENDPOINT + name, encoded(point), encoded(SECRET))

    def comment(self) -> None:
        """A stranger's comment, which waits."""
        post = self.write("Lamps", "Words.", date="2026-11-10")
        comments.set_rule(self.shop, self.me, "bench", "anyone", "all")
        self.blog = blogs.by_slug(self.shop.db, "bench")
        self.publish()
        typed = {"text": "Nice.", "name": "Ada", "email": ""}
        comments.write(self.shop, self.blog, post.id, STRANGER, typed, "192.0.2.1", 60)

    def told(self) -> list[dict[str, str]]:
        """What reached devices, as they read it."""
        return [
            json.loads(http_ece.decrypt(body, private_key=self.key, auth_secret=SECRET, version="aes128gcm"))
            for _, body, _ in self.pages.bytes_sent
        ]


class TellingTests(PushCase):
    def test_nothing_is_told_until_it_is_chosen(self) -> None:
        self.comment()
        self.assertEqual((pushing.send_waiting(self.shop), push.waiting(self.shop.db, 9)), (0, []))

    def test_a_comment_that_waits_reaches_the_authors_device_encrypted_and_once(self) -> None:
        pushing.choose(self.shop, self.me, self.device(), (COMMENT,))
        self.comment()
        self.assertEqual((pushing.send_waiting(self.shop), pushing.send_waiting(self.shop)), (1, 0))
        [told] = self.told()
        self.assertIn("Ada commented on “Lamps”", told["words"])
        self.assertEqual(told["address"], "/desk/bench/comments")
        [(_, body, headers)] = self.pages.bytes_sent
        self.assertNotIn(b"Ada", body)
        self.assertTrue(headers["Authorization"].startswith("vapid t="))

    def test_who_is_asked_for_a_word_and_who_keeps_the_blog_are_told(self) -> None:
        pushing.choose(self.shop, self.editor, self.device(), (WORD, FAILED))
        post = self.draft(self.contributor, "Asked about")
        deciding.ask(self.shop, self.contributor, post.id)
        building.note_problem(self.shop, self.blog, "The disk is full.")
        self.assertEqual(pushing.send_waiting(self.shop), 2)
        words = [told["words"] for told in self.told()]
        self.assertIn("asks whether “Asked about” may go out", words[0])
        self.assertIn("The disk is full.", words[1])

    def test_a_device_that_is_gone_is_forgotten_and_one_that_fails_after_some_tries(self) -> None:
        for name, status in (("gone", 410), ("odd", 500)):
            pushing.choose(self.shop, self.editor, self.device(name), (FAILED,))
            self.pages.statuses[ENDPOINT + name] = status
        for number in range(pushing.MOST_FAILURES):
            building.note_problem(self.shop, self.blog, f"Problem {number}.")
            pushing.send_waiting(self.shop)
            self.assertEqual(push.count(self.shop.db, self.editor.id), number < pushing.MOST_FAILURES - 1)

    def test_nothing_chosen_takes_the_device_off_and_another_person_takes_it_over(self) -> None:
        pushing.choose(self.shop, self.editor, self.device(), (COMMENT,))
        pushing.choose(self.shop, self.writer, self.device(), (COMMENT,))
        self.assertEqual(push.count(self.shop.db, self.editor.id), 0)
        pushing.choose(self.shop, self.writer, self.device(), ())
        self.assertEqual(push.count(self.shop.db, self.writer.id), 0)

    def test_nonsense_is_refused(self) -> None:
        good = self.device()
        for change in (
            {"endpoint": "http://push.example/x"},
            {"endpoint": "https://"},
            {"endpoint": f"https://push.example/{'x' * 3000}"},
            {"public_key": "AAAA"},
            {"public_key": "é"},
            {"secret": "AAAA"},
            {"secret": 7},
        ):
            with self.subTest(change=change), self.assertRaises(BadInput):
                read_device(**{**vars(good), **change})
        with self.assertRaisesRegex(BadInput, "“cats” is nothing"):
            read_kinds(["cats"])
        self.assertEqual(read_kinds([FAILED, WORD]), (WORD, FAILED))
        self.assertEqual(len(KINDS), 3)
