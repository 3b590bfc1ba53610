export const IGNITION = [
  { value: "coil-on-plug", label: "a coil on each plug" },
  { value: "wasted-spark", label: "a coil for two (wasted spark)" },
  { value: "distributor", label: "distributor" },
  { value: "magneto", label: "magneto" },
] as const;

export const FUEL = [
  { value: "carburettor", label: "carburettor" },
  { value: "throttle-body", label: "throttle-body injection" },
  { value: "port", label: "port injection" },
  { value: "direct", label: "direct injection" },
] as const;
