import { FieldGroups, type Recorder } from "../record";
import type { Photos } from "../photos";
import { DISTRIBUTOR, FIGURES, ITS_PAST, THIS_JOB } from "./findings";
import { NotesEntry } from "./NotesEntry";
import { Sources } from "./Sources";

interface Props {
  part: string;
  recorder: Recorder;
  photos: Photos;
}

/** What is known before anything comes off, a page at a time. */
export function StoryEntry({ part, recorder, photos }: Props) {
  switch (part) {
    case "past":
      return <FieldGroups columns={ITS_PAST.map((group) => [group])} recorder={recorder} />;
    case "figures":
      return (
        <>
          <FieldGroups columns={FIGURES.map((group) => [group])} recorder={recorder} />
          <Sources recorder={recorder} />
        </>
      );
    case "distributor":
      return <FieldGroups columns={DISTRIBUTOR.map((group) => [group])} recorder={recorder} />;
    case "notes":
      return <NotesEntry recorder={recorder} photos={photos} />;
    default:
      return <FieldGroups columns={THIS_JOB.map((group) => [group])} recorder={recorder} />;
  }
}
