import { createHash } from "node:crypto";
import { deflateRawSync, inflateRawSync } from "node:zlib";
import { likelyPlace } from "@/core/marks/likelyPlace";
import type { Range } from "@/core/text/selectors";
import { reattachAligned, type Reattached } from "@/core/marks/reattach";
import { marksToFollow, type CameBack, type Places } from "@/core/rounds/cameBack";
import type { Comparison } from "@/core/text/compare";
import { alignmentOf, compareCoarsely, COMPARED_AS, type KeptComparison } from "@/core/text/kept";
import type { Db } from "../db/connection";
import { readContent } from "../life/queries";
import { log } from "../log";
import { inThread } from "../threads/threads";

/** Longer than any two texts of school work take; a text made to take longer is compared by paragraphs. */
const SECONDS = 10;
const DAY = 86_400_000;

/** What changed from one text to the next, for people to read. Worked out once for a pair of texts. */
export async function comparedTexts(db: Db, before: string, after: string): Promise<Comparison> {
  return (await keptComparison(db, before, after)).comparison;
}

/** The same since an earlier version of the piece. */
export async function comparedWith(db: Db, versionId: string, after: string): Promise<Comparison> {
  return comparedTexts(db, (await readContent(db, versionId)).text, after);
}

/** Where all marks handed back stand in `text`, each followed from the text it was made on. */
export async function followedMarks(
  db: Db,
  cameBack: Pick<CameBack, "handBacks" | "texts">,
  text: string,
): Promise<Places> {
  const rounds = marksToFollow(cameBack).filter(({ marks }) => marks.length > 0);
  const places = await Promise.all(
    rounds.map(async ({ round, before, marks }) => {
      if (before === text)
        return [round, marks.map(({ start, end }) => ({ found: true, start, end }))] as const;
      const aligned = alignmentOf(await keptComparison(db, before, text), before, text);
      const found = reattachAligned(aligned, text, marks);
      return [round, found.map((one, n) => withLikely(one, aligned, marks[n]!))] as const;
    }),
  );
  return new Map<number, readonly Reattached[]>(places);
}

type Aligned = ReturnType<typeof alignmentOf>;

const withLikely = (found: Reattached, aligned: Aligned, mark: Range): Reattached =>
  found.found || mark.start === mark.end
    ? found
    : { found: false, likely: likelyPlace(aligned, mark) };

/** From the database, or worked out in a thread and kept there. Index: compared's primary key. */
async function keptComparison(db: Db, before: string, after: string): Promise<KeptComparison> {
  const key = createHash("sha256")
    // Words of scripts without spaces are cut by the dictionary that this Node carries.
    .update(`${COMPARED_AS} ${process.versions.icu} ${before.length}\n`)
    .update(before)
    .update(after)
    .digest();
  const [row] = await db<
    { toAfter: Buffer; comparison: Comparison }[]
  >`select to_after, comparison from compared where key = ${key}`;
  if (row) return { toAfter: unpack(row.toAfter), comparison: row.comparison };
  const made = await inThread("compareKept", [before, after], SECONDS).catch((error: unknown) => {
    log.warn({ fault: error instanceof Error ? error.message : "unknown" }, "compared coarsely");
    return compareCoarsely(before, after);
  });
  await db`
    insert into compared (key, to_after, comparison)
    values (${key}, ${pack(made.toAfter)}, ${db.json(made.comparison as never)})
    on conflict (key) do nothing`;
  return made;
}

const pack = (words: Int32Array): Buffer =>
  deflateRawSync(new Uint8Array(words.buffer, words.byteOffset, words.byteLength));

function unpack(bytes: Buffer): Int32Array {
  const plain = inflateRawSync(bytes);
  // A view of numbers must begin at a multiple of their size; a copy of its own does.
  return new Int32Array(new Uint8Array(plain).buffer);
}

/** Comparisons of a season ago; who opens such a piece has them worked out again. */
export async function dropOldComparisons(db: Db, now: Date): Promise<void> {
  await db`delete from compared where made_at < ${new Date(now.getTime() - 120 * DAY)}`;
}
