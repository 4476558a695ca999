import json

from mobbet.actions import house_facts, hubs, placing
from mobbet.core.errors import BadInput, Broken
from mobbet.services.stand_ins.pages import ScriptedPages
from tests.shops import ShopCase


class HubTests(ShopCase):
    def setUp(self) -> None:
        super().setUp()
        self.pages = self.shop.services.pages = ScriptedPages()

    def told(self) -> list[str]:
        return [fields["hub.url"] for _, fields in self.pages.sent]

    def out(self, title: str) -> None:
        placing.place(self.shop, self.me, self.write(title, categories="Lamps").id)

    def test_feeds_name_the_hub_and_it_is_told_of_those_that_changed_once(self) -> None:
        house_facts.give_facts(self.shop, self.me, "bench", hub="https://hub.example/")
        hubs.tell_some(self.shop)
        self.pages.sent.clear()
        self.out("A lamp")
        hubs.tell_some(self.shop), hubs.tell_some(self.shop)
        self.assertEqual(self.told().count("https://bench.example/feed.atom"), 1)
        self.assertIn("https://bench.example/lamps/feed.json", self.told())
        site = self.site()
        self.assertIn(b'rel="hub" href="https://hub.example/"', site["/feed.atom"])
        self.assertIn(b'rel="hub"', site["/feed.rss"])
        self.assertEqual(json.loads(site["/feed.json"])["hubs"][0]["url"], "https://hub.example/")

    def test_a_hub_that_does_not_answer_is_told_later(self) -> None:
        house_facts.give_facts(self.shop, self.me, "bench", hub="https://hub.example/")
        self.pages.post = self.fail_once
        self.out("A lamp")
        self.assertEqual(hubs.tell_some(self.shop), 0)
        del self.pages.post
        self.assertEqual(hubs.tell_some(self.shop), 0)
        self.clock.forward(61)
        self.assertGreater(hubs.tell_some(self.shop), 0)

    def fail_once(self, *asked: object):
        raise Broken("the hub is away")

    def test_without_a_hub_nobody_is_told_and_nonsense_is_no_hub(self) -> None:
        self.out("A lamp")
        hubs.tell_some(self.shop)
        self.assertEqual(self.pages.sent, [])
        with self.assertRaises(BadInput):
            house_facts.give_facts(self.shop, self.me, "bench", hub="nonsense")
