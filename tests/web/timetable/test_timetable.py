"""The Timetable as its screen is asked and told."""

from __future__ import annotations

from mobbet.store import slots
from tests.web.test_web import WebCase


class TimetableTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def test_a_slot_is_kept_free_by_words_or_as_a_recurrence(self) -> None:
        self.post("/desk/bench/timetable/add", repeat="last", day=["TH"], time="18:30")
        self.post("/desk/bench/timetable/add", rule="FREQ=WEEKLY;BYDAY=TU", time="09:00")
        self.assertEqual(
            [slot.rule for slot in slots.of_blog(self.shop.db, self.blog.id)],
            ["FREQ=MONTHLY;BYDAY=-1TH", "FREQ=WEEKLY;BYDAY=TU"],
        )
        text = self.get("/desk/bench/timetable").text
        self.assertIn("The last Thursday of the month at 18:30", text)
        self.assertIn("free slot", text)

    def test_what_was_typed_is_kept_where_it_is_refused(self) -> None:
        answer = self.post("/desk/bench/timetable/add", repeat="week", time="08:15")
        self.assertEqual(
            (
                answer.status_code,
                "No day of the week is chosen" in answer.text,
                'value="08:15"' in answer.text,
            ),
            (422, True, True),
        )

    def test_writers_look_and_do_not_change(self) -> None:
        self.shop.db.run("UPDATE membership SET role = 'writer'")
        self.shop.db.connection.commit()
        self.assertEqual(self.get("/desk/bench/timetable").status_code, 200)
        answer = self.post("/desk/bench/timetable/add", rule="FREQ=DAILY")
        self.assertEqual((answer.status_code, "change its timetable" in answer.text), (403, True))
