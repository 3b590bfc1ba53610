"""What nobody may build on until it was read again: disqualified, contradicted, slipped."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from core.assessment import ReadAgain
from core.caution import Caution
from core.document.readings import final_of, made
from core.document.records import Document
from core.language import later, say

QUALITY = {
    "seal-leak": later("its seal leaked: it was not made"),
    "doubtful": later("it was marked doubtful: it was not made"),
}


def read_again(document: Document, cautions: Sequence[Caution]) -> Iterator[ReadAgain]:
    """Every entry that is to be read again, each once, what was not made first."""
    seen = set()
    for path, why in _not_made(document):
        seen.add(path)
        yield ReadAgain(path, "", why)
    for one in cautions:
        again = one.doubts and one.code != "two-gauges"
        quarrels = one.beside and one.path.startswith("/cylinders/")
        looked = quarrels or one.path.startswith("/tests/")
        if again and looked and one.path not in seen:
            seen.add(one.path)
            yield ReadAgain(one.path, one.beside, one.text)


def _not_made(document: Document) -> Iterator[tuple[str, str]]:
    for test in document.tests.compression:
        for item in test.readings:
            if not made(item) and item.quality:
                path = f"/tests/compression/{test.id}/readings/{item.cylinder}"
                yield path, say(QUALITY[item.quality])


def unread(document: Document) -> list[int]:
    """Cylinders whose dry reading was disqualified, and of which there is no other."""
    dry = [item for test in document.tests.compression if test.kind == "dry"
           for item in test.readings]  # fmt: skip
    good = {item.cylinder for item in dry if made(item) and final_of(item)}
    return sorted({item.cylinder for item in dry if not made(item)} - good)
