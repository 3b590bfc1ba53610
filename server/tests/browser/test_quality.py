"""Every view for everybody, and an answer before the hand has moved on."""

import gzip
from importlib import resources
from statistics import median, quantiles

from django.test import tag
from playwright.sync_api import expect

from bench.speed import full_record
from core.document import check_document, write_document
from server.inspections.models import Inspection
from server.inspections.services import import_document
from server.tests.browser.base import DESK, PHONE, WORDS, BrowserTestCase
from server.tests.browser.process import ServerProcess

PARTS = {
    "Story": ("This job", "Its past", "Maker's figures", "The engine", "Notes", "Earlier"),
    "Plan": (),
    "Running": (
        "First guess", "Listen", "Cut out", "Misfires", "Spark", "Injector", "Swap", "Read again",
    ),
    "Wells": (), "Loosening": (), "Faces": (), "Electrodes": (),
    "Compression": ("Dry", "Wet", "Cranking current"),
    "Leak-down": (), "Inside": (), "Compare": (),
    "Refit": ("New plugs", "Gaps", "Fit and torque", "Renewed and set"),
    "Prove": ("Start and drive", "Read again", "Later", "What it was"),
    "Hand over": (),
}  # fmt: skip
TABS = tuple(PARTS)
AXE = resources.files("axe_playwright_python") / "axe.min.js"
MOST_SCRIPT = 200_000
TWICE_THE_SIZE = {"width": 640, "height": 400}  # What 200 % leaves of a desk.
PACE_MS = 150  # A quick hand.
KEYS = "ssffooaahhqq" * 5  # Each once shows what it would change, once more changes it.


class Looking(BrowserTestCase):
    """axe-core finds no serious violation in any view, in either look."""

    def violations(self, only="", *, but="bypass"):
        if self.page.evaluate("window.axe === undefined"):
            self.page.evaluate(AXE.read_text("utf-8"))
        asked = f"runOnly: ['{only}']" if only else f"rules: {{ '{but}': {{ enabled: false }} }}"
        found = self.page.evaluate(f"axe.run(document, {{ resultTypes: ['violations'], {asked} }})")
        return [
            f"{one['id']}: {one['nodes'][0]['html'][:120]}"
            for one in found["violations"]
            if one["impact"] in ("serious", "critical") or one["id"] == "heading-order"
        ]

    def look(self, where):
        # What differs in the dark is how colours contrast.
        for look, only in (("light", ""), ("dark", "color-contrast")):
            self.page.evaluate(f"document.documentElement.dataset.theme = '{look}'")
            with self.subTest(view=where, look=look):
                self.assertEqual(self.violations(only), [])

    def look_closer(self, where):
        """The same at twice the size."""
        self.page.set_viewport_size(TWICE_THE_SIZE)
        with self.subTest(view=where, look="200 %"):
            self.assertEqual(self.violations(but="color-contrast"), [])  # Colours have no size.
            wide = self.page.evaluate("document.documentElement.scrollWidth")
            self.assertLessEqual(wide, TWICE_THE_SIZE["width"])
        self.page.set_viewport_size(DESK)

    def look_at_steps(self, names):
        self.open("Merganser")
        for name in names:
            self.step(name)
            for part in PARTS[name] or ("",):
                if part:
                    self.step(part)
                if self.page.get_by_role("button", name=WORDS).count():
                    self.words()
                self.look(f"{name} {part}")
                self.look_closer(f"{name} {part}")


class FirstStepsTests(Looking):
    def test_every_part_of_every_step_until_the_plugs_are_out(self):
        self.look_at_steps(TABS[: TABS.index("Faces")])


class LastStepsTests(Looking):
    def test_every_part_of_every_step_from_there(self):
        self.look_at_steps(TABS[TABS.index("Faces") :])


class AccessTests(Looking):
    def test_the_door_the_shop_and_a_new_engine(self):
        self.page.goto(self.live_server_url)
        expect(self.page.get_by_label("E-mail")).to_be_visible()
        self.look("door")
        self.sign_in()
        self.look("shop")
        self.page.goto(f"{self.live_server_url}/rules")
        expect(self.page.get_by_role("heading", name="House rules")).to_be_visible()
        self.look("rules")
        for address, heading in (("clients", "Clients"), ("due", "Due")):
            self.page.goto(f"{self.live_server_url}/{address}")
            expect(self.page.get_by_role("heading", name=heading, exact=True)).to_be_visible()
            self.look(address)
        self.page.goto(self.live_server_url)
        self.page.get_by_role("button", name="New engine").click()
        expect(self.page.get_by_label("Layout and numbering")).to_be_visible()
        self.look("new engine")

    def test_the_clients_report_behind_its_link(self):
        self.open("Dabchick")
        self.step("Hand over")
        self.page.get_by_role("button", name="Make a link").click()
        made = self.page.get_by_role("status").filter(has_text="Shown once")
        self.page.goto(made.locator("b").inner_text())
        expect(self.page.get_by_role("heading", name="The way back")).to_be_visible()
        self.assertEqual(self.violations(), [])

    def test_calculators(self):
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/calculators/torque")
        expect(self.page.get_by_text("13.5 lbf·ft")).to_be_visible()
        self.look("torque")

    def test_points_and_the_distributor(self):
        self.open("Dabchick")
        for step, part in (("Story", "Distributor"), ("Refit", "Points")):
            self.step(step, part)
            self.look(part)

    def test_every_step_is_reached_by_keyboard(self):
        self.open("Merganser")
        self.page.get_by_role("tab", name="Faces").focus()
        for name in TABS[TABS.index("Faces") + 1 :]:
            self.page.keyboard.press("ArrowRight")
            expect(self.page.get_by_role("tab", name=name)).to_be_focused()
            expect(self.page.get_by_role("tab", name=name)).to_have_attribute(
                "aria-selected", "true"
            )


class PhoneTests(BrowserTestCase):
    viewport = PHONE
    touch = True

    def test_no_step_is_wider_than_a_phone(self):
        self.open("Merganser")
        for name in TABS:
            self.page.get_by_role("tab", name=name).tap()
            expect(self.page.get_by_role("tab", name=name)).to_have_attribute(
                "aria-selected", "true"
            )
            wide = self.page.evaluate("document.documentElement.scrollWidth")
            with self.subTest(step=name):
                self.assertLessEqual(wide, PHONE["width"])


class SizeTests(BrowserTestCase):
    def test_the_first_load_is_small(self):
        """At the door; printed too with what is fetched beside it by an inspection's address."""
        self.sign_in()
        address = f"{self.live_server_url}/inspections/{Inspection.objects.first().pk}"
        for name, at in (("door", self.live_server_url), ("workbench", address)):
            context = self.context.browser.new_context(service_workers="block")
            self.addCleanup(context.close)
            if name == "workbench":
                context.add_cookies(self.context.cookies())
            page, answers = context.new_page(), []
            page.on("response", lambda answer, answers=answers: answers.append(answer))
            page.goto(at)
            there = page.get_by_label("E-mail").or_(page.get_by_label("Engine plan"))
            expect(there).to_be_visible()
            scripts = [one.body() for one in answers if one.url.endswith(".js")]
            size = sum(len(gzip.compress(body)) for body in scripts)
            print(f"first load, {name}: {size / 1000:.0f} kB of compressed JavaScript")  # noqa: T201
            self.assertGreater(size, 10_000)
            if name == "door":
                self.assertLess(size, MOST_SCRIPT)


@tag("timing")
class SpeedTests(BrowserTestCase):
    def test_key_to_redraw_and_regrade_on_a_full_vee_eight(self):
        """Printed, not asserted: another machine is another clock. The aim is 100 ms."""
        server = ServerProcess()
        self.addCleanup(server.kill)
        data = write_document(check_document(full_record(8)))
        inspection = import_document(shop=self.shop, by=None, data=data)
        self.sign_in(at=server.address)
        self.page.goto(f"{server.address}/inspections/{inspection.pk}")
        expect(self.page.get_by_label("Why, cylinder")).to_be_visible()
        self.expect_saved()
        self.page.evaluate(
            """() => {
              window.redrawn = [];
              window.graded = [];
              let started;
              addEventListener('keydown', () => {
                const pressed = performance.now();
                started = pressed;
                const drawn = () => window.redrawn.push(performance.now() - pressed);
                requestAnimationFrame(() => setTimeout(drawn));
              }, true);
              // What is graded and how far the log goes stand in one answer and are drawn at once.
              new MutationObserver(() => window.graded.push(performance.now() - started)).observe(
                document.querySelector('main'), { attributeFilter: ['data-sequence'] });
            }"""
        )
        for key in KEYS:
            self.page.keyboard.press(key)
            self.page.wait_for_timeout(PACE_MS)
        self.expect_saved()
        redrawn, graded = self.page.evaluate("[window.redrawn, window.graded]")
        self.assertEqual(len(redrawn), len(KEYS))
        self.assertGreater(len(graded), len(KEYS) / 4, "a busy server answers several keys at once")
        told = [f"median {median(each):.0f}, p95 {quantiles(each, n=20)[-1]:.0f} ms"
                for each in (redrawn, graded)]  # fmt: skip
        print(f"a key each {PACE_MS} ms: redrawn {told[0]}; graded and shown {told[1]}")  # noqa: T201
