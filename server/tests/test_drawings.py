"""The report's drawings: everything that can be recorded is drawn, to scale and as text."""

from xml.etree import ElementTree

from django.test import SimpleTestCase

from core.comparison.board import Line, Mark, Strip
from core.document import check_document
from core.engine.layout import PRESETS
from core.telling import assess
from core.tests.documents import SOUND_PLUG, compression, document
from core.vocabulary import (
    DepositColour,
    Grade,
    GroundElectrode,
    Insulator,
    Wetness,
    WetWith,
    words_of,
)
from server.reports import drawings

SVG = "{http://www.w3.org/2000/svg}"


def drawn(svg):
    """A drawing, parsed: it must be well-formed wherever it came from."""
    return ElementTree.fromstring(svg)


def texts(svg):
    return [one.text for one in drawn(svg).iter(f"{SVG}text")]


def states(said):
    return {one["number"]: "looked at" for one in said["cylinders"]}


def plan_of(checked):
    said = assess(checked, explain=False)
    return drawings.plan(checked, said, states(said))


class PlanTests(SimpleTestCase):
    def test_every_preset_is_drawn_with_every_cylinder_once(self):
        for preset in PRESETS:
            made = {
                "format": "fiacre-inspection", "version": 1,
                "engine": {"cycle": "four-stroke", **preset.engine},
            }  # fmt: skip
            checked = check_document(made)
            said = assess(checked, explain=False, advise=False)
            shown = texts(drawings.plan(checked, said, states(said)))
            numbers = [text for text in shown if text.isdecimal()]
            with self.subTest(preset=preset.id):
                wanted = [str(n) for n in range(1, checked["engine"]["cylinders"] + 1)]
                self.assertEqual(sorted(numbers, key=int), wanted)
                self.assertEqual(shown.count("no pressure"), len(wanted))
                self.assertEqual(shown.count("U"), len(wanted))

    def test_readings_stand_at_their_cylinder_as_they_were_read(self):
        made = document(4)
        made["tests"] = {"compression": [compression([150, 151, 75, 149])]}
        checked = check_document(made)
        shown = texts(plan_of(checked))
        self.assertIn("75 psi", shown)
        self.assertEqual(shown[shown.index("3") + 1], "D")

    def test_no_two_stations_overlap(self):
        for preset in PRESETS:
            engine = {"cycle": "four-stroke", **preset.engine}
            made = check_document({"format": "fiacre-inspection", "version": 1, "engine": engine})
            root = drawn(plan_of(made))
            spots = []
            for group in root.findall(f"{SVG}g"):
                x, y = group.get("transform")[10:-1].split()
                spots.append((float(x), float(y)))
            if engine["layout"] == "radial":
                continue  # A circle of stations may touch at its narrow places.
            with self.subTest(preset=preset.id):
                for at, (x, y) in enumerate(spots):
                    for u, v in spots[at + 1 :]:
                        apart = abs(x - u) >= drawings.STATION_W or abs(y - v) >= drawings.STATION_H
                        self.assertTrue(apart, (x, y, u, v))


class PlugTests(SimpleTestCase):
    def test_each_word_of_the_contract_is_drawn(self):
        for field, words in (
            ("deposit_colour", words_of(DepositColour)),
            ("insulator", words_of(Insulator)),
            ("wetness", words_of(Wetness)),
            ("wet_with", words_of(WetWith)),
            ("ground_electrode", words_of(GroundElectrode)),
        ):
            for word in words:
                with self.subTest(field=field, word=word):
                    plug = {**SOUND_PLUG, "wetness": "wet", field: word}
                    drawn(drawings.plug({"number": 1, "plug": plug}))

    def test_what_differs_looks_different(self):
        plain = drawings.plug({"number": 1, "plug": SOUND_PLUG})
        for change in (
            {"deposit_colour": "black"}, {"wetness": "wet", "wet_with": "oil"},
            {"insulator": "cracked-nose"}, {"ground_electrode": "missing"}, {"gap_bridged": True},
        ):  # fmt: skip
            with self.subTest(change=change):
                other = drawings.plug({"number": 1, "plug": {**SOUND_PLUG, **change}})
                self.assertNotEqual(other, plain)
        wet = {"wetness": "wet", "wet_with": "oil"}
        fuel = {"wetness": "wet", "wet_with": "fuel"}
        oily, fuelled = (
            drawings.plug({"number": 1, "plug": {**SOUND_PLUG, **w}}) for w in (wet, fuel)
        )
        self.assertNotEqual(oily, fuelled)

    def test_an_unread_plug_is_dashed(self):
        self.assertIn('stroke-dasharray="3 3"', drawings.plug({"number": 1}))
        read = drawings.plug({"number": 1, "plug": SOUND_PLUG})
        self.assertNotIn('stroke-dasharray="3 3"', read)


class StripTests(SimpleTestCase):
    STRIP = Strip(
        "dry", "Dry <b>", "psi", 0.0, 200.0,
        (Mark(1, 150.0, "150 psi", ""), Mark(2, 75.0, "75 psi", "", ("odd",))),
        (100.0, 160.0), (Line("a line", 110.0),),
    )  # fmt: skip

    def test_bars_stand_to_scale_and_the_odd_one_in_its_own_tone(self):
        root = drawn(drawings.strip(self.STRIP, [[1, 2]]))
        band, first, second = root.findall(f"{SVG}rect")
        self.assertAlmostEqual(
            float(first.get("height")) / float(second.get("height")), 2, places=1
        )
        self.assertEqual(band.get("fill"), drawings.WASH)
        self.assertAlmostEqual(float(band.get("height")), 62 * 60 / 200, places=1)
        self.assertEqual((first.get("fill"), second.get("fill")), (drawings.TEAL, drawings.RUST))

    def test_cylinders_stand_in_the_order_of_their_banks(self):
        shown = texts(drawings.strip(self.STRIP, [[2], [1, 3]]))
        self.assertEqual([text for text in shown if text.isdecimal()], ["2", "1", "3"])

    def test_words_are_escaped(self):
        title = drawn(drawings.strip(self.STRIP, [[1, 2]])).findtext(f"{SVG}title")
        self.assertTrue(title.startswith("Dry <b>. cylinder 1: 150 psi"), title)


class GradeTests(SimpleTestCase):
    def test_each_grade_has_its_letter_and_a_shape_of_its_own(self):
        shapes = set()
        for grade in words_of(Grade):
            svg = drawings.grade_svg(grade)
            self.assertEqual(texts(svg), [grade])
            shapes.add(drawings.SHAPES[grade])
        self.assertEqual(len(shapes), len(words_of(Grade)))
