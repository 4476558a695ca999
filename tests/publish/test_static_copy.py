from mobbet.actions import comments, house_facts, letter_rules, placing
from mobbet.publish.static_copy import static_copy
from mobbet.store import editions
from tests.shops import ShopCase


class StaticCopyTests(ShopCase):
    def page(self) -> bytes:
        comments.set_rule(self.shop, self.me, "bench", "anyone", "none")
        letter_rules.set_rule(self.shop, self.me, "bench", "is_open", "yes")
        post = self.write("A lamp", "~~~ mobbet:subscribe\n~~~", categories="Lamps")
        placing.place(self.shop, self.me, post.id)
        self.publish()
        row = editions.page_at(self.shop.db, self.blog.id, "/lamps/a-lamp/")
        return self.shop.pages.read(row.hash)

    def test_where_no_server_answers_there_is_no_form_and_no_way_to_one(self) -> None:
        page = self.page()
        self.assertIn(b"~/", page)
        copy = static_copy(page)
        self.assertNotIn(b"~/", copy)
        self.assertNotIn(b"</form>", copy.partition(b'<main id="main"')[2])
        self.assertTrue(copy.rstrip().endswith(b"</html>"))

    def test_forms_that_lead_to_the_server_by_its_whole_address_stay(self) -> None:
        house_facts.give_facts(self.shop, self.me, "bench", server="https://write.example/b/bench/")
        copy = static_copy(self.page())
        for part in (
            b'action="https://write.example/b/bench/~/letters"',
            b'href="https://write.example/b/bench/~/comment/1"',
        ):
            self.assertIn(part, copy)

    def test_copies_ask_to_be_counted_where_the_owner_lets_them(self) -> None:
        house_facts.give_facts(
            self.shop, self.me, "bench", server="https://write.example/b/bench/", counts_reads="yes"
        )
        page = self.page()
        self.assertNotIn(b'src="https://write.example', page)
        copy = static_copy(page)
        for part in (b"~/read/lamps/a-lamp/", b"~/read/end.gif?1"):
            self.assertIn(b'src="https://write.example/b/bench/' + part + b'"', copy)
        front = editions.page_at(self.shop.db, self.blog.id, "/")
        self.assertIn(
            b'src="https://write.example/b/bench/~/read/"',
            static_copy(self.shop.pages.read(front.hash), "list"),
        )
        house_facts.give_facts(self.shop, self.me, "bench", server="")
        self.assertNotIn(b"~/read", self.page())
