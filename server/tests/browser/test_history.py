"""What an engine remembers, and what is practised on, at the page."""

from playwright.sync_api import expect

from server.inspections.models import Inspection
from server.tests.browser.base import BrowserTestCase
from server.training.models import Attempt


class EngineJourney(BrowserTestCase):
    def test_an_engine_tells_its_story_and_begins_its_next_inspection(self):
        self.sign_in()
        engines = self.page.get_by_role("region", name="Engines")
        engines.get_by_role("link", name="Harbour tender Smew").click()
        story = self.page.get_by_role("region", name="Its story")
        expect(story.get_by_role("link")).to_have_count(4)
        expect(story).to_contain_text("exhaust valve of 3 renewed")
        expect(self.page.get_by_role("region", name="Plugs in it")).to_contain_text(
            "3: since 2025-10-20, 111\u00a0h"
        )
        row = self.page.get_by_role("row").filter(has=self.page.get_by_role("rowheader", name="3"))
        expect(row).to_contain_text("96 psi")
        self.page.get_by_label("Beside each other").select_option(label="2024-11-04 1640 h")
        self.page.get_by_label("and", exact=True).select_option(label="2026-09-28 1926 h")
        expect(row).not_to_contain_text("96 psi")
        expect(row).to_contain_text("149 psi")
        self.page.get_by_role("button", name="Inspect").click()
        self.page.get_by_role("button", name="Begin").click()
        expect(self.page.get_by_label("Engine plan")).to_be_visible()
        self.expect_saved()
        newest = Inspection.objects.latest("opened")
        self.assertEqual(newest.engine.identifier, "TB-108")

    def test_what_is_due_stands_month_by_month(self):
        self.sign_in()
        self.page.get_by_role("link", name="Due: what the engines want").click()
        expect(self.page.get_by_role("region", name="May 2027")).to_contain_text(
            "gap of 4 at its limit with 382 h"
        )


class TrainingJourney(BrowserTestCase):
    def test_a_case_of_the_class_is_played_to_its_end(self):
        self.sign_in()
        self.page.get_by_role("link", name="Practise").click()
        cases = self.page.get_by_role("region", name="First winter")
        expect(cases.get_by_role("listitem")).to_have_count(5)
        cases.get_by_role("button", name="Begin").first.click()
        acts = self.page.get_by_role("region", name="What to do").get_by_role("listitem")
        acts.filter(has_text="dry compression").get_by_role("button", name="Do it").click()
        expect(self.page.get_by_role("row").filter(has_text="Dry")).to_contain_text("psi")
        self.page.get_by_label("Fault of 1").select_option("ring-sealing")
        verdict = self.page.get_by_role("button", name="That is my verdict")
        expect(verdict).to_be_disabled()
        self.page.get_by_role("radio", name="may run").click()
        verdict.click()
        went = self.page.get_by_role("region", name="How it went")
        expect(went).to_contain_text("points")
        expect(went).to_contain_text("What the observer did")
        self.assertEqual(Attempt.objects.get().answer["may_run"], True)
        self.assertEqual(Inspection.objects.count(), 9, "no record was added")

    def test_a_plug_is_named_and_told(self):
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/training/plugs")
        expect(self.page.get_by_role("heading", name="What made it so?")).to_be_visible()
        self.page.get_by_role("main").get_by_role("button").first.click()
        expect(self.page.get_by_role("main").get_by_role("status")).to_contain_text(
            "Does not prove"
        )
        self.page.get_by_role("button", name="Next plug").click()
        expect(self.page.get_by_role("main").get_by_role("button")).to_have_count(4)
