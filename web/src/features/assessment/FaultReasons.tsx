import { t } from "../../language";
import { Accordion } from "radix-ui";
import type { CylinderAssessment } from "../../api/client";
import { percent, unbroken } from "./words";

type Because = CylinderAssessment["faults"][number]["because"];

const SHOWN = 8;
const HIDDEN_BITS = 2;

/** The size of each argument: bits as a bar and a figure, for to the right, against to the left. */
function Weighing({ because }: { because: Because }) {
  const most = Math.max(2, ...because.map((one) => Math.abs(one.weight)));
  return (
    <ul className="grid gap-1 text-sm">
      {because.map((one) => {
        const speaks = one.weight > 0 ? "for" : "against";
        const share = (Math.abs(one.weight) / most) * 50;
        return (
          <li
            key={`${one.path} ${one.finding}`}
            className="grid grid-cols-[3.2rem_1fr_64px_2.6rem] items-center gap-1"
          >
            <b className="caption">{speaks}</b>
            <span>{unbroken(one.finding)}</span>
            <span className="relative h-4" aria-hidden="true">
              <i className="absolute inset-y-0 left-1/2 border-l border-soft" />
              <i
                className={`absolute inset-y-0.5 ${one.weight > 0 ? "bg-rust" : "bg-teal"}`}
                style={one.weight > 0 ? { left: "50%", width: `${share}%` } : { right: "50%", width: `${share}%` }}
              />
            </span>
            <span className="caption text-right" title={t("bits: each doubles the odds, or halves them")}>
              {Math.abs(one.weight).toFixed(1)}
              <span className="sr-only">{" "}{t("bits {{speaks}}", { speaks })}</span>
            </span>
          </li>
        );
      })}
    </ul>
  );
}

const logOdds = (chance: number) => Math.log2(chance / (1 - chance));

/** Said where the figures add up to far less than what all of it together did. */
function Sharing({ probability, prior, because }: Pick<Props, "probability" | "prior" | "because">) {
  const moved = logOdds(Math.min(probability, 0.999)) - logOdds(prior);
  const told = because.reduce((sum, one) => sum + one.weight, 0);
  if (because.length < 2 || moved - told < HIDDEN_BITS) return null;
  return (
    <p className="caption mt-1">
      {t("All of it together took this from {{prior}} to {{probability}}. Each figure is only what that one adds to the rest: findings that say the same share their weight.", { prior: percent(prior), probability: percent(probability) })}
    </p>
  );
}

interface Props {
  id: string;
  label: string;
  probability: number;
  /** How often it occurs, before anything is looked at. */
  prior: number;
  because: Because;
  /** Whether a claim names it. */
  claimed: boolean;
}

/** One fault in a list that opens to what speaks for and against it. */
export function FaultReasons({ id, label, probability, prior, because, claimed }: Props) {
  return (
    <Accordion.Item value={id}>
      <Accordion.Header>
        <Accordion.Trigger className="group target flex min-h-9 w-full items-center gap-2 text-left">
          <span className="relative h-2.5 w-16 shrink-0 overflow-hidden rounded-full bg-wash" aria-hidden="true">
            <i
              className={`absolute inset-y-0 left-0 ${claimed ? "bg-rust" : "bg-soft"}`}
              style={{ width: `${Math.max(probability * 100, 2)}%` }}
            />
          </span>
          <span className={`w-16 shrink-0 text-right ${claimed ? "font-bold" : "text-soft"}`}>
            {percent(probability)}
          </span>
          <span className={claimed ? "font-medium" : "text-soft"}>{label}</span>
          <span className="caption ml-auto group-data-[state=open]:hidden">{t("why")}</span>
        </Accordion.Trigger>
      </Accordion.Header>
      <Accordion.Content className="pb-2 pl-2">
        {because.length > 0 ? (
          <>
            <Weighing because={because.slice(0, SHOWN)} />
            {prior > 0 && <Sharing probability={probability} prior={prior} because={because} />}
          </>
        ) : (
          <p className="text-sm text-soft">
            {t("Nothing recorded speaks for or against it; this is how often it occurs anyway.")}
          </p>
        )}
      </Accordion.Content>
    </Accordion.Item>
  );
}
