"""Addresses of the site's screens."""

from __future__ import annotations

from mobbet.web.shell.address import Address

site = Address("/desk/{slug}/site[/house/{part}]")
"""The house, and what is done with its facts."""
video_hosts = Address("/desk/{slug}/site/video-hosts")
editions = Address("/desk/{slug}/site/editions")
put_back = Address("/desk/{slug}/site/editions/{number}/put-back")
go_on = Address("/desk/{slug}/site/editions/go-on")
edition_site = Address("/desk/{slug}/edition/{number}/site{path:path}")
"""A page of the site as it stood in an edition."""
accounts = Address("/desk/{slug}/accounts")
"""The accounts elsewhere at which posts are announced."""
accounts_doing = Address("/desk/{slug}/accounts/{what}")
account_change = Address("/desk/{slug}/accounts/{number}/{what}")
targets = Address("/desk/{slug}/site/targets")
target_change = Address("/desk/{slug}/site/targets/{number}/{what}")
in_and_out = Address("/desk/{slug}/site/in-and-out", "told")
export_begin = Address("/desk/{slug}/site/in-and-out/export")
import_begin = Address("/desk/{slug}/site/in-and-out/import")
hook_add = Address("/desk/{slug}/site/in-and-out/hooks")
hook_change = Address("/desk/{slug}/site/in-and-out/hooks/{number}/{what}")
transfer_change = Address("/desk/{slug}/site/in-and-out/{number}/{what}")
transfer_file = Address("/desk/{slug}/site/in-and-out/{number}/blog.zip")
backups = Address("/desk/{slug}/site/backups")
backup_change = Address("/desk/{slug}/site/backups/{number}/{what}")
seals = Address("/desk/{slug}/site/targets/seals")
search_there = Address("/desk/{slug}/site/targets/search")
look = Address("/desk/{slug}/site/look[/{part}]")
"""How the site looks, and what is done with a look."""
look_site = Address("/desk/{slug}/site/look/as/{which}/{mode}/site{path:path}")
"""A page of the site with the look that is tried, or the one that is out, in the light or in the dark."""
menu = Address("/desk/{slug}/site/menu[/{part}]")
"""Pages and menu, and what is done with them."""
menu_site = Address("/desk/{slug}/site/menu/site{path:path}")
"""A page of the site with the menu that is tried."""
promos = Address("/desk/{slug}/site/promos[/{part}]")
"""The blocks below posts, and what is done with their rules."""
people = Address("/desk/{slug}/site/people[/{part}]")
profiles = Address("/desk/{slug}/profiles", "told")
"""Where editors let profiles of contributors stand."""
"""Who works on the blog, and what is done about that."""
record = Address("/desk/{slug}/site/record[/{part}]", "part_of", "actor", "before")
"""Who did what, and for how long that is kept."""
moment = Address("/desk/{slug}/moment")
"""The whole site at a moment."""
moment_site = Address("/desk/{slug}/moment/{at}/{reader}/site{path:path}")
