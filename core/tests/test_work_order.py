"""The order of the work follows from the engine, the purpose and the complaint."""

from datetime import UTC, datetime, timedelta
from unittest import TestCase

from core.document import check_document
from core.planning import work_order
from core.planning.own_minutes import own_minutes
from core.tests.documents import document, quantity


def planned(made=None, **parts):
    return work_order(check_document({**(made or document()), **parts}))


def ids(plan):
    return [step["id"] for step in plan["steps"]]


class OwnMinutesTests(TestCase):
    def test_a_step_takes_what_it_took_on_this_engine_without_the_pauses(self):
        start = datetime(2026, 5, 1, 9, 0, tzinfo=UTC)
        colours = [(f"/cylinders/{n}/plug/deposit_colour", 60.0 * n) for n in range(1, 7)]
        coffee = [("/cylinders/6/plug/wetness", 360.0 + 3600.0)]
        pressures = [
            (f"/tests/compression/dry-1/readings/{n}/pressure", 4000.0 + 90.0 * n)
            for n in range(1, 7)
        ]
        made = [
            (path, start + timedelta(seconds=seconds))
            for path, seconds in [*colours, *coffee, *pressures]
        ]
        taken = own_minutes([made])
        # Worked by hand: five times a minute; 130 s to the first reading and five times 90 s.
        self.assertEqual(taken["plugs"], 5.0)
        self.assertEqual(taken["compression"], 9.7)
        self.assertNotIn("wells", taken)
        plan = work_order(check_document(document(6)), taken)
        timed = {step["id"]: step["minutes"] for step in plan["steps"] if step["timed"]}
        self.assertEqual(timed["plugs"], 5.0)

    def test_a_glance_at_one_cylinder_times_nothing(self):
        at = datetime(2026, 5, 1, 9, 0, tzinfo=UTC)
        made = [(f"/cylinders/1/plug/{word}", at) for word in ("deposit_colour", "wetness")]
        self.assertEqual(own_minutes([made]), {})


class WorkOrderTests(TestCase):
    def test_a_buyer_wants_all_out_because_comparing_is_the_point(self):
        plan = planned(inspection={"purpose": "pre-purchase"})
        self.assertEqual(plan["school"]["id"], "all-out")
        self.assertIn("comparing", plan["school"]["why"])
        order = ids(plan)
        for first, second in (
            ("consent", "safe"),
            ("label", "wells"),
            ("wells", "loosen"),  # The well is looked into before the plug moves.
            ("loosen", "nip-and-warm"),  # Cracked loose cold, then warmed for the test.
            ("nip-and-warm", "plugs"),
            ("plugs", "compression"),
            ("compression", "fit"),
        ):
            self.assertLess(order.index(first), order.index(second))

    def test_a_step_ticks_itself_once_every_cylinder_of_the_job_is_recorded(self):
        def state(step, **parts):
            return next(one["state"] for one in planned(**parts)["steps"] if one["id"] == step)

        wells = [{"number": n, "well": {"oil": "none"}} for n in (1, 2, 3)]
        inspection = {"purpose": "pre-purchase"}
        self.assertEqual(state("wells", cylinders=wells, inspection=inspection), "open")
        job = {**inspection, "scope": [1, 3]}
        self.assertEqual(state("wells", cylinders=wells, inspection=job), "done")
        self.assertEqual(state("plugs", cylinders=wells, inspection=job), "open")
        readings = [{"cylinder": n, "pressure": quantity(150, "psi")} for n in (1, 3)]
        tests = {"compression": [{"kind": "dry", "readings": readings}]}
        self.assertEqual(state("compression", tests=tests, inspection=job), "done")
        skipped = {"steps": [{"id": "wells", "state": "skipped"}], "consent": "all-tests"}
        said = {"cylinders": wells, "inspection": job, "work": skipped}
        self.assertEqual((state("wells", **said), state("consent", **said)), ("skipped", "done"))

    def test_a_routine_look_takes_one_at_a_time_unless_the_house_says_otherwise(self):
        routine = {"purpose": "routine"}
        self.assertEqual(planned(inspection=routine)["school"]["id"], "one-at-a-time")
        self.assertNotIn("compression", ids(planned(inspection=routine)))
        house = planned(inspection=routine, house_rules={"order_of_work": "all-out"})
        self.assertEqual(house["school"]["id"], "all-out")
        self.assertIn("house", house["school"]["why"])

    def test_the_plan_holds_only_what_applies_to_this_engine(self):
        saw = document(
            1, layout="single", cycle="two-stroke", ignition="magneto", fuel_system="carburettor"
        )
        plan = planned(saw, inspection={"complaints": ["misfire"]})
        text = " ".join([*plan["cautions"], *plan["tools"]])
        for nothing_of in ("hybrid", "tray", "battery", "Wheels chocked on"):
            with self.subTest(nothing_of=nothing_of):
                self.assertNotIn(nothing_of, text)
        self.assertFalse({"cut-out", "label", "points"} & set(ids(plan)))
        stands = planned(inspection={"purpose": "pre-purchase", "engine_place": "stand"})
        self.assertFalse({"nip-and-warm", "run", "listen"} & set(ids(stands)))
        self.assertIn("bolted down", " ".join(stands["cautions"]))
        old = planned(document(4, ignition="distributor", trigger="points"))
        self.assertIn("points", ids(old))
        routine = planned(inspection={"purpose": "routine"})
        self.assertIn("plugs-in-turn", ids(routine))
        self.assertNotIn("tray", " ".join(routine["tools"]))

    def test_cautions_and_steps_follow_the_engine_and_the_complaint(self):
        direct = planned(document(fuel_system="direct"))
        carburettor = planned(document(fuel_system="carburettor"))
        told = [any("high-pressure" in c for c in p["cautions"]) for p in (direct, carburettor)]
        self.assertEqual(told, [True, False])
        self.assertIn("cut-out", ids(planned(inspection={"complaints": ["misfire"]})))
        self.assertNotIn("listen", ids(planned(inspection={"complaints": ["no-start"]})))

    def test_an_easy_cylinder_proves_the_parts_then_the_awkward_ones(self):
        access = {1: "awkward", 2: "easy", 3: "fair", 4: "awkward"}
        records = [{"number": n, "access": one} for n, one in access.items()]
        order = planned(cylinders=records)["order"]
        self.assertEqual([one["cylinder"] for one in order], [2, 1, 4, 3])

    def test_what_is_ticked_takes_no_more_time(self):
        plan = planned()
        plugs = next(step for step in plan["steps"] if step["id"] == "plugs")
        self.assertEqual((plugs["minutes"], plugs["state"]), (14, "open"))  # 2 and 3 for each.
        work = {"steps": [{"id": "plugs", "state": "done"}, {"id": "run", "state": "skipped"}]}
        ticked = planned(work=work)
        self.assertEqual(ticked["minutes"], plan["minutes"] - 14 - 4)

    def test_the_figures_are_as_printed(self):
        made = document(
            specification={
                "gap_min": quantity(0.032, "in"),
                "gap_max": quantity(0.035, "in"),
                "torque_new": quantity(18, "N.m"),
                "thread_mm": 14,
            }
        )
        plan = planned(made)
        self.assertEqual(plan["figures"]["gap"], "0.032 in to 0.035 in")
        self.assertTrue(any("18 N.m" in tool for tool in plan["tools"]))
