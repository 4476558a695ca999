"""The filing: categories, tags, addresses, worklists."""
