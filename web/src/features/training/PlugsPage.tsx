import { t, wordSaid } from "../../language";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, take } from "../../api/client";
import { usePageTitle } from "../../app/usePageTitle";
import { Button } from "../../primitives/Button";
import { FiringEnd } from "../plug";

/** One plug after the other, named; those that are confused come oftener. */
export function PlugsPage() {
  usePageTitle(t("Read the plug"));
  const queries = useQueryClient();
  const { data, error } = useQuery({
    queryKey: ["training", "plug"],
    queryFn: () => take(api.GET("/api/training/plug")),
    staleTime: Infinity,
  });
  const named = useMutation({
    mutationFn: (answered: string) =>
      take(api.POST("/api/training/plug", { body: { number: data?.number ?? 0, answered: answered as "soot" } })),
  });
  const next = () => {
    named.reset();
    void queries.invalidateQueries({ queryKey: ["training"] });
  };
  const trouble = error ?? named.error;
  const plug = data?.plugs?.[0]?.plug ?? {};
  const said = Object.entries({ texture: plug.deposit_texture, amount: plug.deposit_amount, "wet or dry": plug.wetness, "wet with": plug.wet_with, smell: plug.smell });
  return (
    <div className="mx-auto grid max-w-2xl gap-4">
      <header className="flex items-baseline justify-between gap-2">
        <h1 className="text-xl font-bold">{t("What made it so?")}</h1>
        <Link to="/training" className="caption text-teal underline">
          {t("Back to practising")}
        </Link>
      </header>
      {trouble && (
        <p role="alert" className="text-rust">
          {trouble.message}
        </p>
      )}
      {data && (
        <div className="sheet grid items-center gap-4 p-4 sm:grid-cols-[14rem_1fr]">
          <FiringEnd plug={{ ...plug, centre_electrode: "square", ground_electrode: "square" }} className="mx-auto w-48 sm:w-56" />
          <dl className="grid grid-cols-[6rem_1fr] gap-y-1">
            <dt className="caption">{t("colour")}</dt>
            <dd>{plug.deposit_colour}</dd>
            {said.map(([label, word]) =>
              word && word !== "none" ? (
                <div key={label} className="contents">
                  <dt className="caption">{label}</dt>
                  <dd>{wordSaid(word)}</dd>
                </div>
              ) : null,
            )}
          </dl>
        </div>
      )}
      {data && !named.data && (
        <div className="grid gap-2 sm:grid-cols-2">
          {data.offered.map((one) => (
            <Button key={one.face} disabled={named.isPending} onClick={() => named.mutate(one.face)}>
              {one.label}
            </Button>
          ))}
        </div>
      )}
      {named.data && (
        <section role="status" className="sheet grid gap-1 border-l-4 border-l-teal p-4">
          <p className="text-lg font-bold">
            {named.data.right ? t("Yes: ") : t("No: ")}
            {named.data.label}
          </p>
          <p>
            <span className="caption">{t("Tells:")}{" "}</span>
            {named.data.tells}
          </p>
          {named.data.answered_tells && (
            <p>
              <span className="caption">{t("What you named looks so:")}{" "}</span>
              {named.data.answered_tells}
            </p>
          )}
          <p>
            <span className="caption">{t("Proves:")}{" "}</span>
            {named.data.proves}
          </p>
          <p>
            <span className="caption">{t("Does not prove:")}{" "}</span>
            {named.data.proves_not}
          </p>
          <Button weight="main" className="mt-2 w-fit" onClick={next}>
            {t("Next plug")}
          </Button>
        </section>
      )}
    </div>
  );
}
