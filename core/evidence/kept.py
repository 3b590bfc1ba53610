"""What a record may hold that nothing weighs yet: kept, shown, and said once a document."""

from __future__ import annotations

from collections.abc import Iterator

from core.caution import Caution
from core.document.records import Document
from core.evidence import codes
from core.evidence.findings import unweighed_words
from core.evidence.pressures import not_counted
from core.language import later, say, word_said

# By place in the document, an item of a list as *: how it is called. These, WEIGHED and USED are
# all places of the contract: a test fails where a new one is in none of them.
KEPT = {
    "/inspection/ambient": later("the day's temperature"),
    "/inspection/complaint_since": later("since when"),
    "/tests/compression/*/oil": later("the dose of oil"),
    "/tests/leakdown/*/engine_temperature": later("how warm it was in the leak-down"),
}
# What moves the probabilities; a place ends in /* for everything in it.
WEIGHED = (
    "/engine/cycle", "/engine/layout", "/engine/cylinders", "/engine/banks/*",
    "/engine/firing_order", "/engine/fuel_system", "/engine/ignition", "/engine/cooling",
    "/engine/feeds/*", "/engine/bore", "/engine/stroke", "/engine/rod",
    "/engine/compression_ratio", "/engine/intake_closing_deg_abdc",
    "/engine/exhaust_closing_deg_abdc", "/engine/decompressor",
    "/engine/specification/compression_min", "/engine/specification/compression_max",
    "/engine/specification/gap_min", "/engine/specification/gap_max",
    "/engine/specification/plug_interval", "/engine/specification/plug_interval_years",
    "/inspection/plug_years", "/inspection/first_set", "/engine/specification/points_gap_min",
    "/engine/specification/points_gap_max", "/engine/specification/dwell_min_deg",
    "/engine/specification/dwell_max_deg", "/engine/specification/timing_deg_btdc",
    "/inspection/plug_distance", "/inspection/altitude_m", "/inspection/recent_work",
    "/inspection/last_run", "/inspection/codes_cleared_recently", "/inspection/complaint_when",
    "/inspection/complaint_how_often", "/inspection/fine_today", "/inspection/complaints",
    "/inspection/trouble_codes",
    "/cylinders/*/number", "/cylinders/*/well/*", "/cylinders/*/boot", "/cylinders/*/coil",
    "/cylinders/*/plug/look", "/cylinders/*/plug/seating", "/cylinders/*/plug/distance",
    "/cylinders/*/plug/type_match", "/cylinders/*/plug/outside", "/cylinders/*/plug/smell",
    "/cylinders/*/plug/threads", "/cylinders/*/plug/deposit_colour",
    "/cylinders/*/plug/deposit_texture", "/cylinders/*/plug/deposit_amount",
    "/cylinders/*/plug/wetness", "/cylinders/*/plug/wet_with", "/cylinders/*/plug/insulator",
    "/cylinders/*/plug/centre_electrode", "/cylinders/*/plug/ground_electrode",
    "/cylinders/*/plug/gap_bridged", "/cylinders/*/plug/gap_closed", "/cylinders/*/plug/gap",
    "/cylinders/*/plug/gap_passes", "/cylinders/*/plug/gap_refuses",
    "/cylinders/*/borescope/*", "/tests/*", "/distributor/*", "/house_rules/mixture",
    "/house_rules/odds",
    "/refit/repairs/*", "/refit/cylinders/*", "/proof/cylinders/*", "/proof/complaint",
    "/proof/codes", "/proof/drive",
)  # fmt: skip
# What is used otherwise: in the plan, the refit, the report, the schools, or as the record of it.
USED = (
    "/format", "/version", "/engine/aspiration", "/engine/title", "/engine/identifier",
    "/engine/trigger", "/engine/socket_mm", "/engine/tools/*",
    "/engine/specification/compression_max_spread",
    "/engine/specification/torque_new", "/engine/specification/torque_reused",
    "/engine/specification/plug_part", "/engine/specification/sources",
    "/engine/specification/electrode", "/engine/specification/seat",
    "/engine/specification/thread_mm", "/engine/specification/thread_length",
    "/engine/specification/reach", "/engine/specification/head",
    "/engine/specification/cam_lobes", "/engine/specification/pulley_diameter",
    "/engine/specification/premix_ratio", "/inspection/date", "/inspection/purpose",
    "/inspection/odometer", "/inspection/history", "/inspection/engine_place",
    "/inspection/can_run", "/inspection/instruments", "/inspection/order",
    "/inspection/scope", "/inspection/said/*",
    "/inspection/findings/*", "/inspection/not_inspected/*", "/inspection/note",
    "/inspection/photos", "/cylinders/*/plug/part", "/cylinders/*/plug/seat",
    "/cylinders/*/plug/thread_mm", "/cylinders/*/plug/thread_length", "/cylinders/*/plug/reach",
    "/cylinders/*/plug/cleaned", "/cylinders/*/access", "/cylinders/*/note",
    "/cylinders/*/photos", "/work/*", "/judgement/*",
    "/refit/*", "/proof/*", "/outcome/*", "/house_rules/*",
)  # fmt: skip


def not_weighed(document: Document) -> Iterator[Caution]:
    """One warning that names everything that was recorded and changes no answer."""
    found = {
        place: say(told) for place, told in KEPT.items() if _holds(document, place.split("/")[1:])
    }
    unknown = [code for code in document.inspection.trouble_codes if not codes.known(code)]
    if unknown:
        found["/inspection/trouble_codes"] = say(
            "codes that no rule knows ({unknown})", unknown=", ".join(unknown)
        )
    for place, word in unweighed_words(document):
        found[place] = say(
            "{word} on {place}", word=word_said(word), place=word_said(place.rsplit("/", 1)[1])
        )
    older = not_counted(document)
    if older:
        found["/tests/compression"] = say(
            "{older} older readings of cylinders read time and again", older=older
        )
    if found:
        named = ", ".join(found.values())
        yield Caution(
            "not-weighed",
            next(iter(found)).split("/*")[0],
            say("Kept, and not weighed: {named}.", named=named),
        )


def _holds(value: object, steps: list[str]) -> bool:
    if not steps:
        return value is not None and value != ()
    if steps[0] == "*":
        assert isinstance(value, tuple)
        return any(_holds(item, steps[1:]) for item in value)
    return _holds(getattr(value, steps[0]), steps[1:])
