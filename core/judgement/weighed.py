"""Claims that the posterior makes: of single cylinders, of neighbours, of what cylinders share."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from core.assessment import SharedFault
from core.hidden.states import LEAKING
from core.judgement.claims import (
    GASKET,
    Claim,
    base_of,
    graded,
    stands,
    suspected,
    topic,
)
from core.judgement.degree import degree_of, figure_of, slight_leak
from core.judgement.material import Material
from core.judgement.shared_faults import at_its_place
from core.knowledge import Fault, knowledge
from core.knowledge.case import Topic, case_tables
from core.knowledge.limits import limits
from core.language import listed, say
from core.vocabulary import Grade

MOST_WAYS = 3
LEAST_WAY = limits().said.way  # Of what is open, a way less likely than this is not listed.
# What a plug's own claim says already (core/judgement/on_plugs.py).
OF_PLUGS = ("plug-worn", "plug-fouled", "plug-wrong-type")
# On an engine of one cylinder its own mixture is the engine's, and told as that.
OF_MIXTURE = {"fuel-rich": "mixture-rich", "fuel-lean": "mixture-lean"}
SCOPES = {"bank", "feed", "coil", "leads"}
HARM: Grade = "C"


def weighed(material: Material, shared: Sequence[SharedFault]) -> list[Claim]:
    """Everything that is likely or suspected, each thing once."""
    of_shared = list(_of_shared(material, shared))
    of_pairs = list(_of_pairs(material))
    explained = {
        number
        for one in of_shared
        if one.stands and (one.scope in SCOPES or len(material.cylinders) == 1)
        for number in one.cylinders
    }
    in_pairs = {number for one in of_pairs if one.stands for number in one.cylinders}
    found: list[Claim] = []
    for number in material.cylinders:
        if number in material.told:
            found += _Cylinder(material, number).claims(
                explained=number in explained, in_pair=number in in_pairs
            )
    some = [] if in_pairs else list(_some_leak(material, found))
    covered = {number for one in some for number in one.cylinders}
    found = [
        one for one in found
        if not (one.about == "pressure" and not one.stands and set(one.cylinders) & covered)
    ]  # fmt: skip
    return [*of_shared, *of_pairs, *some, *found]


class _Cylinder:
    """What is likely of one cylinder."""

    def __init__(self, material: Material, number: int) -> None:
        self.material = material
        self.number = number
        self.chance = material.posterior.marginal(number)
        self.asked = number in material.asked
        sights = material.seen.get(number, ())
        self.shown = {one.row.shows for one in sights if one.row.shows}
        self.known = knowledge()
        self.alone = len(material.cylinders) == 1

    def claims(self, *, explained: bool, in_pair: bool) -> list[Claim]:
        found = [
            self._of_fault(fault)
            for fault in self._possible()
            if fault.id not in self.shown and stands(self.chance[fault.id])
        ]
        said = {name for one in found for name in one.faults} | self.shown
        if not said & set(topic("stops").faults):
            found += self._of_topic("stops", self._sum("stops"), only_standing=True)
        leaks = said & set(LEAKING) or any(one.about == "stops" for one in found)
        if not leaks and not in_pair:
            found += self._of_topic("pressure", self.material.posterior.loses(self.number))
        if not said & set(topic("oil").faults) and not any(one.stands for one in found):
            found += self._of_topic("oil", self._sum("oil"))
        if not said & set(topic("firing").faults) and not explained:
            found += self._of_topic("firing", self._sum("firing"))
        repair = {"D", "E"} & {one.grade for one in found}
        if not repair and not explained and not in_pair and not self.shown:
            found += self._whatever(found)
        # Beside what is to be repaired anyway, what is merely suspected waits.
        watch = self.known.consequences["grades"]["watch"]
        return [one for one in found if one.stands or not repair or one.probability >= watch]

    def _possible(self) -> list[Fault]:
        return [
            fault
            for fault in self.known.of_scope("cylinder")
            if fault.id in self.chance
            and fault.id not in OF_PLUGS
            and not (self.alone and fault.id in OF_MIXTURE)
        ]

    def _sum(self, name: str) -> float:
        """Chance of any fault of a topic; exact where it decides anything."""
        faults = tuple(one for one in topic(name).faults if one in self.chance)
        most = sum(self.chance[one] for one in faults)
        if most < self.known.suspected_from:
            return most
        return self.material.posterior.any_of([self.number], faults)

    def _of_fault(self, fault: Fault) -> Claim:
        chance = self.chance[fault.id]
        leaks = fault.id in LEAKING
        slight = self._slight(chance) if leaks else 0.0
        hazard = case_tables().hazard_of(fault.id)
        return Claim(
            about=fault.id,
            cylinders=(self.number,),
            label=say(fault.label),
            basis="weighed",
            probability=chance,
            base=fault.prior,
            grade=graded(
                chance, fault.consequence, asked=self.asked, cuts_out=fault.cuts_out,
                stops=fault.stops, slight=slight,
            ),
            faults=(fault.id,),
            degree=degree_of(self.material.model, self.number) if leaks else "",
            figure=self._figure() if leaks else "",
            row=hazard.row if hazard else "",
            explains=(fault.id,),
        )  # fmt: skip

    def _of_topic(self, name: str, chance: float, *, only_standing: bool = False) -> list[Claim]:
        """That one of several is there, where none is likely by itself."""
        row = topic(name)
        base = base_of([one for one in row.faults if one in self.chance])
        if not suspected(chance, base) or (only_standing and not stands(chance)):
            return []
        ways = self._ways(row.faults, gaskets=row.gaskets)
        slight = self._slight(chance) if name == "pressure" else 0.0
        faults = tuple(fault for fault, _, _ in ways)
        worst = self._worst(faults)
        leak = name == "pressure"
        return [
            Claim(
                about=name,
                cylinders=(self.number,),
                label=say(row.says),
                many=say(row.many),
                basis="weighed",
                probability=chance,
                base=base,
                grade=graded(
                    chance, worst, asked=self.asked, stops=name == "stops", slight=slight,
                    cuts_out=name == "firing",
                ),
                faults=faults,
                ways=tuple((label, share) for _, label, share in ways),
                degree=degree_of(self.material.model, self.number) if leak else "",
                figure=self._figure() if leak else "",
                row=self._row(name, faults) if stands(chance) else "",
                settles=self._settles(row),
                stands=stands(chance),
                explains=row.faults,
            )
        ]  # fmt: skip

    def _settles(self, row: Topic) -> str:
        """The first test of a topic that was not made yet."""
        document, number = self.material.document, self.number
        record = document.cylinder(number)
        kinds = {one.kind for one in self.material.model.gauged_of(number)}
        made = {
            "plug": record.plug.recorded,
            "wet-compression": "wet" in kinds or "dry" not in kinds,
            "leakdown": "leak-down" in kinds,
            "borescope": record.borescope.recorded,
            "spark": any(one.cylinder == number for one in document.tests.spark),
            "balance": any(one.cylinder == number for one in document.tests.balance),
        }
        return next((one for one in row.settles if not made.get(one)), "")

    def _whatever(self, found: Sequence[Claim]) -> list[Claim]:
        """A repair is likelier than not, and nothing by itself: the leading ways are told."""
        chance = self.material.posterior.own_repair(self.number)
        repair = self.known.consequences["grades"]["repair"]
        if chance - self._slight(chance) < repair:
            return []
        names = [fault.id for fault in self._possible() if fault.group in ("mechanical", "running")]
        ways = self._ways(names, gaskets=True)
        faults = tuple(fault for fault, _, _ in ways)
        return [
            Claim(
                about="repair",
                cylinders=(self.number,),
                label=say("wants a repair"),
                many=say("want a repair"),
                basis="weighed",
                probability=chance,
                base=base_of(names),
                grade=graded(chance, self._worst(faults), asked=self.asked),
                faults=faults,
                ways=tuple((label, share) for _, label, share in ways),
                explains=tuple(names),
            )
        ]

    def _ways(self, names: Sequence[str], *, gaskets: bool) -> list[tuple[str, str, float]]:
        """What it may be: fault, label and chance, the likeliest first."""
        ways = [
            (name, self._label(name), self.chance[name]) for name in names if name in self.chance
        ]
        if gaskets:
            for other in self.material.cylinders:
                between = self.material.posterior.between(self.number, other)
                if between > 0:
                    label = say("gasket between it and {other}", other=other)
                    ways.append((GASKET, label, between))
        ways.sort(key=lambda one: (-one[2], one[0]))
        told = [one for one in ways if one[2] >= LEAST_WAY][:MOST_WAYS]
        return told or ways[:2]

    def _label(self, name: str) -> str:
        """A fault of its own as it is called; a single's mixture is the engine's."""
        if self.alone and name in OF_MIXTURE:
            return say(self.known.fault(OF_MIXTURE[name], "engine").label)
        return say(self.known.fault(name, "cylinder").label)

    def _worst(self, faults: Sequence[str]) -> str:
        """The gravest consequence among some faults."""
        ranks = self.known.consequences["class"]
        classes = [
            self.known.fault(one, "pair" if one == GASKET else "cylinder").consequence
            for one in faults
        ]
        return max(classes, key=lambda name: ranks[name]["rank"], default="none")

    def _row(self, name: str, faults: Sequence[str]) -> str:
        """The hazard of what is open: of its likeliest way that has one and forbids nothing."""
        if name == "stops":
            return "piston"
        if name == "pressure" and {"exhaust-valve-sealing", GASKET} & set(faults):
            return "burning-leak"
        rows = [case_tables().hazard_of(one) for one in faults]
        mild = [one.row for one in rows if one is not None and one.answer != "no"]
        return mild[0] if mild else ""

    def _slight(self, chance: float) -> float:
        """Only what would be called a repair can be a slight one."""
        if chance < self.known.consequences["grades"]["repair"]:
            return 0.0
        return slight_leak(self.material.model, self.number, self.material.first)

    def _figure(self) -> str:
        others = [
            one
            for one in self.material.cylinders
            if one != self.number and not stands(self.material.posterior.loses(one))
        ]
        return figure_of(self.material.model, [self.number], others, self.material.unit)


def _some_leak(material: Material, found: Sequence[Claim]) -> Iterator[Claim]:
    """Some of several leak, though none likely by itself: graded as one leak is."""
    row = topic("pressure")
    claimed = {
        number for one in found if one.stands and set(one.faults) & set(LEAKING)
        for number in one.cylinders
    }  # fmt: skip
    base = base_of([one for one in row.faults if one in material.posterior.marginal(1)])
    ladder = case_tables().ladder
    least = max(ladder.some, ladder.raised * base)
    open_ones = [
        number
        for number in material.cylinders
        if number in material.told
        and number not in claimed
        and material.posterior.loses(number) >= least
    ]
    if len(open_ones) < 2:
        return
    faults = (*(one for one in row.faults if one in material.posterior.marginal(1)), GASKET)
    chance = material.posterior.any_of(open_ones, faults)
    if stands(chance):
        yield Claim(
            about="some-leak",
            cylinders=tuple(open_ones),
            label=say("one of these loses pressure, or more of them"),
            basis="weighed",
            probability=chance,
            base=1 - (1 - base) ** len(open_ones),
            grade=graded(chance, "top-end"),
            own_grade="C",
            scope="some",
            faults=faults,
            settles="leakdown",
            row="",
            explains=faults,
        )


def _of_pairs(material: Material) -> Iterator[Claim]:
    """The gasket between two neighbours, where it is likely or suspected by itself."""
    cylinders, pair = material.cylinders, material.model.solution.pair
    fault = knowledge().fault(GASKET, "pair")
    for (left, right), posterior in sorted(pair.items()):
        chance, both = 1 - float(posterior[0]), (cylinders[left], cylinders[right])
        if not stands(chance):
            continue
        yield Claim(
            about=GASKET,
            cylinders=both,
            label=say("lose pressure together: most likely the gasket between them"),
            basis="weighed",
            probability=chance,
            base=fault.prior,
            grade=graded(chance, fault.consequence),
            scope="pair",
            faults=(GASKET,),
            degree="plain",
            row="burning-leak",
            settles="leakdown",
            explains=(GASKET, *LEAKING),
        )


def _of_shared(material: Material, shared: Sequence[SharedFault]) -> Iterator[Claim]:
    """What all cylinders share, or those of one bank, carburettor, coil or pair of leads."""
    alone = len(material.cylinders) == 1
    told = bool(material.told) or material.document.distributor.recorded
    if not told:
        return
    by_fault: dict[str, list[SharedFault]] = {}
    for one in shared:
        by_fault.setdefault(one.fault, []).append(one)
    standing = False
    for fault, places in by_fault.items():
        if fault == "test-condition" or (alone and _own_of_a_single(material, fault)):
            continue
        likely = [one for one in places if stands(one.probability)]
        if likely:
            standing = True
            yield _shared_claim(material, likely[0])
            continue
        somewhere = material.posterior.shared_somewhere(fault) or places[0].probability
        base = knowledge().fault(fault, "engine").prior
        if suspected(places[0].probability, base):
            yield _shared_claim(material, places[0])
        elif stands(somewhere):
            standing = True
            yield _somewhere(material, [fault], places, somewhere)
    chance = material.posterior.shared_any()
    if not standing and stands(chance):
        ranked = sorted(
            (one for one in shared if one.fault not in ("test-condition", "valve-timing")),
            key=lambda one: -one.probability,
        )
        yield _somewhere(material, [one.fault for one in ranked], ranked, chance)


def _own_of_a_single(material: Material, fault: str) -> bool:
    """On one cylinder what is shared and what is its own are one: only its mixture is shared."""
    return fault in material.posterior.marginal(material.cylinders[0])


def _shared_claim(material: Material, one: SharedFault) -> Claim:
    known = knowledge()
    fault = known.fault(one.fault, "cylinder" if one.scope == "coil" else "engine")
    hazard = case_tables().hazard_of_shared(one.fault)
    asked = bool(material.document.inspection.complaints) or bool(
        material.asked & set(one.cylinders)
    )
    grade = graded(one.probability, fault.consequence, asked=asked)
    of_part = one.scope in SCOPES or len(material.cylinders) == 1
    harms = known.fault(one.fault, "engine").hazard == "seizure"
    harmed: Grade = HARM if harms and stands(one.probability) else "A"
    own = grade if of_part else harmed
    return Claim(
        about=one.fault,
        cylinders=one.cylinders,
        label=say(fault.label),
        basis="weighed",
        probability=one.probability,
        base=fault.prior,
        grade=grade,
        own_grade=own,
        scope=one.scope,
        name="" if one.scope == "engine" else one.name,
        faults=(one.fault,),
        row=hazard.row if hazard and stands(one.probability) else "",
        stands=stands(one.probability),
        explains=(one.fault, fault.acts_as, *_own_too(material, one.fault)),
    )


def _own_too(material: Material, fault: str) -> tuple[str, ...]:
    """On one cylinder the engine's mixture is its own as well."""
    if len(material.cylinders) > 1:
        return ()
    return tuple(own for own, shared in OF_MIXTURE.items() if shared == fault)


def _somewhere(
    material: Material, faults: Sequence[str], places: Sequence[SharedFault], chance: float
) -> Claim:
    """Something that is shared is wrong, and where or what is open."""
    ways = tuple(
        (at_its_place(one), one.probability)
        for one in places[:MOST_WAYS]
        if one.probability >= LEAST_WAY
    )
    consequences = knowledge().consequences["class"]
    worst = max(
        (knowledge().fault(one, "engine").consequence for one in dict.fromkeys(faults)),
        key=lambda name: consequences[name]["rank"],
    )
    return Claim(
        about="shared",
        cylinders=material.cylinders,
        label=say("something that cylinders share is not right: {ways}",
                  ways=listed([label for label, _ in ways])),
        basis="weighed",
        probability=chance,
        base=base_of(list(dict.fromkeys(faults)), "engine"),
        grade=graded(chance, worst),
        own_grade="A",
        scope="somewhere",
        faults=tuple(dict.fromkeys(faults))[:MOST_WAYS],
        ways=ways,
        explains=tuple(dict.fromkeys(faults)),
    )  # fmt: skip
