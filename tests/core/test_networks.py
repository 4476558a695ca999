import unittest

from mobbet.core.errors import BadInput
from mobbet.core.networks import client_behind, one_client, read_networks

TRUSTED = read_networks("127.0.0.1, 10.0.0.0/8, ::1", "MOBBET_PROXIES")


class ClientTests(unittest.TestCase):
    def test_whose_a_request_is(self) -> None:
        table = (
            ("203.0.113.9", [], ["198.51.100.1"], [], ("203.0.113.9", "")),  # whoever comes by themselves may write what they like
            ("127.0.0.1", [], ["198.51.100.1"], ["https"], ("198.51.100.1", "https")),
            ("127.0.0.1", [], ["6.6.6.6, 198.51.100.1, 10.0.0.3"], ["http, https"], ("198.51.100.1", "https")),
            ("127.0.0.1", [], ["6.6.6.6", "198.51.100.1"], [], ("198.51.100.1", "")),
            ("127.0.0.1", [], ["nonsense"], [], ("127.0.0.1", "")),
            ("127.0.0.1", [], [], [], ("127.0.0.1", "")),
            ("127.0.0.1", ['for=6.6.6.6, For="[2001:db8::7]:4711";proto=https'], ["7.7.7.7"], ["http"], ("2001:db8::7", "https")),
            ("::1", ["for=_hidden"], [], [], ("::1", "")),
            ("127.0.0.1", [], ["198.51.100.1:80"], ["gopher"], ("198.51.100.1", "")),
            ("::ffff:127.0.0.1", [], ["198.51.100.1"], [], ("198.51.100.1", "")),
        )  # fmt: skip
        for peer, forwarded, further, scheme, expected in table:
            with self.subTest(f"{peer} {forwarded} {further}"):
                self.assertEqual(client_behind(peer, forwarded, further, scheme, TRUSTED), expected)

    def test_a_network_of_ipv6_counts_as_one_client(self) -> None:
        self.assertEqual(one_client("2001:db8:1:2:aaaa::1"), one_client("2001:db8:1:2:bbbb::2"))
        self.assertNotEqual(one_client("2001:db8:1:2::1"), one_client("2001:db8:1:3::1"))
        self.assertEqual(
            (one_client("192.0.2.1"), one_client("::ffff:192.0.2.1")), ("192.0.2.1", "192.0.2.1")
        )

    def test_a_network_that_is_none_is_refused(self) -> None:
        with self.assertRaisesRegex(BadInput, "MOBBET_PROXIES names “proxy.example”"):
            read_networks("proxy.example", "MOBBET_PROXIES")
