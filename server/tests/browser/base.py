"""Real Chromium against the live application."""

from __future__ import annotations

import atexit
import os
import re
import time
from contextlib import suppress
from functools import cache
from typing import Any

from django.core.management import call_command
from django.db import IntegrityError, OperationalError, connection, transaction
from django.test import LiveServerTestCase
from playwright.sync_api import Browser, Error, Page, Playwright, expect, sync_playwright

from server.demo.load import PASSWORD, PEOPLE
from server.inspections.models import Inspection
from server.tests.snapshot import demo

CHROMIUM = "/usr/bin/chromium"
FLAGS = (
    "--no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking "
    "--disable-component-update --disable-sync --disable-default-apps --disable-dev-shm-usage"
)
PATIENCE_MS = int(
    os.environ.get("PATIENCE_MS", "90000")
)  # A busy machine is slow, not wrong; who passes waits no longer than it takes.
expect.set_options(timeout=PATIENCE_MS)
DESK = {"width": 1280, "height": 800}
PHONE = {"width": 390, "height": 844}
WORDS = re.compile("^Word by word")  # One key deeper in a round.


@cache
def driver() -> Playwright:
    """One driver for the whole process."""
    playwright = sync_playwright().start()
    atexit.register(playwright.stop)
    return playwright


@cache
def browser() -> Browser:
    """One browser for the whole process."""
    return driver().chromium.launch(executable_path=CHROMIUM, args=FLAGS.split())


class BrowserTestCase(LiveServerTestCase):
    """A clean page a test, the demo loaded; ends red if the page logged an error."""

    host = "127.0.0.1"
    viewport = DESK
    touch = False
    by_hand = False  # Whether one signs in at the door, as a person does.
    worker = False  # Whether the page has its service worker: it fetches everything beforehand.
    kept: Page
    alone = False  # Whether a test has a browser context of its own; with a worker it has.

    def setUp(self) -> None:
        call_command("createcachetable", verbosity=0)
        self.shop = demo()
        if self.alone or self.worker:
            self.page = self._opened()
            self.addCleanup(self.page.context.close)
        else:
            self.page = self._kept()
            self.addCleanup(self._clean, self.page)
        self.context = self.page.context
        self.page.set_default_timeout(PATIENCE_MS)
        self.errors: list[str] = []
        self.page.on("pageerror", self._mistake)
        self.elsewhere: list[str] = []
        self.page.on("request", self._note)

    @classmethod
    def _opened(cls) -> Page:
        """A page in a context of its own."""
        context = browser().new_context(
            viewport=cls.viewport,  # type: ignore[arg-type]
            has_touch=cls.touch,
            accept_downloads=True,
            service_workers="allow" if cls.worker else "block",
        )
        return context.new_page()

    @classmethod
    def _kept(cls) -> Page:
        """The page that a class's tests take over: it holds what was fetched and compiled."""
        if "kept" not in cls.__dict__:
            cls.kept = cls._opened()
            cls.addClassCleanup(cls.kept.context.close)
        return cls.kept

    def _clean(self, page: Page) -> None:
        """Leave nothing of this test on a page but what was fetched and compiled."""
        page.remove_listener("pageerror", self._mistake)
        page.remove_listener("request", self._note)
        page.unroute_all()
        page.context.set_offline(False)
        with suppress(Error):  # There is none where nothing was opened.
            page.evaluate("sessionStorage.clear()")
        page.goto("about:blank")
        for other in page.context.pages:
            if other is not page:
                other.close()
        page.context.clear_cookies()
        asked = {"origin": self.live_server_url, "storageTypes": "local_storage,indexeddb"}
        devtools = page.context.new_cdp_session(page)
        devtools.send("Storage.clearDataForOrigin", asked)
        devtools.detach()
        page.set_viewport_size(self.viewport)  # type: ignore[arg-type]

    def _mistake(self, error: Error) -> None:
        self.errors.append(str(error))

    def _note(self, request: Any) -> None:
        if not request.url.startswith(("http://127.0.0.1:", "data:", "blob:")):
            self.elsewhere.append(request.url)

    def _fixture_teardown(self) -> None:
        """Empty the tables, once what is still being answered has come to its end.

        Rows are deleted, in one go: that is twenty times as fast as making each table's files anew.
        A page that is closed sends its last entry when it likes; if it comes between, what it
        refers to is gone or its row is there for the next turn.
        """
        for _ in range(3):
            self._let_it_end()
            with suppress(IntegrityError, OperationalError), transaction.atomic():
                with connection.cursor() as cursor:
                    for table in connection.introspection.django_table_names(only_existing=True):
                        cursor.execute(f"DELETE FROM {connection.ops.quote_name(table)}")
                return
        raise AssertionError("the tables were not to be emptied")

    def _let_it_end(self) -> None:
        for _ in range(100):
            with connection.cursor() as cursor:
                cursor.execute(
                    "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() "
                    "AND usename = current_user AND pid <> pg_backend_pid() AND state <> 'idle'"
                )
                if cursor.fetchone() == (0,):
                    break
            time.sleep(0.05)

    def tearDown(self) -> None:
        self.assertEqual(self.errors, [])
        self.assertEqual(self.elsewhere, [], "a request left the machine")

    def sign_in(self, person: int = 0, at: str | None = None) -> None:
        self.begin_session(person, at or self.live_server_url)
        if not self.by_hand:
            self.page.goto(at or self.live_server_url)
        expect(self.page.get_by_role("heading", name="Inspections")).to_be_visible()
        if self.worker:
            self.expect_worker()

    def begin_session(self, person: int, address: str) -> None:
        """Begin a session: at the door where that is tried, else by what its page asks."""
        email = PEOPLE[person][0]
        if self.by_hand:
            self.page.goto(address)
            self.page.get_by_label("E-mail").fill(email)
            self.page.get_by_label("Password").fill(PASSWORD)
            self.page.get_by_role("button", name="Sign in").click()
            return
        asking = self.context.request
        asking.get(address)
        tokens = [one["value"] for one in self.context.cookies() if one["name"] == "csrftoken"]
        said = asking.post(
            f"{address}/api/session",
            data={"email": email, "password": PASSWORD},
            headers={"X-CSRFToken": tokens[0], "Referer": address},
        )
        self.assertTrue(said.ok, said.text())

    def open(self, title: str, person: int = 0) -> None:
        if self.by_hand or self.worker:
            self.sign_in(person)
            self.page.get_by_role("link").filter(has_text="read by").filter(has_text=title).click()
        else:
            self.begin_session(person, self.live_server_url)
            found = Inspection.objects.get(engine__title__contains=title)
            self.page.goto(f"{self.live_server_url}/inspections/{found.pk}")
        expect(self.page.get_by_label("Engine plan")).to_be_visible()

    def reload(self) -> None:
        """Load the workbench anew; it hears keys once its plan is there."""
        self.page.reload()
        expect(self.page.get_by_label("Engine plan")).to_be_visible()

    def expect_worker(self, page: Page | None = None) -> None:
        """Wait until the service worker answers for a page: then it opens without a network."""
        page = page or self.page
        while not page.evaluate("navigator.serviceWorker.controller !== null"):
            page.wait_for_timeout(50)

    def step(self, *names: str) -> None:
        """Go to a step of the workbench, or to a part; the one before stays until it is there."""
        for name in names:
            self.page.get_by_role("tab", name=name).click()
            # How far a step has come stands in its name.
            named = re.compile(f"^{re.escape(name)}( |,|$)")
            expect(self.page.get_by_role("tabpanel", name=named).first).to_be_visible()

    def station(self, cylinder: int) -> Any:
        plan = self.page.get_by_label("Engine plan")
        return plan.get_by_role("button", name=f"Cylinder {cylinder},")

    def choose(self, label: str, word: str) -> None:
        """Choose a word; in a round, one key deeper where it is not open yet."""
        group = self.page.get_by_role("radiogroup", name=re.compile(f"^{re.escape(label)}"))
        deeper = self.page.get_by_role("button", name=WORDS)
        expect(group.or_(deeper).first).to_be_visible()  # A step is there when it was fetched.
        if not group.count():
            deeper.click()
        group.get_by_role("radio", name=word, exact=True).click()

    def words(self) -> None:
        """Open every other word of a round."""
        self.page.get_by_role("button", name=WORDS).click()

    def expect_saved(self) -> None:
        expect(self.page.get_by_role("status", name="Entries")).to_have_text("All saved")
