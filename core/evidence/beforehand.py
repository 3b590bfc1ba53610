"""What is known before anything is looked at: complaints, recent work, distance on the plugs."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from msgspec import structs

from core.document.records import Document, Job
from core.engine.layout import arrangement, hanging
from core.evidence import codes
from core.evidence.findings import Finding, coded_cylinders
from core.hidden.situations import at_place
from core.knowledge import knowledge
from core.knowledge.complaints import Complaint, complaints
from core.knowledge.complaints import spoken_for as complaints_speak_for
from core.knowledge.tables import LOW
from core.language import later, listed, say, word_said
from core.quantities import Dimension, Figure, Quantity, percent
from core.refit.put_right import PutRight, put_right

WHEN = {
    "cold": later("when cold"),
    "warm": later("when warm"),
    "idle": later("at idle"),
    "load": later("under load"),
    "high-speed": later("at high speed"),
    "wet-weather": later("in wet weather"),
}
ROUNDED = {("plug/centre_electrode", "rounded"), ("plug/ground_electrode", "rounded")}
PLAINLY_WORN = {("plug/centre_electrode", "eroded"), ("gap_ratio", "wide")}

PLUGS_AGE = "plugs/age"
Odds = dict[str, float]


@dataclass(frozen=True)
class Known:
    """One thing known beforehand: the table entry that says what it does to the odds, its words."""

    entry: str
    path: str
    text: str
    given: tuple[tuple[str, float], ...] = ()  # Factors that no table entry has as they are.
    family: str | None = None  # Of complaints, which are explained once (core/hidden/strands.py).

    @property
    def odds(self) -> Odds:
        """Factors on the odds of faults."""
        if self.given:
            return dict(self.given)
        modifier = knowledge().modifiers.get(self.entry)
        return dict(modifier.odds) if modifier else {}


def known_of_engine(document: Document) -> list[Known]:
    """What concerns the whole engine, each thing once."""
    inspection = document.inspection
    found = _of_complaints(inspection)
    if inspection.trouble_codes and not inspection.complaints:
        found += _of_when(inspection)
    found += [
        Known(
            f"recent-work/{name}",
            "/inspection/recent_work",
            say("recent work: {name}", name=word_said(name)),
        )
        for name in inspection.recent_work
    ]
    if document.house_rules.mixture == "touch-rich":
        text = say("this house runs a touch rich on purpose")
        found.append(Known("house/touch-rich", "/house_rules/mixture", text))
    own = document.house_rules.odds.get(document.engine.cycle, {})
    if own:
        text = say("this shop's own record of such engines")
        found.append(Known("house/own-record", "/house_rules/odds", text, tuple(own.items())))
    found += [
        Known(
            entry,
            "/inspection/trouble_codes",
            say("code {code}", code=code),
            _of_its_bank(document, entry, code),
        )
        for entry, code in codes.of_all(inspection.trouble_codes)
    ]
    if document.engine.cylinders == 1:
        text = say("one cylinder: what all share is its own")
        found.append(Known("engine/single", "/engine/cylinders", text))
    if document.engine.cycle == "two-stroke" and document.engine.cooling == "air":
        text = say("an air-cooled two-stroke wears and scuffs sooner")
        found.append(Known("engine/small-two-stroke", "/engine/cycle", text))
    found += _of_the_test(document)
    found += _of_the_cure(document)
    by_entry = {(known.entry, known.given): known for known in reversed(found)}
    return list(by_entry.values())[::-1]


def _of_its_bank(document: Document, entry: str, code: str) -> tuple[tuple[str, float], ...]:
    """Of a code that names one of two banks, the factors; none where it is the whole engine's."""
    banks = arrangement(document.engine).banks
    if code not in codes.BANK or len(banks) != 2:
        return ()
    table = knowledge().bank_code
    if entry in codes.of_both_banks(document.inspection.trouble_codes):  # That is the engine's.
        everywhere, shares = 1.0, {bank.name: table["other"] for bank in banks}
    else:
        named = {bank.name: (1 in bank.cylinders) == (codes.BANK[code] == 1) for bank in banks}
        everywhere = table["engine"]
        shares = {name: table["own" if own else "other"] for name, own in named.items()}
    given: list[tuple[str, float]] = []
    for fault, factor in knowledge().modifiers[entry].odds.items():
        given.append((fault, factor * everywhere))
        given += [
            (at_place(fault, "bank", name), share / everywhere) for name, share in shares.items()
        ]
    return tuple(given)


def _of_complaints(inspection: Job) -> list[Known]:
    """What it came with, family by family; of what moves every reading alike, its odds."""
    said: dict[str, list[Complaint]] = {}
    for one in complaints().named(inspection.complaints):
        said.setdefault(one.family, []).append(one)
    times = [one.text for one in _of_when(inspection)]
    found = []
    for family, own in said.items():
        text = say("complaint of {name}", name=listed([word_said(one.name) for one in own]))
        odds: Odds = {}
        for one in own:
            for fault, factor in one.level.items():
                odds[fault] = factor * odds.get(fault, 1.0)
        found.append(
            Known(
                f"complaint/{family}",
                "/inspection/complaints",
                "; ".join([text, *times]),
                tuple(odds.items()),
                family,
            )
        )
    return found


def _of_when(inspection: Job) -> Iterator[Known]:
    """When the complaint comes, and how often."""
    for name in inspection.complaint_when:
        text = say("it comes {when}", when=say(WHEN[name]) if name in WHEN else word_said(name))
        yield Known(f"when/{name}", "/inspection/complaint_when", text)
    often = inspection.complaint_how_often
    if often is not None:
        path = "/inspection/complaint_how_often"
        yield Known(f"how-often/{often}", path, say("it comes {when}", when=word_said(often)))


def _of_the_test(document: Document) -> list[Known]:
    """How the pressures were read, as far as it was noted."""
    found = []
    conditions = knowledge().pressure["conditions"]
    slow, brisk = conditions["slow_rpm"], conditions["brisk_rpm"]
    if document.engine.decompressor:
        found.append(
            Known("test/decompressor", "/engine/decompressor", say("it has a decompressor"))
        )
    for test in document.tests.compression:
        base = f"/tests/compression/{test.id}"
        if test.engine_temperature == "hot":
            found.append(Known("test/hot", f"{base}/engine_temperature", say("it was read hot")))
        if test.throttle == "open":
            text = say("it was read with the throttle open")
            found.append(Known("test/open-throttle", f"{base}/throttle", text))
        if test.cranking_rpm is not None and test.cranking_rpm >= brisk:
            text = say("it was cranked at {cranking_rpm:g} rpm", cranking_rpm=test.cranking_rpm)
            found.append(Known("test/brisk", f"{base}/cranking_rpm", text))
        if test.plugs_out == "all":
            text = say("it was cranked with every plug out")
            found.append(Known("test/all-plugs-out", f"{base}/plugs_out", text))
        if test.gauge:
            found.append(
                Known(
                    "test/gauge-named", f"{base}/gauge", say("read with {gauge}", gauge=test.gauge)
                )
            )
        if test.engine_temperature == "cold":
            found.append(Known("test/cold", f"{base}/engine_temperature", say("it was read cold")))
        if test.throttle == "closed":
            text = say("it was read with the throttle closed")
            found.append(Known("test/closed-throttle", f"{base}/throttle", text))
        if test.cranking_rpm is not None and test.cranking_rpm < slow:
            text = say(
                "it was cranked at {cranking_rpm:g} rpm only", cranking_rpm=test.cranking_rpm
            )
            found.append(Known("test/slow", f"{base}/cranking_rpm", text))
    return found


def known_of_cylinder(document: Document, cylinder: int) -> list[Known]:
    """What concerns one cylinder: its plug's age, codes of its injector and coil."""
    found = [
        Known(entry, "/inspection/trouble_codes", say("code {code}", code=code))
        for entry, code in codes.of_cylinder(document.inspection.trouble_codes, cylinder)
    ]
    share = plug_age(document, cylinder)
    path = f"/cylinders/{cylinder}/plug/distance"
    if share is not None:
        found.append(_of_age(share, path))
    cure = cure_of(document)
    if cure is not None and cylinder in cure.cylinders:
        factors = knowledge().judgement["cured"]
        whole = factors["own"] / factors["other"]  # What the engine's own row took away, and more.
        odds = {
            fault: whole if fault in spoken_for(document) else factors["own"]
            for fault in cure.leaves
        }
        found.append(Known("cured/here", "/proof/complaint", _cured(cure), tuple(odds.items())))
    return found


def _of_age(share: float, path: str) -> Known:
    """What a plug's age says of its wear: a hazard that grows with every interval that it ran."""
    worn, usual = chance_worn(share), knowledge().fault("plug-worn", "cylinder").prior
    factor = worn / (1 - worn) * (1 - usual) / usual
    text = say("its plug has run {share} of its interval", share=percent(share))
    if share > 1:
        text = say("its plug has run {share:.1f} times its interval", share=share)
    return Known(PLUGS_AGE, path, text, (("plug-worn", factor),))


def chance_worn(share: float) -> float:
    """Chance that a plug is worn by its age alone, log-logistic in its intervals. [-]"""
    table = knowledge().wear
    odds = (share / table["half_at"]) ** table["steepness"]
    return float(max(odds / (1 + odds), table["least"]))


def spoken_for(document: Document) -> set[str]:
    """Every fault that the complaints and misfire codes speak for."""
    told = set(document.inspection.complaints)
    return complaints_speak_for(told | {"misfire"} if coded_cylinders(document) else told)


def cure_of(document: Document) -> PutRight | None:
    """What alone was put right, where the complaint went with it; None where two were."""
    if document.proof.complaint != "gone" or not spoken_for(document):
        return None
    done = [one for one in put_right(document) if one.part != "other"]
    return done[0] if len(done) == 1 else None


def _of_the_cure(document: Document) -> Iterator[Known]:
    """The complaint went when one kind of part was put right: it was hardly anything else."""
    cure = cure_of(document)
    if cure is None:
        return
    factors = knowledge().judgement["cured"]
    odds = dict.fromkeys(sorted(spoken_for(document)), factors["other"])
    if not cure.cylinders:
        odds |= dict.fromkeys(cure.leaves, factors["own"])
    yield Known(f"cured/{cure.part}", "/proof/complaint", _cured(cure), tuple(odds.items()))


def _cured(cure: PutRight) -> str:
    return say("the complaint went when this alone was done: {spoken}", spoken=cure.spoken)


def manner_of(document: Document, cylinder: int, found: Sequence[Finding]) -> frozenset[str]:
    """How a cylinder stands, where that changes what a fault does to it.

    `far`: its plug is plainly worn, by its look, its gap or its age. `cut`: the management has
    coded its misfire and may have cut its injector, so that no fuel wets the plug. `low`: it hangs
    below the shaft, and oil settles in it.
    """
    manner = set()
    age = plug_age(document, cylinder)
    seen = {(one.channel, one.value) for one in found}
    if seen >= ROUNDED or seen & PLAINLY_WORN or (age or 0) >= knowledge().far_age:
        manner.add("far")
    injected = document.engine.fuel_system in ("port", "direct")
    if injected and cylinder in coded_cylinders(document):
        manner.add("cut")
    if cylinder in hanging(document.engine):
        manner.add(LOW)
    return frozenset(manner)


def plug_age(document: Document, cylinder: int) -> float | None:
    """How far a plug is through its interval, by distance or by years, whichever is further.

    The distance on it is its own, the set's, or the engine's where these are its first plugs; None
    where nothing tells it.
    """
    shares = [_by_distance(document, cylinder), _by_years(document)]
    return max((one for one in shares if one is not None), default=None)


def _by_distance(document: Document, cylinder: int) -> float | None:
    """Distance on a plug over its interval; None where they cannot be compared."""
    specification, job = document.engine.specification, document.inspection
    interval = specification.plug_interval
    since_new = job.odometer if job.first_set else None
    run = document.cylinder(cylinder).plug.distance or job.plug_distance or since_new
    if run is None or (interval is not None and (interval.unit == "h") != (run.unit == "h")):
        return None
    if interval is None:
        return _far_past_any(specification.electrode, run)
    allowed = Quantity.read(interval, Dimension.DISTANCE).si
    return Quantity.read(run, Dimension.DISTANCE).si / allowed if allowed > 0 else None


def _by_years(document: Document) -> float | None:
    """Years that the set is in it over its interval in years."""
    years, allowed = document.inspection.plug_years, document.engine.specification
    if years is None or not allowed.plug_interval_years:
        return None
    return years / allowed.plug_interval_years


def past_if_first(document: Document) -> bool:
    """Whether the plugs would be past their interval if they were the first: worth asking."""
    job = document.inspection
    untold = job.first_set is None and job.odometer is not None
    if not untold or any(plug_age(document, one) is not None for one in _all(document)):
        return False
    first = structs.replace(document, inspection=structs.replace(job, first_set=True))
    return (plug_age(first, 1) or 0.0) > 1


def _all(document: Document) -> range:
    return range(1, document.engine.cylinders + 1)


def _far_past_any(electrode: str | None, run: Figure) -> float | None:
    """Distance over what plugs of this kind usually last; None within it, and for hours."""
    usual = knowledge().judgement["interval"]
    lasts = usual["nickel_km" if electrode == "nickel" else "fine_wire_km"]
    share = 0.0 if run.unit == "h" else Quantity.read(run, Dimension.DISTANCE).si / lasts
    return share if share > 1 else None


def odds_of(known: Iterable[Known]) -> Odds:
    """The factors of several things known, multiplied."""
    odds: Odds = {}
    for one in known:
        for fault, factor in one.odds.items():
            odds[fault] = odds.get(fault, 1.0) * factor
    return odds
