"""Passkeys, with an authenticator that Chromium plays: made in the account, used to sign in."""

from playwright.sync_api import Page, expect

from tests.browser.browsing import ACCOUNT, BrowserCase


class PasskeyTests(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.server.address = self.server.address.replace(
            "127.0.0.1", "localhost"
        )  # a passkey is for a host with a name

    def authenticator(self, page: Page) -> None:
        session = page.context.new_cdp_session(page)
        session.send("WebAuthn.enable")
        session.send(
            "WebAuthn.addVirtualAuthenticator",
            {"options": {"protocol": "ctap2", "transport": "internal", "hasResidentKey": True, "hasUserVerification": True, "isUserVerified": True}},
        )  # fmt: skip

    def test_a_passkey_is_made_signs_in_alone_and_is_removed(self) -> None:
        self.authenticator(self.page)
        self.sign_in()
        self.open("/account/signing-in")
        self.assert_accessible(name="signing in")
        self.page.fill("#passkey-label", "my phone")
        self.page.click("text=Add a passkey…")
        expect(self.page.locator("[data-passkey-codes] li")).to_have_count(10)
        self.page.click("text=I have written them down")
        expect(self.page.locator("li", has_text="my phone")).to_be_visible()
        self.page.context.clear_cookies()
        self.open("/sign-in")
        self.assert_accessible(name="sign in")
        self.page.click("text=Use a passkey")
        self.page.wait_for_url("**/desk/mending-bench")
        self.page.context.clear_cookies()
        self.open("/sign-in")
        self.page.fill("#email", ACCOUNT[0])
        self.page.fill("#password", ACCOUNT[1])
        self.page.keyboard.press("Enter")
        expect(self.page.locator("h1")).to_have_text("One more proof")
        self.assert_accessible(name="factor")
        self.page.click("text=Use a passkey")
        self.page.wait_for_url("**/desk/mending-bench")
        self.open("/account/signing-in")
        self.page.get_by_role("button", name="Remove: my phone").click()
        expect(self.page.locator(".told")).to_have_text("The passkey is removed.")
