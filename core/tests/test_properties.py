"""What must hold of every document, tried on documents that nobody thought of."""

import json
import math
import random
import warnings
from copy import deepcopy
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core import vocabulary as words
from core.document import check_document, read_document, write_document
from core.errors import DocumentRefused
from core.inference.model import forget
from core.planning import work_order
from core.quantities import Dimension, Quantity
from core.refit import refit_sheet
from core.telling import assess
from core.tests.documents import compression, document, probability, quantity
from core.tests.random_documents import random_document

PLUG = st.fixed_dictionaries(
    {},
    optional={
        "deposit_colour": st.sampled_from(words.words_of(words.DepositColour)),
        "deposit_texture": st.sampled_from(words.words_of(words.DepositTexture)),
        "deposit_amount": st.sampled_from(words.words_of(words.DepositAmount)),
        "wetness": st.sampled_from(words.words_of(words.Wetness)),
        "wet_with": st.sampled_from(words.words_of(words.WetWith)),
        "smell": st.sampled_from(words.words_of(words.Smell)),
        "insulator": st.sampled_from(words.words_of(words.Insulator)),
        "centre_electrode": st.sampled_from(words.words_of(words.CentreElectrode)),
        "ground_electrode": st.sampled_from(words.words_of(words.GroundElectrode)),
        "seating": st.sampled_from(words.words_of(words.Seating)),
        "type_match": st.sampled_from(words.words_of(words.TypeMatch)),
        "gap_bridged": st.booleans(),
        "gap": st.builds(quantity, st.floats(0.1, 3), st.sampled_from(["mm", "in", "thou"])),
        "threads": st.lists(st.sampled_from(words.words_of(words.Threads)), unique=True),
        "outside": st.lists(st.sampled_from(words.words_of(words.Outside)), unique=True),
    },
)
RECORD = st.fixed_dictionaries(
    {},
    optional={
        "plug": PLUG,
        "boot": st.lists(st.sampled_from(words.words_of(words.Boot)), unique=True),
        "well": st.fixed_dictionaries({"oil": st.sampled_from(words.words_of(words.Standing))}),
        "borescope": st.fixed_dictionaries({"bore": st.sampled_from(words.words_of(words.Bore))}),
    },
)
PSI = st.floats(0, 300)
COMPLAINTS = st.sampled_from(words.words_of(words.Complaint))
ESCAPES = st.lists(st.sampled_from(words.words_of(words.Escape)), unique=True, max_size=2)


@st.composite
def documents(draw):
    count = draw(st.integers(1, 4))
    cycle = draw(st.sampled_from(words.words_of(words.Cycle)))
    made = document(count, "single" if count == 1 else draw(st.sampled_from(["inline", "vee"])))
    made["engine"]["cycle"] = cycle
    for field, choices in (
        ("fuel_system", words.words_of(words.FuelSystem)),
        ("ignition", words.words_of(words.Ignition)),
        ("cooling", words.words_of(words.Cooling)),
    ):
        if draw(st.booleans()):
            made["engine"][field] = draw(st.sampled_from(choices))
    made["inspection"] = {
        "complaints": draw(st.lists(COMPLAINTS, unique=True, max_size=3)),
        "trouble_codes": draw(st.lists(st.sampled_from(["P0300", "P0301"]), unique=True)),
    }
    records = draw(st.lists(RECORD, max_size=count))
    made["cylinders"] = [{"number": n, **record} for n, record in enumerate(records, start=1)]
    made["tests"] = {"compression": []}
    for kind in draw(st.lists(st.sampled_from(["dry", "wet"]), max_size=2)):
        values = draw(st.lists(PSI, min_size=1, max_size=count))
        made["tests"]["compression"].append(compression(values, kind))
    for name, field, choices in (
        ("spark", "result", words.words_of(words.SparkSeen)),
        ("balance", "felt", words.words_of(words.Felt)),
        ("reread", "result", words.words_of(words.RereadResult)),
    ):
        if draw(st.booleans()):
            made["tests"][name] = [{"cylinder": 1, field: draw(st.sampled_from(choices))}]
    if draw(st.booleans()):
        readings = [
            {
                "cylinder": n,
                "held": quantity(draw(st.floats(0, 90)), "psi"),
                "escapes": draw(ESCAPES),
            }
            for n in range(1, count + 1)
        ]
        made["tests"]["leakdown"] = [{"supply": quantity(80, "psi"), "readings": readings}]
    return made


class AnyDocumentTests(TestCase):
    @given(documents())
    @settings(max_examples=150, deadline=None)
    def test_probabilities_stay_proper_and_nothing_breaks(self, made):
        said = assess(check_document(made))
        for place in (said["engine"], *said["cylinders"]):
            for fault in place["faults"]:
                self.assertTrue(0 <= fault["probability"] <= 1)
                self.assertTrue(all(math.isfinite(one["weight"]) for one in fault["because"]))
        for cylinder in said["cylinders"]:
            self.assertIn(cylinder["grade"], words.words_of(words.Grade))

    @given(documents())
    @settings(max_examples=60, deadline=None)
    def test_what_is_written_is_read_back(self, made):
        once = write_document(check_document(made))
        self.assertEqual(write_document(read_document(once)), once)

    @given(documents(), st.randoms(use_true_random=False))
    @settings(max_examples=25, deadline=None)
    def test_the_order_of_entry_never_changes_the_answer(self, made, shuffler):
        shuffled = deepcopy(made)
        shuffler.shuffle(shuffled["cylinders"])
        for test in shuffled["tests"]["compression"]:
            shuffler.shuffle(test["readings"])
        once, again = (assess(check_document(one), explain=False) for one in (made, shuffled))
        self.assert_alike(once, again)

    @given(documents())
    @settings(max_examples=25, deadline=None)
    def test_what_was_assessed_before_never_changes_the_answer(self, made):
        before = deepcopy(made)
        before["cylinders"] = before["cylinders"][1:]
        for test in before["tests"]["compression"]:
            test["readings"][0]["pressure"] = quantity(97, "psi")
            test["readings"] = test["readings"][::-1]
        checked = check_document(made)
        forget()
        first = assess(checked)
        forget()
        assess(check_document(before))
        self.assertEqual(assess(checked), first)
        self.assertEqual(assess(checked), first)

    @given(st.lists(st.floats(40, 200), min_size=3, max_size=4))
    @settings(max_examples=25, deadline=None)
    def test_units_never_change_the_answer(self, values):
        answers = []
        for unit in ("psi", "bar"):
            made = document(len(values))
            converted = [Quantity(v, "psi", Dimension.PRESSURE).to(unit).value for v in values]
            made["tests"] = {"compression": [compression(converted, unit=unit)]}
            answers.append(assess(check_document(made), explain=False))
        self.assert_alike(*answers)

    def assert_alike(self, once, again):
        for one, other in zip(once["cylinders"], again["cylinders"], strict=True):
            for fault in one["faults"]:
                self.assertAlmostEqual(
                    fault["probability"],
                    probability(again, fault["fault"], one["number"]),
                    delta=2e-6,
                )
            self.assertEqual(one["grade"], other["grade"])

    @given(documents(), st.randoms(use_true_random=False))
    @settings(max_examples=20, deadline=None)
    def test_numbering_cylinders_otherwise_never_changes_the_answer(self, made, shuffler):
        numbers = list(range(1, made["engine"]["cylinders"] + 1))
        renamed = dict(zip(numbers, shuffler.sample(numbers, len(numbers)), strict=True))
        # Where they sit and in what order they fire is told, so that only the names differ.
        if made["engine"]["layout"] == "inline":
            made["engine"]["banks"] = [{"name": "block", "cylinders": numbers}]
        made["inspection"]["trouble_codes"] = []
        other = deepcopy(made)
        for bank in other["engine"].get("banks", []):
            bank["cylinders"] = [renamed[number] for number in bank["cylinders"]]
        for record in other.get("cylinders", []):
            record["number"] = renamed[record["number"]]
        for test in (*other["tests"]["compression"], *other["tests"].get("leakdown", [])):
            for reading in test["readings"]:
                reading["cylinder"] = renamed[reading["cylinder"]]
        for name in ("spark", "balance", "reread"):
            for item in other["tests"].get(name, []):
                item["cylinder"] = renamed[item["cylinder"]]
        once, again = (assess(check_document(one), explain=False) for one in (made, other))
        for one in once["cylinders"]:
            one["number"] = renamed[one["number"]]
        once["cylinders"].sort(key=lambda one: one["number"])
        self.assert_alike(once, again)


class WholeContractTests(TestCase):
    DOCUMENTS = 150

    def test_whatever_the_schema_allows_is_answered(self):
        """Every field of the contract, up to twenty-four cylinders, arithmetic without a slip."""
        source, answered = random.Random(12), 0
        for _ in range(self.DOCUMENTS):
            made = random_document(source)
            try:
                checked = check_document(made)
            except DocumentRefused:
                continue
            with warnings.catch_warnings():
                warnings.simplefilter("error", RuntimeWarning)
                said = assess(checked)
            work_order(checked)
            json.dumps([said, refit_sheet(checked)], allow_nan=False)
            self.assertEqual(len(said["cylinders"]), made["engine"]["cylinders"])
            answered += 1
        self.assertGreater(answered, 0.8 * self.DOCUMENTS)


class MoreOfTheSameTests(TestCase):
    @given(st.integers(0, 3), st.sampled_from(["spark", "balance"]))
    @settings(max_examples=8, deadline=None)
    def test_a_second_sign_of_a_weak_spark_never_acquits_it(self, at, second):
        made = document(4, ignition="coil-on-plug", fuel_system="port")
        made["inspection"] = {"trouble_codes": [f"P030{at + 1}"]}
        before = assess(check_document(deepcopy(made)), explain=False)
        signs = {"spark": {"result": "weak"}, "balance": {"felt": "none"}}
        made["tests"] = {second: [{"cylinder": at + 1, **signs[second]}]}
        after = assess(check_document(made), explain=False)
        chances = [probability(said, "ignition-weak", at + 1) for said in (before, after)]
        self.assertGreater(chances[1], chances[0])

    @given(st.floats(60, 130), st.floats(1, 12))
    @settings(max_examples=25, deadline=None)
    def test_a_lower_reading_never_argues_for_the_cylinder(self, low, step):
        def repair(value):
            made = document()
            made["tests"] = {"compression": [compression([150, 151, value, 149])]}
            return assess(check_document(made), explain=False)["cylinders"][2]["consequences"][
                "repair"
            ]

        self.assertGreaterEqual(repair(low - step), repair(low) - 0.02)
