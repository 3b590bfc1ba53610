"""Two records that cannot both be right, whatever the engine: the pairs of the table, found."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from core.caution import Caution
from core.document.records import Document, Record
from core.evidence.findings import swap_path, swap_result
from core.knowledge.contradictions import Pair, pairs
from core.language import later, say

Facts = Mapping[str, tuple[frozenset[str], str]]
"""By place what was said there, in words, and where it stands in the record."""

TOLD = {
    "both": later("Cylinder {cylinder}: {text} Read both again; neither is weighed until then."),
    "other": later("Cylinder {cylinder}: {text} Look again; the second is not weighed until then."),
    "none": later("Cylinder {cylinder}: {text} Which is meant?"),
}
SOMETHING = "something"  # A figure above zero.


def impossible(document: Document) -> Iterator[Caution]:
    """Every pair of the table that a record holds both of."""
    engine = _of_engine(document)
    for number in range(1, document.engine.cylinders + 1):
        own = {**engine, **_of_cylinder(document, number)}
        for row in pairs():
            if {row.one[0], row.other[0]} != {"/"} and _holds(row, own):
                yield _caution(
                    row, own, say(TOLD[row.doubts], cylinder=number, text=say(row.says)), number
                )
    for row in pairs():
        if row.one[0] == row.other[0] == "/" and _holds(row, engine):
            yield _caution(row, engine, say(row.says), 0)


def _holds(row: Pair, facts: Facts) -> bool:
    return all(
        place in facts and (not wanted or facts[place][0] & set(wanted))
        for place, wanted in ((row.one, row.words), (row.other, row.means))
    )


def _caution(row: Pair, facts: Facts, told: str, cylinder: int) -> Caution:
    one, other = facts[row.one][1], facts[row.other][1]
    if row.doubts == "other":
        return Caution("contradiction", other, told, True, cylinder=cylinder)
    doubts = row.doubts == "both"
    return Caution("contradiction", one, told, doubts, beside=other, cylinder=cylinder)


def _of_engine(document: Document) -> dict[str, tuple[frozenset[str], str]]:
    found = {}
    for group in ("engine", "inspection", "distributor"):
        for field, words in _said(getattr(document, group)):
            found[f"/{group}/{field}"] = words, f"/{group}/{field}"
    return found


def _of_cylinder(document: Document, number: int) -> dict[str, tuple[frozenset[str], str]]:
    found: dict[str, tuple[frozenset[str], str]] = {}
    record, base = document.cylinder(number), f"/cylinders/{number}"
    for group in ("well", "plug", "borescope"):
        for field, words in _said(getattr(record, group)):
            found[f"{group}/{field}"] = words, f"{base}/{group}/{field}"
    for field in ("boot", "coil"):
        if listed := getattr(record, field):
            found[field] = frozenset(listed), f"{base}/{field}"
    tests = document.tests
    for spark in (one for one in tests.spark if one.cylinder == number and one.result):
        if spark.condition != "open-air":
            found["spark"] = frozenset({str(spark.result)}), f"/tests/spark/{number}/result"
    for injector in (one for one in tests.injector if one.cylinder == number):
        for field, words in _said(injector):
            found[f"injector/{field}"] = words, f"/tests/injector/{number}/{field}"
    for balance in (one for one in tests.balance if one.cylinder == number):
        felt = frozenset({balance.felt}) if balance.felt else frozenset[str]()
        if felt or balance.rpm_drop is not None:
            found["balance"] = felt, f"/tests/balance/{number}"
    if any(one.cylinder == number and one.count for one in tests.misfires):
        found["misfires"] = frozenset({SOMETHING}), f"/tests/misfires/{number}/count"
    for look in (one for one in tests.port_look if one.cylinder == number and one.piston):
        found["port_look"] = frozenset({str(look.piston)}), f"/tests/port_look/{number}/piston"
    for swap in (one for one in tests.swap if one.source == number):
        found[f"swap/{swap.part}"] = frozenset({swap_result(swap) or ""}), swap_path(swap)
    return found


def _said(record: Record) -> Iterator[tuple[str, frozenset[str]]]:
    """Every field of a group with its words; of a figure that something was read."""
    for field, value in record.items():
        if isinstance(value, bool):
            yield field, frozenset({"yes" if value else "no"})
        elif isinstance(value, str):
            yield field, frozenset({value})
        elif isinstance(value, tuple) and all(isinstance(one, str) for one in value):
            yield field, frozenset(value)
        elif value is not None:
            yield field, frozenset({SOMETHING})
