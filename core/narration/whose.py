"""Whose it is: cylinders by number, by place, by group, by what was named before."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from core.narration.grammar import Grammar

Cylinders = tuple[int, ...]
MOST = 24


class Whose:
    """Knows the engine's cylinders and who was spoken of last.

    Attributes
    ----------
    count : int
        0 where nobody knows how many there are.
    last : tuple of int
        Whom the last clause spoke of.
    named : list of int
        Everybody who was named so far, in order.
    """

    def __init__(self, document: Mapping[str, Any] | None, grammar: Grammar) -> None:
        self.grammar = grammar
        engine = document["engine"] if document else {}
        self.count = int(engine.get("cylinders", 0))
        order = (document or {}).get("inspection", {}).get("order", [])
        self.order: list[int] = list(order) or list(range(1, self.count + 1))
        self.last: Cylinders = (1,) if self.count == 1 else ()
        self.before: Cylinders = ()
        self.named: list[int] = []
        self.step = 1
        self._next: Cylinders = ()
        self.groups = self._groups(engine)

    def _groups(self, engine: Mapping[str, Any]) -> dict[str, Cylinders]:
        banks = engine.get("banks", [])
        found = {one["name"].lower(): tuple(one["cylinders"]) for one in banks}
        whom = self.grammar.whom
        names = whom["places_of_three"] if self.count == 3 else {}
        if self.count == 2 and not banks:
            names = whom["of_two"]
        for name, number in names.items():
            found.setdefault(name, (number,))
        if "rear" in found:
            found.setdefault("back", found["rear"])
        for name in list(found):
            for noun in ("bank", "side", "one", "pot", "cylinder"):
                found.setdefault(f"{name} {noun}", found[name])
        return found

    def is_cylinder(self, value: float) -> bool:
        return value == int(value) and 1 <= value <= (self.count or 12)

    def everybody(self) -> Cylinders:
        return tuple(self.order) if self.order else tuple(sorted(set(self.named)))

    def name(self, cylinders: Sequence[int]) -> None:
        """Somebody is spoken of from here on."""
        own = tuple(cylinders)
        if len(own) == 1 and len(self.last) == 1 and own != self.last:
            ahead = self._at(own[0]) - self._at(self.last[0])
            self.step = -1 if ahead == -1 else 1
        if not set(self.last) <= set(own):  # Three, then three and four: the same are spoken of.
            self.before = self.last
        self.last = own
        self.named += [one for one in own if one not in self.named]

    def _at(self, cylinder: int) -> int:
        return self.order.index(cylinder) if cylinder in self.order else cylinder

    def opens(self) -> None:
        """A line begins: the next is the next of whoever was last before it."""
        self._next = self._following()

    def following(self) -> Cylinders:
        """The next of who was spoken of before this line."""
        return self._next

    def _following(self) -> Cylinders:
        """The next in the order in which they are gone through."""
        if len(self.last) != 1:
            return tuple(self.order[:1])
        at = self._at(self.last[0]) + self.step
        return (self.order[at],) if 0 <= at < len(self.order) else ()

    def resolve(self, kind: str, what: Any, number: int | None, said: Sequence[int]) -> Cylinders:
        """Whom a name means.

        Parameters
        ----------
        kind : str
            "all", "both", "rest", "next", "first", "last", "ordinal" or "group".
        number : int, optional
            The number behind it: first three, all four, port two.
        said : sequence of int
            Whoever was named in this line before.
        """
        match kind:
            case "group":
                return self._in_group(what, number)
            case "ordinal":
                if number and what == 1:
                    return tuple(self.order[:number])
                return (what,) if self.is_cylinder(what) else ()
            case "first":
                return tuple(self.order[: number or 1])
            case "last":
                return tuple(self.order[-(number or 1) :])
            case "rest":
                return self._rest(number, said)
            case "both":
                return self.everybody() if self.count == 2 else self._pair()
            case "odd" | "even":
                return tuple(one for one in self.order if one % 2 == (kind == "odd"))
            case "each":
                return tuple(said) if len(said) > 1 else self.everybody()
            case "next":
                return self.following()
        for group in (tuple(said), self.last):
            if number is not None and number == len(group):
                return group  # The rear ones out, all three tight.
        return self.everybody()

    def _in_group(self, group: Cylinders, number: int | None) -> Cylinders:
        if number is None or (number == len(group) and number not in group):
            return group
        if number in group:
            return (number,)
        return (group[number - 1],) if 1 <= number <= len(group) else ()

    def _pair(self) -> Cylinders:
        if len(self.last) == 2:
            return self.last
        return (*self.before, *self.last) if len(self.before) == len(self.last) == 1 else ()

    def _rest(self, number: int | None, said: Sequence[int]) -> Cylinders:
        """Everybody but who was named in this line, or else but who was spoken of last."""
        without = set(said) or set(self.last)
        found = tuple(one for one in self.order if one not in without)
        return found if number in (None, len(found)) else ()
