"""Addresses of the desk."""

from __future__ import annotations

from mobbet.web.shell.address import Address

desk = Address("/desk/{slug}")
desk_rows = Address("/desk/{slug}/rows")
aside = Address("/desk/{slug}/aside")
"""How long posts that are set aside are kept."""
look_again = Address("/desk/{slug}/look-again[/{post_id}]")
"""Where one says that an old post still holds; without one, after how many days posts are looked at again."""
handling = Address("/desk/{slug}/several/{name}")
"""Something done with one or many posts."""
handling_undo = Address("/desk/{slug}/several/undo/{number}")
strip = Address("/desk/{slug}/strip")
"""Another stretch of the strip."""
rhythm = Address("/desk/{slug}/rhythm", "end")
"""A year by weeks, up to the week of a day."""
new_post = Address("/desk/{slug}/posts")
write_any = Address("/desk/{slug}/write")
"""The post this person had in hand last."""
ideas = Address("/desk/{slug}/ideas", "said")
"""Where an idea is noted down."""
idea = Address("/desk/{slug}/ideas/{number}/{what}")
"""Where an idea becomes a draft (`begin`), or is dropped (`drop`)."""
peek = Address("/posts/{post_id}/peek")
"""A post as lists show it."""
keep_view = Address("/desk/{slug}/lists")
"""Where a filter is kept under a name."""
forget_view = Address("/desk/{slug}/lists/{number}/forget")
places = Address("/desk/{slug}/places")
"""What may be gone to by a few letters."""
