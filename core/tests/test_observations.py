from unittest import TestCase

from core.document import canonical, check_document
from core.document.observations import apply, fold, unfold
from core.errors import CoreError, DocumentRefused
from core.tests.documents import document, quantity
from core.tests.test_document import full

GAP = "/cylinders/2/plug/gap"


class FoldTests(TestCase):
    def test_a_document_is_the_fold_of_its_own_observations(self):
        checked = canonical(check_document(full()))
        self.assertEqual(fold(unfold(checked)), checked)

    def test_names_with_strokes_and_tildes_survive(self):
        made = document(2, banks=[{"name": "port/fore ~1", "cylinders": [1, 2]}])
        checked = canonical(check_document(made))
        self.assertIn("/engine/banks/port~1fore ~01/cylinders", dict(unfold(checked)))
        self.assertEqual(fold(unfold(checked)), checked)

    def test_saying_it_twice_changes_nothing(self):
        said = [(GAP, quantity(0.8, "mm"))]
        once = apply(document(), said)
        self.assertEqual(apply(once, said), once)

    def test_two_people_on_different_fields_merge_in_either_order(self):
        one, other = (GAP, quantity(0.8, "mm")), ("/cylinders/1/plug/wetness", "dry")
        self.assertEqual(
            canonical(apply(document(), [one, other])), canonical(apply(document(), [other, one]))
        )

    def test_taking_back_the_only_thing_said_leaves_no_trace(self):
        before = canonical(check_document(document()))
        after = apply(apply(before, [(GAP, quantity(0.8, "mm"))]), [(GAP, None)])
        self.assertEqual(canonical(after), before)

    def test_a_test_keeps_its_conditions_when_its_only_reading_is_taken_back(self):
        reading = "/tests/compression/dry-1/readings/3/pressure"
        begun = apply(
            document(),
            [("/tests/compression/dry-1/kind", "dry"), (reading, quantity(150, "psi"))],
        )
        left = apply(begun, [(reading, None)])
        self.assertEqual(left["tests"]["compression"], [{"id": "dry-1", "kind": "dry"}])

    def test_banks_are_said_at_once_and_an_unfinished_set_of_them_is_refused(self):
        port, starboard = [
            {"name": name, "cylinders": [at, at + 2]} for at, name in ((1, "p"), (2, "s"))
        ]
        said = apply(document(layout="vee"), [("/engine/banks", [port, starboard])])
        self.assertEqual(said["engine"]["banks"], [port, starboard])
        with self.assertRaises(DocumentRefused):
            apply(said, [("/engine/banks", [port])])

    def test_a_whole_test_can_be_taken_back(self):
        begun = apply(document(), [("/tests/compression/dry-1/kind", "dry")])
        self.assertNotIn("tests", canonical(apply(begun, [("/tests/compression/dry-1", None)])))

    def test_the_earlier_document_is_left_alone(self):
        before = document()
        fold([(GAP, quantity(1, "mm"))], before)
        self.assertEqual(before, document())


class RefusalTests(TestCase):
    def test_paths_that_name_no_single_field_are_refused(self):
        for path, value in (
            ("", 1),
            ("cylinders/2/plug/gap", 1),
            ("/cylinders", []),
            ("/cylinders/two/plug/wetness", "dry"),
            ("/cylinders/2/number", 3),
            ("/cylinders/2/plug", {"wetness": "dry"}),
            ("/cylinders/2/plug/gap/value", 3),
            ("/cylinders/2/plug/mood", "sad"),
            ("/cylinders//plug/wetness", "dry"),
            ("/tests/compression/a/readings/1/strokes/0", quantity(1, "psi")),
        ):
            with self.subTest(path=path), self.assertRaises(CoreError):
                apply(document(), [(path, value)])

    def test_values_that_do_not_suit_are_refused_and_nothing_is_applied(self):
        for path, value in (
            (GAP, 0.8),
            (GAP, quantity(0.8, "psi")),
            (GAP, quantity(-0.8, "mm")),
            ("/cylinders/9/plug/wetness", "dry"),
            ("/cylinders/2/plug/wetness", "moist"),
            ("/engine/cylinders", None),
            ("/tests/compression/dry-1/readings/1/pressure", quantity(100, "psi")),
        ):
            with self.subTest(path=path), self.assertRaises((CoreError, DocumentRefused)):
                apply(document(), [("/cylinders/1/plug/wetness", "dry"), (path, value)])
