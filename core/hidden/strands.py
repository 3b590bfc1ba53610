"""What a whole engine's witnesses share: the answer as a sum of strands.

Within a strand cylinders know of each other only through what acts on them and the gaskets between.
Two things are said of all cylinders at once, and make strands. A set of plugs is worn or it is not,
and all of them with it. A complaint is said unless every fault that could bring it stays silent:

    P(said) = 1 - (1 - else) * product of every fault's silence

which is a sum of two products, the second with a minus. So the sum over strands is exact, although
the weight of a strand may be negative.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from core.hidden.situations import Situations
from core.hidden.states import Vector

Factors = tuple[tuple[str, float], ...]
BETWEEN = "head-gasket-between"


@dataclass(frozen=True)
class Lay:
    """What a strand lays on one cylinder.

    Attributes
    ----------
    odds : pairs of (fault, factor)
        On the odds beforehand, which sum to one again.
    silence : pairs of (fault, chance)
        That a fault, where it is, brings none of the complaints that are silent here.
    """

    odds: Factors = ()
    silence: Factors = ()

    @property
    def beside(self) -> float:
        """Chance that a gasket leaking beside the cylinder stays silent. [-]"""
        return dict(self.silence).get(BETWEEN, 1.0)

    def raised(self, odds: Mapping[str, float]) -> dict[str, float]:
        """The odds of one cylinder in this strand."""
        return {**odds, **{fault: odds.get(fault, 1.0) * factor for fault, factor in self.odds}}

    def apart(self) -> Lay:
        """The same for a plug that is not one of the set."""
        return replace(self, odds=())


@dataclass(frozen=True)
class Strand:
    """One term of the sum: its weight, and what it lays on every cylinder.

    Attributes
    ----------
    weight : float
        Signed. [-]
    set_ : int
        Which state the set of plugs is in; terms of one state differ in what is silent.
    silent : frozenset of str
        Families of complaints that are silent here.
    untold : float
        Its weight had the age of the set not been told, over what it is. [-]
    """

    weight: float = 1.0
    set_: int = 0
    silent: frozenset[str] = frozenset()
    lay: Lay = field(default_factory=Lay)
    untold: float = 1.0


SOLE = (Strand(),)


@dataclass(frozen=True, eq=False)
class Woven:
    """Every situation in every strand; axis w counts them, strand after strand.

    Attributes
    ----------
    weight : ndarray, shape (w,)
        Signed prior.
    context_of : ndarray of int, shape (w, cylinders)
        Context of each cylinder, counted through the strands.
    strands : tuple of Strand
    situations : Situations
    """

    weight: Vector
    context_of: NDArray[np.intp]
    strands: tuple[Strand, ...]
    situations: Situations

    @property
    def contexts(self) -> int:
        return len(self.situations.contexts)

    def profiles(self, members: tuple[int, ...]) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
        """The distinct contexts of some cylinders by index, and which each w has."""
        profiles, profile_of = self.situations.profiles(members)
        steps = np.arange(len(self.strands))
        every = [profiles + step * self.contexts for step in steps]
        of = [profile_of + step * len(profiles) for step in steps]
        return np.concatenate(every), np.concatenate(of)

    def by_situation(self, joint: Vector) -> Vector:
        """Strands summed out of what has w for its first axis."""
        return np.asarray(joint.reshape(len(self.strands), -1, *joint.shape[1:]).sum(axis=0))


def weave(situations: Situations, strands: Sequence[Strand]) -> Woven:
    """Every situation in every strand: what is shared brings a complaint as well, once."""
    plain, contexts = np.exp(situations.log_prior), len(situations.contexts)
    weight, context_of = [], []
    for step, strand in enumerate(strands):
        silence = dict(strand.lay.silence)
        silent = np.array([silence.get(one.fault, 1.0) for one in situations.alone])
        kept = np.where(situations.holds, silent[None, :], 1.0).prod(axis=1)
        weight.append(strand.weight * plain * kept)
        context_of.append(situations.context_of + step * contexts)
    return Woven(np.concatenate(weight), np.concatenate(context_of), tuple(strands), situations)
