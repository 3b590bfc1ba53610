"""The page that shows every number of the trade with its source."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from core.knowledge.tables import entries, raw_tables

TITLES = {
    "faults": "Faults and how common they are",
    "case": "What is claimed, and what was seen",
    "faces": "What a plug's firing end wears",
    "channels": "Findings that speak of a fault directly",
    "complaints": "What makes somebody complain",
    "contradictions": "Two records that cannot both be right",
    "habits": "What a whole engine may do by nature",
    "modifiers": "What is known beforehand",
    "pressure": "Pressures, leaks and the test's level",
    "judgement": "What to do with a plug, and what running it would do",
    "limits": "From where on something is said or asked",
    "consequences": "Consequences and grades",
    "tests": "Minutes for each test",
    "plan": "The order of the work",
    "bench": "New plugs, ignition and the proof",
    "calculators": "The calculators' formulae",
    "training": "The trainer",
}
UNSHOWN = ("source", "note", "cause", "labels", "example")


def page() -> str:
    """Markdown, generated from the tables."""
    lines = [
        "# What Fiacre knows, and from where",
        "",
        "Generated from the tables in `core/knowledge`; do not edit. Source kinds: *published*",
        "with its name, *practice* (common practice without a source), *memory* (from memory, to",
        "be confirmed).",
    ]
    tables = raw_tables()
    for name, title in TITLES.items():
        lines += ["", f"## {title}", "", "| entry | figures | source | note |", "|---|---|---|---|"]
        for path, entry in entries(tables[name]):
            label = (
                entry.get("id")
                or entry.get("finding")
                or entry.get("when")
                or entry.get("name")
                or ""
            )
            where = f"{path.lstrip('/')} {label}".strip()
            lines.append(f"| {where} | {_figures(entry)} | {entry['source']} | {entry['note']} |")
    return "\n".join(lines) + "\n"


def _figures(entry: Mapping[str, Any]) -> str:
    """The numbers of an entry in a line."""
    parts = []
    for key, value in entry.items():
        if key in UNSHOWN:
            continue
        if isinstance(value, int | float | str):
            parts.append(f"{key} {value}")
        elif isinstance(value, list) and value and not isinstance(value[0], dict):
            parts.append(f"{key} {', '.join(str(one) for one in value)}")
        elif isinstance(value, dict) and all(isinstance(v, int | float) for v in value.values()):
            inner = ", ".join(f"{word} {chance}" for word, chance in value.items())
            parts.append(f"{key}: {inner}")
    return "; ".join(parts).replace("|", "\\|")
