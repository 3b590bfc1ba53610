"""Who shares a coil, a distributor or a carburettor: companions fail together."""

from __future__ import annotations

from dataclasses import dataclass

from core.document.records import Engine
from core.language import listed, say


@dataclass(frozen=True)
class Group:
    """Cylinders that hang on one part."""

    name: str
    cylinders: tuple[int, ...]
    is_coil: bool = False

    @property
    def said(self) -> str:
        """What it is called in a sentence; its name is what records know it by."""
        if self.is_coil:
            return say("coil of {cylinders}", cylinders=listed(self.cylinders))
        return self.name


def coil_groups(engine: Engine) -> tuple[Group, ...]:
    """Cylinders that share a coil.

    With a wasted spark, the two cylinders half a firing order apart share one: one fires on
    compression while the other's spark is wasted. Coil-on-plug shares nothing; a distributor
    or magneto is shared by all, which the engine's own `ignition-weak` stands for.
    """
    order = engine.firing_order
    if engine.ignition != "wasted-spark" or not order or len(order) % 2:
        return ()
    half = len(order) // 2
    pairs = [tuple(sorted((order[at], order[at + half]))) for at in range(half)]
    return tuple(Group(f"coil of {a} and {b}", (a, b), is_coil=True) for a, b in sorted(pairs))


def feed_groups(engine: Engine) -> tuple[Group, ...]:
    """Cylinders that share a carburettor or throttle, where the engine has more than one."""
    if len(engine.feeds) < 2:
        return ()
    return tuple(Group(feed.name, feed.cylinders) for feed in engine.feeds)
