"""From a document to findings: each what it is, where it stands, and how it is said."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from statistics import median
from typing import Any

from core.document.readings import final_of
from core.knowledge import knowledge
from core.quantities import Dimension, Quantity, length_mm, percent, pressure_pa

MISFIRE_CODE = re.compile(r"^P03(0[1-9]|1[0-2])$")  # Beyond P0312 they name no cylinder.
NARROW, OVER, WIDE = 0.8, 1.08, 1.2
SAME_FIGURE = 1e-6  # One figure in two units is one figure.
PUFF_LOW, PUFF_HIGH = 0.88, 1.1  # First puff over final, over the others' middle.
LEAST_COUNT, COUNT_FACTOR = 10, 3.0
FACE_WORDS = (
    "deposit_colour",
    "deposit_texture",
    "deposit_amount",
    "wetness",
    "wet_with",
    "smell",
)
DIRECT_PLUG = ("seating", "type_match", "insulator", "centre_electrode", "ground_electrode")
TAGGED = {"boot": "boot", "coil": "coil", "plug/outside": "outside", "plug/threads": "threads"}


@dataclass(frozen=True)
class Finding:
    """One thing recorded about one cylinder.

    `channel` names the table that weighs it: a word of the face ("plug/..." in the face words),
    something heard of a misfire, or a channel of its own.
    """

    cylinder: int
    channel: str
    value: str
    path: str
    text: str


def record_of(document: dict[str, Any], cylinder: int) -> dict[str, Any]:
    """What was recorded of one cylinder; empty if nothing was."""
    records = document.get("cylinders", [])
    return next((record for record in records if record["number"] == cylinder), {})


def findings(document: dict[str, Any], doubted: frozenset[str] = frozenset()) -> list[Finding]:
    """Every finding in words; pressures are read by `pressures`.

    Parameters
    ----------
    document : dict
        A checked document.
    doubted : frozenset of str
        Paths of readings that are probably a slip of units: no evidence.

    Returns
    -------
    list of Finding
        In the order of the cylinders.
    """
    found: list[Finding] = []
    for record in document.get("cylinders", []):
        found.extend(_of_cylinder(record))
    found.extend(_gaps(document, doubted))
    found.extend(_of_tests(document))
    found.extend(_first_puffs(document))
    return [finding for finding in found if finding.text]


def _finding(cylinder: int, channel: str, value: str, path: str, figure: str = "") -> Finding:
    phrase = knowledge().phrases.get(channel, {}).get(value, "")
    return Finding(cylinder, channel, value, path, phrase.replace("{value}", figure))


def _of_cylinder(record: dict[str, Any]) -> Iterator[Finding]:
    number = record["number"]
    base = f"/cylinders/{number}"
    for field, value in record.get("well", {}).items():
        yield _finding(number, f"well/{field}", value, f"{base}/well/{field}")
    plug = record.get("plug", {})
    named = any(field in plug for field in FACE_WORDS)
    # Who named the face has said all that a glance could.
    fields = (*DIRECT_PLUG, *FACE_WORDS) if named else (*DIRECT_PLUG, "look")
    for field in fields:
        if field in plug:
            yield _finding(number, f"plug/{field}", plug[field], f"{base}/plug/{field}")
    for field in ("gap_bridged", "gap_closed"):
        if field in plug:
            value = "yes" if plug[field] else "no"
            yield _finding(number, f"plug/{field}", value, f"{base}/plug/{field}")
    for field, value in record.get("borescope", {}).items():
        word = ("yes" if value else "no") if isinstance(value, bool) else str(value)
        yield _finding(number, f"borescope/{field}", word, f"{base}/borescope/{field}")
    for place, field in TAGGED.items():
        noted = record.get(field) if place == field else plug.get(field)
        if noted:
            yield from _tags(number, place, noted, f"{base}/{place}")


def _tags(number: int, place: str, noted: list[str], path: str) -> Iterator[Finding]:
    """A list that was filled in says of every word whether it was seen."""
    for word, channel in _tag_channels()[place]:
        yield _finding(number, channel, "yes" if word in noted else "no", path)


@cache
def _tag_channels() -> dict[str, list[tuple[str, str]]]:
    """By place, every word of its list with the channel that weighs it."""
    found: dict[str, list[tuple[str, str]]] = {place: [] for place in TAGGED}
    for channel in knowledge().channels:
        place, _, word = channel.partition(":")
        if word:
            found[place].append((word, channel))
    return found


def _gaps(document: dict[str, Any], doubted: frozenset[str]) -> Iterator[Finding]:
    """Each gap against the specification, or else against the other plugs' middle."""
    measured: dict[int, dict[str, Any]] = {}
    for record in document.get("cylinders", []):
        gap = gap_of(record.get("plug", {}))
        if gap and f"/cylinders/{record['number']}/plug/gap" not in doubted:
            measured[record["number"]] = gap
    wanted = specified_gap_mm(document)
    for number, gap in measured.items():
        others = [length_mm(other) for at, other in measured.items() if at != number]
        reference = wanted or (median(others) if len(others) >= 2 else None)
        if reference is None:
            continue
        ratio = length_mm(gap) / reference
        band = (
            "within"
            if _specified(document, gap)
            else "narrow"
            if ratio < NARROW
            else "within"
            if ratio < OVER
            else "over"
            if ratio < WIDE
            else "wide"
        )
        spoken = Quantity.read(gap, Dimension.LENGTH).spoken()
        yield _finding(number, "gap_ratio", band, f"/cylinders/{number}/plug/gap", spoken)


def _specified(document: dict[str, Any], gap: dict[str, Any]) -> bool:
    """Whether a gap lies in the range that the specification gives, in whatever units."""
    specification = document["engine"].get("specification", {})
    if not {"gap_min", "gap_max"} <= specification.keys():
        return False
    low, high = length_mm(specification["gap_min"]), length_mm(specification["gap_max"])
    return low * (1 - SAME_FIGURE) <= length_mm(gap) <= high * (1 + SAME_FIGURE)


def gap_of(plug: dict[str, Any]) -> dict[str, Any] | None:
    """A plug's gap as measured, or else the middle of a blade that passes and one that does not."""
    if "gap" in plug or not {"gap_passes", "gap_refuses"} <= plug.keys():
        given: dict[str, Any] | None = plug.get("gap")
        return given
    passes, refuses = length_mm(plug["gap_passes"]), length_mm(plug["gap_refuses"])
    return {"value": (passes + refuses) / 2, "unit": "mm"} if passes <= refuses else None


def specified_gap_mm(document: dict[str, Any]) -> float | None:
    """The widest gap the specification allows, or the one figure it gives. [mm]"""
    specification = document["engine"].get("specification", {})
    given = specification.get("gap_max") or specification.get("gap_min")
    return length_mm(given) if given else None


def coded_cylinders(document: dict[str, Any]) -> dict[int, str]:
    """Cylinders that a misfire code names, with the code."""
    count = document["engine"]["cylinders"]
    coded: dict[int, str] = {}
    for code in document.get("inspection", {}).get("trouble_codes", []):
        match = MISFIRE_CODE.match(code)
        if match and int(match.group(1)) <= count:
            coded[int(match.group(1))] = code
    return coded


def _of_tests(document: dict[str, Any]) -> Iterator[Finding]:
    tests = document.get("tests", {})
    coded = coded_cylinders(document)
    for number in range(1, document["engine"]["cylinders"] + 1) if coded else ():
        value = "coded" if number in coded else "silent"
        code = coded.get(number, "")
        yield _finding(number, "trouble_code", value, "/inspection/trouble_codes", code)
    for item in tests.get("noise", []):
        if item.get("kind") == "puff":
            path = f"/tests/noise/{item['cylinder']}/kind"
            yield _finding(item["cylinder"], "noise", "puff", path)
    for item in tests.get("spark", []):
        if "result" in item:
            channel = f"spark/{item.get('condition', 'tester')}"
            path = f"/tests/spark/{item['cylinder']}/result"
            yield _finding(item["cylinder"], channel, item["result"], path)
    for item in tests.get("injector", []):
        for field in ("pulse", "flow"):
            if field in item:
                path = f"/tests/injector/{item['cylinder']}/{field}"
                yield _finding(item["cylinder"], f"injector/{field}", item[field], path)
    for item in tests.get("reread", []):
        if "result" in item:
            path = f"/tests/reread/{item['cylinder']}/result"
            yield _finding(item["cylinder"], "reread", item["result"], path)
    for item in tests.get("port_look", []):
        if "piston" in item:
            path = f"/tests/port_look/{item['cylinder']}/piston"
            yield _finding(item["cylinder"], "port_look", item["piston"], path)
    yield from _balance(tests.get("balance", []))
    yield from _misfires(tests.get("misfires", []))
    for item in tests.get("swap", []):
        result = swap_result(item)
        if result is not None:
            path = f"/tests/swap/{item['id']}/result" if "id" in item else "/tests/swap"
            yield _finding(item["from"], f"swap/{item['part']}", result, path)


def _first_puffs(document: dict[str, Any]) -> Iterator[Finding]:
    """First puff over final, against the same gauge's other cylinders; two say nothing."""
    for test in document.get("tests", {}).get("compression", []):
        shares = {}
        for item in test.get("readings", []):
            strokes = [pressure_pa(raw) for raw in item.get("strokes", [])]
            last = final_of(item)
            final = pressure_pa(last) if last else 0.0
            if test["kind"] == "dry" and strokes and 0 < strokes[0] <= final:
                shares[item["cylinder"]] = strokes[0] / final
        for cylinder, share in shares.items():
            others = [other for at, other in shares.items() if at != cylinder]
            if len(others) < 2:
                continue
            ratio = share / median(others)
            value = "builds" if ratio < PUFF_LOW else "stays" if ratio > PUFF_HIGH else "alike"
            path = f"/tests/compression/{test.get('id', '')}/readings/{cylinder}/strokes"
            figure = f"{percent(share)} of the final, the others' {percent(median(others))}"
            yield _finding(cylinder, "first_puff", value, path, figure)


def swap_result(swap: dict[str, Any]) -> str | None:
    """moved, stayed or vanished; None while unclear. The contract allows either field."""
    if "result" in swap:
        return None if swap["result"] == "unclear" else str(swap["result"])
    if "fault_moved" in swap:
        return "moved" if swap["fault_moved"] else "stayed"
    return None


def _balance(items: list[dict[str, Any]]) -> Iterator[Finding]:
    drops = [item["rpm_drop"] for item in items if "rpm_drop" in item]
    middle = median(drops) if len(drops) >= 3 else None
    for item in items:
        felt = item.get("felt")
        if felt is None and middle is not None and middle > 0 and "rpm_drop" in item:
            share = item["rpm_drop"] / middle
            felt = "none" if share < 0.25 else "slight" if share < 0.6 else "clear"
        if felt is not None:
            path = f"/tests/balance/{item['cylinder']}"
            yield _finding(item["cylinder"], "balance", felt, path)


def _misfires(items: list[dict[str, Any]]) -> Iterator[Finding]:
    counts = {item["cylinder"]: item["count"] for item in items if "count" in item}
    for cylinder, count in counts.items():
        others = [other for at, other in counts.items() if at != cylinder]
        middle = median(others) if others else 0
        many = count >= max(LEAST_COUNT, COUNT_FACTOR * middle)
        value = "many" if many else "few"
        path = f"/tests/misfires/{cylinder}/count"
        yield _finding(cylinder, "misfires", value, path, str(count))
