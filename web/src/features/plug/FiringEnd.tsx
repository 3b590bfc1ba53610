import type { ReactNode } from "react";
import { millimetres } from "../record";
import { PLUG_DRAWN, PLUG_TONES } from "../../api/contract.generated";
import type { PlugRecord } from "./findings";

const SPOTS = [
  [38, 36], [60, 34], [67, 50], [61, 66], [37, 64], [31, 49], [47, 31], [54, 70], [43, 44], [58, 58],
] as const;

/** The deposit's own structure, on the insulator's nose. */
function Texture({ plug }: { plug: PlugRecord }): ReactNode {
  const dark = plug.deposit_colour === "black" || plug.deposit_colour === "brown";
  const tone = dark ? "#ffffff" : "#3b3026";
  switch (plug.deposit_texture && PLUG_DRAWN.deposit_texture[plug.deposit_texture]) {
    case "dots":
      return SPOTS.map(([x, y]) => <circle key={`${x}-${y}`} cx={x} cy={y} r="1.3" fill={tone} opacity="0.35" />);
    case "lumps":
      return SPOTS.map(([x, y]) => (
        <path key={`${x}-${y}`} d={`M${x - 5} ${y + 2}l3-6 6 1 2 5-6 4z`} fill={tone} opacity="0.28" />
      ));
    case "scales":
      return SPOTS.slice(0, 6).map(([x, y]) => (
        <path key={`${x}-${y}`} d={`M${x - 6} ${y}l8-4 4 6-8 3z`} fill="none" stroke={tone} opacity="0.6" />
      ));
    case "shine":
      return <path d="M33 40a20 20 0 0 1 20-13" fill="none" stroke="#ffffff" strokeWidth="5" strokeLinecap="round" opacity="0.8" />;
    case "specks":
      return SPOTS.map(([x, y]) => <rect key={`${x}-${y}`} x={x} y={y} width="2.6" height="2.6" fill="#d9dde0" stroke="#30373a" strokeWidth="0.5" />);
    case "bubbles":
      return SPOTS.slice(0, 7).map(([x, y]) => (
        <circle key={`${x}-${y}`} cx={x} cy={y} r="3.4" fill="#ffffff" fillOpacity="0.5" stroke={tone} strokeWidth="0.8" />
      ));
    default:
      return null;
  }
}

function Liquid({ plug }: { plug: PlugRecord }): ReactNode {
  if (plug.wetness !== "wet" && plug.wetness !== "damp") return null;
  const colour = PLUG_TONES.wet_with[plug.wet_with ?? "unknown"];
  const drops = plug.wetness === "wet" ? [[24, 66, 6], [71, 69, 7], [30, 28, 5], [74, 36, 5], [40, 78, 5]] : [[28, 64, 5], [70, 68, 5]];
  return (
    <g>
      {plug.wetness === "wet" && <circle cx="50" cy="50" r="30" fill="none" stroke={colour} strokeWidth="5" opacity="0.65" />}
      {drops.map(([x = 0, y = 0, r = 0]) => (
        <path
          key={`${x}-${y}`}
          d={`M${x} ${y - r * 1.5}c${r * 0.6} ${r * 0.9} ${r} ${r} ${r} ${r * 1.6}a${r} ${r} 0 0 1 ${-2 * r} 0c0 ${-r * 0.6} ${r * 0.4} ${-r * 0.7} ${r} ${-r * 1.6}z`}
          fill={colour}
          stroke="#1b1b1b"
          strokeWidth="0.8"
          strokeDasharray={plug.wet_with === undefined || plug.wet_with === "unknown" ? "2 1.5" : undefined}
        />
      ))}
    </g>
  );
}

function Insulator({ state }: { state: PlugRecord["insulator"] }): ReactNode {
  switch (state && PLUG_DRAWN.insulator[state]) {
    case "crack-inside":
      return <path d="M44 27l4 7-5 5 4 6" fill="none" stroke="#000" strokeWidth="1.8" />;
    case "crack-outside":
      return <path d="M27 48l7 3-3 6 7 4" fill="none" stroke="#000" strokeWidth="1.8" />;
    case "chip":
      return <path d="M68 34l8 3-5 9-8-4z" fill="#fff" stroke="#000" strokeWidth="1" />;
    case "blisters":
      return <g fill="#fff" stroke="#6b6b6b">{[[35, 55], [64, 42], [58, 68]].map(([x, y]) => <circle key={x} cx={x} cy={y} r="4" />)}</g>;
    case "track":
      return <path d="M28 30C34 40 30 54 38 70" fill="none" stroke="#1f1a2b" strokeWidth="2.4" strokeDasharray="5 2" />;
    default:
      return null;
  }
}

function Strap({ state, bridged }: { state: PlugRecord["ground_electrode"]; bridged: boolean }): ReactNode {
  const metal = { fill: "var(--metal)", stroke: "#1d2426", strokeWidth: 1.2 };
  const blob = bridged && <path d="M44 44c4-4 10-3 13 1s1 10-4 11-12-1-12-6 1-4 3-6z" fill="#3a2b1f" stroke="#000" />;
  const rule = state && PLUG_DRAWN.ground_electrode[state];
  const drawn = {
    square: <path d="M40 97V47H60V97z" {...metal} />,
    rounded: <path d="M40 97V57q0-10 10-10t10 10v40z" {...metal} />,
    waisted: <path d="M40 97L45 48H55L60 97z" {...metal} />,
    stump: <path d="M40 97v-9l5 3 4-5 5 4 6-3v10z" {...metal} />,
    bent: <path d="M40 97L36 66 52 44 66 54 57 70 60 97z" {...metal} />,
    melted: <path d="M40 97c0-14-3-20 2-30s16-9 17 1-4 12 1 29z" {...metal} />,
  };
  return (
    <g>
      {rule ? drawn[rule] : <path d="M40 97V47H60V97z" fill="none" stroke="var(--soft)" strokeDasharray="3 3" />}
      {blob}
    </g>
  );
}

/** Seen from the side: the gap to scale, twenty units to a millimetre. */
function Gap({ plug }: { plug: PlugRecord }): ReactNode {
  const width = plug.gap ? Math.min(millimetres(plug.gap), 3) * 20 : 16;
  const closed = plug.gap_closed === true;
  const high = closed ? 1 : width;
  const known = plug.gap !== undefined || closed;
  const line = known ? undefined : "3 3";
  const fill = known ? "var(--metal)" : "none";
  const rounded = plug.centre_electrode && PLUG_DRAWN.centre_electrode[plug.centre_electrode] !== "square";
  return (
    <g transform="translate(104 0)" stroke="#1d2426" strokeDasharray={line}>
      <path d={`M6 ${62 - high}H40V92`} fill="none" stroke={known ? "var(--metal)" : "var(--soft)"} strokeWidth={known ? 9 : 1} />
      <rect x="6" y="66.5" width="14" height="25" rx={rounded ? 6 : 0.5} fill={fill} stroke={known ? "#1d2426" : "var(--soft)"} />
    </g>
  );
}

interface Props {
  plug: PlugRecord;
  className?: string;
  /** Draw the gap from the side as well. */
  profile?: boolean;
}

/** A plug's firing end, face on, from nothing but what was recorded. Dashed means not named, a tick looked at. */
export function FiringEnd({ plug, className = "", profile = false }: Props) {
  const glanced = plug.look === "fine" && !plug.deposit_colour;
  const colour = plug.deposit_colour && PLUG_TONES.deposit_colour[plug.deposit_colour];
  const heavy = plug.deposit_amount === "heavy" || plug.deposit_amount === "moderate";
  const centre = plug.centre_electrode && PLUG_DRAWN.centre_electrode[plug.centre_electrode];
  return (
    <svg viewBox={profile ? "0 0 156 100" : "0 0 100 100"} className={className} role="presentation">
      <circle cx="50" cy="50" r="47" fill="var(--metal)" stroke="#1d2426" strokeWidth="1.5" />
      <circle cx="50" cy="50" r="40" fill={heavy && colour ? colour : "var(--wash)"} stroke="#1d2426" strokeWidth="1" opacity="0.95" />
      <circle cx="50" cy="50" r="33" fill="#2c3132" />
      <circle
        cx="50"
        cy="50"
        r="26"
        fill={colour ?? "var(--ceramic)"}
        stroke={colour ? "#1d2426" : "var(--soft)"}
        strokeDasharray={colour ? undefined : "4 3"}
        opacity={plug.deposit_amount === "none" ? 0.75 : 1}
      />
      {glanced && <path d="M30 34l7 8 13-17" fill="none" stroke="var(--teal)" strokeWidth="5" strokeLinecap="round" />}
      <Texture plug={plug} />
      <Insulator state={plug.insulator} />
      <Liquid plug={plug} />
      <circle
        cx="50"
        cy="50"
        r={centre === undefined || centre === "square" ? 8.5 : 7}
        fill={plug.centre_electrode ? "var(--metal)" : "var(--wash)"}
        stroke="#1d2426"
        strokeDasharray={plug.centre_electrode ? undefined : "2 2"}
      />
      {centre === "melted" && <path d="M44 52q6-9 12 1 3 7-5 8t-7-9z" fill="#5b4a3a" />}
      <Strap state={plug.ground_electrode} bridged={plug.gap_bridged === true} />
      {profile && <Gap plug={plug} />}
    </svg>
  );
}
