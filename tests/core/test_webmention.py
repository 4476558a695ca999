import unittest

from mobbet.core.webmention import endpoint_in, links_to, said_by

BASE, TARGET = "https://site.example/post/", "https://bench.example/lamps/a-lamp/"


class EndpointTests(unittest.TestCase):
    def test_it_is_found_where_the_recommendation_says(self) -> None:
        cases = (
            (b"", ['<https://site.example/in>; rel="webmention"'], "https://site.example/in"),
            (b"", ["</in?a=b>; rel=webmention"], "https://site.example/in?a=b"),
            (b"", ['</other>; rel="other", </in>; rel="webmention other"'], "https://site.example/in"),
            (b'<link rel="webmention" href="/in">', [], "https://site.example/in"),
            (b'<a href="in" rel="other webmention">x</a>', [], "https://site.example/post/in"),
            (b'<link rel="webmention" href="">', [], BASE),
            (
                b'<a rel="webmention">x</a><a rel="webmention" href="/second">x</a>',
                [],
                "https://site.example/second",
            ),
            (
                b'<!-- <link rel="webmention" href="/no"> --><link rel="webmention" href="/yes">',
                [],
                "https://site.example/yes",
            ),
            (b'<link rel="not-webmention" href="/no">&lt;a rel="webmention" href="/no">', [], ""),
            (b'<LINK REL="WebMention" HREF="/in">', [], "https://site.example/in"),
        )
        for page, links, found in cases:
            with self.subTest(page or links):
                self.assertEqual(endpoint_in(page, links, BASE), found)


class LinkTests(unittest.TestCase):
    def test_an_element_links_and_words_and_comments_do_not(self) -> None:
        for page in (
            f'<a href="{TARGET}">x</a>', f'<a href="{TARGET}#comments">x</a>', f'<img src="{TARGET}">', f'<blockquote cite="{TARGET}">',
        ):  # fmt: skip
            with self.subTest(page):
                self.assertTrue(links_to(page.encode(), BASE, TARGET))
        for page in (
            f"<!-- <a href='{TARGET}'>x</a> -->", TARGET, f'<a href="{TARGET}x">x</a>', f"<script>'<a href=\"{TARGET}\">'</script>",
            f'<template data-x="{TARGET}"></template>', f"<p title='{TARGET}'>", "", "<a>x</a>", f"<textarea><a href='{TARGET}'></textarea>",
        ):  # fmt: skip
            with self.subTest(page):
                self.assertFalse(links_to(page.encode(), BASE, TARGET))


class SaidTests(unittest.TestCase):
    def test_author_and_words_are_those_of_the_h_entry(self) -> None:
        page = '<article class="h-entry"><a class="p-author h-card" href="https://mona.example/">Mona</a><div class="e-content">Good <b>lamp</b>.</div></article>'
        said = said_by(page.encode(), BASE)
        self.assertEqual(
            (said.name, said.address, said.text), ("Mona", "https://mona.example/", "Good lamp.")
        )

    def test_a_page_without_microformats_is_told_by_its_title_and_host(self) -> None:
        said = said_by(b"<title>On lamps</title>", BASE)
        self.assertEqual((said.name, said.address, said.text), ("site.example", "", "On lamps"))

    def test_nothing_is_long_or_leads_where_it_must_not(self) -> None:
        page = f'<div class="h-entry"><a class="p-author h-card" href="javascript:alert(1)">{"N" * 500}</a><p class="e-content">{"w " * 5000}</p></div>'
        said = said_by(page.encode(), BASE)
        self.assertEqual((len(said.name), said.address, len(said.text) <= 500), (80, "", True))
