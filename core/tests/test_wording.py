"""What a client reads: plain words, for every fault and grade, and nothing of the workshop's."""

from unittest import TestCase

from core.assessment import Assessment
from core.document import check_document
from core.document.records import Document
from core.knowledge import knowledge
from core.telling import assess, client_answer, record_entries
from core.telling.client import words
from core.tests.documents import SOUND_PLUG, compression, document, plugs, quantity
from core.vocabulary import Grade, words_of

JARGON = ("bits", "sigma", "deviation", "posterior", "prior", "%", "_", "z-score", "psi on")


def answered(made):
    checked = check_document(made)
    return client_answer(Document.of(checked), Assessment.of(assess(checked)))


def four(pressures, purpose="pre-purchase", **inspection):
    made = document(4)
    made["cylinders"] = plugs(SOUND_PLUG, SOUND_PLUG, SOUND_PLUG, SOUND_PLUG)
    made["tests"] = {"compression": [compression(pressures)]}
    made["inspection"] = {"purpose": purpose, **inspection}
    return made


class ClientTests(TestCase):
    def test_every_fault_and_grade_has_its_words(self):
        table, known = words(), knowledge()
        for scope, part in (("cylinder", "cylinder"), ("pair", "cylinder"), ("engine", "shared")):
            for fault in known.of_scope(scope):
                with self.subTest(fault=fault.id, scope=scope):
                    self.assertIn(fault.id, table[part])
        self.assertEqual(set(table["state"]), set(words_of(Grade)))
        self.assertEqual(set(table["answer"]), set(table["before-purchase"]), "each kind")
        self.assertEqual(set(table["answer"]), set(table["next"]))

    def test_a_sound_engine_is_told_so_with_how_far_it_was_looked_at(self):
        said = answered(four([146, 144, 148, 147]))
        self.assertEqual(said.kind, "sound")
        self.assertIn("Nothing that was found speaks against buying", said.answer)
        self.assertEqual((said.behind, said.money, said.sure), ((), "", ""))
        partly = four([146, 144, 148, 147])
        partly["cylinders"] = partly["cylinders"][:2]
        self.assertIn("Plugs were read on 2 of 4", answered(partly).others)

    def test_a_leak_is_bargained_for_before_a_purchase_and_only_there(self):
        low = four([146, 144, 82, 147])
        said = answered(low)
        self.assertEqual(said.kind, "inside")
        self.assertIn("Bargain for the repair, or walk away", said.answer)
        self.assertTrue(any(one.startswith("Cylinder 3: ") for one in said.behind), said.behind)
        self.assertEqual(said.others, "The other three look and measure well.")
        self.assertIn("3: 82", said.pressures)
        self.assertNotIn("walk away", answered(four([146, 144, 82, 147], "routine")).answer)

    def test_a_plug_that_cannot_spark_is_not_the_engine_itself(self):
        made = four([146, 144, 148, 147])
        made["cylinders"][1]["plug"] = {**SOUND_PLUG, "gap_bridged": True}
        said = answered(made)
        self.assertEqual(said.kind, "plug")
        self.assertIn("nothing found says that the engine itself is worn", said.answer)

    def test_nothing_recorded_decides_nothing(self):
        self.assertIn("Do not decide on this", answered(
            {**document(4), "inspection": {"purpose": "pre-purchase"}}
        ).answer)  # fmt: skip

    def test_a_layman_meets_no_word_of_the_workshop(self):
        for pressures in ([146, 144, 82, 147], [146, 82, 84, 147], [60, 61, 60, 62]):
            said = answered(four(pressures, complaints=["misfire"]))
            text = " ".join([said.answer, *said.behind, said.others, said.money, said.sure])
            for jargon in JARGON:
                with self.subTest(pressures=pressures, jargon=jargon):
                    self.assertNotIn(jargon, text)


class RecordTests(TestCase):
    def test_figures_stand_as_a_workshop_writes_them_and_names_as_typed(self):
        made = document(4, specification={"plug_part": "Lintorp 14-19 G6"})
        made["inspection"] = {"odometer": quantity(60_000, "mi"), "note": "0.9-1.0 mm wanted"}
        made["cylinders"] = plugs({**SOUND_PLUG, "gap": quantity(0.9, "mm")})
        entries = record_entries(check_document(made), "imperial")
        told = {one.path: one.value for one in entries}
        self.assertEqual(told["/inspection/odometer"], "60000 mi")
        self.assertEqual(told["/engine/specification/plug_part"], "Lintorp 14-19 G6")
        self.assertEqual(told["/inspection/note"], "0.9-1.0 mm wanted")
        self.assertEqual(told["/cylinders/1/plug/gap"], "0.03543 in (read: 0.9 mm)")  # 0.9 / 25.4
