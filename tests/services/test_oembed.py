import json
import unittest
from unittest import mock

from mobbet.core.errors import BadInput
from mobbet.services.contracts import EmbedFacts, Fetched
from mobbet.services.oembed import OEmbedHost, endpoint_of, facts_of
from mobbet.services.stand_ins.bounded import AtOnce
from mobbet.services.stand_ins.videos import MadeUpHosts

FRAME = "https://player.films.example/7"
ANSWER = {
    "type": "video", "title": "A splice", "author_name": "Colm", "provider_name": "Films", "width": 800, "height": "450",
    "html": f"<iframe src='{FRAME}'></iframe>", "thumbnail_url": "/7.jpg",
}  # fmt: skip
PAGE = '<head><link rel="alternate" type="{type}" href="/tell?url=7&amp;format=x"></head>'
XML = f"<oembed><type>video</type><title>A splice</title><html>&lt;iframe src='{FRAME}'&gt;&lt;/iframe&gt;</html></oembed>"


def host(**pages: bytes) -> OEmbedHost:
    """A host whose pages are these, by the last part of their address."""

    def fetch(address: str, most_bytes: int) -> Fetched:
        name = address.partition("?")[0].rpartition("/")[2].replace(".", "_")
        if name not in pages:
            raise BadInput(f"“{address}” answered with 404")
        return Fetched(address, name, pages[name])

    return OEmbedHost(fetch, AtOnce())


def page(type: str = "application/json+oembed") -> bytes:
    return PAGE.format(type=type).encode()


class DiscoveryTests(unittest.TestCase):
    def test_a_page_leads_to_what_its_host_tells_of_it(self) -> None:
        found = host(film=page(), tell=json.dumps(ANSWER).encode(), **{"7_jpg": b"jpeg"})
        self.assertEqual(
            found.tell("https://films.example/film"),
            EmbedFacts("A splice", "Colm", 800, 450, FRAME, "Films", b"jpeg"),
        )

    def test_json_is_taken_before_xml_whatever_their_order(self) -> None:
        both = page("text/xml+oembed").replace(b"format=x", b"xml") + page()
        self.assertEqual(endpoint_of(both), "/tell?url=7&format=x")
        self.assertEqual(endpoint_of(page("text/xml+oembed")), "/tell?url=7&format=x")
        self.assertEqual(endpoint_of(b"<link rel=alternate type=application/atom+xml href=/feed>"), "")

    def test_a_video_without_a_picture_that_can_be_had_is_shown_all_the_same(self) -> None:
        found = host(film=page(), tell=json.dumps(ANSWER).encode()).tell("https://films.example/film")
        self.assertEqual(found.poster, b"")

    def test_a_page_that_tells_of_nothing_is_none(self) -> None:
        self.assertIsNone(host(film=b"<p>Words").tell("https://films.example/film"))
        self.assertIsNone(host(film=page(), tell=b"not json").tell("https://films.example/film"))


class AnswerTests(unittest.TestCase):
    def test_an_answer_in_xml_says_the_same(self) -> None:
        found = facts_of(XML.encode())
        self.assertEqual((found["title"], found["frame"], found["width"]), ("A splice", FRAME, 640))

    def test_an_answer_that_shows_no_frame_is_none(self) -> None:
        for changed in (
            {"type": "photo"},
            {"type": "link"},
            {"html": ""},
            {"html": None},
            {"html": "<script src=//x.example></script>"},
            {"html": "<iframe src='javascript:x'></iframe>"},
        ):
            with self.subTest(changed):
                self.assertEqual(facts_of(json.dumps({**ANSWER, **changed}).encode()), {})

    def test_odd_answers_do_no_harm(self) -> None:
        bomb = b'<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><oembed><type>video</type><title>&b;</title></oembed>'
        for answer in (
            b"",
            b"[1]",
            b"[" * 100_000,
            b"\xff\xfe",
            bomb,
            b"<oembed><html/></oembed>",
            b'{"type":"video","html":7}',
        ):
            with self.subTest(answer[:20]):
                self.assertEqual(facts_of(answer), {})
        sizes = facts_of(json.dumps({**ANSWER, "width": "wide", "height": 1e999, "title": 5}).encode())
        self.assertEqual((sizes["width"], sizes["height"], sizes["title"]), (640, 360, ""))


class StandInTests(unittest.TestCase):
    def test_the_made_up_hosts_answer_by_the_same_contract(self) -> None:
        videos = MadeUpHosts(AtOnce())
        told = videos.tell(videos.search("splice")[0].address)
        self.assertEqual(
            (told.title, told.frame, told.provider, told.poster[:2]),
            (
                "An eye splice in eight tucks",
                "https://reel.example/frame/eye-splice",
                "Harbour Reel",
                b"\xff\xd8",
            ),
        )
        with self.assertRaisesRegex(BadInput, "Harbour Reel has nothing at"):
            videos.tell("https://reel.example/watch/unheard-of")

    def test_others_are_asked_only_where_the_server_may(self) -> None:
        with self.assertRaisesRegex(BadInput, "asks no hosts of videos, so not “films.example”"):
            MadeUpHosts(AtOnce()).tell("https://films.example/1")
        others = mock.Mock(return_value=Fetched("https://films.example/1", "1", b""))
        self.assertIsNone(MadeUpHosts(AtOnce(), others).tell("https://films.example/1"))
        others.assert_called_once()
