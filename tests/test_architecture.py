"""Tests about the code itself."""

from __future__ import annotations

import ast
import importlib
import re
import unittest
from collections import Counter
from contextlib import suppress
from functools import lru_cache
from pathlib import Path

from tools import command_pages, rights_page

ROOT = Path(__file__).parent.parent
PACKAGE = ROOT / "mobbet"
LAYERS = ("core", "store", "media", "services", "publish", "actions", "web", "demo")
"""From the lowest up: a layer imports itself and what stands before it. `settings` is below `actions`."""
OUTSIDE = {"core": {"fastapi", "starlette", "jinja2", "sqlite3", "PIL", "httpx", "uvicorn", "argon2"}}
TOP = {"wiring", "cli", "worker", "letter_sender", "__main__"}


def modules() -> list[Path]:
    return sorted(PACKAGE.rglob("*.py"))


@lru_cache(maxsize=2000)
def imports(path: Path) -> set[str]:
    found = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            found.add(node.module)
            found |= {f"{node.module}.{alias.name}" for alias in node.names}
    return found


def layer_of(path: Path) -> str:
    return path.relative_to(PACKAGE).parts[0].removesuffix(".py")


class LayerTests(unittest.TestCase):
    def test_imports_point_down_only(self) -> None:
        for path in modules():
            layer = layer_of(path)
            if layer not in LAYERS:
                continue
            above = set(LAYERS[LAYERS.index(layer) + 1 :]) | (TOP if layer != "demo" else TOP - {"wiring"})
            with self.subTest(str(path.relative_to(ROOT))):
                used = {
                    name.split(".")[1]
                    for name in imports(path)
                    if name.startswith("mobbet.") and name.count(".")
                }
                self.assertEqual(used & above, set())
                self.assertEqual(
                    {name.split(".")[0] for name in imports(path)} & OUTSIDE.get(layer, set()), set()
                )

    def test_every_module_is_in_a_layer_or_is_the_top(self) -> None:
        found = {layer_of(path) for path in modules()}
        self.assertEqual(found - TOP - {"__init__"}, {*LAYERS, "settings"})

    def test_settings_and_wiring_import_what_they_may(self) -> None:
        used = {name.split(".")[1] for name in imports(PACKAGE / "settings.py") if name.startswith("mobbet.")}
        self.assertEqual(used - {"core"}, set())
        for path in modules():
            if layer_of(path) in ("core", "store", "media", "services", "publish"):
                with self.subTest(str(path.relative_to(ROOT))):
                    self.assertEqual({"mobbet.settings", "mobbet.wiring"} & imports(path), set())

    def test_no_modules_import_each_other_in_a_cycle(self) -> None:
        """Imports for types alone, and those inside a function, count as well."""
        known = {
            ".".join(("mobbet", *path.relative_to(PACKAGE).with_suffix("").parts)): path for path in modules()
        }
        graph = {
            name: {one for one in imports(path) if one in known} - {name} for name, path in known.items()
        }
        while free := {name for name, needs in graph.items() if not needs & graph.keys()}:
            graph = {name: needs for name, needs in graph.items() if name not in free}
        self.assertEqual(sorted(graph), [])

    def test_sqlite3_and_sql_stand_only_in_store(self) -> None:
        sql = re.compile(r"\b(SELECT\s.+\sFROM|INSERT INTO|UPDATE \w+ SET|DELETE FROM)\b")
        for path in modules():
            if layer_of(path) != "store":
                with self.subTest(str(path.relative_to(ROOT))):
                    self.assertNotIn("sqlite3", imports(path))
                    self.assertIsNone(sql.search(path.read_text()))

    def test_the_time_is_asked_for_only_in_wiring(self) -> None:
        clock = re.compile(r"datetime\.now|time\.time\(|utcnow|date\.today")
        for path in modules():
            if layer_of(path) != "wiring":
                with self.subTest(str(path.relative_to(ROOT))):
                    self.assertIsNone(clock.search(path.read_text()))

    def test_addresses_are_taken_apart_where_no_text_can_raise(self) -> None:
        users = {
            path.relative_to(ROOT / "mobbet").as_posix()
            for path in (ROOT / "mobbet").rglob("*.py")
            if re.search(r"\burlsplit\b|\burlparse\b", path.read_text())
        }
        self.assertEqual(users, {"core/web_addresses.py", "web/shell/security.py"})

    def test_the_demo_is_made_only_through_actions(self) -> None:
        for path in (PACKAGE / "demo").glob("*.py"):
            writes = {
                name
                for name in imports(path)
                if name.startswith("mobbet.store.")
                and not name.startswith(
                    ("mobbet.store.blogs", "mobbet.store.people", "mobbet.store.posts", "mobbet.store.media")
                )
            }
            self.assertEqual(writes, set(), path.name)


class OutgoingTests(unittest.TestCase):
    """Every connection that Mobbet begins is begun in `services/connecting.py`."""

    LIBRARIES = {
        "socket",
        "httpx",
        "http.client",
        "urllib.request",
        "urllib3",
        "requests",
        "smtplib",
        "ftplib",
        "ssl",
        "boto3",
        "botocore",
        "asyncssh",
        "aiohttp",
        "telnetlib",
        "imaplib",
        "poplib",
        "xmlrpc.client",
        "websockets",
    }
    NAMED_ONLY = {
        "services/connecting.py": "begins them",
        "services/link_answers.py": "the names of httpx's errors and answers",
        "services/fetching.py": "the names of httpx's errors and answers",
        "services/mail.py": "the name of smtplib's error",
        "services/returned_mail.py": "the name of imaplib's error",
        "services/pages.py": "the names of httpx's errors",
        "publish/targets/objects.py": "the names of the client's errors",
        "publish/targets/sftp.py": "keys, and the names of errors",
        "web/shell/door.py": "this machine's own name",
    }
    BEGINS = re.compile(
        r"httpx\.(?:Client|AsyncClient|get|post|request|stream)\b|asyncssh\.connect|boto3\.(?:client|resource|Session)|smtplib\.SMTP(?:_SSL)?\(|socket\.(?:create_connection|socket)\(|urlopen|open_connection|HTTPS?Connection"
    )

    def test_no_other_module_knows_how(self) -> None:
        for path in modules():
            name = str(path.relative_to(PACKAGE))
            used = {
                one
                for one in self.LIBRARIES
                for found in imports(path)
                if found == one or found.startswith(f"{one}.")
            }
            with self.subTest(name):
                self.assertTrue(not used or name in self.NAMED_ONLY, used)
                if name != "services/connecting.py":
                    self.assertIsNone(self.BEGINS.search(path.read_text()))

    def test_cookies_are_read_in_one_place(self) -> None:
        quadratic = re.compile(r"\brequest\.cookies\b|http\.cookies|SimpleCookie")
        self.assertEqual([path.name for path in modules() if quadratic.search(path.read_text())], [])


class PublicationTests(unittest.TestCase):
    def test_a_change_is_published_in_one_way_which_wakes_the_scheduler(self) -> None:
        found = {str(path.relative_to(PACKAGE)) for path in modules() if "press.publish(" in path.read_text()}
        self.assertEqual(found, {"actions/work.py", "actions/building.py", "web/shell/scheduler.py"})

    def test_actions_change_facts_in_units_of_work_alone(self) -> None:
        found = {
            str(path.relative_to(PACKAGE))
            for folder in ("actions", "web", "cli", "demo")
            for path in (PACKAGE / folder).rglob("*.py")
            if ".transaction()" in path.read_text()
        }
        self.assertEqual(found, {"actions/work.py"})

    def test_screens_and_commands_write_nothing_into_the_store(self) -> None:
        writing = {
            f"{path.stem}.{node.name}"
            for path in (PACKAGE / "store").glob("*.py")
            for node in ast.parse(path.read_text()).body
            if isinstance(node, ast.FunctionDef)
            and re.search(r"""db\.run(_many)?\(|(INSERT|UPDATE|DELETE)\b[^"]*RETURNING""", ast.unparse(node))
        }
        self.assertIn("posts.settle", writing)
        for folder in ("web", "cli"):
            for path in (PACKAGE / folder).rglob("*.py"):
                tree = ast.parse(path.read_text())
                stores = {
                    name.asname or name.name: name.name
                    for node in ast.walk(tree)
                    if isinstance(node, ast.ImportFrom) and node.module == "mobbet.store"
                    for name in node.names
                }
                called = {
                    f"{stores[node.value.id]}.{node.attr}"
                    for node in ast.walk(tree)
                    if isinstance(node, ast.Attribute)
                    and isinstance(node.value, ast.Name)
                    and node.value.id in stores
                }
                with self.subTest(path=str(path)):
                    self.assertEqual(called & writing, set())


class CodeTests(unittest.TestCase):
    def test_every_module_and_public_function_in_the_core_says_what_it_is(self) -> None:
        for path in modules():
            tree = ast.parse(path.read_text())
            if path.name != "__init__.py":
                with self.subTest(str(path.relative_to(ROOT))):
                    self.assertTrue(ast.get_docstring(tree))

    def test_no_function_is_long(self) -> None:
        for path in modules():
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
                    self.assertLessEqual(node.end_lineno - node.lineno, 60, f"{path.name} {node.name}")

    def test_what_is_taken_from_a_module_is_there(self) -> None:
        for path in modules():
            nodes = list(ast.walk(ast.parse(path.read_text())))
            taken = {}
            for node in nodes:
                if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("mobbet"):
                    for alias in node.names:
                        with suppress(ImportError):
                            taken[alias.asname or alias.name] = importlib.import_module(
                                f"{node.module}.{alias.name}"
                            )
            again = {
                node.id for node in nodes if isinstance(node, ast.Name) and isinstance(node.ctx, ast.Store)
            } | {node.arg for node in nodes if isinstance(node, ast.arg)}
            for node in nodes:
                if (
                    isinstance(node, ast.Attribute)
                    and isinstance(node.value, ast.Name)
                    and node.value.id in taken.keys() - again
                ):
                    self.assertTrue(
                        hasattr(taken[node.value.id], node.attr),
                        f"{path.name}:{node.lineno} {node.value.id}.{node.attr}",
                    )

    def test_tests_are_collected_and_no_two_share_a_name(self) -> None:
        for path in (ROOT / "tests").rglob("test_*.py"):
            for node in ast.parse(path.read_text()).body:
                if isinstance(node, ast.ClassDef):
                    names = Counter(item.name for item in node.body if isinstance(item, ast.FunctionDef))
                    self.assertEqual(
                        [name for name, count in names.items() if count > 1], [], f"{path.name} {node.name}"
                    )
                    if node.name.endswith("Tests"):
                        self.assertTrue(node.bases, f"{path.name} {node.name}")

    def test_every_command_and_setting_is_documented(self) -> None:
        from mobbet.cli.parser import COMMANDS

        commands, operations = (
            (ROOT / "docs" / "commands.md").read_text(),
            (ROOT / "docs" / "operations.md").read_text(),
        )
        for command in COMMANDS:
            self.assertIn(f"## mobbet {command}\n", commands)
        for setting in re.findall(r"MOBBET_\w+", (PACKAGE / "settings.py").read_text()):
            self.assertIn(setting, operations)

    def test_the_page_of_commands_is_current(self) -> None:
        self.assertEqual((ROOT / "docs" / "commands.md").read_text(), command_pages.text())

    def test_the_page_of_rights_is_current(self) -> None:
        self.assertEqual(rights_page.PAGE.read_text(), rights_page.page())

    def test_the_readme_is_short_and_what_it_links_is_there(self) -> None:
        readme = (ROOT / "README.md").read_text()
        self.assertLessEqual(len(readme.splitlines()), 150)
        self.assertLessEqual(len((ROOT / "ARCHITECTURE.md").read_text().splitlines()), 300)
        for page in (ROOT / "README.md", *(ROOT / "docs").glob("*.md")):
            for link in re.findall(r"\]\(([^)#:\s]+)\)", page.read_text()):
                with self.subTest(f"{page.name} {link}"):
                    self.assertTrue((page.parent / link).exists())

    def test_the_files_that_contributing_names_are_there(self) -> None:
        named = re.findall(
            r"`((?:mobbet|editor|tests|docs|bench)/[^`…]+)`", (ROOT / "CONTRIBUTING.md").read_text()
        )
        self.assertGreater(len(named), 20)
        self.assertEqual([name for name in named if not (ROOT / name).exists()], [])

    def test_what_ships_is_licensed(self) -> None:
        told = (ROOT / "THIRD-PARTY.md").read_text()
        for name in ("Bulma", "htmx", "Tiptap", "ProseMirror", "Literata", "Atkinson Hyperlegible Next"):
            self.assertIn(name, told)

    def test_the_lock_names_every_dependency_with_its_hash(self) -> None:
        for name in ("requirements.lock", "requirements-test.lock"):
            text = (ROOT / name).read_text()
            for package in ("fastapi", "pydantic", "pillow", "selectolax"):
                self.assertRegex(text, rf"(?m)^{package}==\S+ \\\n    --hash=sha256:")

    def test_the_public_style_sheet_is_small(self) -> None:
        from mobbet.publish.design import assets

        style = next(asset for asset in assets() if asset.name == "site.css")
        self.assertLess(len(style.body), 22_000)


class RightsTests(unittest.TestCase):
    """Nothing reaches a post, an item or saved blocks on somebody's behalf but through `actions/access.py`."""

    LOOKED_UP = re.compile(r"\b(?:posts|post_store|media|kept|kept_store)\.by_id\(")
    ON_NOBODYS_BEHALF = {
        "backup_posts.py": "posts of a backup, for whoever runs this machine",
        "importing.py": "posts of an import, for the owner of the blog",
        "blog_imports.py": "posts of a blog that is imported",
        "syncing.py": "posts of the very blog, for its owner",
        "books.py": "posts that are out for everyone, of a blog one works on",
        "access.py": "asks the table of rights",
        "addresses.py": "tells a reader whether a post was removed for good",
        "proofing.py": "the worker reads what changed",
        "media_jobs.py": "the worker makes copies",
        "proof_material.py": "standing copies of the very blog",
        "comment_letters.py": "tells those who work on the blog of what waits under its posts",
    }
    ASKS = {
        "blog_for",
        "require",
        "require_every_blog",
        "owned_blog",
        "editable_post",
        "readable_post",
        "post_to_withdraw",
        "readable_item",
        "editable_item",
        "editable_kept",
        "right_to_settle",
        "is_keeper",
        "other_post",
        "note_post",
        "share_post",
        "has_right",
    }
    ONES_OWN = ("access.py", "factors.py", "sessions.py", "account_links.py")
    """What asks for rights itself, and what is about one's own account and no blog."""
    HANDED_OUT = {
        "blogs.make_blog": "the command line and the first run make blogs",
        "blogs.add_member": "the command line",
        "blog_imports.bring": "the command line",
        "import_enclosures.with_enclosures": "to a blog that was handed out",
        "programs.end": "one's own",
        "programs.of_person": "one's own",
        "categories.set_and_keep": "after blog_for",
        "building.publish": "publishes what is due, for whoever changed it",
        "bulk_actions.check_said": "looks at words",
        "library.add_picture": "to a blog that was handed out",
        "library.add_stream": "to a blog that was handed out",
        "library.add_file": "to a blog that was handed out",
        "preview_readers.reader_of": "asks for the role",
        "people.begin_session": "one's own",
        "people.change_password": "one's own",
        "preferences.set_theme": "one's own",
        "preferences.set_date_language": "one's own",
        "preferences.set_keys": "one's own",
        "new_blog.models": "one's own",
        "blog_states.owned_aside": "one's own",
        "blog_states.bring_back": "of owned_aside",
        "people.signed_in": "after it was proved who it is",
        "people.write_to_account": "to the person's own address",
        "people.note_wrong_factor": "tells of a try",
        "people.end_sessions": "the command line",
        "profiles.set_web_address": "one's own",
        "profiles.set_profile": "one's own",
        "profiles.is_waiting": "one's own",
        "presence.in_other_tab": "one's own tabs",
        "people.set_password": "the command line",
        "people.suspend": "the command line",
        "blogs.set_role": "the command line",
        "desk_views.keep": "one's own",
        "desk_views.forget": "one's own",
        "work.changing": "keeps who made the change",
        "presence.note": "after editable_post",
        "presence.leave": "after editable_post",
        "house_words.forget_word": "one's own",
        "entry.entry_link": "for a reader who was found",
        "readers.invite": "after require",
        "refiling.keep": "after blog_for",
        "undoing.record": "the change it makes asks",
        "approvals.refusal": "is the question itself",
        "approvals.require_may_go_out": "is the question itself",
        "letters_to_colleagues.write": "after what is written about was asked for",
        "invitations.take": "the link of the letter is the right",
        "offline_steps.carry_out": "what the step does asks",
        "offline_steps.recent_posts": "one's own",
        "pushing.choose": "one's own",
        "pushing.tell": "within what asked already",
        "recording.note": "keeps who did it",
        "recording.note_everywhere": "keeps who did it",
    }
    """Functions that take a person and ask for no right, and why."""
    OF_ITSELF = {
        "aside.remove_aged", "most_read.count_for", "static_search.bring_up_to_date", "blog_states.remove_aged", "missing_pages.count", "site_search.count_missed", "alike.catch_up", "read_counts.count", "read_counts.forget", "blogs.set_up", "building.note_problem", "comments.write", "indexing.bring_up_to_date", "sample_posts.fill", "letters.announce", "letters.send_waiting",
        "people.add_person", "people.sign_in", "people.sign_out", "people.person_of", "pacing.count_try", "pacing.forget_tries", "docket_lines.set_category_names", "proofing.keep_read", "proofing.read_some", "entry.ask_to_enter", "entry.enter",
        "programs.grant_of", "programs.redeem", "programs.revoke", "micropub.create", "program_posts.place", "program_api.write", "program_posts.remove", "program_posts.bring_back", "slots.fill_ahead", "targets.try_to_send", "targets.send", "media_jobs.do", "backups.after_restoring", "backup_places.run",
        "notes.leave_as_reader", "notes.answer_as_reader", "reading_copies.enter", "reading_copies.note_progress",
        "people.end_begun_sign_in", "account_links.choose_password", "account_links.ask_for_password", "account_links.confirm_address",
        "factors.person_of_passkey", "record.forget_old", "people.with_password", "invitations.take_as_new",
        "subscribers.ask", "subscribers.confirm", "subscribers.change", "subscribers.end_by_key", "subscribers.forget_unconfirmed", "mailings.bring_up_to_date", "mail_sending.send_due", "comments.change", "comment_letters.tell_daily", "mentions.receive", "mentions.tell_some", "announcing.go_round", "asking.answer", "sending_on.send", "read_slips.tell_daily", "pushing.public_key", "pushing.send_waiting",
    }  # fmt: skip
    """What writes on nobody's behalf (readers, the scheduler, the worker, the command line), or on that of the person of a program's grant."""

    def test_numbers_are_looked_up_only_where_rights_are_asked_for(self) -> None:
        found = {
            path.name
            for folder in ("actions", "web")
            for path in (PACKAGE / folder).rglob("*.py")
            if self.LOOKED_UP.search(path.read_text())
        }
        self.assertEqual(found - set(self.ON_NOBODYS_BEHALF), set())
        self.assertEqual(set(self.ON_NOBODYS_BEHALF) - found, set())

    def test_what_was_handed_out_is_typed_only_there(self) -> None:
        typed = re.compile(r"\b(?:Readable|Editable)(?:Post|Item|Kept)\(")
        self.assertEqual([path.name for path in modules() if typed.search(path.read_text())], ["access.py"])

    def test_every_action_for_a_person_asks_for_a_right(self) -> None:
        calls = {
            f"{path.stem}.{node.name}": _calls(path, node)
            for path in (PACKAGE / "actions").glob("*.py")
            if path.name not in self.ONES_OWN
            for node in ast.parse(path.read_text()).body
            if isinstance(node, ast.FunctionDef)
        }
        asking = {
            name
            for name, (_, called) in calls.items()
            if any(one.rpartition(".")[2] in self.ASKS for one in called)
        }
        while more := {name for name, (_, called) in calls.items() if called & asking} - asking:
            asking |= more
        forgotten = {
            name
            for name, (persons, _) in calls.items()
            if persons and name not in asking and not name.rpartition(".")[2].startswith("_")
        }
        self.assertEqual(forgotten, set(self.HANDED_OUT))

    def test_every_action_that_writes_knows_for_whom(self) -> None:
        found = set()
        for path in (PACKAGE / "actions").glob("*.py"):
            for node in ast.parse(path.read_text()).body:
                if (
                    isinstance(node, ast.FunctionDef)
                    and not node.name.startswith("_")
                    and "changing(" in ast.unparse(node)
                    and not _calls(path, node)[0]
                ):
                    found.add(f"{path.stem}.{node.name}")
        self.assertEqual(found, self.OF_ITSELF)


@lru_cache(maxsize=2000)
def _names_of_actions(path: Path) -> dict[str, str]:
    """{name in a module: the action it stands for, as `module.name`}."""
    names: dict[str, str] = {}
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.ImportFrom) and (node.module or "").startswith("mobbet.actions"):
            module = node.module.removeprefix("mobbet.actions").lstrip(".")
            names |= {
                alias.asname or alias.name: f"{module}.{alias.name}".lstrip(".") for alias in node.names
            }
    return names


def _calls(path: Path, function: ast.FunctionDef) -> tuple[list[str], set[str]]:
    """(the parameters that are a person, the functions of `actions` that are called with one of them as `module.name`)."""
    names = _names_of_actions(path)
    persons = [
        one.arg
        for one in (*function.args.args, *function.args.kwonlyargs)
        if one.annotation and "Person" in ast.unparse(one.annotation)
    ]
    called = set()
    for node in ast.walk(function):
        if isinstance(node, ast.Call) and any(
            isinstance(one, ast.Name) and one.id in persons
            for one in (*node.args, *(word.value for word in node.keywords))
        ):
            if isinstance(node.func, ast.Name):
                called.add(names.get(node.func.id, f"{path.stem}.{node.func.id}"))
            elif isinstance(node.func, ast.Attribute) and isinstance(node.func.value, ast.Name):
                called.add(f"{names.get(node.func.value.id, '')}.{node.func.attr}")
    return persons, called
