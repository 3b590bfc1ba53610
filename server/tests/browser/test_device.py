"""What is typed on a device is in the log under its author, or on the device and said so."""

import json
import re
from threading import Event
from unittest.mock import patch

from django.contrib.auth import logout
from playwright.sync_api import expect

from server.demo.load import PASSWORD, PEOPLE
from server.inspections.models import Inspection
from server.reports.services import reopen, sign
from server.shops.models import User
from server.tests.browser.base import BrowserTestCase
from server.tests.people import PASSWORD as OTHERS
from server.tests.people import own_media, shop_with
from server.tests.test_photos import picture

SMELLS = ("none", "fuel", "stale fuel", "oil")
PATH = "/cylinders/2/plug/smell"

# A browser that keeps nothing, and one whose storage is full for a while.
NO_DATABASE = "Object.defineProperty(window, 'indexedDB', { get() { throw new Error('none'); } })"
FULL_AT_FIRST = """
  const put = IDBObjectStore.prototype.put;
  window.full = true;
  IDBObjectStore.prototype.put = function (value, key) {
    const full = window.full && this.name === 'entries';
    if (full) throw new DOMException('full', 'QuotaExceededError');
    return put.call(this, value, key);
  };
"""
# An older page of this application, which holds the database as it was.
OLDER_PAGE = """() => new Promise((held) => {
  const opening = indexedDB.open("fiacre", 3);
  opening.onupgradeneeded = () => opening.result.createObjectStore("answers");
  opening.onsuccess = () => { window.database = opening.result; held(); };
})"""

KEPT_ANSWERS = """() => new Promise((done) => {
  const opening = indexedDB.open("fiacre");
  opening.onsuccess = () => {
    const answers = opening.result.transaction("answers").objectStore("answers");
    answers.getAllKeys().onsuccess = (event) => {
      opening.result.close();
      done(event.target.result);
    };
  };
})"""


class DeviceTestCase(BrowserTestCase):
    worker = True
    by_hand = alone = True

    def setUp(self):
        super().setUp()
        self.status = self.page.get_by_role("status", name="Entries")

    def begin(self, person=0):
        self.open("Village fire pump", person)
        self.page.keyboard.press("2")
        self.inspection = Inspection.objects.get(engine__identifier="PUMP-2")
        self.before = self.inspection.sequence
        self.address = self.page.url

    def smell(self, *words):
        for word in words:
            self.choose("Smell", word)

    def said(self):
        """What the log has of the second plug's smell since, and who said it."""
        rows = self.inspection.observations.filter(path=PATH, sequence__gt=self.before)
        return [(row.value, row.by.email) for row in rows.select_related("by")]

    def by(self, person, *words):
        return [(word.replace(" ", "-"), PEOPLE[person][0]) for word in words]

    def leave(self):
        """Sign out with entries waiting."""
        self.page.get_by_role("link", name="Fiacre, to the shop").click()
        self.page.get_by_role("button", name="Sign out").click()
        self.page.get_by_role("button", name="Keep them locked and sign out").click()
        expect(self.page.get_by_label("E-mail")).to_be_visible()

    def enter(self, email, password=PASSWORD):
        self.page.get_by_label("E-mail").fill(email)
        self.page.get_by_label("Password").fill(password)
        self.page.get_by_role("button", name="Sign in").click()
        expect(self.page.get_by_role("heading", name="Inspections")).to_be_visible()


class ReopenedTests(DeviceTestCase):
    def test_typing_goes_on_after_a_page_that_was_closed_with_entries_waiting(self):
        self.begin()
        self.context.set_offline(True)
        self.smell("fuel", "oil")
        expect(self.status).to_contain_text("2 entries on this device, not yet saved")
        self.page.close()
        self.context.set_offline(False)
        self.page = self.context.new_page()
        self.page.goto(self.address)
        expect(self.page.get_by_label("Engine plan")).to_be_visible()
        self.page.keyboard.press("2")
        self.smell("none")
        self.expect_saved()
        self.assertEqual(self.said(), self.by(0, "fuel", "oil", "none"))

    def test_what_waits_is_sent_from_any_page_and_said_there(self):
        self.begin()
        self.context.set_offline(True)
        self.smell("fuel")
        expect(self.status).to_contain_text("1 entry on this device")
        self.page.get_by_role("link", name="Fiacre, to the shop").click()
        expect(self.status).to_contain_text("1 entry on this device")
        self.page.get_by_role("link", name="Which?").click()
        waiting = self.page.get_by_role("region", name="Waiting")
        expect(waiting).to_contain_text("cylinder 2, plug, smell: fuel")
        self.context.set_offline(False)
        self.expect_saved()
        self.assertEqual(self.said(), self.by(0, "fuel"))

    def test_half_typed_is_there_again_and_a_doubtful_number_is_asked_about(self):
        self.begin()
        gap = self.page.get_by_label("Gap", exact=True)
        gap.fill("1,250")
        expect(self.status).to_have_text("1 half typed")
        self.reload()
        self.page.keyboard.press("2")
        expect(gap).to_have_value("1,250")
        gap.press("Enter")
        self.page.get_by_role("alert").get_by_role("button", name="1.25", exact=True).click()
        self.step("Plan")
        self.page.get_by_label("Unclipped or taken off").fill("air box")
        self.page.keyboard.press("Tab")
        self.expect_saved()
        found = Inspection.objects.get(pk=self.inspection.pk).document
        self.assertEqual(found["cylinders"][1]["plug"]["gap"]["value"], 1.25)
        self.assertEqual([one["what"] for one in found["work"]["removed"]][-1], "air box")

    def test_a_reading_is_written_once(self):
        self.begin()
        self.step("Compression")
        row = self.page.get_by_label(re.compile("^Cylinder 1, (psi|bar|kPa)"))
        row.fill("123")
        row.press("Enter")
        self.page.keyboard.press("Tab")
        self.expect_saved()
        rows = self.inspection.observations.filter(sequence__gt=self.before)
        self.assertEqual([row.path[-11:] for row in rows], ["/1/pressure"])


class AuthorTests(DeviceTestCase):
    def test_a_session_that_ends_late_is_not_the_one_that_began_since(self):
        self.begin()
        self.page.get_by_role("link", name="Fiacre, to the shop").click()
        expect(self.page.get_by_role("heading", name="Inspections")).to_be_visible()
        go_on = Event()

        def slowly(request):
            logout(request)
            go_on.wait(30)

        with patch("server.shops.views.logout", slowly):
            self.page.get_by_role("button", name="Sign out").click()
            self.page.get_by_label("E-mail").fill(PEOPLE[1][0])
            self.page.get_by_label("Password").fill(PASSWORD)
            self.page.get_by_role("button", name="Sign in").click()
            self.page.wait_for_timeout(2000)
            go_on.set()
        expect(self.page.get_by_role("heading", name="Inspections")).to_be_visible()
        self.page.wait_for_timeout(500)
        self.page.reload()
        expect(self.page.get_by_role("heading", name="Inspections")).to_be_visible()

    def test_nobody_sends_what_somebody_else_typed(self):
        self.begin()
        self.context.set_offline(True)
        self.smell("fuel", "oil")
        expect(self.status).to_contain_text("2 entries on this device")
        self.leave()
        expect(self.page.get_by_role("status")).to_contain_text("2 entries wait on this device")
        self.context.set_offline(False)
        self.enter(PEOPLE[1][0])
        expect(self.page.get_by_role("link", name="2 of others")).to_be_visible()
        self.page.goto(self.address)
        expect(self.page.get_by_label("Engine plan")).to_be_visible()
        self.page.keyboard.press("2")
        self.smell("none")
        self.expect_saved()
        self.assertEqual(self.said(), self.by(1, "none"))
        self.page.get_by_role("link", name="2 of others").click()
        others = self.page.get_by_role("region", name="Of others")
        expect(others).to_contain_text(f"2 entries of {PEOPLE[0][1]}")
        with self.page.expect_download() as saved:
            others.get_by_role("button", name="Export them to a file").click()
        rows = json.loads(saved.value.path().read_text())["entries"]
        self.assertEqual([row["said"]["value"] for row in rows], ["fuel", "oil"])
        self.page.get_by_role("link", name="Fiacre, to the shop").click()
        self.page.get_by_role("button", name="Sign out").click()
        self.enter(PEOPLE[0][0])
        self.expect_saved()
        self.assertEqual(self.said(), self.by(1, "none") + self.by(0, "fuel", "oil"))
        asked = Inspection.objects.get(pk=self.inspection.pk).conflicts
        self.assertEqual(list(asked), [PATH], "the two did not know of each other")

    def test_what_was_exported_comes_back_on_another_device_and_goes_out_once(self):
        self.begin()
        self.context.set_offline(True)
        self.smell("fuel", "oil")
        expect(self.status).to_contain_text("2 entries on this device")
        self.page.get_by_role("link", name="Which?").click()
        with self.page.expect_download() as saved:
            self.page.get_by_role("button", name="Export all of mine").click()
        file = saved.value.path()
        another = self.context.browser.new_context()
        self.addCleanup(another.close)
        page = another.new_page()
        page.goto(f"{self.live_server_url}/device")
        page.get_by_label("E-mail").fill(PEOPLE[0][0])
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        for _ in range(2):
            page.get_by_label("Exported entries").set_input_files(file)
            expect(page.get_by_role("button", name="Send again")).to_have_count(2)
        page.get_by_role("button", name="Send again").first.click()
        page.get_by_role("button", name="Send again").click()
        expect(page.get_by_text("Nothing waits here")).to_be_visible()
        self.context.set_offline(False)
        self.expect_saved()
        self.assertEqual(self.said(), self.by(0, "fuel", "oil"))

    def test_what_somebody_left_who_was_shut_out_an_owner_sends_in_their_name(self):
        self.begin(1)
        self.context.set_offline(True)
        self.smell("fuel")
        expect(self.status).to_contain_text("1 entry on this device")
        self.leave()
        User.objects.filter(email=PEOPLE[1][0]).update(is_active=False)
        self.context.set_offline(False)
        self.enter(PEOPLE[0][0])
        self.page.get_by_role("link", name="1 of others").click()
        others = self.page.get_by_role("region", name="Of others")
        others.get_by_role("button", name="Send them in their name").click()
        expect(others).to_have_count(0)
        self.page.goto(self.address)
        self.expect_saved()
        self.assertEqual(self.said(), self.by(1, "fuel"))
        row = self.inspection.observations.get(path=PATH)
        self.assertEqual(row.sent_by.email, PEOPLE[0][0])

    def test_signing_out_ends_it_at_once_with_a_network_and_without(self):
        for offline in (False, True):
            with self.subTest(offline=offline):
                self.begin()
                self.page.get_by_role("link", name="Fiacre, to the shop").click()
                self.context.set_offline(offline)
                self.page.get_by_role("button", name="Sign out").click()
                expect(self.page.get_by_label("E-mail")).to_be_visible()
                self.page.reload()
                expect(self.page.get_by_label("E-mail")).to_be_visible()
                self.page.goto(self.address)
                expect(self.page.get_by_label("E-mail")).to_be_visible()
                self.context.set_offline(False)
                self.page.reload()
                expect(self.page.get_by_label("E-mail")).to_be_visible()
                answer = self.page.request.get(f"{self.live_server_url}/api/session")
                self.assertEqual(answer.status, 401, "the server knows of it")

    def test_another_shops_person_reads_nothing_that_was_kept(self):
        self.begin()
        self.expect_worker()  # From here on it keeps each page for when the network goes.
        self.context.clear_cookies()
        self.page.goto(self.live_server_url)
        stranger = shop_with("owner", "Another yard")
        self.enter(stranger.email, OTHERS)
        expect(self.page.get_by_text("None yet.")).to_be_visible()
        self.context.set_offline(True)
        self.page.goto(self.address)
        expect(self.page.get_by_role("main")).to_contain_text("The server does not answer")
        kept = self.page.evaluate(KEPT_ANSWERS)
        theirs = [key for key in kept if not key.startswith((str(stranger.pk), "session"))]
        self.assertEqual(theirs, [])


class ChangedSessionTests(DeviceTestCase):
    worker = False  # What goes through it is not held up by the test.

    def test_a_session_that_changes_under_an_open_page_misfiles_nothing(self):
        self.begin()
        other = self.context.new_page()
        other.route("**/observations?*", lambda route: route.abort())
        self.page.route("**/observations?*", lambda route: route.abort())
        self.smell("fuel")
        expect(self.status).to_contain_text("not yet saved")
        theirs = User.objects.get(email=PEOPLE[1][0])
        self.client.force_login(theirs)
        session = self.client.cookies["sessionid"].value
        here = {"name": "sessionid", "value": session, "url": self.live_server_url}
        self.context.add_cookies([here])
        self.page.unroute("**/observations?*")
        expect(self.page.get_by_role("link", name="1 of others")).to_be_visible()
        self.assertEqual(self.said(), [])


class SetAsideTests(DeviceTestCase):
    worker = False  # As above.

    def test_signed_meanwhile_is_set_aside_and_sent_with_an_amendment(self):
        self.begin()
        self.context.set_offline(True)
        self.smell("fuel", "oil")
        expect(self.status).to_contain_text("2 entries on this device")
        sign(inspection=self.inspection, by=User.objects.get(email=PEOPLE[1][0]))
        self.context.set_offline(False)
        self.page.get_by_role("link", name="2 set aside").click()
        aside = self.page.get_by_role("region", name="Set aside")
        expect(aside).to_contain_text("2 entries could not be kept in the log")
        expect(aside).to_contain_text("was signed off before 2 entries arrived")
        self.page.reload()
        expect(aside.get_by_role("listitem")).to_have_count(2)
        self.assertEqual(self.said(), [])
        aside.get_by_label("Why it has to be amended").fill("typed before it was signed")
        aside.get_by_role("button", name="Open an amendment and send").click()
        expect(aside).to_have_count(0)
        self.expect_saved()
        self.assertEqual(self.said(), self.by(0, "fuel", "oil"))

    def test_only_a_person_discards(self):
        self.begin()
        sign(inspection=self.inspection, by=User.objects.get(email=PEOPLE[0][0]))
        self.smell("fuel")
        self.page.get_by_role("link", name="1 set aside").click()
        self.page.get_by_role("button", name="Discard").click()
        self.page.get_by_role("button", name="Yes, discard it for good").click()
        expect(self.page.get_by_text("Nothing waits here")).to_be_visible()
        reopen(inspection=self.inspection, by=User.objects.get(email=PEOPLE[0][0]), reason="x")
        self.page.reload()
        self.expect_saved()
        self.assertEqual(self.said(), [])

    def test_what_the_server_fails_on_does_not_keep_the_rest(self):
        self.begin()

        def fails(route):
            if '"fuel"' in (route.request.post_data or ""):
                route.fulfill(status=500, content_type="application/json", body='{"detail": "no"}')
            else:
                route.continue_()

        self.page.route("**/observations?*", fails)
        self.smell("fuel", "oil")
        expect(self.page.get_by_role("link", name="1 set aside")).to_be_visible()
        self.expect_saved()
        self.assertEqual(self.said(), self.by(0, "oil"))
        self.page.unroute("**/observations?*")
        self.page.get_by_role("link", name="1 set aside").click()
        self.page.get_by_role("button", name="Send again").click()
        self.expect_saved()
        self.assertEqual(self.said(), self.by(0, "oil", "fuel"))


class PhotoTests(DeviceTestCase):
    def setUp(self):
        own_media(self)
        super().setUp()

    def test_a_photo_outlives_the_page_and_another_person_in_between(self):
        self.begin()
        self.context.set_offline(True)
        file = {"name": "plug.jpg", "mimeType": "image/jpeg", "buffer": picture((60, 60))}
        self.words()
        self.page.get_by_label("Take or choose a photo").set_input_files(file)
        expect(self.status).to_contain_text("1 entry on this device")
        self.leave()
        self.context.set_offline(False)
        self.enter(PEOPLE[2][0])
        expect(self.page.get_by_role("link", name="1 of others")).to_be_visible()
        self.page.get_by_role("button", name="Sign out").click()
        self.enter(PEOPLE[0][0])
        self.expect_saved()
        found = Inspection.objects.get(pk=self.inspection.pk).document["cylinders"][1]
        self.assertEqual(len(found["photos"]), 1)


class StorageTests(DeviceTestCase):
    def test_without_a_database_it_works_and_says_so(self):
        self.page.add_init_script(NO_DATABASE)
        self.begin()
        self.smell("fuel")
        self.expect_saved()
        expect(self.page.get_by_role("link", name="Not kept here")).to_be_visible()
        self.context.set_offline(True)
        self.smell("oil")
        expect(self.status).to_contain_text("1 entry only in this page")
        self.context.set_offline(False)
        self.expect_saved()
        self.assertEqual(self.said(), self.by(0, "fuel", "oil"))

    def test_a_full_device_is_said_and_later_entries_are_kept_once_there_is_room(self):
        self.page.add_init_script(FULL_AT_FIRST)
        self.begin()
        self.context.set_offline(True)
        self.smell("fuel")
        expect(self.status).to_contain_text("This device is full")
        self.page.evaluate("window.full = false")
        self.smell("oil")
        expect(self.status).to_contain_text("2 entries on this device, not yet saved")
        self.context.set_offline(False)
        self.expect_saved()
        self.assertEqual(self.said(), self.by(0, "fuel", "oil"))

    def test_an_older_page_that_holds_the_database_blocks_nothing(self):
        older = self.context.new_page()
        older.goto(f"{self.live_server_url}/sw.js")
        older.evaluate(OLDER_PAGE)
        self.begin()
        self.context.set_offline(True)
        self.smell("fuel")
        expect(self.status).to_contain_text("An older Fiacre is open in another tab")
        older.close()
        expect(self.status).to_contain_text("1 entry on this device, not yet saved")
        self.context.set_offline(False)
        self.expect_saved()
        self.assertEqual(self.said(), self.by(0, "fuel"))


class FirstVisitTests(DeviceTestCase):
    def test_after_one_load_everything_opens_and_an_inspection_is_begun_and_merged(self):
        self.sign_in()
        self.page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        kept = Inspection.objects.count()
        while sum(" refit " in key for key in self.page.evaluate(KEPT_ANSWERS)) < kept:
            self.page.wait_for_timeout(100)
        page_is_kept = "caches.open('page').then((pages) => pages.match('/')).then(Boolean)"
        while not self.page.evaluate(page_is_kept):
            self.page.wait_for_timeout(100)
        self.context.set_offline(True)
        for path, words in (
            ("/calculators/torque", "Formula"),
            ("/rules", "House rules"),
            ("/device", "Nothing waits here"),
            ("/", "Village fire pump"),
        ):
            self.page.goto(f"{self.live_server_url}{path}")
            expect(self.page.get_by_role("main")).to_contain_text(words)
        self.page.get_by_role("link").filter(has_text="read by").filter(
            has_text="Merganser"
        ).click()
        expect(self.page.get_by_label("Engine plan")).to_be_visible()
        for step in ("Story", "Plan", "Running", "Compression", "Compare", "Refit", "Hand over"):
            self.step(step)
            expect(self.page.get_by_role("alert").filter(has_text="cannot be shown")).to_have_count(
                0
            )
        self.page.goto(f"{self.live_server_url}/engines/new")
        self.page.get_by_label("Name").fill("Tender Knot")
        self.page.get_by_role("button", name="Add and open").click()
        expect(self.page.get_by_label("Engine plan")).to_be_visible()
        self.page.keyboard.press("3")
        self.choose("Smell", "oil")
        self.page.goto(self.live_server_url)
        begun = self.page.get_by_role("region", name="Begun on this device")
        begun.get_by_role("link", name="Tender Knot").click()
        expect(self.page.get_by_label("Engine plan")).to_be_visible()
        self.page.keyboard.press("3")
        self.words()
        smell = self.page.get_by_role("radiogroup", name="Smell")
        expect(smell.get_by_role("radio", name="oil", exact=True)).to_be_checked()
        expect(self.status).to_contain_text("3 entries on this device")
        self.context.set_offline(False)
        self.expect_saved()
        made = Inspection.objects.get(engine__title="Tender Knot")
        self.assertEqual(made.document["cylinders"], [{"number": 3, "plug": {"smell": "oil"}}])
        self.assertEqual(made.conflicts, {})
