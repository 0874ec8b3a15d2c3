import { keep, keptUnder, release, releaseUnder } from "../../device";

/**
 * A recording on the device, piece by piece as the browser makes it: what was recorded up to a moment before the tab
 * was killed is still there, and is offered again.
 */
export type LeftRecording = { id: string; blob: Blob; seconds: number; at: string };
/** @property seconds how long the recording is with it */
type Chunk = { bytes: Blob; type: string; seconds: number };

const pad = (n: number) => String(n).padStart(6, "0");
const keyOf = (place: string, id: string, n: number) => `recording ${place} ${id} ${pad(n)}`;

/** @returns false when the device has no room for it */
export const keepChunk = (place: string, id: string, n: number, chunk: Chunk): Promise<boolean> =>
  keep<Chunk>(keyOf(place, id, n), chunk, 0);

export const dropRecording = (place: string, id: string): Promise<void> =>
  releaseUnder(`recording ${place} ${id} `);

/** One tab of a browser records at a time; while it does, it holds this lock, and one named after the recording. */
const MICROPHONE = "almanac recording";
const lockOf = (id: string) => `${MICROPHONE} ${id}`;

/** Takes the microphone for a recording. @returns what gives it back; null: another tab is recording */
export function takeMicrophone(id: string): Promise<(() => void) | null> {
  if (!navigator.locks) return Promise.resolve(() => {});
  return new Promise((resolve) => {
    void navigator.locks.request(MICROPHONE, { ifAvailable: true }, (free) => {
      if (!free) return resolve(null);
      return new Promise<void>((release) => {
        void navigator.locks.request(
          lockOf(id),
          () => new Promise<void>((end) => resolve(() => (end(), release()))),
        );
      });
    });
  });
}

/** The recordings that other tabs are making just now. */
const underWay = async (): Promise<ReadonlySet<string>> =>
  new Set((await navigator.locks?.query())?.held?.flatMap((lock) => lock.name ?? []) ?? []);

/** What earlier pages recorded here and neither kept nor dropped. */
export async function leftRecordings(place: string): Promise<LeftRecording[]> {
  const busy = await underWay();
  const byId = new Map<string, { key: string; value: Chunk; at: string }[]>();
  for (const entry of await keptUnder<Chunk>(`recording ${place} `)) {
    const id = entry.key.split(" ").at(-2)!;
    byId.set(id, [...(byId.get(id) ?? []), entry]);
  }
  const found: LeftRecording[] = [];
  for (const [id, chunks] of byId) {
    if (busy.has(lockOf(id))) continue;
    const last = chunks.at(-1)!;
    const blob = new Blob(
      chunks.map((c) => c.value.bytes),
      { type: last.value.type },
    );
    if (blob.size > 0) found.push({ id, blob, seconds: last.value.seconds, at: last.at });
    else for (const { key } of chunks) await release(key);
  }
  return found;
}
