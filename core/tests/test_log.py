"""Any number of devices, in any order of arrival: what differs is said, what was added is kept."""

import random
from dataclasses import replace
from unittest import TestCase

from core.document import check_document
from core.document.log import Row, followed, heads, inside, judged, place_of, replay
from core.document.observations import fold, unfold
from core.document.renumbering import NUMBERING
from core.errors import CoreError
from core.tests.documents import document

A, B, C = ("anna", "tablet-1"), ("bo", "tablet-2"), ("cleo", "tablet-3")
WETNESS = "/cylinders/2/plug/wetness"
TEST = "/tests/compression/dry-1"
READING = f"{TEST}/readings/3/pressure"


class Bench:
    """A log as the server keeps it: rows in the order of arrival, and what stands open."""

    def __init__(self):
        self.rows = []
        self.open = {}

    def arrive(self, who, place, value, seen, *, keeps=False, order=None, again=False):
        author, device = who
        sequence = len(self.rows) + 1
        fresh = Row(sequence, place, value, author, device, seen, keeps=keeps, order=order)
        known = [
            row
            for row in self.rows[seen:]
            if inside(row.place, place) or (row.takes_back and inside(place, row.place))
        ]
        row, released, conflicts = judged(fresh, known, again=again)
        standing = self.open.get(place)
        if row.held and not conflicts:
            standing = None
        if standing and (not keeps or seen >= standing.since):
            del self.open[place]
        for conflict in conflicts:
            self.open[conflict.place] = conflict
        self.rows = [
            replace(one, held=True) if one.sequence in released else one for one in self.rows
        ] + [row]

    def counted(self):
        return {row.place: row.value for row in self.rows if not row.held and not row.keeps}


class HeadsTests(TestCase):
    def setUp(self):
        self.bench = Bench()

    def conflict(self, place=WETNESS):
        found = self.bench.open.get(place)
        return [row.value for row in found.rows] if found else None

    def test_two_who_did_not_know_of_each_other_differ_and_equal_words_do_not(self):
        self.bench.arrive(A, WETNESS, "dry", 0)
        self.bench.arrive(B, WETNESS, "dry", 0)
        self.assertIsNone(self.conflict())
        self.bench.arrive(C, WETNESS, "wet", 0)
        self.assertEqual(self.conflict(), ["wet", "dry", "dry"])

    def test_a_third_who_saw_neither_does_not_end_it_and_who_saw_both_does(self):
        self.bench.arrive(A, WETNESS, "dry", 0)
        self.bench.arrive(B, WETNESS, "wet", 0)
        self.bench.arrive(C, WETNESS, "wet", 0)
        self.assertEqual(self.conflict(), ["wet", "wet", "dry"])
        self.bench.arrive(C, WETNESS, "damp", 2)
        self.assertIsNone(self.conflict(), "the same hand, and it saw both")

    def test_two_people_on_one_device_are_two_and_one_person_corrects_himself(self):
        self.bench.arrive(("anna", "tablet-1"), WETNESS, "dry", 0)
        self.bench.arrive(("anna", "tablet-1"), WETNESS, "damp", 0)
        self.assertIsNone(self.conflict())
        self.bench.arrive(("bo", "tablet-1"), WETNESS, "wet", 0)
        self.assertEqual(self.conflict(), ["wet", "damp"])

    def test_of_two_pages_of_one_person_the_word_said_last_stands_whichever_arrives_first(self):
        for first, second in (((1, "dry"), (2, "wet")), ((2, "wet"), (1, "dry"))):
            with self.subTest(first=first):
                self.bench = Bench()
                for order, value in (first, second):
                    self.bench.arrive(A, WETNESS, value, 0, order=order)
                self.assertEqual(self.bench.counted(), {WETNESS: "wet"})
                self.assertIsNone(self.conflict())

    def test_what_is_sent_again_does_not_beat_what_the_same_hand_said_since(self):
        self.bench.arrive(A, WETNESS, "wet", 0, order=2)
        self.bench.arrive(A, WETNESS, "dry", 0, order=1, again=True)
        self.assertEqual(self.bench.counted(), {WETNESS: "wet"})
        self.assertEqual(self.conflict(), ["wet", "dry"])
        self.bench.arrive(A, WETNESS, "dry", 2, order=3)
        self.assertEqual((self.bench.counted(), self.conflict()), ({WETNESS: "dry"}, None))

    def test_a_reading_sent_again_brings_back_the_test_that_its_own_hand_removed(self):
        self.bench.arrive(A, TEST, None, 0, order=2)
        self.bench.arrive(A, READING, 120, 0, order=1, again=True)
        self.assertEqual(self.bench.counted(), {READING: 120})
        self.assertEqual(self.conflict(TEST), [120, None])

    def test_a_word_that_was_overtaken_ends_no_conflict_of_others(self):
        self.bench.arrive(A, WETNESS, "wet", 0, order=2)
        self.bench.arrive(B, WETNESS, "dry", 0, order=9)
        self.bench.arrive(A, WETNESS, "damp", 0, order=1)
        self.assertEqual(self.conflict(), ["dry", "wet"])
        self.assertEqual(self.bench.counted(), {WETNESS: "dry"})

    def test_a_removed_test_keeps_the_reading_its_remover_never_saw(self):
        for first, second in (
            ((A, TEST, None), (B, READING, 120)),
            ((B, READING, 120), (A, TEST, None)),
        ):
            with self.subTest(first=first[1]):
                self.bench = Bench()
                self.bench.arrive(C, f"{TEST}/kind", "dry", 0)
                self.bench.arrive(*first, 1)
                self.bench.arrive(*second, 1)
                self.assertEqual(self.bench.counted(), {f"{TEST}/kind": "dry", READING: 120})
                self.assertEqual(self.conflict(TEST), [120, None])
                self.bench.arrive(C, TEST, None, 2, keeps=True)
                self.assertEqual(self.conflict(TEST), [120, None], "saw only one of the two")
                self.bench.arrive(C, TEST, None, 3, keeps=True)
                self.assertIsNone(self.conflict(TEST))

    def test_a_removal_by_somebody_who_saw_everything_counts(self):
        self.bench.arrive(B, READING, 120, 0)
        self.bench.arrive(A, TEST, None, 1)
        self.assertIsNone(self.bench.counted()[TEST])
        self.assertEqual(self.bench.open, {})

    def test_random_arrivals_never_drop_what_differs_or_was_added_unseen(self):
        """Heads worked out from the whole log, against what was noted on the way."""
        places = (WETNESS, "/cylinders/1/plug/smell")
        for seed in range(300):
            chance = random.Random(seed)
            bench = Bench()
            known = dict.fromkeys((A, B, C), 0)
            for _ in range(chance.randrange(2, 12)):
                who = chance.choice((A, B, C))
                if chance.random() < 0.4:
                    known[who] = len(bench.rows)
                bench.arrive(
                    who, chance.choice(places), chance.choice(("x", "y", None)), known[who]
                )
            for place in places:
                rows = [row for row in bench.rows if row.place == place]
                standing = heads(rows)
                differ = any(row.value != standing[0].value for row in standing)
                with self.subTest(seed=seed, place=place):
                    self.assertEqual(place in bench.open, differ)
                    said = [row.value for row in standing if row.value is not None]
                    if said:
                        self.assertIsNotNone(bench.counted()[place])


class NumberingTests(TestCase):
    def test_a_late_entry_follows_its_cylinder(self):
        before, after = [1, 2, 3, 4], [4, 3, 2, 1]
        self.assertEqual(
            followed("/cylinders/1/plug/gap", 5, before, after), ("/cylinders/4/plug/gap", 5)
        )
        self.assertEqual(followed("/tests/swap/s-1/from", 2, before, after)[1], 3)
        self.assertEqual(followed(READING, 1, before, after)[0], READING.replace("/3/", "/2/"))
        self.assertEqual(
            followed("/engine/firing_order", [1, 3, 4, 2], before, after)[1], [1, 3, 4, 2]
        )
        self.assertEqual(
            followed("/work/removed/3/what", "x", before, after)[0], "/work/removed/3/what"
        )

    def test_a_place_is_the_same_before_and_after_and_has_one_spelling(self):
        self.assertEqual(place_of("/cylinders/4/plug/gap", [4, 3, 2, 1]), "/cylinders/1/plug/gap")
        with self.assertRaises(CoreError):
            fold([(place_of("/cylinders/01/plug/smell", [1, 2]), "fuel")])

    def test_a_log_with_a_numbering_folds_in_its_order(self):
        made = check_document(document(4, title="T"))
        said = [
            *unfold(made),
            ("/cylinders/1/plug/wetness", "wet"),
            (NUMBERING, [4, 3, 2, 1]),
            ("/cylinders/1/plug/wetness", "dry"),
        ]
        folded, numbering = replay(said)
        self.assertEqual(numbering, [4, 3, 2, 1])
        words = {one["number"]: one["plug"]["wetness"] for one in folded["cylinders"]}
        self.assertEqual(words, {1: "dry", 4: "wet"})
        back, _ = replay([(NUMBERING, [1, 2, 3, 4])], folded, numbering)
        self.assertEqual({one["number"] for one in back["cylinders"]}, {1, 4})
        for wrong in ([1, 2, 3], [1, 2, 3, 3], "x", [True, 2, 3, 4]):
            with self.assertRaises(CoreError) as caught:
                replay([(NUMBERING, wrong)], folded, numbering)
            self.assertEqual(caught.exception.path, NUMBERING)
