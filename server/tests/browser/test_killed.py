"""The server and the browser killed outright in the middle of recording."""

import os
import signal
import time
from contextlib import suppress
from pathlib import Path
from tempfile import TemporaryDirectory

from playwright.sync_api import Error, expect

from server.demo.load import PASSWORD, PEOPLE
from server.inspections.models import Inspection
from server.tests.browser.base import CHROMIUM, DESK, FLAGS, BrowserTestCase, driver
from server.tests.browser.process import ServerProcess

COLOURS = ("white", "grey", "tan", "brown", "black")
MOMENTS_S = (0.0, 0.01, 0.03, 0.06, 0.12)


def pump():
    return Inspection.objects.get(engine__identifier="PUMP-2")


class ServerKilledTests(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.server = ServerProcess()
        self.addCleanup(self.server.kill)

    def begin(self):
        self.sign_in(at=self.server.address)
        self.page.get_by_role("link").filter(has_text="Village fire pump").click()
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
            self.page.route("**/observations", written_but_unanswered, times=1)
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
            self.page.route("**/observations", half_an_answer, times=1)
            self.choose("Deposit colour", colour)
            expect(self.page.get_by_role("status", name="Entries")).to_contain_text("not yet saved")
            self.expect_saved()
        self.assert_each_once(before)


class BrowserKilledTests(BrowserTestCase):
    def launched(self, folder):
        context = driver().chromium.launch_persistent_context(
            folder, executable_path=CHROMIUM, args=FLAGS.split(), viewport=DESK
        )
        return context, context.pages[0]

    def signed_in(self, page):
        page.goto(self.live_server_url)
        home = page.get_by_role("heading", name="Inspections")
        expect(home.or_(page.get_by_label("E-mail"))).to_be_visible()
        if not home.is_visible():
            page.get_by_label("E-mail").fill(PEOPLE[0][0])
            page.get_by_label("Password").fill(PASSWORD)
            page.get_by_role("button", name="Sign in").click()
        page.get_by_role("link").filter(has_text="Village fire pump").click()
        expect(page.get_by_label("Engine plan")).to_be_visible()

    def test_what_was_entered_without_a_network_outlives_the_browser(self):
        with TemporaryDirectory(ignore_cleanup_errors=True) as folder:
            context, page = self.launched(folder)
            self.signed_in(page)
            page.keyboard.press("2")
            context.set_offline(True)
            for label, word in (("Deposit colour", "yellow"), ("Smell", "stale fuel")):
                group = page.get_by_role("radiogroup", name=label)
                group.get_by_role("radio", name=word, exact=True).click()
            expect(page.get_by_role("status", name="Entries")).to_contain_text(
                "2 entries on this device"
            )
            self.kill(folder)
            with suppress(Error):
                context.close()
            context, page = self.launched(folder)
            self.addCleanup(context.close)
            self.signed_in(page)
            expect(page.get_by_role("status", name="Entries")).to_have_text("All saved")
            plug = pump().document["cylinders"][1]["plug"]
            self.assertEqual((plug["deposit_colour"], plug["smell"]), ("yellow", "stale-fuel"))
            rows = pump().observations.filter(path="/cylinders/2/plug/smell")
            self.assertEqual(rows.filter(value="stale-fuel").count(), 1)

    def kill(self, folder):
        """Every process of the browser that keeps its profile in a folder."""
        for entry in Path("/proc").glob("[0-9]*"):
            with suppress(OSError):
                if folder.encode() in (entry / "cmdline").read_bytes():
                    os.kill(int(entry.name), signal.SIGKILL)
