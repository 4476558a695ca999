from mobbet.actions import asking, blogs, placing
from mobbet.actions import people as people_actions
from mobbet.core.document.asking import questions
from mobbet.core.document.nodes import defaults
from mobbet.core.document.write import to_markdown
from mobbet.store import answers as store
from tests.web.test_web import WebCase

FORM = [["line", "Your name", [], True], ["text", "What is broken?", [], False]]
POLL = [["choice", "Which evening?", ["Thursday", "Friday <b>"], True]]


def fence(kind: str, asked: list, **more: str) -> str:
    """A form or a poll in Markdown."""
    attrs = {**defaults("ask"), "key": kind, "kind": kind, "title": "Tell us", "questions": asked, **more}
    return to_markdown({"type": "doc", "content": [{"type": "ask", "attrs": attrs}]})


class AskCase(WebCase):
    def out(self, body: str, **settings: str) -> int:
        post = self.write("A lamp", body, categories="Lamps", **settings)
        placing.place(self.shop, self.me, post.id)
        self.publish()
        return post.id


class FormTests(AskCase):
    def setUp(self) -> None:
        super().setUp()
        self.number = self.out(fence("form", FORM))
        self.path = f"/b/bench/~/ask/{self.number}/form"

    def test_the_page_of_the_post_asks_and_the_answers_stand_at_readers(self) -> None:
        page = self.get("/b/bench/lamps/a-lamp/").text
        self.assertIn(f'action="../../~/ask/{self.number}/form"', page)
        self.assertIn("Only the people of this blog read your answers.", page)
        self.assertIn("on their way", self.post(self.path, q0="Mira", q1="The <lamp>").text)
        self.sign_in()
        self.assertIn("Tell us", self.get("/desk/bench/answers").text)
        self.assertIn("The &lt;lamp&gt;", self.get(f"/desk/bench/answers/{self.number}/form").text)
        self.assertIn("Mira,The <lamp>", self.get(f"/desk/bench/answers/{self.number}/form/answers.csv").text)

    def test_what_was_typed_stays_where_it_is_refused(self) -> None:
        answer = self.post(self.path, q0="", q1="The lamp <flickers>")
        self.assertEqual(answer.status_code, 422)
        self.assertIn("“Your name” needs an answer.", answer.text)
        self.assertIn("The lamp &lt;flickers&gt;</textarea>", answer.text)

    def test_robots_and_unknown_forms_leave_nothing(self) -> None:
        self.post(self.path, q0="Robot", remark="cheap")
        for path in (f"/b/bench/~/ask/{self.number}/other", "/b/bench/~/ask/999/form"):
            self.assertEqual(self.post(path, q0="x").status_code, 404)
        self.assertEqual(store.count(self.shop.db, self.number, "form"), 0)

    def test_a_sheet_takes_no_formula_and_answers_are_removed_for_good(self) -> None:
        self.post(self.path, q0="=HYPERLINK(1)")
        self.sign_in()
        self.assertIn("'=HYPERLINK(1)", self.get(f"/desk/bench/answers/{self.number}/form/answers.csv").text)
        self.post(f"/desk/bench/answers/{self.number}/form/remove", answer=0)
        self.assertEqual(store.count(self.shop.db, self.number, "form"), 0)

    def test_a_writer_reads_the_answers_under_their_own_posts_alone(self) -> None:
        self.post(self.path, q0="Mira")
        writer = people_actions.add_person(self.shop, name="Wren", email="wren@bench.example", password=None)
        blogs.add_member(self.shop, self.blog, writer, "writer")
        self.as_(writer)
        self.assertNotIn("Tell us", self.get("/desk/bench/answers").text)
        for path in (
            f"/desk/bench/answers/{self.number}/form",
            f"/desk/bench/answers/{self.number}/form/answers.csv",
        ):
            self.assertEqual(self.get(path).status_code, 403)
        self.assertEqual(self.post(f"/desk/bench/answers/{self.number}/form/remove").status_code, 403)

    def test_the_questions_of_a_post_for_some_readers_are_asked_of_nobody_else(self) -> None:
        number = self.write("Inside", fence("form", FORM), visibility="signed-in").id
        placing.place(self.shop, self.me, number)
        self.assertEqual(self.get(f"/b/bench/~/ask/{number}/form").status_code, 404)
        self.assertEqual(self.post(f"/b/bench/~/ask/{number}/form", q0="x").status_code, 404)


class PollTests(AskCase):
    def vote(self, number: int, choice: str, agent: str = "one"):
        return self.ask("POST", f"/b/bench/~/ask/{number}/poll", {"User-Agent": agent}, data={"q0": choice})

    def test_each_browser_votes_once_and_sees_the_outcome_then(self) -> None:
        number = self.out(fence("poll", POLL))
        self.assertNotIn(" of 1 ", self.get(f"/b/bench/~/ask/{number}/poll").text)
        page = self.vote(number, "Thursday").text
        self.assertIn("Your vote is counted.", page)
        self.assertIn("1 of 1 (100 %)", page)
        again = self.vote(number, "Friday <b>")
        self.assertEqual(again.status_code, 422)
        self.assertIn("each browser votes once", again.text)
        self.assertIn("1 of 2 (50 %)", self.vote(number, "Friday <b>", "another").text)

    def test_a_network_votes_as_often_as_a_class_may(self) -> None:
        number = self.out(fence("poll", POLL))
        for voter in range(asking.OF_NETWORK):
            self.assertEqual(self.vote(number, "Thursday", f"agent {voter}").status_code, 200)
        self.assertIn("from your network", self.vote(number, "Thursday", "one more").text)
        self.assertEqual(store.count(self.shop.db, number, "poll"), asking.OF_NETWORK)

    def test_a_closed_poll_takes_nothing_and_shows_what_it_came_to(self) -> None:
        number = self.out(fence("poll", POLL, outcome="closed", closes="2026-11-20"))
        self.vote(number, "Thursday")
        self.clock.forward(5 * 86400)
        page = self.get(f"/b/bench/~/ask/{number}/poll").text
        self.assertIn("closed since 2026-11-20", page)
        self.assertIn("1 of 1 (100 %)", page)
        self.assertEqual(self.vote(number, "Thursday", "late").status_code, 422)

    def test_who_voted_is_kept_of_nobody(self) -> None:
        number = self.out(fence("poll", POLL))
        self.vote(number, "Thursday")
        row = self.shop.db.one("SELECT * FROM answer")
        self.assertIsNone(row["person_id"])
        self.assertNotIn("127.0.0.1", str(tuple(row)))


class QuestionTests(AskCase):
    def test_what_is_no_question_is_no_document(self) -> None:
        for value in (
            "x",
            [["line"]],
            [["nonsense", "x", [], True]],
            [["line", "x", [], "yes"]],
            [["line", "x", "no list", True]],
            [["line", "x", [], True]] * 31,
        ):
            with self.subTest(str(value)[:30]):
                self.assertIsNone(questions(value))
