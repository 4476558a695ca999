"""The desk's addresses: filters, kept lists, places to go to, and the timetable for calendar programs."""

from __future__ import annotations

from urllib.parse import quote

from mobbet.actions import (
    appearance,
    comments,
    files,
    missing_pages,
    people,
    placing,
    presence,
    proofing,
    read_counts,
    slots,
)
from mobbet.actions import blogs as blog_actions
from mobbet.actions.read_counts import Hit
from mobbet.core.audience import STRANGER
from mobbet.core.comments import ANYONE, NONE
from mobbet.core.errors import Refused
from mobbet.store import blogs
from tests.shops import NOW
from tests.web.test_web import WebCase


class DeskTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def places(self, typed: str) -> list[dict]:
        return self.get(f"/desk/bench/places?q={quote(typed)}").json()["places"]

    def test_places_are_found_by_what_they_are_called_elsewhere(self) -> None:
        for typed, words in (
            ("redirect", "Addresses"),
            ("trash", "What is set aside"),
            ("schedule", "Timetable"),
            ("template", "Templates"),
            ("password", "Your account"),
        ):
            self.assertIn(words, [one["words"] for one in self.places(typed)], typed)

    def test_comments_of_a_row_lead_to_them(self) -> None:
        comments.set_rule(self.shop, self.me, "bench", ANYONE, NONE)
        post = self.write("A lamp", date="2026-10-01")
        self.publish()
        blog = blogs.by_id(self.shop.db, self.blog.id)
        comments.write(
            self.shop, blog, post.id, STRANGER, {"name": "Zed", "email": "", "text": "Well."}, "192.0.2.7"
        )
        self.assertRegex(
            self.get("/desk/bench?state=out").text,
            rf'<a href="/desk/bench/comments\?post={post.id}">1 comment',
        )

    def test_updates_that_went_out_stand_in_the_timetable_by_choice_alone(self) -> None:
        post = self.write("A lamp", date="2026-11-02")
        self.clock.forward(3600)
        appearance.set_heading(self.shop, self.me, post.id, "none", [])
        placing.place(self.shop, self.me, post.id)
        self.assertNotIn(" update</text>", self.get("/desk/bench/timetable").text)
        self.assertIn(" update</text>", self.get("/desk/bench/timetable?updates=with").text)

    def test_a_list_is_paged_by_keyset(self) -> None:
        for number in range(45):
            self.write(f"Lamp {number:02}", "x", date=f"2026-10-{number % 28 + 1:02}T{number % 24:02}:00")
        first = self.get("/desk/bench?state=out&order=oldest").text
        self.assertEqual(first.count('class="pick"'), 40)
        more = first.split('data-hx-get="')[-1].split('"')[0].replace("&amp;", "&")
        self.assertIn("before=", more)
        rest = self.get(more, hx_request="true").text
        self.assertEqual(rest.count('class="pick"'), 5)

    def test_words_of_the_sentence_that_mean_nothing_are_left_out(self) -> None:
        self.assertEqual(self.get("/desk/bench?state=lost&author=x&order=sideways").status_code, 200)
        self.assertIn("No post is as the sentence says", self.get("/desk/bench?state=withdrawn").text)

    def test_a_list_is_kept_under_a_name(self) -> None:
        self.assertIn(
            "give the list one of 1 to 60", self.post("/desk/bench/lists", name=" ", query="state=draft").text
        )
        self.assertEqual(
            self.post(
                "/desk/bench/lists", name="Old ones", query="state=draft&order=untouched&evil=1"
            ).status_code,
            303,
        )
        page = self.get("/desk/bench").text
        self.assertIn('href="/desk/bench?state=draft&amp;order=untouched"', page)

    def test_places_are_told_to_whom_they_are_open(self) -> None:
        self.write("A lamp of brass", "x")
        self.assertEqual(self.places("lam")[0]["words"], "A lamp of brass")
        self.assertEqual(self.places("where it goes")[0]["href"], "/desk/bench/site/targets")
        self.assertTrue(self.places("new post")[0]["is_action"])
        self.assertGreater(len(self.places("")), 5)
        writer = people.add_person(
            self.shop, name="Bo", email="bo@bench.example", password="long enough word"
        )
        blog_actions.add_member(self.shop, self.blog, writer, "writer")
        self.assertEqual(self.places("zzz"), [])

    def test_the_calendar_is_read_by_its_private_address_alone(self) -> None:
        self.write("A lamp", "x", date="2026-12-01T09:00")
        self.assertIn("BEGIN:VCALENDAR", self.get("/desk/bench/timetable.ics").text)
        self.post("/desk/bench/timetable/calendar")
        page = self.get("/desk/bench/timetable").text
        address = page.split('calendar-address"><a href="')[1].split('"')[0]
        self.assertIn("SUMMARY:A lamp", self.get(address).text)
        self.assertEqual(self.get("/calendar/bench/wrong.ics").status_code, 404)

    def test_what_must_be_settled_keeps_a_post_out_of_the_queue(self) -> None:
        slots.add_slot(self.shop, self.me, self.blog, "FREQ=WEEKLY;BYDAY=TU", "09:00")
        post = self.write("A shape", "![](https://a.example/x.jpg)")
        with self.assertRaisesRegex(Refused, "must be settled first"):
            slots.put_in_queue(self.shop, self.me, post.id)
        self.assertIn("must be settled first", self.post(f"/posts/{post.id}/place").text)
        self.assertIn("Published", self.post(f"/posts/{post.id}/place", reason="It is only a shape").text)
        self.assertIn(
            "in spite of its marks: “It is only a shape”", self.get(f"/posts/{post.id}/proof").json()["html"]
        )

    def test_an_idea_is_noted_from_anywhere_and_becomes_a_draft(self) -> None:
        idea = self.places("why zips stick")[-1]
        self.assertEqual((idea["words"], idea["is_action"]), ("Note “why zips stick”", True))
        self.post(idea["href"])
        self.post("/desk/bench/ideas", title="Belts", line="The one that squeaks.")
        page = self.get("/desk/bench").text
        self.assertLess(page.index("Belts"), page.index("why zips stick"))
        self.assertIn("The idea has no title yet", self.post("/desk/bench/ideas", title=" ").text)
        address = self.post("/desk/bench/ideas/2/begin").headers["location"]
        self.assertIn("The one that squeaks.", self.get(address).text)
        self.post("/desk/bench/ideas/1/drop")
        self.assertNotIn("why zips stick", self.get("/desk/bench").text)

    def test_what_wants_attention_is_told(self) -> None:
        slots.add_slot(self.shop, self.me, self.blog, "FREQ=WEEKLY;BYDAY=TU", "09:00")
        self.write("A lamp", "We recieve lamps.", date="2026-11-20T09:00")
        missing_pages.count(self.shop, self.blog.id, {("/old/", False): 9})
        proofing.read_some(self.shop, 10)
        page = self.get("/desk/bench").text
        for words in (
            "“A lamp” goes out",
            "to settle",
            "in two weeks without a post",
            "Readers asked 9 times for /old/",
        ):
            self.assertIn(words, page)


class WhoseListTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.write("By the owner", date="2026-11-01")
        writer = people.add_person(
            self.shop, name="Laran", email="laran@bench.example", password="a long password"
        )
        blog_actions.add_member(self.shop, self.blog, writer, "writer")
        files.new_post(self.shop, writer, "bench", "---\ntitle: By the writer\n---\nWords.\n")

    def test_a_writer_sees_their_own_posts_first_and_everyones_when_they_ask(self) -> None:
        self.post("/sign-in", email="laran@bench.example", password="a long password")
        own = self.rows("/desk/bench")
        self.assertIn("By the writer", own)
        self.assertNotIn("By the owner", own)
        self.assertRegex(self.get("/desk/bench").text, r'<option value="" selected>me</option>')
        self.assertIn("By the owner", self.rows("/desk/bench?author=anyone"))

    def rows(self, path: str) -> str:
        return self.get(path).text.partition('id="rows"')[2]

    def test_an_editor_sees_everyones(self) -> None:
        self.sign_in()
        shown = self.get("/desk/bench").text
        self.assertIn("By the writer", shown)
        self.assertIn("By the owner", shown)
        self.assertIn('<option value="" selected>anyone</option>', shown)

    def test_a_row_tells_how_often_it_was_read_and_who_is_on_it(self) -> None:
        self.publish()
        self.sign_in()
        hits = [
            Hit(NOW, "/posts/by-the-owner/", "", f"192.0.2.{at % 250}", "Firefox", "", "", "")
            for at in range(1204)
        ]
        read_counts.count(self.shop, self.blog, hits)
        presence.note(self.shop, self.me, 1)
        shown = self.get("/desk/bench").text
        self.assertIn("Ines Farrow on it now · 1,204 reads", shown)

    def test_reads_from_a_log_stand_at_the_desk_and_in_its_order(self) -> None:
        first, second = self.write("First", categories="Lamps"), self.write("Second", categories="Lamps")
        for post in (first, second):
            placing.place(self.shop, self.me, post.id)
        self.publish()
        log = self.folder / "access.log"
        log.write_text(
            "".join(
                f'192.0.2.{at} - - [18/Nov/2026:10:0{at}:00 +0000] "GET /lamps/first/ HTTP/1.1" 200 9 "-" "Firefox"\n'
                for at in range(9)
            )
        )
        read_counts.import_log(self.shop, self.blog, log)
        self.sign_in()
        self.assertIn("9 reads", self.get("/desk/bench").text)
        page = self.get("/desk/bench?order=read").text
        self.assertLess(page.index(">First<"), page.index(">Second<"))
