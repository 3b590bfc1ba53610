"""What every entry of a table that is read as records has."""

from __future__ import annotations

import msgspec


class Row(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """An entry of a table: where it comes from, and a word to it."""

    source: str
    note: str
