import { t } from "../../language";
import { unzip, type UnzipFileInfo } from "fflate";

const MOST_BYTES = 5_000_000;
const PACKED = /\.zip$/i;

/** What is in a packed file: its inspections, or of a shop's archive those of its folder of inspections. */
export async function unpacked(file: File): Promise<readonly File[]> {
  if (!PACKED.test(file.name)) return [file];
  const data = new Uint8Array(await file.arrayBuffer());
  const found = await new Promise<Record<string, Uint8Array>>((resolve, reject) =>
    unzip(data, { filter: wanted }, (error, entries) => (error ? reject(new Error(t("{{name}}: no ZIP that can be read", { name: file.name }))) : resolve(entries))),
  );
  const named = Object.entries(found);
  const ofArchive = named.filter(([name]) => name.startsWith("inspections/"));
  return (ofArchive.length > 0 ? ofArchive : named).map(([name, bytes]) => new File([bytes.slice()], name));
}

/** No larger than an inspection can be: what unpacks to more is none, whatever it is called. */
function wanted({ name, originalSize }: UnzipFileInfo): boolean {
  return /\.json$/i.test(name) && originalSize <= MOST_BYTES;
}
