"""The way back through its screens: new plugs, gaps, torque, points, the proof, calculators."""

import re

from playwright.sync_api import expect

from core.tests.documents import document
from server.inspections.models import Inspection
from server.tests.browser.base import PHONE, BrowserTestCase
from server.tests.browser.test_keys import HandCase


class RefitCase(BrowserTestCase):
    def refit(self, part, cylinder=None):
        self.open("Dabchick")
        self.inspection = re.search(r"/inspections/([0-9a-f-]{36})", self.page.url)[1]
        if cylinder:
            self.page.keyboard.press(str(cylinder))
        self.step("Refit")
        self.step(part)

    def refit_of(self):
        self.expect_saved()
        return Inspection.objects.get(pk=self.inspection).document["refit"]

    def cylinder(self, number):
        return next(one for one in self.refit_of()["cylinders"] if one["cylinder"] == number)

    def line(self, label, text):
        field = self.page.get_by_role("textbox", name=label)
        field.fill(text)
        field.press("Enter")


class NewPlugJourney(RefitCase):
    def test_a_cracked_plug_is_refused_and_its_place_is_free_again(self):
        self.refit("New plugs", cylinder=4)
        self.line("New part number", "Lintorp 14-19 G6")
        self.line("New reach", "19")
        self.choose("Ceramic", "cracked")
        told = self.page.get_by_label("About the new plug of cylinder 4")
        expect(told).to_contain_text("Do not fit: ceramic cracked")
        expect(self.page.get_by_label("Refuse it because")).to_have_value(re.compile("hairline"))
        self.page.get_by_role("button", name="Refuse this plug").click()
        expect(self.page.get_by_label("Refused plugs")).to_contain_text("for cylinder 4")
        refit = self.refit_of()
        self.assertEqual(refit["refused"][-1]["plug"]["ceramic"], "cracked")
        self.assertNotIn("plug", next(o for o in refit["cylinders"] if o["cylinder"] == 4))
        self.page.get_by_role("button", name="Looked at, nothing wrong", exact=True).click()
        self.assertEqual(self.cylinder(4)["plug"]["markings"], "as-expected")

    def test_one_plug_of_the_box_for_all(self):
        self.refit("New plugs", cylinder=1)
        self.page.get_by_role("button", name="A box alike").click()
        self.assertEqual(self.cylinder(4)["plug"]["part"], "Lintorp 14-19 G6")
        expect(self.page.get_by_role("img", name=re.compile("^Old plug"))).to_be_visible()


class GapJourney(RefitCase):
    def test_blades_are_found_and_the_gap_set_with_them(self):
        self.refit("Gaps", cylinder=4)
        finder = self.page.get_by_role("region", name="Blade finder")
        expect(finder.get_by_role("listitem").first).to_contain_text("0.25 + 0.4 mm = 0.65 mm")
        finder.get_by_role("button", name="Set 4 with it").first.click()
        gaps = self.page.get_by_role("region", name="Gap of each plug")
        expect(gaps).to_contain_text("0.25 + 0.4 = 0.65 mm")
        self.assertEqual(len(self.cylinder(4)["plug"]["gap_blades"]), 2)

    def test_gaps_are_typed_straight_down(self):
        self.refit("Gaps")
        self.page.get_by_role("textbox", name="Gap, 2").focus()
        for figure in ("0.66", "0.64", "0.7"):
            self.page.keyboard.type(figure)
            self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("textbox", name="Gap, 4")).to_have_value("0.7")
        found = [self.cylinder(n)["plug"]["gap"]["value"] for n in (2, 3, 4)]
        self.assertEqual(found, [0.66, 0.64, 0.7])

    def test_open_or_close_by_how_much_and_a_slip_of_units(self):
        self.refit("Gaps")
        expect(self.page.get_by_text("close by 0.15 mm")).to_be_visible()
        field = self.page.get_by_role("textbox", name="Gap, 4")
        field.fill("0.026")
        field.press("Enter")
        asked = self.page.get_by_role("alert").filter(has_text="Which?")
        asked.get_by_role("button", name="0.026 mm").click()
        gaps = self.page.get_by_role("region", name="Gap of each plug")
        expect(gaps).to_contain_text("0.026 in would be")
        self.assertEqual(self.cylinder(4)["plug"]["gap"], {"value": 0.026, "unit": "mm"})


class OnePlugJourney(HandCase):
    """A distributor of which nobody has said what triggers it, in for a single plug."""

    engine = document(6, title="Tender Pintail", ignition="distributor")

    def setUp(self):
        super().setUp()
        self.step("Plan")
        scope = self.page.get_by_label("This job touches only")
        scope.get_by_role("button", name="6").click()
        self.assertEqual(self.recorded()["inspection"]["scope"], [6])

    def test_a_job_of_one_plug_is_closed_with_one(self):
        self.step("Refit", "Fit and torque")
        close = self.page.get_by_role("button", name="Close the list")
        expect(close).to_be_disabled()
        for what in ("fitted", "torqued"):
            self.page.get_by_label(f"Cylinder 6 {what}").click()
        close.click()
        self.assertTrue(self.recorded()["refit"]["closed"])

    def test_what_sets_the_points_is_asked_where_it_is_missing(self):
        self.step("Refit", "Points")
        self.choose("Triggered by", "points")
        expect(self.page.get_by_role("textbox", name="Points gap as set")).to_be_visible()
        self.assertEqual(self.recorded()["engine"]["trigger"], "points")


class SetJourney(HandCase):
    """Four plugs out of one box, fitted one like the other."""

    part = "fit"

    def refit(self):
        return {one["cylinder"]: one for one in self.recorded()["refit"]["cylinders"]}

    def test_what_was_set_on_one_is_said_of_the_rest_with_it(self):
        self.press("1", "g", *"20 N.m", "Enter", "1", "n", "1", "+")
        torque = {"value": 20, "unit": "N.m"}
        wanted = {"fitted": True, "torqued": True, "torque": torque}
        said = {
            number: {name: one[name] for name in wanted} for number, one in self.refit().items()
        }
        self.assertEqual(said, dict.fromkeys((1, 2, 3, 4), wanted))

    def test_a_box_is_one_glance_and_a_pair_of_blades_is_typed_once(self):
        self.step("Refit", "Gaps")
        self.choose("Measured", "by a go / no-go pair")
        for label, thickness in (
            ("Thinnest that does not, 3", "0.7"),
            ("Thickest that passes, the set", "0.6"),
            ("Thinnest that does not, the set", "0.65"),
        ):
            field = self.page.get_by_role("textbox", name=label)
            field.fill(thickness)
            field.press("Enter")
        self.step("New plugs")
        self.page.get_by_role("button", name="A box alike").click()
        plugs = {number: one["plug"] for number, one in self.refit().items()}
        refuses = {number: plug["gap_refuses"]["value"] for number, plug in plugs.items()}
        self.assertEqual(refuses, {1: 0.65, 2: 0.65, 3: 0.7, 4: 0.65})
        self.assertEqual({plug["gap_passes"]["value"] for plug in plugs.values()}, {0.6})
        self.assertEqual({plug["ceramic"] for plug in plugs.values()}, {"sound"})


class FitJourney(RefitCase):
    worker = True

    def test_the_list_closes_when_no_cylinder_is_missing_by_keyboard(self):
        self.refit("Fit and torque", cylinder=2)
        slip = self.page.get_by_role("alert").filter(has_text="was 20 N.m meant?")
        expect(slip).to_be_visible()
        self.page.get_by_label("Unit of torque as set").select_option("N.m")
        expect(slip).to_have_count(0)
        close = self.page.get_by_role("button", name="Close the list")
        expect(close).to_be_disabled()
        for cylinder in (3, 4):
            for what in ("fitted", "torqued"):
                self.page.get_by_label(f"Cylinder {cylinder} {what}").focus()
                self.page.keyboard.press("Space")
        expect(close).to_be_enabled()
        close.focus()
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("Closed: every plug is fitted and torqued")).to_be_visible()
        self.assertTrue(self.refit_of()["closed"])

    def test_ticks_stand_without_a_network_and_are_sent_later(self):
        self.refit("Fit and torque", cylinder=3)
        expect(self.page.get_by_text("Still to fit and torque: 3, 4")).to_be_visible()
        self.context.set_offline(True)
        for what in ("fitted", "torqued"):
            self.page.get_by_label(f"Cylinder 3 {what}").click()
            expect(self.page.get_by_label(f"Cylinder 3 {what}")).to_be_checked()
        expect(self.page.get_by_text("Still to fit and torque: 4")).to_be_visible()
        self.context.set_offline(False)
        self.assertTrue(self.cylinder(3)["torqued"])

    def test_lubricant_cuts_the_figure_where_it_is_said(self):
        self.refit("Fit and torque", cylinder=3)
        self.choose("Threads", "anti seize")
        rows = self.page.get_by_role("region", name="Fitted and torqued")
        expect(rows.get_by_role("listitem").nth(2)).to_contain_text("14 N.m")


class PointsJourney(RefitCase):
    def test_timing_set_anew_stands_until_the_gap_changes(self):
        self.refit("Points")
        undone = self.page.get_by_text("Set the timing again", exact=False).first
        expect(undone).to_be_visible()
        self.line("Set to, degrees before top", "6.5")
        expect(self.page.get_by_text("Gap, then timing: both stand.")).to_be_visible()
        self.line("Points gap as set", "0.36")
        told = self.page.get_by_role("alert").filter(has_text="later. Set the timing again")
        expect(told).to_be_visible()
        self.assertEqual(self.refit_of()["points"]["timing_gap"]["value"], 0.45)


class ProofJourney(RefitCase):
    def test_a_follow_up_stands_on_the_shops_list(self):
        self.open("Dabchick")
        self.step("Prove", "Later")
        expect(self.page.get_by_text("tools: 11 went out, 0 back").first).to_be_visible()
        self.page.get_by_label("On", exact=True).fill("2026-12-18")
        self.expect_saved()
        self.step("Read again")
        self.line("Dry compression, after", "9.7")
        table = self.page.get_by_role("region", name="Before and after")
        expect(table.get_by_role("row").filter(has_text="compression")).to_contain_text("9.7 bar")
        self.page.get_by_role("link", name="Fiacre, to the shop").click()
        due = self.page.get_by_role("region", name="To look at again")
        expect(due.get_by_role("listitem").nth(1)).to_contain_text("2026-12-18")


class CalculatorJourney(BrowserTestCase):
    worker = True

    def answer(self):
        return self.page.get_by_role("main").get_by_role("status")

    def test_an_address_holds_what_was_entered(self):
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/calculators/premix?ratio=32&fuel=1+L")
        expect(self.answer()).to_contain_text("31.25 mL")
        self.page.get_by_label("Ratio").fill("50")
        expect(self.answer()).to_contain_text("20 mL")
        expect(self.page).to_have_url(re.compile("ratio=50"))
        self.page.get_by_label("Ratio").fill("two")
        expect(self.page.get_by_text("Not a number")).to_be_visible()

    def test_without_a_network_the_last_answer_or_a_clear_word(self):
        self.sign_in()
        self.page.goto(f"{self.live_server_url}/calculators/premix?ratio=32&fuel=1+L")
        expect(self.answer()).to_contain_text("31.25 mL")
        self.page.get_by_label("Ratio").fill("40")
        expect(self.answer()).to_contain_text("25 mL")
        self.context.set_offline(True)
        self.page.get_by_label("Ratio").fill("32")
        expect(self.answer()).to_contain_text("31.25 mL")
        self.page.get_by_label("Ratio").fill("33")
        expect(self.page.get_by_role("alert")).to_contain_text("needs the server")
        self.context.set_offline(False)


class OnAPhone(RefitCase):
    viewport = PHONE
    touch = True

    def test_nothing_of_the_way_back_is_wider_than_a_phone(self):
        self.refit("New plugs", cylinder=3)
        for part in ("New plugs", "Gaps", "Fit and torque", "Points"):
            self.step(part)
            with self.subTest(part=part):
                self.assertLessEqual(self.wide(), PHONE["width"])
        self.step("Prove")
        self.assertLessEqual(self.wide(), PHONE["width"])
        # The figures of the engine that was open last.
        self.page.goto(f"{self.live_server_url}/calculators/torque")
        expect(self.page.get_by_text("the figures of Workboat Dabchick")).to_be_visible()
        expect(self.page.get_by_role("img", name="Torque, drawn to scale")).to_be_visible()
        self.assertLessEqual(self.wide(), PHONE["width"])

    def wide(self):
        return self.page.evaluate("document.documentElement.scrollWidth")
