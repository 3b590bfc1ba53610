import { t } from "../../language";
import { TableEntry } from "../narration";
import { PhotoStrip, type Photos } from "../photos";
import { FieldGroups, ListLine, PairsEntry, type Group, type Recorder } from "../record";

const NOTE: Group = {
  title: t("Note"),
  fields: [{ kind: "text", path: "/inspection/note", label: t("Note") }],
};

/** What no list of words holds: findings elsewhere, what was not looked at and why, photos, words as spoken. */
export function NotesEntry({ recorder, photos }: { recorder: Recorder; photos: Photos }) {
  const said = recorder.document.inspection?.said ?? [];
  return (
    <div className="grid gap-x-6 gap-y-4 xl:grid-cols-2">
      <div className="grid content-start gap-4">
        <PairsEntry
          recorder={recorder}
          path="/inspection/findings"
          title={t("Findings elsewhere on the engine")}
          columns={[["place", t("Where")], ["text", t("What was found")]]}
        />
        <PairsEntry
          recorder={recorder}
          path="/inspection/not_inspected"
          title={t("Not inspected, and why")}
          columns={[["item", t("What")], ["reason", t("Why not")]]}
        />
      </div>
      <div className="grid content-start gap-4">
        <FieldGroups columns={[[NOTE]]} recorder={recorder} />
        <TableEntry recorder={recorder} />
        <section aria-label={t("Photos")} className="grid gap-2">
          <h3 className="border-b border-line font-bold">{t("Photos of the whole")}</h3>
          <PhotoStrip recorder={recorder} photos={photos} path="/inspection/photos" of={t("The engine")} />
        </section>
        {said.length > 0 && (
          <section aria-label={t("As it was said")} className="grid gap-1">
            <h3 className="border-b border-line font-bold">{t("As it was said")}</h3>
            <ul className="text-sm">
              {said.map((one) => (
                <li key={one.id}>
                  <ListLine recorder={recorder} item={`/inspection/said/${one.id}`} name={one.text ?? ""}>
                    “{one.text}”{one.cylinder !== undefined && <span className="caption">{" "}{t("cylinder {{cylinder}}", { cylinder: one.cylinder })}</span>}
                  </ListLine>
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </div>
  );
}
