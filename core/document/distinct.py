"""What was written twice counts once: a list's items that differ in nothing but their id."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TypeVar

from msgspec import structs

from core.document.records import CompressionTest, Document, LeakdownTest, Swap

Item = TypeVar("Item", CompressionTest, LeakdownTest, Swap)


def distinct(document: Document) -> Document:
    """A document whose tests and swaps are each there once, the first of those that are alike."""
    tests = document.tests
    return structs.replace(
        document,
        tests=structs.replace(
            tests,
            compression=_once(tests.compression),
            leakdown=_once(tests.leakdown),
            swap=_once(tests.swap),
        ),
    )


def _once(items: Iterable[Item]) -> tuple[Item, ...]:
    first: dict[Item, Item] = {}
    for one in items:
        first.setdefault(structs.replace(one, id=""), one)
    return tuple(first.values())
