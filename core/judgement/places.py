"""What cylinders share, as it is called."""

from __future__ import annotations

from collections.abc import Sequence

from core.language import say


def place_within(scope: str, name: str, cylinders: Sequence[int]) -> str:
    """What cylinders share, within a sentence.

    Parameters
    ----------
    scope : str
        `engine`, `bank`, `feed`, `coil` or `leads`.
    name : str
        How its people call it.
    cylinders : sequence of int
        Those that share it.
    """
    numbers = ", ".join(map(str, cylinders))
    match scope:
        case "engine":
            return say("the engine") if len(cylinders) == 1 else say("the whole engine")
        case "bank":
            return say("bank {name}", name=name)
        case "feed":
            return say("cylinders {numbers}, fed by {feed}", numbers=numbers, feed=name)
        case "coil":
            return say("the coil that cylinders {numbers} share", numbers=numbers)
        case _:
            return say("cylinders {numbers}", numbers=numbers)
