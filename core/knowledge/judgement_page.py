"""The page that says every rule of the judgement in words, made from the tables."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Any

from core.knowledge.tables import raw_tables

HEAD = """# How Fiacre judges

Generated from the tables in `core/knowledge`; do not edit. The probabilities come first
(docs/diagnosis.md); this is what is made of them. Source kinds: *practice* (common practice, no
source), *memory* (from memory, to be confirmed), *published* with its name.
"""
AFTER = """
As found and as left are two verdicts of one model. What was put right loses its own faults, as the
table says; what was not touched keeps what was believed of it; what was read again is heard; the
complaint speaks of all that it came from. Where one kind of part alone was put right and the
complaint went, that speaks back on the engine as it was found; where two were, nobody can know
which it was, and that is said.
"""


def judgement_page() -> str:
    """Markdown, generated from the tables."""
    return HEAD + "".join(f"\n## {title}\n{body}" for title, body in _sections(raw_tables()))


def _sections(tables: Mapping[str, Any]) -> Iterator[tuple[str, str]]:
    judgement, consequences = tables["judgement"], tables["consequences"]
    yield (
        "The verdict",
        _table(
            ("rule", "source", "why"),
            ([one["rule"], one["source"], one["note"]] for one in judgement["verdict"]),
        ),
    )
    yield "What is claimed", _claimed(tables["case"])
    yield (
        "What was seen",
        _table(
            (
                "where",
                "what is said",
                "least grade",
                "lifted by",
                "then",
                "running",
                "source",
                "why",
            ),
            (_seen(one) for one in tables["case"]["seen"]),
        ),
    )
    grades = consequences["grades"]
    given = {key: value for key, value in grades.items() if isinstance(value, float)}
    yield "Grades", f"\n{grades['note']} (from {_named(given)}; {grades['source']}).\n"
    yield "What becomes of a plug", _table(
        ("its look", "young", "due or worn", "why", "source", "note"),
        ([one[key] for key in ("look", "young", "old", "reason", "source", "note")]
         for one in judgement["plug"]),
    )  # fmt: skip
    yield (
        "What running it would risk, the worst first",
        _table(
            ("hazard", "of which faults", "may it run", "what is said", "source", "note"),
            (_hazard(one) for one in judgement["hazard"]),
        ),
    )
    yield (
        "What to do next",
        _table(
            (
                "act",
                "what it tells",
                "minutes",
                "what it needs",
                "what each result means",
                "source",
            ),
            (_act(one) for one in tables["tests"].values()),
        ),
    )
    yield "What it may cost, in hours", _table(
        ("act", "for the job", "for each", "bad luck", "behind", "source", "note"),
        (_price(name, one) for name, one in consequences["act"].items()),
    ) + _table(
        ("way in", "hours", "bad luck", "source", "note"),
        ([name, one["once"], one["bad_once"], one["source"], one["note"]]
         for name, one in consequences["way"].items()),
    )  # fmt: skip
    yield "After the work", AFTER + _table(
        ("put right", "how", "of each fault there stays", "source", "note"),
        ([one["part"], one.get("action", "any"), _shares(one["leaves"]), one["source"], one["note"]]
         for one in judgement["repair"]),
    ) + _table(
        ("what happened", "factors on the odds", "source", "note"),
        ([label, _named({k: v for k, v in judgement[name].items() if isinstance(v, float)}),
          judgement[name]["source"], judgement[name]["note"]]
         for name, label in (("complaint_after", "the complaint, after the work"),
                             ("cured", "it went when one kind alone was put right"))),
    )  # fmt: skip


def _claimed(case: Mapping[str, Any]) -> str:
    """The ladder, the rules that claim by themselves, and what is said where the way is open."""
    rows = [
        [name, _named({k: v for k, v in case[key].items() if isinstance(v, int | float | str)
                       and k not in ("source", "note")}), case[key]["source"], case[key]["note"]]
        for name, key in (
            ("the ladder of chances", "ladder"), ("rules of acceptance", "acceptance"),
            ("how bad a leak is", "degree"), ("a grade as left is at least", "proof"),
        )
    ]  # fmt: skip
    topics = (
        [one["says"], ", ".join(one["faults"]), one["source"], one["note"]] for one in case["topic"]
    )
    return _table(("rule", "figures", "source", "why"), rows) + _table(
        ("where the way is open", "of which faults", "source", "why"), topics
    )


def _seen(one: Mapping[str, Any]) -> Sequence[Any]:
    where = f"{one['at']} {one['is']}"
    then = one.get("then", "") if "lifted" in one else ""
    lifts, row = one.get("lifts", "put right"), one.get("hazard", "")
    return [where, one["says"], one["grade"], lifts, then, row, one["source"], one["note"]]


def _hazard(one: Mapping[str, Any]) -> Sequence[Any]:
    answer = one["answer"]
    if "two_stroke" in one:
        answer += f", a two-stroke {one['two_stroke']}"
    faults = ", ".join(one.get("faults", ["what was seen"]))
    text = one["text"] + one.get("four_stroke", "") + one.get("catalyst", "")
    return [f"{one['row']} ({one['hazard']})", faults, answer, text, one["source"], one["note"]]


def _act(one: Mapping[str, Any]) -> Sequence[Any]:
    needs = [one["instrument"]] if "instrument" in one else []
    needs += [
        label for key, label in (("runs", "it runs"), ("way_in", "the way in")) if one.get(key)
    ]
    results = "; ".join(f"{result}: {means}" for result, means in one["results"])
    minutes = f"{one['setup']} and {one['each']} each"
    return [one["label"], one["tells"], minutes, ", ".join(needs), results, one["source"]]


def _price(name: str, one: Mapping[str, Any]) -> Sequence[Any]:
    unlucky = f"{one['bad_once']} and {one['bad_each']} each"
    way = one.get("way", "")
    return [name, one["once"], one["each"], unlucky, way, one["source"], one["note"]]


def _shares(leaves: Sequence[Sequence[Any]]) -> str:
    return ", ".join(f"{fault} {share}" for fault, share in leaves)


def _named(figures: Mapping[str, Any]) -> str:
    return ", ".join(f"{name} {value}" for name, value in figures.items())


def _table(head: Sequence[str], rows: Iterable[Sequence[Any]]) -> str:
    lines = [head, ["---"] * len(head), *rows]
    told = (
        "| " + " | ".join(str(cell).replace("|", "\\|") for cell in line) + " |" for line in lines
    )
    return "\n" + "\n".join(told) + "\n"
