"""What a record may hold that nothing weighs yet: kept, shown, and said once a document."""

from __future__ import annotations

from collections.abc import Iterator

from core.caution import Caution
from core.diagnosis import codes
from core.diagnosis.pressures import not_counted
from core.document.records import Document

# By place in the document, an item of a list as *: how it is called.
KEPT = {
    "/inspection/history": "how far the history is known",
    "/inspection/engine_place": "where the engine stands",
    "/inspection/can_run": "whether it can run",
    "/inspection/complaint_when": "when the complaint comes",
    "/inspection/complaint_how_often": "how often it comes",
    "/inspection/complaint_since": "since when",
    "/inspection/instruments": "the instruments at hand",
    "/cylinders/*/plug/cleaned": "how plugs were cleaned",
    "/work/pieces/*": "pieces of plugs, missing or found",
    "/refit/repairs/*": "repairs",
    "/proof/cylinders/*/percent": "leak-down after the work",
    "/proof/cylinders/*/wet_pressure": "wet compression after the work",
    "/proof/cylinders/*/combustion_leak": "gas at the well after the work",
    "/proof/cylinders/*/noise": "the noise after the work",
    "/proof/cylinders/*/look": "how plugs look after the work",
    "/proof/cylinders/*/deposit_colour": "deposit colours after the work",
    "/proof/cylinders/*/wetness": "wet or dry after the work",
}


def not_weighed(document: Document) -> Iterator[Caution]:
    """One warning that names everything that was recorded and changes no answer."""
    found = {place: KEPT[place] for place in KEPT if _holds(document, place.split("/")[1:])}
    unknown = [code for code in document.inspection.trouble_codes if not codes.known(code)]
    if unknown:
        found["/inspection/trouble_codes"] = f"codes that no rule knows ({', '.join(unknown)})"
    older = not_counted(document)
    if older:
        found["/tests/compression"] = f"{older} older readings of cylinders read time and again"
    if found:
        named = ", ".join(found.values())
        yield Caution(
            "not-weighed", next(iter(found)).split("/*")[0], f"Kept, and not weighed: {named}."
        )


def _holds(value: object, steps: list[str]) -> bool:
    if not steps:
        return value is not None and value != ()
    if steps[0] == "*":
        assert isinstance(value, tuple)
        return any(_holds(item, steps[1:]) for item in value)
    return _holds(getattr(value, steps[0]), steps[1:])
