"""Addresses of what is on a device."""

from __future__ import annotations

from mobbet.web.shell.address import Address

device = Address("/device", "post", "blog", "begin", "settings", "title")
"""The posts begun on this device; the page is kept there and opens without a network."""
device_share = Address("/device/share")
"""Where the device's share sheet sends texts, addresses and files."""
device_steps = Address("/device/steps")
"""Where what was done without a network is sent, one step a request."""
device_ready = Address("/device/ready")
"""What the service worker answers by itself, once it keeps what a new post needs."""
device_notices = Address("/device/notices")
"""Where a device says what it wants to be told of."""
device_posts = Address("/device/posts")
"""The addresses of the posts that somebody wrote last, for those who keep them on their device."""
