import json
from copy import deepcopy
from unittest import TestCase

from core.document import SCHEMA, check_document, read_document, records, write_document
from core.document.schema import descriptions
from core.document.texts import texts
from core.errors import DocumentRefused
from core.telling import assess
from core.tests.documents import compression, document, plugs, quantity


def full():
    """A document that touches every part of the contract's lists."""
    made = document(
        4,
        firing_order=[1, 3, 4, 2],
        bore=quantity(86, "mm"),
        compression_ratio=9.5,
        banks=[{"name": "all", "cylinders": [1, 2, 3, 4]}],
        specification={
            "gap_min": quantity(0.6, "mm"),
            "compression_max_spread": quantity(15, "%"),
            "sources": {"gap_min": "maker"},
        },
    )
    made["inspection"] = {
        "date": "2026-05-04",
        "complaints": ["misfire"],
        "trouble_codes": ["P0302"],
        "photos": ["sha256:" + "0" * 64],
    }
    made["cylinders"] = plugs({"gap": quantity(0.7, "mm"), "wetness": None, "threads": ["oily"]})
    made["tests"] = {
        "compression": [compression([150, 151.5, 149, 150])],
        "swap": [{"part": "coil", "from": 2, "to": 3, "result": "moved"}],
    }
    return made


def changed(pointer, value):
    made = full()
    *steps, last = pointer.split("/")[1:]
    target = made
    for step in steps:
        target = target[int(step)] if isinstance(target, list) else target.setdefault(step, {})
    if isinstance(target, list):
        target.insert(int(last), value) if int(last) >= len(target) else target.__setitem__(
            int(last), value
        )
    else:
        target[last] = value
    return made


# (where, what is put there, the pointer that the refusal has to name)
BROKEN = (
    ("/format", "other", "/format"),
    ("/version", 2, "/version"),
    ("/engine/cycle", "five-stroke", "/engine/cycle"),
    ("/engine/layout", "wankel", "/engine/layout"),
    ("/engine/cylinders", 0, "/engine/cylinders"),
    ("/engine/cylinders", 25, "/engine/cylinders"),
    ("/engine/cylinders", "four", "/engine/cylinders"),
    ("/engine/cylinders", True, "/engine/cylinders"),
    ("/engine/cylinders", 4.5, "/engine/cylinders"),
    ("/engine/cylinders", None, "/engine/cylinders"),
    ("/engine/colour", "blue", "/engine/colour"),
    ("/engine/a~b", 1, "/engine/a~0b"),
    ("/engine/firing_order", [1, 3, 4], "/engine/firing_order"),
    ("/engine/firing_order", [1, 3, 4, 4], "/engine/firing_order"),
    ("/engine/firing_order", [1, 3, 4, 5], "/engine/firing_order/3"),
    ("/engine/banks/0/cylinders", [1, 2, 3, 9], "/engine/banks/0/cylinders/3"),
    ("/engine/banks/1", {"name": "b", "cylinders": [1]}, "/engine/banks/1/cylinders/0"),
    ("/engine/banks/0/cylinders", [1, 2], "/engine/banks"),
    ("/engine/bore", quantity(-86, "mm"), "/engine/bore"),
    ("/engine/bore", quantity(0, "mm"), "/engine/bore"),
    ("/engine/bore", quantity(86, "psi"), "/engine/bore/unit"),
    ("/engine/bore", {"value": 86}, "/engine/bore/unit"),
    ("/engine/bore", 86, "/engine/bore"),
    ("/engine/bore", quantity("86", "mm"), "/engine/bore/value"),
    ("/engine/bore", quantity(True, "mm"), "/engine/bore/value"),
    ("/engine/compression_ratio", 1, "/engine/compression_ratio"),
    ("/engine/compression_ratio", 0.5, "/engine/compression_ratio"),
    ("/engine/specification/seat", "wood", "/engine/specification/seat"),
    ("/engine/specification/gap_min/value", 101, "/engine/specification/gap_min"),
    ("/engine/specification/sources/gap_min", "rumour", "/engine/specification/sources/gap_min"),
    ("/inspection/date", "2026-02-30", "/inspection/date"),
    ("/inspection/date", "yesterday", "/inspection/date"),
    ("/inspection/complaints/0", "bad mood", "/inspection/complaints/0"),
    ("/inspection/complaints/1", "misfire", "/inspection/complaints"),
    ("/inspection/trouble_codes/0", "302", "/inspection/trouble_codes/0"),
    ("/inspection/photos/0", "sha256:xyz", "/inspection/photos/0"),
    ("/inspection/note", "x" * 10_001, "/inspection/note"),
    ("/inspection/odometer", quantity(-5, "km"), "/inspection/odometer"),
    ("/inspection/altitude_m", 20_000, "/inspection/altitude_m"),
    ("/cylinders/0/number", 5, "/cylinders/0/number"),
    ("/cylinders/1", {"number": 1}, "/cylinders/1/number"),
    ("/cylinders/1", {"plug": {}}, "/cylinders/1/number"),
    ("/cylinders/0/plug/gap/value", 0, "/cylinders/0/plug/gap"),
    ("/cylinders/0/plug/gap", quantity(5, "in"), "/cylinders/0/plug/gap"),
    ("/cylinders/0/plug/deposit_colour", "mauve", "/cylinders/0/plug/deposit_colour"),
    ("/cylinders/0/plug/gap_bridged", "no", "/cylinders/0/plug/gap_bridged"),
    ("/cylinders/0/plug/threads/0", "shiny", "/cylinders/0/plug/threads/0"),
    ("/cylinders/0/well", "oily", "/cylinders/0/well"),
    ("/tests/compression/0/kind", "moist", "/tests/compression/0/kind"),
    ("/tests/compression/0/readings/0/cylinder", 7, "/tests/compression/0/readings/0/cylinder"),
    ("/tests/compression/0/readings/1/cylinder", 1, "/tests/compression/0/readings/1/cylinder"),
    (
        "/tests/compression/0/readings/2/pressure/value",
        -1,
        "/tests/compression/0/readings/2/pressure",
    ),
    (
        "/tests/compression/0/readings/2/pressure",
        quantity(151, "bar"),
        "/tests/compression/0/readings/2/pressure",
    ),
    ("/tests/leakdown", [{"readings": [{"cylinder": 1, "percent": 101}]}],
     "/tests/leakdown/0/readings/0/percent"),
    ("/tests/swap/0/to", 2, "/tests/swap/0/to"),
    ("/tests/swap/0/from", 6, "/tests/swap/0/from"),
    ("/tests/misfires", [{"cylinder": 1, "count": -1}], "/tests/misfires/0/count"),
)  # fmt: skip

# Bytes that no document can be, with the pointer that the refusal has to name.
BROKEN_BYTES = (
    (b"", ""),
    (b"{", ""),
    (b"\xff\xfe", ""),
    (b"[]", ""),
    (b"null", ""),
    (b'{"format": NaN}', "/format"),
    (b'{"a": -Infinity}', "/a"),
    (b'{"engine": {"bore": 1, "bore": 2}}', "/engine/bore"),
    (b"[" * 40 + b"]" * 40, ""),
    (b" " * (5 * 1024 * 1024 + 1), ""),
)


class RefusalTests(TestCase):
    def test_the_whole_document_is_accepted_as_it_is(self):
        self.assertTrue(check_document(full()))

    def test_every_broken_document_is_refused_at_its_place(self):
        self.assertGreaterEqual(len(BROKEN) + len(BROKEN_BYTES), 50)
        for where, value, pointer in BROKEN:
            with self.subTest(where=where, value=str(value)[:30]):
                with self.assertRaises(DocumentRefused) as refused:
                    read_document(json.dumps(changed(where, value)).encode())
                self.assertIn(pointer, [problem.path for problem in refused.exception.problems])

    def test_bytes_that_are_no_document_are_refused(self):
        for data, pointer in BROKEN_BYTES:
            with self.subTest(data=data[:30]):
                with self.assertRaises(DocumentRefused) as refused:
                    read_document(data)
                self.assertEqual(refused.exception.problems[0].path, pointer)

    def test_a_list_that_is_far_too_long_is_refused_for_that_alone(self):
        """Its entries are neither compared nor read: thousands cost no more than their bytes."""
        for name, entries in (
            ("words", ["misfire"] * 3000),
            ("objects", [{"a": number} for number in range(3000)]),
            ("of several kinds", [number if number % 2 else str(number) for number in range(3000)]),
        ):
            with self.subTest(name), self.assertRaises(DocumentRefused) as refused:
                check_document({**document(), "inspection": {"complaints": entries}})
            told = [(one.path, one.code) for one in refused.exception.problems]
            self.assertEqual(told, [("/inspection/complaints", "range")])

    def test_infinity_in_disguise_is_refused(self):
        data = json.dumps(full()).replace('"value": 86', '"value": 1e999').encode()
        with self.assertRaises(DocumentRefused) as refused:
            read_document(data)
        self.assertEqual(refused.exception.problems[0].path, "/engine/bore/value")

    def test_a_refusal_quotes_the_value_shortened(self):
        with self.assertRaises(DocumentRefused) as refused:
            check_document(changed("/engine/layout", "y" * 500))
        self.assertLessEqual(len(refused.exception.problems[0].value), 60)


class RoundTripTests(TestCase):
    def test_null_is_not_looked_at(self):
        self.assertNotIn("wetness", check_document(full())["cylinders"][0]["plug"])

    def test_written_and_read_again_is_the_same_bytes(self):
        once = write_document(read_document(json.dumps(full()).encode()))
        self.assertEqual(write_document(read_document(once)), once)

    def test_the_order_of_entry_does_not_show(self):
        shuffled = deepcopy(full())
        shuffled["tests"]["compression"][0]["readings"].reverse()
        shuffled["engine"] = dict(reversed(shuffled["engine"].items()))
        self.assertEqual(
            write_document(check_document(full())), write_document(check_document(shuffled))
        )

    def test_four_point_nought_is_four(self):
        made = document(4)
        made["engine"]["cylinders"] = 4.0
        made["engine"]["firing_order"] = [1.0, 3, 4, 2]
        engine = read_document(json.dumps(made).encode())["engine"]
        self.assertEqual(repr(engine["cylinders"]), "4")
        self.assertEqual(repr(engine["firing_order"]), "[1, 3, 4, 2]")

    def test_implausible_is_accepted_unchanged(self):
        made = changed("/cylinders/0/plug/gap", quantity(40, "mm"))
        self.assertEqual(check_document(made)["cylinders"][0]["plug"]["gap"]["value"], 40)


class SecondRoundTests(TestCase):
    """What the contract added: taken, kept, and said to be kept where nothing weighs it."""

    def setUp(self):
        self.made = document(4)
        self.made["engine"] |= {"decompressor": True, "socket_mm": 16}
        self.made["inspection"] = {
            "history": "in-part", "order": [1, 3, 2, 4], "scope": [3, 1], "can_run": True,
            "engine_place": "installed", "fine_today": True, "complaint_when": ["cold", "load"],
            "complaint_how_often": "seldom", "complaint_since": "spring",
            "instruments": ["borescope"], "said": [{"id": "s1", "text": "tan", "cylinder": 3}],
        }  # fmt: skip
        self.made["cylinders"] = [{"number": 3, "plug": {"look": "fine", "cleaned": "wiped"}}]
        self.made["work"] = {
            "pieces": [{"id": "p1", "cylinder": 3, "what": "ceramic", "state": "found"}]
        }
        self.made["refit"] = {
            "repairs": [{"id": "r1", "cylinders": [3], "part": "coil", "action": "renewed"}]
        }
        self.made["proof"] = {
            "cylinders": [{"cylinder": 3, "percent": 8, "noise": "gone", "look": "fine"}]
        }

    def test_it_is_taken_and_what_changes_nothing_is_said_once(self):
        said = assess(check_document(self.made), explain=False)["warnings"]
        kept = [one for one in said if one["code"] == "not-weighed"]
        self.assertEqual(len(kept), 1)
        self.assertIn("since when", kept[0]["text"])
        plain = assess(check_document(document(4)), explain=False)["warnings"]
        self.assertEqual([one for one in plain if one["code"] == "not-weighed"], [])

    def test_a_glance_is_weaker_than_the_words_it_stands_for(self):
        def fouled(plug):
            made = {**document(4), "cylinders": [{"number": 2, "plug": plug}]}
            made["inspection"] = {"complaints": ["misfire"]}
            faults = assess(check_document(made), explain=False)["cylinders"][1]["faults"]
            return next(one["probability"] for one in faults if one["fault"] == "plug-fouled")

        nothing, glance = fouled({"part": "x"}), fouled({"look": "fine"})
        words = fouled({"deposit_colour": "tan", "deposit_amount": "light", "wetness": "dry"})
        self.assertGreater(nothing, glance)
        self.assertGreater(glance, words)

    def test_a_number_that_is_none_is_refused_at_its_place(self):
        for word in ("NaN", "Infinity", "-Infinity"):
            made = json.dumps(document(4, compression_ratio=9)).replace("9", word)
            with self.subTest(word=word), self.assertRaises(DocumentRefused) as refused:
                read_document(made.encode())
            self.assertEqual(refused.exception.problems[0].path, "/engine/compression_ratio")

    def test_more_than_a_record_holds_is_refused(self):
        few = {"cylinder": 1, "pressure": quantity(150, "psi")}
        tests = [{"id": f"t{at}", "kind": "dry", "readings": [few]} for at in range(41)]
        parts = [{"id": f"p{at}", "what": "clip"} for at in range(101)]
        for place, part in (
            ("/tests/compression", {"tests": {"compression": tests}}),
            ("/work/removed", {"work": {"removed": parts}}),
            (
                "/inspection/trouble_codes",
                {"inspection": {"trouble_codes": [f"P1{at:03d}" for at in range(101)]}},
            ),
        ):
            with self.subTest(place=place), self.assertRaises(DocumentRefused) as refused:
                check_document({**document(4), **part})
            self.assertEqual(refused.exception.problems[0].path, place)

    def test_a_cylinder_that_is_not_there_is_refused_wherever_it_is_named(self):
        for place, part in (
            ("/inspection/scope/0", {"inspection": {"scope": [5]}}),
            ("/inspection/said/0/cylinder", {"inspection": {"said": [{"id": "s", "cylinder": 9}]}}),
            ("/work/pieces/0/cylinder", {"work": {"pieces": [{"id": "p", "cylinder": 9}]}}),
            (
                "/refit/repairs/0/cylinders/0",
                {"refit": {"repairs": [{"id": "r", "cylinders": [9]}]}},
            ),
        ):
            with self.subTest(place=place), self.assertRaises(DocumentRefused) as refused:
                check_document({**document(4), **part})
            self.assertEqual(refused.exception.problems[0].path, place)


class TextTests(TestCase):
    def test_what_was_written_in_words_of_ones_own_and_codes_is_found_and_words_of_lists_are_not(
        self,
    ):
        made = document(4, title="Tender")
        made["inspection"] = {
            "note": "smelt of varnish",
            "trouble_codes": ["P0302"],
            "purpose": "rebuild",
        }
        made["cylinders"] = [{"number": 2, "note": "helicoil", "plug": {"deposit_colour": "tan"}}]
        made["refit"] = {"repairs": [{"id": "r1", "part": "coil", "part_number": "K-77"}]}
        made["house_rules"] = {"name": "Strict"}
        found = texts(check_document(made))
        self.assertEqual(found, ["Tender", "smelt of varnish", "P0302", "helicoil", "K-77"])


class DescriptionTests(TestCase):
    def test_each_place_of_the_schema_is_described(self):
        self.assertEqual(list(self.silent("", SCHEMA)), [])

    def silent(self, path, node):
        if "description" not in node:
            yield path
        if "x-dimension" in node:
            return
        for name, field in node.get("properties", {}).items():
            yield from self.silent(f"{path}/{name}", field)
        if "properties" in node.get("items", {}):
            yield from self.silent(f"{path}/*", {"description": "", **node["items"]})

    def test_nothing_is_described_that_does_not_exist(self):
        told = {name: set(fields) for name, fields in descriptions().items() if name != "any"}
        for name, described in told.items():
            with self.subTest(record=name):
                known = getattr(records, name).__struct_encode_fields__
                self.assertEqual(described - {*known, "itself"}, set())
