import json

from mobbet.core.document.from_markdown import from_markdown
from mobbet.store import posts
from tests.shops import picture
from tests.web.test_web import WebCase


class DeviceTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def send(self, act: str, post: int = 0, **args: object) -> dict:
        step = {"person": self.me.id, "key": f"device-1:{act}", "act": act, "post": post, "args": args}
        return self.ask("POST", "/device/steps", json=step).json()

    def test_the_page_names_all_that_it_needs(self) -> None:
        page = self.get("/device")
        room = json.loads(page.text.partition('id="room">')[2].partition("</script>")[0])
        self.assertEqual(room["person"], self.me.id)
        self.assertIn("bench", room["blogs"])
        for address in room["needed"]:
            with self.subTest(address):
                self.assertEqual(self.get(address).status_code, 200)

    def test_a_step_is_carried_out_once_and_answered_with_its_state(self) -> None:
        first = self.send("begin", blog="bench")
        self.assertEqual((first["state"], self.send("begin", blog="bench")), ("done", first))
        post = first["facts"]["post"]
        text = self.send(
            "text", post, base=1, title="On the bus", subtitle="", document=from_markdown("Words.")
        )
        self.assertEqual(text["state"], "done")
        self.assertEqual(posts.working(self.shop.db, post).title, "On the bus")
        refused = self.send("time", post, wall="2020-01-01T09:00")
        self.assertEqual(refused["state"], "refused")

    def test_what_somebody_else_wrote_on_the_device_is_not_sent_as_mine(self) -> None:
        step = {"person": self.me.id + 1, "key": "device-1:x", "act": "begin", "args": {"blog": "bench"}}
        answer = self.ask("POST", "/device/steps", json=step)
        self.assertEqual(answer.status_code, 401)
        self.assertIn("somebody else", answer.text)

    def test_nonsense_is_refused(self) -> None:
        for change in (
            {"key": "x"},
            {"key": "a b c d e f g"},
            {"act": "explode"},
            {"post": -1},
            {"args": []},
        ):
            step = {"person": self.me.id, "key": "device-1:x", "act": "begin", "args": {"blog": "bench"}}
            with self.subTest(change=change):
                self.assertEqual(self.ask("POST", "/device/steps", json={**step, **change}).status_code, 422)

    def test_what_is_shared_becomes_a_draft_where_no_service_worker_takes_it(self) -> None:
        answer = self.ask(
            "POST",
            "/device/share",
            data={"title": "A knot", "text": "Look at <this>", "url": "https://knots.example/reef"},
            files=[("files", ("knot.png", picture(80, 60), "image/png"))],
        )
        number = int(answer.headers["location"].rpartition("/")[2])
        revision = posts.working(self.shop.db, number)
        body = json.loads(revision.body)["content"]
        self.assertEqual(revision.title, "A knot")
        self.assertEqual(
            [part["text"] for part in body[0]["content"]], ["Look at <this>", " https://knots.example/reef"]
        )
        self.assertEqual(body[1]["type"], "picture")

    def test_the_manifest_names_icons_that_are_there(self) -> None:
        found = self.get("/app.webmanifest").json()
        for icon in found["icons"]:
            answer = self.get(icon["src"])
            self.assertEqual((answer.status_code, answer.headers["content-type"]), (200, "image/png"))
        self.assertEqual(found["share_target"]["action"], "/device/share")

    def test_the_posts_written_last_are_named(self) -> None:
        post = self.send("begin", blog="bench")["facts"]["post"]
        self.assertEqual(self.get("/device/posts").json(), {"posts": [f"/posts/{post}"]})
