import { t } from "../../language";
import type { ReactNode } from "react";
import { Button } from "../../primitives/Button";
import { TextField } from "../../primitives/Field";
import type { useInstrument, InstrumentKind } from "./useInstrument";

interface Props {
  live: ReturnType<typeof useInstrument>;
  /** What can be captured here, and how it is put to the hand that holds the key. */
  begin: Partial<Record<InstrumentKind, string>>;
  cylinder: number;
  disabled: boolean;
  children?: ReactNode;
}

/** Connect to an instrument on this machine and begin a capture; what came of it is the caller's. */
export function LivePanel({ live, begin, cylinder, disabled, children }: Props) {
  const { instrument, capture, trouble } = live;
  const label = instrument && begin[instrument.kind];
  return (
    <section aria-label={t("Live instrument")} className="mt-4 grid content-start gap-2">
      <h3 className="border-b border-line font-bold">{t("From an instrument, live")}</h3>
      <div className="grid grid-cols-[8rem_auto_1fr] items-end gap-2">
        <TextField
          label={t("Port on this machine")}
          inputMode="numeric"
          value={live.port}
          onChange={(event) => live.setPort(event.target.value.trim())}
        />
        <Button onClick={() => void live.connect()}>{t("Connect")}</Button>
        {instrument && <p className="caption self-center">{instrument.title}</p>}
      </div>
      {trouble && (
        <p role="alert" className="text-sm text-rust">
          {trouble}
        </p>
      )}
      {instrument && !label && <p className="text-sm">{t("This instrument belongs to another step.")}</p>}
      {label &&
        (capture?.running ? (
          <Button onClick={live.stop}>{t("Stop")}</Button>
        ) : (
          <Button disabled={disabled} onClick={() => live.begin(cylinder)}>
            {label}
          </Button>
        ))}
      {capture && children}
    </section>
  );
}
