import json

from mobbet.actions import house, house_facts
from mobbet.core.house import FACTS
from mobbet.store import blogs
from tests.shops import ShopCase


class EarlierFactsTests(ShopCase):
    def test_facts_that_an_earlier_version_wrote_are_given_and_leave_what_it_did_not_know(self) -> None:
        house_facts.give_facts(self.shop, self.me, "bench", hub="https://hub.example/")
        blog = blogs.by_slug(self.shop.db, "bench")
        value = json.loads(house_facts.facts_text(blog)) | {"tagline": "as it was"}
        for column in ("hub", "server", "counts_reads"):
            del value[column]
        house.try_value(self.shop, self.me, "bench", FACTS, json.dumps(value))
        house.give(self.shop, self.me, "bench", FACTS)
        blog = blogs.by_slug(self.shop.db, "bench")
        self.assertEqual((blog.tagline, blog.hub), ("as it was", "https://hub.example/"))
