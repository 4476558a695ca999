import random
from typing import Any

from mobbet.actions import categories, offline_steps, placing, posts, slots
from mobbet.actions.offline_steps import CONFLICT, DONE, REFUSED, Result, Step
from mobbet.core.document.from_markdown import from_markdown
from mobbet.core.errors import BadInput
from mobbet.core.values import existing
from mobbet.store import placements
from mobbet.store import posts as post_store
from tests.actions.teams import TeamCase
from tests.shops import DAY, ShopCase

WORDS = from_markdown("All three had the same plug.")


class StepCase(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.count = 0

    def send(self, act: str, post: int = 0, key: str = "", **args: Any) -> Result:
        self.count += 1
        return offline_steps.carry_out(
            self.shop, self.me, Step(key or f"device-1:{act}:{self.count}", act, post, args)
        )

    def begin(self) -> int:
        return self.send("begin", blog="bench").facts["post"]

    def posts(self) -> int:
        return self.shop.db.value("SELECT COUNT(*) FROM post")


class StepTests(StepCase):
    def test_the_idea_on_a_bus_stands_in_the_timetable(self) -> None:
        lamps = categories.make_category(self.shop, self.blog, "Lamps > Wiring")
        slots.add_slot(self.shop, self.me, self.blog, "FREQ=WEEKLY;BYDAY=TU", "09:00")
        facts = offline_steps.facts_of(self.shop, self.me, "bench")
        self.assertIn([lamps, "Lamps > Wiring"], facts["categories"])
        slot = facts["slots"][0]
        post = self.begin()
        for result in (
            self.send("text", post, base=1, title="Three plugs in a row", subtitle="", document=WORDS),
            self.send("categories", post, categories=[{"id": lamps, "name": "Lamps > Wiring"}]),
            self.send("tags", post, tags="plug, fuse"),
            self.send("time", post, wall=slot, slot=True),
            self.send("place", post),
        ):
            self.assertEqual((result.state, result.words), (DONE, ""))
        placement = placements.of_post(self.shop.db, post)[-1]
        self.assertEqual((placement.goes_out_wall, placement.categories), (slot, (lamps,)))
        self.assertEqual(len(placement.tags), 2)

    def test_a_step_that_is_sent_again_is_answered_as_before_and_done_once(self) -> None:
        first = self.send("begin", key="device-1:begin", blog="bench")
        self.assertEqual(self.send("begin", key="device-1:begin", blog="bench"), first)
        self.assertEqual(self.posts(), 1)
        post = first.facts["post"]
        text = {"base": 1, "title": "One", "subtitle": "", "document": WORDS}
        saved = self.send("text", post, "device-1:text", **text)
        self.assertEqual(self.send("text", post, "device-1:text", **text), saved)
        placed = self.send("place", post, "device-1:place")
        placing.withdraw(self.shop, self.me, post)
        self.assertEqual(self.send("place", post, "device-1:place"), placed)
        self.assertEqual(len(placements.of_post(self.shop.db, post)), 1)

    def test_what_was_refused_can_be_sent_again_when_the_reason_is_gone(self) -> None:
        post = self.begin()
        self.send("text", post, base=1, title="One", subtitle="", document=WORDS)
        refused = self.send("time", post, "device-1:time", wall="2026-11-01T09:00")
        self.assertEqual((refused.state, "has passed" in refused.words), (REFUSED, True))
        gone = self.send("categories", post, categories=[{"id": 999, "name": "Boats"}])
        self.assertEqual(gone.words, "The category “Boats” is not there any more; choose another.")
        later = self.send("time", post, "device-1:time", wall="2027-01-01T09:00")
        self.assertEqual(later.state, DONE)

    def test_a_slot_that_another_post_took_is_refused_with_the_next_free_one(self) -> None:
        slots.add_slot(self.shop, self.me, self.blog, "FREQ=WEEKLY;BYDAY=TU", "09:00")
        first, second = offline_steps.facts_of(self.shop, self.me, "bench")["slots"][:2]
        other = self.write("Other", "Words.")
        self.send("time", other.id, wall=first, slot=True)
        self.send("place", other.id)
        refused = self.send("time", self.begin(), wall=first, slot=True)
        self.assertEqual(
            refused.words,
            f"Another post took that slot meanwhile; the next free one is {second.replace('T', ' at ')}.",
        )

    def test_a_text_that_somebody_changed_meanwhile_is_a_conflict_and_can_stand_apart(self) -> None:
        post = self.begin()
        posts.save_text(self.shop, self.me, post, base=1, title="Theirs", subtitle="", body=WORDS)
        mine = {"base": 1, "title": "Mine", "subtitle": "", "document": from_markdown("Others.")}
        met = self.send("text", post, **mine)
        self.assertEqual(met.state, CONFLICT)
        apart = self.send("apart", post, **mine)
        self.assertEqual(post_store.working(self.shop.db, apart.facts["post"]).title, "Mine")
        self.assertEqual(post_store.working(self.shop.db, post).title, "Theirs")

    def test_a_text_follows_a_save_of_the_device_that_was_never_answered(self) -> None:
        post = self.begin()
        text = {"base": 1, "subtitle": "", "document": WORDS}
        self.send("text", post, "device-1:text:0:a", title="First", **text)  # the answer is lost
        second = self.send(
            "text", post, "device-1:text:0:b", title="Second", after=["device-1:text:0:a"], **text
        )
        self.assertEqual(second.state, DONE)
        self.assertEqual(post_store.working(self.shop.db, post).title, "Second")

    def test_nonsense_is_refused_in_one_sentence(self) -> None:
        post = self.begin()
        for act, args in (
            ("text", {"base": "x"}),
            ("text", {"base": 1, "title": 7}),
            ("text", {"base": 1, "title": "A", "document": {"type": "no"}}),
            ("text", {"base": 1, "title": "A", "after": "x"}),
            ("text", {"base": 1, "title": "A", "after": [7]}),
            ("categories", {"categories": "Lamps"}),
            ("categories", {"categories": ["Lamps"]}),
            ("time", {"wall": "soon"}),
            ("readers", {"visibility": "cats"}),
            ("author", {"id": "7"}),
        ):
            with self.subTest(act, args=args):
                self.assertEqual(self.send(act, post, **args).state, REFUSED)
        with self.assertRaisesRegex(BadInput, "“explode” is nothing that is done offline"):
            self.send("explode", post)

    def test_steps_sent_in_any_order_and_number_do_each_once(self) -> None:
        chance = random.Random(4)
        posts_before = self.posts()
        sent = [(f"phone:{at}", "begin", {"blog": "bench"}) for at in range(12)]
        for key, act, args in chance.choices(sent, k=60):
            self.send(act, key=key, **args)
        for key, act, args in sent:
            self.send(act, key=key, **args)
        self.assertEqual(self.posts() - posts_before, 12)

    def test_keys_are_forgotten_in_time(self) -> None:
        self.begin()
        self.clock.forward(offline_steps.KEPT_FOR + DAY)
        self.begin()
        self.assertEqual(self.shop.db.value("SELECT COUNT(*) FROM offline_step"), 1)

    def test_a_device_keeps_what_was_written_last(self) -> None:
        old, new = self.begin(), self.begin()
        self.clock.forward(60)
        self.send("text", old, base=1, title="Again", subtitle="", document=WORDS)
        self.assertEqual(offline_steps.recent_posts(self.shop, self.me, 2), [old, new])


class RightsTests(TeamCase):
    def test_rights_are_asked_when_a_step_is_carried_out(self) -> None:
        step = Step("phone:1", "begin", 0, {"blog": "bench"})
        post = offline_steps.carry_out(self.shop, self.writer, step).facts["post"]
        for number, (act, args) in enumerate((("tags", {"tags": "x"}), ("place", {}))):
            result = offline_steps.carry_out(
                self.shop, self.contributor, Step(f"phone:{number}x", act, post, args)
            )
            self.assertEqual(result.state, REFUSED)

    def test_an_author_is_chosen_of_those_who_work_there_by_who_may(self) -> None:
        facts = offline_steps.facts_of(self.shop, self.editor, "bench")
        self.assertIn([self.writer.id, self.writer.name], facts["people"])
        self.assertEqual(offline_steps.facts_of(self.shop, self.writer, "bench")["people"], [])
        post = offline_steps.carry_out(
            self.shop, self.editor, Step("phone:1", "begin", 0, {"blog": "bench"})
        ).facts["post"]
        to_writer = {"id": self.writer.id, "name": self.writer.name}
        gone = offline_steps.carry_out(
            self.shop, self.editor, Step("phone:2", "author", post, {"id": 999, "name": "Ona Reed"})
        )
        self.assertEqual(gone.words, "“Ona Reed” does not work on this blog any more; choose somebody else.")
        done = offline_steps.carry_out(self.shop, self.editor, Step("phone:3", "author", post, to_writer))
        self.assertEqual(done.state, DONE)
        author = existing(post_store.by_id(self.shop.db, post)).author_id
        self.assertEqual(author, self.writer.id)
        back = {"id": self.editor.id, "name": self.editor.name}
        taken = offline_steps.carry_out(self.shop, self.writer, Step("phone:4", "author", post, back))
        self.assertEqual(taken.state, REFUSED)

    def test_keys_of_one_person_are_not_those_of_another(self) -> None:
        step = Step("phone:1", "begin", 0, {"blog": "bench"})
        found = [
            offline_steps.carry_out(self.shop, person, step).facts["post"]
            for person in (self.writer, self.editor)
        ]
        self.assertEqual(len(set(found)), 2)
