"""The steps of the job beside plugs and dry compression, each recorded through its screen."""

import re
import threading

import numpy as np
from playwright.sync_api import expect

from core.signals import write_trace
from core.simulation.instruments import BenchEngine, cranking_current
from instruments.readings import INSTRUMENTS
from instruments.stream import serve
from server.inspections.models import Inspection
from server.tests.browser.base import BrowserTestCase


class StepJourney(BrowserTestCase):
    def begin(self, title="Launch Grebe"):
        """A new inspection of one of the demo's engines."""
        self.sign_in()
        item = self.page.get_by_role("listitem").filter(has_text=title)
        item.get_by_role("button", name="Inspect").click()
        self.page.get_by_role("button", name="Begin").click()
        expect(self.page.get_by_label("Engine plan")).to_be_visible()
        self.inspection = re.search(r"/inspections/([0-9a-f-]{36})", self.page.url)[1]

    def document(self):
        self.expect_saved()
        return Inspection.objects.get(pk=self.inspection).document

    def line(self, label, text):
        field = self.page.get_by_role("textbox", name=label)
        field.fill(text)
        field.press("Enter")

    def test_history_moves_the_odds_and_codes_are_kept_as_found(self):
        self.begin()
        self.step("Story")
        complaints = self.page.get_by_label("Complaints", exact=False).first
        complaints.get_by_role("button", name="misfire", exact=True).click()
        complaints.get_by_role("button", name="oil use").click()
        self.line("Trouble codes as found", "p0302, P0300")
        self.step("Its past")
        self.line("Distance on the plugs", "140")
        self.step("This job")
        found = self.document()["inspection"]
        self.assertEqual(found["complaints"], ["misfire", "oil-use"])
        self.assertEqual(found["trouble_codes"], ["P0302", "P0300"])
        self.assertEqual(found["plug_distance"]["value"], 140)
        expect(self.page.get_by_label("Verdict")).to_contain_text("Cylinder 2")
        self.line("Trouble codes as found", "P9")
        expect(self.page.get_by_text("P9")).to_have_count(0)
        self.expect_saved()

    def test_the_engines_other_inspections_are_at_hand(self):
        self.begin()
        self.step("Story", "Earlier")
        others = self.page.get_by_role("region", name="Other inspections of this engine")
        expect(others.get_by_role("link")).to_contain_text("exhaust valve not sealing")
        others.get_by_role("link").click()
        expect(self.page.get_by_label("Verdict")).to_contain_text("exhaust valve not sealing")

    def test_what_is_heard_and_tried(self):
        self.begin()
        self.page.keyboard.press("3")
        self.step("Running")
        self.page.get_by_label("Your first guess").get_by_role("button", name="3").click()
        self.line("What you think it is", "burnt valve")
        self.step("Listen")
        self.choose("What is heard", "puff")
        self.step("Cut out")
        self.page.keyboard.press("x")
        self.step("Misfires")
        self.line("Misfire count", "41")
        self.step("Spark")
        self.page.keyboard.press("3")
        self.page.keyboard.press("w")
        self.step("Swap")
        self.page.keyboard.press("3")
        self.page.get_by_label("Onto cylinder").select_option("1")
        self.page.get_by_role("button", name="Swapped").click()
        self.choose("coil of 3 put on 1: the fault", "moved")
        found = self.document()
        self.assertEqual(found["work"]["first_guess"], {"cylinders": [3], "text": "burnt valve"})
        tests = found["tests"]
        self.assertEqual(tests["noise"], [{"cylinder": 3, "kind": "puff"}])
        self.assertEqual(tests["misfires"], [{"cylinder": 3, "count": 41}])
        self.assertEqual(
            tests["spark"][0], {"cylinder": 3, "result": "weak", "condition": "tester"}
        )
        self.assertEqual((tests["swap"][0]["to"], tests["swap"][0]["result"]), (1, "moved"))
        why = self.page.get_by_label("Why, cylinder 3")
        expect(why).to_contain_text("spark weak or missing")

    def test_leak_down_and_what_the_borescope_shows(self):
        self.begin()
        self.page.keyboard.press("2")
        self.step("Inside")
        self.page.keyboard.press("s")
        self.step("Leak-down")
        escapes = self.page.get_by_role("region", name="Where the air escapes")
        escapes.get_by_role("button", name="crankcase").click()
        self.words()
        self.line("Pressure it holds", "41")
        self.line("Supply", "80")
        found = self.document()
        test = found["tests"]["leakdown"][0]
        self.assertEqual(test["supply"], {"value": 80, "unit": "psi"})
        self.assertEqual(test["readings"][0]["escapes"], ["crankcase"])
        self.assertEqual(found["cylinders"][0]["borescope"], {"bore": "scored"})
        why = self.page.get_by_label("Why, cylinder 2")
        expect(why).to_contain_text("rings or bore not sealing")

    def test_none_excludes_the_others(self):
        self.begin()
        self.step("Leak-down")
        escapes = self.page.get_by_role("region", name="Where the air escapes")
        for word in ("intake", "exhaust", "listened everywhere: none", "coolant"):
            escapes.get_by_role("button", name=word).click()
        readings = self.document()["tests"]["leakdown"][0]["readings"]
        self.assertEqual(readings[0]["escapes"], ["coolant"])

    def test_a_wet_test_stands_beside_its_dry_one(self):
        self.begin()
        self.step("Compression")
        for kind, figures in (("Dry", ("150", "149")), ("Wet", ("160", "171"))):
            self.step(kind)
            self.page.get_by_label("Cylinder 1, psi").click()
            for figure in figures:
                self.page.keyboard.type(figure)
                self.page.keyboard.press("Enter")
        row = self.page.get_by_label("Wet compression, final reading")
        expect(row).to_contain_text("+15\u00a0%")
        tests = self.document()["tests"]["compression"]
        self.assertEqual([one["kind"] for one in tests], ["dry", "wet"])

    def test_a_first_puff_is_kept_beside_the_final_reading(self):
        self.begin()
        self.step("Compression")
        self.page.get_by_label("Cylinder 2, psi").fill("150")
        self.page.get_by_label("Cylinder 2, psi").press("Enter")
        self.page.keyboard.press("Escape")
        self.station(2).click()
        self.line("Strokes of cylinder 2 in psi", "92")
        reading = self.document()["tests"]["compression"][0]["readings"][0]
        self.assertEqual(reading["strokes"], [{"value": 92, "unit": "psi"}])
        expect(self.page.get_by_label("Warnings")).to_contain_text("First puffs get little weight")

    def live(self, name, strokes=5):
        """Switch a simulated instrument on and connect the page to it."""
        engine = BenchEngine(4, {3: 2.0}, frozenset({2}))
        random = np.random.default_rng(1)
        kind = INSTRUMENTS[name](engine, (1, 3, 4, 2), strokes, random)
        server = serve(kind, 0)
        threading.Thread(target=server.serve_forever, daemon=True).start()
        self.addCleanup(server.server_close)
        self.addCleanup(server.shutdown)
        panel = self.page.get_by_role("region", name="Live instrument")
        panel.get_by_label("Port on this machine").fill(str(server.server_port))
        panel.get_by_role("button", name="Connect").click()
        expect(panel).to_contain_text(kind.title)
        return panel

    def test_a_live_gauge_is_read_stroke_by_stroke_and_its_strokes_are_watched(self):
        self.begin()
        self.step("Compression")
        for strokes, cylinder in ((5, 2), (4, 3)):
            self.page.get_by_label("Verdict").click()
            self.station(cylinder).click()
            panel = self.live("gauge", strokes=strokes)
            panel.get_by_role("button", name=f"Crank cylinder {cylinder}").click()
            panel.get_by_role("button", name=f"Keep for cylinder {cylinder}").click()
            self.expect_saved()
        readings = self.document()["tests"]["compression"][0]["readings"]
        self.assertEqual([len(one["strokes"]) for one in readings], [5, 4])
        self.assertEqual(readings[0]["pressure"], readings[0]["strokes"][-1])
        self.assertGreater(readings[0]["pressure"]["value"], 1.2 * readings[1]["pressure"]["value"])
        self.assertEqual({one["instrument"] for one in readings}, {"simulated gauge"})
        expect(self.page.get_by_label("Cylinder 3, psi")).to_have_value(
            f"{readings[1]['pressure']['value']:g}"
        )
        expect(self.page.get_by_label("Warnings")).to_contain_text("3 had 4 strokes")

    def test_a_live_clamp_and_live_counters(self):
        self.begin()
        self.step("Compression")
        panel = self.live("current-clamp")
        panel.get_by_role("button", name="Capture while it is cranked").click()
        panel.get_by_role("button", name="Read this trace").click()
        trace = self.page.get_by_role("region", name="Cranking trace")
        expect(trace.get_by_role("img")).to_be_visible()
        expect(trace).to_contain_text("rise 4")
        self.step("Running", "Misfires")
        panel = self.live("misfire-counter")
        panel.get_by_role("button", name="Count misses").click()
        counted = panel.get_by_label("Misses counted")
        expect(counted).to_contain_text(re.compile(r"cylinder 2: [1-9]"))
        panel.get_by_role("button", name="Stop").click()
        panel.get_by_role("button", name="Keep these counts").click()
        misses = {one["cylinder"]: one["count"] for one in self.document()["tests"]["misfires"]}
        self.assertEqual([n for n, count in misses.items() if count], [2])

    def test_what_fits_the_engine_is_known_to_its_next_inspection(self):
        self.begin()
        self.step("Plan")
        self.line("Socket and drive", "5/8 deep, universal joint")
        self.step("Story", "Maker's figures")
        self.line("Gap to", "0.9")
        self.choose("Gap to", "advice")
        damage = {"what": "well cover cracked", "when": "as-found"}
        self.step("Plan")
        panel = self.page.get_by_role("region", name="Damage", exact=True)
        panel.get_by_label("What is broken").fill(damage["what"])
        panel.get_by_role("button", name="Note it").click()
        found = self.document()
        noted = found["work"]["damage"][0]
        self.assertEqual({"what": noted["what"], "when": noted["when"]}, damage)
        engine = Inspection.objects.latest("opened").engine.data
        self.assertEqual(engine["tools"]["socket"], "5/8 deep, universal joint")
        self.assertEqual(engine["specification"]["sources"]["gap_max"], "advice")

    def test_reading_again_begins_a_test_of_its_own(self):
        self.begin()
        self.step("Compression")
        for figure in ("150", "120"):
            self.page.get_by_label("Cylinder 1, psi").fill(figure)
            self.page.get_by_label("Cylinder 1, psi").press("Enter")
            self.expect_saved()
            if figure == "150":
                self.page.get_by_role("button", name="Read again", exact=True).click()
                expect(self.page.get_by_label("Cylinder 1, psi")).to_have_value("")
        tests = self.document()["tests"]["compression"]
        self.assertEqual([one["readings"][0]["pressure"]["value"] for one in tests], [150, 120])

    def test_the_plan_is_ticked_off_and_what_came_off_goes_back(self):
        self.begin()
        self.step("Plan")
        steps = self.page.get_by_label("Steps")
        before = steps.get_by_text("min left").inner_text()
        self.choose("Look into each well and at each boot, then blow it out", "done")
        self.choose("Dry compression: throttle open, the same strokes for each", "skipped")
        expect(steps.get_by_text("min left")).not_to_have_text(before)
        taken = self.page.get_by_role("region", name="Taken off")
        for what in ("breather hose", "lead clip 3"):
            taken.get_by_label("Unclipped or taken off").fill(what)
            taken.get_by_role("button", name="Note it").click()
        expect(taken.get_by_role("listitem").first).to_contain_text("lead clip 3")
        expect(taken).to_contain_text("2 still off")
        taken.get_by_role("checkbox", name="lead clip 3").click()
        expect(taken).to_contain_text("1 still off")
        line = taken.get_by_label("Unclipped or taken off")
        line.fill("throttle ca")
        line.press("Escape")
        self.page.keyboard.press("z")
        expect(taken).to_contain_text("2 still off")
        taken.get_by_role("checkbox", name="lead clip 3").click()
        for what in ("earth strap", "wrong word"):
            line.fill(what)
            line.press("Enter")
        self.page.keyboard.press("Control+z")
        self.page.get_by_role("button", name="Undo").first.click()
        expect(taken.get_by_role("listitem")).to_have_count(3)
        expect(taken).to_contain_text("2 still off")
        taken.get_by_role("button", name="Correct: earth strap").click()
        taken.get_by_label("Correct: earth strap").fill("earth strap, black")
        taken.get_by_label("Correct: earth strap").press("Enter")
        expect(taken).to_contain_text("earth strap, black")
        taken.get_by_role("button", name="Take out: earth strap, black").click()
        expect(taken).to_contain_text("1 still off")
        self.choose("Cylinder 2", "easy")
        order = self.page.get_by_label("Order of the cylinders")
        expect(order.get_by_role("listitem").first).to_contain_text("Cylinder 2: proves parts")
        work = self.document()["work"]
        states = {one["id"]: one["state"] for one in work["steps"]}
        self.assertEqual(states, {"wells": "done", "compression": "skipped"})
        self.assertEqual([one.get("back") for one in work["removed"]], [None, True])

    def test_numbering_again_by_tapping_takes_everything_along_and_is_undone(self):
        self.begin()
        self.page.keyboard.press("3")
        self.page.keyboard.press("s")
        self.expect_saved()
        self.step("Story", "The engine")
        numbering = self.page.get_by_label("Numbering")
        numbering.get_by_role("button", name="Number the cylinders again").click()
        for old in (4, 3, 2, 1):
            numbering.get_by_role("button", name=f"was {old}", exact=True).click()
        expect(self.station(2)).to_have_accessible_name(re.compile(r"no pressure$"))
        self.assertEqual([one["number"] for one in self.document()["cylinders"]], [2])
        self.page.keyboard.press("Control+z")
        expect(self.station(2)).to_have_accessible_name(re.compile("plug not read"))
        self.assertEqual([one["number"] for one in self.document()["cylinders"]], [3])

    def test_another_layout_brings_its_banks_and_its_firing_order(self):
        self.begin()
        self.step("Story", "The engine")
        layout = self.page.get_by_role("region", name="Layout")
        layout.get_by_label("It is really").select_option("flat-4-by-bank")
        layout.get_by_role("button", name="Change it").click()
        expect(layout).to_contain_text("Layout: flat, 4")
        engine = self.document()["engine"]
        self.assertCountEqual([one["cylinders"] for one in engine["banks"]], [[1, 2], [3, 4]])
        self.page.keyboard.press("Control+z")
        expect(layout).not_to_contain_text("flat")
        self.assertNotEqual(self.document()["engine"]["layout"], "flat")

    def test_a_shared_carburettor_is_tapped_on_the_plan(self):
        self.begin()
        self.step("Story", "The engine")
        shared = self.page.get_by_role("region", name="Shared parts")
        for front in (2, 1):
            shared.get_by_role("button", name=f"Cylinder {front}").click()
        shared.get_by_role("button", name="2, 1 share this carburettor").click()
        expect(shared.get_by_role("button", name="Cylinder 1, carburettor 1")).to_be_visible()
        shared.get_by_role("button", name="Cylinder 2").click()
        shared.get_by_role("group", name="Carburettors").get_by_label("Called").fill("rear")
        shared.get_by_role("button", name="2 share this carburettor").click()
        first = {"name": "carburettor 1", "cylinders": [1]}
        rear = {"name": "rear", "cylinders": [2]}
        self.assertEqual(self.document()["engine"]["feeds"], [first, rear])

    def test_a_cranking_trace_is_confirmed_on_its_drawing(self):
        trace, second = cranking_current(np.random.default_rng(8), (1, 0.6, 1, 1))
        self.begin()
        self.step("Compression", "Cranking current")
        panel = self.page.get_by_role("region", name="Cranking trace")
        file = {"name": "clamp.csv", "mimeType": "text/csv", "buffer": write_trace(trace)}
        panel.get_by_label("Read a trace").set_input_files(file)
        keep = panel.get_by_role("button", name="Keep these figures")
        expect(keep).to_be_disabled()
        panel.get_by_label("A mark of cylinder").select_option("1")
        drawn = panel.get_by_role("img")
        box = drawn.bounding_box()
        share = (second - trace.seconds[0]) / (trace.seconds[-1] - trace.seconds[0])
        drawn.click(position={"x": box["width"] * share, "y": box["height"] / 2})
        expect(panel).to_contain_text("Each rise has its cylinder")
        keep.click()
        found = self.document()
        order = found["engine"]["firing_order"]
        shares = {one["cylinder"]: one["share"] for one in found["tests"]["relative"]}
        self.assertEqual(min(shares, key=shares.get), order[1])
        self.assertEqual(found["tests"]["relative"][0]["instrument"], "clamp.csv")
        expect(self.page.get_by_label("Verdict")).to_contain_text(f"Cylinder {order[1]}")
