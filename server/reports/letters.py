"""Which letters the fonts that ship with a report can draw."""

from __future__ import annotations

import unicodedata
from functools import cache

from django.conf import settings

MOST_NAMED = 12


@cache
def drawn() -> frozenset[int]:
    """Every character that some font of the report has."""
    from fontTools.ttLib import TTFont  # Slow to import, and only reports need it.

    files = sorted(settings.REPORT_FONTS.glob("*.woff2"))
    return frozenset(code for file in files for code in TTFont(file, lazy=True).getBestCmap())


def missing(text: str) -> list[str]:
    """The letters of a text that no font of the report has, by their names, each once."""
    strange = [letter for letter in dict.fromkeys(text) if ord(letter) not in drawn()]
    told = [letter for letter in strange if unicodedata.category(letter)[0] not in "CZM"]
    return [unicodedata.name(letter, f"U+{ord(letter):04X}").lower() for letter in told][
        :MOST_NAMED
    ]
