from copy import deepcopy
from unittest import TestCase

from core.errors import KnowledgeError
from core.knowledge import knowledge
from core.knowledge.tables import _channel, _has_source, entries, raw_tables
from core.vocabulary import CylinderFault, EngineFault, words_of


class SourceTests(TestCase):
    def test_every_entry_names_its_source_and_says_why(self):
        found = list(entries(raw_tables()))
        self.assertGreater(len(found), 150)
        for path, entry in found:
            with self.subTest(path=path):
                _has_source(path, entry)

    def test_an_entry_without_a_source_is_refused(self):
        for entry in ({"note": "x"}, {"source": "hearsay", "note": "x"}, {"source": "memory"}):
            with self.subTest(entry=entry), self.assertRaises(KnowledgeError):
                _has_source("/x", entry)

    def test_every_number_stands_in_an_entry_with_a_source(self):
        for name, table in raw_tables().items():
            if name == "phrases":
                continue
            for path, node in self.leaves(table, name):
                with self.subTest(path=path):
                    self.assertIn("source", node)

    def leaves(self, node, path, held=None):
        """Every number with the nearest table above it that carries a source."""
        held = node if "source" in node else held
        for key, value in node.items():
            children = value if isinstance(value, list) else [value]
            for child in children:
                if isinstance(child, dict):
                    yield from self.leaves(child, f"{path}/{key}", held)
                elif isinstance(child, float):
                    yield f"{path}/{key}", held or {}


class TableTests(TestCase):
    def test_probabilities_that_do_not_add_up_are_refused(self):
        table = deepcopy(raw_tables()["channels"]["channel"][0])
        table["values"]["none"] += 0.1
        with self.assertRaises(KnowledgeError):
            _channel(table, "broken")

    def test_every_finding_can_be_said(self):
        known = knowledge()
        silent = {("well/debris", value) for value in ("none", "light", "heavy")} | {
            ("noise", "silent")
        }
        for name, channel in known.channels.items():
            for value in channel.values:
                if (name, value) not in silent:
                    with self.subTest(finding=name, value=value):
                        self.assertTrue(known.phrases[name][value])

    def test_the_contracts_faults_are_all_there(self):
        contract = {
            "ring-sealing", "intake-valve-sealing", "exhaust-valve-sealing", "valve-stem-oil",
            "head-gasket-coolant", "head-gasket-between", "piston-damage", "combustion-overheat",
            "plug-loose", "plug-worn", "plug-fouled", "plug-gap-bridged", "plug-insulator-cracked",
            "plug-wrong-type", "ignition-weak", "ignition-timing", "leads-crossed", "fuel-rich",
            "fuel-lean", "mixture-rich", "mixture-lean", "premix-oil-rich", "premix-oil-lean",
            "well-seal", "valve-timing", "test-condition",
        }  # fmt: skip
        self.assertEqual({fault.id for fault in knowledge().faults}, contract)

    def test_the_vocabulary_names_each_fault_at_its_scope(self):
        known = knowledge()
        beside = [fault.id for scope in ("cylinder", "pair") for fault in known.of_scope(scope)]
        self.assertEqual(set(words_of(CylinderFault)), set(beside))
        of_engine = {fault.id for fault in known.of_scope("engine")}
        self.assertEqual(set(words_of(EngineFault)), of_engine)
