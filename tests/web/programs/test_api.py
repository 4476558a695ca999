"""Mobbet's own JSON over HTTP: what the OpenAPI description says is what the server does."""

from __future__ import annotations

from typing import Any

from jsonschema import Draft202012Validator

from mobbet.actions import people
from mobbet.store import blogs
from mobbet.web.programs.api_description import open_api
from mobbet.web.programs.api_routes import router
from tests.shops import picture
from tests.web.programs.asking import HOME, ProgramCase

DESCRIPTION = open_api(router, f"{HOME}/~")


def problems(schema: dict[str, Any], value: Any) -> list[str]:
    whole = {**schema, "components": DESCRIPTION["components"]}
    return [error.message for error in Draft202012Validator(whole).iter_errors(value)]


class ApiCase(ProgramCase):
    scope = "create update delete media read"

    def call(self, method: str, path: str, described: str = "", **more: Any):
        """Asks, and holds the answer against the description of the path."""
        answer = self.do(method, f"api{path}", **more)
        methods = DESCRIPTION["paths"]["/api" + (described or path).partition("?")[0]]
        known = methods[method.lower()]["responses"]
        self.assertIn(str(answer.status_code), known, answer.text)
        content = known[str(answer.status_code)].get("content")
        if content:
            self.assertEqual(problems(content["application/json"]["schema"], answer.json()), [])
        return answer

    def made(self, **wanted: Any) -> dict[str, Any]:
        answer = self.call("POST", "/posts", json={"title": "A lamp", "markdown": "Two *wires*.", **wanted})
        self.assertEqual(answer.status_code, 201, answer.text)
        return answer.json()


class DescriptionTests(ApiCase):
    def test_it_is_found_without_a_token(self) -> None:
        found = self.at("GET", "api/openapi.json").json()
        self.assertEqual((found["openapi"][:3], found["servers"]), ("3.1", [{"url": f"{HOME}/~"}]))
        self.assertEqual(found, DESCRIPTION)
        self.assertFalse([path for path in found["paths"] if "slug" in path])

    def test_its_examples_are_what_it_describes(self) -> None:
        count = 0
        for name, schema in DESCRIPTION["components"]["schemas"].items():
            for example in schema.get("examples", []):
                with self.subTest(name=name):
                    self.assertEqual(problems(schema, example), [])
                    count += 1
        self.assertGreater(count, 2)

    def test_its_examples_are_taken_by_the_server(self) -> None:
        post = self.call("POST", "/posts", json=DESCRIPTION["components"]["schemas"]["PostIn"]["examples"][0])
        self.assertEqual(post.status_code, 201)
        self.call(
            "PATCH",
            f"/posts/{post.json()['id']}",
            "/posts/{number}",
            json=DESCRIPTION["components"]["schemas"]["PostIn"]["examples"][0],
        )
        self.call("POST", "/media", files={"file": ("lamp.png", picture(), "image/png")})
        described = self.call(
            "PATCH",
            "/media/1",
            "/media/{number}",
            json=DESCRIPTION["components"]["schemas"]["MediaIn"]["examples"][0],
        )
        self.assertEqual(described.json()["credit"], "The Mending Bench")


class PostTests(ApiCase):
    def test_a_post_is_made_changed_put_out_and_removed(self) -> None:
        post = self.made(tags=["flex"])
        self.assertEqual(
            (post["state"], post["markdown"], post["tags"]), ("draft", "Two *wires*.\n", ["flex"])
        )
        path = f"/posts/{post['id']}"
        footprint = self.call("GET", f"{path}/footprint", "/posts/{number}/footprint").json()
        self.assertIn("/posts/a-lamp/", footprint["add"])
        out = self.call("PATCH", path, "/posts/{number}", json={"state": "out", "excerpt": "Short"}).json()
        self.assertEqual((out["state"], out["address"], out["waits"]), ("out", f"{HOME}/posts/a-lamp/", ""))
        self.assertEqual(self.page(out["address"]).status_code, 200)
        self.call("PATCH", path, "/posts/{number}", json={"html": "<p>New <b>words</b></p>"})
        self.assertIn("New <strong>words</strong>", self.page(out["address"]).text)
        self.clock.forward(60)
        self.assertEqual(
            self.call("PATCH", path, "/posts/{number}", json={"state": "draft"}).json()["state"], "withdrawn"
        )
        self.assertEqual(self.call("DELETE", path, "/posts/{number}").status_code, 204)
        self.assertEqual(self.call("GET", path, "/posts/{number}").status_code, 404)

    def test_lists_have_pages(self) -> None:
        for number in range(22):
            self.clock.forward(1)
            self.write(f"Post {number}")
        first = self.call("GET", "/posts").json()
        second = self.call("GET", f"/posts?before={first['next']}").json()
        self.assertEqual(
            [one["title"] for one in first["posts"] + second["posts"]],
            [f"Post {number}" for number in range(21, -1, -1)],
        )
        self.assertIsNone(second["next"])

    def test_a_post_of_later_stands_in_the_timetable(self) -> None:
        self.made(state="out", goes_out="2026-12-24T09:00:00+01:00")
        found = self.call("GET", "/timetable").json()
        self.assertEqual(
            [(one["instant"], one["title"]) for one in found["events"]], [("2026-12-24T08:00:00Z", "A lamp")]
        )

    def test_filing_and_files_are_found(self) -> None:
        self.made(tags=["flex"])
        self.assertEqual(self.call("GET", "/filing").json()["tags"], [{"name": "flex", "posts": 1}])
        self.call("POST", "/media", files={"file": ("lamp.png", picture(), "image/png")})
        self.assertEqual(self.call("GET", "/media?words=lamp").json()["items"][0]["src"], "media:1")

    def test_what_cannot_be_taken_is_told(self) -> None:
        cases = (
            {"json": {"title": "a", "soup": 1}}, {"json": {"title": "x" * 400}}, {"json": {"markdown": "a", "html": "b"}}, {"json": {"title": "a", "categories": ["No"]}},
            {"json": {"title": "a", "visibility": "friends"}}, {"json": {"title": "a", "goes_out": "soon"}}, {"json": {"title": "a", "state": "maybe"}}, {"content": b"{"},
        )  # fmt: skip
        for more in cases:
            with self.subTest(more=str(more)[:60]):
                answer = self.call("POST", "/posts", **more)
                self.assertEqual(answer.status_code, 400)
                self.assertTrue(answer.json()["error_description"])
        self.assertEqual(self.call("GET", "/posts").json()["posts"], [])

    def test_scopes_and_rights_are_asked_for(self) -> None:
        post = self.made()
        self.sign_in()
        tokens = {scope: self.token_for(scope) for scope in ("read", "create", "draft", "media")}
        self.as_(None)
        path = f"api/posts/{post['id']}"
        for scope, method, name, more in (
            ("create", "GET", "api/posts", {}), ("create", "GET", path, {}), ("read", "POST", "api/posts", {"json": {"title": "a"}}), ("read", "PATCH", path, {"json": {"title": "a"}}),
            ("read", "DELETE", path, {}), ("media", "GET", "api/timetable", {}), ("read", "POST", "api/media", {"files": {"file": ("a.png", picture(), "image/png")}}),
        ):  # fmt: skip
            with self.subTest(scope=scope, method=method, name=name):
                self.assertEqual(
                    self.at(method, name, tokens[scope], **more).json()["error"], "insufficient_scope"
                )
        drafted = self.at(
            "POST", "api/posts", tokens["draft"], json={"title": "a", "markdown": "b", "state": "out"}
        ).json()
        self.assertEqual(drafted["state"], "draft")
        self.assertEqual(self.at("GET", "api/posts").status_code, 401)

    def test_somebody_sees_and_changes_what_their_role_lets_them(self) -> None:
        post = self.made(visibility="only-me")
        other = people.add_person(self.shop, name="Wren", email="wren@bench.example", password=None)
        with self.shop.db.transaction():
            blogs.add_member(self.shop.db, self.blog.id, other.id, "editor")
        self.as_(other)
        token = self.token_for("read update")
        self.as_(None)
        self.assertEqual(self.at("GET", "api/posts", token).json()["posts"], [])
        self.assertEqual(self.at("GET", f"api/posts/{post['id']}", token).status_code, 404)
        self.assertEqual(
            self.at("PATCH", f"api/posts/{post['id']}", token, json={"title": "x"}).status_code, 404
        )
