import { t } from "../../language";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, take, upload, type Schemas } from "../../api/client";
import { UNITS } from "../../api/units";
import { LANGUAGES } from "../../api/languages";
import { Button } from "../../primitives/Button";
import { Choice } from "../../primitives/Choice";
import { Field, TextField } from "../../primitives/Field";
import { Tick } from "../../primitives/Tick";

type Shop = Schemas["Shop"];

const ZONES = Intl.supportedValuesOf("timeZone");
const PAPERS = [
  { value: "A4", label: "A4" },
  { value: "letter", label: t("Letter") },
] as const;

/** For how long a client's name and ways to reach them are kept; what was found stays in any case. */
const KEPT = [
  { value: "always", label: t("are kept") },
  { value: "2", label: t("are erased after 2 years") },
  { value: "5", label: t("after 5") },
  { value: "10", label: t("after 10") },
] as const;

/** What stands on the shop's reports, and what it asks of its people. */
export function ShopDetails({ owner }: { owner: boolean }) {
  const queries = useQueryClient();
  const known = useQuery({ queryKey: ["shop"], queryFn: () => take(api.GET("/api/shop")) });
  const [draft, setDraft] = useState<Partial<Shop>>({});
  const shop = known.data && { ...known.data, ...draft };
  const saved = useMutation({
    mutationFn: (body: Shop) => take(api.PUT("/api/shop", { body })),
    onSuccess: (next) => {
      queries.setQueryData(["shop"], next);
      setDraft({});
      void queries.invalidateQueries({ queryKey: ["session"] });
    },
  });
  const logo = useMutation({ mutationFn: (file: File) => upload("/api/shop/logo", file) });
  if (!shop) return known.error ? <p role="alert">{known.error.message}</p> : null;
  const set = (next: Partial<Shop>) => setDraft({ ...draft, ...next });
  return (
    <form
      className="sheet grid gap-3 p-4"
      onSubmit={(event) => {
        event.preventDefault();
        saved.mutate(shop);
      }}
    >
      <h2 className="font-bold">{t("The shop, as its reports say it")}</h2>
      <TextField label={t("Name")} required disabled={!owner} value={shop.name} onChange={(event) => set({ name: event.target.value })} />
      <LongField label={t("Address")} rows={3} value={shop.address} disabled={!owner} onChange={(address) => set({ address })} />
      <LongField
        label={t("Liability")}
        rows={4}
        hint={t("Your own words; without them the report says that it is an opinion on what was examined.")}
        value={shop.liability}
        disabled={!owner}
        onChange={(liability) => set({ liability })}
      />
      <TextField
        label={t("Fee")}
        hint={t("One line, such as: inspection fee 180 EUR, paid.")}
        disabled={!owner}
        value={shop.fee}
        onChange={(event) => set({ fee: event.target.value })}
      />
      <Choice label={t("Units of its reports")} options={UNITS} value={shop.units} disabled={!owner} onChange={(units) => units && set({ units })} />
      <Field label={t("Its time zone")} hint={t("Reports give their times in it.")}>
        {(wiring) => (
          <>
            <input className="entry" list="zones" disabled={!owner} value={shop.time_zone} onChange={(event) => set({ time_zone: event.target.value })} {...wiring} />
            <datalist id="zones">
              {ZONES.map((zone) => (
                <option key={zone} value={zone} />
              ))}
            </datalist>
          </>
        )}
      </Field>
      <Choice label={t("Language of its reports")} options={LANGUAGES} value={shop.language} disabled={!owner} onChange={(language) => language && set({ language })} />
      <Choice label={t("Paper of its reports")} options={PAPERS} value={shop.paper} disabled={!owner} onChange={(paper) => paper && set({ paper })} />
      <Choice
        label={t("Clients of whose engines nothing came since")}
        options={KEPT}
        value={shop.keep_clients ? String(shop.keep_clients) : "always"}
        disabled={!owner}
        onChange={(years) => set({ keep_clients: years && years !== "always" ? Number(years) : null })}
      />
      <Tick checked={shop.second_factor} disabled={!owner} onChange={(second_factor) => set({ second_factor })}>
        {t("everybody signs in with a second factor")}
      </Tick>
      {saved.error && (
        <p role="alert" className="text-sm text-rust">
          {saved.error.message}
        </p>
      )}
      {owner && (
        <>
          <Button type="submit" weight="main" disabled={saved.isPending || Object.keys(draft).length === 0}>
            {t("Keep")}
          </Button>
          <Field
            label={t("Logo")}
            hint={logo.isSuccess ? t("Kept.") : t("JPEG, PNG or WebP, up to 2 MB.")}
            error={logo.error?.message}
          >
            {(wiring) => (
              <input
                type="file"
                accept="image/png,image/jpeg,image/webp"
                className="entry"
                onChange={(event) => {
                  const file = event.target.files?.[0];
                  if (file) logo.mutate(file);
                }}
                {...wiring}
              />
            )}
          </Field>
        </>
      )}
    </form>
  );
}

interface LongProps {
  label: string;
  rows: number;
  value: string;
  disabled: boolean;
  hint?: string;
  onChange: (value: string) => void;
}

function LongField({ label, rows, value, disabled, hint, onChange }: LongProps) {
  return (
    <Field label={label} hint={hint}>
      {(wiring) => (
        <textarea
          className="entry"
          rows={rows}
          value={value}
          disabled={disabled}
          onChange={(event) => onChange(event.target.value)}
          {...wiring}
        />
      )}
    </Field>
  );
}
