"""The sheet of a refit: everything that its screen and its page of the report show."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import asdict
from typing import Any

import msgspec

from core.caution import Caution
from core.document.job import still_to_torque
from core.document.records import Document
from core.errors import OutOfRange
from core.knowledge import knowledge
from core.language import later, say, word_said
from core.plugs.breakdown import breakdown_v
from core.plugs.torque import LUBRICATED
from core.quantities import Dimension, Figure, from_si
from core.refit.fitting import (
    FINE_WIRE,
    Fitting,
    aim_mm,
    aim_shown,
    caution_text,
    fittings,
    is_unverified,
    thread_school,
)
from core.refit.points import has_points, points_state, timing_arc
from core.refit.proof import before_and_after, proof_slips, still_open
from core.refit.slips import mix_slip

FIGURES = {
    "gap_min": later("the gap"),
    "torque_new": later("the torque for a new plug"),
    "torque_reused": later("the torque for a reused plug"),
    "reach": later("the reach"),
    "points_gap_min": later("the points gap"),
    "dwell_min_deg": later("the dwell"),
    "timing_deg_btdc": later("the timing"),
    "premix_ratio": later("the premix ratio"),
}
WORN = 1.5  # How much wider a worn gap is taken to be where the voltage is shown; an assumption.


def refit_sheet(checked: Mapping[str, Any]) -> dict[str, Any]:
    """The refit of one inspection.

    Parameters
    ----------
    checked : mapping
        A checked document; it is not changed.

    Returns
    -------
    dict
        `aim` (the gap to set), `cylinders` (see `Fitting`), `missing` (those not fitted and
        torqued), `unverified` figures, `steps`, `cautions`, `points` and `points_steps` where the
        engine has them, `volts` (what its gap wants), `before_after`, `open` (what the proof
        lacks).
    """
    document = Document.of(checked)
    made, aim = fittings(document), aim_shown(document)
    state = points_state(document)
    sheet: dict[str, Any] = msgspec.to_builtins(
        {
            "aim": aim,
            "cylinders": [_cylinder(one, aim) for one in made],
            "missing": still_to_torque(document),
            "unverified": list(_unverified(document)),
            "steps": _steps(document),
            "cautions": list(_cautions(made, document)),
            "points": {**asdict(state), "arc": timing_arc(document)} if state else None,
            "points_steps": [say(one["text"]) for one in knowledge().bench["points_step"]]
            if state
            else [],
            "volts": _volts(document),
            "before_after": [asdict(one) for one in before_and_after(document)],
            "open": still_open(document),
        }
    )
    return sheet


def refit_cautions(document: Document) -> Iterator[Caution]:
    """Slips of a refit, among the warnings on the record."""
    yield from proof_slips(document)
    if not document.refit.recorded:
        return
    for one in fittings(document):
        yield from one.cautions
    yield from mix_slip(document.refit.premix, document.engine.specification.premix_ratio)
    state = points_state(document)
    if state and state.timing_undone:
        yield Caution("timing-undone", "/refit/points/timing_deg_btdc", state.text)


def _cylinder(one: Fitting, aim: Figure | None) -> dict[str, Any]:
    shown: dict[str, Any] = {
        "cylinder": one.cylinder,
        "remarks": [asdict(remark) for remark in one.remarks],
        "unseen": list(one.unseen),
        "gap": one.gap,
        "gap_text": one.gap_text,
        "accepted": one.accepted,
        "unverified": list(one.unverified),
        "handle": one.handle,
        "change": _change(one.change_mm, aim),
        "setting": None,
        "turn_deg": list(one.turn_deg),
        "hints": [asdict(hint) for hint in one.hints],
        "slips": [{"path": caution.path, "text": caution.text} for caution in one.cautions],
        "stage": one.stage,
        "fitted": one.fitted,
        "torqued": one.torqued,
    }
    if one.setting:
        shown["setting"] = Figure(one.setting.shown.value, one.setting.shown.unit)
    return shown


def _change(change_mm: float | None, aim: Figure | None) -> str:
    """Open or close, by how much, in the specification's unit."""
    if change_mm is None or aim is None:
        return ""
    if change_mm == 0:
        return say("as aimed at")
    by = from_si(abs(change_mm) / 1e3, aim.unit, Dimension.LENGTH)
    if change_mm > 0:
        return say("open by {value:.2g} {unit}", value=by.value, unit=by.unit)
    return say("close by {value:.2g} {unit}", value=by.value, unit=by.unit)


def _steps(document: Document) -> list[dict[str, str]]:
    done = {one.id: one.state or "open" for one in document.refit.steps}
    off = [one.what or "" for one in document.work.removed if not one.back]
    steps = []
    for step in knowledge().bench["fit_step"]:
        why = say(step["note"])
        if step["id"] == "log-back" and off:
            why = say("still off by the log: {off}", off=", ".join(off))
        state = done.get(step["id"], "open")
        steps.append({"id": step["id"], "title": say(step["text"]), "why": why, "state": state})
    return steps


def _unverified(document: Document) -> Iterator[str]:
    """Figures that this refit goes by and that nobody has from the maker."""
    specification = document.engine.specification
    for field, name in FIGURES.items():
        if is_unverified(specification, field):
            yield say(
                "{name} is {source}, not the maker's",
                name=say(name),
                source=word_said(specification.sources[field]),
            )


def _cautions(made: list[Fitting], document: Document) -> Iterator[str]:
    """What to mind at this refit, the most urgent first."""
    refit, specification = document.refit, document.engine.specification
    hand = [str(one.cylinder) for one in made if one.fitted and not one.torqued]
    if hand:
        yield say(
            "Cylinder {numbers}: {caution}",
            numbers=", ".join(hand),
            caution=caution_text("hand-tight"),
        )
    iron = specification.head == "iron"
    if refit.engine_temperature in ("warm", "hot") and not iron:
        yield caution_text("hot-head")
    kinds = {one.plug.electrode for one in refit.cylinders}
    if (kinds | {specification.electrode}) & set(FINE_WIRE):
        yield caution_text("fine-wire")
    greased = [
        str(one.cylinder)
        for one in refit.cylinders
        if one.threads in LUBRICATED and not one.torqued
    ]
    if greased:
        school = caution_text(thread_school(document))
        yield say(
            "Cylinder {numbers}, lubricant on the threads: {school}",
            numbers=", ".join(greased),
            school=school,
        )


def _volts(document: Document) -> dict[str, Any] | None:
    """What the gap aimed at wants, new and worn, at light and at full load, beside the coil."""
    aim = aim_mm(document)
    if aim is None:
        return None
    known = knowledge().bench
    firing, gap = known["firing"], aim / 1e3
    coil = known["coils"]["points" if has_points(document) else "electronic"]["kilovolts"]

    def wants(gap_m: float, load: str) -> float:
        pressure = firing[f"{load}_bar"] * 1e5
        return round(breakdown_v(gap_m, pressure, firing["temperature_k"]) / 1e3, 1)

    try:
        rows = [
            {"gap": name, "light": wants(one, "light"), "full": wants(one, "full")}
            for name, one in ((say("as set"), gap), (say("half as wide again, worn"), gap * WORN))
        ]
    except OutOfRange:  # No gap of a plug: the slip is said elsewhere.
        return None
    return {"coil_kv": coil, "rows": rows}
