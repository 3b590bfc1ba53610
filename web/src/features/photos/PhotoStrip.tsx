import { t } from "../../language";
import { useEffect, useId, useMemo } from "react";
import { Button } from "../../primitives/Button";
import type { Recorder } from "../record";
import { photosAt, type Photos } from "./photos";

interface Props {
  recorder: Recorder;
  photos: Photos;
  /** The list in the document, and whose it is: "Cylinder 3". */
  path: string;
  of: string;
}

/** The photos of one thing, those on their way too; number plates are the owner's business. */
export function PhotoStrip({ recorder, photos, path, of }: Props) {
  const { document, onRecord, disabled } = recorder;
  const id = useId();
  const kept = photosAt(document, path);
  const here = photos.entries.filter(({ act }) => act.kind === "photo" && act.path === path);
  const waiting = here.filter((one) => !one.aside);
  const refused = here.findLast((one) => one.aside);
  const without = (name: string) => kept.filter((one) => one !== name);
  return (
    <section aria-label={t("Photos of {{of}}", { of: of.toLowerCase() })} className="grid gap-1.5">
      <div className="flex flex-wrap items-center gap-2">
        <label
          htmlFor={id}
          className={`target grid min-h-10 place-items-center rounded-md border border-line bg-sheet px-3 hover:border-soft ${disabled ? "opacity-50" : "cursor-pointer"}`}
        >
          {t("Take or choose a photo")}
        </label>
        <input
          id={id}
          type="file"
          accept="image/jpeg,image/png,image/webp,image/heic,image/heif"
          multiple
          disabled={disabled}
          className="sr-only"
          onChange={(event) => {
            photos.add(path, [...(event.target.files ?? [])]);
            event.target.value = "";
          }}
        />
        {waiting.length > 0 && (
          <span className="caption">{t("{{count}} on this device, not yet saved", { count: waiting.length })}</span>
        )}
      </div>
      {refused?.aside && (
        <p role="alert" className="text-sm text-rust">
          {t("Not kept: {{text}}. It is set aside on this device.", { text: refused.aside.text })}
        </p>
      )}
      {kept.length + waiting.length > 0 && (
        <ul className="flex flex-wrap gap-2">
          {kept.map((name, index) => (
            <li key={name} className="relative">
              <a href={`/api/photos/${name.replace("sha256:", "")}`} target="_blank" rel="noreferrer">
                <img
                  src={`/api/photos/${name.replace("sha256:", "")}`}
                  alt={t("{{of}}, photo {{index}}", { of, index: index + 1 })}
                  className="h-24 w-24 rounded-md border border-line object-cover"
                />
              </a>
              <Button
                className="absolute right-0 bottom-0 px-2 text-sm"
                disabled={disabled}
                aria-label={t("Take photo {{index}} out", { index: index + 1 })}
                onClick={() => onRecord([[path, without(name).length ? without(name) : undefined]])}
              >
                {t("out")}
              </Button>
            </li>
          ))}
          {waiting.map(
            ({ id: key, act }) =>
              act.kind === "photo" && (
                <li key={key}>
                  <Waiting picture={act.picture} />
                </li>
              ),
          )}
        </ul>
      )}
    </section>
  );
}

function Waiting({ picture }: { picture: Blob }) {
  const address = useMemo(() => URL.createObjectURL(picture), [picture]);
  useEffect(() => () => URL.revokeObjectURL(address), [address]);
  return (
    <img
      src={address}
      alt={t("On its way")}
      className="h-24 w-24 rounded-md border-2 border-dashed border-ochre object-cover opacity-70"
    />
  );
}
