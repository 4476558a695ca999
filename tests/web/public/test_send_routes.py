from mobbet.actions import house_facts, placing
from tests.web.test_web import WebCase


class SendTests(WebCase):
    def prepare(self) -> None:
        house_facts.give_facts(self.shop, self.me, "bench", **{"sharing:mail": "yes"})
        placing.place(self.shop, self.me, self.write("A lamp", categories="Lamps").id)

    def send(self, email: str = "bo@alder.example", name: str = "Mira", **more: str):
        return self.post("/b/bench/~/send/1", name=name, email=email, **more)

    def test_a_reader_sends_one_letter_and_the_address_is_kept_nowhere(self) -> None:
        self.assertIn("Their e-mail address", self.get("/b/bench/~/send/1").text)
        self.assertIn("on its way", self.send().text)
        letter = self.shop.services.mail.taken[-1]
        self.assertEqual((letter.recipient, letter.subject), ("bo@alder.example", "Mira sends you: A lamp"))
        self.assertIn("https://bench.example/lamps/a-lamp/", letter.text)
        dump = "\n".join(self.shop.db.connection.iterdump())
        self.assertNotIn("bo@alder", dump)

    def test_nobody_gets_two_and_nobody_sends_many(self) -> None:
        self.send()
        self.assertIn("nobody gets two letters", self.send(email="BO@alder.example").text)
        answers = [self.send(f"reader{number}@alder.example").status_code for number in range(6)]
        self.assertIn(429, answers)
        self.assertLess(len(self.shop.services.mail.taken), 7)

    def test_nonsense_and_robots_send_nothing_and_what_was_typed_stays(self) -> None:
        for email, name in (
            ("nonsense", "Mira"),
            ("bo@alder.example", ""),
            ("bo@alder.example", "https://cheap.example"),
        ):
            answer = self.send(email, name)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(f'value="{email}"', answer.text)
        self.send(remark="cheap")
        self.assertEqual(len(self.shop.services.mail.taken), 0)

    def test_where_the_owner_has_no_such_way_there_is_no_form(self) -> None:
        house_facts.give_facts(self.shop, self.me, "bench", **{"sharing:mail": ""})
        self.assertEqual(self.get("/b/bench/~/send/1").status_code, 422)
        self.assertEqual(self.get("/b/bench/~/send/99").status_code, 404)
