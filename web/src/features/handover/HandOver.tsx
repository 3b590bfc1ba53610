import { t } from "../../language";
import { useState } from "react";
import type { Assessment, Inspection } from "../../api/client";
import { UNITS } from "../../api/units";
import { LANGUAGES } from "../../api/languages";
import { Button } from "../../primitives/Button";
import { SelectField, TextField } from "../../primitives/Field";
import { Tick } from "../../primitives/Tick";
import type { Recorder } from "../record";
import { isOwner, useSession } from "../session/useSession";
import { Judgement } from "./Judgement";
import { useHandingOver, useShop, useToday, type Language, type Units } from "./useHandingOver";

const DAYS = [
  { value: "7", label: t("a week") },
  { value: "30", label: t("a month") },
  { value: "365", label: t("a year") },
] as const;
const DOWNLOAD =
  "target grid min-h-10 place-items-center rounded-md border border-line bg-sheet px-3 hover:border-soft";

/** What a browser shows by itself; all else is saved. */
const SHOWN = /^(report|job-sheet)/;

interface Props {
  recorder: Recorder;
  /** Whether this person may write at all; a signed record is locked for everybody. */
  writes: boolean;
  assessment: Assessment;
  inspection: Inspection;
  /** Whether anything recorded here is still on its way. */
  waiting: boolean;
}

/** From the verdict to the client: the inspector's own word, the signature, the report, the truth later. */
export function HandOver({ recorder, writes, assessment, inspection, waiting }: Props) {
  const { id, sequence } = inspection;
  const over = useHandingOver(id, sequence);
  const owner = isOwner(useSession().person);
  const signed = over.data?.signed ?? undefined;
  return (
    <div className="grid gap-x-6 gap-y-5 xl:grid-cols-2">
      <div className="grid content-start gap-5">
        <Judgement recorder={recorder} assessment={assessment} />
        <section aria-label={t("Signing off")} className="grid gap-2">
          <h3 className="border-b border-line font-bold">{t("Sign off")}</h3>
          {over.trouble && (
            <p role="alert" className="text-sm text-rust">
              {over.trouble.message}
            </p>
          )}
          {signed ? (
            <>
              <Signed signed={signed} onReopen={over.reopen.mutate} disabled={!owner} />
              <TodaysRules inspection={id} signed={assessment} />
            </>
          ) : (
            <>
              <p className="text-sm">
                {t("Signing locks the record under a digest that the report prints. Later changes are amendments, signed anew.")}
              </p>
              <SignOff key={over.data?.open.join()} open={over.data?.open ?? []} disabled={!writes || waiting || over.sign.isPending} onSign={over.sign.mutate} />
              {waiting && <StillHere />}
            </>
          )}
          {over.data?.history.map((one) => (
            <p key={one.digest} className="caption">
              {t("{{by}}, {{at}}, {{digest}}: reopened, “{{reason}}”", { by: one.by, at: one.at.slice(0, 10), digest: one.digest.slice(0, 8), reason: one.reason })}
            </p>
          ))}
        </section>
      </div>
      <div className="grid content-start gap-5">
        <Report inspection={id} over={over} signed={signed !== undefined} waiting={waiting} disabled={!owner} />
      </div>
    </div>
  );
}

function StillHere() {
  return <p className="caption">{t("Entries are still on this device; they are sent first.")}</p>;
}

/** What stands open is read before anybody signs it; page one tells it. */
function SignOff({ open, disabled, onSign }: { open: readonly string[]; disabled: boolean; onSign: () => void }) {
  const [read, setRead] = useState(false);
  return (
    <>
      {open.length > 0 && (
        <div role="group" aria-label={t("Open at the hand-over")} className="grid gap-1 border-l-4 border-ochre pl-2">
          <ul className="grid list-disc gap-1 pl-4 text-sm">
            {open.map((one) => (
              <li key={one} className="first-letter:uppercase">
                {one}
              </li>
            ))}
          </ul>
          <Tick checked={read} disabled={disabled} onChange={setRead}>
            {t("signed with this open, and page one says so")}
          </Tick>
        </div>
      )}
      <Button weight="main" disabled={disabled || (open.length > 0 && !read)} onClick={onSign}>
        {t("Sign off as it stands")}
      </Button>
    </>
  );
}

interface SignedProps {
  signed: { by: string; at: string; digest: string };
  onReopen: (reason: string) => void;
  disabled: boolean;
}

function Signed({ signed, onReopen, disabled }: SignedProps) {
  const [reason, setReason] = useState("");
  return (
    <>
      <p>
        {t("Signed off by")}{" "}<b>{signed.by}</b>{" "}{t("on {{at}}; the record is locked.", { at: signed.at.slice(0, 10) })}
      </p>
      <p className="caption break-all">{t("SHA-256 {{digest}}", { digest: signed.digest })}</p>
      <div className="grid grid-cols-[1fr_auto] items-end gap-2">
        <TextField label={t("Why it has to be amended")} value={reason} disabled={disabled} onChange={(event) => setReason(event.target.value)} />
        <Button disabled={disabled || !reason.trim()} onClick={() => onReopen(reason)}>
          {t("Open an amendment")}
        </Button>
      </div>
      {disabled && <p className="caption">{t("An owner of the shop opens it again.")}</p>}
    </>
  );
}

/** A signed record keeps its own rules; what those of today would say is told where somebody asks. */
function TodaysRules({ inspection, signed }: { inspection: string; signed: Assessment }) {
  const today = useToday(inspection);
  const said = today.data?.assessment;
  const same = said?.rules_version === signed.rules_version;
  const grade = said && (said.engine.as_left ?? said.engine).grade;
  return (
    <div className="grid gap-1">
      <Button disabled={today.isFetching} onClick={() => void today.refetch()}>
        {t("What would today’s rules say?")}
      </Button>
      <p className="text-sm" role="status">
        {same && t("The rules are those that it was signed under.")}
        {said && !same && t("Grade {{grade}}. {{verdict}}", { grade, verdict: said.engine.as_left?.verdict ?? said.engine.verdict })}
        {today.error?.message}
      </p>
    </div>
  );
}

interface ReportProps {
  inspection: string;
  over: ReturnType<typeof useHandingOver>;
  signed: boolean;
  waiting: boolean;
  disabled: boolean;
}

/** Paper is of what the server has: while something waits here, it waits too. */
function Report({ inspection, over, signed, waiting, disabled }: ReportProps) {
  const [photos, setPhotos] = useState(true);
  const shop = useShop();
  const [chosen, setLanguage] = useState<Language>();
  const language = chosen ?? shop.data?.language ?? "en";
  const [inUnits, setUnits] = useState<NonNullable<Units>>();
  const units = inUnits ?? shop.data?.units ?? "as-read";
  const [days, setDays] = useState<string>("30");
  const base = `/api/inspections/${inspection}`;
  const made = over.link.data;
  const open = over.data?.links.filter((one) => one.open) ?? [];
  const papers = [
    { address: `report?units=${units}&photos=${photos}&language=${language}`, label: t("Report as PDF") },
    { address: `job-sheet?units=${units}&language=${language}`, label: t("Job sheet and labels") },
    { address: "cylinders.csv", label: t("CSV, a row a cylinder") },
    { address: "readings.csv", label: t("CSV, a row a reading") },
    ...(signed ? [{ address: "signed", label: t("Signed file") }] : []),
  ];
  return (
    <section aria-label={t("Report")} className="grid gap-2">
      <h3 className="border-b border-line font-bold">{t("The client's report")}</h3>
      <div className="grid grid-cols-2 items-end gap-2">
        <SelectField label={t("Units")} value={units} options={UNITS} onChange={(next) => setUnits(next || units)} />
        <SelectField label={t("Language")} value={language} options={LANGUAGES} onChange={(next) => setLanguage(next || language)} />
        <Tick checked={photos} onChange={setPhotos}>
          {t("with photos")}
        </Tick>
      </div>
      <div className="flex flex-wrap gap-2">
        {papers.map(({ address, label }) =>
          waiting ? (
            <Button key={address} disabled>
              {label}
            </Button>
          ) : (
            <a key={address} className={DOWNLOAD} href={`${base}/${address}`} {...(SHOWN.test(address) ? { target: "_blank", rel: "noreferrer" } : { download: true })}>
              {label}
            </a>
          ),
        )}
      </div>
      {waiting && <StillHere />}
      <div className="grid grid-cols-[1fr_auto] items-end gap-2">
        <SelectField label={t("A link for the client, good for")} value={days as "7"} options={DAYS} onChange={(next) => setDays(next || days)} />
        <Button disabled={disabled || waiting} onClick={() => over.link.mutate({ days: Number(days), units, photos, language })}>
          {t("Make a link")}
        </Button>
      </div>
      {disabled && <p className="caption">{t("An owner of the shop makes links and takes them back.")}</p>}
      {made?.address && (
        <p className="text-sm" role="status">
          {t("Shown once, copy it now:")}{" "}<b className="break-all select-all">{made.address}</b>
        </p>
      )}
      <ul className="grid gap-1">
        {open.map((one) => (
          <li key={one.id} className="flex items-center justify-between gap-2 text-sm">
            <span>
              {t("link of {{made}}, until {{expires}}", { made: one.made.slice(0, 10), expires: one.expires.slice(0, 10) })}
            </span>
            <Button disabled={disabled} onClick={() => over.revoke.mutate(one.id)}>
              {t("Take back")}
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
