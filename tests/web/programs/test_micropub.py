"""Each thing that the Micropub Recommendation asks of a server, as a request."""

from __future__ import annotations

import json

from mobbet.actions import people as people_actions
from mobbet.store import blogs, media, posts
from tests.shops import picture
from tests.web.programs.asking import HOME, ProgramCase


class CreatingTests(ProgramCase):
    def test_a_form_makes_a_post_that_is_out(self) -> None:
        answer = self.do(
            data={
                "h": "entry",
                "name": "A lamp",
                "content": "Two wires.\n\nAnd a switch.",
                "category[]": ["flex", "switch"],
            }
        )
        self.assertEqual(answer.status_code, 201, answer.text)
        url = answer.headers["location"]
        page = self.page(url)
        self.assertEqual(page.status_code, 200)
        self.assertIn("<p>And a switch.</p>", page.text)
        self.assertEqual(self.source(url)["category"], ["flex", "switch"])

    def test_json_makes_a_post_with_html(self) -> None:
        url = self.make(
            name="Clocks",
            content={"html": "<p>One <b>clock</b><script>alert(1)</script></p>"},
            summary="Short",
            mp_slug="my-clocks",
        )
        self.assertEqual(url, f"{HOME}/posts/my-clocks/")
        page = self.page(url).text
        self.assertIn("<strong>clock</strong>", page)
        self.assertNotIn("alert(1)", page)
        self.assertEqual(self.source(url, "summary")["summary"], ["Short"])

    def test_multipart_makes_a_post_with_a_picture(self) -> None:
        answer = self.do(
            data={"h": "entry", "content": "Look.", "mp-photo-alt": "A lamp"},
            files={"photo": ("lamp.png", picture(), "image/png")},
        )
        self.assertEqual(answer.status_code, 201, answer.text)
        self.assertEqual(media.on_blog(self.shop.db, self.blog.id, 1).name, "lamp.png")
        self.assertIn(
            "media:1",
            self.shop.db.value("SELECT body FROM revision ORDER BY saved_at DESC, number DESC LIMIT 1"),
        )

    def test_one_value_and_several_are_taken(self) -> None:
        url = self.do(data={"h": "entry", "content": "a", "category": "flex"}).headers["location"]
        self.assertEqual(self.source(url, "category"), {"category": ["flex"]})

    def test_the_token_may_stand_in_the_form_but_not_twice(self) -> None:
        form = {"h": "entry", "content": "a", "access_token": self.token}
        self.assertEqual(self.at("POST", "micropub", data=form).status_code, 201)
        self.assertEqual(self.do(data=form).json()["error"], "invalid_request")

    def test_unknown_properties_are_left_out(self) -> None:
        self.make(content="a", x_mood="fair", mp_extra="1")

    def test_a_draft_is_no_page_and_its_address_leads_to_its_source(self) -> None:
        url = self.make(content="Not yet", post_status="draft")
        self.assertEqual(self.page(url).status_code, 404)
        self.assertEqual(
            self.source(url, "post-status", "name"), {"post-status": ["draft"], "name": ["Not yet"]}
        )

    def test_a_post_of_later_waits_in_the_timetable(self) -> None:
        url = self.make(name="Later", content="a", published="2026-12-24T09:00:00+01:00")
        self.assertEqual(self.page(url).status_code, 404)
        self.assertEqual(self.source(url, "published")["published"], ["2026-12-24T08:00:00Z"])

    def test_a_private_post_is_for_its_author(self) -> None:
        url = self.make(name="Mine", content="a", visibility="private")
        self.assertNotEqual(self.page(url).status_code, 200)
        self.assertEqual(self.source(url, "visibility")["visibility"], ["private"])

    def test_what_a_post_is_about_is_linked(self) -> None:
        url = self.make(content="Indeed.", in_reply_to="https://fuse-notes.example/promise")
        self.assertIn('In reply to <a href="https://fuse-notes.example/promise"', self.page(url).text)

    def test_a_nested_object_or_many_values_do_no_harm(self) -> None:
        self.make(content="a", location={"type": ["h-geo"], "properties": {"latitude": ["1"]}})
        answer = self.do(json={"type": ["h-entry"], "properties": {"category": ["a"] * 1000}})
        self.assertEqual((answer.status_code, answer.json()["error"]), (400, "invalid_request"))


class ChangingTests(ProgramCase):
    def update(self, url: str, **changes: object) -> int:
        answer = self.do(json={"action": "update", "url": url, **changes})
        self.assertIn(answer.status_code, (201, 204), answer.text)
        return answer.status_code

    def test_replace_add_and_delete_change_what_they_name_alone(self) -> None:
        url = self.make(
            name="A lamp", content={"html": "<p>Old</p>"}, category=["flex", "fuse"], summary="Short"
        )
        self.update(url, replace={"content": [{"html": "<p>New</p>"}]})
        self.assertIn("<p>New</p>", self.page(url).text)
        self.update(url, add={"category": ["switch", "flex"]})
        self.assertEqual(self.source(url, "category")["category"], ["flex", "fuse", "switch"])
        self.update(url, delete={"category": ["fuse"]})
        self.assertEqual(self.source(url, "category")["category"], ["flex", "switch"])
        self.update(url, delete=["category", "summary"])
        self.assertEqual(sorted(self.source(url, "category", "summary", "name")), ["name"])

    def test_the_source_of_a_text_comes_back_as_the_same_text(self) -> None:
        html = '<h2>Part</h2><ul><li>a</li></ul><p><a href="https://a.example/">b</a></p>'
        url = self.make(name="A", content={"html": html})
        before = self.shop.db.value("SELECT body FROM revision ORDER BY number DESC LIMIT 1")
        self.update(url, replace={"content": self.source(url, "content")["content"], "summary": ["x"]})
        self.assertEqual(self.shop.db.value("SELECT body FROM revision ORDER BY number DESC LIMIT 1"), before)

    def test_another_slug_moves_the_post_and_tells_where(self) -> None:
        url = self.make(name="A lamp", content="a", mp_slug="one")
        answer = self.do(json={"action": "update", "url": url, "replace": {"mp-slug": ["two"]}})
        self.assertEqual((answer.status_code, answer.headers["location"]), (201, f"{HOME}/posts/two/"))
        self.assertEqual(self.source(url, "name"), {"name": ["A lamp"]})

    def test_a_post_is_removed_and_brought_back(self) -> None:
        url = self.make(name="A lamp", content="a")
        self.assertEqual(self.do(data={"action": "delete", "url": url}).status_code, 204)
        self.assertIn(self.page(url).status_code, (404, 410))
        self.assertIsNotNone(posts.by_id(self.shop.db, 1).aside_at)
        self.assertEqual(self.do(json={"action": "undelete", "url": url}).status_code, 204)
        self.assertEqual(self.page(url).status_code, 200)

    def test_a_draft_goes_out_and_comes_back(self) -> None:
        url = self.make(name="A lamp", content="a", post_status="draft")
        self.update(url, replace={"post-status": ["published"]})
        self.assertEqual(self.source(url, "post-status")["post-status"], ["published"])
        self.update(url, replace={"post-status": ["draft"]})
        self.assertEqual(self.source(url, "post-status")["post-status"], ["draft"])

    def test_a_wrong_update_changes_nothing(self) -> None:
        url = self.make(name="A lamp", content="a")
        for changes in (
            {},
            {"replace": "x"},
            {"replace": {"name": "x"}},
            {"delete": 3},
            {"add": {"category": "x"}},
            {"replace": {"visibility": ["unlisted"]}},
        ):
            with self.subTest(changes=changes):
                answer = self.do(json={"action": "update", "url": url, **changes})
                self.assertEqual((answer.status_code, answer.json()["error"]), (400, "invalid_request"))
        self.assertEqual(
            self.source(url, "name", "visibility"), {"name": ["A lamp"], "visibility": ["public"]}
        )


class AskingTests(ProgramCase):
    def test_the_configuration_names_the_endpoint_for_media(self) -> None:
        found = self.do("GET", params={"q": "config"}).json()
        self.assertEqual((found["media-endpoint"], found["syndicate-to"]), (f"{HOME}/~/media", []))

    def test_queries_are_answered(self) -> None:
        self.make(content="a", category=["flex"])
        self.assertEqual(self.do("GET", params={"q": "syndicate-to"}).json(), {"syndicate-to": []})
        self.assertIn("flex", self.do("GET", params={"q": "category"}).json()["categories"])
        self.assertEqual(self.do("GET", params={"q": "category", "filter": "zip"}).json()["categories"], [])

    def test_the_whole_source_has_its_type(self) -> None:
        url = self.make(name="A", content="a")
        found = self.do("GET", params={"q": "source", "url": url}).json()
        self.assertEqual((found["type"], found["properties"]["name"]), (["h-entry"], ["A"]))

    def test_what_cannot_be_asked_is_refused_in_json(self) -> None:
        for query in (
            {},
            {"q": "soup"},
            {"q": "source"},
            {"q": "source", "url": f"{HOME}/nowhere/"},
            {"q": "source", "url": "https://else.example/"},
        ):
            with self.subTest(query=query):
                answer = self.do("GET", params=query)
                self.assertEqual((answer.status_code, answer.json()["error"]), (400, "invalid_request"))
                self.assertTrue(answer.json()["error_description"])


class MediaTests(ProgramCase):
    def upload(self, **more: object):
        return self.do("POST", "media", files={"file": ("lamp.png", picture(), "image/png")}, **more)

    def test_a_file_gets_an_address_that_a_post_can_name(self) -> None:
        answer = self.upload()
        self.assertEqual(answer.status_code, 201, answer.text)
        address = answer.headers["location"]
        shown = self.page(address)
        self.assertEqual((shown.status_code, shown.headers["content-type"].partition("/")[0]), (200, "image"))
        self.make(content="Look.", photo={"value": address, "alt": "A lamp"})
        self.assertIn(
            '"alt":"A lamp"',
            self.shop.db.value("SELECT body FROM revision ORDER BY saved_at DESC, number DESC LIMIT 1"),
        )

    def test_nobody_guesses_the_address_of_a_file(self) -> None:
        self.upload()
        self.assertEqual(self.page(f"{HOME}/~/media/1-{'0' * 32}.png").status_code, 404)
        self.assertEqual(self.page(f"{HOME}/~/media/1").status_code, 404)

    def test_without_a_file_or_with_another_thing_it_is_refused(self) -> None:
        self.assertEqual(self.do("POST", "media", data={"a": "b"}).status_code, 400)
        answer = self.do("POST", "media", files={"file": ("run.exe", b"MZ" + bytes(100), "image/png")})
        self.assertEqual((answer.status_code, answer.json()["error"]), (400, "invalid_request"))


class RightTests(ProgramCase):
    def refused(self, answer, status: int, error: str) -> None:
        self.assertEqual((answer.status_code, answer.json()["error"]), (status, error), answer.text)

    def test_without_a_good_token_nothing_is_done(self) -> None:
        form = {"h": "entry", "content": "a"}
        answer = self.at("POST", "micropub", data=form)
        self.refused(answer, 401, "unauthorized")
        self.assertEqual(answer.headers["www-authenticate"], "Bearer")
        self.refused(self.at("POST", "micropub", "wrong", data=form), 401, "unauthorized")
        self.refused(self.at("GET", "micropub", params={"q": "config"}), 401, "unauthorized")
        self.refused(
            self.at("POST", "media", files={"file": ("a.png", picture(), "image/png")}), 401, "unauthorized"
        )

    def test_each_scope_lets_one_thing_be_done(self) -> None:
        url = self.make(name="A", content="a")
        self.sign_in()
        tokens = {scope: self.token_for(scope) for scope in ("media", "create", "update", "delete", "read")}
        self.as_(None)
        asked = {
            "create": {"type": ["h-entry"], "properties": {"content": ["b"]}},
            "update": {"action": "update", "url": url, "replace": {"name": ["B"]}},
            "delete": {"action": "delete", "url": url},
        }
        for scope, token in tokens.items():
            for action, data in asked.items():
                if action == scope:
                    continue
                with self.subTest(scope=scope, action=action):
                    answer = self.at("POST", "micropub", token, json=data)
                    self.refused(answer, 401, "insufficient_scope")
                    self.assertEqual(answer.json()["scope"], action)
        self.assertEqual(
            self.at(
                "POST", "media", tokens["update"], files={"file": ("a.png", picture(), "image/png")}
            ).status_code,
            401,
        )

    def test_the_scope_for_drafts_makes_drafts_whatever_is_asked(self) -> None:
        self.sign_in()
        token = self.token_for("draft")
        self.as_(None)
        url = self.at(
            "POST",
            "micropub",
            token,
            json={"type": ["h-entry"], "properties": {"content": ["a"], "post-status": ["published"]}},
        ).headers["location"]
        self.assertEqual(self.page(url).status_code, 404)

    def test_a_program_has_the_rights_of_its_person_and_no_more(self) -> None:
        url = self.make(name="Of the owner", content="a")
        writer = people_actions.add_person(self.shop, name="Wren", email="wren@bench.example", password=None)
        with self.shop.db.transaction():
            blogs.add_member(self.shop.db, self.blog.id, writer.id, "contributor")
        self.as_(writer)
        token = self.token_for("create update delete")
        self.as_(None)
        answer = self.at("POST", "micropub", token, json={"action": "delete", "url": url})
        self.assertIn(answer.status_code, (400, 403))
        made = self.at(
            "POST", "micropub", token, json={"type": ["h-entry"], "properties": {"content": ["a"]}}
        )
        self.assertEqual((made.status_code, made.json()["state"]), (202, "draft"))
        self.assertIn("location", made.headers)
        with self.shop.db.transaction():
            blogs.remove_member(self.shop.db, self.blog.id, writer.id)
        self.refused(self.at("GET", "micropub", token, params={"q": "config"}), 401, "unauthorized")

    def test_a_mark_that_must_be_settled_holds_a_post_back(self) -> None:
        answer = self.do(json={"type": ["h-entry"], "properties": {"name": [""], "content": [""]}})
        self.assertEqual((answer.status_code, answer.json()["state"]), (202, "draft"))

    def test_what_is_no_request_is_refused(self) -> None:
        cases = (
            {"content": b"{", "headers": {"content-type": "application/json"}}, {"content": b"a", "headers": {"content-type": "text/plain"}},
            {"json": []}, {"json": {"type": ["h-event"], "properties": {}}}, {"json": {"type": ["h-entry"], "properties": []}},
            {"data": {"h": "card"}}, {"data": {"action": "dance"}}, {"data": {"action": "update", "url": "x"}}, {"json": {"action": "delete"}},
            {"content": json.dumps({"a": 1}).encode() + b"[" * 50_000, "headers": {"content-type": "application/json"}},
        )  # fmt: skip
        for more in cases:
            with self.subTest(more=str(more)[:60]):
                self.refused(self.do(**more), 400, "invalid_request")

    def test_programs_in_browsers_of_other_sites_may_ask(self) -> None:
        answer = self.at("OPTIONS", "micropub")
        self.assertEqual((answer.status_code, answer.headers["access-control-allow-origin"]), (204, "*"))
        self.assertIn("Authorization", answer.headers["access-control-allow-headers"])
