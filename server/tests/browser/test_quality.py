"""Every view for everybody, and an answer before the hand has moved on."""

import gzip
from importlib import resources
from statistics import quantiles

from playwright.sync_api import expect

from bench.speed import full_record
from core.document import check_document, write_document
from server.inspections.services import import_document
from server.tests.browser.base import PHONE, BrowserTestCase

TABS = (
    "History", "Plan", "Listen and try", "Plug and well", "Compression", "Leak-down, inside",
)  # fmt: skip
AXE = resources.files("axe_playwright_python") / "axe.min.js"
MOST_SCRIPT = 200_000


class AccessTests(BrowserTestCase):
    """axe-core finds no serious violation in any view, in either look."""

    def violations(self):
        self.page.evaluate(AXE.read_text("utf-8"))
        found = self.page.evaluate("axe.run(document, { resultTypes: ['violations'] })")
        return [
            f"{one['id']}: {one['nodes'][0]['html'][:120]}"
            for one in found["violations"]
            if one["impact"] in ("serious", "critical")
        ]

    def look(self, where):
        for look in ("light", "dark"):
            self.page.evaluate(f"document.documentElement.dataset.theme = '{look}'")
            with self.subTest(view=where, look=look):
                self.assertEqual(self.violations(), [])

    def test_the_door_the_shop_and_a_new_engine(self):
        self.page.goto(self.live_server_url)
        expect(self.page.get_by_label("E-mail")).to_be_visible()
        self.look("door")
        self.sign_in()
        self.look("shop")
        self.page.get_by_role("button", name="New engine").click()
        expect(self.page.get_by_label("Layout and numbering")).to_be_visible()
        self.look("new engine")

    def test_every_step_of_the_workbench(self):
        self.open("Merganser")
        for name in TABS:
            self.page.get_by_role("tab", name=name).click()
            expect(self.page.get_by_role("tabpanel")).to_be_visible()
            self.look(name)

    def test_every_step_is_reached_by_keyboard(self):
        self.open("Merganser")
        self.page.get_by_role("tab", name="Plug and well").focus()
        for name in TABS[4:]:
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
            expect(self.page.get_by_role("tabpanel")).to_be_visible()
            wide = self.page.evaluate("document.documentElement.scrollWidth")
            with self.subTest(step=name):
                self.assertLessEqual(wide, PHONE["width"])


class SpeedTests(BrowserTestCase):
    def test_key_to_redraw_on_a_full_vee_eight(self):
        """Printed, not asserted: another machine is another clock. The aim is 100 ms."""
        data = write_document(check_document(full_record(8)))
        inspection = import_document(shop=self.shop, by=None, data=data)
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/inspections/{inspection.pk}")
        expect(self.page.get_by_label("Engine plan")).to_be_visible()
        self.page.evaluate(
            """() => {
              window.redraws = [];
              performance.clearResourceTimings();
              addEventListener('keydown', () => {
                const started = performance.now();
                const drawn = () => window.redraws.push(performance.now() - started);
                requestAnimationFrame(() => setTimeout(drawn));
              }, true);
            }"""
        )
        for key in "sfonahwcb" * 3:
            self.page.keyboard.press(key)
            self.page.wait_for_timeout(60)
        self.expect_saved()
        redraws, answers = self.page.evaluate(
            """[window.redraws, performance.getEntriesByType('resource')
              .filter((one) => one.name.endsWith('/observations')).map((one) => one.duration)]"""
        )
        self.assertEqual(len(redraws), 27)
        told = [f"p95 {quantiles(times, n=20)[-1]:.0f} ms" for times in (redraws, answers)]
        print(f"key to redraw {told[0]}; saved and graded by the server {told[1]}")  # noqa: T201

    def test_the_first_load_is_small(self):
        answers = []
        self.page.on("response", lambda answer: answers.append(answer))
        self.page.goto(self.live_server_url)
        expect(self.page.get_by_label("E-mail")).to_be_visible()
        scripts = [one.body() for one in answers if one.url.endswith(".js")]
        size = sum(len(gzip.compress(body)) for body in scripts)
        print(f"first load: {size / 1000:.0f} kB of compressed JavaScript")  # noqa: T201
        self.assertGreater(size, 10_000)
        self.assertLess(size, MOST_SCRIPT)
