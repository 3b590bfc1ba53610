"""What a person should look at before the answer is believed: records that cannot both be right,
tests run badly or not to the end, and slips of the pen.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from statistics import median_high

from core.caution import Caution
from core.document.readings import final_of, held_of
from core.document.records import CompressionTest, Document
from core.engine.layout import Arrangement
from core.evidence.beforehand import past_if_first, plug_age
from core.evidence.disagreements import disagreements
from core.evidence.impossible import impossible
from core.evidence.kept import not_weighed
from core.evidence.leakdowns import disagrees
from core.evidence.slips import gap_slips, numbering_slips, pressure_slips, torque_slips
from core.hidden.level import Expectation
from core.knowledge import knowledge
from core.knowledge.limits import limits
from core.language import say, word_said
from core.quantities import percent, pressure_pa
from core.refit.sheet import refit_cautions

WET_BELOW_DRY = limits().puff.wet_below_dry
FIRST_ABOVE_FINAL = limits().puff.above_final


def warnings(document: Document, expected: Expectation, arrangement: Arrangement) -> list[Caution]:
    """Every warning of a document, what is simply overdue first."""
    found: list[Caution] = []
    found.extend(overdue_plugs(document, arrangement))
    found.extend(unknown_history(document, arrangement))
    found.extend(gap_slips(document))
    found.extend(pressure_slips(document, expected))
    found.extend(test_conditions(document))
    found.extend(uneven_strokes(document))
    found.extend(contradictions(document))
    found.extend(disagreements(document))
    found.extend(impossible(document))
    found.extend(intermittent(document))
    found.extend(little_weight(document))
    found.extend(torque_slips(document))
    found.extend(numbering_slips(document))
    found.extend(incomplete(document, arrangement))
    found.extend(out_of_scope(document))
    found.extend(refit_cautions(document))
    found.extend(cleared(document))
    found.extend(not_weighed(document))
    return found


def doubted_by(cautions: Iterable[Caution]) -> frozenset[str]:
    """Paths of what is left out of the evidence until somebody has looked again."""
    doubting = [one for one in cautions if one.doubts]
    return frozenset(path for one in doubting for path in (one.path, one.beside, *one.also) if path)


def overdue_plugs(document: Document, arrangement: Arrangement) -> Iterator[Caution]:
    """Plugs past their interval: much trouble is only that, so it is said first."""
    ages = {number: plug_age(document, number) for number in arrangement.cylinders}
    late = {number: age for number, age in ages.items() if age is not None and age > 1}
    if late:
        where = (
            say("All plugs are")
            if len(late) == len(ages)
            else say("Overdue on {late}: the plugs are", late=_listed(late))
        )
        most = max(late.values())
        text = say(
            "{where} past their interval, by up to {most}: renew them before anything else is "
            "blamed.",
            where=where,
            most=percent(most - 1),
        )
        yield Caution("overdue", "/inspection/plug_distance", text)


def unknown_history(document: Document, arrangement: Arrangement) -> Iterator[Caution]:
    """Nobody knows how old the plugs are: said where no distance tells it after all."""
    ages = [plug_age(document, number) for number in arrangement.cylinders]
    if past_if_first(document):
        yield Caution(
            "history-unknown",
            "/inspection/first_set",
            say(
                "It has run further than a set of plugs lasts: are these the first set, or when "
                "were they renewed?"
            ),
        )
    if document.inspection.history == "unknown" and None in ages:
        yield Caution(
            "history-unknown",
            "/inspection/history",
            say(
                "Age and interval of the plugs are not known: renewing them is the usual "
                "answer, and what they wear may be older than today's trouble."
            ),
        )


def _listed(numbers: Iterable[int]) -> str:
    return ", ".join(str(number) for number in sorted(numbers))


def test_conditions(document: Document) -> Iterator[Caution]:
    """A test that was run cold, slowly or with the throttle closed."""
    slow = knowledge().pressure["conditions"]["slow_rpm"]
    for test in document.tests.compression:
        base = f"/tests/compression/{test.id}"
        if test.engine_temperature == "cold":
            yield Caution(
                "cold-test",
                f"{base}/engine_temperature",
                say(
                    "Read cold: all readings lie lower than warm ones; compare them with each "
                    "other, not with the specification."
                ),
            )
        if test.cranking_rpm is not None and test.cranking_rpm < slow:
            yield Caution(
                "slow-cranking",
                f"{base}/cranking_rpm",
                say(
                    "Cranked at {cranking_rpm:g} rpm: under {slow:g} every leak has more time. "
                    "Charge the battery and read again.",
                    cranking_rpm=test.cranking_rpm,
                    slow=slow,
                ),
            )
        if test.throttle == "closed":
            yield Caution(
                "closed-throttle",
                f"{base}/throttle",
                say(
                    "Read with the throttle closed: the cylinders could not fill. Hold it open "
                    "and read again."
                ),
            )


def uneven_strokes(document: Document) -> Iterator[Caution]:
    """A test in which some cylinders were cranked for more strokes than others.

    A single stroke is a first puff that was noted, not a count.
    """
    for test in document.tests.compression:
        counts = {
            item.cylinder: len(item.strokes) for item in test.readings if len(item.strokes) > 1
        }
        usual = test.puffs or (median_high(counts.values()) if counts else 0)
        off = [number for number, count in counts.items() if count != usual]
        if off:
            told = "; ".join(
                say("{number} had {counts}", number=number, counts=counts[number])
                for number in sorted(off)
            )
            yield Caution(
                "uneven-strokes",
                f"/tests/compression/{test.id}/puffs",
                say(
                    "Cranked unevenly: {told} strokes where the test says {usual}. Fewer "
                    "strokes read lower; give each cylinder the same.",
                    told=told,
                    usual=usual,
                ),
            )


def contradictions(document: Document) -> Iterator[Caution]:
    """Two records that cannot both be right."""
    compression = document.tests.compression
    dry = _by_cylinder(compression, "dry")
    for path, cylinder, wet in _readings(compression, "wet"):
        if cylinder in dry and wet < WET_BELOW_DRY * dry[cylinder]:
            text = say(
                "Cylinder {cylinder} reads lower wet than dry; oil cannot do that. Read again.",
                cylinder=cylinder,
            )
            yield Caution("inconsistent", path, text)
    for test in compression:
        for item in test.readings:
            path = f"/tests/compression/{test.id}/readings/{item.cylinder}/strokes"
            if item.strokes and item.pressure:
                first, final = pressure_pa(item.strokes[0]), pressure_pa(item.pressure)
                if first > FIRST_ABOVE_FINAL * final:
                    text = say(
                        "Cylinder {cylinder}: the first puff is above the final reading.",
                        cylinder=item.cylinder,
                    )
                    yield Caution("inconsistent", path, text)
    for leakdown in document.tests.leakdown:
        for reading in leakdown.readings:
            if held_of(leakdown, reading) is not None and disagrees(leakdown, reading):
                path = f"/tests/leakdown/{leakdown.id}/readings/{reading.cylinder}/held"
                text = say(
                    "Cylinder {cylinder}: percent, held pressure and supply do not agree; none "
                    "of them is used.",
                    cylinder=reading.cylinder,
                )
                yield Caution("inconsistent", path, text)


def intermittent(document: Document) -> Iterator[Caution]:
    """A code or a complaint that today's tests do not show stands all the same."""
    job = document.inspection
    came = [*job.trouble_codes, *(word_said(name) for name in job.complaints)]
    if job.fine_today and came:
        text = say(
            "It was fine today, and yet there was {came}: that comes and goes. Ask when, how "
            "often and since what, and look again under those conditions.",
            came=", ".join(came),
        )
        yield Caution("intermittent", "/inspection/fine_today", text)


def cleared(document: Document) -> Iterator[Caution]:
    """Codes that were cleared lately: that none is stored proves nothing yet."""
    if document.inspection.codes_cleared_recently:
        text = say(
            "Codes were cleared lately: that none is stored of a cylinder proves nothing until "
            "its monitor has run again. Ask why they were cleared."
        )
        yield Caution("codes-cleared", "/inspection/codes_cleared_recently", text)


def little_weight(document: Document) -> Iterator[Caution]:
    """What carries little weight, and why."""
    for test in document.tests.compression:
        if any(item.strokes for item in test.readings):
            yield Caution(
                "first-puff",
                f"/tests/compression/{test.id}/readings",
                say(
                    "First puffs get little weight: leaks of one size climb alike whatever the "
                    "path, and the first puff depends mostly on the hose. They are compared "
                    "only with the same gauge's other cylinders."
                ),
            )


def _readings(
    compression: Sequence[CompressionTest], kind: str
) -> Iterator[tuple[str, int, float]]:
    for test in compression:
        for item in test.readings:
            raw = final_of(item)
            if test.kind == kind and raw is not None:
                path = f"/tests/compression/{test.id}/readings/{item.cylinder}/pressure"
                yield path, item.cylinder, pressure_pa(raw)


def _by_cylinder(compression: Sequence[CompressionTest], kind: str) -> dict[int, float]:
    return {cylinder: value for _, cylinder, value in _readings(compression, kind)}


def incomplete(document: Document, arrangement: Arrangement) -> Iterator[Caution]:
    """Tests begun on some cylinders only, and neighbours that nobody named."""
    everyone = set(arrangement.cylinders)
    for name, path, read in _begun(document):
        if read and read != everyone:
            missing = _listed(everyone - read)
            text = say(
                "{name} was not taken on {missing}; peers are fewer for it.",
                name=name,
                missing=missing,
            )
            yield Caution("incomplete", path, text)
    if not arrangement.neighbours_known and len(everyone) > 2:
        yield Caution(
            "incomplete",
            "/engine/banks",
            say(
                "The banks are not entered, so nobody knows which cylinders are neighbours; a "
                "gasket between two cannot be suspected."
            ),
        )
    for record in document.cylinders:
        plug = record.plug
        if plug.wetness in ("wet", "damp") and plug.wet_with in (None, "unknown"):
            yield Caution(
                "incomplete",
                f"/cylinders/{record.number}/plug/wet_with",
                say(
                    "Cylinder {number} is {wetness}, but with what? Fuel is thin, smells and "
                    "dries off a warm plug; oil is greasy and stays.",
                    number=record.number,
                    wetness=word_said(plug.wetness),
                ),
            )


def _begun(document: Document) -> Iterator[tuple[str, str, set[int]]]:
    """Tests that live from comparing cylinders: name, path, and on which they were done."""
    tests = document.tests
    for test in tests.compression:
        read = {item.cylinder for item in test.readings if final_of(item)}
        path = f"/tests/compression/{test.id}/readings"
        yield (say("Dry compression") if test.kind == "dry" else say("Wet compression")), path, read
    cut_out = {
        one.cylinder for one in tests.balance if one.felt is not None or one.rpm_drop is not None
    }
    yield say("The cut-out test"), "/tests/balance", cut_out
    counted = {one.cylinder for one in tests.misfires if one.count is not None}
    yield say("The misfire count"), "/tests/misfires", counted


def out_of_scope(document: Document) -> Iterator[Caution]:
    """Sounds that the faults weighed here do not make."""
    for noise in document.tests.noise:
        if noise.kind == "sharp-tap":
            text = say(
                "A sharp tap at cylinder {cylinder} is valve gear or bearing, not a plug: "
                "outside what is weighed here.",
                cylinder=noise.cylinder,
            )
            yield Caution("outside-scope", f"/tests/noise/{noise.cylinder}", text)
