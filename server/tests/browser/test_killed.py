"""The server and the browser killed outright in the middle of recording."""

import os
import random
import signal
import time
from contextlib import suppress
from pathlib import Path
from tempfile import TemporaryDirectory

from playwright.sync_api import Error, expect

from server.demo.load import PASSWORD, PEOPLE
from server.inspections.models import Inspection
from server.tests.browser.base import CHROMIUM, DESK, FLAGS, WORDS, BrowserTestCase, driver
from server.tests.browser.process import ServerProcess

COLOURS = ("white", "tan", "black")
SMELLS = ("none", "fuel", "stale fuel", "oil")
MOMENTS_S = (0.0, 0.03, 0.12)


def pump():
    return Inspection.objects.get(engine__identifier="PUMP-2")


class ServerKilledTests(BrowserTestCase):
    alone = True

    def setUp(self):
        super().setUp()
        self.server = ServerProcess()
        self.addCleanup(self.server.kill)

    def begin(self):
        self.sign_in(at=self.server.address)
        self.page.get_by_role("link").filter(has_text="read by").filter(
            has_text="Village fire pump"
        ).click()
        expect(self.page.get_by_label("Engine plan")).to_be_visible()
        self.page.keyboard.press("1")

    def assert_each_once(self, before):
        inspection = pump()
        self.assertEqual(inspection.document["cylinders"][0]["plug"]["deposit_colour"], COLOURS[-1])
        rows = inspection.observations.filter(path="/cylinders/1/plug/deposit_colour")
        said = list(rows.filter(sequence__gt=before).values_list("value", flat=True))
        self.assertEqual(said, list(COLOURS))

    def test_at_whatever_moment_each_entry_is_there_once(self):
        self.begin()
        before = pump().sequence
        for colour, moment in zip(COLOURS, MOMENTS_S, strict=True):
            self.choose("Deposit colour", colour)
            time.sleep(moment)
            self.server.kill()
            self.server.start()
            self.expect_saved()
        self.assert_each_once(before)

    def test_after_it_has_written_and_before_it_answers(self):
        self.begin()
        before = pump().sequence

        def written_but_unanswered(route):
            route.fetch()
            self.server.kill()
            route.abort()

        for colour in COLOURS:
            self.page.route("**/observations?*", written_but_unanswered, times=1)
            self.choose("Deposit colour", colour)
            expect(self.page.get_by_role("status", name="Entries")).to_contain_text("not yet saved")
            self.server.start()
            self.expect_saved()
        self.assert_each_once(before)

    def test_in_the_middle_of_its_answer(self):
        self.begin()
        before = pump().sequence

        def half_an_answer(route):
            said = route.fetch().text()
            route.fulfill(content_type="application/json", body=said[: len(said) // 2])

        for colour in COLOURS:
            self.page.route("**/observations?*", half_an_answer, times=1)
            self.choose("Deposit colour", colour)
            expect(self.page.get_by_role("status", name="Entries")).to_contain_text("not yet saved")
            self.expect_saved()
        self.assert_each_once(before)


def launched(folder):
    """A browser that keeps its profile in a folder, and its page."""
    context = driver().chromium.launch_persistent_context(
        folder, executable_path=CHROMIUM, args=FLAGS.split(), viewport=DESK
    )
    return context, context.pages[0]


def kill_browser(folder):
    """Every process of the browser that keeps its profile in a folder."""
    for entry in Path("/proc").glob("[0-9]*"):
        with suppress(OSError):
            if folder.encode() in (entry / "cmdline").read_bytes():
                os.kill(int(entry.name), signal.SIGKILL)


class RoundsTests(BrowserTestCase):
    """Two entries, a kill, one more, over and over; KILL_ROUNDS says how often."""

    worker = True

    rounds = int(os.environ.get("KILL_ROUNDS", "1"))

    def setUp(self):
        super().setUp()
        self.typed = []
        self.chance = random.Random(11)

    def type(self, page, count=1):
        for _ in range(count):
            word = SMELLS[len(self.typed) % len(SMELLS)]
            group = page.get_by_role("radiogroup", name="Smell")
            deeper = page.get_by_role("button", name=WORDS)
            expect(group.or_(deeper).first).to_be_visible()
            if not group.count():
                deeper.click()
            group.get_by_role("radio", name=word, exact=True).click()
            self.typed.append(word.replace(" ", "-"))

    def enter(self, page, address):
        """Open the pump, signing in where that has to be done again."""
        page.goto(address)
        home = page.get_by_role("heading", name="Inspections")
        expect(home.or_(page.get_by_label("E-mail"))).to_be_visible()
        if not home.is_visible():
            page.get_by_label("E-mail").fill(PEOPLE[0][0])
            page.get_by_label("Password").fill(PASSWORD)
            page.get_by_role("button", name="Sign in").click()
        page.get_by_role("link").filter(has_text="read by").filter(
            has_text="Village fire pump"
        ).click()
        expect(page.get_by_label("Engine plan")).to_be_visible()
        page.keyboard.press("2")
        self.expect_worker(page)

    def expect_kept(self, page, count):
        words = f"{count} entries on this device, not yet saved"
        expect(page.get_by_role("status", name="Entries")).to_contain_text(words)

    def expect_saved_on(self, page):
        expect(page.get_by_role("status", name="Entries")).to_have_text("All saved")

    def assert_everything_once_and_in_order(self, kind, before):
        rows = pump().observations.filter(path="/cylinders/2/plug/smell", sequence__gt=before)
        said = list(rows.select_related("by"))
        self.assertEqual([row.value for row in said], self.typed)
        self.assertEqual({row.by.email for row in said}, {PEOPLE[0][0]})
        told = f"{kind}: {self.rounds} rounds, {len(said)} entries, 0 lost, 0 doubled, 0 misnamed"
        print(told)  # noqa: T201 - the figure is what this test is for

    def test_the_page_closed(self):
        before = pump().sequence
        page = self.page
        self.enter(page, self.live_server_url)
        for _ in range(self.rounds):
            self.context.set_offline(True)
            self.type(page, 2)
            self.expect_kept(page, 2)
            page.close()
            self.context.set_offline(False)
            page = self.context.new_page()
            self.enter(page, self.live_server_url)
            self.type(page)
            self.expect_saved_on(page)
        self.assert_everything_once_and_in_order("page closed", before)

    def test_the_network_lost_and_the_page_loaded_again(self):
        before = pump().sequence
        self.enter(self.page, self.live_server_url)
        for _ in range(self.rounds):
            self.type(self.page)
            self.page.wait_for_timeout(self.chance.uniform(0, 60))
            self.context.set_offline(True)
            self.type(self.page)
            status = self.page.get_by_role("status", name="Entries")
            expect(status).to_contain_text("not yet saved")
            self.reload()
            self.page.keyboard.press("2")
            self.type(self.page)
            self.context.set_offline(False)
            self.expect_saved_on(self.page)
        self.assert_everything_once_and_in_order("network lost, page loaded again", before)

    def test_the_server_killed(self):
        server = ServerProcess()
        self.addCleanup(server.kill)
        before = pump().sequence
        self.enter(self.page, server.address)
        for _ in range(self.rounds):
            self.type(self.page, 2)
            self.page.wait_for_timeout(self.chance.uniform(0, 60))
            server.kill()
            self.type(self.page)
            server.start()
            self.expect_saved_on(self.page)
        self.assert_everything_once_and_in_order("server killed", before)

    def test_the_browser_killed(self):
        before = pump().sequence
        with TemporaryDirectory(ignore_cleanup_errors=True) as folder:
            context, page = launched(folder)
            self.enter(page, self.live_server_url)
            for _ in range(self.rounds):
                context.set_offline(True)
                self.type(page, 2)
                self.expect_kept(page, 2)
                kill_browser(folder)
                with suppress(Error):
                    context.close()
                context, page = launched(folder)
                self.enter(page, self.live_server_url)
                self.type(page)
                self.expect_saved_on(page)
            context.close()
        self.assert_everything_once_and_in_order("browser killed", before)
