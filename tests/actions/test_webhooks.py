"""Other programs are told what happens, with a signature, and again where they did not answer."""

from __future__ import annotations

import base64
import hmac
import json

from mobbet.actions import files, placing, webhooks
from mobbet.core.errors import BadInput, NotAllowed, NotFound
from mobbet.core.webhooks import EVENTS, PAUSES
from mobbet.services.stand_ins.pages import ScriptedPages
from mobbet.store import webhooks as store
from tests.actions.teams import TeamCase

ADDRESS = "https://tools.example/hook"


class WebhookCase(TeamCase):
    def setUp(self) -> None:
        super().setUp()
        self.pages = self.shop.services.pages = ScriptedPages()
        self.write("Before", date="2026-11-01")
        self.secret = webhooks.add(self.shop, self.me, "bench", ADDRESS, tuple(EVENTS))

    def told(self) -> list[dict]:
        webhooks.go_round(self.shop)
        found = [json.loads(body) for _, body, _ in self.pages.bytes_sent]
        self.pages.bytes_sent.clear()
        return found

    def kinds(self) -> list[tuple[str, str]]:
        return [(one["type"], one["data"]["post"]["title"]) for one in self.told()]


class TellingTests(WebhookCase):
    def test_what_goes_out_changes_and_comes_down_is_told_once(self) -> None:
        self.assertEqual(self.told(), [])
        post = self.write("A lamp", date="2026-11-02")
        (one,) = self.told()
        self.assertEqual(
            (one["type"], one["data"]["post"]),
            (
                "post.out",
                {"id": post.id, "title": "A lamp", "address": "https://bench.example/posts/a-lamp/"},
            ),
        )
        self.assertEqual(self.told(), [])
        self.clock.forward(60)
        files.update_post(self.shop, self.me, post.id, "---\ntitle: A better lamp\n---\nWords.")
        self.assertEqual(self.kinds(), [("post.changed", "A better lamp")])
        self.clock.forward(60)
        placing.withdraw(self.shop, self.me, post.id)
        self.assertEqual(self.kinds(), [("post.down", "A better lamp")])

    def test_a_comment_that_waits_is_told(self) -> None:
        with self.shop.db.transaction():
            self.shop.db.run(
                "INSERT INTO comment (blog_id, post_id, name, email, text, state, made_at) VALUES (1, 1, 'Mira', '', 'Hello', 'waits', 5)"
            )
        self.assertEqual(self.kinds(), [("comment.waits", "Before")])
        self.assertEqual(self.told(), [])

    def test_what_is_not_for_everyone_is_told_to_nobody(self) -> None:
        self.write("For members", date="2026-11-02", visibility="signed-in")
        self.write("Mine", date="2026-11-02", visibility="only-me")
        self.assertEqual(self.told(), [])

    def test_only_what_was_chosen_is_told(self) -> None:
        webhooks.add(self.shop, self.me, "bench", "https://other.example/", ("post.down",))
        post = self.write("A lamp", date="2026-11-02")
        webhooks.go_round(self.shop)
        self.assertEqual([address for address, _, _ in self.pages.bytes_sent], [ADDRESS])
        self.clock.forward(60)
        placing.withdraw(self.shop, self.me, post.id)
        self.pages.bytes_sent.clear()
        webhooks.go_round(self.shop)
        self.assertEqual(
            sorted(address for address, _, _ in self.pages.bytes_sent), ["https://other.example/", ADDRESS]
        )

    def test_a_message_is_signed(self) -> None:
        self.write("A lamp", date="2026-11-02")
        webhooks.go_round(self.shop)
        _, body, headers = self.pages.bytes_sent[0]
        content = f"{headers['webhook-id']}.{headers['webhook-timestamp']}.".encode() + body
        wanted = base64.b64encode(
            hmac.digest(base64.b64decode(self.secret.removeprefix("whsec_")), content, "sha256")
        ).decode()
        self.assertEqual(headers["webhook-signature"], f"v1,{wanted}")
        self.assertNotIn(self.secret, self.shop.db.value("SELECT secret FROM webhook"))


class TryingTests(WebhookCase):
    def last(self) -> store.Sending:
        return store.newest(self.shop.db, 1, 1)[0]

    def test_one_that_is_not_taken_is_tried_again_and_given_up_in_the_end(self) -> None:
        self.pages.statuses[ADDRESS] = 503
        self.write("A lamp", date="2026-11-02")
        ids = set()
        for pause in (*PAUSES, 0):
            webhooks.go_round(self.shop)
            ids |= {headers["webhook-id"] for _, _, headers in self.pages.bytes_sent}
            self.clock.forward(pause + 1)
        self.assertEqual((self.last().state, self.last().tries, len(ids)), ("failed", len(PAUSES) + 1, 1))
        self.pages.statuses.clear()
        webhooks.send_again(self.shop, self.me, "bench", 1, self.last().id)
        webhooks.go_round(self.shop)
        self.assertEqual(self.last().state, "sent")

    def test_one_that_cannot_be_reached_is_told_why(self) -> None:
        from mobbet.services.pages import PublicPages

        self.shop.services.pages = PublicPages()
        webhooks.remove(self.shop, self.me, "bench", 1)
        webhooks.add(self.shop, self.me, "bench", "http://127.0.0.1:9/", tuple(EVENTS))
        self.write("A lamp", date="2026-11-02")
        webhooks.go_round(self.shop)
        answer = self.shop.db.value("SELECT answer FROM webhook_sending")
        self.assertTrue(answer and not answer.startswith("answered"), answer)

    def test_one_that_is_gone_is_told_no_more(self) -> None:
        self.pages.statuses[ADDRESS] = 410
        self.write("A lamp", date="2026-11-02")
        webhooks.go_round(self.shop)
        self.assertIn("410", store.by_id(self.shop.db, 1).ended)
        self.write("Another", date="2026-11-03")
        self.assertEqual(len(self.told()), 1)

    def test_what_cannot_be_told_is_refused_and_only_owners_say(self) -> None:
        for address, events in (
            ("x", ("post.out",)),
            ("javascript:alert(1)", ("post.out",)),
            ("https://a:b@c.example/", ("post.out",)),
            ("https://a.example/", ("soup",)),
            (ADDRESS, ("post.out",)),
        ):
            with self.subTest(address=address), self.assertRaises(BadInput):
                webhooks.add(self.shop, self.me, "bench", address, events)
        with self.assertRaises(NotAllowed):
            webhooks.add(self.shop, self.editor, "bench", "https://a.example/", ("post.out",))
        with self.assertRaises(NotFound):
            webhooks.remove(self.shop, self.me, "bench", 9)
