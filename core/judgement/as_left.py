"""As found and as left: how the engine stands after the work, and what is still open.

What was renewed takes its own faults with it, what was not touched stays as it was found, what was
read again is heard, and what the complaint did since speaks of all that it came from.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from msgspec import structs

from core.document.records import (
    Balance,
    Borescope,
    CompressionReading,
    CompressionTest,
    CylinderRecord,
    Distributor,
    Document,
    Job,
    LeakdownReading,
    LeakdownTest,
    Misfires,
    MissingPiece,
    Noise,
    Plug,
    ProvenCylinder,
    Tests,
    Well,
    Work,
)
from core.evidence.beforehand import Known, spoken_for
from core.evidence.findings import coded_cylinders
from core.hidden.situations import Shared
from core.inference.model import Model
from core.inference.second import second_model
from core.judgement.material import Material
from core.judgement.seen import ACCOUNTED, loose_pieces
from core.knowledge import knowledge
from core.language import say
from core.quantities import Figure
from core.refit.proof import COMPLAINT, proof_slips
from core.refit.put_right import PutRight, new_plug, put_right
from core.vocabulary import CompressionKind

INSIDE = ("rings", "piston", "intake-valve", "exhaust-valve", "guides", "head-gasket")
WORSE = ("gone", "better", "same", "worse")


def model_as_left(first: Material) -> Model | None:
    """The model of the engine as it was left; None where nothing was done or proved."""
    found = first.model
    document, done = found.document, put_right(found.document)
    if not done and not document.proof.recorded:
        return None

    def leaves(cylinder: int) -> dict[str, float]:
        return _shares(one.leaves for one in done if one.reaches(cylinder))

    def leaves_shared(shared: Shared) -> float:
        fitting = [one for one in done if _reaches(one, shared)]
        return _shares(one.leaves for one in fitting).get(shared.fault, 1.0)

    since = heard_since(document)
    return second_model(
        found,
        engine_as_left(document, done, since),
        since,
        list(_complaint_since(document)),
        leaves,
        leaves_shared,
        frozenset(
            number
            for number in range(1, document.engine.cylinders + 1)
            if any(one.part in INSIDE and one.reaches(number) for one in done)
        ),
        first.examined | {one.number for one in since.cylinders},
    )


def _reaches(one: PutRight, shared: Shared) -> bool:
    """A coil is one part, wherever it was renewed; a bank's mixture is all its cylinders'."""
    if shared.where in ("coil", "pair"):
        return any(one.reaches(number) for number in shared.cylinders)
    return one.covers(shared.cylinders)


def _shares(several: Iterator[dict[str, float]]) -> dict[str, float]:
    """What stays of each fault after several parts were put right."""
    found: dict[str, float] = {}
    for leaves in several:
        for fault, share in leaves.items():
            found[fault] = found.get(fault, 1.0) * share
    return found


# --------------------------------------------------------------------------- what is heard since


def heard_since(document: Document) -> Document:
    """What was read after the work, as an inspection of its own: all the second epoch hears."""
    doubted = {one.path for one in proof_slips(document)}
    proven = document.proof.cylinders
    back = document.proof.codes == "came-back"
    return Document(
        format=document.format,
        version=document.version,
        engine=document.engine,
        inspection=Job(
            altitude_m=document.inspection.altitude_m,
            trouble_codes=document.inspection.trouble_codes if back else (),
        ),
        cylinders=tuple(
            CylinderRecord(
                number=one.cylinder,
                plug=_face(one),
                well=Well(combustion_leak=one.combustion_leak),
            )
            for one in proven
        ),
        tests=Tests(
            compression=tuple(_pressures(document, doubted)),
            leakdown=tuple(_leakdown(document)),
            balance=tuple(
                Balance(one.cylinder, one.rpm_drop, one.felt)
                for one in proven
                if one.felt is not None or one.rpm_drop is not None
            ),
            misfires=tuple(_misfires(document)),
            noise=tuple(
                Noise(one.cylinder, "puff") for one in proven if _puffs_still(one, document)
            ),
        ),
        house_rules=document.house_rules,
    )


def _face(one: ProvenCylinder) -> Plug:
    return Plug(look=one.look, deposit_colour=one.deposit_colour, wetness=one.wetness)


def _pressures(document: Document, doubted: set[str]) -> Iterator[CompressionTest]:
    """Dry and wet, read again; under the conditions of the first test, as far as nobody says."""
    first = next(iter(document.tests.compression), None)
    kinds: tuple[tuple[CompressionKind, str], ...] = (("dry", "pressure"), ("wet", "wet_pressure"))
    for kind, field in kinds:
        readings = tuple(
            CompressionReading(one.cylinder, getattr(one, field))
            for one in document.proof.cylinders
            if getattr(one, field) and f"/proof/cylinders/{one.cylinder}/{field}" not in doubted
        )
        if readings:
            plain = CompressionTest(id=f"proof-{kind}", kind=kind, readings=readings)
            if first is not None:
                plain = structs.replace(
                    plain,
                    engine_temperature=first.engine_temperature,
                    throttle=first.throttle,
                    plugs_out=first.plugs_out,
                    cranking_rpm=first.cranking_rpm,
                    gauge=first.gauge,
                )
            yield plain


def _leakdown(document: Document) -> Iterator[LeakdownTest]:
    """Air let in again: by the supply and the restrictor of the first test, as far as is known."""
    first = next(iter(document.tests.leakdown), LeakdownTest())
    readings = tuple(
        LeakdownReading(one.cylinder, percent=one.percent)
        for one in document.proof.cylinders
        if one.percent is not None
    )
    if readings:
        yield LeakdownTest("proof", first.supply, first.restrictor, None, readings)


def _misfires(document: Document) -> Iterator[Misfires]:
    """Counted since, or none where a cylinder's code stayed away under the same conditions."""
    proof = document.proof
    counted = {one.cylinder: one.misfires for one in proof.cylinders if one.misfires is not None}
    if proof.codes == "stay-clear" and proof.drive:
        counted = dict.fromkeys(coded_cylinders(document), 0) | counted
    for cylinder, count in counted.items():
        yield Misfires(cylinder, count)


def _puffs_still(one: ProvenCylinder, document: Document) -> bool:
    heard = any(other.cylinder == one.cylinder for other in document.tests.noise)
    return heard and one.noise in ("same", "worse")


def complaint_since(document: Document) -> str | None:
    """How the complaint stands after the work, by whatever says the worst of it."""
    proof = document.proof
    told = [proof.complaint] if proof.complaint else []
    if proof.start == "no" or proof.beat == "uneven" or proof.codes == "came-back":
        told.append("same")
    return max(told, key=WORSE.index, default=None)


def _complaint_since(document: Document) -> Iterator[Known]:
    """What the complaint did since, as a factor on all that it spoke for."""
    after = complaint_since(document)
    if after is None:
        return
    power = 1.0 if document.proof.drive or after in ("same", "worse") else 0.5
    factor = knowledge().judgement["complaint_after"][after] ** power
    yield Known(
        f"proof/complaint-{after}",
        "/proof/complaint",
        say(COMPLAINT[after]),
        tuple((fault, factor) for fault in sorted(spoken_for(document))),
    )


# ------------------------------------------------------------------------------- how it stands now


def engine_as_left(document: Document, done: Sequence[PutRight], since: Document) -> Document:
    """How the engine stands now: what was not touched as it was found, the rest as it was left."""
    proof, job = document.proof, document.inspection
    gone = complaint_since(document) == "gone"
    stays = proof.codes != "stay-clear" and not (gone and proof.codes != "came-back")
    again = {one.number: one for one in since.cylinders}
    return structs.replace(
        document,
        inspection=structs.replace(
            job,
            complaints=() if gone else job.complaints,
            trouble_codes=job.trouble_codes if stays else (),
            fine_today=None,
        ),
        cylinders=tuple(
            _cylinder(
                document, number, [one for one in done if one.reaches(number)], again.get(number)
            )
            for number in range(1, document.engine.cylinders + 1)
        ),
        tests=structs.replace(
            since.tests,
            port_look=tuple(
                one
                for one in document.tests.port_look
                if not any(d.part == "piston" and d.reaches(one.cylinder) for d in done)
            ),
        ),
        work=Work(pieces=tuple(_pieces(document))),
        distributor=_distributor(document.distributor, {one.part for one in done}),
    )


RENEWS = {
    "points": ("points", "points_gap", "dwell_deg", "rubbing_block"),
    "condenser": ("condenser",),
    "cap": ("cap", "moisture"),
    "rotor": ("rotor",),
    "timing": ("timing_deg_btdc",),
}


def _distributor(found: Distributor, parts: set[str]) -> Distributor:
    """What was read on it as it was found is past where the part was put right."""
    past = {name: None for part in parts for name in RENEWS.get(part, ())}
    return structs.replace(found, **past) if past else found


def _pieces(document: Document) -> Iterator[MissingPiece]:
    """A piece stays missing although a new plug is in, until somebody accounts for it."""
    for number in loose_pieces(document):
        yield MissingPiece(cylinder=number, what="ground-electrode", state="missing")
    yield from (one for one in document.work.pieces if one.state in ACCOUNTED)


def _cylinder(
    document: Document, number: int, done: Sequence[PutRight], again: CylinderRecord | None
) -> CylinderRecord:
    record = document.cylinder(number)
    acts = {(one.part, one.action) for one in done}
    parts = {one.part for one in done}
    plug = _plug(document, record, acts)
    well = record.well
    if "well-seal" in parts:
        well = structs.replace(well, oil=None)
    if again is not None:
        plug = structs.replace(plug, **dict(again.plug.items()))
        well = structs.replace(well, **dict(again.well.items()))
    return structs.replace(
        record,
        plug=plug,
        well=well,
        boot=() if parts & {"boot", "lead", "coil"} else record.boot,
        coil=() if "coil" in parts else record.coil,
        borescope=Borescope() if parts & set(INSIDE) else record.borescope,
    )


def _plug(document: Document, record: CylinderRecord, acts: set[tuple[str, str]]) -> Plug:
    """The plug that is in it now."""
    new = new_plug(document, record.number)
    if ("plug", "renewed") in acts:
        return Plug(
            look="fine",
            distance=Figure(0.0, "km"),
            part=new.part,
            gap=new.gap,
            gap_passes=new.gap_passes,
            gap_refuses=new.gap_refuses,
        )
    plug = _dried(record.plug) if _ran_well(document) else record.plug
    if ("plug", "set") in acts:
        bent = plug.ground_electrode == "bent"
        plug = structs.replace(
            plug,
            gap=new.gap,
            gap_passes=new.gap_passes,
            gap_refuses=new.gap_refuses,
            gap_bridged=None,
            gap_closed=None,
            ground_electrode=None if bent else plug.ground_electrode,
        )
    if ("plug", "cleaned") in acts:
        plug = structs.replace(
            plug,
            gap_bridged=None,
            deposit_colour=None,
            deposit_texture=None,
            deposit_amount=None,
            wetness=None,
            wet_with=None,
            smell=None,
            look="fine",
        )
    if ("plug", "repaired") in acts:
        plug = structs.replace(plug, seating=None, outside=())
    return plug


def _ran_well(document: Document) -> bool:
    return bool(document.proof.drive) and complaint_since(document) == "gone"


def _dried(plug: Plug) -> Plug:
    """Fuel that wetted a plug is gone once it has run well."""
    if plug.wet_with in ("oil", "coolant", "water", "premix"):
        return plug
    return structs.replace(plug, wetness=None, wet_with=None, smell=None)
