"""The facts of a house as sentences."""

from __future__ import annotations

import json

from mobbet.core.blog_states import CLOSED, NOBODY, OPEN, PEOPLE
from mobbet.core.languages import NAMES, name_of
from mobbet.core.link_rules import RULES, WORDS
from mobbet.core.numbers import counted
from mobbet.core.sharing import PHONE, WAYS
from mobbet.core.timing import all_zones
from mobbet.store.blogs import Blog
from mobbet.web.shell.contexts import Choice
from mobbet.web.site.sentence_contexts import Sentence, Word
from mobbet.web.site.sentences import short, typed_word, with_problem

COLUMN_WORDS = {
    "name": "the name", "tagline": "the line below it", "made_by": "whom it is by", "icon": "the icon", "home": "the public address", "host": "the host name",
    "zone": "the time zone", "language": "the language", "posts_on_page": "how many posts a page shows", "label": "what the section is called",
    "read_on": "the link to the whole post", "full_in_lists": "how much lists show", "categories_in_lists": "whether lists name categories",
    "video_hosts": "whose videos may be shown", "facts": "the facts for fill-ins", "link_rules": "the rules for links",
    "sharing": "the ways to share a post", "share_links": "your own share addresses", "server": "where readers’ forms are answered", "hub": "the hub that is told of new posts", "counts_reads": "whether reads elsewhere are counted here",
}  # fmt: skip
"""{column of a blog (`store.blogs.HOUSE_COLUMNS`): what it is called}."""


def differing(now: Blog, given: Blog) -> list[str]:
    """What is tried otherwise than readers have it, in words."""
    return [words for column, words in COLUMN_WORDS.items() if getattr(now, column) != getattr(given, column)]


def groups(
    blog: Blog, pictures: list[Choice], problem: tuple[str, str, str] = ("", "", "")
) -> list[tuple[str, list[Sentence]]]:
    """(heading, sentences) of what the house says of itself. `problem` is (field, what was typed, the reason) of what was refused; `pictures` are those of the library to choose from."""
    found = [
        ("What it is", _names(blog, pictures)),
        ("Where and when", _places(blog)),
        ("Lists of posts", _lists(blog)),
        ("Facts that texts fill in", [_facts(blog)]),
        ("Sharing", _sharing(blog)),
        ("Links and videos of other sites", [_links(blog), _videos(blog)]),
    ]
    return [(heading, [with_problem(one, *problem) for one in sentences]) for heading, sentences in found]


HINTS = {
    OPEN: "Everyone finds what is out.",
    PEOPLE: "You and your colleagues see it while you are signed in; everybody else is asked to look in again.",
    NOBODY: "Everybody is asked to look in again. You still see it by “Look at any page”.",
}


def state_word(blog: Blog) -> Word:
    """Whom the site answers."""
    choices = tuple(
        Choice(state, words, state == blog.closed, HINTS[state]) for state, words in CLOSED.items()
    )
    return Word("closed", "whom the site answers", CLOSED[blog.closed], choices)


def _names(blog: Blog, pictures: list[Choice]) -> list[Sentence]:
    languages = tuple(
        Choice(tag, name, tag == blog.language)
        for tag, name in sorted(NAMES.items(), key=lambda pair: pair[1])
    )
    line = typed_word(
        "tagline",
        "the line below the name",
        f"“{short(blog.tagline)}”" if blog.tagline else "no line yet",
        blog.tagline,
        160,
    )
    by = typed_word(
        "made_by", "whom the blog is by", blog.made_by or "the blog itself", blog.made_by, 80,
        "A person, a club, a paper: search engines are told. Left empty, the blog stands for itself.",
    )  # fmt: skip
    chosen = next((one.words for one in pictures if one.value == str(blog.icon)), "a picture of the library")
    offered = (
        Choice("0", "the usual one", not blog.icon),
        *(Choice(one.value, one.words, one.value == str(blog.icon)) for one in pictures),
    )
    icon = Word(
        "icon",
        "the icon",
        f"“{chosen}”" if blog.icon else "the usual one",
        options=offered,
        hint="Browsers show its square cut beside the name.",
    )
    name = typed_word("name", "the name", blog.name, blog.name, 80)
    language = Word("language", "the language", name_of(blog.language), options=languages)
    return [
        ["The blog is called", name, ", with", line, "below it."],
        ["It is written in", language, ", and published by", by, "; its icon is", icon, "."],
    ]


def _places(blog: Blog) -> list[Sentence]:
    zones = tuple(Choice(name, name, name == blog.zone) for name in all_zones())
    host = typed_word(
        "host", "its own host name", blog.host or "no host name of its own", blog.host or "", 253,
        "Such as my-blog.example, once that name points to this server. Left empty, the site stands below /b/ here.",
    )  # fmt: skip
    home = typed_word(
        "home", "the public address", blog.home, blog.home, 300,
        "Where readers find the site; feeds, share cards and search engines are given it.",
    )  # fmt: skip
    server = typed_word(
        "server", "where readers’ forms are answered", blog.server or "at the same address", blog.server, 300,
        "Where the site stands on a host that hands nothing on: the address of this server with the blog’s path, such as https://write.my-site.example/b/blog/.",
    )  # fmt: skip
    reads = _either(
        "counts_reads", "whether reads elsewhere are counted here", bool(blog.counts_reads), "counted here", "not counted here",
    )  # fmt: skip
    hub = typed_word(
        "hub", "the hub that is told of new posts", blog.hub or "no hub", blog.hub, 500,
        "A hub (WebSub) hands new posts on to feed readers at once.",
    )  # fmt: skip
    return [
        ["Readers find it at", home, "; on this server it has", host, "."],
        [
            "Their forms for comments, letters and passwords are answered",
            server,
            *((", and pages that are read elsewhere are", reads) if blog.server else ()),
            ". New posts are told to",
            hub,
            ".",
        ],
        ["Its times are those of", Word("zone", "the time zone", blog.zone, options=zones), "."],
    ]


def _lists(blog: Blog) -> list[Sentence]:
    label = typed_word(
        "label", "what the section is called", f"“{blog.label}”", blog.label, 40,
        "Such as Notes or News; it stands in the menu, above each post, and in titles.",
    )  # fmt: skip
    count = Word(
        "posts_on_page", "how many posts stand on a page", counted(blog.posts_on_page, "post"),
        least=1, most=100, number=blog.posts_on_page,
    )  # fmt: skip
    whole = _either(
        "full_in_lists", "how much lists show", bool(blog.full_in_lists), "its whole text", "its teaser"
    )
    named = _either(
        "categories_in_lists", "whether lists name categories", bool(blog.categories_in_lists),
        "with its categories", "without its categories",
    )  # fmt: skip
    on = typed_word("read_on", "the words that lead to the whole post", f"“{blog.read_on}”", blog.read_on, 40)
    return [
        ["The section is called", label, "."],
        ["A page of a list has", count, ", and shows of each", whole, ",", named, ";", on, "leads to the whole post."],
    ]  # fmt: skip


def _either(where: str, label: str, value: bool, yes: str, no: str) -> Word:
    return Word(where, label, yes if value else no, (Choice("yes", yes, value), Choice("", no, not value)))


def _facts(blog: Blog) -> Sentence:
    said: Sentence = []
    for name, value in json.loads(blog.facts):
        said += [
            typed_word(
                f"fact:{name}", f"the fact {name}", f"{name}: {short(value)}", value, 300, removes=True
            ),
            ",",
        ]
    more = typed_word(
        "fact", "one more, as a name, a colon and a value", "one more" if said else "no fact yet", "", 340,
        "Put into posts from the toolbar (More, Fill-in). Changing a fact changes every post that has it.",
        placeholder="next-session: Thursday 26 November, 18:30",
    )  # fmt: skip
    return [*(["Posts can fill in"] if said else ["There is"]), *said, more, "."]


def _sharing(blog: Blog) -> list[Sentence]:
    chosen = json.loads(blog.sharing)
    said: Sentence = ["Below a post readers"]
    for way, words in WAYS.items():
        end = "." if way == PHONE else ","
        said += [
            _either(f"sharing:{way}", f"whether readers may {words}", way in chosen, "may", "may not"),
            f"{words}{end}",
        ]
    own: Sentence = []
    for words, pattern in json.loads(blog.share_links):
        own += [
            "“" + words + "” leads to",
            Word(f"share_link:{words}", f"the share address {words}", pattern, removes=True),
            ".",
        ]
    more = typed_word(
        "share_link", "a share address of your own", "another address of your own" if own else "an address of your own", "", 340,
        "Words, then an address with {address} and perhaps {title}, which become those of the post. It opens elsewhere when a reader presses it, and not before.",
        placeholder="Tell the harbour https://harbour.example/tell?about={address}&words={title}",
    )  # fmt: skip
    return [said, [*own, "Let them share a post by", more, "."]]


def _links(blog: Blog) -> Sentence:
    said: Sentence = []
    for domain, rule in json.loads(blog.link_rules):
        offered = tuple(Choice(one, WORDS[one], one == rule) for one in RULES)
        label = f"what links to {domain} are"
        said += [
            f"Links to {domain} are",
            Word(f"link_rule:{domain}", label, WORDS[rule], offered, removes=True),
            ".",
        ]
    more = typed_word(
        "link_rule", "a domain and what its links are", "another domain" if said else "a domain", "", 300,
        "Write a domain and paid (a partner: search engines are told) or not-vouched-for. Its subdomains are meant as well.",
        placeholder="shop.example paid",
    )  # fmt: skip
    return [*said, "Add a rule for links to", more, "."]


def _videos(blog: Blog) -> Sentence:
    said: Sentence = []
    for host in json.loads(blog.video_hosts):
        choices = (Choice("yes", "may be shown", True),)
        label = f"whether videos of {host} may be shown"
        said += [
            f"Videos of {host}",
            Word(f"video_host:{host}", label, "may be shown", choices, removes=True),
            ".",
        ]
    more = typed_word(
        "more_video_hosts", "a host whose videos may be shown", "another host" if said else "a host", "", 253,
        "A video loads from there only when a reader presses it; from any other host it stands as a link.",
        placeholder="films.example",
    )  # fmt: skip
    return [*said, "Allow videos of", more, "."]
