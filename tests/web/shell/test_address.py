import re
import unittest

from mobbet.web.shell.address import Address
from mobbet.web.shell.screens import addresses
from tests.web.shell.test_rights import routes
from tests.web.test_web import WebCase

DOCKET = Address("/posts/{post_id}/docket[/{part}]", "state")


class AddressTests(unittest.TestCase):
    def test_a_link_fills_the_parts_and_then_the_query(self) -> None:
        for address, link in (
            (DOCKET(3), "/posts/3/docket"),
            (DOCKET(3, "slug"), "/posts/3/docket/slug"),
            (DOCKET(3, "", "draft"), "/posts/3/docket?state=draft"),
            (DOCKET(3, "slug", done=2, told=""), "/posts/3/docket/slug?done=2"),
            (Address("/b/{slug}{path:path}")("bench", "/lamps/"), "/b/bench/lamps/"),
            (
                Address("/desk/{slug}/in/{view}")("bench", "group:Members & friends/x"),
                "/desk/bench/in/group:Members%20%26%20friends%2Fx",
            ),
        ):
            with self.subTest(link):
                self.assertEqual(address, link)

    def test_a_route_has_the_pattern_or_a_literal_for_its_last_part(self) -> None:
        self.assertEqual(
            (DOCKET.route, DOCKET.at("slug")), ("/posts/{post_id}/docket", "/posts/{post_id}/docket/slug")
        )

    def test_too_few_and_too_many_values_are_a_mistake_of_the_caller(self) -> None:
        for values in ((), (1, "slug", "draft", "more")):
            with self.subTest(values), self.assertRaisesRegex(TypeError, "takes 1 to 2 parts"):
                DOCKET(*values)


class RouteTests(WebCase):
    def test_every_route_follows_from_an_address(self) -> None:
        written = [
            one
            for address in vars(addresses()).values()
            if isinstance(address, Address)
            for one in (address.route, address.whole)
        ]
        known = re.compile(
            "|".join(
                re.sub(r"\\{\w+(:path)?\\}", lambda part: ".+" if part[1] else "[^/]+", re.escape(one))
                for one in written
            )
        )
        for route in routes(self):
            with self.subTest(route.path):
                self.assertTrue(known.fullmatch(route.path))
