import type { Document } from "../../api/client";
import { DISTANCE_UNITS, LENGTH_UNITS, options, PRESSURE_UNITS, TORQUE_UNITS, type Group } from "../record";

type Inspection = NonNullable<Document["inspection"]>;
type Engine = Document["engine"];
type Specification = NonNullable<Engine["specification"]>;

/** What is known before anything comes off. */
export const THIS_INSPECTION: readonly Group[] = [
  {
    title: "This inspection",
    fields: [
      { kind: "choice", path: "/inspection/purpose", label: "Purpose",
        options: options<NonNullable<Inspection["purpose"]>>("pre-purchase", "rebuild", "diagnosis", "routine") },
      { kind: "tags", path: "/inspection/complaints", label: "Complaints",
        options: options<NonNullable<Inspection["complaints"]>[number]>(
          "misfire", "misfire-under-load", "hard-start", "no-start", "stopped-running", "rough-idle", "oil-use",
          "coolant-loss", "blue-smoke", "white-smoke", "black-smoke", "power-loss", "backfire", "ticking",
          "fuel-smell", "overheating", "high-fuel-use", "knock", "stalling", "hesitation", "limp-mode", "warning-lamp") },
      { kind: "list", path: "/inspection/trouble_codes", label: "Trouble codes as found",
        hint: "Write them down before anything is cleared. P0302 names cylinder 2." },
      { kind: "flag", path: "/inspection/codes_cleared_recently", label: "Codes cleared lately (monitors not ready)" },
      { kind: "text", path: "/inspection/note", label: "Note" },
    ],
  },
  {
    title: "Distance and work",
    fields: [
      { kind: "quantity", path: "/inspection/odometer", label: "Odometer or running hours", units: DISTANCE_UNITS },
      { kind: "quantity", path: "/inspection/plug_distance", label: "Distance on the plugs", units: DISTANCE_UNITS },
      { kind: "quantity", path: "/engine/specification/plug_interval", label: "Plug interval", units: DISTANCE_UNITS },
      { kind: "choice", path: "/inspection/last_run", label: "How it last ran",
        options: options<NonNullable<Inspection["last_run"]>>("idle", "load", "stored") },
      { kind: "tags", path: "/inspection/recent_work", label: "Recent work",
        options: options<NonNullable<Inspection["recent_work"]>[number]>("plugs", "leads", "coils", "head", "fuel", "unknown"),
        hint: "New coils, lubricant on threads, a missing cover screw: signs of earlier work." },
      { kind: "number", path: "/inspection/altitude_m", label: "Altitude, m" },
    ],
  },
];

export const ENGINE: readonly Group[] = [
  {
    title: "Specification, in the unit it is printed in",
    fields: [
      { kind: "quantity", path: "/engine/specification/gap_min", label: "Gap from", units: LENGTH_UNITS },
      { kind: "quantity", path: "/engine/specification/gap_max", label: "Gap to", units: LENGTH_UNITS },
      { kind: "quantity", path: "/engine/specification/compression_min", label: "Compression at least", units: PRESSURE_UNITS },
      { kind: "quantity", path: "/engine/specification/compression_max", label: "Compression at most", units: PRESSURE_UNITS },
      { kind: "quantity", path: "/engine/specification/torque_new", label: "Torque, new plug", units: TORQUE_UNITS },
      { kind: "quantity", path: "/engine/specification/torque_reused", label: "Torque, reused plug", units: TORQUE_UNITS },
      { kind: "text", path: "/engine/specification/plug_part", label: "Plug specified" },
      { kind: "choice", path: "/engine/specification/electrode", label: "Electrode",
        options: options<NonNullable<Specification["electrode"]>>("nickel", "platinum", "iridium") },
      { kind: "choice", path: "/engine/specification/seat", label: "Seat",
        options: options<NonNullable<Specification["seat"]>>("gasket", "taper") },
      { kind: "number", path: "/engine/specification/thread_mm", label: "Thread, mm" },
      { kind: "quantity", path: "/engine/specification/reach", label: "Reach", units: LENGTH_UNITS },
      { kind: "choice", path: "/engine/specification/head", label: "Cylinder head",
        options: options<NonNullable<Specification["head"]>>("aluminium", "iron") },
    ],
  },
  {
    title: "The engine",
    fields: [
      { kind: "choice", path: "/engine/ignition", label: "Ignition",
        options: options<NonNullable<Engine["ignition"]>>("coil-on-plug", "wasted-spark", "distributor", "magneto") },
      { kind: "choice", path: "/engine/fuel_system", label: "Fuel",
        options: options<NonNullable<Engine["fuel_system"]>>("carburettor", "throttle-body", "port", "direct") },
      { kind: "choice", path: "/engine/cooling", label: "Cooling",
        options: options<NonNullable<Engine["cooling"]>>("liquid", "air") },
      { kind: "choice", path: "/engine/aspiration", label: "Breathing",
        options: options<NonNullable<Engine["aspiration"]>>("natural", "boosted") },
      { kind: "number", path: "/engine/compression_ratio", label: "Compression ratio" },
      { kind: "quantity", path: "/engine/bore", label: "Bore", units: LENGTH_UNITS },
      { kind: "quantity", path: "/engine/stroke", label: "Stroke", units: LENGTH_UNITS },
    ],
  },
];

type Distributor = NonNullable<Document["distributor"]>;

export const DISTRIBUTOR: Group = {
  title: "Distributor and points",
  fields: [
    { kind: "choice", path: "/distributor/cap", label: "Cap",
      options: options<NonNullable<Distributor["cap"]>>("sound", "cracked", "tracked", "corroded") },
    { kind: "choice", path: "/distributor/rotor", label: "Rotor",
      options: options<NonNullable<Distributor["rotor"]>>("sound", "burnt", "worn") },
    { kind: "choice", path: "/distributor/points", label: "Points",
      options: options<NonNullable<Distributor["points"]>>("flat", "pitted", "cupped") },
    { kind: "choice", path: "/distributor/advance", label: "Advance",
      options: options<NonNullable<Distributor["advance"]>>("free", "sticky", "seized") },
    { kind: "choice", path: "/distributor/vacuum", label: "Vacuum",
      options: options<NonNullable<Distributor["vacuum"]>>("holds", "leaks") },
    { kind: "choice", path: "/distributor/shaft", label: "Shaft",
      options: options<NonNullable<Distributor["shaft"]>>("tight", "worn") },
  ],
};
