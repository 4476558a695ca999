import re

from playwright.sync_api import expect

from mobbet.demo.recordings import good_motor
from tests.browser.browsing import BrowserCase
from tests.shops import picture

READY = 20_000
"""Milliseconds within which the worker has made what a test waits for."""


def changed(sound: bytes) -> bytes:
    """The same sound but for one sample, so that it is another file."""
    return sound[:400] + bytes([sound[400] ^ 1]) + sound[401:]


class LibraryCase(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in()

    def file(self, name: str, data: bytes) -> str:
        path = self.folder / name
        path.write_bytes(data)
        return str(path)

    def drop(self, selector: str, *names: str) -> None:
        """Drops files on a part of the page, as a person with a mouse does."""
        box = self.page.locator(selector).first.bounding_box()
        session = self.context.new_cdp_session(self.page)
        data = {"items": [], "files": list(names), "dragOperationsMask": 1}
        for kind in ("dragEnter", "dragOver", "drop"):
            session.send(
                "Input.dispatchDragEvent",
                {"type": kind, "x": box["x"] + 30, "y": box["y"] + 20, "data": data},
            )

    def put(self, kind: str) -> None:
        self.page.click(".ProseMirror")
        self.page.keyboard.press("Alt+Enter")
        self.page.keyboard.type(kind)
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#picker")).to_be_visible()


class ScreenTests(LibraryCase):
    def test_files_are_dropped_labelled_described_and_set_aside(self) -> None:
        self.open("/desk/mending-bench/library")
        self.assert_accessible(name="library")
        self.page.click("text=From an address…")
        self.page.fill("#address-form [name=address]", "http://127.0.0.1/x.png")
        self.page.select_option("#address-form [name=licence]", "cc-by")
        self.page.click("#address-form button")
        expect(self.page.locator("#address-form .problem")).to_contain_text("Say whose it is")
        self.page.fill("#address-form [name=credit]", "Nobody")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#address-form .problem")).to_contain_text("lies inside the network")
        names = [
            self.file("one.png", picture(500, 300)),
            self.file("two.png", picture(510, 300)),
            self.file("bad.jpg", b"\xff\xd8\xffbroken"),
        ]
        self.drop(".shelf", *names)
        expect(self.page.locator("#uploads li")).to_have_count(3)
        expect(self.page.locator("#uploads [data-state=done]")).to_have_count(2)
        expect(self.page.locator("#uploads .problem")).to_have_text(
            "“bad.jpg” is damaged or cut off; export it again and try once more."
        )
        self.expected = ("422", "ERR")
        two = self.page.locator("#shelf .item:has-text('two.png')")
        expect(two).to_be_visible()
        expect(two).not_to_contain_text("being made ready", timeout=READY)
        self.page.fill("#find", "png two")
        expect(self.page.locator("#shelf .item")).to_have_count(1)
        self.page.keyboard.press("ArrowDown")
        self.page.keyboard.press("Space")
        expect(self.page.locator("#chosen .count")).to_have_text("1 chosen")
        self.page.fill("#labels", "test pictures")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#chosen .told")).to_have_text("1 item changed.")
        self.page.click("#describe")
        expect(self.page.locator(".describing [name=alt]")).to_be_focused()
        self.page.keyboard.type("A plain picture")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".describing .told")).to_have_text("kept")
        self.assert_accessible(name="describe")
        self.open("/desk/mending-bench/library?label=test+pictures")
        expect(self.page.locator("#shelf .item")).not_to_contain_text("not described")
        self.page.check("#shelf [name=item]")
        self.page.click("#set-aside")
        expect(self.page.locator(".empty")).to_contain_text("Nothing here fits that")
        self.page.check("[name=aside]")
        expect(self.page.locator("#shelf .item")).to_have_count(1)

    def test_a_crop_is_made_by_keyboard_alone(self) -> None:
        self.open("/desk/mending-bench/library?words=lamp.png")
        self.page.focus("#find")
        self.page.keyboard.press("ArrowDown")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#cropping[data-ready=yes]")).to_be_visible()
        self.assert_accessible(name="item")
        self.page.focus("#stage")
        for _ in range(20):
            self.page.keyboard.press("Shift+ArrowLeft")
        for _ in range(10):
            self.page.keyboard.press("ArrowRight")
        for _ in range(5):
            self.page.keyboard.press("Alt+ArrowUp")
        expect(self.page.locator("#crop-width")).to_have_value("1280")
        expect(self.page.locator("#crop-left")).to_have_value("160")
        expect(self.page.locator("#focus-y")).to_have_value("45")
        self.page.focus("#turn-right")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#crop-width")).to_have_value("1000")
        self.page.focus("#shape")
        self.page.select_option("#shape", "1:1")
        expect(self.page.locator("#crop-height")).to_have_value("1000")
        self.page.focus("[data-adjust=lead]")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#stage")).to_be_focused()
        self.page.keyboard.press("ArrowDown")
        self.page.focus("#keep-crop")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#crop-told")).to_have_text("Kept, and every copy is made.", timeout=READY)
        self.page.reload()
        expect(self.page.locator("#crop-height")).to_have_value("1000")
        expect(self.page.locator("[data-adjust=lead]")).to_have_text("Follow the focal point")

    def test_a_crop_is_dragged_by_mouse(self) -> None:
        self.open("/desk/mending-bench/library?words=gears.png")
        self.page.click("#shelf .show")
        expect(self.page.locator("#cropping[data-ready=yes]")).to_be_visible()
        box = self.page.locator("#stage").bounding_box()
        self.page.mouse.move(box["x"] + box["width"] - 1, box["y"] + box["height"] - 1)
        self.page.mouse.down()
        self.page.mouse.move(box["x"] + box["width"] * 0.75, box["y"] + box["height"] * 0.5, steps=5)
        self.page.mouse.up()
        expect(self.page.locator("#crop-width")).to_have_value(re.compile("^(119|120)"))
        expect(self.page.locator("#crop-height")).to_have_value(re.compile("^(49|50)"))

    def test_an_item_is_replaced_everywhere_after_its_footprint_was_shown(self) -> None:
        self.open("/desk/mending-bench/library?words=spanner.png")
        self.page.click("#shelf .show")
        self.page.select_option("[name=other]", label="toaster.png")
        self.page.click("text=Show its footprint")
        expect(self.page.locator(".footprint")).to_contain_text("1 post")
        expect(self.page.locator(".footprint")).to_contain_text("altered")
        self.page.click(".footprint + .go >> text=Replace it everywhere")
        expect(self.page.locator(".told").first).to_contain_text("Replaced in 1 post.")
        self.page.click("text=Set it aside")
        expect(self.page.locator(".told").first).to_contain_text("Set aside")
        self.page.click("text=Restore it")

    def test_captions_are_written_and_the_poster_is_chosen(self) -> None:
        self.open("/desk/mending-bench/library?words=switch&kind=video")
        self.page.click("#shelf .show")
        expect(self.page.locator("#captions")).to_be_visible()
        self.assert_accessible(name="video")
        self.page.fill("#captions", "0:01 - 0:00 wrong")
        self.page.click("text=Keep the captions")
        expect(self.page.locator(".told.problem")).to_contain_text("Line 1 of the captions ends at")
        expect(self.page.locator("#captions")).to_have_value("0:01 - 0:00 wrong")
        self.expected = ("422",)
        self.page.click(".frames button >> nth=4")
        expect(self.page.locator(".frames .on")).to_be_visible()


class RoomTests(LibraryCase):
    def test_pictures_and_sound_come_onto_the_sheet_each_with_its_progress(self) -> None:
        self.new_post()
        self.page.fill("#title", "What came")
        self.page.click(".ProseMirror")
        self.page.keyboard.type("Above.")
        self.drop(
            ".ProseMirror p",
            self.file("shot.png", picture(700, 400)),
            self.file("hum.wav", changed(good_motor())),
            self.file("bad.png", b"nothing"),
        )
        expect(self.page.locator(".ProseMirror figure.picture img")).to_be_visible()
        expect(self.page.locator(".ProseMirror figure.sound")).to_contain_text("hum.wav")
        self.assertEqual(
            self.page.evaluate(
                "() => [...document.querySelectorAll('.ProseMirror > figure')].map((one) => one.classList[0])"
            ),
            ["picture", "sound"],
        )
        expect(self.page.locator(".arriving .problem")).to_contain_text(
            "“bad.png” is nothing the library keeps"
        )
        self.page.click(".arriving >> text=Leave it")
        self.expected = ("422", "ERR")
        self.page.fill(".ProseMirror figure.picture .about input >> nth=0", "A field of one colour")
        self.wait_saved()
        self.page.click("#main-action:has-text('Publish now')")
        self.page.click("#public-link")
        expect(self.page.locator("article audio")).to_have_attribute("preload", "none")
        expect(self.page.locator("article figure.picture img")).to_be_visible()

    def test_a_picture_is_sized_placed_and_replaced_and_keeps_its_settings(self) -> None:
        self.page.click("text=Rewiring a desk lamp")
        self.page.wait_for_selector(".ProseMirror")
        self.page.wait_for_load_state()
        self.page.click(".ProseMirror .picture img")
        self.page.keyboard.press("Control+Alt+ArrowLeft")
        figure = self.page.locator(".ProseMirror .picture")
        expect(figure).to_have_class(re.compile("size-half"))
        self.page.select_option("[aria-label='Place of the picture']", label="at the right")
        self.page.select_option("[aria-label='Text beside the picture']", label="text around it")
        expect(figure).to_have_class(re.compile("place-right.*around"))
        self.page.focus(".ProseMirror .picture .edge")
        self.page.keyboard.press("ArrowLeft")
        expect(figure).to_have_class(re.compile("size-small"))
        self.page.click(".ProseMirror .picture img")
        self.page.click("#block-line >> text=Replace it…")
        self.page.click("[data-tab=library]")
        self.page.fill("#picker [data-panel=library] input", "clock")
        self.page.click("#picker .tile:has-text('clock.png')")
        expect(figure).to_have_class(re.compile("size-small place-right"))
        expect(figure.locator(".about .input")).to_have_value(
            "A desk lamp with a red shade, its flex running off to the right"
        )
        self.page.check(".ProseMirror .picture .only input")
        expect(figure.locator(".about .input")).to_be_disabled()
        self.wait_saved()
        self.page.reload()
        expect(self.page.locator(".ProseMirror .picture")).to_have_class(
            re.compile("size-small place-right around")
        )

    def test_the_edge_of_a_picture_is_dragged_to_a_stop(self) -> None:
        self.page.click(".posts >> text=Five fuses")
        edge = self.page.locator(".ProseMirror .picture .edge")
        edge.scroll_into_view_if_needed()
        box = edge.bounding_box()
        self.page.mouse.move(box["x"] + 12, box["y"] + 100)
        self.page.mouse.down()
        self.page.mouse.move(box["x"] - 140, box["y"] + 100, steps=8)
        self.page.mouse.up()
        expect(self.page.locator(".ProseMirror .picture")).to_have_class(re.compile("size-half"))
        self.wait_saved()

    def test_a_gallery_is_chosen_and_put_in_order_by_keyboard(self) -> None:
        self.new_post()
        self.put("Gallery")
        self.page.click("[data-tab=library]")
        for name in ("clock.png", "zip.png", "radio.png"):
            self.page.focus(f"#picker .tile:has-text('{name}')")
            self.page.keyboard.press("Enter")
        self.assert_accessible(name="picker")
        self.page.click("#put-many")
        pictures = self.page.locator(".ProseMirror .gallery img")
        expect(pictures).to_have_count(3)
        first = pictures.first.get_attribute("src")
        pictures.first.click()
        self.page.click("#block-line >> text=Picture after")
        expect(pictures.nth(1)).to_have_attribute("src", first)
        self.page.select_option("[aria-label='Layout of the gallery']", '"grid"')
        expect(self.page.locator(".ProseMirror .gallery.grid")).to_be_visible()
        self.page.click("#block-line >> text=Take the picture out")
        expect(pictures).to_have_count(2)

    def test_a_video_comes_from_a_host_by_words_or_by_its_code(self) -> None:
        self.new_post()
        self.page.fill("#title", "From a host")
        self.put("Video")
        self.page.click("[data-tab=host]")
        self.page.fill("#embed-form input", "<iframe src='https://evil.example/embed/x'></iframe>")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#actions .told")).to_contain_text(
            "Videos from evil.example may not be shown yet"
        )
        expect(self.page.locator(".ProseMirror a")).to_have_attribute("href", "https://evil.example/embed/x")
        self.put("Video")
        self.page.click("[data-tab=host]")
        self.page.fill("#picker [data-panel=host] input[type=search]", "launching")
        self.page.click("#picker .tile:has-text('Launching day')")
        expect(self.page.locator(".ProseMirror .embed")).to_contain_text("Launching day at Port Alder")
        self.wait_saved()
        self.page.click("#main-action:has-text('Publish now')")
        self.page.click("#public-link")
        asked: list[str] = []
        self.page.on("request", lambda request: asked.append(request.url))
        expect(self.page.locator("iframe")).to_have_count(0)
        self.page.click("article .facade")
        expect(self.page.frame_locator("iframe").locator("h1")).to_have_text("Launching day at Port Alder")
        expect(self.page.locator("iframe")).to_have_attribute("sandbox", "allow-scripts allow-presentation")
        self.assertTrue(all("127.0.0.1" in url for url in asked))

    def paste(self, words: str) -> None:
        self.page.evaluate(
            """words => {
            const transfer = new DataTransfer();
            transfer.setData('text/plain', words);
            document.querySelector('.ProseMirror').dispatchEvent(new ClipboardEvent('paste', {clipboardData: transfer, bubbles: true, cancelable: true}));
        }""",
            words,
        )

    def test_embed_code_that_is_pasted_becomes_a_block_or_a_link_with_words(self) -> None:
        self.new_post()
        self.page.click(".ProseMirror")
        self.paste('<iframe src="https://reel.example/embed/winding" width="560"></iframe>')
        expect(self.page.locator(".ProseMirror .embed")).to_contain_text("How far to wind it")
        self.page.locator(".ProseMirror > p").last.click()
        self.paste('<iframe src="https://evil.example/x" title="A map of the harbour"></iframe>')
        expect(self.page.locator(".ProseMirror a", has_text="A map of the harbour")).to_be_visible()
        expect(self.page.locator(".ProseMirror .embed")).to_have_count(1)

    def test_an_address_of_a_host_becomes_its_video_once_the_owner_allows_the_host(self) -> None:
        self.new_post()
        self.page.click(".ProseMirror")
        address = "https://quay-sound.example/listen/nine-clocks"
        self.paste(address)
        expect(self.page.locator(".ProseMirror a")).to_have_attribute("href", address)
        told = self.page.locator("#actions .told")
        expect(told).to_contain_text(
            "Videos from quay-sound.example may not be shown yet, so it stands as a link"
        )
        told.get_by_role("button", name="Allow quay-sound.example").click()
        expect(self.page.locator(".ProseMirror .embed")).to_contain_text("Nine clocks, not together")
        expect(self.page.locator(".ProseMirror a")).to_have_count(0)

    def test_pictures_of_a_gallery_are_put_in_order_by_dragging(self) -> None:
        self.page.fill("#find", "photographs")
        expect(self.page.locator(".posts td.t a")).to_have_count(1)
        self.page.click(".posts td.t a")
        pictures = self.page.locator(".ProseMirror .gallery img")
        pictures.first.scroll_into_view_if_needed()
        first = pictures.first.get_attribute("src")
        start, end = pictures.first.bounding_box(), pictures.nth(2).bounding_box()
        self.page.mouse.move(start["x"] + 40, start["y"] + 40)
        self.page.mouse.down()
        self.page.mouse.move(start["x"] + 60, start["y"] + 50, steps=4)
        self.page.mouse.move(end["x"] + end["width"] - 5, end["y"] + 60, steps=12)
        self.page.mouse.up()
        expect(pictures).to_have_count(3)
        expect(pictures.first).not_to_have_attribute("src", first)

    def test_a_picture_comes_from_the_collection_with_its_credit(self) -> None:
        self.new_post()
        self.put("Picture")
        self.page.click("[data-tab=collection]")
        self.page.fill("#picker [data-panel=collection] input", "gulls")
        self.page.click("#picker .tile:has-text('Gulls before rain')")
        expect(self.page.locator(".ProseMirror figcaption")).to_have_attribute("data-credit", "Edda Rusk")
        expect(self.page.locator(".ProseMirror .about .input")).to_be_focused()

    def test_the_docket_says_and_changes_which_picture_lists_show(self) -> None:
        self.page.click("text=Rewiring a desk lamp")
        self.page.wait_for_selector(".ProseMirror")
        self.page.wait_for_load_state()
        expect(self.page.locator("#docket")).to_contain_text("the first picture")
        self.page.click("#set-lead")
        self.page.click("#sheet-lead >> text=radio.png")
        expect(self.page.locator("#set-lead")).to_have_text("the picture “radio.png”")
        expect(self.page.locator("#docket")).to_contain_text("a picture of the library, as you chose")
        self.page.click("#set-lead")
        self.page.click("#sheet-lead >> text=By rule")
        expect(self.page.locator("#docket")).to_contain_text("the first picture")


class PhoneTests(LibraryCase):
    def new_context(self, width: int = 390, height: int = 844, **more: object):
        return super().new_context(width, height, has_touch=True, **more)

    def test_the_library_and_an_item_fit_a_phone(self) -> None:
        for path in (
            "/desk/mending-bench/library",
            "/library/1",
            "/library/3",
            "/library/9",
            "/desk/mending-bench/library/describe",
        ):
            with self.subTest(path):
                self.open(path)
                self.assertLessEqual(self.page.evaluate("() => document.documentElement.scrollWidth"), 390)
                self.assert_accessible(name=f"phone {path}")

    def test_a_picture_is_taken_from_the_phone(self) -> None:
        self.new_post()
        self.page.wait_for_function("() => window.mobbetRoom")
        self.page.click(".phone-all")
        self.page.click("#tools >> text=Insert…")
        self.page.click(".seam >> text=Picture")
        expect(self.page.locator("#take-picture")).to_be_visible()
        self.page.set_input_files("#picker-camera", self.file("camera.jpg", picture(800, 600, "JPEG")))
        expect(self.page.locator(".ProseMirror figure img")).to_be_visible()
        self.assertEqual(self.page.get_attribute("#picker-camera", "capture"), "environment")
