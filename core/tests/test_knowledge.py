import tomllib
from copy import deepcopy
from importlib import resources
from unittest import TestCase

from core.document import SCHEMA
from core.errors import KnowledgeError
from core.knowledge import knowledge
from core.knowledge.case import case_tables_of
from core.knowledge.plug_words import plug_words
from core.knowledge.tables import _channel, _has_source, entries, knowledge_of, raw_tables
from core.vocabulary import Cleaned, CylinderFault, EngineFault, words_of


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


class BrokenTableTests(TestCase):
    """A slip of the pen in a table is found when it is read, not by an answer that is off."""

    def broken(self, change):
        raw = deepcopy(raw_tables())
        change(raw)
        with self.assertRaises(KnowledgeError):
            knowledge_of(raw)

    def test_as_they_stand_they_load(self):
        self.assertEqual(knowledge_of(deepcopy(raw_tables())).faults, knowledge().faults)

    def test_what_names_nothing_is_refused(self):
        def cause(raw):
            raw["channels"]["tag"][0]["cause"][0]["any"] = ["wel-seal"]

        def odds(raw):
            raw["modifiers"]["modifier"][0]["odds"] = {"ring-sealng": 3.0}

        def face(raw):
            raw["faces"]["cause"][0]["any"] = ["head-gasket-cooolant"]

        def when(raw):
            raw["modifiers"]["modifier"][0]["when"] = "recnt-work/plugs"

        for change in (cause, odds, face, when):
            with self.subTest(change.__name__):
                self.broken(change)

    def test_an_unknown_field_is_refused(self):
        for name, rows in (("faults", "fault"), ("channels", "channel"), ("habits", "habit")):
            with self.subTest(name):
                self.broken(lambda raw, n=name, r=rows: raw[n][r][0].update(strenght=0.5))

    def test_weights_of_another_length_are_refused(self):
        self.broken(lambda raw: raw["pressure"]["spread"]["ring-sealing"]["weights"].pop())
        self.broken(lambda raw: raw["pressure"]["wet"]["gains"].append(0.2))

    def test_a_fault_that_nothing_weighs_is_refused(self):
        def add(raw):
            row = deepcopy(raw["faults"]["fault"][10])
            raw["faults"]["fault"].append({**row, "id": "plug-haunted"})

        self.broken(add)

    def test_a_row_that_does_not_sum_to_one_is_refused(self):
        self.broken(lambda raw: raw["channels"]["channel"][0]["values"].update(none=0.9))


class PlugWordTests(TestCase):
    """A word that is added in one place and forgotten in another is found here."""

    DRAWN = {
        "deposit_colour": "tone", "wet_with": "tone", "deposit_texture": "drawn",
        "insulator": "drawn", "ground_electrode": "drawn", "centre_electrode": "drawn",
    }  # fmt: skip
    PLAIN = {("deposit_texture", "clean"), ("insulator", "sound")}  # Nothing to draw.
    # Said, shown and reported; no fault is weighed by them.
    KEPT = {("threads", "clean"), ("threads", "anti-seize-heavy"), ("threads", "corroded"),
            ("outside", "clean"), *(("cleaned", word) for word in words_of(Cleaned))}  # fmt: skip

    def test_each_word_of_the_contract_has_its_entry(self):
        plug = SCHEMA["properties"]["cylinders"]["items"]["properties"]["plug"]["properties"]
        listed = {
            name: tuple(field.get("enum") or field.get("items", {}).get("enum", ()))
            for name, field in plug.items()
            if name not in ("look", "seat")
        }
        entries = {name: tuple(words) for name, words in plug_words().items()}
        self.assertEqual({name: words for name, words in listed.items() if words}, entries)

    def test_each_word_is_weighed_said_heard_and_drawn(self):
        known = knowledge()
        looks = {one["look"] for one in known.judgement["plug"]}
        for field, words in plug_words().items():
            for word, entry in words.items():
                with self.subTest(field=field, word=word):
                    self.assertTrue(entry.heard or (field, word) == ("cleaned", "not"))
                    if field in self.DRAWN and (field, word) not in self.PLAIN:
                        self.assertTrue(getattr(entry, self.DRAWN[field]))
                    self.assertIn(entry.spoils, {"", *looks})
                    if (field, word) in self.KEPT:
                        continue
                    self.assertTrue(entry.says)
                    channel = known.channels.get(f"plug/{field}")
                    weighed = channel.values if channel else known.face_words.get(field, ())
                    self.assertTrue(word in weighed or f"plug/{field}:{word}" in known.channels)


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

    def test_a_row_of_the_case_that_names_nothing_does_not_load(self):
        for field, wrong in (("is", "mising"), ("hazard", "loos-piece"), ("shows", "plug-lose"),
                             ("act", "plugs"), ("grade", "F"), ("seting", "x")):  # fmt: skip
            rows = tomllib.loads((resources.files("core.knowledge") / "case.toml").read_text())
            rows["seen"][0][field] = wrong
            with self.subTest(field=field), self.assertRaises(KnowledgeError):
                case_tables_of(rows)

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
