"""Nonsense in any address of the application: answered in a sentence, never with a failure."""

import re
from collections.abc import Iterator

from fastapi.routing import APIRoute

from mobbet.web.shell.door import Door
from tests.web.test_web import WebCase

WORDS = ("x", "-1", "²", "99999999999999999999999", "9999-12-31", "é" * 300)
NUMBERS = ("0", "999", "99999999999999999999999")


def routes(app: Door) -> Iterator[APIRoute]:
    """Every address that is asked for by GET."""
    inner = app.app
    for route in inner.routes:
        found = getattr(route, "original_router", None)
        yield from (
            one
            for one in (found.routes if found else [route])
            if isinstance(one, APIRoute) and "GET" in one.methods
        )


def placed(path: str, values: dict[str, str]) -> str:
    """An address with its values in their places."""
    return re.sub(r"\{(\w+)(?::\w+)?\}", lambda match: values.get(match[1], "x"), path)


class NonsenseTests(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.write("Lamp", date="2026-01-01", categories="Lamps", tags="flex")
        self.publish()
        self.sign_in()

    def test_no_address_fails_whatever_stands_in_it(self) -> None:
        asked = 0
        for route in routes(self.app):
            names = {one.name: one.field_info.annotation for one in route.dependant.path_params}
            usual = {name: "1" if kind is int else "bench" for name, kind in names.items()}
            queries = [one.alias for one in route.dependant.query_params]
            paths = [usual]
            paths += [
                {**usual, name: value}
                for name, kind in names.items()
                for value in (NUMBERS if kind is int else ("nonsense", "²"))
            ]
            wanted = [(placed(route.path, path), {}) for path in paths]
            wanted += [(placed(route.path, usual), {name: value}) for name in queries for value in WORDS]
            for path, query in wanted:
                with self.subTest(f"{path} {query}"):
                    self.assertLess(self.ask("GET", path, params=query).status_code, 500)
                asked += 1
        self.assertGreater(asked, 500)
