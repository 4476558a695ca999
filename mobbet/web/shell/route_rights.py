"""Which right each route asks for, and the guard that asks for it before a request is read any further.

A route without an entry here fails a test. What is done with single posts, items or comments that a request names in its body is checked by the
action itself as well.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Annotated, cast

from fastapi import Depends, Request
from fastapi.routing import APIRoute

from mobbet.actions import access, sessions
from mobbet.actions.workshop import Workshop
from mobbet.core import screen_dates
from mobbet.core.errors import ProveFirst
from mobbet.core.rights import Action
from mobbet.store import accounts
from mobbet.store.people import Person
from mobbet.web.shell.session import Here, signed_in, token_of


class Free(StrEnum):
    """What asks for no right on a blog."""

    PUBLIC = "nobody need be signed in"
    ANYBODY = "whoever is signed in: their own account, and what belongs to no blog"


PUBLIC, ANYBODY = Free.PUBLIC, Free.ANYBODY
ROUTES: dict[str, Action | Free] = {
    "GET /device": ANYBODY,
    "POST /device/steps": ANYBODY,
    "GET /device/posts": ANYBODY,
    "POST /device/share": ANYBODY,
    "POST /device/notices": ANYBODY,
    "GET /app.webmanifest": PUBLIC,
    "GET POST /allow": ANYBODY,
    "GET /account/programs": ANYBODY,
    "POST /account/programs/make": ANYBODY,
    "POST /account/programs/end": ANYBODY,
    "GET OPTIONS /~/{slug}/programs": PUBLIC,
    "GET POST /~/{slug}/allow": PUBLIC,
    "GET POST OPTIONS /~/{slug}/token": PUBLIC,
    "POST OPTIONS /~/{slug}/revoke": PUBLIC,
    "POST OPTIONS /~/{slug}/introspect": PUBLIC,
    "GET POST OPTIONS /~/{slug}/micropub": PUBLIC,
    "POST OPTIONS /~/{slug}/media": PUBLIC,
    "GET /~/{slug}/media/{name}": PUBLIC,
    "GET /~/{slug}/api/openapi.json": PUBLIC,
    "GET POST OPTIONS /~/{slug}/api/posts": PUBLIC,
    "GET PATCH DELETE OPTIONS /~/{slug}/api/posts/{number}": PUBLIC,
    "GET /~/{slug}/api/posts/{number}/footprint": PUBLIC,
    "GET POST OPTIONS /~/{slug}/api/media": PUBLIC,
    "PATCH OPTIONS /~/{slug}/api/media/{number}": PUBLIC,
    "GET /~/{slug}/api/filing": PUBLIC,
    "GET /~/{slug}/api/timetable": PUBLIC,
    "GET OPTIONS /~/{slug}/atom": PUBLIC,
    "GET /~/{slug}/atom/categories": PUBLIC,
    "GET POST OPTIONS /~/{slug}/atom/posts": PUBLIC,
    "GET PUT DELETE OPTIONS /~/{slug}/atom/posts/{number}": PUBLIC,
    "GET POST OPTIONS /~/{slug}/atom/media": PUBLIC,
    "GET PUT DELETE OPTIONS /~/{slug}/atom/media/{number}": PUBLIC,
    "GET /desk/{slug}/accounts": Action.OWN_HOUSE,
    "POST /desk/{slug}/accounts/add": Action.OWN_HOUSE,
    "POST /desk/{slug}/accounts/{number}/word": Action.OWN_HOUSE,
    "POST /desk/{slug}/accounts/{number}/remove": Action.OWN_HOUSE,
    "POST /desk/{slug}/accounts/{number}/again": Action.OWN_HOUSE,
    "POST /posts/{post_id}/docket/announce": Action.EDIT_POST,
    "GET /desk/{slug}/answers": Action.WORK,
    "GET /desk/{slug}/answers/{post}/{key}": Action.WORK,
    "GET /desk/{slug}/answers/{post}/{key}/answers.csv": Action.WORK,
    "POST /desk/{slug}/answers/{post}/{key}/remove": Action.WORK,
    "POST /desk/{slug}/read/slip": Action.OWN_HOUSE,
    "GET /desk/{slug}/letters": Action.KEEP_READERS,
    "POST /desk/{slug}/letters/rule": Action.OWN_HOUSE,
    "POST /desk/{slug}/letters/add": Action.KEEP_READERS,
    "POST /desk/{slug}/letters/end": Action.KEEP_READERS,
    "POST /desk/{slug}/letters/forget": Action.KEEP_READERS,
    "POST /desk/{slug}/letters/correct": Action.KEEP_READERS,
    "POST /desk/{slug}/letters/import": Action.KEEP_READERS,
    "GET /desk/{slug}/subscribers.csv": Action.KEEP_READERS,
    "GET POST /~/{slug}/ask/{post_id}/{key}": PUBLIC,
    "GET POST /~/{slug}/send/{post_id}": PUBLIC,
    "GET POST /~/{slug}/mention": PUBLIC,
    "GET POST /~/{slug}/letters": PUBLIC,
    "GET /~/{slug}/letters/": PUBLIC,
    "GET /~/{slug}/letters/{key}": PUBLIC,
    "GET POST /~/{slug}/letters/{key}/end": PUBLIC,
    "POST /~/{slug}/letters/{key}/confirm": PUBLIC,
    "POST /~/{slug}/letters/{key}/change": PUBLIC,
    "GET POST /blogs/new": ANYBODY,
    "POST /blogs/back": ANYBODY,
    "POST /sign-in/code": PUBLIC,
    "POST /sign-in/passkey-question": PUBLIC,
    "POST /sign-in/passkey": PUBLIC,
    "GET POST /sign-in/forgotten": PUBLIC,
    "GET POST /password/{token}": PUBLIC,
    "GET POST /address/{token}": PUBLIC,
    "GET POST /account/again": ANYBODY,
    "GET /account/signing-in": ANYBODY,
    "POST /account/signing-in/codes": ANYBODY,
    "POST /account/signing-in/codes-on": ANYBODY,
    "POST /account/signing-in/off": ANYBODY,
    "POST /account/signing-in/recovery": ANYBODY,
    "POST /account/signing-in/passkey-question": ANYBODY,
    "POST /account/signing-in/passkey": ANYBODY,
    "POST /account/signing-in/passkey-remove": ANYBODY,
    "POST /account/signing-in/end": ANYBODY,
    "POST /account/address": ANYBODY,
    "GET POST /join/{token}": PUBLIC,
    "GET /posts/{post_id}/notes": Action.NOTE_POST,
    "POST /posts/{post_id}/notes/add": Action.NOTE_POST,
    "GET /posts/{post_id}/notes/print": Action.NOTE_POST,
    "GET /posts/{post_id}/notes/notes.txt": Action.NOTE_POST,
    "POST /posts/{post_id}/note/{number}/{what}": Action.NOTE_POST,
    "POST /posts/{post_id}/docket/copy": Action.SHARE_COPY,
    "POST /posts/{post_id}/docket/copy-close": Action.SHARE_COPY,
    "POST /posts/{post_id}/docket/copy-send": Action.SHARE_COPY,
    "GET POST /copy/{token}": PUBLIC,
    "GET /copy/{token}/site{path:path}": PUBLIC,
    "POST /copy/{token}/note": PUBLIC,
    "POST /copy/{token}/note/{number}": PUBLIC,
    "POST /copy/{token}/read": PUBLIC,
    "GET /": PUBLIC,
    "GET /robots.txt": PUBLIC,
    "GET POST /begin": PUBLIC,
    "GET POST /sign-in": PUBLIC,
    "POST /sign-out": PUBLIC,
    "GET /account": ANYBODY,
    "POST /account/theme": ANYBODY,
    "POST /account/dates": ANYBODY,
    "GET POST /account/keys": ANYBODY,
    "GET POST /desk/{slug}/profiles": Action.ANY_AUTHOR,
    "POST /account/web-address": ANYBODY,
    "POST /account/words": ANYBODY,
    "POST /account/password": ANYBODY,
    "POST /account/profile": ANYBODY,
    "GET /changes/{slug}": Action.WORK,
    "GET /static/{digest}/{name}": PUBLIC,
    "GET /worker.js": PUBLIC,
    "GET /favicon.ico": PUBLIC,
    "GET POST /desk/{slug}/several/{name}": Action.WORK,
    "POST /desk/{slug}/several/undo/{number}": Action.WORK,
    "GET /desk/{slug}/strip": Action.WORK,
    "GET /desk/{slug}/rhythm": Action.WORK,
    "GET /desk/{slug}": Action.WORK,
    "GET /desk/{slug}/rows": Action.WORK,
    "GET /posts/{post_id}/peek": Action.READ_POST,
    "POST /desk/{slug}/lists": Action.WORK,
    "POST /desk/{slug}/lists/{number}/forget": Action.WORK,
    "POST /desk/{slug}/aside": Action.OWN_HOUSE,
    "POST /desk/{slug}/look-again": Action.OWN_HOUSE,
    "POST /desk/{slug}/look-again/{post_id}": Action.KEEP_AGE,
    "POST /desk/{slug}/ideas": Action.WORK,
    "POST /desk/{slug}/ideas/{number}/{what}": Action.WORK,
    "GET /desk/{slug}/places": Action.WORK,
    "POST /desk/{slug}/posts": Action.WORK,
    "GET /desk/{slug}/write": Action.WORK,
    "GET /posts/{post_id}/docket/check/slug": Action.EDIT_POST,
    "GET /posts/{post_id}/docket/check/tags": Action.EDIT_POST,
    "GET /posts/{post_id}/docket/check/category": Action.EDIT_POST,
    "GET /posts/{post_id}/docket/check/when": Action.EDIT_POST,
    "GET /posts/{post_id}/docket/check/where": Action.EDIT_POST,
    "GET /posts/{post_id}/docket/check/month": Action.EDIT_POST,
    "GET /posts/{post_id}/docket/check/search": Action.EDIT_POST,
    "GET /posts/{post_id}/docket/check/coast": Action.EDIT_POST,
    "GET /posts/{post_id}/docket/check/alike": Action.EDIT_POST,
    "GET /posts/{post_id}/docket/check/announce": Action.EDIT_POST,
    "GET /posts/{post_id}/docket/check/footprint": Action.EDIT_POST,
    "GET /posts/{post_id}/docket/check/withdraw": Action.EDIT_POST,
    "GET /posts/{post_id}/footprint": Action.EDIT_POST,
    "GET /posts/{post_id}/card.png": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/ask": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/alike": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/letter": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/sharing": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/ask-no-more": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/decide": Action.GIVE_WORD,
    "POST /desk/{slug}/pasted": Action.WORK,
    "POST /documents/raw": ANYBODY,
    "POST /documents/written": ANYBODY,
    "POST /documents/source": ANYBODY,
    "POST /documents/anchors": ANYBODY,
    "GET /desk/{slug}/linkable": Action.WORK,
    "GET /desk/{slug}/kept/{number}/shown": Action.WORK,
    "GET POST /desk/{slug}/bring-in": Action.WORK,
    "POST /desk/{slug}/read-file": Action.WORK,
    "GET POST /desk/{slug}/kept/": Action.WORK,
    "GET /desk/{slug}/kept/{number}": Action.WORK,
    "POST /desk/{slug}/kept/{number}": Action.EDIT_KEPT,
    "POST /desk/{slug}/kept/{number}/remove": Action.EDIT_KEPT,
    "POST /posts/{post_id}/split": Action.EDIT_POST,
    "POST /posts/{post_id}/split/undo": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/visibility": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/password": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/goes-out": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/comes-down": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/update": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/leads-to": Action.EDIT_POST,
    "POST /posts/{post_id}/place": Action.EDIT_POST,
    "POST /posts/{post_id}/withdraw": Action.WITHDRAW_POST,
    "POST /posts/{post_id}/docket/undo-change": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/take-back": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/undo": Action.EDIT_POST,
    "POST /posts/{post_id}/set-aside": Action.EDIT_POST,
    "POST /posts/{post_id}/restore": Action.EDIT_POST,
    "GET /posts/{post_id}/revisions": Action.EDIT_POST,
    "POST /posts/{post_id}/compared": Action.EDIT_POST,
    "POST /posts/{post_id}/revisions/{number}/restore": Action.EDIT_POST,
    "POST /posts/{post_id}/revisions/{number}/name": Action.EDIT_POST,
    "GET /posts/{post_id}": Action.NOTE_POST,
    "GET /posts/{post_id}/read": Action.NOTE_POST,
    "GET /posts/{post_id}/read/site{path:path}": Action.NOTE_POST,
    "POST /posts/{post_id}/read/note": Action.NOTE_POST,
    "POST /posts/{post_id}/read/note/{number}": Action.NOTE_POST,
    "PUT /posts/{post_id}/text": Action.EDIT_POST,
    "POST /posts/{post_id}/text/over": Action.EDIT_POST,
    "POST /posts/{post_id}/text/apart": Action.EDIT_POST,
    "GET /posts/{post_id}/docket": Action.EDIT_POST,
    "POST /posts/{post_id}/here": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/language": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/comments": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/kind": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/below": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/author": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/slug": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/excerpt": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/lead": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/description": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/heading": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/own-look": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/front": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/menu": Action.OWN_HOUSE,
    "POST /posts/{post_id}/docket/place": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/categories": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/tags": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/series": Action.EDIT_POST,
    "POST /posts/{post_id}/docket/also-in": Action.EDIT_POST,
    "POST /posts/{post_id}/template": Action.EDIT_POST,
    "POST /posts/{post_id}/begin": Action.READ_POST,
    "GET /library/{media_id}": Action.READ_ITEM,
    "POST /library/{media_id}": Action.EDIT_ITEM,
    "GET /library/{media_id}/state": Action.READ_ITEM,
    "POST /library/{media_id}/recipe": Action.EDIT_ITEM,
    "POST /library/{media_id}/cuts": Action.EDIT_ITEM,
    "GET /library/{media_id}/canvas": Action.READ_ITEM,
    "GET /library/{media_id}/frame": Action.READ_ITEM,
    "POST /library/{media_id}/poster": Action.EDIT_ITEM,
    "POST /library/{media_id}/captions": Action.EDIT_ITEM,
    "POST /library/{media_id}/forget-camera": Action.EDIT_ITEM,
    "POST /library/{media_id}/aside": Action.EDIT_ITEM,
    "POST /library/{media_id}/restore": Action.EDIT_ITEM,
    "POST /library/{media_id}/replace": Action.EDIT_ITEM,
    "GET /library/{media_id}/original": Action.READ_ITEM,
    "GET /library/{media_id}/play": Action.READ_ITEM,
    "GET /library/{media_id}/captions.vtt": Action.READ_ITEM,
    "GET /pictures/{media_id}": Action.READ_ITEM,
    "GET /stand-ins/{host}/{name}": PUBLIC,
    "GET POST /desk/{slug}/library": Action.WORK,
    "GET /desk/{slug}/library/rows": Action.WORK,
    "GET /desk/{slug}/library/items": Action.WORK,
    "POST /desk/{slug}/library/scaled": Action.OWN_HOUSE,
    "POST /desk/{slug}/library/address": Action.WORK,
    "GET POST /desk/{slug}/library/collection": Action.WORK,
    "GET /desk/{slug}/library/collection/small": Action.WORK,
    "GET /desk/{slug}/library/videos": Action.WORK,
    "POST /desk/{slug}/library/embed": Action.WORK,
    "POST /desk/{slug}/library/labels": Action.WORK,
    "POST /desk/{slug}/library/aside": Action.WORK,
    "GET /desk/{slug}/library/describe": Action.WORK,
    "GET /posts/{post_id}/preview": Action.EDIT_POST,
    "GET /posts/{post_id}/out/{format}": Action.READ_POST,
    "GET /desk/{slug}/out": Action.WORK,
    "GET /posts/{post_id}/preview/site{path:path}": Action.EDIT_POST,
    "GET /posts/{post_id}/preview/in/{view}/site{path:path}": Action.EDIT_POST,
    "POST /posts/{post_id}/preview/live": Action.EDIT_POST,
    "GET /posts/{post_id}/preview/as/{kind}": Action.EDIT_POST,
    "GET /posts/{post_id}/preview/letter": Action.EDIT_POST,
    "POST /posts/{post_id}/preview/letter/send": Action.EDIT_POST,
    "GET /desk/{slug}/filing/addresses": Action.WORK,
    "POST /desk/{slug}/filing/addresses/pattern": Action.OWN_HOUSE,
    "POST /desk/{slug}/filing/addresses/script": Action.OWN_HOUSE,
    "POST /desk/{slug}/filing/addresses/add": Action.OWN_HOUSE,
    "POST /desk/{slug}/filing/addresses/import": Action.OWN_HOUSE,
    "POST /desk/{slug}/filing/addresses/{what}": Action.OWN_HOUSE,
    "GET /desk/{slug}/filing/worklist/{kind}": Action.WORK,
    "POST /desk/{slug}/filing/worklist/{kind}": Action.KEEP_FILING,
    "GET /desk/{slug}/filing/several": Action.WORK,
    "POST /desk/{slug}/filing/several": Action.KEEP_FILING,
    "GET /desk/{slug}/filing": Action.WORK,
    "GET /desk/{slug}/filing/pictures": Action.WORK,
    "GET /desk/{slug}/filing/posts": Action.WORK,
    "POST /desk/{slug}/filing/category/{number}/{what}": Action.KEEP_FILING,
    "POST /desk/{slug}/filing/add": Action.KEEP_FILING,
    "POST /desk/{slug}/filing/rules": Action.OWN_HOUSE,
    "POST /desk/{slug}/filing/undo/{number}": Action.WORK,
    "GET /desk/{slug}/filing/tags": Action.WORK,
    "GET /desk/{slug}/filing/tags/remedies": Action.WORK,
    "POST /desk/{slug}/filing/tag/{number}/{what}": Action.KEEP_FILING,
    "GET /desk/{slug}/comments": Action.WORK,
    "POST /desk/{slug}/comments/settle": Action.WORK,
    "POST /desk/{slug}/comments/remove": Action.WORK,
    "POST /desk/{slug}/comments/rule": Action.OWN_HOUSE,
    "POST /desk/{slug}/comments/guard": Action.OWN_HOUSE,
    "POST /desk/{slug}/comments/blocklist": Action.OWN_HOUSE,
    "POST /desk/{slug}/comments/mentions": Action.OWN_HOUSE,
    "POST /desk/{slug}/comments/work": Action.OWN_HOUSE,
    "POST /desk/{slug}/comments/letters": Action.OWN_HOUSE,
    "POST /desk/{slug}/comments/empty": Action.ANY_AUTHOR,
    "POST /desk/{slug}/comments/{number}/answer": Action.WORK,
    "GET POST /desk/{slug}/read": Action.ANY_AUTHOR,
    "GET /desk/{slug}/read.{name}": Action.ANY_AUTHOR,
    "GET /desk/{slug}/readers": Action.KEEP_READERS,
    "POST /desk/{slug}/readers/group": Action.KEEP_READERS,
    "POST /desk/{slug}/readers/entry": Action.OWN_HOUSE,
    "POST /desk/{slug}/readers/{number}/rename": Action.KEEP_READERS,
    "POST /desk/{slug}/readers/{number}/remove": Action.KEEP_READERS,
    "POST /desk/{slug}/readers/{number}/renew": Action.KEEP_READERS,
    "POST /desk/{slug}/readers/{number}/writes": Action.KEEP_READERS,
    "POST /desk/{slug}/readers/{number}/invite": Action.KEEP_READERS,
    "POST /desk/{slug}/readers/{number}/again": Action.KEEP_READERS,
    "POST /desk/{slug}/readers/{number}/take-out": Action.KEEP_READERS,
    "GET /desk/{slug}/timetable": Action.WORK,
    "POST /desk/{slug}/timetable/move": Action.KEEP_TIMETABLE,
    "POST /desk/{slug}/timetable/push": Action.KEEP_TIMETABLE,
    "POST /desk/{slug}/timetable/swap": Action.KEEP_TIMETABLE,
    "POST /desk/{slug}/timetable/place": Action.KEEP_TIMETABLE,
    "POST /desk/{slug}/timetable/mark": Action.KEEP_TIMETABLE,
    "POST /desk/{slug}/timetable/unmark/{number}": Action.KEEP_TIMETABLE,
    "POST /desk/{slug}/timetable/days": Action.KEEP_TIMETABLE,
    "GET /desk/{slug}/timetable.ics": Action.WORK,
    "GET /calendar/{slug}/{key}.ics": PUBLIC,
    "POST /desk/{slug}/timetable/calendar": Action.KEEP_CALENDAR,
    "POST /desk/{slug}/timetable/add": Action.KEEP_TIMETABLE,
    "POST /desk/{slug}/timetable/slot/{number}/leave-out": Action.KEEP_TIMETABLE,
    "POST /desk/{slug}/timetable/slot/{number}/remove": Action.KEEP_TIMETABLE,
    "POST /desk/{slug}/timetable/queue/{number}/{step}": Action.KEEP_TIMETABLE,
    "GET /desk/{slug}/site/editions": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/editions/go-on": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/editions/{number}/put-back": Action.OWN_HOUSE,
    "GET /desk/{slug}/edition/{number}/site{path:path}": Action.LOOK_AHEAD,
    "GET /desk/{slug}/site/in-and-out": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/in-and-out/export": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/in-and-out/import": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/in-and-out/{number}/{what}": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/in-and-out/hooks": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/in-and-out/hooks/{number}/{what}": Action.OWN_HOUSE,
    "GET /desk/{slug}/site/in-and-out/{number}/blog.zip": Action.OWN_HOUSE,
    "GET POST /desk/{slug}/site/backups": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/backups/{number}/{what}": Action.OWN_HOUSE,
    "GET POST /desk/{slug}/site/targets": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/targets/seals": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/targets/search": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/targets/{number}/{what}": Action.OWN_HOUSE,
    "GET /desk/{slug}/moment": Action.LOOK_AHEAD,
    "GET /desk/{slug}/moment/{at}/{reader}/site{path:path}": Action.LOOK_AHEAD,
    "GET /desk/{slug}/site/look": Action.OWN_HOUSE,
    "GET /desk/{slug}/site/look/as/{which}/{mode}/site{path:path}": Action.WORK,
    "POST /desk/{slug}/site/look/set": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/look/begin": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/look/copy": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/look/read": Action.OWN_HOUSE,
    "GET /desk/{slug}/site/look/file": Action.OWN_HOUSE,
    "GET /desk/{slug}/site/look/sheet.css": Action.WORK,
    "POST /desk/{slug}/site/look/put-back": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/look/undo": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/look/give": Action.OWN_HOUSE,
    "GET /desk/{slug}/site/look/effect": Action.OWN_HOUSE,
    "GET /desk/{slug}/site/menu": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/menu/section": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/menu/add": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/menu/move": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/menu/remove": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/menu/set": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/menu/page": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/menu/put-back": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/menu/undo": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/menu/give": Action.OWN_HOUSE,
    "GET /desk/{slug}/site/menu/effect": Action.OWN_HOUSE,
    "GET /desk/{slug}/site/menu/site{path:path}": Action.WORK,
    "GET /desk/{slug}/site/people": Action.KEEP_PEOPLE,
    "POST /desk/{slug}/site/people/invite": Action.KEEP_PEOPLE,
    "POST /desk/{slug}/site/people/again": Action.KEEP_PEOPLE,
    "POST /desk/{slug}/site/people/withdraw": Action.KEEP_PEOPLE,
    "POST /desk/{slug}/site/people/role": Action.KEEP_PEOPLE,
    "POST /desk/{slug}/site/people/suspend": Action.KEEP_PEOPLE,
    "POST /desk/{slug}/site/people/hand": Action.KEEP_PEOPLE,
    "POST /desk/{slug}/site/people/out": Action.KEEP_PEOPLE,
    "POST /desk/{slug}/site/people/hand-over": Action.KEEP_PEOPLE,
    "POST /desk/{slug}/site/people/right": Action.KEEP_PEOPLE,
    "POST /desk/{slug}/site/people/factor": Action.KEEP_PEOPLE,
    "POST /desk/{slug}/site/people/asks": Action.KEEP_PEOPLE,
    "POST /desk/{slug}/leave": Action.WORK,
    "GET /desk/{slug}/site/promos": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/promos/add": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/promos/set": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/promos/remove": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/promos/put-back": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/promos/undo": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/promos/give": Action.OWN_HOUSE,
    "GET /desk/{slug}/site/promos/effect": Action.OWN_HOUSE,
    "GET /desk/{slug}/site/record": Action.READ_RECORD,
    "POST /desk/{slug}/site/record/days": Action.READ_RECORD,
    "GET /desk/{slug}/site": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/house/set": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/house/put-back": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/house/undo": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/house/give": Action.OWN_HOUSE,
    "GET /desk/{slug}/site/house/effect": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/house/close": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/house/aside": Action.OWN_HOUSE,
    "POST /desk/{slug}/site/video-hosts": Action.OWN_HOUSE,
    "GET /posts/{post_id}/proof": Action.EDIT_POST,
    "POST /posts/{post_id}/proof/stand": Action.EDIT_POST,
    "POST /posts/{post_id}/proof/reopen": Action.EDIT_POST,
    "POST /posts/{post_id}/proof/learn": Action.EDIT_POST,
    "GET /desk/{slug}/proof": Action.WORK,
    "POST /desk/{slug}/proof/{what}": Action.KEEP_WORDS,
    "GET POST /desk/{slug}/site/words": Action.OWN_HOUSE,
    "GET POST /~/{slug}/in": PUBLIC,
    "GET POST /~/{slug}/in/{token}": PUBLIC,
    "POST /~/{slug}/out": PUBLIC,
    "POST /~/{slug}/open": PUBLIC,
    "GET /~/{slug}/comment/{post_id}/": PUBLIC,
    "GET POST /~/{slug}/comment/{post_id}/change/{sign}": PUBLIC,
    "GET /~/{slug}/comments/{post_id}": PUBLIC,
    "GET /~/{slug}/comments/{post_id}.atom": PUBLIC,
    "GET /~/{slug}/comments.atom": PUBLIC,
    "GET POST /~/{slug}/comment/{post_id}": PUBLIC,
    "GET /~/{slug}/feed/{name}": PUBLIC,
    "GET /~/{slug}/feed/{key}/media/{name}": PUBLIC,
}
"""{methods and path of a route: what it asks for}."""


PROVED_FIRST = frozenset(
    {
        "/desk/{slug}/site/people/invite",
        "/desk/{slug}/site/people/role",
        "/desk/{slug}/site/people/suspend",
        "/desk/{slug}/site/people/hand",
        "/desk/{slug}/site/people/out",
        "/desk/{slug}/site/people/hand-over",
        "/desk/{slug}/site/people/right",
        "/desk/{slug}/site/people/asks",
        "/desk/{slug}/site/people/factor",
        "/desk/{slug}/site/in-and-out/export",
        "/desk/{slug}/site/in-and-out/hooks",
        "/desk/{slug}/site/backups",
        "/desk/{slug}/site/backups/{number}/{what}",
        "/desk/{slug}/site/targets",
        "/desk/{slug}/site/targets/{number}/{what}",
        "/desk/{slug}/site/house/aside",
        "/desk/{slug}/leave",
        "/allow",
        "/account/programs/make",
        "/account/address",
        "/account/signing-in/codes",
        "/account/signing-in/off",
        "/account/signing-in/recovery",
        "/account/signing-in/passkey-question",
        "/account/signing-in/passkey-remove",
    }
)
"""What matters so much that whoever asks proves once more who they are, when it is a while since they did."""


class FactorFirst(Exception):
    """Raised for somebody of whom a blog asks a second factor that they do not have."""


@dataclass(frozen=True)
class Unknown(Exception):
    """A route that has no entry in ROUTES."""

    route: str


def _by_method() -> dict[tuple[str, str], Action | Free]:
    found: dict[tuple[str, str], Action | Free] = {}
    for entry, right in ROUTES.items():
        *methods, path = entry.split(" ")
        found |= {(method, path): right for method in methods}
    return found


_RIGHTS = _by_method()


def right_of(method: str, path: str) -> Action | Free:
    """What a route asks for. Raises Unknown for one without an entry."""
    if (method, path) not in _RIGHTS:
        raise Unknown(f"{method} {path}")
    return _RIGHTS[(method, path)]


def guard(request: Request, here: Here) -> None:
    """Raises NotFound or NotAllowed unless whoever asks has the right that the route asks for, on the blog, post, item or blocks of its address."""
    route = cast(APIRoute, request.scope["route"])
    right = right_of("GET" if request.method == "HEAD" else request.method, route.path)
    if right == PUBLIC:
        return
    me, parts = signed_in(request), request.path_params
    _ask_for_right(here, me, parts, right)
    if not isinstance(right, Free) and accounts.lacks_factor(here.db, me.id):
        raise FactorFirst
    if (
        request.method == "POST"
        and route.path in PROVED_FIRST
        and not sessions.is_proved(here, token_of(request))
    ):
        raise ProveFirst("Prove once more who you are.")


async def use_dates(request: Request, _: Annotated[None, Depends(guard)]) -> None:
    """Has dates be in the language of whoever asks; in this task, from which the thread of the route takes its context."""
    person = getattr(request.state, "person", None)
    screen_dates.use(person.date_language if person else "")


def _ask_for_right(here: Workshop, me: Person, parts: dict[str, str], right: Action | Free) -> None:
    if isinstance(right, Free):
        return
    if "slug" in parts:
        access.require_for(
            here, me, parts["slug"], right, _number(parts, "number") if right == Action.EDIT_KEPT else 0
        )
    elif "post_id" in parts:
        access.require_on_post(here, me, _number(parts, "post_id"), right)
    elif "media_id" in parts:
        access.require_on_item(here, me, _number(parts, "media_id"), right)


def _number(parts: dict[str, str], name: str) -> int:
    """A number of an address; 0, which nothing has, for what is none."""
    text = str(parts.get(name, ""))
    return int(text) if text.isascii() and text.isdecimal() and len(text) < 19 else 0
