from __future__ import annotations

import re
import unittest

from fastapi.dependencies.models import Dependant

from mobbet.web.shell.limits import FIELD, LONG_FIELD
from mobbet.web.shell.screens import WEB
from tests.web.shell.test_rights import routes
from tests.web.test_web import WebCase


def body_params(dependant: Dependant) -> list:
    return [*dependant.body_params, *(one for inner in dependant.dependencies for one in body_params(inner))]


class FieldTests(WebCase):
    def test_every_field_of_a_form_has_a_length(self) -> None:
        seen = 0
        for route in routes(self):
            for one in body_params(route.dependant):
                if one.field_info.annotation is str:
                    lengths = [
                        meta.max_length for meta in one.field_info.metadata if hasattr(meta, "max_length")
                    ]
                    with self.subTest(f"{route.path} {one.name}"):
                        self.assertTrue(lengths and lengths[0] <= LONG_FIELD)
                    seen += 1
        self.assertGreater(seen, 150)

    def test_what_is_too_long_is_refused_in_words(self) -> None:
        self.sign_in()
        answer = self.post("/desk/bench/ideas", title="a" * (FIELD + 1))
        self.assertEqual((answer.status_code, "“title” could not be read" in answer.text), (422, True))


class FormTests(unittest.TestCase):
    def test_forms_are_read_in_one_place(self) -> None:
        found = [path.name for path in WEB.rglob("*.py") if re.search(r"request\.form\(", path.read_text())]
        self.assertEqual(found, ["fields.py"])
