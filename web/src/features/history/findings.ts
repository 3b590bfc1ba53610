import { t } from "../../language";
import type { Document } from "../../api/client";
import { DISTANCE_UNITS, LENGTH_UNITS, options, PRESSURE_UNITS, TEMPERATURE_UNITS, TORQUE_UNITS, TRIGGER, type Group } from "../record";

type Inspection = NonNullable<Document["inspection"]>;
type Engine = Document["engine"];
type Specification = NonNullable<Engine["specification"]>;

/** Why it is looked at, and what is complained of. */
export const THIS_JOB: readonly Group[] = [
  {
    title: t("This inspection"),
    fields: [
      { kind: "date", path: "/inspection/date", label: t("Date") },
      { kind: "choice", path: "/inspection/purpose", label: t("Purpose"),
        options: options<NonNullable<Inspection["purpose"]>>("pre-purchase", "rebuild", "diagnosis", "routine") },
      { kind: "list", path: "/inspection/trouble_codes", label: t("Trouble codes as found"),
        hint: t("Write them down before anything is cleared. P0302 names cylinder 2. A scan tool's text may be pasted as it is.") },
      { kind: "flag", path: "/inspection/codes_cleared_recently", label: t("Codes cleared lately (monitors not ready)") },
      { kind: "choice", path: "/inspection/engine_place", label: t("The engine is"),
        options: options<NonNullable<Inspection["engine_place"]>>("installed", "stand") },
      { kind: "flag", path: "/inspection/can_run", label: t("It can be run") },
    ],
  },
  {
    title: t("The complaint"),
    fields: [
      { kind: "tags", path: "/inspection/complaints", label: t("Complaints"),
        options: options<NonNullable<Inspection["complaints"]>[number]>(
          "misfire", "misfire-under-load", "hard-start", "no-start", "stopped-running", "rough-idle", "oil-use",
          "coolant-loss", "blue-smoke", "white-smoke", "black-smoke", "power-loss", "backfire", "ticking",
          "fuel-smell", "overheating", "high-fuel-use", "knock", "stalling", "hesitation", "limp-mode", "warning-lamp") },
      { kind: "tags", path: "/inspection/complaint_when", label: t("It shows itself"),
        options: options<NonNullable<Inspection["complaint_when"]>[number]>(
          "cold", "warm", "idle", "load", "high-speed", "wet-weather", "after-standing", "after-refuelling", "always") },
      { kind: "choice", path: "/inspection/complaint_how_often", label: t("How often"),
        options: options<NonNullable<Inspection["complaint_how_often"]>>("always", "often", "seldom", "once") },
      { kind: "text", path: "/inspection/complaint_since", label: t("Since when, or since what") },
      { kind: "flag", path: "/inspection/fine_today", label: t("It did not show itself today") },
    ],
  },
];

/** What the engine has behind it, and where it stands today. */
export const ITS_PAST: readonly Group[] = [
  {
    title: t("Distance and work"),
    fields: [
      { kind: "quantity", path: "/inspection/odometer", label: t("Odometer or running hours"), units: DISTANCE_UNITS },
      { kind: "quantity", path: "/inspection/plug_distance", label: t("Distance on the plugs"), units: DISTANCE_UNITS },
      { kind: "number", path: "/inspection/plug_years", label: t("Years that the plugs are in it") },
      { kind: "flag", path: "/inspection/first_set", label: t("These are the plugs that it was built with") },
      { kind: "choice", path: "/inspection/history", label: t("The plugs' age and interval are"),
        options: options<NonNullable<Inspection["history"]>>("known", "in-part", "unknown") },
      { kind: "tags", path: "/inspection/recent_work", label: t("Recent work"),
        options: options<NonNullable<Inspection["recent_work"]>[number]>("plugs", "leads", "coils", "head", "fuel", "unknown"),
        hint: t("New coils, lubricant on threads, a missing cover screw: signs of earlier work.") },
    ],
  },
  {
    title: t("Today"),
    fields: [
      { kind: "choice", path: "/inspection/last_run", label: t("How it last ran"),
        options: options<NonNullable<Inspection["last_run"]>>("idle", "load", "stored") },
      { kind: "quantity", path: "/inspection/ambient", label: t("Air temperature"), units: TEMPERATURE_UNITS },
      { kind: "number", path: "/inspection/altitude_m", label: t("Altitude, m") },
      { kind: "tags", path: "/inspection/instruments", label: t("Instruments at hand; none named: all"),
        options: options<NonNullable<Inspection["instruments"]>[number]>(
          "compression-gauge", "leakdown-tester", "borescope", "spark-tester", "scan-tool", "timing-light", "dwell-meter", "current-clamp") },
    ],
  },
];

/** What its maker prints, in the unit it is printed in. */
export const FIGURES: readonly Group[] = [
  {
    title: t("Plug and gap, in the unit they are printed in"),
    fields: [
      { kind: "text", path: "/engine/specification/plug_part", label: t("Plug specified") },
      { kind: "quantity", path: "/engine/specification/gap_min", label: t("Gap from"), units: LENGTH_UNITS },
      { kind: "quantity", path: "/engine/specification/gap_max", label: t("Gap to"), units: LENGTH_UNITS },
      { kind: "quantity", path: "/engine/specification/plug_interval", label: t("Plug interval"), units: DISTANCE_UNITS },
      { kind: "number", path: "/engine/specification/plug_interval_years", label: t("Or years, whichever comes first") },
      { kind: "choice", path: "/engine/specification/electrode", label: t("Electrode"),
        options: options<NonNullable<Specification["electrode"]>>("nickel", "platinum", "iridium") },
      { kind: "choice", path: "/engine/specification/seat", label: t("Seat"),
        options: options<NonNullable<Specification["seat"]>>("gasket", "taper") },
      { kind: "number", path: "/engine/specification/thread_mm", label: t("Thread, mm") },
      { kind: "quantity", path: "/engine/specification/thread_length", label: t("Thread length"), units: LENGTH_UNITS },
      { kind: "quantity", path: "/engine/specification/reach", label: t("Reach"), units: LENGTH_UNITS },
    ],
  },
  {
    title: t("Compression and torque"),
    fields: [
      { kind: "quantity", path: "/engine/specification/compression_min", label: t("Compression at least"), units: PRESSURE_UNITS },
      { kind: "quantity", path: "/engine/specification/compression_max", label: t("Compression at most"), units: PRESSURE_UNITS },
      { kind: "quantity", path: "/engine/specification/compression_max_spread", label: t("Spread allowed"), units: [{ value: "%", label: "%" }, ...PRESSURE_UNITS] },
      { kind: "quantity", path: "/engine/specification/torque_new", label: t("Torque, new plug"), units: TORQUE_UNITS },
      { kind: "quantity", path: "/engine/specification/torque_reused", label: t("Torque, reused plug"), units: TORQUE_UNITS },
      { kind: "choice", path: "/engine/specification/head", label: t("Cylinder head"),
        options: options<NonNullable<Specification["head"]>>("aluminium", "iron") },
    ],
  },
];

/** What the engine is; layout, order and shared parts are entered on its plan. */
export const ENGINE: readonly Group[] = [
  {
    title: t("The engine"),
    fields: [
      { kind: "text", path: "/engine/title", label: t("Name") },
      { kind: "text", path: "/engine/identifier", label: t("Number or mark") },
      { kind: "choice", path: "/engine/cycle", label: t("Cycle"), stays: true,
        options: options<Engine["cycle"]>("four-stroke", "two-stroke") },
      { kind: "choice", path: "/engine/ignition", label: t("Ignition"),
        options: options<NonNullable<Engine["ignition"]>>("coil-on-plug", "wasted-spark", "distributor", "magneto") },
      TRIGGER,
      { kind: "choice", path: "/engine/fuel_system", label: t("Fuel"),
        options: options<NonNullable<Engine["fuel_system"]>>("carburettor", "throttle-body", "port", "direct") },
      { kind: "choice", path: "/engine/cooling", label: t("Cooling"),
        options: options<NonNullable<Engine["cooling"]>>("liquid", "air") },
      { kind: "choice", path: "/engine/aspiration", label: t("Breathing"),
        options: options<NonNullable<Engine["aspiration"]>>("natural", "boosted") },
    ],
  },
  {
    title: t("Its measures"),
    fields: [
      { kind: "number", path: "/engine/compression_ratio", label: t("Compression ratio") },
      { kind: "quantity", path: "/engine/bore", label: t("Bore"), units: LENGTH_UNITS },
      { kind: "quantity", path: "/engine/stroke", label: t("Stroke"), units: LENGTH_UNITS },
      { kind: "quantity", path: "/engine/rod", label: t("Rod, centre to centre"), units: LENGTH_UNITS },
      { kind: "number", path: "/engine/intake_closing_deg_abdc", label: t("Intake closes, degrees after bottom") },
      { kind: "number", path: "/engine/exhaust_closing_deg_abdc", label: t("Exhaust port closes, degrees after bottom (two-stroke)") },
      { kind: "flag", path: "/engine/decompressor", label: t("It has a decompressor") },
      { kind: "number", path: "/engine/socket_mm", label: t("Plug socket, mm") },
    ],
  },
];

type Distributor = NonNullable<Document["distributor"]>;

/** As it was found; recorded once, read by Refit too. */
export const DISTRIBUTOR: readonly Group[] = [
  {
    title: t("Distributor, as found"),
    fields: [
      { kind: "choice", path: "/distributor/cap", label: t("Cap"),
        options: options<NonNullable<Distributor["cap"]>>("sound", "cracked", "tracked", "corroded") },
      { kind: "choice", path: "/distributor/rotor", label: t("Rotor"),
        options: options<NonNullable<Distributor["rotor"]>>("sound", "burnt", "worn") },
      { kind: "choice", path: "/distributor/advance", label: t("Advance"),
        options: options<NonNullable<Distributor["advance"]>>("free", "sticky", "seized") },
      { kind: "choice", path: "/distributor/vacuum", label: t("Vacuum"),
        options: options<NonNullable<Distributor["vacuum"]>>("holds", "leaks") },
      { kind: "choice", path: "/distributor/shaft", label: t("Shaft"),
        options: options<NonNullable<Distributor["shaft"]>>("tight", "worn") },
      { kind: "flag", path: "/distributor/moisture", label: t("Moisture under the cap") },
      { kind: "number", path: "/distributor/timing_deg_btdc", label: t("Timing as found, degrees before top") },
    ],
  },
  {
    title: t("Points, as found"),
    fields: [
      { kind: "choice", path: "/distributor/points", label: t("Points"),
        options: options<NonNullable<Distributor["points"]>>("flat", "pitted", "cupped") },
      { kind: "choice", path: "/distributor/rubbing_block", label: t("Rubbing block"),
        options: options<NonNullable<Distributor["rubbing_block"]>>("sound", "worn") },
      { kind: "choice", path: "/distributor/condenser", label: t("Condenser"),
        options: options<NonNullable<Distributor["condenser"]>>("sound", "weak") },
      { kind: "quantity", path: "/distributor/points_distance", label: t("Distance on the points"), units: DISTANCE_UNITS },
      { kind: "quantity", path: "/distributor/points_gap", label: t("Gap as found"), units: LENGTH_UNITS },
      { kind: "number", path: "/distributor/dwell_deg", label: t("Dwell as found, degrees") },
    ],
  },
];
