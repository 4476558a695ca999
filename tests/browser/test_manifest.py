"""What a browser asks for beside a page: the manifest, which the page's policy lets it load."""

from __future__ import annotations

from tests.browser.browsing import BrowserCase


class ManifestTests(BrowserCase):
    def test_the_manifest_of_a_site_is_loaded_and_nothing_complains(self) -> None:
        self.open("/b/mending-bench/")
        tools = self.page.context.new_cdp_session(self.page)
        found = tools.send("Page.getAppManifest")
        self.assertEqual(found["errors"], [])
        self.assertIn("The Mending Bench", found.get("data", ""))
