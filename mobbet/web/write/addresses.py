"""Addresses of the writing room."""

from __future__ import annotations

from mobbet.web.shell.address import Address

write = Address("/posts/{post_id}")
presence = Address("/posts/{post_id}/here")
"""Where a writing room says that it is open."""
text = Address("/posts/{post_id}/text")
text_over = Address("/posts/{post_id}/text/over")
text_apart = Address("/posts/{post_id}/text/apart")
docket = Address("/posts/{post_id}/docket[/{part}]")
docket_check = Address("/posts/{post_id}/docket/check/{what}")
"""What is said while something is typed."""
footprint = Address("/posts/{post_id}/footprint")
share_card = Address("/posts/{post_id}/card.png")
place = Address("/posts/{post_id}/place")
withdraw = Address("/posts/{post_id}/withdraw")
set_aside = Address("/posts/{post_id}/set-aside")
restore = Address("/posts/{post_id}/restore")
template = Address("/posts/{post_id}/template")
begin_from = Address("/posts/{post_id}/begin")
"""Where a new draft begins with a post's text."""
split = Address("/posts/{post_id}/split")
split_undo = Address("/posts/{post_id}/split/undo")
notes = Address("/posts/{post_id}/notes[/{part}]")
"""The notes on a post; all of them on one page (`print`), and as text."""
note = Address("/posts/{post_id}/note/{number}/{what}")
"""What is done with a note."""
revisions = Address("/posts/{post_id}/revisions")
revision = Address("/posts/{post_id}/revisions/{number}/{what}")
"""Where a revision is put back (`restore`) or named (`name`)."""
compared = Address("/posts/{post_id}/compared")
"""Where the sheet is compared with the text that came first."""
pasted = Address("/desk/{slug}/pasted")
"""Where pasted HTML becomes a document."""
clean_html = Address("/documents/raw")
"""Where HTML by hand is cleaned."""
written = Address("/documents/written")
"""Where a document is written as Markdown or HTML."""
source = Address("/documents/source")
"""Where Markdown or HTML becomes a document."""
anchors = Address("/documents/anchors")
"""Where the anchors of a document's headings are told."""
linkable = Address("/desk/{slug}/linkable")
"""Where the posts are found that a link may lead to."""
bring_in = Address("/desk/{slug}/bring-in")
read_file = Address("/desk/{slug}/read-file")
"""Where a text file dropped on a sheet becomes a document."""
kept = Address("/desk/{slug}/kept/")
kept_one = Address("/desk/{slug}/kept/{number}[/{what}]")
