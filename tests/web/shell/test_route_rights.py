"""Every route with every role, on one's own and a colleague's, against the table of rights."""

import re
from collections.abc import Iterator

from fastapi.routing import APIRoute

from mobbet.core.rights import STAFF, Action, may
from mobbet.store.people import Person
from mobbet.web.shell.route_rights import ROUTES, Free, Unknown, right_of
from tests.web.shell.test_rights import PUBLIC, RightsCase, asks_for_a_person, routes

ENDING = re.compile(
    r"/leave|/people/|/site/house/aside|/aside$|/remove|/set-aside|/withdraw|/several/|/timetable/|/readers/|/put-back|/begin"
)
"""What changes the blog for the requests that follow."""
AS_SOMEBODY = re.compile(r"/preview/in/|/moment/\{at\}|/check/where|^/blogs/")
"""What is refused by more than the role: looking as the owner, and another blog for those who own none."""
OF_ANY = {Action.EDIT_ITEM, Action.EDIT_KEPT}
"""What is a colleague's for everybody in these tests."""


class RouteRightsTests(RightsCase):
    def setUp(self) -> None:
        super().setUp()
        self.contributor = self._member("Wren", "contributor")
        self.people = dict(zip(STAFF, (self.me, self.editor, self.writer, self.contributor), strict=True))
        self.mine = {
            role: self._post(person, f"Own of {role}", "My words.") for role, person in self.people.items()
        }

    def guarded(self) -> Iterator[tuple[str, APIRoute]]:
        """(method, route) of all that ask for a person."""
        for route in routes(self):
            if asks_for_a_person(route) and route.path not in PUBLIC:
                yield from ((method, route) for method in sorted(route.methods - {"HEAD"}))

    def answers(self, person: Person, method: str, route: APIRoute, post: int) -> list[int]:
        self.as_(person)
        return [
            answer.status_code
            for asked, answer in self.try_all(route, "bench", post)
            if asked.startswith(method)
        ]

    def test_every_route_has_an_entry_in_the_table(self) -> None:
        for method, route in self.guarded():
            with self.subTest(f"{method} {route.path}"):
                self.assertNotEqual(right_of(method, route.path), Free.PUBLIC)
        with self.assertRaises(Unknown):
            right_of("POST", "/desk/{slug}/something-new")

    def test_every_entry_of_the_table_is_a_route(self) -> None:
        known = {(method, route.path) for route in routes(self) for method in route.methods}
        for entry in ROUTES:
            *methods, path = entry.split(" ")
            for method in methods:
                self.assertIn((method, path), known)

    def test_what_a_role_may_not_is_refused_on_ones_own_and_on_a_colleagues(self) -> None:
        for role, person in self.people.items():
            for method, route in self.guarded():
                action = right_of(method, route.path)
                for is_own, post in ((True, self.mine[role]), (False, self.draft)):
                    if isinstance(action, Free) or may(role, action, is_own=is_own and action not in OF_ANY):
                        continue
                    if "post_id" not in route.path and not is_own:
                        continue
                    with self.subTest(f"{role}: {method} {route.path}, own: {is_own}"):
                        found = self.answers(person, method, route, post.id)
                        self.assertLessEqual(set(found), {403, 404, 422})
                        self.assertTrue({403, 404} & set(found), found)

    def test_what_a_role_may_is_never_refused_for_want_of_a_right(self) -> None:
        for role, person in self.people.items():
            for method, route in self.guarded():
                action = right_of(method, route.path)
                if (
                    ENDING.search(route.path)
                    or AS_SOMEBODY.search(route.path)
                    or (action in OF_ANY and not may(role, action, is_own=False))
                ):
                    continue
                if isinstance(action, Free) or may(role, action):
                    with self.subTest(f"{role}: {method} {route.path}"):
                        found = self.answers(person, method, route, self.mine[role].id)
                        self.assertNotIn(403, found)
                        self.assertLess(max(found), 500)
