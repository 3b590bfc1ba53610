"""One inspection of one engine, as everything behind reading and writing sees it.

These types are the contract: its JSON Schema is made from them (`schema`), in their order of
fields, which is the order in which a document is written. What nobody looked at is None, an empty
tuple, or a group in which nothing was said.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Annotated, Any, ClassVar, Self

import msgspec

from core import vocabulary as words
from core.document import shapes
from core.document.shapes import Shape
from core.quantities import UNITS, Dimension, Figure

FORMAT = "fiacre-inspection"
VERSION = 1

Pressure = Annotated[Figure, Shape(shapes.PRESSURE)]
Length = Annotated[Figure, Shape(shapes.LENGTH)]
SignedLength = Annotated[Figure, Shape(shapes.SIGNED_LENGTH)]
Torque = Annotated[Figure, Shape(shapes.TORQUE)]
Distance = Annotated[Figure, Shape(shapes.DISTANCE)]
Volume = Annotated[Figure, Shape(shapes.VOLUME)]
Temperature = Annotated[Figure, Shape(shapes.TEMPERATURE)]
Text = Annotated[str, Shape(shapes.TEXT)]
Name = Annotated[str, Shape(shapes.NAME)]
ItemId = Annotated[str, Shape(shapes.ITEM_ID)]
Date = Annotated[str, Shape(shapes.DATE)]
Number = Annotated[float, Shape(shapes.NUMBER)]
Minutes = Annotated[float, Shape({"type": "number", "exclusiveMinimum": 0, "maximum": 1000})]
Hours = Annotated[float, Shape(shapes.HOURS)]
Priced = Annotated[
    str, Shape(shapes.choice((*words.words_of(words.Consequence), *words.words_of(words.Act))))
]
CycleName = Annotated[str, Shape(shapes.choice(words.words_of(words.Cycle)))]
FaultName = Annotated[str, Shape(shapes.choice(words.words_of(words.AnyFault)))]
OddsFactor = Annotated[float, Shape({"type": "number", "minimum": 0.1, "maximum": 10})]
TestName = Annotated[str, Shape(shapes.choice(words.words_of(words.NextTest)))]
FieldName = Annotated[str, Shape({"pattern": "^[a-z_]{1,40}$"})]
Count = Annotated[int, Shape(shapes.COUNT)]
Percent = Annotated[float, Shape(shapes.PERCENT)]
Flag = Annotated[bool, Shape(shapes.FLAG)]
Thread = Annotated[float, Shape(shapes.THREAD)]
Years = Annotated[float, Shape(shapes.YEARS)]
Scale = Annotated[float, Shape(shapes.SCALE)]
CutPercent = Annotated[float, Shape(shapes.CUT_PERCENT)]
TorqueUnit = Annotated[str, Shape(shapes.choice(UNITS[Dimension.TORQUE]))]
CompressionRatio = Annotated[float, Shape({"type": "number", "exclusiveMinimum": 1, "maximum": 30})]
ClosingAngle = Annotated[float, Shape({"type": "number", "minimum": -60, "maximum": 120})]
CrankingSpeed = Annotated[float, Shape({"type": "number", "exclusiveMinimum": 0, "maximum": 2000})]
Strokes = Annotated[int, Shape({"type": "integer", "minimum": 1, "maximum": 60})]
Dwell = Annotated[float, Shape(shapes.DWELL)]
Timing = Annotated[float, Shape(shapes.TIMING)]
Ratio = Annotated[float, Shape(shapes.RATIO)]
Lobes = Annotated[int, Shape(shapes.LOBES)]
Cylinder = Annotated[int, Shape(shapes.CYLINDER)]
Cylinders = Annotated[tuple[int, ...], Shape(shapes.CYLINDERS)]
SetOfCylinders = Annotated[tuple[int, ...], Shape({**shapes.CYLINDERS, "x-set": True})]
Codes = Annotated[tuple[str, ...], Shape(shapes.CODES)]
Photos = Annotated[tuple[str, ...], Shape(shapes.PHOTOS)]
Blades = Annotated[tuple[Figure, ...], Shape(shapes.BLADES)]
Stack = Annotated[tuple[Figure, ...], Shape({**shapes.BLADES, "maxItems": shapes.MOST_STACKED})]


class Record(msgspec.Struct, frozen=True, omit_defaults=True):
    """A group of the document. In lists, `identity` names the field that tells items apart."""

    identity: ClassVar[str | None] = None

    @classmethod
    def of(cls, checked: Mapping[str, Any]) -> Self:
        """The record of a part that was checked against its schema."""
        return msgspec.convert(checked, cls)

    @property
    def recorded(self) -> bool:
        """Whether anything stands in it but what names it."""
        return next(self.items(), None) is not None

    def items(self) -> Iterator[tuple[str, Any]]:
        """Every field that was said, as the document spells it, and its value; its name aside."""
        fields = zip(self.__struct_fields__, self.__struct_encode_fields__, strict=True)
        for field, spelt in fields:
            value = getattr(self, field)
            absent = (
                value is None or value == () or (isinstance(value, Record) and not value.recorded)
            )
            if not absent and spelt != self.identity:
                yield spelt, value


# ------------------------------------------------------------------------------------ the engine


class Specification(Record, frozen=True):
    compression_min: Pressure | None = None
    compression_max: Pressure | None = None
    compression_max_spread: (
        Annotated[Figure, Shape(shapes.quantity(Dimension.PRESSURE, Dimension.SHARE))] | None
    ) = None
    gap_min: Length | None = None
    gap_max: Length | None = None
    torque_new: Torque | None = None
    torque_reused: Torque | None = None
    plug_interval: Distance | None = None
    plug_interval_years: Years | None = None
    plug_part: Text | None = None
    sources: Mapping[FieldName, words.Source] = {}
    electrode: words.Electrode | None = None
    seat: words.Seat | None = None
    thread_mm: Thread | None = None
    thread_length: Length | None = None
    reach: Length | None = None
    head: words.Head | None = None
    points_gap_min: Length | None = None
    points_gap_max: Length | None = None
    dwell_min_deg: Dwell | None = None
    dwell_max_deg: Dwell | None = None
    timing_deg_btdc: Timing | None = None
    cam_lobes: Lobes | None = None
    pulley_diameter: Length | None = None
    premix_ratio: Ratio | None = None


class Sharing(Record, frozen=True):
    """Cylinders that have a bank or a carburettor in common."""

    identity = "name"
    # Nobody is in a bank alone for a moment: a list of them is said whole.
    whole: ClassVar[bool] = True

    name: Name
    cylinders: Cylinders


class Tools(Record, frozen=True):
    socket: Text | None = None
    extension: Text | None = None
    adapter: Text | None = None


class Engine(Record, frozen=True, kw_only=True):
    title: Text | None = None
    identifier: Text | None = None
    cycle: words.Cycle
    layout: words.Layout
    cylinders: Annotated[int, Shape(shapes.CYLINDER_COUNT)]
    banks: tuple[Sharing, ...] = ()
    firing_order: Annotated[tuple[int, ...], Shape({**shapes.CYLINDERS, "x-printed": True})] = ()
    fuel_system: words.FuelSystem | None = None
    ignition: words.Ignition | None = None
    cooling: words.Cooling | None = None
    aspiration: words.Aspiration | None = None
    trigger: words.Trigger | None = None
    feeds: tuple[Sharing, ...] = ()
    bore: Length | None = None
    stroke: Length | None = None
    rod: Length | None = None
    compression_ratio: CompressionRatio | None = None
    intake_closing_deg_abdc: ClosingAngle | None = None
    exhaust_closing_deg_abdc: (
        Annotated[float, Shape({"type": "number", "minimum": 0, "maximum": 140})] | None
    ) = None
    decompressor: Flag | None = None
    socket_mm: Thread | None = None
    specification: Specification = Specification()
    tools: Tools = Tools()


# --------------------------------------------------------------------------------------- the job


class Said(Record, frozen=True):
    identity = "id"

    id: ItemId = ""
    text: Text | None = None
    cylinder: Cylinder | None = None


class Found(Record, frozen=True):
    place: Text | None = None
    text: Text | None = None


class NotInspected(Record, frozen=True):
    item: Text
    reason: Text | None = None


class Job(Record, frozen=True):
    """What was asked of the inspector, and under which circumstances: `inspection`."""

    date: Date | None = None
    purpose: words.Purpose | None = None
    odometer: Distance | None = None
    plug_distance: Distance | None = None
    plug_years: Years | None = None
    first_set: Flag | None = None
    altitude_m: (
        Annotated[float, Shape({"type": "number", "minimum": -500, "maximum": 9000})] | None
    ) = None
    ambient: Temperature | None = None
    last_run: words.LastRun | None = None
    recent_work: tuple[words.RecentWork, ...] = ()
    history: words.History | None = None
    order: Cylinders = ()
    scope: SetOfCylinders = ()
    engine_place: words.EnginePlace | None = None
    can_run: Flag | None = None
    fine_today: Flag | None = None
    instruments: tuple[words.Instrument, ...] = ()
    said: tuple[Said, ...] = ()
    codes_cleared_recently: Flag | None = None
    findings: tuple[Found, ...] = ()
    not_inspected: tuple[NotInspected, ...] = ()
    note: Text | None = None
    photos: Photos = ()
    complaints: tuple[words.Complaint, ...] = ()
    complaint_when: tuple[words.ComplaintWhen, ...] = ()
    complaint_how_often: words.ComplaintHowOften | None = None
    complaint_since: Text | None = None
    trouble_codes: Codes = ()


# --------------------------------------------------------------------------------- the cylinders


class Plug(Record, frozen=True):
    look: words.Look | None = None
    cleaned: words.Cleaned | None = None
    seating: words.Seating | None = None
    distance: Distance | None = None
    part: Text | None = None
    type_match: words.TypeMatch | None = None
    seat: words.Seat | None = None
    thread_mm: Thread | None = None
    thread_length: Length | None = None
    reach: Length | None = None
    outside: tuple[words.Outside, ...] = ()
    smell: words.Smell | None = None
    threads: tuple[words.Threads, ...] = ()
    deposit_colour: words.DepositColour | None = None
    deposit_texture: words.DepositTexture | None = None
    deposit_amount: words.DepositAmount | None = None
    wetness: words.Wetness | None = None
    wet_with: words.WetWith | None = None
    insulator: words.Insulator | None = None
    centre_electrode: words.CentreElectrode | None = None
    ground_electrode: words.GroundElectrode | None = None
    gap_bridged: Flag | None = None
    gap_closed: Flag | None = None
    gap: Length | None = None
    gap_passes: Length | None = None
    gap_refuses: Length | None = None


class Well(Record, frozen=True):
    oil: words.Standing | None = None
    water: words.Standing | None = None
    debris: words.Debris | None = None
    combustion_leak: words.CombustionLeak | None = None


class Borescope(Record, frozen=True):
    bore: words.Bore | None = None
    crown: words.Crown | None = None
    crown_carbon: words.CrownCarbon | None = None
    valves: words.Valves | None = None
    coolant_trace: Flag | None = None


class CylinderRecord(Record, frozen=True):
    identity = "number"

    number: Cylinder
    well: Well = Well()
    boot: tuple[words.Boot, ...] = ()
    plug: Plug = Plug()
    coil: tuple[words.CoilState, ...] = ()
    access: words.Access | None = None
    borescope: Borescope = Borescope()
    note: Text | None = None
    photos: Photos = ()


# ------------------------------------------------------------------------------------- the tests


class ByCylinder(Record, frozen=True):
    """What a test says of one cylinder."""

    identity = "cylinder"

    cylinder: Cylinder


class CompressionReading(ByCylinder, frozen=True):
    pressure: Pressure | None = None
    strokes: Annotated[
        tuple[Figure, ...], Shape({"type": "array", "items": shapes.PRESSURE, "maxItems": 60})
    ] = ()
    quality: words.ReadingQuality | None = None
    instrument: Text | None = None


class CompressionTest(Record, frozen=True, kw_only=True):
    identity = "id"

    id: ItemId = ""
    kind: words.CompressionKind
    engine_temperature: words.EngineTemperature | None = None
    throttle: words.Throttle | None = None
    plugs_out: words.PlugsOut | None = None
    cranking_rpm: CrankingSpeed | None = None
    oil: Volume | None = None
    gauge: Text | None = None
    puffs: Strokes | None = None
    readings: tuple[CompressionReading, ...] = ()


class LeakdownReading(ByCylinder, frozen=True):
    held: Pressure | None = None
    percent: Percent | None = None
    escapes: tuple[words.Escape, ...] = ()


class LeakdownTest(Record, frozen=True):
    identity = "id"

    id: ItemId = ""
    supply: Pressure | None = None
    restrictor: Length | None = None
    engine_temperature: words.EngineTemperature | None = None
    readings: tuple[LeakdownReading, ...] = ()


class Spark(ByCylinder, frozen=True):
    result: words.SparkSeen | None = None
    condition: words.SparkCondition | None = None


class Injector(ByCylinder, frozen=True):
    pulse: words.Pulse | None = None
    flow: words.Flow | None = None


class Balance(ByCylinder, frozen=True):
    rpm_drop: Number | None = None
    felt: words.Felt | None = None


class Misfires(ByCylinder, frozen=True):
    count: Count | None = None
    instrument: Text | None = None


class Relative(ByCylinder, frozen=True):
    share: Percent | None = None
    spread: Percent | None = None
    instrument: Text | None = None


class Swap(Record, frozen=True, kw_only=True):
    identity = "id"

    id: ItemId = ""
    part: words.SwapPart
    source: Cylinder = msgspec.field(name="from")
    target: Cylinder = msgspec.field(name="to")
    fault_moved: Flag | None = None
    result: words.SwapResult | None = None


class Noise(ByCylinder, frozen=True):
    kind: words.NoiseKind | None = None
    fades_when_warm: Flag | None = None


class Reread(ByCylinder, frozen=True):
    result: words.RereadResult | None = None


class PortLook(ByCylinder, frozen=True):
    piston: words.PortPiston | None = None


class Tests(Record, frozen=True):
    compression: tuple[CompressionTest, ...] = ()
    leakdown: tuple[LeakdownTest, ...] = ()
    spark: tuple[Spark, ...] = ()
    injector: tuple[Injector, ...] = ()
    balance: tuple[Balance, ...] = ()
    misfires: tuple[Misfires, ...] = ()
    relative: tuple[Relative, ...] = ()
    swap: tuple[Swap, ...] = ()
    noise: tuple[Noise, ...] = ()
    reread: tuple[Reread, ...] = ()
    port_look: tuple[PortLook, ...] = ()


class Distributor(Record, frozen=True):
    cap: words.Cap | None = None
    rotor: words.Rotor | None = None
    points: words.PointFaces | None = None
    points_gap: Length | None = None
    points_distance: Distance | None = None
    rubbing_block: words.RubbingBlock | None = None
    dwell_deg: Dwell | None = None
    condenser: words.Condenser | None = None
    moisture: Flag | None = None
    advance: words.Advance | None = None
    vacuum: words.Vacuum | None = None
    shaft: words.Shaft | None = None
    timing_deg_btdc: Timing | None = None


# -------------------------------------------------------------------------------------- the work


class FirstGuess(Record, frozen=True):
    cylinders: SetOfCylinders = ()
    fault: Text | None = None
    text: Text | None = None


class WorkStep(Record, frozen=True):
    identity = "id"

    id: ItemId = ""
    state: words.StepState | None = None
    reason: Text | None = None


class Removed(Record, frozen=True):
    identity = "id"

    id: ItemId = ""
    what: Text | None = None
    back: Flag | None = None


class MissingPiece(Record, frozen=True):
    identity = "id"

    id: ItemId = ""
    cylinder: Cylinder | None = None
    what: words.Piece | None = None
    state: words.PieceState | None = None


class Damaged(Record, frozen=True):
    identity = "id"

    id: ItemId = ""
    what: Text | None = None
    when: words.Damage | None = None
    photos: Photos = ()


class Work(Record, frozen=True):
    consent: words.Consent | None = None
    consent_by: Text | None = None
    first_guess: FirstGuess = FirstGuess()
    steps: tuple[WorkStep, ...] = ()
    removed: tuple[Removed, ...] = ()
    pieces: tuple[MissingPiece, ...] = ()
    damage: tuple[Damaged, ...] = ()


class JudgedCylinder(ByCylinder, frozen=True):
    grade: words.Grade | None = None
    fault: words.CylinderFault | None = None
    reason: Text | None = None


class Judgement(Record, frozen=True):
    """The inspector's own word, beside what was computed."""

    grade: words.Grade | None = None
    reason: Text | None = None
    cylinders: tuple[JudgedCylinder, ...] = ()


# -------------------------------------------------------------------------------------- the refit


class NewPlug(Record, frozen=True):
    part: Text | None = None
    seat: words.Seat | None = None
    thread_mm: Thread | None = None
    thread_length: Length | None = None
    reach: Length | None = None
    electrode: words.Electrode | None = None
    ground_electrode: words.NewGroundElectrode | None = None
    ceramic: words.NewCeramic | None = None
    markings: words.Marking | None = None
    arrived_gap: Length | None = None
    gap: Length | None = None
    gap_passes: Length | None = None
    gap_refuses: Length | None = None
    gap_blades: Stack = ()


class Wrench(Record, frozen=True):
    unit: TorqueUnit | None = None
    step: Scale | None = None
    minimum: Scale | None = None
    maximum: Scale | None = None
    offset: SignedLength | None = None
    length: Length | None = None
    joint: Flag | None = None


class OwnTools(Record, frozen=True):
    """What an inspector carries from job to job."""

    blades: Blades = ()
    wrench: Wrench = Wrench()


class RefitCylinder(ByCylinder, frozen=True):
    plug: NewPlug = NewPlug()
    reused: Flag | None = None
    threads: words.ThreadState | None = None
    turns_by_hand: Count | None = None
    through_hose: Flag | None = None
    fitted: Flag | None = None
    torque: Torque | None = None
    turn_deg: (
        Annotated[float, Shape({"type": "number", "exclusiveMinimum": 0, "maximum": 720})] | None
    ) = None
    torqued: Flag | None = None
    coil_back: Flag | None = None
    boot_greased: Flag | None = None
    accepted: Text | None = None


class RefusedPlug(Record, frozen=True):
    identity = "id"

    id: ItemId = ""
    cylinder: Cylinder | None = None
    reason: Text | None = None
    plug: NewPlug = NewPlug()


class Repair(Record, frozen=True):
    identity = "id"

    id: ItemId = ""
    cylinders: SetOfCylinders = ()
    part: words.Repaired | None = None
    action: words.Repair | None = None
    part_number: Text | None = None
    note: Text | None = None


class PointsRefit(Record, frozen=True):
    renewed: Flag | None = None
    gap: Length | None = None
    dwell_deg: Dwell | None = None
    cam_greased: Flag | None = None
    timing_deg_btdc: Timing | None = None
    timing_gap: Length | None = None
    timing_dwell_deg: Dwell | None = None
    backlash_out: Flag | None = None


class Premix(Record, frozen=True):
    ratio: Ratio | None = None
    fuel: Volume | None = None
    oil: Volume | None = None


class Kept(Record, frozen=True):
    label: Text | None = None
    where: Text | None = None


class Refit(Record, frozen=True):
    cylinders: tuple[RefitCylinder, ...] = ()
    refused: tuple[RefusedPlug, ...] = ()
    repairs: tuple[Repair, ...] = ()
    wrench: Wrench = Wrench()
    engine_temperature: words.EngineTemperature | None = None
    steps: tuple[WorkStep, ...] = ()
    tools_out: Count | None = None
    tools_back: Count | None = None
    points: PointsRefit = PointsRefit()
    premix: Premix = Premix()
    closed: Flag | None = None
    kept: Kept = Kept()


class ProvenCylinder(ByCylinder, frozen=True):
    pressure: Pressure | None = None
    wet_pressure: Pressure | None = None
    percent: Percent | None = None
    combustion_leak: words.CombustionLeak | None = None
    noise: words.NoiseAfter | None = None
    look: words.Look | None = None
    deposit_colour: words.DepositColour | None = None
    wetness: words.Wetness | None = None
    rpm_drop: Number | None = None
    felt: words.Felt | None = None
    misfires: Count | None = None


class Proof(Record, frozen=True):
    date: Date | None = None
    start: words.Started | None = None
    beat: words.Beat | None = None
    codes: words.CodesAfter | None = None
    drive: Flag | None = None
    drive_conditions: Text | None = None
    complaint: words.ComplaintAfter | None = None
    cylinders: tuple[ProvenCylinder, ...] = ()
    follow_up: Date | None = None
    followed_up: Flag | None = None
    note: Text | None = None


class OutcomeCylinder(ByCylinder, frozen=True):
    # Empty: opened, and nothing found.
    found: (
        Annotated[tuple[str, ...], Shape(shapes.several(words.words_of(words.FoundFault)))] | None
    ) = None
    nothing: Flag | None = None
    one_of: Flag | None = None
    note: Text | None = None


class Outcome(Record, frozen=True):
    """What it turned out to be."""

    date: Date | None = None
    engine_faults: tuple[words.EngineFault, ...] = ()
    cylinders: tuple[OutcomeCylinder, ...] = ()
    note: Text | None = None

    @property
    def settled(self) -> dict[int, tuple[str, ...]]:
        """What each cylinder had, where that is known; one of several renewed is nobody's."""
        return {
            one.cylinder: one.found or ()
            for one in self.cylinders
            if (one.found is not None or one.nothing) and not one.one_of
        }


# -------------------------------------------------------------------------------- the house rules


class Price(Record, frozen=True):
    hours: Hours | None = None
    bad_hours: Hours | None = None


class HouseRules(Record, frozen=True):
    name: Text | None = None
    compression: words.CompressionSchool | None = None
    order_of_work: words.OrderOfWork | None = None
    leakdown: words.LeakdownSchool | None = None
    mixture: words.MixtureSchool | None = None
    plugs: words.PlugPolicy | None = None
    gap_aim: words.GapAim | None = None
    threads: words.ThreadSchool | None = None
    lubricated_cut: CutPercent | None = None
    hourly_rate: Scale | None = None
    currency: Text | None = None
    prices: Mapping[Priced, Price] = {}
    minutes: Mapping[TestName, Minutes] = {}
    odds: Mapping[CycleName, Mapping[FaultName, OddsFactor]] = {}


class Document(Record, frozen=True, kw_only=True):
    """A checked document."""

    format: Annotated[str, Shape({"const": FORMAT})]
    version: Annotated[int, Shape({"const": VERSION})]
    engine: Engine
    inspection: Job = Job()
    cylinders: tuple[CylinderRecord, ...] = ()
    tests: Tests = Tests()
    distributor: Distributor = Distributor()
    work: Work = Work()
    judgement: Judgement = Judgement()
    refit: Refit = Refit()
    proof: Proof = Proof()
    outcome: Outcome = Outcome()
    house_rules: HouseRules = HouseRules()

    def cylinder(self, number: int) -> CylinderRecord:
        """What was recorded of one cylinder; an empty record where nothing was."""
        known = (one for one in self.cylinders if one.number == number)
        return next(known, None) or CylinderRecord(number=number)
