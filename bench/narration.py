"""How much of what is meant is proposed: on lines that were looked at, and on those set aside.

python -m bench.narration [--show]

A line is set aside by a rule that nobody chooses: its SHA-256 is odd. Those set aside are counted
and never shown. What was set aside of older lines has been opened since, to learn from; the lines
behind the mark "# opened" are newer, and the rule holds for them.
"""

from __future__ import annotations

import argparse
import hashlib
import re
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from core.document import FORMAT, VERSION, check_document
from core.narration import Heard, Listener

LINES = Path(__file__).parent.parent / "core" / "tests" / "narrated.txt"
OPENED = "# opened"
QUANTITY = re.compile(r"(-?[\d.]+)(mm|thou|in|psi|bar|kPa|N\.m|lbf\.ft)$")


@dataclass(frozen=True)
class Line:
    round: str
    cylinders: int
    text: str
    meant: dict[str, Any]
    asked: frozenset[str]
    opened: bool = False

    @property
    def set_aside(self) -> bool:
        return not self.opened and int(hashlib.sha256(self.text.encode()).hexdigest(), 16) % 2 == 1


def lines() -> Iterator[Line]:
    """The lines with what is meant by each."""
    text = LINES.read_text("utf-8")
    opened = OPENED in text
    for raw in text.splitlines():
        if raw == OPENED:
            opened = False
        if not raw.strip() or raw.startswith("#"):
            continue
        where, said, meant = (part.strip() for part in raw.split("|"))
        round_, count = where.split()
        told: dict[str, Any] = {}
        asked = set()
        for number, word in enumerate(meant.split()):
            if word.startswith("?"):
                asked.add(_path(word[1:]))
                continue
            name, _, value = word.partition("=")
            adds = name.endswith("+")
            if name == "off":
                told[f"off-{number}"] = value.replace("_", " ")
                continue
            path = _path(name.removesuffix("+"))
            told.setdefault(path, []).append(value) if adds else told.update({path: _value(value)})
        yield Line(round_, int(count), said, told, frozenset(asked), opened)


def _path(name: str) -> str:
    if "/" in name:
        return f"/{name}"
    number, _, field = name.partition(".")
    place = {
        "p": f"/tests/compression/0/readings/{number}/pressure",
        "ld": f"/tests/leakdown/0/readings/{number}/percent",
        "held": f"/tests/leakdown/0/readings/{number}/held",
        "escapes": f"/tests/leakdown/0/readings/{number}/escapes",
    }
    if field in place:
        return place[field]
    if field.startswith(("well.", "boot", "coil")):
        return f"/cylinders/{number}/{field.replace('.', '/')}"
    return f"/cylinders/{number}/plug/{field}"


def _value(text: str) -> Any:
    found = QUANTITY.match(text)
    if found:
        return {"value": float(found[1]), "unit": found[2]}
    if text in ("yes", "no"):
        return text == "yes"
    return float(text) if re.fullmatch(r"[\d.]+", text) else text


def heard(line: Line) -> Heard:
    """What is proposed for one line, on an engine of which nothing is known."""
    layout = "single" if line.cylinders == 1 else "inline"
    engine = {"cycle": "four-stroke", "layout": layout, "cylinders": line.cylinders}
    raw = {"format": FORMAT, "version": VERSION, "engine": engine}
    return Listener(check_document(raw), line.round).hear(line.text)


def judged(line: Line, said: Heard) -> Counter[str]:
    """How many of the observations meant were proposed, and how many were that nobody meant."""
    proposed = {
        re.sub(r"^/work/removed/off-(\d+)/what$", lambda m: f"off-{int(m[1]) - 1}", one.path):
        one.value
        for one in said.proposals
    }  # fmt: skip
    right = sum(path in proposed and proposed[path] == value for path, value in line.meant.items())
    asked = sum(any(q.path == path for q in said.questions) for path in line.asked)
    wrong = sum(line.meant.get(path) != value for path, value in proposed.items())
    return Counter(
        lines=1, meant=len(line.meant) + len(line.asked), right=right + asked, wrong=wrong,
        proposed=len(proposed), whole=int(right == len(line.meant) and not wrong),
    )  # fmt: skip


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--show", action="store_true", help="lines that went wrong, not set aside")
    options = parser.parse_args()
    told: dict[bool, Counter[str]] = {False: Counter(), True: Counter()}
    for line in lines():
        said = heard(line)
        counted = judged(line, said)
        told[line.set_aside] += counted
        if options.show and not line.set_aside and not counted["whole"]:
            print(line.round, "|", line.text)
            print("   meant", line.meant, set(line.asked) or "")
            print("   said ", {one.path: one.value for one in said.proposals}, said.not_understood,
                  [one.text for one in said.questions])  # fmt: skip
    print("lines          meant   proposed of them   wrongly proposed   lines wholly right")
    for aside, name in ((False, "looked at"), (True, "set aside")):
        one = told[aside]
        right, whole = one["right"] / one["meant"], one["whole"] / one["lines"]
        wrong = one["wrong"] / max(one["proposed"], 1)
        print(f"{name} {one['lines']:4d} {one['meant']:6d} {right:15.1%} {wrong:18.1%} "
              f"{whole:18.1%}")  # fmt: skip


if __name__ == "__main__":
    main()
