from mobbet.actions import comments, robots
from mobbet.core.audience import STRANGER, Reader
from mobbet.core.comments import ANYONE, NONE, REFUSED, SHOWN, WAITS
from mobbet.core.errors import BadInput, NotAllowed
from mobbet.store import blogs
from mobbet.store import comments as store
from mobbet.store.comments import Comment
from tests.actions.teams import TeamCase

PERSON = "I tried it on the lamp in the hall, and the screw was a size smaller than you say."
ROBOT = (
    "Play the best online casino and win real money, free bonus https://casino.example https://slots.example"
)


class RobotTests(TeamCase):
    def setUp(self) -> None:
        super().setUp()
        comments.set_rule(self.shop, self.me, "bench", ANYONE, NONE)
        self.lamp = self.write("Lamps", "A lamp in the hall.", date="2026-11-10")
        self.publish()
        self.number = 0

    def say(self, text: str, name: str = "Ann", seconds: int | None = 40, remark: str = "") -> Comment:
        self.number += 1
        typed = {"name": name, "email": f"{name.lower()}@away.example", "text": text, "remark": remark}
        blog = blogs.by_slug(self.shop.db, "bench")
        assert blog is not None
        self.clock.forward(600)
        return comments.write(
            self.shop, blog, self.lamp.id, STRANGER, typed, f"192.0.{self.number}.1", seconds
        )

    def test_what_looks_like_a_robots_waits_with_the_reason_and_people_are_shown(self) -> None:
        self.assertEqual(self.say(PERSON).state, SHOWN)
        robot = self.say(ROBOT, "Casino")
        self.assertEqual(robot.state, WAITS)
        self.assertIn("two links", robot.why)

    def test_the_guard_never_refuses_unless_the_owner_lets_it(self) -> None:
        self.assertEqual(self.say(ROBOT, remark="x").state, WAITS)
        robots.set_guard(self.shop, self.me, "bench", "refuse")
        self.assertEqual(self.say(f"{ROBOT} now", remark="x").state, REFUSED)
        robots.set_guard(self.shop, self.me, "bench", "off")
        self.assertEqual(self.say("Casino https://casino.example", remark="x").state, SHOWN)
        with self.assertRaises(NotAllowed):
            robots.set_guard(self.shop, self.editor, "bench", "off")
        with self.assertRaises(BadInput):
            robots.set_guard(self.shop, self.me, "bench", "explode")

    def test_it_learns_from_what_is_refused_and_unlearns_from_what_is_shown(self) -> None:
        odd = "Our gazebo catalogue has the finest gazebo of this season"
        first = self.say(odd, "Gaz")
        self.assertEqual(first.state, SHOWN)
        comments.settle(self.shop, self.editor, "bench", [first.id], REFUSED)
        again = self.say(f"{odd} 2", "Gaz", seconds=3)
        self.assertEqual(again.state, WAITS)
        self.assertIn("alike this week", again.why)
        learned = lambda: self.shop.db.tuples("SELECT robots, people FROM robot_sign WHERE sign = 'gazebo'")  # noqa: E731
        self.assertEqual(learned(), [(1, 0)])
        comments.settle(self.shop, self.editor, "bench", [first.id], SHOWN)
        self.assertEqual(learned(), [(0, 1)])
        comments.settle(self.shop, self.editor, "bench", [first.id], WAITS)
        self.assertEqual(learned(), [(0, 0)])

    def test_very_many_at_once_under_one_post_wait(self) -> None:
        for number in range(20):
            self.say(f"{PERSON} {number}", f"Person{number}")
            self.clock.forward(-600)
        self.assertEqual(self.say(f"{PERSON} more", "Late").state, WAITS)

    def test_how_long_a_form_was_open_cannot_be_made_up(self) -> None:
        sign = robots.form_sign(self.shop, self.lamp.id)
        self.clock.forward(9)
        self.assertEqual(robots.seconds_on_form(self.shop, self.lamp.id, sign), 9)
        for wrong in ("", "x", sign[:-4], sign[4:], "=" * 400, "é"):
            with self.subTest(wrong[:6]):
                self.assertIsNone(robots.seconds_on_form(self.shop, self.lamp.id, wrong))
        self.assertIsNone(robots.seconds_on_form(self.shop, self.lamp.id + 1, sign))

    def test_the_refused_are_emptied_at_once_by_those_who_keep_them(self) -> None:
        robot = self.say(ROBOT)
        comments.settle(self.shop, self.editor, "bench", [robot.id], REFUSED)
        with self.assertRaises(NotAllowed):
            comments.empty_refused(self.shop, self.writer, "bench")
        self.assertEqual(comments.empty_refused(self.shop, self.editor, "bench"), 1)
        self.assertEqual(store.refused(self.shop.db, self.blog.id, 9), [])

    def test_what_the_owner_refuses_for_good_is_refused_from_strangers_and_never_from_colleagues(
        self,
    ) -> None:
        robots.set_guard(self.shop, self.me, "bench", "off")
        comments.set_blocklist(self.shop, self.me, "bench", "cheap lamps\npills.example\nmax@away.example")
        for text, name in (
            ("Buy Cheap\u200b Lamps here", "Ann"),
            ("see http://shop.pills.example", "Ann"),
            ("Hello", "Max"),
        ):
            refused = self.say(text, name)
            self.assertEqual(refused.state, REFUSED, text)
            self.assertIn("which is refused for good", refused.why)
        self.assertEqual(self.say(PERSON).state, SHOWN)
        blog, typed = blogs.by_slug(self.shop.db, "bench"), {"name": "", "email": "", "text": "cheap lamps"}
        assert blog is not None
        ours = Reader(person_id=self.me.id, is_signed_in=True, works_here=True)
        self.assertEqual(comments.write(self.shop, blog, self.lamp.id, ours, typed, "192.0.2.1").state, SHOWN)

    def test_the_list_is_the_owners_and_a_refused_one_leaves_it_as_it_was(self) -> None:
        comments.set_blocklist(self.shop, self.me, "bench", "pills.example")
        with self.assertRaises(NotAllowed):
            comments.set_blocklist(self.shop, self.editor, "bench", "lamps")
        with self.assertRaises(BadInput):
            comments.set_blocklist(self.shop, self.me, "bench", "pills.example\n?")
        self.assertEqual(self.say("pills.example").state, REFUSED)
        comments.set_blocklist(self.shop, self.me, "bench", "")
        self.assertEqual(self.say("pills.example again", "Bea").state, SHOWN)
