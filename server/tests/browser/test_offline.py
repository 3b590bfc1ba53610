"""No network, a closed browser, two tabs: what was recorded is there, each once."""

from tempfile import TemporaryDirectory

from playwright.sync_api import expect

from server.demo.load import PASSWORD, PEOPLE
from server.inspections.models import Inspection
from server.reports.services import link
from server.tests.browser.base import (
    CHROMIUM,
    DESK,
    FLAGS,
    PATIENCE_MS,
    WORDS,
    BrowserTestCase,
    browser,
)

# A transaction that keeps itself busy, so that no other may write until it is let go.
HOLD_THE_DATABASE = """() => new Promise((held) => {
  const opening = indexedDB.open("fiacre");
  opening.onsuccess = () => {
    const entries = opening.result.transaction("entries", "readwrite").objectStore("entries");
    const hold = () => {
      held();
      if (!window.letGo) entries.count().onsuccess = hold;
    };
    hold();
  };
})"""


class OfflineTests(BrowserTestCase):
    worker = True

    def visited(self):
        """An inspection opened once with the network, so that all of it is on the device."""
        self.open("Village fire pump")
        self.page.evaluate("navigator.serviceWorker.ready.then(() => true)")
        self.reload()
        self.expect_worker()

    def read_as(self, key, page=None):
        """A reading that changes what stands: pressed, shown, and confirmed with the same key."""
        page = page or self.page
        page.keyboard.press(key)
        asked = page.get_by_role("status", name="Last reading")
        expect(asked).to_contain_text("It would change")
        page.keyboard.press(key)

    def plug(self, cylinder):
        inspection = Inspection.objects.get(engine__identifier="PUMP-2")
        return inspection.document["cylinders"][cylinder - 1]["plug"]

    def recorded(self, cylinder, field):
        inspection = Inspection.objects.get(engine__identifier="PUMP-2")
        return inspection.observations.filter(path=f"/cylinders/{cylinder}/plug/{field}")

    def test_recording_goes_on_without_a_network_and_the_page_opens_without_one(self):
        self.visited()
        before = {field: self.recorded(2, field).count() for field in ("gap", "wet_with")}
        status = self.page.get_by_role("status", name="Entries")
        self.context.set_offline(True)
        self.page.keyboard.press("2")
        self.read_as("o")
        self.page.keyboard.press("g")
        self.page.keyboard.type("33")
        self.page.keyboard.press("Enter")
        expect(status).to_contain_text("entries on this device, not yet saved")
        self.reload()
        expect(status).to_contain_text("entries on this device, not yet saved")
        self.page.keyboard.press("2")
        expect(self.page.get_by_label("Gap", exact=True)).to_have_value("33")
        expect(self.page.get_by_role("tabpanel", name="Faces")).to_contain_text("with oil")
        self.context.set_offline(False)
        expect(status).to_have_text("All saved")
        self.assertEqual(self.plug(2)["gap"], {"value": 33, "unit": "thou"})
        self.assertEqual(self.plug(2)["wet_with"], "oil")
        for field, count in before.items():
            self.assertEqual(self.recorded(2, field).count(), count + 1)

    def test_a_clients_report_does_not_take_the_place_of_the_page(self):
        self.visited()
        inspection = Inspection.objects.get(engine__identifier="PUMP-2")
        by = self.shop.people.get(role="owner")
        _, secret = link(inspection=inspection, by=by, days=1, units="metric", photos=False)
        self.page.goto(f"{self.live_server_url}/r/{secret}")
        expect(self.page.get_by_role("heading", name="What it means")).to_be_visible()
        kept = self.page.evaluate(
            "caches.open('page').then((pages) => pages.match('/')).then((one) => one.text())"
        )
        self.assertNotIn("What it means", kept)
        self.assertIn("/static/", kept)

    def test_nothing_is_called_kept_before_the_device_has_taken_it(self):
        self.visited()
        self.page.evaluate(HOLD_THE_DATABASE)
        self.context.set_offline(True)
        self.page.keyboard.press("2")
        self.read_as("c")
        status = self.page.get_by_role("status", name="Entries")
        expect(status).to_contain_text("Writing 1 entry to this device")
        self.page.evaluate("window.letGo = true")
        expect(status).to_contain_text("1 entry on this device, not yet saved")

    def test_two_tabs_send_each_entry_once(self):
        self.visited()
        other = self.context.new_page()
        other.goto(self.page.url)
        expect(other.get_by_label("Engine plan")).to_be_visible()
        before = {
            field: self.recorded(1, field).count() for field in ("insulator", "deposit_colour")
        }
        self.context.set_offline(True)
        for page, key in ((self.page, "c"), (other, "s")):
            page.keyboard.press("1")
            self.read_as(key, page)
        expect(other.get_by_role("status", name="Entries")).to_contain_text(
            "3 entries on this device"
        )
        self.context.set_offline(False)
        for page in (self.page, other):
            expect(page.get_by_role("status", name="Entries")).to_have_text("All saved")
        self.assertEqual(self.plug(1)["insulator"], "cracked-nose")
        self.assertEqual(self.plug(1)["deposit_colour"], "black")
        for field, count in before.items():
            self.assertEqual(self.recorded(1, field).count(), count + 1)

    def test_a_closed_browser_forgets_nothing(self):
        with TemporaryDirectory() as folder:
            chromium = browser().browser_type
            first = self.device(chromium, folder)
            self.context, self.page = first, first.pages[0]
            self.visited()
            first.set_offline(True)
            self.page.keyboard.press("3")
            self.read_as("w")
            expect(self.page.get_by_role("status", name="Entries")).to_contain_text(
                "2 entries on this device"
            )
            first.close()
            second = self.device(chromium, folder)
            page = second.pages[0]
            page.goto(self.live_server_url)
            page.get_by_role("link").filter(has_text="read by").filter(
                has_text="Village fire pump"
            ).click()
            expect(page.get_by_role("status", name="Entries")).to_have_text("All saved")
            second.close()
        self.assertEqual(self.plug(3)["centre_electrode"], "rounded")
        self.assertEqual(self.recorded(3, "centre_electrode").count(), 2)

    def device(self, chromium, folder):
        context = chromium.launch_persistent_context(
            folder, executable_path=CHROMIUM, args=FLAGS.split(), viewport=DESK
        )
        context.set_default_timeout(PATIENCE_MS)
        return context


class TwoPeopleTests(BrowserTestCase):
    worker = True

    def test_what_two_people_say_differently_is_shown_and_decided(self):
        self.open("Village fire pump")
        address = self.page.url
        other = browser().new_context(viewport=DESK)
        self.addCleanup(other.close)
        theirs = other.new_page()
        theirs.goto(self.live_server_url)
        theirs.get_by_label("E-mail").fill(PEOPLE[1][0])
        theirs.get_by_label("Password").fill(PASSWORD)
        theirs.get_by_role("button", name="Sign in").click()
        expect(theirs.get_by_role("heading", name="Inspections")).to_be_visible()
        theirs.goto(address)
        expect(theirs.get_by_label("Engine plan")).to_be_visible()
        self.context.set_offline(True)
        self.page.keyboard.press("2")
        self.choose("Insulator", "chipped")
        self.choose("Smell", "oil")
        theirs.keyboard.press("2")
        theirs.get_by_role("button", name=WORDS).click()
        insulator = theirs.get_by_role("radiogroup", name="Insulator")
        insulator.get_by_role("radio", name="cracked nose").click()
        expect(theirs.get_by_role("status", name="Entries")).to_have_text("All saved")
        self.context.set_offline(False)
        self.expect_saved()
        asked = self.page.get_by_label("Two people disagree")
        expect(asked).to_contain_text("cylinder 2, plug, insulator")
        expect(asked.get_by_role("listitem")).to_have_count(1)
        asked.get_by_role("button", name="cracked nose (Bo Marrick)").click()
        expect(asked).to_have_count(0)
        self.expect_saved()
        found = Inspection.objects.get(engine__identifier="PUMP-2").document["cylinders"][1]
        self.assertEqual(found["plug"]["insulator"], "cracked-nose")
        self.assertEqual(found["plug"]["smell"], "oil")


class MissingStepTests(BrowserTestCase):
    def test_a_step_that_cannot_be_fetched_says_so_and_leaves_the_others(self):
        self.open("Merganser")
        self.page.route("**/assets/history-*.js", lambda route: route.abort())
        self.page.get_by_role("tab", name="Story").click()
        expect(self.page.get_by_role("alert")).to_contain_text("This step cannot be shown")
        self.step("Faces")
        self.page.unroute("**/assets/history-*.js")
        self.page.get_by_role("tab", name="Story").click()
        self.page.get_by_role("button", name="Load the page again").click()
        expect(self.page.get_by_role("tabpanel", name="This job")).to_be_visible()
