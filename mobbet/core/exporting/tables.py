"""Which tables an export has, column by column, and which it has not, with the reason. A test compares this with the database.

What the columns are called in files, and how their values are spelled, follows from the words of `forms.py`.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from mobbet.core.exporting.forms import Field
from mobbet.core.exporting.structures import fields

REVISIONS, SUBSCRIBERS, READS = "revisions", "subscribers", "reads"
CHOICES = {
    REVISIONS: "every revision of every post",
    SUBSCRIBERS: "the subscribers, with their e-mail addresses, and the letters each was sent",
    READS: "how often pages were read",
}
"""What an export has by choice, in words."""


@dataclass(frozen=True)
class Table:
    """The rows of a table that belong to a blog, by the scope that the store knows (`store/exporting.SCOPES`), and its columns.

    `kind` is what references call its rows, by `key` or else by the number of their line. `left` gives the columns that the file has not, with
    what they are after an import; `:blog` stands for the number of the blog, `:secret` for a new secret. A table with an `id` is in its order, any other in that of its lines.
    """

    name: str
    fields: tuple[Field, ...]
    scope: str = "blog"
    kind: str = ""
    key: str = ""
    has_id: bool = True
    choice: str = ""
    left: Mapping[str, Any] = field(default_factory=lambda: {"blog_id": ":blog"})

    @property
    def file(self) -> str:
        return f"{self.name.replace('_', '-')}.jsonl"

    @property
    def columns(self) -> frozenset[str]:
        return (
            frozenset(one.column for one in self.fields)
            | self.left.keys()
            | ({"id"} if self.has_id else set())
        )


_NO_BLOG: Mapping[str, Any] = {}
_DOCKET = (
    "excerpt text, description text, series_id series?, series_position whole, lead_media media?, heading text, front text, search_title text, place text,"
    "password_key text, listed text, leads_to post?, language text, comments text, kind text, below post?, own_look own_look, alike alike, sharing text,"
    "letter text, letter_subject text, letter_line text, announce text"
)

BLOG = fields(
    "slug text, name text, tagline text, zone text, language text, home text, host text?, design text, posts_on_page whole, made_at time, facts data[],"
    "link_rules data[], pattern text, slug_script text, catch_all category?, least_categories whole, most_categories whole, filing_help text, label text,"
    "read_on text, full_in_lists whole, categories_in_lists whole, salt text, seals whole, open_entry whole, quotes text, dashes text, ellipses text,"
    "avoided data[], severities data{}, tries_links whole, aside_days whole, look_again_days whole, comments text, comments_wait text, video_hosts data[],"
    "made_by text, icon media0, closed text, set_aside_at time?, rights rights, record_days whole, factor_roles data[], guard text, sharing data[],"
    "share_links data[], blocklist data[], letters data{}, letters_since time?, server text, comment_work whole, comment_letters text,"
    "comment_letters_to text, comments_told_at time, mentions text, hub text, read_slip text, slip_told_at time, counts_reads whole, static_search text,"
    "scales_pictures whole"
)
BLOG_LEFT = {"calendar_key": "", "hub_told": 0}
"""A secret that is made anew, and a number of the installation."""
PERSON = fields(
    "email text, name text, profile text, web_address text, author_slug text, author_line text, author_links data[]"
)
POST = fields(
    "author_id person, slug text, visibility name, goes_out_wall text?, comes_down_wall text?, made_at time, changed_at time, aside_at time?,"
    f"is_template whole, update_wall text?, looked_at time, waits_turn whole, wanted_by text, given_by person0, {_DOCKET}"
)
"""The docket of a post; its text, categories, tags and lead stand beside it (`post_files.py`)."""
POST_LEFT = {
    "blog_id": ":blog", "title": "", "words": 0, "revision": 0, "lead": "", "placed_for": None, "placed_until": None, "home_post": None, "followed": "",
}  # fmt: skip
REVISION = fields("person_id person, title text, subtitle text, begun_at time, saved_at time, name text")
REVISION_LEFT = {"post_id": 0, "number": 0, "body": "", "save_key": "", "words": 0}
PLACEMENT = Table(
    "placement",
    fields(
        "post_id post, revision whole, zone text, goes_out_wall text, comes_down_wall text?, goes_out time, comes_down time, shows_from time,"
        "shows_until time, path text, slug text, audience name, author_id person, categories category*, tags tag*, media media*, links post*, kept kept*,"
        f"placed_by person, placed_at time, lead lead, {_DOCKET}"
    ),
    kind="placement",
)
MEDIA = Table(
    "media",
    fields(
        "name text, type text, kind text, alt text, caption text, credit text, licence text, source text, labels data[], added_by person, added_at time,"
        "recipe data, transcript text, captions text, poster_second real, taken text, camera text, place text, aside_at time?"
    ),
    kind="media",
    left={
        "blog_id": ":blog", "hash": "", "width": 0, "height": 0, "bytes": 0, "state": "working", "problem": "", "is_moving": 0, "colour": "", "tiny": (),
        "seconds": 0.0, "loudness": None, "wave": (), "version": 1,
    },
)  # fmt: skip
"""The items of the library: what was said of them. What follows from their files is computed again."""

TABLES: tuple[Table, ...] = (
    Table("category", fields("parent_id category?, name text, slug text, position whole, description description, picture media?, shows_below whole"), kind="category", key="slug"),
    Table("tag", fields("name text, slug text"), kind="tag", key="slug"),
    Table("series", fields("name text"), kind="series", key="name"),
    Table("reader_group", fields("name text, made_at time, writes_since time?"), kind="group", key="name", left={"blog_id": ":blog", "feed_key": ":secret"}),
    Table("kept", fields("name text, body document, version whole, changed_by person, changed_at time, removed_at time?, added_by person0"), kind="kept"),
    MEDIA,
    PLACEMENT,
    Table("address", fields("path text, owner owner, target text, by_hand whole, since time"), has_id=False, left={"blog_id": ":blog", "kind": ""}),
    Table("shown_profile", fields("person_id person, shown_name text, shown_line text, shown_text text, shown_links data[], shown_address text, shown_picture media?"), has_id=False),
    Table("membership", fields("person_id person, role text, picture media?, joined_at time, suspended_at time?"), has_id=False),
    Table("reader", fields("person_id person, added_at time, joined_at time?, name text"), has_id=False),
    Table("group_reader", fields("group_id group, person_id person"), "group", has_id=False, left=_NO_BLOG),
    Table("house_given", fields("part text, shows_from time, value house, given_by person?, given_at time, why text")),
    Table("house_tried", fields("part text, value house, tried_by person?"), has_id=False),
    Table("slot", fields("rule text, time text, starts text, excepted data[], made_at time")),
    Table("marked_day", fields("first text, last text, words text, skips whole")),
    Table("queued", fields("post_id post, position whole"), has_id=False),
    Table("alike", fields("post_id post, other_id post, score real, reason text"), has_id=False),
    Table("comment", fields("post_id post, answers comment?, person_id person?, is_ours whole, name text, email text, text text, state text, made_at time, settled_by person?,"
        "suspicion real, why text, fingerprint text, learned text, source text, address text"), kind="comment"),
    Table("robot_sign", fields("sign text, robots whole, people whole"), has_id=False),
    Table("note", fields("post_id post, answers note?, person_id person?, who text, left_at time, passage_start whole, passage_end whole, quote text, prefix text, suffix text,"
        "said text, proposal text?, ended text, ended_by person?, ended_at time?"), kind="note", left={"blog_id": ":blog", "reader_id": None}),
    Table("decision", fields("post_id post, kind text, person_id person, asked_of person?, revision whole, visibility name, categories categories, outlasts text, remark text, decided_at time")),
    Table("answer", fields("post_id post, form text, title text, person_id person?, voter text, answers data[], made_at time"), left={"blog_id": ":blog", "network": ""}),
    Table("ignored_mark", fields("post_id post, sign text, reason text, person_id person, ignored_at time"), "post", has_id=False, left=_NO_BLOG),
    Table("overridden", fields("post_id post, person_id person, overridden_at time, reason text, marks data"), "post", left=_NO_BLOG),
    Table("learned_word", fields("word text, learned_at time"), "words", has_id=False, left={"blog_id": ":blog", "person_id": 0}),
    Table("desk_view", fields("person_id person, name text, query text")),
    Table("idea", fields("person_id person, title text, line text, noted_at time")),
    Table("account", fields("kind text, name text, address text, profile text, pattern text, longest whole, delay whole, since time"), kind="account",
        left={"blog_id": ":blog", "token": ""}),
    Table("announced", fields("post_id post, group_id group"), "post", has_id=False, left=_NO_BLOG),
    Table("announcement", fields("account_id account, post_id post, state text, text text, tries whole, next_try time, answer text, problem text, made_at time"), "post", has_id=False, left=_NO_BLOG),
    Table("mention", fields("post_id post, source text, target text, state text, asked_at time, next_try time, tries whole")),
    Table("mention_out", fields("post_id post, target text, state text, tries whole, next_try time, problem text"), "post", has_id=False, left=_NO_BLOG),
    Table("mention_told", fields("post_id post, placement_id placement"), "post", has_id=False, left=_NO_BLOG),
    Table("mailing", fields("kind text, post_id post?, number whole, every text, shows shown, subject text, text text, html text, words text, made_at time"), kind="mailing"),
    Table("digest", fields("every text, until time"), has_id=False),
    Table("subscriber", fields("email text, key text, state text, consent text, asked_at time, confirmed_at time?, ended_at time?, bounces whole, problem text, wishes wishes"),
        kind="subscriber", key="email", choice=SUBSCRIBERS),
    Table("subscription", fields("subscriber_id subscriber, what name, every text, since time"), "subscriber",
        has_id=False, left=_NO_BLOG, choice=SUBSCRIBERS),
    Table("delivery", fields("mailing_id mailing, subscriber_id subscriber, state text, tries whole, next_try time, problem text, done_at time?, bounced_at time?"),
        "subscriber", has_id=False, left=_NO_BLOG, choice=SUBSCRIBERS),
    Table("record", fields("at time, kind text, actor_id=account person?, actor text, on_post post?, subject text, detail text"), "record", left={"on_blog": ":blog", "origin": ""}),
    Table("reads", fields("post_id post, month whole, count whole"), "post", has_id=False, left=_NO_BLOG, choice=READS),
    Table("read_day", fields("day text, page page, pages whole, readers whole, ends whole"), has_id=False, choice=READS),
    Table("read_source", fields("day text, source text, page page, pages whole"), has_id=False, choice=READS),
    Table("read_way", fields("day text, way text, value text, pages whole"), has_id=False, choice=READS),
    Table("read_robots", fields("day text, pages whole"), has_id=False, choice=READS),
)  # fmt: skip
"""In the order in which they are written; posts with their revisions, categories and tags have files of their own, and people one."""

_COMPUTED = "computed from what the export has"
_PASSING = "a state of the moment"
_SECRET = "a secret of an account or of a link"
_INSTALLATION = "of the installation, not of a blog"
_MEMO = "an edition, which publishing computes again"
LEFT = {
    **dict.fromkeys(("placement_category", "placement_kept", "placement_link", "placement_media", "placement_tag", "listing", "numbered_page", "house_moment"), _COMPUTED),
    **dict.fromkeys(("post_media", "post_link_out", "post_proof", "proof_day", "cached", "copy", "most_read", "shown", "link_answer"), _COMPUTED),
    **dict.fromkeys(("post_text", "post_vocabulary", "said_text", "media_text", "site_text", "site_text_closed", "site_vocabulary", "site_vocabulary_closed", "site_page",
        "static_index", "static_index_file"), _COMPUTED),
    **dict.fromkeys(("edition", "edition_page", "hold"), _MEMO),
    **dict.fromkeys(("alike_due", "to_index", "site_to_index", "stale_fact", "stale_post", "stale_reason", "job", "present", "blog_event", "publication_problem", "house_moment",
        "asked", "not_found", "sent_on", "mail_pause", "read_seen", "read_line", "offline_step", "letter"), _PASSING),
    **dict.fromkeys(("session", "device", "passkey", "recovery_code", "account_link", "asked_of_browser", "entry", "invitation", "invitation_role", "push_device", "push_key",
        "push_notice", "program_code", "program_token", "read_salt", "reading_copy", "copy_reader", "signin_failure"), _SECRET),
    **dict.fromkeys(("backup_copy", "backup_place", "target", "target_file", "import_run", "imported", "transfer", "synced", "webhook", "webhook_told", "webhook_sending"), _INSTALLATION),
    "change": "how things stood before changes that can be undone, by numbers of the installation",
}  # fmt: skip
"""{table that the export has not: why}."""
OF_POSTS = ("post", "revision", "post_category", "post_tag")
"""The tables that the files of posts hold."""
