"""Reading plugs for practice: a firing end is drawn, the apprentice names what made it so."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from core.knowledge import knowledge

FIELDS = ("deposit_colour", "deposit_texture", "deposit_amount", "wetness", "wet_with", "smell")
TELLING = 0.7  # A face is asked only if its words tell it so well from the others.
OFFERED = 4
MOST_DRAWS = 200
LAST = 12  # Readings that are looked back on for what was taken for what.


@dataclass(frozen=True)
class Reading:
    """What a plug was, and what somebody called it."""

    face: str
    answered: str


@dataclass(frozen=True)
class Question:
    """A plug to be named.

    Attributes
    ----------
    face : str
        What it is.
    plug : mapping of field to word
        What is seen.
    offered : tuple of str
        The answers, that one among them.
    chances : mapping of face to chance
        How well what is seen tells them apart.
    """

    face: str
    plug: Mapping[str, str]
    offered: tuple[str, ...]
    chances: Mapping[str, float]


def faces() -> Mapping[str, Mapping[str, Any]]:
    """What there is to be named, with what each shows and proves."""
    faces: Mapping[str, Mapping[str, Any]] = knowledge().training["face"]
    return faces


def question(history: Sequence[Reading], seed: int) -> Question:
    """The next plug to be named; the same history and seed give the same one."""
    random = np.random.default_rng([seed, len(history)])
    face = _next(history, random)
    plug = _drawn(face, random)
    for _ in range(MOST_DRAWS):
        if told_by(plug)[face] >= TELLING:
            break
        plug = _drawn(face, random)
    chances = told_by(plug)
    others = sorted((one for one in faces() if one != face), key=lambda one: -chances[one])
    mistaken = [one.answered for one in history[-LAST:] if one.face == face != one.answered]
    near = list(dict.fromkeys([*mistaken, *others]))[: OFFERED - 1]
    offered = [face, *near]
    order = random.permutation(len(offered))
    return Question(face, plug, tuple(offered[at] for at in order), chances)


def _next(history: Sequence[Reading], random: np.random.Generator) -> str:
    """Which face is due: each time it is named rightly it comes half as often (Leitner), and what
    was taken for another lately comes twice as often, and the other with it."""
    known = list(faces())
    run = dict.fromkeys(known, 0)
    for one in history:
        run[one.face] = run.get(one.face, 0) + 1 if one.answered == one.face else 0
    weights = {face: 0.5 ** min(run[face], 5) for face in known}
    for one in history[-LAST:]:
        if one.answered != one.face:
            for face in {one.face, one.answered} & weights.keys():
                weights[face] *= 2
    if history:  # Not the same twice running.
        weights[history[-1].face] = 0.0
    chances = np.array([weights[face] for face in known])
    return known[int(random.choice(len(known), p=chances / chances.sum()))]


def _drawn(face: str, random: np.random.Generator) -> dict[str, str]:
    """What such a plug shows, in one person's words."""
    names = knowledge().faces.values
    at = names.index(face)
    plug: dict[str, str] = {}
    for field in FIELDS:
        if field == "wet_with" and plug.get("wetness") == "dry":
            continue
        rows = knowledge().face_words[field]
        chances = np.array([row[at] for row in rows.values()])
        plug[field] = list(rows)[int(random.choice(len(rows), p=chances / chances.sum()))]
    return plug


def told_by(plug: Mapping[str, str]) -> dict[str, float]:
    """The chance of each face given what is seen, all of them alike beforehand."""
    names = knowledge().faces.values
    total = np.ones(len(names))
    for field, word in plug.items():
        total *= np.array(knowledge().face_words[field][word])
    wanted = {face: float(total[names.index(face)]) for face in faces()}
    everything = sum(wanted.values())
    return {face: chance / everything for face, chance in wanted.items()}


def confusions(history: Sequence[Reading]) -> list[tuple[str, str, int]]:
    """What was taken for what, and how often, the commonest first."""
    wrong = Counter((one.face, one.answered) for one in history if one.answered != one.face)
    return [(face, answered, times) for (face, answered), times in wrong.most_common()]
