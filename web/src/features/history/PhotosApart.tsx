import { t } from "../../language";
import { useState } from "react";
import { SelectField } from "../../primitives/Field";
import type { Visit } from "./EnginePage";

interface Props {
  visits: readonly Visit[];
  cylinders: readonly number[];
}

const address = (photo: string) => `/api/photos/${photo.replace("sha256:", "")}`;

/** Two photos of one cylinder from two inspections, one laid over the other as far as the slider goes. */
export function PhotosApart({ visits, cylinders }: Props) {
  const taken = (number: number) =>
    visits.flatMap((visit) => {
      const photos = visit.cylinders?.find((one) => one.number === number)?.photos ?? [];
      return photos.slice(-1).map((photo) => ({ photo, date: visit.date || "undated" }));
    });
  const possible = cylinders.filter((number) => taken(number).length > 1);
  const [wanted, setWanted] = useState("");
  const [share, setShare] = useState(50);
  const number = possible.find((one) => String(one) === wanted) ?? possible[0];
  if (number === undefined) return null;
  const photos = taken(number);
  const [before, after] = [photos[0], photos.at(-1)];
  if (!before || !after) return null;
  return (
    <figure className="sheet mt-3 grid max-w-xl gap-2 p-3">
      <SelectField
        label={t("Photos of cylinder")}
        value={String(number)}
        options={possible.map((one) => ({ value: String(one), label: String(one) }))}
        onChange={setWanted}
      />
      <div className="relative aspect-[4/3] overflow-hidden rounded-md bg-wash">
        <img src={address(before.photo)} alt={t("Cylinder {{number}} on {{date}}", { number, date: before.date })} className="absolute inset-0 size-full object-contain" />
        <img
          src={address(after.photo)}
          alt={t("Cylinder {{number}} on {{date}}", { number, date: after.date })}
          className="absolute inset-0 size-full object-contain"
          style={{ clipPath: `inset(0 0 0 ${share}%)` }}
        />
      </div>
      <label className="grid grid-cols-[auto_1fr_auto] items-center gap-2 text-sm">
        {before.date}
        <input type="range" min="0" max="100" value={share} onChange={(event) => setShare(Number(event.target.value))} aria-label={t("How much of the later photo is seen")} />
        {after.date}
      </label>
    </figure>
  );
}
