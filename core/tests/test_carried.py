"""The next inspection is offered what the last one taught."""

from unittest import TestCase

from core.document import check_document
from core.document.observations import apply
from core.document.records import Document
from core.planning.carried import carried
from core.tests.documents import document, quantity

LAST = {
    **document(4),
    "inspection": {
        "date": "2026-03-01", "odometer": quantity(1180, "h"), "order": [1, 3, 4, 2],
        "not_inspected": [{"item": "leak-down", "reason": "no air"}],
    },
    "cylinders": [{"number": 1, "access": "easy"}, {"number": 4, "access": "awkward"}],
    "work": {"removed": [{"id": "a", "what": "air box"}, {"id": "b", "what": "two clips"}],
             "consent": "all-tests", "consent_by": "the owner"},
    "refit": {"cylinders": [{"cylinder": 2, "fitted": True}, {"cylinder": 3, "reused": True,
                                                             "fitted": True}]},
}  # fmt: skip


def told(now=None, *earlier):
    past = [(one["inspection"]["date"], Document.of(check_document(one))) for one in earlier]
    return carried(Document.of(check_document(now or document(4))), past)


class CarriedTests(TestCase):
    def test_everything_typed_with_gloves_is_offered_and_taken_as_it_is(self):
        made = check_document(document(4))
        offers = told(made, LAST).offers
        self.assertEqual({one.id for one in offers}, {"removed", "access", "order", "consent"})
        taken = apply(made, [entry for one in offers for entry in one.entries])
        self.assertEqual([one["what"] for one in taken["work"]["removed"]],
                         ["air box", "two clips"])  # fmt: skip
        self.assertEqual(taken["cylinders"][1]["access"], "awkward")
        self.assertEqual(told(taken, LAST).offers, (), "what stands is not offered again")

    def test_a_set_renewed_in_part_has_two_ages_and_what_was_left_open_is_said(self):
        said = told(None, LAST)
        self.assertEqual(said.renewed, ("2026-03-01, at 1180 h: plug of 2",))
        self.assertEqual(said.left_open, ("2026-03-01, not looked at: leak-down (no air)",))

    def test_the_newest_word_counts(self):
        older = {**LAST, "inspection": {**LAST["inspection"], "date": "2025-03-01",
                                        "order": [1, 2, 3, 4]}}  # fmt: skip
        order = next(one for one in told(None, LAST, older).offers if one.id == "order")
        self.assertEqual((order.date, order.entries[0][1]), ("2026-03-01", [1, 3, 4, 2]))

    def test_a_first_inspection_is_offered_nothing(self):
        said = told()
        self.assertEqual((said.offers, said.renewed, said.left_open), ((), (), ()))
