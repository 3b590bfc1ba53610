"""From the board to the client: compare, judge, sign, lock, amend, link, and the truth later."""

from playwright.sync_api import expect

from server.inspections.models import Inspection
from server.tests.browser.base import BrowserTestCase
from server.tests.browser.test_keys import shared_with


class HandingOverJourney(BrowserTestCase):
    def setUp(self):
        super().setUp()
        self.open("Merganser")

    def document(self):
        self.expect_saved()
        return Inspection.objects.get(engine__identifier="TB-121").document

    def test_the_board_names_the_pattern_and_gives_each_figure_its_basis(self):
        self.step("Compare")
        strip = self.page.get_by_role("region", name="Dry compression")
        expect(strip).to_contain_text("odd: neighbours: 4, 6")
        expect(strip).to_contain_text("75 % of the highest")
        strip.get_by_role("button", name="Cylinder 4: 690 kPa").focus()
        expect(strip).to_contain_text("the others' mean is")
        numbers = strip.get_by_role("button")
        self.assertIn("Cylinder 1:", numbers.nth(0).get_attribute("aria-label"))
        self.assertIn("Cylinder 3:", numbers.nth(1).get_attribute("aria-label"))
        self.choose("Side by side", "by number")
        self.assertIn("Cylinder 2:", numbers.nth(1).get_attribute("aria-label"))

    def test_one_tap_starts_the_next_best_test(self):
        verdict = self.page.get_by_role("region", name="Verdict")
        verdict.get_by_role("button", name="leak-down on 4, 6").click()
        tab = self.page.get_by_role("tab", name="Leak-down")
        expect(tab).to_have_attribute("aria-selected", "true")
        expect(self.page.get_by_label("Where the air of cylinder 4 escapes")).to_be_visible()

    def test_signed_is_locked_amended_is_open_and_the_outcome_is_told_either_way(self):
        self.page.keyboard.press("4")
        self.step("Hand over")
        self.choose("Cylinder 4, computed D", "C")
        because = self.page.get_by_role("region", name="Your own judgement")
        because.get_by_label("Because").fill("gasket renewed last week")
        because.get_by_label("Because").press("Enter")
        self.expect_saved()
        signing = self.page.get_by_role("region", name="Signing off")
        signing.get_by_role("button", name="Sign off as it stands").click()
        expect(signing).to_contain_text("the record is locked")
        expect(self.page.get_by_text("Signed off: the record is locked.")).to_be_visible()
        self.step("Faces")
        sooty = self.page.get_by_role("button", name="Sooty")
        expect(sooty).to_be_disabled()
        self.step("Prove", "What it was")
        turned = self.page.get_by_role("region", name="What it turned out to be")
        turned.get_by_role("button", name="gasket leaking between").click()
        found = self.document()
        self.assertEqual(found["judgement"]["cylinders"][0]["grade"], "C")
        self.assertEqual(
            found["outcome"]["cylinders"], [{"cylinder": 4, "found": ["head-gasket-between"]}]
        )
        self.step("Hand over")
        signing.get_by_label("Why it has to be amended").fill("read again")
        signing.get_by_role("button", name="Open an amendment").click()
        expect(signing.get_by_role("button", name="Sign off as it stands")).to_be_enabled()
        self.step("Faces")
        expect(sooty).to_be_enabled()

    def test_what_stands_open_is_read_before_it_is_signed_and_paper_waits_for_what_is_unsent(self):
        found = Inspection.objects.get(engine__identifier="TB-121")
        shared_with(found, "/work/removed/x1/what", "flame arrestor")
        self.page.keyboard.press("4")
        self.step("Hand over")
        signing = self.page.get_by_role("region", name="Signing off")
        sign = signing.get_by_role("button", name="Sign off as it stands")
        expect(signing).to_contain_text("till off: flame arrestor")
        expect(sign).to_be_disabled()
        report = self.page.get_by_role("region", name="Report")
        expect(report.get_by_role("link", name="Report as PDF")).to_be_visible()
        self.context.set_offline(True)
        self.choose("Cylinder 4, computed D", "C")
        for paper in ("Report as PDF", "Job sheet and labels", "Make a link"):
            expect(report.get_by_role("button", name=paper)).to_be_disabled()
        self.context.set_offline(False)
        expect(report.get_by_role("link", name="Report as PDF")).to_be_visible()
        signing.get_by_role("checkbox", name="signed with this open").click()
        sign.click()
        expect(signing).to_contain_text("the record is locked")

    def test_a_link_opens_for_a_stranger_until_it_is_taken_back(self):
        self.step("Hand over")
        report = self.page.get_by_role("region", name="Report")
        report.get_by_role("button", name="Make a link").click()
        address = report.get_by_role("status").locator("b").inner_text()
        stranger = self.context.browser.new_context()
        self.addCleanup(stranger.close)
        page = stranger.new_page()
        page.goto(address)
        expect(page.get_by_role("heading", name="Cabin launch Merganser")).to_be_visible()
        report.get_by_role("button", name="Take back").click()
        expect(report.get_by_role("button", name="Take back")).to_have_count(0)
        page.reload()
        expect(page.get_by_text("taken back")).to_be_visible()
