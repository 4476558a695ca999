"""The export of a blog as a folder: which facts it has, and how each of them is spelled (docs/export.md)."""
