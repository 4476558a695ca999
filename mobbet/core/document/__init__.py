"""A post's text as data.

A document is one JSON tree in ProseMirror's shape: a node is a dict with `type`, and where it has
any, `attrs`, `content` (a list of nodes), `marks` (a list of `{"type", "attrs"}`) and `text`.
Trees are never changed in place. The story in order: `nodes` is the table of what exists, `schema`
checks and normalises a tree against it, `html`, `markdown` and `text` hold what each row becomes,
`write` walks a tree with the table, `from_html`, `from_markdown` and `from_files` make trees,
`outline` reads headings, words and the teaser out of one.
"""
