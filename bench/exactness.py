"""The same network in a general-purpose exact-inference library: equal answers, and the ratio.

python -m bench.exactness

The library (pyAgrum) is given the network from the tables' definitions: groups of faults, faces,
misses and gaskets as nodes, one observed node for every finding. It eliminates variables its own
way; nothing of core/inference/solver.py is used to build it but the pressure tables.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from statistics import median
from typing import Any

import numpy as np
import pyagrum as agrum

from bench.speed import full_record
from core.document import Document, check_document
from core.hidden.states import Group
from core.hidden.strands import Lay, Strand
from core.inference.model import Model, forget
from core.inference.solver import Tables, solve
from core.knowledge import Channel, knowledge

Array = np.ndarray[Any, Any]
ROUNDS = 7
PLAIN = Lay()
agrum.setNumberOfThreads(1)  # As ours has.


class Network:
    """A document's model as a Bayesian network of small inline engines."""

    def __init__(self, model: Model) -> None:
        self.model = model
        self.problem = model.problem
        self.net = agrum.BayesNet("engine")
        self.evidence: dict[str, int] = {}
        situations = self.problem.situations
        self._root("situation", np.exp(situations.log_prior))
        grid = self.problem.level.log_prior[:, None] + self.problem.handling.log_prior[None, :]
        self._root("level", np.exp(grid.ravel()))
        heard = [one for one in self.problem.strands if not one.silent]
        self.sets = [one.lay for one in heard]
        self._root("set", np.array([one.weight for one in heard]))
        gaskets = self.problem.gaskets[0]
        for at, prior in enumerate(gaskets):
            self._root(f"gasket{at}", prior)
        for at in range(len(self.problem.words)):
            self._cylinder(at, len(gaskets))
        for strand in self.problem.strands:
            if len(strand.silent) == 1 and not strand.set_:
                self._complaint(strand, -strand.weight / heard[0].weight, len(gaskets))

    def _complaint(self, silent: Strand, quiet: float, gaskets: int) -> None:
        """A leaky noisy-OR over what every cylinder has, the gaskets beside it and what is shared.

        `quiet` is the chance that it is said of nothing, taken from one.
        """
        name, silence = "".join(silent.silent), dict(silent.lay.silence)
        situations = self.problem.situations
        shared = [
            np.prod([silence.get(one.fault, 1.0) for one in members])
            for members in situations.members
        ]
        parts = [f"shared_{name}"]
        self._child(parts[0], ["situation"], np.stack([shared, 1 - np.array(shared)], axis=-1))
        for at, words in enumerate(self.problem.words):
            still = words.still(silent.lay)
            own = still[0][:, None, None] * still[1][:, None] * still[2]
            beside = [f"gasket{link}" for link in (at - 1, at) if 0 <= link < gaskets]
            states = np.indices([self.problem.leaks.gaskets] * len(beside))
            leaking = states.sum(axis=0) > 0 if beside else np.zeros(())
            table = np.multiply.outer(own, np.where(leaking, silent.lay.beside, 1.0))
            parents = [f"{group}{at}" for group in ("mechanical", "running", "plug")] + beside
            parts.append(f"quiet_{name}{at}")
            self._child(parts[-1], parents, np.stack([table, 1 - table], axis=-1))
        brings = np.indices([2] * len(parts)).sum(axis=0) > 0
        self._observed(f"said_{name}", parts, np.where(brings, 1.0, 1 - quiet))

    def _root(self, name: str, prior: Array) -> None:
        self.net.add(agrum.RangeVariable(name, name, 0, len(prior) - 1))
        self.net.cpt(name)[:] = np.asarray(prior) / np.sum(prior)

    def _child(self, name: str, parents: list[str], table: Array) -> None:
        """A node whose table has its parents' axes first and its own last."""
        self.net.add(agrum.RangeVariable(name, name, 0, table.shape[-1] - 1))
        for parent in parents:
            self.net.addArc(parent, name)
        order = list(self.net.cpt(name).names)[::-1]
        axes = [*parents, name]
        turned = np.transpose(table, [axes.index(one) for one in order])
        self.net.cpt(name)[:] = np.ascontiguousarray(turned)

    def _observed(self, name: str, parents: list[str], chance: Array) -> None:
        scaled = chance / chance.max()
        self._child(name, parents, np.stack([1 - scaled, scaled], axis=-1))
        self.evidence[name] = 1

    def _cylinder(self, at: int, gaskets: int) -> None:
        words = self.problem.words[at]
        names = [f"{group}{at}" for group in ("mechanical", "running", "plug")]
        parents = ["situation", *names]
        unions = list(self._unions(at))
        known = knowledge()
        self._priors(at, names)
        for number, (finding, _) in enumerate(words.direct):
            channel = known.channels[finding.channel]
            value = channel.index(finding.value)
            chance = self._over(
                unions, lambda own, out, c=channel, v=value: first(c, own | acting(out))[v]
            )
            self._observed(f"finding{at}x{number}", parents, chance)
        if words.face:
            faces = known.faces
            manner = words.manner
            table = self._over(unions, lambda own, out: first(faces, own | out, manner))
            self._child(f"face{at}", parents, table)
            for number, (_, row) in enumerate(words.face):
                self._observed(f"word{at}x{number}", [f"face{at}"], row)
        if words.heard:
            fires = self._over(unions, lambda own, out: misses(own | acting(out), words.manner))
            self._child(f"own_miss{at}", parents, np.stack([1 - fires, fires], axis=-1))
            self._miss(at, gaskets)
            for number, (_, row) in enumerate(words.heard):
                self._observed(f"heard{at}x{number}", [f"miss{at}"], np.array(row))
        if words.well:
            self._observed(f"well{at}", [f"mechanical{at}"], words.well_factor())
        self._gauges(at, gaskets)

    def _miss(self, at: int, gaskets: int) -> None:
        """A cylinder misses for its own reasons, or because a gasket beside it leaks."""
        beside = [f"gasket{link}" for link in (at - 1, at) if 0 <= link < gaskets]
        states = np.indices((2, *[self.problem.leaks.gaskets] * len(beside)))
        robbed = knowledge().misfire_beside * (states[1:].sum(axis=0) > 0)
        miss = np.where(states[0] == 1, 1.0, robbed)
        self._child(f"miss{at}", [f"own_miss{at}", *beside], np.stack([1 - miss, miss], axis=-1))

    def _gauges(self, at: int, gaskets: int) -> None:
        said = self.problem.pressures[at]
        if said.density is None:
            return
        leaks = self.problem.leaks
        points, pairs = np.arange(len(said.density)), np.arange(leaks.besides)
        table = Tables.of(leaks, said, {}, points, pairs).plain
        table = table[leaks.beside].transpose(2, 0, 1, 3)
        parents = ["level"]
        if at > 0:
            parents.append(f"gasket{at - 1}")
        else:
            table = table[:, 0]
        if at < gaskets:
            parents.append(f"gasket{at}")
        else:
            table = table[..., 0, :]
        self._observed(f"gauge{at}", [*parents, f"mechanical{at}"], table)

    def _unions(self, at: int) -> Iterator[tuple[frozenset[str], frozenset[str]]]:
        """Own faults and what acts from outside, for every joint state."""
        situations = self.problem.situations
        mechanical, running, plug = self.problem.words[at].tables.states.groups
        for row in situations.context_of[:, at]:
            for m in mechanical.combinations:
                for r in running.combinations:
                    for p in plug.combinations:
                        yield m | r | p, situations.contexts[row]

    def _over(self, unions: list[Any], chance: Any) -> Array:
        """A function of (own, outside) over every joint state, each pair computed once."""
        computed = {pair: chance(*pair) for pair in dict.fromkeys(unions)}
        rows = [computed[pair] for pair in unions]
        states = self.problem.words[0].tables.states
        shape = (len(self.problem.situations.members), *(len(g.has) for g in states.groups))
        return np.array(rows).reshape(*shape, *np.shape(rows[0]))

    def _priors(self, at: int, names: list[str]) -> None:
        """Spark and fuel given what acts from outside, then the others given both."""
        words, situations = self.problem.words[at], self.problem.situations
        mechanical, running, plug = words.tables.states.groups
        outside = [acting(situations.contexts[row]) for row in situations.context_of[:, at]]

        def rows(
            group: Group, causes: list[frozenset[str]], lay: Lay = PLAIN, *, own: bool
        ) -> Array:
            known = list(dict.fromkeys(causes))
            prior = group.prior(tuple(sorted(lay.raised(words.odds).items())))
            found = np.array([
                [chance * self._raised(one, by | one if own else by)
                 for chance, one in zip(prior, group.combinations, strict=True)]
                for by in known
            ])  # fmt: skip
            found /= found.sum(axis=1, keepdims=True)
            return np.asarray(found[[known.index(by) for by in causes]])

        self._child(names[1], ["situation"], rows(running, outside, own=True))
        both = [by | one for by in outside for one in running.combinations]
        shape = (len(outside), len(running.combinations), -1)
        self._child(
            names[0], ["situation", names[1]], rows(mechanical, both, own=False).reshape(shape)
        )
        by_set = [rows(plug, both, lay, own=False).reshape(shape) for lay in self.sets]
        self._child(names[2], ["set", "situation", names[1]], np.array(by_set))

    @staticmethod
    def _raised(own: frozenset[str], causes: frozenset[str]) -> float:
        factor = 1.0
        for when, modifier in knowledge().modifiers.items():
            if when.startswith("fault/") and when.removeprefix("fault/") in causes:
                factor *= float(np.prod([f for name, f in modifier.odds.items() if name in own]))
        return factor

    def posteriors(self, names: list[str]) -> dict[str, Array]:
        engine = agrum.LazyPropagation(self.net)
        engine.setEvidence(self.evidence)
        engine.makeInference()
        return {name: engine.posterior(name).toarray() for name in names}


def acting(context: frozenset[str]) -> frozenset[str]:
    """What acts from outside; what is marked unseen acts, and leaves the nose as it was."""
    return frozenset(one.partition("@")[0] for one in context)


def first(channel: Channel, present: frozenset[str], manner: frozenset[str] = frozenset()) -> Array:
    """A channel by its definition: the first active cause that takes effect, else the base."""
    chance, left = np.zeros(len(channel.values)), 1.0
    for cause in channel.causes:
        if any(fault in present for fault in cause.faults):
            strength = cause.strength_in(manner)
            chance = chance + left * strength * np.array(cause.values)
            left *= 1 - strength
    return np.asarray(chance + left * np.array(channel.base))


def misses(present: frozenset[str], manner: frozenset[str]) -> float:
    """A leaky noisy-OR by its definition."""
    fires = 1 - knowledge().misfire_leak
    for cause in knowledge().misfire_causes:
        if any(fault in present for fault in cause.faults):
            fires *= 1 - cause.strength_in(manner)
    return 1 - fires


def example(cylinders: int) -> dict[str, Any]:
    """A small engine with a little of everything."""
    plug = {"deposit_colour": "black", "wetness": "damp", "ground_electrode": "rounded"}
    return check_document(
        {
            "format": "fiacre-inspection",
            "version": 1,
            "engine": {
                "cycle": "four-stroke",
                "layout": "single" if cylinders == 1 else "inline",
                "cylinders": cylinders,
                "fuel_system": "port",
            },
            "inspection": {"trouble_codes": ["P0301"], "complaints": ["rough-idle"]},
            "cylinders": [{"number": 1, "plug": plug, "borescope": {"bore": "polished"}}],
            "tests": {
                "compression": [
                    {
                        "kind": "dry",
                        "readings": [
                            {"cylinder": n, "pressure": {"value": 95 + 50 * (n > 1), "unit": "psi"}}
                            for n in range(1, cylinders + 1)
                        ],
                    }
                ]
            },
        }
    )


def full(cylinders: int) -> dict[str, Any]:
    """The same engine with every kind of evidence on every cylinder."""
    made = full_record(cylinders)
    kept = {name: value for name, value in made["engine"].items() if name != "banks"}
    layout = "single" if cylinders == 1 else "inline"
    return check_document({**made, "engine": {**kept, "layout": layout}})


@dataclass(frozen=True)
class Comparison:
    """One engine solved twice. Times are in seconds."""

    worst: float
    library_inference: float
    library_whole: float
    own_inference: float
    own_whole: float


def seconds(run: Callable[[], object]) -> float:
    """Median of some rounds; nothing is kept from one to the next."""
    taken = []
    for _ in range(ROUNDS):
        forget()
        started = time.perf_counter()
        run()
        taken.append(time.perf_counter() - started)
    return median(taken)


def compare(document: dict[str, Any]) -> Comparison:
    """Solve an engine with the library and with our own solver; `worst` of any posterior."""
    typed = Document.of(document)
    model = Model.of(typed)

    def inferred() -> None:
        for belief in solve(model.problem).beliefs:
            assert len(belief.posterior)

    cylinders = len(model.problem.words)
    own_inference, own_whole = seconds(inferred), seconds(lambda: Model.of(typed))
    started = time.perf_counter()
    network = Network(model)
    built = time.perf_counter() - started
    names = ["situation"]
    for at in range(cylinders):
        names += [f"mechanical{at}", f"running{at}", f"plug{at}"]
    library_inference = seconds(lambda: network.posteriors(names))
    found = network.posteriors(names)
    worst = float(np.abs(found["situation"] - model.solution.situation).max())
    for at, belief in enumerate(model.solution.beliefs):
        for name in ("mechanical", "running", "plug"):
            off = np.abs(found[f"{name}{at}"] - getattr(belief, name)).max()
            worst = max(worst, float(off))
    return Comparison(worst, library_inference, built + library_inference, own_inference, own_whole)


def main() -> None:
    for name, make in (("a little of everything", example), ("every kind of evidence", full)):
        print(f"{name}:")
        for cylinders in (1, 2, 3):
            one = compare(make(cylinders))
            inference = one.library_inference / one.own_inference
            whole = one.library_whole / one.own_whole
            print(
                f"  {cylinders} cylinders: largest difference {one.worst:.1e}; inference alone "
                f"{one.library_inference * 1e3:.1f} ms against {one.own_inference * 1e3:.1f} ms, "
                f"ratio {inference:.0f}; from the document to the answer {one.library_whole:.2f} s "
                f"against {one.own_whole:.4f} s, ratio {whole:.0f}",
                flush=True,
            )
            assert one.worst < 1e-9


if __name__ == "__main__":
    main()
