import { keepPhoto, Refused } from "../../api/client";
import { database, type WaitingPhoto } from "../../storage/database";

export interface PhotoState {
  waiting: readonly WaitingPhoto[];
  /** Why the last one was not kept. */
  refused: string | undefined;
}

const AGAIN_MS = 5_000;

/** Photos taken on this device and on their way: kept in its database until the server has them. */
export class PhotoBox {
  private state: PhotoState = { waiting: [], refused: undefined };
  private readonly listeners = new Set<() => void>();
  private busy = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private onKept: (path: string, name: string) => void = () => undefined;

  constructor(private readonly inspection: string) {
    void this.load();
    window.addEventListener("online", () => void this.send());
  }

  /** What to do with a photo that the server has named; whoever shows the inspection says so. */
  whenKept(act: (path: string, name: string) => void): void {
    this.onKept = act;
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): PhotoState => this.state;

  private change(next: Partial<PhotoState>): void {
    this.state = { ...this.state, ...next };
    for (const listener of this.listeners) listener();
  }

  private async load(): Promise<void> {
    const stored = await (await database()).getAllFromIndex("photos", "inspection", this.inspection);
    this.change({ waiting: stored });
    await this.send();
  }

  async add(path: string, pictures: readonly Blob[]): Promise<void> {
    const made = pictures.map((picture) => ({
      id: crypto.randomUUID(),
      inspection: this.inspection,
      path,
      picture,
    }));
    const db = await database();
    for (const one of made) await db.put("photos", one);
    this.change({ waiting: [...this.state.waiting, ...made], refused: undefined });
    await this.send();
  }

  private async send(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    clearTimeout(this.timer);
    try {
      for (const one of [...this.state.waiting]) await this.sendOne(one);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      this.timer = setTimeout(() => void this.send(), AGAIN_MS);
    } finally {
      this.busy = false;
    }
  }

  private async sendOne(one: WaitingPhoto): Promise<void> {
    try {
      const { photo } = await keepPhoto(one.picture);
      this.onKept(one.path, photo);
    } catch (error) {
      if (!(error instanceof Refused) || error.passing || error.status === 401) throw error;
      this.change({ refused: error.problems[0]?.expected ?? error.message });
    }
    await (await database()).delete("photos", one.id);
    this.change({ waiting: this.state.waiting.filter((other) => other.id !== one.id) });
  }
}

const boxes = new Map<string, PhotoBox>();

/** The photo box of an inspection; one for the life of the page. */
export function photoBoxOf(inspection: string): PhotoBox {
  const known = boxes.get(inspection) ?? new PhotoBox(inspection);
  boxes.set(inspection, known);
  return known;
}
