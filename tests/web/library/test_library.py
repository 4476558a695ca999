import json
import re
from pathlib import Path
from unittest import mock

from mobbet.actions import library, media_jobs
from mobbet.actions.house_facts import allow_video_host
from mobbet.demo.recordings import CLIP, good_motor
from mobbet.store import media
from mobbet.web.public import site
from tests.shops import picture
from tests.web.test_web import WebCase, door_to

DATA = {"accept": "application/json"}


class LibraryWebCase(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def send(self, name: str = "lamp.png", data: bytes | None = None) -> dict:
        answer = self.ask(
            "POST",
            "/desk/bench/library",
            DATA,
            files={"file": (name, picture() if data is None else data, "application/octet-stream")},
        )
        return {"status": answer.status_code, **answer.json()}

    def told(self, path: str, **values: str) -> dict:
        return self.ask("POST", path, DATA, data=values).json()


class BringingRouteTests(LibraryWebCase):
    def test_a_file_is_kept_at_once_and_shown_to_the_blogs_people_only(self) -> None:
        item = self.send()
        self.assertEqual(
            (item["src"], item["kind"], item["state"], item["width"]), ("media:1", "picture", "working", 900)
        )
        shown = self.get("/pictures/1")
        self.assertEqual((shown.status_code, shown.headers["content-type"]), (200, "image/webp"))
        self.assertEqual(self.get("/pictures/1", if_none_match=shown.headers["etag"]).status_code, 304)
        media_jobs.work_all(self.shop)
        self.assertEqual(self.get("/library/1/state").json()["state"], "ready")
        self.assertNotEqual(self.get("/pictures/1?use=thumb").content, shown.content)
        original = self.get("/library/1/original")
        self.assertEqual(
            (original.content, original.headers["content-type"]), (picture(), "application/octet-stream")
        )
        self.assertIn("attachment", original.headers["content-disposition"])
        self.cookies.clear()
        for path in (
            "/pictures/1",
            "/library/1",
            "/library/1/original",
            "/library/1/play",
            "/library/1/canvas",
        ):
            self.assertEqual(self.get(path).status_code, 303, path)

    def test_a_bad_file_is_refused_in_one_line(self) -> None:
        for name, data, message in (
            ("x.png", b"<b>", "“x.png” is nothing the library keeps"), ("y.jpg", picture(), "ends in .jpg but is a PNG file"), ("z.png", b"", "“z.png” is empty"),
        ):  # fmt: skip
            item = self.send(name, data)
            self.assertEqual(item["status"], 422)
            self.assertIn(message, item["message"])

    def test_a_drawing_is_cleaned_before_anybody_sees_it(self) -> None:
        self.send(
            "a.svg",
            b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9" onload="alert(1)"><script>alert(1)</script><rect width="9" height="9"/></svg>',
        )
        shown = self.get("/pictures/1")
        self.assertNotRegex(shown.text, "script|onload")
        self.assertIn("sandbox", shown.headers["content-security-policy"])

    def test_the_licence_of_a_file_from_an_address_begins_unsettled(self) -> None:
        offered = re.search(
            r'<select class="word" name="licence"><option value="">([^<]+)<',
            self.get("/desk/bench/library").text,
        )
        self.assertEqual(offered and offered[1], "not settled")

    def test_elsewhere_is_asked_by_this_server_alone(self) -> None:
        offered = self.get("/desk/bench/library/collection?words=gull").json()["offered"]
        self.assertEqual(len(offered), 5)
        self.assertEqual(self.get(offered[0]["small"]).headers["content-type"], "image/jpeg")
        self.assertEqual(self.told("/desk/bench/library/collection", id=offered[0]["id"])["kind"], "picture")
        self.assertIn(
            "Say under which licence",
            self.told("/desk/bench/library/address", address="https://x.example/a.png")["message"],
        )
        self.assertEqual(self.get("/desk/bench/library/videos?words=splice").json()["offered"], [])
        allow_video_host(self.shop, self.me, "bench", "reel.example")
        self.assertEqual(
            self.told(
                "/desk/bench/library/embed",
                typed=self.get("/desk/bench/library/videos?words=splice").json()["offered"][0]["address"],
            )["attrs"]["title"],
            "An eye splice in eight tucks",
        )
        frame = self.get("/stand-ins/reel/eye-splice")
        self.assertIn("frame-ancestors 'self'", frame.headers["content-security-policy"])
        self.assertEqual(self.get("/stand-ins/reel/nothing").status_code, 404)


class ScreenTests(LibraryWebCase):
    def test_the_screen_finds_filters_and_goes_on(self) -> None:
        for at in range(62):
            self.send(f"lamp-{at}.png", picture(20 + at, 20))
        page = self.get("/desk/bench/library").text
        self.assertIn("62 items", page)
        more = re.search(r'data-hx-get="([^"]+start=60[^"]*)"', page).group(1).replace("&amp;", "&")
        self.assertEqual(self.get(more).text.count('class="item"'), 2)
        self.assertEqual(self.get("/desk/bench/library/rows?words=lamp-7").text.count('class="item"'), 1)
        self.assertIn(
            "Nothing here fits", self.get("/desk/bench/library/rows?words=zebra&kind=nonsense").text
        )
        self.assertEqual(
            len(self.get("/desk/bench/library/items?kind=picture&words=lamp-6").json()["items"]), 3
        )

    def test_many_are_labelled_described_and_set_aside(self) -> None:
        self.send(), self.send("b.png", picture(30, 30))
        self.assertEqual(
            self.told("/desk/bench/library/labels", ids="1,2", labels="bench")["told"], "2 items changed."
        )
        self.assertEqual(self.get("/desk/bench/library/describe?ids=2").text.count("<form"), 1 + 1)
        self.assertEqual(self.told("/library/2", alt="A bench")["told"], "“b.png” is kept.")
        self.assertEqual(
            (media.by_id(self.shop.db, 2).alt, media.by_id(self.shop.db, 2).labels), ("A bench", ("bench",))
        )
        self.write("Out", "![x](media:1)", date="2026-01-01")
        told = self.told("/desk/bench/library/aside", ids="1,2")
        self.assertEqual(told["done"], [2])
        self.assertIn("Readers see “lamp.png” in “Out”", told["told"])
        self.assertIn("b.png", self.get("/desk/bench/library/rows?aside=yes").text)

    def test_a_mistake_on_an_items_page_keeps_what_was_typed(self) -> None:
        self.send("s.mp4", CLIP.read_bytes())
        page = self.ask("POST", "/library/1/captions", data={"text": "0:05 - 0:04 late"})
        self.assertEqual(page.status_code, 422)
        self.assertIn("0:05 - 0:04 late", page.text)
        self.assertIn("Line 1 of the captions ends at", page.text)
        page = self.ask("POST", "/library/1", data={"name": "", "credit": "Ines & co"})
        self.assertIn("The name is empty", page.text)
        self.assertIn('value="Ines &amp; co"', page.text)
        self.ask("POST", "/library/1", data={"caption": "A switch"})
        self.ask("POST", "/library/1", data={"caption": ""})
        self.assertEqual(media.by_id(self.shop.db, 1).caption, "")

    def test_cuts_are_worked_out_by_python(self) -> None:
        self.send()
        answer = self.ask(
            "POST",
            "/library/1/cuts",
            {**DATA, "content-type": "application/json"},
            content=json.dumps({"recipe": {"turn": 90, "focus": [0, 0]}}),
        )
        facts = answer.json()
        self.assertEqual(
            (facts["width"], facts["height"], facts["cuts"]["square"][:3]), (600, 900, [0, 0, 1])
        )
        bad = self.ask(
            "POST",
            "/library/1/recipe",
            {**DATA, "content-type": "application/json"},
            content=json.dumps({"recipe": {"crop": [0, 0, 9, 1]}}),
        )
        self.assertEqual((bad.status_code, bad.json()["field"]), (422, "crop"))


class PlayingRouteTests(LibraryWebCase):
    def setUp(self) -> None:
        super().setUp()
        item = library.add_stream(self.shop, self.me, self.blog, "m.wav", self.stream(good_motor()))
        file = library.add_stream(self.shop, self.me, self.blog, "t.csv", self.stream(b"a,b\n1,2\n"))
        self.write(
            "Sounds",
            f"~~~ mobbet:sound src=media:{item.id}\n~~~\n\n~~~ mobbet:file src=media:{file.id}\n~~~",
            date="2026-01-01",
        )
        self.publish()
        page = self.get("/b/bench/posts/sounds/").text
        self.sound, self.file = (
            f"/b/bench{path}"
            for path in (
                re.search(r'<audio[^>]* src="\.\./\.\.([^"]+)"', page).group(1),
                re.search(r'class="download"><a href="\.\./\.\.([^"]+)"', page).group(1),
            )
        )

    def stream(self, data: bytes):
        path = Path(self.folder / f"{len(data)}")
        path.write_bytes(data)
        stream = path.open("rb")
        self.addCleanup(stream.close)
        return stream

    def test_a_player_gets_the_part_it_asks_for(self) -> None:
        whole = self.get(self.sound)
        size = len(whole.content)
        self.assertEqual(
            (whole.status_code, whole.headers["accept-ranges"], whole.headers["content-type"]),
            (200, "bytes", "audio/wav"),
        )
        for asked, status, part in (
            ("bytes=0-9", 206, (0, 10)), ("bytes=100-", 206, (100, size)), ("bytes=-20", 206, (size - 20, size)), (f"bytes=5-{size + 99}", 206, (5, size)),
            (f"bytes={size}-", 416, (0, 0)), ("bytes=9-5", 200, (0, size)), ("lines=1-2", 200, (0, size)), ("bytes=0-1,5-6", 200, (0, size)),
        ):  # fmt: skip
            with self.subTest(asked):
                answer = self.get(self.sound, range=asked)
                self.assertEqual(
                    (answer.status_code, answer.content), (status, whole.content[part[0] : part[1]])
                )
        self.assertEqual(self.get(self.sound, range="bytes=0-9", if_range='"another"').status_code, 200)
        head = self.ask("HEAD", self.sound)
        self.assertEqual((head.headers["content-length"], head.content), (str(size), b""))

    def test_a_large_file_is_sent_from_the_disk_in_parts(self) -> None:
        with mock.patch.object(site, "LARGE", 1000):
            self.app = door_to(self.shop)
            whole = self.get(self.sound)
            self.assertEqual(self.get(self.sound, range="bytes=1000-1999").content, whole.content[1000:2000])
            self.assertEqual(len(whole.content), int(whole.headers["content-length"]))

    def test_a_download_is_never_shown_as_a_page(self) -> None:
        answer = self.get(self.file)
        self.assertEqual(
            (answer.headers["content-disposition"], answer.headers["x-content-type-options"]),
            ("attachment", "nosniff"),
        )
