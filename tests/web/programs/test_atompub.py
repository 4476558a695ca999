"""What RFC 5023 asks of a server, as requests."""

from __future__ import annotations

import base64
from xml.etree import ElementTree as tree

from mobbet.core.atompub import APP, ATOM
from tests.shops import picture
from tests.web.programs.asking import HOME, ProgramCase

ENTRY = "application/atom+xml;type=entry"


def entry(
    title: str = "A lamp", content: str = "&lt;p&gt;Two wires.&lt;/p&gt;", more: str = "", kind: str = "html"
) -> bytes:
    return (
        f'<entry xmlns="{ATOM}" xmlns:app="{APP}"><title>{title}</title><id>urn:x</id><updated>2026-11-01T09:00:00Z</updated>'
        f'<author><name>Somebody</name></author>{more}<content type="{kind}">{content}</content></entry>'
    ).encode()


def found(answer, path: str) -> list:
    return tree.fromstring(answer.content).findall(path, {"a": ATOM, "p": APP})


class AtomCase(ProgramCase):
    def post_entry(self, body: bytes = entry(), **headers: str):
        return self.do("POST", "atom/posts", content=body, headers={"content-type": ENTRY, **headers})

    def at_edit(self, method: str, answer, **more):
        return self.do(method, answer.headers["location"].removeprefix(f"{HOME}/~/"), **more)


class DiscoveringTests(AtomCase):
    def test_the_service_document_names_the_collections(self) -> None:
        answer = self.do("GET", "atom")
        self.assertTrue(answer.headers["content-type"].startswith("application/atomsvc+xml"))
        self.assertEqual(
            [one.get("href") for one in found(answer, "p:workspace/p:collection")],
            [f"{HOME}/~/atom/posts", f"{HOME}/~/atom/media"],
        )
        self.assertEqual(found(answer, "p:workspace/p:collection/p:accept")[0].text, ENTRY)
        self.assertTrue(
            all(one.find(f"{{{ATOM}}}title") is not None for one in found(answer, "p:workspace/p:collection"))
        )

    def test_the_categories_document_says_that_others_may_be_used(self) -> None:
        self.make(content="a", category=["flex"])
        answer = self.do("GET", "atom/categories")
        self.assertTrue(answer.headers["content-type"].startswith("application/atomcat+xml"))
        self.assertEqual(tree.fromstring(answer.content).get("fixed"), "no")
        self.assertIn("flex", [one.get("term") for one in found(answer, "a:category")])

    def test_a_token_may_come_as_a_password(self) -> None:
        words = base64.b64encode(f"ines:{self.token}".encode()).decode()
        self.assertEqual(self.at("GET", "atom", headers={"authorization": f"Basic {words}"}).status_code, 200)
        answer = self.at("GET", "atom", headers={"authorization": "Basic !"})
        self.assertEqual(answer.status_code, 401)
        self.assertTrue(answer.headers["www-authenticate"].startswith("Basic"))


class PostTests(AtomCase):
    def test_an_entry_becomes_a_member(self) -> None:
        answer = self.post_entry(
            entry(more='<category term="flex"/><summary>Short</summary>'), slug="The Lamp"
        )
        self.assertEqual(answer.status_code, 201, answer.text)
        self.assertEqual(answer.headers["location"], answer.headers["content-location"])
        self.assertTrue(answer.headers["content-type"].startswith("application/atom+xml"))
        self.assertEqual([one.get("term") for one in found(answer, "a:category")], ["flex"])
        again = self.at_edit("GET", answer)
        self.assertEqual((again.content, again.headers["etag"]), (answer.content, answer.headers["etag"]))
        links = {one.get("rel"): one.get("href") for one in found(answer, "a:link")}
        self.assertEqual(links["edit"], answer.headers["location"])
        self.assertEqual(links["alternate"], f"{HOME}/posts/the-lamp/")
        self.assertIn("<p>Two wires.</p>", self.page(links["alternate"]).text)
        for name in ("id", "title", "updated", "author/a:name", "published"):
            self.assertTrue(found(answer, f"a:{name}")[0].text, name)
        self.assertTrue(found(answer, "p:edited"))

    def test_text_and_xhtml_are_read(self) -> None:
        body = entry(
            content='<div xmlns="http://www.w3.org/1999/xhtml"><p>One <em>lamp</em></p></div>', kind="xhtml"
        )
        self.assertIn("<p>One <em>lamp</em></p>", found(self.post_entry(body), "a:content")[0].text)
        self.assertIn(
            "a &lt; b", found(self.post_entry(entry(content="a &lt; b", kind="text")), "a:content")[0].text
        )

    def test_a_draft_is_no_page(self) -> None:
        answer = self.post_entry(entry(more="<app:control><app:draft>yes</app:draft></app:control>"))
        self.assertEqual(found(answer, "p:control/p:draft")[0].text, "yes")
        self.assertEqual([one.get("rel") for one in found(answer, "a:link")], ["edit"])
        changed = self.at_edit("PUT", answer, content=entry(), headers={"content-type": ENTRY})
        self.assertEqual((changed.status_code, found(changed, "p:control/p:draft")[0].text), (200, "no"))

    def test_a_change_of_an_older_state_is_refused(self) -> None:
        made = self.post_entry()
        etag = made.headers["etag"]
        first = self.at_edit(
            "PUT", made, content=entry("Better"), headers={"content-type": ENTRY, "if-match": etag}
        )
        self.assertEqual(first.status_code, 200, first.text)
        self.assertNotEqual(first.headers["etag"], etag)
        second = self.at_edit(
            "PUT", made, content=entry("Lost"), headers={"content-type": ENTRY, "if-match": etag}
        )
        self.assertEqual(second.status_code, 412)
        self.assertEqual(self.at_edit("DELETE", made, headers={"if-match": etag}).status_code, 412)
        self.assertEqual(found(self.at_edit("GET", made), "a:title")[0].text, "Better")

    def test_each_kind_of_change_gives_another_etag(self) -> None:
        made = self.post_entry()
        etags = {made.headers["etag"]}
        for more in ('<category term="a"/>', '<category term="b"/>', "<summary>x</summary>"):
            etags.add(
                self.at_edit("PUT", made, content=entry(more=more), headers={"content-type": ENTRY}).headers[
                    "etag"
                ]
            )
        self.assertEqual(len(etags), 4)

    def test_what_is_known_is_not_sent_again(self) -> None:
        made = self.post_entry()
        answer = self.at_edit("GET", made, headers={"if-none-match": made.headers["etag"]})
        self.assertEqual((answer.status_code, answer.content), (304, b""))

    def test_a_member_is_deleted(self) -> None:
        made = self.post_entry()
        self.assertEqual(self.at_edit("DELETE", made).status_code, 204)
        self.assertEqual(self.at_edit("GET", made).status_code, 404)
        self.assertEqual(found(self.do("GET", "atom/posts"), "a:entry"), [])

    def test_a_slug_that_is_taken_or_none_makes_way(self) -> None:
        for slug in ("lamp", "lamp", "///", "%E6%97%A5%E6%9C%AC"):
            self.assertEqual(self.post_entry(slug=slug).status_code, 201)

    def test_the_collection_has_pages_those_edited_last_first(self) -> None:
        for number in range(23):
            self.clock.forward(1)
            self.write(f"Post {number}")
        first = self.do("GET", "atom/posts")
        self.assertEqual(found(first, "a:entry/a:title")[0].text, "Post 22")
        following = next(one.get("href") for one in found(first, "a:link") if one.get("rel") == "next")
        second = self.do("GET", following.removeprefix(f"{HOME}/~/"))
        titles = [one.text for part in (first, second) for one in found(part, "a:entry/a:title")]
        self.assertEqual(titles, [f"Post {number}" for number in range(22, -1, -1)])
        self.assertNotIn("next", [one.get("rel") for one in found(second, "a:link")])

    def test_what_is_no_entry_is_refused(self) -> None:
        bomb = b'<!DOCTYPE e [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;&a;">]>' + entry("&b;")
        away = b'<!DOCTYPE e [<!ENTITY x SYSTEM "file:///etc/passwd">]>' + entry("&x;")
        for body in (
            b"",
            b"<entry",
            b"<feed xmlns='http://www.w3.org/2005/Atom'/>",
            b"{}",
            bomb,
            away,
            entry().replace(b'type="html"', b'src="https://a.example/"'),
            entry(kind="image/png"),
        ):
            with self.subTest(body=body[:40]):
                self.assertEqual(self.post_entry(body).status_code, 400)
        self.assertEqual(
            self.do("POST", "atom/posts", content=b"a", headers={"content-type": "text/csv"}).status_code, 415
        )
        self.assertEqual(found(self.do("GET", "atom/posts"), "a:entry"), [])

    def test_scopes_and_tokens_are_asked_for(self) -> None:
        made = self.post_entry()
        self.sign_in()
        token = self.token_for("media")
        self.as_(None)
        path = made.headers["location"].removeprefix(f"{HOME}/~/")
        for method, name in (
            ("GET", path),
            ("PUT", path),
            ("DELETE", path),
            ("POST", "atom/posts"),
            ("GET", "atom/posts"),
        ):
            with self.subTest(method=method, name=name):
                headers = {"content-type": ENTRY}
                self.assertEqual(
                    self.at(method, name, token, content=entry(), headers=headers).json()["error"],
                    "insufficient_scope",
                )
                self.assertEqual(self.at(method, name, content=entry(), headers=headers).status_code, 401)


class MediaTests(AtomCase):
    def upload(self, data: bytes | None = None, kind: str = "image/png"):
        return self.do(
            "POST",
            "atom/media",
            content=picture() if data is None else data,
            headers={"content-type": kind, "slug": "The lamp"},
        )

    def test_a_file_becomes_a_media_link_entry(self) -> None:
        answer = self.upload()
        self.assertEqual(answer.status_code, 201, answer.text)
        links = {one.get("rel"): one.get("href") for one in found(answer, "a:link")}
        self.assertEqual(links["edit"], answer.headers["location"])
        source = found(answer, "a:content")[0]
        self.assertEqual((source.get("src"), source.get("type")), (links["edit-media"], "image/png"))
        self.assertEqual(self.page(links["edit-media"]).status_code, 200)
        self.assertEqual(found(self.do("GET", "atom/media"), "a:entry/a:title")[0].text, "the-lamp.png")

    def test_its_entry_says_what_it_shows(self) -> None:
        answer = self.upload()
        body = entry("lamp.png", more="<summary>A red lamp</summary>")
        changed = self.at_edit(
            "PUT", answer, content=body, headers={"content-type": ENTRY, "if-match": answer.headers["etag"]}
        )
        self.assertEqual((changed.status_code, found(changed, "a:summary")[0].text), (200, "A red lamp"))
        self.assertEqual(
            self.at_edit(
                "PUT",
                answer,
                content=body,
                headers={"content-type": ENTRY, "if-match": answer.headers["etag"]},
            ).status_code,
            412,
        )

    def test_a_file_is_removed_unless_a_post_shows_it(self) -> None:
        answer = self.upload()
        self.assertEqual(self.at_edit("DELETE", answer).status_code, 204)
        self.assertEqual(self.at_edit("GET", answer).status_code, 404)

    def test_what_is_no_file_of_the_library_is_refused(self) -> None:
        self.assertEqual(self.upload(b"").status_code, 400)
        self.assertEqual(self.upload(b"x", "text/html").status_code, 415)
        self.assertEqual(self.upload(b"<script>", "image/png").status_code, 400)
