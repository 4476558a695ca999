"""Every address inside the application, in one place."""

from __future__ import annotations

from urllib.parse import quote, urlencode


def home() -> str:
    return "/"


def first_run() -> str:
    return "/begin"


def sign_in(then: str = "") -> str:
    return f"/sign-in?then={quote(then, safe='')}" if then else "/sign-in"


def sign_out() -> str:
    return "/sign-out"


def account() -> str:
    return "/account"


def static(name: str) -> str:
    from mobbet.web.shell.static_routes import address_of

    return address_of(name)


def desk(blog: str, done: int = 0) -> str:
    """The desk; with the number of a change, it tells what that came to."""
    return f"/desk/{blog}?done={done}" if done else f"/desk/{blog}"


def aside(blog: str) -> str:
    """How long posts that are set aside are kept."""
    return f"/desk/{blog}/aside"


def look_again(blog: str, post_id: int = 0) -> str:
    """Where one says that an old post still holds; without one, after how many days posts are looked at again."""
    return f"/desk/{blog}/look-again/{post_id}" if post_id else f"/desk/{blog}/look-again"


def handling(blog: str, name: str) -> str:
    """Something done with one or many posts."""
    return f"/desk/{blog}/several/{name}"


def handling_undo(blog: str, number: int) -> str:
    """Where a change of posts is undone; `back` says to the timetable in which view."""
    return f"/desk/{blog}/several/undo/{number}"


def desk_rows(blog: str) -> str:
    return f"/desk/{blog}/rows"


def strip(blog: str) -> str:
    """Another stretch of the desk's strip."""
    return f"/desk/{blog}/strip"


def rhythm(blog: str, end: str = "") -> str:
    """A year by weeks, up to the week of a day."""
    return f"/desk/{blog}/rhythm" + (f"?end={end}" if end else "")


def site(blog: str) -> str:
    return f"/desk/{blog}/site"


def new_post(blog: str) -> str:
    return f"/desk/{blog}/posts"


def write_any(blog: str) -> str:
    """The post this person had in hand last."""
    return f"/desk/{blog}/write"


def presence(post_id: int) -> str:
    """Where a writing room says that it is open."""
    return f"/posts/{post_id}/here"


def write(post_id: int) -> str:
    return f"/posts/{post_id}"


def text(post_id: int) -> str:
    return f"/posts/{post_id}/text"


def text_over(post_id: int) -> str:
    return f"/posts/{post_id}/text/over"


def text_apart(post_id: int) -> str:
    return f"/posts/{post_id}/text/apart"


def pasted(blog: str) -> str:
    """Where pasted HTML becomes a document."""
    return f"/desk/{blog}/pasted"


def clean_html() -> str:
    """Where HTML by hand is cleaned."""
    return "/documents/raw"


def written() -> str:
    """Where a document is written as Markdown or HTML."""
    return "/documents/written"


def source() -> str:
    """Where Markdown or HTML becomes a document."""
    return "/documents/source"


def anchors() -> str:
    """Where the anchors of a document's headings are told."""
    return "/documents/anchors"


def revisions(post_id: int) -> str:
    return f"/posts/{post_id}/revisions"


def revision(post_id: int, number: int, what: str) -> str:
    """Where a revision is put back (`restore`) or named (`name`)."""
    return f"/posts/{post_id}/revisions/{number}/{what}"


def begin_from(post_id: int) -> str:
    """Where a new draft begins with a post's text."""
    return f"/posts/{post_id}/begin"


def template(post_id: int) -> str:
    return f"/posts/{post_id}/template"


def split(post_id: int) -> str:
    return f"/posts/{post_id}/split"


def compared(post_id: int) -> str:
    """Where the sheet is compared with the text that came first."""
    return f"/posts/{post_id}/compared"


def bring_in(blog: str) -> str:
    return f"/desk/{blog}/bring-in"


def read_file(blog: str) -> str:
    """Where a text file dropped on a sheet becomes a document."""
    return f"/desk/{blog}/read-file"


def house_style(blog: str) -> str:
    return f"/desk/{blog}/house-style"


def kept_one(blog: str, number: int, what: str = "") -> str:
    return f"/desk/{blog}/kept/{number}" + (f"/{what}" if what else "")


def kept(blog: str) -> str:
    return f"/desk/{blog}/kept/"


def linkable(blog: str) -> str:
    """Where the posts are found that a link may lead to."""
    return f"/desk/{blog}/linkable"


def docket(post_id: int, part: str = "") -> str:
    return f"/posts/{post_id}/docket" + (f"/{part}" if part else "")


def ideas(blog: str, said: str = "") -> str:
    """Where an idea is noted down."""
    return f"/desk/{blog}/ideas" + (f"?said={quote(said)}" if said else "")


def idea(blog: str, number: int, what: str) -> str:
    """Where an idea becomes a draft (`begin`), or is dropped (`drop`)."""
    return f"/desk/{blog}/ideas/{number}/{what}"


def peek(post_id: int) -> str:
    """A post as lists show it, for the side of the desk."""
    return f"/posts/{post_id}/peek"


def keep_view(blog: str) -> str:
    """Where a filter of the desk is kept under a name."""
    return f"/desk/{blog}/lists"


def forget_view(blog: str, number: int) -> str:
    return f"/desk/{blog}/lists/{number}/forget"


def places(blog: str) -> str:
    """What may be gone to by a few letters."""
    return f"/desk/{blog}/places"


def blog_proof(blog: str, what: str = "") -> str:
    """The proof of a whole blog; with a word, where many posts are mended: `all`, `describe`, `lead`, `update`."""
    return f"/desk/{blog}/proof" + (f"/{what}" if what else "")


def house_words(blog: str, what: str = "") -> str:
    """The house style for words; `gravity` is where it is said how grave each mark is."""
    return f"/desk/{blog}/site/words" + (f"/{what}" if what else "")


def proof(post_id: int, part: str = "") -> str:
    """The proof of a post; with a part, where something is decided about a mark: `stand`, `heed`, `learn`."""
    return f"/posts/{post_id}/proof" + (f"/{part}" if part else "")


def docket_check(post_id: int, what: str) -> str:
    """What is said while something is typed: `slug`, `tags`, `category`, `search`, `coast`, `footprint`."""
    return f"/posts/{post_id}/docket/check/{what}"


def share_card(post_id: int) -> str:
    """The drawn share card of a post."""
    return f"/posts/{post_id}/card.png"


def place(post_id: int) -> str:
    return f"/posts/{post_id}/place"


def withdraw(post_id: int) -> str:
    return f"/posts/{post_id}/withdraw"


def set_aside(post_id: int) -> str:
    return f"/posts/{post_id}/set-aside"


def restore(post_id: int) -> str:
    return f"/posts/{post_id}/restore"


def preview(post_id: int) -> str:
    return f"/posts/{post_id}/preview"


def preview_site(post_id: int, path: str = "/", view: str = "") -> str:
    """A page of the site with the post as it would be; `view` says for whom and in what light (`web/views.py`)."""
    seen = f"/in/{quote(view, safe=',:')}" if view else ""
    return f"/posts/{post_id}/preview{seen}/site{path}"


def preview_as(post_id: int, kind: str) -> str:
    """How a post looks in a search result, when it is shared, in a feed reader, in a letter."""
    return f"/posts/{post_id}/preview/as/{kind}"


def preview_live(post_id: int) -> str:
    return f"/posts/{post_id}/preview/live"


def picture(media_id: int, use: str = "") -> str:
    """A picture as the blog's own people see it: whole, or its cut for a use."""
    return f"/pictures/{media_id}" + (f"?use={use}" if use else "")


def library(blog: str) -> str:
    return f"/desk/{blog}/library"


def library_part(blog: str, part: str) -> str:
    """What belongs to a library: `rows`, `items`, `describe`, `labels`, `address`, `collection`, `videos`, `embed`."""
    return f"/desk/{blog}/library/{part}"


def item(media_id: int, part: str = "") -> str:
    """An item's page, and what is done with it."""
    return f"/library/{media_id}" + (f"/{part}" if part else "")


def filing(blog: str, part: str = "") -> str:
    """The Filing screen: its categories, or `tags`, `addresses`."""
    return f"/desk/{blog}/filing" + (f"/{part}" if part else "")


def category(blog: str, number: int) -> str:
    """The Filing screen with a category looked at."""
    return f"/desk/{blog}/filing?in={number}"


def filing_change(blog: str, kind: str, number: int, what: str) -> str:
    """Where a category or a tag is changed: rename, move, merge, remove …"""
    return f"/desk/{blog}/filing/{kind}/{number}/{what}"


def filing_rules(blog: str) -> str:
    return f"/desk/{blog}/filing/rules"


def filing_add(blog: str) -> str:
    return f"/desk/{blog}/filing/add"


def filing_posts(blog: str) -> str:
    return f"/desk/{blog}/filing/posts"


def filing_undo(blog: str, number: int) -> str:
    return f"/desk/{blog}/filing/undo/{number}"


def worklist(blog: str, kind: str) -> str:
    """Posts to file one after the other: `unfiled` or `untagged`."""
    return f"/desk/{blog}/filing/worklist/{kind}"


def several(blog: str) -> str:
    """Many posts filed at once."""
    return f"/desk/{blog}/filing/several"


def address_change(blog: str, what: str) -> str:
    """What is done with addresses: `pattern`, `script`, `add`, `import`, `remove`, `dismiss`."""
    return f"/desk/{blog}/filing/addresses/{what}"


def public(blog: str, path: str = "/") -> str:
    """The public page at a path, on this server."""
    return f"/b/{blog}{path}"


def footprint(post_id: int) -> str:
    return f"/posts/{post_id}/footprint"


def readers(blog: str, group: int = 0, **query: object) -> str:
    """The Readers screen, at a group or at all readers."""
    asked = {**({"group": group} if group else {}), **query}
    return f"/desk/{blog}/readers" + (f"?{urlencode(asked)}" if asked else "")


def readers_change(blog: str, what: str, group: int | None = None) -> str:
    return f"/desk/{blog}/readers/{what}" if group is None else f"/desk/{blog}/readers/{group}/{what}"


def comments(blog: str, state: str = "", post: int = 0, **query: object) -> str:
    """The Comments screen: those of a state, under one post or under all."""
    asked = {**({"state": state} if state else {}), **({"post": post} if post else {}), **query}
    return f"/desk/{blog}/comments" + (f"?{urlencode(asked)}" if asked else "")


def comments_change(blog: str, what: str) -> str:
    """What is done with comments: `settle`, `remove`, `rule`."""
    return f"/desk/{blog}/comments/{what}"


def comment_answer(blog: str, number: int) -> str:
    return f"/desk/{blog}/comments/{number}/answer"


def timetable(blog: str, **query: object) -> str:
    return f"/desk/{blog}/timetable" + (f"?{urlencode(query)}" if query else "")


def calendar(blog: str, key: str) -> str:
    """The private address from which a calendar program reads the timetable."""
    return f"/calendar/{blog}/{key}.ics"


def calendar_file(blog: str) -> str:
    return f"/desk/{blog}/timetable.ics"


def calendar_renew(blog: str) -> str:
    return f"/desk/{blog}/timetable/calendar"


def timetable_change(blog: str, what: str) -> str:
    """What is done with slips and days: `move`, `push`, `swap`, `place`, `mark`, `days`, `unmark/N`."""
    return f"/desk/{blog}/timetable/{what}"


def timetable_add(blog: str) -> str:
    return f"/desk/{blog}/timetable/add"


def slot_change(blog: str, number: int, what: str) -> str:
    return f"/desk/{blog}/timetable/slot/{number}/{what}"


def queue_change(blog: str, post_id: int, step: str) -> str:
    return f"/desk/{blog}/timetable/queue/{post_id}/{step}"


def editions(blog: str, **query: object) -> str:
    return f"/desk/{blog}/site/editions" + (f"?{urlencode(query)}" if query else "")


def put_back(blog: str, number: int) -> str:
    return f"/desk/{blog}/site/editions/{number}/put-back"


def edition_site(blog: str, number: int, path: str) -> str:
    """A page of the site as it stood in an edition."""
    return f"/desk/{blog}/edition/{number}/site{path}"


def targets(blog: str, **query: object) -> str:
    return f"/desk/{blog}/site/targets" + (f"?{urlencode(query)}" if query else "")


def target_change(blog: str, number: int, what: str) -> str:
    return f"/desk/{blog}/site/targets/{number}/{what}"


def seals(blog: str) -> str:
    return f"/desk/{blog}/site/targets/seals"


def moment(blog: str, **query: object) -> str:
    """The whole site at a moment."""
    return f"/desk/{blog}/moment" + (f"?{urlencode(query)}" if query else "")


def moment_site(blog: str, at: str, reader: str, path: str) -> str:
    return f"/desk/{blog}/moment/{quote(at, safe=':')}/{quote(reader, safe='')}/site{path}"
