"""The preview of a post."""
