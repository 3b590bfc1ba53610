"""Nothing asked for is ignored in silence: every place is weighed, used otherwise, or named."""

from unittest import TestCase

from core.document import SCHEMA, check_document
from core.evidence.kept import KEPT, USED, WEIGHED
from core.telling import assess
from core.tests.documents import document


def places(schema, path=""):
    """Every place of the contract, an item of a list as *."""
    items = schema.get("items", {})
    if "x-key" in schema or "properties" in items:
        yield from places(items, f"{path}/*")
    elif "properties" in schema and "x-dimension" not in schema:
        for field, inner in schema["properties"].items():
            yield from places(inner, f"{path}/{field}")
    else:
        yield path


def holds(pattern, place):
    return place == pattern or (pattern.endswith("/*") and place.startswith(pattern[:-1]))


class KeptTests(TestCase):
    def test_every_place_of_the_contract_is_weighed_used_or_named(self):
        everything = list(places(SCHEMA))
        self.assertGreater(len(everything), 300)
        told = (*KEPT, *WEIGHED, *USED)
        missing = [one for one in everything if not any(holds(pattern, one) for pattern in told)]
        self.assertEqual(missing, [])
        stale = [one for one in told if not any(holds(one, place) for place in everything)]
        self.assertEqual(stale, [])

    def test_a_word_and_a_code_that_nothing_weighs_are_named(self):
        made = document(4)
        made["cylinders"] = [{"number": 2, "plug": {"threads": ["corroded"]}}]
        made["inspection"] = {"trouble_codes": ["P0455", "P0171"], "complaint_since": "May"}
        said = assess(check_document(made), explain=False)["warnings"]
        text = next(one["text"] for one in said if one["code"] == "not-weighed")
        for words in ("corroded on threads", "P0455", "since when"):
            self.assertIn(words, text)
        self.assertNotIn("P0171", text)
