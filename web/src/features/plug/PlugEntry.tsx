import { Button } from "../../primitives/Button";
import { Choice } from "../../primitives/Choice";
import { QuantityEntry } from "../../primitives/QuantityEntry";
import { FiringEnd } from "./FiringEnd";
import * as say from "./findings";

interface Props {
  record: say.CylinderRecord;
  /** Record a field of this cylinder by its path within it; undefined takes it back. */
  onRecord: (entries: readonly (readonly [string, unknown])[]) => void;
  disabled: boolean;
  problem: (path: string) => string | undefined;
}

/** Everything about one plug and its well, each choice saved as it is made. */
export function PlugEntry({ record, onRecord, disabled, problem }: Props) {
  const plug = record.plug ?? {};
  const set = (path: string) => (value: unknown) => onRecord([[path, value]]);
  const wet = plug.wetness === "wet" || plug.wetness === "damp";
  const shared = { disabled };
  return (
    <div className="grid gap-x-6 gap-y-3 md:grid-cols-[200px_1fr]">
      <div className="flex items-center gap-3 md:block">
        <FiringEnd plug={plug} profile className="w-40 shrink-0 md:w-full" />
        <div className="mt-2 grid gap-2">
          <Button disabled={disabled} onClick={() => onRecord(say.NORMAL)}>
            Normal, all of it
          </Button>
          <QuantityEntry
            label="Gap"
            units={say.LENGTH_UNITS}
            fallback="mm"
            value={plug.gap}
            onChange={set("plug/gap")}
            disabled={disabled}
            error={problem(`/cylinders/${record.number}/plug/gap`)}
          />
        </div>
      </div>
      <div className="gap-x-6 xl:columns-2 [&>*]:mb-2.5 [&>*]:break-inside-avoid">
        <Choice label="Oil in the well" options={say.WELL_OIL} value={record.well?.oil} onChange={set("well/oil")} {...shared} />
        <Choice label="How it came loose" options={say.SEATING} value={plug.seating} onChange={set("plug/seating")} {...shared} />
        <Choice label="Deposit colour" options={say.COLOUR} value={plug.deposit_colour} onChange={set("plug/deposit_colour")} {...shared} />
        <Choice label="Deposit texture" options={say.TEXTURE} value={plug.deposit_texture} onChange={set("plug/deposit_texture")} {...shared} />
        <Choice label="Deposit amount" options={say.AMOUNT} value={plug.deposit_amount} onChange={set("plug/deposit_amount")} {...shared} />
        <div className="grid gap-2.5">
          <Choice label="Wet or dry" options={say.WETNESS} value={plug.wetness} onChange={set("plug/wetness")} {...shared} />
          {(wet || plug.wet_with !== undefined) && (
            <Choice
              label="Wet with what"
              options={say.WET_WITH}
              value={plug.wet_with}
              onChange={set("plug/wet_with")}
              note={<p className="caption mt-1">Fuel is thin, smells and dries off. Oil is greasy and stays.</p>}
              {...shared}
            />
          )}
        </div>
        <Choice label="Insulator" options={say.INSULATOR} value={plug.insulator} onChange={set("plug/insulator")} {...shared} />
        <Choice label="Centre electrode" options={say.CENTRE} value={plug.centre_electrode} onChange={set("plug/centre_electrode")} {...shared} />
        <Choice label="Ground electrode" options={say.GROUND} value={plug.ground_electrode} onChange={set("plug/ground_electrode")} {...shared} />
        <Choice
          label="Gap bridged"
          options={say.YES_NO}
          value={plug.gap_bridged === undefined ? undefined : plug.gap_bridged ? "yes" : "no"}
          onChange={(value) => set("plug/gap_bridged")(value === undefined ? undefined : value === "yes")}
          {...shared}
        />
      </div>
    </div>
  );
}
