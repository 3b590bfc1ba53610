import type { ReactNode } from "react";
import { FiringEnd } from "../plug/FiringEnd";

const DRAWN = [
  { deposit_colour: "tan", deposit_amount: "light", deposit_texture: "powder", wetness: "dry", insulator: "sound", centre_electrode: "square", ground_electrode: "square", gap: { value: 0.7, unit: "mm" } },
  { deposit_colour: "black", deposit_amount: "moderate", deposit_texture: "powder", wetness: "wet", wet_with: "fuel", insulator: "sound", centre_electrode: "square", ground_electrode: "square", gap: { value: 0.7, unit: "mm" } },
  {},
] as const;

interface Props {
  title: string;
  says: string;
  children: ReactNode;
}

/** A sheet in the middle of the page, for whoever is not inside yet. */
export function Door({ title, says, children }: Props) {
  return (
    <main className="grid min-h-screen place-items-center p-4">
      <div className="sheet w-full max-w-md p-6">
        <div className="mb-4 flex justify-center gap-3" aria-hidden="true">
          {DRAWN.map((plug, index) => (
            <FiringEnd key={index} plug={plug} className="size-20" />
          ))}
        </div>
        <h1 className="text-2xl font-bold">{title}</h1>
        <p className="mb-4 text-soft">{says}</p>
        {children}
      </div>
    </main>
  );
}
