import type { Document } from "../../api/client";
import { DISTANCE_UNITS, LENGTH_UNITS, options, PRESSURE_UNITS, TEMPERATURE_UNITS, TORQUE_UNITS, type Group } from "../record";

type Inspection = NonNullable<Document["inspection"]>;
type Engine = Document["engine"];
type Specification = NonNullable<Engine["specification"]>;

/** Why it is looked at, and what is complained of. */
export const THIS_JOB: readonly Group[] = [
  {
    title: "This inspection",
    fields: [
      { kind: "date", path: "/inspection/date", label: "Date" },
      { kind: "choice", path: "/inspection/purpose", label: "Purpose",
        options: options<NonNullable<Inspection["purpose"]>>("pre-purchase", "rebuild", "diagnosis", "routine") },
      { kind: "list", path: "/inspection/trouble_codes", label: "Trouble codes as found",
        hint: "Write them down before anything is cleared. P0302 names cylinder 2. A scan tool's text may be pasted as it is." },
      { kind: "flag", path: "/inspection/codes_cleared_recently", label: "Codes cleared lately (monitors not ready)" },
      { kind: "choice", path: "/inspection/engine_place", label: "The engine is",
        options: options<NonNullable<Inspection["engine_place"]>>("installed", "stand") },
      { kind: "flag", path: "/inspection/can_run", label: "It can be run" },
    ],
  },
  {
    title: "The complaint",
    fields: [
      { kind: "tags", path: "/inspection/complaints", label: "Complaints",
        options: options<NonNullable<Inspection["complaints"]>[number]>(
          "misfire", "misfire-under-load", "hard-start", "no-start", "stopped-running", "rough-idle", "oil-use",
          "coolant-loss", "blue-smoke", "white-smoke", "black-smoke", "power-loss", "backfire", "ticking",
          "fuel-smell", "overheating", "high-fuel-use", "knock", "stalling", "hesitation", "limp-mode", "warning-lamp") },
      { kind: "tags", path: "/inspection/complaint_when", label: "It shows itself",
        options: options<NonNullable<Inspection["complaint_when"]>[number]>(
          "cold", "warm", "idle", "load", "high-speed", "wet-weather", "after-standing", "after-refuelling", "always") },
      { kind: "choice", path: "/inspection/complaint_how_often", label: "How often",
        options: options<NonNullable<Inspection["complaint_how_often"]>>("always", "often", "seldom", "once") },
      { kind: "text", path: "/inspection/complaint_since", label: "Since when, or since what" },
      { kind: "flag", path: "/inspection/fine_today", label: "It did not show itself today" },
    ],
  },
];

/** What the engine has behind it, and where it stands today. */
export const ITS_PAST: readonly Group[] = [
  {
    title: "Distance and work",
    fields: [
      { kind: "quantity", path: "/inspection/odometer", label: "Odometer or running hours", units: DISTANCE_UNITS },
      { kind: "quantity", path: "/inspection/plug_distance", label: "Distance on the plugs", units: DISTANCE_UNITS },
      { kind: "choice", path: "/inspection/history", label: "The plugs' age and interval are",
        options: options<NonNullable<Inspection["history"]>>("known", "in-part", "unknown") },
      { kind: "tags", path: "/inspection/recent_work", label: "Recent work",
        options: options<NonNullable<Inspection["recent_work"]>[number]>("plugs", "leads", "coils", "head", "fuel", "unknown"),
        hint: "New coils, lubricant on threads, a missing cover screw: signs of earlier work." },
    ],
  },
  {
    title: "Today",
    fields: [
      { kind: "choice", path: "/inspection/last_run", label: "How it last ran",
        options: options<NonNullable<Inspection["last_run"]>>("idle", "load", "stored") },
      { kind: "quantity", path: "/inspection/ambient", label: "Air temperature", units: TEMPERATURE_UNITS },
      { kind: "number", path: "/inspection/altitude_m", label: "Altitude, m" },
      { kind: "tags", path: "/inspection/instruments", label: "Instruments at hand; none named: all",
        options: options<NonNullable<Inspection["instruments"]>[number]>(
          "compression-gauge", "leakdown-tester", "borescope", "spark-tester", "scan-tool", "timing-light", "dwell-meter", "current-clamp") },
    ],
  },
];

/** What its maker prints, in the unit it is printed in. */
export const FIGURES: readonly Group[] = [
  {
    title: "Plug and gap, in the unit they are printed in",
    fields: [
      { kind: "text", path: "/engine/specification/plug_part", label: "Plug specified" },
      { kind: "quantity", path: "/engine/specification/gap_min", label: "Gap from", units: LENGTH_UNITS },
      { kind: "quantity", path: "/engine/specification/gap_max", label: "Gap to", units: LENGTH_UNITS },
      { kind: "quantity", path: "/engine/specification/plug_interval", label: "Plug interval", units: DISTANCE_UNITS },
      { kind: "number", path: "/engine/specification/plug_interval_years", label: "Or years, whichever comes first" },
      { kind: "choice", path: "/engine/specification/electrode", label: "Electrode",
        options: options<NonNullable<Specification["electrode"]>>("nickel", "platinum", "iridium") },
      { kind: "choice", path: "/engine/specification/seat", label: "Seat",
        options: options<NonNullable<Specification["seat"]>>("gasket", "taper") },
      { kind: "number", path: "/engine/specification/thread_mm", label: "Thread, mm" },
      { kind: "quantity", path: "/engine/specification/thread_length", label: "Thread length", units: LENGTH_UNITS },
      { kind: "quantity", path: "/engine/specification/reach", label: "Reach", units: LENGTH_UNITS },
    ],
  },
  {
    title: "Compression and torque",
    fields: [
      { kind: "quantity", path: "/engine/specification/compression_min", label: "Compression at least", units: PRESSURE_UNITS },
      { kind: "quantity", path: "/engine/specification/compression_max", label: "Compression at most", units: PRESSURE_UNITS },
      { kind: "quantity", path: "/engine/specification/compression_max_spread", label: "Spread allowed", units: [{ value: "%", label: "%" }, ...PRESSURE_UNITS] },
      { kind: "quantity", path: "/engine/specification/torque_new", label: "Torque, new plug", units: TORQUE_UNITS },
      { kind: "quantity", path: "/engine/specification/torque_reused", label: "Torque, reused plug", units: TORQUE_UNITS },
      { kind: "choice", path: "/engine/specification/head", label: "Cylinder head",
        options: options<NonNullable<Specification["head"]>>("aluminium", "iron") },
    ],
  },
];

/** What the engine is; layout, order and shared parts are entered on its plan. */
export const ENGINE: readonly Group[] = [
  {
    title: "The engine",
    fields: [
      { kind: "text", path: "/engine/title", label: "Name" },
      { kind: "text", path: "/engine/identifier", label: "Number or mark" },
      { kind: "choice", path: "/engine/cycle", label: "Cycle", stays: true,
        options: options<Engine["cycle"]>("four-stroke", "two-stroke") },
      { kind: "choice", path: "/engine/ignition", label: "Ignition",
        options: options<NonNullable<Engine["ignition"]>>("coil-on-plug", "wasted-spark", "distributor", "magneto") },
      { kind: "choice", path: "/engine/trigger", label: "Triggered by",
        options: options<NonNullable<Engine["trigger"]>>("points", "electronic", "cdi") },
      { kind: "choice", path: "/engine/fuel_system", label: "Fuel",
        options: options<NonNullable<Engine["fuel_system"]>>("carburettor", "throttle-body", "port", "direct") },
      { kind: "choice", path: "/engine/cooling", label: "Cooling",
        options: options<NonNullable<Engine["cooling"]>>("liquid", "air") },
      { kind: "choice", path: "/engine/aspiration", label: "Breathing",
        options: options<NonNullable<Engine["aspiration"]>>("natural", "boosted") },
    ],
  },
  {
    title: "Its measures",
    fields: [
      { kind: "number", path: "/engine/compression_ratio", label: "Compression ratio" },
      { kind: "quantity", path: "/engine/bore", label: "Bore", units: LENGTH_UNITS },
      { kind: "quantity", path: "/engine/stroke", label: "Stroke", units: LENGTH_UNITS },
      { kind: "quantity", path: "/engine/rod", label: "Rod, centre to centre", units: LENGTH_UNITS },
      { kind: "number", path: "/engine/intake_closing_deg_abdc", label: "Intake closes, degrees after bottom" },
      { kind: "number", path: "/engine/exhaust_closing_deg_abdc", label: "Exhaust port closes, degrees after bottom (two-stroke)" },
      { kind: "flag", path: "/engine/decompressor", label: "It has a decompressor" },
      { kind: "number", path: "/engine/socket_mm", label: "Plug socket, mm" },
    ],
  },
];

type Distributor = NonNullable<Document["distributor"]>;

/** As it was found; recorded once, read by Refit too. */
export const DISTRIBUTOR: readonly Group[] = [
  {
    title: "Distributor, as found",
    fields: [
      { kind: "choice", path: "/distributor/cap", label: "Cap",
        options: options<NonNullable<Distributor["cap"]>>("sound", "cracked", "tracked", "corroded") },
      { kind: "choice", path: "/distributor/rotor", label: "Rotor",
        options: options<NonNullable<Distributor["rotor"]>>("sound", "burnt", "worn") },
      { kind: "choice", path: "/distributor/advance", label: "Advance",
        options: options<NonNullable<Distributor["advance"]>>("free", "sticky", "seized") },
      { kind: "choice", path: "/distributor/vacuum", label: "Vacuum",
        options: options<NonNullable<Distributor["vacuum"]>>("holds", "leaks") },
      { kind: "choice", path: "/distributor/shaft", label: "Shaft",
        options: options<NonNullable<Distributor["shaft"]>>("tight", "worn") },
      { kind: "flag", path: "/distributor/moisture", label: "Moisture under the cap" },
      { kind: "number", path: "/distributor/timing_deg_btdc", label: "Timing as found, degrees before top" },
    ],
  },
  {
    title: "Points, as found",
    fields: [
      { kind: "choice", path: "/distributor/points", label: "Points",
        options: options<NonNullable<Distributor["points"]>>("flat", "pitted", "cupped") },
      { kind: "choice", path: "/distributor/rubbing_block", label: "Rubbing block",
        options: options<NonNullable<Distributor["rubbing_block"]>>("sound", "worn") },
      { kind: "choice", path: "/distributor/condenser", label: "Condenser",
        options: options<NonNullable<Distributor["condenser"]>>("sound", "weak") },
      { kind: "quantity", path: "/distributor/points_distance", label: "Distance on the points", units: DISTANCE_UNITS },
      { kind: "quantity", path: "/distributor/points_gap", label: "Gap as found", units: LENGTH_UNITS },
      { kind: "number", path: "/distributor/dwell_deg", label: "Dwell as found, degrees" },
    ],
  },
];
