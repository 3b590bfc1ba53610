from unittest import TestCase

from core.engine.layout import PRESETS, arrangement, stations
from core.engine.sharing import coil_groups
from core.tests.documents import document, engine, typed


class NeighbourTests(TestCase):
    def neighbours(self, *args, **kwargs):
        return arrangement(engine(*args, **kwargs)).neighbours

    def test_an_inline_engine_runs_in_number_order(self):
        self.assertEqual(self.neighbours(4), ((1, 2), (2, 3), (3, 4)))

    def test_banks_are_followed_as_given(self):
        banks = [
            {"name": "left", "cylinders": [1, 3, 5]},
            {"name": "right", "cylinders": [6, 4, 2]},
        ]
        self.assertEqual(self.neighbours(6, "vee", banks=banks), ((1, 3), (3, 5), (6, 4), (4, 2)))

    def test_a_vee_without_banks_has_no_known_neighbours(self):
        arranged = arrangement(engine(8, "vee"))
        self.assertEqual(arranged.neighbours, ())
        self.assertFalse(arranged.neighbours_known)

    def test_air_cooled_heads_share_no_gasket(self):
        self.assertEqual(self.neighbours(4, cooling="air"), ())


class CoilTests(TestCase):
    # Common practice, no source: companions sit half a firing order apart.
    def test_wasted_spark_companions(self):
        shared = engine(4, ignition="wasted-spark", firing_order=[1, 3, 4, 2])
        self.assertEqual([group.cylinders for group in coil_groups(shared)], [(1, 4), (2, 3)])

    def test_a_coil_on_each_plug_is_shared_by_nobody(self):
        alone = engine(4, ignition="coil-on-plug", firing_order=[1, 3, 4, 2])
        self.assertEqual(coil_groups(alone), ())


class PresetTests(TestCase):
    def test_every_preset_is_a_valid_engine_with_every_cylinder_placed_once(self):
        for preset in PRESETS:
            with self.subTest(preset=preset.id):
                raw = document()
                raw["engine"] = {"cycle": "four-stroke", **preset.engine}
                proposed = typed(raw).engine
                placed = {(s.across, s.along) for s in stations(proposed)}
                self.assertEqual(len(placed), proposed.cylinders)
