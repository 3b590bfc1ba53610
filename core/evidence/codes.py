"""What trouble codes say, by their numbers; SAE J2012 / ISO 15031-6."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence

# Beyond these the numbers name no cylinder.
MISFIRE = re.compile(r"^P03(0[1-9]|1[0-2])$")
# Entry -> what a code of its kind begins with, and the number of cylinder 1 less one.
OF_A_CYLINDER = {"code/injector": ("P02", 0), "code/coil": ("P03", 50)}
MOST_NUMBERED = 12
OF_ALL = {
    "P0300": "code/P0300",
    "P0171": "code/lean", "P0174": "code/lean",
    "P0172": "code/rich", "P0175": "code/rich",
    "P0087": "code/fuel-pressure",
    "P0016": "code/cam-timing", "P0017": "code/cam-timing",
    "P0018": "code/cam-timing", "P0019": "code/cam-timing",
    "P0217": "code/overheated",
}  # fmt: skip


# Of two banks, the one that a code names: bank 1 is the one with cylinder 1.
BANK = {"P0171": 1, "P0172": 1, "P0174": 2, "P0175": 2}


def of_both_banks(codes: Sequence[str]) -> set[str]:
    """Table entries of which both banks have their code."""
    named = {(OF_ALL[code], BANK[code]) for code in codes if code in BANK}
    return {entry for entry, _ in named if {(entry, 1), (entry, 2)} <= named}


def misfiring(codes: Sequence[str], cylinders: int) -> dict[int, str]:
    """Cylinders that a misfire code names, with the code."""
    found = {}
    for code in codes:
        match = MISFIRE.match(code)
        if match and int(match.group(1)) <= cylinders:
            found[int(match.group(1))] = code
    return found


def of_all(codes: Sequence[str]) -> Iterator[tuple[str, str]]:
    """Table entries of what codes say of the whole engine, each with its code."""
    for code in codes:
        if code in OF_ALL:
            yield OF_ALL[code], code


def of_cylinder(codes: Sequence[str], cylinder: int) -> Iterator[tuple[str, str]]:
    """Table entries of what codes say of one cylinder's injector and coil, each with its code."""
    for entry, code in _numbered(cylinder):
        if code in codes:
            yield entry, code


def _numbered(cylinder: int) -> Iterator[tuple[str, str]]:
    if cylinder <= MOST_NUMBERED:
        for entry, (begins, before) in OF_A_CYLINDER.items():
            yield entry, f"{begins}{before + cylinder:02d}"


def known(code: str) -> bool:
    """Whether any rule knows what a code says."""
    numbered = (one for at in range(1, MOST_NUMBERED + 1) for _, one in _numbered(at))
    return code in OF_ALL or MISFIRE.match(code) is not None or code in numbered
