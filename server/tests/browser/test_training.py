"""A round of the trainer at the workbench itself."""

import re

from playwright.sync_api import expect

from server.inspections.models import Inspection, Observation
from server.tests.browser.base import BrowserTestCase
from server.training.models import Attempt, TrainingClass


class PracticeJourney(BrowserTestCase):
    def act(self, name):
        row = self.page.get_by_role("region", name="What to do").get_by_role("listitem")
        row.filter(has_text=name).get_by_role("button", name="Do it").click()

    def test_what_is_shown_is_written_down_by_hand_and_told_beside_it(self):
        real = (Inspection.objects.count(), Observation.objects.count())
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/training")
        self.page.get_by_role("button", name="Begin").first.click()
        self.act("Read the plug")
        shown = self.page.get_by_role("region", name="What the instruments show")
        expect(shown.get_by_role("row", name="Plug")).to_be_visible()
        strip = self.page.get_by_label("Engine plan")
        expect(strip.get_by_role("button", name="Cylinder 1,")).to_contain_text("not seen")
        self.page.keyboard.press("t")
        self.page.keyboard.press("o")
        expect(strip.get_by_role("button", name="Cylinder 2,")).not_to_contain_text("not seen")
        self.page.keyboard.press("z")
        expect(strip.get_by_role("button", name="Cylinder 2,")).to_contain_text("not seen")
        self.page.reload()
        expect(strip.get_by_role("button", name="Cylinder 1,")).not_to_contain_text("not seen")
        (first,) = Attempt.objects.get().record["cylinders"]
        self.assertEqual((first["number"], first["plug"]["deposit_colour"]), (1, "tan"))
        self.page.get_by_role("radio", name="must not run").click()
        self.page.get_by_role("button", name="That is my verdict").click()
        told = self.page.get_by_role("group", name="Your record")
        expect(told).to_contain_text(re.compile(r"\d+ findings as they were shown"))
        self.assertEqual((Inspection.objects.count(), Observation.objects.count()), real)
        self.assertTrue(TrainingClass.objects.exists(), "the demo has a class")
