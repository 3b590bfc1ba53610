"""The next best test: what it would tell about the consequences, for each minute it takes.

For every test still open on a cylinder, the model says how probable each outcome is under every
fault set; the information that the outcome carries about the consequence class is worth the
trouble or not. Nothing is recommended when nothing would change much.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence, Set
from dataclasses import dataclass
from typing import Any

import numpy as np
from msgspec import structs

from core.assessment import NextTest, Tell
from core.document.records import Document
from core.evidence.disqualified import unread
from core.evidence.findings import coded_cylinders
from core.inference.belief import work_out
from core.inference.model import Model
from core.judgement.case import Case
from core.judgement.claims import Claim
from core.judgement.seen import burnt, crown_unseen, loose_pieces
from core.judgement.shared_faults import shared_faults
from core.knowledge import knowledge
from core.knowledge.case import case_tables
from core.knowledge.limits import limits
from core.language import listed, say
from core.refit.put_right import put_right
from core.telling.acts import can_be_done, can_be_swapped, suits, way_in
from core.telling.open_tests import SPOILT, OpenTests, terms

LEAST_BITS = limits().act.least_bits  # A cylinder, of a test that takes its usual minutes.
USUAL_MINUTES = 1.0
LEAST_A_MINUTE = limits().act.least_a_minute
MOST_LISTED = 8
AT_REST = (
    "plug", "well", "seating", "firing-order", "port-look", "injector", "points", "fuel-supply",
)  # fmt: skip
ALIKE = limits().act.alike  # Such cylinders are named in their own order.
RENEW, SET_GAP, PORT_LOOK, PIECE = "renew-plugs", "set-gap", "port-look", "piece"
SEIZES = {"power-loss", "stopped-running", "no-start", "overheating", "knock"}
READ = "plug"
NAMED = (SET_GAP, RENEW, "points", "timing")  # Acts that put right what they are about.
SWAPS = ("swap-coil", "swap-lead")
AGAIN = {
    "tests/compression": "compression", "tests/leakdown": "leakdown", "tests/spark": "spark",
    "tests/balance": "balance", "tests/injector": "injector", "well": "well", "boot": "well",
    "plug": "plug", "borescope": "borescope",
}  # fmt: skip
QUARRELS = ("contradiction", "surprise")
COMPARED = ("compression", "balance", "listen")  # A reading says nothing without its fellows'.
CAUSE = limits().act.cause  # What finding the cause of a likely shared fault is worth. [bit]


@dataclass(frozen=True)
class Candidate:
    """One test on one cylinder with what it would tell."""

    cylinder: int
    bits: float


def next_tests(case: Case, forbidden: frozenset[str] = frozenset()) -> list[NextTest]:
    """What to do next, in order: read again, clear what is named and cheap, settle what is open.

    What is due is renewed before any gauge is taken up, unless the engine will be opened anyway.
    Cylinders that a code names come first, and are always in. Where an engine will be opened,
    nothing more is looked for on the cylinders that are not suspect and that nobody asked about.
    After a passed proof nothing is.

    Parameters
    ----------
    case : Case
    forbidden : frozenset of str
        Hazards that forbid: where there is one it is not run, and with coolant in it not cranked.

    Returns
    -------
    list of NextTest
    """
    if case.proof.state == "passed":
        return []
    model, job = case.material.model, case.material.job
    loose = loose_pieces(model.document)
    work_out(model.solution.beliefs, "sets")
    tests = [OpenTests(model, cylinder) for cylinder in model.arranged.cylinders if cylinder in job]
    opened = max(one.opened() for one in tests) >= SPOILT
    always = {PORT_LOOK} if _port_look_first(model) else set()
    done = _done(case)

    def allowed(test: str) -> bool:
        table = knowledge().tests[test]
        stays = not (forbidden and table.get("runs")) and not (
            "hydraulic-lock" in forbidden and table.get("cranks")
        )
        return stays and not (loose and test not in AT_REST)

    asked = case.material.coded.keys() & job
    ranked: dict[str, list[Candidate]] = {}
    settled = {number for number in job if _is_settled(case, number)}
    settling = {one.settles for one in case.claims if one.of_cylinders and one.settles}
    for one in tests:
        if _is_sound(case, one.cylinder):
            continue
        if opened and one.opened() < knowledge().suspected_from and one.cylinder not in asked:
            continue
        for test, bits in one.bits().items():
            if one.cylinder in settled and test not in (RENEW, SET_GAP):
                continue
            worth = not opened if test == RENEW else bits >= _least(test) or test in always
            if worth and allowed(test) and one.cylinder not in done.get(test, ()):
                ranked.setdefault(test, []).append(Candidate(one.cylinder, bits))
    crossed = _firing_order(model)
    if crossed:
        ranked["firing-order"] = crossed
    for test, candidates in () if opened else _of_shared_parts(model):
        if allowed(test) and _bits(candidates) > _bits(ranked.get(test, [])):
            ranked[test] = candidates
    of_asked = {
        test: candidates
        for test, candidates in ranked.items()
        if any(one.cylinder in asked for one in candidates)
    }
    # While anything is open on the cylinder that was asked about, the rest can wait.
    acts = [
        act
        for test, them in (of_asked or ranked).items()
        if (act := _act(case, test, them)).bits >= LEAST_A_MINUTE * act.minutes
        or test in (RENEW, *always)
    ]
    first = {RENEW, SET_GAP}
    if not always and crown_unseen(model.document):
        first = {"borescope"}
    if model.level_faults["test-condition"] >= SPOILT and model.readings:
        first = {"compression"}  # Nothing that was read so can be built on.
    patience = case_tables().ladder.patience * min((one.minutes for one in acts), default=0.0)
    acts.sort(
        key=lambda one: (
            one.test not in always,
            one.test not in first,
            one.test not in settling or one.minutes > patience,
            -one.bits / one.minutes,
            one.test,
        )
    )
    before = [
        *_find_pieces(model, loose),
        *(one for one in _read_again(case) if allowed(one.test)),
        *(one for one in _named(case, opened=opened) if allowed(one.test)),
        *(one for one in _by_rule(case) if allowed(one.test)),
    ]
    known = {one.test for one in before}
    listed_ = [*before, *(one for one in acts if one.test not in known)][:MOST_LISTED]
    return _one_at_a_time(case, listed_)


def _is_sound(case: Case, number: int) -> bool:
    """Whether a cylinder was read and measured, nothing is claimed of it, and nobody asks more."""
    read = case.material.document.cylinder(number).plug.recorded
    gauged = bool(case.material.model.gauged_of(number))
    quiet = number in case.sound and case.question.state != "open"
    return quiet and read and gauged and not case.retest


def _is_settled(case: Case, number: int) -> bool:
    """Whether what a cylinder wants is known, and how: nothing more would change it."""
    own = [one for one in case.of(number) if one.of_cylinders or one.scope in ("coil", "leads")]
    certain = case_tables().ladder.certain
    known = [
        one for one in own
        if one.grade in ("D", "E") and not one.ways and not one.settles and one.scope == "cylinder"
        and (one.basis == "seen" or one.probability >= certain)
    ]  # fmt: skip
    return bool(known) and all(one.stands and not one.ways for one in own)


def _done(case: Case) -> dict[str, set[int]]:
    """By test the cylinders on which it has nothing to tell: what it is about was renewed."""
    found: dict[str, set[int]] = {}
    if case.proof.state == "none":
        return found
    for one in put_right(case.material.document):
        them = set(one.cylinders or case.material.cylinders)
        for test in knowledge().judgement["spent"].get(one.part, ()):
            found.setdefault(test, set()).update(them)
    return found


def _named(case: Case, *, opened: bool) -> Iterator[NextTest]:
    """What clears or sets the cheapest cause that is claimed already, where something was asked."""
    model = case.material.model
    if case.question.state == "none" or opened:
        return
    for one in case.standing:
        if one.settles not in NAMED or not can_be_done(one.settles, model.document):
            continue
        numbers = [number for number in one.cylinders if number in case.material.job]
        if case.material.coded and one.of_cylinders:
            numbers = [number for number in numbers if number in case.material.coded]
        if not numbers:
            continue
        if one.settles == RENEW and case.material.coded:
            continue  # The coded ones are renewed first, and are ranked so.
        reason = say("named already, and the cheapest to put right: {what}", what=one.label)
        if one.of_cylinders and case.everyone > 1:
            reason = say(
                "on {numbers}: named already, and the cheapest to put right: {what}",
                numbers=listed(numbers), what=one.label,
            )  # fmt: skip
        yield _told(model, one.settles, numbers, float(one.probability), reason)
        return


def _by_rule(case: Case) -> Iterator[NextTest]:
    """What fails a school is read again, with air where the gauge alone did."""
    model, job = case.material.model, case.material.job
    for one in case.standing:
        numbers = [number for number in one.cylinders if number in job]
        if one.about == "rule" and numbers and can_be_done(one.settles, model.document):
            reason = _reason(model, one.settles, numbers)
            yield _told(model, one.settles, numbers, float(one.probability), reason)


def _one_at_a_time(case: Case, acts: list[NextTest]) -> list[NextTest]:
    """Before two things are put right at once: nobody will know which it was, and what tells."""
    of_plug, of_rest = (
        {n for one in case.standing if one.of_cylinders and one.grade != "A"
         and _is_plug(one) == plug for n in one.cylinders if plug or _is_ignition(one)}
        for plug in (True, False)
    )  # fmt: skip
    both = sorted(of_plug & of_rest & case.material.job)
    if not acts or not both or not case.question.cylinders:
        return acts
    note = say("put one thing right at a time, or nobody will know which it was")
    document = case.material.document
    swap = next((one for one in SWAPS if can_be_done(one, document) and can_be_swapped(
        one.removeprefix("swap-"), document) and _fits(one, document)), None)  # fmt: skip
    if swap:
        minutes = knowledge().tests[swap]["setup"] + knowledge().tests[swap]["each"]
        note = say(
            "{note}; {swap} tells in {minutes:g} minutes",
            note=note, swap=say(knowledge().tests[swap]["label"]), minutes=minutes,
        )  # fmt: skip
    return [structs.replace(acts[0], reason=f"{acts[0].reason}; {note}"), *acts[1:]]


def _is_plug(one: Claim) -> bool:
    known = knowledge()
    return any(
        known.fault(fault, "cylinder").act == "plug"
        for fault in one.faults
        if fault in known.cylinder_faults(bool)
    )


def _is_ignition(one: Claim) -> bool:
    return bool({"ignition-weak", "fuel-lean", "fuel-rich"} & set(one.faults))


def _fits(swap: str, document: Document) -> bool:
    coils = document.engine.ignition in ("coil-on-plug", "wasted-spark", None)
    return coils if swap == "swap-coil" else not coils


def _read_again(case: Case) -> Iterator[NextTest]:
    """What was disqualified, or contradicts another, is read again before anything else."""
    model = case.material.model
    wanted: dict[str, tuple[set[int], str]] = {}
    for number in unread(model.document):
        wanted.setdefault("compression", (set(), say("its reading was not made")))[0].add(number)
    for one in model.cautions:
        if one.code in QUARRELS and one.cylinder:
            for path in (one.path, one.beside):
                test = _looked_at_by(path)
                if test is not None and can_be_done(test, model.document):
                    why = say("two records contradict each other")
                    wanted.setdefault(test, (set(), why))[0].add(one.cylinder)
    for test, (them, why) in sorted(wanted.items()):
        numbers = sorted(them & case.material.job)
        if numbers and can_be_done(test, model.document):
            reason = say("on {numbers}: read again, for {why}", numbers=listed(numbers), why=why)
            yield _told(model, test, numbers, float(len(numbers)), reason)


def _looked_at_by(path: str) -> str | None:
    """What reads a place of the record again."""
    parts = path.split("/")[1:]
    if parts[:1] == ["cylinders"] and len(parts) > 2:
        return AGAIN.get(parts[2])
    return AGAIN.get("/".join(parts[:2]))


def _bits(candidates: Sequence[Candidate]) -> float:
    return sum(one.bits for one in candidates)


def _least(test: str) -> float:
    """From how much on a test is worth a cylinder's while; less where it takes next to no time."""
    each = float(knowledge().tests[test]["each"])
    return LEAST_BITS * min(each / USUAL_MINUTES, 1.0)


def _find_pieces(model: Model, loose: list[int]) -> list[NextTest]:
    """Looking for the piece goes before everything; it is worth a whole bit: there or not."""
    if not loose:
        return []
    reason = say(
        "on {loose}: find the missing piece before the engine is turned", loose=listed(loose)
    )
    return [_told(model, PIECE, loose, float(len(loose)), reason)]


def _port_look_first(model: Model) -> bool:
    """A two-stroke that lost its power or got hot: the port says in minutes whether it seized."""
    job = model.document.inspection
    lost = bool(SEIZES & set(job.complaints)) or bool(burnt(model.document))
    return lost and model.document.engine.cycle == "two-stroke"


def _of_shared_parts(model: Model) -> Iterator[tuple[str, list[Candidate]]]:
    """Tests of what cylinders share, on those that share it."""
    document = model.document
    read = {place for place, _ in document.distributor.items()}
    shared = shared_faults(model, None)
    for test, table in knowledge().tests.items():
        wanted = "shared" in table and suits(table["where"], document)
        if not wanted or not can_be_done(test, document):
            continue
        suspects = [
            (one.probability, one.cylinders) for one in shared if one.fault in table["shared"]
        ]
        if not suspects:
            continue
        chance, finds = min(sum(one for one, _ in suspects), 1.0), table["finds"]
        mistaken = table["mistaken"]
        if read & set(table["places"]) and chance < SPOILT:
            continue  # It was read, and it was not that.
        joint = np.array([
            [chance * finds, chance * (1 - finds)],
            [(1 - chance) * mistaken, (1 - chance) * (1 - mistaken)],
        ])  # fmt: skip
        bits = float(terms(joint).sum())
        if chance >= SPOILT:  # That it is there is known; why it is, is the question.
            bits = max(bits, CAUSE * chance)
        if bits >= LEAST_BITS and chance >= knowledge().suspected_from / 2:
            _, cylinders = max(suspects)
            yield test, [Candidate(number, bits / len(cylinders)) for number in cylinders]


def _firing_order(model: Model) -> list[Candidate]:
    """Following the leads settles whether two are crossed; the likeliest pair is named."""
    pairs = [
        (float(chance), one[0].cylinders)
        for chance, one in zip(model.solution.situation, model.situations.members, strict=True)
        if len(one) == 1 and one[0].fault == "leads-crossed"
    ]
    total = sum(chance for chance, _ in pairs)
    joint = np.array([[total, 0.0], [0.0, 1 - total]])
    bits = float(terms(joint).sum())
    if bits < knowledge().tests["firing-order"]["least_bits"]:
        return []
    return [Candidate(cylinder, bits / 2) for cylinder in max(pairs)[1]]


def _act(case: Case, test: str, candidates: list[Candidate]) -> NextTest:
    """One test on the cylinders that it would tell most about."""
    model = case.material.model
    asked = coded_cylinders(model.document).keys() & {one.cylinder for one in candidates}
    if asked and test not in COMPARED:
        # The question that was asked first: the coded ones, and where it is read, one good fellow.
        fellows = [one for one in candidates if one.cylinder not in asked]
        near = sorted(fellows, key=lambda one: (_apart(model, one.cylinder, asked), one.cylinder))
        candidates = [one for one in candidates if one.cylinder in asked]
        candidates += near[:1] if test == READ else []
    most = max(one.bits for one in candidates)
    least = 0.0 if test == RENEW else 0.5 * most
    best = [one for one in candidates if one.bits >= least or one.cylinder in asked]
    alike = min(one.bits for one in best) >= ALIKE * most
    best.sort(
        key=lambda one: (one.cylinder not in asked, 0.0 if alike else -one.bits, one.cylinder)
    )
    cylinders = [one.cylinder for one in best]
    # What the others would tell besides answers nothing that was asked.
    bits = sum(one.bits for one in best if not asked or one.cylinder in asked)
    return _told(model, test, cylinders, bits, _reason(model, test, cylinders))


def _apart(model: Model, cylinder: int, asked: Set[int]) -> int:
    """How many places a cylinder sits from the nearest that was asked about, on its own bank."""
    rows = [bank.cylinders for bank in model.arranged.banks] or [model.arranged.cylinders]
    apart = [
        abs(row.index(cylinder) - row.index(one))
        for row in rows
        for one in asked
        if cylinder in row and one in row
    ]
    return min(apart, default=len(model.arranged.cylinders))


def _told(model: Model, test: str, cylinders: list[int], bits: float, reason: str) -> NextTest:
    document, table = model.document, knowledge().tests[test]
    each = document.house_rules.minutes.get(test, table["each"])
    access = way_in(test, cylinders, document, model.arranged)
    return NextTest(
        test,
        tuple(cylinders),
        round(bits, 3),
        float(table["setup"] + each * len(cylinders) + access),
        reason,
        access_minutes=access,
        tells=tuple(Tell(*map(say, one)) for one in _results(table, document)),
    )


def _results(table: Mapping[str, Any], document: Document) -> Sequence[Sequence[str]]:
    """What each result means; a single has no fellows to be compared with."""
    alone = document.engine.cylinders == 1 and "results_alone" in table
    results: Sequence[Sequence[str]] = table["results_alone" if alone else "results"]
    return results


def _reason(model: Model, test: str, cylinders: list[int]) -> str:
    table = knowledge().tests[test]
    alone = model.document.engine.cylinders == 1
    told = say(table.get("tells_alone", table["tells"]) if alone else table["tells"])
    if test == "compression" and model.readings:
        told = say("again, and by the book: warm, throttle open, battery full")
    count = len(model.arranged.cylinders)
    if count == 1:
        return told
    if len(cylinders) == count or "shared" in knowledge().tests[test]:
        whole = len(cylinders) == count
        return say("on all of them: {told}", told=told) if whole else told
    return say("on {cylinders}: {told}", cylinders=listed(cylinders), told=told)
