"""What must hold between all that is said of one record: each a function, its reason in a sentence.

They read what a person reads (assessment, page one, plan) and know nothing of how it was made.
`grave` are those that could hurt somebody or cost money; the others only look foolish.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from core.assessment import Assessment
from core.document.records import Document
from core.planning import work_order
from core.telling import ClientAnswer, assess, client_answer

GRADES = "UABCDE"
OWN = {"cylinder", "pair", "some", "bank", "feed", "coil", "leads"}
SINGLE = ("cylinder", "pair", "bank", "feed", "coil", "leads")
RUNNING = {"balance", "swap-coil", "swap-plug", "swap-lead", "swap-injector", "reread", "listen",
           "air-leak"}  # fmt: skip
OF_ENGINE = {"firing-order", "points", "timing", "fuel-supply", "air-leak"}
CRANKING = {"compression", "wet-compression"}


@dataclass
class Said:
    """Everything that is said of one checked document."""

    checked: dict[str, Any]
    explain: bool = False

    @cached_property
    def answer(self) -> dict[str, Any]:
        return assess(self.checked, explain=self.explain)

    @cached_property
    def document(self) -> Document:
        return Document.of(self.checked)

    @cached_property
    def page(self) -> ClientAnswer:
        return client_answer(self.document, Assessment.of(self.answer))

    @cached_property
    def plan(self) -> dict[str, Any]:
        return work_order(self.checked, assessed=self.answer)

    @property
    def engine(self) -> dict[str, Any]:
        return self.answer["engine"]

    @property
    def now(self) -> dict[str, Any]:
        return self.engine.get("as_left") or self.engine

    @property
    def cylinders(self) -> list[dict[str, Any]]:
        return self.answer["cylinders"]

    @property
    def claims(self) -> list[dict[str, Any]]:
        return self.engine["claims"]

    def of(self, number: int, *scopes: str) -> list[dict[str, Any]]:
        wanted = scopes or tuple(OWN)
        if len(self.cylinders) == 1:
            wanted = (*wanted, "engine")
        return [c for c in self.claims if number in c["cylinders"] and c["scope"] in wanted]

    @property
    def sentences(self) -> list[str]:
        page = self.page
        texts = [
            self.engine["verdict"],
            self.now["verdict"],
            page.answer,
            *page.behind,
            page.others,
        ]
        texts += [page.running, page.money, page.sure, page.plugs, page.next]
        texts += [one["text"] for one in self.claims] + [one["client"] for one in self.claims]
        texts += [one["reason"] for one in self.answer["next_tests"]]
        texts += [one["plug_reason"] for one in self.cylinders]
        return [one for one in texts if one]


Check = Callable[[Said], Iterator[str]]
INVARIANTS: list[tuple[Check, bool]] = []


def invariant(*, grave: bool = False) -> Callable[[Check], Check]:
    def kept(check: Check) -> Check:
        INVARIANTS.append((check, grave))
        return check

    return kept


def worst(grades: list[str]) -> str:
    return max(grades, key=GRADES.index, default="U")


# ------------------------------------------------------------------------------ grades and claims


@invariant(grave=True)
def no_grade_without_a_claim(said: Said) -> Iterator[str]:
    """A D that no sentence gives a reason for is a verdict that nobody can check."""
    for one in said.cylinders:
        if one["grade"] in "CDE" and worst([c["grade"] for c in said.of(one["number"])]) not in (
            one["grade"], "D", "E",
        ):  # fmt: skip
            harmful = [
                c for c in said.claims if c["hazard"] == "seizure" and c["scope"] == "engine"
            ]
            if not harmful or one["grade"] != "C":
                yield f"cylinder {one['number']} is {one['grade']}"
    grade = said.engine["grade"]
    if grade in "BCDE" and worst([c["grade"] for c in said.claims]) != grade:
        yield f"the engine is {grade}"


@invariant(grave=True)
def no_claim_that_the_grade_denies(said: Said) -> Iterator[str]:
    """What is claimed of a cylinder grades it, unless nobody examined it."""
    for one in said.cylinders:
        held = [c for c in said.of(one["number"], *SINGLE) if c["scope"] != "engine" or c["faults"]]
        own = worst([c["grade"] for c in held])
        if one["grade"] in "AB" and own in ("C", "D", "E"):
            yield f"cylinder {one['number']} is {one['grade']} beside a claim of {own}"


@invariant(grave=True)
def a_forbidden_engine_is_neither_sound_nor_serviceable(said: Said) -> Iterator[str]:
    """People act on the letter first: A beside "do not crank" bends a rod."""
    for now in (said.engine, said.now):
        if now["may_run"]["answer"] == "no" and now["grade"] in "AB":
            yield f"{now['grade']} and must not run"


@invariant(grave=True)
def e_and_may_run_never_meet(said: Said) -> Iterator[str]:
    """E means do not run."""
    for now in (said.engine, said.now):
        if now["grade"] == "E" and now["may_run"]["answer"] != "no":
            yield f"E, and {now['may_run']['answer']}"


@invariant(grave=True)
def nothing_found_is_said_of_the_sound_only(said: Said) -> Iterator[str]:
    """ "No fault found" beside a repair is the worst sentence of all."""
    for now in (said.engine, said.now):
        if "No fault found" in now["verdict"] and now["grade"] != "A":
            yield f"no fault found, and {now['grade']}"


@invariant(grave=True)
def who_is_to_be_repaired_is_named(said: Said) -> Iterator[str]:
    """A cylinder that is D and stands in no sentence is a trap."""
    for one in said.cylinders if len(said.cylinders) > 1 else ():
        named = re.search(rf"\b{one['number']}\b", said.engine["verdict"])
        everyone = re.search(r"\b(all|All|The cylinder|its|the engine|ank|what cylinders)\b",
                             said.engine["verdict"])  # fmt: skip
        if one["grade"] in "DE" and not named and not everyone:
            yield f"cylinder {one['number']} is {one['grade']} and is not named"


@invariant()
def who_was_not_examined_is_not_graded(said: Said) -> Iterator[str]:
    """Absent is never normal."""
    for one in said.cylinders:
        if not one["examined"] and one["grade"] != "U":
            yield f"cylinder {one['number']} is {one['grade']} unexamined"


@invariant()
def suspects_are_those_of_the_claims(said: Said) -> Iterator[str]:
    """The list of suspects is the claims', the worst first, and nobody else's."""
    listed = said.engine["most_suspect"]
    for one in said.cylinders:
        own = [c for c in said.of(one["number"]) if c["grade"] != "A"]
        if len(said.cylinders) == 1:
            continue
        if bool(own) != (one["number"] in listed):
            yield f"cylinder {one['number']}: {len(own)} claims, listed {one['number'] in listed}"
    some = {True: "C"}  # One of several that leak: each of them is watched.
    grades = [
        worst([some.get(c["scope"] == "some", c["grade"]) for c in said.of(n)]) for n in listed
    ]
    ranks = [GRADES.index(grade) for grade in grades]
    if ranks != sorted(ranks, reverse=True):
        yield f"suspects {listed} are ranked {grades}"


@invariant()
def a_suspect_stands_out(said: Said) -> Iterator[str]:
    """What is as likely as before anybody looked, or less than one in five, is no suspect."""
    for one in said.claims:
        if one["basis"] != "weighed":
            continue
        if one["stands"] and one["probability"] < 0.5:
            yield f"{one['text']} stands at {one['probability']:.2f}"
        if not one["stands"] and not (
            one["probability"] >= 0.2 and one["probability"] >= 1.99 * one["base"]
        ):
            yield f"{one['text']} is open at {one['probability']:.2f} of {one['base']:.2f}"


@invariant()
def equal_things_are_one_sentence(said: Said) -> Iterator[str]:
    """Two cylinders of which the same is said are told together, never one after the other."""
    labels: dict[str, list[int]] = {}
    for one in said.claims:
        if one["scope"] == "cylinder" and one["basis"] != "weighed":
            label = one["text"].partition(": ")[2]
            if label in labels:
                yield f"{label!r} of {labels[label]} and of {one['cylinders']}"
            labels[label] = one["cylinders"]


@invariant(grave=True)
def a_failed_school_is_heard(said: Said) -> Iterator[str]:
    """What fails the house's own school is at least watched, or to be read again."""
    again = {int(one["path"].split("/")[5]) for one in said.engine["read_again"]
             if one["path"].count("/") >= 5 and one["path"].split("/")[5].isdigit()}  # fmt: skip
    graded = {one["number"]: one["grade"] for one in said.cylinders}
    for report in ("compression", "leakdown"):
        for school in said.answer[report]["rules"]:
            for number in school["failing"] if school["decides"] else ():
                if graded[number] in "AB" and number not in again:
                    yield f"cylinder {number} fails {school['rule']} and is {graded[number]}"


@invariant()
def what_is_set_aside_is_not_counted(said: Said) -> Iterator[str]:
    """A reading whose seal hissed was not made: it is in no figure of page one."""
    bad = set()
    good = set()
    for test in said.document.tests.compression:
        for item in test.readings:
            aside = item.quality in ("seal-leak", "doubtful")
            (bad if aside else good).add((test.kind, item.cylinder))
            path = f"/tests/compression/{test.id}/readings/{item.cylinder}"
            if aside and path not in {one["path"] for one in said.engine["read_again"]}:
                yield f"{path} is not to be read again"


# ----------------------------------------------------------------------------------- the question


@invariant(grave=True)
def the_question_is_answered_first(said: Said) -> Iterator[str]:
    """Whoever brought it wants to know that before anything else."""
    asked = said.engine["question"]
    came = said.document.inspection.complaints or said.document.inspection.trouble_codes
    if (asked["state"] == "none") == bool(came):
        yield f"{asked['state']}, and it came with {came}"
    if asked["text"] and not said.engine["verdict"].startswith(asked["text"]):
        yield "the verdict begins with something else"
    if asked["state"] != "none" and not said.page.answer.startswith("It came with"):
        yield "page one begins with something else"


@invariant(grave=True)
def a_coded_cylinder_is_never_missing(said: Said) -> Iterator[str]:
    """The code asked about it."""
    first = said.engine["verdict"].partition(". ")[0]
    for number in said.engine["question"]["cylinders"]:
        if not re.search(rf"\b{number}\b", first):
            yield f"cylinder {number} is not in the first sentence"


@invariant()
def an_open_question_is_never_sound(said: Said) -> Iterator[str]:
    """It did misfire; that nobody found why makes it intermittent."""
    if said.engine["question"]["state"] == "open" and said.engine["grade"] in "AB":
        yield f"{said.engine['grade']} with its question open"


# --------------------------------------------------------------------------------- what to do next


@invariant(grave=True)
def no_act_against_a_hazard_or_a_state(said: Said) -> Iterator[str]:
    """Nobody is sent to crank an engine with coolant in it, or to run one on its stand."""
    forbid = {h["hazard"] for h in said.now["may_run"]["hazards"] if h["answer"] == "no"}
    job = said.document.inspection
    alone = said.document.engine.cylinders == 1
    for one in said.answer["next_tests"]:
        test = one["test"]
        if test in RUNNING and (forbid - {"fire"} or job.engine_place == "stand"
                                or job.can_run is False):  # fmt: skip
            yield f"{test} although {sorted(forbid) or 'it cannot run'}"
        if test in CRANKING and forbid & {"hydraulic-lock", "loose-piece"}:
            yield f"{test} beside {sorted(forbid)}"
        if alone and test.startswith("swap"):
            yield f"{test} on a single"
        outside = job.scope and not set(one["cylinders"]) <= set(job.scope)
        if outside and test not in OF_ENGINE:
            yield f"{test} on {one['cylinders']} outside {job.scope}"


@invariant()
def the_plan_is_the_same_list(said: Said) -> Iterator[str]:
    """Two lists of what comes next would send two people to two places."""
    acts = [(one["test"], one["cylinders"]) for one in said.plan["acts"]]
    if acts != [(one["test"], one["cylinders"]) for one in said.answer["next_tests"]]:
        yield "the plan has other acts"
    left = sum(one["minutes"] for one in said.plan["steps"] if one["state"] == "open")
    left += sum(one["minutes"] for one in said.plan["acts"])
    if abs(left - said.plan["minutes"]) > 0.01:
        yield "the minutes do not add up"


@invariant(grave=True)
def the_plan_keeps_the_ban(said: Said) -> Iterator[str]:
    """A step that turns the engine is barred while a piece or coolant may be in it."""
    still = {h["hazard"] for h in said.now["may_run"]["hazards"] if h["answer"] == "no"}
    for step in said.plan["steps"]:
        turning = still & {"loose-piece", "hydraulic-lock"}
        if step["state"] == "open" and step["id"] == "compression" and turning:
            yield "compression is open"
        if step["state"] == "open" and step["id"] in ("run", "cut-out", "nip-and-warm") and still:
            yield f"{step['id']} is open beside {sorted(still)}"


@invariant()
def what_is_marked_is_read_again_first(said: Said) -> Iterator[str]:
    """Nothing is built on a reading that was not made."""
    bad, good = set(), set()
    for test in said.document.tests.compression:
        for item in test.readings:
            if test.kind == "dry":
                aside = item.quality in ("seal-leak", "doubtful")
                made = item.pressure is not None or len(item.strokes) > 1
                (bad if aside else good if made else set()).add(item.cylinder)
    job = said.document.inspection.scope
    wanted = {n for n in bad - good if not job or n in job}
    owned = said.document.inspection.instruments
    barred = {h["hazard"] for h in said.now["may_run"]["hazards"] if h["answer"] == "no"}
    can = not owned or "compression-gauge" in owned
    barred &= {"loose-piece", "hydraulic-lock"}
    if wanted and can and not barred and said.now is said.engine:
        tests = [one for one in said.answer["next_tests"] if one["test"] == "compression"]
        if not tests or not wanted <= set(tests[0]["cylinders"]):
            yield f"{sorted(wanted)} is not read again"


# --------------------------------------------------------------------------------- plugs and money


@invariant(grave=True)
def a_plug_is_in_one_mind(said: Said) -> Iterator[str]:
    """A plug that is called worn, fouled, cracked or bridged is not kept."""
    bad = {"plug-worn", "plug-fouled", "plug-wrong-type", "plug-gap-bridged", "gap-wide",
           "gap-narrow", "plug-insulator-cracked"}  # fmt: skip
    for one in said.cylinders:
        if one["plug_action"] != "keep":
            continue
        for claim in said.of(one["number"], "cylinder"):
            own = claim["faults"][:1] if claim["leads_to"] == "plug-service" else []
            if claim["stands"] and set(own) & bad and claim["basis"] != "rule":
                yield f"cylinder {one['number']}: keep, and {claim['text']}"


@invariant()
def what_is_done_to_a_plug_is_claimed(said: Said) -> Iterator[str]:
    """No repair without a claim."""
    for one in said.cylinders:
        wants = one["plug_action"] in ("clean", "regap", "replace")
        if wants and not [c for c in said.claims if one["number"] in c["cylinders"]]:
            yield f"the plug of {one['number']}: {one['plug_action']}, and nothing is claimed"


@invariant(grave=True)
def no_money_without_a_claim(said: Said) -> Iterator[str]:
    """What nobody claims costs nothing."""
    plugs = any(one["plug_action"] in ("clean", "regap", "replace") for one in said.cylinders)
    if said.engine["work"]["expected_cost"] and not said.claims and not plugs:
        yield f"{said.engine['work']['expected_cost']} for nothing"


@invariant(grave=True)
def no_repair_without_money(said: Said) -> Iterator[str]:
    """A repair that costs nothing misleads who pays."""
    repairs = [
        c for c in said.claims if c["stands"] and c["grade"] in "DE" and c["basis"] != "rule"
    ]
    if repairs and not said.engine["work"]["expected_cost"]:
        yield f"nothing for {repairs[0]['text']}"
    if said.engine["work"]["bad_luck_cost"] < 0.99 * said.engine["work"]["expected_cost"]:
        yield "bad luck is cheaper than what is expected"


# ------------------------------------------------------------------------------------- page one


@invariant(grave=True)
def nobody_named_is_praised(said: Said) -> Iterator[str]:
    """ "All look and measure well" of cylinders that are to be repaired."""
    named = {n for c in said.now["claims"] if c["scope"] in OWN for n in c["cylinders"]}
    if re.match(r"(All \w+ cylinders|Both cylinders|Its cylinder) ", said.page.others) and named:
        yield f"{said.page.others} beside {sorted(named)}"


@invariant()
def page_one_tells_what_is_grave(said: Said) -> Iterator[str]:
    """The client's page names the worst, or says that there is more."""
    grave = [c for c in said.now["claims"] if c["stands"] and c["grade"] in "DE"]
    behind = " ".join(said.page.behind)
    told = [(c["cylinders"], c["leads_to"]) for c in grave if c["client"] in behind]
    for one in grave:
        if (one["cylinders"], one["leads_to"]) not in told and "There is more" not in behind:
            yield f"page one lacks {one['client']!r}"


@invariant(grave=True)
def page_one_and_the_letter_agree(said: Said) -> Iterator[str]:
    """The kind of answer is the letter's."""
    kinds = {"A": {"sound"}, "B": {"service"}, "C": {"watch"}, "D": {"outside", "plug", "inside"},
             "E": {"stop"}, "U": {"unknown"}}  # fmt: skip
    if said.page.kind not in kinds[said.now["grade"]]:
        yield f"{said.page.kind}, and {said.now['grade']}"


@invariant(grave=True)
def running_is_told_in_one_voice(said: Said) -> Iterator[str]:
    """ "May run" beside "do not", or "not settled" beside what is certain."""
    runs = said.now["may_run"]
    if runs["answer"] == "no" and "it may run" in runs["reason"]:
        yield runs["reason"]
    if runs["answer"] in ("yes", "with-care") and re.search(
        r"do not (run|crank|turn|start)", runs["reason"]
    ):
        yield runs["reason"]
    if "not settled" in runs["reason"]:
        grave = [c for c in said.now["claims"] if c["grade"] in "CDE"]
        if grave and all(c["probability"] > 0.99 and c["stands"] for c in grave):
            yield "not settled, and over 99 %"
    job = said.document.inspection
    if job.engine_place == "stand" and runs["answer"] in ("yes", "with-care"):
        yield "an engine on its stand is told to run"


# ------------------------------------------------------------------------------------------ words


@invariant()
def verb_and_number_agree(said: Said) -> Iterator[str]:
    """1 and 2 "have", not "has"."""
    for text in said.sentences:
        if re.search(r"\b\d+ and \d+ (each )?(has|loses|draws|does|was|wants)\b", text):
            yield text
        if re.search(r"\b(?<!and )(?<!, )[Cc]ylinder \d+ (have|lose|draw|do|were|want)\b", text):
            yield text


@invariant()
def nothing_is_said_twice(said: Said) -> Iterator[str]:
    """One clause, once."""
    for verdict in {said.engine["verdict"], said.now["verdict"]}:
        told = [one.strip() for one in re.split(r"(?<=[a-z)%])\. ", verdict) if one.strip()]
        for one in {one for one in told if told.count(one) > 1}:
            yield f"twice: {one}"
        for sentence in told:
            clauses = [one.strip(" .") for one in sentence.partition(": ")[2].split("; ")]
            for one in {one for one in clauses if one and clauses.count(one) > 1}:
                yield f"twice in one sentence: {one}"


@invariant()
def no_raw_numbers_and_no_ids(said: Said) -> Iterator[str]:
    """What a person reads has neither identifiers nor machine's figures."""
    typed = {one.name for one in (*said.document.engine.banks, *said.document.engine.feeds)}
    for text in said.sentences:
        for name in typed:
            text = text.replace(name, "")
        if re.search(r"_|\bNone\b|[{}\[\]]|\d\.\d{4,}|\de[+-]\d|\bnan\b", text):
            yield text
        if re.search(r"\b(ring|valve|plug|head|fuel|mixture)-[a-z]+-?[a-z]*\b", text):
            yield text


@invariant()
def a_single_has_no_peers(said: Said) -> Iterator[str]:
    """Nothing of "the others" where there is one."""
    if said.document.engine.cylinders == 1:
        for text in said.sentences:
            if re.search(r"\bpeers\b|\bAll cylinders\b|the others\b|whole engine|fellows", text):
                yield text


@invariant()
def grave_words_mean_their_own_thing(said: Said) -> Iterator[str]:
    """Coolant is coolant; a sump and a catalyst are spoken of where there may be one."""
    for record in said.document.cylinders:
        coolant = record.plug.wet_with == "coolant" or record.borescope.coolant_trace
        verdict = said.engine["verdict"]
        if coolant and "coolant" not in verdict and "There is more" not in verdict:
            yield f"coolant on {record.number} is not called so"
    engine = said.document.engine
    for hazard in said.now["may_run"]["hazards"]:
        if engine.cycle == "two-stroke" and "thins the oil" in hazard["text"]:
            yield "a two-stroke has no sump"
        if engine.fuel_system in (None, "carburettor") and "catalyst" in hazard["text"]:
            yield "a catalyst on a carburettor"


# What an independent reader of the trade would be alarmed by: place, word, what is said of it.
ALARMING = {
    "plug": {
        "ground_electrode": {"missing": "strap", "melted": "melted", "bent": "bent"},
        "centre_electrode": {"melted": "melted", "eroded": "eroded"},
        "deposit_texture": {"speckled": "metal", "blistered": "blistered"},
        "insulator": {"cracked-nose": "cracked", "cracked-body": "cracked", "chipped": "chipped"},
        "seating": {"loose": "loose", "seized": "seized"},
        "gap_bridged": {True: "bridged"},
        "wet_with": {"coolant": "coolant"},
    },
    "borescope": {
        "crown": {"damaged": "crown"},
        "bore": {"scored": "scored"},
        "valves": {"burnt-edge": "burnt"},
        "coolant_trace": {True: "coolant"},
    },
    "well": {"debris": {"heavy": "debris"}},
}


@invariant(grave=True)
def what_was_seen_is_said(said: Said) -> Iterator[str]:
    """It holds whatever the numbers say."""
    for record in said.document.cylinders:
        own = " ".join(c["text"] for c in said.of(record.number))
        for group, fields in ALARMING.items():
            for field, words in fields.items():
                told = words.get(getattr(getattr(record, group), field))
                if told and told not in own:
                    yield f"{record.number}: {field} is unsaid, {told}"


# --------------------------------------------------------------------------------------- as left


@invariant(grave=True)
def as_left_is_earned(said: Said) -> Iterator[str]:
    """A is for what was proved; whatever went wrong keeps it from there."""
    left = said.engine.get("as_left")
    if not left:
        return
    proof = said.document.proof
    wrong = (
        proof.start == "no" or proof.beat == "uneven" or proof.codes == "came-back"
        or proof.complaint in ("same", "worse")
        or any(one.what and not one.back for one in said.document.work.removed)
    )  # fmt: skip
    if left["grade"] == "A" and (wrong or left["proof"]["state"] not in ("passed", "none")):
        yield f"A with {left['proof']}"
    if left["proof"]["state"] == "failed" and left["grade"] not in ("C", "D", "E"):
        yield f"failed, and {left['grade']}"
    if "No fault found" in left["verdict"] and left["proof"]["state"] in ("failed", "not-yet"):
        yield "no fault found, and nothing proved"


@invariant()
def a_passed_proof_closes_the_case(said: Said) -> Iterator[str]:
    """No test, no warning, nothing to renew: a date to look again."""
    left = said.engine.get("as_left")
    if left and left["proof"]["state"] == "passed":
        if said.answer["next_tests"]:
            yield f"tests: {[one['test'] for one in said.answer['next_tests']]}"
        if len(left["open"]) != 1:
            yield f"open: {left['open']}"
        codes = {one["code"] for one in said.answer["warnings"]}
        if codes & {"overdue", "incomplete", "history-unknown", "intermittent"}:
            yield f"warned of {sorted(codes)}"


@invariant()
def what_speaks_for_it_does_not_speak_against_it(said: Said) -> Iterator[str]:
    """The same words on both sides of one fault explain nothing."""
    for one in (*said.cylinders, *said.answer["shared"]):
        for fault in one.get("faults", [one]):
            sides: dict[str, set[bool]] = {}
            for why in fault.get("because", ()):
                sides.setdefault(why["finding"], set()).add(why["weight"] > 0)
            for finding, both in sides.items():
                if len(both) > 1:
                    yield f"{fault['fault']}: {finding} for and against"


def broken(said: Said) -> Iterator[tuple[str, bool, str]]:
    """Every invariant that one record breaks: its name, whether it is grave, and what was seen."""
    for check, grave in INVARIANTS:
        for text in check(said):
            yield check.__name__, grave, text
