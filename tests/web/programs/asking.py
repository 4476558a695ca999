"""A program that asks for a person's word, and writes with its token."""

from __future__ import annotations

import base64
import hashlib
from typing import Any
from urllib.parse import parse_qs, urlsplit

import httpx

from tests.web.test_web import WebCase

CLIENT, REDIRECT = "https://pencil.example/", "https://pencil.example/back"
VERIFIER = "a-verifier-that-is-long-enough-for-the-standard-0123456789"
CHALLENGE = base64.urlsafe_b64encode(hashlib.sha256(VERIFIER.encode()).digest()).rstrip(b"=").decode()
HOME = "https://bench.example"
ALL = "create update delete undelete media"


class ProgramCase(WebCase):
    """The Bench, with its owner signed in, and a program with a token."""

    scope = ALL

    def setUp(self) -> None:
        super().setUp()
        self.sign_in()
        self.token = self.token_for(self.scope)
        self.as_(None)

    def asked(self, **more: str) -> dict[str, str]:
        return {
            "response_type": "code", "client_id": CLIENT, "redirect_uri": REDIRECT, "state": "st ü", "code_challenge": CHALLENGE,
            "code_challenge_method": "S256", "scope": self.scope, **more,
        }  # fmt: skip

    def code_for(self, scope: str, **more: Any) -> str:
        answer = self.post("/allow", **self.asked(scope=scope), allowed=scope.split(), blog="bench", **more)
        self.assertEqual(answer.status_code, 303, answer.text)
        found = parse_qs(urlsplit(answer.headers["location"]).query)
        self.assertEqual((found["state"], found["iss"]), (["st ü"], [f"{HOME}/"]))
        return found["code"][0]

    def exchange(self, code: str, **more: str) -> httpx.Response:
        form = {
            "grant_type": "authorization_code",
            "code": code,
            "client_id": CLIENT,
            "redirect_uri": REDIRECT,
            "code_verifier": VERIFIER,
            **more,
        }
        return self.at("POST", "token", data=form)

    def token_for(self, scope: str) -> str:
        return self.exchange(self.code_for(scope)).json()["access_token"]

    def at(self, method: str, name: str, token: str | None = None, **more: Any) -> httpx.Response:
        """Asks as a program of another site does."""
        headers = {"origin": "https://pencil.example", **more.pop("headers", {})}
        if token:
            headers["authorization"] = f"Bearer {token}"
        return self.ask(method, f"/b/bench/~/{name}", headers, **more)

    def do(self, method: str = "POST", name: str = "micropub", **more: Any) -> httpx.Response:
        return self.at(method, name, self.token, **more)

    def make(self, **properties: Any) -> str:
        """The address of a new post."""
        data = {
            "type": ["h-entry"],
            "properties": {
                name.replace("_", "-"): value if isinstance(value, list) else [value]
                for name, value in properties.items()
            },
        }
        answer = self.do(json=data)
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.headers["location"]

    def source(self, url: str, *names: str) -> dict[str, Any]:
        query = {"q": "source", "url": url, **({"properties[]": list(names)} if names else {})}
        return self.do("GET", params=query).json()["properties"]

    def page(self, url: str) -> httpx.Response:
        return self.get("/b/bench" + url.removeprefix(HOME))
