"""One list of what cylinders share and what may be wrong with it.

Engine, bank, carburettor, coil and leads alike: verdict, report and screens read the same list.
"""

from __future__ import annotations

from collections.abc import Iterator

from core.assessment import Because, Scope, SharedFault
from core.explanation.shared_reasons import SharedReasons
from core.hidden.situations import Shared, is_fault
from core.inference.model import Model
from core.judgement.places import place_within
from core.knowledge import Fault, knowledge
from core.knowledge.limits import limits
from core.language import begun, say

SCOPES: dict[str, Scope] = {
    "engine": "engine", "bank": "bank", "feed": "feed", "coil": "coil", "pair": "leads",
}  # fmt: skip
ALIKE_ALONE = {"mixture-rich": "fuel-rich", "mixture-lean": "fuel-lean"}
CAN_BE_OWN = ("mixture", "ignition", "heat")
LEAST_LEADS = limits().said.leads  # So many pairs could be crossed: only likely ones are listed.


def shared_faults(model: Model, why: SharedReasons | None) -> list[SharedFault]:
    """Every fault of what cylinders share, the likeliest first.

    Parameters
    ----------
    model : Model
    why : SharedReasons or None
        What gives reasons; None leaves them out.
    """
    found = [*_of_parts(model, why), *_of_level(model, why)]
    return sorted(found, key=lambda one: (-one.probability, one.fault, one.scope, one.name))


def _of_parts(model: Model, why: SharedReasons | None) -> Iterator[SharedFault]:
    everyone = model.arranged.cylinders
    for one in model.parts:
        chance = model.shared(one.fault, (one.where,), one.name)
        if one.where == "pair" and chance < LEAST_LEADS:
            continue
        because = _reasons_of(one, why)
        yield _listed(one.fault, SCOPES[one.where], one.name, one.cylinders, chance, because)
    if len(everyone) == 1:
        for known in _own_of_a_single(model):
            chance = alone(model, known)
            yield _listed(known.id, "engine", "engine", everyone, chance, ())


def _own_of_a_single(model: Model) -> Iterator[Fault]:
    """What on one cylinder is this cylinder's and the engine's at once."""
    listed = {one.fault for one in model.situations.alone}
    for fault in knowledge().of_scope("engine"):
        possible = fault.possible_on(model.document.engine.cycle, model.document.engine.cooling)
        if possible and fault.group in CAN_BE_OWN and fault.id not in listed:
            yield fault


def alone(model: Model, fault: Fault) -> float:
    """On one cylinder, "this cylinder" and "all of them" are one and the same."""
    own = ALIKE_ALONE.get(fault.id, fault.id)
    words = model.problem.words[0]
    if own not in words.names:
        return model.shared(fault.id, ("engine", "pair"))
    chances = words.marginals(model.solution.beliefs[0].posterior)
    return float(chances[words.names.index(own)])


def shared_label(one: SharedFault) -> str:
    """What may be wrong with it; a coil is spoken of as a cylinder's spark is."""
    scope = "cylinder" if one.scope == "coil" else "engine"
    return say(knowledge().fault(one.fault, scope).label)


def place_of(one: SharedFault) -> str:
    """What cylinders share, as a sentence begins with it."""
    return begun(place_within(one.scope, one.name, one.cylinders))


def at_its_place(one: SharedFault) -> str:
    """A shared fault with the part that it is of, where it is not of the whole engine."""
    label = shared_label(one)
    if one.scope == "engine":
        return label
    return f"{label} ({place_within(one.scope, one.name, one.cylinders)})"


def _reasons_of(one: Shared, why: SharedReasons | None) -> tuple[Because, ...]:
    if why is None:
        return ()
    if one.fault == "valve-timing":
        return tuple(why.of_bank_timing(one.name))
    return tuple(why.of_shared(is_fault(one.fault, (one.where,), one.name)))


def _of_level(model: Model, why: SharedReasons | None) -> Iterator[SharedFault]:
    """What moves every reading alike."""
    for fault, chance in model.level_faults.items():
        known = knowledge().fault(fault, "engine")
        if known.possible_on(model.document.engine.cycle, model.document.engine.cooling):
            because = tuple(why.of_level(fault)) if why else ()
            everyone = model.arranged.cylinders
            yield _listed(fault, "engine", "engine", everyone, chance, because)


def _listed(
    fault: str,
    scope: Scope,
    name: str,
    cylinders: tuple[int, ...],
    chance: float,
    because: tuple[Because, ...],
) -> SharedFault:
    return SharedFault(fault, scope, name, cylinders, rounded(chance), because)


def rounded(chance: float) -> float:
    """A chance as it is written: to a millionth, never outside 0 to 1."""
    return round(min(max(float(chance), 0.0), 1.0), 6)
