"""What was recorded stays with the cylinder it was seen on, whatever its number."""

from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from core.document import canonical, check_document
from core.document.renumbering import checked_numbering, renumbered
from core.errors import CoreError
from core.telling import assess
from core.tests.documents import SOOTY_PLUG, SOUND_PLUG, compression, document, plugs
from core.tests.test_document import full


class RenumberingTests(TestCase):
    def setUp(self):
        banks = [{"name": "l", "cylinders": [1, 2]}, {"name": "r", "cylinders": [3, 4]}]
        made = document(4, "vee", banks=banks, firing_order=[1, 3, 2, 4])
        made["cylinders"] = plugs(SOUND_PLUG, SOOTY_PLUG)
        made["tests"] = {
            "compression": [{**compression([150, 90, 151, 149]), "id": "dry-1"}],
            "swap": [{"id": "s", "part": "coil", "from": 2, "to": 3, "result": "stayed"}],
            "balance": [{"cylinder": 2, "felt": "none"}],
        }
        made["work"] = {"first_guess": {"cylinders": [2]}}
        made["inspection"] = {"trouble_codes": ["P0304"]}
        self.made = check_document(made)
        self.turned = {1: 3, 2: 4, 3: 1, 4: 2}

    def test_everything_moves_and_what_is_printed_stays(self):
        moved = renumbered(self.made, self.turned)
        sooty = next(one for one in moved["cylinders"] if one["number"] == 4)
        self.assertEqual(sooty["plug"]["deposit_colour"], "black")
        readings = moved["tests"]["compression"][0]["readings"]
        low = next(one for one in readings if one["cylinder"] == 4)
        self.assertEqual(low["pressure"]["value"], 90)
        swap = moved["tests"]["swap"][0]
        self.assertEqual((swap["from"], swap["to"]), (4, 1))
        self.assertEqual(moved["engine"]["banks"][0]["cylinders"], [3, 4])
        self.assertEqual(moved["work"]["first_guess"]["cylinders"], [4])
        self.assertEqual(moved["engine"]["firing_order"], [1, 3, 2, 4])
        self.assertEqual(moved["inspection"]["trouble_codes"], ["P0304"])

    def test_the_same_cylinder_is_suspected_under_its_new_number(self):
        self.assertEqual(assess(self.made, explain=False)["engine"]["most_suspect"][0], 2)
        moved = renumbered(self.made, self.turned)
        self.assertEqual(assess(moved, explain=False)["engine"]["most_suspect"][0], 4)

    @given(st.permutations(range(1, 5)))
    @settings(max_examples=20, deadline=None)
    def test_there_and_back_is_where_it_was(self, order):
        there = dict(zip(range(1, 5), order, strict=True))
        moved = renumbered(self.made, there)
        self.assertEqual(moved, canonical(check_document(moved)))
        back = {new: old for old, new in there.items()}
        self.assertEqual(renumbered(moved, back), canonical(self.made))

    def test_a_document_with_every_field_can_be_renumbered(self):
        made = check_document(full())
        count = made["engine"]["cylinders"]
        numbers = {n: n % count + 1 for n in range(1, count + 1)}
        check_document(renumbered(made, numbers))

    def test_an_inline_engine_learns_where_its_cylinders_sit(self):
        moved = renumbered(check_document(document(3)), {1: 3, 2: 2, 3: 1})
        self.assertEqual(moved["engine"]["banks"], [{"name": "block", "cylinders": [3, 2, 1]}])

    def test_every_cylinder_has_to_be_named_once(self):
        for numbering in ([2, 1], [1, 2, 3, 3], [], None, [1, 2, 3, "4"]):
            with self.subTest(numbering=numbering), self.assertRaises(CoreError):
                checked_numbering(numbering, 4)
