from __future__ import annotations

import base64
import unittest

from mobbet.core import programs
from mobbet.core.client_pages import read_client_page
from mobbet.core.programs import AskedWrongly

GOOD = {
    "client_id": "https://pencil.example/", "redirect_uri": "https://pencil.example/back", "code_challenge": "E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM",
    "code_challenge_method": "S256", "scope": "create soup post draft create", "state": "s",
}  # fmt: skip


class AskedTests(unittest.TestCase):
    def test_known_scopes_are_taken_once_in_one_order(self) -> None:
        self.assertEqual(programs.read_asked(GOOD).scopes, ("create", "draft"))

    def test_what_cannot_be_trusted_is_refused(self) -> None:
        cases = (
            ({"client_id": "javascript:alert(1)"}, "client_id"), ({"client_id": "https://a:b@pencil.example/"}, "client_id"), ({"client_id": "https://pencil.example/#a"}, "client_id"),
            ({"client_id": "https://10.0.0.1/"}, "client_id"), ({"client_id": "https://pencil.example/../"}, "client_id"), ({"client_id": ""}, "client_id"),
            ({"redirect_uri": "javascript:alert(1)"}, "redirect_uri"), ({"redirect_uri": "data:text/html,a"}, "redirect_uri"), ({"redirect_uri": "https://"}, "redirect_uri"),
            ({"redirect_uri": "https://pencil.example/back#a"}, "redirect_uri"), ({"code_challenge": ""}, "PKCE"), ({"code_challenge_method": "plain"}, "PKCE"),
            ({"response_type": "token"}, "response_type"), ({"state": "x" * 3000}, "state"),
        )  # fmt: skip
        for more, message in cases:
            with self.subTest(more=more), self.assertRaisesRegex(AskedWrongly, message):
                programs.read_asked({**GOOD, **more})

    def test_a_program_on_this_machine_or_with_a_scheme_of_its_own_may_ask(self) -> None:
        for more in (
            {"client_id": "http://127.0.0.1:8080/"},
            {"client_id": "http://localhost/"},
            {"redirect_uri": "com.pencil.app:/back"},
        ):
            with self.subTest(more=more):
                programs.read_asked({**GOOD, **more})

    def test_an_answer_goes_to_the_program_itself_or_where_its_page_says(self) -> None:
        cases = (
            ({}, (), True), ({"redirect_uri": "https://pencil.example:8443/back"}, (), False), ({"redirect_uri": "https://thief.example/back"}, (), False),
            ({"redirect_uri": "http://pencil.example/back"}, (), False), ({"redirect_uri": "com.pencil.app:/back"}, ("com.pencil.app:/back",), True),
        )  # fmt: skip
        for more, listed, is_own in cases:
            with self.subTest(more=more):
                self.assertEqual(programs.is_of_client(programs.read_asked({**GOOD, **more}), listed), is_own)

    def test_a_policy_names_the_place_of_an_answer_and_nothing_else(self) -> None:
        for redirect, source in (
            ("https://a.example/b?c=d", "https://a.example"),
            ("http://127.0.0.1:80/x", "http://127.0.0.1:80"),
            ("http://[::1]:9/x", "http://[::1]:9"),
            ("com.pencil.app:/back", "com.pencil.app:"),
        ):
            with self.subTest(redirect=redirect):
                self.assertTrue(programs.is_redirect(redirect))
                self.assertEqual(programs.policy_source(redirect), source)
        for redirect in (
            "https://a.example;script-src/x",
            "https://a.example,b/x",
            "https://*.example/",
            "a.b;c:/x",
            "https://a.example'/",
        ):
            with self.subTest(redirect=redirect):
                self.assertFalse(programs.is_redirect(redirect))

    def test_a_verifier_proves_its_challenge(self) -> None:
        self.assertTrue(
            programs.proves("dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk", GOOD["code_challenge"])
        )  # RFC 7636, appendix B
        for wrong in ("", "short", "dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXK", "ü" * 50):
            with self.subTest(wrong=wrong):
                self.assertFalse(programs.proves(wrong, GOOD["code_challenge"]))

    def test_tokens_of_heads(self) -> None:
        basic = base64.b64encode(b"ines:abc:d").decode()
        for head, token in (
            ("Bearer abc", "abc"),
            ("bearer  abc ", "abc"),
            (f"Basic {basic}", "abc:d"),
            ("Basic !", ""),
            ("Basic 4pi=", ""),
            ("", ""),
            ("abc", ""),
        ):
            with self.subTest(head=head):
                self.assertEqual(programs.token_in(head), token)


class ClientPageTests(unittest.TestCase):
    def test_a_page_names_the_program_and_where_answers_go(self) -> None:
        html = b'<title>Pencil</title><link rel="redirect_uri" href="/back"><div class="h-app"><a class="p-name">The pencil</a></div>'
        found = read_client_page(
            "text/html",
            html,
            ['<https://pencil.example/two>; rel="redirect_uri", <x>; rel="other"'],
            "https://pencil.example/",
        )
        self.assertEqual(found, ("The pencil", ("https://pencil.example/two", "https://pencil.example/back")))

    def test_a_metadata_document_counts_for_its_own_address_alone(self) -> None:
        data = b'{"client_id": "https://pencil.example/", "client_name": "Pencil", "redirect_uris": ["a.b:/c", 3]}'
        self.assertEqual(
            read_client_page("application/json", data, [], "https://pencil.example/"), ("Pencil", ("a.b:/c",))
        )
        self.assertEqual(read_client_page("application/json", data, [], "https://else.example/"), ("", ()))
        self.assertEqual(read_client_page("application/json", b"[", [], "https://else.example/"), ("", ()))
